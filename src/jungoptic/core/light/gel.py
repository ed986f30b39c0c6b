"""A gel before a lamp that stands: another colour, and less light."""

from __future__ import annotations

from .colour import shifted_k
from .placed import PlacedLamp

FULL_BLUE, FULL_ORANGE = -137.0, 159.0
"""Shift of a full sheet, mired. Source: gels."""
_BLUE_STOPS, _ORANGE_STOPS = 1.6, 0.9
GELS: tuple[tuple[str, float], ...] = (
    ("full blue", FULL_BLUE),
    ("half blue", FULL_BLUE / 2),
    ("quarter blue", FULL_BLUE / 4),
    ("none", 0.0),
    ("quarter orange", FULL_ORANGE / 4),
    ("half orange", FULL_ORANGE / 2),
    ("full orange", FULL_ORANGE),
)
"""Sheets by their names, with their shift in mired."""


def gel_stops(shift_mired: float) -> float:
    """Light that a gel takes: by its shift, as a part of a full sheet.

    Parameters
    ----------
    shift_mired : float
        Orange is positive, blue negative.

    Returns
    -------
    float
        Stops.

    References
    ----------
    gels

    Examples
    --------
    >>> gel_stops(-137), gel_stops(0), round(gel_stops(80), 2)
    (1.6, 0.0, 0.45)
    """
    if shift_mired < 0:
        return _BLUE_STOPS * shift_mired / FULL_BLUE
    return _ORANGE_STOPS * shift_mired / FULL_ORANGE


def with_gel(lamp: PlacedLamp, shift_mired: float) -> PlacedLamp:
    """A lamp with a gel on it.

    Parameters
    ----------
    lamp : PlacedLamp
        As it burns without.
    shift_mired : float
        Orange is positive, blue negative.

    Returns
    -------
    PlacedLamp
        Of another colour, and dimmed by what the gel takes.

    References
    ----------
    mired, gels

    Examples
    --------
    >>> warm = with_gel(PlacedLamp(name="panel", intensity_cd=4000, colour_k=5600), 159)
    >>> round(warm.colour_k), round(warm.level, 2)
    (2962, 0.54)
    """
    if not shift_mired:
        return lamp
    return lamp.but(
        colour_k=shifted_k(lamp.colour_k, shift_mired), level=lamp.level * 2.0 ** -gel_stops(shift_mired)
    )
