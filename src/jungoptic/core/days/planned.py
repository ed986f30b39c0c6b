"""A plan as a file: what was decided, what it costs, what is proven, and why something is left out."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from .. import quantities as q
from .clock import clock_text
from .guests import Guest, guests
from .plan import Plan
from .records import Shooting
from .saying import Words
from .timetable import DayTable, Slot, timetable

Time = Annotated[str, Field(title="Time of day", pattern=r"^\d{2}:\d{2}$")]


class PlannedJob(q.Record):
    """A job on its day; what is changed before it, each with its minutes, the dearest first."""

    job: str
    name: str
    unit: str
    place: str
    start: Time
    takes_from: Time
    takes_to: Time
    end: Time
    locked: bool
    changed: tuple[tuple[str, int], ...]
    change_min: int
    idle_min: int


class PlannedCall(q.Record):
    """Who is called when, and for how long they wait."""

    person: str
    start: Time
    end: Time
    waits_min: int


class PlannedLoss(q.Record):
    """From so many minutes longer than planned on, these jobs are lost, and these shots lack a plate."""

    from_min: int
    jobs: tuple[str, ...]
    shots: tuple[str, ...]


class PlannedGuest(q.Record):
    """Somebody whose time in all is limited: how long the plan takes of it, and what is lost if it takes
    longer.
    """

    person: str
    most_min: int
    called_min: int
    spare_min: int
    losses: tuple[PlannedLoss, ...]


class PlannedDay(q.Record):
    """A day with work."""

    date: q.Day
    jobs: tuple[PlannedJob, ...]
    calls: tuple[PlannedCall, ...]


class PlannedCosts(q.Record):
    """What a plan costs, in the order in which it counts, with what is proven."""

    days: int
    fewest_days: int
    people_days: int
    fewest_people_days: int
    changing_min: int
    waiting_min: int
    best: bool


class Planned(q.Record):
    """A plan; ``why`` says what keeps out what is left out, and what would mend it."""

    days: tuple[PlannedDay, ...]
    guests: tuple[PlannedGuest, ...]
    costs: PlannedCosts
    left_out: tuple[str, ...]
    why: tuple[str, ...]


def plan_file(shooting: Shooting, plan: Plan) -> Planned:
    """A plan as it is written into a file.

    Parameters
    ----------
    shooting : Shooting
        What was planned.
    plan : Plan
        The plan of it.

    Returns
    -------
    Planned
        Only days with work.

    Examples
    --------
    >>> from jungoptic.core.days import EXAMPLE, plan_days
    >>> planned = plan_file(EXAMPLE, plan_days(EXAMPLE))
    >>> [(job.job, job.start) for day in planned.days for job in day.jobs]
    [('cup', '10:55'), ('clean', '12:30'), ('sea', '13:35'), ('mill', '16:15')]
    """
    costs, tables = plan.costs, timetable(shooting, plan.bookings)
    return Planned(
        days=tuple(_day(table) for table in tables if table.rows),
        guests=tuple(_guest(guest) for guest in guests(shooting, tables)),
        costs=PlannedCosts(
            days=costs.days,
            fewest_days=plan.fewest_days,
            people_days=costs.people_days,
            fewest_people_days=plan.fewest_people_days,
            changing_min=costs.changing_min,
            waiting_min=costs.waiting_min,
            best=plan.best,
        ),
        left_out=plan.left_out,
        why=tuple(Words(shooting).of_left_out(plan.left_out, plan.clash)),
    )


def _guest(guest: Guest) -> PlannedGuest:
    return PlannedGuest(
        person=guest.person,
        most_min=guest.most_min,
        called_min=guest.called_min,
        spare_min=guest.spare_min,
        losses=tuple(
            PlannedLoss(from_min=loss.from_min, jobs=loss.jobs, shots=loss.shots) for loss in guest.losses
        ),
    )


def _day(table: DayTable) -> PlannedDay:
    return PlannedDay(
        date=table.day,
        jobs=tuple(_job(slot) for _, row in table.rows for slot in row),
        calls=tuple(
            PlannedCall(
                person=call.person,
                start=clock_text(call.from_min),
                end=clock_text(call.to_min),
                waits_min=call.waits_min,
            )
            for call in table.calls
        ),
    )


def _job(slot: Slot) -> PlannedJob:
    return PlannedJob(
        job=slot.job.key,
        name=slot.job.name,
        unit=slot.job.unit,
        place=slot.job.place,
        start=clock_text(slot.start_min),
        takes_from=clock_text(slot.takes_from_min),
        takes_to=clock_text(slot.takes_to_min),
        end=clock_text(slot.end_min),
        locked=slot.locked,
        changed=slot.change,
        change_min=slot.change_min,
        idle_min=slot.idle_min,
    )
