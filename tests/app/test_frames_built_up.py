"""A set that is built up again: the live picture says what is off the frame by which it was left."""

from __future__ import annotations

from typing import Any

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile

from jungoptic.app.frames.models import Exposure, Pose

from .conftest import Caller
from .test_frames import sent, simulated
from .written import Demo

POST = {"name": "The post", "box": [0.1, 0.6, 0.3, 0.95]}


@pytest.fixture
def left(crew: Caller, production) -> Exposure:
    """The frame by which the set was left, with a piece that has to stand."""
    pose = Demo().exposure_sheet().poses.all()[0]
    status, _ = sent(crew, pose, simulated(crew, pose))
    assert status == 201
    version = crew("get", f"/exposure-sheets/{pose.sheet_id}")[1]["version"]
    assert crew("post", f"/exposure-sheets/{pose.sheet_id}/pieces", {**POST, "version": version})[0] == 201
    return Exposure.objects.get(pose=pose)


def live(caller: Caller, left: Exposure, number: int = 7, **faults: Any) -> tuple[int, Any]:
    pose = Pose.objects.get(pk=left.pose_id)
    pose.place = 0
    file = SimpleUploadedFile("live.jpg", simulated(caller, pose, number, **faults), "image/jpeg")
    answer = caller.client.post(f"/api/exposures/{left.pk}/built-up", {"file": file})
    return answer.status_code, answer.json()


def test_as_it_was_left_it_holds_and_says_so_of_everything(guest: Caller, left: Exposure):
    status, told = live(guest, left)
    assert status == 200 and told["holds"]
    assert {line["what"] for line in told["lines"]} >= {"camera", "light", "piece"}
    assert {line["way"] for line in told["lines"]} == {""}
    assert Exposure.objects.count() == 1, "nothing is kept"


def test_what_is_off_is_told_in_delivered_px_and_stops_with_its_way_back(crew: Caller, left: Exposure):
    status, told = live(crew, left, nudge_px=3.0, lighter_stops=0.1)
    lines = {line["what"]: line for line in told["lines"]}
    assert status == 200 and not told["holds"]
    assert float(lines["camera"]["off"].split()[0]) == pytest.approx(3.0, rel=0.05)
    assert lines["camera"]["way"].startswith("pan right by ") and lines["camera"]["verdict"] == "shows"
    assert float(lines["light"]["off"].split()[0]) == pytest.approx(0.1, rel=0.1)
    assert lines["light"]["way"].startswith("take ") and lines["light"]["way"].endswith(" stop off")
    # beside the camera the piece stands
    assert (lines["piece"]["name"], lines["piece"]["verdict"]) == ("The post", "holds")
    assert lines["piece"]["box"] == POST["box"]


def test_another_picture_and_no_picture_say_what_to_do(crew: Caller, left: Exposure):
    address = f"/api/exposures/{left.pk}/built-up"
    other = crew.client.post(address, {"file": Demo().frame()}).json()
    assert [line["what"] for line in other["lines"]] == ["lost"] and not other["holds"]
    none = crew.client.post(address)
    assert none.status_code == 422 and none.json()["problems"][0]["field"] == "file"
    unread = crew.client.post(address, {"file": SimpleUploadedFile("live.jpg", b"no picture")})
    assert unread.status_code == 422 and unread.json()["problems"][0]["field"] == "file"
