"""The whole stack: what one look at the set and at the stack finds, each with the case in which it must not."""

from __future__ import annotations

import math
from dataclasses import replace
from typing import Any

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy import integrate

from jungoptic.core.errors import InputError
from jungoptic.core.light import mains, placed, radiate
from jungoptic.core.light.placed import Backing, PlacedLamp, light_on
from jungoptic.core.match import Delivery, Layer, SetUp, lighting
from jungoptic.core.match.board import BoardLine
from jungoptic.core.match.compare import PlacingErrors, amounts_with, judge_match, judge_member
from jungoptic.core.match.cut import across_cut
from jungoptic.core.match.measure import Match, codes_in_a_stop, distortion_px
from jungoptic.core.match.plate import shadow_on_plane
from jungoptic.core.match.saying import Fix
from jungoptic.core.match.stack import Member, ShotPlan, Stack
from jungoptic.core.match.tolerances import ITEMS, Tolerance
from jungoptic.core.motion.move import Move, fastest_px_per_frame
from jungoptic.core.plan.framing import Framing, share_inside, vertical_cut_px
from jungoptic.core.sources import SOURCES
from jungoptic.core.wording import Words

LOCKED = ("ball", "chart", "tape")


def stack_of(hero: SetUp, *members: Member, plan: ShotPlan | None = None, delivery: Delivery | None = None) -> Stack:
    base = Layer(name="Sea", kind="live", combine="base", near_m=6, depth_m=100, width_m=20, height_m=4, fills_frame=True)
    return Stack(plan or ShotPlan(), delivery or Delivery(), hero, (*members, Member(base, hero.but(references=LOCKED), 1, True)))


def item(stack: Stack, key: str, at: int = 0, **options: Any):
    return next((one for one in judge_member(stack, at, **options)[1] if one.item == key), None)


def fixed(stack: Stack, at: int, fix: Fix) -> Stack:
    """The stack with one fix of the member at ``at`` dialled in."""
    member, setup = stack.members[at], stack.members[at].setup
    if fix.target == "layer":
        member = replace(member, layer=member.layer.but(**fix.changes))
    elif fix.target == "shot":
        return replace(stack, plan=stack.plan.but(**fix.changes))
    elif fix.target == "set_up":
        member = replace(member, setup=setup.but(**fix.changes))
    elif fix.target == "backing":
        member = replace(member, setup=setup.but(backing=setup.backing.but(**fix.changes)))
    else:
        assert fix.target == "lamps"
        moved = tuple(lamp.but(**fix.changes["lamps"].get(n, {})) for n, lamp in enumerate(setup.lamps))
        member = replace(member, setup=setup.but(lamps=moved))
    return replace(stack, members=tuple(member if n == at else other for n, other in enumerate(stack.members)))


@pytest.fixture
def actor() -> Layer:
    return Layer(name="Actor", kind="live_element", combine="key", near_m=5, width_m=0.6, height_m=1.7, contact="ground", kept=("contact_shadow",))


@pytest.fixture
def on_green(hero: SetUp) -> SetUp:
    lamps = tuple(
        PlacedLamp(
            name=f"panel {n}",
            role="backing",
            intensity_cd=900,
            face_m=0.6,
            across_m=x,
            height_m=2.4,
            behind_m=0.4,
            aim_across_m=x / 2,
            aim_height_m=1.2,
            aim_behind_m=2.5,
        )
        for n, x in enumerate((-1.6, 1.6))
    )
    key = PlacedLamp(
        name="spot", role="key", intensity_cd=18000, beam_deg=25, face_m=0.1, across_m=2.2, height_m=3.4, behind_m=-2.6, aim_height_m=1.2
    )
    return hero.but(distance_m=5, focus_distance_m=5, references=LOCKED, lamps=(*lamps, key), backing=Backing(behind_m=2.5, width_m=4, height_m=3))


def green(hero: SetUp, actor: Layer, setup: SetUp, **plan: Any) -> Stack:
    return stack_of(hero, Member(actor, setup, 2), plan=ShotPlan(**plan))


# --- every item is described ------------------------------------------------------------------------------------------


def test_every_item_cites_sources_that_exist_and_can_be_told_in_words():
    for one in ITEMS.values():
        assert one.sources and all(key in SOURCES for key in one.sources), one.key
        assert one.tolerance.tight > one.tolerance.holds > 0


# --- backing and lamps ------------------------------------------------------------------------------------------------


def test_a_movement_that_leaves_the_sheet_shows_by_as_much_as_it_leaves(hero, actor, on_green):
    assert item(green(hero, actor, on_green), "backing_edge").amount == 0
    wide = actor.but(moves_from_m=-1.5, moves_to_m=1.0)
    found = item(green(hero, wide, on_green), "backing_edge")
    # 1.5 m at 5 m is seen against 1.5 · 7.5/5 = 2.25 m of the sheet's plane, 0.25 m past its 2 m; f_px/7.5 m a metre.
    f_px = Match(hero, wide, on_green, Delivery()).f_px
    assert found.amount == pytest.approx(0.25 * f_px / 7.5, rel=1e-9) and found.verdict == "shows"
    nearer = on_green.but(
        backing=on_green.backing.but(**{k: v for fix in found.fixes if fix.label.endswith("behind") for k, v in fix.changes.items()})
    )
    assert item(green(hero, wide, nearer), "backing_edge").amount == 0


def test_what_the_frame_sees_beside_the_sheet_is_cut_away_with_its_hours(hero, actor, on_green):
    found = item(green(hero, actor, on_green, length_frames=240), "backing_edge")
    assert "loose mask, about 0.33 h" in found.sentence  # ten keys, one a second, of two minutes each


