"""The wall: every shot of a production in a line, worked out once for each version of it and remembered."""

from __future__ import annotations

import logging
import time
from collections import Counter, defaultdict
from collections.abc import Mapping
from itertools import pairwise
from typing import Any

from django.db.models import Count, Q

from jungoptic.app.base.edits import Writing, before_it_stands
from jungoptic.app.base.models import Change
from jungoptic.app.boards.keeping import BOARD
from jungoptic.app.boards.models import Board
from jungoptic.app.breakdown.models import Summary
from jungoptic.app.breakdown.schemas import Joint, PlaceName, RemovedShot, Totals, WallLine, WallOut
from jungoptic.app.costs.costing import chosen_option, storage_of
from jungoptic.app.frames.keeping import KINDS_KEPT
from jungoptic.app.jobs.asking import JOB
from jungoptic.app.productions.models import Production
from jungoptic.app.recipes.models import ShotRecipe
from jungoptic.app.recipes.plates import TICKED
from jungoptic.app.safety.cautions import SIGNED, hazards
from jungoptic.app.safety.models import SignOff
from jungoptic.app.safety.ready import set_ready
from jungoptic.app.shots.cut import change_line
from jungoptic.app.shots.models import Shot
from jungoptic.app.takes.log import KIND as TAKE
from jungoptic.app.takes.table import BenchTable, shots_with_everything
from jungoptic.app.vocabulary.own import caution_title
from jungoptic.core.breakdown import CRAFTS
from jungoptic.core.errors import InputError
from jungoptic.core.match import CutSide, across_cut, cut_side
from jungoptic.core.vocabulary import PICTURES, VERDICTS, School, Units
from jungoptic.core.wording import Words

logger = logging.getLogger(__name__)
PATIENCE_S = 1.5  # one answer works out what it can in this time; the page asks again for the rest
_TOGETHER = 12  # shots read in one go
_SAYS_ONLY = {JOB, TICKED, SIGNED, BOARD, *KINDS_KEPT}
_WORKED_OUT = [one.name for one in Summary._meta.fields if one.name not in ("id", "shot", "school")]


def summary_of(shot: Shot, school: School) -> Summary:
    """A shot that was read with everything, worked out; not saved."""
    table = BenchTable(shot, school=school, units="metric", basis="shot")
    judged = table.judged
    counts = {word: sum(one.count(word) for one in judged) for word in VERDICTS}
    worst = max((one.worst for one in judged if one.worst), key=lambda item: item.ladder, default=None)
    option = chosen_option(table)
    hours = dict.fromkeys(CRAFTS, 0.0)
    for one in option.crafts if option else ():
        hours[one.craft] += one.hours
    return Summary(
        shot=shot,
        school=school,
        version=shot.revision,
        revision=shot.production.revision,
        layers=len(table.layers),
        **counts,
        filmed=sum(layer.kind not in PICTURES and layer.set_up_id is not None for layer in table.layers),
        shot_layers=sum(bool(table.circled(layer)) for layer in table.layers),
        hero=table.hero_basis if table.hero_layer else "",
        worst=f"{worst.label}: {worst.where}"[:120] if worst and worst.verdict != "holds" else "",
        way=option.key if option else "",
        hours=[round(hours[craft], 3) for craft in CRAFTS],
        storage_gb=round(storage_of(table), 3),
        hazards=[one.caution.key for one in hazards(table)],
        cut_side=cut_side(table.hero).model_dump(mode="json") if table.hero else None,
    )


def _keep(made: list[Summary]) -> None:
    Summary.objects.bulk_create(
        made, update_conflicts=True, unique_fields=["shot", "school"], update_fields=_WORKED_OUT
    )


def _judges_nothing(change: Change) -> bool:
    """A take was judged when it was logged; which one is circled is another matter."""
    return change.kind in _SAYS_ONLY or (change.kind == TAKE and change.field == "logged")


@before_it_stands
def work_out_what_was_changed(write: Writing) -> None:
    """A shot that was changed is judged and priced before the change stands: what cannot be is refused. The
    wall need not do it again.
    """
    if write.shot_id is None or all(_judges_nothing(one) for one in write.changes):
        return
    shots = shots_with_everything(Production.objects.get(pk=write.production_id), [write.shot_id])
    _keep([summary_of(shot, "measured") for shot in shots if not shot.template])


def _summary_at_least(shot: Shot, school: School) -> Summary:
    """A shot worked out; of one that cannot be, why. The others stand beside it."""
    try:
        return summary_of(shot, school)
    except Exception as error:
        logger.exception("shot %s cannot be judged", shot.pk)
        why = str(error) if isinstance(error, InputError) else "What it holds cannot be reckoned with."
        return Summary(
            shot=shot,
            school=school,
            version=shot.revision,
            revision=shot.production.revision,
            **dict.fromkeys(("layers", *VERDICTS, "filmed", "shot_layers"), 0),
            hours=[0.0 for _ in CRAFTS],
            fault=why[:300],
        )


def _worked_out(production: Production, shot_ids: list[int], school: School) -> dict[int, Summary]:
    """Summaries by shot, of at least one and as many as there is time for, kept for whoever asks next."""
    ends = time.monotonic() + PATIENCE_S
    found: dict[int, Summary] = {}
    for at in range(0, len(shot_ids), _TOGETHER):
        made = []
        for shot in shots_with_everything(production, shot_ids[at : at + _TOGETHER]):
            if not found or time.monotonic() < ends:
                made.append(found.setdefault(shot.pk, _summary_at_least(shot, school)))
        _keep(made)
        if time.monotonic() >= ends:
            break
    return found


