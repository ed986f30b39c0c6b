"""Dawn round the mill pond: a hyperlapse along an arc, photographed by the simulated camera from a barrow and
aimed by hand at the mill's chimney; two photographs are aimed too far off, one of which was taken again.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from datetime import UTC, datetime, timedelta
from typing import Any

from jungoptic.app.frames import beside, hyper, keeping
from jungoptic.app.frames.desks import desk_of, match_of
from jungoptic.app.frames.models import Exposure, Hyperlapse
from jungoptic.app.people.models import Person
from jungoptic.app.productions.models import Production
from jungoptic.app.shots.models import Layer, Shot
from jungoptic.app.shots.writing import in_shot
from jungoptic.core.frames import from_the_first, stations
from jungoptic.core.stage import HyperCamera, HyperFaults, jpeg

CODE, LAYER = "TM080", "Pond"
WIDTH_PX = 1920
PHOTOGRAPHS = 144
MISSED, TAKEN_AGAIN = 97, 61
AIM_PX = 9.0
FAULTS = {
    None: HyperFaults(aim_px=AIM_PX, brightens_stops=0.006),
    MISSED: HyperFaults(AIM_PX, MISSED, (74.0, -22.0), 0.006),
    TAKEN_AGAIN: HyperFaults(AIM_PX, TAKEN_AGAIN, (-118.0, 30.0), 0.006),
}
"""Whoever aims is pushed by the barrow's handle once, and looks away once."""
_BEGAN = datetime(2027, 10, 23, 6, 31, tzinfo=UTC)
_AGAIN_S = 9.0


def plan_hyperlapse(production: Production, person: Person) -> None:
    """The hyperlapse as it follows from the shot: along its arc, aimed at its tracking mark."""
    layer = Layer.objects.select_related("shot__production").get(
        shot__production=production, shot__code=CODE, name=LAYER
    )
    with in_shot(person, layer.shot_id) as write:
        hyper.begin(write, layer, None, None)


def carry(production: Production, person: Person, at: Callable[[float], None]) -> None:
    """Photograph it; nothing where somebody took photographs already. ``at`` is told how much is done."""
    row = Hyperlapse.objects.filter(
        point__sheet__layer__shot__production=production, point__sheet__removed=False, removed=False
    ).first()
    if row is None or Exposure.objects.filter(pose__sheet=row.point.sheet_id).exists():
        return
    sheet = row.point.sheet
    poses = keeping.lines_of(sheet.pk)
    photographs = list(_photographed(row, len(poses), at))
    with in_shot(person, sheet.layer.shot_id) as write:
        write.title, write.stays = f"{min(len(poses), PHOTOGRAPHS)} photographs of {LAYER}", True
        for number, data, taken, when in photographs:
            name = f"{CODE} {number:04d}.jpg"
            keeping.keep(write, poses[number - 1], name, data, taken, when)


def _photographed(row: Hyperlapse, count: int, at: Callable[[float], None]) -> Iterator[tuple[Any, ...]]:
    layer, plan = row.point.sheet.layer, row.planned
    versions = Shot.objects.values_list("revision", "production__revision").get(pk=layer.shot_id)
    desk = desk_of(layer.shot_id, layer.pk, versions)
    assert desk is not None
    mark, path = (plan.mark_x, plan.mark_y), plan.path(count)
    camera = HyperCamera(match_of(desk), WIDTH_PX, plan.away_m, mark)
    known: list[tuple[beside.Held, tuple[float, float]]] = []
    when = _BEGAN
    for station in stations(path)[:PHOTOGRAPHS]:
        at((station.number - 1) / min(count, PHOTOGRAPHS))
        camera.faults = FAULTS.get(station.number, FAULTS[None])
        for again in range(1 + (station.number == TAKEN_AGAIN)):
            place = (*from_the_first(station, path), station.turned_deg)
            data = jpeg(camera.photograph(station.number, place, again), beside.QUALITY)
            taken = beside.aimed(data, row.point_id, known, mark)
            yield station.number, data, taken, when
            when += timedelta(seconds=_AGAIN_S if again else plan.interval_s)
        if taken.points:
            seen = beside.Held.of(data), (taken.points[0][1], taken.points[0][2])
            known = [*known[:1], seen]
