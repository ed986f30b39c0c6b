"""The Bench: read, try, change, add, accept, solve."""

from __future__ import annotations

from typing import Any

from django.http import HttpRequest, HttpResponse
from ninja import Query, Router
from pydantic import BaseModel as Schema
from pydantic import Field

from jungoptic.app.base.answers import raw
from jungoptic.app.base.edits import Edit
from jungoptic.app.base.once import writes
from jungoptic.app.base.schemas import Basis, Problems
from jungoptic.app.bench.accepting import accept, withdraw
from jungoptic.app.bench.answers import bench_answer
from jungoptic.app.bench.picture_schemas import GroundIn, GroundOut
from jungoptic.app.bench.schemas import (
    AcceptIn,
    AddIn,
    AddOut,
    BenchOut,
    ChangesIn,
    FieldsOut,
    PictureIn,
    Trial,
    VersionOut,
)
from jungoptic.app.bench.solving import scales, solved
from jungoptic.app.bench.solving_schemas import ScalesOut, SolveIn, SolveOut
from jungoptic.app.people.signed_in import person
from jungoptic.app.people.waiting import asker
from jungoptic.app.productions import access
from jungoptic.app.productions.access import Versions
from jungoptic.app.productions.film import Film
from jungoptic.app.shots.add import add_backing, add_lamp, add_layer, add_line
from jungoptic.app.shots.edit import KINDS, EditSet, change_shot
from jungoptic.app.shots.models import Layer
from jungoptic.app.shots.pictures import lens_jpeg
from jungoptic.app.shots.plan import Draft
from jungoptic.app.shots.writing import in_shot
from jungoptic.app.takes.table import BenchTable, shot_to_look_at
from jungoptic.core import handbook
from jungoptic.core.errors import InputError
from jungoptic.core.light import Backing as BackingRecord
from jungoptic.core.light import PlacedLamp as PlacedLampRecord
from jungoptic.core.match import Layer as LayerRecord
from jungoptic.core.match import SetUp as SetUpRecord
from jungoptic.core.match import ShotPlan, on_ground
from jungoptic.core.motion import Move
from jungoptic.core.vocabulary import School, Units

router = Router()


class BenchQuery(Schema):
    school: School = "measured"
    units: Units = "metric"
    basis: Basis = "shot"
    selected: int | None = None
    after_finish: bool = True
    frame: int = Field(0, ge=0, le=1_000_000)


def _table(
    shot_id: int, query: Any, draft: Draft | None = None, versions: Versions | None = None
) -> BenchTable:
    return BenchTable(
        shot_to_look_at(shot_id, versions),
        school=query.school,
        units=query.units,
        draft=draft,
        basis=query.basis,
        after_finish=query.after_finish,
        frame=query.frame,
    )


def _bench(
    shot_id: int,
    role: str,
    query: Any,
    draft: Draft | None = None,
    versions: Versions | None = None,
    moving: bool = False,
) -> dict[str, Any]:
    return bench_answer(_table(shot_id, query, draft, versions), role, query.selected, moving=moving)


@router.get("/shots/{shot_id}/bench", response=BenchOut)
def read_bench(request: HttpRequest, shot_id: int, query: Query[BenchQuery]) -> Any:
    """One shot judged and drawn. Anybody in the production."""
    role, versions = access.shot_seen(request, shot_id)
    return raw(_bench(shot_id, role, query, versions=versions))


@router.get("/shots/{shot_id}/version", response=VersionOut)
def read_version(request: HttpRequest, shot_id: int) -> Any:
    """Whether anything of the shot has changed: cheap enough to ask every few seconds.

    Anybody in the production.
    """
    revision, production_revision = access.shot_seen(request, shot_id)[1]
    return {"revision": revision, "production_revision": production_revision}


@router.post("/shots/{shot_id}/trial", response=BenchOut)
def try_changes(request: HttpRequest, shot_id: int, payload: Trial) -> Any:
    """Judge and draw with changes that are only tried: nothing is saved. Anybody in the production."""
    role, versions = access.shot_seen(request, shot_id)
    return raw(_bench(shot_id, role, payload, payload.draft(), versions, payload.moving))


@router.post("/shots/{shot_id}/picture", include_in_schema=True)
def picture(request: HttpRequest, shot_id: int, payload: PictureIn) -> HttpResponse:
    """The view through the lens as a JPEG, with what is being tried. Anybody in the production."""
    versions = access.shot_seen(request, shot_id)[1]
    table = _table(shot_id, payload, payload.draft(), versions)
    if table.hero is None:
        raise InputError.at("", "There is no hero yet, so there is no camera to look through.")
    only = next((at for at, layer in enumerate(table.layers) if layer.pk == payload.only), None)
    seen = lens_jpeg(
        asker(request),
        table,
        table.stack,
        payload.width_px,
        moment=table.moment,
        only=only,
        after_finish=payload.after_finish,
    )
    return HttpResponse(seen, content_type="image/jpeg", headers={"Cache-Control": "no-store"})


