"""The handbook: every calculation, its sources, and what an open shot knows of its fields."""

from __future__ import annotations

from typing import Any

from django.http import HttpRequest
from ninja import Body, Router

from jungoptic.app.base.answers import Json, raw
from jungoptic.app.calculations.schemas import (
    AroundIn,
    AroundRow,
    CalculationLine,
    CalculationOut,
    CrossingOut,
    FillOut,
    SourceOut,
)
from jungoptic.app.productions import access
from jungoptic.app.shots.edit import SET_UP_FIELDS
from jungoptic.app.shots.models import Layer
from jungoptic.app.takes.table import BenchTable, shot_to_look_at
from jungoptic.core import handbook
from jungoptic.core.calculation import CALCULATIONS, Calculation, find
from jungoptic.core.errors import InputError
from jungoptic.core.handbook import CHECKS
from jungoptic.core.match import known_values
from jungoptic.core.sources import source

router = Router()


def source_out(key: str) -> Json:
    found = source(key)
    return {"key": key, "kind": found.kind, "title": found.title, "note": found.note, "trust": found.trust}


def _line(entry: Calculation) -> dict[str, Any]:
    return {"name": entry.name, "question": entry.question, "moment": handbook.moment_of(entry.name)}


def _output(name: str, schema: dict[str, Any]) -> dict[str, Any]:
    inner = next((one for one in schema.get("anyOf", []) if one.get("type") != "null"), schema)
    return {
        "name": name,
        "title": schema.get("title", name),
        "unit": schema.get("unit", ""),
        "help": schema.get("description") or "",
        "kind": inner.get("type", "object"),
    }


@router.get("/calculations", response=list[CalculationLine])
def list_calculations(request: HttpRequest) -> Any:
    """Every calculation by what one wants to know, in the order of the work. Anybody who is signed in."""
    return [_line(CALCULATIONS[name]) for names in handbook.MOMENTS.values() for name in names]


@router.get("/calculations/{name}", response=CalculationOut)
def read_calculation(request: HttpRequest, name: str) -> Any:
    """One calculation as a card: fields, outputs, formula, sources, check values.

    Anybody who is signed in.
    """
    entry = find(name)
    outputs = entry.outputs.model_json_schema()["properties"]
    return {
        **_line(entry),
        "formula": entry.formula,
        "sources": [source_out(key) for key in entry.sources],
        "fields": list(handbook.fields_of(entry)),
        "outputs": [_output(key, schema) for key, schema in outputs.items()],
        "example": handbook.example_of(entry),
        "checks": [f"{check.kind}: {check.source}" for check in CHECKS[name]],
    }


@router.post("/calculations/{name}/around", response=list[AroundRow])
def look_around(request: HttpRequest, name: str, payload: AroundIn) -> Any:
    """The answers around one of the values: for a table or a plot. Anybody who is signed in."""
    rows = handbook.around(find(name), payload.values, payload.field, points=payload.points)
    return [{"value": value, "outputs": outputs} for value, outputs in rows]


@router.post("/calculations/{name}/beforehand", response=list[CrossingOut])
def answer_beforehand(request: HttpRequest, name: str, payload: Body[dict[str, Any]]) -> Any:
    """The answers of a card for the likely turns of its barrels, for a place without a server.

    Anybody who is signed in.
    """
    return raw(handbook.beforehand(find(name), payload))


@router.get("/layers/{layer_id}/fill/{name}", response=FillOut)
def fill_card(request: HttpRequest, layer_id: int, name: str) -> Any:
    """What this layer of a shot knows of the card's fields. Anybody in the production."""
    role = access.of_layer(request, layer_id)
    entry = find(name)
    shot_id = Layer.objects.values_list("shot_id", flat=True).get(pk=layer_id)
    table = BenchTable(shot_to_look_at(shot_id), school="measured", units="metric")
    layer = next(one for one in table.layers if one.pk == layer_id)
    if table.hero is None:
        raise InputError.at("", "This shot has no hero plate yet, so there is nothing to fill the card from.")
    known = known_values(table.match(layer), table.shot.production.mains_hz)
    writes = role in access.WRITES and layer.set_up is not None
    return {
        "values": {field: known[field] for field in entry.inputs.model_fields if field in known},
        "layer_id": layer_id,
        "layer_name": layer.name,
        "set_up_id": layer.set_up_id,
        "set_up_version": layer.set_up.version if layer.set_up else None,
        "settable": [field for field in entry.outputs.model_fields if writes and field in SET_UP_FIELDS],
    }


@router.post("/calculations/{name}", response=dict[str, Any])
def calculate(request: HttpRequest, name: str, payload: Body[dict[str, Any]]) -> Any:
    """Run one calculation. Anybody who is signed in."""
    return find(name).run(payload)


@router.get("/sources", response=list[SourceOut])
def list_sources(request: HttpRequest) -> Any:
    """Every source, by key. Anybody who is signed in."""
    from jungoptic.core.sources import SOURCES

    return [source_out(key) for key in SOURCES]
