"""Backing, lamps and what a set shows: amounts by hand and by ray, and that every fix mends."""

from __future__ import annotations

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy import integrate

from jungoptic.core.light import placed, radiate
from jungoptic.core.light.placed import PlacedLamp
from jungoptic.core.match import Delivery, Layer, SetUp, lighting
from jungoptic.core.match.compare import judge_member
from jungoptic.core.match.measure import Match
from jungoptic.core.match.stack import Member, ShotPlan
from jungoptic.core.motion.move import Move

from .test_stack import fixed, green, item, stack_of

# --- backing and lamps


def test_a_movement_that_leaves_the_sheet_shows_by_as_much_as_it_leaves(hero, actor, on_green):
    assert item(green(hero, actor, on_green), "backing_edge").amount == 0
    wide = actor.but(moves_from_m=-1.5, moves_to_m=1.0)
    found = item(green(hero, wide, on_green), "backing_edge")
    # 1.5 m at 5 m is seen against 1.5 · 7.5/5 = 2.25 m of the sheet's plane, 0.25 m past its 2 m; f_px/7.5 m
    # a metre.
    f_px = Match(hero, wide, on_green, Delivery()).f_px
    assert found.amount == pytest.approx(0.25 * f_px / 7.5, rel=1e-9) and found.verdict == "shows"
    nearer = on_green.but(
        backing=on_green.backing.but(
            **{k: v for fix in found.fixes if fix.label.endswith("behind") for k, v in fix.changes.items()}
        )
    )
    assert item(green(hero, wide, nearer), "backing_edge").amount == 0


def test_what_the_frame_sees_beside_the_sheet_is_cut_away_with_its_hours(hero, actor, on_green):
    found = item(green(hero, actor, on_green, length_frames=240), "backing_edge")
    assert "loose mask, about 0.33 h" in found.sentence  # ten keys, one a second, of two minutes each


def test_evenness_agrees_with_a_numeric_integral_over_the_lamp(on_green):
    """Common practice asks for a third of a stop; the light itself is held against scipy's integral of the
    face.
    """
    lamp = on_green.lamps[0]
    spots = np.array([(x, y, 2.5) for x in (-1.0, 0.0, 0.9) for y in (0.3, 1.2, 2.0)])
    axis = np.subtract(lamp.aim, lamp.place)
    axis /= np.linalg.norm(axis)
    side = np.cross(axis, (0, 1, 0))
    side /= np.linalg.norm(side)
    up = np.cross(side, axis)
    power = math.log(0.5) / math.log(math.cos(math.radians(lamp.beam_deg / 2)))
    for spot, value in zip(spots, placed.light_on(spots, lamp, (0.0, 0.0, -1.0)), strict=True):

        def share(b: float, a: float, spot=spot) -> float:
            ray = spot - (np.array(lamp.place) + a * side + b * up)
            far = np.linalg.norm(ray)
            aim = np.subtract(lamp.aim, lamp.place)
            along = max(0.0, float(ray @ aim) / (far * np.linalg.norm(aim)))
            return lamp.intensity_cd * along**power * max(0.0, ray[2] / far) / far**2

        half = lamp.face_m / 2
        exact = integrate.dblquad(share, -half, half, -half, half, epsabs=1e-4)[0] / lamp.face_m**2
        assert value == pytest.approx(exact, rel=2e-3)


def test_far_lamps_follow_the_inverse_square():
    """Published: E = I/d² beyond five times the source (IES handbook, from memory)."""
    lamp = PlacedLamp(
        name="spot",
        intensity_cd=18000,
        beam_deg=25,
        face_m=0.14,
        across_m=0,
        height_m=1,
        behind_m=-3,
        aim_height_m=1,
    )
    assert placed.light_on(np.array([[0.0, 1.0, 0.0]]), lamp, (0.0, 0.0, -1.0))[0] == pytest.approx(
        2000, rel=1e-9
    )


def test_a_panel_that_looks_straight_down_lights_all_four_sides_alike():
    panel = PlacedLamp(name="top", intensity_cd=900, face_m=1.0, behind_m=0, height_m=1.5, aim_height_m=0)
    floor = np.array([(1.0, 0.0, 0.0), (-1.0, 0.0, 0.0), (0.0, 0.0, 1.0), (0.0, 0.0, -1.0)])
    lit = placed.light_on(floor, panel, (0.0, 1.0, 0.0))
    assert lit.min() > 1 and lit == pytest.approx(np.full(4, lit[0]), rel=1e-9)


