"""What the simulated camera does to a picture, each to be switched off by itself."""

from __future__ import annotations

from dataclasses import dataclass, fields, replace


@dataclass(frozen=True, slots=True)
class Effects:
    """Everything that a lens, a shutter, a sensor and a recording do. ``seed`` makes the grain."""

    shading: bool = True
    lamps: bool = True
    shadows: bool = True
    gate: bool = True
    focus: bool = True
    smear: bool = True
    skew: bool = True
    diffraction: bool = True
    distortion: bool = True
    vignetting: bool = True
    exposure: bool = True
    cast: bool = True
    flicker: bool = True
    grain: bool = True
    clipping: bool = True
    enlargement: bool = True
    chroma: bool = True
    codes: bool = True
    flop: bool = True
    seed: int = 12

    @classmethod
    def only(cls, *names: str, seed: int = 12) -> Effects:
        """Those that are named, and no other.

        Parameters
        ----------
        *names : str
            Fields of this class.
        seed : int, default 12
            Of the grain.

        Returns
        -------
        Effects
            All others are off.

        Examples
        --------
        >>> Effects.only("focus").focus, Effects.only("focus").grain
        (True, False)
        """
        off = {each.name: False for each in fields(cls) if each.name != "seed"}
        return replace(cls(**off, seed=seed), **dict.fromkeys(names, True))


ALL = Effects()
