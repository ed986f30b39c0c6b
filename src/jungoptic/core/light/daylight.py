"""How much light sun and sky give. Plain formulas, nothing checked."""

from __future__ import annotations

import math
from dataclasses import dataclass
from itertools import pairwise
from typing import Literal

Sky = Literal["clear", "broken", "overcast"]
SUN_OUTSIDE_LX = 127_500.0


@dataclass(frozen=True, slots=True)
class _Air:
    """What a kind of sky does: ``extinction`` of the sun (None hides it), and ``least + most·sin(h)^power``
    lux from the sky on flat ground.
    """

    extinction: float | None
    least_lx: float
    most_lx: float
    power: float


_SKIES: dict[str, _Air] = {
    "clear": _Air(0.21, 800.0, 15_500.0, 0.5),
    "broken": _Air(0.80, 300.0, 45_000.0, 1.0),
    "overcast": _Air(None, 300.0, 21_000.0, 1.0),
}
# Share of what it was at 0°, at elevations under the horizon. Source: twilight
_TWILIGHT = ((-18.0, 7.5e-7), (-12.0, 1e-5), (-6.0, 4.25e-3), (0.0, 1.0))


def sun_lx(elevation_deg: float, sky: Sky = "clear") -> float:
    """Light of the sun on a surface that faces it: ``127 500·e^(−c/sin h)``; none under the horizon.

    Parameters
    ----------
    elevation_deg : float
        Elevation h of the sun, degrees.
    sky : {"clear", "broken", "overcast"}, default "clear"
        Extinction c is 0.21 in a clear sky, 0.80 between clouds; an overcast sky hides it.

    Returns
    -------
    float
        Illuminance, lux.

    References
    ----------
    daylight

    Examples
    --------
    >>> round(sun_lx(30.0), -2), sun_lx(-12.0)
    (83800.0, 0.0)
    """
    extinction = _SKIES[sky].extinction
    if extinction is None or elevation_deg <= 0:
        return 0.0
    return SUN_OUTSIDE_LX * math.exp(-extinction / math.sin(math.radians(elevation_deg)))


def sky_lx(elevation_deg: float, sky: Sky = "clear") -> float:
    """Light of the sky without the sun on flat ground: ``A + B·sin(h)^C``, in twilight its share of that.

    Parameters
    ----------
    elevation_deg : float
        Elevation h of the sun, degrees.
    sky : {"clear", "broken", "overcast"}, default "clear"
        A, B and C are 800, 15 500, ½ for a clear sky; 300, 45 000, 1 for one of broken cloud; 300, 21 000,
        1 for an overcast one.

    Returns
    -------
    float
        Illuminance, lux.

    References
    ----------
    daylight, twilight

    Examples
    --------
    >>> [round(sky_lx(elevation), 2) for elevation in (30.0, 0.0, -6.0)]
    [11760.16, 800.0, 3.4]
    """
    air = _SKIES[sky]
    if elevation_deg >= 0:
        high = math.sin(math.radians(elevation_deg))
        return air.least_lx + air.most_lx * float(high**air.power)
    for (low, less), (top, more) in pairwise(_TWILIGHT):
        if low <= elevation_deg <= top:
            share = (elevation_deg - low) / (top - low)
            return air.least_lx * math.exp(math.log(less) + share * math.log(more / less))
    return 0.0
