"""What of a layer is in the delivered frame, and until when: portraits, cut-downs, moves."""

from __future__ import annotations

import math
from dataclasses import replace

import numpy as np
import pytest

from jungoptic.core.match import Delivery, Layer, Match, Member, SetUp, ShotPlan, Stack, judge_member
from jungoptic.core.match.apart import apart
from jungoptic.core.match.camera import focal_px
from jungoptic.core.match.drawn import in_hero
from jungoptic.core.match.pose import hero_pose
from jungoptic.core.match.samples import sampled
from jungoptic.core.motion import Move

from .test_one_camera import TOWER, Camera

PORTRAIT = Delivery(width_px=1080, height_px=1920)


def sized(hero: SetUp, **changes: float) -> SetUp:
    return hero.but(gate_height_mm=41.8, **changes)


def test_a_portrait_is_looked_at_to_its_top_and_foot(hero: SetUp):
    """Derived: the corner of 1080 × 1920 is 1101.5 px from the middle.

    A roll of 0.3° moves it by 2·1101.5·sin 0.15°, of which 5.03 px are sideways. A tilt of 0.5° moves it,
    against the middle, by f·tan(atan(960/f) ± 0.5°) up and down and by 540·(z/z′ − 1) sideways, 5.8 px in
    all. Of a tower 8 m high and 6 m deep, seen at 12 m from 5 % too far and sized to agree in front, the far
    top is 9.25 px low: f·6.4/18·(12.6·18/(12·18.6) − 1).
    """
    plate = Layer(name="Plate", near_m=12, width_m=9, height_m=16, fills_frame=True)
    hero = sized(hero)
    f = focal_px(hero, PORTRAIT)
    rolled = Match(hero, plate, hero.but(roll_deg=0.3), PORTRAIT).amounts["roll"]
    assert rolled == pytest.approx(2 * math.hypot(540, 960) * math.sin(math.radians(0.15)), rel=1e-6)
    assert rolled >= 5.03
    tilted = Match(hero, plate, hero.but(tilt_deg=0.5), PORTRAIT).amounts["tilt"]
    up = math.radians(0.5)
    z = math.cos(up) + 960 / f * math.sin(up)
    corner = (540 / z - 540, f * (math.tan(up - math.atan(960 / f)) + 960 / f) - f * math.tan(up))
    other = math.cos(up) - 960 / f * math.sin(up)
    opposite = (540 / other - 540, f * (math.tan(up + math.atan(960 / f)) - 960 / f) - f * math.tan(up))
    assert tilted == pytest.approx(max(math.hypot(*corner), math.hypot(*opposite)), rel=1e-6)
    assert tilted == pytest.approx(5.8, abs=0.05)
    tower = Match(hero, TOWER, hero.but(distance_m=12.6), PORTRAIT).amounts["perspective"]
    low = f * 6.4 / 18 * (12.6 * 18 / (12 * 18.6) - 1)
    aside = f * 0.5 / 18 * (12.6 * 18 / (12 * 18.6) - 1)
    assert low == pytest.approx(9.25, abs=0.01)
    assert tower == pytest.approx(math.hypot(low, aside), rel=1e-6)


def test_a_tall_thing_is_looked_at_where_the_frame_ends(hero: SetUp, delivery: Delivery):
    """A tower 1 m wide and 5.2 m high, 6 m deep, 5 % too far: its far foot is 4.1 px off (derived:
    f·1.6/18·0.0161). Its far top lies above the frame, whose edge at 540 px cuts it: there the difference is
    540·0.0161 = 8.7 px.
    """
    tower = TOWER.but(height_m=5.2)
    grows = 12.6 * 18 / (12 * 18.6) - 1
    f = focal_px(hero, delivery)
    assert f * 1.6 / 18 * grows == pytest.approx(4.1, abs=0.02)
    found = Match(hero, tower, hero.but(distance_m=12.6), delivery).amounts["perspective"]
    assert found == pytest.approx(math.hypot(540, f * 0.5 / 18) * grows, rel=1e-6)


