"""Points of the figure at the desk: found again in every new frame, held against their path, feet that slide;
all of it can be marked by hand, and taken back.
"""

from __future__ import annotations

import math
from typing import Any

import pytest

from jungoptic.app.frames.desks import desk_of, match_of
from jungoptic.app.frames.models import Pose
from jungoptic.app.productions.access import Versions
from jungoptic.app.shots.models import Shot
from jungoptic.core.frames import planned_figure

from .conftest import Caller
from .test_frames import sheet, took, whats
from .test_taken_back import back, newest
from .written import Demo


@pytest.fixture
def poses(production) -> list[Pose]:
    return list(Demo().exposure_sheet().poses.all())


def body_of(pose: Pose, frame: int) -> tuple[float, float]:
    """The middle of the Heron's body at a frame, shares of the photograph."""
    layer = pose.sheet.layer
    versions: Versions = Shot.objects.values_list("revision", "production__revision").get(pk=layer.shot_id)
    desk = desk_of(layer.shot_id, layer.pk, versions)
    assert desk is not None
    left, top, right, bottom = planned_figure(match_of(desk), frame, layer.shot.length_frames)
    return left + 0.45 * (right - left), top + 0.7 * (bottom - top)


def point_made(caller: Caller, name: str = "Wing") -> int:
    of = sheet(caller)
    status, made = caller(
        "post", f"/exposure-sheets/{of['id']}/figure-points", {"version": of["version"], "name": name}
    )
    assert status == 201, made
    return int(made["id"])


def point(caller: Caller) -> Any:
    [only] = sheet(caller)["points"]
    return only


def changed(caller: Caller, **values: Any) -> tuple[int, Any]:
    now = point(caller)
    return caller("patch", f"/figure-points/{now['id']}", {"version": now["version"], **values})


def marked(caller: Caller, exposure: Any, x: float, y: float) -> None:
    now = point(caller)
    body = {"version": now["version"], "exposure_id": exposure["id"], "x": x, "y": y}
    status, made = caller("post", f"/figure-points/{now['id']}/places", body)
    assert status == 201, made


def test_a_point_that_was_marked_once_is_found_again_in_every_frame(crew: Caller, poses):
    point_made(crew)
    first = took(crew, poses[0])
    assert point(crew)["seen"] == []
    start = body_of(poses[0], 1)
    marked(crew, first, *start)
    places = [0, 3, 6, 9]
    for place in places[1:]:
        took(crew, poses[place])
    seen = point(crew)["seen"]
    assert [one["marked"] for one in seen] == [True, False, False, False]
    width, height = sheet(crew)["gate_px"]
    went = 0.0
    for place, one in zip(places, seen, strict=True):
        truth = body_of(poses[0], 2 * place + 1)
        off = (one["x"] - truth[0]) * width, (one["y"] - truth[1]) * height
        went = math.hypot((truth[0] - start[0]) * width, (truth[1] - start[1]) * height)
        assert math.hypot(*off) < max(0.1, 0.05 * went), "px of the delivered frame"
    assert went > 10.0, "it does go"


def test_a_point_off_its_spacing_is_said_with_the_frame_and_by_the_plan_as_it_is_now(crew: Caller, poses):
    point_made(crew, "Beak")
    first = took(crew, poses[0])
    start = body_of(poses[0], 1)
    marked(crew, first, *start)
    there = body_of(poses[0], 41)
    keys = [{"frame": 1, "x": start[0], "y": start[1]}, {"frame": 41, "x": there[0], "y": there[1]}]
    assert changed(crew, keys=keys)[0] == 200
    assert whats(took(crew, poses[20])) == []
    far = sheet(crew)["gate_px"][0] * 0.01
    ahead = [keys[0], {**keys[1], "x": there[0] + 0.01}]
    assert changed(crew, keys=ahead)[0] == 200
    made = took(crew, poses[20], 1)
    assert ("spacing", "last") in whats(made) and ("path", "first") in whats(made)
    told = {one["what"]: one for one in made["watched"]["warnings"]}
    assert told["spacing"]["amount"] == pytest.approx(far, abs=1.0)
    assert told["spacing"]["text"].startswith("Beak went") and "mm)" in told["spacing"]["text"]
    # the sheet says so too, until it is planned as it was shot
    shown = [one for one in sheet(crew)["exposures"] if one["chosen"] and one["pose_id"] == poses[20].pk]
    assert {one["what"] for one in shown[0]["watched"]["warnings"]} == {"spacing", "path"}
    assert changed(crew, keys=keys)[0] == 200
    shown = [one for one in sheet(crew)["exposures"] if one["chosen"] and one["pose_id"] == poses[20].pk]
    assert shown[0]["watched"]["warnings"] == []


def test_the_first_frame_off_its_path_is_said_too(crew: Caller, poses):
    point_made(crew)
    first = took(crew, poses[0])
    assert first["watched"] is None
    assert changed(crew, keys=[{"frame": 1, "x": 0.3, "y": 0.5}])[0] == 200
    marked(crew, first, 0.32, 0.5)
    [shown] = sheet(crew)["exposures"]
    assert whats(shown) == [("path", "first")] and shown["watched"]["last"] is None


