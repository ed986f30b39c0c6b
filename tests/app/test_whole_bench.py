"""Layers, lamps, backings, moves and acceptances through the API: made, changed, judged, taken back, seen by
others.
"""

from __future__ import annotations

from typing import Any

import pytest

from jungoptic.app.base.models import Change
from jungoptic.app.bench.schemas import BenchOut
from jungoptic.app.shots.models import Acceptance, Layer, PlacedBacking, PlacedLamp, Shot

from .conftest import Caller, a_key, edit


def layer_of(bench: dict[str, Any], name: str) -> dict[str, Any]:
    return next(one for one in bench["layers"] if one["name"] == name)


def item_of(bench: dict[str, Any], name: str, item: str) -> dict[str, Any]:
    return next(one for one in layer_of(bench, name)["items"] if one["item"] == item)


def test_a_layer_is_added_at_its_distance_and_removing_it_can_be_undone(supervisor: Caller, shot, mill):
    new = {
        "name": "Rowing boat",
        "kind": "live_element",
        "combine": "key",
        "near_m": 20,
        "width_m": 3,
        "height_m": 1.2,
    }
    status, made = supervisor(
        "post",
        f"/shots/{shot.pk}/add",
        {"what": "layer", "fields": new, "like_set_up": mill.set_up_id, "own_set_up": True},
    )
    assert status == 201, made
    BenchOut.model_validate(made["bench"], strict=False)
    names = [one["name"] for one in made["bench"]["layers"]]
    assert names.index("Mill 1:12") < names.index("Rowing boat") < names.index("Headland")
    boat = Layer.objects.get(pk=made["id"])
    assert (
        boat.set_up_id != mill.set_up_id
        and boat.set_up.distance_m == 20
        and boat.set_up.f_number == mill.set_up.f_number
    )
    status, gone = supervisor(
        "post", f"/shots/{shot.pk}/changes", {"layers": {boat.pk: edit(1, removed=True)}}
    )
    assert status == 200 and "Rowing boat" not in [one["name"] for one in gone["layers"]]
    status, back = supervisor(
        "post", f"/shots/{shot.pk}/changes", {"layers": {boat.pk: edit(2, removed=False)}}
    )
    assert status == 200 and "Rowing boat" in [one["name"] for one in back["layers"]]
    assert Change.objects.filter(kind="layers", row_id=boat.pk, field="removed").count() == 3


def test_the_same_layer_sent_twice_is_made_once(supervisor: Caller, shot):
    key, body = a_key(), {"what": "layer", "fields": {"name": "Haze", "kind": "haze", "near_m": 9}}
    one, two = (supervisor("post", f"/shots/{shot.pk}/add", body, key=key) for _ in range(2))
    assert one == two and one[0] == 201
    assert Layer.objects.filter(shot=shot, name="Haze").count() == 1
    assert Layer.objects.get(shot=shot, name="Haze").set_up is None  # a haze is no plate of ours


def test_the_first_layer_of_an_empty_shot_is_its_hero(supervisor: Caller, production):
    empty = Shot.objects.create(production=production, code="TM130", title="New", length_frames=48)
    status, made = supervisor(
        "post",
        f"/shots/{empty.pk}/add",
        {"what": "layer", "fields": {"name": "Plate", "kind": "live", "combine": "base", "near_m": 6}},
    )
    assert status == 201, made
    assert (
        made["bench"]["hero_layer_id"] == made["id"] and made["bench"]["selected"]["set_up_name"] == "Plate"
    )


@pytest.mark.parametrize(
    ("fields", "field", "words"),
    [
        ({"near_m": -1}, "near_m", "more than 0"),
        ({"kind": "hologram"}, "kind", "must be one of"),
        ({"keep_colours": ["green"]}, "keep_colours.0", "Colour"),
        ({"shoe_size": 44}, "shoe_size", "no field called"),
    ],
)
def test_a_layer_that_cannot_be_is_refused_at_its_field(supervisor: Caller, shot, fields, field, words):
    status, answer = supervisor("post", f"/shots/{shot.pk}/add", {"what": "layer", "fields": fields})
    assert status == 422
    assert answer["problems"][0]["field"] == field and words in answer["problems"][0]["message"]
    assert shot.layers.count() == 5


