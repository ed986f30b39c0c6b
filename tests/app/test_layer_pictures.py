"""The picture of a layer: given, drawn on, read, taken away, and all of it taken back."""

from __future__ import annotations

import io
from typing import Any

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from PIL import Image

from jungoptic.app.demo.loft_picture import GATE_MM, LENS_M, LENS_MM, ROLL_DEG, TILT_DEG, loft_marks
from jungoptic.app.shots.models import Layer, LayerPicture, Shot
from jungoptic.core.optics import angle_of_view_deg

from .conftest import Caller, edit


@pytest.fixture
def loft(production) -> Shot:
    return Shot.in_cut.get(production=production, code="TM120")


@pytest.fixture
def rafters(loft) -> Layer:
    return Layer.objects.get(shot=loft, name="Painted rafters")


def given(size: tuple[int, int] = (2400, 1200)) -> SimpleUploadedFile:
    out = io.BytesIO()
    Image.new("RGB", size, "#504030").save(out, "PNG")
    return SimpleUploadedFile("barn.png", out.getvalue())


def shown(caller: Caller, layer: Layer) -> dict[str, Any]:
    answer = caller("get", f"/shots/{layer.shot_id}/bench?selected={layer.pk}")[1]
    return next(one for one in answer["layers"] if one["id"] == layer.pk)


def send(caller: Caller, layer: Layer, **fields: Any) -> tuple[int, dict[str, Any]]:
    body = {"version": layer.version, **fields}
    answer = caller.client.post(f"/api/layers/{layer.pk}/picture", body)
    return answer.status_code, answer.json()


def test_the_demo_s_photograph_tells_the_camera_that_took_it(guest: Caller, rafters: Layer):
    """Marks to the px of a picture made through a known lens: 95 of 100 lie within what is said, and these
    do.
    """
    reading = shown(guest, rafters)["reading"]
    told = {one["field"]: one for one in reading["read"]}
    truth = {
        "taken_view_deg": angle_of_view_deg(GATE_MM, LENS_MM),
        "taken_tilt_deg": TILT_DEG,
        "taken_roll_deg": ROLL_DEG,
        "taken_height_m": LENS_M,
    }
    for field, amount in truth.items():
        assert abs(told[field]["amount"] - amount) <= told[field]["within"], field
    assert reading["wants"] == [] and len(reading["horizon_px"]) == 2


def test_a_picture_is_given_with_its_size_and_what_was_drawn_on_the_old_one_goes(
    supervisor: Caller, guest: Caller, stranger: Caller, rafters: Layer
):
    before = shown(guest, rafters)
    assert len(before["values"]["marks"]) == len(loft_marks())
    status, answer = send(supervisor, rafters, file=given())
    assert status == 200, answer
    now = shown(guest, rafters)
    assert now["picture"]["id"] != before["picture"]["id"]
    assert (now["values"]["picture_width_px"], now["values"]["picture_height_px"]) == (2400, 1200)
    assert now["values"]["marks"] == [] and now["reading"]["read"] == now["reading"]["stands"] == []
    image = guest("get", f"/layer-pictures/{now['picture']['id']}.jpg")[1]
    assert Image.open(io.BytesIO(image)).size == (1920, 960)  # to look at
    assert stranger("get", f"/layer-pictures/{now['picture']['id']}.jpg")[0] == 404
    assert guest("get", "/layer-pictures/999999.jpg")[0] == 404
    # and all of it goes back together
    production = rafters.shot.production_id
    assert supervisor("post", f"/productions/{production}/take-back", {"write": answer["write"]})[0] == 200
    back = shown(guest, rafters)
    assert back["picture"] == before["picture"] and back["values"] == before["values"]


def test_what_is_no_picture_is_refused_and_nothing_changes(
    supervisor: Caller, crew: Caller, guest: Caller, rafters: Layer
):
    before = shown(guest, rafters)
    assert send(supervisor, rafters)[0] == 422
    status, answer = send(supervisor, rafters, file=SimpleUploadedFile("notes.txt", b"no picture"))
    assert status == 422 and "could not be read" in answer["problems"][0]["message"]
    assert send(crew, rafters, file=given())[0] == 403
    status, answer = send(supervisor, rafters, file=given(), version=rafters.version + 5)
    assert status == 409 and "Painted rafters" in answer["problems"][0]["message"]
    assert shown(guest, rafters) == before
    assert LayerPicture.objects.filter(layer=rafters).count() == 1


def save(caller: Caller, layer: Layer, **fields: Any) -> tuple[int, dict[str, Any]]:
    layer.refresh_from_db()
    body = {"layers": {layer.pk: edit(layer.version, **fields)}}
    status, answer = caller("post", f"/shots/{layer.shot_id}/changes", body)
    return status, answer


def test_marks_are_tried_saved_and_refused_at_their_field(supervisor: Caller, guest: Caller, rafters: Layer):
    horizon = {"kind": "horizon", "points": [[0, 400], [1600, 400]]}
    tried = supervisor(
        "post",
        f"/shots/{rafters.shot_id}/trial",
        {"layers": {rafters.pk: {"marks": [horizon], "taken_view_deg": 50}}},
    )[1]
    layer = next(one for one in tried["layers"] if one["id"] == rafters.pk)
    assert {one["field"] for one in layer["reading"]["read"]} == {"taken_tilt_deg", "taken_roll_deg"}
    assert len(shown(guest, rafters)["values"]["marks"]) == len(loft_marks()), "a trial saves nothing"
    assert save(supervisor, rafters, marks=[horizon])[0] == 200
    assert shown(guest, rafters)["values"]["marks"] == [
        {"kind": "horizon", "points": [[0.0, 400.0], [1600.0, 400.0]], "height_m": 1.75}
    ]
    status, answer = save(supervisor, rafters, marks=[{"kind": "shadow", "points": [[0, 0], [1, 1]]}])
    assert status == 422
    assert answer["problems"][0]["field"].startswith("marks.0")
    assert "wants 3 points" in answer["problems"][0]["message"]
    assert save(supervisor, rafters, marks=[horizon] * 61)[0] == 422


def test_a_layer_takes_no_other_layer_s_picture(supervisor: Caller, rafters: Layer, mill: Layer):
    assert save(supervisor, mill, picture_id=rafters.picture_id)[0] == 422
    assert save(supervisor, mill, picture_id="barn")[0] == 422
    assert save(supervisor, rafters, picture_id=None)[0] == 200
    assert shown(supervisor, rafters)["picture"] is None
    assert save(supervisor, rafters, picture_id=LayerPicture.objects.get(layer=rafters).pk)[0] == 200
