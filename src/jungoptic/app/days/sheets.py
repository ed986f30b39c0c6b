"""Call sheets: what a day calls for, given out, and what has changed since."""

from __future__ import annotations

from datetime import date

from jungoptic.app.base.edits import Writing
from jungoptic.app.days.going import Going
from jungoptic.app.days.models import CallSheet
from jungoptic.app.days.reading import DaysOf
from jungoptic.app.days.schemas import CallSheetOut
from jungoptic.app.productions.models import Production
from jungoptic.core import days as core
from jungoptic.core.errors import InputError


def issue(write: Writing, day: date) -> CallSheet:
    """Give out a call sheet of a day as it stands. Raises InputError where nothing is filmed on it."""
    days = DaysOf(Production.objects.get(pk=write.production_id))
    sheet = core.sheet_of(Going(days).table(day))
    if not sheet.jobs:
        raise InputError.at("day", f"Nothing is filmed on {core.day_text(day)}: put a job on it first.")
    last = last_sheet(days.production, day)
    return CallSheet.objects.create(
        production=days.production,
        date=day,
        number=(last.number if last else 0) + 1,
        contents=sheet.model_dump(mode="json"),
        issued_by_id=write.person.pk,
    )


def last_sheet(production: Production, day: date) -> CallSheet | None:
    """The newest call sheet of a day."""
    sheets = CallSheet.objects.filter(production=production, date=day)
    return sheets.select_related("issued_by").order_by("number").last()


def sheet_out(going: Going, day: date, table: core.DayTable) -> CallSheetOut | None:
    """The newest call sheet of a day, and what is otherwise by now."""
    last = last_sheet(going.days.production, day)
    if last is None:
        return None
    return CallSheetOut(
        number=last.number,
        issued_at=last.issued_at,
        issued_by=last.issued_by.shown_name,
        job=last.job_id,
        changed=core.sheet_changes(last.sheet(), core.sheet_of(table)),
    )
