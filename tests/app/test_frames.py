"""The animator's desk: every exposure kept and shown once, in order; what moved that should not have is said
with the answer.
"""

from __future__ import annotations

import io
from typing import Any

import cv2
import numpy as np
import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from PIL import Image
from skimage import data as photographs

from jungoptic.app.days.from_shots import shots_to_film
from jungoptic.app.frames.models import Exposure, Pose

from .conftest import Caller
from .test_taken_back import back, newest
from .written import Demo

FIRST, SECOND = "2027-10-24T17:00:00Z", "2027-10-24T17:01:10Z"


@pytest.fixture
def poses(production) -> list[Pose]:
    return list(Demo().exposure_sheet().poses.all())


def simulated(caller: Caller, pose: Pose, number: int = 0, **faults: Any) -> bytes:
    asked = "&".join(f"{name}={value}" for name, value in faults.items())
    address = f"/api/exposure-sheets/{pose.sheet_id}/simulated.jpg?frame={2 * pose.place + 1}&number={number}"
    answer = caller.client.get(f"{address}&width=960&{asked}")
    assert (answer.status_code, answer["Content-Type"]) == (200, "image/jpeg")
    return bytes(answer.content)


def sent(caller: Caller, pose: Pose, data: bytes, key: str = "", **more: Any) -> tuple[int, Any]:
    headers = {"Idempotency-Key": key} if key else {}
    body = {"file": SimpleUploadedFile("frame.jpg", data), **more}
    answer = caller.client.post(f"/api/poses/{pose.pk}/exposures", body, headers=headers)
    return answer.status_code, answer.json()


def took(caller: Caller, pose: Pose, number: int = 0, **faults: Any) -> Any:
    status, made = sent(caller, pose, simulated(caller, pose, number, **faults))
    assert status == 201, made
    return made


def sheet(caller: Caller) -> Any:
    return caller("get", f"/exposure-sheets/{Demo().exposure_sheet().pk}")[1]


def whats(made: Any) -> list[tuple[str, str]]:
    return [(one["what"], one["since"]) for one in made["watched"]["warnings"]]


def test_a_sheet_is_as_long_as_its_shot_and_a_layer_has_one(crew: Caller, mill, shot):
    status, made = crew("post", f"/layers/{mill.pk}/exposure-sheet", {"on": 3})
    assert status == 201
    assert sum(one["hold"] for one in made["poses"]) == made["length_frames"] == shot.length_frames
    assert [one["frame"] for one in made["poses"]][:3] == [1, 4, 7]
    assert crew("post", f"/layers/{mill.pk}/exposure-sheet", {"on": 2})[0] == 422
    listed = crew("get", f"/productions/{shot.production_id}/frames")[1]["sheets"]
    assert {(one["layer"], one["sheet_id"] is not None) for one in listed} == {
        ("Mill 1:12", True),
        ("Heron 1:4", True),
        ("Pond", True),
    }
    assert crew("post", f"/layers/{mill.pk}/exposure-sheet", {"on": 0})[0] == 422


def test_good_frames_say_nothing_and_each_fault_is_said_with_its_answer(crew: Caller, poses):
    assert took(crew, poses[0])["watched"] is None
    for number in (1, 2):
        made = took(crew, poses[number])
        assert whats(made) == []
        assert made["watched"]["last"]["camera_px"] < 0.15
    nudged = took(crew, poses[3], nudge_px=0.6)
    assert whats(nudged) == [("camera", "last")]
    assert nudged["watched"]["last"]["right_px"] == pytest.approx(0.6, abs=0.1)
    assert nudged["watched"]["warnings"][0]["verdict"] in ("tight", "shows")
    assert whats(took(crew, poses[3], 1, bounce_stops=0.08)) == [("side", "last")]
    lit = took(crew, poses[3], 2, lighter_stops=0.05)
    assert whats(lit) == [("light", "last")]
    assert lit["watched"]["last"]["stops"] == pytest.approx(0.05, abs=0.005)
    hand = took(crew, poses[3], 3, hand="true")
    assert ("left", "last") in whats(hand)
    left = next(one for one in hand["watched"]["warnings"] if one["what"] == "left")
    assert left["box"][0] < 0.05 and "reaches in" in left["text"]
    # put right, nothing is said any more, and all that was taken is there
    assert whats(took(crew, poses[3], 4)) == []
    assert len([one for one in sheet(crew)["exposures"] if one["pose_id"] == poses[3].pk]) == 5


