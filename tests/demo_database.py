"""The demo production in PostgreSQL for the tests: made once into a template, cloned for each worker, put
back table by table.

The template's name carries a hash of everything that the demo is made of, so that it serves until one of
those files changes. A template also keeps a copy of every table (schema ``kept``): a test that wrote through
the live server is undone from it. Its files lie in a folder of the same name, and each clone works on a copy
of that.
"""

from __future__ import annotations

import hashlib
import os
import shutil
import tempfile
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Any

import psycopg
from django.conf import settings
from django.core.management import call_command
from django.db import connection, connections
from django.test.utils import override_settings
from psycopg import sql

from jungoptic.app.breakdown.wall import wall
from jungoptic.app.demo.production import make_demo
from jungoptic.app.productions.models import Production

ROOT = Path(__file__).resolve().parents[1]
PREFIX = "jungoptic_demo_"
CLONE_PREFIX = "jungoptic_test_"
FILES = ROOT / ".run" / "test-files"
ONE_AT_A_TIME = 7_305_441  # the advisory lock under which a template is made

# --- the template and its clones


def _made_of() -> str:
    """A short hash of the sources, the locked packages and this file."""
    files = [path for path in (ROOT / "src").rglob("*") if path.is_file() and path.suffix != ".pyc"]
    summed = hashlib.sha256()
    for path in sorted([*files, ROOT / "requirements.lock", Path(__file__)]):
        summed.update(str(path.relative_to(ROOT)).encode() + b"\0" + path.read_bytes() + b"\0")
    return summed.hexdigest()[:12]


def _server() -> psycopg.Connection[Any]:
    """A connection beside Django's, to the server's own database."""
    where = connection.settings_dict
    return psycopg.connect(
        host=where["HOST"],
        port=where["PORT"],
        user=where["USER"],
        password=where["PASSWORD"],
        dbname="postgres",
        autocommit=True,
    )


def _point_at(name: str) -> None:
    connections.close_all()
    connection.settings_dict["NAME"] = name


def _exists(server: psycopg.Connection[Any], name: str) -> bool:
    return server.execute("select 1 from pg_database where datname = %s", (name,)).fetchone() is not None


def _drop(server: psycopg.Connection[Any], name: str) -> None:
    server.execute(sql.SQL("drop database if exists {} with (force)").format(sql.Identifier(name)))


def files_in(folder: Path) -> override_settings:
    """Files are kept in this folder, and no other, inside."""
    return override_settings(
        STORAGES={
            **settings.STORAGES,
            "default": {**settings.STORAGES["default"], "OPTIONS": {"location": str(folder)}},
        }
    )


def _make(server: psycopg.Connection[Any], name: str) -> None:
    unfinished = f"{name}_unfinished"
    shutil.rmtree(FILES, ignore_errors=True)
    for (old,) in server.execute(
        "select datname from pg_database where starts_with(datname, %s)", (PREFIX,)
    ).fetchall():
        _drop(server, old)
    server.execute(sql.SQL("create database {}").format(sql.Identifier(unfinished)))
    _point_at(unfinished)
    call_command("migrate", interactive=False, verbosity=0)
    with files_in(FILES / name):
        make_demo(filmed=False)
    while wall(
        Production.objects.get().pk, "measured"
    ).pending:  # as in a production that somebody has looked at
        pass
    with connection.cursor() as cursor:
        cursor.execute("create schema kept")
        for table in _tables(cursor):
            cursor.execute(f'create table kept."{table}" as table public."{table}"')
    _point_at("postgres")
    server.execute(
        sql.SQL("alter database {} rename to {}").format(sql.Identifier(unfinished), sql.Identifier(name))
    )


def template() -> str:
    """The name of the template with the demo, made now if these sources have none yet."""
    name = PREFIX + _made_of()
    with _server() as server:
        server.execute("select pg_advisory_lock(%s)", (ONE_AT_A_TIME,))
        if not _exists(server, name) or not (FILES / name).is_dir():
            _make(server, name)
    return name


def _drop_left_over(server: psycopg.Connection[Any]) -> None:
    """Copies whose process was killed before it could drop them."""
    for (name,) in server.execute(
        "select datname from pg_database where starts_with(datname, %s)", (CLONE_PREFIX,)
    ).fetchall():
        if not Path(f"/proc/{name.removeprefix(CLONE_PREFIX)}").exists():
            _drop(server, name)


@contextmanager
def clone() -> Iterator[None]:
    """Django's connection stands on a copy of the template that belongs to this process alone: two runs may
    share a server.
    """
    name = f"{CLONE_PREFIX}{os.getpid()}"
    made = template()
    before = connection.settings_dict["NAME"]
    with _server() as server:
        _drop_left_over(server)
        server.execute(
            sql.SQL("create database {} template {}").format(sql.Identifier(name), sql.Identifier(made))
        )
        _point_at(name)
        with tempfile.TemporaryDirectory() as folder:
            shutil.copytree(FILES / made, folder, dirs_exist_ok=True)
            with files_in(Path(folder)):
                yield
        _point_at(before)
        _drop(server, name)


# --- putting back


def _tables(cursor: Any) -> list[str]:
    cursor.execute("select tablename from pg_tables where schemaname = 'public' order by tablename")
    return [name for (name,) in cursor.fetchall()]


def put_back() -> None:
    """Every table as the template has it. Nobody else may be writing."""
    with connection.cursor() as cursor:
        tables = _tables(cursor)
        steps = [
            "begin",
            "set local session_replication_role = replica",
        ]  # neither foreign keys nor triggers while rows come back
        for table in tables:
            steps.append(f'delete from public."{table}"')
            steps.append(f'insert into public."{table}" overriding system value select * from kept."{table}"')
        cursor.execute("; ".join([*steps, "commit"]))