def test_a_dome_takes_half_of_what_comes_from_the_side():
    beside = PlacedLamp(name="spot", intensity_cd=900, across_m=3, height_m=1, behind_m=0, aim_height_m=1)
    front = beside.but(across_m=0, behind_m=-3)
    point = np.array([[0.0, 1.0, 0.0]])
    assert placed.light_on(point, beside, None)[0] == pytest.approx(
        placed.light_on(point, front, None)[0] / 2, rel=1e-9
    )


def test_lamps_too_near_the_sheet_are_uneven_and_further_off_they_even_it(hero, actor, on_green):
    near = tuple(
        lamp.but(height_m=1.6, across_m=1.2 if lamp.across_m > 0 else -1.2, aim_across_m=0)
        for lamp in on_green.lamps
        if lamp.role == "backing"
    )
    stack = green(hero, actor, on_green.but(lamps=near))
    found = item(stack, "evenness")
    assert found.verdict == "shows" and "Lamps further off" in found.sentence
    # by hand: they stand 2.1 m before the sheet at 2.5 m: twice as far is at −1.7 m, and they aim at the
    # sheet
    assert found.fixes[0].label == "Backing lamps 2 times as far"
    assert found.fixes[0].changes["lamps"] == {n: {"behind_m": -1.7, "aim_behind_m": 2.5} for n in (0, 1)}
    evened = item(fixed(stack, 0, found.fixes[0]), "evenness")
    assert evened.verdict == "holds" and not evened.fixes and "It keys evenly." in evened.sentence


def test_spill_is_judged_at_a_rim_and_falls_with_the_distance(hero, actor, on_green):
    near = item(green(hero, actor, on_green.but(backing=on_green.backing.but(behind_m=0.8))), "spill")
    far = item(green(hero, actor, on_green), "spill")
    assert near.amount > far.amount
    sheet = on_green.backing
    plain = on_green.but(lamps=(), illuminance_lx=500.0)
    corners = np.array([(-2, 0, 2.5), (2, 0, 2.5), (2, 3, 2.5), (-2, 3, 2.5)])
    assert (sheet.width_m, sheet.height_m, sheet.behind_m) == (4, 3, 2.5)
    # a body is 0.3 m deep: its side, at half its height, 0.3 m nearer to the sheet than its front
    rim = radiate.polygon_factor(corners, (-0.3, 0.85, 0.3), (-1.0, 0.0, 0.0))
    top = radiate.polygon_factor(corners, (0.0, 1.7, 0.3), (0.0, 1.0, 0.0))
    found = item(green(hero, actor, plain), "spill")
    assert found.amount == pytest.approx(sheet.reflectance * max(rim, top), rel=1e-9)


def test_a_shadow_beside_the_subject_shows_and_a_raised_lamp_hides_it(hero, actor, on_green):
    low = tuple(
        lamp.but(height_m=1.2, across_m=1.4) if lamp.role == "key" else lamp for lamp in on_green.lamps
    )
    shown = item(green(hero, actor, on_green.but(lamps=low)), "backing_shadow")
    assert shown.verdict == "shows" and "beside Actor" in shown.sentence
    high = tuple(
        lamp.but(height_m=4.0, behind_m=-1.0) if lamp.role == "key" else lamp for lamp in on_green.lamps
    )
    assert item(green(hero, actor, on_green.but(lamps=high)), "backing_shadow").amount == 0


def test_a_coat_near_the_sheet_wants_the_other_sheet(hero, actor, on_green):
    coat = actor.but(keep_colours=("#2f8f40",))
    found = item(green(hero, coat, on_green), "backing_colour")
    assert found.verdict == "shows" and found.fixes[0].label == "A blue sheet"
    blue = on_green.but(backing=on_green.backing.but(**found.fixes[0].changes))
    assert item(green(hero, coat, blue), "backing_colour").verdict == "holds"


