"""Make the database that DATABASE_URL names, unless it is there, and the role that it names, which owns it
and is no superuser.

One of the first layout is set aside under another name, whole. OWNER_DATABASE_URL: who may make them; without
it, DATABASE_URL's own.
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


def give_role(server: psycopg.Connection, url: str) -> None:
    """The role of ``url`` as a user who may make databases and nothing more, with the password there."""
    parts = urlsplit(url)
    role = sql.Identifier(parts.username or "")
    known = server.execute("SELECT 1 FROM pg_roles WHERE rolname = %s", (parts.username,)).fetchone()
    make = "ALTER" if known else "CREATE"
    server.execute(
        sql.SQL(make + " ROLE {} LOGIN NOSUPERUSER NOCREATEROLE CREATEDB PASSWORD {}").format(
            role, sql.Literal(parts.password)
        )
    )
    for (name,) in server.execute(
        "SELECT datname FROM pg_database WHERE starts_with(datname, %s)", (parts.path.lstrip("/"),)
    ).fetchall():
        server.execute(sql.SQL("ALTER DATABASE {} OWNER TO {}").format(sql.Identifier(name), role))


# Everything in public that belongs to somebody else, but for what follows its table by itself.
_THINGS = """
SELECT CASE relkind WHEN 'S' THEN 'SEQUENCE' WHEN 'v' THEN 'VIEW' ELSE 'TABLE' END, oid::regclass::text
  FROM pg_class c
 WHERE relnamespace = 'public'::regnamespace AND relkind IN ('r', 'p', 'v', 'S')
   AND relowner <> %(role)s::regrole AND NOT EXISTS
       (SELECT 1 FROM pg_depend d WHERE d.objid = c.oid AND d.deptype IN ('a', 'i') AND c.relkind = 'S')
UNION ALL
SELECT 'ROUTINE', oid::regprocedure::text FROM pg_proc
 WHERE pronamespace = 'public'::regnamespace AND proowner <> %(role)s::regrole
UNION ALL
SELECT 'TYPE', oid::regtype::text FROM pg_type
 WHERE typnamespace = 'public'::regnamespace AND typtype = 'e' AND typowner <> %(role)s::regrole
"""


def give_things(owner_url: str, role: str) -> None:
    """What a superuser made in an earlier version belongs to the role now."""
    with psycopg.connect(owner_url) as connection:
        for kind, name in connection.execute(_THINGS, {"role": role}).fetchall():
            connection.execute(f'ALTER {kind} {name} OWNER TO "{role}"')


def main(url: str, owner_url: str = "") -> None:
    owner_url = owner_url or url
    parts, owner = urlsplit(url), urlsplit(owner_url)
    name = parts.path.lstrip("/")
    apart = parts.username != owner.username
    with psycopg.connect(urlunsplit(owner._replace(path="/postgres")), autocommit=True) as connection:
        if apart:
            give_role(connection, url)
        there = (
            connection.execute("SELECT 1 FROM pg_database WHERE datname = %s", (name,)).fetchone() is not None
        )
        if there and of_first_layout(owner_url):
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
            connection.execute(
                sql.SQL("CREATE DATABASE {} OWNER {}").format(
                    sql.Identifier(name), sql.Identifier(parts.username or "")
                )
            )
    if apart and there:
        give_things(owner_url, parts.username or "")


if __name__ == "__main__":
    main(os.environ["DATABASE_URL"], os.environ.get("OWNER_DATABASE_URL", ""))
