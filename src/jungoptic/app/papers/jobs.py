"""The papers as jobs: a shot card, a shot's page of the break-down book, the book."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel

from jungoptic.app.days.models import CallSheet
from jungoptic.app.jobs.kinds import job_kind
from jungoptic.app.jobs.running import Running
from jungoptic.app.productions.access import WRITES
from jungoptic.core.vocabulary import School, Units

PDF = frozenset({"application/pdf"})


class Printing(BaseModel):
    """How a paper is printed."""

    paper: Literal["a4", "letter"] = "a4"
    units: Units = "metric"
    school: School = "measured"


def _print(running: Running, name: str, html: str, how: Printing) -> None:
    from jungoptic.app.papers.pdf import write_pdf

    running.advance(0.4)
    pdf = write_pdf(html)
    running.advance(0.95)
    running.finish(running.keep(f"{name}-{how.paper}.pdf", pdf, PDF))


@job_kind("card", Printing)
def card(running: Running, how: Printing) -> None:
    """The shot card of a shot."""
    from jungoptic.app.papers.shot_card import card_html

    shot = running.job.shot
    assert shot is not None
    running.advance(0.1)
    _print(
        running,
        f"{shot.code}-card",
        card_html(shot.pk, paper=how.paper, units=how.units, school=how.school),
        how,
    )


def _book(running: Running, how: Printing, name: str) -> None:
    from jungoptic.app.papers.book import book_html

    html = book_html(
        running.job.production_id,
        running.job.shot_id,
        paper=how.paper,
        units=how.units,
        school=how.school,
        advance=lambda done: running.advance(0.1 + 0.3 * done),
    )
    _print(running, name, html, how)


@job_kind("page", Printing)
def page(running: Running, how: Printing) -> None:
    """One shot's page of the book."""
    assert running.job.shot is not None
    _book(running, how, f"{running.job.shot.code}-page")


@job_kind("book", Printing, queue="heavy", longest_s=900.0)
def book(running: Running, how: Printing) -> None:
    """The whole book."""
    _book(running, how, f"{running.job.production.slug}-book")


class PrintingSheet(Printing):
    """Which call sheet."""

    sheet: int


@job_kind("call_sheet", PrintingSheet, asks=WRITES)
def call_sheet(running: Running, how: PrintingSheet) -> None:
    """A call sheet that was given out."""
    from jungoptic.app.papers.call_sheet import call_sheet_html

    sheet = CallSheet.objects.select_related("production", "issued_by").get(
        production=running.job.production_id, pk=how.sheet
    )
    running.advance(0.1)
    name = f"{sheet.production.slug}-{sheet.date.isoformat()}-call-sheet-{sheet.number}"
    _print(running, name, call_sheet_html(sheet, paper=how.paper, units=how.units), how)
