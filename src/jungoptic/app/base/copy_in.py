"""Many new rows at once through PostgreSQL's COPY: four times as quick as one long INSERT for rows of many
columns.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import Any

from django.db import connection, models


def copy_in(rows: Sequence[models.Model]) -> None:
    """Write new rows of one model, as ``bulk_create`` would, inside the transaction that is open.

    Keys are given by the database and not read.
    """
    if rows:
        fields = [field for field in rows[0]._meta.concrete_fields if not field.primary_key]
        _copy(rows, fields, lambda field, row: field.pre_save(row, True))


def copy_as_they_are(rows: Sequence[models.Model]) -> None:
    """Write rows of one model with the keys and moments that they have; see :func:`new_keys`."""
    if rows:
        _copy(rows, rows[0]._meta.concrete_fields, lambda field, row: getattr(row, field.attname))


def new_keys(model: type[models.Model], count: int) -> list[int]:
    """Keys that no other row has or will have, in rising order."""
    with connection.cursor() as cursor:
        cursor.execute(
            "SELECT nextval(pg_get_serial_sequence(%s, 'id')) FROM generate_series(1, %s)",
            [model._meta.db_table, count],
        )
        return [key for (key,) in cursor.fetchall()]


def _copy(
    rows: Sequence[models.Model], fields: Sequence[Any], value_of: Callable[[Any, models.Model], Any]
) -> None:
    quoted = connection.ops.quote_name
    columns = ", ".join(quoted(field.column or field.attname) for field in fields)
    with (
        connection.wrap_database_errors,
        connection.cursor() as cursor,
        cursor.copy(f"COPY {quoted(rows[0]._meta.db_table)} ({columns}) FROM STDIN") as copy,
    ):
        for row in rows:
            copy.write_row([field.get_db_prep_save(value_of(field, row), connection) for field in fields])
