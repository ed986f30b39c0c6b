"""Exposure. Plain formulas: lux, seconds, ISO, stops; nothing checked. Source: exposure_meter."""

from __future__ import annotations

import math

INCIDENT_CONSTANT = 250.0


def exposure_time_s(shutter_angle_deg: float, capture_fps: float) -> float:
    """``t = angle / 360 / rate``. Source: shutter."""
    return shutter_angle_deg / 360.0 / capture_fps


def illuminance_lx(
    f_number: float, iso: float, exposure_s: float, nd_stops: float = 0.0, closeup_factor: float = 1.0
) -> float:
    """Light on the subject for a normal exposure, lux: ``E = C·N²/(S·t) · 2^nd · closeup``, C = 250."""
    return float(INCIDENT_CONSTANT * f_number**2 / (iso * exposure_s) * 2.0**nd_stops * closeup_factor)


def exposure_stops(
    illuminance: float,
    f_number: float,
    iso: float,
    exposure_s: float,
    nd_stops: float = 0.0,
    closeup_factor: float = 1.0,
) -> float:
    """How far over (+) or under (−) a normal exposure this is, stops."""
    return math.log2(illuminance / illuminance_lx(f_number, iso, exposure_s, nd_stops, closeup_factor))


def lamp_lx(intensity_cd: float, distance_m: float, angle_deg: float = 0.0) -> float:
    """Light from a small lamp, lux: ``I·cosθ/d²``. Source: inverse_square."""
    return intensity_cd * math.cos(math.radians(angle_deg)) / distance_m**2
