"""What one thing more in the kit would open up: every shot solved with the kit as it is, and with more."""

from __future__ import annotations

import logging
from collections.abc import Mapping
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
from jungoptic.core.plan import Reach, additions, best_reach
from jungoptic.core.vocabulary import VERDICTS, School, Verdict

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
    now = {layer.pk: reach for layer in layers if (reach := _reach(table, layer, None, titles))}
    if not now:
        return
    before = _worst(now)
    if before.verdict == _HOLDS:
        found.holding += 1
        return
    lacking = [layer for layer in layers if layer.pk in now and now[layer.pk].verdict != _HOLDS]
    after: dict[str, Reach] = {}
    for key in dict.fromkeys(one.key for layer in lacking for one in additions(kit_for(table, layer))):
        better = {layer.pk: _reach(table, layer, key, titles) or now[layer.pk] for layer in lacking}
        # what is there already is not forgotten for something more
        best = {pk: min(now[pk], better.get(pk, now[pk]), key=lambda one: one.worth) for pk in now}
        if (reached := _worst(best)).worth < before.worth:
            after[key] = reached
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


def _reach(table: BenchTable, layer: Layer, key: str | None, titles: dict[str, str]) -> Reach | None:
    """How well a layer can be filmed, with an addition to the kit or without; None where core refuses it."""
    kit = kit_for(table, layer)
    if key is not None:
        addition = next((one for one in additions(kit) if one.key == key), None)
        if addition is None:
            return None
        titles.setdefault(key, addition.title)
        kit = addition.kit
    try:
        return best_reach(**to_solve(table, layer), kit=kit, locked=fixed(table, layer))
    except InputError as error:
        logger.info("%s in %s cannot be solved: %s", layer.name, table.shot.code, error)
        return None


def _worst(reached: Mapping[int, Reach]) -> Reach:
    """A shot is as good as its worst layer, and shows as much as all of them."""
    return Reach(
        min((one.verdict for one in reached.values()), key=VERDICTS.index),
        sum(one.shows for one in reached.values()),
        sum(one.tight for one in reached.values()),
    )


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
