"""Where a set-up's key comes from, how big it looks and how it stands over the fill: as stated, from the
lamps, or the sun.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass
from datetime import datetime
from functools import lru_cache

import numpy as np

from ..light import colour, sun
from ..light.placed import Array, PlacedLamp, Point, distance_m, light_on
from .layer import Layer
from .records import SetUp

SayLight = Callable[[float], str]
SUN_SIZE_DEG = 0.53
_SUBJECT_SHARE = 0.5  # light is metered half-way up the subject


@dataclass(frozen=True, slots=True)
class Key:
    """The key in the camera's frame (degrees; 0 behind the camera, positive to camera right); None where
    nobody said.
    """

    azimuth_deg: float | None
    elevation_deg: float | None
    size_deg: float | None
    to_fill_stops: float | None
    by: str


def subject_point(layer: Layer, setup: SetUp) -> Point:
    """Middle of the layer, set coordinates."""
    s = layer.scale
    return (
        layer.offset_m / s,
        setup.ground_height_m + layer.height_m * _SUBJECT_SHARE / s,
        min(layer.depth_m, 100.0) / s / 2.0,
    )


def metered_lx(lamp: PlacedLamp, point: Point) -> float:
    """What a meter's dome at the subject, turned to the lens, takes from one lamp, lux."""
    return float(light_on(np.array([point]), lamp, None)[0])


def subject_lamps(setup: SetUp) -> tuple[PlacedLamp, ...]:
    """The lamps that light the subject: all but those of the backing."""
    return tuple(lamp for lamp in setup.lamps if lamp.role != "backing")


def lamps_lx(layer: Layer, setup: SetUp) -> float:
    """Light on the subject from the lamps as they stand, lux."""
    point = subject_point(layer, setup)
    return sum(metered_lx(lamp, point) for lamp in subject_lamps(setup))


def facing_lamp_lx(lamp: PlacedLamp, point: Point) -> float:
    """Illuminance of a surface at the subject that faces the lamp, lux."""
    far = distance_m(lamp, point) or 1.0
    towards = tuple((a - b) / far for a, b in zip(lamp.place, point, strict=True))
    return float(light_on(np.array([point]), lamp, (towards[0], towards[1], towards[2]))[0])


@lru_cache(maxsize=4096)
def _sun(latitude_deg: float, longitude_deg: float, moment: datetime) -> tuple[float, float]:
    return sun.sun_deg(latitude_deg, longitude_deg, moment)


def from_behind_deg(compass_deg: float, heading_deg: float) -> float:
    """A compass direction in the camera's frame: 0 behind the camera, positive to camera right, −180 …
    180.
    """
    return (heading_deg + 180.0 - compass_deg + 180.0) % 360.0 - 180.0


def key_of(setup: SetUp, layer: Layer) -> Key:
    """The sun where a time is given, else the brightest key lamp, else what was stated."""
    if setup.sun_at is not None and setup.latitude_deg is not None and setup.longitude_deg is not None:
        compass, elevation = _sun(setup.latitude_deg, setup.longitude_deg, setup.sun_at)
        return Key(
            from_behind_deg(compass, setup.heading_deg),
            elevation,
            SUN_SIZE_DEG,
            setup.key_to_fill_stops,
            "the sun",
        )
    keys = [lamp for lamp in setup.lamps if lamp.role == "key" and lamp.level > 0]
    if not keys:
        return Key(
            setup.key_azimuth_deg, setup.key_elevation_deg, setup.key_size_deg, setup.key_to_fill_stops, ""
        )
    point = subject_point(layer, setup)
    brightest = max(keys, key=lambda lamp: facing_lamp_lx(lamp, point))
    dx, dy, dz = (a - b for a, b in zip(brightest.place, point, strict=True))
    far = math.dist(brightest.place, point) or 1e-9
    size = (
        math.degrees(2.0 * math.atan(brightest.side_m / 2.0 / far))
        if brightest.side_m
        else setup.key_size_deg
    )
    fill = sum(metered_lx(lamp, point) for lamp in setup.lamps if lamp.role == "fill" and lamp.level > 0)
    over = (
        math.log2((sum(facing_lamp_lx(lamp, point) for lamp in keys) + fill) / fill)
        if fill > 1e-3
        else setup.key_to_fill_stops
    )
    return Key(
        math.degrees(math.atan2(dx, -dz)),
        math.degrees(math.asin(max(-1.0, min(1.0, dy / far)))),
        size,
        over,
        brightest.name,
    )


def resolved(setup: SetUp, layer: Layer) -> SetUp:
    """The set-up with its key written out, from the sun or the lamps, and the lamps put away.

    It is what the comparison reads.

    Parameters
    ----------
    setup : SetUp
        As it stands, with lamps, backing or the time of the sun.
    layer : Layer
        What is lit; the key is taken where it stands.

    Returns
    -------
    SetUp
        The same one where there is nothing to write out.

    Examples
    --------
    >>> from jungoptic.core.example import ACTOR, ON_GREEN
    >>> written = resolved(ON_GREEN, ACTOR)
    >>> round(written.key_azimuth_deg), written.lamps
    (40, ())
    """
    if setup.sun_at is None and not setup.lamps and setup.backing is None:
        return setup
    key = key_of(setup, layer)
    return setup.model_copy(
        update={
            "key_azimuth_deg": key.azimuth_deg,
            "key_elevation_deg": key.elevation_deg,
            "key_size_deg": key.size_deg,
            "key_to_fill_stops": key.to_fill_stops,
            "lamps": (),
            "backing": None,
            "sun_at": None,
        }
    )


def on_backing_lx(setup: SetUp, points: Array) -> Array:
    """Light on points (n × 3, set coordinates) of an upright backing that faces the lens, lux, from every
    lamp.
    """
    total = np.zeros(len(points))
    for lamp in setup.lamps:
        if lamp.level > 0:
            total += light_on(points, lamp, (0.0, 0.0, -1.0))
    return total


def light_amounts(hero: SetUp, layer: Layer, setup: SetUp) -> dict[str, float]:
    """How far the light on a layer is from the hero's: colour in mired, direction in degrees, hardness as a
    ratio less 1, key over fill in stops; only what both of them say.
    """
    amounts = {
        "colour": abs(
            colour.mired_shift(setup.white_balance_k, setup.light_k)
            - colour.mired_shift(hero.white_balance_k, hero.light_k)
        )
    }
    azimuth = setup.key_azimuth_deg
    if layer.mirrored and azimuth is not None:
        azimuth = -azimuth
    keys = (azimuth, setup.key_elevation_deg, hero.key_azimuth_deg, hero.key_elevation_deg)
    if all(angle is not None for angle in keys):
        amounts["direction"] = colour.angle_between_deg(*keys)  # type: ignore[arg-type]
    if setup.key_size_deg is not None and hero.key_size_deg is not None:
        softer = setup.key_size_deg / hero.key_size_deg
        amounts["hardness"] = max(softer, 1.0 / softer) - 1.0
    if setup.key_to_fill_stops is not None and hero.key_to_fill_stops is not None:
        amounts["key_fill"] = abs(setup.key_to_fill_stops - hero.key_to_fill_stops)
    return amounts
