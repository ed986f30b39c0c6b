"""Each rule of the days: kept by the plan, told by the checker, said in words; bad input at its place."""

from __future__ import annotations

from datetime import date, timedelta
from typing import Any

import pytest

from jungoptic.core import days as d
from jungoptic.core.errors import InputError

SAT = date(2027, 10, 16)


def shooting(**values: Any) -> d.Shooting:
    base: dict[str, Any] = {
        "days": [SAT, SAT + timedelta(days=1)],
        "time_zone": "Europe/London",
        "places": [
            {"key": "boathouse", "name": "Boathouse"},
            {"key": "quay", "latitude_deg": 54.3, "longitude_deg": -3.2},
        ],
        "people": [{"key": "orla", "name": "Orla", "hours": [{"start": "08:00", "end": "20:00"}]}],
        "jobs": [job("a"), job("b")],
    }
    return d.Shooting.read({**base, **values})


def job(key: str, **values: Any) -> dict[str, Any]:
    return {"key": key, "place": "boathouse", "people": ["orla"], **values}


def booking(key: str, start: str, day: int = 0) -> d.Booking:
    return d.Booking.read({"job": key, "date": SAT + timedelta(days=day), "start": start})


def kinds(shot: d.Shooting, *bookings: d.Booking) -> list[str]:
    return [fault.kind for fault in d.plan_breaks(shot, bookings)]


QUAY = {"place": "quay", "outdoors": True}
SUN = {"azimuth_deg": -110, "elevation_deg": 18, "heading_deg": 300}
A_10, B_12 = booking("a", "10:00"), booking("b", "12:00")

# What makes the plan break one rule, and one only; the plan; the kind; what is said.
BROKEN: dict[str, tuple[dict[str, Any], tuple[d.Booking, ...], str]] = {
    "day": ({}, (booking("a", "10:00", 5),), "none of the days"),
    "person": ({}, (booking("a", "19:00"),), "Without Orla for 34 min"),
    "place": (
        {"places": [{"key": "boathouse", "hours": [{"start": "11:00", "end": "18:00"}]}]},
        (A_10,),
        "shut for 1 h of a: there 11:00 to 18:00",
    ),
    "noise": (
        {
            "places": [{"key": "boathouse", "noise": [{"start": "11:10", "end": "18:00"}]}],
            "jobs": [job("a", noisy=True)],
        },
        (A_10,),
        "for 10 min of the takes of a",
    ),
    "needs": (
        {
            "conditions": [
                {"key": "tide", "name": "Low tide", "hours": [{"start": "10:30", "end": "14:00"}]}
            ],
            "jobs": [job("a", needs=["tide"])],
        },
        (A_10,),
        "needs Low tide, which is not there for 30 min",
    ),
    "clear": (
        {
            "conditions": [
                {"key": "train", "name": "A train", "hours": [{"start": "11:05", "end": "11:15"}]}
            ],
            "jobs": [job("a", clear_of=["train"])],
        },
        (A_10,),
        "A train falls into 10 min",
    ),
    "hour": ({"jobs": [job("a", hour="dark", **QUAY)]}, (A_10,), "wants darkness"),
    "sun": ({"jobs": [job("a", sun=SUN, **QUAY)]}, (A_10,), "leaves the key of a by"),
    "hidden": (
        {
            "jobs": [job("a", sun=SUN, **QUAY)],
            "places": [
                {
                    "key": "quay",
                    "latitude_deg": 54.3,
                    "longitude_deg": -3.2,
                    "horizon": [{"azimuth_deg": 0, "height_deg": 60}],
                }
            ],
        },
        (A_10,),
        "behind the horizon",
    ),
    "at_once": ({}, (A_10, booking("b", "11:00")), "overlap by 35 min"),
    "change": ({"jobs": [job("a"), job("b", lens="35")]}, (A_10, booking("b", "11:35")), "5 min too little"),
    "shared": (
        {"jobs": [job("a"), job("b", unit="second", place="quay")]},
        (A_10, booking("b", "12:00")),
        "want Orla at one time, or on the way between: 1 h 05",
    ),
    "order": (
        {"order": [{"first": "b", "then": "a", "why": "the paint dries", "rest_min": 600}]},
        (A_10, B_12),
        "a comes before b is done: the paint dries",
    ),
    "straight": (
        {
            "jobs": [job("a"), job("b"), job("c")],
            "order": [{"first": "a", "then": "c", "why": "its clean plate", "straight": True}],
        },
        (A_10, B_12, booking("c", "14:00")),
        "Something comes between a and c: its clean plate",
    ),
    "run": (
        {"jobs": [job("a"), job("b"), job("c")], "runs": [{"jobs": ["a", "c"], "why": "the puppet stays"}]},
        (A_10, B_12, booking("c", "14:00")),
        "b interrupts a run: the puppet stays",
    ),
    "longest_day": (
        {"people": [{"key": "orla", "hours": [{"start": "08:00", "end": "20:00"}], "longest_day_min": 200}]},
        (A_10, B_12),
        "A day of orla is 15 min longer",
    ),
    "most": (
        {"people": [{"key": "orla", "hours": [{"start": "08:00", "end": "20:00"}], "most_min": 200}]},
        (A_10, B_12),
        "The time of orla is 15 min longer than was agreed in all",
    ),
    "models": (
        {
            "places": [{"key": "boathouse", "models_at_once": 1}],
            "jobs": [job("a", model="mill"), job("b", model="wall")],
        },
        (A_10, booking("b", "13:00")),
        "1 more models than can stand",
    ),
    "locked": (
        {"locked": [{"job": "a", "date": SAT, "start": "09:00"}]},
        (A_10,),
        "a is locked to Sat 16 October",
    ),
}


