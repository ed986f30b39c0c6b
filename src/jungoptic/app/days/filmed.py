"""Jobs that are filmed: on which day, for how long, and who was there for them."""

from __future__ import annotations

from collections.abc import Collection, Iterable, Mapping, Sequence
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
    def end_min(self) -> int:
        """When it was struck."""
        return self.booking.start + self.job.minutes


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


def spent_min(
    person: str, filmed: Iterable[Filmed], ahead: Mapping[date, int], now: tuple[date, int] | None
) -> int:
    """How long somebody was there: on each day from the first job to the last; on the day that is under way
    until now while more of theirs is to come (``ahead``: from which minute on a day).
    """
    spans: dict[date, tuple[int, int]] = {}
    for own in filmed:
        if person in own.job.people:
            day = own.booking.date
            begin, end = spans.get(day, (own.booking.start, own.end_min))
            spans[day] = min(begin, own.booking.start), max(end, own.end_min)
    if now is not None and now[0] in spans and now[0] in ahead:
        begin, end = spans[now[0]]
        spans[now[0]] = begin, max(end, min(now[1], ahead[now[0]]))
    return sum(end - begin for begin, end in spans.values())
