"""The wall, and a shot broken down."""

from __future__ import annotations

from typing import Any

from django.http import HttpRequest
from ninja import Router

from jungoptic.app.base.answers import written
from jungoptic.app.base.once import writes
from jungoptic.app.base.schemas import Problems, Written
from jungoptic.app.breakdown.plan import broken_down
from jungoptic.app.breakdown.schemas import LineIn, PlanOut, WallOut
from jungoptic.app.breakdown.wall import change_on_wall, wall
from jungoptic.app.people.signed_in import person
from jungoptic.app.productions import access
from jungoptic.app.shots.writing import in_shot
from jungoptic.app.takes.table import BenchTable, shot_with_everything
from jungoptic.core.errors import InputError
from jungoptic.core.vocabulary import School, Units

router = Router()


@router.get("/productions/{production_id}/wall", response=WallOut)
def read_wall(
    request: HttpRequest, production_id: int, school: School = "measured", units: Units = "metric"
) -> Any:
    """Every shot of the production in the order of the cut, with totals. Anybody in the production."""
    access.role_in(request, production_id)
    return wall(production_id, school, units)


@router.patch("/shots/{shot_id}/line", response={200: Written, 409: Problems, 422: Problems})
@writes
def edit_line(request: HttpRequest, shot_id: int, payload: LineIn) -> Any:
    """Edit a shot where it stands on the wall, call it ready, or take it out of the cut. The supervisor."""
    access.of_shot(request, shot_id, access.WRITES)
    changes = payload.changes.model_dump(exclude_unset=True)
    empty = [name for name in changes if changes[name] is None and name not in ("place_id", "shoot_on")]
    if empty:
        raise InputError.at(empty[0], "This cannot be empty.")
    with in_shot(person(request), shot_id) as write:
        version = change_on_wall(write, payload.version, changes)
    return written(write, shot_id, version)


@router.get("/shots/{shot_id}/plan", response=PlanOut)
def read_plan(request: HttpRequest, shot_id: int) -> Any:
    """A shot broken down. Anybody in the production."""
    role = access.of_shot(request, shot_id)
    return broken_down(BenchTable(shot_with_everything(shot_id), school="measured", units="metric"), role)
