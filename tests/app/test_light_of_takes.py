"""The light of a take is its own, a pass has lamps of its own, and ready is refused while something shows."""

from __future__ import annotations

import pytest

from jungoptic.app.shots.models import Layer, PlacedLamp, Shot
from jungoptic.app.takes.models import Take
from jungoptic.core.match import SetUp

from .conftest import Caller, edit


@pytest.fixture
def orla(production) -> Layer:
    """The hero of TM020, lit by a spot and two panels."""
    return Layer.objects.get(shot__code="TM020", name="Orla")


def filmed(answer: dict) -> SetUp:
    return SetUp.read(Take.objects.get(pk=answer["id"]).filmed)


def lamp_of(layer: Layer, role: str) -> PlacedLamp:
    return PlacedLamp.objects.filter(set_up=layer.set_up_id, role=role)[0]


def test_a_key_that_was_read_on_the_set_judges_the_take(crew: Caller, orla):
    as_planned = crew.take(orla)
    assert not filmed(as_planned).key_measured
    read = crew.take(orla, actual={"key_azimuth_deg": -120.0, "key_elevation_deg": 30.0})
    assert filmed(read).key_measured
    shown = next(one for one in read["items"] if one["item"] == "direction")
    assert "comes from −120° to the side and 30° above" in shown["sentence"] and shown["verdict"] == "shows"


def test_a_lamp_that_was_dimmed_at_the_camera_judges_the_take(supervisor: Caller, crew: Caller, orla):
    spot = lamp_of(orla, "key")
    card = next(one for one in crew("get", f"/shots/{orla.shot_id}/log")[1]["layers"] if one["id"] == orla.pk)
    line = next(one for one in card["settings"] if one["field"] == f"lamps.{spot.pk}.level")
    assert (line["label"], line["text"], line["value"]) == ("300 W spot, dimmed to", "100 %", 1.0)
    assert 0.5 in {choice["value"] for choice in line["choices"]}
    dimmed = crew.take(orla, actual={line["field"]: 0.25})
    assert {lamp.name: lamp.level for lamp in filmed(dimmed).lamps}["300 W spot"] == 0.25
    told = {one["label"]: (one["before"], one["after"]) for one in dimmed["differences"]}
    assert told["300 W spot, dimmed to"] == ("100 %", "25 %")
    assert filmed(dimmed).illuminance_lx < 0.6 * SetUp.read(orla.set_up.values()).illuminance_lx
    key_fill = {one["item"]: one["amount_text"] for one in dimmed["items"]}
    assert key_fill["key_fill"] != "0"
    spot.refresh_from_db()
    assert spot.level == 1  # the plan stays as it was
    # what was recorded stays, whatever is planned later
    supervisor("post", f"/shots/{orla.shot_id}/changes", {"lamps": {spot.pk: edit(spot.version, level=0.5)}})
    assert {lamp.name: lamp.level for lamp in filmed(dimmed).lamps}["300 W spot"] == 0.25


def test_a_gel_that_was_put_on_judges_the_take_by_its_colour_and_its_light(crew: Caller, orla):
    spot, planned = lamp_of(orla, "key"), SetUp.read(orla.set_up.values())
    blue = crew.take(orla, actual={f"lamps.{spot.pk}.gel_mired": -137.0}, in_it=" Wren ")
    lit = {lamp.name: lamp for lamp in filmed(blue).lamps}["300 W spot"]
    assert round(lit.colour_k) == 5698 and lit.level == pytest.approx(2**-1.6)  # derived: 1e6/(312.5 − 137)
    assert filmed(blue).light_k > planned.light_k + 300
    told = {one["label"]: (one["before"], one["after"]) for one in blue["differences"]}
    assert told["300 W spot, colour"] == ("3200 K", "5698 K") and blue["in_it"] == "Wren"
    amounts = {one["item"]: float(one["amount_text"]) for one in blue["items"]}
    as_planned = {one["item"]: float(one["amount_text"]) for one in crew.take(orla)["items"]}
    assert amounts["brightness"] > as_planned["brightness"] and amounts["colour"] > as_planned["colour"] + 20
    # what was read there counts in place of what the lamps would give
    card = {"light_k": planned.light_k, "illuminance_lx": 640.0, f"lamps.{spot.pk}.gel_mired": -137.0}
    read = filmed(crew.take(orla, actual=card))
    assert read.illuminance_lx == 640 and read.light_k > planned.light_k + 300
    for bad in ("x", 1e4, True):
        status, _ = crew("post", f"/layers/{orla.pk}/takes", {"actual": {f"lamps.{spot.pk}.gel_mired": bad}})
        assert status == 422