def test_evenness_agrees_with_a_numeric_integral_over_the_lamp(on_green):
    """Common practice asks for a third of a stop; the light itself is held against scipy's integral of the face."""
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
    lamp = PlacedLamp(name="spot", intensity_cd=18000, beam_deg=25, face_m=0.14, across_m=0, height_m=1, behind_m=-3, aim_height_m=1)
    assert placed.light_on(np.array([[0.0, 1.0, 0.0]]), lamp, (0.0, 0.0, -1.0))[0] == pytest.approx(2000, rel=1e-9)


def test_a_panel_that_looks_straight_down_lights_all_four_sides_alike():
    panel = PlacedLamp(name="top", intensity_cd=900, face_m=1.0, behind_m=0, height_m=1.5, aim_height_m=0)
    floor = np.array([(1.0, 0.0, 0.0), (-1.0, 0.0, 0.0), (0.0, 0.0, 1.0), (0.0, 0.0, -1.0)])
    lit = placed.light_on(floor, panel, (0.0, 1.0, 0.0))
    assert lit.min() > 1 and lit == pytest.approx(np.full(4, lit[0]), rel=1e-9)


def test_a_dome_takes_half_of_what_comes_from_the_side():
    beside = PlacedLamp(name="spot", intensity_cd=900, across_m=3, height_m=1, behind_m=0, aim_height_m=1)
    front = beside.but(across_m=0, behind_m=-3)
    point = np.array([[0.0, 1.0, 0.0]])
    assert placed.light_on(point, beside, None)[0] == pytest.approx(placed.light_on(point, front, None)[0] / 2, rel=1e-9)


def test_lamps_too_near_the_sheet_are_uneven_and_further_off_they_even_it(hero, actor, on_green):
    near = tuple(
        lamp.but(height_m=1.3, across_m=1.2 if lamp.across_m > 0 else -1.2, aim_across_m=0) for lamp in on_green.lamps if lamp.role == "backing"
    )
    stack = green(hero, actor, on_green.but(lamps=near))
    found = item(stack, "evenness")
    assert found.verdict == "shows" and "Lamps further off" in found.sentence
    # by hand: they stand 2.1 m before the sheet at 2.5 m: twice as far is at −1.7 m, and they aim at the sheet
    assert found.fixes[0].label == "Backing lamps 2 times as far"
    assert found.fixes[0].changes["lamps"] == {n: {"behind_m": -1.7, "aim_behind_m": 2.5} for n in (0, 1)}
    evened = item(fixed(stack, 0, found.fixes[0]), "evenness")
    assert evened.verdict == "holds" and not evened.fixes and "It keys evenly." in evened.sentence


def test_spill_is_judged_at_a_rim_and_falls_with_the_distance(hero, actor, on_green):
    near = item(green(hero, actor, on_green.but(backing=on_green.backing.but(behind_m=0.8))), "spill")
    far = item(green(hero, actor, on_green), "spill")
    assert near.amount > far.amount
    sheet, lit = on_green.backing, 500.0
    plain = on_green.but(lamps=(), illuminance_lx=lit)
    rim = radiate.rectangle_factor(sheet.width_m, sheet.height_m, sheet.behind_m, 90.0)
    assert item(green(hero, actor, plain), "spill").amount == pytest.approx(sheet.reflectance * rim, rel=1e-9)


@settings(max_examples=60)
@given(
    across=st.floats(-3, 3), height=st.floats(0.5, 4), behind=st.floats(-4, -0.5), z=st.floats(0.5, 4), share=st.floats(0, 1), up=st.floats(0.05, 1)
)  # fmt: skip
def test_a_shadow_is_where_rays_past_the_subject_land(across, height, behind, z, share, up):
    lamp = PlacedLamp(name="spot", intensity_cd=1000, across_m=across, height_m=height, behind_m=behind)
    setup = SetUp(focal_length_mm=35, f_number=8, focus_distance_m=5, gate_width_mm=23.5, gate_height_mm=13.2, recorded_width_px=3840, recorded_height_px=2160, distance_m=5, lens_height_m=1.6, capture_fps=24, iso=800, illuminance_lx=960)  # fmt: skip
    layer = Layer(name="Box", near_m=5, width_m=0.6, height_m=1.7)
    left, right, top = shadow_on_plane(layer, setup, lamp, z)
    point = np.array([-0.3 + 0.6 * share, 1.7 * up, 0.0])  # a point of the subject, brute force: along the ray to the plane
    start = np.array(lamp.place)
    hit = start + (point - start) * (z - behind) / -behind
    assert left - 1e-9 <= hit[0] <= right + 1e-9 and hit[1] <= top + 1e-9


def test_a_shadow_beside_the_subject_shows_and_a_raised_lamp_hides_it(hero, actor, on_green):
    low = tuple(lamp.but(height_m=1.2, across_m=1.4) if lamp.role == "key" else lamp for lamp in on_green.lamps)
    shown = item(green(hero, actor, on_green.but(lamps=low)), "backing_shadow")
    assert shown.verdict == "shows" and "beside Actor" in shown.sentence
    high = tuple(lamp.but(height_m=4.0, behind_m=-1.0) if lamp.role == "key" else lamp for lamp in on_green.lamps)
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
    assert key.by == "spot"
    assert key.azimuth_deg == pytest.approx(math.degrees(math.atan2(2.2, 2.6)), abs=1e-9)  # to the right, from behind the camera
    match, judged = judge_member(green(hero, actor, on_green), 0)
    assert match.setup.key_azimuth_deg == pytest.approx(key.azimuth_deg)
    assert "direction" in {one.item for one in judged}


def test_the_sun_gives_the_key_from_place_time_and_heading(hero):
    """Published: NREL/TP-560-34302's worked example, azimuth 194.34°, zenith 50.11°."""
    lit = hero.but(sun_at="2003-10-17T12:30:30-07:00", latitude_deg=39.742476, longitude_deg=-105.1786, heading_deg=14.34)
    key = lighting.key_of(lit, Layer(name="L", near_m=5))
    assert key.azimuth_deg == pytest.approx(0, abs=0.02) and key.elevation_deg == pytest.approx(39.89, abs=0.02) and key.size_deg == 0.53
    from_right = lighting.key_of(lit.but(heading_deg=104.34), Layer(name="L", near_m=5))  # looking east-south-east, the sun in the south-south-west
    assert from_right.azimuth_deg == pytest.approx(90, abs=0.02)


