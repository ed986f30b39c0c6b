"""What brings a layer to what it was held against: transform, grade, blur, grain, spill, to be dialled in."""

from __future__ import annotations

import math
from collections.abc import Iterable, Mapping
from dataclasses import dataclass

from ..wording import number
from .pointing import RowTold


@dataclass(frozen=True, slots=True)
class LaidBack:
    """How a picture is laid onto another: shifted right and down, delivered px, after it was turned
    clockwise, degrees, and made larger, both about the middle of the frame.
    """

    right_px: float
    down_px: float
    turn_deg: float
    size: float


@dataclass(frozen=True, slots=True)
class MendValues:
    """What brings a layer to what it was held against; None where nothing of it was measured.

    ``slopes`` are gains of red, green and blue in linear light; ``soften_px`` is the diameter of a blur disc,
    delivered px, below 0 where the layer is the softer one; ``grain`` the grain to lay over, in grains of the
    hero, below 0 where so much of its own must go; ``spill`` the share of the key's light to take out of the
    rim.
    """

    laid: LaidBack | None = None
    slopes: tuple[float, float, float] | None = None
    soften_px: float | None = None
    grain: float | None = None
    spill: float | None = None

    @property
    def any(self) -> bool:
        """Whether anything was measured that a composite dials in."""
        return any(
            each is not None for each in (self.laid, self.slopes, self.soften_px, self.grain, self.spill)
        )

    @property
    def lines(self) -> tuple[str, ...]:
        """The same in words, a line for each."""
        told = []
        if self.laid is not None:
            laid = self.laid
            told.append(
                f"Shift {_signed(laid.right_px)} px right, {_signed(laid.down_px)} px down; turn"
                f" {_signed(laid.turn_deg)}°; size {100.0 * laid.size:.3f} %"
            )
        if self.slopes is not None:
            told.append(
                "Gain " + ", ".join(f"{each:.4f}" for each in self.slopes) + " (red, green, blue; linear)"
            )
        if self.soften_px is not None:
            told.append(
                f"Soften by a disc of {number(self.soften_px, 2)} px"
                if self.soften_px > 0
                else f"Soften what joins it by {number(-self.soften_px, 2)} px"
            )
        if self.grain is not None:
            told.append(
                f"Lay {number(self.grain, 2)} of the hero's grain over"
                if self.grain > 0
                else f"Take its grain down by {number(-self.grain, 2)} of the hero's"
            )
        if self.spill is not None:
            told.append(f"Take {number(100.0 * self.spill, 2)} % of the key's light out of the rim")
        return tuple(told)


def _signed(value: float) -> str:
    text = f"{value:+.3f}".replace("-", "−")
    return "0" if float(f"{value:.3f}") == 0 else text


def mend_values(rows: Iterable[RowTold]) -> MendValues:
    """What brings a layer to what it was held against, by what was measured of it.

    Parameters
    ----------
    rows : iterable of RowTold
        The last of each row.

    Returns
    -------
    MendValues
        Of the camera by ``still``; of light and white by ``change``, else by ``grey``; blur by ``edge``,
        grain by ``grain``, spill by ``key``.

    References
    ----------
    asc_cdl, photon_noise

    Examples
    --------
    >>> from ..measure import Amount
    >>> moved = [("moved", 2.0), ("right", 2.0), ("down", 0.0), ("turn", 0.0), ("size", 0.0)]
    >>> row = RowTold("still", tuple(Amount(name, name, value, 0.1, "px") for name, value in moved))
    >>> mend_values([row]).lines
    ('Shift −2.000 px right, 0 px down; turn 0°; size 100.000 %',)
    """
    told = {row.what: row for row in rows}
    return MendValues(_laid(told), _slopes(told), _soften(told), _grain(told), _spill(told))


def _value(told: Mapping[str, RowTold], what: str, name: str) -> float | None:
    row = told.get(what)
    amount = row.amount(name) if row else None
    return None if amount is None else amount.value


def _laid(told: Mapping[str, RowTold]) -> LaidBack | None:
    right, down, turn, size = (_value(told, "still", name) for name in ("right", "down", "turn", "size"))
    if right is None or down is None or turn is None or size is None:
        return None
    # what moved p = s·R·q + t goes back by q = R⁻¹(p − t)/s: the shift is turned and made smaller with it
    larger, back = 1.0 + size / 100.0, math.radians(-turn)
    x = (right * math.cos(back) - down * math.sin(back)) / larger
    y = (right * math.sin(back) + down * math.cos(back)) / larger
    return LaidBack(-x, -y, -turn, 1.0 / larger)


def _slopes(told: Mapping[str, RowTold]) -> tuple[float, float, float] | None:
    green = _value(told, "change", "green")
    if green is not None:
        red, blue = _value(told, "change", "red") or 0.0, _value(told, "change", "blue") or 0.0
        return 2.0 ** -(green + red), 2.0**-green, 2.0 ** -(green + blue)
    over = _value(told, "grey", "over_hero")
    if over is None:
        return None
    red, blue = _value(told, "grey", "red_apart") or 0.0, _value(told, "grey", "blue_apart") or 0.0
    return 2.0 ** -(over + red), 2.0**-over, 2.0 ** -(over + blue)


def _soften(told: Mapping[str, RowTold]) -> float | None:
    blur = _value(told, "edge", "blur")
    return None if blur is None else -blur


def _grain(told: Mapping[str, RowTold]) -> float | None:
    """Variances add: what lacks of the hero's is laid over."""
    ratio = _value(told, "grain", "ratio")
    if ratio is None:
        return None
    lacks = 1.0 - ratio**2
    return math.copysign(math.sqrt(abs(lacks)), lacks)


def _spill(told: Mapping[str, RowTold]) -> float | None:
    return _value(told, "key", "spill")
