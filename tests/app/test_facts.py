"""A take is a fact: whatever is planned, moved, bought or judged otherwise afterwards, it says what it
said.
"""

from __future__ import annotations

import json
from datetime import timedelta
from typing import Any

import pytest
from django.core.management import call_command
from django.utils import timezone

from jungoptic.app.kit.models import Lens, RecordingMode
from jungoptic.app.shots.models import Layer, PlacedLamp, SetUp, Shot
from jungoptic.app.takes.facts import table_of
from jungoptic.app.takes.models import Judging, Take, TakeVerdict
from jungoptic.core.match import Facts, judge_facts

from .conftest import Caller, edit


@pytest.fixture
def wheel(production) -> Layer:
    """A model of TM020, lit by a lamp of its own as the hero is."""
    layer = Layer.objects.get(shot__code="TM020", name="Wheel 1:8")
    PlacedLamp.objects.create(
        set_up_id=layer.set_up_id,
        name="300 W spot",
        intensity_cd=18000,
        across_m=-1,
        height_m=1.2,
        behind_m=-0.8,
    )
    return layer


def log(caller: Caller, layer: Layer) -> dict[str, Any]:
    found = caller("get", f"/shots/{layer.shot_id}/log")[1]
    return next(one for one in found["layers"] if one["id"] == layer.pk) | {"shown": found["shown"]}


def now(caller: Caller, take: dict[str, Any]) -> dict[str, Any]:
    return caller("get", f"/takes/{take['id']}/now")[1]  # type: ignore[no-any-return]


def said(take: dict[str, Any]) -> dict[str, Any]:
    return {name: value for name, value in take.items() if name not in ("recorded_at", "judged_at")}


def amounts(answer: dict[str, Any]) -> dict[str, str]:
    return {one["item"]: one["amount_text"] for one in answer["items"]}


def card(caller: Caller, layer: Layer) -> dict[str, Any]:
    """What a telephone sends that changes nothing: every value of the card, and how far the plan had
    come.
    """
    seen = log(caller, layer)
    return {
        "actual": {line["field"]: line["value"] for line in seen["settings"] if line["value"] is not None},
        "shown": seen["shown"],
    }


# --- what happens afterwards


def change(caller: Caller, shot_id: int, **kinds: Any) -> None:
    status, answer = caller("post", f"/shots/{shot_id}/changes", kinds)
    assert status == 200, answer


def raise_the_lamp(caller: Caller, layer: Layer) -> None:
    lamp = PlacedLamp.objects.filter(set_up=layer.set_up_id)[0]
    change(
        caller,
        layer.shot_id,
        lamps={lamp.pk: edit(lamp.version, height_m=lamp.height_m + 1.5, across_m=lamp.across_m - 2)},
    )


def change_the_scale(caller: Caller, layer: Layer) -> None:
    change(
        caller,
        layer.shot_id,
        layers={layer.pk: edit(layer.version, scale=layer.scale * 1.5, near_m=layer.near_m * 1.2)},
    )


def edit_the_kit(caller: Caller, layer: Layer) -> None:
    assert layer.set_up is not None
    Lens.objects.filter(pk=layer.set_up.lens_id).update(
        focal_length_mm=31, distortion_pct=-4, widest_f_number=1.2
    )
    RecordingMode.objects.filter(pk=layer.set_up.mode_id).update(readout_ms=30, gate_width_mm=20, bit_depth=8)


def change_a_tolerance(caller: Caller, layer: Layer) -> None:
    body = {
        "tolerances": {
            item: {"holds": 0.001, "tight": 0.002}
            for item in ("height", "lens", "brightness", "focus_near", "time")
        }
    }
    assert caller("patch", f"/productions/{layer.shot.production_id}/judging", body)[0] == 200


def change_the_plan(caller: Caller, layer: Layer) -> None:
    hero = SetUp.objects.get(layers__shot=layer.shot_id, layers__is_hero=True)
    assert layer.set_up is not None
    own = layer.set_up
    edits = {hero.pk: edit(hero.version, lens_height_m=hero.lens_height_m + 0.4, tilt_deg=3)}
    if own.pk != hero.pk:
        edits[own.pk] = edit(own.version, lens_height_m=own.lens_height_m + 0.2, light_k=3000)
    change(caller, layer.shot_id, set_ups=edits)


