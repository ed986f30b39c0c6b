"""Hyperlapses: planned, changed, and what lays their photographs as a table."""

from __future__ import annotations

from typing import Any

from django.http import HttpRequest, HttpResponse
from ninja import Router, Status

from jungoptic.app.base.answers import written
from jungoptic.app.base.once import writes
from jungoptic.app.base.schemas import Problems, Written
from jungoptic.app.frames import desks, hyper, keeping
from jungoptic.app.frames import reading as read
from jungoptic.app.frames.hyper_schemas import HyperlapseChange, HyperlapseIn
from jungoptic.app.frames.models import Hyperlapse
from jungoptic.app.frames.rows import NOT_HERE
from jungoptic.app.people.signed_in import person
from jungoptic.app.productions import access
from jungoptic.app.shots.models import Layer
from jungoptic.app.shots.writing import in_shot

router = Router()


@router.post("/layers/{layer_id}/hyperlapse", response={201: Written, 409: Problems, 422: Problems})
@writes
def begin_hyperlapse(request: HttpRequest, layer_id: int, payload: HyperlapseIn) -> Any:
    """Plan a hyperlapse of a layer: a sheet with a photograph for each frame of its shot. The supervisor and
    the crew.
    """
    access.of_layer(request, layer_id, access.LOGS)
    layer = Layer.objects.select_related("shot__production").get(pk=layer_id)
    with in_shot(person(request), layer.shot_id) as write:
        sheet = hyper.begin(write, layer, payload.name, payload.plan)
    return Status(201, written(write, sheet.pk, sheet.version))


@router.patch("/hyperlapses/{hyperlapse_id}", response={200: Written, 409: Problems, 422: Problems})
@writes
def change_hyperlapse(request: HttpRequest, hyperlapse_id: int, payload: HyperlapseChange) -> Any:
    """Plan a hyperlapse otherwise. The supervisor and the crew."""
    row = _hyperlapse_of(request, hyperlapse_id, access.LOGS)
    with in_shot(person(request), row.point.sheet.layer.shot_id) as write:
        row.refresh_from_db()
        values = {"plan": payload.plan.model_dump()}
        keeping.change(write, keeping.HYPERLAPSE, row, payload.version, values)
    return written(write, row.pk, row.version)


@router.get("/hyperlapses/{hyperlapse_id}/transforms.csv")
def read_hyperlapse_transforms(request: HttpRequest, hyperlapse_id: int) -> HttpResponse:
    """What lays each photograph of a hyperlapse where it is steady, as a table. Anybody in the production."""
    sheet = _hyperlapse_of(request, hyperlapse_id).point.sheet
    _, shot_id, versions = access.layer_seen(request, sheet.layer_id)
    told = read.transforms_of(sheet.pk, desks.desk_of(shot_id, sheet.layer_id, versions))
    answer = HttpResponse(told, content_type="text/csv; charset=utf-8")
    answer["Content-Disposition"] = f'attachment; filename="{sheet.layer.shot.code}-steady.csv"'
    return answer


def _hyperlapse_of(
    request: HttpRequest, hyperlapse_id: int, allowed: frozenset[access.Role] = access.READS
) -> Hyperlapse:
    found = Hyperlapse.objects.filter(pk=hyperlapse_id, removed=False)
    row = found.select_related("point__sheet__layer__shot").first()
    if row is None:
        raise NOT_HERE
    access.of_layer(request, row.point.sheet.layer_id, allowed)
    return row
