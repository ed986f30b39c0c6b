"""What the air lays over what is far away. Plain formulas, nothing checked."""

from __future__ import annotations

import math


def transmission(visibility_m: float, distance_m: float) -> float:
    """Share of the light that comes through the haze in front of a thing: ``exp(−3.912·d/V)``.

    Parameters
    ----------
    visibility_m : float
        Visibility V, metres: where the contrast of a black thing has fallen to 2 %.
    distance_m : float
        Distance d of the thing, metres.

    Returns
    -------
    float
        0 to 1.

    References
    ----------
    koschmieder

    Examples
    --------
    >>> round(transmission(4000, 4000), 3)
    0.02
    """
    return math.exp(-3.912 * distance_m / visibility_m)


def veil(visibility_m: float, distance_m: float) -> float:
    """Opacity of the haze in front of a thing: what does not come through.

    Parameters
    ----------
    visibility_m : float
        Visibility, metres.
    distance_m : float
        Distance of the thing, metres.

    Returns
    -------
    float
        0 to 1.

    References
    ----------
    koschmieder

    Examples
    --------
    >>> round(veil(4000, 400), 3)
    0.324
    """
    return 1.0 - transmission(visibility_m, distance_m)
