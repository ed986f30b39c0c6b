"""The days as they went and as they go: what is filmed where it was, the rest of today when to expect it."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date
from functools import cached_property

from jungoptic.app.days.reading import DaysOf
from jungoptic.core import days as core
from jungoptic.core.errors import InputError

SPARE_MIN = 15  # from so much on, something is looked for to fill it


@dataclass(frozen=True)
class Filmed:
    """A job that is filmed: as long as it really took, and where it stands for that."""

    job: core.Job
    booking: core.Booking
    began_min: int | None = None
    done_min: int | None = None


class Going:
    """What a production's days have come to."""

    def __init__(self, days: DaysOf) -> None:
        self.days = days
        self.dates = {day.date for day in days.days}
        self._goes: tuple[tuple[core.Booking, ...], core.DayAsItGoes] | None = None  # the last that was asked

    @cached_property
    def filmed(self) -> dict[str, Filmed]:
        """Jobs that are filmed, on the day of their last circled take, or else where they were booked."""
        days = self.days
        still = {job.key for job in days.jobs}
        booked = {row.key: row for row in days.booked if row.date in self.dates}
        told = {}
        for job in days.jobs_of(days.whole):
            if job.key in still:
                continue
            row = booked.get(job.key)
            own = self._as_logged(job)
            if own is not None:
                told[job.key] = own
            elif row is not None and row.date is not None:
                told[job.key] = Filmed(job, core.Booking(job=job.key, date=row.date, start=row.start_min))
        return told

    def _as_logged(self, job: core.Job) -> Filmed | None:
        rolls = [self.days.rolls.get(set_up) for set_up in self.days.whole.set_ups.get(job.key, ())]
        ends = [end for own in rolls if own for end in own.circled.items() if end[0] in self.dates]
        if not ends or "." in job.key:
            return None
        day, done = max(ends)
        began = self.days.began_min(self.days.whole, job.key, day)
        assert began is not None  # what is circled is a take
        start = max(0, began - job.before_min)
        lasted = {"before_min": began - start, "takes_min": max(1, done - began)}
        booking = core.Booking(job=job.key, date=day, start=min(start, core.LATEST_MIN))
        return Filmed(job.model_copy(update=lasted), booking, began, done)

    @cached_property
    def shooting(self) -> core.Shooting:
        """All days, those that are over too, with what was filmed on them."""
        days = self.days
        jobs = (*days.jobs, *(own.job for own in self.filmed.values()))
        order = days.order_of(days.whole, jobs)
        return days.shooting_of(days.whole, jobs, order, sorted(self.dates))

    def shown(self, bookings: tuple[core.Booking, ...]) -> tuple[core.Booking, ...]:
        """A plan with what is filmed, and the day that is under way as it goes."""
        today = self.days.now[0] if self.days.now else None
        going = self.as_it_goes(bookings)
        then = (*bookings, *(own.booking for own in self.filmed.values()))
        if going is None:
            return then
        locked = {booking.job for booking in bookings if booking.locked}
        expected = (
            core.Booking(
                job=own.job,
                date=today,
                start=min(own.start_min, core.LATEST_MIN),
                locked=own.job in locked,
            )
            for own in going.expected
        )
        return (*(booking for booking in then if booking.date != today), *expected)

    def tables(self, bookings: tuple[core.Booking, ...]) -> tuple[core.DayTable, ...]:
        """Every day as it is read, with a plan for what is still to be filmed."""
        return core.timetable(self.shooting, self.shown(bookings))

    def table(self, day: date) -> core.DayTable:
        """One day as it is booked and to be expected. Raises InputError for one that is no shooting day."""
        for own in self.tables(self.days.bookings):
            if own.day == day:
                return own
        raise InputError.at("day", f"{core.day_text(day)} is none of the shooting days.")

    def late_min(self, key: str) -> int:
        """By how much a job was begun later than it was booked on its day."""
        own = self.filmed.get(key)
        row = next((row for row in self.days.booked if row.key == key), None)
        if own is None or row is None or row.date != own.booking.date:
            return 0
        return own.booking.start - row.start_min

    # --- the day that is under way

    def as_it_goes(self, bookings: tuple[core.Booking, ...]) -> core.DayAsItGoes | None:
        """The day that is under way, from now on; None where none is."""
        if self.days.now is None:
            return None
        if self._goes is None or self._goes[0] is not bookings:
            day, minute = self.days.now
            booked = self._as_booked(bookings, day)
            filmed = self.logged_on(day)
            self._goes = bookings, core.day_as_it_goes(self._in_the_rain, booked, day, filmed, minute)
        return self._goes[1]

    @cached_property
    def _in_the_rain(self) -> core.Shooting:
        return self.days.in_rain(self.shooting)

    def _as_booked(self, bookings: tuple[core.Booking, ...], day: date) -> tuple[core.Booking, ...]:
        """Bookings with what was begun on a day when it was planned to be, so that late is told from it."""
        booked = {row.key: row.start_min for row in self.days.booked if row.date == day}
        begun = {*self.filmed, *self.days.running}
        return tuple(
            own.model_copy(update={"start": booked.get(own.job, own.start)})
            if own.date == day and own.job in begun
            else own
            for own in (*bookings, *(own.booking for own in self.filmed.values()))
        )

    def logged_on(self, day: date) -> list[core.FilmedToday]:
        """What the log knows of a day."""
        done = [
            core.FilmedToday(key, own.began_min, own.done_min)
            for key, own in self.filmed.items()
            if own.booking.date == day and own.began_min is not None
        ]
        running = self.days.running.items() if self.days.now and self.days.now[0] == day else ()
        return [*done, *(core.FilmedToday(key, began) for key, began in running)]

    def fillers(self, going: core.DayAsItGoes, bookings: tuple[core.Booking, ...]) -> tuple[core.Filler, ...]:
        """What fits between what stands now and what is next, where a quarter of an hour is spare."""
        assert self.days.now is not None
        day, minute = self.days.now
        stands = [own for own in going.expected if own.state != "next"]
        ahead = [own.start_min for own in going.expected if own.state == "next"]
        if not stands:
            return ()
        last = max(stands, key=lambda own: own.start_min)
        begin = max(minute, last.end_min)
        end = min(ahead, default=self._people_go(day, last.job))
        if end - begin < SPARE_MIN:
            return ()
        shown = self.shown(bookings)
        return core.fillers(self._in_the_rain, shown, day, last.job, begin, end)

    def _people_go(self, day: date, job: str) -> int:
        """Until when whoever films a job is there."""
        people = {person.key: person for person in self.shooting.people}
        wanted = next(own.people for own in self.shooting.jobs if own.key == job)
        ends = [
            spans[-1][1]
            for key in wanted
            if (spans := core.hours_on(people[key].hours, people[key].off, day))
        ]
        return min(ends, default=core.LATEST_MIN)
