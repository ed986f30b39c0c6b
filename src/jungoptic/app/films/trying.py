"""What would be judged otherwise if the production were another: the delivery, its rate, the mains, the
place.
"""

from __future__ import annotations

import hashlib
import json
import time
from collections.abc import Mapping
from typing import Any

from jungoptic.app.breakdown.models import Summary
from jungoptic.app.breakdown.wall import summary_of
from jungoptic.app.films.schemas import TriedFilm, TriedShot
from jungoptic.app.productions import film
from jungoptic.app.productions.models import Production
from jungoptic.app.shots.models import Shot
from jungoptic.app.takes.table import shots_with_everything
from jungoptic.core.errors import InputError
from jungoptic.core.vocabulary import VERDICTS, School

PATIENCE_S = 1.5
_TOGETHER = 6


def tried(production_id: int, school: School, changes: Mapping[str, Any], start: int) -> TriedFilm:
    """Shots from number ``start`` of the cut on that would be judged otherwise, as many as there is time for.

    Nothing is written. Raises InputError.
    """
    production = Production.objects.get(pk=production_id)
    values = film.tried(production, changes)
    if not set(values) & film.JUDGES:
        return TriedFilm(shots=[], looked_at=0, next=None)
    ids = list(Shot.in_cut.filter(production=production).values_list("pk", flat=True))
    ends = time.monotonic() + PATIENCE_S
    found: list[TriedShot] = []
    at = start
    while at < len(ids) and (at == start or time.monotonic() < ends):
        some = ids[at : at + _TOGETHER]
        before = {shot.pk: summary_of(shot, school) for shot in shots_with_everything(production, some)}
        for shot in _as_tried(production, some, values):
            was = before.get(shot.pk)
            now: Summary | None = None
            refused = ""
            try:
                now = summary_of(shot, school)
            except InputError as error:
                refused = str(error)
            if was is None:
                continue
            counts = [[getattr(one, word) if one else 0 for word in VERDICTS] for one in (was, now)]
            if refused or counts[0] != counts[1] or (now and now.worst != was.worst):
                found.append(
                    TriedShot(
                        id=shot.pk,
                        code=shot.code,
                        title=shot.title,
                        before=dict(zip(VERDICTS, counts[0], strict=True)),
                        after=dict(zip(VERDICTS, counts[1], strict=True)),
                        worst_before=was.worst,
                        worst_after=now.worst if now else refused,
                    )
                )
        at += _TOGETHER
    return TriedFilm(
        shots=found, looked_at=max(min(at, len(ids)) - start, 0), next=at if at < len(ids) else None
    )


def _as_tried(production: Production, shot_ids: list[int], values: Mapping[str, Any]) -> list[Shot]:
    shots = shots_with_everything(production, shot_ids)
    if not shots:
        return []
    of_shots = shots[0].production
    for name, value in values.items():
        setattr(of_shots, name, value)
    # what is kept for a production is kept by its revision: these values have one of their own
    said = json.dumps([of_shots.revision, sorted(values.items())]).encode()
    of_shots.revision = -int(hashlib.sha256(said).hexdigest()[:12], 16)
    return shots