@given(azimuth=st.floats(-180, 180), elevation=st.floats(-90, 90))
def test_mirrored_twice_is_as_it_was(azimuth, elevation):
    """A picture flopped, of a set that was lit the other way round, is judged as the plain picture of the plain set."""
    hero = SetUp(focal_length_mm=35, f_number=8, focus_distance_m=5, gate_width_mm=23.5, gate_height_mm=13.2, recorded_width_px=3840, recorded_height_px=2160, distance_m=5, lens_height_m=1.6, capture_fps=24, iso=800, illuminance_lx=960, key_azimuth_deg=60, key_elevation_deg=20)  # fmt: skip
    layer = Layer(name="Half", near_m=5)
    plain = Match(hero, layer, hero.but(key_azimuth_deg=azimuth, key_elevation_deg=elevation), Delivery()).amounts
    twice = Match(hero, layer.but(mirrored=True), hero.but(key_azimuth_deg=-azimuth, key_elevation_deg=elevation), Delivery()).amounts
    assert twice == plain


def test_a_gloss_that_faces_the_lens_shows_the_camera_and_turned_away_does_not(hero, actor):
    setup = hero.but(distance_m=5)
    facing = item(stack_of(hero, Member(actor.but(gloss_azimuth_deg=0), setup, 2)), "seen_in_gloss")
    assert facing.amount == pytest.approx(10) and facing.verdict == "shows" and "camera" in facing.sentence
    turned = item(stack_of(hero, Member(actor.but(gloss_azimuth_deg=30), setup, 2)), "seen_in_gloss")
    assert turned.amount == 0
    lamp = PlacedLamp(name="spot", intensity_cd=100, across_m=5 * math.sin(math.radians(60)), height_m=2, behind_m=-5 * math.cos(math.radians(60)))
    assert "spot" in item(stack_of(hero, Member(actor.but(gloss_azimuth_deg=30), setup.but(lamps=(lamp,)), 2)), "seen_in_gloss").sentence


# --- completeness -----------------------------------------------------------------------------------------------------


def test_a_rig_wants_a_clean_plate_and_the_fix_plans_one(hero):
    rig = Layer(name="Rope", kind="rig", combine="difference", near_m=4, width_m=0.2, height_m=3)
    found = item(stack_of(hero, Member(rig, hero, 2)), "clean_plate")
    assert found.verdict == "shows"
    plate = Layer.read({**found.fixes[0].changes})
    assert plate.kind == "clean_plate"
    assert item(stack_of(hero, Member(rig, hero, 2), Member(plate, hero, 2)), "clean_plate").amount == 0


@pytest.mark.parametrize(("field", "value"), [("focus_distance_m", 9.0), ("f_number", 11.0), ("white_balance_k", 5000.0), ("lens_height_m", 1.4)])
def test_a_clean_plate_with_another_setting_does_not_cover(hero, field, value):
    rig = Layer(name="Rope", kind="rig", combine="difference", near_m=4, width_m=0.2, height_m=3)
    plate = Layer(name="Clean", kind="clean_plate", combine="behind", near_m=4.1, width_m=6, height_m=3)
    rigged, hero = hero.but(distance_m=4), hero.but(distance_m=4.1)  # one place of the lens, counted to two near ends
    same = item(stack_of(hero, Member(rig, rigged, 2), Member(plate, hero, 3)), "clean_match", 1)
    assert same.amount == 0
    other = hero.but(**{field: value})
    found = item(stack_of(hero, Member(rig, rigged, 2), Member(plate, other, 3)), "clean_match", 1)
    assert found.amount == 2 and found.verdict == "shows"
    assert other.but(**found.fixes[0].changes) == hero
    aside = item(stack_of(hero, Member(rig, rigged, 2), Member(plate, hero.but(distance_m=4.6), 3)), "clean_match", 1)
    assert aside.fixes[0].changes == {"distance_m": 4.1}


def test_contact_and_reflection_are_asked_for_where_something_stands(hero, actor):
    wet = actor.but(contact="wet_ground", kept=())
    found = item(stack_of(hero, Member(wet, hero, 2)), "contact")
    assert found.amount == 3 and found.verdict == "shows"
    assert item(stack_of(hero, Member(wet.but(**found.fixes[0].changes), hero, 2)), "contact").amount == 0
    shadow = Layer(name="Shadow", kind="shadow_pass", combine="multiply", near_m=5)
    assert item(stack_of(hero, Member(wet, hero, 2), Member(shadow, hero, 2)), "contact").amount == 1  # the reflection is still missing
    assert item(stack_of(hero, Member(actor.but(contact="nothing"), hero, 2)), "contact") is None


def test_references_are_asked_for_once_in_every_light(hero, actor):
    bare = hero.but(references=())
    stack = stack_of(hero, Member(actor, bare, 2), Member(actor.but(name="Again"), bare, 2))
    assert item(stack, "references").amount == 1 and item(stack, "references").verdict == "tight"
    assert item(stack, "references", 1) is None
    assert item(stack_of(hero, Member(actor, hero.but(references=LOCKED), 2)), "references").verdict == "holds"


