"""What a comparison says at its edges: frame, pictures, parts, focus, refusals."""

import math
import re

import pytest

from jungoptic.core.errors import InputError
from jungoptic.core.match import Delivery, Layer, SetUp, judge
from jungoptic.core.match.camera import focal_px
from jungoptic.core.match.explain_focus import focus_band_m
from jungoptic.core.match.layer import Part
from jungoptic.core.match.measure import Match
from jungoptic.core.match.tolerances import ITEMS

from .test_match import DELIVERY, amounts


def test_motion_blur_at_the_right_rate_is_the_heros(hero: SetUp, mill: Layer):
    setup = hero.but(
        focus_distance_m=1,
        distance_m=1,
        lens_height_m=1.6 / 12,
        capture_fps=24 * math.sqrt(12),
        focusing="constant_view",
    )
    match = Match(hero.but(focusing="constant_view"), mill, setup, DELIVERY)
    assert match.motion_px == pytest.approx(match.motion_hero_px, rel=1e-9)


def test_the_edge_of_the_recorded_picture(hero: SetUp):
    plate = Layer(name="Plate", near_m=5, width_m=9, height_m=5, fills_frame=True, resize=0.9)
    assert amounts(hero, plate, hero.but(distance_m=5))["edges"] == pytest.approx(96)
    small = Layer(name="Cup", near_m=5, width_m=0.2, height_m=0.2, base_m=1.5, resize=0.9)
    assert amounts(hero, small, hero.but(distance_m=5, ground_height_m=1.5))["edges"] == 0
    wide = Layer(name="Wall", near_m=5, width_m=3, height_m=1, base_m=1.0)
    # 3 m at 5 m is 860 px to each side on a 35 mm: a 50 mm lens records only 668 of them at the hero's size
    tight = hero.but(distance_m=5, focal_length_mm=50)
    resized = wide.but(resize=focal_px(hero, DELIVERY) / focal_px(tight, DELIVERY))
    assert amounts(hero, resized, tight.but(ground_height_m=1.0))["edges"] > 150


def test_a_picture_whose_camera_is_unknown_is_judged_by_its_enlargement_alone(hero: SetUp):
    sky = Layer(name="Sky", kind="stock", near_m=1000, width_m=670, picture_width_px=960)
    judged = judge(hero, sky, None, DELIVERY)
    assert [one.item for one in judged] == ["sharpness"]
    assert judged[0].amount == pytest.approx(100.0, rel=0.01)  # 1921 px from 960
    assert "lens, camera height, tilt, roll, key, grain and black level are unknown" in judged[0].sentence
    assert judge(hero, sky.but(picture_width_px=None), None, DELIVERY) == ()


def test_parts_decide_how_far_a_layer_reaches(hero: SetUp):
    """By hand: a gable that stands 4 m behind the front is seen as if it filled two thirds of the box."""
    gable = Part(name="Gable", behind_m=4, points=((-1, 0), (0, 3), (1, 0)))
    whole = Layer(name="Mill", near_m=8, width_m=2, height_m=3)
    rolled = hero.but(distance_m=8, roll_deg=2)
    turned = 2 * math.sin(math.radians(1)) * focal_px(hero, DELIVERY)
    foot = math.hypot(1, 3)  # from the foot, where it is pinned down, to the top corner; cut off by the frame
    assert amounts(hero, whole, rolled)["roll"] == pytest.approx(turned * foot / 8, rel=0.15)
    parted = amounts(hero, whole.but(parts=(gable,), depth_m=4), rolled)["roll"]
    assert parted == pytest.approx(turned * math.hypot(1.6 * 4 / 12, 3) / 12, rel=0.25)
    assert parted < amounts(hero, whole, rolled)["roll"]


def test_the_band_that_holds_focus_ends_where_the_blur_does(hero: SetUp, model: SetUp, mill: Layer):
    match = Match(hero, mill, model, DELIVERY)
    near, far = focus_band_m(match, 1.0)
    for end in (near, far):
        full = 12 + (end - 1.0) * 12
        assert abs(match.blur_at_px(end) - match.hero_blur_at_px(full)) == pytest.approx(1.0, abs=1e-4)
    assert near < 1.0 < far < 1.5


def test_every_judgement_can_say_why(hero: SetUp, model: SetUp, mill: Layer, kit):
    for units in ("metric", "imperial"):
        judged = judge(hero, mill, model, DELIVERY, kit=kit, units=units)
        assert len(judged) >= 12
        for one in judged:
            assert one.sentence.endswith((".", "."))
            assert one.formula
            assert one.sources
            assert one.item == "edges" or one.values()
            assert all(value.symbol and value.meaning and value.text for value in one.values())
            assert bool(one.dial) == (one.wants is not None) == bool(one.wants_text)
            assert all(re.match(r"[A-Z0-9]|f/", fix.label) for fix in one.fixes), one.fixes
            assert "nan" not in one.sentence and "inf" not in one.sentence.replace("infinity", "")


@pytest.mark.parametrize(
    ("change", "field"),
    [
        ({"focus_distance_m": 0.035}, "focus_distance_m"),
        ({"extraction_width_mm": 24}, "extraction_width_mm"),
        ({"f_number": 0}, "f_number"),
        ({"shutter_angle_deg": 361}, "shutter_angle_deg"),
        ({"distance_m": "near"}, "distance_m"),
        ({"aperture": 8}, "aperture"),
    ],
)
def test_a_set_up_that_cannot_be_is_refused_at_its_field(hero: SetUp, change: dict, field: str):
    with pytest.raises(InputError) as caught:
        hero.but(**change)
    assert caught.value.problems[0].field == field


def test_text_with_braces_does_not_break_the_message():
    with pytest.raises(InputError, match="given"):
        Layer.read({"name": "x", "near_m": "{field}"})


def test_items_have_tolerances_in_order():
    for item in ITEMS.values():
        assert 0 < item.tolerance.holds < item.tolerance.tight


def test_the_wish_for_equal_blur_is_the_stop_and_then_the_plane_of_focus():
    """Same camera, other plane of focus: no stop mends that.

    Then scaled: stop s · N and plane ÷ s (scale_match).
    """
    plate = Layer(name="Clean plate", near_m=9)
    hero = SetUp(
        focal_length_mm=35,
        f_number=5.6,
        focus_distance_m=9,
        gate_width_mm=23.5,
        gate_height_mm=13.2,
        recorded_width_px=3840,
        recorded_height_px=2160,
        distance_m=9,
        lens_height_m=1.5,
        capture_fps=24,
        iso=800,
        illuminance_lx=960,
    )
    off = {one.item: one for one in judge(hero, plate, hero.but(focus_distance_m=40), Delivery())}[
        "focus_near"
    ]
    assert (off.dial, off.wants) == ("focus_distance_m", 9)
    assert off.fixes[0].changes == {"focus_distance_m": 9}
    mended = {one.item: one for one in judge(hero, plate, hero, Delivery())}["focus_near"]
    assert mended.amount == 0 and mended.dial == "" and mended.wants is None
    model = Layer(name="Model", scale=4, near_m=12, depth_m=2)
    wide_open = {
        one.item: one for one in judge(hero, model, hero.but(distance_m=3, focus_distance_m=3), Delivery())
    }["focus_far"]
    assert wide_open.dial == "f_number" and wide_open.wants == pytest.approx(22.4, rel=0.015)
    stopped = {
        one.item: one
        for one in judge(hero, model, hero.but(distance_m=3, focus_distance_m=3, f_number=22.4), Delivery())
    }["focus_far"]
    assert (stopped.dial, stopped.wants) == ("focus_distance_m", 2.25)
