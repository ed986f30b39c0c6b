"""Line-up: a live picture of the simulated camera against one that is held."""

from __future__ import annotations

import io
import re
from typing import Any

import numpy as np
import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from PIL import Image

from .conftest import Caller
from .written import Demo, held, live


def measured(caller: Caller, layer: Any, against: int, data: bytes, **more: Any) -> tuple[int, Any]:
    body = {"file": SimpleUploadedFile("live.jpg", data), "against": against, **more}
    answer = caller.client.post(f"/api/layers/{layer.pk}/line-up", body)
    return answer.status_code, answer.json()


def test_what_is_drawn_over_the_live_picture_comes_with_the_plan(guest: Caller, mill):
    status, found = guest("get", f"/layers/{mill.pk}/line-up")
    assert status == 200 and found["code"] == "TM010" and found["scale"] == 12
    left, top, width, height = found["gate"]
    assert width >= 1900 and height >= 1000 and left < 100 and top < 100
    first = found["ground"][0]
    assert first["axis"] == "ahead" and first["text"] != first["in_set"]
    assert {one["key"] for one in found["faults"] if not one["usual"]} == {"nudge"}
    assert guest("get", f"/layers/{mill.pk}/line-up?units=imperial")[1]["ground"][0]["text"].endswith(
        ("ft", "in")
    )


def test_a_camera_that_is_off_is_told_what_to_turn_until_it_holds(crew: Caller, mill):
    against = held(crew, mill, live(crew, mill))
    status, off = measured(crew, mill, against, live(crew, mill, pan=0.6, roll=-0.4, number=9))
    assert status == 200, off
    assert off["verdict"] == "shows" and off["within_px"] < 0.3
    said = {turn["label"]: turn["to_do"] for turn in off["turns"]}
    assert re.fullmatch(r"Pan 0\.(59|60|61)° to the left", said["Pan"])
    assert re.fullmatch(r"Roll 0\.(3[6-9]|4[0-4])° to the right", said["Roll"])
    assert off["turns"][0]["label"] == "Pan"
    _, stands = measured(crew, mill, against, live(crew, mill, number=21))
    assert stands["verdict"] == "holds" and stands["turns"] == [] and np.hypot(*stands["shift_px"]) < 0.3
    _, imperial = measured(crew, mill, against, live(crew, mill, forward=0.04), units="imperial")
    assert any(turn["to_do"].endswith(" in back") for turn in imperial["turns"]), imperial


def test_what_cannot_be_measured_is_said(crew: Caller, mill):
    frame = live(crew, mill)
    against = held(crew, mill, frame)
    grey = io.BytesIO()
    Image.fromarray(np.full((360, 640), 90, np.uint8)).save(grey, "JPEG")
    status, told = measured(crew, mill, against, grey.getvalue())
    assert status == 200 and "in both pictures" in told["nothing"] and told["turns"] == []
    looked_at = held(crew, mill, frame, of="pose")
    for wrong, field in (
        ({"against": looked_at, "data": frame}, "against"),
        ({"against": against + 999, "data": frame}, "against"),
        ({"against": against, "data": b"no picture"}, "file"),
    ):
        status, refused = measured(crew, mill, **wrong)
        assert (status, refused["problems"][0]["field"]) == (422, field)
    assert crew("post", f"/layers/{mill.pk}/line-up", None)[0] == 422
    answer = crew.client.get(f"/api/layers/{mill.pk}/live.jpg?faults=moths")
    assert answer.status_code == 422 and "moths" in answer.json()["problems"][0]["message"]


def test_a_frame_of_another_layer_is_looked_for_in_this_one_and_a_painting_has_no_camera(crew: Caller, mill):
    hero = next(one for one in Demo().shot.layers.all() if one.is_hero)
    against = held(crew, hero, live(crew, hero))
    status, told = measured(crew, mill, against, live(crew, mill))
    assert status == 200 and bool(told["nothing"]) == (told["verdict"] is None)
    painted = Demo().shot.layers.filter(set_up=None).first()
    assert painted is not None
    assert crew("get", f"/layers/{painted.pk}/line-up")[0] == 422


@pytest.mark.parametrize("dial", ["pan", "zoom", "forward"])
def test_no_dial_is_turned_beyond_what_there_is(crew: Caller, mill, dial):
    answer = crew.client.get(f"/api/layers/{mill.pk}/live.jpg?{dial}=1e9")
    assert answer.status_code == 422
    assert crew.client.get(f"/api/layers/{mill.pk}/live.jpg?{dial}=nan").status_code == 422
