"""Layers measured at once are each as measured alone: every number of every match, for any mix of layers."""

from __future__ import annotations

import gc
import pickle
import random
import weakref
from datetime import UTC, datetime
from typing import Any

import numpy as np
import pytest

from jungoptic.core.match import Delivery, Layer, Match, Member, Part, SetUp, ShotPlan, Stack, judge_member
from jungoptic.core.match.at_once import measured, measured_members
from jungoptic.core.motion import Move
from jungoptic.core.plan import place

MOVES = {"none": 0.0, "pan": 12.0, "roll": 8.0, "slide": 1.5, "push": 2.0, "arc": 15.0, "zoom": 60.0}
ITSELF = {"hero", "layer", "setup", "delivery", "worked_out", "place", "own", "amounts"}


def outline(chance: random.Random, corners: int) -> Part:
    around = np.linspace(0.0, 2.0 * np.pi, corners, endpoint=False) + chance.uniform(0, 1)
    points = tuple((float(np.cos(a)) * 2.0, 1.5 + float(np.sin(a))) for a in around)
    return Part(name="piece", points=points, behind_m=chance.uniform(0, 3), thickness_m=chance.choice((0, 1)))


def any_layer(chance: random.Random, number: int, kind: str, driver: str) -> Layer:
    parts = tuple(outline(chance, chance.randint(3, 9)) for _ in range(chance.choice((0, 1, 3))))
    return Layer(
        name=f"Layer {number}",
        kind=kind,
        combine=chance.choice(("key", "over", "behind", "in_camera")),
        scale=chance.choice((1, 8, 12)),
        near_m=chance.uniform(8, 20),
        depth_m=chance.choice((0, 3, 6)),
        width_m=chance.uniform(1, 6),
        height_m=chance.uniform(1, 4),
        base_m=chance.choice((0.0, 0.5)),
        offset_m=chance.uniform(-2, 2),
        driver=driver,
        speed_m_s=chance.choice((0, 2, -3)),
        speed_away_m_s=chance.choice((0, 1)),
        resize=chance.choice((1.0, 1.2)),
        fills_frame=chance.random() < 0.2,
        brightest_stops=chance.choice((None, 5.0)),
        travel_across_m=chance.choice((0, 0, 0, 0, 1)),
        parts=parts,
    )


def filmed(chance: random.Random, layer: Layer, model: SetUp, follows: bool) -> SetUp:
    return model.but(
        distance_m=layer.near_m / layer.scale * chance.uniform(0.8, 1.2),
        lens_height_m=chance.choice((0.13, 0.2)),
        tilt_deg=chance.choice((0.0, 2.0)),
        roll_deg=chance.choice((0.0, 0.5)),
        focal_length_mm=chance.choice((25, 35)),
        f_number=chance.choice((8, 16)),
        focus_distance_m=chance.uniform(0.8, 2),
        capture_fps=chance.choice((24, 60)),
        shutter_angle_deg=chance.choice((90, 180)),
        illuminance_lx=chance.uniform(100, 1000),
        key_azimuth_deg=chance.choice((None, 30.0)),
        key_elevation_deg=40.0,
        follows_move=follows,
        ripple_depth=0.3,
        readout_ms=10,
        distortion_pct=-1,
        vignetting_stops=1,
    )


def numbers_of(match: Match) -> dict[str, Any]:
    """Every number that a match holds, by name."""
    held = {name: getattr(match, name) for name in Match.__slots__ if hasattr(match, name)}
    return {name: value for name, value in held.items() if name not in ITSELF} | match.amounts


@pytest.fixture
def at_once(monkeypatch) -> list[int]:
    """How many layers were measured together, for every time that it was done."""
    counts: list[int] = []
    whole = Match.of_each

    def counted(self: Match, layers: Any, *others: Any) -> list[Match]:
        counts.append(len(layers))
        return whole(self, layers, *others)

    monkeypatch.setattr(Match, "of_each", counted)
    return counts


