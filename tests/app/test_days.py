"""The days of a production: jobs follow the bench, rows are said and taken back, plans are made and moved."""

from __future__ import annotations

from typing import Any

import pytest

from jungoptic.app.days.models import Booked, DaysPlanned, ShootingDay
from jungoptic.app.jobs.models import Job
from jungoptic.app.productions.models import Production
from jungoptic.app.shots.models import Shot
from tests.jobs import done

from .conftest import Caller, a_key

DATES = ("2027-10-16", "2027-10-17", "2027-10-23", "2027-10-24", "2027-10-30", "2027-10-31")


def days(caller: Caller, production: Production) -> Any:
    status, found = caller("get", f"/productions/{production.pk}/days")
    assert status == 200, found
    return found


def add(caller: Caller, production: Production, kind: str, **fields: Any) -> tuple[int, Any]:
    return caller("post", f"/productions/{production.pk}/days/{kind}", {"fields": fields}, key=a_key())


def say(caller: Caller, production: Production, kind: str, row: int, **changes: Any) -> tuple[int, Any]:
    path = f"/productions/{production.pk}/days/{kind}/{row}"
    return caller("patch", path, {"changes": changes}, key=a_key())


def book(caller: Caller, production: Production, *rows: dict[str, Any]) -> tuple[int, Any]:
    return caller("put", f"/productions/{production.pk}/bookings", {"bookings": list(rows)}, key=a_key())


@pytest.fixture
def crewed(production: Production) -> Production:
    """The demo's six days and five people, nothing booked yet."""
    Booked.objects.filter(production=production).delete()
    DaysPlanned.objects.filter(production=production).delete()
    return production


def plan(caller: Caller, production: Production, **how: Any) -> Job:
    status, job = caller("post", f"/productions/{production.pk}/days-plan", how, key=a_key())
    assert status == 202, job
    return done(job["id"])


def test_jobs_follow_from_the_shots_and_from_nothing_else(
    supervisor: Caller, production: Production, shot: Shot
):
    found = days(supervisor, production)
    assert len(found["jobs"]) >= 15
    mine = {job["name"]: job for job in found["jobs"] if job["shots"] == [shot.code]}
    mill = mine["Mill on the table"]
    assert mill["model"] == "Mill 1:12" and mill["before_min"] + mill["takes_min"] + mill["after_min"] == 94
    hero = mine["Quay, evening"]
    order = next(own for own in found["order"] if own["then"] == mill["key"])
    assert order["first"] == hero["key"] and "hero as it was filmed" in order["why"]
    # nothing is typed twice: the set-up gets another name, and so does its job
    shot.set_ups.filter(pk=int(mill["key"])).update(name="Mill, by the window")
    assert "Mill, by the window" in [job["name"] for job in days(supervisor, production)["jobs"]]


def test_what_is_filmed_is_no_job_any_more(supervisor: Caller, crew: Caller, production: Production, mill):
    before = {job["key"] for job in days(supervisor, production)["jobs"]}
    key = str(mill.set_up_id)
    assert key in before
    for layer in mill.shot.layers.filter(set_up=mill.set_up, removed=False):
        take = crew.take(layer)
        assert supervisor("patch", f"/takes/{take['id']}", {"circled": True})[0] == 200
    jobs = days(supervisor, production)["jobs"]
    assert {job["key"] for job in jobs if not job["filmed"]} == before - {key}


def test_the_days_are_planned_kept_and_taken_back(supervisor: Caller, crewed: Production):
    job = plan(supervisor, crewed)
    assert job.state == "ready", job.message
    found = days(supervisor, crewed)
    assert found["unplaced"] == [] and found["breaks"] == [] and not found["stale"]
    costs = found["costs"]
    assert 0 < costs["fewest_days"] <= costs["days"] <= len(DATES)
    used = [day for day in found["days"] if day["slots"]]
    assert len(used) == costs["days"] and all(day["calls"] and day["daylight"] for day in used)
    friends = [call for day in found["days"] for call in day["calls"] if call["person"] == "Nine friends"]
    assert 0 < sum(call["to_min"] - call["from_min"] for call in friends) <= 240
    assert DaysPlanned.objects.get(production=crewed).under_way == []
    newest = supervisor("get", f"/productions/{crewed.pk}/history?limit=1")[1]["writes"][0]
    assert newest["title"] == "Days planned"
    status, answer = supervisor(
        "post", f"/productions/{crewed.pk}/take-back", {"write": newest["id"]}, key=a_key()
    )
    assert status == 200, answer
    assert len(days(supervisor, crewed)["unplaced"]) == len(found["jobs"])


