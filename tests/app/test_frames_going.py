"""A camera on its own rig at the desk: the simulated camera stands where the crank was turned, and what it
sees is held against where it should have gone.
"""

from __future__ import annotations

from typing import Any

import pytest

from jungoptic.app.frames.models import Pose, Rig
from jungoptic.app.frames.rigs import plate_answer
from jungoptic.core.example import DELIVERY, HERO, MILL, MODEL
from jungoptic.core.match import Match
from jungoptic.core.motion import Move

from .conftest import Caller
from .test_frames import poses, rig_of, sheet, took, whats

__all__ = ["poses"]
STEP_MM, POSES = 3.0, 6


@pytest.fixture
def rig(crew: Caller, poses: list[Pose]) -> Any:
    """A slide under the camera: as far from pose to pose, from the first on."""
    address = f"/exposure-sheets/{poses[0].sheet_id}/rigs"
    leg = {"mm": STEP_MM * POSES, "start_frame": 1, "end_frame": 2 * POSES + 1}
    leg |= {"ease_in_frames": 0, "ease_out_frames": 0}
    body = {"version": 1, "name": "Slide", "carries": "camera_right", "lead_mm": 1.0, "legs": [leg]}
    status, made = crew("post", address, body)
    assert status == 201
    return made["id"]


def turned(crew: Caller, number: int, marks: int = 0) -> None:
    """Turn the slide as the next pose wants it, and by so many marks more."""
    slide = rig_of(crew, number)
    stands = slide["next"]["to"] + marks
    assert crew("patch", f"/rigs/{slide['id']}", {"version": slide["version"], "stands": stands})[0] == 200


def test_a_camera_that_goes_as_its_crank_is_turned_is_no_warning_and_a_forgotten_turn_is_one(
    crew: Caller, poses, rig
):
    took(crew, poses[0])
    px = sheet(crew)["mm_px"] * STEP_MM
    went = []
    for number in range(1, 4):
        turned(crew, 1)
        made = took(crew, poses[number])
        assert whats(made) == [], made["watched"]
        seen = made["watched"]["last"]
        assert seen["goes_px"] == pytest.approx(px, rel=0.01)
        went.append(seen["went"][0])
    # a floor as far as one sees: most of it stands, and all steps are alike
    assert went == pytest.approx([went[0]] * 3, abs=0.03) and -1.1 < went[0] < -0.1
    forgotten = took(crew, poses[4])
    assert ("camera", "last") in whats(forgotten)
    assert "was its crank turned?" in forgotten["watched"]["warnings"][0]["text"]
    # ten marks too far: a millimetre
    turned(crew, 1, 10)
    far = took(crew, poses[4], 1)
    assert ("camera", "last") in whats(far)
    assert far["watched"]["last"]["right_px"] < 0.5 * went[0] * px / STEP_MM
    assert "Count the turns" in far["watched"]["warnings"][0]["text"]
    # told that it is under the figure, where it went since the last frame is a camera that was knocked
    slide = rig_of(crew, 1)
    assert crew("patch", f"/rigs/{rig}", {"version": slide["version"], "carries": "figure"})[0] == 200
    knocked = took(crew, poses[4], 2, nudge_px=3)["watched"]["warnings"]
    assert any(one["text"].startswith("The camera stands") for one in knocked)


def test_a_way_that_leads_through_what_is_filmed_loses_no_frame(crew: Caller, poses, rig):
    values = {"version": 1, "carries": "camera_forward", "lead_mm": 1000.0}
    assert crew("patch", f"/rigs/{rig}", values)[0] == 200
    row = Rig.objects.get(pk=rig)
    leg = {"mm": 1e5, "start_frame": 1, "end_frame": 2, "ease_in_frames": 0, "ease_out_frames": 0}
    assert crew("patch", f"/rigs/{rig}", {"version": row.version, "legs": [leg]})[0] == 200
    took(crew, poses[0])
    assert took(crew, poses[1])["watched"]["last"] is not None


def test_the_live_plates_move_says_which_way_its_rig_carries(crew: Caller, poses):
    rises = DELIVERY.model_copy(update={"move": Move(kind="boom", amount=0.6, end_frame=48)})
    answer = plate_answer(Match(HERO, MILL, MODEL, rises))
    assert answer["plate_carries"] == "camera_up" and answer["plate_leg"].mm == pytest.approx(50.0)
    turns = DELIVERY.model_copy(update={"move": Move(kind="pan", amount=6.0, end_frame=48)})
    for none in (plate_answer(None), plate_answer(Match(HERO, MILL, MODEL, turns))):
        assert none == {"plate_leg": None, "plate_carries": None}


def test_what_no_rig_carries_is_refused_at_its_field(crew: Caller, poses):
    wrong = {"version": 1, "carries": "the kettle"}
    status, said = crew("post", f"/exposure-sheets/{poses[0].sheet_id}/rigs", wrong)
    assert status == 422 and said["problems"][0]["field"].endswith("carries")
