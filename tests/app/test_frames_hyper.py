"""A hyperlapse planned from its shot, photographed, its aims told and made steady; all of it taken back."""

from __future__ import annotations

import csv
import io
import math
from typing import Any

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile

from jungoptic.app.demo import hyperlapse as demo
from jungoptic.app.frames.models import ExposureSheet, Hyperlapse, Pose
from jungoptic.app.people.models import Person
from jungoptic.core.stage import HyperFaults

from .conftest import Caller
from .test_taken_back import back, newest
from .written import Demo

AIM_PX = 12.0


@pytest.fixture
def sheet_id(production) -> int:
    return int(Demo().hyperlapse().point.sheet_id)


def read(caller: Caller, sheet_id: int) -> Any:
    status, sheet = caller("get", f"/exposure-sheets/{sheet_id}")
    assert status == 200, sheet
    return sheet


def photographed(caller: Caller, sheet_id: int, frame: int, number: int = 0, aim_px: float = AIM_PX) -> bytes:
    address = f"/api/exposure-sheets/{sheet_id}/simulated.jpg?frame={frame}&number={number}&width=960"
    answer = caller.client.get(f"{address}&aim_px={aim_px}")
    assert answer.status_code == 200, answer.content
    return bytes(answer.content)


def taken(caller: Caller, sheet_id: int, frame: int, data: bytes) -> Any:
    pose = ExposureSheet.objects.get(pk=sheet_id).poses.all()[frame - 1]
    body = {"file": SimpleUploadedFile(f"{frame}.jpg", data)}
    answer = caller.client.post(f"/api/poses/{pose.pk}/exposures", body)
    assert answer.status_code == 201, answer.content
    return answer.json()


def changed(caller: Caller, hyperlapse: Any, **values: Any) -> tuple[int, Any]:
    body = {"version": hyperlapse["version"], "plan": {**hyperlapse["plan"], **values}}
    return caller("patch", f"/hyperlapses/{hyperlapse['id']}", body)


def aim(sheet: Any, frame: int) -> Any:
    return next(each for each in sheet["hyperlapse"]["aims"] if each["place"] == frame - 1)


def aimed_px(sheet: Any, frame: int, number: int = 0) -> tuple[float, float]:
    """How far the simulated camera aimed a photograph off, px of the frame that is delivered of it."""
    grown = sheet["hyperlapse"]["frame_px"][0] / sheet["delivery_width_px"]
    right, down = HyperFaults(AIM_PX).off_px(frame, number)
    return grown * right, grown * down


def test_a_hyperlapse_follows_from_its_shot(crew: Caller, sheet_id):
    sheet = read(crew, sheet_id)
    plan = sheet["hyperlapse"]["plan"]
    assert (plan["kind"], plan["away_m"]) == ("arc", 70.0)
    assert plan["length_m"] == pytest.approx(math.radians(5.0) * 70.0)
    assert sheet["hyperlapse"]["name"] == "the mill's chimney"
    # the mark of the board, 960 and 420 of 1920 × 1080, in a photograph that is framed 5 % wider on each side
    assert (plan["mark_x"], plan["mark_y"]) == (0.5, pytest.approx(0.05 + 0.9 * 420 / 1080))
    assert [pose["hold"] for pose in sheet["poses"]] == [1] * 144
    assert sheet["hyperlapse"]["step_m"] == pytest.approx(plan["length_m"] / 143)
    assert sheet["hyperlapse"]["rhythm"]["takes_s"] == 143 * 5.0
    last = sheet["hyperlapse"]["stations"][-1]
    assert (last["right_m"], last["turned_deg"]) == (pytest.approx(6.1, abs=0.02), pytest.approx(-5.0))
    assert sheet["hyperlapse"]["spare_px"][0] == pytest.approx((1920 / 0.9 - 1920) / 2)