def test_the_best_plan_so_far_is_seen_while_one_is_made(supervisor: Caller, crewed: Production):
    job = days(supervisor, crewed)["jobs"][0]
    so_far = {"job": job["key"], "date": DATES[1], "start": 600, "locked": False}
    DaysPlanned.objects.create(production=crewed, under_way=[so_far])
    assert days(supervisor, crewed)["under_way"] == [], "nothing is under way"
    asked = supervisor("post", f"/productions/{crewed.pk}/days-plan", {}, key=a_key())[1]
    Job.objects.filter(pk=asked["id"]).update(state=Job.State.WORKING)
    seen = days(supervisor, crewed)
    assert [slot["job"] for day in seen["under_way"] for slot in day["slots"]] == [job["key"]]
    assert not any(day["slots"] for day in seen["days"])


def test_a_plan_is_stale_when_the_bench_has_changed(supervisor: Caller, crewed: Production, shot: Shot):
    plan(supervisor, crewed)
    assert not days(supervisor, crewed)["stale"]
    shot.set_ups.filter(name="Mill on the table").update(distance_m=1.2)
    assert days(supervisor, crewed)["stale"]


def test_what_cannot_be_is_left_out_and_it_is_said_why(supervisor: Caller, crewed: Production, mill):
    friends = next(row for row in days(supervisor, crewed)["rows"] if row["name"] == "Nine friends")
    assert say(supervisor, crewed, "person", friends["id"], most_min=30)[0] == 200
    refused = supervisor("post", f"/productions/{crewed.pk}/days-plan", {}, key=a_key())
    assert refused[0] == 422 and "Nine friends has 30 min at most" in str(refused[1])
    assert days(supervisor, crewed)["faults"]
    assert say(supervisor, crewed, "person", friends["id"], most_min=160)[0] == 200
    people = ["Supervisor", "Nine friends"]
    assert add(supervisor, crewed, "job", set_up_id=mill.set_up_id, people=people)[0] == 201
    job = plan(supervisor, crewed)
    assert "left out" in job.message
    found = days(supervisor, crewed)
    assert found["unplaced"] and "the time of Nine friends is 2 h 40 in all" in found["why"][0]


def test_a_job_moved_by_hand_says_what_it_breaks_before_and_after(supervisor: Caller, crewed: Production):
    found = days(supervisor, crewed)
    wheel = next(job for job in found["jobs"] if job["name"] == "Wheel on the table")
    orla = next(job for job in found["jobs"] if job["name"] == "Orla on green")
    late = {"set_up_id": orla["set_up_id"], "date": DATES[1], "start_min": 600}
    early = {"set_up_id": wheel["set_up_id"], "date": DATES[0], "start_min": 600}
    status, tried = supervisor("post", f"/productions/{crewed.pk}/days-tried", {"bookings": [early, late]})
    assert status == 200 and [own["kind"] for own in tried["breaks"]] == ["order"]
    assert "Wheel on the table comes before TM020 Orla on green is done" in tried["breaks"][0]["sentence"]
    assert not Booked.objects.exists(), "what is tried is not kept"
    status, kept = book(supervisor, crewed, early, late)
    assert status == 200 and [own["kind"] for own in kept["breaks"]] == ["order"]
    assert kept["costs"]["days"] == 2
    # waived, it is a warning
    assert (
        add(supervisor, crewed, "order", first_id=orla["set_up_id"], then_id=wheel["set_up_id"], waived=True)[
            0
        ]
        == 201
    )
    (fault,) = days(supervisor, crewed)["breaks"]
    assert fault["warns"] and fault["sentence"].startswith("Waived: ")


def test_two_people_do_not_move_the_same_job_over_each_other(supervisor: Caller, crewed: Production, mill):
    row = {"set_up_id": mill.set_up_id, "date": DATES[0], "start_min": 600}
    assert book(supervisor, crewed, row)[0] == 200
    status, answer = book(supervisor, crewed, {**row, "start_min": 700})
    assert status == 409, answer
    (booking,) = days(supervisor, crewed)["bookings"]
    assert book(supervisor, crewed, {**row, "start_min": 700, "version": booking["version"]})[0] == 200


def test_what_is_locked_stays_when_planned_again(supervisor: Caller, crewed: Production, mill):
    row = {"set_up_id": mill.set_up_id, "date": DATES[3], "start_min": 605, "locked": True}
    assert book(supervisor, crewed, row)[0] == 200
    assert plan(supervisor, crewed).state == "ready"
    kept = next(own for own in days(supervisor, crewed)["bookings"] if own["job"] == str(mill.set_up_id))
    assert (kept["date"], kept["start_min"], kept["locked"]) == (DATES[3], 605, True)