def test_an_arm_over_the_split_line_shows_by_its_reach(hero):
    half = Layer(
        name="Left half", kind="split", combine="split", near_m=4, width_m=1, height_m=1.7, split_side="left", moves_from_m=-1, moves_to_m=0.1
    )
    plan = ShotPlan(split_px=960, split_feather_px=20)
    match, _ = judge_member(stack_of(hero, Member(half, hero, 2), plan=plan), 0)
    found = item(stack_of(hero, Member(half, hero, 2), plan=plan), "split_line")
    assert found.amount == pytest.approx(match.f_hero_px * 0.1 / 4 - 10)
    assert item(stack_of(hero, Member(half.but(moves_to_m=-0.1), hero, 2), plan=plan), "split_line").amount == 0
    assert item(stack_of(hero, Member(half.but(split_side="right", moves_from_m=0, moves_to_m=1), hero, 2), plan=plan), "split_line").amount == 0


def test_a_thing_above_its_matte_line_and_where_the_camera_may_stand(hero):
    tower = Layer(name="Tower", kind="live", combine="hand_matte", near_m=20, width_m=4, height_m=8, matte_line_px=100)
    found = item(stack_of(hero, Member(tower, hero, 1)), "matte_line")
    assert found.verdict == "shows" and "It stays below with the lens at" in found.sentence
    away = next(fix for fix in found.fixes if fix.target == "layer" and "near_m" in fix.changes)
    assert item(stack_of(hero, Member(tower.but(**away.changes), hero, 1)), "matte_line").amount == 0
    line = next(fix for fix in found.fixes if "matte_line_px" in fix.changes)
    assert item(stack_of(hero, Member(tower.but(**line.changes), hero, 1)), "matte_line").amount == 0


def test_what_recurs_in_the_place_must_be_here(hero, actor):
    plan = ShotPlan(recurring=("leaning post",))
    found = item(stack_of(hero, Member(actor, hero, 2), plan=plan), "recurring", 1)
    assert found.verdict == "shows" and found.fixes[0].changes == {"carries": ["leaning post"]}
    assert item(stack_of(hero, Member(actor, hero, 2), plan=plan.but(carries=("Leaning Post",))), "recurring", 1).amount == 0
    assert item(stack_of(hero, Member(actor.but(name="Leaning post"), hero, 2), plan=plan), "recurring", 1).amount == 0


def test_lettering_in_a_mirrored_half_reads_the_wrong_way(hero, actor):
    flopped = actor.but(mirrored=True, lettering=True)
    assert item(stack_of(hero, Member(flopped, hero, 2)), "handed").verdict == "shows"
    assert item(stack_of(hero, Member(flopped.but(lettering=False), hero, 2)), "handed").verdict == "holds"
    assert item(stack_of(hero, Member(actor, hero, 2)), "handed") is None
    # the light of a mirrored half comes from the other side
    assert item(stack_of(hero, Member(actor, hero, 2)), "direction").amount == 0
    assert item(stack_of(hero, Member(flopped, hero, 2)), "direction").verdict == "shows"


def test_air_that_nothing_stands_for(hero):
    far = Layer(name="Mill", kind="painted", near_m=300, width_m=10, height_m=9)
    found = item(stack_of(hero, Member(far, None, None), plan=ShotPlan(visibility_m=2000)), "haze")
    assert found.amount == pytest.approx(44.4, abs=0.05)  # published formula: Koschmieder, V 2 km, 300 m
    fog = Layer.read(found.fixes[0].changes)
    assert item(stack_of(hero, Member(fog, None, None), Member(far, None, None), plan=ShotPlan(visibility_m=2000)), "haze", 1).amount == 0
    assert item(stack_of(hero, Member(far, None, None)), "haze") is None


def test_a_card_turned_from_the_lens(hero):
    card = Layer(name="Reeds", kind="painted", near_m=3, turned_deg=25)
    assert item(stack_of(hero, Member(card, None, None)), "card_turn").verdict == "tight"  # common practice: 20 to 30°


def test_a_set_that_ends_inside_the_frame_over_the_whole_move(hero):
    built = Layer(name="Wall", kind="model", combine="in_camera", scale=4, near_m=8, width_m=6, height_m=4, fills_frame=True)
    setup = hero.but(distance_m=2, focus_distance_m=2)
    still = item(stack_of(hero, Member(built, setup, 2)), "set_edge")
    assert still.amount == 0
    slid = item(stack_of(hero, Member(built, setup, 2), delivery=Delivery(move=Move(kind="slide", amount=1.0))), "set_edge")
    assert slid.amount > 0 and slid.verdict == "shows"
    # derived: the wall reaches 3/8 of f to either side; half the frame and what the pan brings in are needed
    panned = item(stack_of(hero, Member(built, setup, 2), delivery=Delivery(move=Move(kind="pan", amount=10))), "set_edge")
    f_px = 35 * 12000 / (12000 - 35) * 1920 / 23.5
    assert panned.amount == pytest.approx(960 + f_px * math.tan(math.radians(10)) - f_px * 3 / 8)
    short_m = panned.amount / f_px * 8
    assert panned.fixes[0].changes == {"width_m": pytest.approx(6 + 2 * short_m, abs=0.02)}


# --- camera, lens, move -----------------------------------------------------------------------------------------------


def test_the_new_items_of_a_hero_against_itself_are_nothing(hero, delivery):
    whole = hero.but(distortion_pct=-1.2, vignetting_stops=0.7, readout_ms=12, key_size_deg=0.53, key_to_fill_stops=2)
    layer = Layer(name="Same", near_m=12, depth_m=6, driver="gravity", speed_m_s=2)
    moving = delivery.but(move=Move(kind="slide", amount=2))
    found = Match(whole, layer, whole.but(distance_m=12), moving).amounts
    assert {"distortion", "vignetting", "skew", "hardness", "key_fill", "move"} <= set(found)
    assert all(found[key] == pytest.approx(0, abs=1e-9) for key in found if key not in ("sharpness",))


def test_one_per_cent_of_distortion_is_eleven_pixels_in_the_corner(hero):
    """Common practice: 1 % is about 11 px in the corner of 1920."""
    assert distortion_px(hero.but(distortion_pct=1.0), Delivery()) == pytest.approx(11.01, abs=0.01)