@router.post("/layers/{layer_id}/ground", response={200: GroundOut, 422: Problems})
def place_on_ground(request: HttpRequest, layer_id: int, payload: GroundIn) -> Any:
    """Where a layer stands whose foot is at a place of the hero's picture. Nothing is saved. Anybody in the
    production.
    """
    access.of_layer(request, layer_id)
    layer = Layer.objects.get(pk=layer_id)
    table = BenchTable(shot_to_look_at(layer.shot_id), school="measured", units="metric", frame=payload.frame)
    if table.hero is None:
        raise InputError.at("", "There is no hero yet, so there is no camera to look through.")
    found = on_ground(
        table.hero, table.layer_record(layer), table.delivery, payload.x_px, payload.y_px, table.moment
    )
    if found is None or found[0] <= 0:
        raise InputError.at("y_px", "That place is over the horizon: nothing stands on the ground there.")
    return {"near_m": found[0], "offset_m": found[1]}


@router.post("/shots/{shot_id}/changes", response={200: BenchOut, 409: Problems, 422: Problems})
@writes
def save_changes(request: HttpRequest, shot_id: int, payload: ChangesIn) -> Any:
    """Save changes to set-ups and layers together, or none of them. The supervisor."""
    role = access.of_shot(request, shot_id, access.WRITES)
    edits = {
        kind: {pk: Edit(edit.version, edit.changes) for pk, edit in getattr(payload, kind).items()}
        for kind in KINDS
    }
    with in_shot(person(request), shot_id) as write:
        change_shot(write, EditSet(**edits))
    return raw(_bench(shot_id, role, payload))


@router.post("/shots/{shot_id}/add", response={201: AddOut, 409: Problems, 422: Problems})
@writes
def add(request: HttpRequest, shot_id: int, payload: AddIn) -> Any:
    """Add a layer, a lamp, a backing or a line of the board. The supervisor."""
    role = access.of_shot(request, shot_id, access.WRITES)
    with in_shot(person(request), shot_id, payload.version) as write:
        if payload.what == "layer":
            made = add_layer(
                write, payload.fields, like_set_up=payload.like_set_up, own_set_up=payload.own_set_up
            )
        elif payload.what == "line":
            made = add_line(write, payload.fields)
        elif payload.like_set_up is None:
            raise InputError.at("like_set_up", "Say in which set-up it stands.")
        elif payload.what == "lamp":
            made = add_lamp(write, payload.like_set_up, payload.fields, payload.kit_lamp)
        else:
            made = add_backing(write, payload.like_set_up, payload.fields)
    if payload.what == "layer":
        payload.selected = made
    return raw({"id": made, "bench": _bench(shot_id, role, payload)}, 201)


@router.post("/shots/{shot_id}/accept", response={200: BenchOut, 409: Problems, 422: Problems})
@writes
def accept_verdict(request: HttpRequest, shot_id: int, payload: AcceptIn) -> Any:
    """Accept a verdict with a reason, or take that back. The supervisor."""
    role = access.of_shot(request, shot_id, access.WRITES)
    with in_shot(person(request), shot_id) as write:
        if payload.withdraw:
            withdraw(write, payload.layer_id, payload.version, payload.item)
        else:
            accept(
                write,
                payload.layer_id,
                payload.version,
                payload.item,
                payload.reason,
                as_shot=payload.basis == "shot",
            )
    return raw(_bench(shot_id, role, payload))


@router.post("/layers/{layer_id}/scales", response=ScalesOut)
def choose(request: HttpRequest, layer_id: int, payload: SolveIn) -> Any:
    """The common scales side by side for this layer, this space and this camera.

    Anybody in the production.
    """
    access.of_layer(request, layer_id)
    return scales(asker(request), layer_id, payload)


@router.post("/layers/{layer_id}/solve", response=SolveOut)
def solve_layer(request: HttpRequest, layer_id: int, payload: SolveIn) -> Any:
    """Find settings for one layer within the kit. Nothing is saved. Anybody in the production."""
    access.of_layer(request, layer_id)
    return solved(asker(request), layer_id, payload)


@router.get("/fields", response=FieldsOut)
def read_fields(request: HttpRequest) -> Any:
    """Label, unit, limits and choices of everything that can be said of a shot's rows.

    Anybody who is signed in.
    """
    return {
        "layer": list(handbook.record_fields(LayerRecord)),
        "lamp": list(handbook.record_fields(PlacedLampRecord)),
        "backing": list(handbook.record_fields(BackingRecord)),
        "set_up": list(handbook.record_fields(SetUpRecord)),
        "shot": list(handbook.record_fields(ShotPlan)),
        "move": list(handbook.record_fields(Move)),
        "film": list(handbook.record_fields(Film)),
    }
