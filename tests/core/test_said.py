"""What is said at the camera and beside the drawing: the card's lines, focus passes, how exactly, the finish,
hours of mattes.
"""

from __future__ import annotations

import pytest

from jungoptic.core.breakdown.costs import layer_matte_hours
from jungoptic.core.kit import Camera, Kit, Lens, RecordingMode
from jungoptic.core.match import Delivery, Layer, SetUp
from jungoptic.core.match.measure import Match
from jungoptic.core.plan.card import card_settings
from jungoptic.core.plan.focusing import MOST_PASSES, band_text, focusing
from jungoptic.core.plan.placing import Placing, height_wish
from jungoptic.core.wording import Words, finish_text

METRIC, IMPERIAL = Words("metric"), Words("imperial")
PLAN = SetUp(
    focal_length_mm=35,
    f_number=8,
    focus_distance_m=1,
    gate_width_mm=23.5,
    gate_height_mm=13.2,
    recorded_width_px=3840,
    recorded_height_px=2160,
    distance_m=1,
    lens_height_m=0.35,
    capture_fps=24,
    iso=800,
    illuminance_lx=960,
)
MODE = RecordingMode(
    name="3840 × 2160",
    recorded_width_px=3840,
    recorded_height_px=2160,
    gate_width_mm=23.5,
    gate_height_mm=13.2,
    highest_fps=60,
)
KIT = Kit(
    camera=Camera(name="Camera A", modes=(MODE,), lowest_iso=100, highest_iso=6400),
    lenses=(
        Lens(name="35 mm", focal_length_mm=35, widest_f_number=2, smallest_f_number=22, closest_focus_m=0.3),
    ),
)


def test_the_card_has_every_setting_with_the_unit_that_it_is_typed_in():
    lines = {one.field: one for one in card_settings(PLAN, (), KIT, METRIC)}
    assert (lines["focal_length_mm"].unit, lines["focal_length_mm"].text) == ("mm", "35 mm")
    assert (lines["focus_distance_m"].unit, lines["focus_distance_m"].quantity) == ("", "length")
    assert (lines["illuminance_lx"].unit, lines["illuminance_lx"].quantity) == ("", "light")
    assert (lines["f_number"].unit, lines["f_number"].text) == ("", "f/8"), "f/ stands before the number"
    assert (lines["capture_fps"].unit, lines["light_k"].unit, lines["tilt_deg"].unit) == (
        "frames/s",
        "K",
        "°",
    )
    assert [mark.value for mark in lines["recorded_width_px"].choices] == [3840]


# The hinge rule of view cameras (source: scheimpflug), J = f / sin(tilt), worked by hand: 90 mm, 2 m above
# the ground, asin(0.045) = 2.58°.
def test_the_tilt_that_lays_focus_on_the_ground():
    plan = PLAN.but(focal_length_mm=90, lens_height_m=2)
    match = Match(plan, Layer(name="Floor", kind="live", near_m=1, depth_m=0), plan, Delivery())
    assert focusing(match, METRIC).tilt_text == "2.58°"
    low = Match(
        plan, Layer(name="Floor", kind="live", near_m=1, depth_m=0), plan.but(lens_height_m=0.05), Delivery()
    )
    assert focusing(low, METRIC).tilt_text == ""


def test_focus_passes_hold_the_whole_depth_one_after_the_other():
    match = Match(
        PLAN.but(focus_distance_m=12, distance_m=12),
        Layer(name="Model", kind="model", scale=12, near_m=12, depth_m=6),
        PLAN,
        Delivery(),
    )
    few = focusing(match, METRIC)
    assert 1 < len(few.passes) <= MOST_PASSES and not few.more
    assert [one.focus_m for one in few.passes] == sorted(one.focus_m for one in few.passes)
    wide_open = Match(
        match.hero,
        Layer(name="Model", kind="model", scale=12, near_m=12, depth_m=200),
        PLAN.but(f_number=1.4),
        Delivery(),
    )
    many = focusing(wide_open, METRIC)
    assert len(many.passes) == MOST_PASSES and many.more


@pytest.mark.parametrize(
    ("near", "far", "said"),
    [
        (1.0, None, "holds focus from 1 m on"),
        (1.0, 1.5, "holds focus 1 m to 1.5 m"),
        (1.0, 1.0, "holds focus nowhere at this stop"),
    ],
)
def test_where_focus_holds(near: float, far: float | None, said: str):
    assert band_text(near, far, METRIC) == said


@pytest.mark.parametrize(
    ("placing", "said"),
    [
        (Placing("lens_height_m", 1, "m", 0.012, 0.012, "height"), "± 12 mm"),
        (Placing("tilt_deg", 0, "°", 0.2, 0.5, "tilt"), "− 0.2° … + 0.5°"),
        (Placing("distance_m", 1, "m", 1000, 1000, ""), "any"),
        (Placing("distance_m", 1, "m", None, None, "size"), "beyond it already"),
    ],
)
def test_how_exactly_in_words(placing: Placing, said: str):
    assert placing.text(METRIC) == said


def test_the_height_that_the_lens_wants():
    assert height_wish(0.133, None, METRIC).startswith("lens wants ")
    assert "±" in height_wish(0.133, 0.01, IMPERIAL) and "±" not in height_wish(0.133, 500, METRIC)


def test_the_finish_in_a_few_words():
    assert finish_text(black_and_white=False, soften_px=0, grain_added=0, shows_models=False) == ""
    assert (
        finish_text(black_and_white=True, soften_px=1.5, grain_added=0.2, shows_models=True)
        == "black and white, softened 1.5 px, grain added, shows its models"
    )


# A key every 4 frames of 48 is 12 keys, at 5 minutes each an hour (common practice), for the half that is
# delivered half of it.
def test_hours_of_a_hand_matte_for_all_of_a_layer_and_for_what_is_delivered():
    box = [(-100.0, 0.0), (100.0, 50.0)]
    assert layer_matte_hours(box, (0, 0, 1920, 1080), 48) == (pytest.approx(1.0), pytest.approx(0.5))
    assert layer_matte_hours([], (0, 0, 1920, 1080), 48) is None
