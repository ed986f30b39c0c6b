"""Camera, lens, move, finish, errors and schools, framing and the cut: what a whole shot is judged by."""

from __future__ import annotations

import math
from typing import Any

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from jungoptic.core.errors import InputError
from jungoptic.core.example import DELIVERY, HERO, MILL, MODEL
from jungoptic.core.light import mains
from jungoptic.core.match import Delivery, Layer
from jungoptic.core.match.camera import codes_in_a_stop
from jungoptic.core.match.compare import PlacingErrors, amounts_with, judge_match
from jungoptic.core.match.cut import across_cut, cut_side
from jungoptic.core.match.measure import Match
from jungoptic.core.match.stack import ShotPlan
from jungoptic.core.match.tolerances import ITEMS, Tolerance
from jungoptic.core.motion.move import Move
from jungoptic.core.plan.framing import Framing, share_inside, vertical_cut_px
from jungoptic.core.wording import Words

from .test_stack import item, stack_of

# --- camera, lens, move


def test_the_new_items_of_a_hero_against_itself_are_nothing(hero, delivery):
    whole = hero.but(
        distortion_pct=-1.2, vignetting_stops=0.7, readout_ms=12, key_size_deg=0.53, key_to_fill_stops=2
    )
    layer = Layer(name="Same", near_m=12, depth_m=6, driver="gravity", speed_m_s=2)
    moving = delivery.but(move=Move(kind="slide", amount=2))
    found = Match(whole, layer, whole.but(distance_m=12), moving).amounts
    assert {"distortion", "vignetting", "skew", "hardness", "key_fill", "move"} <= set(found)
    assert all(found[key] == pytest.approx(0, abs=1e-9) for key in found if key not in ("sharpness",))


def test_one_per_cent_of_distortion_is_eleven_pixels_in_the_corner(hero):
    """Common practice: 1 % is about 11 px in the corner of 1920."""
    plate = Layer(name="Plate", near_m=12, width_m=20, height_m=12, fills_frame=True)
    found = Match(hero, plate, hero.but(distortion_pct=1.0), Delivery()).amounts["distortion"]
    assert found == pytest.approx(11.01, abs=0.02)


def test_codes_of_the_legal_range():
    """Published, from memory: ITU-R BT.709, 219 steps of 8 bits, 876 of 10 (877 codes)."""
    assert codes_in_a_stop(8) == pytest.approx(219 * (1.099 * 0.18**0.45 - 1.099 * 0.09**0.45))
    assert codes_in_a_stop(10) / codes_in_a_stop(8) == 4


@pytest.mark.parametrize(("hz", "angle"), [(50, 172.8), (60, 144)])
def test_the_usual_shutter_angles_are_steady_under_the_mains(hero, hz, angle):
    """Common practice: 24 frames/s, 172.8° under 50 Hz, 144° under 60 Hz."""
    layer = Layer(name="Room", near_m=5)
    lit = hero.but(ripple_depth=0.4, mains_hz=hz)
    assert Match(hero, layer, lit.but(shutter_angle_deg=angle), Delivery()).amounts[
        "flicker"
    ] == pytest.approx(0, abs=1e-9)
    elsewhere = Match(hero, layer, lit.but(shutter_angle_deg=angle * 0.7), Delivery()).amounts["flicker"]
    assert (
        elsewhere > 0.05 if hz == 50 else elsewhere == 0
    )  # 24 divides 120 evenly: every frame sees the same
    assert any(math.isclose(one, angle) for one in mains.clean_angles_deg(hz, 24))


def test_clipping_counts_the_highlight_the_exposure_and_the_headroom(hero):
    bright = Layer(name="Lamp", near_m=5, brightest_stops=7)
    over = Match(hero, bright, hero, Delivery())
    assert over.amounts["clipping"] == pytest.approx(7 + over.stops - 6)
    assert Match(hero, bright, hero.but(nd_stops=2), Delivery()).amounts["clipping"] == 0


def test_a_key_from_few_bits_and_wide_samples(hero, actor):
    small = hero.but(
        recorded_width_px=1920, recorded_height_px=1080, sampling="4:2:0", bit_depth=8, long_groups=True
    )
    found = Match(hero, actor, small, Delivery()).amounts
    assert found["chroma"] == 2 and found["codes"] == pytest.approx(2 * 50 / codes_in_a_stop(8))
    assert "chroma" not in Match(hero, actor.but(combine="hand_matte"), small, Delivery()).amounts


def test_a_slide_that_the_model_does_not_make_shows_its_depth(hero, mill, model):
    sliding = Delivery(move=Move(kind="slide", amount=1.2))
    made = Match(hero, mill, model, sliding)
    assert made.travel_m == pytest.approx(0.1) and made.amounts["move"] == 0
    still = Match(hero, mill, model.but(follows_move=False), sliding)
    assert still.amounts["move"] == pytest.approx(still.f_px * 0.1 * (1 / 1.0 - 1 / 1.5))
    assert (
        "move" not in Match(hero, mill, model, Delivery(move=Move(kind="pan", amount=20))).amounts
    )  # a pan is laid on


