"""Where the sun stands.

The position is the astral library's; refraction by NREL/TP-560-34302, equation 42. Source: spa.
"""

from __future__ import annotations

import math
from datetime import date, datetime, tzinfo

from astral import Observer
from astral.sun import sunrise, sunset, zenith_and_azimuth


def refraction_deg(
    true_elevation_deg: float, pressure_hpa: float = 1010.0, temperature_c: float = 10.0
) -> float:
    """How much the air lifts the sun: ``(P/1010)·(283/(273+T))·1.02/(60·tan(e + 10.3/(e + 5.11)))``.

    Parameters
    ----------
    true_elevation_deg : float
        Elevation e without air, degrees.
    pressure_hpa : float, default 1010
        Pressure P of the air, hPa.
    temperature_c : float, default 10
        Temperature T of the air, °C.

    Returns
    -------
    float
        Degrees; none below −0.833°, where the whole sun is down.

    References
    ----------
    spa

    Examples
    --------
    >>> round(refraction_deg(10.0), 3)
    0.09
    """
    if true_elevation_deg < -(0.26667 + 0.5667):
        return 0.0
    bent = 1.02 / (60.0 * math.tan(math.radians(true_elevation_deg + 10.3 / (true_elevation_deg + 5.11))))
    return pressure_hpa / 1010.0 * 283.0 / (273.0 + temperature_c) * bent


def sun_deg(
    latitude_deg: float,
    longitude_deg: float,
    moment: datetime,
    pressure_hpa: float = 1010.0,
    temperature_c: float = 10.0,
) -> tuple[float, float]:
    """Where the sun stands.

    Parameters
    ----------
    latitude_deg, longitude_deg : float
        Place, degrees; north and east are positive.
    moment : datetime
        Time with its zone.
    pressure_hpa : float, default 1010
        Pressure of the air, hPa.
    temperature_c : float, default 10
        Temperature of the air, °C.

    Returns
    -------
    azimuth_deg : float
        From north clockwise, degrees.
    elevation_deg : float
        As seen through the air, degrees.

    References
    ----------
    spa

    Examples
    --------
    >>> from datetime import timezone
    >>> noon = datetime(2027, 6, 21, 12, tzinfo=timezone.utc)
    >>> [round(angle, 1) for angle in sun_deg(51.5, 0.0, noon)]
    [179.1, 61.9]
    """
    zenith, azimuth = zenith_and_azimuth(
        Observer(latitude_deg, longitude_deg, 0.0), moment, with_refraction=False
    )
    true = 90.0 - zenith
    return azimuth, true + refraction_deg(true, pressure_hpa, temperature_c)


def sun_up(
    latitude_deg: float, longitude_deg: float, day: date, zone: tzinfo
) -> tuple[datetime | None, datetime | None]:
    """When the sun rises and sets.

    Parameters
    ----------
    latitude_deg, longitude_deg : float
        Place, degrees; north and east are positive.
    day : date
        By the calendar of the zone.
    zone : tzinfo
        In which the times are said.

    Returns
    -------
    rise : datetime or None
        The upper edge of the sun at a level horizon, 0.833° under it geometrically; None where it does not
        rise that day.
    sets : datetime or None
        The same in the evening.

    References
    ----------
    spa

    Examples
    --------
    >>> from datetime import timezone
    >>> [f"{moment:%H:%M}" for moment in sun_up(51.5, 0.0, date(2027, 6, 21), timezone.utc)]
    ['03:42', '20:20']
    """
    observer = Observer(latitude_deg, longitude_deg, 0.0)
    times: list[datetime | None] = []
    for reckoned in (sunrise, sunset):
        try:
            times.append(reckoned(observer, day, zone))
        except ValueError:
            times.append(None)
    return times[0], times[1]
