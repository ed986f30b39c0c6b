"""The plan as a telephone showed it, though it has moved on since: what the history says was changed
meanwhile, laid back over it.
"""

from __future__ import annotations

from typing import Any

from jungoptic.app.base.edits import ConflictError
from jungoptic.app.base.models import Change, Write
from jungoptic.app.shots.edit import KINDS
from jungoptic.app.shots.models import Shot
from jungoptic.app.shots.plan import Draft


def newest_entry(production_id: int) -> int:
    """The newest entry of a production's history; 0 while there is none."""
    found = (
        Write.objects.filter(production=production_id).order_by("-pk").values_list("pk", flat=True).first()
    )
    return found or 0


def as_shown(shot: Shot, shown: int) -> Draft:
    """What to lay over today's plan to have it as it was after the entry ``shown``.

    Raises ConflictError for one that nobody can have seen.
    """
    if shown > newest_entry(shot.production_id):
        raise ConflictError(f"“{shot.code}”", "Nobody", ["the plan that the take says it was shown"])
    rows = {
        kind: list(
            KINDS[kind].model.objects.filter(pk__in=KINDS[kind].rows(shot)).values_list("pk", flat=True)
        )
        for kind in KINDS
    }
    since: dict[str, dict[int, dict[str, Any]]] = {kind: {} for kind in KINDS}
    for kind, own in rows.items():
        later = Change.objects.filter(kind=kind, row_id__in=own, write__gt=shown).order_by("-pk")
        for change in later:  # newest first: what stands at the end is from before the first of them
            since[kind].setdefault(change.row_id, {})[change.field] = change.before
    return Draft(**since)
