"""Line-up: a live picture of the simulated camera against one that is held."""

from __future__ import annotations

import io
import re
from typing import Any

import numpy as np
import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from PIL import Image
from pypdfium2 import PdfDocument

from jungoptic.app.demo.frames import hold_frames
from jungoptic.app.people.models import Person
from jungoptic.app.shots.writing import in_shot
from jungoptic.app.stills.models import Still
from jungoptic.app.takes.log import Said, record_take
from tests.pdf import pages_of

from .conftest import Caller
from .written import Demo, filmed, held, live


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
    status, at_once = filmed(crew, mill, pan=0.6, roll=-0.4, number=9, against=against)
    assert status == 200 and at_once["measured"] == off, "filmed and measured in one go"
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
    status, refused = filmed(crew, mill, faults="moths")
    assert status == 422 and "moths" in refused["problems"][0]["message"]
    assert filmed(crew, mill, against=looked_at)[0] == 422


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
    for beyond in ("1e9", "nan"):
        assert filmed(crew, mill, **{dial: beyond})[0] == 422


@pytest.mark.parametrize(("wide_mm", "sheets"), [(155.0, 1), (520.0, 4)])
def test_a_mask_is_as_large_as_the_picture_on_the_monitor(guest: Caller, mill, wide_mm, sheets):
    status, pdf = guest("get", f"/layers/{mill.pk}/mask.pdf?width_mm={wide_mm}")
    pages = pages_of(pdf)
    assert status == 200 and len(pages) == sheets and all("100 mm" in each.text for each in pages)
    assert "delivered frame" in pages[0].text and "horizon" in pages[0].text
    a_mm = 4
    page = PdfDocument(pdf)[0].render(scale=a_mm * 25.4 / 72, grayscale=True).to_numpy()
    drawn = page.reshape(page.shape[:2])
    columns = np.flatnonzero((drawn[: 180 * a_mm] < 128).any(axis=0))
    shown_mm = min(wide_mm, 281.0)
    assert np.ptp(columns) / a_mm == pytest.approx(shown_mm, abs=0.5)
    if sheets == 1:
        horizon = (drawn[8 * a_mm : 95 * a_mm, 8 * a_mm : 163 * a_mm] < 128).sum(axis=1)
        told = re.search(r"× ([\d.]+) mm on the monitor", pages[0].text)
        assert told
        tall_mm = float(told[1])
        middle = horizon[round(0.4 * tall_mm * a_mm) : round(0.6 * tall_mm * a_mm)].argmax() / a_mm
        assert middle + 0.4 * tall_mm == pytest.approx(tall_mm / 2, abs=0.5), "the lens is level"


def test_a_mask_is_refused_where_no_picture_is_so_wide(guest: Caller, mill):
    for wide in ("0", "5", "2000", "nan"):
        status, refused = guest("get", f"/layers/{mill.pk}/mask.pdf?width_mm={wide}")
        assert (status, refused["problems"][0]["field"]) == (422, "width_mm")


def test_the_demo_holds_a_frame_of_every_circled_take(crew: Caller, production, mill):
    camera = Person.objects.get(username="camera")
    with in_shot(camera, mill.shot_id) as write:
        record_take(write, mill.pk, Said(circled=True))
    hold_frames(production, camera)
    frame = Still.objects.get(of="frame")
    assert frame.take is not None and frame.take.layer_id == mill.pk and frame.width_px == 960
    status, answer = filmed(crew, mill, against=frame.pk, width=640)
    assert status == 200 and answer["measured"]["verdict"] == "holds", "held wider than it is filmed"
