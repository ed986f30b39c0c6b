"""What raises a caution: the plan, who is in the shot, its own words; and that nothing raises what is not
there.
"""

from __future__ import annotations

from datetime import UTC, datetime

import pytest

from jungoptic.core.breakdown import plan_reasons, raised_cautions, who_reasons, word_reasons
from jungoptic.core.cautions import CAUTIONS
from jungoptic.core.light import Backing, PlacedLamp
from jungoptic.core.match import Delivery, Layer, Member, ShotPlan
from jungoptic.core.motion import Move

from .test_stack import stack_of

ACTOR = Layer(name="Wren", kind="live_element", near_m=5)
LAMP = PlacedLamp(name="spot", intensity_cd=100, height_m=2.0)


def keys(hero, layer: Layer, setup=None, **more) -> set[str]:
    return {
        key for key, _ in plan_reasons(stack_of(hero, Member(layer, setup, 2 if setup else None), **more))
    }


def test_a_quiet_shot_raises_nothing(hero):
    assert keys(hero, ACTOR, hero) == set()


@pytest.mark.parametrize(
    ("key", "layer"),
    [
        ("flame", ACTOR.but(driver="fire")),
        ("cold_fog", ACTOR.but(kind="haze")),
        ("aerosols", ACTOR.but(kind="haze")),
        ("falls", ACTOR.but(travel_up_m=-1.0)),
        ("falls", ACTOR.but(speed_up_m_s=-2.0)),
        ("long_work", ACTOR.but(kind="frame_by_frame")),
        ("under_the_set", ACTOR.but(kind="frame_by_frame")),
        ("wet_electrics", ACTOR.but(kind="rig", contact="wet_ground")),
        ("strobe", ACTOR.but(kind="light_pass", cue_frame=3, cue_frames=4)),
        ("strobe", ACTOR.but(kind="light_pass", seen_s=0.2)),
    ],
)
def test_what_drives_a_layer_raises_its_caution(hero, key, layer):
    assert key in keys(hero, layer, hero)


def test_only_what_is_filmed_raises_fire_and_fog(hero):
    assert keys(hero, ACTOR.but(kind="stock", driver="fire")) == set()
    assert keys(hero, ACTOR.but(kind="haze")) == set()


def test_smoke_round_a_model_raises_its_caution(hero):
    model = ACTOR.but(kind="model", scale=12)
    assert "aerosols" in keys(hero, model, hero, plan=ShotPlan(visibility_m=500))
    assert "aerosols" not in keys(hero, model, hero)


@pytest.mark.parametrize(
    ("key", "move"),
    [
        ("moving_camera", Move(kind="boom", amount=1.0)),
        ("moving_camera", Move(kind="pan", amount=120.0, end_frame=24)),
        ("walking", Move(kind="push", amount=1.0, shake_px=4.0)),
    ],
)
def test_what_the_camera_does_raises_its_caution(hero, key, move):
    assert key in keys(hero, ACTOR, hero, delivery=Delivery(move=move))
    slow = Delivery(move=Move(kind="pan", amount=20, end_frame=48))
    assert keys(hero, ACTOR, hero, delivery=slow) == set()


def test_a_sheet_outdoors_is_a_sail(hero):
    outdoors = hero.but(sun_at=datetime(2027, 10, 23, 12, tzinfo=UTC))
    assert keys(hero, ACTOR, outdoors) == set()
    for setup in (
        outdoors.but(backing=Backing()),
        outdoors.but(diffusion_stops=1),
        outdoors.but(lamps=(LAMP,)),
    ):
        assert "wind" in keys(hero, ACTOR, setup)
    assert "wind" not in keys(hero, ACTOR, hero.but(backing=Backing()))


def test_who_is_in_the_shot_raises_theirs():
    assert [key for key, _ in who_reasons(["grown", "children", "animals", "frail"])] == [
        "children_animals",
        "children_animals",
        "frail",
    ]
    assert who_reasons(["nobody"]) == []


@pytest.mark.parametrize(
    ("text", "key"),
    [
        ("She draws the SWORD.", "weapons"),
        ("Two roofs and a cat", "edges"),
        ("Two roofs and a cat", "children_animals"),
        ("Snow on the quay", "glare"),
        ("Snow on the quay", "water_edge"),
        ("A bottle bursts", "glass"),
        ("The bell swings", "swung"),
        ("He falls down the well", "falls"),
        ("The van waits", "roads"),
    ],
)
def test_the_words_of_a_shot_raise_theirs(text, key):
    assert key in {raised for raised, _ in word_reasons({"description": text})}


def test_a_word_within_a_word_raises_nothing():
    assert word_reasons({"description": "Carpets, a waterfall, rooftops of Vancouver and a glasshouse"}) == []


def test_every_caution_can_be_read_whole():
    reasons = [(key, "said") for key in CAUTIONS]
    assert [row.caution.key for row in raised_cautions(reasons)] == list(CAUTIONS)
    for caution in CAUTIONS.values():
        assert caution.ask.endswith(".") and caution.safer.endswith(".") and len(caution.text) > 60
