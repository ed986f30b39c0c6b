"""A backup: one zip with the database as PostgreSQL writes it, the stored files, and a list of all of it."""

from __future__ import annotations

import glob
import hashlib
import json
import os
import shutil
import subprocess
import zipfile
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from pathlib import Path
from typing import IO, Any

from django.db import connection
from django.db.migrations.recorder import MigrationRecorder

FORMAT = "jungoptic backup"
VERSION = 1
DUMP = "database.dump"
LIST = "list.json"
FILES = "files/"
CHUNK_BYTES = 1 << 20
_PROGRAMS = "/usr/lib/postgresql/*/bin"


class BackupError(Exception):
    """What is wrong with a backup or where it is to go, in a sentence that says what to do."""


@dataclass(frozen=True)
class Listed:
    """What a backup says of itself: its members with size and SHA-256, the migrations that its tables are at,
    how many rows each table has.
    """

    members: Mapping[str, tuple[int, str]]
    migrations: tuple[str, ...]
    rows: Mapping[str, int]
    made_at: str

    def text(self) -> str:
        return json.dumps(
            {
                "format": FORMAT,
                "version": VERSION,
                "made_at": self.made_at,
                "migrations": list(self.migrations),
                "rows": dict(self.rows),
                "members": {
                    name: {"bytes": size, "sha256": sha} for name, (size, sha) in self.members.items()
                },
            },
            indent=1,
        )


def read_list(archive: zipfile.ZipFile, file: Path) -> Listed:
    """The list of a backup. Raises BackupError."""
    try:
        told = json.loads(archive.read(LIST))
        if told["format"] != FORMAT:
            raise KeyError("format")
        if told["version"] != VERSION:
            raise BackupError(
                f"{file} is a backup of version {told['version']}; this program reads version {VERSION}."
            )
        return Listed(
            {name: (one["bytes"], one["sha256"]) for name, one in told["members"].items()},
            tuple(told["migrations"]),
            told["rows"],
            told["made_at"],
        )
    except (KeyError, ValueError, TypeError):
        raise BackupError(f"{file} is no backup of this program, or it was never finished.") from None


def opened(file: Path) -> zipfile.ZipFile:
    """A backup to read. Raises BackupError."""
    try:
        return zipfile.ZipFile(file)
    except FileNotFoundError:
        raise BackupError(f"There is no file {file}.") from None
    except (zipfile.BadZipFile, OSError):
        raise BackupError(f"{file} is no backup of this program, or it was never finished.") from None


def pieces(source: IO[bytes]) -> Iterator[bytes]:
    while piece := source.read(CHUNK_BYTES):
        yield piece


def checked(archive: zipfile.ZipFile, listed: Listed, file: Path) -> None:
    """Every member as long and with the sum that the list says, and nothing else. Raises BackupError."""
    present = set(archive.namelist()) - {LIST}
    if lacking := set(listed.members) - present:
        raise BackupError(f"{file} is not whole: {len(lacking)} of its files are missing.")
    if strange := present - set(listed.members):
        raise BackupError(
            f"{file} holds {len(strange)} files that its list does not name: {sorted(strange)[0]}."
        )
    for name in listed.members:
        if name != DUMP and (not name.startswith(FILES) or ".." in name.split("/") or "\\" in name):
            raise BackupError(f"{file} holds a file whose name leads elsewhere: {name}.")
    for name, (size, sha) in listed.members.items():
        summed, count = hashlib.sha256(), 0
        try:
            with archive.open(name) as member:
                for piece in pieces(member):
                    summed.update(piece)
                    count += len(piece)
        except (zipfile.BadZipFile, OSError, EOFError):
            count = -1
        if (count, summed.hexdigest()) != (size, sha):
            raise BackupError(f"{file} is damaged: {name} is not what was written.")


def program(name: str) -> str:
    """One of PostgreSQL's own programs, of the server's version or a newer one. Raises BackupError."""
    found = sorted(glob.glob(f"{_PROGRAMS}/{name}"), key=lambda path: float(path.split("/")[4]))
    path = found[-1] if found else shutil.which(name)
    if path is None:
        raise BackupError(f"{name} is missing: install PostgreSQL's programs (postgresql-client).")
    return path


def called(name: str, arguments: Sequence[str], database: str | None = None, **how: Any) -> None:
    """Call one of them on this database, or another one beside it. Raises BackupError with what it said."""
    where = connection.settings_dict
    environment = {
        **os.environ,
        "PGHOST": str(where["HOST"]),
        "PGPORT": str(where["PORT"]),
        "PGUSER": str(where["USER"]),
        "PGPASSWORD": str(where["PASSWORD"]),
        "PGDATABASE": database or str(where["NAME"]),
    }
    done = subprocess.run(
        [program(name), *arguments], env=environment, stderr=subprocess.PIPE, check=False, **how
    )
    if done.returncode:
        said = done.stderr.decode(errors="replace").strip().splitlines()
        raise BackupError(f"{name} failed: {said[-1] if said else done.returncode}")


def migrations() -> tuple[str, ...]:
    """What the tables of this database are at."""
    applied = MigrationRecorder(connection).applied_migrations()
    return tuple(sorted(f"{app}.{name}" for app, name in applied))


def row_counts(cursor: Any) -> dict[str, int]:
    """How many rows every table of a database has."""
    cursor.execute("SELECT tablename FROM pg_tables WHERE schemaname = 'public' ORDER BY tablename")
    counts = {}
    for (table,) in cursor.fetchall():
        cursor.execute(f'SELECT count(*) FROM "{table}"')
        counts[table] = int(cursor.fetchone()[0])
    return counts
