"""Recording takes and judging them. Nothing recorded is changed afterwards, but for the circle."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from datetime import datetime
from typing import Any

from django.db.models import F, Max
from django.utils import timezone

from jungoptic.app.base.edits import Writing, takes_back
from jungoptic.app.base.models import Change
from jungoptic.app.shots.edit import SET_UP_FIELDS, assign_settings
from jungoptic.app.shots.models import Layer, Shot
from jungoptic.app.takes.facts import give_verdicts, keep_facts, settings_of, table_of
from jungoptic.app.takes.lit import light_as_it_was, with_lamps_apart
from jungoptic.app.takes.models import Take
from jungoptic.app.takes.shown import as_shown
from jungoptic.app.takes.table import BenchTable, Judged
from jungoptic.core.errors import FieldProblem, InputError
from jungoptic.core.match import Facts
from jungoptic.core.quantities import OUR_TIME, in_our_time

KIND = "take"
MEASURED = "measured"


@dataclass(frozen=True)
class Said:
    """What a telephone sends with a take: every value that it showed or that was set on it, and how far the
    plan had come that it showed.
    """

    actual: Mapping[str, Any] = field(default_factory=dict)
    shown: int | None = None
    slate_code: str = ""
    slate_number: int | None = None
    note: str = ""
    in_it: str = ""
    rolled_s: float | None = None
    marks: Sequence[Mapping[str, Any]] = ()
    circled: bool = False
    recorded_at: datetime | None = None


def record_take(write: Writing, layer_id: int, said: Said) -> Take:
    """Record one take with what was really set, judge it, keep the verdict.

    What nobody sent is from the plan that the telephone had.
    """
    if said.recorded_at and not in_our_time(said.recorded_at):
        raise InputError.at(
            "recorded_at", f"The time of a take must be {OUR_TIME}; {said.recorded_at.isoformat()} was given."
        )
    shot = Shot.objects.get(pk=write.of_shot)
    table = table_of(shot.pk, None if said.shown is None else as_shown(shot, said.shown))
    layer = next((one for one in table.layers if one.pk == layer_id), None)
    if layer is None:
        raise InputError.at("", "This layer was removed from the shot: bring it back, then log the take.")
    _as_it_was_filmed(table, layer)
    take = as_said(table, layer, said)
    take.slate = layer.shot.code
    take.number = (Take.objects.filter(layer=layer).aggregate(most=Max("number"))["most"] or 0) + 1
    take.slate_code, take.slate_number = said.slate_code, said.slate_number
    take.note, take.in_it = said.note, said.in_it.strip()
    take.rolled_s, take.marks = said.rolled_s, [dict(mark) for mark in said.marks]
    take.recorded_by_id = write.person.pk
    take.shown = said.shown
    take.filled = Take.Filled.PLAN if said.shown is None else Take.Filled.NOTHING
    facts = keep_facts(table, layer, take)
    take.save()
    write.stays = True
    write.note(KIND, take.pk, take.name, "logged", False, True)
    give_verdicts(take, facts, layer, against=None if layer.is_hero else table.hero_take)
    if said.circled:
        _circle(write, take)
        _held_against_anew(take)
    return take


def as_said(table: BenchTable, layer: Layer, said: Said) -> Take:
    """The take as it was filmed, not saved: settings, lens, lamps and the sun; the rest is as planned.

    Raises InputError at a field that is none, or that the kit cannot.
    """
    if layer.set_up is None:
        raise InputError.at(
            "", f"“{layer.name}” is a picture, not something filmed: there is no take to log."
        )
    actual, lamps = with_lamps_apart(said.actual)
    unknown = [name for name in actual if name not in SET_UP_FIELDS]
    if unknown:
        raise InputError(*(FieldProblem(name, f"A take has no setting called “{name}”.") for name in unknown))
    checked = settings_of(table, layer, actual)
    take = Take(
        layer=layer,
        lens=layer.set_up.lens,
        zoomed_mm=layer.set_up.zoomed_mm,
        mode=layer.set_up.mode,
        recorded_at=said.recorded_at or timezone.now(),
    )
    assign_settings(take, {name: getattr(checked, name) for name in SET_UP_FIELDS}, table)
    light_as_it_was(table, layer, take, actual, lamps)
    return take


def _as_it_was_filmed(table: BenchTable, layer: Layer) -> None:
    """The set-up that the layer had in what was shown, where it was given another one since."""
    was = table.draft.layers.get(layer.pk, {}).get("set_up_id")
    if was in table.set_ups:
        layer.set_up = table.set_ups[was]


def circle_take(write: Writing, take_id: int, version: int, circled: bool) -> None:
    """Circle or uncircle a take; a hero take that is circled becomes the reference and every shot layer is
    judged again.
    """
    take = Take.objects.select_related("layer").get(pk=take_id)
    write.refuse_unseen(KIND, take, version)
    if circled:
        _circle(write, take)
    elif take.circled:
        _set_circle(write, take, False)
    _held_against_anew(take)


def _circle(write: Writing, take: Take) -> None:
    for other in (
        Take.objects.filter(layer=take.layer_id, circled=True).exclude(pk=take.pk).select_related("layer")
    ):
        _set_circle(write, other, False)
    if not take.circled:
        _set_circle(write, take, True)


def _set_circle(write: Writing, take: Take, circled: bool) -> None:
    Take.objects.filter(pk=take.pk).update(circled=circled, version=F("version") + 1)
    write.note(KIND, take.pk, take.name, "circled", take.circled, circled)
    take.circled, take.version = circled, take.version + 1


def uncircle(write: Writing, take: Take) -> None:
    """Take the circle from a take that is shot again, where it has one: its job is open again."""
    if take.circled:
        _set_circle(write, take, False)
        _held_against_anew(take)


def measure_reference(write: Writing, take_id: int, version: int, measured: Mapping[str, float]) -> None:
    """Have what a hero's frames tell of its camera and its key stand for what was logged of them; nothing of
    it is the log again.
    """
    take = Take.objects.select_related("layer").get(pk=take_id)
    write.refuse_unseen(KIND, take, version)
    write.save(KIND, take, {MEASURED: dict(measured)})
    _held_against_anew(take)


@takes_back(KIND)
def _back(write: Writing, changes: Sequence[Change]) -> None:
    takes = {
        one.pk: one
        for one in Take.objects.filter(pk__in=[change.row_id for change in changes]).select_related("layer")
    }
    for change in changes:
        if change.field == MEASURED:
            write.save(KIND, takes[change.row_id], {MEASURED: change.before})
    circles = [change for change in changes if change.field != MEASURED]
    for change in sorted(
        circles, key=lambda one: bool(one.before)
    ):  # a circle is given where none stands any more
        _set_circle(write, takes[change.row_id], bool(change.before))
    for take in takes.values():
        _held_against_anew(take)


def _held_against_anew(take: Take) -> None:
    """A hero take that was circled, or is not any more, is another reference: every circled take gets new
    verdicts against it, by its own facts.
    """
    if not take.layer.is_hero:
        return
    table = table_of(take.layer.shot_id)
    for layer in table.layers:
        circled = table.circled(layer)
        if circled and not layer.is_hero:
            give_verdicts(
                circled, Facts.from_json(circled.facts), layer, hero=table.hero, against=table.hero_take
            )


def judge_take(table: BenchTable, take: Take) -> Judged:
    """A take against the reference; a hero take against the hero's plan, for nothing else stands before
    it.
    """
    layer = next(one for one in table.layers if one.pk == take.layer_id)
    if layer.is_hero:
        return table.before_any_hero_take().compare(layer, take)
    return table.judge(layer, take)
