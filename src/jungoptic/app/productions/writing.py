"""Writing in a production as a whole."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager

from jungoptic.app.base.edits import Author, Writing, writing
from jungoptic.app.productions.models import Production


@contextmanager
def in_production(person: Author, production_id: int, version: int | None = None) -> Iterator[Writing]:
    """One write in a production, which is locked meanwhile. ``version`` is the production's own that the
    writer has seen, where nothing narrower was.
    """
    with writing(person, production_id) as write:
        production = Production.objects.select_for_update(no_key=True).get(pk=production_id)
        if version is not None:
            write.refuse_unseen("production", production, version)
        yield write
