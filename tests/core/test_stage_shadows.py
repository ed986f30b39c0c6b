"""Shadows of the simulated stage stand where a ray through space says, and are as dark as what is left of the
light.

The rays of these tests are lines and planes by hand: nothing of the stage's own casting is used.
"""

from __future__ import annotations

import math

import numpy as np
import pytest

from jungoptic.core.example import HERO
from jungoptic.core.light import PlacedLamp
from jungoptic.core.light.placed import light_on
from jungoptic.core.match import Delivery, Layer, Match, Member, Part, SetUp, ShotPlan, Stack
from jungoptic.core.stage import Effects, photograph
from jungoptic.core.stage.camera import Camera

WIDE = 960
SHADED = Effects.only("shading", "lamps")
CAST = Effects.only("shading", "lamps", "shadows")
WALL_M, POST_M = 6.0, 3.0  # behind the front edge
GREY = "#808080"


def upright(name: str, left: float, right: float, low: float, high: float, behind_m: float) -> Part:
    return Part(
        name=name,
        behind_m=behind_m,
        points=((left, low), (left, high), (right, high), (right, low)),
        colour=GREY,
    )


FLOOR = Part(name="Floor", lies=True, points=((-8, 0), (8, 0), (8, 6), (-8, 6)), colour=GREY)
YARD = Layer(
    name="Yard",
    near_m=8,
    depth_m=6,
    width_m=16,
    height_m=5,
    parts=(FLOOR, upright("Wall", -8, 8, 0, 5, WALL_M), upright("Post", -0.1, 0.1, 0, 2, POST_M)),
)
LOOKS = HERO.but(
    distance_m=8,
    focus_distance_m=8,
    lens_height_m=1.6,
    focal_length_mm=24,
    key_azimuth_deg=-35.0,
    key_elevation_deg=25.0,
    key_to_fill_stops=2.0,
)


def light_at(
    setup: SetUp, *places_m: tuple[float, float, float], effects: Effects = CAST, layer: Layer = YARD
) -> list[float]:
    """Green light of the picture at places of the layer."""
    camera = Camera(Match(setup, layer, setup, Delivery()), 0.0, WIDE, effects)
    planes = camera.film()
    seen = camera.view.seen(np.array(places_m), *camera.size) * camera.k
    return [float(planes[1, int(y), int(x)]) for x, y in seen]


def towards(setup: SetUp) -> tuple[float, float, float]:
    """To the key: right, up, away from the lens."""
    azimuth = math.radians(setup.key_azimuth_deg or 0.0)
    elevation = math.radians(setup.key_elevation_deg or 0.0)
    return (
        math.sin(azimuth) * math.cos(elevation),
        math.sin(elevation),
        -math.cos(azimuth) * math.cos(elevation),
    )


def on_wall(point: tuple[float, float, float], setup: SetUp) -> tuple[float, float, float]:
    """Where a point's shadow stands on the wall, by the line through both."""
    light = towards(setup)
    far = (point[2] - WALL_M) / light[2]
    return (point[0] - far * light[0], point[1] - far * light[1], WALL_M)


def test_a_post_throws_its_shadow_on_the_wall_behind_it():
    x, y, _ = on_wall((0.0, 1.9, POST_M), LOOKS)
    dark, beside, above = light_at(LOOKS, (x, y, WALL_M), (x + 0.5, y, WALL_M), (x, y + 0.4, WALL_M))
    cosine, fill = -towards(LOOKS)[2], 2.0**-2.0
    assert beside == pytest.approx(above, rel=1e-3)
    assert dark / beside == pytest.approx(fill / (fill + (1.0 - fill) * cosine), rel=0.01)
    whole = light_at(LOOKS, (x, y, WALL_M), effects=SHADED)
    assert whole[0] == pytest.approx(beside, rel=1e-3)


def test_it_throws_one_on_the_floor_as_far_as_the_sun_is_low():
    light = towards(LOOKS)
    high = 0.5
    place = (-high * light[0] / light[1], 0.0, POST_M - high * light[2] / light[1])
    dark, lit = light_at(LOOKS, place, (place[0] + 0.6, 0.0, place[2]))
    fill = 2.0**-2.0
    assert dark / lit == pytest.approx(fill / (fill + (1.0 - fill) * light[1]), rel=0.02)


