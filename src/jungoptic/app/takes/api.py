"""The Log: set-up cards, takes, the circle."""

from __future__ import annotations

from typing import Any

from django.http import HttpRequest
from ninja import Router, Status

from jungoptic.app.base.answers import raw
from jungoptic.app.base.once import writes
from jungoptic.app.base.schemas import Problems
from jungoptic.app.kit.reading import kit_of
from jungoptic.app.people.signed_in import person
from jungoptic.app.productions import access
from jungoptic.app.productions.models import Production
from jungoptic.app.shots.models import Layer, Shot
from jungoptic.app.shots.writing import in_shot
from jungoptic.app.takes.answers import NO_TAKES, Reader, judged_now, log_answer, one_take, pages, takes_of
from jungoptic.app.takes.foretold import foretold
from jungoptic.app.takes.log import Said, circle_take, record_take
from jungoptic.app.takes.models import Take
from jungoptic.app.takes.schemas import CircleIn, ForetoldOut, LogOut, TakeIn, TakeNowOut, TakeOut, TakesOut
from jungoptic.app.takes.shown import newest_entry
from jungoptic.app.takes.table import BenchTable, shot_to_look_at
from jungoptic.core.errors import InputError
from jungoptic.core.vocabulary import School, Units

router = Router()


@router.get("/shots/{shot_id}/log", response=LogOut)
def read_log(request: HttpRequest, shot_id: int, units: Units = "metric", school: School = "measured") -> Any:
    """The set-up cards and takes of a shot. Anybody in the production."""
    role = access.of_shot(request, shot_id)
    shown = newest_entry(
        Shot.objects.values_list("production_id", flat=True).get(pk=shot_id)
    )  # before the plan is read: it is at least as new
    return raw(log_answer(BenchTable(shot_to_look_at(shot_id), school=school, units=units), role, shown))


def _take_out(take_id: int, units: Units, school: School) -> dict[str, Any]:
    camera_id, layer_id = Take.objects.values_list("mode__camera_id", "layer_id").get(pk=take_id)
    return one_take(take_id, Reader(units, school, kit_of(camera_id, _production_of(layer_id))))


def _production_of(layer_id: int) -> Production:
    return Production.objects.get(shots__layers=layer_id)


@router.get("/layers/{layer_id}/takes", response=TakesOut)
def read_takes(
    request: HttpRequest, layer_id: int, before: int, units: Units = "metric", school: School = "measured"
) -> Any:
    """Earlier takes of a layer, newest first: those before take number ``before``.

    Anybody in the production.
    """
    access.of_layer(request, layer_id)
    camera_id = Take.objects.filter(layer=layer_id).values_list("mode__camera_id", flat=True).first()
    if camera_id is None:
        return NO_TAKES
    reader = Reader(units, school, kit_of(camera_id, _production_of(layer_id)))
    return pages(takes_of([layer_id], before=before), {layer_id: reader}).get(layer_id, NO_TAKES)


@router.get("/layers/{layer_id}/foretold", response={200: ForetoldOut, 422: Problems})
def read_foretold(
    request: HttpRequest, layer_id: int, units: Units = "metric", school: School = "measured"
) -> Any:
    """What likely takes of a layer would be given, for a telephone without a server.

    Anybody in the production.
    """
    access.of_layer(request, layer_id)
    shot_id = Layer.objects.values_list("shot_id", flat=True).get(pk=layer_id)
    table = BenchTable(shot_to_look_at(shot_id), school=school, units=units)
    layer = next((one for one in table.layers if one.pk == layer_id), None)
    if layer is None or layer.set_up is None or table.hero is None:
        raise InputError.at("", "Nothing is filmed of this layer, or its shot has no hero plate yet.")
    return raw(foretold(table, layer))


@router.get("/takes/{take_id}/now", response=TakeNowOut)
def judge_now(
    request: HttpRequest, take_id: int, units: Units = "metric", school: School = "measured"
) -> Any:
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
    said = Said(**payload.model_dump(exclude={"units", "school"}))
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
