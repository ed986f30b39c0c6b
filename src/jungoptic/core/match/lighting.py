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

from ..light import colour, daylight, sun
from ..light.placed import Array, PlacedLamp, Point, distance_m, light_on
from .layer import Layer
from .records import SetUp

SayLight = Callable[[float], str]
SUN_SIZE_DEG = 0.53
_LEAST_LX, _MOST_LX = 0.1, 200_000.0
_SUBJECT_SHARE = 0.5  # light is metered half-way up the subject


@dataclass(frozen=True, slots=True)
class Key:
    """The key in the camera's frame (degrees; 0 behind the camera, positive to camera right); None where
    nobody said. It is the sun's, a ``lamp``'s, or was stated.
    """

    azimuth_deg: float | None
    elevation_deg: float | None
    size_deg: float | None
    to_fill_stops: float | None
    lamp: PlacedLamp | None = None
    by_sun: bool = False

    @property
    def source(self) -> str:
        """Whose light it is: the lamp's name, the sun; "" for what was stated."""
        return self.lamp.name if self.lamp else "the sun" if self.by_sun else ""


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


@dataclass(frozen=True, slots=True)
class Day:
    """Sun and sky over a set: the sun's elevation, the direction ``towards`` it (set axes, unit length), its
    light on a surface that faces it, after any diffusion over the set, and the sky's on flat ground, lux.
    """

    elevation_deg: float
    towards: Point
    sun_lx: float
    sky_lx: float

    @property
    def metered_lx(self) -> float:
        """What a meter's dome that is turned to the lens takes of both, lux."""
        return self.sun_lx * (1.0 - self.towards[2]) / 2.0 + self.sky_lx

    @property
    def on_upright_lx(self) -> float:
        """Light on an upright sheet that faces the lens, which sees half of the sky, lux."""
        return self.sun_lx * max(0.0, -self.towards[2]) + self.sky_lx / 2.0


def day_over(setup: SetUp) -> Day | None:
    """Sun and sky over a set-up; None where no hour or no place is given."""
    if setup.sun_at is None or setup.latitude_deg is None or setup.longitude_deg is None:
        return None
    compass, elevation = _sun(setup.latitude_deg, setup.longitude_deg, setup.sun_at)
    return Day(
        elevation,
        direction_of(from_behind_deg(compass, setup.heading_deg), elevation),
        daylight.sun_lx(elevation, setup.sky) * 2.0**-setup.diffusion_stops,
        daylight.sky_lx(elevation, setup.sky),
    )


def direction_of(azimuth_deg: float, elevation_deg: float) -> Point:
    """The way to where something stands in the camera's frame, set axes, unit length."""
    turn, up = math.radians(azimuth_deg), math.radians(elevation_deg)
    return math.sin(turn) * math.cos(up), math.sin(up), -math.cos(turn) * math.cos(up)


def angles_of(x: float, y: float, z: float) -> tuple[float, float]:
    """Azimuth and elevation of a way in set axes, in the camera's frame, degrees."""
    return math.degrees(math.atan2(x, -z)), math.degrees(math.atan2(y, math.hypot(x, z)))


def with_lamps(layer: Layer, planned: SetUp, lamps: tuple[PlacedLamp, ...]) -> SetUp:
    """A set-up whose lamps burn otherwise than planned.

    Light and colour on the subject change by as much as the lamps' own do there. What the plan states beyond
    its lamps (a meter's reading, bounce) stays in it.

    Parameters
    ----------
    layer : Layer
        What they light.
    planned : SetUp
        As planned, with its lamps.
    lamps : tuple of PlacedLamp
        As they burn.

    Returns
    -------
    SetUp
        With these lamps. By the sun, or where none of them lit the subject, light and colour stay as stated.

    References
    ----------
    inverse_square, mired

    Examples
    --------
    >>> from jungoptic.core.example import MILL, MODEL
    >>> spot = PlacedLamp(name="spot", intensity_cd=18000)
    >>> dimmed = with_lamps(MILL, MODEL.but(lamps=(spot,)), (spot.but(level=0.5),))
    >>> round(dimmed.illuminance_lx / MODEL.illuminance_lx, 6)
    0.5
    """
    burning = planned.but(lamps=lamps)
    before, after = (_lamps_light(layer, setup) for setup in (planned, burning))
    if planned.sun_at is not None or not before[0]:
        return burning
    light = float(np.clip(planned.illuminance_lx * after[0] / before[0], _LEAST_LX, _MOST_LX))
    light_k = colour.shifted_k(planned.light_k, after[1] - before[1] if after[0] else 0.0)
    return burning.but(illuminance_lx=light, light_k=light_k)


def _lamps_light(layer: Layer, setup: SetUp) -> tuple[float, float]:
    """Light of the lamps on the subject, lux, and its colour, mired, each lamp by how much it gives."""
    point = subject_point(layer, setup)
    given = [(metered_lx(lamp, point), colour.mired(lamp.colour_k)) for lamp in subject_lamps(setup)]
    total = sum(lx for lx, _ in given)
    if total <= 0:
        return 0.0, 0.0
    return total, sum(lx * mired for lx, mired in given) / total