def test_the_next_block_is_held_against_its_own_first_frame(crew: Caller, poses):
    for number in range(2):
        took(crew, poses[number])
    assert crew("patch", f"/poses/{poses[2].pk}", {"version": 1, "begins_block": True})[0] == 200
    rebuilt = took(crew, poses[2], nudge_px=1.0)
    assert whats(rebuilt) == [("camera", "last")] and rebuilt["watched"]["first"] is None
    after = took(crew, poses[3], nudge_px=1.0)
    assert whats(after) == [] and after["watched"]["first"]["camera_px"] < 0.15


def test_shot_again_nothing_is_lost_and_any_of_them_can_be_shown(crew: Caller, poses, production):
    pose = poses[0]
    first, second = took(crew, pose, 0), took(crew, pose, 1)

    def shown() -> dict[int, bool]:
        return {one["id"]: one["chosen"] for one in sheet(crew)["exposures"]}

    assert shown() == {first["id"]: False, second["id"]: True}
    version = Exposure.objects.get(pk=first["id"]).version
    assert crew("patch", f"/exposures/{first['id']}", {"version": version, "chosen": True})[0] == 200
    assert shown() == {first["id"]: True, second["id"]: False}
    assert crew("patch", f"/exposures/{first['id']}", {"version": version, "removed": True})[0] == 409
    assert crew("patch", f"/exposures/{first['id']}", {"version": version + 1, "removed": True})[0] == 200
    assert shown() == {second["id"]: True}  # the newest that is left stands in
    assert back(crew, production, write=newest(crew, production)["id"])[0] == 200
    assert shown() == {first["id"]: True, second["id"]: False}
    assert crew("patch", f"/exposures/{first['id']}", {"version": 9})[0] == 422
    whole = crew.client.get(f"/api/exposures/{first['id']}.jpg")
    small = crew.client.get(f"/api/exposures/{first['id']}.jpg?width=640")
    middle = crew.client.get(f"/api/exposures/{first['id']}.jpg?width=800")
    answers: list[Any] = [whole, small, middle]
    read = [b"".join(one) if one.streaming else one.content for one in answers]
    assert len(read[1]) < len(read[0]) and len({*read}) == 3


def test_sent_twice_it_is_kept_once_and_stays_in_order(crew: Caller, poses):
    data = simulated(crew, poses[0])
    for number, at in enumerate((FIRST, SECOND)):
        key = f"frame-{number}"
        made = sent(crew, poses[number], data, key, taken_at=at)
        assert made == sent(crew, poses[number], data, key, taken_at=at)
    found = sheet(crew)
    assert [one["pose_id"] for one in found["exposures"]] == [poses[0].pk, poses[1].pk]
    assert found["pace"] is None  # nobody knows a pace by two frames


def test_the_pace_is_told_by_when_frames_were_taken(crew: Caller, poses):
    data = simulated(crew, poses[0])
    for number in range(4):
        status, _ = sent(crew, poses[number], data, taken_at=f"2027-10-24T17:{number:02d}:30Z")
        assert status == 201
    pace = sheet(crew)["pace"]
    assert pace["frame_s"] == pytest.approx(60.0)
    assert pace["s_per_hour"] == pytest.approx(60 * 2 / 24)
    assert pace["left_h"] == pytest.approx((len(poses) - 4) / 60)


def test_the_pace_as_it_is_goes_to_days_and_costs_when_somebody_says_so(
    crew: Caller, supervisor: Caller, poses, production, mill
):
    of = f"/productions/{production.pk}"
    assert crew("post", f"/layers/{mill.pk}/exposure-sheet", {"on": 2})[0] == 201
    before = crew("get", f"{of}/frames")[1]
    assert before["s_per_hour"] is None and before["planned_s_per_hour"] == 2.5
    # who carries a camera goes by the metronome
    animated = [one for one in before["sheets"] if not one["hyperlapse"]]
    rate, lengths = before["rate_fps"], {one["code"]: one["poses"] * 2 for one in animated}
    assert before["left_h"] == pytest.approx(sum(lengths.values()) / rate / 2.5)
    for number in range(4):
        sent(crew, poses[number], simulated(crew, poses[number]), taken_at=f"2027-10-24T17:0{number}:00Z")
    now = crew("get", f"{of}/frames")[1]
    assert now["s_per_hour"] == pytest.approx(60 * 2 / rate)
    # the mill, of which nothing is taken, goes on at the Heron's pace
    assert now["left_h"] == pytest.approx((sum(lengths.values()) - 8) / rate / now["s_per_hour"])
    body = {"version": now["figures_version"], "changes": {"seconds_per_hour": 5.0}}
    assert crew("patch", f"{of}/figures", body)[0] == 403
    assert supervisor("patch", f"{of}/figures", body)[0] == 200
    assert crew("get", f"{of}/frames")[1]["planned_s_per_hour"] == 5.0
    assert {one.seconds_per_hour for one in shots_to_film(production)} == {5.0}


