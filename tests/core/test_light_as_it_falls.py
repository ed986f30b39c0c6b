"""Light where it really falls: near faces, shadows by rays, mirrors in space, spill, the day."""

from __future__ import annotations

import math
from datetime import UTC, datetime

import numpy as np
import pytest
import shapely
from hypothesis import assume, given, settings
from hypothesis import strategies as st
from scipy import integrate

from jungoptic.core import example
from jungoptic.core.handbook.sheets import BackingLamp
from jungoptic.core.kit import Lamp, available_light_lx
from jungoptic.core.light import corner_factor, polygon_factor, rectangle_factor
from jungoptic.core.light.placed import Backing, PlacedLamp, light_on
from jungoptic.core.match import Delivery, Layer, lighting
from jungoptic.core.match.backing_light import spilt
from jungoptic.core.match.backing_shadow import darkest_shadow
from jungoptic.core.match.gloss import angles_deg, mirror_of, off_deg
from jungoptic.core.match.measure import Match
from jungoptic.core.match.shade import bodies, hidden
from jungoptic.core.match.stack import Member

from .test_stack import fixed, green, item, stack_of

FACING = (0.0, 0.0, -1.0)
NOON = {"latitude_deg": 54.3, "longitude_deg": -3.2}
HERO_5 = example.HERO.but(distance_m=5)


# --- near faces


@pytest.mark.parametrize("nearness", [1.0, 0.5, 0.25, 0.1, 0.05])
def test_an_even_face_near_by_gives_what_its_configuration_factor_says(nearness):
    """Published: E = π·L·F, L = I/A of an even face (Howell, C-11). A beam of 120° is cosθ: an even face."""
    face = PlacedLamp(
        name="face", intensity_cd=900, beam_deg=120, face_m=1.2, height_m=1, behind_m=-1.2 * nearness
    )
    lit = light_on(np.array([[0.0, 1.0, 0.0]]), face, FACING)[0]
    exact = math.pi * 900 / 1.2**2 * rectangle_factor(1.2, 1.2, 1.2 * nearness, 0)
    assert lit == pytest.approx(exact, rel=1e-3)


@pytest.mark.parametrize(("x", "gap"), [(0.0, 0.6), (2.0, 0.6), (3.9, 0.3), (4.5, 0.2)])
def test_a_long_row_near_the_sheet_is_the_integral_along_it(x, gap):
    row = BackingLamp(x_m=0, y_m=0.4, z_m=gap, intensity_cd=5600, length_m=8, aim_y_m=1.2, beam_deg=110)
    lamp, spot = row.placed(), np.array([[x, 0.9, 0.0]])
    axis = np.subtract(lamp.aim, lamp.place)
    power = math.log(0.5) / math.log(math.cos(math.radians(55)))

    def share(along: float) -> float:
        ray = spot[0] - np.add(lamp.place, (along, 0.0, 0.0))
        far = np.linalg.norm(ray)
        aimed = max(0.0, float(ray @ axis) / (far * np.linalg.norm(axis)))
        return 5600 / 8 * aimed**power * max(0.0, ray[2] / far) / far**2

    exact = integrate.quad(share, -4, 4, points=[x] if abs(x) < 4 else None, limit=400)[0]
    assert light_on(spot, lamp, FACING)[0] == pytest.approx(exact, rel=2e-3)


def test_the_edge_of_a_subject_gets_half_of_what_the_kit_is_said_to_throw_on_it():
    """A 4 m subject: one lamp so near that its edge has 3.3 stops less is not what is meant."""
    soft = Lamp(name="soft", intensity_cd=900, beam_deg=110, warmest_k=2800, coolest_k=6500)
    lux, _ = available_light_lx((soft,), 4.0, 5600)
    placed = PlacedLamp(
        name="soft", intensity_cd=900, beam_deg=110, height_m=1, behind_m=-math.sqrt(900 / lux)
    )
    middle, edge = light_on(np.array([[0.0, 1.0, 0.0], [2.0, 1.0, 0.0]]), placed, FACING)
    assert middle == pytest.approx(lux) and math.log2(middle / edge) == pytest.approx(1.0, abs=1e-6)


