"""Call sheets: given out, printed on a page, told apart; calendars and the table."""

from __future__ import annotations

import csv
import io
from datetime import date, datetime, timedelta
from typing import Any

from icalendar import Calendar

from jungoptic.app.days.models import CallSheet
from jungoptic.app.jobs.models import Job
from jungoptic.app.productions.models import Production
from tests.jobs import done
from tests.pdf import pages_of

from .conftest import Caller, a_key
from .test_days import DATES, book, days, say
from .test_days_go import shooting_day


def give_out(caller: Caller, production: Production, day: str) -> tuple[int, Any]:
    return caller("post", f"/productions/{production.pk}/call-sheets", {"day": day}, key=a_key())


def text_of(job: Job) -> tuple[str, int]:
    assert job.state == "ready" and job.file is not None, job.message
    pages = pages_of(job.file.read())
    return " ".join(" ".join(page.text for page in pages).split()), len(pages)


def test_a_call_sheet_is_a_page_and_the_next_says_what_has_changed(
    supervisor: Caller, production: Production
):
    first = next(day for day in days(supervisor, production)["days"] if len(day["slots"]) > 2)
    status, asked = give_out(supervisor, production, first["date"])
    assert status == 202, asked
    text, pages = text_of(done(asked["id"]))
    assert pages == 1
    names = {job["key"]: job["name"] for job in days(supervisor, production)["jobs"]}
    for slot in first["slots"]:
        assert (
            names[slot["job"]] in text and f"{slot['start_min'] // 60:02}:{slot['start_min'] % 60:02}" in text
        )
    for wanted in ("sunrise", "Camera A", "ISO", "not signed off", "If it rains", "Sister", "call sheet 1"):
        assert wanted in text, wanted
    assert shooting_day(supervisor, production, first["date"])["sheet"]["changed"] == []
    # a job goes, another moves: both are told before and on the next one
    last = max(first["slots"], key=lambda slot: slot["start_min"])
    booking = next(own for own in days(supervisor, production)["bookings"] if own["job"] == last["job"])
    row = {"set_up_id": int(last["job"]), "date": None, "version": booking["version"]}
    assert book(supervisor, production, row)[0] == 200
    changed = shooting_day(supervisor, production, first["date"])["sheet"]["changed"]
    assert any("Not on this day any more" in one and names[last["job"]] in one for one in changed)
    text, _ = text_of(done(give_out(supervisor, production, first["date"])[1]["id"]))
    assert "Changed since call sheet 1" in text and "Not on this day any more" in text
    assert [sheet.number for sheet in CallSheet.objects.all()] == [1, 2]


def test_nothing_is_called_for_on_a_day_without_work(supervisor: Caller, production: Production):
    for booking in days(supervisor, production)["bookings"]:
        if booking["date"] == DATES[0]:
            row = {"set_up_id": booking["set_up_id"], "date": None, "version": booking["version"]}
            assert book(supervisor, production, {**row, "block": booking["block"]})[0] == 200
    status, answer = give_out(supervisor, production, DATES[0])
    assert status == 422 and "Nothing is filmed" in answer["problems"][0]["message"]


def test_a_calendar_has_a_day_of_somebody_as_it_is_called(supervisor: Caller, production: Production):
    """Read again by the library of the format: times in the zone of the production, the clocks going back on
    the last Sunday of October.
    """
    _, written = supervisor("get", f"/productions/{production.pk}/calls.ics?name=Supervisor")
    calendar = Calendar.from_ical(written)
    events = {event["dtstart"].dt.date().isoformat(): event for event in calendar.walk("VEVENT")}
    board = {day["date"]: day for day in days(supervisor, production)["days"]}
    assert set(events) == {key for key, day in board.items() if day["slots"]}
    for key, event in events.items():
        call = next(own for own in board[key]["calls"] if own["person"] == "Supervisor")
        start: datetime = event["dtstart"].dt
        assert start.hour * 60 + start.minute == call["from_min"]
        last_sunday = date(2027, 10, 31)
        offset = timedelta(hours=1 if start.date() < last_sunday else 0)
        assert start.utcoffset() == offset
        assert event["dtend"].dt - start == timedelta(minutes=call["to_min"] - call["from_min"])
    assert len({str(event["uid"]) for event in events.values()}) == len(events)
    status, problems = supervisor("get", f"/productions/{production.pk}/calls.ics?name=Nobody")
    assert status == 422 and problems["problems"][0]["field"] == "person"


def test_all_days_are_a_table(supervisor: Caller, production: Production):
    model = next(own for own in days(supervisor, production)["rows"] if own["name"] == "Model")
    assert say(supervisor, production, "person", model["id"], name="=cmd")[0] == 200
    _, written = supervisor("get", f"/productions/{production.pk}/days.csv")
    rows = list(csv.DictReader(io.StringIO(written.decode())))
    board = days(supervisor, production)
    assert sorted(row["set-up"] for row in rows) == sorted(job["name"] for job in board["jobs"])
    assert not [cell for row in rows for cell in row.values() if cell.startswith("=")]
