"""The days for other programs: a calendar for each person, and everything as a table."""

from __future__ import annotations

import csv
import io
from datetime import UTC, datetime, timedelta

from jungoptic.app.base.csv_cells import harmless
from jungoptic.app.days.going import Going
from jungoptic.app.days.models import CallSheet
from jungoptic.app.days.reading import DaysOf
from jungoptic.app.productions.models import Production
from jungoptic.core import days as core
from jungoptic.core.errors import InputError

_COLUMNS = (
    "date",
    "start",
    "takes from",
    "takes to",
    "end",
    "shots",
    "set-up",
    "state",
    "place",
    "camera",
    "lens",
    "model",
    "backing",
    "light",
    "people",
    "change before, min",
)


def calendar_of(production: Production, person: str) -> bytes:
    """One event for each day on which somebody is called (RFC 5545), in the production's time zone. Raises
    InputError for somebody who is not there.
    """
    from icalendar import Calendar, Event

    days = DaysOf(production)
    if person not in {hand.name for hand in days.hands}:
        raise InputError.at("person", f"Nobody is called “{person}” here.")
    going = Going(days)
    numbers = dict(
        CallSheet.objects.filter(production=production).order_by("number").values_list("date", "number")
    )
    calendar = Calendar()
    calendar.add("prodid", "-//Jungoptic//Days//EN")
    calendar.add("version", "2.0")
    calendar.add("x-wr-calname", f"{production.title}: {person}")
    for table in going.tables(days.bookings):
        call = next((own for own in table.calls if own.person == person), None)
        if call is None:
            continue
        slots = sorted(
            (slot for _, row in table.rows for slot in row if person in slot.job.people),
            key=lambda slot: slot.start_min,
        )
        event = Event()
        name = "".join(char if char.isalnum() else "-" for char in person.casefold())
        event.add("uid", f"{production.slug}-{table.day.isoformat()}-{name}@jungoptic.invalid")
        event.add("dtstamp", datetime.now(UTC))
        event.add("sequence", numbers.get(table.day, 0))
        event.add("dtstart", days.clock.moment(table.day, call.from_min))
        event.add("dtend", days.clock.moment(table.day, call.to_min))
        event.add("summary", f"{production.title}: {', '.join(dict.fromkeys(s.job.place for s in slots))}")
        event.add("location", slots[0].job.place)
        event.add(
            "description",
            "\n".join(
                f"{core.clock_text(slot.start_min)} {' '.join(slot.job.shots)} {slot.job.title}, "
                f"{slot.job.place}"
                for slot in slots
            ),
        )
        calendar.add_component(event)
    dates = [day.date for day in days.days]
    calendar.add_missing_timezones(
        min(dates, default=days.today), max(dates, default=days.today) + timedelta(days=2)
    )
    written: bytes = calendar.to_ical()
    return written


def table_of_days(production: Production) -> str:
    """Every job with its day as CSV; those on no day come last."""
    going = Going(DaysOf(production))
    out = io.StringIO()
    writer = csv.writer(out)
    writer.writerow(_COLUMNS)
    placed = set()
    for table in going.tables(going.days.bookings):
        for _, row in table.rows:
            for slot in row:
                placed.add(slot.job.key)
                times = (slot.start_min, slot.takes_from_min, slot.takes_to_min, slot.end_min)
                cells = (table.day.isoformat(), *map(core.clock_text, times))
                writer.writerow([*cells, *_cells(going, slot.job), slot.change_min])
    for job in going.shooting.jobs:
        if job.key not in placed:
            writer.writerow(["", "", "", "", "", *_cells(going, job), ""])
    return out.getvalue()


def _cells(going: Going, job: core.Job) -> list[str]:
    values = (
        ", ".join(job.shots),
        job.name,
        "filmed" if job.key in going.filmed else "to film",
        job.place,
        job.camera,
        job.lens,
        job.model,
        job.backing,
        job.light,
        ", ".join(job.people),
    )
    return [harmless(value) for value in values]
