"""Shots as the days want them: read from the bench, kept by their versions."""

from __future__ import annotations

import threading
from collections import OrderedDict
from collections.abc import Iterable
from dataclasses import replace

from jungoptic.app.costs.costing import figures_of
from jungoptic.app.productions.models import Production
from jungoptic.app.recipes.models import PlannedLayer
from jungoptic.app.recipes.plates import filming_order
from jungoptic.app.shots.models import Shot
from jungoptic.app.takes.table import BenchTable, shots_with_everything
from jungoptic.core.days import Derived, Filming, ShotToFilm, StandingSetUp

NOWHERE = "no place yet"
_TOGETHER = 12  # shots read in one go
_MOST_KEPT = 400

Versions = tuple[int, int]


class _Kept:
    """Shots as core wants them for jobs, by the versions that they were read at."""

    def __init__(self) -> None:
        self._lock = threading.Lock()
        self._shots: OrderedDict[int, tuple[Versions, ShotToFilm | None]] = OrderedDict()

    def get(self, shot_id: int, versions: Versions) -> tuple[bool, ShotToFilm | None]:
        with self._lock:
            kept = self._shots.get(shot_id)
            return (kept is not None and kept[0] == versions), kept[1] if kept else None

    def put(self, shot_id: int, versions: Versions, shot: ShotToFilm | None) -> None:
        with self._lock:
            self._shots[shot_id] = versions, shot
            while len(self._shots) > _MOST_KEPT:
                self._shots.popitem(last=False)

    def forget_all(self) -> None:
        with self._lock:
            self._shots.clear()


KEPT = _Kept()


def shots_to_film(production: Production) -> list[ShotToFilm]:
    """Every shot of the cut that has a hero, in the order of the cut; read anew only where it changed."""
    rows = list(Shot.in_cut.filter(production=production).values_list("pk", "revision"))
    versions = {pk: (revision, production.revision) for pk, revision in rows}
    told: dict[int, ShotToFilm | None] = {}
    missing = []
    for pk, _ in rows:
        known, shot = KEPT.get(pk, versions[pk])
        if known:
            told[pk] = shot
        else:
            missing.append(pk)
    for start in range(0, len(missing), _TOGETHER):
        for row in shots_with_everything(production, missing[start : start + _TOGETHER]):
            told[row.pk] = _shot_to_film(row)
            KEPT.put(row.pk, (row.revision, production.revision), told[row.pk])
    return [shot for pk, _ in rows if (shot := told.get(pk)) is not None]


def _shot_to_film(shot: Shot) -> ShotToFilm | None:
    table = BenchTable(shot, school="measured", units="metric")
    if table.hero is None or not table.layers:
        return None
    planned = {row.layer_id: row for row in PlannedLayer.objects.filter(layer__shot=shot)}
    order = {layer.pk: rank for rank, layer in enumerate(filming_order(table.layers, planned))}
    filming = []
    for layer in table.layers:
        own = planned.get(layer.pk)
        filming.append(
            Filming(
                rank=order[layer.pk],
                why=own.why if own else "",
                done=table.circled(layer) is not None,
            )
            if layer.pk in order
            else None
        )
    return ShotToFilm(
        code=shot.code,
        stack=table.stack,
        filming=tuple(filming),
        set_ups={
            pk: StandingSetUp(set_up.name, set_up.mode.camera.name, set_up.lens.name)
            for pk, set_up in table.set_ups.items()
        },
        place=shot.place.name if shot.place else NOWHERE,
        seconds_per_hour=figures_of(shot.production).seconds_per_hour,
    )


def with_destroyed(shot: ShotToFilm, gone: set[int]) -> ShotToFilm:
    """The shot where somebody said of some set-ups that their model is destroyed."""
    if not gone & set(shot.set_ups):
        return shot
    filming = tuple(
        replace(own, destroys=True)
        if own is not None and member.set_up_key in gone and member.layer.scale > 1
        else own
        for own, member in zip(shot.filming, shot.stack.members, strict=True)
    )
    return replace(shot, filming=filming)


def unfilmed(shot: ShotToFilm) -> ShotToFilm:
    """The shot as if nothing of it were filmed yet."""
    return replace(shot, filming=tuple(own and replace(own, done=False) for own in shot.filming))


def ends_of(derived: Derived, keys: Iterable[str]) -> tuple[dict[int, str], dict[int, str]]:
    """The first and the last job of each set-up; of one that another films too, that one's."""
    first: dict[int, str] = {}
    last: dict[int, str] = {}
    for key in keys:
        for set_up in derived.set_ups.get(key, ()):
            first.setdefault(set_up, key)
            last[set_up] = key
    return first, last
