"""The stack as a whole, and what a production, a place and a board say."""

from __future__ import annotations

import math
import pickle

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from jungoptic.core.light.placed import PlacedLamp
from jungoptic.core.match import Delivery, Layer, SetUp, lighting
from jungoptic.core.match.board import BoardLine
from jungoptic.core.match.compare import judge_member
from jungoptic.core.match.cut import across_cut, cut_side
from jungoptic.core.match.measure import Match
from jungoptic.core.match.stack import Member, ShotPlan
from jungoptic.core.match.tolerances import ITEMS, Tolerance
from jungoptic.core.motion.move import Move
from jungoptic.core.wording import Words

from .test_stack import green, item, stack_of


def test_only_what_needs_nothing_beside_it_is_judged_of_a_hero(hero, actor):
    _, judged = judge_member(stack_of(hero, Member(actor, hero, 2)), 1)
    assert all(ITEMS[one.item].alone for one in judged)


@settings(max_examples=40)
@given(
    s=st.floats(1.5, 48),
    near=st.floats(4, 60),
    depth=st.floats(0, 20),
    stop=st.sampled_from([2.8, 4.0, 5.6]),
    move=st.floats(-3, 3),
)
def test_a_scaled_world_with_its_scaled_move_keeps_its_parallax(s, near, depth, stop, move):
    hero = SetUp(
        focal_length_mm=35,
        focusing="constant_view",
        f_number=stop,
        focus_distance_m=near,
        gate_width_mm=23.5,
        gate_height_mm=13.2,
        recorded_width_px=3840,
        recorded_height_px=2160,
        distance_m=near,
        lens_height_m=1.6,
        capture_fps=24,
        iso=800,
        illuminance_lx=960,
    )
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
        sent = pickle.loads(pickle.dumps(one))  # what goes to another process has all of it worked out
        assert (sent.item, sent.amount, sent.where, sent.sentence, sent.values(), sent.fixes) == (
            one.item,
            one.amount,
            one.where,
            one.sentence,
            one.values(),
            one.fixes,
        )


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
    lines = tuple(
        BoardLine(kind="paint_out", points=((10, 10), (20, 10), (20, 20)), layer="Rope", note=note)
        for note in ("mic stand", "rail")
    )
    drawn = item(
        stack_of(hero, Member(element.but(combine="key"), hero, 2), plan=ShotPlan(lines=lines)), "clean_plate"
    )
    assert drawn.where == "for mic stand and rail to be painted out"
    loose = BoardLine(kind="paint_out", points=((10, 10), (20, 10), (20, 20)))
    stack = stack_of(hero, Member(rope, hero, 2), plan=ShotPlan(lines=(loose,)))
    assert [stack.painted_out(member) for member in stack.members] == [
        (),
        (loose,),
    ]  # what names no layer is in the hero


def test_a_clean_plate_of_a_model_is_counted_at_its_own_scale(hero):
    # by hand: 1:12, front edges 12 m and 24 m away full size stand 1 m and 2 m from the same lens
    rig = Layer(name="Rope", kind="rig", combine="difference", scale=12, near_m=12, width_m=2, height_m=3)
    plate = Layer(
        name="Clean", kind="clean_plate", combine="behind", scale=12, near_m=24, width_m=6, height_m=3
    )
    rigged = hero.but(distance_m=1, focus_distance_m=1)

    def cleaned(distance_m: float):
        return item(
            stack_of(hero, Member(rig, rigged, 2), Member(plate, rigged.but(distance_m=distance_m), 3)),
            "clean_match",
            1,
        )

    assert cleaned(2.0).amount == 0
    aside = cleaned(2.005)
    assert aside.amount == 2 and aside.fixes[0].changes == {"distance_m": 2.0}
    assert [value.text for value in aside.values()] == ["1 m"]


def test_a_line_of_the_board_carries_what_recurs(hero, actor):
    post = BoardLine(kind="recurring", points=((10, 10),), thing="Leaning post")
    plan = ShotPlan(recurring=("leaning post", "far mill"))
    lacking = item(stack_of(hero, Member(actor, hero, 2), plan=plan), "recurring", 1)
    assert lacking.amount == 4 and lacking.sentence.startswith("The place has leaning post, far mill; ")
    assert (
        item(stack_of(hero, Member(actor, hero, 2), plan=plan.but(lines=(post,))), "recurring", 1).amount == 2
    )


def test_a_fill_that_is_switched_off_fills_nothing(actor, on_green):
    fill = PlacedLamp(
        name="fill", role="fill", intensity_cd=2000, across_m=-2, height_m=1.6, behind_m=-3, aim_height_m=1.2
    )
    lit = on_green.but(lamps=(*on_green.lamps, fill), key_to_fill_stops=3.0)
    point = lighting.subject_point(actor, lit)
    key = next(lamp for lamp in lit.lamps if lamp.role == "key")
    # by the definition: light of the key and the fill together over the fill alone, as the meter's dome
    # takes it; the sheet's lamps are neither
    filled = lighting.metered_lx(fill, point)
    expected = math.log2((lighting.on_lit_side_lx([key], key, point) + filled) / filled)
    assert lighting.key_of(lit, actor).to_fill_stops == pytest.approx(expected)
    off = lit.but(lamps=(*on_green.lamps, fill.but(level=0)))
    assert lighting.key_of(off, actor).to_fill_stops == 3.0


def test_a_time_without_a_place_leaves_the_key_as_it_was_stated(hero):
    timed = hero.but(sun_at="2003-10-17T12:30:30-07:00")
    layer = Layer(name="L", near_m=5)
    for half in (timed, timed.but(latitude_deg=39.7), timed.but(longitude_deg=-105.2)):
        key = lighting.key_of(half, layer)
        assert (key.azimuth_deg, key.elevation_deg, key.by_sun) == (118, 14, False)


def test_a_neighbour_whose_key_nobody_stated_is_compared_in_the_rest(hero):
    unlit = hero.but(key_azimuth_deg=None)
    for here, there in ((hero, unlit), (unlit, hero)):
        found = {
            one.item: one
            for one in across_cut(cut_side(here), cut_side(there), "TM020", ("", ""), Words("metric"))
        }
        assert set(found) == {"height", "colour"} and found["colour"].unit == "mired"