@pytest.mark.parametrize("what", ["text", "tiny", "nothing", "year"])
def test_what_is_no_frame_is_refused_at_its_field(crew: Caller, poses, what: str):
    pose = poses[0]
    good = simulated(crew, pose)
    if what == "nothing":
        answer = crew.client.post(f"/api/poses/{pose.pk}/exposures", {})
        status, said = answer.status_code, answer.json()
    elif what == "year":
        status, said = sent(crew, pose, good, taken_at="0001-01-01T00:00:00Z")
    else:
        png = Demo().png().read() if what == "tiny" else b"no picture"
        status, said = sent(crew, pose, png)
    assert (status, said["problems"][0]["field"]) == (422, "taken_at" if what == "year" else "file")
    assert not Exposure.objects.exists()


def test_a_frame_of_another_picture_is_kept_and_said_to_be_one(crew: Caller, poses):
    took(crew, poses[0])
    status, made = sent(crew, poses[1], Demo().frame().read())
    assert status == 201
    assert whats(made) == [("lost", "last")]
    assert made["watched"]["warnings"][0]["amount"] is None


def span(caller: Caller, first: Pose, last: Pose, how: str, on: int = 2) -> tuple[int, Any]:
    body = {"version": sheet(caller)["version"], "first": first.pk, "last": last.pk, "how": how, "on": on}
    return caller("post", f"/exposure-sheets/{first.sheet_id}/span", body)


def test_lines_come_in_and_go_and_what_stays_keeps_its_place(crew: Caller, poses, production, mill):
    before = [one["id"] for one in sheet(crew)["poses"]]
    address = f"/exposure-sheets/{poses[0].sheet_id}/poses"
    added = []
    for number in range(20):  # halved sixteen times there is no room left: the ranks go apart, nothing moves
        version = sheet(crew)["version"]
        status, made = crew("post", address, {"version": version, "after": poses[4].pk, "hold": number + 1})
        assert status == 201
        added.append(made["id"])
        assert crew("post", address, {"version": version, "after": poses[4].pk})[0] == 409
    found = sheet(crew)["poses"]
    assert [one["id"] for one in found] == [*before[:5], *reversed(added), *before[5:]]
    assert [one["place"] for one in found] == [*range(len(before) + 20)]
    assert [one["hold"] for one in found[5:25]] == [*range(20, 0, -1)]
    assert crew("post", address, {"version": sheet(crew)["version"]})[0] == 201  # before the first
    assert sheet(crew)["poses"][1]["id"] == before[0]
    # left out with what was photographed of it, and back again
    made = took(crew, poses[1])
    assert span(crew, poses[1], poses[3], "left_out")[0] == 200
    left = [one["id"] for one in sheet(crew)["poses"]]
    assert not {poses[1].pk, poses[2].pk, poses[3].pk} & {*left} and sheet(crew)["exposures"] == []
    assert back(crew, production, write=newest(crew, production)["id"])[0] == 200
    assert [one["id"] for one in sheet(crew)["exposures"]] == [made["id"]]
    ends = [Pose.objects.get(pk=sheet(crew)["poses"][at]["id"]) for at in (0, -1)]
    assert span(crew, *ends, "left_out")[0] == 422
    other = crew("post", f"/layers/{mill.pk}/exposure-sheet", {})[1]["poses"][0]["id"]
    assert crew("post", address, {"version": sheet(crew)["version"], "after": other})[0] == 422


