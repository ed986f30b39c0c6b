"""Colour and direction of light. Plain formulas, nothing checked."""

from __future__ import annotations

import math


def mired(colour_k: float) -> float:
    """Reciprocal megakelvin, ``10⁶/T``. Source: mired."""
    return 1e6 / colour_k


def mired_shift(from_k: float, to_k: float) -> float:
    """``10⁶/T_to − 10⁶/T_from``: warmer is positive. Source: mired."""
    return mired(to_k) - mired(from_k)


def angle_between_deg(azimuth_a: float, elevation_a: float, azimuth_b: float, elevation_b: float) -> float:
    """Angle between two directions given as azimuth and elevation, degrees."""
    a, b = (
        (
            math.cos(math.radians(el)) * math.sin(math.radians(az)),
            math.sin(math.radians(el)),
            math.cos(math.radians(el)) * math.cos(math.radians(az)),
        )
        for az, el in ((azimuth_a, elevation_a), (azimuth_b, elevation_b))
    )
    cross = math.hypot(a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0])
    return math.degrees(math.atan2(cross, sum(p * q for p, q in zip(a, b, strict=True))))
