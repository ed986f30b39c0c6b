"""What passes and plates belong to, and the light that an added thing throws."""

from __future__ import annotations

import math

import numpy as np
import pytest

from jungoptic.core.light.placed import PlacedLamp
from jungoptic.core.match import Layer, Match, lighting
from jungoptic.core.match.passes import belongs_to, has_pass
from jungoptic.core.match.records import Delivery
from jungoptic.core.match.stack import Member, Stack

from .test_stack import fixed, item, stack_of

ROPE = Layer(name="Rope", kind="rig", near_m=4, width_m=0.4, height_m=2)
CLEAN = Layer(name="Clean", kind="clean_plate", combine="behind", near_m=4, width_m=4, height_m=3)
SPARKS = Layer(
    name="Sparks", kind="black_element", combine="add", near_m=3, width_m=0.4, height_m=0.4, base_m=1.5
)
FLASH = Layer(
    name="Flash", kind="light_pass", combine="add", near_m=4, width_m=2, height_m=2, pass_of="Sparks"
)


def amounts(stack: Stack, key: str) -> dict[str, float]:
    seen = ((member.layer.name, item(stack, key, position)) for position, member in enumerate(stack.members))
    return {name: judged.amount for name, judged in seen if judged is not None}


def test_a_clean_plate_serves_what_its_own_set_up_films_and_no_other(hero):
    other = ROPE.but(name="Bucket")
    stack = stack_of(hero, Member(ROPE, hero, 2), Member(other, hero, 3), Member(CLEAN, hero, 2))
    assert amounts(stack, "clean_plate") == {"Rope": 0, "Bucket": 2}
    assert "in another set-up" in item(stack, "clean_plate", 1).sentence
    named = stack_of(
        hero, Member(ROPE, hero, 2), Member(other, hero, 3), Member(CLEAN.but(pass_of="bucket"), hero, 2)
    )
    assert amounts(named, "clean_plate") == {"Rope": 2, "Bucket": 0}


@pytest.mark.parametrize(("made_from", "said"), [("neighbours", "neighbouring frames"), ("paint", "painted")])
def test_a_plate_that_nobody_filmed_counts_for_the_only_layer_that_wants_it(hero, made_from, said):
    made = Member(CLEAN.but(made_from=made_from), None, None)
    stack = stack_of(hero, Member(ROPE, hero, 2), made)
    assert amounts(stack, "clean_plate") == {"Rope": 0} and said in item(stack, "clean_plate").sentence
    two = stack_of(hero, Member(ROPE, hero, 2), Member(ROPE.but(name="Bucket"), hero, 3), made)
    assert set(amounts(two, "clean_plate").values()) == {2}  # it does not say whose it is
    assert belongs_to(two, made) == ()


def test_a_shadow_or_a_reflection_serves_what_it_was_made_for(hero):
    stands = Layer(name="Wren", near_m=5, contact="wet_ground", kind="live_element", combine="key")
    also = stands.but(name="Orla")
    shadow = Layer(name="Shadow", kind="shadow_pass", combine="multiply", near_m=5)
    mirror = Layer(name="Mirror", kind="reflection_pass", combine="add", near_m=5, pass_of="Wren")
    stack = stack_of(
        hero, Member(stands, hero, 2), Member(also, hero, 3), Member(shadow, hero, 3), Member(mirror, hero, 3)
    )
    # Wren has the reflection that names her and no shadow, Orla the shadow of her set-up and no reflection
    assert {
        name: amount for name, amount in amounts(stack, "contact").items() if name in ("Wren", "Orla")
    } == {
        "Wren": 2,
        "Orla": 1,
    }
    assert has_pass(stack, stack.members[1], "shadow_pass")


def test_a_light_pass_is_not_held_against_the_heros_key(hero):
    lit = hero.but(key_azimuth_deg=-150, key_elevation_deg=60, light_k=2700, illuminance_lx=20)
    found = Match(hero, FLASH, lit, Delivery()).amounts
    assert not {"direction", "hardness", "key_fill", "brightness"} & set(found)
    assert found["colour"] == 0  # it has a colour of its own
    balanced = Match(hero, FLASH, lit.but(white_balance_k=3200), Delivery()).amounts["colour"]
    assert balanced == pytest.approx(1e6 / 3200 - 1e6 / hero.white_balance_k)


def test_a_light_pass_comes_from_where_its_thing_is(hero):
    """By hand: the sparks' middle is at (0, 1.7, 3.0) m, what they light at (0, 1, 4): 0.7 m up and 1 m
    towards the lens.
    """
    wanted = math.degrees(math.atan2(0.7, 1.0))
    stated = hero.but(distance_m=4, key_azimuth_deg=0, key_elevation_deg=0)
    stack = stack_of(hero, Member(FLASH, stated, 2), Member(SPARKS, None, None))
    shown = item(stack, "direction")
    assert shown.amount == pytest.approx(wanted, abs=1e-9) and shown.verdict == "shows"
    assert item(fixed(stack, 0, shown.fixes[0]), "direction").amount == pytest.approx(0, abs=0.01)
    # a lamp of the pass's own, where the sparks will be: at (0, 1.7) m, 1 m before the front edge
    lamp = PlacedLamp(name="bulb", intensity_cd=300, height_m=1.7, behind_m=-1.0)
    placed = stack_of(hero, Member(FLASH, stated.but(lamps=(lamp,)), 2), Member(SPARKS, None, None))
    assert item(placed, "direction").amount < 2 and not item(placed, "direction").fixes
    aside = lamp.but(across_m=2.0)
    moved = stack_of(hero, Member(FLASH, stated.but(lamps=(aside,)), 2), Member(SPARKS, None, None))
    expected = math.degrees(
        math.acos(np.dot([2, 0.7, -1], [0, 0.7, -1]) / math.hypot(2, 0.7, 1) / math.hypot(0.7, 1))
    )
    assert item(moved, "direction").amount == pytest.approx(expected, abs=0.5)


@pytest.mark.parametrize(
    ("own", "things", "off"),
    [
        ((24, 5), (24, 10), 0),  # the flash is over before the sparks are
        ((24, 12), (24, 10), 2),
        ((22, 5), (24, 10), 2),
        ((24, None), (24, 10), 0),
        ((None, None), (24, 10), 3),
    ],
)
def test_a_light_pass_comes_and_goes_with_its_thing(hero, own, things, off):
    pass_, thing = (
        layer.but(cue_frame=cue, cue_frames=lasts) for layer, (cue, lasts) in ((FLASH, own), (SPARKS, things))
    )
    stack = stack_of(hero, Member(pass_, hero, 2), Member(thing, None, None))
    shown = item(stack, "cue")
    assert shown.amount == off
    for fix in shown.fixes:
        assert item(fixed(stack, 0, fix), "cue").amount == 0


def test_a_key_that_was_read_there_counts_over_lamps(hero, actor, on_green):
    read = on_green.but(key_measured=True, key_azimuth_deg=-120, key_elevation_deg=35)
    key = lighting.key_of(read, actor)
    assert (key.azimuth_deg, key.elevation_deg, key.lamp) == (-120, 35, None)
    assert lighting.key_of(read.but(key_measured=False), actor).azimuth_deg == pytest.approx(40, abs=1)
