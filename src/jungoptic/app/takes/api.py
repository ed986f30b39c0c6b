"""The Log: set-up cards, takes, the circle."""

from __future__ import annotations

from typing import Any

from django.http import HttpRequest
from ninja import Router, Status

from jungoptic.app.base.answers import jsonable, raw
from jungoptic.app.base.once import writes
from jungoptic.app.base.schemas import Problems, School, Units
from jungoptic.app.people.signed_in import person
from jungoptic.app.productions import access
from jungoptic.app.shots.models import Layer
from jungoptic.app.shots.writing import in_shot
from jungoptic.app.takes.answers import log_answer, take_answer
from jungoptic.app.takes.log import circle_take, record_take
from jungoptic.app.takes.models import Take
from jungoptic.app.takes.schemas import CircleIn, LogOut, TakeIn, TakeOut
from jungoptic.app.takes.table import BenchTable, shot_to_look_at

router = Router()


@router.get("/shots/{shot_id}/log", response=LogOut)
def read_log(request: HttpRequest, shot_id: int, units: Units = "metric", school: School = "measured") -> Any:
    """The set-up cards and takes of a shot. Anybody in the production."""
    role = access.of_shot(request, shot_id)
    return raw(log_answer(BenchTable(shot_to_look_at(shot_id), school=school, units=units), role))


def _take_out(take_id: int, units: Units) -> dict[str, Any]:
    take = Take.objects.select_related("lens", "mode__camera", "recorded_by", "layer").get(pk=take_id)
    table = BenchTable(shot_to_look_at(take.layer.shot_id), school="measured", units=units)
    layer = next(one for one in table.layers if one.pk == take.layer_id)
    body: dict[str, Any] = TakeOut.model_validate(jsonable(take_answer(table, layer, take))).model_dump(mode="json")
    return body


@router.post("/layers/{layer_id}/takes", response={201: TakeOut, 409: Problems, 422: Problems})
@writes
def log_take(request: HttpRequest, layer_id: int, payload: TakeIn) -> Any:
    """Log a take with what it was really set to. The supervisor and the crew."""
    access.of_layer(request, layer_id, access.LOGS)
    shot_id = Layer.objects.values_list("shot_id", flat=True).get(pk=layer_id)
    with in_shot(person(request), shot_id) as write:
        take = record_take(write, layer_id, payload.actual, note=payload.note, circled=payload.circled, recorded_at=payload.recorded_at)
    return Status(201, _take_out(take.pk, payload.units))


@router.patch("/takes/{take_id}", response={200: TakeOut, 409: Problems})
@writes
def circle(request: HttpRequest, take_id: int, payload: CircleIn) -> Any:
    """Circle or uncircle a take. The supervisor and the crew."""
    access.of_take(request, take_id, access.LOGS)
    shot_id = Take.objects.values_list("layer__shot_id", flat=True).get(pk=take_id)
    with in_shot(person(request), shot_id) as write:
        circle_take(write, take_id, payload.version, payload.circled)
    return _take_out(take_id, payload.units)
