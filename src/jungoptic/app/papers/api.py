"""Shot cards and the break-down book, made by the worker."""

from __future__ import annotations

from typing import Any

from django.http import HttpRequest, HttpResponse
from ninja import Router, Status
from ninja.errors import HttpError

from jungoptic.app.base.once import writes
from jungoptic.app.base.schemas import Problems
from jungoptic.app.papers.jobs import ask_for, stop_card
from jungoptic.app.papers.models import Card
from jungoptic.app.papers.schemas import CardIn, CardOut
from jungoptic.app.people.signed_in import person
from jungoptic.app.productions import access
from jungoptic.app.productions.writing import in_production
from jungoptic.app.shots.writing import in_shot

router = Router()


def card_answer(card: Card) -> dict[str, Any]:
    return {"id": card.pk, "version": card.version, "paper": card.paper, "state": card.state, "progress": card.progress, "message": card.message}


@router.post("/shots/{shot_id}/cards", response={202: CardOut, 409: Problems})
@writes
def make_card(request: HttpRequest, shot_id: int, payload: CardIn) -> Any:
    """Have the worker print a shot card. Anybody in the production."""
    return _of_shot(request, shot_id, Card.Kind.CARD, payload)


@router.post("/shots/{shot_id}/page", response={202: CardOut, 409: Problems})
@writes
def make_page(request: HttpRequest, shot_id: int, payload: CardIn) -> Any:
    """Have the worker print one shot's page of the book. Anybody in the production."""
    return _of_shot(request, shot_id, Card.Kind.PAGE, payload)


def _of_shot(request: HttpRequest, shot_id: int, kind: Card.Kind, payload: CardIn) -> Any:
    access.of_shot(request, shot_id)
    with in_shot(person(request), shot_id, payload.version) as write:
        card = ask_for(write, kind, payload.paper, payload.units, payload.school)
    return Status(202, card_answer(card))


@router.post("/productions/{production_id}/book", response={202: CardOut, 409: Problems})
@writes
def make_book(request: HttpRequest, production_id: int, payload: CardIn) -> Any:
    """Have the worker print the break-down book. Anybody in the production."""
    access.role_in(request, production_id)
    with in_production(person(request), production_id, payload.version) as write:
        card = ask_for(write, Card.Kind.BOOK, payload.paper, payload.units, payload.school)
    return Status(202, card_answer(card))


@router.get("/cards/{card_id}", response=CardOut)
def read_card(request: HttpRequest, card_id: int) -> Any:
    """How far a card is. Anybody in the production."""
    access.of_card(request, card_id)
    return card_answer(Card.objects.defer("pdf").get(pk=card_id))


@router.delete("/cards/{card_id}", response={200: CardOut, 409: Problems})
@writes
def stop(request: HttpRequest, card_id: int, version: int) -> Any:
    """Stop a card that is being made. Anybody in the production."""
    access.of_card(request, card_id)
    production_id, shot_id = Card.objects.values_list("production_id", "shot_id").get(pk=card_id)
    with in_shot(person(request), shot_id) if shot_id else in_production(person(request), production_id) as write:
        card = stop_card(write, card_id, version)
    return card_answer(card)


@router.get("/cards/{card_id}/pdf", include_in_schema=False)
def download_card(request: HttpRequest, card_id: int) -> HttpResponse:
    """The finished PDF. Anybody in the production."""
    access.of_card(request, card_id)
    card = Card.objects.select_related("shot", "production").get(pk=card_id)
    if card.state != Card.State.READY or card.pdf is None:
        raise HttpError(409, "This card is not ready yet.")
    return HttpResponse(
        bytes(card.pdf),
        content_type="application/pdf",
        headers={"Content-Disposition": f'inline; filename="{card.shot.code if card.shot else card.production.slug}-{card.kind}-{card.paper}.pdf"'},
    )