def test_each_photograph_is_told_how_it_is_aimed_and_what_is_left(crew: Caller, sheet_id):
    frames = (1, 2, 40, 80, 144)
    for frame in frames:
        made = taken(crew, sheet_id, frame, photographed(crew, sheet_id, frame))
        assert not (made["watched"] or {}).get("warnings")  # 12 px of a margin of 107
    sheet = read(crew, sheet_id)
    first = aimed_px(sheet, 1)  # wherever it was aimed: it says what the point looks like
    assert (aim(sheet, 1)["right_px"], aim(sheet, 1)["down_px"]) == (0.0, 0.0)
    for frame in frames[1:]:
        truth = [at - begun for at, begun in zip(aimed_px(sheet, frame), first, strict=True)]
        seen = aim(sheet, frame)
        assert seen["right_px"] == pytest.approx(truth[0], abs=max(0.8, 0.05 * abs(truth[0])))
        assert seen["down_px"] == pytest.approx(truth[1], abs=max(0.8, 0.05 * abs(truth[1])))
    told = sheet["hyperlapse"]
    assert told["again"] == []
    most = max(abs(each["right_px"]) for each in told["aims"])
    assert told["left_px"][0] == pytest.approx(told["spare_px"][0] - most)
    # made steady on the mark, each is laid back by what it is off
    for each in told["aims"]:
        assert each["shift"][0] * told["frame_px"][0] == pytest.approx(-each["right_px"])
    assert told["steadied"]["crop"] == pytest.approx(
        1 - 2 * max(max(abs(axis) for axis in each["shift"]) for each in told["aims"])
    )


def test_what_is_aimed_too_far_off_is_said_and_taken_again(crew: Caller, sheet_id):
    taken(crew, sheet_id, 1, photographed(crew, sheet_id, 1, aim_px=0.0))
    number = next(n for n in range(100) if abs(HyperFaults(60.0).off_px(2, n)[0]) > 80)
    made = taken(crew, sheet_id, 2, photographed(crew, sheet_id, 2, number, aim_px=60.0))
    [warned] = made["watched"]["warnings"]
    assert (warned["what"], warned["unit"]) == ("aim", "px")
    assert "Take it again" in warned["text"] and warned["text"].startswith("The mill's chimney")
    assert read(crew, sheet_id)["hyperlapse"]["again"] == [1]
    [brief] = [
        one
        for one in crew("get", f"/productions/{Demo().production.pk}/frames")[1]["sheets"]
        if one["hyperlapse"]
    ]
    assert (brief["warned"], brief["taken"]) == (1, 2)
    taken(crew, sheet_id, 2, photographed(crew, sheet_id, 2, aim_px=0.0))
    assert read(crew, sheet_id)["hyperlapse"]["again"] == []


def test_what_is_not_found_is_said_and_marked_by_hand(crew: Caller, sheet_id):
    taken(crew, sheet_id, 1, photographed(crew, sheet_id, 1))
    made = taken(crew, sheet_id, 2, Demo().frame().read())
    assert "not found" in made["watched"]["warnings"][0]["text"]
    assert made["watched"]["warnings"][0]["amount"] is None
    told = read(crew, sheet_id)["hyperlapse"]
    assert (told["again"], aim(read(crew, sheet_id), 2)["right_px"]) == ([1], None)
    [point] = read(crew, sheet_id)["points"]
    body = {"version": point["version"], "exposure_id": made["id"], "x": 0.51, "y": told["plan"]["mark_y"]}
    assert crew("post", f"/figure-points/{point['id']}/places", body)[0] == 201
    seen = aim(read(crew, sheet_id), 2)
    assert seen["right_px"] == pytest.approx(0.01 * told["frame_px"][0])


def test_another_plan_judges_anew_and_is_taken_back(crew: Caller, sheet_id, production):
    for frame in range(1, 7):
        taken(crew, sheet_id, frame, photographed(crew, sheet_id, frame))
    before = read(crew, sheet_id)["hyperlapse"]
    assert changed(crew, before, margin_pct=0.0, steady_on="path", interval_s=3.0)[0] == 200
    now = read(crew, sheet_id)["hyperlapse"]
    assert now["spare_px"] == [0.0, 0.0] and len(now["again"]) == 5  # all but the first, which is on its mark
    assert now["rhythm"]["lacks_s"] == pytest.approx(4.02 - 3.0)
    assert now["steadied"]["margin"] != before["steadied"]["margin"]
    assert back(crew, production, write=newest(crew, production)["id"])[0] == 200
    assert read(crew, sheet_id)["hyperlapse"]["plan"] == before["plan"]
    status, refused = changed(crew, read(crew, sheet_id)["hyperlapse"], length_m=500.0)
    assert status == 422 and refused["problems"][0]["field"] == "plan.length_m"
    assert refused["problems"][0]["message"].startswith("An arc of 70 m about the point is at most 440 m")
    assert changed(crew, before, interval_s=9.0)[0] == 409


