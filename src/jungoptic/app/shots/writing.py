"""Writing in one shot."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager

from jungoptic.app.base.edits import Author, Writing, writing
from jungoptic.app.shots.models import Shot


@contextmanager
def in_shot(person: Author, shot_id: int, version: int | None = None) -> Iterator[Writing]:
    """One write in a shot, which is locked meanwhile. ``version`` is the shot's own that the writer has seen,
    where nothing narrower was.
    """
    production_id = Shot.objects.values_list("production_id", flat=True).get(pk=shot_id)
    with writing(person, production_id, shot_id) as write:
        shot = Shot.objects.select_for_update(no_key=True).get(pk=shot_id)
        if version is not None:
            write.refuse_unseen("shot", shot, version)
        yield write