@pytest.mark.parametrize("kind", MOVES)
@pytest.mark.parametrize(("follows", "pupil_mm"), [(True, 0), (False, 0), (True, 40)])
def test_layers_measured_at_once_are_each_as_measured_alone(
    kind: str, follows: bool, pupil_mm: float, hero: SetUp, model: SetUp, at_once: list[int]
):
    chance = random.Random(f"{kind} {follows} {pupil_mm}")
    delivery = Delivery(move=Move(kind=kind, amount=MOVES[kind], end_frame=48))
    turned = hero.but(readout_ms=8, distortion_pct=-2, vignetting_stops=0.5, tilt_deg=1)
    pairs: list[tuple[Layer, SetUp | None]] = []
    for number in range(80):
        driver = chance.choice(("still", "gravity", "set_speed", "fire"))
        layer = any_layer(chance, number, chance.choice(("model", "live", "frame_by_frame")), driver)
        setup = filmed(chance, layer, model, follows).but(pupil_off_mm=pupil_mm)
        pairs.append((layer, setup))
    pairs.insert(7, (Layer(name="Hills", kind="stock", near_m=90, width_m=60, picture_width_px=900), None))
    together = measured(turned, pairs, delivery)
    assert sum(at_once) > 20
    assert max(at_once) > 2
    for (layer, setup), match in zip(pairs, together, strict=True):
        alone = Match(turned, layer, setup, delivery)
        assert match.layer is layer
        assert match.setup is setup
        assert list(match.amounts) == list(alone.amounts), layer
        held = numbers_of(match)
        assert all(type(value) is float for value in held.values())
        assert held == pytest.approx(numbers_of(alone), rel=1e-9, abs=1e-9), layer
        if setup is not None:
            for here, there in zip(match.own, alone.own, strict=True):
                assert here == pytest.approx(there, rel=1e-9, abs=1e-9)
            assert match.place[0] is alone.place[0]
            assert np.array_equal(match.place[1], alone.place[1])


def test_a_stack_is_judged_alike_measured_at_once_or_one_by_one(
    hero: SetUp, model: SetUp, mill: Layer, actor: Layer, on_green: SetUp, at_once: list[int]
):
    """The layers of one set-up stand at their own distances; the lamps of another are written out first."""
    boats = [mill.but(name=f"Boat {n}", near_m=14.0 + n) for n in range(4)]
    members = [
        Member(boat, model.but(distance_m=boat.near_m / 12), 1, n == 0) for n, boat in enumerate(boats)
    ]
    stack = Stack(ShotPlan(length_frames=48), Delivery(), hero, (*members, Member(actor, on_green, 2)))
    matches = measured_members(stack)
    assert at_once == [4]
    for position, match in enumerate(matches):
        _, alone = judge_member(stack, position)
        same, judged = judge_member(stack, position, match=match)
        assert same is match
        assert [(one.item, one.verdict, one.where, one.sentence) for one in judged] == [
            (one.item, one.verdict, one.where, one.sentence) for one in alone
        ]


def test_what_is_kept_of_layers_together_goes_when_one_of_them_changes(
    hero: SetUp, model: SetUp, mill: Layer
):
    near, far = mill.but(near_m=14.0), mill.but(near_m=16.0)
    first = measured(hero, [(mill, model), (near, model)], Delivery())
    other = measured(hero, [(mill, model), (far, model)], Delivery())
    again = measured(hero, [(mill, model), (near, model)], Delivery())
    assert first[1].amounts == again[1].amounts
    assert first[1].amounts["perspective"] != other[1].amounts["perspective"]


def test_a_layer_that_no_hand_moves_is_not_measured_again(hero: SetUp, model: SetUp, mill: Layer):
    still, moved = mill.but(name="still"), mill.but(name="moved")
    measured(hero, [(still, model), (moved, model)], Delivery())  # once is no drag
    first = measured(hero, [(still, model), (moved, model)], Delivery())
    again = measured(hero, [(still, model.but()), (moved, model.but(lens_height_m=0.2))], Delivery())
    assert again[0] is first[0]
    assert again[1] is not first[1]
    assert again[1].amounts["height"] != first[1].amounts["height"]
    for other_hero, delivery in ((hero.but(lens_height_m=2), Delivery()), (hero, Delivery(width_px=3840))):
        (match,) = measured(other_hero, [(still, model)], delivery)
        assert match is not first[0]
        assert match.amounts == Match(other_hero, mill, model, delivery).amounts


