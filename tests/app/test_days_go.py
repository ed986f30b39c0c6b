"""The days as they go: the log drives them, what slips is told, what is over is over."""

from __future__ import annotations

from typing import Any

import pytest

from jungoptic.app.demo.days import film_days
from jungoptic.app.people.models import Person
from jungoptic.app.productions.models import Production
from jungoptic.app.shots.models import Layer, SetUp

from .conftest import Caller, a_key
from .test_days import DATES, add, book, days, plan, say


def at(day: str, clock: str) -> str:
    return f"{day}T{clock}:00+01:00"


def shooting_day(caller: Caller, production: Production, day: str) -> Any:
    status, found = caller("get", f"/productions/{production.pk}/shooting-days/{day}")
    assert status == 200, found
    return found


@pytest.fixture
def booked(supervisor: Caller, production: Production) -> dict[str, Any]:
    """The demo's first day with jobs as it is planned, by job."""
    board = days(supervisor, production)
    first = next(day for day in board["days"] if len(day["slots"]) > 2)
    assert not first["over"] and first["now_min"] is None
    return first  # type: ignore[no-any-return]


def roll(caller: Caller, job: str, day: str, clock: str, circled: bool = False) -> None:
    """Takes of everything that a set-up films."""
    for layer in Layer.objects.filter(set_up=SetUp.objects.get(pk=int(job)), removed=False):
        caller.take(layer, recorded_at=at(day, clock), circled=circled)


def clock(minutes: int) -> str:
    return f"{minutes // 60:02}:{minutes % 60:02}"


def test_a_day_goes_as_its_takes_are_logged(
    supervisor: Caller, crew: Caller, production: Production, booked: dict[str, Any]
):
    first, second, third = sorted(booked["slots"], key=lambda slot: slot["start_min"])[:3]
    date = booked["date"]
    # the first job rolls an hour late, and goes on
    roll(crew, first["job"], date, clock(first["takes_from_min"] + 60))
    found = shooting_day(supervisor, production, date)
    slots = {slot["job"]: slot for slot in found["day"]["slots"]}
    assert found["day"]["now_min"] == first["takes_from_min"] + 60
    assert (slots[first["job"]]["state"], slots[first["job"]]["late_min"]) == ("running", 60)
    assert (
        slots[second["job"]]["state"] == "next"
        and slots[second["job"]]["late_min"] >= 60 - second["idle_min"]
    )
    assert slots[second["job"]]["start_min"] == second["start_min"] + slots[second["job"]]["late_min"]
    # circled: done, and what it needed has its length
    roll(crew, first["job"], date, clock(first["takes_to_min"] + 90), circled=True)
    slots = {slot["job"]: slot for slot in shooting_day(supervisor, production, date)["day"]["slots"]}
    assert (slots[first["job"]]["state"], slots[first["job"]]["takes_to_min"]) == (
        "done",
        first["takes_to_min"] + 90,
    )
    assert slots[third["job"]]["late_min"] > 0
    # the board says the same, and stays as planned from
    board = days(supervisor, production)
    today = next(day for day in board["days"] if day["date"] == date)
    assert today["late_min"] > 0 and {slot["job"]: slot for slot in today["slots"]} == slots
    assert {job["key"] for job in board["jobs"] if job["filmed"]} == {first["job"]}


def test_what_no_longer_fits_is_told_with_what_to_drop(
    supervisor: Caller, crew: Caller, production: Production, booked: dict[str, Any]
):
    slots = sorted(booked["slots"], key=lambda slot: slot["start_min"])
    roll(crew, slots[0]["job"], booked["date"], "15:30")
    found = shooting_day(supervisor, production, booked["date"])
    assert found["breaks"] and found["drop"] is not None
    assert set(found["drop"]["jobs"]) <= {slot["job"] for slot in slots[1:]}
    assert found["drop"]["sentence"].startswith("Without ") and "the rest fits" in found["drop"]["sentence"]


def test_a_trial_on_the_day_that_is_under_way_says_what_the_board_will(
    supervisor: Caller, crew: Caller, production: Production, booked: dict[str, Any]
):
    slots = sorted(booked["slots"], key=lambda slot: slot["start_min"])
    roll(crew, slots[0]["job"], booked["date"], "14:00")
    row = {
        "set_up_id": int(slots[-1]["job"]),
        "date": booked["date"],
        "start_min": slots[-1]["start_min"] - 60,
    }
    body = {"bookings": [row]}
    status, tried = supervisor("post", f"/productions/{production.pk}/days-tried", body)
    assert status == 200 and tried["breaks"]
    version = next(
        own["version"]
        for own in days(supervisor, production)["bookings"]
        if own["job"] == str(row["set_up_id"])
    )
    assert book(supervisor, production, {**row, "version": version})[0] == 200
    board = days(supervisor, production)
    assert (tried["breaks"], tried["days"]) == (board["breaks"], board["days"])


