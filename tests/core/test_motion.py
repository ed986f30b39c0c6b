"""Motion as vectors: what is followed is sharp, a zoom and a push smear from the middle, frame by frame
nothing smears; held against two projections a little apart.
"""

from __future__ import annotations

import math

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from jungoptic.core.example import HERO
from jungoptic.core.match import Delivery, Layer, Match, SetUp, judge
from jungoptic.core.match.camera import focal_px
from jungoptic.core.match.limits import tolerance_of
from jungoptic.core.match.pose import Pose, hero_pose, pictured
from jungoptic.core.match.samples import sampled
from jungoptic.core.match.smear import paces_of, velocity_m_per_frame
from jungoptic.core.motion import Move

from .test_one_camera import MOVES

CAR = Layer(
    name="Car",
    kind="live_element",
    near_m=10,
    depth_m=0.01,
    width_m=0.2,
    height_m=0.2,
    base_m=1.5,
    driver="set_speed",
    speed_m_s=2,
)


def at(hero: SetUp, layer: Layer, **changes: object) -> SetUp:
    return hero.but(distance_m=layer.near_m, ground_height_m=layer.base_m, **changes)


def over(kind: str, amount: float, frames: int = 96, **changes: float) -> Delivery:
    return Delivery(
        move=Move(kind=kind, amount=amount, end_frame=frames, **changes), length_frames=frames + 1
    )


def test_a_thing_that_the_camera_follows_is_sharp(hero: SetUp):
    """By hand: 2 m/s at 10 m are f·2/24/10 px a frame for a locked camera; a slide of 8 m in 96 frames, 2 m/s
    too, takes all of it away.
    """
    locked = Match(hero, CAR, at(hero, CAR), Delivery())
    assert locked.motion_hero_px == pytest.approx(focal_px(hero, Delivery()) * 2 / 24 / 10 / 2, rel=2e-3)
    followed = Match(hero, CAR, at(hero, CAR), over("slide", 8.0))
    assert followed.motion_hero_px == pytest.approx(0, abs=1e-6)
    against = Match(hero, CAR.but(speed_m_s=-2), at(hero, CAR), over("slide", 8.0))
    assert against.motion_hero_px == pytest.approx(2 * locked.motion_hero_px, rel=0.05)
    # and a layer whose own camera stands while the hero follows smears by all of it
    stood = Match(hero, CAR, at(hero, CAR, follows_move=False), over("slide", 8.0))
    assert stood.amounts["motion_blur"] == pytest.approx(locked.motion_hero_px, rel=2e-3)


def test_a_zoom_and_a_push_smear_from_the_middle(hero: SetUp):
    """By hand: a point at the edge goes as far as the picture grows, x·dz/z a frame; the middle stands."""
    zoom = over("zoom", 100.0)
    plate = Layer(name="Plate", near_m=10, width_m=20, height_m=12, fills_frame=True, depth_m=0.01)
    corner = math.hypot(960, 540)
    found = Match(hero, plate, at(hero, plate), zoom)
    # of what is in the frame; it grows by 1/96 of its first size in each, most of all as it begins
    assert found.motion_hero_px == pytest.approx(corner / 96 / 2, rel=1e-3)
    speck = Layer(name="Speck", near_m=10, width_m=0.001, height_m=0.001, base_m=1.6, depth_m=0.01)
    assert Match(hero, speck, at(hero, speck), zoom).motion_hero_px < 0.01
    push = over("push", 5.0)
    pushed = Match(hero, plate, at(hero, plate), push)
    # at the end 5 m are left: x·(5/96)/5
    assert pushed.motion_hero_px == pytest.approx(corner * (5 / 96) / 5 / 2, rel=2e-2)


def test_a_layer_that_travels_smears_without_a_typed_speed(hero: SetUp):
    """By hand: 6 m in 24 frames at 10 m are f·6/24/10 = 72 px a frame, 36 smeared; 22.5° smear 4.5."""
    travelling = CAR.but(driver="still", speed_m_s=0, travel_across_m=6.0, offset_m=-3.0)
    shot = Delivery(length_frames=25)
    found = Match(hero, travelling, at(hero, CAR, shutter_angle_deg=22.5), shot)
    pace = focal_px(hero, shot) * 6 / 24 / 10
    assert found.motion_hero_px == pytest.approx(pace / 2, rel=2e-3)
    assert found.motion_px == pytest.approx(pace / 16, rel=2e-3)
    assert found.amounts["motion_blur"] == pytest.approx(pace * (1 / 2 - 1 / 16), rel=2e-3)


