"""Focus, framing and what a card is filled with."""

import itertools
import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from jungoptic.core.match import Delivery, Layer, SetUp, judge
from jungoptic.core.match.compare import PlacingErrors, amounts_with
from jungoptic.core.match.fill import known_values
from jungoptic.core.match.measure import Match
from jungoptic.core.optics import focus

# --- focus, framing and what a card is filled with


@given(focal=st.floats(12, 200), stop=st.floats(1.4, 32), circle=st.floats(0.005, 0.05))
def test_the_near_limit_of_a_lens_at_infinity_has_just_the_circle(focal: float, stop: float, circle: float):
    """By the definition of a depth limit; and the limit that distances further and further come to."""
    near, far = focus.depth_limits_m(focal, stop, circle, math.inf)
    assert far == math.inf
    assert focus.blur_disc_mm(focal, stop, math.inf, near) == pytest.approx(circle, rel=1e-9)
    assert focus.depth_limits_m(focal, stop, circle, 1e9)[0] == pytest.approx(near, rel=1e-3)


def test_passes_that_end_just_at_the_far_end_are_enough():
    walked = list(itertools.islice(focus.walk_passes(50, 8, 0.02, 0.4, 100), 3))
    third_end = focus.depth_limits_m(50, 8, 0.02, walked[2][0])[1]
    assert len(list(focus.walk_passes(50, 8, 0.02, 0.4, third_end))) == 3
    # by hand: f²/(N·c) = 2500/(10 · 0.025) mm = 10 m: a front edge there is held by a focus at infinity alone
    assert focus.focus_from_near_m(50, 10, 0.025, 10.0) == math.inf


@pytest.mark.parametrize(("item", "dial"), [("tilt", "tilt_deg"), ("roll", "roll_deg")])
def test_an_angle_says_both_and_is_dialled_in(hero: SetUp, mill: Layer, item: str, dial: str):
    turned = hero.but(distance_m=1, **{dial: 2.5})
    one = next(one for one in judge(hero.but(**{dial: -1.25}), mill, turned, Delivery()) if one.item == item)
    assert one.where == "2.5°, wants −1.25°"
    assert [fix.changes for fix in one.fixes] == [{dial: -1.25}]
    assert (one.dial, one.wants, one.wants_text) == (dial, -1.25, "−1.25°")


def test_both_ends_of_a_layer_say_their_own_distance(hero: SetUp, model: SetUp, mill: Layer):
    judged = {one.item: one for one in judge(hero, mill, model, Delivery())}
    # by hand: the mill is 6 m deep at 1:12: half a metre behind its front of 1 m; full size 12 m and 18 m
    assert judged["focus_near"].where == "1 m" and "at 12 m the hero's lens" in judged["focus_near"].sentence
    assert judged["focus_far"].where == "1.5 m" and "at 18 m the hero's lens" in judged["focus_far"].sentence


def test_what_a_card_of_the_handbook_is_filled_with(hero: SetUp, model: SetUp, mill: Layer):
    known = known_values(Match(hero, mill, model, Delivery()), mains_hz=50)
    # by hand: 180° at 24 frames/s is 1/48 s; m = f/(d − f) = 35/965; the gate's 23.5 mm over 1920 px
    assert known["exposure_s"] == pytest.approx(1 / 48)
    assert known["magnification"] == pytest.approx(35 / 965)
    assert known["circle_of_confusion_mm"] == pytest.approx(23.5 / 1920)
    assert (known["near_m"], known["far_m"], known["depth_m"]) == pytest.approx((1.0, 1.5, 0.5))
    assert (known["fps"], known["recorded_width_px"], known["recorded_height_px"]) == (24, 3840, 2160)
    assert (known["to_k"], known["from_k"], known["mains_hz"], known["reference_iso"]) == (
        3200,
        3200,
        50,
        800,
    )
    # a painting has no camera: what belongs to its place alone
    assert "exposure_s" not in known_values(Match(hero, mill, None, Delivery()), mains_hz=50)


def test_a_tape_never_tries_a_distance_behind_the_lens(hero: SetUp, mill: Layer):
    near = hero.but(distance_m=0.05, focus_distance_m=0.4)
    with_tape = amounts_with(Match(hero, mill, near, Delivery()), PlacingErrors(tape_m=0.1))
    assert all(math.isfinite(amount) for amount in with_tape.values())


def test_the_stop_of_equal_blur_stays_within_the_lens(hero: SetUp, model: SetUp, mill: Layer, kit):
    """By hand: f/8 at 1:12 wants f/96; the 35 mm stops down to f/22.

    At 1:1/8 it would want f/1 and opens to f/2.
    """
    fixes = {one.item: one.fixes for one in judge(hero, mill, model, Delivery(), kit=kit)}
    assert fixes["focus_far"][0].label == "f/22"
    wide = {
        one.item: one.fixes
        for one in judge(
            hero,
            mill.but(scale=0.125, near_m=1),
            hero.but(distance_m=8, focus_distance_m=30),
            Delivery(),
            kit=kit,
        )
    }
    assert wide["focus_near"][0].label == "f/2"


def test_too_small_a_stop_is_opened_to_where_diffraction_holds(hero: SetUp, mill: Layer):
    small = hero.but(distance_m=1, focus_distance_m=1, f_number=64)
    one = next(one for one in judge(hero, mill, small, Delivery()) if one.item == "diffraction")
    # by hand: at most one pixel more than the hero's disc, 2.44 · 0.55 µm · f-number · 1920/23.5 px: f/8
    # makes 0.88 px, so some f/16 to f/17
    assert one.verdict == "shows" and [fix.label for fix in one.fixes] == ["f/16"]
    after = Match(hero, mill, small.but(**one.fixes[0].changes), Delivery()).amounts["diffraction"]
    assert after <= one.holds


def test_the_law_of_time_is_the_drivers(hero: SetUp, model: SetUp, mill: Layer, kit):
    said = {
        driver: next(
            one.sentence
            for one in judge(hero, mill.but(driver=driver), model, Delivery(), kit=kit)
            if one.item == "time"
        )
        for driver in ("gravity", "fire")
    }
    assert "(gravity drives it)" in said["gravity"] and "between √s and s times the rate" in said["fire"]
    # by hand: √12 · 24 = 83 frames/s: the 3840 mode goes to 60, the 1920 mode to 120, whose nearest rate is
    # 90
    time = next(one for one in judge(hero, mill, model, Delivery(), kit=kit) if one.item == "time")
    assert [(fix.changes["capture_fps"], fix.changes.get("recorded_width_px")) for fix in time.fixes] == [
        (60, None),
        (90, 1920),
    ]