def test_lamps_that_cannot_give_the_planned_light_say_which_and_how_near(hero, actor, on_green):
    dark = on_green.but(illuminance_lx=20 * lighting.lamps_lx(actor, on_green))
    found = item(green(hero, actor, dark), "light_reach")
    assert found.amount == pytest.approx(math.log2(20), rel=1e-9) and found.verdict == "shows"
    nearer = next(fix for fix in found.fixes if fix.target == "lamps")
    ((at, changes),) = nearer.changes["lamps"].items()
    moved = tuple(lamp.but(**changes) if n == at else lamp for n, lamp in enumerate(dark.lamps))
    assert item(green(hero, actor, dark.but(lamps=moved)), "light_reach").amount < found.amount / 2


def test_the_key_comes_from_the_lamps_as_they_stand(hero, actor, on_green):
    key = lighting.key_of(on_green, actor)
    assert key.lamp.name == "spot"
    assert key.azimuth_deg == pytest.approx(
        math.degrees(math.atan2(2.2, 2.6)), abs=1e-9
    )  # to the right, from behind the camera
    match, judged = judge_member(green(hero, actor, on_green), 0)
    assert match.setup.key_azimuth_deg == pytest.approx(key.azimuth_deg)
    assert "direction" in {one.item for one in judged}


def test_the_sun_gives_the_key_from_place_time_and_heading(hero):
    """Published: NREL/TP-560-34302's worked example, azimuth 194.34°, zenith 50.11°."""
    lit = hero.but(
        sun_at="2003-10-17T12:30:30-07:00", latitude_deg=39.742476, longitude_deg=-105.1786, heading_deg=14.34
    )
    key = lighting.key_of(lit, Layer(name="L", near_m=5))
    assert (
        key.azimuth_deg == pytest.approx(0, abs=0.02)
        and key.elevation_deg == pytest.approx(39.89, abs=0.02)
        and key.size_deg == 0.53
    )
    from_right = lighting.key_of(
        lit.but(heading_deg=104.34), Layer(name="L", near_m=5)
    )  # looking east-south-east, the sun in the south-south-west
    assert from_right.azimuth_deg == pytest.approx(90, abs=0.02)


@given(azimuth=st.floats(-180, 180), elevation=st.floats(-90, 90))
def test_mirrored_twice_is_as_it_was(azimuth, elevation):
    """A picture flopped, of a set that was lit the other way round, is judged as the plain picture of the
    plain set.
    """
    hero = SetUp(
        focal_length_mm=35,
        f_number=8,
        focus_distance_m=5,
        gate_width_mm=23.5,
        gate_height_mm=13.2,
        recorded_width_px=3840,
        recorded_height_px=2160,
        distance_m=5,
        lens_height_m=1.6,
        capture_fps=24,
        iso=800,
        illuminance_lx=960,
        key_azimuth_deg=60,
        key_elevation_deg=20,
    )
    layer = Layer(name="Half", near_m=5)
    plain = Match(
        hero, layer, hero.but(key_azimuth_deg=azimuth, key_elevation_deg=elevation), Delivery()
    ).amounts
    twice = Match(
        hero,
        layer.but(mirrored=True),
        hero.but(key_azimuth_deg=-azimuth, key_elevation_deg=elevation),
        Delivery(),
    ).amounts
    assert twice == plain


def test_a_gloss_that_faces_the_lens_shows_the_camera_and_turned_away_does_not(hero, actor):
    setup = hero.but(distance_m=5)
    facing = item(stack_of(hero, Member(actor.but(gloss_azimuth_deg=0), setup, 2)), "seen_in_gloss")
    assert facing.amount == pytest.approx(10) and facing.verdict == "shows" and "camera" in facing.sentence
    turned = item(stack_of(hero, Member(actor.but(gloss_azimuth_deg=30), setup, 2)), "seen_in_gloss")
    assert turned.amount == 0
    lamp = PlacedLamp(
        name="spot",
        intensity_cd=100,
        across_m=5 * math.sin(math.radians(60)),
        height_m=2,
        behind_m=-5 * math.cos(math.radians(60)),
    )
    assert (
        "spot"
        in item(
            stack_of(hero, Member(actor.but(gloss_azimuth_deg=30), setup.but(lamps=(lamp,)), 2)),
            "seen_in_gloss",
        ).sentence
    )


# --- every fix of what a set shows