# --- configuration factors


def test_published_configuration_factors():
    """Published, Howell's catalogue (C-11, C-12): 3 × 2 m at 2 m, facing and at 90°; a corner."""
    assert rectangle_factor(3, 2, 2, 0) == pytest.approx(0.3136, abs=5e-5)
    assert rectangle_factor(3, 2, 2, 90) == pytest.approx(0.051, abs=5e-4)
    corner = np.array([(0.0, 0.0, 1.0), (2.0, 0.0, 1.0), (2.0, 1.0, 1.0), (0.0, 1.0, 1.0)])
    assert polygon_factor(corner, (0, 0, 0), (0, 0, 1)) == pytest.approx(corner_factor(2.0, 1.0))


@settings(max_examples=40)
@given(
    x=st.floats(-3, 3),
    y=st.floats(-2, 2),
    z=st.floats(0.3, 4),
    turn=st.floats(-math.pi, math.pi),
    up=st.floats(-1.5, 1.5),
)
def test_a_polygon_factor_is_the_integral_over_what_lies_before_the_element(x, y, z, turn, up):
    normal = (math.sin(turn) * math.cos(up), math.sin(up), math.cos(turn) * math.cos(up))
    corners = np.array([(-1.5, -1.0, 0.0), (1.5, -1.0, 0.0), (1.5, 1.0, 0.0), (-1.5, 1.0, 0.0)])
    cells = 300
    across, high = ((np.arange(cells) + 0.5) / cells - 0.5 for _ in range(2))
    spots = np.array([axis.ravel() for axis in np.meshgrid(across * 3.0, high * 2.0)]).T
    rays = np.column_stack((spots - (x, y), np.full(len(spots), z)))
    square = (rays**2).sum(axis=1)
    seen = np.clip(rays @ np.array(normal), 0, None) * z / (math.pi * square**2)
    summed = float(seen.sum() * 6.0 / cells**2)
    # the element stands z before the polygon's plane and faces it where normal_z is positive
    assert polygon_factor(corners, (x, y, -z), normal) == pytest.approx(summed, rel=2e-3, abs=2e-4)


# --- spill


def test_spill_is_taken_where_the_subject_is_nearest_to_the_sheet(hero):
    """A subject 1 m deep before a 6 × 3 m sheet 1.5 m behind its front: 0.149 at its rim, not 0.076."""
    sheet = Backing(width_m=6, height_m=3, behind_m=1.5, bottom_m=-0.7)
    deep = Layer(name="Deep", near_m=5, depth_m=1.0, width_m=1e-3, height_m=1.6)
    assert spilt(deep, hero, sheet).rim == pytest.approx(0.149, abs=5e-4)


def test_spill_is_taken_where_the_rim_sees_the_middle_of_the_sheet(hero):
    """1 m off the middle of a 3 × 2.5 m sheet 2.5 m behind: 0.028 at the rim that faces it, not 0.015."""
    sheet = Backing(width_m=3, height_m=2.5, behind_m=2.5)
    aside = Layer(name="Aside", kind="painted", near_m=5, width_m=1e-3, height_m=2.5, offset_m=1.0)
    worst = spilt(aside, hero, sheet)
    assert worst.rim == pytest.approx(0.0284, abs=2e-4) and worst.side == "left side"
    # what it does counts, not where it stands as the shot begins
    walks = aside.but(offset_m=0.0, moves_from_m=-0.5, moves_to_m=1.0)
    assert spilt(walks, hero, sheet).rim == pytest.approx(worst.rim, rel=1e-3)


# --- shadows on the sheet


