"""A plan as it is read: each day with its jobs, what is changed between them, who is there, and the sun."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
from itertools import pairwise

from .changing import Changing
from .clock import Spans, joined
from .opening import Openings, hours_on
from .records import Booking, Job, Place, Shooting
from .sunlight import SunWindow, light_spans, sun_windows


@dataclass(frozen=True, slots=True)
class Slot:
    """A job on its day: times in minutes after midnight; ``change`` is what is changed before it (kind and
    minutes, the dearest first) in ``change_min`` in all, ``idle_min`` what is left over then.
    """

    job: Job
    start_min: int
    takes_from_min: int
    takes_to_min: int
    end_min: int
    locked: bool
    change: tuple[tuple[str, int], ...] = ()
    change_min: int = 0
    idle_min: int = 0
    windows: tuple[SunWindow, ...] = ()


@dataclass(frozen=True, slots=True)
class Call:
    """Somebody on a day: called when, gone when, and the ``waits`` between their jobs, beside the change from
    one of them straight to another; their hours.
    """

    person: str
    from_min: int
    to_min: int
    waits: Spans = ()
    hours: Spans = ()

    @property
    def waits_min(self) -> int:
        """Minutes with nothing to do."""
        return sum(end - start for start, end in self.waits)


@dataclass(frozen=True, slots=True)
class DayTable:
    """One day: its rows by unit, who is called, its places, and daylight (spans) at ``lit_at``, the first of
    them, or else of all places, of which somebody said where it lies.
    """

    day: date
    rows: tuple[tuple[str, tuple[Slot, ...]], ...]
    calls: tuple[Call, ...]
    places: tuple[str, ...]
    daylight: Spans = ()
    lit_at: Place | None = None


def timetable(shooting: Shooting, bookings: Sequence[Booking]) -> tuple[DayTable, ...]:
    """A plan day by day.

    Parameters
    ----------
    shooting : Shooting
        Jobs, people, places, windows, order.
    bookings : sequence of Booking
        The plan.

    Returns
    -------
    tuple of DayTable
        Each of the days, those without work too.

    Raises
    ------
    KeyError
        A booking of a job that is not there.

    Examples
    --------
    >>> from jungoptic.core.days import EXAMPLE
    >>> day = timetable(EXAMPLE, [Booking(job="cup", date="2027-10-16", start="10:00")])[0]
    >>> [(call.person, call.from_min, call.to_min) for call in day.calls]
    [('supervisor', 600, 694), ('orla', 600, 694)]
    """
    changing = Changing(shooting.changes, shooting.travel)
    openings = Openings(shooting)
    jobs = {job.key: job for job in shooting.jobs}
    told = []
    for day in sorted(shooting.days):
        rows: dict[str, list[Slot]] = {}
        for booking in sorted(bookings, key=lambda booking: (booking.start, booking.job)):
            if booking.date == day:
                job = jobs[booking.job]
                rows.setdefault(job.unit, []).append(_slot(shooting, openings, job, booking))
        spaced = tuple((unit, _spaced(changing, row)) for unit, row in sorted(rows.items()))
        slots = [slot for _, row in spaced for slot in row]
        lit_at = _lit_at(shooting, slots)
        told.append(
            DayTable(
                day=day,
                rows=spaced,
                calls=_calls(shooting, day, [row for _, row in spaced]),
                places=tuple(dict.fromkeys(slot.job.place for slot in slots)),
                daylight=_daylight(shooting, day, lit_at),
                lit_at=lit_at,
            )
        )
    return tuple(told)


def _slot(shooting: Shooting, openings: Openings, job: Job, booking: Booking) -> Slot:
    place = openings.places[job.place]
    windows: tuple[SunWindow, ...] = ()
    if job.sun is not None and place.latitude_deg is not None and place.longitude_deg is not None:
        spot = place.latitude_deg, place.longitude_deg, booking.date, shooting.time_zone
        windows = sun_windows(job.sun, *spot, place.horizon)
    begin = booking.start + job.before_min
    return Slot(
        job=job,
        start_min=booking.start,
        takes_from_min=begin,
        takes_to_min=begin + job.takes_min,
        end_min=booking.start + job.minutes,
        locked=booking.locked,
        windows=windows,
    )


def _spaced(changing: Changing, row: Sequence[Slot]) -> tuple[Slot, ...]:
    """The changes and what is left over written before each job but the first."""
    told = list(row[:1])
    for before, after in pairwise(row):
        change = changing.between(before.job, after.job)
        told.append(
            Slot(
                job=after.job,
                start_min=after.start_min,
                takes_from_min=after.takes_from_min,
                takes_to_min=after.takes_to_min,
                end_min=after.end_min,
                locked=after.locked,
                change=change.parts,
                change_min=change.minutes,
                idle_min=after.start_min - before.end_min - change.minutes,
                windows=after.windows,
            )
        )
    return tuple(told)


def _calls(shooting: Shooting, day: date, rows: Sequence[Sequence[Slot]]) -> tuple[Call, ...]:
    told = []
    for person in shooting.people:
        own = sorted(
            (slot for row in rows for slot in row if person.key in slot.job.people),
            key=lambda slot: slot.start_min,
        )
        changes = {
            after.job.key: after.change_min
            for row in rows
            for before, after in pairwise(row)
            if person.key in before.job.people and person.key in after.job.people
        }
        if own:
            told.append(
                Call(
                    person.key,
                    min(slot.start_min for slot in own),
                    max(slot.end_min for slot in own),
                    joined(
                        (before.end_min + changes.get(after.job.key, 0), after.start_min)
                        for before, after in pairwise(own)
                    ),
                    hours_on(person.hours, person.off, day),
                )
            )
    return tuple(told)


def _lit_at(shooting: Shooting, slots: Sequence[Slot]) -> Place | None:
    """The first place of the day's jobs, or else of all, of which somebody said where it lies."""
    wanted = {slot.job.place: number for number, slot in reversed(list(enumerate(slots)))}
    places = sorted(shooting.places, key=lambda place: wanted.get(place.key, len(slots)))
    return next((place for place in places if place.lies is not None), None)


def _daylight(shooting: Shooting, day: date, lit_at: Place | None) -> Spans:
    if lit_at is None or lit_at.lies is None:
        return ()
    return light_spans("day", *lit_at.lies, day, shooting.time_zone)
