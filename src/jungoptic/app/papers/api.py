"""Shot cards and the break-down book, made by the worker."""

from __future__ import annotations

from typing import Any

from django.http import HttpRequest, HttpResponse
from ninja import Router, Status
from ninja.errors import HttpError

from jungoptic.app.papers.jobs import ask_for_book, ask_for_card, ask_for_page, stop_card
from jungoptic.app.papers.models import Card
from jungoptic.app.papers.schemas import CardIn, CardOut
from jungoptic.app.people.signed_in import person
from jungoptic.app.productions import access

router = Router()


def card_answer(card: Card) -> dict[str, Any]:
    return {"id": card.pk, "paper": card.paper, "state": card.state, "progress": card.progress, "message": card.message}


@router.post("/shots/{shot_id}/cards", response={202: CardOut})
def make_card(request: HttpRequest, shot_id: int, payload: CardIn) -> Any:
    """Have the worker print a shot card. Anybody in the production."""
    access.of_shot(request, shot_id)
    return Status(202, card_answer(ask_for_card(shot_id, person(request), payload.paper, payload.units, payload.school)))


@router.get("/cards/{card_id}", response=CardOut)
def read_card(request: HttpRequest, card_id: int) -> Any:
    """How far a card is. Anybody in the production."""
    access.of_card(request, card_id)
    return card_answer(Card.objects.defer("pdf").get(pk=card_id))


@router.delete("/cards/{card_id}", response=CardOut)
def stop(request: HttpRequest, card_id: int) -> Any:
    """Stop a card that is being made. Anybody in the production."""
    access.of_card(request, card_id)
    return card_answer(stop_card(card_id))


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


@router.post("/productions/{production_id}/book", response={202: CardOut})
def make_book(request: HttpRequest, production_id: int, payload: CardIn) -> Any:
    """Have the worker print the break-down book. Anybody in the production."""
    access.role_in(request, production_id)
    return Status(202, card_answer(ask_for_book(production_id, person(request), payload.paper, payload.units, payload.school)))


@router.post("/shots/{shot_id}/page", response={202: CardOut})
def make_page(request: HttpRequest, shot_id: int, payload: CardIn) -> Any:
    """Have the worker print one shot's page of the book. Anybody in the production."""
    access.of_shot(request, shot_id)
    return Status(202, card_answer(ask_for_page(shot_id, person(request), payload.paper, payload.units, payload.school)))
