"""When the sun is the key, or gives the light that is wanted: its course over a day, minute by minute."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, datetime, timedelta
from functools import lru_cache
from zoneinfo import ZoneInfo

import numpy as np
import numpy.typing as npt

from ..light.sun import sun_deg
from .clock import LATEST_MIN, MINUTES_A_DAY, Spans
from .records import HorizonPoint, Light, SunKey

Array = npt.NDArray[np.float64]

# Heights of the sun's middle over a level horizon, degrees: civil twilight and golden hour as crews say them.
_HEIGHTS: dict[Light, tuple[float, float]] = {
    "day": (-0.833, 90.0),
    "dark": (-90.0, -6.0),
    "golden": (-4.0, 6.0),
    "twilight": (-6.0, 0.0),
}


@dataclass(frozen=True, slots=True)
class SunWindow:
    """A span of a day during which the sun stands as the key wants it: all of it tight at least, or all of it
    holding.
    """

    start_min: int
    end_min: int
    holds: bool


@lru_cache(maxsize=1024)
def _course(latitude_deg: float, longitude_deg: float, day: date, zone: str) -> Array:
    here = ZoneInfo(zone)
    midnight = datetime(day.year, day.month, day.day)
    course = np.array(
        [
            sun_deg(latitude_deg, longitude_deg, (midnight + timedelta(minutes=m)).replace(tzinfo=here))
            for m in range(LATEST_MIN + 1)
        ]
    )
    course.flags.writeable = False
    return course


def sun_course(latitude_deg: float, longitude_deg: float, day: date, zone: str) -> Array:
    """Where the sun stands over a shooting day.

    Parameters
    ----------
    latitude_deg, longitude_deg : float
        Place, degrees; north and east are positive.
    day : date
        The shooting day, by the clock of the zone.
    zone : str
        Name of a time zone; its change of clocks is followed.

    Returns
    -------
    ndarray, shape (2161, 2)
        Azimuth from north clockwise and height as seen through the air, degrees, at each minute from 00:00
        to 36:00.

    References
    ----------
    spa

    Examples
    --------
    >>> noon = sun_course(54.3, -3.2, date(2027, 10, 23), "Europe/London")[13 * 60]
    >>> [round(float(angle), 1) for angle in noon]
    [180.8, 24.3]
    """
    return _course(latitude_deg, longitude_deg, day, zone)


def horizon_deg(horizon: Sequence[HorizonPoint], azimuth_deg: Array) -> Array:
    """How high the horizon stands in some directions, straight from point to point.

    Parameters
    ----------
    horizon : sequence of HorizonPoint
        What somebody typed or traced; none is a level horizon.
    azimuth_deg : ndarray, shape (n,)
        Directions from north, clockwise, degrees.

    Returns
    -------
    ndarray, shape (n,)
        Degrees.

    Examples
    --------
    >>> hill = [HorizonPoint(azimuth_deg=180, height_deg=0), HorizonPoint(azimuth_deg=200, height_deg=10)]
    >>> horizon_deg(hill, np.array([190.0])).tolist()
    [5.0]
    """
    if not horizon:
        return np.zeros_like(azimuth_deg)
    known = sorted((point.azimuth_deg % 360.0, point.height_deg) for point in horizon)
    heights: Array = np.interp(azimuth_deg, [a for a, _ in known], [h for _, h in known], period=360.0)
    return heights


def heading_for(key: SunKey, azimuth_deg: Array) -> Array:
    """Where the camera looks, of all headings that it may have, with the sun nearest to its key.

    Parameters
    ----------
    key : SunKey
        The key and the headings.
    azimuth_deg : ndarray, shape (n,)
        Where the sun stands, from north clockwise, degrees.

    Returns
    -------
    ndarray, shape (n,)
        Headings, degrees from north.

    Examples
    --------
    >>> key = SunKey(azimuth_deg=-40, elevation_deg=20, heading_deg=0, heading_to_deg=90)
    >>> heading_for(key, np.array([260.0, 350.0])).tolist()
    [40.0, 90.0]
    """
    if key.heading_to_deg is None:
        return np.full_like(azimuth_deg, key.heading_deg)
    wide = (key.heading_to_deg - key.heading_deg) % 360.0
    into = (azimuth_deg - 180.0 + key.azimuth_deg - key.heading_deg) % 360.0
    past = into - wide
    turned = np.where(past <= 0, into, np.where(past < 360.0 - into, wide, 0.0))
    headings: Array = (key.heading_deg + turned) % 360.0
    return headings


def key_direction_deg(key: SunKey, heading_deg: Array) -> Array:
    """From where the key comes, by the compass, for a camera that looks somewhere.

    Parameters
    ----------
    key : SunKey
        Its side angle counts.
    heading_deg : ndarray, shape (n,)
        Where the camera looks, degrees from north, clockwise.

    Returns
    -------
    ndarray, shape (n,)
        Degrees from north, clockwise.

    Examples
    --------
    >>> key_direction_deg(SunKey(azimuth_deg=-40, elevation_deg=20, heading_deg=0), np.array([0.0])).tolist()
    [220.0]
    """
    compass: Array = (heading_deg + 180.0 - key.azimuth_deg) % 360.0
    return compass


def off_key_deg(key: SunKey, course: Array) -> Array:
    """How far the sun stands from the key: the angle between the two directions.

    Parameters
    ----------
    key : SunKey
        The key and the headings that the camera may have.
    course : ndarray, shape (n, 2)
        Azimuth and height of the sun, degrees.

    Returns
    -------
    ndarray, shape (n,)
        Degrees, by the heading that suits best.

    References
    ----------
    tol_direction

    Examples
    --------
    >>> key = SunKey(azimuth_deg=0, elevation_deg=30, heading_deg=0)
    >>> off_key_deg(key, np.array([[180.0, 20.0]])).round(6).tolist()
    [10.0]
    """
    compass = np.radians(key_direction_deg(key, heading_for(key, course[:, 0])))
    height = np.radians(key.elevation_deg)
    azimuth, elevation = np.radians(course[:, 0]), np.radians(course[:, 1])
    cosine = np.sin(elevation) * np.sin(height) + np.cos(elevation) * np.cos(height) * np.cos(
        azimuth - compass
    )
    off: Array = np.degrees(np.arccos(np.clip(cosine, -1.0, 1.0)))
    return off


def spans_where(there: npt.NDArray[np.bool_]) -> Spans:
    """From which minute to which something is so without a break; a single minute is none."""
    edges = np.flatnonzero(np.diff(np.concatenate(([False], there, [False])).astype(np.int8)))
    return tuple(
        (int(start), int(stop) - 1)
        for start, stop in zip(edges[::2], edges[1::2], strict=True)
        if stop - start > 1
    )


def sun_windows(
    key: SunKey,
    latitude_deg: float,
    longitude_deg: float,
    day: date,
    zone: str,
    horizon: Sequence[HorizonPoint] = (),
) -> tuple[SunWindow, ...]:
    """When the sun stands over the horizon and as near to the key as is wanted.

    Parameters
    ----------
    key : SunKey
        The key, its tolerance and the headings that the camera may have.
    latitude_deg, longitude_deg : float
        Place, degrees; north and east are positive.
    day : date
        The shooting day.
    zone : str
        Name of a time zone.
    horizon : sequence of HorizonPoint
        What hides the sun.

    Returns
    -------
    tuple of SunWindow
        In order; those that hold lie within those that are tight.

    References
    ----------
    spa, tol_direction

    Examples
    --------
    >>> key = SunKey(azimuth_deg=-110, elevation_deg=18, heading_deg=300)
    >>> for window in sun_windows(key, 54.3, -3.2, date(2027, 10, 16), "Europe/London"):
    ...     print(window.start_min // 60, window.end_min // 60, window.holds)
    14 17 False
    15 16 True
    """
    course = sun_course(latitude_deg, longitude_deg, day, zone)
    seen = course[:, 1] > np.maximum(horizon_deg(horizon, course[:, 0]), 0.0)
    off = off_key_deg(key, course)
    told = [
        SunWindow(start, end, holds)
        for holds, limit in ((False, key.tight_deg), (True, key.holds_deg))
        for start, end in spans_where(seen & (off <= limit))
    ]
    return tuple(sorted(told, key=lambda window: (window.start_min, window.holds)))


def light_spans(hour: Light, latitude_deg: float, longitude_deg: float, day: date, zone: str) -> Spans:
    """When there is daylight, darkness, golden hour or twilight.

    Parameters
    ----------
    hour : str
        One of ``LIGHTS``.
    latitude_deg, longitude_deg : float
        Place, degrees; north and east are positive.
    day : date
        The shooting day.
    zone : str
        Name of a time zone.

    Returns
    -------
    tuple of tuple of int
        Spans, minutes after midnight of the shooting day.

    References
    ----------
    spa, sun_heights

    Examples
    --------
    >>> for start, end in light_spans("golden", 54.3, -3.2, date(2027, 10, 23), "Europe/London"):
    ...     print(start // 60, end // 60)
    7 8
    17 18
    31 32
    """
    if hour == "any":
        return ((0, LATEST_MIN),)
    low, high = _HEIGHTS[hour]
    height = sun_course(latitude_deg, longitude_deg, day, zone)[:, 1]
    return spans_where((height >= low) & (height <= high))


def light_of_day(latitude_deg: float, longitude_deg: float, day: date, zone: str) -> dict[Light, Spans]:
    """The light of a day for whoever plans it: daylight, golden hours, twilights, without the next morning's.

    Parameters
    ----------
    latitude_deg, longitude_deg : float
        Place, degrees; north and east are positive.
    day : date
        The shooting day.
    zone : str
        Name of a time zone.

    Returns
    -------
    dict
        Spans, minutes after midnight, by kind of light.

    References
    ----------
    spa, sun_heights

    Examples
    --------
    >>> light = light_of_day(54.3, -3.2, date(2027, 10, 23), "Europe/London")
    >>> {kind: len(spans) for kind, spans in light.items()}
    {'day': 1, 'golden': 2, 'twilight': 2}
    """
    kinds: tuple[Light, ...] = ("day", "golden", "twilight")
    return {
        kind: tuple(
            span
            for span in light_spans(kind, latitude_deg, longitude_deg, day, zone)
            if span[0] < MINUTES_A_DAY
        )
        for kind in kinds
    }