def test_a_box_is_as_wide_at_its_far_end_as_it_is(hero: SetUp, delivery: Delivery):
    """Derived: 3.5 m at 18 m are 558 px from the middle, not the 836 px of the front edge; 5 % too far shifts
    them 9.0 px sideways, and the foot, 255 px down, 4.1 px.
    """
    box = Layer(name="Box", near_m=12, depth_m=6, width_m=7, height_m=1.6)
    grows, f = 12.6 * 18 / (12 * 18.6) - 1, focal_px(hero, delivery)
    assert f * 3.5 / 18 * grows == pytest.approx(9.0, abs=0.01)
    found = Match(hero, box, hero.but(distance_m=12.6), delivery).amounts["perspective"]
    assert found == pytest.approx(f * math.hypot(3.5, 1.6) / 18 * grows, rel=1e-6)


def test_only_what_is_needed_of_the_frame_counts(hero: SetUp):
    """Derived: at 960 px a lens is 5.5 px too long, so it is 1.74 px at the 303.75 px of a cut-down, 3.55 px
    in its corner.
    """
    plate = Layer(name="Plate", near_m=12, width_m=20, height_m=10, fills_frame=True)
    longer = hero.but(focusing="constant_view", focus_distance_m=12)
    wrong = longer.but(focal_length_mm=35 * (1 + 5.5 / 960))
    cut = Delivery(needed_width_px=607.5)
    whole, narrow = (Match(longer, plate, wrong, delivery).amounts["lens"] for delivery in (Delivery(), cut))
    assert whole == pytest.approx(5.5 / 960 * math.hypot(960, 540), rel=1e-6)
    assert narrow == pytest.approx(5.5 / 960 * math.hypot(303.75, 540), rel=1e-6)
    assert narrow >= 1.74
    for dial in ("tilt_deg", "roll_deg"):
        wider, less = (
            Match(longer, plate, longer.but(**{dial: 1.0}), delivery).amounts[dial.removesuffix("_deg")]
            for delivery in (Delivery(), cut)
        )
        assert less < wider


def test_what_lies_under_a_tilted_frame_must_have_been_recorded(hero: SetUp, delivery: Delivery):
    """A hero tilted up by 8° over a layer 282 to 526 px under the middle; the recorded picture, resized by
    0.569, ends at ±307 px: 219 px of it are missing.
    """
    f = focal_px(hero, delivery)
    up = hero.but(tilt_deg=8)
    # where it must stand so that it is seen there: y = f·tan(8° + the angle under the horizon)
    top, foot = (math.tan(math.atan(y / f) - math.radians(8)) for y in (282, 526))
    layer = Layer(
        name="Rail",
        kind="live_element",
        near_m=20,
        depth_m=0.001,
        width_m=2,
        base_m=hero.lens_height_m - 20 * foot,
        height_m=20 * (foot - top),
        resize=307 / 539.23,
    )
    wide = up.but(
        focal_length_mm=35 / layer.resize,
        distance_m=20,
        lens_height_m=hero.lens_height_m - layer.base_m,
        focusing="constant_view",
    )
    wide = wide.but(focal_length_mm=f / layer.resize / 1920 * 23.5)
    found = Match(up, layer, wide, delivery).amounts
    assert found["lens"] == pytest.approx(0, abs=0.05)
    assert found["edges"] == pytest.approx(219, abs=1.5)


def test_a_body_without_a_depth_still_shows_how_high_the_lens_stood(hero: SetUp, delivery: Delivery):
    """Derived: a person 5 m away is 0.3 m deep; 2 m too high his back slides f·2·(1/5 − 1/5.3) px."""
    person = Layer(name="Person", kind="live_element", near_m=5, width_m=0.6, height_m=1.7)
    found = Match(hero, person, hero.but(distance_m=5, lens_height_m=3.6), delivery).amounts["height"]
    assert found == pytest.approx(focal_px(hero, delivery) * 2 * (1 / 5 - 1 / 5.3), rel=1e-6)
    flat = person.but(kind="painted")
    assert Match(hero, flat, hero.but(distance_m=5, lens_height_m=3.6), delivery).amounts["height"] < 1e-9


