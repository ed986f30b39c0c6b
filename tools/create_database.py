"""Make the database named in DATABASE_URL if it is not there."""

import os
from urllib.parse import urlsplit, urlunsplit

import psycopg
from psycopg import sql

parts = urlsplit(os.environ["DATABASE_URL"])
name = parts.path.lstrip("/")
with psycopg.connect(urlunsplit(parts._replace(path="/postgres")), autocommit=True) as connection:
    if not connection.execute("select 1 from pg_database where datname = %s", (name,)).fetchone():
        connection.execute(sql.SQL("create database {}").format(sql.Identifier(name)))
