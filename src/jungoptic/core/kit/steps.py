"""The trade's own steps: stops by thirds with their engraved names, ISO, shutter angles, frame rates.

[practice] Engraved stop names round the exact values 2^(k/6); calculation uses the exact ones (f/22 is
22.63).
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from fractions import Fraction
from functools import lru_cache
from itertools import combinations

_STOP_NAMES = (
    "1 1.1 1.2 1.4 1.6 1.8 2 2.2 2.5 2.8 3.2 3.5 4 4.5 5 5.6 6.3 7.1 8 9 10 11 13 14 16 18 20 22 25 29 32 36"
    " 40 45 51 57 64 72 80 90"
).split()
STOPS: tuple[tuple[str, float], ...] = tuple((name, 2.0 ** (k / 6.0)) for k, name in enumerate(_STOP_NAMES))
_ISO_NAMES = "50 64 80 100 125 160 200 250 320 400 500 640 800 1000 1250 1600 2000 2500 3200 4000 5000 6400"
ISO_STEPS = tuple(int(name) for name in _ISO_NAMES.split())
SHUTTER_ANGLES_DEG = (22.5, 45.0, 90.0, 144.0, 172.8, 180.0, 270.0, 360.0)
ND_STOPS = (0.0, 1.0, 2.0, 3.0, 4.0, 5.0, 6.0)  # grey filters as they are sold, common practice
FRAME_RATES_FPS = (24, 25, 30, 48, 50, 60, 72, 75, 90, 96, 100, 120)
THOUSANDTH = Fraction(1000, 1001)  # Source: frame_rates
THOUSANDTH_RATES_FPS = tuple(float(rate * THOUSANDTH) for rate in (24, 30, 48, 60, 72, 90, 96, 120))
_MOST_TYPED_OFF = 0.005  # "23.98" and "29.97" mean 24000/1001 and 30000/1001


def stacked_stops(filters: Sequence[float]) -> tuple[float, ...]:
    """What grey filters take, one of them or two together.

    Parameters
    ----------
    filters : sequence of float
        Stops of each that one has; two alike stand there twice.

    Returns
    -------
    tuple of float
        Stops, none of them first; more than two before a lens are seen in its corners.

    References
    ----------
    grey_filters

    Examples
    --------
    >>> stacked_stops([1, 3])
    (0.0, 1.0, 3.0, 4.0)
    """
    pairs = (sum(pair) for pair in combinations(filters, 2))
    return tuple(sorted({0.0, *map(float, filters), *map(float, pairs)}))


@lru_cache(maxsize=1024)
def stop_name(f_number: float) -> str:
    """The engraved name of a stop, or the number itself when it is none of the engraved ones.

    Parameters
    ----------
    f_number : float
        Exact f-number.

    Returns
    -------
    str
        As it stands on the ring, without "f/".

    Examples
    --------
    >>> stop_name(22.627), stop_name(22.627 * 1.1)
    ('22', '24.9')
    """
    for name, exact in STOPS:
        if math.isclose(exact, f_number, rel_tol=0.004):
            return name
    return f"{f_number:.1f}".rstrip("0").rstrip(".")


@lru_cache(maxsize=1024)
def exact_stop(engraved: float) -> float:
    """The exact f-number of a stop given by its engraved name; other numbers stay as they are.

    Parameters
    ----------
    engraved : float
        What stands on the ring.

    Returns
    -------
    float
        f-number, a sixth power of two where the name is engraved.

    References
    ----------
    engraved_stops

    Examples
    --------
    >>> round(exact_stop(22), 3)
    22.627
    """
    for name, exact in STOPS:
        if math.isclose(float(name), engraved, rel_tol=1e-6):
            return exact
    return engraved


@lru_cache(maxsize=1024)
def nearest_stop(
    wanted: float, widest: float = STOPS[0][1], smallest: float = STOPS[-1][1]
) -> tuple[str, float]:
    """The engraved stop that is nearest in light.

    Parameters
    ----------
    wanted : float
        f-number.
    widest, smallest : float
        Ends of the lens, exact or engraved.

    Returns
    -------
    name : str
        As it is engraved.
    f_number : float
        Its exact value.

    References
    ----------
    engraved_stops

    Examples
    --------
    >>> nearest_stop(96, widest=2, smallest=22)
    ('22', 22.627416997969522)
    """
    return min(stops_between(widest, smallest), key=lambda step: abs(math.log2(step[1] / wanted)))


def stops_between(widest: float, smallest: float) -> list[tuple[str, float]]:
    """Engraved stops from ``widest`` to ``smallest``, both exact or engraved, ends included."""
    low, high = exact_stop(widest) * 0.998, exact_stop(smallest) * 1.002
    return [(name, exact) for name, exact in STOPS if low <= exact <= high]


@lru_cache(maxsize=1024)
def exact_rate_fps(rate: float) -> float:
    """The exact rate that is meant by a rounded one: 23.976 and 23.98 are 24000/1001.

    Parameters
    ----------
    rate : float
        Frames/s, as it is written on a menu.

    Returns
    -------
    float
        Frames/s: the double nearest to n·1000/1001 where that is a rate of video, else as it was given.

    References
    ----------
    frame_rates

    Examples
    --------
    >>> exact_rate_fps(23.98) == 24000 / 1001, exact_rate_fps(25)
    (True, 25.0)
    """
    return next(
        (exact for exact in THOUSANDTH_RATES_FPS if abs(exact - rate) <= _MOST_TYPED_OFF), float(rate)
    )


@lru_cache(maxsize=1024)
def rate_fraction(rate_fps: float) -> Fraction:
    """A rate as the fraction that it is.

    Parameters
    ----------
    rate_fps : float
        Frames/s.

    Returns
    -------
    Fraction
        24000/1001 for 23.976; at most a thousand and one parts.

    References
    ----------
    frame_rates

    Examples
    --------
    >>> rate_fraction(23.976), rate_fraction(25)
    (Fraction(24000, 1001), Fraction(25, 1))
    """
    return Fraction(exact_rate_fps(rate_fps)).limit_denominator(1001)


def rate_name(rate_fps: float) -> str:
    """A rate as a crew writes it: 23.976, 29.97, 25.

    Parameters
    ----------
    rate_fps : float
        Frames/s.

    Returns
    -------
    str
        To three places, without what is nought at the end.

    Examples
    --------
    >>> rate_name(24000 / 1001), rate_name(60000 / 1001), rate_name(24)
    ('23.976', '59.94', '24')
    """
    return f"{rate_fps:.3f}".rstrip("0").rstrip(".")


def rates_with(rate_fps: float) -> tuple[float, ...]:
    """The rates that a camera offers once it is set for a delivery at this one.

    A camera set for 23.976 has its whole menu in n·1000/1001: its sound and its mains go with it.

    Parameters
    ----------
    rate_fps : float
        Of the delivery, frames/s.

    Returns
    -------
    tuple of float
        Frames/s, slowest first.

    References
    ----------
    frame_rates

    Examples
    --------
    >>> rates_with(25)[:2], round(rates_with(23.976)[0], 4)
    ((24.0, 25.0), 23.976)
    """
    if rate_fraction(rate_fps).denominator == THOUSANDTH.denominator:
        return THOUSANDTH_RATES_FPS
    return tuple(float(rate) for rate in FRAME_RATES_FPS)
