"""The check-list of a shot before its set is struck: every plate that is filmed, what cannot be had again
first.
"""

from __future__ import annotations

from jungoptic.app.base.answers import Json
from jungoptic.app.days.models import JobSaid
from jungoptic.app.recipes.models import PlannedLayer
from jungoptic.app.recipes.plates import filming_order
from jungoptic.app.rushes.columns import planned_table, told_of
from jungoptic.app.rushes.deciding import decisions_of
from jungoptic.app.rushes.models import Rush
from jungoptic.app.shots.models import Layer
from jungoptic.app.takes.table import BenchTable
from jungoptic.core.rushes import LOSSES, PlateSeen, before_struck, loss_of


def checks_answer(shot_id: int) -> list[Json]:
    """A line for every plate of a shot that is filmed: what of its take was measured, and what shows."""
    table = planned_table(shot_id)
    if table.hero is None:
        return []
    planned = {row.layer_id: row for row in PlannedLayer.objects.filter(layer__shot=shot_id)}
    destroyed = set(
        JobSaid.objects.filter(set_up__shot=shot_id, removed=False, destroys=True).values_list(
            "set_up_id", flat=True
        )
    )
    rushes = rushes_that_count(shot_id)
    layers = {layer.pk: layer for layer in filming_order(table.layers, planned)}
    seen = [
        _seen(table, layer, rushes.get(layer.pk), layer.set_up_id in destroyed) for layer in layers.values()
    ]
    return [_line(layers[plate.key], plate, rushes.get(plate.key)) for plate in before_struck(seen)]


def rushes_that_count(shot_id: int) -> dict[int, Rush]:
    """Of every layer the recording that counts: of its circled take, else of its newest."""
    rows = (
        Rush.objects.filter(recording__take__layer__shot=shot_id, fault="")
        .select_related("recording__card", "recording__take__layer")
        .order_by("recording__take__circled", "recording__take__recorded_at", "pk")
    )
    return {row.recording.take.layer_id: row for row in rows if row.recording.take is not None}


def _seen(table: BenchTable, layer: Layer, rush: Rush | None, destroyed: bool) -> PlateSeen:
    loss = loss_of(table.layer_record(layer), table.set_up_record(layer), destroyed)
    if rush is None:
        return PlateSeen(layer.pk, loss, filmed=table.circled(layer) is not None, measured=False)
    columns = told_of(rush, table=table).columns
    decided = decisions_of(rush, columns)
    left = tuple(
        each
        for each in columns
        if each.judged.verdict != "holds" and (each.row.what, each.judged.amount) not in decided
    )
    return PlateSeen(layer.pk, loss, filmed=True, measured=bool(columns), left=left, decided=len(decided))


def _line(layer: Layer, plate: PlateSeen, rush: Rush | None) -> Json:
    take = rush.recording.take if rush else None
    worst = plate.left[0] if plate.left else None
    return {
        "layer_id": layer.pk,
        "name": layer.name,
        "take_number": take.number if take else None,
        "recording_id": rush.recording_id if rush else None,
        "loss": LOSSES[plate.loss],
        "filmed": plate.filmed,
        "verdict": plate.verdict,
        "says": worst.row.says if worst else "",
        "to_do": worst.points.to_do if worst else "",
        "left": len(plate.left),
        "decided": plate.decided,
    }
