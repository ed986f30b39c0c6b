"""The day as it goes: late or early, what no longer fits and what to drop."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from datetime import date
from itertools import combinations

from .broken import Break
from .changing import Changing
from .checking import plan_breaks
from .clock import on_grid
from .opening import Openings
from .records import Booking, Job, Shooting

_MOST_DROPPED = 3


@dataclass(frozen=True, slots=True)
class FilmedToday:
    """What the log knows of a job on the day: when its first take began and, where all that it needs is
    circled, when that was; minutes after midnight.
    """

    job: str
    began_min: int
    done_min: int | None = None


@dataclass(frozen=True, slots=True)
class Expected:
    """When a job is filmed as the day goes, and how much later than planned (less than 0: earlier)."""

    job: str
    start_min: int
    end_min: int
    late_min: int
    state: str  # done, running, next


@dataclass(frozen=True, slots=True)
class Dropped:
    """Jobs that are left out of a day, so that the rest fits; ``loses`` are the shots that then lack a plate,
    ``elsewhere`` those of the jobs that another day could still have.
    """

    jobs: tuple[str, ...]
    loses: tuple[str, ...]
    elsewhere: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class DayAsItGoes:
    """A day at a minute of it: each job as expected, what that breaks, the least that would have to go."""

    expected: tuple[Expected, ...]
    breaks: tuple[Break, ...]
    drop: Dropped | None

    @property
    def late_min(self) -> int:
        """By how much the last job is later than planned."""
        return self.expected[-1].late_min if self.expected else 0


def day_as_it_goes(
    shooting: Shooting,
    bookings: Sequence[Booking],
    day: date,
    filmed: Sequence[FilmedToday],
    now_min: int,
) -> DayAsItGoes:
    """What a day comes to from now on.

    What is done is struck then; what is running ends when its minutes are over, or now; the next follow in
    their order, each as soon as it can and its people are called.

    Parameters
    ----------
    shooting : Shooting
        Jobs, people, places, windows, order.
    bookings : sequence of Booking
        The plan.
    day : date
        Today.
    filmed : sequence of FilmedToday
        What the log knows of today.
    now_min : int
        Minutes after midnight.

    Returns
    -------
    DayAsItGoes
        Jobs in order of time.

    Examples
    --------
    >>> from datetime import date
    >>> from jungoptic.core.days import EXAMPLE, plan_days
    >>> today, plan = date(2027, 10, 16), plan_days(EXAMPLE).bookings
    >>> late = day_as_it_goes(EXAMPLE, plan, today, [FilmedToday("cup", 12 * 60)], 12 * 60 + 5)
    >>> [(own.job, own.state, own.late_min) for own in late.expected][:2]
    [('cup', 'running', 5), ('clean', 'next', 5)]
    """
    planned = sorted(
        (booking for booking in bookings if booking.date == day),
        key=lambda booking: (booking.start, booking.job),
    )
    going = _Going(shooting, bookings, day, {own.job: own for own in filmed}, now_min)
    expected = going.expected(planned)
    breaks = going.breaks(expected)
    return DayAsItGoes(expected, breaks, going.least_dropped(planned) if breaks else None)


class _Going:
    def __init__(
        self,
        shooting: Shooting,
        bookings: Sequence[Booking],
        day: date,
        filmed: Mapping[str, FilmedToday],
        now_min: int,
    ) -> None:
        self.shooting, self.day, self.filmed, self.now_min = shooting, day, filmed, now_min
        self.others = [booking for booking in bookings if booking.date != day]
        self.jobs = {job.key: job for job in shooting.jobs}
        self.changing = Changing(shooting.changes, shooting.travel)
        self.openings = Openings(shooting)

    def expected(self, planned: Sequence[Booking]) -> tuple[Expected, ...]:
        """Each job as soon as it can be after those before it in its unit, once its people are called."""
        free: dict[str, tuple[int, Job | None]] = {}
        told: dict[str, Expected] = {}
        called = self._called(planned)
        step = self.shooting.grid_min
        for booking in sorted(planned, key=self._order):
            job = self.jobs[booking.job]
            known = self.filmed.get(job.key)
            end, last = free.get(job.unit, (0, None))
            if known is not None:
                start = max(known.began_min - job.before_min, 0)
                ready = known.done_min is not None
                stop = (
                    known.done_min + job.after_min
                    if known.done_min is not None
                    else max(start + job.minutes, self.now_min)
                )
                state = "done" if ready else "running"
            else:
                change = self.changing.between(last, job).minutes if last is not None else 0
                earliest = max(
                    end + on_grid(change, step),
                    self._after(job, told),
                    self.now_min,
                    *(called[person] for person in job.people),
                )
                start = self._opens(job, on_grid(earliest, step))
                stop, state = start + job.minutes, "next"
            free[job.unit] = (on_grid(stop, step), job)
            told[job.key] = Expected(job.key, start, stop, start - booking.start, state)
        return tuple(sorted(told.values(), key=lambda own: (own.start_min, own.job)))

    def _called(self, planned: Sequence[Booking]) -> dict[str, int]:
        called: dict[str, int] = {}
        for booking in planned:
            for person in self.jobs[booking.job].people:
                called[person] = min(called.get(person, booking.start), booking.start)
        return called

    def _order(self, booking: Booking) -> tuple[int, int, str]:
        known = self.filmed.get(booking.job)
        if known is None:
            return 1, booking.start, booking.job
        return 0, known.began_min, booking.job

    def _after(self, job: Job, told: Mapping[str, Expected]) -> int:
        """When all that must come before a job today is over."""
        ends = [
            told[order.first].end_min + order.rest_min
            for order in self.shooting.order
            if order.then == job.key and order.first in told and not order.waived
        ]
        return max(ends, default=0)

    def _opens(self, job: Job, from_min: int) -> int:
        """The first minute from one on at which every rule lets a job begin; that one where none does."""
        step = self.shooting.grid_min
        for first, last in self.openings.starts(job, self.day):
            if last * step >= from_min:
                return max(first * step, from_min)
        return from_min

    def breaks(self, expected: Iterable[Expected]) -> tuple[Break, ...]:
        """Rules that the day breaks as it goes; what is done or running breaks none any more."""
        standing = {own.job: own for own in expected if own.state != "next"}
        today = [Booking(job=own.job, date=self.day, start=own.start_min) for own in expected]
        as_long_as = tuple(
            job.model_copy(
                update={
                    "before_min": 0,
                    "takes_min": max(1, standing[job.key].end_min - standing[job.key].start_min),
                    "after_min": 0,
                }
            )
            if job.key in standing
            else job
            for job in self.shooting.jobs
        )
        shooting = self.shooting.model_copy(update={"locked": (), "jobs": as_long_as})
        return tuple(
            fault
            for fault in plan_breaks(shooting, [*self.others, *today])
            if not fault.warns and not set(fault.jobs) <= set(standing) and (fault.day in (None, self.day))
        )

    def least_dropped(self, planned: Sequence[Booking]) -> Dropped | None:
        """The fewest jobs without which the rest of the day fits, and of those the least loss: those that
        another day could have, then the shortest.
        """
        may = [booking for booking in planned if booking.job not in self.filmed]
        for count in range(1, min(_MOST_DROPPED, len(may)) + 1):
            fits = []
            for out in combinations(may, count):
                keys = {booking.job for booking in out}
                needed = any(
                    order.first in keys
                    and order.then not in keys
                    and order.then in {own.job for own in planned}
                    for order in self.shooting.order
                    if not order.waived
                )
                rest = [booking for booking in planned if booking.job not in keys]
                if not needed and not self.breaks(self.expected(rest)):
                    fits.append(self._dropped(keys))
            if fits:
                return min(fits, key=self._loss)
        return None

    def _dropped(self, keys: set[str]) -> Dropped:
        jobs = [self.jobs[key] for key in self.jobs if key in keys]
        later = [day for day in self.shooting.days if day > self.day]
        # what comes straight after something of today can be on no other day
        tied = {
            order.then
            for order in self.shooting.order
            if order.straight and not order.waived and order.first not in keys
        }
        return Dropped(
            jobs=tuple(job.key for job in jobs),
            loses=tuple(dict.fromkeys(shot for job in jobs for shot in job.shots)),
            elsewhere=tuple(
                job.key
                for job in jobs
                if job.key not in tied and any(self.openings.starts(job, other) for other in later)
            ),
        )

    def _loss(self, dropped: Dropped) -> tuple[int, int, int, tuple[str, ...]]:
        lost = len(dropped.jobs) - len(dropped.elsewhere)
        minutes = sum(self.jobs[key].minutes for key in dropped.jobs)
        return lost, len(dropped.loses), minutes, dropped.jobs