AFTERWARDS = [raise_the_lamp, change_the_scale, edit_the_kit, change_a_tolerance, change_the_plan]


@pytest.mark.parametrize("circled", [False, True])
@pytest.mark.parametrize("happens", AFTERWARDS)
def test_what_was_given_stays_to_the_digit_and_what_is_judged_now_moves(
    supervisor: Caller, crew: Caller, wheel, happens, circled
):
    take = crew.take(wheel, **card(crew, wheel), circled=circled)
    rows = list(TakeVerdict.objects.filter(judging__take=take["id"]).values())
    stored = Take.objects.filter(pk=take["id"]).values("facts", "filmed", "planned")[0]
    assert amounts(now(crew, take)) == amounts(take), "at once, it is the same"
    happens(supervisor, wheel)
    if happens is raise_the_lamp:  # its own lamp is a fact; that of what it is held against moves it
        assert amounts(now(crew, take)) == amounts(take)
        raise_the_lamp(supervisor, Layer.objects.get(shot=wheel.shot_id, is_hero=True))
    assert list(TakeVerdict.objects.filter(judging__take=take["id"]).values()) == rows
    assert Take.objects.filter(pk=take["id"]).values("facts", "filmed", "planned")[0] == stored
    shown = next(one for one in log(crew, wheel)["takes"] if one["id"] == take["id"])
    assert said(shown) == said(take)
    moved = now(crew, take)
    assert amounts(moved) != amounts(take) or [one["verdict"] for one in moved["items"]] != [
        one["verdict"] for one in take["items"]
    ]


def test_a_circled_take_stands_on_the_bench_as_it_was_filmed(supervisor: Caller, crew: Caller, wheel):
    crew.take(wheel, **card(crew, wheel), circled=True)
    before = supervisor.bench(wheel.shot, selected=wheel.pk)
    lamps = before["selected"]["standing"]["lamps"]
    assert lamps and before["selected"]["standing"]["lamp_ids"] == []
    raise_the_lamp(supervisor, wheel)
    edit_the_kit(supervisor, wheel)
    after = supervisor.bench(wheel.shot, selected=wheel.pk)
    assert after["selected"]["standing"]["lamps"] == lamps
    lens = [
        next(dial["value"] for dial in bench["selected"]["dials"] if dial["field"] == "focal_length_mm")
        for bench in (before, after)
    ]
    assert lens[0] == lens[1] != 31, "the lens is the one that was filmed with"
    planned = supervisor.bench(wheel.shot, selected=wheel.pk, basis="planned")
    assert planned["selected"]["standing"]["lamps"] != lamps and planned["selected"]["standing"]["lamp_ids"]


def test_a_hero_take_is_a_reference_that_nothing_moves(supervisor: Caller, crew: Caller, wheel):
    hero = Layer.objects.get(shot=wheel.shot_id, is_hero=True)
    crew.take(hero, **card(crew, hero), circled=True)
    take = crew.take(wheel, **card(crew, wheel))
    assert take["against"] == "hero take 1"
    edit_the_kit(supervisor, hero)
    hero_set_up = SetUp.objects.get(pk=hero.set_up_id)
    change(supervisor, hero.shot_id, set_ups={hero_set_up.pk: edit(hero_set_up.version, lens_height_m=3)})
    assert amounts(now(crew, take)) == amounts(take)


# --- an hour late


def test_a_take_that_comes_an_hour_late_keeps_what_the_telephone_showed(
    supervisor: Caller, crew: Caller, wheel
):
    at_once = crew.take(wheel, **card(crew, wheel))
    held = card(crew, wheel)
    raise_the_lamp(supervisor, wheel)
    change_the_scale(supervisor, wheel)
    wheel.set_up.refresh_from_db()
    change(
        supervisor,
        wheel.shot_id,
        set_ups={
            wheel.set_up_id: edit(
                wheel.set_up.version, lens_height_m=2.2, follows_move=False, references=["ball"]
            )
        },
    )
    gone = PlacedLamp.objects.filter(set_up=wheel.set_up_id)[0]
    change(supervisor, wheel.shot_id, lamps={gone.pk: edit(gone.version, removed=True)})
    late = crew.take(wheel, **held, recorded_at=(timezone.now() - timedelta(hours=1)).isoformat())
    assert amounts(late) == amounts(at_once) and late["differences"] == [] and late["filled"] == ""
    one, two = (Take.objects.get(pk=pk) for pk in (at_once["id"], late["id"]))
    assert (one.filmed, one.planned, one.facts) == (two.filmed, two.planned, two.facts)
    # without what was shown, what nobody sent is filled from the plan of now, and the take says so
    sent = {name: value for name, value in held["actual"].items() if not name.startswith("lamps.")}
    filled = crew.take(wheel, actual=sent)
    assert (
        filled["filled"] == "plan"
        and Take.objects.get(pk=filled["id"]).filmed["lamps"] != one.filmed["lamps"]
    )