def _joints(shots: list[Any], known: Mapping[int, Summary], words: Words) -> list[Joint]:
    """Neighbours in the cut that are set in one place, hero against hero."""
    joints = []
    for left, right in pairwise(shots):
        sides = [known[one.pk].cut_side if one.pk in known else None for one in (left, right)]
        if left.place_id is None or left.place_id != right.place_id or None in sides:
            continue
        here, there = (CutSide.read(side) for side in sides)
        directions = str(left.screen_direction), str(right.screen_direction)
        items = across_cut(here, there, right.code, directions, words)
        joints.append(Joint(left_id=left.pk, right_id=right.pk, verdict=items[0].verdict, items=items))
    return joints


def wall(production_id: int, school: School, units: Units = "metric") -> WallOut:
    """Every shot with its totals.

    What could not be worked out in time is pending, without a verdict: ask again.
    """
    production = Production.objects.get(pk=production_id)
    shots = list(
        Shot.in_cut.filter(production=production)
        .select_related("place")
        .annotate(
            take_count=Count("layers__takes", distinct=True),
            all_layers=Count("layers", filter=Q(layers__removed=False), distinct=True),
        )
    )
    known = {one.shot_id: one for one in Summary.objects.filter(shot__production=production, school=school)}
    boards = dict(
        Board.objects.filter(shot__production=production, current=True).values_list("shot_id", "pk")
    )
    recipes: dict[int, list[str]] = defaultdict(list)
    for recipe in ShotRecipe.objects.filter(shot__production=production, removed=False).select_related("own"):
        recipes[recipe.shot_id].append(recipe.name)
    signed: dict[int, set[str]] = defaultdict(set)
    for shot_id, caution in SignOff.objects.filter(shot__production=production, withdrawn=False).values_list(
        "shot_id", "caution"
    ):
        signed[shot_id].add(caution)
    current = {shot.pk: (shot.revision, production.revision) for shot in shots}
    known = {pk: row for pk, row in known.items() if current.get(pk) == (row.version, row.revision)}
    known |= _worked_out(production, [shot.pk for shot in shots if shot.pk not in known], school)
    lines = [
        _line(shot, known.get(shot.pk), boards.get(shot.pk), recipes[shot.pk], signed[shot.pk])
        for shot in shots
    ]
    return WallOut(
        version=production.version,
        shots=lines,
        joints=_joints(shots, known, Words(units)),
        pending=sum(one.pending for one in lines),
        totals=_totals(lines),
        places=[PlaceName(id=place.pk, name=place.name) for place in production.places.filter(removed=False)],
        removed=_removed(production),
    )


def _line(
    shot: Any, row: Summary | None, board: int | None, recipes: list[str], signed: set[str]
) -> WallLine:
    open_keys = [key for key in row.hazards if key not in signed] if row else []
    total = sum(row.hours) if row else 0.0
    return WallLine(
        id=shot.pk,
        code=shot.code,
        title=shot.title,
        description=shot.description,
        length_frames=shot.length_frames,
        position=shot.position,
        place_id=shot.place_id,
        place=shot.place.name if shot.place else "",
        shoot_on=shot.shoot_on,
        hours_spent=shot.hours_spent,
        recipes=recipes,
        board=board,
        version=shot.version,
        revision=shot.revision,
        layers=shot.all_layers,
        filmed=row.filmed if row else 0,
        shot_layers=row.shot_layers if row else 0,
        takes=shot.take_count,
        shows=row.shows if row else 0,
        tight=row.tight if row else 0,
        holds=row.holds if row else 0,
        worst=row.worst if row else "",
        verdict=next((word for word in VERDICTS if getattr(row, word)), None) if row else None,
        hero=row.hero if row else "",
        hours=total,
        hours_left=max(0.0, total - shot.hours_spent),
        by_craft=dict(zip(CRAFTS, row.hours, strict=True)) if row else {},
        way=row.way if row else "",
        storage_gb=row.storage_gb if row else 0.0,
        hazards=[caution_title(key) for key in row.hazards] if row else [],
        open_hazards=[caution_title(key) for key in open_keys],
        ready=bool(shot.ready and row and not row.fault and not open_keys and not row.shows),
        effects=bool(recipes) or shot.all_layers > 1,
        pending=row is None,
        fault=row.fault if row else "",
    )


def whole_wall(production_id: int, school: School) -> list[WallLine]:
    """The wall once every shot is judged, however long that takes."""
    while (found := wall(production_id, school)).pending:
        pass
    return found.shots


def _totals(lines: list[WallLine]) -> Totals:
    crafts: Counter[str] = Counter()
    for one in lines:
        crafts.update(one.by_craft)
    return Totals(
        shots=len(lines),
        effects=sum(one.effects for one in lines),
        frames=sum(one.length_frames for one in lines),
        hours=sum(one.hours for one in lines),
        hours_left=sum(one.hours_left for one in lines),
        by_craft={craft: crafts[craft] for craft in CRAFTS if crafts[craft]},
        storage_gb=sum(one.storage_gb for one in lines),
        open_hazards=sum(len(one.open_hazards) for one in lines),
        ready=sum(one.ready for one in lines),
    )


def _removed(production: Production) -> list[RemovedShot]:
    rows = Shot.objects.filter(production=production, template=False, removed=True)
    return [RemovedShot(id=one.pk, version=one.version, code=one.code, title=one.title) for one in rows[:500]]


def change_on_wall(write: Writing, version: int, changes: Mapping[str, Any]) -> int:
    """Edit a shot where it stands on the wall, or call it ready. Returns its version since."""
    shot = Shot.objects.get(pk=write.of_shot)
    write.refuse_unseen("shot", shot, version)
    in_cut = {name: value for name, value in changes.items() if name != "ready"}
    if in_cut:
        change_line(write, shot, in_cut)
    if "ready" in changes:
        set_ready(write, shot, bool(changes["ready"]))
    return shot.version
