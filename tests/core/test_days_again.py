"""Made again: rain, a day that slips, what is dropped with the least loss, what fills a gap, the end."""

from __future__ import annotations

from datetime import date, timedelta
from typing import Any

import numpy as np
import pytest

from jungoptic.core import days as d

SAT, SUN, NEXT = (date(2027, 10, 16) + timedelta(days=k) for k in (0, 1, 7))


def job(key: str, **values: Any) -> dict[str, Any]:
    return {"key": key, "shots": [f"TM{key}"], "place": "boathouse", "people": ["camera"], **values}


def shooting(jobs: list[dict[str, Any]], **values: Any) -> d.Shooting:
    base: dict[str, Any] = {
        "days": [SAT, SUN, NEXT],
        "places": [{"key": "boathouse"}, {"key": "quay"}],
        "people": [{"key": "camera", "hours": [{"start": "08:00", "end": "18:00"}]}],
        "travel": [{"places": ["boathouse", "quay"], "minutes": 30}],
        "jobs": jobs,
    }
    return d.Shooting.read({**base, **values})


QUAY = {"place": "quay", "outdoors": True}


def booked(*rows: tuple[str, date, str]) -> list[d.Booking]:
    return [d.Booking.read({"job": key, "date": day, "start": start}) for key, day, start in rows]


# --- rain


def test_when_it_rains_only_what_is_outdoors_goes_elsewhere():
    shot = shooting([job("a", **QUAY), job("b"), job("c"), job("d", **QUAY)])
    plan = booked(("a", SAT, "09:00"), ("b", SAT, "12:00"), ("c", SUN, "09:00"), ("d", SUN, "12:00"))
    again = d.plan_again(d.in_rain(shot, SAT), plan)
    moved = d.moved_jobs(plan, again.bookings)
    assert [own.job for own in moved if own.to_another_day] == ["a"] and not again.left_out
    assert not d.plan_breaks(d.in_rain(shot, SAT), again.bookings)
    # what was there stays at its minute
    assert {own.job for own in moved} == {"a"}


def test_what_is_filmed_when_the_rain_begins_stays():
    shot = shooting([job("a", **QUAY), job("b", **QUAY)])
    plan = booked(("a", SAT, "09:00"), ("b", SAT, "12:00"))
    wet = d.in_rain(shot, SAT, 11 * 60, plan)
    again = d.plan_again(wet, plan, now=(SAT, 11 * 60))
    assert [(own.job, own.after and own.after.date) for own in d.moved_jobs(plan, again.bookings)] == [
        ("b", SUN)
    ]


def test_what_follows_what_was_rained_off_follows_it():
    shot = shooting([job("a", **QUAY), job("b")], order=[{"first": "a", "then": "b", "why": "hero first"}])
    plan = booked(("a", SAT, "09:00"), ("b", SAT, "12:00"))
    again = d.plan_again(d.in_rain(shot, SAT), plan)
    assert {booking.job: booking.date for booking in again.bookings} == {"a": SUN, "b": SUN}


def test_room_is_made_by_moving_little_where_there_is_none():
    """The quay is open on Sunday morning only, where an indoor job stands: that one moves within its day."""
    hours = [{"date": SAT, "start": "08:00", "end": "18:00"}, {"date": SUN, "start": "08:00", "end": "10:00"}]
    shot = shooting(
        [job("a", **QUAY), job("b"), job("c")], places=[{"key": "boathouse"}, {"key": "quay", "hours": hours}]
    )
    plan = booked(("a", SAT, "09:00"), ("b", SAT, "12:00"), ("c", SUN, "08:00"))
    again = d.plan_again(d.in_rain(shot, SAT), plan)
    days = {booking.job: booking.date for booking in again.bookings}
    assert days == {"a": SUN, "b": SAT, "c": SUN} and not d.plan_breaks(d.in_rain(shot, SAT), again.bookings)


def test_where_no_other_day_is_left_it_is_said_why():
    shot = shooting([job("a", **QUAY), job("b")], days=[SAT])
    plan = booked(("a", SAT, "09:00"), ("b", SAT, "12:00"))
    wet = d.in_rain(shot, SAT)
    again = d.plan_again(wet, plan)
    assert again.left_out == ("a",) and [booking.job for booking in again.bookings] == ["b"]
    assert again.clash and d.Rule("not_on", ("a",)) in again.clash.rules
    assert "a is not filmed on Sat 16 October" in d.Words(wet).of_clash(again.clash)[0]


