"""What is connected over HTTP: used again, places, stock; sets in plan."""

from __future__ import annotations

import pytest

from jungoptic.app.builds.models import Build
from jungoptic.app.builds.schemas import BuildOut
from jungoptic.app.shots.models import Shot

from .conftest import Caller, edit

# --- used again, places, stock


def test_stock_and_other_shots_are_suggested_by_what_must_match(supervisor: Caller, production, shot):
    found = {one["layer"]: one["fits"] for one in supervisor("get", f"/shots/{shot.pk}/reuse")[1]}
    sky = found["Dusk sky"]
    assert sky[0]["name"] == "Dusk sky, time-lapse, stock" and sky[0]["verdict"] == "holds"
    assert {"light", "lens", "rate"} <= {aspect["what"] for aspect in sky[0]["aspects"]}
    assert all("TM010" not in fit["name"] for fits in found.values() for fit in fits)
    item = {
        "name": "Twin of the dusk sky",
        "note": "sky",
        "width_px": 3840,
        "fps": 24,
        "view_deg": 37,
        "key_azimuth_deg": -118,
        "key_elevation_deg": 14,
    }
    path = f"/productions/{production.pk}/stock"
    assert supervisor("post", path, item)[0] == 201
    assert "Twin of the dusk sky" in [one["name"] for one in supervisor("get", path)[1]]
    again = {one["layer"]: one["fits"] for one in supervisor("get", f"/shots/{shot.pk}/reuse")[1]}["Dusk sky"]
    assert any(fit["name"].startswith("Twin") and fit["mirrored"] for fit in again)
    for field, value in (("name", "Twin of the dusk sky"), ("name", ""), ("view_deg", 300), ("fps", -1)):
        assert (
            supervisor("post", path, {**item, "name": "Other", field: value})[1]["problems"][0]["field"]
            == field
        )


def test_the_continuity_list_and_what_the_bench_says_agree(supervisor: Caller, production):
    path = f"/productions/{production.pk}/places"
    places = {one["name"]: one for one in supervisor("get", path)[1]}
    quay = places["The quay"]
    assert {shot["code"]: shot["has"] for shot in quay["shots"]} == {"TM050": [True], "TM110": [False]}
    yard = Shot.objects.get(code="TM110")

    def missing() -> float:
        return max(
            item["amount"]
            for layer in supervisor.bench(yard)["layers"]
            for item in layer["items"]
            if item["item"] == "recurring"
        )

    assert missing() == 2  # what is left out weighs two: it shows
    body = {
        "version": quay["version"],
        "name": "The quay",
        "recurring": ["leaning mooring post", "rusted crane"],
        "cautions": ["water_edge"],
    }
    assert supervisor("put", f"{path}/{quay['id']}", body)[0] == 200
    assert missing() == 4
    assert (
        supervisor(
            "post",
            f"/shots/{yard.pk}/changes",
            {"shot": {yard.pk: edit(yard.version, carries=["Leaning mooring post", "rusted crane"])}},
        )[0]
        == 200
    )
    assert missing() == 0
    assert next(one for one in supervisor("get", path)[1] if one["name"] == "The quay")["shots"][1][
        "has"
    ] == [True, True]
    assert supervisor("put", f"{path}/{quay['id']}", body)[0] == 409, "never over what was not seen"
    for field, bad in (("name", ""), ("cautions", ["love"]), ("recurring", ["x" * 90])):
        assert (
            supervisor("put", f"{path}/{quay['id']}", {**body, "version": quay["version"] + 1, field: bad})[
                1
            ]["problems"][0]["field"]
            == field
        )
    assert supervisor("put", f"{path}/999999", body)[0] == 422


# --- sets in plan


