"""What is taken out of the production leaves every list and comes back whole; access and names are held."""

from __future__ import annotations

from typing import Any

import pytest

from jungoptic.app.builds.models import Build
from jungoptic.app.productions.models import Place
from jungoptic.app.shots.models import Shot
from jungoptic.app.stock.models import StockItem
from jungoptic.app.takes.models import Take

from .conftest import Caller, a_key


def out(caller: Caller, shot: Shot, removed: bool = True) -> tuple[int, Any]:
    return caller("patch", f"/shots/{shot.pk}/line", {"changes": {"removed": removed}})


def test_a_removed_shot_leaves_every_list_and_comes_back_with_all_it_has(
    supervisor: Caller, crew: Caller, production
):
    loft = Shot.objects.get(code="TM120")
    before = supervisor.wall(production)
    build = Build.objects.get(production=production)
    seen = supervisor("get", f"/builds/{build.pk}")[1]
    assert out(supervisor, loft)[0] == 200
    wall = supervisor.wall(production)
    assert "TM120" not in [one["code"] for one in wall["shots"]]
    assert [one["code"] for one in wall["removed"]] == ["TM120"] and wall["totals"]["shots"] == 11
    assert wall["totals"]["hours"] < before["totals"]["hours"]
    assert b"TM120" not in supervisor("get", f"/productions/{production.pk}/shots.csv")[1]
    assert supervisor("get", "/productions")[1][0]["shots"] == 11
    airship = Shot.objects.get(code="TM110")
    assert supervisor.bench(airship)["next_id"] is None
    # its camera no longer counts in the set, and saving the set meanwhile does not lose it
    less = supervisor("get", f"/builds/{build.pk}")[1]
    assert {one["name"] for one in less["cones"]} == {"TM030", "TM040"} and less["built_m2"] < seen[
        "built_m2"
    ]
    views = [
        {name: one[name] for name in ("shot_id", "x_m", "z_m", "heading_deg", "establishing")}
        for one in less["views"]
    ]
    assert supervisor("put", f"/builds/{build.pk}", {"version": less["version"], "views": views})[0] == 200
    assert out(supervisor, loft, removed=False)[0] == 200
    assert supervisor.wall(production)["totals"] == before["totals"]
    assert supervisor("get", f"/builds/{build.pk}")[1]["built_m2"] == pytest.approx(seen["built_m2"])


def test_a_drag_goes_on_while_a_neighbour_is_removed(supervisor: Caller, production):
    """Neighbours are read with the shot; what is tried shows them as they stood then."""
    here, other = Shot.objects.get(code="TM030"), Shot.objects.get(code="TM040")
    bench = supervisor.bench(here)
    assert bench["next_id"] == other.pk
    trial = {"set_ups": {bench["selected"]["set_up_id"]: {"lens_height_m": 0.31}}}

    def tried() -> Any:
        status, answer = supervisor("post", f"/shots/{here.pk}/trial", trial)
        assert status == 200, answer
        return answer

    assert tried()["next_id"] == other.pk
    out(supervisor, other)
    assert tried()["across_cut"]
    assert supervisor.bench(here)["next_id"] == Shot.objects.get(code="TM050").pk
    assert tried()["next_id"] == Shot.objects.get(code="TM050").pk


def test_a_take_for_a_shot_that_was_removed_meanwhile_is_not_lost(
    supervisor: Caller, crew: Caller, shot, mill
):
    out(supervisor, shot)
    status, answer = crew("post", f"/layers/{mill.pk}/takes", {"actual": {}, "circled": False}, key=a_key())
    assert status == 201, answer
    assert Take.objects.get(layer=mill).number == 1
    assert supervisor.bench(shot)["previous_id"] is None and supervisor.bench(shot)["next_id"] is None


def test_a_code_that_was_given_again_keeps_the_removed_shot_out(supervisor: Caller, production, shot):
    out(supervisor, shot)
    twin = Shot.objects.create(production=production, code="TM010", title="Another", length_frames=24)
    status, answer = out(supervisor, shot, removed=False)
    assert status == 422 and answer["problems"] == [
        {"field": "removed", "message": "There is another TM010 now: give that one another code first."}
    ]
    assert supervisor("patch", f"/shots/{twin.pk}/line", {"changes": {"code": "TM011"}})[0] == 200
    assert out(supervisor, shot, removed=False)[0] == 200