def test_what_is_said_of_a_kept_match_is_what_is_asked(hero: SetUp, model: SetUp, mill: Layer):
    """Units, limits and kit of the one who asks now, not of whoever asked first."""
    stack = Stack(ShotPlan(), Delivery(), hero, (Member(mill, model.but(lens_height_m=0.2), 1),))
    (match,) = [measured_members(stack) for _ in range(3)][-1]
    assert mill.worked_out["match"] is match

    def height(**asked: Any) -> str:
        judged = judge_member(stack, 0, match=match, **asked)[1]
        return next(one.sentence for one in judged if one.item == "height")

    metric = height()
    assert " m " in metric
    assert " in " in height(units="imperial")
    assert height() == metric


def test_a_layer_goes_to_another_process_without_what_is_kept_with_it(hero: SetUp, model: SetUp, mill: Layer):
    stack = Stack(ShotPlan(), Delivery(), hero, (Member(mill, model, 1),))
    (match,) = [measured_members(stack) for _ in range(3)][-1]
    assert judge_member(stack, 0, match=match)[1][0].sentence  # and with it what no pickle takes
    there = pickle.loads(pickle.dumps(mill))
    assert there == mill
    assert not there.worked_out
    assert there.but(resize=0.5).resize == 0.5


def test_a_layer_that_is_only_tried_is_freed_with_its_match(hero: SetUp, model: SetUp, mill: Layer):
    """By counting alone: a hand that drags a layer makes a new one with every move."""
    gc.collect()
    gc.disable()
    try:
        tried, other = mill.but(near_m=14.0), mill.but(near_m=16.0)
        stack = Stack(ShotPlan(), Delivery(), hero, (Member(tried, model, 1), Member(other, model, 1)))
        for position, match in enumerate(measured_members(stack)):
            assert all(one.sentence for one in judge_member(stack, position, match=match)[1])
            place(hero, match.layer, model, Delivery(), only=("tilt_deg",))
        gone = weakref.ref(tried), weakref.ref(other)
        del tried, other, stack, match
        assert [layer() for layer in gone] == [None, None]
    finally:
        gc.enable()


CHANGED = {
    "focusing": "constant_view",
    "recorded_width_px": 1920,
    "recorded_height_px": 1920,
    "extraction_width_mm": 20.0,
    "key_azimuth_deg": 40.0,
    "key_elevation_deg": 30.0,
    "key_size_deg": 5.0,
    "key_to_fill_stops": 3.0,
    "key_measured": True,
    "sun_at": datetime(2027, 6, 1, 12, tzinfo=UTC),
    "sky": "overcast",
    "latitude_deg": 50.0,
    "longitude_deg": 1.0,
    "model_speed_m_s": 0.3,
    "follows_move": False,
    "travel_m": 0.1,
    "references": ("ball",),
    "bit_depth": 8,
    "sampling": "4:2:0",
    "long_groups": True,
    "measured_gate_mm": 30.0,
}
IN_THE_SET = {"lamps", "backing"}  # written out before anything is measured


@pytest.mark.parametrize("field", [name for name in SetUp.model_fields if name not in IN_THE_SET])
@pytest.mark.parametrize("driver", ["gravity", "set_speed"])
def test_no_setting_of_one_layer_is_taken_for_that_of_another(
    field: str, driver: str, hero: SetUp, model: SetUp, mill: Layer
):
    """Whatever a set-up has, also what somebody adds to it later."""
    hero = hero.but(noise_pct=0.6, noise_iso=800)
    setup = model.but(ripple_depth=0.3, readout_ms=10, distortion_pct=-1, vignetting_stops=1, pupil_off_mm=20)
    setup = setup.but(noise_pct=0.8, noise_iso=400)
    value = getattr(setup, field)
    other = setup.but(**{field: CHANGED[field] if field in CHANGED else 1.2 * value + 0.1})
    assert getattr(other, field) != value
    layer = mill.but(combine="key", driver=driver, speed_m_s=2.0, brightest_stops=5.0)
    delivery = Delivery(move=Move(kind="push", amount=2, end_frame=48))
    pairs = [(layer, setup), (layer.but(near_m=14.0), other)]
    for (one, filming), match in zip(pairs, measured(hero, pairs, delivery), strict=True):
        alone = numbers_of(Match(hero, one, filming, delivery))
        assert numbers_of(match) == pytest.approx(alone, rel=1e-9, abs=1e-9)
