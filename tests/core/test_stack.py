"""The whole stack: what one look at the set and at the stack finds, each with the case in which it must
not.
"""

from __future__ import annotations

import math
from dataclasses import replace
from typing import Any

import pytest

from jungoptic.core.match import Delivery, Layer, SetUp
from jungoptic.core.match.compare import judge_member
from jungoptic.core.match.saying import Fix
from jungoptic.core.match.stack import Member, ShotPlan, Stack
from jungoptic.core.match.tolerances import ITEMS
from jungoptic.core.motion.move import Move
from jungoptic.core.sources import SOURCES

SEA = Layer(
    name="Sea",
    kind="live",
    combine="base",
    near_m=6,
    depth_m=100,
    width_m=20,
    height_m=4,
    fills_frame=True,
)
LOCKED = ("ball", "chart", "tape")


def stack_of(
    hero: SetUp, *members: Member, plan: ShotPlan | None = None, delivery: Delivery | None = None
) -> Stack:
    return Stack(
        plan or ShotPlan(),
        delivery or Delivery(),
        hero,
        (*members, Member(SEA, hero.but(references=LOCKED), 1, True)),
    )


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
    return replace(
        stack, members=tuple(member if n == at else other for n, other in enumerate(stack.members))
    )


def green(hero: SetUp, actor: Layer, setup: SetUp, **plan: Any) -> Stack:
    return stack_of(hero, Member(actor, setup, 2), plan=ShotPlan(**plan))


# --- every item is described


def test_every_item_cites_sources_that_exist_and_can_be_told_in_words():
    for one in ITEMS.values():
        assert one.sources and all(key in SOURCES for key in one.sources), one.key
        assert one.tolerance.tight > one.tolerance.holds > 0


# --- completeness


def test_a_rig_wants_a_clean_plate_and_the_fix_plans_one(hero):
    rig = Layer(name="Rope", kind="rig", combine="difference", near_m=4, width_m=0.2, height_m=3)
    found = item(stack_of(hero, Member(rig, hero, 2)), "clean_plate")
    assert found.verdict == "shows"
    plate = Layer.read({**found.fixes[0].changes})
    assert plate.kind == "clean_plate"
    assert item(stack_of(hero, Member(rig, hero, 2), Member(plate, hero, 2)), "clean_plate").amount == 0


@pytest.mark.parametrize(
    ("field", "value"),
    [("focus_distance_m", 9.0), ("f_number", 11.0), ("white_balance_k", 5000.0), ("lens_height_m", 1.4)],
)
def test_a_clean_plate_with_another_setting_does_not_cover(hero, field, value):
    rig = Layer(name="Rope", kind="rig", combine="difference", near_m=4, width_m=0.2, height_m=3)
    plate = Layer(name="Clean", kind="clean_plate", combine="behind", near_m=4.1, width_m=6, height_m=3)
    rigged, hero = (
        hero.but(distance_m=4),
        hero.but(distance_m=4.1),
    )  # one place of the lens, counted to two front edges
    same = item(stack_of(hero, Member(rig, rigged, 2), Member(plate, hero, 3)), "clean_match", 1)
    assert same.amount == 0
    other = hero.but(**{field: value})
    found = item(stack_of(hero, Member(rig, rigged, 2), Member(plate, other, 3)), "clean_match", 1)
    assert found.amount == 2 and found.verdict == "shows"
    assert other.but(**found.fixes[0].changes) == hero
    aside = item(
        stack_of(hero, Member(rig, rigged, 2), Member(plate, hero.but(distance_m=4.6), 3)), "clean_match", 1
    )
    assert aside.fixes[0].changes == {"distance_m": 4.1}


def test_contact_and_reflection_are_asked_for_where_something_stands(hero, actor):
    wet = actor.but(contact="wet_ground", kept=())
    found = item(stack_of(hero, Member(wet, hero, 2)), "contact")
    assert found.amount == 3 and found.verdict == "shows"
    assert item(stack_of(hero, Member(wet.but(**found.fixes[0].changes), hero, 2)), "contact").amount == 0
    shadow = Layer(name="Shadow", kind="shadow_pass", combine="multiply", near_m=5)
    assert (
        item(stack_of(hero, Member(wet, hero, 2), Member(shadow, hero, 2)), "contact").amount == 1
    )  # the reflection is still missing
    assert item(stack_of(hero, Member(actor.but(contact="nothing"), hero, 2)), "contact") is None


