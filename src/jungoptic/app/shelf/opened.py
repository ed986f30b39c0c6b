"""What one thing more in the kit would open up: every shot solved with the kit as it is, and with more."""

from __future__ import annotations

import logging
from typing import Any

from pydantic import BaseModel

from jungoptic.app.jobs.kinds import job_kind
from jungoptic.app.jobs.models import Job
from jungoptic.app.jobs.running import Running
from jungoptic.app.jobs.schemas import JobOut
from jungoptic.app.productions.models import Production
from jungoptic.app.shelf.abilities_schemas import OpenedAddition, OpenedFound, OpenedOut, OpenedShot
from jungoptic.app.shots.models import Layer, Shot
from jungoptic.app.takes.solving import can_be_solved, fixed, kit_for, to_solve
from jungoptic.app.takes.table import BenchTable, shots_with_everything
from jungoptic.core.errors import InputError
from jungoptic.core.kit import Kit
from jungoptic.core.plan import Reach, additions, reach_of, shot_reach, solve
from jungoptic.core.vocabulary import School, Verdict

logger = logging.getLogger(__name__)
_HOLDS: Verdict = "holds"


class Looking(BaseModel):
    """How verdicts are given."""

    school: School = "measured"


def _as_seen(production: Production) -> dict[str, Any]:
    """What the answer hangs on."""
    shots = Shot.in_cut.filter(production=production).order_by("pk").values_list("pk", "revision")
    return {"kit": production.revision, "shots": [list(one) for one in shots]}


@job_kind("kit_opened", Looking, queue="heavy", longest_s=3600.0)
def kit_opened(running: Running, how: Looking) -> None:
    """Look at every shot of the cut."""
    production = Production.objects.get(pk=running.job.production_id)
    seen = _as_seen(production)
    ids = list(Shot.in_cut.filter(production=production).values_list("pk", flat=True))
    found = OpenedFound(additions=[], holding=0, shots=[])
    titles: dict[str, str] = {}
    for number, shot_id in enumerate(ids):
        running.advance(number / len(ids))
        for shot in shots_with_everything(production, [shot_id]):
            _look(found, titles, shot, how.school)
    found.additions = [OpenedAddition(key=key, title=title) for key, title in titles.items()]
    running.finish(said={"seen": seen, "found": found.model_dump(mode="json")})


def _look(found: OpenedFound, titles: dict[str, str], shot: Shot, school: School) -> None:
    """One shot, with the kit as it is and with each addition."""
    table = BenchTable(shot, school=school, units="metric")
    layers = [layer for layer in table.layers if can_be_solved(table, layer)]
    now = {layer: reach for layer in layers if (reach := _reach(table, layer, kit_for(table, layer)))}
    if not now:
        return
    before = shot_reach(list(now.values()))
    if before.verdict == _HOLDS:
        found.holding += 1
        return
    with_more: dict[str, dict[Layer, Reach]] = {}
    for layer, reach in now.items():
        if reach.verdict == _HOLDS:
            continue
        for more in additions(kit_for(table, layer)):
            titles.setdefault(more.key, more.title)
            # what one has already is not forgotten for something more
            better = min(reach, _reach(table, layer, more.kit) or reach, key=lambda one: one.worth)
            with_more.setdefault(more.key, {})[layer] = better
    after = {key: shot_reach(list((now | better).values())) for key, better in with_more.items()}
    after = {key: reach for key, reach in after.items() if reach.worth < before.worth}
    found.shots.append(
        OpenedShot(
            id=shot.pk,
            code=shot.code,
            title=shot.title,
            before=before.verdict,
            shows=before.shows,
            after={key: reach.verdict for key, reach in after.items()},
            shows_after={key: reach.shows for key, reach in after.items()},
        )
    )


def _reach(table: BenchTable, layer: Layer, kit: Kit) -> Reach | None:
    """How well a layer can be filmed with a kit; None where core refuses it."""
    try:
        ways = solve(**to_solve(table, layer), kit=kit, locked=fixed(table, layer), most=1, advises=False)
    except InputError as error:
        logger.info("%s in %s cannot be solved: %s", layer.name, table.shot.code, error)
        return None
    return reach_of(ways)


def last(production: Production) -> OpenedOut:
    """What was found last, and the job that looks now."""
    jobs = Job.objects.filter(production=production, kind=kit_opened.name)
    job = jobs.first()
    ready = jobs.filter(state=Job.State.READY, said__isnull=False).first()
    said: Any = ready.said if ready else None
    return OpenedOut(
        job=JobOut.of(job) if job else None,
        found=OpenedFound.model_validate(said["found"]) if said else None,
        stale=bool(said) and said["seen"] != _as_seen(production),
    )
