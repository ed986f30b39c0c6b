"""How small what there is can be, and when: beyond lies nothing that a camera sees or a calendar has."""

from __future__ import annotations

from datetime import datetime, timedelta

__all__ = ["EARLIEST_YEAR", "LATEST_YEAR", "LEAST", "MOST_FRAMES", "OUR_TIME", "in_our_time"]

MOST_FRAMES = 1_000_000  # of a shot: eleven hours at 24 frames/s

# The least of what is more than 0, by its unit: below it lies no thing that a camera sees, no light that it
# records, no time that it can be told; and what is divided by one stays a number.
LEAST = {
    "": 1e-4,
    "mm": 1e-3,
    "m": 1e-4,
    "px": 1e-3,
    "radii": 1e-3,
    "°": 1e-3,
    "×": 1e-4,
    "f/": 0.1,
    "stops": 1e-3,
    "dioptres": 1e-2,
    "frames/s": 1e-4,
    "Hz": 1e-3,
    "s": 1e-6,
    "min": 1e-3,
    "h": 1e-3,
    "lx": 1e-4,
    "cd": 1e-3,
    "hPa": 1.0,
    "MB/s": 1e-3,
    "Mbit/s": 1e-3,
}

EARLIEST_YEAR, LATEST_YEAR = 1900, 2100
FARTHEST_ZONE = timedelta(hours=14)
OUR_TIME = f"between {EARLIEST_YEAR} and {LATEST_YEAR}, at most 14 h from UTC"


def in_our_time(moment: datetime) -> bool:
    """Whether the sun, a calendar and a database can all be asked about a moment.

    Parameters
    ----------
    moment : datetime
        With its zone.

    Returns
    -------
    bool
        From 1900 to 2100, with an offset of up to 14 h from UTC.

    Examples
    --------
    >>> in_our_time(datetime(2027, 10, 23)), in_our_time(datetime(1, 1, 1))
    (True, False)
    """
    return (
        EARLIEST_YEAR <= moment.year <= LATEST_YEAR
        and abs(moment.utcoffset() or timedelta()) <= FARTHEST_ZONE
    )
