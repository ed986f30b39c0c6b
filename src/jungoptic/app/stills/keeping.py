"""Photographs kept, said to be of something else, taken away: each a write."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from datetime import datetime
from typing import Any

from django.utils import timezone

from jungoptic.app.base.edits import Writing, as_before, takes_back
from jungoptic.app.base.models import Change
from jungoptic.app.boards.keeping import JPEG
from jungoptic.app.boards.reading import Picture
from jungoptic.app.files import keeping as files
from jungoptic.app.shots.models import Layer
from jungoptic.app.stills.models import Still
from jungoptic.app.takes.models import Take
from jungoptic.core.errors import InputError
from jungoptic.core.quantities import OUR_TIME, in_our_time
from jungoptic.core.vocabulary import StillOf

STILL = "still"
Follows = Callable[[Still, Any], None]
_FOLLOWS: list[Follows] = []


def follows_keeping(do: Follows) -> Follows:
    """Have something done after a photograph was kept or said to be of something else, by whoever did."""
    _FOLLOWS.append(do)
    return do


def kept(row: Still, person_id: Any) -> None:
    """What follows when a photograph is kept, once that stands."""
    for do in _FOLLOWS:
        do(row, person_id)


def keep(
    write: Writing,
    layer: Layer,
    picture: Picture,
    of: StillOf,
    *,
    take: Take | None = None,
    note: str = "",
    at: datetime | None = None,
) -> Still:
    """A photograph, kept with its layer and the take that it was made after. Raises InputError."""
    if at is not None and not in_our_time(at):
        raise InputError.at(
            "photographed_at",
            f"The time of a photograph must be {OUR_TIME}; {at.isoformat()} was given.",
        )
    row = Still.objects.create(
        layer=layer,
        take=take,
        of=of,
        note=note.strip(),
        file=files.keep(write.production_id, picture.name, picture.data, JPEG, person_id=write.person.pk),
        width_px=picture.width_px,
        height_px=picture.height_px,
        photographed_at=at or timezone.now(),
        person_id=write.person.pk,
    )
    write.made(STILL, row)
    return row


def change(write: Writing, row: Still, version: int, values: Mapping[str, Any]) -> None:
    """Say what it is of, write a note to it, take it away. Raises ConflictError."""
    write.refuse_unseen(STILL, row, version)
    write.save(STILL, row, values)


@takes_back(STILL)
def _back(write: Writing, changes: Sequence[Change]) -> None:
    for pk, fields in as_before(changes).items():
        write.save(STILL, Still.objects.get(pk=pk), fields)
