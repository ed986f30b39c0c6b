"""What fills a spare quarter of an hour of a day: the job nearest to what stands."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from datetime import date

from .changing import Change, Changing
from .checking import plan_breaks
from .clock import LATEST_MIN, on_grid
from .on_the_day import DayAsItGoes
from .opening import Openings, hours_on
from .records import Booking, Job, Shooting

SPARE_MIN = 15  # from so much on, something is looked for to fill it
_MOST_FILLERS = 5  # told, of those that are nearest
_MOST_TRIED = 16


@dataclass(frozen=True, slots=True)
class Filler:
    """A job that would fit into spare minutes: what must be changed for it, and when it would be done."""

    job: str
    change: Change
    end_min: int


def fillers(
    shooting: Shooting, bookings: Sequence[Booking], day: date, going: DayAsItGoes, now_min: int
) -> tuple[Filler, ...]:
    """Jobs of other days, or of none, that fit between what stands and what is next, the nearest first.

    Looked for where a quarter of an hour or more is spare; after the last job, until the first of those who
    film it goes.

    Parameters
    ----------
    shooting : Shooting
        Jobs, people, places, windows, order.
    bookings : sequence of Booking
        The plan, the day as it goes.
    day : date
        Today.
    going : DayAsItGoes
        What is done, what runs, and what is next.
    now_min : int
        Minutes after midnight.

    Returns
    -------
    tuple of Filler
        The nearest few; none of them breaks a rule.

    References
    ----------
    days_changes

    Examples
    --------
    >>> from datetime import date
    >>> from jungoptic.core.days import EXAMPLE, Booking, FilmedToday, day_as_it_goes
    >>> today = date(2027, 10, 16)
    >>> plan = [Booking(job="cup", date=today, start=600), Booking(job="clean", date=today, start=695)]
    >>> filmed = [FilmedToday("cup", 660, 684), FilmedToday("clean", 695, 700)]
    >>> going = day_as_it_goes(EXAMPLE, plan, today, filmed, 710)
    >>> [filler.job for filler in fillers(EXAMPLE, plan, today, going, 710)]
    ['sea']
    """
    stands = [own for own in going.expected if own.state != "next"]
    if not stands:
        return ()
    jobs = {job.key: job for job in shooting.jobs}
    last = max(stands, key=lambda own: own.start_min)
    lasts = on_grid(jobs[last.job].minutes, shooting.grid_min)
    ends = [own.start + lasts for own in bookings if own.job == last.job]
    begin = max([now_min, last.end_min, *ends])
    ahead = [own.start_min for own in going.expected if own.state == "next"]
    end = min(ahead, default=_people_go(shooting, day, jobs[last.job]))
    if end - begin < SPARE_MIN:
        return ()
    told: list[Filler] = []
    for start, job, change in _nearest(shooting, bookings, day, jobs[last.job], (begin, end)):
        tried = [booking for booking in bookings if booking.job != job.key]
        missing = any(
            order.then == job.key and not order.waived and order.first not in {b.job for b in tried}
            for order in shooting.order
        )
        if missing or len(told) == _MOST_FILLERS:
            continue
        before = set(plan_breaks(shooting, tried))
        own = Booking(job=job.key, date=day, start=start)
        if not set(plan_breaks(shooting, [*tried, own])) - before:
            told.append(Filler(job.key, change, start + job.minutes))
    return tuple(told)


def _people_go(shooting: Shooting, day: date, job: Job) -> int:
    """Until when everybody who films a job is there."""
    ends = [
        spans[-1][1]
        for person in shooting.people
        if person.key in job.people and (spans := hours_on(person.hours, person.off, day))
    ]
    return min(ends, default=LATEST_MIN)


def _nearest(
    shooting: Shooting, bookings: Sequence[Booking], day: date, stands: Job, free: tuple[int, int]
) -> Iterator[tuple[int, Job, Change]]:
    """Jobs that are not of the day and open in the free minutes, those with the least change first."""
    changing, openings = Changing(shooting.changes, shooting.travel), Openings(shooting)
    here = {booking.job for booking in bookings if booking.date == day}
    step = shooting.grid_min
    near = []
    for job in shooting.jobs:
        if job.key in here or job.key == stands.key:
            continue
        change = changing.between(stands, job)
        earliest = on_grid(free[0], step) + on_grid(change.minutes, step)
        starts = [
            max(first * step, earliest)
            for first, last in openings.starts(job, day)
            if last * step >= earliest and max(first * step, earliest) + job.minutes <= free[1]
        ]
        if starts:
            near.append((change.minutes, starts[0], job, change))
    for _, start, job, change in sorted(near, key=lambda row: (*row[:2], row[2].key))[:_MOST_TRIED]:
        yield start, job, change
