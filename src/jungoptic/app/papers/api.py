"""Shot cards and the break-down book, asked for."""

from __future__ import annotations

from typing import Any

from django.http import HttpRequest
from ninja import Router, Status

from jungoptic.app.base.once import writes
from jungoptic.app.base.schemas import Problems
from jungoptic.app.jobs.asking import ask_for
from jungoptic.app.jobs.kinds import Kind
from jungoptic.app.jobs.schemas import JobOut
from jungoptic.app.papers.jobs import Printing, book, card, page
from jungoptic.app.papers.schemas import PaperIn
from jungoptic.app.people.signed_in import person
from jungoptic.app.productions import access
from jungoptic.app.productions.writing import in_production
from jungoptic.app.shots.models import Shot
from jungoptic.app.shots.writing import in_shot

router = Router()


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