def test_the_hero_stays_and_a_layer_is_filmed_by_a_set_up_of_its_own_shot(
    supervisor: Caller, shot, sea, mill, orla
):
    assert (
        "hero"
        in supervisor("post", f"/shots/{shot.pk}/changes", {"layers": {sea.pk: edit(1, removed=True)}})[1][
            "problems"
        ][0]["message"]
    )
    status, answer = supervisor(
        "post", f"/shots/{shot.pk}/changes", {"layers": {mill.pk: edit(1, set_up_id=orla.set_up_id)}}
    )
    assert status == 422 and answer["problems"][0]["field"] == "set_up_id"
    status, bench = supervisor(
        "post", f"/shots/{shot.pk}/changes", {"layers": {mill.pk: edit(1, set_up_id=None)}}
    )
    assert status == 200 and layer_of(bench, "Mill 1:12")["set_up_id"] is None


def test_a_lamp_of_the_kit_is_placed_moved_and_judged(supervisor: Caller, shot, mill, production):
    lamps = supervisor("get", f"/productions/{production.pk}/on-set")[1]["lamps"]
    spot = next(one for one in lamps if "spot" in one["name"])
    status, made = supervisor(
        "post",
        f"/shots/{shot.pk}/add",
        {"what": "lamp", "like_set_up": mill.set_up_id, "kit_lamp": spot["id"], "selected": mill.pk},
    )
    assert status == 201, made
    lamp = PlacedLamp.objects.get(pk=made["id"])
    assert (lamp.intensity_cd, lamp.beam_deg, lamp.colour_k) == (18000, 25, 3200)
    drawn = made["bench"]["selected"]["standing"]["lamps"][0]
    assert drawn["name"] == "300 W spot" and drawn["y"] == lamp.height_m and "lx" in drawn["text"]
    before = item_of(made["bench"], "Mill 1:12", "direction")["amount"]
    status, moved = supervisor(
        "post",
        f"/shots/{shot.pk}/trial",
        {"lamps": {lamp.pk: {"across_m": 2.0, "height_m": 0.9}}, "selected": mill.pk},
    )
    assert status == 200 and item_of(moved, "Mill 1:12", "direction")["amount"] != before
    lamp.refresh_from_db()
    assert lamp.across_m != 2.0  # a trial saves nothing
    assert (
        supervisor("post", f"/shots/{shot.pk}/changes", {"lamps": {lamp.pk: edit(1, across_m=2.0)}})[0] == 200
    )
    status, answer = supervisor(
        "post", f"/shots/{shot.pk}/changes", {"lamps": {lamp.pk: edit(1, across_m=3.0)}}
    )
    assert status == 409 and "Supervisor changed “300 W spot”" in answer["problems"][0]["message"]
    assert (
        supervisor("post", f"/shots/{shot.pk}/changes", {"lamps": {lamp.pk: edit(2, level=1.5)}})[1][
            "problems"
        ][0]["field"]
        == "level"
    )


def test_one_backing_a_set_up_and_another_after_it_is_removed(supervisor: Caller, wheel_shot, orla):
    add = {"what": "backing", "like_set_up": orla.set_up_id, "fields": {"colour": "#2450b8"}}
    assert "already" in supervisor("post", f"/shots/{wheel_shot.pk}/add", add)[1]["problems"][0]["message"]
    row = PlacedBacking.objects.get(set_up=orla.set_up)
    assert (
        supervisor("post", f"/shots/{wheel_shot.pk}/changes", {"backings": {row.pk: edit(1, removed=True)}})[
            0
        ]
        == 200
    )
    status, made = supervisor("post", f"/shots/{wheel_shot.pk}/add", add)
    assert status == 201 and PlacedBacking.objects.get(pk=made["id"]).colour == "#2450b8"