def test_codes_of_the_legal_range():
    """Published, from memory: ITU-R BT.709, 219 steps of 8 bits, 876 of 10 (877 codes)."""
    assert codes_in_a_stop(8) == pytest.approx(219 * (1.099 * 0.18**0.45 - 1.099 * 0.09**0.45))
    assert codes_in_a_stop(10) / codes_in_a_stop(8) == 4


@pytest.mark.parametrize(("hz", "angle"), [(50, 172.8), (60, 144)])
def test_the_usual_shutter_angles_are_steady_under_the_mains(hero, hz, angle):
    """Common practice: 24 frames/s, 172.8° under 50 Hz, 144° under 60 Hz."""
    layer = Layer(name="Room", near_m=5)
    lit = hero.but(ripple_depth=0.4, mains_hz=hz)
    assert Match(hero, layer, lit.but(shutter_angle_deg=angle), Delivery()).amounts["flicker"] == pytest.approx(0, abs=1e-9)
    elsewhere = Match(hero, layer, lit.but(shutter_angle_deg=angle * 0.7), Delivery()).amounts["flicker"]
    assert elsewhere > 0.05 if hz == 50 else elsewhere == 0  # 24 divides 120 evenly: every frame sees the same
    assert any(math.isclose(one, angle) for one in mains.clean_angles_deg(hz, 24))


def test_clipping_counts_the_highlight_the_exposure_and_the_headroom(hero):
    bright = Layer(name="Lamp", near_m=5, brightest_stops=7)
    over = Match(hero, bright, hero, Delivery())
    assert over.amounts["clipping"] == pytest.approx(7 + over.stops - 6)
    assert Match(hero, bright, hero.but(nd_stops=2), Delivery()).amounts["clipping"] == 0


def test_a_key_from_few_bits_and_wide_samples(hero, actor):
    small = hero.but(recorded_width_px=1920, recorded_height_px=1080, sampling="4:2:0", bit_depth=8, long_groups=True)
    found = Match(hero, actor, small, Delivery()).amounts
    assert found["chroma"] == 2 and found["codes"] == pytest.approx(2 * 50 / codes_in_a_stop(8))
    assert "chroma" not in Match(hero, actor.but(combine="hand_matte"), small, Delivery()).amounts


def test_a_slide_that_the_model_does_not_make_shows_its_depth(hero, mill, model):
    sliding = Delivery(move=Move(kind="slide", amount=1.2))
    made = Match(hero, mill, model, sliding)
    assert made.travel_m == pytest.approx(0.1) and made.amounts["move"] == 0
    still = Match(hero, mill, model.but(follows_move=False), sliding)
    assert still.amounts["move"] == pytest.approx(still.f_px * 0.1 * (1 / 1.0 - 1 / 1.5))
    assert "move" not in Match(hero, mill, model, Delivery(move=Move(kind="pan", amount=20))).amounts  # a pan is laid on


def test_an_entrance_pupil_off_the_axis_in_a_pan(hero):
    hung = Layer(name="Tower", kind="model", combine="in_camera", scale=20, near_m=30, width_m=10, height_m=10)
    setup = hero.but(distance_m=1.5, pupil_off_mm=30)
    found = Match(hero, hung, setup, Delivery(move=Move(kind="pan", amount=30)))
    assert found.amounts["pupil"] == pytest.approx(found.f_px * 0.030 * 0.5 * (1 / 1.5 - 1 / 30))


@given(
    start=st.integers(0, 50), steady=st.integers(0, 100), ease_in=st.integers(0, 100), ease_out=st.integers(0, 100), amount=st.floats(-50, 50)
)  # fmt: skip
def test_an_eased_move_begins_and_ends_where_it_must_and_never_turns_back(start, steady, ease_in, ease_out, amount):
    long = max(2, ease_in + steady + ease_out)
    move = Move(kind="slide", amount=amount, start_frame=start, end_frame=start + long, ease_in_frames=ease_in, ease_out_frames=ease_out)
    shares = [move.share_at(frame) for frame in range(start, start + long + 1)]
    assert shares[0] == 0 and shares[-1] == pytest.approx(1)
    steps = np.diff(shares)
    assert (steps >= -1e-12).all()
    assert steps.max() * abs(amount) <= move.fastest_per_frame + 1e-9


@pytest.mark.parametrize(
    ("wrong", "field"),
    [
        ({"start_frame": 30, "end_frame": 30}, "end_frame"),
        ({"end_frame": 20, "ease_in_frames": 12, "ease_out_frames": 9}, "ease_out_frames"),
    ],
)  # fmt: skip
def test_a_move_that_cannot_be_is_refused_at_its_field(wrong, field):
    with pytest.raises(InputError) as caught:
        Move.read({"kind": "pan", "amount": 10, **wrong})
    assert [problem.field for problem in caught.value.problems] == [field]


def test_the_fastest_moment_of_a_pan_in_pixels(hero):
    move = Move(kind="pan", amount=20, start_frame=0, end_frame=36)
    f = 2860.0
    assert fastest_px_per_frame(move, f, 10, 960) == pytest.approx(f * math.radians(20) / 36)
    quick = stack_of(hero, plan=ShotPlan(length_frames=200), delivery=Delivery(move=move))
    found = item(quick, "judder", 0)
    assert found.verdict == "shows"
    slower = Delivery(move=move.but(**{"end_frame": found.fixes[0].changes["move_end_frame"]}))
    assert item(stack_of(hero, plan=ShotPlan(length_frames=200), delivery=slower), "judder", 0).verdict == "holds"


# --- finish, errors, schools ------------------------------------------------------------------------------------------


