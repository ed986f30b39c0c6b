"""What is told of a plan that is looked at: rules broken, costs; and its jobs as they are filmed."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date

from .records import Booking, Job, Shooting


@dataclass(frozen=True, slots=True)
class Break:
    """A rule that a plan breaks: of which kind, which jobs, what else (person, place, condition), on which
    day, and by how much: minutes, or degrees where the sun is off its key.

    ``warns`` is one that somebody waived.
    """

    kind: str
    jobs: tuple[str, ...]
    of: str = ""
    day: date | None = None
    over: float = 0.0
    warns: bool = False


@dataclass(frozen=True, slots=True)
class Costs:
    """What a plan costs, in the order in which it counts."""

    days: int
    people_days: int
    changing_min: int
    waiting_min: int
    earlier_min: int

    @property
    def counts(self) -> tuple[int, ...]:
        """For comparing two plans; what is less comes first."""
        return self.days, self.people_days, self.changing_min, self.waiting_min, self.earlier_min


@dataclass(frozen=True, slots=True)
class Filmed:
    """A job as a plan films it, minutes after midnight and from the first of all days on."""

    job: Job
    day: date
    start: int
    absolute: int
    minutes: int

    @property
    def end(self) -> int:
        """When it is struck."""
        return self.start + self.minutes

    @property
    def takes(self) -> tuple[int, int]:
        """When the takes begin and end."""
        return self.start + self.job.before_min, self.start + self.job.before_min + self.job.takes_min


def filmed_in_order(shooting: Shooting, bookings: Sequence[Booking]) -> list[Filmed]:
    """The jobs of a plan in order of time, their lengths in whole steps of the grid."""
    jobs = {job.key: job for job in shooting.jobs}
    step = shooting.grid_min
    told = []
    for booking in bookings:
        job = jobs[booking.job]
        days = booking.date.toordinal()
        minutes = math.ceil(job.minutes / step) * step
        told.append(Filmed(job, booking.date, booking.start, days * 1440 + booking.start, minutes))
    return sorted(told, key=lambda filmed: (filmed.absolute, filmed.job.key))