def test_only_the_supervisor_removes(
    supervisor: Caller, crew: Caller, guest: Caller, stranger: Caller, production, shot
):
    build, item = (
        Build.objects.get(production=production),
        StockItem.objects.filter(production=production).first(),
    )
    place = Place.objects.create(production=production, name="The sluice")
    assert item
    paths = [
        f"/productions/{production.pk}/{kind}/{pk}"
        for kind, pk in (("builds", build.pk), ("stock", item.pk), ("places", place.pk))
    ]
    for caller, refused in ((crew, 403), (guest, 403), (stranger, 404)):
        assert out(caller, shot)[0] == refused
        for path in paths:
            assert caller("patch", path, {"removed": True})[0] == refused
    assert not Shot.objects.filter(removed=True).exists() and not Build.objects.filter(removed=True).exists()


def test_a_place_is_removed_when_no_shot_stands_in_it(supervisor: Caller, production):
    quay = Place.objects.get(name="The quay")
    path = f"/productions/{production.pk}/places"
    status, answer = supervisor("patch", f"{path}/{quay.pk}", {"removed": True})
    assert status == 422 and answer["problems"][0]["message"].startswith(
        "2 shots stand here (TM050, TM110): say another place"
    )
    for code in ("TM050", "TM110"):
        supervisor("patch", f"/shots/{Shot.objects.get(code=code).pk}/line", {"changes": {"place_id": None}})
    assert supervisor("patch", f"{path}/{quay.pk}", {"removed": True})[0] == 200
    assert "The quay" not in [one["name"] for one in supervisor("get", path)[1]]
    assert "The quay" not in [one["name"] for one in supervisor.wall(production)["places"]]
    shot = Shot.objects.get(code="TM050")
    assert (
        supervisor("patch", f"/shots/{shot.pk}/line", {"changes": {"place_id": quay.pk}})[1]["problems"][0][
            "field"
        ]
        == "place_id"
    )
    # a set that still stands in it can be changed, and what was changed taken back
    build = Build.objects.create(production=production, name="Quay wall", place=quay)
    fields = {"name": "Quay wall", "place_id": quay.pk, "scale": 4}
    assert supervisor("put", f"/builds/{build.pk}", {"version": 1, "fields": fields})[0] == 200
    other = Build.objects.get(name="Inside the mill")
    status, answer = supervisor(
        "put", f"/builds/{other.pk}", {"version": other.version, "fields": {"place_id": quay.pk}}
    )
    assert status == 422 and answer["problems"][0]["field"] == "place_id"
    # the name is free again, and then the old one has to wait
    assert supervisor("post", path, {"name": "The quay"})[0] == 201
    assert (
        "another place called “The quay” now"
        in supervisor("patch", f"{path}/{quay.pk}", {"removed": False})[1]["problems"][0]["message"]
    )
    assert supervisor("patch", f"{path}/999999", {"removed": True})[0] == 422


def test_a_set_and_a_stock_element_are_removed_and_brought_back(supervisor: Caller, production, shot):
    build = Build.objects.get(production=production)
    every = f"/productions/{production.pk}/builds"
    path = f"{every}/{build.pk}"
    assert supervisor("patch", path, {"removed": True})[0] == 200 and supervisor("get", every)[1] == []
    assert supervisor("get", f"/builds/{build.pk}")[0] == 404
    assert supervisor("patch", path, {"removed": False})[0] == 200
    assert [one["name"] for one in supervisor("get", every)[1]] == ["Inside the mill"]
    assert supervisor("get", f"/builds/{build.pk}")[1]["pieces"]
    sky = StockItem.objects.get(name__startswith="Dusk sky")

    def offered() -> bool:
        return any(
            fit["name"].startswith("Dusk sky")
            for one in supervisor("get", f"/shots/{shot.pk}/reuse")[1]
            for fit in one["fits"]
        )

    assert offered()
    stock = f"/productions/{production.pk}/stock"
    assert supervisor("patch", f"{stock}/{sky.pk}", {"removed": True})[0] == 200
    assert sky.pk not in [one["id"] for one in supervisor("get", stock)[1]] and not offered()
    assert supervisor("patch", f"{stock}/{sky.pk}", {"removed": False})[0] == 200 and offered()
