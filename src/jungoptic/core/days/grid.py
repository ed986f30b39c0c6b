"""The shooting in steps of its grid, everything that is asked again and again worked out once."""

from __future__ import annotations

import math
from collections import defaultdict
from collections.abc import Sequence
from datetime import date
from functools import cached_property

from .changing import Changing
from .clock import MINUTES_A_DAY, Spans
from .opening import Openings
from .records import Booking, Job, Order, Shooting


class Grid:
    """Jobs, days, openings, changes and order, in steps. ``starts`` holds, for each job and each day on which
    it can be, the first and last steps at which it may begin.
    """

    def __init__(self, shooting: Shooting, earliest: tuple[date, int] | None = None) -> None:
        self.shooting, self.step_min = shooting, shooting.grid_min
        self.jobs: dict[str, Job] = {job.key: job for job in shooting.jobs}
        self.length = {job.key: self.up(job.minutes) for job in shooting.jobs}
        self.days = sorted(shooting.days)
        self.offset = [(day - self.days[0]).days * self.day_steps for day in self.days]
        self.openings = Openings(shooting)
        self.changing = Changing(shooting.changes, shooting.travel)
        self.starts: dict[tuple[str, int], Spans] = {
            (job.key, index): spans
            for job in shooting.jobs
            for index, day in enumerate(self.days)
            if (spans := self._after(earliest, job, day, self.openings.starts(job, day)))
        }
        self.before: dict[str, list[Order]] = defaultdict(list)
        self.after: dict[str, list[Order]] = defaultdict(list)
        for order in shooting.order:
            if not order.waived and order.first in self.jobs and order.then in self.jobs:
                self.before[order.then].append(order)
                self.after[order.first].append(order)
        self._longest_day = {own.key: own.longest_day_min // self.step_min for own in shooting.people}
        # The longest job of somebody that is locked to a day stays, whatever they may.
        self._locked: dict[tuple[str, date], int] = defaultdict(int)
        for booking in shooting.locked:
            for person in self.jobs[booking.job].people:
                here = person, booking.date
                self._locked[here] = max(self._locked[here], self.length[booking.job])
        self.most = {
            own.key: max(
                own.left_min // self.step_min,
                *(steps for (person, _), steps in self._locked.items() if person == own.key),
                0,
            )
            for own in shooting.people
            if own.left_min is not None
        }
        self.models = {place.key: place.models_at_once for place in shooting.places}

    def longest(self, person: str, index: int) -> int:
        """How long somebody may stay on a day."""
        return max(self._longest_day[person], self._locked.get((person, self.days[index]), 0))

    def _after(
        self, earliest: tuple[date, int] | None, job: Job, day: date, spans: Spans
    ) -> tuple[tuple[int, int], ...]:
        """What of some spans is not over yet; what is locked stays."""
        if earliest is None or job.key in self.openings.locked or day > earliest[0]:
            return spans
        if day < earliest[0]:
            return ()
        step = self.up(earliest[1])
        return tuple((max(first, step), last) for first, last in spans if last >= step)

    def up(self, minutes: float) -> int:
        """Minutes as steps, rounded up."""
        return math.ceil(minutes / self.step_min)

    @cached_property
    def change(self) -> dict[tuple[str, str], int]:
        """What a change takes between any two jobs of one unit."""
        return {
            (a.key, b.key): self.up(self.changing.between(a, b).minutes)
            for a in self.shooting.jobs
            for b in self.shooting.jobs
            if a.unit == b.unit and a.key != b.key
        }

    @property
    def all_can_be(self) -> bool:
        """Whether each job by itself can be on some day."""
        return {key for key, _ in self.starts} == set(self.jobs)

    @property
    def least_days(self) -> int:
        """So many days at least, by minutes alone: the longest days that any unit has, until all its jobs
        fit.
        """
        units: dict[str, list[str]] = defaultdict(list)
        for key, job in self.jobs.items():
            units[job.unit].append(key)
        least = 0
        for keys in units.values():
            lengths = sorted((self._longest(keys, index) for index in range(len(self.days))), reverse=True)
            left, count = sum(self.length[key] for key in keys), 0
            while left > 0 and count < len(lengths):
                left -= lengths[count]
                count += 1
            least = max(least, count)
        return least

    def _longest(self, keys: Sequence[str], index: int) -> int:
        here = [key for key in keys if (key, index) in self.starts]
        if not here:
            return 0
        return self.longest_day(here, index)

    def longest_day(self, keys: Sequence[str], index: int) -> int:
        """How long a day can be with some jobs that can be on it: from the first to the last possible, or as
        long as somebody who is always there may stay.
        """
        always = set.intersection(*(set(self.jobs[key].people) for key in keys))
        first = min(self.starts[key, index][0][0] for key in keys)
        last = max(self.starts[key, index][-1][1] + self.length[key] for key in keys)
        return min([last - first, *(self.longest(person, index) for person in always)])

    def apart(self, a: Job, b: Job) -> int | None:
        """How many steps must lie between two jobs of different units, whichever is first; None where both
        can be at one time.
        """
        people = set(a.people) & set(b.people)
        camera = a.camera and a.camera == b.camera
        table = a.table and (a.place, a.table) == (b.place, b.table)
        if a.unit == b.unit or not (people or camera or table):
            return None
        return self.up(self.changing.travel_min(a.place, b.place)) if people or camera else 0

    @property
    def day_steps(self) -> int:
        """From one midnight to the next."""
        return MINUTES_A_DAY // self.step_min

    def next_day(self, index: int) -> bool:
        """Whether another of the days follows without a day between."""
        return index + 1 < len(self.days) and self.offset[index + 1] - self.offset[index] == self.day_steps

    def index(self, booking: Booking) -> int:
        """Which of the days a booking is on."""
        return self.days.index(booking.date)

    def moment(self, booking: Booking) -> int:
        """The step at which a booking begins, counted from the first midnight."""
        return self.offset[self.index(booking)] + booking.start // self.step_min

    def booking(self, key: str, index: int, step: int) -> Booking:
        """A job on a day at a step of it; what is locked keeps its minute."""
        locked = self.openings.locked.get(key)
        return locked or Booking(job=key, date=self.days[index], start=step * self.step_min)

    def may(self, order: Order, first_day: int, then_day: int) -> bool:
        """Whether two jobs in this order can be on these two days, by their openings and the rest between."""
        first, then = self.starts[order.first, first_day], self.starts[order.then, then_day]
        end = self.offset[first_day] + first[0][0] + self.length[order.first] + self.up(order.rest_min)
        return end <= self.offset[then_day] + then[-1][1]
