"""Sets and models in plan, as far as their shots see them."""

from __future__ import annotations

from typing import Any

from django.db.models import Count
from django.http import HttpRequest
from ninja import Router, Status
from ninja.errors import HttpError

from jungoptic.app.base.answers import jsonable
from jungoptic.app.base.once import once
from jungoptic.app.base.schemas import Problems, Removed, Units
from jungoptic.app.builds import keeping
from jungoptic.app.builds.keeping import remove_build
from jungoptic.app.builds.models import Build
from jungoptic.app.builds.schemas import BuildIn, BuildName, BuildOut, NewBuild
from jungoptic.app.builds.seen import worked_out
from jungoptic.app.productions import access

router = Router()


def _build(request: HttpRequest, build_id: int, allowed: frozenset[access.Role] = access.READS) -> Build:
    build = Build.objects.filter(pk=build_id, removed=False).select_related("production__figures").first()
    if build is None:
        raise HttpError(404, "There is no such thing here, or it is not yours to see.")
    access.role_in(request, build.production_id, allowed)
    return build


@router.get("/productions/{production_id}/builds", response=list[BuildName])
def list_builds(request: HttpRequest, production_id: int) -> Any:
    """The sets and models in plan. Anybody in the production."""
    access.role_in(request, production_id)
    return _builds(production_id)


def _builds(production_id: int) -> list[dict[str, Any]]:
    rows = (
        Build.objects.filter(production=production_id, removed=False)
        .select_related("place")
        .annotate(piece_count=Count("pieces", distinct=True), view_count=Count("views", distinct=True))
    )
    return [
        {"id": one.pk, "name": one.name, "place": one.place.name if one.place else "", "pieces": one.piece_count, "views": one.view_count}
        for one in rows[:200]
    ]


@router.post("/productions/{production_id}/builds", response={201: BuildOut, 422: Problems})
def new_build(request: HttpRequest, production_id: int, payload: NewBuild) -> Any:
    """A new set or model in plan. The supervisor."""
    access.role_in(request, production_id, access.WRITES)

    def work() -> tuple[int, Any]:
        made = keeping.new(production_id, payload.name)
        return 201, jsonable(worked_out(made, "metric"))

    return Status(*once(request, work))


@router.patch("/productions/{production_id}/builds/{build_id}", response={200: list[BuildName], 422: Problems})
def build_back(request: HttpRequest, production_id: int, build_id: int, payload: Removed) -> Any:
    """Take a set out of the production, or bring it back. The supervisor."""
    access.role_in(request, production_id, access.WRITES)
    remove_build(production_id, build_id, payload.removed)
    return _builds(production_id)


@router.get("/builds/{build_id}", response=BuildOut)
def read_build(request: HttpRequest, build_id: int, units: Units = "metric") -> Any:
    """A set with what its shots see of it. Anybody in the production."""
    return worked_out(_build(request, build_id), units)


@router.put("/builds/{build_id}", response={200: BuildOut, 409: Problems, 422: Problems})
def save_build(request: HttpRequest, build_id: int, payload: BuildIn, units: Units = "metric") -> Any:
    """Save a set with pieces and views. The supervisor."""
    _build(request, build_id, access.WRITES)
    views = None if payload.views is None else [one.model_dump() for one in payload.views]
    keeping.save(build_id, payload.version, payload.fields, payload.pieces, views)
    return worked_out(_build(request, build_id), units)