def test_rain_moves_what_is_outdoors_and_little_else(supervisor: Caller, crewed: Production):
    plan(supervisor, crewed)
    found = days(supervisor, crewed)
    outdoors = {job["key"] for job in found["jobs"] if job["outdoors"]}
    wet = next(day for day in found["days"] if {slot["job"] for slot in day["slots"]} & outdoors)
    was = {own["job"]: (own["date"], own["start_min"]) for own in found["bookings"]}
    assert say(supervisor, crewed, "day", wet["id"], rained_from_min=0)[0] == 200
    assert {own["kind"] for own in days(supervisor, crewed)["breaks"]} == {"not_on"}
    assert plan(supervisor, crewed, again=True).state == "ready"
    again = days(supervisor, crewed)
    now = {own["job"]: (own["date"], own["start_min"]) for own in again["bookings"]}
    assert again["breaks"] == []
    other = {key for key in was if was[key][0] != now[key][0]}
    rained_off = outdoors & {key for key, (date, _) in was.items() if date == wet["date"]}
    assert rained_off <= other and len(other) <= 2 * len(rained_off) < len(was)


def test_what_is_said_of_a_job_counts_and_goes_back(supervisor: Caller, crewed: Production, mill):
    key, set_up = str(mill.set_up_id), mill.set_up_id
    status, row = add(supervisor, crewed, "job", set_up_id=set_up, takes_min=90, people=["Model"], noisy=True)
    assert status == 201
    job = next(own for own in days(supervisor, crewed)["jobs"] if own["key"] == key)
    assert (job["takes_min"], job["people"], job["noisy"], job["said"]) == (90, ["Model"], True, row["id"])
    # who is called otherwise goes on being named
    model = next(own for own in days(supervisor, crewed)["rows"] if own["name"] == "Model")
    assert say(supervisor, crewed, "person", model["id"], name="Builder")[0] == 200
    job = next(own for own in days(supervisor, crewed)["jobs"] if own["key"] == key)
    assert job["people"] == ["Builder"]
    assert say(supervisor, crewed, "job", row["id"], removed=True)[0] == 200
    job = next(own for own in days(supervisor, crewed)["jobs"] if own["key"] == key)
    assert (job["takes_min"], job["said"]) == (24, None) and "Supervisor" in job["people"]
    # said again, the same row comes back
    assert add(supervisor, crewed, "job", set_up_id=set_up, left_out=True)[1]["id"] == row["id"]
    assert key not in [own["key"] for own in days(supervisor, crewed)["jobs"]]


BAD = {
    "a window that ends before it starts": (
        "person",
        {"name": "Wren", "hours": [{"start": "18:00", "end": "09:00"}]},
        "hours.0.end",
    ),
    "no time": ("person", {"name": "Wren", "hours": [{"start": "9 am", "end": "18:00"}]}, "hours.0.start"),
    "nobody": ("person", {"name": ""}, "name"),
    "the same again": ("person", {"name": "Camera"}, "name"),
    "a day twice": ("day", {"date": DATES[0]}, "date"),
    "a way to itself": ("travel", {"here_id": 1, "there_id": 1, "minutes": 5}, "here_id"),
    "a set-up of nobody": ("job", {"set_up_id": 999_999}, "set_up_id"),
    "a kind that is none": ("weather", {"name": "rain"}, "kind"),
}


@pytest.mark.parametrize("what", BAD)
def test_bad_rows_are_told_at_their_place(supervisor: Caller, crewed: Production, what: str):
    kind, fields, place = BAD[what]
    if kind == "travel":
        first = crewed.places.all()[0].pk
        fields = {"here_id": first, "there_id": first, "minutes": 5}
        place = "there_id"
    status, answer = add(supervisor, crewed, kind, **fields)
    assert status == 422 and place in [problem["field"] for problem in answer["problems"]], answer


def test_a_booking_on_no_shooting_day_is_refused(supervisor: Caller, crewed: Production, mill):
    status, answer = book(supervisor, crewed, {"set_up_id": mill.set_up_id, "date": "2028-01-01"})
    assert status == 422 and answer["problems"][0]["field"] == "bookings.0.date"


def test_nothing_is_planned_without_a_day(supervisor: Caller, production: Production):
    ShootingDay.objects.filter(production=production).update(removed=True)
    status, answer = supervisor("post", f"/productions/{production.pk}/days-plan", {}, key=a_key())
    assert status == 422 and "no day to film on" in str(answer)