def test_a_camera_that_goes_on_does_not_step_and_smears(crew: Caller, sheet_id):
    told = read(crew, sheet_id)["hyperlapse"]
    assert told["open_deg"] == pytest.approx(360 * 0.02 / 5.0) and told["sharp_s"] is None
    assert {one["name"]: one["smears_px"] for one in told["movers"]}["what is nearest"] == 0.0
    assert changed(crew, told, goes_on=True, exposure_s=0.5, length_m=400.0)[0] == 200
    now = read(crew, sheet_id)["hyperlapse"]
    smears = {one["name"]: one["smears_px"] for one in now["movers"]}
    # a tenth of the interval, of what the camera goes in it
    focal = now["movers"][0]["px"] * 2000.0 / (8.0 * 5.0)
    assert smears["the reference point"] == pytest.approx(now["step_m"] / now["plan"]["away_m"] * focal / 10)
    assert smears["clouds"] == pytest.approx(now["movers"][0]["px"] / 10)
    assert now["sharp_s"] == pytest.approx(0.5 / smears["the reference point"])
    assert now["rhythm"]["least_s"] == pytest.approx(0.5 + now["plan"]["writing_s"])
    assert changed(crew, now, goes_on="yes")[0] == 422


def test_what_lays_them_steady_is_a_table_in_px_of_the_photographs(crew: Caller, sheet_id):
    hyperlapse = read(crew, sheet_id)["hyperlapse"]["id"]
    assert crew("get", f"/hyperlapses/{hyperlapse}/transforms.csv")[0] == 422
    for frame in range(1, 7):
        taken(crew, sheet_id, frame, photographed(crew, sheet_id, frame))
    answer = crew.client.get(f"/api/hyperlapses/{hyperlapse}/transforms.csv")
    rows = list(csv.DictReader(io.StringIO(answer.content.decode())))
    aims = read(crew, sheet_id)["hyperlapse"]["aims"]
    assert [row["photograph"] for row in rows] == list("123456")
    for row, each in zip(rows, aims, strict=True):
        assert float(row["right_px"]) == pytest.approx(960 * each["shift"][0], abs=1e-3)


def test_the_point_that_it_is_aimed_at_stays(crew: Caller, sheet_id):
    [point] = read(crew, sheet_id)["points"]
    status, refused = crew(
        "patch", f"/figure-points/{point['id']}", {"version": point["version"], "removed": True}
    )
    assert status == 422 and "aimed at this point" in refused["problems"][0]["message"]


def test_it_is_begun_of_any_filmed_layer_and_taken_back_whole(crew: Caller, production, mill):
    address = f"/productions/{production.pk}/frames"
    can = crew("get", address)[1]["for_hyperlapses"]
    assert can and all(one["code"] for one in can)
    status, made = crew("post", f"/layers/{mill.pk}/hyperlapse", {"name": "Gable", "plan": {"length_m": 3}})
    assert status == 201, made
    told = read(crew, made["id"])["hyperlapse"]
    assert (told["name"], told["plan"]["length_m"], told["plan"]["kind"]) == ("Gable", 3.0, "line")
    assert crew("post", f"/layers/{mill.pk}/hyperlapse", {})[0] == 422
    assert back(crew, production, write=newest(crew, production)["id"])[0] == 200
    assert not Hyperlapse.objects.filter(point__sheet=made["id"], removed=False).exists()
    assert crew("post", f"/layers/{mill.pk}/hyperlapse", {})[0] == 201


def test_the_demo_is_carried_round_the_pond(crew: Caller, sheet_id, production, monkeypatch):
    monkeypatch.setattr(demo, "PHOTOGRAPHS", 5)
    monkeypatch.setattr(demo, "WIDTH_PX", 960)
    missed = HyperFaults(demo.AIM_PX, 3, (-118.0, 30.0))
    monkeypatch.setattr(demo, "TAKEN_AGAIN", 3)
    monkeypatch.setattr(demo, "FAULTS", {None: HyperFaults(demo.AIM_PX), 3: missed})
    camera = Person.objects.get(username="camera")
    done: list[float] = []
    demo.carry(production, camera, done.append)
    sheet = read(crew, sheet_id)
    assert len(sheet["exposures"]) == 6 and len(sheet["hyperlapse"]["aims"]) == 5
    assert sheet["hyperlapse"]["again"] == []
    demo.carry(production, camera, done.append)
    assert len(read(crew, sheet_id)["exposures"]) == 6 and done[-1] < 1.0
    assert Pose.objects.filter(sheet=sheet_id, exposures__isnull=False).distinct().count() == 5
