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
