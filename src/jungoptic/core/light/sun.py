"""Where the sun stands.

The position is the astral library's; refraction by NREL/TP-560-34302, equation 42. Source: spa.
"""

from __future__ import annotations

import math
from datetime import datetime

from astral import Observer
from astral.sun import zenith_and_azimuth


def refraction_deg(
    true_elevation_deg: float, pressure_hpa: float = 1010.0, temperature_c: float = 10.0
) -> float:
    """How much the air lifts the sun, degrees: ``(P/1010)·(283/(273+T))·1.02/(60·tan(e + 10.3/(e + 5.11)))``;
    none below −0.833°.
    """
    if true_elevation_deg < -(0.26667 + 0.5667):
        return 0.0
    bent = 1.02 / (60.0 * math.tan(math.radians(true_elevation_deg + 10.3 / (true_elevation_deg + 5.11))))
    return pressure_hpa / 1010.0 * 283.0 / (273.0 + temperature_c) * bent


def sun_deg(
    latitude_deg: float,
    longitude_deg: float,
    at: datetime,
    pressure_hpa: float = 1010.0,
    temperature_c: float = 10.0,
) -> tuple[float, float]:
    """Azimuth (from north, clockwise) and apparent elevation, degrees, at a time with its zone."""
    zenith, azimuth = zenith_and_azimuth(
        Observer(latitude_deg, longitude_deg, 0.0), at, with_refraction=False
    )
    true = 90.0 - zenith
    return azimuth, true + refraction_deg(true, pressure_hpa, temperature_c)