def test_references_are_asked_for_once_in_every_light(hero, actor):
    bare = hero.but(references=())
    stack = stack_of(hero, Member(actor, bare, 2), Member(actor.but(name="Again"), bare, 2))
    assert item(stack, "references").amount == 1 and item(stack, "references").verdict == "tight"
    assert item(stack, "references", 1) is None
    assert (
        item(stack_of(hero, Member(actor, hero.but(references=LOCKED), 2)), "references").verdict == "holds"
    )


def test_an_arm_over_the_split_line_shows_by_its_reach(hero):
    half = Layer(
        name="Left half",
        kind="split",
        combine="split",
        near_m=4,
        width_m=1,
        height_m=1.7,
        split_side="left",
        moves_from_m=-1,
        moves_to_m=0.1,
    )
    plan = ShotPlan(split_px=960, split_feather_px=20)
    match, _ = judge_member(stack_of(hero, Member(half, hero, 2), plan=plan), 0)
    found = item(stack_of(hero, Member(half, hero, 2), plan=plan), "split_line")
    assert found.amount == pytest.approx(match.f_hero_px * 0.1 / 4 - 10)
    assert (
        item(stack_of(hero, Member(half.but(moves_to_m=-0.1), hero, 2), plan=plan), "split_line").amount == 0
    )
    assert (
        item(
            stack_of(
                hero, Member(half.but(split_side="right", moves_from_m=0, moves_to_m=1), hero, 2), plan=plan
            ),
            "split_line",
        ).amount
        == 0
    )


def test_a_thing_above_its_matte_line_and_where_the_camera_may_stand(hero):
    tower = Layer(
        name="Tower", kind="live", combine="hand_matte", near_m=20, width_m=4, height_m=8, matte_line_px=100
    )
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
    assert (
        item(
            stack_of(hero, Member(actor, hero, 2), plan=plan.but(carries=("Leaning Post",))), "recurring", 1
        ).amount
        == 0
    )
    assert (
        item(
            stack_of(hero, Member(actor.but(name="Leaning post"), hero, 2), plan=plan), "recurring", 1
        ).amount
        == 0
    )


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
    assert (
        item(
            stack_of(
                hero, Member(fog, None, None), Member(far, None, None), plan=ShotPlan(visibility_m=2000)
            ),
            "haze",
            1,
        ).amount
        == 0
    )
    assert item(stack_of(hero, Member(far, None, None)), "haze") is None


def test_a_card_turned_from_the_lens(hero):
    card = Layer(name="Reeds", kind="painted", near_m=3, turned_deg=25)
    assert (
        item(stack_of(hero, Member(card, None, None)), "card_turn").verdict == "tight"
    )  # common practice: 20 to 30°


def test_a_set_that_ends_inside_the_frame_over_the_whole_move(hero):
    built = Layer(
        name="Wall",
        kind="model",
        combine="in_camera",
        scale=4,
        near_m=8,
        width_m=6,
        height_m=4,
        fills_frame=True,
    )
    setup = hero.but(distance_m=2, focus_distance_m=2)
    still = item(stack_of(hero, Member(built, setup, 2)), "set_edge")
    assert still.amount == 0
    slid = item(
        stack_of(hero, Member(built, setup, 2), delivery=Delivery(move=Move(kind="slide", amount=1.0))),
        "set_edge",
    )
    assert slid.amount > 0 and slid.verdict == "shows"
    # derived: the wall reaches to atan 3/8 from the axis, 10° less once the camera has turned
    panned = item(
        stack_of(hero, Member(built, setup, 2), delivery=Delivery(move=Move(kind="pan", amount=10))),
        "set_edge",
    )
    f_px = 35 * 12000 / (12000 - 35) * 1920 / 23.5
    assert panned.amount == pytest.approx(960 - f_px * math.tan(math.atan(3 / 8) - math.radians(10)))
    # derived: half the frame and 10° more, at the wall's 8 m, is what must stand to that side
    short_m = 8 * math.tan(math.atan(960 / f_px) + math.radians(10)) - 3
    assert panned.fixes[0].changes == {"width_m": pytest.approx(6 + 2 * short_m, abs=0.02)}
