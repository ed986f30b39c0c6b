"""Jobs that are filmed: on which day, and for how long."""

from __future__ import annotations

from collections.abc import Collection, Iterable, Sequence
from dataclasses import dataclass
from datetime import date

from jungoptic.app.days.logged import Rolls
from jungoptic.core import days as core


@dataclass(frozen=True)
class Filmed:
    """A job that is filmed: as long as it really took, and where it stands for that."""

    job: core.Job
    booking: core.Booking
    began_min: int | None = None
    done_min: int | None = None

    @property
    def span(self) -> tuple[date, int, int]:
        """The day, and from when to when it took until it was struck."""
        return self.booking.date, self.booking.start, self.booking.start + self.job.minutes


def began_min(rolls: Iterable[Rolls], day: date) -> int | None:
    """When the first take of a job began on a day."""
    return min((own.first[day] for own in rolls if day in own.first), default=None)


def filmed_job(
    job: core.Job, rolls: Sequence[Rolls], booked: core.Booking | None, dates: Collection[date]
) -> Filmed | None:
    """A job that needs no more takes, on the day of its last circled take, or else where it was booked; None
    where neither is one of the dates.
    """
    ends = [end for own in rolls for end in own.circled.items() if end[0] in dates]
    if not ends or "." in job.key:
        return Filmed(job, booked) if booked is not None and booked.date in dates else None
    day, done = max(ends)
    began = began_min(rolls, day)
    assert began is not None  # what is circled is a take
    start = max(0, began - job.before_min)
    lasted = {"before_min": began - start, "takes_min": max(1, done - began)}
    booking = core.Booking(job=job.key, date=day, start=min(start, core.LATEST_MIN))
    return Filmed(job.model_copy(update=lasted), booking, began, done)
