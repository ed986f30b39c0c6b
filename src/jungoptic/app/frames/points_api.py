"""Points of the figure: their paths, where they are seen, walks and settling."""

from __future__ import annotations

from typing import Any

from django.http import HttpRequest
from ninja import Router, Status

from jungoptic.app.base.answers import written
from jungoptic.app.base.once import writes
from jungoptic.app.base.schemas import Problems, Written
from jungoptic.app.frames import desks, keeping, points
from jungoptic.app.frames.models import Exposure, FigurePoint, Hyperlapse
from jungoptic.app.frames.point_schemas import FigurePointChange, FigurePointIn, PointPlaceIn
from jungoptic.app.frames.rows import part_of, sheet_of
from jungoptic.app.people.signed_in import person
from jungoptic.app.productions import access
from jungoptic.app.shots.writing import in_shot
from jungoptic.core.errors import InputError

router = Router()
_WRITTEN = {201: Written, 409: Problems, 422: Problems}


@router.post("/exposure-sheets/{sheet_id}/figure-points", response=_WRITTEN)
@writes
def add_figure_point(request: HttpRequest, sheet_id: int, payload: FigurePointIn) -> Any:
    """A point of the figure that goes on a path. The supervisor and the crew."""
    sheet = sheet_of(request, sheet_id, access.LOGS)
    with in_shot(person(request), sheet.layer.shot_id) as write:
        sheet.refresh_from_db()
        row = keeping.add(write, keeping.POINT, sheet, payload.version, {"name": payload.name})
    return Status(201, written(write, row.pk, row.version))


@router.patch("/figure-points/{point_id}", response={200: Written, 409: Problems, 422: Problems})
@writes
def change_figure_point(request: HttpRequest, point_id: int, payload: FigurePointChange) -> Any:
    """Change a point's path, when it stands, what it is called; have a walk or a settling written into it;
    take it away. The supervisor and the crew.
    """
    point = part_of(request, FigurePoint, point_id)
    gate = _gate(request, point)
    values = payload.model_dump(exclude={"version", "settle", "walk"}, exclude_none=True)
    if payload.removed and Hyperlapse.objects.filter(point=point, removed=False).exists():
        raise InputError.at("removed", "The hyperlapse is aimed at this point: it stays.")
    with in_shot(person(request), point.sheet.layer.shot_id) as write:
        point.refresh_from_db()
        if payload.walk is not None:
            values |= points.with_walk(point, gate, payload.walk.model_dump())
        if payload.settle is not None:
            values |= points.with_settling(point, gate, **payload.settle.model_dump())
        points.refuse_no_path(values.get("keys", ()), values.get("planted", ()), gate)
        keeping.change(write, keeping.POINT, point, payload.version, values)
    return written(write, point.pk, point.version)


@router.post("/figure-points/{point_id}/places", response=_WRITTEN)
@writes
def mark_figure_point(request: HttpRequest, point_id: int, payload: PointPlaceIn) -> Any:
    """Say where a point is seen in a photograph, where it was not found or was found wrongly. The supervisor
    and the crew.
    """
    point = part_of(request, FigurePoint, point_id)
    exposures = Exposure.objects.filter(pose__sheet=point.sheet_id, removed=False).select_related("pose")
    exposure = exposures.filter(pk=payload.exposure_id).first()
    if exposure is None:
        raise InputError.at("exposure_id", "This photograph is not on the point's sheet any more.")
    with in_shot(person(request), point.sheet.layer.shot_id) as write:
        point.refresh_from_db()
        row = keeping.mark(write, point, payload.version, exposure, (payload.x, payload.y))
    return Status(201, written(write, row.pk, row.version))


def _gate(request: HttpRequest, point: FigurePoint) -> points.Gate:
    layer = point.sheet.layer
    _, shot_id, versions = access.layer_seen(request, layer.pk)
    return desks.gate_of(desks.desk_of(shot_id, layer.pk, versions), layer.shot.production)
