"""Exposure. Plain formulas: lux, seconds, ISO, stops; nothing checked. Source: exposure_meter."""

from __future__ import annotations

import math

import numpy as np

INCIDENT_CONSTANT = 250.0


def exposure_time_s(shutter_angle_deg: float, capture_fps: float) -> float:
    """Time for which each frame is exposed: ``t = angle / 360 / rate``.

    Parameters
    ----------
    shutter_angle_deg : float
        Shutter angle, degrees.
    capture_fps : float
        Capture rate, frames/s.

    Returns
    -------
    float
        Seconds.

    References
    ----------
    shutter

    Examples
    --------
    >>> exposure_time_s(180, 24) == 1 / 48
    True
    """
    return shutter_angle_deg / 360.0 / capture_fps


def illuminance_lx(
    f_number: float, iso: float, exposure_s: float, nd_stops: float = 0.0, closeup_factor: float = 1.0
) -> float:
    """Light on the subject for a normal exposure: ``E = C·N²/(S·t) · 2^nd · closeup``, C = 250.

    Parameters
    ----------
    f_number : float
        Stop of the lens.
    iso : float
        Exposure index.
    exposure_s : float
        Exposure time, s.
    nd_stops : float, default 0
        Neutral density, stops.
    closeup_factor : float, default 1
        How many times more light close focus needs.

    Returns
    -------
    float
        Illuminance, lux.

    References
    ----------
    exposure_meter

    Examples
    --------
    >>> round(illuminance_lx(8, 800, 1 / 48))
    960
    """
    light: float = INCIDENT_CONSTANT * f_number**2 / (iso * exposure_s) * 2.0**nd_stops * closeup_factor
    return light


def exposure_stops(
    illuminance: float,
    f_number: float,
    iso: float,
    exposure_s: float,
    nd_stops: float = 0.0,
    closeup_factor: float = 1.0,
) -> float:
    """How far over or under a normal exposure the light is.

    Parameters
    ----------
    illuminance : float
        Light on the subject, lux.
    f_number : float
        Stop of the lens.
    iso : float
        Exposure index.
    exposure_s : float
        Exposure time, s.
    nd_stops : float, default 0
        Neutral density, stops.
    closeup_factor : float, default 1
        How many times more light close focus needs.

    Returns
    -------
    float
        Stops; over is positive.

    References
    ----------
    exposure_meter

    Examples
    --------
    >>> round(exposure_stops(1920, 8, 800, 1 / 48), 6)
    1.0
    """
    over = illuminance / illuminance_lx(f_number, iso, exposure_s, nd_stops, closeup_factor)
    return math.log2(over) if isinstance(over, float) else np.log2(over)


def lamp_lx(intensity_cd: float, distance_m: float, angle_deg: float = 0.0) -> float:
    """Light from a small lamp: ``I·cosθ/d²``.

    Parameters
    ----------
    intensity_cd : float
        Intensity I towards the subject, candela.
    distance_m : float
        Distance d, metres.
    angle_deg : float, default 0
        Angle θ between the ray and the normal of the surface, degrees.

    Returns
    -------
    float
        Illuminance, lux.

    References
    ----------
    inverse_square

    Examples
    --------
    >>> lamp_lx(18000, 3)
    2000.0
    """
    return intensity_cd * math.cos(math.radians(angle_deg)) / distance_m**2
