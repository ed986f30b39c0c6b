"""Calling a shot ready, which open cautions refuse."""

from __future__ import annotations

from collections.abc import Sequence

from jungoptic.app.base.edits import Writing, takes_back
from jungoptic.app.base.models import Change
from jungoptic.app.safety.cautions import READY, open_hazards
from jungoptic.app.shots.models import Shot
from jungoptic.app.takes.table import BenchTable, shot_with_everything
from jungoptic.core.errors import InputError


def set_ready(write: Writing, shot: Shot, ready: bool) -> None:
    """Call the shot ready, or not any more. Raises InputError while a caution is open."""
    if ready:
        _refuse_open(shot)
    write.save(READY, shot, {"ready": ready})


def _refuse_open(shot: Shot) -> None:
    left = open_hazards(BenchTable(shot_with_everything(shot.pk), school="measured", units="metric"))
    if left:
        names = ", ".join(one.caution.title for one in left)
        raise InputError.at(
            "ready",
            f"{shot.code} cannot be ready: {len(left)} caution{'s are' if len(left) > 1 else ' is'} not"
            f" signed off ({names}).",
        )


@takes_back(READY)
def _back(write: Writing, changes: Sequence[Change]) -> None:
    for change in changes:
        set_ready(write, Shot.objects.get(pk=change.row_id), bool(change.before))
