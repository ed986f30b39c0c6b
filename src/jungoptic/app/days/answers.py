"""The board of days as it is answered."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from datetime import date
from typing import Any

from jungoptic.app.days.fields import KINDS, SHOWN_OF_JOB, JobFields
from jungoptic.app.days.going import Going
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
    DropOut,
    FillerOut,
    GuestOut,
    JobOfDayOut,
    LightOut,
    OrderOut,
    PersonOfDayOut,
    PlaceOfDaysOut,
    ShootingDayOut,
    SlotOut,
    SpanOut,
    WindowOut,
)
from jungoptic.app.days.sheets import sheet_out
from jungoptic.app.productions.access import Role
from jungoptic.core import days as core
from jungoptic.core.errors import InputError
from jungoptic.core.handbook import record_fields

_SUN_EVERY_MIN = 15
_FIELDS = {
    "figures": list(record_fields(core.DayFigures)),
    "job": [own for own in record_fields(JobFields) if own.name in SHOWN_OF_JOB],
}


def days_out(days: DaysOf, role: Role) -> DaysOut:
    """Everything that the board shows."""
    faults = [problem.message for problem in core.plan_faults(days.shooting)]
    bookings, going = days.bookings, Going(days)
    placed = {booking.job for booking in bookings}
    return DaysOut(
        production_id=days.production.pk,
        version=days.production.version,
        role=role.value,
        jobs=jobs_out(going),
        order=[OrderOut(**order.model_dump()) for order in days.order],
        days=board(going, bookings),
        bookings=[_booking(row) for row in days.booked],
        unplaced=[job.key for job in days.jobs if job.key not in placed],
        costs=_costs(days, bookings),
        breaks=_breaks(core.Words(going.shooting), breaks_of(going, bookings)),
        guests=_guests(going, going.guests(bookings)),
        why=list(days.planned.why),
        stale=bool(days.planned.planned_from) and days.planned.planned_from != days.digest,
        faults=faults,
        rows=list(_rows(days)),
        said_of={name: list(kind.same) for name, kind in KINDS.items() if kind.says_of},
        under_way=board(going, days.under_way) if days.under_way else [],
        places=[
            PlaceOfDaysOut(
                id=place.pk, name=place.name, site=days.sites[place.pk].pk if place.pk in days.sites else None
            )
            for place in days.places
        ],
        fields=_FIELDS,
        lights=[ChoiceOut(key=key, title=title) for key, title in core.LIGHTS.items()],
        duties=[ChoiceOut(key=key, title=title) for key, title in core.DUTIES.items()],
        weekdays=[ChoiceOut(key=key, title=title) for key, title in core.WEEKDAY_NAMES.items()],
        grid_min=days.shooting.grid_min,
        latest_min=core.LATEST_MIN,
    )


def board(going: Going, bookings: tuple[core.Booking, ...]) -> list[BoardDayOut]:
    """Each shooting day with its jobs, who is called, and the sun: what is filmed where it was, the day that
    is under way as it goes, the others as planned.
    """
    return [_day(going, table, bookings) for table in going.tables(bookings)]


def _day(going: Going, table: core.DayTable, bookings: tuple[core.Booking, ...]) -> BoardDayOut:
    days = going.days
    row = next(row for row in days.days if row.date == table.day)
    now = going.as_it_goes(bookings) if days.now and days.now[0] == table.day else None
    expected = {own.job: own for own in now.expected} if now else {}
    return BoardDayOut(
        id=row.pk,
        version=row.version,
        date=row.date,
        name=row.name,
        note=row.note,
        rained_from_min=row.rained_from_min,
        wrapped=row.wrapped,
        over=days.is_over(row),
        now_min=days.now[1] if days.now and now else None,
        late_min=now.late_min if now else 0,
        units=[unit for unit, _ in table.rows],
        slots=[_slot(going, slot, expected) for _, slots in table.rows for slot in slots],
        calls=[
            CallOut(
                person=call.person,
                from_min=call.from_min,
                to_min=call.to_min,
                waits_min=call.waits_min,
                waits=_spans(call.waits),
            )
            for call in table.calls
        ],
        places=list(table.places),
        daylight=_spans(table.daylight),
        sun=_sun(days, table),
    )


def _spans(spans: Iterable[tuple[int, int]]) -> list[SpanOut]:
    return [SpanOut(start_min=start, end_min=end) for start, end in spans]


def day_out(days: DaysOf, role: Role, day: date) -> ShootingDayOut:
    """One day as a crew follows it. Raises InputError for a date that is no shooting day."""
    going, bookings = Going(days), days.bookings
    table = going.table(day)
    own = _day(going, table, bookings)
    dates = [row.date for row in days.days]
    place = dates.index(day)
    now = going.as_it_goes(bookings) if own.now_min is not None else None
    words = core.Words(going.shooting)
    drop = now.drop if now else None
    fillers = going.fillers(now, bookings) if now else ()
    wanted = {slot.job for slot in own.slots} | {filler.job for filler in fillers}
    return ShootingDayOut(
        production_id=days.production.pk,
        version=days.production.version,
        role=role.value,
        day=own,
        before=dates[place - 1] if place else None,
        after=dates[place + 1] if place + 1 < len(dates) else None,
        jobs=[job for job in jobs_out(going) if job.key in wanted],
        breaks=_breaks(words, [own for own in breaks_of(going, bookings) if own.day in (None, day)]),
        drop=DropOut(jobs=list(drop.jobs), sentence=words.of_dropped(drop)) if drop else None,
        fillers=[
            FillerOut(
                job=filler.job,
                change=[ChangedOut(kind=kind, minutes=minutes) for kind, minutes in filler.change.parts],
                change_min=filler.change.minutes,
                end_min=filler.end_min,
            )
            for filler in fillers
        ],
        light=_light(days, table),
        people=[
            PersonOfDayOut(
                id=hand.pk,
                name=hand.name,
                off=day in person.off,
                hours=_spans(core.hours_on(person.hours, (), day)),
            )
            for hand, person in zip(days.hands, days.shooting.people, strict=True)
        ],
        guests=_guests(
            going,
            [own for own in going.guests(bookings) if own.person in {call.person for call in table.calls}],
        ),
        sheet=sheet_out(going, day, table),
    )


def _light(days: DaysOf, table: core.DayTable) -> list[LightOut]:
    if table.lit_at is None or table.lit_at.lies is None:
        return []
    light = core.light_of_day(*table.lit_at.lies, table.day, days.production.time_zone)
    return [LightOut(kind=kind, spans=_spans(spans)) for kind, spans in light.items()]


def breaks_of(going: Going, bookings: tuple[core.Booking, ...]) -> list[core.Break]:
    """What a plan breaks, the day that is under way as it goes."""
    days, now = going.days, going.as_it_goes(bookings)
    today = days.now[0] if days.now else None
    planned = [
        own for own in core.plan_breaks(days.shooting, bookings) if own.day is None or own.day != today
    ]
    return [*(now.breaks if now else ()), *planned]


def tried(days: DaysOf, moved: Mapping[str, core.Booking | None]) -> DaysTriedOut:
    """The plan with some bookings otherwise: what it costs, and which rules it breaks then."""
    now = days.bookings
    then = tuple(
        booking
        for booking in (*(own for own in now if own.job not in moved), *moved.values())
        if booking is not None
    )
    going = Going(days)
    return DaysTriedOut(
        costs=_costs(days, then),
        breaks=_breaks(core.Words(going.shooting), breaks_of(going, then)),
        days=board(going, then),
    )


def bookings_of(days: DaysOf, rows: Iterable[Any]) -> dict[str, core.Booking | None]:
    """Bookings as they came, by their jobs. Raises InputError for one of a job or a day that there is not."""
    keys = {job.key for job in days.jobs}
    dates = set(days.open_dates)
    told: dict[str, core.Booking | None] = {}
    for number, row in enumerate(rows):
        key = job_key(row.set_up_id, row.block)
        if key not in keys:
            raise InputError.at(f"bookings.{number}.set_up_id", "There is no such job to film.")
        if row.date is not None and row.date not in dates:
            raise InputError.at(
                f"bookings.{number}.date", "This is none of the shooting days, or it is over."
            )
        told[key] = (
            None
            if row.date is None
            else core.Booking(job=key, date=row.date, start=row.start_min, locked=row.locked)
        )
    return told


def jobs_out(going: Going) -> list[JobOfDayOut]:
    """What is still to be filmed, then what is filmed on one of the days."""
    days = going.days
    over = {row.date for row in days.days if days.is_over(row)}
    slipped = {row.key: row.date for row in days.booked if row.date in over}
    return [
        *(_job(days, job, days.derived, slipped.get(job.key)) for job in days.jobs),
        *(_job(days, own.job, days.whole, None, filmed=True) for own in going.filmed.values()),
    ]


def _job(
    days: DaysOf, job: core.Job, derived: core.Derived, slipped: date | None, filmed: bool = False
) -> JobOfDayOut:
    set_up, block = set_up_and_block(job.key)
    said = days.told.jobs.get(set_up)
    values = job.model_dump(exclude={"sun", "not_on", "table"})
    return JobOfDayOut(
        **values,
        shot_id=days.shot_ids[set_up],
        set_up_id=set_up,
        block=block,
        set_ups=list(derived.set_ups.get(job.key, ())),
        sun=job.sun is not None,
        said=said.pk if said else None,
        version=said.version if said else 0,
        filmed=filmed,
        slipped_from=slipped,
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


def _slot(going: Going, slot: core.Slot, expected: Mapping[str, core.Expected]) -> SlotOut:
    own = expected.get(slot.job.key)
    filmed = slot.job.key in going.filmed
    return SlotOut(
        job=slot.job.key,
        state=own.state if own else "done" if filmed else "next",
        late_min=own.late_min if own else going.late_min(slot.job.key),
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
    if table.lit_at is None or table.lit_at.lies is None:
        return []
    course = core.sun_course(*table.lit_at.lies, table.day, days.production.time_zone)
    heights: list[float] = course[::_SUN_EVERY_MIN, 1].round(1).tolist()
    return heights


def _costs(days: DaysOf, bookings: tuple[core.Booking, ...]) -> DaysCostsOut:
    planned = days.planned
    proven = planned.jobs == len(days.jobs)
    costs = core.plan_costs(days.shooting, bookings)
    return DaysCostsOut(
        days=costs.days,
        people_days=costs.people_days,
        changing_min=costs.changing_min,
        waiting_min=costs.waiting_min,
        fewest_days=planned.fewest_days if proven else 0,
        fewest_people_days=planned.fewest_people_days if proven else 0,
        best=planned.best and proven,
    )


def _breaks(words: core.Words, breaks: Iterable[core.Break]) -> list[BreakOut]:
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


def _guests(going: Going, guests: Iterable[core.Guest]) -> list[GuestOut]:
    words = core.Words(going.shooting)
    return [
        GuestOut(person=guest.person, spare_min=guest.spare_min, sentence=words.of_guest(guest))
        for guest in guests
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