@pytest.mark.parametrize("kind", BROKEN)
def test_a_broken_rule_is_told_by_kind_and_in_words_and_no_plan_breaks_it(kind: str):
    values, bookings, words = BROKEN[kind]
    shot = shooting(**values)
    faults = d.plan_breaks(shot, bookings)
    assert [fault.kind for fault in faults] == [kind]
    assert words in d.Words(shot).of_break(faults[0])
    if kind == "hidden":  # nothing can be planned there: said with the reason
        plan = d.plan_days(shot)
        assert plan.left_out == ("a",) and plan.clash and d.Rule("sun", ("a",)) in plan.clash.rules
        return
    plan = d.plan_days(shot)
    assert plan.left_out == () and kinds(shot, *plan.bookings) == []


def test_what_is_waived_is_only_a_warning():
    order = [{"first": "b", "then": "a", "why": "hero first", "waived": True}]
    shot = shooting(order=order)
    (fault,) = d.plan_breaks(shot, (A_10, B_12))
    assert fault.warns and d.Words(shot).of_break(fault).startswith("Waived: a comes before b")


def test_a_change_costs_the_largest_and_a_third_of_the_rest():
    """Judgement of domain-shoot: place 90, light 30, lens 5: 90 + 35/3."""
    a = d.Job.read(job("a", lens="35", light="noon"))
    b = d.Job.read({**job("b", lens="50", light="dusk"), "place": "quay"})
    change = d.Changing(d.Changes(), ()).between(a, b)
    assert change.parts == (("place", 90), ("light", 30), ("lens", 5)) and change.minutes == 102
    typed = d.Changing(d.Changes(), (d.Travel(places=("quay", "boathouse"), minutes=20),)).between(a, b)
    assert typed.minutes == 39  # light 30 is the largest then


def test_a_guest_of_four_hours_keeps_them_and_it_is_said_what_clashes():
    guest = {"key": "orla", "name": "Orla", "hours": [{"start": "08:00", "end": "20:00"}], "most_min": 240}
    fits = shooting(people=[guest], jobs=[job("a"), job("b")])
    assert d.plan_days(fits).left_out == ()
    three = shooting(people=[guest], jobs=[job("a"), job("b"), job("c")])
    plan = d.plan_days(three)
    assert len(plan.left_out) == 1 and plan.clash
    assert d.Rule("most", ("orla",)) in plan.clash.rules and d.Rule("most", ("orla",)) in plan.clash.mends
    words = d.Words(three).of_clash(plan.clash)
    assert words[0].startswith("These cannot all be: the time of Orla is 4 h in all; ")
    assert "It could be done without this: the time of Orla is 4 h in all." in words


def test_the_clash_is_small_where_much_else_is_there():
    """Two jobs want the same hour of the one low tide; ten others have nothing to do with it."""
    tide = {"key": "tide", "name": "Low tide", "hours": [{"date": SAT, "start": "10:00", "end": "12:00"}]}
    jobs = [job("a", needs=["tide"]), job("b", needs=["tide"])]
    shot = shooting(
        conditions=[tide], jobs=[*jobs, *(job(f"x{k}", takes_min=5, before_min=5) for k in range(10))]
    )
    plan = d.plan_days(shot, effort=0.1)
    assert len(plan.bookings) == 11 and plan.clash
    assert set(plan.clash.rules) == {d.Rule("needs", ("tide",)), d.Rule("job", ("a",)), d.Rule("job", ("b",))}
    assert d.Rule("needs", ("tide",)) in plan.clash.mends


def test_a_long_rest_counts_the_night():
    order = [{"first": "a", "then": "b", "why": "the plaster dries", "rest_min": 12 * 60}]
    plan = d.plan_days(shooting(order=order))
    assert [booking.date for booking in plan.bookings] == [SAT, SAT + timedelta(days=1)]