def test_light_from_behind_the_wall_throws_nothing_on_it():
    behind = LOOKS.but(key_azimuth_deg=150.0)
    places = [(x, 1.0, WALL_M) for x in (-2.0, -1.0, 1.0, 2.0)]
    assert light_at(behind, *places) == pytest.approx(light_at(behind, *places, effects=SHADED))


LAMPS = (
    PlacedLamp(
        name="Key",
        intensity_cd=9000,
        across_m=-3,
        height_m=2.5,
        behind_m=-2,
        aim_behind_m=WALL_M,
        beam_deg=150,
    ),
    PlacedLamp(
        name="Fill",
        role="fill",
        intensity_cd=4000,
        across_m=4,
        height_m=1,
        behind_m=-1,
        aim_behind_m=WALL_M,
        beam_deg=150,
    ),
)


def test_each_lamp_throws_its_own_shadow_from_where_it_stands():
    """On the line from a lamp through the top of the post; what is left is the other lamp's light."""
    lit = LOOKS.but(lamps=LAMPS, key_azimuth_deg=None, key_elevation_deg=None, key_to_fill_stops=None)
    wall = np.array([[0.0, 2.5, WALL_M]])
    gives = [float(light_on(wall, lamp, (0.0, 0.0, -1.0))[0]) for lamp in LAMPS]
    for lamp, own in zip(LAMPS, gives, strict=True):
        from_x, from_y, from_z = lamp.place
        far = (WALL_M - from_z) / (POST_M - from_z)
        place = (from_x - far * from_x, from_y + far * (1.8 - from_y), WALL_M)
        dark = light_at(lit, place)[0] / light_at(lit, place, effects=SHADED)[0]
        assert dark == pytest.approx(1.0 - own / sum(gives), rel=0.02), lamp.name


def test_shadows_of_two_pieces_hide_a_light_once():
    twice = YARD.but(parts=(*YARD.parts, upright("Another", -0.1, 0.1, 0, 2, POST_M - 0.5)))
    x, y, _ = on_wall((0.0, 1.2, POST_M), LOOKS)
    other = on_wall((0.0, 1.2, POST_M - 0.5), LOOKS)
    once = light_at(LOOKS, (x, y, WALL_M))[0]
    both = light_at(LOOKS, (x, y, WALL_M), other, layer=twice)
    assert both == pytest.approx([once, once], rel=1e-3)


def test_what_hangs_before_the_lens_in_camera_throws_its_shadow_on_the_set():
    """A board at an eighth of the size, 1 m from the lens and 1.4 m over the floor, in a low sun."""
    board = Layer(
        name="Board",
        kind="model",
        combine="in_camera",
        scale=8,
        near_m=8,
        width_m=4,
        height_m=3,
        parts=(upright("Board", -2.0, 2.0, 0.6, 3.0, 0.0),),
    )
    low = {"key_azimuth_deg": -20.0, "key_elevation_deg": 8.0}
    looks = LOOKS.but(**low)
    hung = LOOKS.but(distance_m=1.0, focus_distance_m=1.0, ground_height_m=1.4, **low)
    stack = Stack(
        ShotPlan(length_frames=24),
        Delivery(),
        looks,
        (Member(board, hung, 1, False), Member(YARD, looks, 2, True)),
    )
    middle = np.array([0.0, 1.4 + 1.8 / 8, 1.0])  # of the board: right, over the floor, from the lens
    light = np.array(towards(looks))
    there = middle - middle[1] / light[1] * light
    camera = Camera(Match(looks, YARD, looks, Delivery()), 0.0, WIDE, CAST)
    floor = np.array([(there[0] + aside, 0.0, there[2] - looks.distance_m) for aside in (0.0, 1.2)])
    assert 0.0 < floor[0, 2] < 6.0
    lit, dark = (photograph(stack, WIDE, effects=effects)[..., 1] for effects in (SHADED, CAST))
    (x, y), (beside_x, beside_y) = (camera.view.seen(floor, *camera.size) * camera.k).astype(int).tolist()
    fill = 2.0**-2.0
    left = fill / (fill + (1.0 - fill) * light[1])
    assert dark[y, x] / lit[y, x] == pytest.approx(left, rel=0.02)
    assert dark[beside_y, beside_x] == pytest.approx(lit[beside_y, beside_x], rel=1e-3)
