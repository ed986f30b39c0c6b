"""Files taken into the storage: by what they contain, once for each content."""

from __future__ import annotations

import hashlib
import io
import shutil
from pathlib import Path
from typing import IO, Any

import filetype
from django.core.files import File
from django.core.files.storage import default_storage
from django.db import IntegrityError, transaction

from jungoptic.app.files.models import StoredFile
from jungoptic.core.errors import InputError

_HEAD_BYTES = 8192  # what a kind is told by
_CHUNK_BYTES = 1 << 20
LEFT_FREE_BYTES = 200_000_000
"""Of the disk, so that the database can go on writing."""
EXR = "image/x-exr"
_EXR_HEAD = b"\x76\x2f\x31\x01"


def kind_of(head: bytes) -> str:
    """The media type by the first bytes of a file; "" for what is not known."""
    if head.startswith(_EXR_HEAD):
        return EXR
    found = filetype.guess(head)
    return str(found.mime) if found else ""


def room_bytes() -> int | None:
    """What may still be kept on the storage's disk; None where it is on none of this machine."""
    try:
        there = Path(default_storage.path(""))
    except NotImplementedError:
        return None
    while not there.exists():
        there = there.parent
    return shutil.disk_usage(there).free - LEFT_FREE_BYTES


def keep(
    production_id: int,
    name: str,
    data: bytes | IO[bytes],
    kinds: frozenset[str],
    *,
    person_id: Any = None,
    field: str = "file",
) -> StoredFile:
    """Keep a file of a production. What has the same content as one that is kept is that one.

    ``kinds`` are the media types that may come. Raises InputError at ``field`` for any other.
    """
    source = io.BytesIO(data) if isinstance(data, bytes) else data
    kind = kind_of(source.read(_HEAD_BYTES))
    if kind not in kinds:
        raise InputError.at(
            field,
            f"“{name}” is {kind or 'of no kind that is known here'}; it must be"
            f" {' or '.join(sorted(kinds))}.",
        )
    source.seek(0)
    summed, size = hashlib.sha256(), 0
    while chunk := source.read(_CHUNK_BYTES):
        summed.update(chunk)
        size += len(chunk)
    same = {"production_id": production_id, "sha256": summed.hexdigest()}
    with transaction.atomic():
        # Locked, so that it is not cleaned away before whoever asks refers to it.
        locked = StoredFile.objects.select_for_update(no_key=True).filter(**same)
        kept = locked.first()
        if kept is None:
            source.seek(0)
            kept = StoredFile(**same, name=name[:200], kind=kind, size_bytes=size, person_id=person_id)
            kept.file.save(name, File(source), save=False)
            try:
                with transaction.atomic():
                    kept.save()
            except IntegrityError:  # somebody kept the same at this moment
                kept.file.storage.delete(kept.path)
                kept = locked.get()
    return kept
