"""Recording takes and judging them. Nothing recorded is changed afterwards, but for the circle."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from datetime import datetime
from typing import Any

from django.db.models import F, Max
from django.utils import timezone

from jungoptic.app.base.edits import Writing, takes_back
from jungoptic.app.base.models import Change
from jungoptic.app.shots.edit import SET_UP_FIELDS, assign_settings, check_settings, with_whole_mode
from jungoptic.app.shots.models import Layer
from jungoptic.app.takes.models import Take, TakeVerdict
from jungoptic.app.takes.table import BenchTable, Judged, shot_with_everything
from jungoptic.core.errors import FieldProblem, InputError
from jungoptic.core.match import records as core
from jungoptic.core.quantities import OUR_TIME, in_our_time
from jungoptic.core.wording import Units

KIND = "take"


def _table(shot_id: int, units: Units = "metric") -> BenchTable:
    return BenchTable(shot_with_everything(shot_id), school="measured", units=units)


def record_take(write: Writing, layer_id: int, actual: Mapping[str, Any], *, note: str, circled: bool, recorded_at: datetime | None) -> Take:
    """Record one take: the plan's settings with what was really different in ``actual``; judge it; keep the verdict."""
    if recorded_at and not in_our_time(recorded_at):
        raise InputError.at("recorded_at", f"The time of a take must be {OUR_TIME}; {recorded_at.isoformat()} was given.")
    table = _table(write.of_shot)
    layer = next((one for one in table.layers if one.pk == layer_id), None)
    if layer is None:
        raise InputError.at("", "This layer was removed from the shot: bring it back, then log the take.")
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
        recorded_at=recorded_at or timezone.now(), recorded_by_id=write.person.pk,
    )  # fmt: skip
    assign_settings(take, {name: getattr(checked, name) for name in SET_UP_FIELDS}, table)
    take.save()
    write.stays = True
    write.note(KIND, take.pk, _called(take), "logged", False, True)
    if circled:
        _circle(write, take)
        _judge_again(layer.shot_id, layer)
    else:
        _keep(take, table)
    return take


def circle_take(write: Writing, take_id: int, version: int, circled: bool) -> None:
    """Circle or uncircle a take; a hero take that is circled becomes the reference and every shot layer is judged again."""
    take = Take.objects.select_related("layer").get(pk=take_id)
    write.refuse_unseen(KIND, take, version)
    if circled:
        _circle(write, take)
    elif take.circled:
        _set_circle(write, take, False)
    _judge_again(take.layer.shot_id, take.layer)


def _called(take: Take) -> str:
    return f"{take.layer.name}, take {take.number}"


def _circle(write: Writing, take: Take) -> None:
    for other in Take.objects.filter(layer=take.layer_id, circled=True).exclude(pk=take.pk).select_related("layer"):
        _set_circle(write, other, False)
    if not take.circled:
        _set_circle(write, take, True)


def _set_circle(write: Writing, take: Take, circled: bool) -> None:
    Take.objects.filter(pk=take.pk).update(circled=circled, version=F("version") + 1)
    write.note(KIND, take.pk, _called(take), "circled", take.circled, circled)
    take.circled, take.version = circled, take.version + 1


@takes_back(KIND)
def _back(write: Writing, changes: Sequence[Change]) -> None:
    takes = {one.pk: one for one in Take.objects.filter(pk__in=[change.row_id for change in changes]).select_related("layer")}
    for change in sorted(changes, key=lambda one: bool(one.before)):  # a circle is given where none stands any more
        _set_circle(write, takes[change.row_id], bool(change.before))
    for take in takes.values():
        _judge_again(take.layer.shot_id, take.layer)


def _judge_again(shot_id: int, layer: Layer) -> None:
    """Keep new verdicts: of every circled take when the hero moved, else of this layer's."""
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