def on_lit_side_lx(lamps: list[PlacedLamp], brightest: PlacedLamp, point: Point) -> float:
    """Illuminance from many lamps of the surface that faces one of them, lux: what stands more than a quarter
    round from it lights another side.
    """
    far = distance_m(brightest, point) or 1.0
    x, y, z = ((there - here) / far for there, here in zip(brightest.place, point, strict=True))
    here = np.array([point])
    return sum(float(light_on(here, lamp, (x, y, z))[0]) for lamp in lamps)


@lru_cache(maxsize=4096)
def _sun(latitude_deg: float, longitude_deg: float, moment: datetime) -> tuple[float, float]:
    return sun.sun_deg(latitude_deg, longitude_deg, moment)


def from_behind_deg(compass_deg: float, heading_deg: float) -> float:
    """A compass direction in the camera's frame: 0 behind the camera, positive to camera right, −180 …
    180.
    """
    return (heading_deg + 180.0 - compass_deg + 180.0) % 360.0 - 180.0


def sun_over(setup: SetUp) -> Day | None:
    """Sun and sky over a set-up where the sun shines: it stands over the horizon in a sky that lets it
    through.
    """
    day = day_over(setup)
    return day if day is not None and day.sun_lx > 0 else None


def key_of(setup: SetUp, layer: Layer) -> Key:
    """The key of a set-up.

    What was read there where somebody did; the sun where it shines at the time that is given, else the
    brightest key lamp, else what was stated. Key over fill is ``log₂((key + fill)/fill)``, on the side that
    faces the brightest key.

    Parameters
    ----------
    setup : SetUp
        As it stands, with lamps and sun in it.
    layer : Layer
        What is lit.

    Returns
    -------
    Key
        Degrees in the camera's frame, and stops.

    References
    ----------
    spa, inverse_square, meter_dome

    Examples
    --------
    >>> from jungoptic.core.example import ACTOR, ON_GREEN
    >>> key_of(ON_GREEN, ACTOR).source
    'spot'
    """
    stated = Key(setup.key_azimuth_deg, setup.key_elevation_deg, setup.key_size_deg, setup.key_to_fill_stops)
    if setup.key_measured:
        return stated
    day = sun_over(setup)
    if day is not None:
        size = SUN_SIZE_DEG if not setup.diffusion_stops else setup.key_size_deg
        return Key(*angles_of(*day.towards), size, setup.key_to_fill_stops, by_sun=True)
    keys = [lamp for lamp in setup.lamps if lamp.role == "key" and lamp.level > 0]
    if not keys:
        return stated
    point = subject_point(layer, setup)
    brightest = max(keys, key=lambda lamp: on_lit_side_lx([lamp], lamp, point))
    dx, dy, dz = (a - b for a, b in zip(brightest.place, point, strict=True))
    far = math.dist(brightest.place, point) or 1e-9
    size = (
        math.degrees(2.0 * math.atan(brightest.side_m / 2.0 / far))
        if brightest.side_m
        else setup.key_size_deg
    )
    fill = sum(metered_lx(lamp, point) for lamp in setup.lamps if lamp.role == "fill" and lamp.level > 0)
    over = (
        math.log2((on_lit_side_lx(keys, brightest, point) + fill) / fill)
        if fill > 1e-3
        else setup.key_to_fill_stops
    )
    return Key(*angles_of(dx, dy, dz), size, over, brightest)


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
    """Light on points of an upright sheet that faces the lens, from every lamp, sun and sky.

    Parameters
    ----------
    setup : SetUp
        With its lamps and its day.
    points : ndarray, shape (n, 3)
        Set metres.

    Returns
    -------
    ndarray, shape (n,)
        Lux.

    References
    ----------
    inverse_square, lambert, daylight

    Examples
    --------
    >>> from jungoptic.core.example import ON_GREEN
    >>> [round(float(lx)) for lx in on_backing_lx(ON_GREEN, np.array([[0.0, 1.5, 2.5], [1.8, 1.5, 2.5]]))]
    [229, 160]
    """
    day = day_over(setup)
    total = np.full(len(points), day.on_upright_lx if day else 0.0)
    for lamp in setup.lamps:
        if lamp.level > 0:
            total += light_on(points, lamp, (0.0, 0.0, -1.0))
    return total


def light_amounts(hero: SetUp, layer: Layer, setup: SetUp) -> dict[str, float]:
    """How far the light on a layer is from the hero's: colour in mired, direction in degrees, hardness as a
    ratio less 1, key over fill in stops; only what both of them say.

    A light pass is the light of something that is added and not the hero's key: only its white balance must
    be the hero's.
    """
    if layer.kind == "light_pass":
        return {"colour": abs(colour.mired_shift(setup.white_balance_k, hero.white_balance_k))}
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
