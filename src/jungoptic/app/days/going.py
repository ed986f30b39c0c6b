"""The days as they went and as they go: what is filmed where it was, the rest of today when to expect it."""

from __future__ import annotations

from datetime import date
from functools import cached_property

from jungoptic.app.days.filmed import Filmed
from jungoptic.app.days.models import Booked
from jungoptic.app.days.reading import DaysOf
from jungoptic.core import days as core
from jungoptic.core.errors import InputError


class Going:
    """What a production's days have come to."""

    def __init__(self, days: DaysOf) -> None:
        self.days = days
        self.dates = {day.date for day in days.days}
        # the last that was asked for
        self._goes: tuple[tuple[core.Booking, ...], core.DayAsItGoes] | None = None
        self._tables: tuple[tuple[core.Booking, ...], tuple[core.DayTable, ...]] | None = None

    @property
    def filmed(self) -> dict[str, Filmed]:
        """Jobs that are filmed on one of the days."""
        return self.days.filmed

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
        if self._tables is None or self._tables[0] is not bookings:
            self._tables = bookings, core.timetable(self.shooting, self.shown(bookings))
        return self._tables[1]

    def table(self, day: date) -> core.DayTable:
        """One day as it is booked and to be expected. Raises InputError for one that is no shooting day."""
        for own in self.tables(self.days.bookings):
            if own.day == day:
                return own
        raise InputError.at("day", f"{core.day_text(day)} is none of the shooting days.")

    def late_min(self, key: str) -> int:
        """By how much a job was begun later than it was booked on its day."""
        own, row = self.filmed.get(key), self._booked.get(key)
        if own is None or row is None or row.date != own.booking.date:
            return 0
        return own.booking.start - row.start_min

    @cached_property
    def _booked(self) -> dict[str, Booked]:
        return {row.key: row for row in self.days.booked}

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

    def guests(self, bookings: tuple[core.Booking, ...]) -> tuple[core.Guest, ...]:
        """Who is there only for so long in all: what was filmed, and what is still to come as it goes."""
        return core.guests(self.shooting, self.tables(bookings), {*self.filmed, *self.days.running})

    def fillers(self, going: core.DayAsItGoes, bookings: tuple[core.Booking, ...]) -> tuple[core.Filler, ...]:
        """What fits between what stands now and what is next."""
        assert self.days.now is not None
        return core.fillers(
            self._in_the_rain, self.shown(bookings), self.days.now[0], going, self.days.now[1]
        )
