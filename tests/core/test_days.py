"""Days against what is known from outside: the rehearsal problem, every order of few jobs."""

from __future__ import annotations

import math
import random
from collections.abc import Iterator
from datetime import date, timedelta
from itertools import pairwise, permutations

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from jungoptic.core import days as d
from jungoptic.core.days.changing import Changing
from jungoptic.core.days.grid import Grid
from jungoptic.core.days.insertion import inserted
from jungoptic.core.days.search import Search
from jungoptic.core.errors import InputError

SAT = date(2027, 10, 16)
# Published: CSPLib prob039 (rehearsal), from memory: who plays in which piece, and how long each lasts.
PLAYS = ("110101101", "110111010", "110000110", "100011001", "001011110")
LASTS = (2, 4, 1, 3, 3, 2, 5, 7, 6)


def rehearsal() -> d.Shooting:
    return d.Shooting.read(
        {
            "days": [SAT],
            "places": [{"key": "hall"}],
            "people": [
                {"key": str(player), "hours": [{"start": "09:00", "end": "20:00"}]} for player in range(5)
            ],
            "jobs": [
                {
                    "key": str(piece + 1),
                    "before_min": 0,
                    "takes_min": minutes,
                    "after_min": 0,
                    "place": "hall",
                    "people": [str(player) for player in range(5) if PLAYS[player][piece] == "1"],
                }
                for piece, minutes in enumerate(LASTS)
            ],
            "grid_min": 1,
        }
    )


def test_the_rehearsal_problem_waits_17():
    plan = d.plan_days(rehearsal())
    assert plan.costs.waiting_min == 17 and plan.best and plan.fewest_days == 1
    order = [int(booking.job) - 1 for booking in plan.bookings]
    waits = 0
    for plays in PLAYS:
        own = [place for place, piece in enumerate(order) if plays[piece] == "1"]
        waits += sum(LASTS[order[k]] for k in range(own[0], own[-1]) if plays[order[k]] == "0")
    assert waits == 17


# --- every small shooting against all permutations