@settings(max_examples=40)
@given(
    across=st.floats(-3, 3),
    height=st.floats(0.3, 4),
    behind=st.floats(-5, -0.6),
    sheet=st.floats(0.8, 4),
    deep=st.floats(0, 0.5),
    seed=st.integers(0, 2**31),
)
def test_a_shadow_is_where_rays_from_the_lamp_are_stopped(across, height, behind, sheet, deep, seed):
    """Brute force: from random points of the sheet towards the lamp, through the box or past it."""
    assume(sheet > deep + 0.05)
    layer = Layer(name="Box", near_m=5, depth_m=deep, width_m=0.6, height_m=1.7, kind="painted")
    source = np.array([across, height, behind])
    shadow = hidden(bodies(layer, HERO_5), source, sheet)
    rng = np.random.default_rng(seed)
    spots = np.column_stack((rng.uniform(-4, 4, 300), rng.uniform(-1, 4, 300), np.full(300, sheet)))
    low, high = np.array([-0.3, 0.0, 0.0]), np.array([0.3, 1.7, deep])
    ray = source - spots
    with np.errstate(divide="ignore", invalid="ignore"):
        enter = np.minimum((low - spots) / ray, (high - spots) / ray).max(axis=1)
        leave = np.maximum((low - spots) / ray, (high - spots) / ray).min(axis=1)
    stopped = (enter <= leave) & (leave > 0) & (enter < 1)
    here = shapely.points(spots[:, :2])
    near_its_edge = shapely.distance(shadow.boundary, here) < 1e-6
    covered = shapely.covers(shadow, here)
    assert (covered == stopped)[~near_its_edge].all()


def test_a_lamp_under_the_lens_throws_a_shadow_that_shows_over_the_head(hero, actor, on_green):
    """The shadow of a lamp 1 m under the lens stands over the head on the sheet, in height and not aside."""
    under = PlacedLamp(
        name="low", intensity_cd=5000, height_m=0.6, behind_m=-5.0, aim_height_m=0.9, beam_deg=60
    )
    setup = on_green.but(lamps=(*(lamp for lamp in on_green.lamps if lamp.role == "backing"), under))
    shadow = darkest_shadow(actor, setup, setup.backing, Match(hero, actor, setup, Delivery()))
    # by hand: the head at 1.7 m throws to 0.6 + 1.1·7.5/5 = 2.25 m; the lens at 1.6 m sees it to 1.75 m
    head_px = 540 - (2.25 - setup.lens_height_m) * Match(hero, actor, setup, Delivery()).f_px / 7.5
    assert shadow.top_px == pytest.approx(head_px, abs=3)  # and the lens breathes a little
    assert shadow.area_m2 == pytest.approx(0.9 * 0.5, rel=0.03)  # 0.6 m grown by 7.5/5, over 0.5 m
    assert item(green(hero, actor, setup), "backing_shadow").verdict != "holds"


def test_a_large_soft_lamp_throws_less_of_a_shadow_than_a_point(hero, actor, on_green):
    point = PlacedLamp(
        name="key", intensity_cd=9000, across_m=1.2, height_m=1.3, behind_m=-2.0, aim_height_m=1.2
    )
    backing = tuple(lamp for lamp in on_green.lamps if lamp.role == "backing")
    hard, soft = (
        item(green(hero, actor, on_green.but(lamps=(*backing, lamp))), "backing_shadow").amount
        for lamp in (point, point.but(face_m=2.5))
    )
    assert 0 < soft < 0.7 * hard


def test_every_fix_of_a_shadow_clears_it(hero, actor, on_green):
    low = PlacedLamp(
        name="low", intensity_cd=5000, across_m=1.0, height_m=1.6, behind_m=-2.0, aim_height_m=1.2
    )
    backing = tuple(lamp for lamp in on_green.lamps if lamp.role == "backing")
    stack = green(hero, actor, on_green.but(lamps=(*backing, low)))
    shown = item(stack, "backing_shadow")
    assert shown.verdict == "shows" and shown.fixes
    for fix in shown.fixes:
        assert item(fixed(stack, 0, fix), "backing_shadow").verdict == "holds", fix.label


# --- key and fill


