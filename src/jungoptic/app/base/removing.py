"""Rows of a production (with ``production``, ``name``, ``removed``, ``version``) taken out of it, and brought
back: nothing is lost by a wrong press.
"""

from __future__ import annotations

from typing import Any, TypeVar

from django.db import models

from jungoptic.app.base.edits import Writing
from jungoptic.core.errors import InputError

Row = TypeVar("Row", bound=models.Model)


def row_of(write: Writing, model: type[Row], word: str, pk: int) -> Row:
    """The production's row. Raises InputError where it has none such."""
    row = model._default_manager.filter(production=write.production_id, pk=pk).first()
    if row is None:
        raise InputError.at(word, f"The production has no such {word}.")
    return row


def set_removed(write: Writing, model: type[Row], word: str, pk: int, version: int, removed: bool) -> Row:
    """Take a row out, or bring it back unless its name is taken meanwhile."""
    row: Any = row_of(write, model, word, pk)
    write.refuse_unseen(word, row, version)
    named = model._default_manager.filter(production=write.production_id, name=row.name, removed=False)
    if not removed and named.exclude(pk=pk).exists():
        raise InputError.at(
            "removed", f"There is another {word} called “{row.name}” now: give that one another name first."
        )
    write.save(word, row, {"removed": removed})
    found: Row = row
    return found
