"""What a measurement changes in the production: every verdict by the kit as it says, and as it is."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from typing import Any

from jungoptic.app.measuring.instruments import came_of
from jungoptic.app.measuring.models import Measurement
from jungoptic.app.measuring.schemas import EffectOut, EffectsOut
from jungoptic.app.shots.camera import SETTING_FIELDS
from jungoptic.app.shots.models import Layer, Shot
from jungoptic.app.shots.plan import Draft
from jungoptic.app.takes.table import BenchTable, shots_with_everything
from jungoptic.core.calibration import guides
from jungoptic.core.errors import InputError
from jungoptic.core.match import Judgement
from jungoptic.core.vocabulary import School, Units
from jungoptic.core.wording import amount_text

MOST_SHOTS = 40
MOST_LINES = 12
_CHANGES = 0.25
"""Of what holds: a verdict that moves by less is as it was."""
_PLANNED = "planned"


def effects(row: Measurement, school: School, units: Units) -> EffectsOut:
    """What it changes in the shots that its lens or its recording films."""
    of = guides()[row.kind].of
    try:
        kit = came_of(row).kit
    except InputError:
        kit = {}
    if row.kept is not None:
        kit, before = row.kept["kit"], row.kept["before"]
    else:
        before = {name: getattr(getattr(row, of), name) for name in kit}
    if of == "lamp" or not kit:
        return EffectsOut(lines=[], shots=0, left_out=0)
    column = f"set_up__{of}"
    ids = list(
        Layer.objects.filter(
            **{column: getattr(row, of)}, shot__production=row.production_id, shot__template=False
        )
        .filter(removed=False, shot__removed=False)
        .order_by("shot_id")
        .values_list("shot_id", flat=True)
        .distinct()
    )
    lines: list[tuple[float, EffectOut]] = []
    for shot in shots_with_everything(row.production, ids[:MOST_SHOTS]):
        lines += _of_shot(shot, of, getattr(row, f"{of}_id"), before, kit, school, units)
    lines.sort(key=lambda each: -each[0])
    return EffectsOut(
        lines=[line for _, line in lines[:MOST_LINES]],
        shots=len(ids),
        left_out=max(0, len(lines) - MOST_LINES),
    )


def _of_shot(
    shot: Shot,
    of: str,
    pk: int,
    before: Mapping[str, Any],
    kit: Mapping[str, Any],
    school: School,
    units: Units,
) -> Iterator[tuple[float, EffectOut]]:
    def table(values: Mapping[str, Any], draft: Draft | None = None) -> BenchTable:
        for layer in shot.layers.all():
            if layer.set_up_id and getattr(layer.set_up, f"{of}_id") == pk:
                for name, value in values.items():
                    setattr(getattr(layer.set_up, of), name, value)
        return BenchTable(shot, school=school, units=units, basis=_PLANNED, draft=draft)

    said = {judged.layer.pk: _by_item(judged.items) for judged in table(before).judged}
    really = table(kit)
    for judged in really.judged:
        for item in judged.items:
            was = said[judged.layer.pk].get(item.item)
            if was is None or item.informs or abs(item.amount - was.amount) < _CHANGES * item.holds:
                continue
            line = EffectOut(
                shot_id=shot.pk,
                shot=shot.code,
                layer=judged.layer.name,
                item=item.label,
                planned=f"{amount_text(was.amount)} {was.unit}".strip(),
                planned_verdict=was.verdict,
                really=f"{amount_text(item.amount)} {item.unit}".strip(),
                verdict=item.verdict,
            )
            dial, wants = item.dial, item.wants
            if dial in SETTING_FIELDS and wants is not None and judged.layer.set_up_id:
                draft = Draft(set_ups={judged.layer.set_up_id: {dial: wants}})
                again = next(each for each in table(kit, draft).judged if each.layer.pk == judged.layer.pk)
                then = _by_item(again.items).get(item.item)
                if then is not None and then.amount < item.amount:
                    line.to_do, line.then = item.wants_text, f"{amount_text(then.amount)} {then.unit}".strip()
                    line.then_verdict = then.verdict
            yield abs(item.amount - was.amount) / max(item.holds, 1e-9), line


def _by_item(items: tuple[Judgement, ...]) -> dict[str, Judgement]:
    return {item.item: item for item in items}