def test_a_set_up_that_serves_two_layers_keeps_its_lamps_where_they_stand(
    supervisor: Caller, wheel_shot, orla
):
    """Places are counted from the front of the nearest layer; a layer behind it sees the same lamp at the
    same distance from the lens.
    """
    bench = supervisor.bench(wheel_shot, selected=orla.pk)
    standing = bench["selected"]["standing"]
    nearest = supervisor.bench(
        wheel_shot, selected=Layer.objects.get(shot=wheel_shot, name="Shadow on Orla").pk
    )["selected"]["standing"]
    assert [lamp["z"] for lamp in standing["lamps"]] == pytest.approx(
        [lamp["z"] for lamp in nearest["lamps"]], abs=1e-3
    )
    assert standing["sheet"]["z"] == pytest.approx(nearest["sheet"]["z"], abs=1e-3)


def test_an_accepted_verdict_stands_until_its_amount_changes(supervisor: Caller, shot, mill):
    accept = {"layer_id": mill.pk, "item": "time", "reason": "Half a second, under rain.", "basis": "planned"}
    before = supervisor.bench(shot)
    status, bench = supervisor("post", f"/shots/{shot.pk}/accept", accept)
    assert status == 200
    found = item_of(bench, "Mill 1:12", "time")
    assert (
        found["accepted"]["reason"] == "Half a second, under rain."
        and found["accepted"]["by"] == "Supervisor"
    )
    assert (bench["shows"], bench["accepted"]) == (before["shows"] - 1, 1)
    faster = supervisor(
        "post", f"/shots/{shot.pk}/changes", {"set_ups": {mill.set_up_id: edit(1, capture_fps=30)}}
    )[1]
    assert item_of(faster, "Mill 1:12", "time")["accepted"] is None and faster["shows"] == before["shows"]
    again = supervisor(
        "post", f"/shots/{shot.pk}/changes", {"set_ups": {mill.set_up_id: edit(2, capture_fps=24)}}
    )[1]
    assert item_of(again, "Mill 1:12", "time")["accepted"]  # the numbers are those that were accepted
    status, judged = supervisor("post", f"/shots/{shot.pk}/accept", {**accept, "withdraw": True})
    assert item_of(judged, "Mill 1:12", "time")["accepted"] is None
    assert Acceptance.objects.filter(withdrawn=True).count() == 1  # what was said is kept


def test_nothing_is_accepted_without_a_reason_or_an_item(supervisor: Caller, shot, mill):
    status, answer = supervisor(
        "post", f"/shots/{shot.pk}/accept", {"layer_id": mill.pk, "item": "time", "reason": "  "}
    )
    assert status == 422 and answer["problems"][0]["field"] == "reason"
    assert (
        supervisor("post", f"/shots/{shot.pk}/accept", {"layer_id": mill.pk, "item": "taste", "reason": "x"})[
            1
        ]["problems"][0]["field"]
        == "item"
    )


def test_an_accepted_verdict_is_on_the_card(supervisor: Caller, shot, mill):
    from jungoptic.app.papers.shot_card import card_html

    supervisor(
        "post",
        f"/shots/{shot.pk}/accept",
        {"layer_id": mill.pk, "item": "time", "reason": "Half a second, under rain."},
    )
    html = card_html(shot.pk, paper="a4", units="metric", school="measured")
    assert "Half a second, under rain." in html and "accepted by Supervisor" in html


def test_the_card_says_where_the_lamps_and_the_sheet_stand(wheel_shot):
    from jungoptic.app.papers.shot_card import card_html

    html = card_html(wheel_shot.pk, paper="a4", units="metric", school="measured")
    assert (
        "300 W spot (key), 100 %, 3200 K: 2.2 m to the right, 3 m high, 2.6 m before the front edge." in html
    )
    assert "Green sheet, 3 m × 2.5 m: 1.2 m behind the front edge." in html
