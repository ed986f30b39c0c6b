"""Rows of a production taken out of it, and brought back: nothing is lost by a wrong press."""

from __future__ import annotations

from typing import Any

from django.db import models, transaction

from jungoptic.core.errors import InputError


def set_removed(kind: type[models.Model], word: str, production_id: int, pk: int, removed: bool) -> None:
    """Take a row (with ``production``, ``name`` and ``removed``) out, or bring it back unless its name is taken meanwhile."""
    rows: Any = kind._default_manager
    with transaction.atomic():
        row = rows.select_for_update().filter(production=production_id, pk=pk).first()
        if row is None:
            raise InputError.at("removed", f"The production has no such {word}.")
        if not removed and rows.filter(production=production_id, name=row.name, removed=False).exclude(pk=pk).exists():
            raise InputError.at("removed", f"There is another {word} called “{row.name}” now: give that one another name first.")
        row.removed = removed
        row.save()