def test_two_keys_that_light_two_sides_are_not_added_up(actor, on_green):
    """Keys at ±53° and a fill: 3.26 stops if both lit one side; each lights its own."""
    point = lighting.subject_point(actor, on_green)
    away = 3.0

    def key(side: float) -> PlacedLamp:
        turn = math.radians(53) * side
        return PlacedLamp(
            name=f"key {side}",
            intensity_cd=4000,
            across_m=point[0] + away * math.sin(turn),
            height_m=point[1],
            behind_m=point[2] - away * math.cos(turn),
            aim_across_m=point[0],
            aim_height_m=point[1],
            aim_behind_m=point[2],
        )

    fill = key(0.0).but(name="fill", role="fill", intensity_cd=4000 / 4.29)
    both = lighting.key_of(on_green.but(lamps=(key(1.0), key(-1.0), fill)), actor).to_fill_stops
    single = lighting.key_of(on_green.but(lamps=(key(1.0), fill)), actor).to_fill_stops
    assert both == pytest.approx(single) == pytest.approx(math.log2(1 + 4.29), abs=1e-6)
    assert both < 2.5 < math.log2(1 + 2 * 4.29)
    # from one side they do add up
    doubled = lighting.key_of(on_green.but(lamps=(key(1.0), key(1.0), fill)), actor).to_fill_stops
    assert doubled == pytest.approx(math.log2(1 + 2 * 4.29), abs=1e-6)


def test_light_that_falls_off_shows_against_a_hero_in_the_sun(hero, actor, on_green):
    near = PlacedLamp(name="near", intensity_cd=500, height_m=1.7, behind_m=-0.8, aim_height_m=0.9)
    lit = on_green.but(lamps=(near,))
    shown = item(green(hero, actor, lit), "fall_off")
    ends = np.array([(x, y, z) for x in (-0.3, 0, 0.3) for y in (0, 0.85, 1.7) for z in (0, 0.3)])
    light = light_on(ends, near, None)
    assert shown.amount == pytest.approx(math.log2(light.max() / light.min())) and shown.verdict == "shows"
    far = near.but(behind_m=-12.0)
    assert item(green(hero, actor, on_green.but(lamps=(far,))), "fall_off").verdict == "holds"
    # a hero lit by the same lamp falls off alike
    plate = Member(actor.but(name="Plate"), lit, 7, is_hero=True)
    assert item(stack_of(hero, plate, Member(actor, lit, 2)), "fall_off", 1).amount == 0


@pytest.mark.parametrize("mirrored", [False, True])
def test_the_fix_of_a_direction_moves_what_gives_the_key(hero, actor, on_green, mirrored):
    actor = actor.but(mirrored=mirrored)
    stated = hero.but(distance_m=5, key_azimuth_deg=-30.0, key_elevation_deg=50.0)
    sunny = on_green.but(
        lamps=(),
        sun_at=datetime(2027, 10, 23, 12, tzinfo=UTC),
        heading_deg=30.0,
        illuminance_lx=60_000,
        **NOON,
    )
    level = hero.but(key_elevation_deg=lighting.day_over(sunny).elevation_deg)
    for plate, setup, target in (
        (hero, stated, "set_up"),
        (hero, on_green, "lamps"),
        (level, sunny, "set_up"),
    ):
        stack = stack_of(plate, Member(actor, setup, 2))
        shown = item(stack, "direction")
        assert shown.amount > 20 and [fix.target for fix in shown.fixes] == [target]
        assert item(fixed(stack, 0, shown.fixes[0]), "direction").amount < 0.1
    # a sun that stands too high is not mended by turning, nor a lamp under the floor by carrying it
    assert not item(stack_of(hero.but(key_elevation_deg=70), Member(actor, sunny, 2)), "direction").fixes
    assert not item(stack_of(hero.but(key_elevation_deg=-60), Member(actor, on_green, 2)), "direction").fixes


# --- gloss