def test_frame_by_frame_nothing_smears_and_much_of_it_strobes(hero: SetUp):
    puppet = CAR.but(kind="frame_by_frame", near_m=5)
    setup = at(hero, puppet, model_speed_m_s=2.0)
    found = Match(hero, puppet, setup, Delivery())
    assert found.motion_px == 0
    assert found.amounts["motion_blur"] == found.motion_hero_px > 20
    limit, _ = tolerance_of(found, "motion_blur", "measured", {})
    assert (limit.holds, limit.tight) == (12.5, 25.0)
    said = next(item for item in judge(hero, puppet, setup, Delivery()) if item.item == "motion_blur")
    assert said.verdict == "tight" and "frame by frame nothing smears" in said.sentence.lower()
    assert not said.fixes


def test_a_turn_that_is_laid_on_afterwards_does_not_smear(hero: SetUp):
    pan = over("pan", 10.0)
    stood = at(hero, CAR, follows_move=False)
    still = CAR.but(driver="still")
    found = Match(hero, still, stood, pan)
    assert found.motion_px == 0 and found.amounts["motion_blur"] == found.motion_hero_px > 0
    said = next(item for item in judge(hero, still, stood, pan) if item.item == "motion_blur")
    assert [fix.changes for fix in said.fixes] == [{"follows_move": True}]


def test_a_hand_held_hero_smears_and_what_is_laid_on_it_does_not(hero: SetUp):
    """By hand: 10 px at 2 Hz go 2π·2·10 px in a second, 5.2 in a frame of 24."""
    shaken = Delivery(move=Move(shake_px=10, shake_hz=2))
    found = Match(hero, CAR.but(driver="still"), at(hero, CAR), shaken)
    assert found.motion_hero_px == pytest.approx(2 * math.pi * 2 * 10 / 24 / 2)
    assert found.amounts["motion_blur"] == pytest.approx(found.motion_hero_px)


def test_a_whip_covers_a_join_and_so_does_a_cut_of_a_few_frames(hero: SetUp):
    still, setup = CAR.but(driver="still"), at(hero, CAR)
    slow = tolerance_of(Match(hero, still, setup, Delivery(length_frames=48)), "roll", "covered", {})
    whip = tolerance_of(Match(hero, still, setup, over("pan", 40.0, 12)), "roll", "covered", {})
    zoom = tolerance_of(Match(hero, CAR.but(width_m=4), setup, over("zoom", 300.0, 6)), "roll", "covered", {})
    short = tolerance_of(Match(hero, still, setup, Delivery(length_frames=10)), "roll", "covered", {})
    assert slow == (slow[0], "") and slow[0].holds == 1.0
    assert whip[1] == zoom[1] == "half the motion blur" and whip[0].holds > 10 and zoom[0].holds > 3
    assert short[1] == "under half a second on screen" and short[0].holds == 2.0


def test_rows_are_read_in_the_share_of_the_gate_that_a_thing_takes(hero: SetUp):
    """Derived: 12 of 23.5 mm extracted are read in 12/23.5 of the time that the gate's width says.

    A thing of the full height at 18 mm and 2 m/s, 5 m away, leans v·f/d·readout·12/23.5.
    """
    tall = CAR.but(near_m=5, width_m=0.01, height_m=20, base_m=-8, depth_m=0.001)
    short = hero.but(focal_length_mm=18, focusing="constant_view", extraction_width_mm=12)
    read = at(short, tall, readout_ms=20)
    f = focal_px(short, Delivery())
    shown = 1080 / (13.2 * 1920 / 12)
    found = Match(short, tall, read, Delivery())
    assert found.lean_px == pytest.approx(f * 2 / 5 * 0.020 * shown, rel=2e-2)
    whole = Match(short.but(extraction_width_mm=None), tall, read.but(extraction_width_mm=None), Delivery())
    assert found.lean_px / whole.lean_px == pytest.approx((12 / 23.5) * (23.5 / 12), rel=1e-6)


