"""Sets and models in plan, as far as their shots see them."""

from __future__ import annotations

from typing import Any

from django.db.models import Count
from django.http import HttpRequest
from ninja import Router, Status
from ninja.errors import HttpError

from jungoptic.app.base.answers import written
from jungoptic.app.base.once import writes
from jungoptic.app.base.schemas import Problems, Removed, Written
from jungoptic.app.builds import keeping
from jungoptic.app.builds.models import Build
from jungoptic.app.builds.schemas import BuildIn, BuildName, BuildOut, NewBuild
from jungoptic.app.builds.seen import worked_out
from jungoptic.app.people.signed_in import person
from jungoptic.app.productions import access
from jungoptic.app.productions.writing import in_production
from jungoptic.core.vocabulary import Units

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
    rows = (
        Build.objects.filter(production=production_id, removed=False)
        .select_related("place")
        .annotate(piece_count=Count("pieces", distinct=True), view_count=Count("views", distinct=True))
    )
    return [
        {
            "id": one.pk,
            "version": one.version,
            "name": one.name,
            "place": one.place.name if one.place else "",
            "pieces": one.piece_count,
            "views": one.view_count,
        }
        for one in rows[:200]
    ]


@router.post("/productions/{production_id}/builds", response={201: Written, 409: Problems, 422: Problems})
@writes
def new_build(request: HttpRequest, production_id: int, payload: NewBuild) -> Any:
    """A new set or model in plan; ``version`` is the production's. The supervisor."""
    access.role_in(request, production_id, access.WRITES)
    with in_production(person(request), production_id, payload.version) as write:
        made = keeping.new(write, payload.name)
    return Status(201, written(write, made.pk, made.version))


@router.patch(
    "/productions/{production_id}/builds/{build_id}", response={200: Written, 409: Problems, 422: Problems}
)
@writes
def build_back(request: HttpRequest, production_id: int, build_id: int, payload: Removed) -> Any:
    """Take a set out of the production, or bring it back. The supervisor."""
    access.role_in(request, production_id, access.WRITES)
    with in_production(person(request), production_id) as write:
        build = keeping.remove_build(write, build_id, payload.version, payload.removed)
    return written(write, build.pk, build.version)


@router.get("/builds/{build_id}", response=BuildOut)
def read_build(request: HttpRequest, build_id: int, units: Units = "metric") -> Any:
    """A set with what its shots see of it. Anybody in the production."""
    return worked_out(_build(request, build_id), units)


@router.put("/builds/{build_id}", response={200: BuildOut, 409: Problems, 422: Problems})
@writes
def save_build(request: HttpRequest, build_id: int, payload: BuildIn, units: Units = "metric") -> Any:
    """Save a set with pieces and views. The supervisor."""
    production_id = _build(request, build_id, access.WRITES).production_id
    views = None if payload.views is None else [one.model_dump() for one in payload.views]
    with in_production(person(request), production_id) as write:
        keeping.save(write, build_id, payload.version, payload.fields, payload.pieces, views)
    return worked_out(_build(request, build_id), units)
