"""Make the database that DATABASE_URL names, unless it is there.

One of the first layout is set aside under another name, whole.
"""

from __future__ import annotations

import os
import sys
from datetime import UTC, datetime
from urllib.parse import urlsplit, urlunsplit

import psycopg
from psycopg import sql


def of_first_layout(url: str) -> bool:
    """Whether its tables were made before the application was divided into today's rooms, which know nothing
    of them.
    """
    with psycopg.connect(url) as connection:
        if connection.execute("SELECT to_regclass('django_migrations')").fetchone() == (None,):
            return False
        return (
            connection.execute("SELECT 1 FROM django_migrations WHERE app = 'replies' LIMIT 1").fetchone()
            is not None
        )


def main(url: str) -> None:
    parts = urlsplit(url)
    name = parts.path.lstrip("/")
    with psycopg.connect(urlunsplit(parts._replace(path="/postgres")), autocommit=True) as connection:
        there = (
            connection.execute("SELECT 1 FROM pg_database WHERE datname = %s", (name,)).fetchone() is not None
        )
        if there and of_first_layout(url):
            kept = f"{name}_until_{datetime.now(UTC):%Y%m%d_%H%M%S}"
            connection.execute(
                sql.SQL("ALTER DATABASE {} RENAME TO {}").format(sql.Identifier(name), sql.Identifier(kept))
            )
            print(
                f"This database is of an earlier layout: it is kept, whole, as {kept}, and a new one is"
                " made.",
                file=sys.stderr,
            )
            there = False
        if not there:
            connection.execute(sql.SQL("CREATE DATABASE {}").format(sql.Identifier(name)))


if __name__ == "__main__":
    main(os.environ["DATABASE_URL"])
