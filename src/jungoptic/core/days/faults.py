"""What no plan can be made from: names that lead nowhere, circles, nobody there, a job that fits no day."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator, Sequence
from zoneinfo import ZoneInfo

from ..errors import FieldProblem, InputError
from .clock import duration_text
from .opening import hours_on
from .records import Condition, Person, Place, Shooting


def plan_faults(shooting: Shooting) -> tuple[FieldProblem, ...]:
    """What no plan can be made from.

    Parameters
    ----------
    shooting : Shooting
        Jobs, people, places, windows, order.

    Returns
    -------
    tuple of FieldProblem
        Each at its place, with what to do.

    Examples
    --------
    >>> from jungoptic.core.days import EXAMPLE
    >>> empty = EXAMPLE.model_copy(update={"days": ()})
    >>> [fault.field for fault in plan_faults(empty)]
    ['days']
    """
    return tuple(_faults(shooting))


def refuse_faults(shooting: Shooting) -> None:
    """Raise an InputError with all faults, where there are any."""
    faults = plan_faults(shooting)
    if faults:
        raise InputError(*faults)


def _faults(shooting: Shooting) -> Iterator[FieldProblem]:
    if not shooting.days:
        yield FieldProblem("days", "There is no day to film on: name one at least.")
    for index, count in enumerate(Counter(shooting.days).values()):
        if count > 1:
            yield FieldProblem(f"days.{index}", "This day is named twice.")
    try:
        ZoneInfo(shooting.time_zone)
    except (KeyError, ValueError, OSError):
        yield FieldProblem("time_zone", f"There is no time zone “{shooting.time_zone}”: Europe/London, say.")
        return
    for name in ("jobs", "people", "places", "conditions"):
        keys = Counter(row.key for row in getattr(shooting, name))
        for index, row in enumerate(getattr(shooting, name)):
            if keys[row.key] > 1:
                yield FieldProblem(f"{name}.{index}.key", f"“{row.key}” is there {keys[row.key]} times.")
    lost = list(_names_lead_somewhere(shooting))
    yield from lost
    if not lost and shooting.days:
        yield from _somebody_is_there(shooting)
        yield from _jobs_fit(shooting)
    yield from _circles(shooting)


def _names_lead_somewhere(shooting: Shooting) -> Iterator[FieldProblem]:
    keys = {
        name: {row.key for row in getattr(shooting, name)}
        for name in ("jobs", "people", "places", "conditions")
    }

    def known(kind: str, wanted: Sequence[str], field: str) -> Iterator[FieldProblem]:
        for key in wanted:
            if key not in keys[kind]:
                yield FieldProblem(field, f"There is no “{key}” among the {kind}.")

    for index, job in enumerate(shooting.jobs):
        here = f"jobs.{index}"
        yield from known("places", (job.place,), f"{here}.place")
        yield from known("people", job.people, f"{here}.people")
        yield from known("conditions", job.needs, f"{here}.needs")
        yield from known("conditions", job.clear_of, f"{here}.clear_of")
        place = next((place for place in shooting.places if place.key == job.place), None)
        if place and place.latitude_deg is None and (job.sun is not None or job.hour != "any"):
            yield FieldProblem(
                f"{here}.place", f"{job.title} is lit by the sun: say at which latitude {place.title} lies."
            )
    for index, order in enumerate(shooting.order):
        yield from known("jobs", (order.first, order.then), f"order.{index}")
    for index, run in enumerate(shooting.runs):
        yield from known("jobs", run.jobs, f"runs.{index}.jobs")
    for index, way in enumerate(shooting.travel):
        yield from known("places", way.places, f"travel.{index}.places")
    for index, booking in enumerate(shooting.locked):
        yield from known("jobs", (booking.job,), f"locked.{index}.job")
        if booking.date not in shooting.days:
            yield FieldProblem(
                f"locked.{index}.date",
                f"{booking.date.isoformat()} is none of the days: name it, or unlock the job.",
            )


def _somebody_is_there(shooting: Shooting) -> Iterator[FieldProblem]:
    wanted = {key for job in shooting.jobs for key in job.people}
    every: dict[str, Sequence[Person | Condition]] = {
        "people": shooting.people,
        "conditions": shooting.conditions,
    }
    for kind, rows in every.items():
        asked = wanted if kind == "people" else {key for job in shooting.jobs for key in job.needs}
        for index, row in enumerate(rows):
            off = getattr(row, "off", ())
            if row.key in asked and not any(hours_on(row.hours, off, day) for day in shooting.days):
                verb = "never there" if kind == "people" else "never"
                yield FieldProblem(
                    f"{kind}.{index}.hours",
                    f"{row.title}: {verb} on any of the {len(shooting.days)} days: give hours, or take them "
                    "out of the jobs.",
                )


def _jobs_fit(shooting: Shooting) -> Iterator[FieldProblem]:
    places = {place.key: _longest(shooting, place) for place in shooting.places if place.hours}
    people = {person.key: _longest(shooting, person) for person in shooting.people}
    for index, job in enumerate(shooting.jobs):
        things = [places.get(job.place), *(people[key] for key in job.people)]
        longest, by = min([thing for thing in things if thing], default=(24 * 60, "a day has"))
        if longest < job.minutes:
            yield FieldProblem(
                f"jobs.{index}",
                f"{job.title} lasts {duration_text(job.minutes)}; {by} {duration_text(longest)} at most on "
                "any day: make it shorter, film it in parts, or give longer hours.",
            )


def _longest(shooting: Shooting, thing: Person | Place) -> tuple[int, str]:
    """The longest stretch of any day that a place or a person has, and whose it is."""
    spans = [span for day in shooting.days for span in hours_on(thing.hours, thing.off, day)]
    limits = [max((end - start for start, end in spans), default=0)]
    if isinstance(thing, Person):
        limits += [thing.longest_day_min, *([] if thing.most_min is None else [thing.most_min])]
    return min(limits), f"{thing.title} has"


def _circles(shooting: Shooting) -> Iterator[FieldProblem]:
    """Jobs that each must come before the other."""
    after: dict[str, list[tuple[str, int]]] = {}
    for index, order in enumerate(shooting.order):
        if not order.waived:
            after.setdefault(order.first, []).append((order.then, index))
    titles = {job.key: job.title for job in shooting.jobs}
    done: set[str] = set()
    for begin in titles:
        way: list[str] = []
        on_way: dict[str, int] = {}
        stack: list[tuple[str, Iterator[tuple[str, int]]]] = []
        if begin in done:
            continue
        stack.append((begin, iter(after.get(begin, ()))))
        way.append(begin)
        on_way[begin] = 0
        while stack:
            key, ways = stack[-1]
            following = next(ways, None)
            if following is None:
                stack.pop()
                way.pop()
                del on_way[key]
                done.add(key)
                continue
            then, index = following
            if then in on_way:
                circle = [*way[on_way[then] :], then]
                words = ", before ".join(titles.get(step, step) for step in circle)
                yield FieldProblem(
                    f"order.{index}", f"This goes in a circle: {words}. Waive one of them, or take it away."
                )
                return
            if then not in done:
                on_way[then] = len(way)
                way.append(then)
                stack.append((then, iter(after.get(then, ()))))
