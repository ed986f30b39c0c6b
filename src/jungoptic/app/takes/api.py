"""The Log: set-up cards, takes, the circle."""

from __future__ import annotations

from typing import Any

from django.http import HttpRequest
from ninja import Router, Status

from jungoptic.app.base.answers import raw
from jungoptic.app.base.once import writes
from jungoptic.app.base.schemas import Problems, School, Units
from jungoptic.app.kit.reading import kit_of
from jungoptic.app.people.signed_in import person
from jungoptic.app.productions import access
from jungoptic.app.shots.models import Layer, Shot
from jungoptic.app.shots.writing import in_shot
from jungoptic.app.takes.answers import judged_now, last_judgings, log_answer, page_of, take_answer, takes_of
from jungoptic.app.takes.log import Said, circle_take, record_take
from jungoptic.app.takes.models import Take
from jungoptic.app.takes.schemas import CircleIn, LogOut, TakeIn, TakeNowOut, TakeOut, TakesOut
from jungoptic.app.takes.shown import newest_entry
from jungoptic.app.takes.table import BenchTable, shot_to_look_at

router = Router()


@router.get("/shots/{shot_id}/log", response=LogOut)
def read_log(request: HttpRequest, shot_id: int, units: Units = "metric", school: School = "measured") -> Any:
    """The set-up cards and takes of a shot. Anybody in the production."""
    role = access.of_shot(request, shot_id)
    shown = newest_entry(Shot.objects.values_list("production_id", flat=True).get(pk=shot_id))  # before the plan is read: it is at least as new
    return raw(log_answer(BenchTable(shot_to_look_at(shot_id), school=school, units=units), role, shown))


def _take_out(take_id: int, units: Units, school: School) -> dict[str, Any]:
    take = Take.objects.defer("facts").select_related("layer__shot__production", "mode", "recorded_by").get(pk=take_id)
    kit = kit_of(take.mode.camera_id, take.layer.shot.production)
    return take_answer(take, last_judgings([take])[take.pk], kit, units, school)


@router.get("/layers/{layer_id}/takes", response=TakesOut)
def read_takes(request: HttpRequest, layer_id: int, before: int, units: Units = "metric", school: School = "measured") -> Any:
    """Earlier takes of a layer, newest first: those before take number ``before``. Anybody in the production."""
    access.of_layer(request, layer_id)
    takes = takes_of([layer_id], before=before).get(layer_id, [])
    production = Layer.objects.select_related("shot__production").get(pk=layer_id).shot.production
    return page_of(takes, kit_of(takes[0].mode.camera_id, production), units, school) if takes else {"takes": [], "more": False}


@router.get("/takes/{take_id}/now", response=TakeNowOut)
def judge_now(request: HttpRequest, take_id: int, units: Units = "metric", school: School = "measured") -> Any:
    """A take judged against the plan, the kit and the limits as they stand now. Anybody in the production."""
    access.of_take(request, take_id)
    take = Take.objects.select_related("layer", "mode__camera", "lens").get(pk=take_id)
    return judged_now(BenchTable(shot_to_look_at(take.layer.shot_id), school=school, units=units), take)


@router.post("/layers/{layer_id}/takes", response={201: TakeOut, 409: Problems, 422: Problems})
@writes
def log_take(request: HttpRequest, layer_id: int, payload: TakeIn) -> Any:
    """Log a take with what it was really set to. The supervisor and the crew."""
    access.of_layer(request, layer_id, access.LOGS)
    shot_id = Layer.objects.values_list("shot_id", flat=True).get(pk=layer_id)
    said = Said(payload.actual, payload.shown, payload.note, payload.circled, payload.recorded_at)
    with in_shot(person(request), shot_id) as write:
        take = record_take(write, layer_id, said)
    return Status(201, _take_out(take.pk, payload.units, payload.school))


@router.patch("/takes/{take_id}", response={200: TakeOut, 409: Problems})
@writes
def circle(request: HttpRequest, take_id: int, payload: CircleIn) -> Any:
    """Circle or uncircle a take. The supervisor and the crew."""
    access.of_take(request, take_id, access.LOGS)
    shot_id = Take.objects.values_list("layer__shot_id", flat=True).get(pk=take_id)
    with in_shot(person(request), shot_id) as write:
        circle_take(write, take_id, payload.version, payload.circled)
    return _take_out(take_id, payload.units, payload.school)
