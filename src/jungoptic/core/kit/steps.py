"""The trade's own steps: stops by thirds with their engraved names, ISO, shutter angles, frame rates.

[practice] Engraved stop names round the exact values 2^(k/6); calculation uses the exact ones (f/22 is
22.63).
"""

from __future__ import annotations

import math
from functools import lru_cache

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
