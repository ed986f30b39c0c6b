"""Printing shot cards in the worker, with progress, and stopping them."""

from __future__ import annotations

import logging

from procrastinate.contrib.django import app

from jungoptic.app.base.edits import Writing
from jungoptic.app.papers.models import Card
from jungoptic.core.match.tolerances import School
from jungoptic.core.wording import Units

PAPER = "paper"
GOING = (Card.State.WAITING, Card.State.WORKING)
logger = logging.getLogger(__name__)


class StoppedError(Exception):
    """Somebody stopped the card while it was being made."""


def ask_for(write: Writing, kind: Card.Kind, paper: str, units: str, school: str) -> Card:
    """Put a paper into the queue: a card or a page of the write's shot, or the book of its production."""
    card = Card.objects.create(
        kind=kind, production_id=write.production_id, shot_id=write.shot_id, asked_by_id=write.person.pk, paper=paper, units=units, school=school
    )
    write.stays, write.title = True, f"{card.name[:1].upper()}{card.name[1:]} asked for"
    write.note(PAPER, card.pk, card.name, "state", None, card.state)
    make_card.defer(card_id=card.pk)
    return card


def stop_card(write: Writing, card_id: int, version: int) -> Card:
    """Stop a card that is not finished; one that is stays as it is."""
    card = Card.objects.select_for_update(no_key=True).defer("pdf").get(pk=card_id)
    write.refuse_unseen(PAPER, card, version)
    write.stays = True
    if card.state in GOING:
        write.save(PAPER, card, {"state": Card.State.STOPPED, "message": "Stopped."})
    return card


def _advance(card_id: int, progress: int) -> None:
    going = Card.objects.filter(pk=card_id, state__in=GOING)
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
