"""Calling a shot ready, which open cautions and verdicts that show refuse."""

from __future__ import annotations

from collections.abc import Sequence

from jungoptic.app.base.edits import Writing, takes_back
from jungoptic.app.base.models import Change
from jungoptic.app.safety.cautions import READY, open_hazards
from jungoptic.app.shots.models import Shot
from jungoptic.app.takes.table import BenchTable, shot_with_everything
from jungoptic.core.breakdown import may_have_people
from jungoptic.core.errors import InputError


def set_ready(write: Writing, shot: Shot, ready: bool) -> None:
    """Call the shot ready, or not any more. Raises InputError while a caution is open, or while something
    shows that nobody accepted.
    """
    if ready:
        _refuse_open(shot)
    write.save(READY, shot, {"ready": ready})


_MOST_NAMED = 3


def _refuse_open(shot: Shot) -> None:
    table = BenchTable(shot_with_everything(shot.pk), school="measured", units="metric")
    if not shot.who and table.hero is not None and may_have_people(table.stack):
        raise InputError.at(
            "ready",
            f"Say who is in {shot.code} first: children, animals and frail guests have their own cautions.",
        )
    left = open_hazards(table)
    if left:
        names = ", ".join(one.caution.title for one in left)
        raise InputError.at(
            "ready",
            f"{shot.code} cannot be ready: {len(left)} caution{'s are' if len(left) > 1 else ' is'} not"
            f" signed off ({names}).",
        )
    seen = shown(table)
    if seen:
        names = "; ".join(seen[:_MOST_NAMED]) + (" and more" if len(seen) > _MOST_NAMED else "")
        raise InputError.at(
            "ready",
            f"{shot.code} cannot be ready: {len(seen)} verdict{'s show' if len(seen) > 1 else ' shows'}"
            f" ({names}). Mend {'them' if len(seen) > 1 else 'it'} on the Bench, or accept"
            f" {'them' if len(seen) > 1 else 'it'} there with a reason.",
        )


def shown(table: BenchTable) -> list[str]:
    """What shows by both schools and nobody accepted: layer and item."""
    return [
        f"{judged.layer.name}: {item.label.lower()}"
        for judged in table.judged
        for item in judged.items
        if item.shows_by_both and item.item not in judged.accepted
    ]


@takes_back(READY)
def _back(write: Writing, changes: Sequence[Change]) -> None:
    for change in changes:
        set_ready(write, Shot.objects.get(pk=change.row_id), bool(change.before))