def test_a_span_on_ones_is_as_long_as_it_was_and_goes_back(crew: Caller, poses, production):
    length = sheet(crew)["length_frames"]
    assert span(crew, poses[10], poses[13], "regrouped", 1)[0] == 200
    found = sheet(crew)["poses"]
    assert [one["hold"] for one in found[9:19]] == [2, *[1] * 8, 2]
    assert sum(one["hold"] for one in found) == length
    assert [one["id"] for one in found[10:18:2]] == [pose.pk for pose in poses[10:14]]
    assert back(crew, production, write=newest(crew, production)["id"])[0] == 200
    assert [one["hold"] for one in sheet(crew)["poses"]] == [2] * len(poses)
    # on fours half of them are left out: never the keys, never what was photographed
    key = sheet(crew)["poses"][16]
    assert key["key"]
    assert span(crew, poses[15], poses[18], "regrouped", 4)[0] == 200
    assert [one["id"] for one in sheet(crew)["poses"][15:17]] == [poses[16].pk, poses[17].pk]
    for number in range(2):
        took(crew, poses[number])
    status, said = span(crew, poses[0], poses[3], "regrouped", 4)
    assert (status, said["problems"][0]["field"]) == (422, "on")
    assert span(crew, poses[3], poses[0], "held", 3)[0] == 200  # from either end
    assert [one["hold"] for one in sheet(crew)["poses"][:5]] == [3, 3, 3, 3, 2]


def test_what_is_photographed_of_a_line_that_was_left_out_brings_it_back(crew: Caller, poses):
    data = simulated(crew, poses[5])
    assert span(crew, poses[5], poses[5], "left_out")[0] == 200
    assert sent(crew, poses[5], data)[0] == 201
    assert sheet(crew)["poses"][5]["id"] == poses[5].pk


def test_each_pass_is_held_against_itself_and_one_of_each_is_shown(crew: Caller, poses, production):
    address = f"/exposure-sheets/{poses[0].sheet_id}"
    said = {"version": sheet(crew)["version"], "passes": ["front light", "matte"], "passes_alternate": True}
    assert crew("patch", address, said)[0] == 200
    named = newest(crew, production)["id"]
    assert (sheet(crew)["passes"], sheet(crew)["passes_alternate"]) == (["front light", "matte"], True)
    front, back_lit = simulated(crew, poses[0]), simulated(crew, poses[0], 1, lighter_stops=-1.5)

    def took_pass(place: int, number: int, data: bytes) -> Any:
        status, made = sent(crew, poses[place], data, light_pass=number)
        assert status == 201 and made["light_pass"] == number
        return made

    for place in range(2):
        rows = [took_pass(place, 0, front), took_pass(place, 1, back_lit)]
        # a stop and a half darker than the other pass of the pose, and as the same pass of the one before
        assert all(one["watched"] is None or one["watched"]["warnings"] == [] for one in rows)
        assert all((one["watched"] is not None) == (place > 0) for one in rows)
    assert whats(took_pass(1, 1, front)) == [("light", "last")]
    shown = {(one["pose_id"], one["light_pass"]) for one in sheet(crew)["exposures"] if one["chosen"]}
    assert shown == {(poses[place].pk, number) for place in range(2) for number in range(2)}
    assert len(sheet(crew)["exposures"]) == 5
    # the pose is done, and the crank turned, when both passes are there
    took_pass(2, 0, front)
    listed = crew("get", f"/productions/{Demo().production.pk}/frames")[1]["sheets"]
    assert [one["taken"] for one in listed if one["sheet_id"]] == [3, 0]
    assert sent(crew, poses[2], front, light_pass=2)[0] == 422
    status, told = crew("patch", address, {"version": sheet(crew)["version"], "passes": []})
    assert status == 422 and "take them away first" in told["problems"][0]["message"]
    status, told = back(crew, production, write=named)  # nor by taking it back
    assert status == 422 and "take them away first" in told["problems"][0]["message"]