def test_how_far_the_next_step_goes_is_said_from_where_the_point_is_seen(crew: Caller, poses):
    point_made(crew)
    first = took(crew, poses[0])
    width, _ = sheet(crew)["gate_px"]
    keys = [{"frame": 1, "x": 0.2, "y": 0.5}, {"frame": 101, "x": 0.2 + 1000 / width, "y": 0.5}]
    assert changed(crew, keys=keys)[0] == 200
    step = point(crew)["next"]
    assert (step["place"], round(step["px"], 6)) == (1, 20.0) and "20 right" in step["text"]
    marked(crew, first, 0.2 - 5 / width, 0.5)
    assert point(crew)["next"]["px"] == pytest.approx(25.0)
    assert point(crew)["fastest_px"] == pytest.approx(20.0) and point(crew)["strobing"] == []
    fast = [keys[0], {**keys[1], "frame": 61}]
    assert changed(crew, keys=fast)[0] == 200
    assert point(crew)["strobing"] == list(range(1, 31)), "on twos 33 px a step"


def test_a_foot_that_has_to_stand_says_how_far_it_slid(crew: Caller, poses):
    point_made(crew, "Right toe")
    assert changed(crew, planted=[[1, 5], [7, 9]])[0] == 200
    width, height = sheet(crew)["gate_px"]
    for place, (right, down) in enumerate([(0, 0), (0, 1), (3, 4), (90, 0)]):
        marked(crew, took(crew, poses[place]), 0.3 + right / width, 0.6 + down / height)
    stood, later = point(crew)["slides"]
    assert (stood["px"], stood["verdict"]) == (pytest.approx(5.0), "shows")
    assert stood["mm"] == pytest.approx(5.0 / sheet(crew)["mm_px"])
    assert later["px"] is later["mm"] is later["verdict"] is None
    status, refused = changed(crew, planted=[[9, 4]])
    assert status == 422 and refused["problems"][0]["field"] == "planted"


def test_a_walk_and_a_settling_are_written_into_a_path(crew: Caller, poses):
    point_made(crew, "Right toe")
    walk = {"begins": 17, "step_frames": 24, "steps": 3, "right_px": 60.0, "lift_px": 12.0}
    status, refused = changed(crew, walk=walk)
    assert status == 422 and "first key" in refused["problems"][0]["message"]
    assert changed(crew, keys=[{"frame": 1, "x": 0.25, "y": 0.7}])[0] == 200
    assert changed(crew, walk=walk)[0] == 200
    now = point(crew)
    assert [key["frame"] for key in now["keys"]] == [17, 29, 41, 65, 77, 89]
    assert now["planted"] == [[17, 17], [41, 65], [89, 89]]
    width, _ = sheet(crew)["gate_px"]
    assert now["keys"][-1]["x"] == pytest.approx(0.25 + 120 / width)
    assert changed(crew, settle={"reach_px": 4.0, "poses": 3, "on": 2})[0] == 200
    settled = point(crew)["keys"]
    assert [key["frame"] for key in settled[6:]] == [91, 93, 95]
    assert settled[-1]["x"] == pytest.approx(now["keys"][-1]["x"])
    assert settled[6]["x"] > settled[-1]["x"] > settled[7]["x"]


def test_a_path_that_goes_back_in_time_is_refused_at_its_field(crew: Caller, poses):
    point_made(crew)
    keys = [{"frame": 9, "x": 0.2, "y": 0.5}, {"frame": 9, "x": 0.3, "y": 0.5}]
    status, refused = changed(crew, keys=keys)
    assert status == 422 and refused["problems"][0]["field"] == "keys"
    eased = [{**keys[0], "frame": 1, "eases_out": 0.8}, {**keys[1], "eases_in": 0.3}]
    assert changed(crew, keys=eased)[0] == 422
    assert changed(crew, settle={"reach_px": 4.0, "poses": 3})[0] == 422
    assert point(crew)["keys"] == []


def test_points_and_marks_are_taken_back(crew: Caller, poses, production):
    point_made(crew)
    exposure = took(crew, poses[0])
    marked(crew, exposure, 0.3, 0.6)
    marked(crew, exposure, 0.35, 0.6)
    assert [one["x"] for one in point(crew)["seen"]] == [0.35]
    assert back(crew, production, write=newest(crew, production)["id"])[0] == 200
    assert [one["x"] for one in point(crew)["seen"]] == [0.3]
    assert changed(crew, removed=True)[0] == 200
    assert sheet(crew)["points"] == []
    assert back(crew, production, write=newest(crew, production)["id"])[0] == 200
    assert [one["x"] for one in point(crew)["seen"]] == [0.3]


def test_a_photograph_of_another_sheet_has_no_place_of_this_ones_points(crew: Caller, poses, mill):
    point_made(crew)
    now = point(crew)
    other = crew("post", f"/layers/{mill.pk}/exposure-sheet", {"on": 2})[1]
    made = took(crew, Pose.objects.filter(sheet=other["id"])[0])
    body = {"version": now["version"], "exposure_id": made["id"], "x": 0.5, "y": 0.5}
    status, refused = crew("post", f"/figure-points/{now['id']}/places", body)
    assert status == 422 and refused["problems"][0]["field"] == "exposure_id"
