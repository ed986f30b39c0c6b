"""Shot cards and the break-down book, asked for."""

from __future__ import annotations

from typing import Any

from django.http import HttpRequest, HttpResponse
from ninja import Router, Status

from jungoptic.app.base.desk import FILES
from jungoptic.app.base.once import writes
from jungoptic.app.base.schemas import Problems
from jungoptic.app.days.sheets import issue
from jungoptic.app.jobs.asking import ask_for
from jungoptic.app.jobs.kinds import Kind
from jungoptic.app.jobs.schemas import JobOut
from jungoptic.app.papers.calls import calendar_of, table_of_days
from jungoptic.app.papers.charts import chart_html
from jungoptic.app.papers.jobs import Printing, PrintingSheet, book, call_sheet, card, page
from jungoptic.app.papers.masks import mask_html
from jungoptic.app.papers.pdf import write_pdf
from jungoptic.app.papers.schemas import CallSheetIn, PaperIn
from jungoptic.app.people.signed_in import person
from jungoptic.app.people.waiting import asker
from jungoptic.app.productions import access
from jungoptic.app.productions.models import Production
from jungoptic.app.productions.writing import in_production
from jungoptic.app.shots.models import Shot
from jungoptic.app.shots.writing import in_shot

router = Router()


@router.get("/charts/{name}.pdf", include_in_schema=False)
def read_chart(request: HttpRequest, name: str) -> HttpResponse:
    """A chart to measure one's own kit with, at its true size. Anybody who is signed in."""
    pdf = FILES.run(asker(request), write_pdf, chart_html(name))
    answer = HttpResponse(pdf, content_type="application/pdf")
    answer["Content-Disposition"] = f'inline; filename="{name}.pdf"'
    return answer


@router.get("/layers/{layer_id}/mask.pdf", include_in_schema=False)
def read_mask(request: HttpRequest, layer_id: int, width_mm: float = 0.0) -> HttpResponse:
    """What is drawn over a layer's picture, as large as that stands on a monitor. Anybody in the
    production.
    """
    _, shot_id, versions = access.layer_seen(request, layer_id)
    pdf = FILES.run(asker(request), write_pdf, mask_html(shot_id, layer_id, versions, width_mm))
    answer = HttpResponse(pdf, content_type="application/pdf")
    answer["Content-Disposition"] = 'inline; filename="mask.pdf"'
    return answer


@router.post("/shots/{shot_id}/cards", response={202: JobOut, 409: Problems})
@writes
def make_card(request: HttpRequest, shot_id: int, payload: PaperIn) -> Any:
    """Have a shot card printed. Anybody in the production."""
    return _of_shot(request, shot_id, card, "Shot card", payload)


@router.post("/shots/{shot_id}/page", response={202: JobOut, 409: Problems})
@writes
def make_page(request: HttpRequest, shot_id: int, payload: PaperIn) -> Any:
    """Have one shot's page of the book printed. Anybody in the production."""
    return _of_shot(request, shot_id, page, "Page of the book", payload)


def _how(payload: PaperIn) -> Printing:
    return Printing(**payload.model_dump(exclude={"version"}))


def _of_shot(request: HttpRequest, shot_id: int, kind: Kind, what: str, payload: PaperIn) -> Any:
    access.of_shot(request, shot_id)
    with in_shot(person(request), shot_id, payload.version) as write:
        code = Shot.objects.values_list("code", flat=True).get(pk=shot_id)
        return Status(202, JobOut.of(ask_for(write, kind, f"{what} of {code}", _how(payload))))


@router.post("/productions/{production_id}/book", response={202: JobOut, 409: Problems})
@writes
def make_book(request: HttpRequest, production_id: int, payload: PaperIn) -> Any:
    """Have the break-down book printed. Anybody in the production."""
    access.role_in(request, production_id)
    with in_production(person(request), production_id, payload.version) as write:
        return Status(202, JobOut.of(ask_for(write, book, "Break-down book", _how(payload))))


@router.post("/productions/{production_id}/call-sheets", response={202: JobOut, 409: Problems, 422: Problems})
@writes
def give_out_call_sheet(request: HttpRequest, production_id: int, payload: CallSheetIn) -> Any:
    """Give out a call sheet of a day as it stands, and have it printed. The supervisor."""
    access.role_in(request, production_id, access.WRITES)
    with in_production(person(request), production_id, payload.version) as write:
        sheet = issue(write, payload.day)
        how = PrintingSheet(sheet=sheet.pk, **payload.model_dump(exclude={"version", "day"}))
        sheet.job = ask_for(write, call_sheet, sheet.name.capitalize(), how)
        sheet.save(update_fields=["job"])
        return Status(202, JobOut.of(sheet.job))


@router.get("/productions/{production_id}/calls.ics")
def read_calendar(request: HttpRequest, production_id: int, name: str) -> HttpResponse:
    """The days on which somebody is called, as iCalendar. Anybody in the production."""
    access.role_in(request, production_id)
    production = Production.objects.get(pk=production_id)
    answer = HttpResponse(calendar_of(production, name), content_type="text/calendar; charset=utf-8")
    answer["Content-Disposition"] = f'attachment; filename="{production.slug}-calls.ics"'
    return answer


@router.get("/productions/{production_id}/days.csv")
def read_table_of_days(request: HttpRequest, production_id: int) -> HttpResponse:
    """Every job with its day, as CSV. Anybody in the production."""
    access.role_in(request, production_id)
    production = Production.objects.get(pk=production_id)
    answer = HttpResponse(table_of_days(production), content_type="text/csv; charset=utf-8")
    answer["Content-Disposition"] = f'attachment; filename="{production.slug}-days.csv"'
    return answer
