"""A rig's crank turned by its motor: as it is said, slack taken up; where it is stopped or stalls, where it
came to is known.
"""

from __future__ import annotations

import time
from typing import Any, ClassVar

import pytest

from jungoptic.app.devices.protocols import DeviceError
from jungoptic.app.devices.simulated import SimulatedRig
from jungoptic.app.frames import turning
from jungoptic.app.frames.models import Rig
from jungoptic.app.jobs.models import Job
from jungoptic.app.jobs.work import begin, carry_out
from tests.jobs import done

from .conftest import Caller
from .test_frames import poses, rig_of
from .test_taken_back import back, newest
from .written import Demo

__all__ = ["poses"]


class Recorded(SimulatedRig):
    """A rig that tells where it was sent, and in how long; it stalls where it is told to."""

    sent: ClassVar[list[tuple[float, float]]] = []
    stalls_deg: ClassVar[float] = 1e9

    def move_to(self, positions: Any, duration_s: float) -> None:
        if positions[turning.CRANK] > self.stalls_deg:
            raise DeviceError("The motor stalled.")
        self.sent.append((positions[turning.CRANK], duration_s))
        super().move_to(positions, duration_s)


@pytest.fixture
def track(production, settings) -> Rig:
    settings.DEVICES = {**settings.DEVICES, "rig": f"{__name__}.{Recorded.__name__}"}
    Recorded.sent.clear()
    row = Demo().rig()
    Rig.objects.filter(pk=row.pk).update(driven=True)
    return Rig.objects.get(pk=row.pk)


def asked(crew: Caller, rig: Rig, to: int) -> int:
    status, job = crew("post", f"/rigs/{rig.pk}/turns", {"version": rig.version, "to": to})
    assert status == 202, job
    return int(job["id"])


def test_a_motor_turns_to_where_the_next_pose_wants_it(crew: Caller, track: Rig, production):
    ended = done(asked(crew, track, 12))
    assert (ended.state, ended.message) == ("ready", "It stands at 1 turn and 2 tenths.")
    assert Recorded.sent == [(pytest.approx(1.2 * 360), pytest.approx(1.2 * 360 / 720))]
    rig = rig_of(crew)
    assert (rig["stands"], rig["driven"]) == (12, True)
    # back: beyond, and forwards again, as by hand
    Recorded.sent.clear()
    track.refresh_from_db()
    assert done(asked(crew, track, 5)).state == "ready"
    assert [to for to, _ in Recorded.sent] == pytest.approx([-1.2 * 360, -0.7 * 360])
    assert rig_of(crew)["stands"] == 5
    assert newest(crew, production)["title"].startswith("Track under the Heron turned")
    assert back(crew, production, write=newest(crew, production)["id"])[0] == 200
    assert rig_of(crew)["stands"] == 12


def test_stopped_it_halts_and_where_it_came_to_is_written_down(
    crew: Caller, track: Rig, monkeypatch: pytest.MonkeyPatch
):
    job = asked(crew, track, 60)
    rest = time.sleep

    def rested(seconds: float) -> None:
        rest(0.5)
        Job.objects.filter(pk=job).update(state=Job.State.STOPPED)

    monkeypatch.setattr(turning.time, "sleep", rested)
    assert done(job).state == "stopped"
    monkeypatch.undo()
    came = rig_of(crew)["stands"]
    assert 8 <= came < 40
    rest(0.2)
    assert rig_of(crew)["stands"] == came


def test_a_motor_that_stalls_says_so_and_where_it_stands(
    crew: Caller, track: Rig, monkeypatch: pytest.MonkeyPatch
):
    Rig.objects.filter(pk=track.pk).update(stands=20)
    track.refresh_from_db()
    monkeypatch.setattr(Recorded, "stalls_deg", -600.0)
    ended = done(asked(crew, track, 5))  # two turns back, then half a turn that does not come
    assert ended.state == "failed"
    assert ended.message == "The motor stalled. It stands at no turn."
    assert rig_of(crew)["stands"] == 0


def test_what_was_interrupted_is_not_turned_once_more(crew: Caller, track: Rig):
    job = asked(crew, track, 12)
    begin(job)
    again = begin(job)
    assert again is not None
    carry_out(again)
    ended = Job.objects.get(pk=job)
    assert ended.state == "failed" and "read its marks" in ended.message
    seen = rig_of(crew)
    assert Recorded.sent == [] and seen["stands"] == 0 and seen["turn"]["message"] == ended.message
    # nor by anybody else, until somebody says where it stands, were it where it stood
    body = {"version": seen["version"], "to": 12}
    status, said = crew("post", f"/rigs/{track.pk}/turns", body)
    assert status == 422 and "read its marks" in said["problems"][0]["message"]
    assert crew("patch", f"/rigs/{track.pk}", {"version": seen["version"], "stands": 0})[0] == 200
    assert rig_of(crew)["turn"] is None
    track.refresh_from_db()
    assert done(asked(crew, track, 12)).state == "ready"


def test_what_turns_is_seen_by_whoever_comes_and_is_not_turned_twice(crew: Caller, track: Rig):
    job = asked(crew, track, 12)
    [seen, *_] = crew("get", f"/exposure-sheets/{track.sheet_id}")[1]["rigs"]
    assert seen["turn"]["id"] == job
    status, said = crew("post", f"/rigs/{track.pk}/turns", {"version": track.version, "to": 5})
    assert status == 422 and "turns already" in said["problems"][0]["message"]
    assert done(job).state == "ready" and rig_of(crew)["turn"] is None


def test_a_motor_that_stands_before_it_is_there_is_told(
    crew: Caller, track: Rig, monkeypatch: pytest.MonkeyPatch
):
    monkeypatch.setattr(turning, "LATE_S", 0.0)
    monkeypatch.setattr(Recorded, "positions", lambda self: {turning.CRANK: 0.0})
    ended = done(asked(crew, track, 3))
    assert ended.state == "failed"
    assert ended.message == "The motor did not come to where it was sent. It stands at no turn."


def test_a_rig_that_was_changed_or_has_no_motor_is_not_turned(crew: Caller, track: Rig):
    job = asked(crew, track, 12)
    assert crew("patch", f"/rigs/{track.pk}", {"version": track.version, "stands": 3})[0] == 200
    ended = done(job)
    assert ended.state == "failed" and ended.message.startswith("The rig was changed since")
    now = rig_of(crew)
    assert crew("patch", f"/rigs/{track.pk}", {"version": now["version"], "driven": False})[0] == 200
    body = {"version": now["version"] + 1, "to": 12}
    status, said = crew("post", f"/rigs/{track.pk}/turns", body)
    assert status == 422 and "turn it by hand" in said["problems"][0]["message"]
    assert Recorded.sent == [] and rig_of(crew)["stands"] == 3
