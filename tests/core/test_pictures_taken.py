"""Pictures with a camera and a light of their own: judged where it is known, said where it is not."""

import math
from dataclasses import replace

import pytest

from jungoptic.core.example import HERO, STACK
from jungoptic.core.match import Delivery, Layer, Member, SetUp, Stack, judge_in_set, judge_member, unknown_of
from jungoptic.core.match.taken import taken_from_m, unknown_words

HILLS = Layer(
    name="Hills",
    kind="painted",
    combine="behind",
    near_m=60,
    width_m=60,
    height_m=12,
    depth_m=60,
    picture_width_px=3840,
)
SAID = {
    "taken_view_deg": 53.13,
    "taken_height_m": 1.6,
    "taken_tilt_deg": 0.0,
    "taken_roll_deg": 0.0,
    "taken_key_azimuth_deg": 118.0,
    "taken_key_elevation_deg": 14.0,
    "taken_grain": 1.0,
}


def judged(layer: Layer, hero: SetUp = HERO) -> dict[str, float]:
    return {item.item: item.amount for item in judge_in_set(hero, layer, None, Delivery())}


def test_of_what_nobody_has_said_nothing_is_judged_and_that_is_said():
    assert judged(HILLS).keys() == {"sharpness"}
    assert unknown_of(HILLS) == ["lens", "camera height", "tilt", "roll", "key", "grain", "black level"]
    (item,) = judge_in_set(HERO, HILLS, None, Delivery())
    assert item.sentence.endswith("grain and black level are unknown and not judged: measure the picture.")
    assert unknown_of(HILLS.but(kind="live")) == []
    assert unknown_of(HILLS.but(kind="black_element")) == ["grain", "black level"]
    said = HILLS.but(**SAID)
    assert unknown_words(said) == " Its black level is unknown and not judged: measure the picture."
    assert unknown_words(HILLS.but(**SAID, black_pct=1)) == ""


def test_a_picture_taken_as_the_hero_would_marries():
    # 2·atan(30/60) = 53.13°: what is 60 m wide spans the picture from 60 m away
    assert taken_from_m(HILLS.but(**SAID)) == pytest.approx(60, abs=0.01)
    amounts = judged(HILLS.but(**SAID))
    assert amounts.keys() == {"sharpness", "perspective", "height", "tilt", "roll", "direction", "grain"}
    assert all(amount < 0.02 for amount in amounts.values())


def test_a_horizon_lies_off_by_the_difference_in_height(hero: SetUp):
    """In a level picture the horizon stands at the height of the lens, at every distance (common practice of
    perspective drawing): it lies ``f·Δh/d`` over the hero's once the foot stands where it should.
    """
    amount = judged(HILLS.but(taken_height_m=3.0))["height"]
    f_px = 35 * 12000 / (12000 - 35) / 23.5 * 1920
    assert amount == pytest.approx(f_px * 1.4 / 60, rel=0.01)
    assert judged(HILLS.but(taken_height_m=3.0, depth_m=0.0))["height"] == pytest.approx(amount, rel=0.01)


def test_a_picture_taken_from_half_as_far_shrinks_what_lies_behind(hero: SetUp):
    view = math.degrees(2 * math.atan(60 / 2 / 30))
    amount = judged(HILLS.but(taken_view_deg=view))["perspective"]
    f_px = 35 * 12000 / (12000 - 35) / 23.5 * 1920
    # its back edge, 60 m further: half the near size where the hero sees it, a third from 30 m; both are
    # pinned at the foot in the middle
    corner = math.hypot(30, 12)
    foot = math.hypot(30, 1.6)
    far_hero, far_here = f_px / 120, f_px / 60 * 30 / 90
    assert amount == pytest.approx((far_hero - far_here) * corner, rel=0.06)
    assert amount > (far_hero - far_here) * foot * 0.9
    assert "perspective" not in judged(HILLS.but(taken_view_deg=view, depth_m=0.0))  # a flat thing has none


def test_tilt_roll_key_and_grain_are_held_against_the_heros(hero: SetUp):
    assert judged(HILLS.but(taken_tilt_deg=2.0))["tilt"] > 1
    # its upper corner, 15 m and 12 m from its foot, goes round it by half a degree
    rolled = judged(HILLS.but(taken_roll_deg=0.5, width_m=30, depth_m=0))["roll"]
    assert rolled == pytest.approx(math.radians(0.5) * 2874 / 60 * math.hypot(15, 12), rel=0.02)
    assert judged(HILLS.but(taken_key_azimuth_deg=98, taken_key_elevation_deg=14))[
        "direction"
    ] == pytest.approx(
        math.degrees(
            math.acos(
                math.sin(math.radians(14)) ** 2 + math.cos(math.radians(14)) ** 2 * math.cos(math.radians(20))
            )
        ),
        abs=0.01,
    )
    flopped = HILLS.but(taken_key_azimuth_deg=-118, taken_key_elevation_deg=14)
    assert judged(flopped)["direction"] > 90 and judged(flopped.but(mirrored=True))["direction"] < 1e-6
    (off,) = (i for i in judge_in_set(HERO, flopped, None, Delivery()) if i.item == "direction")
    assert "Flopped it would be 0° off" in off.sentence
    assert judged(HILLS.but(taken_grain=0.5))["grain"] == judged(HILLS.but(taken_grain=2.0))["grain"] == 1.0


def test_black_is_held_against_the_heros_plate():
    sea = replace(STACK.members[0], layer=STACK.members[0].layer.but(black_pct=0.5))

    def black(layer: Layer, hero: Member = sea) -> list[float]:
        stack: Stack = replace(STACK, members=(hero, Member(layer, None, None)))
        return [item.amount for item in judge_member(stack, 1)[1] if item.item == "black"]

    assert black(HILLS.but(black_pct=4.0)) == [3.5]
    assert black(HILLS) == black(HILLS.but(black_pct=4.0), STACK.members[0]) == []