def test_black_and_white_lets_colour_inform_and_models_shown_openly_let_time_inform(hero, mill, model):
    def read(**finish: Any) -> dict[str, Any]:
        return {one.item: one for one in judge_match(Match(hero, mill, model.but(light_k=4000), Delivery(**finish)))}

    assert read()["colour"].verdict == "shows" and not read()["colour"].informs
    grey = read(black_and_white=True)["colour"]
    assert grey.verdict == "holds" and "black and white" in grey.informs
    open_ = read(shows_models=True)
    assert open_["time"].informs and open_["focus_far"].informs
    assert not open_["height"].informs and open_["height"].verdict == "shows"  # joins still judge


def test_softness_at_the_end_covers_what_is_smaller_than_it(hero, mill, model):
    near = model.but(lens_height_m=0.1355)
    before = {one.item: one for one in judge_match(Match(hero, mill, near, Delivery()))}["height"]
    after = {one.item: one for one in judge_match(Match(hero, mill, near, Delivery(soften_px=6)))}["height"]
    assert before.verdict != "holds" and after.verdict == "holds" and after.holds == 6
    assert Delivery(soften_px=6, black_and_white=True).before_finish() == Delivery()


def test_both_schools_stand_side_by_side(hero, mill, model):
    measured = {one.item: one for one in judge_match(Match(hero, mill, model, Delivery()), school="measured")}
    covered = {one.item: one for one in judge_match(Match(hero, mill, model, Delivery()), school="covered")}
    assert len(measured) >= 12
    for key, one in measured.items():
        assert (one.other_verdict, one.other_holds) == (covered[key].verdict, covered[key].holds)
        assert covered[key].other_verdict == one.verdict


@settings(max_examples=40)
@given(tape=st.floats(0, 0.02), level=st.floats(0, 2))
def test_a_tapes_error_only_ever_adds(tape, level):
    hero = SetUp(focal_length_mm=35, f_number=8, focus_distance_m=12, gate_width_mm=23.5, gate_height_mm=13.2, recorded_width_px=3840, recorded_height_px=2160, distance_m=12, lens_height_m=1.6, capture_fps=24, iso=800, illuminance_lx=960)  # fmt: skip
    match = Match(
        hero,
        Layer(name="M", kind="model", scale=12, near_m=12, depth_m=6),
        hero.but(distance_m=1, focus_distance_m=1, lens_height_m=0.1333),
        Delivery(),
    )
    found = amounts_with(match, PlacingErrors(tape, level))
    assert all(found[key] >= match.amounts[key] - 1e-12 for key in match.amounts)


def test_a_millimetre_of_the_tape_is_about_a_pixel_of_height(hero, mill, model):
    """Common practice of the scale: on a 1:12 model with contacts at 1.0 and 1.5 m one pixel is about 1 mm of camera height."""
    match = Match(hero, mill, model.but(lens_height_m=hero.lens_height_m / 12), Delivery())
    assert match.amounts["height"] == pytest.approx(0, abs=1e-9)
    assert amounts_with(match, PlacingErrors(tape_m=0.001))["height"] == pytest.approx(1.0, abs=0.05)


@given(amount=st.floats(0, 100), more=st.floats(0, 100))
def test_accepting_more_error_never_betters_a_verdict(amount, more):
    order = {"holds": 0, "tight": 1, "shows": 2}
    from jungoptic.core.match.tolerances import ladder, verdict

    for one in ITEMS.values():
        limit = Tolerance(one.tolerance.holds, one.tolerance.tight)
        assert order[verdict(amount + more, limit)] >= order[verdict(amount, limit)]
        assert ladder(amount + more, limit) >= ladder(amount, limit)


# --- framing and the cut ----------------------------------------------------------------------------------------------


def test_framing_first_is_the_union_of_all_that_is_delivered():
    whole = Framing(1920, 1080, margin_pct=10)
    assert whole.needed_px == pytest.approx((2112, 1188))
    cut = vertical_cut_px(1920, 1080)
    assert cut == pytest.approx(607.5)
    only = Framing(1920, 1080, cut_width_px=cut, only_cut=True)
    assert only.needed_px == pytest.approx((607.5, 1080))
    aside = Framing(1920, 1080, cut_width_px=cut, cut_at_px=300, only_cut=True)  # as far left as it goes is half its width
    assert aside.needed_box[0] == 0 and aside.needed_px[0] == 1920
    assert share_inside((0, 0, 1920, 1080), only.needed_box) == pytest.approx(607.5 / 1920)
    assert share_inside((5000, 0, 5100, 10), only.needed_box) == 0


def test_a_narrower_delivery_needs_less_of_the_gate(hero):
    wall = Layer(name="Wall", near_m=12, width_m=20, height_m=10, fills_frame=True)
    tight = hero.but(distance_m=12)
    assert Match(hero, wall.but(resize=0.9), tight, Delivery()).amounts["edges"] > 3
    assert Match(hero, wall.but(resize=0.9), tight, Delivery(needed_width_px=607.5, needed_height_px=900)).amounts["edges"] == 0


def test_across_the_cut_light_is_compared_over_the_ground(hero):
    words = Words()
    looking_back = hero.but(heading_deg=(hero.heading_deg + 180) % 360, key_azimuth_deg=hero.key_azimuth_deg - 180)
    same = across_cut(hero, looking_back, "TM020", ("left", "left"), words)
    assert {one.verdict for one in same} == {"holds"}
    other = across_cut(hero, hero.but(key_azimuth_deg=hero.key_azimuth_deg - 90, lens_height_m=0.4), "TM020", ("left", "right"), words)
    assert {one.item for one in other if one.verdict == "shows"} >= {"direction", "height", "screen_direction"}
    assert other[0].ladder == max(one.ladder for one in other)


# --- the stack as a whole ---------------------------------------------------------------------------------------------


def test_only_what_needs_nothing_beside_it_is_judged_of_a_hero(hero, actor):
    _, judged = judge_member(stack_of(hero, Member(actor, hero, 2)), 1)
    assert all(ITEMS[one.item].alone for one in judged)