def test_a_push_is_looked_at_to_its_end(hero: SetUp):
    """Derived: 9 of 12 m in. A centimetre too little leaves the thing at the end, 3.01 m away, 1/301 too
    small: of the front edge's outline, whose foot is pinned down, the greatest is its top corner.
    """
    push = Delivery(move=Move(kind="push", amount=9, end_frame=96), length_frames=97)
    flat = Layer(name="Card", kind="painted", near_m=12, width_m=1.0, height_m=1.5, base_m=0.5)
    lifted = hero.but(lens_height_m=1.1)
    found = Match(hero, flat, lifted.but(travel_m=8.99), push).amounts
    f = focal_px(hero, push)
    # a card as high as the lens, 0.4 m up from there: still in the frame 3 m away, to its top corner
    small = flat.but(width_m=0.8, height_m=0.4, base_m=1.6)
    seen = Match(hero, small, hero.but(lens_height_m=0.0, travel_m=8.99), push).amounts
    assert seen["move"] == pytest.approx(f * math.hypot(0.4, 0.4) * (1 / 3 - 1 / 3.01), rel=1e-6)
    assert found["move"] > 2.0
    assert found["focus_near"] < 0.05


def test_a_push_goes_out_of_focus_at_its_end(hero: SetUp):
    """Derived: 9 of 12 m in, a 1:12 model focused at 1 m ends 0.25 m away: brought to the hero's framing 37.6
    px, where the hero, focused at 12 m, shows 3.1 px of a thing at 3 m.
    """
    push = Delivery(move=Move(kind="push", amount=9, end_frame=96), length_frames=97)
    model = hero.but(focus_distance_m=1, distance_m=1, lens_height_m=1.6 / 12)
    layer = Layer(name="Card", kind="model", scale=12, near_m=12, width_m=0.2, height_m=0.2, base_m=1.5)
    layer = layer.but(resize=focal_px(hero, push) / focal_px(model, push))
    found = Match(hero, layer, model.but(lens_height_m=0.1 / 12), push)
    assert found.blur_near_px == pytest.approx(37.6, abs=0.1)
    assert found.blur_hero_near_px == pytest.approx(3.1, abs=0.05)
    assert found.soft_near_m == pytest.approx(0.25, rel=1e-6)


def test_blur_is_what_the_resize_makes_of_it(hero: SetUp, delivery: Delivery):
    """By hand: a camera at three quarters of the distance, its picture resized by three quarters, shows three
    quarters of its own disc and of its own Airy disc.
    """
    layer = Layer(name="Box", near_m=12, depth_m=6, width_m=2, height_m=2, resize=0.75)
    near = hero.but(distance_m=9, focus_distance_m=9)
    found = Match(hero, layer, near, delivery)
    disc = 35 / 8 * 35 * 9000 / (9000 - 35) * (1 / 9 - 1 / 15) / 1000 * 1920 / 23.5
    assert found.blur_far_px == pytest.approx(0.75 * disc, rel=1e-6)
    airy = 2.44 * 0.55e-3 * 8 * (1 + 35 / (9000 - 35)) * 1920 / 23.5
    assert found.airy_px == pytest.approx(0.75 * airy, rel=1e-6)


def test_many_cameras_at_once_are_what_each_is_alone(hero: SetUp):
    """So many that they are taken in parts."""
    push = Delivery(move=Move(kind="push", amount=3, end_frame=96), length_frames=97)
    wants = hero_pose(hero, TOWER, push)
    samples = sampled(wants, TOWER, push, 12.0)
    spread = np.linspace(-1.0, 1.0, 300)
    many = replace(wants, distance_m=12 + spread, height_m=1.6 + spread[::-1], tilt_deg=spread**2)
    whole = apart(samples, many.rows(), pinned=True)
    for place in (0, 57, 150, 299):
        alone = apart(samples, many.rows()[:, place : place + 1], pinned=True)
        for item, amounts in alone.amounts_px.items():
            assert whole.amounts_px[item][place] == pytest.approx(amounts[0], rel=1e-9, abs=1e-9), item
        assert whole.across_px[place] == pytest.approx(alone.across_px[0])


def test_lines_of_the_board_are_crossed_where_a_tilted_lens_sees_them(hero: SetUp):
    """Derived: with a tilt of 10° the ground 5 m away and 2 m aside lies at x = f·2/4.646 and y =
    f·2.444/4.646 from the middle: 87 and 85 px from where a shifted horizon would put it.
    """
    tilted, delivery = hero.but(tilt_deg=10), Delivery()
    stone = Layer(name="Stone", kind="live_element", near_m=5, offset_m=2, width_m=0.002, height_m=0.001)
    stack = Stack(ShotPlan(), delivery, tilted, (Member(stone, tilted, 1),))
    x, y = next(in_hero(stack, stack.members[0])).px[0]
    f = focal_px(hero, delivery)
    c, s = math.cos(math.radians(10)), math.sin(math.radians(10))
    away = c * 5 - s * 1.6
    assert (x, y) == pytest.approx((960 + f * 1.999 / away, 540 + f * (c * 1.6 + s * 5) / away), abs=1e-6)
    assert x - (960 + f * 1.999 / 5) == pytest.approx(87, abs=1)
    assert y - (540 + f * math.tan(math.radians(10)) + f * 1.6 / 5) == pytest.approx(85, abs=1)