def test_the_demo_s_set_is_built_only_as_far_as_it_is_seen(supervisor: Caller, production):
    build = Build.objects.get(production=production)
    status, found = supervisor("get", f"/builds/{build.pk}")
    assert status == 200
    BuildOut.model_validate(found, strict=False, extra="forbid")
    assert 0 < found["built_m2"] < 0.75 * found["whole_m2"] and found["hours"] == pytest.approx(
        1.5 * found["built_m2"]
    )
    assert found["reused"] and set(found["reused"][0]["names"]) == {
        "Belfry screen",
        "Loft screen",
    }
    assert found["only_establishing"] == ["Grain chute"]
    assert {one["name"] for one in found["cones"]} == {"TM030", "TM040", "TM120"}
    # the move of TM120 is seen over its whole length
    assert sum(one["name"] == "TM120" for one in found["cones"]) == 5
    assert found["sheets"] * found["price"] == pytest.approx(found["price_all"])
    assert all("mm" in cut["text"] and "in" in cut["text"] for cut in found["cuts"])
    feet = supervisor("get", f"/builds/{build.pk}?units=imperial")[1]
    assert "ft" in feet["pieces"][0]["size_text"] and feet["built_m2"] == pytest.approx(found["built_m2"])


def test_a_set_is_made_saved_and_never_over_what_was_not_seen(supervisor: Caller, production, shot):
    path = f"/productions/{production.pk}/builds"
    status, made = supervisor("post", path, {"name": "Sea wall"})
    assert (
        status == 201
        and supervisor("post", path, {"name": "Sea wall"})[0] == 422
        and supervisor("post", path, {"name": " "})[0] == 422
    )
    wall_piece = {"name": "Wall", "z_m": 6, "width_m": 20, "height_m": 3}
    body = {
        "version": made["version"],
        "fields": {"scale": 6},
        "pieces": [wall_piece],
        "views": [{"shot_id": shot.pk, "z_m": -4}],
    }
    status, saved = supervisor("put", f"/builds/{made['id']}", body)
    assert status == 200 and saved["version"] == made["version"] + 1 and 0 < saved["built_m2"] < 60
    # by hand: 20 h for each square metre of the model, its area is that of the set ÷ 6²
    assert saved["hours"] == pytest.approx(20 * saved["built_m2"] / 36)
    assert supervisor("put", f"/builds/{made['id']}", body)[0] == 409
    for change, field in (
        ({"pieces": [{**wall_piece, "width_m": 0}]}, "pieces.0.width_m"),
        ({"pieces": [wall_piece, wall_piece]}, "pieces.1.name"),
        ({"pieces": [{**wall_piece, "mood": 1}]}, "pieces.0.mood"),
        ({"views": [{"shot_id": 999999}]}, "views.0.shot_id"),
        ({"fields": {"scale": 0}}, "scale"),
        ({"fields": {"kerf_mm": -1}}, "kerf_mm"),
        ({"fields": {"mood": 1}}, "mood"),
        ({"fields": {"scale": "twelve"}}, "scale"),
        ({"fields": {"name": ""}}, "name"),
        ({"fields": {"name": "Inside the mill"}}, "name"),
        ({"fields": {"place_id": 999999}}, "place_id"),
        ({"views": [{"shot_id": shot.pk, "x_m": 1e9}]}, "views.0.x_m"),
        ({"views": [{"shot_id": shot.pk, "heading_deg": 400}]}, "views.0.heading_deg"),
    ):
        status, answer = supervisor("put", f"/builds/{made['id']}", {"version": saved["version"], **change})
        assert (status, answer["problems"][0]["field"]) == (422, field), answer
    assert supervisor("get", f"/builds/{made['id']}")[1]["version"] == saved["version"]


def test_a_camera_without_a_hero_is_said_and_sees_nothing(supervisor: Caller, production, empty):
    made = supervisor("post", f"/productions/{production.pk}/builds", {"name": "Bare"})[1]
    body = {
        "version": made["version"],
        "pieces": [{"name": "Wall", "z_m": 6}],
        "views": [{"shot_id": empty.pk}],
    }
    saved = supervisor("put", f"/builds/{made['id']}", body)[1]
    assert (
        "TM900 has no hero plate yet" in saved["lacking"][0]
        and saved["built_m2"] == 0
        and saved["cuts"] == []
    )