@settings(max_examples=40)
@given(s=st.floats(1.5, 48), near=st.floats(4, 60), depth=st.floats(0, 20), stop=st.sampled_from([2.8, 4.0, 5.6]), move=st.floats(-3, 3))
def test_a_scaled_world_with_its_scaled_move_keeps_its_parallax(s, near, depth, stop, move):
    hero = SetUp(focal_length_mm=35, focusing="constant_view", f_number=stop, focus_distance_m=near, gate_width_mm=23.5, gate_height_mm=13.2, recorded_width_px=3840, recorded_height_px=2160, distance_m=near, lens_height_m=1.6, capture_fps=24, iso=800, illuminance_lx=960)  # fmt: skip
    layer = Layer(name="M", kind="model", scale=s, near_m=near, depth_m=depth)
    setup = hero.but(f_number=stop * s, focus_distance_m=near / s, distance_m=near / s, lens_height_m=1.6 / s)
    found = Match(hero, layer, setup, Delivery(move=Move(kind="slide", amount=move))).amounts
    for key in ("perspective", "height", "tilt", "roll", "focus_near"):
        assert found[key] == pytest.approx(0, abs=0.02), key
    assert found.get("move", 0) == pytest.approx(0, abs=1e-6)


def test_the_kept_values_of_a_judgement_are_those_of_the_amount(hero, actor, on_green):
    _, judged = judge_member(green(hero, actor.but(moves_to_m=2), on_green, visibility_m=50), 0)
    assert judged
    for one in judged:
        assert one.sentence and one.where is not None
        assert all(value.symbol and value.meaning for value in one.values())
        assert replace(one, ladder=one.ladder) == one


# --- what a production, a place and a board say -----------------------------------------------------------------------------


def test_a_productions_own_tolerance_holds_for_layers_of_a_stack(hero, mill, model):
    stack = stack_of(hero, Member(mill, model, 2))
    usual = item(stack, "height")
    generous = item(stack, "height", tolerances={"height": Tolerance(2 * usual.amount, 3 * usual.amount)})
    assert (usual.verdict, generous.verdict) == ("shows", "holds") and generous.amount == usual.amount


def test_what_wants_a_clean_plate_is_named(hero):
    rope = Layer(name="Rope", kind="rig", combine="hand_matte", near_m=4, width_m=0.2, height_m=3)
    assert item(stack_of(hero, Member(rope, hero, 2)), "clean_plate").where == "for the rig"
    half = Layer(name="Half", kind="split", combine="split", near_m=4, width_m=1, height_m=1.7)
    assert item(stack_of(hero, Member(half, hero, 2)), "clean_plate").where == "for the split"
    element = rope.but(kind="live_element", combine="difference")
    assert item(stack_of(hero, Member(element, hero, 2)), "clean_plate").where == "for the difference matte"
    assert item(stack_of(hero, Member(element.but(combine="key"), hero, 2)), "clean_plate") is None
    lines = tuple(BoardLine(kind="paint_out", points=((10, 10), (20, 10), (20, 20)), layer="Rope", note=note) for note in ("mic stand", "rail"))
    drawn = item(stack_of(hero, Member(element.but(combine="key"), hero, 2), plan=ShotPlan(lines=lines)), "clean_plate")
    assert drawn.where == "for mic stand and rail to be painted out"
    loose = BoardLine(kind="paint_out", points=((10, 10), (20, 10), (20, 20)))
    stack = stack_of(hero, Member(rope, hero, 2), plan=ShotPlan(lines=(loose,)))
    assert [stack.painted_out(member) for member in stack.members] == [(), (loose,)]  # what names no layer is in the hero


def test_a_clean_plate_of_a_model_is_counted_at_its_own_scale(hero):
    # by hand: 1:12, near ends 12 m and 24 m away full size stand 1 m and 2 m from the same lens
    rig = Layer(name="Rope", kind="rig", combine="difference", scale=12, near_m=12, width_m=2, height_m=3)
    plate = Layer(name="Clean", kind="clean_plate", combine="behind", scale=12, near_m=24, width_m=6, height_m=3)
    rigged = hero.but(distance_m=1, focus_distance_m=1)

    def cleaned(distance_m: float):
        return item(stack_of(hero, Member(rig, rigged, 2), Member(plate, rigged.but(distance_m=distance_m), 3)), "clean_match", 1)

    assert cleaned(2.0).amount == 0
    aside = cleaned(2.005)
    assert aside.amount == 2 and aside.fixes[0].changes == {"distance_m": 2.0}
    assert [value.text for value in aside.values()] == ["1 m"]


def test_a_line_of_the_board_carries_what_recurs(hero, actor):
    post = BoardLine(kind="recurring", points=((10, 10),), thing="Leaning post")
    plan = ShotPlan(recurring=("leaning post", "far mill"))
    lacking = item(stack_of(hero, Member(actor, hero, 2), plan=plan), "recurring", 1)
    assert lacking.amount == 4 and lacking.sentence.startswith("The place has leaning post, far mill; ")
    assert item(stack_of(hero, Member(actor, hero, 2), plan=plan.but(lines=(post,))), "recurring", 1).amount == 2


def test_a_fill_that_is_switched_off_fills_nothing(actor, on_green):
    fill = PlacedLamp(name="fill", role="fill", intensity_cd=2000, across_m=-2, height_m=1.6, behind_m=-3, aim_height_m=1.2)
    lit = on_green.but(lamps=(*on_green.lamps, fill), key_to_fill_stops=3.0)
    point = lighting.subject_point(actor, lit)
    key = next(lamp for lamp in lit.lamps if lamp.role == "key")
    # by the definition: light of the key and the fill together over the fill alone, as the meter's dome takes it; the sheet's lamps are neither
    filled = lighting.metered_lx(fill, point)
    expected = math.log2((lighting.facing_lamp_lx(key, point) + filled) / filled)
    assert lighting.key_of(lit, actor).to_fill_stops == pytest.approx(expected)
    off = lit.but(lamps=(*on_green.lamps, fill.but(level=0)))
    assert lighting.key_of(off, actor).to_fill_stops == 3.0


