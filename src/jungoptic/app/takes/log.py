"""Recording takes and judging them. Nothing recorded is changed afterwards, but for the circle."""

from __future__ import annotations

from collections.abc import Mapping
from datetime import datetime
from typing import Any

from django.db import transaction
from django.db.models import F, Max
from django.utils import timezone

from jungoptic.app.base.edits import ConflictError
from jungoptic.app.people.models import Person
from jungoptic.app.shots.edit import SET_UP_FIELDS, assign_settings, check_settings, with_whole_mode
from jungoptic.app.shots.models import Layer, Shot, touch
from jungoptic.app.takes.models import Take, TakeVerdict
from jungoptic.app.takes.table import BenchTable, Judged, shot_with_everything
from jungoptic.core.errors import FieldProblem, InputError
from jungoptic.core.match import records as core
from jungoptic.core.quantities import OUR_TIME, in_our_time
from jungoptic.core.wording import Units


def _table(shot_id: int, units: Units = "metric") -> BenchTable:
    return BenchTable(shot_with_everything(shot_id), school="measured", units=units)


def record_take(layer_id: int, person: Person, actual: Mapping[str, Any], *, note: str, circled: bool, recorded_at: datetime | None) -> Take:
    """Record one take: the plan's settings with what was really different in ``actual``; judge it; keep the verdict."""
    if recorded_at and not in_our_time(recorded_at):
        raise InputError.at("recorded_at", f"The time of a take must be {OUR_TIME}; {recorded_at.isoformat()} was given.")
    with transaction.atomic():
        layer_row = Layer.objects.select_related("shot").get(pk=layer_id)
        Shot.objects.select_for_update().get(pk=layer_row.shot_id)
        table = _table(layer_row.shot_id)
        layer = next(one for one in table.layers if one.pk == layer_id)
        if layer.set_up is None:
            raise InputError.at("", f"“{layer.name}” is a picture, not something filmed: there is no take to log.")
        unknown = [name for name in actual if name not in SET_UP_FIELDS]
        if unknown:
            raise InputError(*(FieldProblem(name, f"A take has no setting called “{name}”.") for name in unknown))
        checked = core.SetUp.read({**layer.set_up.values(), **with_whole_mode(table.kit(layer.set_up), actual)})
        check_settings(table.kit(layer.set_up), checked)
        number = (Take.objects.filter(layer=layer).aggregate(most=Max("number"))["most"] or 0) + 1
        take = Take(
            layer=layer, lens=layer.set_up.lens, mode=layer.set_up.mode, slate=layer.shot.code, number=number, note=note,
            recorded_at=recorded_at or timezone.now(), recorded_by=person,
        )  # fmt: skip
        assign_settings(take, {name: getattr(checked, name) for name in SET_UP_FIELDS}, table)
        take.save()
        if circled:
            _circle(take)
            _judge_again(layer.shot_id, layer)
        else:
            _keep(take, table)
    return take


def circle_take(take_id: int, version: int, circled: bool) -> Take:
    """Circle or uncircle a take; a hero take that is circled becomes the reference and every shot layer is judged again."""
    with transaction.atomic():
        take = Take.objects.select_related("layer__shot").get(pk=take_id)
        Shot.objects.select_for_update().get(pk=take.layer.shot_id)
        take.refresh_from_db()
        if take.version != version:
            raise ConflictError("take", f"take {take.number}", "Somebody", ["circled"])
        if circled:
            _circle(take)
        else:
            Take.objects.filter(pk=take.pk).update(circled=False, version=F("version") + 1)
        _judge_again(take.layer.shot_id, take.layer)
    take.refresh_from_db()
    return take


def _circle(take: Take) -> None:
    Take.objects.filter(layer=take.layer_id, circled=True).exclude(pk=take.pk).update(circled=False, version=F("version") + 1)
    Take.objects.filter(pk=take.pk).update(circled=True, version=F("version") + 1)


def _judge_again(shot_id: int, layer: Layer) -> None:
    """Keep new verdicts: of every circled take when the hero moved, else of this layer's."""
    touch(shot_id)
    table = _table(shot_id)
    for one in table.layers:
        circled = table.circled(one)
        if circled and (layer.is_hero or one.pk == layer.pk):
            _keep(circled, table)


def judge_take(table: BenchTable, take: Take) -> Judged:
    """A take against the reference; a hero take against the hero's plan, for nothing else stands before it."""
    layer = next(one for one in table.layers if one.pk == take.layer_id)
    if layer.is_hero:
        plan = BenchTable(table.shot, school=table.school, units=table.words.units)
        plan.__dict__["hero_take"] = None
        return plan.compare(layer, take)
    return table.judge(layer, take)


def _keep(take: Take, table: BenchTable) -> None:
    now = timezone.now()
    against = table.hero_take if take.layer_id != (table.hero_layer.pk if table.hero_layer else None) else None
    TakeVerdict.objects.bulk_create(
        TakeVerdict(
            take=take, judged_at=now, against=against, item=item.item, amount=item.amount, unit=item.unit,
            holds=item.holds, tight=item.tight, verdict=item.verdict,
        )
        for item in judge_take(table, take).items
    )  # fmt: skip
