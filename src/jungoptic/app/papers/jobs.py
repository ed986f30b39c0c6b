"""Printing shot cards in the worker, with progress, and stopping them."""

from __future__ import annotations

import logging

from procrastinate.contrib.django import app

from jungoptic.app.papers.models import Card
from jungoptic.app.people.models import Person
from jungoptic.app.shots.models import Shot
from jungoptic.core.match.tolerances import School
from jungoptic.core.wording import Units

logger = logging.getLogger(__name__)


class StoppedError(Exception):
    """Somebody stopped the card while it was being made."""


def ask_for_card(shot_id: int, person: Person, paper: str, units: str, school: str) -> Card:
    """Put a card into the queue."""
    return _ask(Card.Kind.CARD, Shot.objects.get(pk=shot_id), person, paper, units, school)


def ask_for_page(shot_id: int, person: Person, paper: str, units: str, school: str) -> Card:
    """Put one shot's page of the break-down book into the queue."""
    return _ask(Card.Kind.PAGE, Shot.objects.get(pk=shot_id), person, paper, units, school)


def ask_for_book(production_id: int, person: Person, paper: str, units: str, school: str) -> Card:
    """Put the break-down book into the queue."""
    card = Card.objects.create(kind=Card.Kind.BOOK, production_id=production_id, asked_by=person, paper=paper, units=units, school=school)
    make_card.defer(card_id=card.pk)
    return card


def _ask(kind: Card.Kind, shot: Shot, person: Person, paper: str, units: str, school: str) -> Card:
    card = Card.objects.create(kind=kind, production_id=shot.production_id, shot=shot, asked_by=person, paper=paper, units=units, school=school)
    make_card.defer(card_id=card.pk)
    return card


def stop_card(card_id: int) -> Card:
    """Stop a card that is not finished; one that is stays as it is."""
    Card.objects.filter(pk=card_id, state__in=[Card.State.WAITING, Card.State.WORKING]).update(state=Card.State.STOPPED, message="Stopped.")
    return Card.objects.defer("pdf").get(pk=card_id)


def _advance(card_id: int, progress: int) -> None:
    going = Card.objects.filter(pk=card_id, state__in=[Card.State.WAITING, Card.State.WORKING])
    if not going.update(state=Card.State.WORKING, progress=progress):
        raise StoppedError


@app.task(name="make_card")
def make_card(card_id: int) -> None:
    """Make one card, page or book; what goes wrong is said on the card."""
    from jungoptic.app.papers.book import book_html
    from jungoptic.app.papers.pdf import write_pdf
    from jungoptic.app.papers.shot_card import card_html

    card = Card.objects.select_related("shot").get(pk=card_id)
    units: Units = "imperial" if card.units == "imperial" else "metric"
    try:
        _advance(card_id, 10)
        school: School = "covered" if card.school == "covered" else "measured"
        if card.kind == Card.Kind.CARD and card.shot_id:
            html = card_html(card.shot_id, paper=card.paper, units=units, school=school)
        else:
            html = book_html(
                card.production_id,
                card.shot_id,
                paper=card.paper,
                units=units,
                school=school,
                advance=lambda done: _advance(card_id, 10 + int(30 * done)),
            )
        _advance(card_id, 40)
        pdf = write_pdf(html)
        _advance(card_id, 95)
        Card.objects.filter(pk=card_id, state=Card.State.WORKING).update(pdf=pdf, state=Card.State.READY, progress=100)
    except StoppedError:
        return
    except Exception:
        logger.exception("card %s failed", card_id)
        Card.objects.filter(pk=card_id).update(
            state=Card.State.FAILED, message="The card could not be made. Try again; if it fails again, tell whoever runs this server."
        )