def test_how_long_the_steps_rolled_and_what_was_marked_belongs_to_the_take(crew: Caller, orla):
    card = next(one for one in crew("get", f"/shots/{orla.shot_id}/log")[1]["layers"] if one["id"] == orla.pk)
    assert [step["key"] for step in card["steps"]][-1] == "cut" and card["steps"][-1]["rolling"]
    marks = [{"at_s": 12.4, "step": "Action"}]
    logged = crew.take(orla, rolled_s=41.5, marks=marks)
    assert (logged["rolled_s"], logged["marks"]) == (41.5, marks)
    assert crew.take(orla)["rolled_s"] is None
    for wrong in ({"rolled_s": -1}, {"marks": [{"at_s": -1}]}, {"marks": [{"at_s": 1, "step": "x" * 99}]}):
        assert crew("post", f"/layers/{orla.pk}/takes", wrong)[0] == 422


def test_the_verdict_says_which_lamp_to_move_where(crew: Caller, orla):
    spot = lamp_of(orla, "key")
    moved = crew.take(orla, actual={f"lamps.{spot.pk}.across_m": -spot.across_m})
    direction = next(one for one in moved["items"] if one["item"] == "direction")
    assert direction["verdict"] == "shows"
    assert direction["to_do"].startswith("300 W spot to ") and "the front edge" in direction["to_do"]
    again = crew("get", f"/shots/{orla.shot_id}/log?units=imperial")[1]
    take = next(one for one in again["layers"] if one["id"] == orla.pk)["takes"][0]
    assert "ft" in next(one for one in take["items"] if one["item"] == "direction")["to_do"]


@pytest.mark.parametrize(
    ("setting", "field"),
    [("level", "lamps.{}.level"), ("name", "lamps.{}.name"), ("love", "lamps.{}.love")],
)
def test_a_lamp_setting_that_cannot_be_is_refused_at_its_field(crew: Caller, orla, setting, field):
    spot = lamp_of(orla, "key")
    status, answer = crew("post", f"/layers/{orla.pk}/takes", {"actual": {f"lamps.{spot.pk}.{setting}": 7.0}})
    assert status == 422 and answer["problems"][0]["field"] == field.format(spot.pk)
    assert not Take.objects.filter(layer=orla).exists()


def test_a_lamp_of_another_set_is_refused(crew: Caller, orla):
    other = PlacedLamp.objects.exclude(set_up__shot=orla.shot_id)[0]
    status, answer = crew("post", f"/layers/{orla.pk}/takes", {"actual": {f"lamps.{other.pk}.level": 0.5}})
    assert status == 422 and "burns while" in answer["problems"][0]["message"]


def test_the_sun_stands_where_it_stood_when_the_take_was_recorded(crew: Caller, production):
    quay = Layer.objects.get(shot__code="TM050", is_hero=True)
    early = crew.take(quay, recorded_at="2027-10-23T10:00:00+01:00")
    assert filmed(early).sun_at.isoformat() == "2027-10-23T10:00:00+01:00" or filmed(early).sun_at.hour == 9
    assert "Sun at" in {one["label"] for one in early["differences"]}
    on_time = crew.take(quay, recorded_at="2027-10-23T15:30:00+01:00")
    assert on_time["differences"] == []
    off = {one["item"]: one for one in early["items"]}
    assert off["direction"]["verdict"] == "shows"
    night = crew.take(quay, recorded_at="2027-10-23T22:00:00+01:00")
    assert "direction" not in {one["item"] for one in night["items"]}  # no sun, and nobody stated a key


