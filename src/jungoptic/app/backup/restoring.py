"""A backup is put back: checked whole, restored beside what is there, and only then in its place."""

from __future__ import annotations

import tempfile
import zipfile
from collections.abc import Callable
from pathlib import Path

import psycopg
from django.core.files import File
from django.core.files.storage import default_storage
from django.core.management import call_command
from django.db import connection
from django.db.migrations.loader import MigrationLoader
from psycopg import sql

from jungoptic.app.backup.archive import (
    DUMP,
    FILES,
    BackupError,
    Listed,
    called,
    checked,
    opened,
    pieces,
    read_list,
    row_counts,
)

Say = Callable[[str], None]
BESIDE, BEFORE = "_restoring", "_before_restore"


def restore(file: Path, *, over: bool = False, say: Say = lambda told: None) -> Listed:
    """Put a backup in the place of what is there; what was there is kept as a database beside it.

    Raises BackupError: a damaged or foreign file, one of a newer program, something there already and not
    ``over``. Nothing has changed then.
    """
    with opened(file) as archive:
        listed = read_list(archive, file)
        _known(listed, file)
        say("reading the backup")
        checked(archive, listed, file)
        if not over:
            _refuse_over(file)
        name = str(connection.settings_dict["NAME"])
        say("the database")
        restore_beside(archive, listed, name + BESIDE)
        say("the files")
        _files(archive, listed)
    _change_places(name)
    call_command("migrate", interactive=False, verbosity=0)
    return listed


def _known(listed: Listed, file: Path) -> None:
    """A database of a newer program has tables that this one knows nothing of."""
    ours = {f"{app}.{name}" for app, name in MigrationLoader(None).disk_migrations}
    strange = [one for one in listed.migrations if one not in ours]
    if strange:
        raise BackupError(
            f"{file} was made by a newer program ({strange[-1]}): restore it with that one, or a newer one."
        )


def _refuse_over(file: Path) -> None:
    with connection.cursor() as cursor:
        cursor.execute("SELECT to_regclass('people_person')")
        if cursor.fetchone()[0] is None:
            return
        cursor.execute("SELECT count(*) FROM people_person")
        people = cursor.fetchone()[0]
    if people:
        raise BackupError(
            f"Something is kept here already ({people} accounts). To put {file.name} in its place, say"
            " --over; what is here now is kept as a database beside it."
        )


def restore_beside(archive: zipfile.ZipFile, listed: Listed, database: str) -> None:
    """Make a database of a backup's, and count its rows. Raises BackupError."""
    with _server() as server:
        server.execute(sql.SQL("DROP DATABASE IF EXISTS {}").format(sql.Identifier(database)))
        server.execute(sql.SQL("CREATE DATABASE {}").format(sql.Identifier(database)))
    with tempfile.NamedTemporaryFile() as dump, archive.open(DUMP) as member:
        for piece in pieces(member):
            dump.write(piece)
        dump.flush()
        called(
            "pg_restore",
            ["--no-owner", "--exit-on-error", "--single-transaction", f"--dbname={database}", dump.name],
            database,
        )
    with _server(database) as restored, restored.cursor() as cursor:
        counts = row_counts(cursor)
    if counts != dict(listed.rows):
        raise BackupError("What came out of the backup has not as many rows as went in; nothing was changed.")


def _server(database: str | None = None) -> psycopg.Connection:
    where = connection.settings_dict
    return psycopg.connect(
        host=where["HOST"],
        port=where["PORT"],
        user=where["USER"],
        password=where["PASSWORD"],
        dbname=database or "postgres",
        autocommit=True,
    )


def _files(archive: zipfile.ZipFile, listed: Listed) -> None:
    """A path has only ever had one content: what lies there already, and as long, is that."""
    for name, (size, _) in listed.members.items():
        path = name.removeprefix(FILES)
        if name == path:
            continue
        if default_storage.exists(path):
            if default_storage.size(path) == size:
                continue
            default_storage.delete(path)
        with archive.open(name) as member:
            default_storage.save(path, File(member))


def _change_places(name: str) -> None:
    """The restored database takes the name; the one that had it is kept beside, until the next time."""
    connection.close()
    new, old = name + BESIDE, name + BEFORE
    with _server() as server:
        server.execute(
            "SELECT pg_terminate_backend(pid) FROM pg_stat_activity"
            " WHERE datname = %s AND pid <> pg_backend_pid()",
            [name],
        )
        server.execute(sql.SQL("DROP DATABASE IF EXISTS {}").format(sql.Identifier(old)))
        server.execute(
            sql.SQL("ALTER DATABASE {} RENAME TO {}").format(sql.Identifier(name), sql.Identifier(old))
        )
        server.execute(
            sql.SQL("ALTER DATABASE {} RENAME TO {}").format(sql.Identifier(new), sql.Identifier(name))
        )