def test_nothing_begins_before_now():
    shot = shooting([job("a"), job("b"), job("c")])
    plan = booked(("a", SAT, "08:00"), ("b", SAT, "10:00"))
    again = d.plan_again(shot, plan, now=(SAT, 9 * 60 + 30))
    starts = {booking.job: (booking.date, booking.start) for booking in again.bookings}
    assert starts["a"] == (SAT, 480) and starts["b"] == (SAT, 600)
    assert starts["c"] >= (SAT, 570) and not d.plan_breaks(shot, again.bookings)


def test_a_plan_that_holds_is_left_alone():
    shot = shooting([job("a"), job("b")])
    plan = booked(("a", SUN, "09:05"), ("b", NEXT, "14:00"))
    assert d.moved_jobs(plan, d.plan_again(shot, plan).bookings) == ()


# --- the day as it goes

THREE = shooting([job("a"), job("b"), job("c", people=[])])
PLAN = booked(("a", SAT, "08:00"), ("b", SAT, "09:35"), ("c", SAT, "11:10"))


def as_it_goes(
    shot: d.Shooting, plan: list[d.Booking], now: str, **filmed: tuple[str, str | None]
) -> d.DayAsItGoes:
    def minute(text: str) -> int:
        return int(text[:2]) * 60 + int(text[3:])

    known = [
        d.FilmedToday(key, minute(begun), minute(done) if done else None)
        for key, (begun, done) in filmed.items()
    ]
    return d.day_as_it_goes(shot, plan, SAT, known, minute(now))


def test_on_time_nothing_is_late():
    going = as_it_goes(THREE, PLAN, "09:34", a=("09:00", "09:24"))
    assert [(own.job, own.state, own.late_min) for own in going.expected] == [
        ("a", "done", 0),
        ("b", "next", 0),
        ("c", "next", 0),
    ]
    assert going.breaks == () and going.drop is None and going.late_min == 0


def test_what_runs_over_moves_what_follows():
    """The first take of a came an hour late, and at 11:00 it is not done: all that follows is as late."""
    going = as_it_goes(THREE, PLAN, "11:00", a=("10:00", None))
    assert [(own.job, own.state, own.start_min, own.late_min) for own in going.expected] == [
        ("a", "running", 540, 60),
        ("b", "next", 660, 85),
        ("c", "next", 755, 85),
    ]


def test_who_is_early_goes_on_when_people_are_there():
    going = as_it_goes(THREE, PLAN, "09:00", a=("08:40", "08:50"))
    late = {own.job: own.late_min for own in going.expected}
    assert late["a"] < 0 and late["b"] == -35 and late["c"] == -35


def test_what_no_longer_fits_is_told_with_what_to_drop_and_what_that_loses():
    jobs = [job("a"), job("b", takes_min=120), job("c"), job("d", needs=["tide"])]
    tide = {"key": "tide", "hours": [{"date": SAT, "start": "15:00", "end": "18:00"}]}
    shot = shooting(jobs, conditions=[tide])
    plan = booked(("a", SAT, "08:00"), ("b", SAT, "09:35"), ("c", SAT, "12:50"), ("d", SAT, "15:00"))
    assert d.plan_breaks(shot, plan) == ()
    going = as_it_goes(shot, plan, "12:00", a=("11:30", None))
    assert {fault.kind for fault in going.breaks} >= {"person"}
    # d could only be today: what another day can have goes first, and of that the shortest that suffices
    assert going.drop == d.Dropped(jobs=("c",), loses=("TMc",), elsewhere=("c",))


def test_nothing_is_dropped_that_something_of_today_needs():
    jobs = [job("a"), job("b"), job("c", takes_min=200)]
    shot = shooting(jobs, order=[{"first": "b", "then": "c", "why": "its plate"}])
    plan = booked(("a", SAT, "08:00"), ("b", SAT, "09:35"), ("c", SAT, "11:10"))
    going = as_it_goes(shot, plan, "12:00", a=("12:00", None))
    assert going.drop is not None and going.drop.jobs == ("c",)


