"""Photographs at the camera: onto a take with one touch, once, and to be looked at before the next."""

from __future__ import annotations

from datetime import UTC, datetime
from typing import Any

from django.core.files.uploadedfile import SimpleUploadedFile

from .conftest import Caller
from .written import Demo

AT = datetime(2027, 10, 16, 15, 4, tzinfo=UTC)


def kept(caller: Caller, layer, *, key: str = "", **body: Any) -> tuple[int, Any]:
    sent = {"file": Demo().png(), **body}
    headers = {"Idempotency-Key": key} if key else {}
    answer = caller.client.post(f"/api/layers/{layer.pk}/stills", sent, headers=headers)
    return answer.status_code, answer.json()


def test_a_photograph_goes_onto_its_take_and_is_there_before_the_next(crew: Caller, shot, mill):
    take = Demo().take()
    sent = {"take_id": take.pk, "of": "level", "note": " to the rim ", "photographed_at": AT.isoformat()}
    status, made = kept(crew, mill, key="one-touch", **sent)
    assert status == 201
    assert (made["name"], made["take_number"], made["note"]) == (
        "last liquid level",
        take.number,
        "to the rim",
    )
    assert kept(crew, mill, key="one-touch", **sent) == (201, made)  # sent again: once
    _, found = crew("get", f"/shots/{shot.pk}/stills")
    assert [one["id"] for one in found["stills"]] == [made["id"]]
    assert datetime.fromisoformat(found["stills"][0]["photographed_at"]) == AT
    whole = crew.client.get(f"/api/stills/{made['id']}.jpg")
    small = crew.client.get(f"/api/stills/{made['id']}.jpg?width=32")
    assert whole.status_code == small.status_code == 200
    assert small["Content-Type"] == "image/jpeg" and len(small.content) < made["width_px"] * made["height_px"]


def test_without_a_word_it_is_what_is_usual_for_its_layer(crew: Caller, mill):
    assert kept(crew, mill)[1]["of"] == "set"
    mill.kind = "frame_by_frame"
    mill.save(update_fields=["kind"])
    made = kept(crew, mill)[1]
    assert (made["of"], made["take_id"]) == ("pose", None)
    assert crew("patch", f"/stills/{made['id']}", {"of": "moved", "version": 1})[0] == 200
    assert crew("patch", f"/stills/{made['id']}", {"removed": True, "version": 1})[0] == 409
    assert crew("patch", f"/stills/{made['id']}", {"removed": True, "version": 2})[0] == 200
    assert made["id"] not in [one["id"] for one in crew("get", f"/shots/{mill.shot_id}/stills")[1]["stills"]]


def test_what_is_no_photograph_is_said_at_its_field_and_nothing_is_kept(crew: Caller, shot, mill):
    other = Demo().shot.layers.exclude(pk=mill.pk).first()
    take = Demo().take()
    said = {
        "file": {"file": SimpleUploadedFile("a.jpg", b"not a picture")},
        "take_id": {"take_id": take.pk + 999},
        "note": {"note": "x" * 200},
        "of": {"of": "mood"},
        "photographed_at": {"photographed_at": "1850-01-01T00:00:00Z"},
    }
    for field, body in said.items():
        status, refused = kept(crew, mill, **body)
        assert (status, refused["problems"][0]["field"]) in ((422, field), (422, f"form.{field}"))
    assert kept(crew, other, take_id=take.pk)[0] == 422
    assert crew("get", f"/shots/{shot.pk}/stills")[1]["stills"] == []