def test_a_marked_piece_has_to_stand(crew: Caller, poses):
    light = np.repeat(cv2.resize(photographs.gravel(), (960, 960))[:540, :, None], 3, axis=2)
    moved = light.copy()
    moved[300:420, 703:823] = light[300:420, 700:820]

    def jpeg(picture: np.ndarray) -> bytes:
        out = io.BytesIO()
        Image.fromarray(picture).save(out, "JPEG", quality=95)
        return out.getvalue()

    address = f"/exposure-sheets/{poses[0].sheet_id}/pieces"
    box = [705 / 960, 305 / 540, 815 / 960, 415 / 540]
    assert crew("post", address, {"version": 1, "name": "Bollard", "box": box})[0] == 201
    [piece] = sheet(crew)["pieces"]
    assert sent(crew, poses[0], jpeg(light))[0] == 201
    assert ("piece", "first") not in whats(sent(crew, poses[1], jpeg(light))[1])
    warned = sent(crew, poses[1], jpeg(moved))[1]
    said = next(one for one in warned["watched"]["warnings"] if one["what"] == "piece")
    assert said["text"].startswith("Bollard moved by") and said["amount"] > 2
    assert crew("patch", f"/set-pieces/{piece['id']}", {"version": 1, "removed": True})[0] == 200
    assert ("piece", "first") not in whats(sent(crew, poses[1], jpeg(moved))[1])
    for wrong in ([0.2, 0.1, 0.1, 0.4], [0.1, 0.1, 0.11, 0.4], [0.1, 0.1, 1.4, 0.4]):
        status, told = crew("post", address, {"version": 1, "name": "Bollard", "box": wrong})
        assert status == 422 and "box" in told["problems"][0]["field"]


def test_a_guest_looks_and_takes_nothing(guest: Caller, crew: Caller, poses):
    took(crew, poses[0])
    assert len(sheet(guest)["exposures"]) == 1
    assert sent(guest, poses[1], Demo().frame().read())[0] == 403
    assert guest("patch", f"/poses/{poses[0].pk}", {"version": 1, "note": "no"})[0] == 403


def rig_of(caller: Caller, number: int = 0) -> Any:
    return sheet(caller)["rigs"][number]


def test_the_track_says_how_it_is_turned_and_where_it_stands_after_a_break(crew: Caller, poses):
    rig = rig_of(crew)
    assert rig["mm_per_turn"] == pytest.approx(0.4) and rig["next"] is None  # it stands for the first pose
    assert rig["positions"][-1] == 3 * 75 / 0.4 * 10 and len(rig["positions"]) == len(poses)
    assert rig["off_px"] < 0.1
    # its first step begins at frame 17, the ninth pose: behind that it is turned for the first time
    for number in range(9):
        took(crew, poses[number])
    upcoming = rig_of(crew)["next"]
    assert upcoming["place"] == 9 and upcoming["by"] == rig["positions"][9] - rig["positions"][0] > 0
    assert upcoming["beyond"] == 0 and "turn" in upcoming["text"]
    status, _ = crew("patch", f"/rigs/{rig['id']}", {"version": rig["version"], "stands": upcoming["to"]})
    assert status == 200 and rig_of(crew)["next"] is None
    # somebody turned it too far: back, beyond, and forwards again
    status, _ = crew("patch", f"/rigs/{rig['id']}", {"version": 2, "stands": upcoming["to"] + 7})
    assert status == 200
    back_again = rig_of(crew)["next"]
    assert (back_again["by"], back_again["beyond"]) == (-7, 5)
    assert back_again["text"] == "1 turn and 2 tenths back, then 5 tenths forwards"


def test_a_rig_is_typed_in_as_teeth_and_what_does_not_turn_is_refused_at_its_field(crew: Caller, poses):
    address = f"/exposure-sheets/{poses[0].sheet_id}/rigs"
    legs = [{"mm": 50.0, "start_frame": 1, "end_frame": 25, "ease_in_frames": 6, "ease_out_frames": 6}]
    body = {"version": 1, "name": "Crane", "lead_mm": 1.5, "gears": [[20, 40], [15, 45]], "marks": 12}
    assert crew("post", address, {**body, "legs": legs})[0] == 201
    assert rig_of(crew, 1)["mm_per_turn"] == pytest.approx(0.25)
    assert rig_of(crew, 1)["fastest_px"] > 0
    for wrong in (
        {"gears": [[0, 40]]},
        {"lead_mm": 0},
        {"marks": 0},
        {"legs": [{**legs[0], "end_frame": 1}]},
    ):
        status, said = crew("post", address, {**body, **wrong})
        assert status == 422 and next(iter(wrong)) in said["problems"][0]["field"]
    assert crew("post", address, {**body, "version": 9})[0] == 409