def test_a_clean_plate_straight_after_its_action_is_not_what_is_dropped():
    """It is the shortest, but without its action it can be on no other day."""
    jobs = [job("a"), job("clean", takes_min=4), job("c"), job("d", takes_min=60)]
    order = [{"first": "a", "then": "clean", "why": "its clean plate", "straight": True}]
    plan = booked(("a", SAT, "10:00"), ("clean", SAT, "11:35"), ("c", SAT, "12:50"), ("d", SAT, "14:25"))
    going = as_it_goes(shooting(jobs, order=order), plan, "12:40", a=("12:30", None))
    assert going.breaks and going.drop is not None and going.drop.jobs == ("c",)


def test_a_spare_hour_is_filled_with_what_is_nearest_to_what_stands():
    short = {"before_min": 10, "takes_min": 8, "after_min": 2}
    jobs = [
        job("a", lens="35"),
        job("far", lens="50", **{**short, **QUAY}),
        job("near", lens="50", **short),
        job("long", lens="35"),
        job("after", lens="35", **short),
    ]
    hours = [{"start": "08:00", "end": "18:00"}, {"date": SAT, "start": "08:00", "end": "10:35"}]
    order = [{"first": "long", "then": "after", "why": "it follows"}]
    shot = shooting(jobs, order=order, people=[{"key": "camera", "hours": hours}])
    plan = booked(("a", SAT, "08:00"), ("far", SUN, "08:00"), ("near", SUN, "12:00"), ("long", SUN, "14:00"))
    going = as_it_goes(shot, plan, "09:20", a=("09:00", "09:24"))
    told = d.fillers(shot, plan, SAT, going, 9 * 60 + 20)
    assert [filler.job for filler in told] == ["near", "far"]
    assert told[0].change.parts == (("lens", 5),) and told[0].end_min == 600
    ends = as_it_goes(shot, plan, "10:25", a=("09:00", "10:20"))
    assert d.fillers(shot, plan, SAT, ends, 10 * 60 + 25) == ()  # ten minutes are no spare quarter


# --- what is locked


@pytest.mark.parametrize("how", [d.plan_days, lambda shot: d.plan_again(shot, shot.locked)])
def test_what_is_locked_stays_though_it_breaks_a_rule_and_the_rest_goes_round_it(how: Any):
    """A job that runs on after its crew should have gone keeps nothing else out; of two that cannot both be
    where they are locked the later gives way.
    """
    locked = [d.Booking.read({"job": "a", "date": SAT, "start": "19:00", "locked": True})]
    shot = shooting([job("a"), job("b"), job("c")], locked=locked)
    plan = how(shot)
    assert not plan.left_out and locked[0] in plan.bookings
    assert [fault.jobs for fault in d.plan_breaks(shot, plan.bookings)] == [("a",)]
    both = [{"job": key, "date": SAT, "start": "09:00", "locked": True} for key in "ab"]
    shot = shooting([job("a"), job("b"), job("c")], locked=both)
    plan = how(shot)
    assert not plan.left_out and [own.job for own in plan.bookings if own.locked] == ["a"]
    assert {fault.kind for fault in d.plan_breaks(shot, plan.bookings)} == {"locked"}


# --- who is there only for so long


def test_what_is_lost_if_a_guest_takes_longer():
    """Worked by hand: two jobs of 94 min with 15 min between (the camera is moved), on a grid of five: 205;
    without the first 95, without both none.
    """
    jobs = [job(key, position=key, people=["camera", "orla"]) for key in "ab"]
    jobs.append(job("clean", position="b", takes_min=4, before_min=0))
    order = [{"first": "b", "then": "clean", "why": "its clean plate", "straight": True}]
    orla = {"key": "orla", "hours": [{"start": "08:00", "end": "18:00"}], "most_min": 240}
    shot = shooting(jobs, order=order, people=[{"key": "camera", "hours": orla["hours"]}, orla])
    plan = booked(("a", SAT, "08:00"), ("b", SAT, "09:50"), ("clean", SAT, "11:25"))
    (guest,) = d.guests(shot, d.timetable(shot, plan))
    assert (guest.person, guest.called_min, guest.spare_min) == ("orla", 205, 35)
    # without the first she comes 110 min later; the second takes its clean plate along, and gains no more
    assert [(loss.from_min, loss.jobs, loss.shots) for loss in guest.losses] == [
        (35, ("a",), ("TMa",)),
        (145, ("a", "b", "clean"), ("TMa", "TMb", "TMclean")),
    ]
    # what is filmed already is lost no more
    (going,) = d.guests(shot, d.timetable(shot, plan), {"a", "clean"})
    assert [loss.jobs for loss in going.losses] == [("b",)]
    spent = shot.model_copy(update={"people": (shot.people[0], d.Person(**{**orla, "spent_min": 30}))})
    (late,) = d.guests(spent, d.timetable(spent, plan))
    assert late.spare_min == 5 and late.losses[0].from_min == 5
    assert not d.plan_breaks(spent, plan)