def orders(shooting: d.Shooting) -> Iterator[tuple[int, int, int]]:
    """Days, people-days and minutes of changing of every plan in which each job begins as early as it can,
    whatever the order and wherever a night lies between.
    """
    grid = Grid(shooting)
    keys = list(grid.jobs)
    changing = Changing(shooting.changes, shooting.travel)
    must = [(order.first, order.then) for order in shooting.order if not order.waived]
    step = shooting.grid_min
    length = {key: math.ceil(grid.jobs[key].minutes / step) for key in keys}

    def on(
        done: tuple[str, ...],
        left: frozenset[str],
        day: int,
        free: int,
        cost: tuple[int, int, int],
        called: frozenset[str],
    ) -> Iterator[tuple[int, int, int]]:
        if not left:
            yield cost
            return
        for key in left:
            job = grid.jobs[key]
            if any(then == key and first in left for first, then in must):
                continue
            for later in range(day, len(grid.days)):
                fresh = later > day or not done
                change = math.ceil(changing.between(grid.jobs[done[-1]], job).minutes / step) if done else 0
                begin = max(0, free + change - (later - day) * (1440 // step)) if done else 0
                change = 0 if fresh else change
                fits = [max(a, begin) for a, b in grid.starts.get((key, later), ()) if b >= begin]
                if not fits:
                    continue
                new = frozenset(job.people) if fresh else called | set(job.people)
                more = len(new) - (0 if fresh else len(called))
                yield from on(
                    (*done, key),
                    left - {key},
                    later,
                    fits[0] + length[key],
                    (cost[0] + fresh, cost[1] + more, cost[2] + change * step),
                    new,
                )

    yield from on((), frozenset(keys), 0, 0, (0, 0, 0), frozenset())


@st.composite
def shootings(draw: st.DrawFn) -> d.Shooting:
    count = draw(st.integers(1, 5))
    hours = st.sampled_from([("08:00", "18:00"), ("09:00", "13:00"), ("10:00", "16:00"), ("12:00", "20:00")])
    people = [
        {
            "key": name,
            "hours": [dict(zip(("start", "end"), draw(hours), strict=True))],
            "longest_day_min": 1440,
        }
        for name in ("camera", "model", "orla")
    ]
    jobs = [
        {
            "key": f"j{number}",
            "before_min": draw(st.sampled_from([0, 30, 60])),
            "takes_min": draw(st.sampled_from([20, 24, 90])),
            "place": draw(st.sampled_from(["boathouse", "quay"])),
            "lens": draw(st.sampled_from(["35", "50"])),
            "model": draw(st.sampled_from(["", "mill", "wall"])),
            "light": draw(st.sampled_from(["noon", "dusk"])),
            "people": draw(st.lists(st.sampled_from(["camera", "model", "orla"]), unique=True, max_size=2)),
        }
        for number in range(count)
    ]
    order = [
        {"first": f"j{a}", "then": f"j{b}"}
        for a in range(count)
        for b in range(a + 1, count)
        if draw(st.integers(0, 5)) == 0
    ]
    return d.Shooting.read(
        {
            "days": [SAT + timedelta(days=day) for day in range(draw(st.integers(1, 3)))],
            "jobs": jobs,
            "people": people,
            "places": [{"key": "boathouse", "hours": [{"start": "08:00", "end": "20:00"}]}, {"key": "quay"}],
            "order": order,
            "grid_min": draw(st.sampled_from([5, 10])),
        }
    )


@given(shootings())
@settings(deadline=None, max_examples=60)
def test_no_order_of_few_jobs_is_better_than_the_plan(shooting: d.Shooting):
    least = min(orders(shooting), default=None)
    if d.plan_faults(shooting):
        return
    plan = d.plan_days(shooting)
    assert not d.plan_breaks(shooting, plan.bookings)
    if least is None:
        assert plan.left_out and plan.clash is not None
        return
    assert plan.left_out == () and plan.best
    assert (plan.costs.days, plan.costs.people_days, plan.costs.changing_min) == least
    assert (plan.fewest_days, plan.fewest_people_days) == least[:2]


def test_a_day_that_goes_on_after_midnight_does_not_save_the_change_of_the_next():
    """What is open day and night could else be filmed at nine in the morning as the end of the day before, in
    the midst of the next day's jobs.
    """
    open_by_day = [{"start": "08:00", "end": "20:00"}]
    shooting = d.Shooting.read(
        {
            "days": [SAT, SAT + timedelta(days=1)],
            "jobs": [
                {"key": key, "takes_min": 20, "before_min": 0, "place": place, "people": people}
                for key, place, people in (
                    ("mill", "boathouse", []),
                    ("tide", "quay", []),
                    ("wall", "boathouse", ["model"]),
                )
            ],
            "people": [{"key": "model", "hours": [{"start": "09:00", "end": "10:30"}]}],
            "places": [{"key": "boathouse", "hours": open_by_day}, {"key": "quay"}],
            "order": [{"first": "mill", "then": "tide"}, {"first": "tide", "then": "wall"}],
        }
    )
    tide = d.Booking(job="tide", date=SAT, start="33:00")
    wall = d.Booking(job="wall", date=SAT + timedelta(days=1), start="09:30")
    broken = d.plan_breaks(shooting, [tide, wall])
    assert [(fault.kind, fault.over) for fault in broken] == [("change", 90)]
    costs = d.plan_days(shooting).costs
    assert (costs.days, costs.changing_min) == (2, 90)


def test_seven_jobs_against_all_their_orders():
    """One day, one place: 5040 orders, by the changes between them and the waiting that follows."""
    people = {"camera": "1111111", "model": "0110100", "orla": "1000011"}
    lenses, lights, models = "aabbcab", "xyxyxyx", " mw m w"
    shooting = d.Shooting.read(
        {
            "days": [SAT],
            "places": [{"key": "boathouse"}],
            "people": [
                {"key": key, "hours": [{"start": "06:00", "end": "24:00"}], "longest_day_min": 1440}
                for key in people
            ],
            "jobs": [
                {
                    "key": str(number),
                    "before_min": 10 * (number % 3),
                    "place": "boathouse",
                    "lens": lenses[number],
                    "light": lights[number],
                    "model": models[number].strip(),
                    "people": [key for key, there in people.items() if there[number] == "1"],
                }
                for number in range(7)
            ],
        }
    )
    plan = d.plan_days(shooting)
    changing = Changing(shooting.changes, ())
    best = None
    for order in permutations(shooting.jobs):
        changes = [math.ceil(changing.between(a, b).minutes / 5) * 5 for a, b in pairwise(order)]
        waiting = 0
        for key in people:
            own = [place for place, job in enumerate(order) if key in job.people]
            inside = range(own[0], own[-1])
            waiting += sum(math.ceil(order[k].minutes / 5) * 5 for k in inside if key not in order[k].people)
            waiting += sum(changes[k] for k in inside if not {k, k + 1} <= set(own))
        best = min(best or (10**9, 0), (sum(changes), waiting))
    assert (plan.costs.changing_min, plan.costs.waiting_min) == best and plan.best


# --- more jobs


def production(count: int) -> d.Shooting:
    """Shots of four set-ups each, at three places, some in the sun, over twenty days."""
    jobs, order = [], []
    for number in range(count):
        shot, nth = divmod(number, 4)
        place = ("boathouse", "boathouse", "quay", "boathouse", "yard")[shot % 5]
        outdoors = place != "boathouse"
        model = "" if outdoors or nth == 0 else ("mill", "heron", "wall")[shot % 3]
        jobs.append(
            {
                "key": f"j{number}",
                "shots": [f"TM{shot + 1:02d}0"],
                "before_min": (40, 60, 80)[number % 3],
                "place": place,
                "lens": ("25", "35")[number % 2],
                "model": model,
                "light": f"l{shot % 3}",
                "backing": "green" if shot % 4 == 1 and not outdoors else "",
                "position": f"p{shot}-{nth % 3}",
                "people": ["supervisor", *(["model"] if model else []), *(["orla"] if shot % 3 == 0 else [])],
                "outdoors": outdoors,
                "hour": "day" if outdoors else "any",
            }
        )
        if nth:
            order.append({"first": f"j{4 * shot}", "then": f"j{number}", "why": "hero first"})
    return d.Shooting.read(
        {
            "days": [SAT + timedelta(days=day) for day in range(20)],
            "jobs": jobs,
            "order": order,
            "time_zone": "Europe/London",
            "people": [
                {"key": "supervisor", "hours": [{"start": "08:00", "end": "19:00"}]},
                {"key": "model", "hours": [{"start": "09:00", "end": "18:00"}]},
                {"key": "orla", "hours": [{"start": "10:00", "end": "17:00"}]},
            ],
            "places": [
                {"key": "boathouse"},
                {"key": "quay", "latitude_deg": 54.3, "longitude_deg": -3.2},
                {"key": "yard", "latitude_deg": 54.3, "longitude_deg": -3.2},
            ],
            "travel": [{"places": ["boathouse", "yard"], "minutes": 20}],
        }
    )


def test_a_plan_of_more_jobs_keeps_all_rules_and_comes_out_the_same_again():
    shooting, told = production(20), []
    plan = d.plan_days(shooting, told.append, effort=0.1)
    assert not d.plan_breaks(shooting, plan.bookings) and not plan.left_out
    assert 0 < plan.fewest_days <= plan.costs.days <= plan.fewest_days + 2
    assert plan == d.plan_days(shooting, effort=0.1)
    # it only ever gets better
    counts = [progress.costs.counts for progress in told if len(progress.bookings) == 20]
    assert counts == sorted(counts, reverse=True) and counts[-1][:4] == plan.costs.counts[:4]


def test_it_can_be_stopped_and_then_gives_what_it_has():
    shooting = production(24)
    plan = d.plan_days(shooting, stop=lambda: True)
    assert plan.stopped and not plan.left_out and not d.plan_breaks(shooting, plan.bookings)


def test_what_is_locked_stays_and_the_rest_goes_round_it():
    shooting = production(12)
    locked = d.Booking(job="j5", date=SAT + timedelta(days=2), start=600, locked=True)
    plan = d.plan_days(shooting.model_copy(update={"locked": (locked,)}), effort=0.1)
    assert next(booking for booking in plan.bookings if booking.job == "j5") == locked
    assert not d.plan_breaks(shooting, plan.bookings) and not plan.left_out


def test_taking_out_and_putting_in_keeps_every_rule_on_its_own():
    for seed in (1, 2, 3):
        shooting = production(20)
        for rows in inserted(Grid(shooting), 30, random.Random(seed)):
            assert not d.plan_breaks(shooting, tuple(rows.bookings().values()))


def test_two_days_at_a_time_never_make_a_plan_worse():
    search = Search(production(16), lambda _: None, lambda: False, 0.1)
    search._first()
    before = search._costs()
    search._pairs()
    assert search._costs().counts <= before.counts


@pytest.mark.parametrize("bad", ["25", "8:61", "8.30", ""])
def test_a_time_is_written_as_a_clock_shows_it(bad: str):
    with pytest.raises(InputError):
        d.Hours.read({"start": bad, "end": "18:00"})
