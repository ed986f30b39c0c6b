"""What a call sheet calls for: jobs with their times and people with theirs; and what differs between two."""

from __future__ import annotations

from datetime import date
from typing import Annotated

from pydantic import Field

from .. import quantities as q
from .clock import Clock, clock_text, duration_text
from .timetable import DayTable

_Name = Annotated[str, Field(max_length=200)]


class CalledJob(q.Record):
    """A job of a sheet: what it is called, and from when to when it lasts."""

    key: _Name
    name: _Name
    start: Clock
    end: int


class CalledPerson(q.Record):
    """Somebody of a sheet: called when, gone when."""

    name: _Name
    start: Clock
    end: int


class Sheet(q.Record):
    """What a call sheet calls for on a day."""

    day: date
    jobs: tuple[CalledJob, ...] = ()
    people: tuple[CalledPerson, ...] = ()


def sheet_of(table: DayTable) -> Sheet:
    """What a day calls for.

    Parameters
    ----------
    table : DayTable
        The day as it is planned.

    Returns
    -------
    Sheet
        Jobs in order of time, people as they are called.

    Examples
    --------
    >>> from jungoptic.core.days import EXAMPLE, Booking, timetable
    >>> day = timetable(EXAMPLE, [Booking(job="cup", date="2027-10-16", start="10:00")])[0]
    >>> [person.name for person in sheet_of(day).people]
    ['supervisor', 'orla']
    """
    slots = sorted(
        (slot for _, row in table.rows for slot in row), key=lambda slot: (slot.start_min, slot.job.key)
    )
    return Sheet(
        day=table.day,
        jobs=tuple(
            CalledJob(
                key=slot.job.key,
                name=" ".join([*slot.job.shots[:1], slot.job.title])[:200],
                start=slot.start_min,
                end=slot.end_min,
            )
            for slot in slots
        ),
        people=tuple(
            CalledPerson(name=call.person, start=call.from_min, end=call.to_min) for call in table.calls
        ),
    )


def sheet_changes(before: Sheet, after: Sheet) -> list[str]:
    """What a sheet says otherwise than the one before it, as sentences.

    Parameters
    ----------
    before, after : Sheet
        Two sheets of one day.

    Returns
    -------
    list of str
        Jobs first, then people; none where nothing differs.

    Examples
    --------
    >>> from jungoptic.core.days import EXAMPLE, Booking, timetable
    >>> ten, noon = (
    ...     sheet_of(timetable(EXAMPLE, [Booking(job="cup", date="2027-10-16", start=start)])[0])
    ...     for start in ("10:00", "12:00")
    ... )
    >>> sheet_changes(ten, noon)[:2]
    ['The cup, both halves at 12:00, 2 h later.', 'supervisor called at 12:00, not 10:00.']
    """
    told = []
    was = {job.key: job for job in before.jobs}
    now = {job.key: job for job in after.jobs}
    for key, job in now.items():
        old = was.get(key)
        if old is None:
            told.append(f"New: {job.name} at {clock_text(job.start)}.")
        elif old.start != job.start:
            when = "later" if job.start > old.start else "earlier"
            by = duration_text(abs(job.start - old.start))
            told.append(f"{job.name} at {clock_text(job.start)}, {by} {when}.")
        elif old.end - old.start != job.end - job.start:
            told.append(f"{job.name} lasts until {clock_text(job.end)}, not {clock_text(old.end)}.")
    told += [f"Not on this day any more: {job.name}." for key, job in was.items() if key not in now]
    came = {person.name: person for person in before.people}
    come = {person.name: person for person in after.people}
    for name, person in come.items():
        earlier = came.get(name)
        if earlier is None:
            told.append(f"{name} called at {clock_text(person.start)}.")
        elif earlier.start != person.start:
            told.append(f"{name} called at {clock_text(person.start)}, not {clock_text(earlier.start)}.")
        elif earlier.end != person.end:
            told.append(f"{name} needed until {clock_text(person.end)}, not {clock_text(earlier.end)}.")
    told += [f"{name} not called any more." for name in came if name not in come]
    return told