def test_what_a_guest_has_spent_is_not_planned_again():
    jobs = [job(key, people=["camera", "orla"]) for key in "ab"]
    hours = [{"start": "08:00", "end": "18:00"}]
    for spent, left in ((0, ()), (60, ("b",))):
        orla = {"key": "orla", "hours": hours, "most_min": 200, "spent_min": spent}
        shot = shooting(jobs, people=[{"key": "camera", "hours": hours}, orla])
        plan = d.plan_days(shot)
        assert not d.plan_breaks(shot, plan.bookings) and len(plan.left_out) == len(left)
    over = booked(("a", SAT, "08:00"), ("b", SUN, "08:00"))
    # one that is locked stays, and takes what there is
    stays = d.Booking.read({"job": "a", "date": SAT, "start": "09:00", "locked": True})
    gone = {"key": "orla", "hours": hours, "most_min": 200, "spent_min": 190}
    late = shooting(jobs, people=[{"key": "camera", "hours": hours}, gone], locked=[stays])
    for plan in (d.plan_days(late), d.plan_again(late, [stays])):
        assert plan.bookings == (stays,) and plan.left_out == ("b",)
    (broken,) = d.plan_breaks(shot, over)
    assert (broken.kind, broken.over) == ("most", 190 - 140)
    assert "1 h of it gone" in d.Words(shot).of_rule(d.Rule("most", ("orla",)))


# --- when it all ends


def test_the_outlook_is_the_plan_where_the_pace_is_exact():
    """Worked by hand: two days of 600 min for 1200, then 20 h at 10 h a week, half of it done by then."""
    told = d.outlook(SAT, [SAT, SUN], 1200, 600, {"matte": 20.0}, 10.0, paces=[1.0] * 10_000)
    assert (told.likely - SAT).days == pytest.approx(14, abs=1) and told.spread_days <= 1
    assert told.pace == pytest.approx(1.0, abs=0.01) and told.shooting_days == pytest.approx(2.0, abs=0.05)


def test_a_helper_and_a_cut_bring_the_end_nearer_and_a_slow_pace_takes_it_away():
    usual = {"days": [SAT, SUN, NEXT], "minutes_left": 1500, "minutes_a_day": 600, "hours_a_week": 20.0}
    plain = d.outlook(SAT, hours_left={"matte": 80.0}, paces=[1.0, 1.2, 1.4], **usual)
    helped = d.outlook(SAT, hours_left={"matte": 80.0}, paces=[1.0, 1.2, 1.4], helpers=2, **usual)
    cut = d.outlook(SAT, hours_left={"matte": 40.0}, paces=[1.0, 1.2, 1.4], **usual)
    slow = d.outlook(SAT, hours_left={"matte": 80.0}, paces=[2.0, 2.2, 2.4] * 10, **usual)
    assert helped.likely < plain.likely and cut.likely < plain.likely < slow.likely
    assert plain.early <= plain.likely <= plain.late and plain.paces == 3


def test_paces_that_were_measured_count_more_the_more_there_are():
    few, many = d.pace_draws([2.0] * 2), d.pace_draws([2.0] * 200)
    assert np.mean(few == 2.0) == pytest.approx(0.2, abs=0.03)
    assert np.mean(many == 2.0) == pytest.approx(200 / 208, abs=0.02)
    assert np.array_equal(d.pace_draws([1.5]), d.pace_draws([1.5]))
