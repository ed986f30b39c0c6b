"""What layers look like: the shelf, an outline made to fit a layer, an SVG read in."""

from __future__ import annotations

from typing import Any

from django.http import HttpRequest, HttpResponse
from ninja import File, Router, UploadedFile
from ninja.errors import HttpError

from jungoptic.app.base.answers import raw
from jungoptic.app.base.desk import FILES
from jungoptic.app.base.schemas import Problems
from jungoptic.app.looks.schemas import LookFields, PartsOut, ShelfOutline
from jungoptic.app.looks.svg import MOST_BYTES, svg_outline
from jungoptic.app.people.signed_in import person
from jungoptic.app.people.waiting import asker
from jungoptic.app.productions import access
from jungoptic.app.shots.models import Layer
from jungoptic.core import match as core
from jungoptic.core.breakdown import OUTLINES, Outline, fitted_parts
from jungoptic.core.errors import InputError

router = Router()
_SHELF = [{"name": name, **outline.model_dump(mode="json")} for name, outline in OUTLINES.items()]


@router.get("/looks", response=list[ShelfOutline])
def shelf(request: HttpRequest) -> HttpResponse:
    """The shelf of outlines. Anybody who is signed in."""
    person(request)
    return raw(_SHELF)


@router.get("/layers/{layer_id}/parts", response=PartsOut)
def parts(request: HttpRequest, layer_id: int) -> Any:
    """The parts of a layer as they are saved. Anybody in the production."""
    access.of_layer(request, layer_id)
    return {"parts": _layer(layer_id).values()["parts"]}


@router.get("/layers/{layer_id}/look", response={200: LookFields, 422: Problems})
def look(request: HttpRequest, layer_id: int, outline: str, true_size: bool = True) -> Any:
    """What a layer is with an outline of the shelf, at its true size or as large as the layer stands.
    Nothing is saved. Anybody in the production.
    """
    access.of_layer(request, layer_id)
    if outline not in OUTLINES:
        raise InputError.at("outline", f"There is no “{outline}” on the shelf.")
    return _fields(_layer(layer_id), outline, OUTLINES[outline], true_size=true_size)


@router.post("/layers/{layer_id}/outline", response={200: LookFields, 422: Problems})
def read_outline(request: HttpRequest, layer_id: int, file: File[UploadedFile | None] = None) -> Any:
    """What a layer is with the outline of an SVG, as high as the layer stands. Nothing is saved. Anybody in
    the production.
    """
    access.of_layer(request, layer_id)
    if file is None:
        raise InputError.at("file", "Choose an SVG.")
    layer = _layer(layer_id)
    name = file.name or "outline.svg"
    outline = FILES.run(asker(request), svg_outline, name, file.read(MOST_BYTES + 1), layer.height_m)
    return _fields(layer, name, outline, true_size=True)


def _layer(layer_id: int) -> Layer:
    layer = Layer.objects.filter(pk=layer_id).prefetch_related("parts").first()
    if layer is None:
        raise HttpError(404, "There is no such thing here, or it is not yours to see.")
    return layer


def _fields(layer: Layer, name: str, outline: Outline, *, true_size: bool) -> dict[str, Any]:
    size = {"width_m": outline.width_m, "height_m": outline.height_m}
    if outline.depth_m:
        size["depth_m"] = outline.depth_m
    kept = size if true_size else {}
    record = core.Layer.read(layer.values() | kept | {"parts": ()})
    made = [part.model_dump(mode="json") for part in fitted_parts(outline, record)]
    return {"title": f"Looks like: {name}", "fields": {**kept, "parts": made, "shown_as": "outline"}}