LOW_KEY = PlacedLamp(
    name="low", role="key", intensity_cd=5000, across_m=1.0, height_m=2.6, behind_m=-2.0, aim_height_m=1.2
)
DIMMED = {"level": 0.2, "aim_across_m": 1.0}
WALL = Layer(
    name="Wall", kind="model", combine="in_camera", scale=4, near_m=8, width_m=6, height_m=4, fills_frame=True
)
HALF = Layer(
    name="Left half",
    kind="split",
    combine="split",
    near_m=4,
    width_m=1,
    height_m=1.7,
    split_side="left",
    moves_from_m=-1,
    moves_to_m=0.1,
)


def lit_by(setup: SetUp, *keys: PlacedLamp) -> SetUp:
    return setup.but(lamps=(*(lamp for lamp in setup.lamps if lamp.role == "backing"), *keys))


SHOWN = [
    (
        "spill",
        lambda hero, actor, on: green(hero, actor, on.but(backing=on.backing.but(behind_m=0.5))),
        ["backing"],
    ),
    (
        "backing_edge",
        lambda hero, actor, on: green(hero, actor.but(moves_from_m=-3, moves_to_m=3), on),
        ["backing"],
    ),
    ("backing_shadow", lambda hero, actor, on: green(hero, actor, lit_by(on, LOW_KEY)), ["backing", "lamps"]),
    (
        "light_reach",
        lambda hero, actor, on: green(hero, actor, lit_by(on, on.lamps[-1].but(**DIMMED))),
        ["lamps", "set_up"],
    ),
    (
        "light_reach",
        lambda hero, actor, on: green(
            hero, actor, lit_by(on, on.lamps[-1].but(**DIMMED)).but(illuminance_lx=300)
        ),
        ["lamps", "set_up"],
    ),
    (
        "set_edge",
        lambda hero, actor, on: stack_of(
            hero,
            Member(WALL.but(near_m=7), hero.but(distance_m=1.75), 2),
            delivery=Delivery(move=Move(kind="pan", amount=-20)),
        ),
        ["layer"],
    ),
    (
        "seen_in_gloss",
        lambda hero, actor, on: stack_of(
            hero, Member(actor.but(gloss_azimuth_deg=3), hero.but(distance_m=5), 2)
        ),
        ["layer"],
    ),
    (
        "card_turn",
        lambda hero, actor, on: stack_of(hero, Member(actor.but(kind="painted", turned_deg=-50), None, None)),
        ["layer"],
    ),
    (
        "split_line",
        lambda hero, actor, on: stack_of(hero, Member(HALF, hero, 2), plan=ShotPlan(split_px=960)),
        ["layer"],
    ),
    (
        "contact",
        lambda hero, actor, on: stack_of(hero, Member(actor.but(contact="wet_ground", kept=()), hero, 2)),
        ["layer"],
    ),
    (
        "references",
        lambda hero, actor, on: stack_of(hero, Member(actor, hero.but(references=("ball",)), 2)),
        ["set_up"],
    ),
]


@pytest.mark.parametrize(("key", "build", "targets"), SHOWN)
def test_every_fix_of_what_a_set_shows_mends_it(key, build, targets, hero, actor, on_green):
    stack = build(hero, actor, on_green)
    shown = item(stack, key)
    assert shown.verdict != "holds"
    assert [fix.target for fix in shown.fixes] == targets
    for fix in shown.fixes:
        after = item(fixed(stack, 0, fix), key)
        assert after is None or after.verdict == "holds", f"{fix.label}: {after.sentence}"


def test_a_fix_that_is_not_wanted_is_not_offered(hero, actor, on_green):
    """The same items where they hold."""
    lit = lit_by(on_green, on_green.lamps[-1].but(height_m=4.0, behind_m=-1.0))
    stack = green(
        hero,
        actor.but(turned_deg=10, gloss_azimuth_deg=40),
        lit.but(illuminance_lx=0.9 * lighting.lamps_lx(actor, lit)),
    )
    held = {
        key: item(stack, key)
        for key in ("spill", "backing_edge", "backing_shadow", "light_reach", "seen_in_gloss", "card_turn")
    }
    assert {key: one.fixes for key, one in held.items() if one.fixes} == {}
    assert {one.verdict for one in held.values()} == {"holds"}
