"""The board of days as it is answered."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from typing import Any

from jungoptic.app.days.fields import KINDS
from jungoptic.app.days.models import Booked, OfTheDays, job_key, set_up_and_block
from jungoptic.app.days.reading import DaysOf
from jungoptic.app.days.schemas import (
    BoardDayOut,
    BookingOut,
    BreakOut,
    CallOut,
    ChangedOut,
    ChoiceOut,
    DayRowOut,
    DaysCostsOut,
    DaysOut,
    DaysTriedOut,
    JobOfDayOut,
    OrderOut,
    SlotOut,
    SpanOut,
    WindowOut,
)
from jungoptic.app.productions.access import Role
from jungoptic.core import days as core
from jungoptic.core.errors import InputError

_SUN_EVERY_MIN = 15


def days_out(days: DaysOf, role: Role) -> DaysOut:
    """Everything that the board shows."""
    faults = [problem.message for problem in core.plan_faults(days.shooting)]
    bookings = days.bookings
    placed = {booking.job for booking in bookings}
    return DaysOut(
        production_id=days.production.pk,
        version=days.production.version,
        role=role.value,
        jobs=[_job(days, job) for job in days.jobs],
        order=[OrderOut(**order.model_dump()) for order in days.order],
        days=board(days, bookings),
        bookings=[_booking(row) for row in days.booked],
        unplaced=[job.key for job in days.jobs if job.key not in placed],
        costs=_costs(days, bookings),
        breaks=_breaks(days, core.plan_breaks(days.shooting, bookings)),
        why=list(days.planned.why),
        stale=bool(days.planned.planned_from) and days.planned.planned_from != days.digest,
        faults=faults,
        rows=list(_rows(days)),
        under_way=board(days, days.under_way) if days.under_way else [],
        duties=[ChoiceOut(key=key, title=title) for key, title in core.DUTIES.items()],
        weekdays=[ChoiceOut(key=key, title=title) for key, title in core.WEEKDAY_NAMES.items()],
        grid_min=days.shooting.grid_min,
        latest_min=core.LATEST_MIN,
    )


def board(days: DaysOf, bookings: tuple[core.Booking, ...]) -> list[BoardDayOut]:
    """Each shooting day with its jobs, who is called, and the sun."""
    rows = {row.date: row for row in days.days}
    told = []
    for table in core.timetable(days.shooting, bookings):
        row = rows[table.day]
        told.append(
            BoardDayOut(
                id=row.pk,
                version=row.version,
                date=row.date,
                name=row.name,
                note=row.note,
                rained_from_min=row.rained_from_min,
                units=[unit for unit, _ in table.rows],
                slots=[_slot(slot) for _, slots in table.rows for slot in slots],
                calls=[
                    CallOut(
                        person=call.person,
                        from_min=call.from_min,
                        to_min=call.to_min,
                        works_min=call.works_min,
                        waits_min=call.waits_min,
                    )
                    for call in table.calls
                ],
                places=list(table.places),
                daylight=[SpanOut(start_min=start, end_min=end) for start, end in table.daylight],
                sun=_sun(days, table),
            )
        )
    return told


def tried(days: DaysOf, moved: Mapping[str, core.Booking | None]) -> DaysTriedOut:
    """The plan with some bookings otherwise: what it costs, and which rules it breaks then."""
    now = days.bookings
    then = tuple(
        booking
        for booking in (*(own for own in now if own.job not in moved), *moved.values())
        if booking is not None
    )
    breaks = core.plan_breaks(days.shooting, then)
    return DaysTriedOut(costs=_costs(days, then), breaks=_breaks(days, breaks), days=board(days, then))


def bookings_of(days: DaysOf, rows: Iterable[Any]) -> dict[str, core.Booking | None]:
    """Bookings as they came, by their jobs. Raises InputError for one of a job or a day that there is not."""
    keys = {job.key for job in days.jobs}
    dates = {day.date for day in days.days}
    told: dict[str, core.Booking | None] = {}
    for number, row in enumerate(rows):
        key = job_key(row.set_up_id, row.block)
        if key not in keys:
            raise InputError.at(f"bookings.{number}.set_up_id", "There is no such job to film.")
        if row.date is not None and row.date not in dates:
            raise InputError.at(f"bookings.{number}.date", "This is none of the shooting days.")
        told[key] = (
            None
            if row.date is None
            else core.Booking(job=key, date=row.date, start=row.start_min, locked=row.locked)
        )
    return told


def _job(days: DaysOf, job: core.Job) -> JobOfDayOut:
    set_up, block = set_up_and_block(job.key)
    said = days.told.jobs.get(set_up)
    values = job.model_dump(exclude={"sun", "not_on", "table"})
    return JobOfDayOut(
        **values,
        set_up_id=set_up,
        block=block,
        set_ups=list(days.derived.set_ups.get(job.key, ())),
        sun=job.sun is not None,
        said=said.pk if said else None,
        version=said.version if said else 0,
    )


def _booking(row: Booked) -> BookingOut:
    return BookingOut(
        job=row.key,
        set_up_id=row.set_up_id,
        block=row.block,
        version=row.version,
        date=row.date,
        start_min=row.start_min,
        locked=row.locked,
    )


def _slot(slot: core.Slot) -> SlotOut:
    return SlotOut(
        job=slot.job.key,
        start_min=slot.start_min,
        takes_from_min=slot.takes_from_min,
        takes_to_min=slot.takes_to_min,
        end_min=slot.end_min,
        locked=slot.locked,
        change=[ChangedOut(kind=kind, minutes=minutes) for kind, minutes in slot.change],
        change_min=slot.change_min,
        idle_min=slot.idle_min,
        windows=[
            WindowOut(start_min=window.start_min, end_min=window.end_min, holds=window.holds)
            for window in slot.windows
        ],
    )


def _sun(days: DaysOf, table: core.DayTable) -> list[float]:
    places = {place.key: place for place in days.shooting.places}
    wanted = [places[key] for key in table.places] or list(places.values())
    place = next(
        (own for own in wanted if own.latitude_deg is not None and own.longitude_deg is not None), None
    )
    if place is None or place.latitude_deg is None or place.longitude_deg is None:
        return []
    course = core.sun_course(place.latitude_deg, place.longitude_deg, table.day, days.production.time_zone)
    return [round(float(height), 1) for height in course[::_SUN_EVERY_MIN, 1]]


def _costs(days: DaysOf, bookings: tuple[core.Booking, ...]) -> DaysCostsOut:
    planned = days.planned
    costs = core.plan_costs(days.shooting, bookings)
    return DaysCostsOut(
        days=costs.days,
        people_days=costs.people_days,
        changing_min=costs.changing_min,
        waiting_min=costs.waiting_min,
        fewest_days=planned.fewest_days,
        fewest_people_days=planned.fewest_people_days,
        best=planned.best,
    )


def _breaks(days: DaysOf, breaks: Iterable[core.Break]) -> list[BreakOut]:
    words = core.Words(days.shooting)
    return [
        BreakOut(
            kind=fault.kind,
            jobs=list(fault.jobs),
            day=fault.day,
            warns=fault.warns,
            sentence=words.of_break(fault),
        )
        for fault in breaks
    ]


def _rows(days: DaysOf) -> Iterable[DayRowOut]:
    every: dict[str, Iterable[OfTheDays]] = {
        "figures": [days.figures],
        "day": days.days,
        "person": days.hands,
        "site": days.sites.values(),
        "condition": days.conditions,
        "travel": days.travel,
        "job": days.told.jobs.values(),
        "order": days.told.orders,
    }
    assert every.keys() == KINDS.keys()
    for kind, rows in every.items():
        for row in rows:
            yield DayRowOut(
                kind=kind,
                id=row.pk,
                version=row.version,
                name=getattr(row, "name", ""),
                fields=row.values(),
            )
