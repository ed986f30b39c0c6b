"""Cards read, and their recordings filed to takes: each a write of whoever does it."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from pathlib import Path
from typing import Any

from jungoptic.app.base.edits import Writing, as_before, takes_back
from jungoptic.app.base.models import Change
from jungoptic.app.footage.matching import match
from jungoptic.app.footage.models import Card, Recording
from jungoptic.app.takes.models import Take
from jungoptic.core.errors import InputError

CARD = "card"
RECORDING = "recording"


Follows = Callable[[int, Any], None]
_FOLLOWS: list[Follows] = []


def follows_filing(do: Follows) -> Follows:
    """Have something done after recordings of a production were filed, by whoever did: both are told by their
    ids.
    """
    _FOLLOWS.append(do)
    return do


def filed(production_id: int, person_id: Any) -> None:
    """What follows when recordings are filed, once that stands."""
    for do in _FOLLOWS:
        do(production_id, person_id)


def card_at(write: Writing, folder: Path) -> Card:
    """The card of a folder, made where it was never read."""
    card, _ = Card.objects.get_or_create(
        production_id=write.production_id,
        place=str(folder),
        defaults={"name": (folder.name or str(folder))[:200], "read_by_id": write.person.pk},
    )
    return card


def file_recordings(
    write: Writing, card: Card, version: int, wanted: Mapping[int, int | None]
) -> list[Recording]:
    """File recordings (by id) to takes, or to none. Raises ConflictError, InputError.

    What is filed as core would have it is kept as known by that, the rest as said by hand.
    """
    write.refuse_unseen(CARD, card, version)
    rows = {row.pk: row for row in card.recordings.filter(pk__in=list(wanted))}
    known = {each.recording.pk: each.placed for each in match(card).matches}
    takes = set(
        Take.objects.filter(
            layer__shot__production=write.production_id, pk__in=[key for key in wanted.values() if key]
        ).values_list("pk", flat=True)
    )
    for row_id, take_id in wanted.items():
        row = rows.get(row_id)
        if row is None:
            raise InputError.at("filings", "The card has no such recording: read it again.")
        if take_id is not None and take_id not in takes:
            raise InputError.at("filings", f"“{row.name}” cannot be filed: the production has no such take.")
        if row.fault and take_id is not None:
            raise InputError.at("filings", f"“{row.name}” cannot be filed: {row.fault}")
        by = "" if take_id is None else known[row_id].by if known[row_id].take == take_id else "hand"
        _file(write, row, take_id, by)
    write.count_up(CARD, card)
    card.save(update_fields=["version"])
    return list(rows.values())


def file_what_is_sure(write: Writing, card: Card) -> int:
    """File what its slate names beyond doubt; returns how many there were."""
    sure = [
        each
        for each in match(card).matches
        if each.recording.take_id is None and each.placed.sure == "matched" and each.placed.by == "code"
    ]
    for each in sure:
        _file(write, each.recording, each.placed.take, "code")
    return len(sure)


def _file(write: Writing, row: Recording, take_id: int | None, by: str) -> None:
    write.note(RECORDING, row.pk, row.name, "take_id", row.take_id, take_id)
    row.take_id, row.filed_by = take_id, by
    row.save(update_fields=["take", "filed_by"])


@takes_back(RECORDING)
def _back(write: Writing, changes: Sequence[Change]) -> None:
    cards = set()
    for row_id, values in as_before(changes).items():
        row = Recording.objects.get(pk=row_id)
        _file(write, row, values["take_id"], "hand" if values["take_id"] else "")
        cards.add(row.card_id)
    for card in Card.objects.filter(pk__in=cards):
        write.count_up(CARD, card)
        card.save(update_fields=["version"])


@takes_back(CARD)
def _read_all_the_same(write: Writing, changes: Sequence[Change]) -> None:
    """What was read of a card stays read; what was filed by it goes back."""