def test_an_entrance_pupil_off_the_axis_in_a_pan(hero):
    hung = Layer(
        name="Tower", kind="model", combine="in_camera", scale=20, near_m=30, width_m=10, height_m=10
    )
    setup = hero.but(distance_m=1.5, pupil_off_mm=30)
    found = Match(hero, hung, setup, Delivery(move=Move(kind="pan", amount=12), needed_width_px=9000))
    # by hand, of the slide alone: f·e·sin 12°·(1/1.5 − 1/30); far corners add a little
    slides = found.f_px * 0.030 * math.sin(math.radians(12)) * (1 / 1.5 - 1 / 30)
    assert found.amounts["pupil"] == pytest.approx(slides, rel=0.15) and found.amounts["pupil"] > slides


@given(
    start=st.integers(0, 50),
    steady=st.integers(0, 100),
    ease_in=st.integers(0, 100),
    ease_out=st.integers(0, 100),
    amount=st.floats(-50, 50),
)
def test_an_eased_move_begins_and_ends_where_it_must_and_never_turns_back(
    start, steady, ease_in, ease_out, amount
):
    long = max(2, ease_in + steady + ease_out)
    move = Move(
        kind="slide",
        amount=amount,
        start_frame=start,
        end_frame=start + long,
        ease_in_frames=ease_in,
        ease_out_frames=ease_out,
    )
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
)
def test_a_move_that_cannot_be_is_refused_at_its_field(wrong, field):
    with pytest.raises(InputError) as caught:
        Move.read({"kind": "pan", "amount": 10, **wrong})
    assert [problem.field for problem in caught.value.problems] == [field]


def test_the_fastest_moment_of_a_pan_in_pixels(hero):
    move = Move(kind="pan", amount=20, start_frame=0, end_frame=36)
    quick = stack_of(hero, plan=ShotPlan(length_frames=200), delivery=Delivery(move=move))
    found = item(quick, "judder", 0)
    assert found.verdict == "shows"
    slower = Delivery(move=move.but(**{"end_frame": found.fixes[0].changes["move_end_frame"]}))
    assert (
        item(stack_of(hero, plan=ShotPlan(length_frames=200), delivery=slower), "judder", 0).verdict
        == "holds"
    )


# --- finish, errors, schools


def test_black_and_white_lets_colour_inform_and_models_shown_openly_let_time_inform(hero, mill, model):
    def read(**finish: Any) -> dict[str, Any]:
        return {
            one.item: one
            for one in judge_match(Match(hero, mill, model.but(light_k=4000), Delivery(**finish)))
        }

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
    match = Match(HERO, MILL, MODEL.but(lens_height_m=0.1333), DELIVERY)
    found = amounts_with(match, PlacingErrors(tape, level))
    assert all(found[key] >= match.amounts[key] - 1e-12 for key in match.amounts)


def test_a_millimetre_of_the_tape_is_about_a_pixel_of_height(hero, mill, model):
    """Common practice of the scale: on a 1:12 model with contacts at 1.0 and 1.5 m one pixel is about 1 mm of
    camera height.
    """
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


# --- framing and the cut


def test_framing_first_is_the_union_of_all_that_is_delivered():
    whole = Framing(1920, 1080, margin_pct=10)
    assert whole.needed_px == pytest.approx((2112, 1188))
    cut = vertical_cut_px(1920, 1080)
    assert cut == pytest.approx(607.5)
    only = Framing(1920, 1080, cut_width_px=cut, only_cut=True)
    assert only.needed_px == pytest.approx((607.5, 1080))
    aside = Framing(
        1920, 1080, cut_width_px=cut, cut_at_px=300, only_cut=True
    )  # as far left as it goes is half its width
    assert aside.needed_box[0] == 0 and aside.needed_px[0] == 1920
    assert share_inside((0, 0, 1920, 1080), only.needed_box) == pytest.approx(607.5 / 1920)
    assert share_inside((5000, 0, 5100, 10), only.needed_box) == 0


def test_a_narrower_delivery_needs_less_of_the_gate(hero):
    wall = Layer(name="Wall", near_m=12, width_m=20, height_m=10, fills_frame=True)
    tight = hero.but(distance_m=12)
    assert Match(hero, wall.but(resize=0.9), tight, Delivery()).amounts["edges"] > 3
    assert (
        Match(
            hero, wall.but(resize=0.9), tight, Delivery(needed_width_px=607.5, needed_height_px=900)
        ).amounts["edges"]
        == 0
    )


def test_across_the_cut_light_is_compared_over_the_ground(hero):
    words = Words()
    looking_back = hero.but(
        heading_deg=(hero.heading_deg + 180) % 360, key_azimuth_deg=hero.key_azimuth_deg - 180
    )
    same = across_cut(cut_side(hero), cut_side(looking_back), "TM020", ("left", "left"), words)
    assert {one.verdict for one in same} == {"holds"}
    other = across_cut(
        cut_side(hero),
        cut_side(hero.but(key_azimuth_deg=hero.key_azimuth_deg - 90, lens_height_m=0.4)),
        "TM020",
        ("left", "right"),
        words,
    )
    assert {one.item for one in other if one.verdict == "shows"} >= {
        "direction",
        "height",
        "screen_direction",
    }
    assert other[0].ladder == max(one.ladder for one in other)
    short = {one.item: one.short for one in other}
    assert short["height"] == f"height {words.length(hero.lens_height_m - hero.ground_height_m - 0.4)}"
    assert short["screen_direction"] == "turns round"
