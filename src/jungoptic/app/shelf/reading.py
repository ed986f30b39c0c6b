"""The kit as it stands, and what stands on each thing of it."""

from __future__ import annotations

from collections import Counter, defaultdict
from typing import Any

from django.db.models import F

from jungoptic.app.productions.models import Production
from jungoptic.app.shelf.rows import KINDS
from jungoptic.app.shelf.schemas import GateName, KitOut, KitRow, StartName, Used
from jungoptic.app.shelf.starts import new_recording, starts
from jungoptic.app.shots.models import SetUp
from jungoptic.app.takes.models import Take
from jungoptic.core.handbook import record_fields
from jungoptic.core.kit import GATES

_NAMED = 8
_STANDS_ON = {"lens": "lens_id", "mode": "mode_id", "camera": "mode__camera_id"}


def kit(production_id: int) -> KitOut:
    production = Production.objects.get(pk=production_id)
    used = _used(production_id)
    rows: dict[str, list[KitRow]] = {}
    for key, kind in KINDS.items():
        found: Any = kind.model._default_manager.filter(**{kind.to_production: production_id})
        rows[key] = [
            KitRow(
                id=row.pk,
                version=row.version,
                removed=row.removed,
                values=kind.values(row),
                used=used[key].get(row.pk, NOTHING),
            )
            for row in found
        ]
    return KitOut(
        version=production.version,
        fields={key: list(record_fields(kind.record)) for key, kind in KINDS.items()},
        rows=rows,
        gates=[GateName(key=key, name=gate.name) for key, gate in GATES.items()],
        starts=[StartName(key=key, title=one["title"]) for key, one in starts().items()],
        new_mode=new_recording(production.upright),
    )


NOTHING = Used(set_ups=0, takes=0, shots=[])


def _used(production_id: int) -> dict[str, dict[int, Used]]:
    """By kind and row: how many set-ups and takes stand on it, and in which shots."""
    found: dict[str, dict[int, Used]] = defaultdict(dict)
    for key, column in _STANDS_ON.items():
        set_ups: Counter[int] = Counter()
        takes: Counter[int] = Counter()
        codes: dict[int, set[str]] = defaultdict(set)
        of_shots: Any = SetUp.objects.filter(
            shot__production=production_id, shot__removed=False, shot__template=False
        )
        for pk, code in of_shots.annotate(on=F(column)).values_list("on", "shot__code"):
            set_ups[pk] += 1
            codes[pk].add(code)
        of_takes: Any = Take.objects.filter(layer__shot__production=production_id)
        for pk in of_takes.annotate(on=F(column)).values_list("on", flat=True):
            takes[pk] += 1
        for pk in set_ups.keys() | takes.keys():
            found[key][pk] = Used(set_ups=set_ups[pk], takes=takes[pk], shots=sorted(codes[pk])[:_NAMED])
    return found
