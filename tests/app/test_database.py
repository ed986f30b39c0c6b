"""The database is made once; one that today's rooms know nothing of is set aside whole."""

from __future__ import annotations

import os
from collections.abc import Iterator
from urllib.parse import urlsplit, urlunsplit

import psycopg
import pytest
from tools.create_database import main

NAME = f"jungoptic_making_{os.getpid()}"


def named(name: str) -> str:
    return urlunsplit(urlsplit(os.environ["DATABASE_URL"])._replace(path=f"/{name}"))


def databases() -> list[str]:
    with psycopg.connect(named("postgres"), autocommit=True) as connection:
        return [
            name
            for (name,) in connection.execute(
                "SELECT datname FROM pg_database WHERE datname LIKE %s ORDER BY 1", (f"{NAME}%",)
            )
        ]


@pytest.fixture
def made() -> Iterator[str]:
    main(named(NAME))
    yield named(NAME)
    with psycopg.connect(named("postgres"), autocommit=True) as connection:
        for name in databases():
            connection.execute(psycopg.sql.SQL("DROP DATABASE {}").format(psycopg.sql.Identifier(name)))


def test_database_is_made_once(made: str) -> None:
    with psycopg.connect(made) as connection:
        connection.execute("CREATE TABLE kept (what text)")
    main(made)
    assert databases() == [NAME]
    with psycopg.connect(made) as connection:
        assert connection.execute("SELECT count(*) FROM kept").fetchone() == (0,)


def test_what_runs_is_no_superuser_and_owns_what_an_earlier_version_made(made: str) -> None:
    """Tables, sequences, routines and types that a superuser made are the role's: it can change them all."""
    with psycopg.connect(made) as owner:
        owner.execute("CREATE TYPE state AS ENUM ('a', 'b')")
        owner.execute("CREATE TABLE kept (id bigint GENERATED ALWAYS AS IDENTITY, n serial, what state)")
        owner.execute("CREATE SEQUENCE alone")
        owner.execute("CREATE FUNCTION one() RETURNS int LANGUAGE sql AS 'SELECT 1'")
    role = f"{NAME}_role"
    url = urlsplit(made)
    app = urlunsplit(url._replace(netloc=f"{role}:of-a-test@{url.hostname}:{url.port}"))
    try:
        for _ in range(2):
            main(app, made)
        with psycopg.connect(app) as connection:
            assert connection.execute("SHOW is_superuser").fetchone() == ("off",)
            connection.execute("ALTER TABLE kept ADD more text")
            connection.execute("ALTER TYPE state ADD VALUE 'c'")
            connection.execute("DROP SEQUENCE alone")
            connection.execute("DROP FUNCTION one()")
            connection.execute("CREATE TABLE another (id int)")
    finally:
        with psycopg.connect(made, autocommit=True) as owner:
            owner.execute(f'REASSIGN OWNED BY "{role}" TO CURRENT_USER')
            owner.execute(f'DROP OWNED BY "{role}"')
            owner.execute(f'DROP ROLE "{role}"')


def test_database_of_the_first_layout_is_kept_under_another_name(
    made: str, capsys: pytest.CaptureFixture[str]
) -> None:
    with psycopg.connect(made) as connection:
        connection.execute("CREATE TABLE django_migrations (app text)")
        connection.execute("INSERT INTO django_migrations VALUES ('shots'), ('replies')")
    main(made)
    new, kept = databases()
    assert new == NAME and kept in capsys.readouterr().err
    with psycopg.connect(named(kept)) as connection:
        assert connection.execute("SELECT count(*) FROM django_migrations").fetchone() == (2,)
    with psycopg.connect(made) as connection:
        assert connection.execute("SELECT to_regclass('django_migrations')").fetchone() == (None,)