def test_a_time_without_a_place_leaves_the_key_as_it_was_stated(hero):
    timed = hero.but(sun_at="2003-10-17T12:30:30-07:00")
    layer = Layer(name="L", near_m=5)
    for half in (timed, timed.but(latitude_deg=39.7), timed.but(longitude_deg=-105.2)):
        key = lighting.key_of(half, layer)
        assert (key.azimuth_deg, key.elevation_deg, key.by) == (118, 14, "")


def test_a_neighbour_whose_key_nobody_stated_is_compared_in_the_rest(hero):
    unlit = hero.but(key_azimuth_deg=None)
    for here, there in ((hero, unlit), (unlit, hero)):
        found = {one.item: one for one in across_cut(here, there, "TM020", ("", ""), Words("metric"))}
        assert set(found) == {"height", "colour"} and found["colour"].unit == "mired"


def test_a_shadow_is_judged_in_the_middle_of_what_is_seen_of_it(hero, actor, on_green):
    """By hand: a lamp 2 m before the actor and 1 m to the right, a sheet 2.5 m behind: everything grows by (2.5 + 2)/2 = 2.25."""
    low = PlacedLamp(name="low", role="key", intensity_cd=5000, across_m=1.0, height_m=1.2, behind_m=-2.0, aim_height_m=1.2)
    setup = on_green.but(lamps=(*(lamp for lamp in on_green.lamps if lamp.role == "backing"), low))
    left, right = 1.0 + (-0.3 - 1.0) * 2.25, 1.0 + (0.3 - 1.0) * 2.25
    hidden_from = -0.3 * (5 + 2.5) / 5  # the actor's own left edge, as the lens sees it on the sheet
    seen = min(hidden_from - max(left, -2.0), right - max(left, -2.0))
    top = 1.2 + (1.7 - 1.2) * 2.25
    spot = np.array([(max(left, -2.0) + seen / 2, (top + setup.backing.bottom_m) / 2, 2.5)])
    whole, own = lighting.on_backing_lx(setup, spot)[0], light_on(spot, low, (0.0, 0.0, -1.0))[0]
    found = item(green(hero, actor, setup), "backing_shadow")
    assert found.amount == pytest.approx(math.log2(whole / (whole - own))) and "low throws a shadow" in found.sentence
    assert {value.symbol: value.text for value in found.values()} == {"E_lamp": Words("metric").light(own), "seen": Words("metric").length(seen)}
    assert shadow_on_plane(actor, setup, low, 0.0) is None  # on the subject's own plane nothing falls


# --- every fix of what a set shows ---------------------------------------------------------------------------------------

LOW_KEY = PlacedLamp(name="low", role="key", intensity_cd=5000, across_m=1.0, height_m=2.6, behind_m=-2.0, aim_height_m=1.2)
DIMMED = {"level": 0.2, "aim_across_m": 1.0}
WALL = Layer(name="Wall", kind="model", combine="in_camera", scale=4, near_m=8, width_m=6, height_m=4, fills_frame=True)
HALF = Layer(name="Left half", kind="split", combine="split", near_m=4, width_m=1, height_m=1.7, split_side="left", moves_from_m=-1, moves_to_m=0.1)


def lit_by(setup: SetUp, *keys: PlacedLamp) -> SetUp:
    return setup.but(lamps=(*(lamp for lamp in setup.lamps if lamp.role == "backing"), *keys))


SHOWN = [
    ("spill", lambda hero, actor, on: green(hero, actor, on.but(backing=on.backing.but(behind_m=0.5))), ["backing"]),
    ("backing_edge", lambda hero, actor, on: green(hero, actor.but(moves_from_m=-3, moves_to_m=3), on), ["backing"]),
    ("backing_shadow", lambda hero, actor, on: green(hero, actor, lit_by(on, LOW_KEY)), ["backing", "lamps"]),
    ("light_reach", lambda hero, actor, on: green(hero, actor, lit_by(on, on.lamps[-1].but(**DIMMED))), ["lamps", "set_up"]),
    ("light_reach", lambda hero, actor, on: green(hero, actor, lit_by(on, on.lamps[-1].but(**DIMMED)).but(illuminance_lx=300)), ["lamps", "set_up"]),
    ("set_edge", lambda hero, actor, on: stack_of(hero, Member(WALL.but(near_m=7), hero.but(distance_m=1.75), 2), delivery=Delivery(move=Move(kind="pan", amount=-20))), ["layer"]),
    ("seen_in_gloss", lambda hero, actor, on: stack_of(hero, Member(actor.but(gloss_azimuth_deg=3), hero.but(distance_m=5), 2)), ["layer"]),
    ("card_turn", lambda hero, actor, on: stack_of(hero, Member(actor.but(kind="painted", turned_deg=-50), None, None)), ["layer"]),
    ("split_line", lambda hero, actor, on: stack_of(hero, Member(HALF, hero, 2), plan=ShotPlan(split_px=960)), ["layer"]),
    ("contact", lambda hero, actor, on: stack_of(hero, Member(actor.but(contact="wet_ground", kept=()), hero, 2)), ["layer"]),
    ("references", lambda hero, actor, on: stack_of(hero, Member(actor, hero.but(references=("ball",)), 2)), ["set_up"]),
]  # fmt: skip


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
    stack = green(hero, actor.but(turned_deg=10, gloss_azimuth_deg=40), lit.but(illuminance_lx=0.9 * lighting.lamps_lx(actor, lit)))
    held = {key: item(stack, key) for key in ("spill", "backing_edge", "backing_shadow", "light_reach", "seen_in_gloss", "card_turn")}
    assert {key: one.fixes for key, one in held.items() if one.fixes} == {}
    assert {one.verdict for one in held.values()} == {"holds"}
