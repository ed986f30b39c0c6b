"""A backup is made: database and stored files as they are at one moment, while everybody goes on."""

from __future__ import annotations

import hashlib
import os
import tempfile
import zipfile
from collections.abc import Callable
from pathlib import Path

from django.db import connection, transaction
from django.utils import timezone

from jungoptic.app.backup.archive import (
    DUMP,
    FILES,
    LIST,
    BackupError,
    Listed,
    called,
    checked,
    migrations,
    opened,
    pieces,
    read_list,
    row_counts,
)
from jungoptic.app.files.models import LostFileError, StoredFile

Say = Callable[[str], None]


def back_up(file: Path, say: Say = lambda told: None) -> Listed:
    """Write a backup, read it again whole, and only then give it its name: what has the name is whole.

    Raises BackupError; nothing has the name then, and what had it before has it still.
    """
    file = file.absolute()
    if not file.parent.is_dir():
        raise BackupError(f"There is no folder {file.parent}.")
    part = file.with_name(f".{file.name}.part")
    try:
        listed = _written(part, say)
        with opened(part) as archive:
            checked(archive, read_list(archive, part), part)
        os.replace(part, file)
    finally:
        part.unlink(missing_ok=True)
    return listed


def _written(part: Path, say: Say) -> Listed:
    with tempfile.TemporaryDirectory(dir=part.parent, prefix=".backup-") as folder, transaction.atomic():
        dump = Path(folder) / DUMP
        with connection.cursor() as cursor:
            # one moment for everything: PostgreSQL's own dump looks at the same snapshot as we do
            cursor.execute("SET TRANSACTION ISOLATION LEVEL REPEATABLE READ READ ONLY")
            cursor.execute("SELECT pg_export_snapshot()")
            snapshot = cursor.fetchone()[0]
            say("the database")
            called("pg_dump", ["-Fc", "--no-owner", f"--snapshot={snapshot}", f"--file={dump}"])
            rows = row_counts(cursor)
        members = {}
        with zipfile.ZipFile(part, "w", zipfile.ZIP_STORED, allowZip64=True) as archive:
            members[DUMP] = _put(archive, DUMP, dump)
            kept = list(StoredFile.objects.order_by("pk"))
            for count, stored in enumerate(kept, 1):
                if count % 200 == 1:
                    say(f"file {count} of {len(kept)}")
                members[FILES + stored.path] = _put(archive, FILES + stored.path, stored)
            listed = Listed(members, migrations(), rows, timezone.now().isoformat(timespec="seconds"))
            archive.writestr(LIST, listed.text())
    with part.open("rb") as written:
        os.fsync(written.fileno())
    return listed


def _put(archive: zipfile.ZipFile, name: str, source: Path | StoredFile) -> tuple[int, str]:
    """Copy something into the archive; its size and sum."""
    summed, size = hashlib.sha256(), 0
    try:
        read = source.open("rb") if isinstance(source, Path) else source.opened()
    except LostFileError as error:
        raise BackupError(str(error)) from None
    with read, archive.open(name, "w", force_zip64=True) as member:
        for piece in pieces(read):
            member.write(piece)
            summed.update(piece)
            size += len(piece)
    if isinstance(source, StoredFile) and summed.hexdigest() != source.sha256:
        raise BackupError(
            f"“{source.name}” ({source.path}) in the storage is not what was kept there: put it back from an"
            " older backup first."
        )
    return size, summed.hexdigest()
