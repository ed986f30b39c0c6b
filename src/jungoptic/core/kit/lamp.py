"""Lamps: as they are, with a gel, measured with a meter; and how much light they throw together."""

from __future__ import annotations

import math
from typing import Annotated

from .. import quantities as q
from ..light import beam_power, colour


class Lamp(q.Record):
    """A lamp of the kit; ``area_m2`` is the size of its face (0 for a point)."""

    name: str
    intensity_cd: q.IntensityCd
    beam_deg: Annotated[float, q.quantity("Beam", "°", gt=0, le=180)]
    area_m2: Annotated[float, q.quantity("Face", "m²", ge=0, le=100)] = 0.0
    coolest_k: q.ColourK
    warmest_k: q.ColourK


def gelled(lamp: Lamp, mired: float, stops: float) -> Lamp:
    """A lamp with a gel: another colour, and less light.

    Parameters
    ----------
    lamp : Lamp
        As it is.
    mired : float
        Shift of the gel; orange is positive, blue negative.
    stops : float
        Light that is lost.

    Returns
    -------
    Lamp
        Its coolest and warmest colour both shifted.

    References
    ----------
    mired, gels

    Examples
    --------
    >>> lamp = Lamp(name="spot", intensity_cd=18000, beam_deg=25, warmest_k=3200, coolest_k=3200)
    >>> blue = gelled(lamp, -137, 1.6)
    >>> round(blue.coolest_k), round(blue.intensity_cd)
    (5698, 5938)
    """

    return lamp.model_copy(
        update={
            "intensity_cd": lamp.intensity_cd * 2.0**-stops,
            "warmest_k": colour.shifted_k(lamp.warmest_k, mired),
            "coolest_k": colour.shifted_k(lamp.coolest_k, mired),
        }
    )


def lamp_of_reading(
    illuminance_lx: float, distance_m: float, half_off_m: float | None
) -> tuple[float, float | None]:
    """Intensity and beam of a lamp from what a meter read before it: ``I = E·d²``.

    Parameters
    ----------
    illuminance_lx : float
        On the axis, lux.
    distance_m : float
        From the lamp, metres; beyond five times its largest side.
    half_off_m : float or None
        How far off the axis, in the same plane, the meter reads half; None where nobody looked.

    Returns
    -------
    intensity_cd : float
        On the axis, cd.
    beam_deg : float or None
        Whole angle at which the light on a sphere is half, degrees: on a plane it falls by cos³ beside.

    References
    ----------
    inverse_square, half_peak

    Examples
    --------
    >>> intensity_cd, beam_deg = lamp_of_reading(450, 2, 0.5)
    >>> intensity_cd, round(beam_deg, 1)
    (1800, 30.1)
    """
    intensity = illuminance_lx * distance_m**2
    if half_off_m is None:
        return intensity, None
    # E(θ) = I·cosⁿθ·cos³θ/d² is half where cosⁿ⁺³θ = 1/2; the beam is where cosⁿ = 1/2
    power = beam_power(2.0 * math.degrees(math.atan2(half_off_m, distance_m))) - 3.0
    if power <= 0.0:
        return intensity, 180.0
    return intensity, 2.0 * math.degrees(math.acos(0.5 ** (1.0 / power)))


WORKING_DISTANCE_M = 1.0
EDGE_STOPS = 1.0  # Source: lamp_edge


def available_light_lx(
    lamps: tuple[Lamp, ...], subject_width_m: float, colour_k: float
) -> tuple[float, list[str]]:
    """Light that the lamps which can make a colour throw on the middle of a subject together.

    Each stands as near as it may with the subject's edge no more than a stop darker than its middle, and not
    nearer than 1 m. The edge, at the angle θ from the axis, has ``cosⁿ⁺³θ`` of the middle's light. On the
    axis of an evenly bright face of area A: ``E = I/(d² + A/π)``, which is ``I/d²`` from afar.

    Parameters
    ----------
    lamps : tuple of Lamp
        The kit's lamps.
    subject_width_m : float
        Width that must be covered, metres of the set.
    colour_k : float
        Colour that is wanted, K.

    Returns
    -------
    illuminance_lx : float
        Lux.
    names : list of str
        The lamps that can make it.

    References
    ----------
    inverse_square, lamp_edge

    Examples
    --------
    >>> spot = Lamp(name="spot", intensity_cd=18000, beam_deg=25, warmest_k=3200, coolest_k=3200)
    >>> light_lx, names = available_light_lx((spot,), 0.6, 3200)
    >>> round(light_lx), names
    (8885, ['spot'])
    """
    total, names = 0.0, []
    for lamp in lamps:
        if not lamp.warmest_k - 1 <= colour_k <= lamp.coolest_k + 1:
            continue
        power = beam_power(min(lamp.beam_deg, 178.0))
        covered = math.acos(2.0 ** (-EDGE_STOPS / (power + 3.0)))
        distance = max(subject_width_m / 2.0 / math.tan(covered), WORKING_DISTANCE_M)
        total += lamp.intensity_cd / (distance**2 + lamp.area_m2 / math.pi)
        names.append(lamp.name)
    return total, names


def most_light_lx(lamps: tuple[Lamp, ...], subject_width_m: float) -> float:
    """The most light that lamps throw on a subject together, in whichever colour most of it is to be had.

    Parameters
    ----------
    lamps : tuple of Lamp
        The kit's lamps.
    subject_width_m : float
        Width that must be covered, metres of the set.

    Returns
    -------
    float
        Lux; 0 without a lamp.

    References
    ----------
    inverse_square, lamp_edge

    Examples
    --------
    >>> warm, cool = (
    ...     Lamp(name="spot", intensity_cd=1000, beam_deg=25, warmest_k=kelvin, coolest_k=kelvin)
    ...     for kelvin in (3200, 5600)
    ... )
    >>> most_light_lx((warm, cool), 0.1) == most_light_lx((warm,), 0.1)
    True
    """
    # lamps that share a colour share the coolest one that some of them can make
    return max((available_light_lx(lamps, subject_width_m, lamp.coolest_k)[0] for lamp in lamps), default=0.0)