def test_a_push_takes_a_thing_past_its_sheet(actor: Layer, on_green: SetUp):
    """Derived: 0.45 m to each side at 3 m, a sheet 2 m wide 2.5 m behind. Before the push 0.825 m of it are
    used; 1.5 m further in 1.2 m, which is 0.2 m too much at 4 m: 145 px.
    """
    near = on_green.but(distance_m=3, focus_distance_m=3, backing=on_green.backing.but(width_m=2, height_m=4))
    narrow = actor.but(near_m=3, width_m=0.9, moves_from_m=-0.45, moves_to_m=0.45, height_m=1.5)
    hero = on_green.but(distance_m=3, focus_distance_m=3, lamps=(), backing=None)

    def past(delivery: Delivery) -> float:
        stack = Stack(ShotPlan(), delivery, hero, (Member(narrow, near, 1),))
        judged = judge_member(stack, 0)[1]
        return next(found.amount for found in judged if found.item == "backing_edge")

    assert past(Delivery()) == 0
    pushed = past(Delivery(move=Move(kind="push", amount=1.5, end_frame=48), length_frames=49))
    assert pushed == pytest.approx(0.2 * focal_px(near, Delivery()) / 4, rel=1e-6)
    assert pushed == pytest.approx(145, abs=1)


def test_a_set_must_reach_as_far_as_a_pull_out_and_a_high_frame_show(hero: SetUp):
    """Derived: a wall 6 m wide at 8 m still stands 3/12 of f to each side once the camera is 4 m further
    back; one 2 m high ends at 0.4/8 of f over the lens.
    """
    wall = Layer(name="Wall", kind="model", scale=4, near_m=8, width_m=6, height_m=2, fills_frame=True)
    built = hero.but(distance_m=2, focus_distance_m=2, lens_height_m=0.4)
    f = focal_px(hero, Delivery())

    def ends(delivery: Delivery, *behind: Member) -> float:
        stack = Stack(ShotPlan(), delivery, hero, (Member(wall, built, 1), *behind))
        return next(found.amount for found in judge_member(stack, 0)[1] if found.item == "set_edge")

    sky = Member(Layer(name="Sky", kind="stock", near_m=900, width_m=900, fills_frame=True), None, None)
    assert ends(Delivery(), sky) == 0
    assert ends(Delivery()) == pytest.approx(540 - f * 0.4 / 8)
    back = Delivery(move=Move(kind="push", amount=-4, end_frame=48), length_frames=49)
    assert ends(back, sky) == pytest.approx(960 - f * 3 / 12)


def test_an_entrance_pupil_off_the_axis_shows_in_a_tilt_too(hero: SetUp):
    """By hand: f·e·sin 30°·(1/2 − 1/20), and what the pupil comes nearer by; OpenCV's projection of both says
    it.
    """
    tilt = Delivery(move=Move(kind="tilt", amount=30, end_frame=48), needed_height_px=6000, length_frames=49)
    hung = Layer(
        name="Tower",
        kind="model",
        combine="in_camera",
        scale=10,
        near_m=20,
        depth_m=0.01,
        width_m=0.02,
        height_m=0.02,
        base_m=1.6,
    )
    setup = hero.but(distance_m=2, pupil_off_mm=40, lens_height_m=0.0)
    found = Match(hero, hung, setup, tilt).amounts["pupil"]
    f = focal_px(hero, tilt)
    assert f * 0.040 * 0.5 * (1 / 2 - 1 / 20) == pytest.approx(25.8, abs=0.1)
    camera = Camera(f, 2.0, 0.0, 0.0, 0.0, 0.0, 0.040)
    far = replace(camera, distance_m=20.0)
    near_y, far_y = (one.sees(np.zeros((1, 3)), tilt.move, 1.0, 1.0)[0, 1] for one in (camera, far))
    assert found == pytest.approx(abs(near_y - far_y), rel=0.02)
