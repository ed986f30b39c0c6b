"""Gates by their generic names, and the part of one that a recording uses."""

from __future__ import annotations

from collections.abc import Mapping
from typing import NamedTuple


class Gate(NamedTuple):
    """A sensor's or a film's picture; mm."""

    name: str
    width_mm: float
    height_mm: float


GATES: Mapping[str, Gate] = {  # Source: gates
    "full": Gate("36 × 24", 36.0, 24.0),
    "cine": Gate("24.9 × 18.7 cine, four perforations", 24.9, 18.7),
    "aps": Gate("23.5 × 15.6", 23.5, 15.6),
    "four_thirds": Gate("17.3 × 13.0", 17.3, 13.0),
    "inch": Gate("13.2 × 8.8 one-inch", 13.2, 8.8),
    "telephone": Gate("9.8 × 7.3 telephone, main", 9.8, 7.3),
}


def recorded_gate_mm(
    width_mm: float, height_mm: float, aspect: float, crop: float = 1.0
) -> tuple[float, float]:
    """The part of a gate that a recording uses: its whole width ÷ crop, as high as the picture.

    An upright picture is that of a camera that is turned: the gate stands then.

    Parameters
    ----------
    width_mm, height_mm : float
        Of the whole gate, mm.
    aspect : float
        Width of the recording divided by its height; one that is narrower than the gate, as it stands or
        lies, uses all of its height.
    crop : float, default 1
        Width of a photograph divided by that of the video, through the same lens.

    Returns
    -------
    used_width_mm : float
        Width of the gate that is recorded, mm.
    used_height_mm : float
        Its height, mm.

    References
    ----------
    gates

    Examples
    --------
    >>> recorded_gate_mm(36, 24, 16 / 9, 1.5)
    (24.0, 13.5)
    >>> recorded_gate_mm(36, 24, 9 / 16)
    (20.25, 36.0)
    """
    if aspect < 1.0 < width_mm / height_mm:
        width_mm, height_mm = height_mm, width_mm
    used = min(width_mm, height_mm * aspect) / crop
    return used, used / aspect
