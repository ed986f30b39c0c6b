"""Counting up in the database itself: whatever writes a row, by whatever way, what was kept of it in any
process is stale.

A shot and a production each have a ``revision``. Triggers count it up when a row of theirs is written, so
that no bulk write, no update and no other program can pass by.
"""

from __future__ import annotations

from django.db import migrations


def counts_itself(table: str) -> migrations.RunSQL:
    """Every update of a row of ``table`` counts its ``revision`` up."""
    name = f"{table}_counts"
    return migrations.RunSQL(
        f"""
        CREATE FUNCTION {name}() RETURNS trigger LANGUAGE plpgsql AS $$
        BEGIN
            NEW.revision := OLD.revision + 1;
            RETURN NEW;
        END $$;
        CREATE TRIGGER {name} BEFORE UPDATE ON {table} FOR EACH ROW EXECUTE FUNCTION {name}();
        """,
        f"DROP TRIGGER {name} ON {table}; DROP FUNCTION {name}();",
    )


def touches(table: str, owner: str, column: str, *through: tuple[str, str]) -> migrations.RunSQL:
    """Every write of a row of ``table`` counts up the ``owner`` that ``column`` names, or that the tables of
    ``through`` (table, column) lead to.
    """
    name = f"{table}_touches"
    ids = f"NEW.{column}, OLD.{column}"
    for between, leads_to in through:
        ids = f"SELECT {leads_to} FROM {between} WHERE id IN ({ids})"
    return migrations.RunSQL(
        f"""
        CREATE FUNCTION {name}() RETURNS trigger LANGUAGE plpgsql AS $$
        BEGIN
            UPDATE {owner} SET revision = revision WHERE id IN ({ids});
            RETURN NULL;
        END $$;
        CREATE TRIGGER {name} AFTER INSERT OR UPDATE OR DELETE ON {table}
            FOR EACH ROW EXECUTE FUNCTION {name}();
        """,
        f"DROP TRIGGER {name} ON {table}; DROP FUNCTION {name}();",
    )