def test_a_lamp_high_up_is_not_seen_in_an_upright_gloss(hero, actor):
    """A lamp 60° up over a ray that comes down from the lens: some 72° off, not 0°."""
    setup = hero.but(distance_m=5, lens_height_m=0.85 + 5 * math.tan(math.radians(12)))
    small = actor.but(width_m=1e-3, height_m=1e-3, base_m=0)
    setup = setup.but(ground_height_m=0.85)
    out = math.radians(30 * 2)  # mirrored in a face turned by 30°, away from the lens's own direction
    lamp = PlacedLamp(
        name="high",
        intensity_cd=100,
        across_m=2 * math.cos(math.radians(60)) * math.sin(out),
        height_m=0.85 + 2 * math.sin(math.radians(60)),
        behind_m=-2 * math.cos(math.radians(60)) * math.cos(out),
    )
    angles = {name: off for off, name in angles_deg(small, setup.but(lamps=(lamp,)), 30.0)}
    assert angles["high"] == pytest.approx(72, abs=0.5)


@given(
    azimuth=st.floats(-80, 80),
    x=st.floats(-4, 4),
    y=st.floats(0, 4),
    z=st.floats(-6, -0.2),
    wide=st.floats(0.1, 4),
)
def test_what_is_seen_in_a_gloss_is_on_a_mirrored_ray(azimuth, x, y, z, wide):
    """Angle out = angle in: over a grid of places of the face, the least angle is found again."""
    layer = Layer(name="Glossy", near_m=5, width_m=wide, height_m=1.7)
    mirror, eye, target = mirror_of(layer, HERO_5, azimuth), np.array([0.0, 1.6, -5.0]), np.array([x, y, z])
    off = off_deg(mirror, eye, target[None])
    if (eye - mirror.middle) @ mirror.normal <= 1e-6 or (target - mirror.middle) @ mirror.normal <= 1e-6:
        assert off is None
        return
    across, up = np.meshgrid(np.linspace(-1, 1, 201), np.linspace(-1, 1, 201))
    face = (
        mirror.middle
        + across.ravel()[:, None] * mirror.half_wide_m * mirror.along
        + up.ravel()[:, None] * mirror.half_tall_m * np.array([0.0, 1.0, 0.0])
    )
    rays, to = face - eye, target - face
    out = rays - 2 * (rays @ mirror.normal)[:, None] * mirror.normal
    cosine = (out * to).sum(axis=1) / np.linalg.norm(out, axis=1) / np.linalg.norm(to, axis=1)
    least = math.degrees(math.acos(min(1.0, float(cosine.max()))))
    far_from_it = float((target - mirror.middle) @ mirror.normal)
    assume(far_from_it > 0.3)  # nearer, the grid is too coarse
    between_m = math.hypot(mirror.half_wide_m, mirror.half_tall_m) / 200  # from the best place to the grid's
    nearest_m = min(far_from_it, float((eye - mirror.middle) @ mirror.normal))
    assert off <= least + 10.0 and off >= least - 2.0 * math.degrees(between_m / nearest_m)
    assert abs(off - least) < 2.5 or least > 5.0


@pytest.mark.parametrize("azimuth", [-25.0, -3.0, 0.0, 8.0, 20.0, 35.0])
def test_the_fix_of_a_gloss_leaves_nothing_seen_in_it(hero, actor, azimuth):
    lamps = (
        PlacedLamp(name="low", intensity_cd=500, across_m=2.5, height_m=1.0, behind_m=-2.5),
        PlacedLamp(name="panel", intensity_cd=500, face_m=0.8, across_m=-2.0, height_m=1.2, behind_m=-3.0),
    )
    stack = stack_of(
        hero, Member(actor.but(gloss_azimuth_deg=azimuth), hero.but(distance_m=5, lamps=lamps), 2)
    )
    shown = item(stack, "seen_in_gloss")
    for fix in shown.fixes:
        assert item(fixed(stack, 0, fix), "seen_in_gloss").amount == 0
    assert shown.amount == 0 or shown.fixes