def test_it_rains_on_no_day_that_there_is_not(supervisor: Caller, production: Production):
    body = {"again": True, "rains_on": "2027-12-24"}
    status, answer = supervisor("post", f"/productions/{production.pk}/days-plan", body, key=a_key())
    assert status == 422 and answer["problems"][0]["field"] == "rains_on"


def test_what_slips_from_a_day_that_is_wrapped_is_on_no_day_and_planned_again(
    supervisor: Caller, crew: Caller, production: Production, booked: dict[str, Any]
):
    slots = sorted(booked["slots"], key=lambda slot: slot["start_min"])
    assert days(supervisor, production)["costs"]["fewest_days"] > 0
    date, rest = booked["date"], {slot["job"] for slot in slots[1:]}
    roll(crew, slots[0]["job"], date, clock(slots[0]["takes_from_min"]), circled=True)
    assert not days(supervisor, production)["stale"]
    assert say(supervisor, production, "day", booked["id"], wrapped=True)[0] == 200
    board = days(supervisor, production)
    assert {job["key"]: job["slipped_from"] for job in board["jobs"] if job["key"] in rest} == dict.fromkeys(
        rest, date
    )
    # what was proven was proven of all of them
    assert rest <= set(board["unplaced"]) and board["costs"]["fewest_days"] == 0
    over = next(day for day in board["days"] if day["date"] == date)
    assert over["over"] and [slot["job"] for slot in over["slots"]] == [slots[0]["job"]]
    status, answer = book(supervisor, production, {"set_up_id": int(slots[1]["job"]), "date": date})
    assert status == 422 and "wrapped" in answer["problems"][0]["message"]
    assert plan(supervisor, production, again=True).state == "ready"
    board = days(supervisor, production)
    assert {own["date"] for own in board["bookings"] if own["job"] in rest}.isdisjoint({date})
    # filming is what was meant: nothing it was planned from has changed
    assert not board["stale"] and board["breaks"] == []
    assert 0 < board["costs"]["fewest_days"] <= board["costs"]["days"]


def test_a_night_belongs_to_the_day_before(
    supervisor: Caller, crew: Caller, production: Production, booked: dict[str, Any]
):
    job = booked["slots"][0]["job"]
    roll(crew, job, "2027-10-17", "00:30", circled=True)
    slots = shooting_day(supervisor, production, DATES[0])["day"]["slots"]
    assert next(slot for slot in slots if slot["job"] == job)["takes_from_min"] == 24 * 60 + 30


def test_a_gap_is_filled_with_what_stands_nearest(
    supervisor: Caller, crew: Caller, production: Production, booked: dict[str, Any]
):
    slots = sorted(booked["slots"], key=lambda slot: slot["start_min"])
    for slot in slots[1:]:
        row = {"set_up_id": int(slot["job"]), "date": None}
        version = next(own for own in days(supervisor, production)["bookings"] if own["job"] == slot["job"])
        assert book(supervisor, production, {**row, "version": version["version"]})[0] == 200
    roll(crew, slots[0]["job"], booked["date"], clock(slots[0]["takes_from_min"]), circled=True)
    found = shooting_day(supervisor, production, booked["date"])
    assert slots[1]["job"] in [filler["job"] for filler in found["fillers"]]
    changes = [filler["change_min"] for filler in found["fillers"]]
    assert changes == sorted(changes)


def test_only_a_shooting_day_is_asked_for(supervisor: Caller, production: Production):
    status, answer = supervisor("get", f"/productions/{production.pk}/shooting-days/2027-12-24")
    assert status == 422 and answer["problems"][0]["field"] == "day"
    assert add(supervisor, production, "day", date="2027-12-24")[0] == 201
    found = shooting_day(supervisor, production, "2027-12-24")
    assert found["before"] == DATES[-1] and found["after"] is None and found["day"]["slots"] == []
    assert {own["kind"] for own in found["light"]} == {"day", "golden", "twilight"}


def test_the_demo_has_a_day_that_slipped_and_one_that_is_rained_off(
    supervisor: Caller, production: Production
):
    film_days(production, *(Person.objects.get(username=name) for name in ("supervisor", "camera")))
    board = days(supervisor, production)
    slipped, rained, *others = board["days"]
    assert slipped["wrapped"] and {slot["state"] for slot in slipped["slots"]} == {"done"}
    assert any(slot["late_min"] >= 30 for slot in slipped["slots"])
    outdoors = {job["key"] for job in board["jobs"] if job["outdoors"]}
    assert rained["rained_from_min"] == 0 and not {slot["job"] for slot in rained["slots"]} & outdoors
    assert board["unplaced"] == [] and board["breaks"] == [] and not board["stale"]
    assert {slot["job"] for day in others for slot in day["slots"]} & outdoors