def test_the_sun_window_holds_the_takes_and_not_the_rigging():
    shot = shooting(jobs=[job("a", sun=SUN, before_min=120, takes_min=20, **QUAY)])
    plan = d.plan_days(shot)
    window = next(w for w in d.sun_windows(d.SunKey.read(SUN), 54.3, -3.2, SAT, "Europe/London") if w.holds)
    begin = plan.bookings[0].start + 120
    assert window.start_min <= begin and begin + 20 <= window.end_min
    assert plan.bookings[0].start < window.start_min


BAD: dict[str, tuple[dict[str, Any], str, str]] = {
    "no day": ({"days": []}, "days", "no day to film on"),
    "the same day twice": ({"days": [SAT, SAT]}, "days.0", "named twice"),
    "a window that ends before it starts": (
        {"people": [{"key": "orla", "hours": [{"start": "18:00", "end": "09:00"}]}]},
        "people.0.hours.0.end",
        "end at 09:00, before they start at 18:00",
    ),
    "a person who is never there": (
        {
            "people": [
                {"key": "orla", "name": "Orla", "hours": [{"weekdays": ["wed"], "start": 540, "end": 600}]}
            ]
        },
        "people.0.hours",
        "Orla: never there on any of the 2 days",
    ),
    "a circle": (
        {
            "jobs": [job("a"), job("b"), job("c")],
            "order": [
                {"first": "a", "then": "b"},
                {"first": "b", "then": "c"},
                {"first": "c", "then": "a"},
            ],
        },
        "order.2",
        "a circle: a, before b, before c, before a",
    ),
    "a job longer than any day": (
        {"jobs": [job("a", before_min=700, takes_min=60)]},
        "jobs.0",
        "a lasts 12 h 50; Orla has 10 h at most",
    ),
    "nobody of that name": (
        {"jobs": [job("a", people=["wren"])]},
        "jobs.0.people",
        "no “wren” among the people",
    ),
    "two of a key": ({"jobs": [job("a"), job("a")]}, "jobs.0.key", "there 2 times"),
    "no such time zone": ({"time_zone": "Nowhere"}, "time_zone", "no time zone"),
    "the sun at no latitude": ({"jobs": [job("a", hour="day")]}, "jobs.0.place", "at which latitude"),
    "locked to another day": (
        {"locked": [{"job": "a", "date": "2028-01-01", "start": "10:00"}]},
        "locked.0.date",
        "none of the days",
    ),
}


@pytest.mark.parametrize("what", BAD)
def test_bad_input_is_told_at_its_place(what: str):
    values, field, words = BAD[what]
    with pytest.raises(InputError) as told:
        d.plan_days(shooting(**values))
    assert (field, True) in [(problem.field, words in problem.message) for problem in told.value.problems]


def test_no_jobs_are_a_plan_of_no_days():
    plan = d.plan_days(shooting(jobs=[]))
    assert plan.bookings == () and plan.costs.days == 0 and plan.left_out == ()


def test_the_table_of_a_day_says_who_waits_and_what_is_changed():
    shot = shooting(jobs=[job("a", lens="35"), job("b", lens="50", people=[]), job("c", lens="35")])
    table = d.timetable(shot, (A_10, B_12, booking("c", "14:00")))
    (_, slots), call = table[0].rows[0], table[0].calls[0]
    assert [(slot.change, slot.change_min, slot.idle_min) for slot in slots] == [
        ((), 0, 0),
        ((("lens", 5),), 5, 21),
        ((("lens", 5),), 5, 21),
    ]
    assert (call.person, call.from_min, call.to_min, call.waits_min) == ("orla", 600, 934, 146)
    assert call.waits == ((694, 840),)
    assert table[1].rows == () and table[0].daylight


def test_shooting_again_goes_there_and_back_only_where_nothing_else_is_filmed():
    here, also, far, home = (
        d.Job.read(job(key, place=place))
        for key, place in (("a", "quay"), ("b", "quay"), ("c", "boathouse"), ("d", "mill"))
    )
    ways = [
        d.Travel.read({"places": places, "minutes": minutes})
        for places, minutes in ((("boathouse", "quay"), 40), (("quay", "mill"), 25))
    ]
    jobs = (here, also, far, home)
    assert d.there_and_back_min(here, ways, jobs, []) == 50  # the shorter way, both ways
    assert d.there_and_back_min(far, ways, jobs, []) == 80
    assert d.there_and_back_min(here, ways, jobs, [booking("c", "09:00")]) == 50
    assert d.there_and_back_min(here, ways, jobs, [booking("b", "09:00")]) == 0
    assert d.there_and_back_min(here, [], jobs, []) == 0
