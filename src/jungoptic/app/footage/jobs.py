"""Cards read, and copied, as jobs."""

from __future__ import annotations

import base64
import time
from collections.abc import Callable, Collection
from functools import partial
from pathlib import Path
from typing import Any

from django.db import transaction
from django.utils import timezone
from pydantic import BaseModel

from jungoptic.app.base.edits import Writing
from jungoptic.app.base.readers import GoneError
from jungoptic.app.files import keeping as files
from jungoptic.app.footage import copying, folders, keeping
from jungoptic.app.footage.models import Card, Recording
from jungoptic.app.footage.prober import Prober
from jungoptic.app.jobs.kinds import job_kind
from jungoptic.app.jobs.running import Running
from jungoptic.app.productions.access import LOGS
from jungoptic.app.productions.writing import in_production
from jungoptic.core.errors import InputError

JPEG = frozenset({"image/jpeg"})
_TELLS_EVERY_S = 0.4
_HOURS_S = 4 * 3600.0


class OfACard(BaseModel):
    """Which card."""

    card: int


@job_kind("read_card", OfACard, queue="heavy", longest_s=_HOURS_S, asks=LOGS)
def read_card(running: Running, of: OfACard) -> None:
    """Read every file of a card that was not read before, and file what its slate names."""
    card = Card.objects.select_related("production").get(pk=of.card, production=running.job.production_id)
    read_all(running, card, folders.checked(card.place))


def read_all(running: Running, card: Card, folder: Path, begins: float = 0.0) -> None:
    """Read a card to its end, and end the job, of which ``begins`` is done before."""
    seen, others = read_files(running, card, folder, begins)
    with in_production(running.job.asked_by, running.job.production_id) as write:
        write.title = f"{card.name} read"
        filed = card_read(write, card, seen, others)
        running.finish(said={"card": card.pk}, message=_read(len(seen), filed))
    keeping.filed(card.production_id, running.job.asked_by_id)


def read_files(
    running: Running, card: Card, folder: Path, begins: float = 0.0, ends: float = 1.0
) -> tuple[list[int], int]:
    """Read every file of a card that was not read before. Returns the recordings that are there, and how many
    files are none.
    """
    seen: list[int] = []
    try:
        listed = _listed(folder)
        there = [entry for entry in listed if entry.recorded]
        known = {(row.path, row.size_bytes, row.modified): row for row in card.recordings.all()}
        with Prober() as prober:
            for number, entry in enumerate(there):
                share = begins + (ends - begins) * number / max(1, len(there))
                at = f"“{entry.path}”, {number + 1} of {len(there)}"
                running.advance(share, at)
                row = known.get((entry.path, entry.size_bytes, entry.modified))
                if row is None:
                    told = _told(prober, folder, entry, partial(running.advance, share, at))
                    row = _keep(running, card, entry, told)
                seen.append(row.pk)
    except GoneError:
        raise InputError.at(
            "place",
            "The card went while it was read. What was read is kept: put it in again, and read it again.",
        ) from None
    return seen, len(listed) - len(there)


def card_read(write: Writing, card: Card, seen: Collection[int], others: int) -> int:
    """A card was read: what is not there any more is known to be gone, and what a slate names beyond doubt is
    filed. Returns how many of these there were.
    """
    card.recordings.filter(pk__in=seen, here=False).update(here=True)
    gone = card.recordings.exclude(pk__in=seen)
    gone.filter(take__isnull=True, copied_to="").delete()
    gone.update(here=False)
    card.refresh_from_db()  # somebody may have filed meanwhile
    filed = keeping.file_what_is_sure(write, card)
    now = timezone.now()
    write.note(keeping.CARD, card.pk, card.name, "read_at", card.read_at, now)
    write.count_up(keeping.CARD, card)
    card.read_at, card.others, card.read_by_id = now, others, write.person.pk
    card.save(update_fields=["read_at", "read_by", "others", "version"])
    return filed


def _read(count: int, filed: int) -> str:
    return f"{count} recording{'' if count == 1 else 's'} read, {filed} filed by their slates."


def _listed(folder: Path) -> list[folders.Entry]:
    try:
        return list(folders.entries(folder))
    except OSError as error:
        raise GoneError(str(error)) from None


def _told(prober: Prober, folder: Path, entry: folders.Entry, waiting: Callable[[], None]) -> dict[str, Any]:
    """What a file says; that it cannot be read, where its card is there all the same. Raises GoneError."""
    try:
        return prober.read(folder / entry.path, waiting)
    except GoneError as error:
        if not folder.is_dir():
            raise
        return {"fault": f"It cannot be read ({error}): try another reader, or play it on the camera."}


def _keep(running: Running, card: Card, entry: folders.Entry, told: dict[str, Any]) -> Recording:
    """Keep what was read of a file."""
    picture = told.pop("picture", "")
    kept = (
        files.keep(card.production_id, f"{Path(entry.path).stem}.jpg", base64.b64decode(picture), JPEG)
        if picture
        else None
    )
    row = Recording(
        card=card,
        path=entry.path,
        size_bytes=entry.size_bytes,
        modified=entry.modified,
        fault=told.pop("fault", ""),
        says=told,
        picture=kept,
    )
    with transaction.atomic():
        running.advance(running.job.progress / 100)  # nothing is kept of a job that was stopped
        row.save()
    return row


@job_kind("copy_card", OfACard, queue="heavy", longest_s=_HOURS_S, asks=LOGS)
def copy_card(running: Running, of: OfACard) -> None:
    """Copy a card: what is filed under its take's name, the rest as it came."""
    card = Card.objects.select_related("production").get(pk=of.card, production=running.job.production_id)
    rows = rows_to_copy(card)
    copying.refuse_without_room(card, rows)
    wanted = max(1, copying.wanted_bytes(rows))
    told = 0.0

    def advance(count: int, name: str) -> None:
        nonlocal told
        if time.monotonic() - told > _TELLS_EVERY_S:
            told = time.monotonic()
            running.advance(count / wanted, at=f"“{name}”, {count / 1e9:.1f} of {wanted / 1e9:.1f} GB")

    try:
        copied = copying.copy_card(card, rows, advance)
    except copying.CopyError as error:
        raise InputError.at("place", str(error)) from None
    said = _copied(copied)
    with in_production(running.job.asked_by, running.job.production_id) as write:
        write.title, write.stays = f"{card.name}: {said}"[:200], True
        running.finish(said={"card": card.pk, "failed": copied.failed}, message=said)


def rows_to_copy(card: Card) -> list[Recording]:
    """What of a card is copied: all that is there, but files with nothing in them."""
    rows = card.recordings.filter(here=True, size_bytes__gt=0)
    return list(rows.select_related("card__production", "take__layer"))


def _copied(done: copying.Copied) -> str:
    said = f"{done.copied} file{'' if done.copied == 1 else 's'} copied and read back"
    if done.there_already:
        said += f", {done.there_already} were there already"
    if done.failed:
        said += f", {len(done.failed)} not: {'; '.join(done.failed)}"
    return f"{said}."