def test_the_finding_and_the_calculation_of_judder_agree(hero: SetUp):
    """By hand: 18 mm on 23.5 see 66.3°; at 9.8° a second that is 6.76 s for a frame's width."""
    from jungoptic.core.handbook.frames import pan_judder

    from .test_stack import item, stack_of

    wide = hero.but(focal_length_mm=18, focusing="constant_view")
    view = math.degrees(2 * math.atan(23.5 / 36))
    pan = over("pan", 39.2)
    found = item(stack_of(wide, delivery=pan), "judder", 0)
    said = pan_judder(
        angle_deg=39.2, duration_s=4, horizontal_view_deg=view, delivery_fps=24, delivery_width_px=1920
    )
    assert view / 9.8 == pytest.approx(6.76, abs=0.01)
    assert found.amount == pytest.approx(7 / said.seconds_per_frame_width, rel=1e-9)
    assert found.verdict == said.verdict == "tight"


@settings(max_examples=80)
@given(
    kind=st.sampled_from([kind for kind in MOVES if kind != "none"]),
    tilt=st.floats(-10, 10),
    roll=st.floats(-5, 5),
    speed=st.tuples(st.floats(-4, 4), st.floats(-2, 2), st.floats(-3, 3)),
)
def test_a_pace_is_two_projections_a_moment_apart(kind, tilt, roll, speed):
    hero = HERO.but(tilt_deg=tilt, roll_deg=roll)
    delivery = over(kind, MOVES[kind])
    layer = CAR.but(speed_m_s=speed[0], speed_up_m_s=speed[1], speed_away_m_s=speed[2], width_m=1, height_m=1)
    pose = hero_pose(hero, layer, delivery)
    samples = sampled(pose, layer, delivery, 12.0)
    goes = velocity_m_per_frame(layer, delivery, 24.0)
    by_camera, by_thing = paces_of(samples, goes).hero
    points, rows = samples.points[:, : samples.anchor], pose.rows()
    assert isinstance(pose, Pose)
    frames = samples.path.share * 96
    step = 1e-3
    there = pictured(points + step * goes, delivery.move.path(np.clip(frames + step, 0, 96) / 96, 12.0), rows)
    here = pictured(points - step * goes, delivery.move.path(np.clip(frames - step, 0, 96) / 96, 12.0), rows)
    inside = (frames > step) & (frames < 96 - step)
    expected = ((there - here) / (2 * step))[:, :, inside]
    assert (by_camera + by_thing)[:, :, inside] == pytest.approx(expected, rel=1e-3, abs=2e-3)


def test_what_must_be_made_is_mended_by_making_it(hero: SetUp):
    """An arc is made whole; an axis beside the pupil is the hero's at this scale, in camera none at all."""
    tower = Layer(name="Tower", kind="model", scale=10, near_m=20, depth_m=4, width_m=4, height_m=4)
    model = hero.but(distance_m=2, focus_distance_m=2, lens_height_m=0.16)
    off = hero.but(pupil_off_mm=800)

    def said(hero: SetUp, layer: Layer, setup: SetUp, delivery: Delivery, key: str):
        return next(item for item in judge(hero, layer, setup, delivery) if item.item == key)

    arc = said(hero, tower, model.but(follows_move=False), over("arc", 5.0), "move")
    assert [fix.changes for fix in arc.fixes] == [{"follows_move": True}]
    pan = over("pan", 10.0)
    apart = said(off, tower, model, pan, "pupil")
    assert [fix.changes for fix in apart.fixes] == [{"pupil_off_mm": 80.0}] and "80 mm" in apart.sentence
    assert "pupil" not in Match(off, tower, model.but(pupil_off_mm=80), pan).amounts
    hung = said(hero, tower.but(combine="in_camera"), model.but(pupil_off_mm=30), pan, "pupil")
    assert [fix.changes for fix in hung.fixes] == [{"pupil_off_mm": 0.0}]