def test_a_pass_is_lit_by_its_own_lamps_and_the_others_by_theirs(supervisor: Caller, production):
    flash = Layer.objects.get(shot__code="TM070", name="Flash on the room")
    room = Layer.objects.get(shot__code="TM070", is_hero=True)
    on_flash = supervisor.bench(flash.shot, selected=flash.pk)["selected"]["standing"]["lamps"]
    assert [lamp["name"] for lamp in on_flash] == ["colour lamp"]
    assert supervisor.bench(room.shot, selected=room.pk)["selected"]["standing"]["lamps"] == []
    lamp = flash.own_lamps.get()
    changes = f"/shots/{flash.shot_id}/changes"
    assert supervisor("post", changes, {"lamps": {lamp.pk: edit(lamp.version, only_for_id=None)}})[0] == 200
    after = supervisor.bench(room.shot, selected=room.pk)["selected"]["standing"]["lamps"]
    assert [lamp["name"] for lamp in after] == ["colour lamp"]
    for strange in (room.pk, Layer.objects.filter(kind="shadow_pass")[0].pk, "x"):
        lamp.refresh_from_db()
        status, answer = supervisor(
            "post", changes, {"lamps": {lamp.pk: edit(lamp.version, only_for_id=strange)}}
        )
        assert status == 422 and answer["problems"][0]["field"] == "only_for_id"


def test_a_recipe_that_is_kept_keeps_the_lamps_of_its_passes(supervisor: Caller, production, empty):
    burst = Shot.objects.get(code="TM070")
    status, _ = supervisor.planned("post", burst, "save-recipe", {"title": "A lamp that bursts"})
    assert status in (200, 201)
    kept = Shot.objects.get(template=True, title="A lamp that bursts")
    lamp = PlacedLamp.objects.get(set_up__shot=kept)
    assert lamp.only_for.name == "Flash on the room" and lamp.only_for.shot_id == kept.pk


def test_ready_is_refused_while_something_shows_that_nobody_accepted(supervisor: Caller, production):
    cup = Shot.objects.get(code="TM030")
    for one in supervisor.plan(cup)["hazards"]:
        supervisor.planned("post", cup, "sign", {"caution": one["key"], "note": "Asked."})
    status, answer = supervisor("patch", f"/shots/{cup.pk}/line", {"changes": {"ready": True}})
    message = answer["problems"][0]["message"]
    assert (
        status == 422 and "3 verdicts show" in message and "Wren, right half: over the split line" in message
    )
    supervisor.accept_all(cup)
    assert supervisor("patch", f"/shots/{cup.pk}/line", {"changes": {"ready": True}})[0] == 200
    assert supervisor.plan(cup)["ready"]


def test_who_is_in_the_shot_is_asked_for(supervisor: Caller, crew: Caller, production):
    cup = Shot.objects.get(code="TM030")
    Shot.objects.filter(pk=cup.pk).update(who=[])
    status, answer = supervisor("patch", f"/shots/{cup.pk}/line", {"changes": {"ready": True}})
    assert status == 422 and "Say who is in TM030 first" in answer["problems"][0]["message"]
    said = supervisor.planned("put", cup, "who", {"who": ["grown", "children"]})[1]
    assert said["who"] == ["grown", "children"]
    assert "children are in the shot" in next(
        one["by"] for one in said["hazards"] if one["key"] == "children_animals"
    )
    for strange in (["ghosts"], ["nobody", "frail"]):
        status, answer = supervisor.planned("put", cup, "who", {"who": strange})
        assert status == 422 and answer["problems"][0]["field"] == "who"
    assert crew.planned("put", cup, "who", {"who": ["grown"]})[0] == 403