def test_the_outlook_follows_the_pace_and_says_what_a_cut_would_do(
    supervisor: Caller, crew: Caller, production: Production, booked: dict[str, Any]
):
    status, before = supervisor("get", f"/productions/{production.pk}/outlook")
    assert status == 200 and before["paces"] == 0 and before["pending"] == 0
    end = before["end"]
    assert end["early"] <= end["likely"] <= end["late"]
    assert before["helped"]["likely"] <= end["likely"] and before["without"]["likely"] <= end["likely"]
    assert "set" not in before["hours_left"] and before["dearest"].startswith("TM")
    # the first job takes three times as long as planned
    slot = min(booked["slots"], key=lambda slot: slot["start_min"])
    roll(crew, slot["job"], booked["date"], clock(slot["takes_from_min"]))
    late = slot["takes_from_min"] + 3 * (slot["takes_to_min"] - slot["takes_from_min"])
    roll(crew, slot["job"], booked["date"], clock(late), circled=True)
    _, after = supervisor("get", f"/productions/{production.pk}/outlook")
    assert (after["paces"], after["minutes_left"] < before["minutes_left"]) == (1, True)
    assert after["pace"] > before["pace"]


# --- who is there only for so long


def test_a_guest_who_has_been_there_has_less_time_left(
    supervisor: Caller, crew: Caller, production: Production
):
    board = days(supervisor, production)
    (guest,) = board["guests"]
    assert guest["person"] == "Nine friends" and "this is lost: TM" in guest["sentence"]
    day, slots = next(
        (day, slots)
        for day in board["days"]
        if (slots := [slot for slot in day["slots"] if slot["job"] in calls_of(board, "Nine friends")])
    )
    first, length = slots[0], slots[0]["end_min"] - slots[0]["start_min"]
    roll(crew, first["job"], day["date"], clock(first["takes_from_min"]))
    roll(crew, first["job"], day["date"], clock(first["takes_to_min"] + 30), circled=True)
    found = shooting_day(supervisor, production, day["date"])
    # what is filmed cannot be lost any more, and took as long as it did
    (later,) = found["guests"]
    assert len(slots) == 1 and "lost" not in later["sentence"]
    assert later["spare_min"] == pytest.approx(guest["spare_min"] - 30, abs=5)
    # what is planned from now on has only what is left: the same job again would be too long now
    row = next(row for row in board["rows"] if row["name"] == "Nine friends")
    least = length + 30 + 10
    assert say(supervisor, production, "person", row["id"], most_min=least)[0] == 200
    other = next(job for job in board["jobs"] if job["said"] is None and not job["people"][1:])
    said = {"set_up_id": other["set_up_id"], "people": ["Nine friends"]}
    assert add(supervisor, production, "job", **said)[0] == 201
    moved = {"set_up_id": other["set_up_id"], "block": other["block"], "start_min": 11 * 60, "version": 0}
    trial = {"bookings": [{**moved, "date": day["date"]}]}
    tried = supervisor("post", f"/productions/{production.pk}/days-tried", trial)[1]
    assert "than was agreed in all" in str(tried["breaks"])


def calls_of(board: Any, person: str) -> set[str]:
    return {job["key"] for job in board["jobs"] if person in job["people"]}


def test_many_days_are_one_write(supervisor: Caller, production: Production):
    def dates() -> list[str]:
        return [day["date"] for day in days(supervisor, production)["days"]]

    before, more = dates(), ["2027-11-06", "2027-11-07", "2027-11-13"]
    path = f"/productions/{production.pk}/shooting-days"
    assert supervisor("post", path, {"dates": more}, key=a_key())[0] == 201
    assert dates() == [*before, *more]
    status, refused = supervisor("post", path, {"dates": ["2027-11-20", more[0]]}, key=a_key())
    assert status == 422 and "there already" in str(refused) and dates() == [*before, *more]
    newest = supervisor("get", f"/productions/{production.pk}/history?limit=1")[1]["writes"][0]
    back = {"write": newest["id"]}
    assert supervisor("post", f"/productions/{production.pk}/take-back", back, key=a_key())[0] == 200
    assert dates() == before
    all_year = [f"2028-{month:02}-{day:02}" for month in range(1, 13) for day in range(1, 13)]
    assert supervisor("post", path, {"dates": all_year[:120]}, key=a_key())[0] == 422
    assert dates() == before and supervisor("post", path, {"dates": all_year[:114]}, key=a_key())[0] == 201
    status, refused = supervisor("post", path, {"dates": ["2028-12-31"]}, key=a_key())
    assert status == 422 and "120 already" in str(refused)
