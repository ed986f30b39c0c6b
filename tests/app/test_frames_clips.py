"""Recordings beside a sheet and beneath it: one a use, of the production's own films, taken back."""

from __future__ import annotations

from typing import Any

import pytest

from jungoptic.app.frames.models import SheetClip

from .conftest import Caller
from .test_frames import sheet
from .test_taken_back import back, newest
from .written import Demo


def laid(caller: Caller, use: str, **more: Any) -> tuple[int, Any]:
    now = sheet(caller)
    body = {"version": now["version"], "use": use, "recording_id": Demo().watched_film().pk, **more}
    return caller("post", f"/exposure-sheets/{now['id']}/clips", body)


def clip(caller: Caller, use: str) -> Any:
    return next((one for one in sheet(caller)["clips"] if one["use"] == use), None)


def test_a_performance_and_a_plate_lie_there_one_of_each(crew: Caller, production):
    film = Demo().watched_film()
    [choice] = sheet(crew)["films"]
    assert (choice["recording_id"], choice["frames"]) == (film.pk, 40)
    assert laid(crew, "performance", first_frame=9)[0] == 201
    assert laid(crew, "plate")[0] == 201
    told = clip(crew, "performance")
    assert (told["first_frame"], told["frames"], told["rate_fps"]) == (9, 40, 25.0)
    assert told["aspect"] == pytest.approx(16 / 9) and clip(crew, "plate")["first_frame"] == 1
    # another one takes its place, and is taken back with that
    assert laid(crew, "performance", first_frame=3)[0] == 201
    assert len(sheet(crew)["clips"]) == 2 and clip(crew, "performance")["first_frame"] == 3
    assert back(crew, production, write=newest(crew, production)["id"])[0] == 200
    assert clip(crew, "performance")["first_frame"] == 9


def test_it_begins_elsewhere_and_is_taken_away(crew: Caller, production):
    laid(crew, "plate")
    now = clip(crew, "plate")
    address = f"/sheet-clips/{now['id']}"
    assert crew("patch", address, {"version": now["version"], "first_frame": 17})[0] == 200
    assert clip(crew, "plate")["first_frame"] == 17
    status, said = crew("patch", address, {"version": now["version"] + 1, "first_frame": 0})
    assert status == 422 and "first_frame" in said["problems"][0]["field"]
    assert crew("patch", address, {"version": now["version"], "removed": True})[0] == 409
    assert crew("patch", address, {"version": now["version"] + 1, "removed": True})[0] == 200
    assert clip(crew, "plate") is None
    assert back(crew, production, write=newest(crew, production)["id"])[0] == 200
    assert clip(crew, "plate")["first_frame"] == 17


def test_what_cannot_be_gone_through_is_refused_at_its_field(crew: Caller, production):
    nobody_looked = Demo().waits().pk
    for wrong in (nobody_looked, 10**6):
        status, said = laid(crew, "plate", recording_id=wrong)
        assert (status, said["problems"][0]["field"]) == (422, "recording_id")
    assert laid(crew, "weather")[0] == 422
    assert not SheetClip.objects.exists()


def test_a_guest_sees_what_lies_there_and_lays_nothing(crew: Caller, guest: Caller, production):
    laid(crew, "plate")
    assert clip(guest, "plate") is not None
    assert laid(guest, "performance")[0] == 403