def test_a_take_of_a_layer_that_was_removed_meanwhile_is_kept(supervisor: Caller, crew: Caller, wheel):
    held = card(crew, wheel)
    change(supervisor, wheel.shot_id, layers={wheel.pk: edit(wheel.version, removed=True)})
    assert crew("post", f"/layers/{wheel.pk}/takes", {"actual": held["actual"]})[0] == 422
    assert crew.take(wheel, **held)["number"] == 1


def test_what_was_set_on_the_card_goes_over_what_it_showed(crew: Caller, wheel):
    held = card(crew, wheel)
    take = crew.take(
        wheel,
        **{**held, "actual": {**held["actual"], "lens_height_m": held["actual"]["lens_height_m"] + 0.1}},
    )
    assert [one["label"] for one in take["differences"]] == ["Lens height"]


# --- takes from before, pages, schools


def test_takes_from_before_facts_were_kept_get_them_and_say_so(
    supervisor: Caller, crew: Caller, wheel, capsys
):
    take = crew.take(wheel, **card(crew, wheel))
    Judging.objects.filter(take=take["id"]).delete()
    Take.objects.update(facts=None, filmed=None, planned=None)
    raise_the_lamp(supervisor, wheel)
    Layer.objects.filter(pk=wheel.pk).update(removed=True)
    for _ in range(2):
        call_command("complete_old_takes")
    assert capsys.readouterr().out.count("1 takes from before") == 1
    Layer.objects.filter(pk=wheel.pk).update(removed=False)
    shown = log(crew, wheel)["takes"][0]
    assert shown["filled"] == "later" and shown["items"] and amounts(now(crew, take)) == amounts(shown)


def test_takes_are_read_a_page_at_a_time(crew: Caller, wheel):
    held = card(crew, wheel)
    for _ in range(12):
        crew.take(wheel, **held)
    first = log(crew, wheel)
    assert (
        [one["number"] for one in first["takes"]] == list(range(12, 2, -1))
        and first["more"]
        and first["next_take"] == 13
    )
    rest = crew("get", f"/layers/{wheel.pk}/takes?before=3")[1]
    assert [one["number"] for one in rest["takes"]] == [2, 1] and not rest["more"]
    assert crew("get", f"/layers/{wheel.pk}/takes?before=1")[1] == {"takes": [], "more": False}


def test_both_schools_and_both_systems_of_units_are_given_with_the_take(crew: Caller, shot, mill):
    take = crew.take(mill, **card(crew, mill))
    covered = next(
        one
        for one in crew("get", f"/shots/{shot.pk}/log?school=covered&units=imperial")[1]["layers"]
        if one["id"] == mill.pk
    )["takes"][0]
    assert covered["shows"] < take["shows"] or covered["tight"] != take["tight"]
    sentence = {one["item"]: one["sentence"] for one in covered["items"]}["height"]
    assert (
        "in" in sentence.split()
        and sentence != {one["item"]: one["sentence"] for one in take["items"]}["height"]
    )


@pytest.mark.parametrize("code", [f"TM{number:03d}" for number in range(10, 130, 10)])
def test_facts_come_back_from_json_to_the_digit(production, code: str):
    table = table_of(Shot.objects.get(code=code).pk)
    kit = next(table.kit(layer.set_up) for layer in table.layers if layer.set_up)
    for at, member in enumerate(table.stack.members):
        if member.setup is None:
            continue
        facts = Facts(table.stack, at, member.setup, table.tolerances, kit, table.errors)
        back = Facts.from_json(json.loads(json.dumps(facts.to_json())))
        assert back == facts
        assert [(item.item, item.amount, item.sentence) for item in judge_facts(back)] == [
            (item.item, item.amount, item.sentence) for item in judge_facts(facts)
        ]
