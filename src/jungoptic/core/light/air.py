"""What the air lays over what is far away. Plain formulas, nothing checked."""

from __future__ import annotations

import math


def transmission(visibility_m: float, distance_m: float) -> float:
    """Share of the light that comes through the haze in front of ``distance_m``: ``exp(−3.912·d/V)``.

    Source: koschmieder.
    """
    return math.exp(-3.912 * distance_m / visibility_m)


def veil(visibility_m: float, distance_m: float) -> float:
    """Opacity of that haze, 0 to 1: what does not come through."""
    return 1.0 - transmission(visibility_m, distance_m)
