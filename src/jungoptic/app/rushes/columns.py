"""What was measured of a take beside what was planned and logged of it, as core tells it."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field
from typing import Any

from django.db.models import Max

from jungoptic.app.base.answers import Json
from jungoptic.app.productions.models import ToleranceChange
from jungoptic.app.rushes.models import FrameMeasure, Rush
from jungoptic.app.shots.models import Layer
from jungoptic.app.takes.models import Take, TakeVerdict
from jungoptic.app.takes.table import BenchTable, shot_to_look_at
from jungoptic.core.match import SetUp, Tolerance
from jungoptic.core.measure import Amount
from jungoptic.core.rushes import DIALS, Column, Foretold, RowTold, columns
from jungoptic.core.vocabulary import School, Units
from jungoptic.core.wording import amount_text

_PLANNED = "planned"


def latest_of(rush: Rush) -> dict[str, FrameMeasure]:
    """The last of each row that was measured of a recording."""
    latest: dict[str, FrameMeasure] = {}
    for each in rush.measures.select_related("by", "against__take__layer"):
        latest.setdefault(each.what, each)
    return latest


@dataclass(frozen=True)
class Told:
    """The measuring table of a recording, what shows most first, with the rows that it was made of; empty
    where it is filed to no take of a layer that stands.
    """

    latest: Mapping[str, FrameMeasure]
    rows: tuple[RowTold, ...] = ()
    columns: tuple[Column, ...] = ()
    length_frames: int = 1
    tolerances: Mapping[str, Tolerance] = field(default_factory=dict)


def told_of(
    rush: Rush, units: Units = "metric", school: School = "measured", table: BenchTable | None = None
) -> Told:
    """The measuring table of a recording as it stands; ``table`` where its shot is laid out already."""
    latest = latest_of(rush)
    take = rush.recording.take
    if take is None:
        return Told(latest)
    if table is None:
        table = planned_table(take.layer.shot_id, units, school)
    layer = next((each for each in table.layers if each.pk == take.layer_id), None)
    if table.hero is None or layer is None or layer.set_up is None:
        return Told(latest)
    planned = planned_of(table, layer)
    rows = tuple(_rows(rush, latest))
    found = columns(
        rows,
        table.stack_with(layer, take),
        table.layers.index(layer),
        planned,
        _logged(take, planned),
        table.tolerances,
        table.words,
    )
    return Told(latest, rows, found, table.plan.length_frames, table.tolerances)


def planned_table(shot_id: int, units: Units = "metric", school: School = "measured") -> BenchTable:
    """A shot laid out as it was planned, whatever was logged of it. Raises NotFoundError."""
    return BenchTable(shot_to_look_at(shot_id), school=school, units=units, basis=_PLANNED)


def tolerances_of(production_id: int) -> dict[str, Tolerance]:
    """Those that a production says, by item."""
    rows = ToleranceChange.objects.filter(production=production_id)
    return {row.item: Tolerance(row.holds, row.tight) for row in rows}


def planned_of(table: BenchTable, layer: Layer) -> dict[str, Foretold]:
    """What was planned of every item that a layer is judged by; a hero is held against nothing but its own
    plan.
    """
    judged = table.judge(layer)
    found = {dial: Foretold(0.0) for dial in DIALS} if layer.is_hero else {}
    for each in judged.items:
        exact = judged.match.amounts.get(each.item, each.amount)
        limit = Tolerance(each.holds, each.tight)
        found[each.item] = Foretold(each.amount, max(0.0, each.amount - exact), limit)
    return found


def _logged(take: Take, planned: Mapping[str, Foretold]) -> dict[str, Foretold]:
    """What a take was given when it was judged last."""
    last = take.judgings.aggregate(last=Max("pk"))["last"]
    rows = TakeVerdict.objects.filter(judging=last).values_list("item", "amount")
    return {
        item: Foretold(amount, planned[item].placing if item in planned else 0.0) for item, amount in rows
    }


def _rows(rush: Rush, latest: Mapping[str, FrameMeasure]) -> list[RowTold]:
    assert rush.recording.take is not None
    rows = [_row(each.told, _other(rush.recording.take, each)) for each in latest.values()]
    return [*rows, _row(rush.clip, None)] if rush.clip else rows


def _row(told: Mapping[str, Any], other: SetUp | None) -> RowTold:
    seen = tuple(
        tuple(float("nan") if value is None else value for value in row) for row in told.get("field", ())
    )
    crossed = tuple(told["crossed"]) if told.get("crossed") else None
    return RowTold(told["what"], amounts_of(told["amounts"]), told["says"], seen, other, crossed)


def amounts_of(told: Iterable[Mapping[str, Any]]) -> tuple[Amount, ...]:
    """Core's amounts of what was kept."""
    return tuple(
        Amount(each["name"], each["title"], each["value"], each["error"], each["unit"]) for each in told
    )


def _other(take: Take, measured: FrameMeasure) -> SetUp | None:
    """The set-up of what was held against it, as it was filmed: by the same camera where it is of the same
    set-up, else nothing is said of both.
    """
    if measured.against is None:
        return take.fact()
    other = measured.against.take
    if other is None or other.layer.set_up_id != take.layer.set_up_id:
        return None
    return other.fact()


def column_answer(column: Column, against_id: int | None, decided: Json | None) -> Json:
    """A line of the table, with what was decided of it."""
    judged = column.judged
    return {
        "what": column.row.what,
        "amount": judged.amount,
        "item": judged.item,
        "label": judged.label,
        "unit": judged.unit,
        "planned_text": _text(column.planned),
        "logged_text": _text(column.logged),
        "measured_text": amount_text(judged.size),
        "error_text": "" if judged.off is None else amount_text(judged.off),
        "verdict": judged.verdict,
        "ladder": judged.ladder,
        "apart": column.apart,
        "points_to": column.points.says,
        "to_do": column.points.to_do,
        "kit": column.points.kit,
        "against_id": against_id,
        "decided": decided,
    }


def _text(amount: float | None) -> str:
    return "" if amount is None else amount_text(amount)
