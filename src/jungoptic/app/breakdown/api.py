"""The wall, and a shot broken down."""

from __future__ import annotations

from typing import Any

from django.http import HttpRequest
from ninja import Router, Status

from jungoptic.app.base.answers import jsonable
from jungoptic.app.base.once import once
from jungoptic.app.base.schemas import Problems, Removed, School, TakenIn
from jungoptic.app.breakdown.plan import broken_down
from jungoptic.app.breakdown.schemas import LineIn, PlanOut, WallOut
from jungoptic.app.breakdown.wall import change_line, wall
from jungoptic.app.costs import costing
from jungoptic.app.costs.schemas import CostIn
from jungoptic.app.people.signed_in import person
from jungoptic.app.productions import access
from jungoptic.app.recipes import choosing
from jungoptic.app.recipes.plates import tick
from jungoptic.app.recipes.schemas import ChooseIn, SaveRecipe, TickIn
from jungoptic.app.safety import cautions
from jungoptic.app.safety.schemas import CautionsIn, SignOffIn
from jungoptic.app.takes.table import BenchTable, shot_with_everything
from jungoptic.core.errors import InputError

router = Router()


def _table(shot_id: int) -> BenchTable:
    """The shot as it stands in the database, not as a process may have kept it: what follows a write is read here."""
    return BenchTable(shot_with_everything(shot_id), school="measured", units="metric")


def _plan(shot_id: int, role: str) -> dict[str, Any]:
    found: dict[str, Any] = jsonable(broken_down(_table(shot_id), role))
    return found


@router.get("/productions/{production_id}/wall", response=WallOut)
def read_wall(request: HttpRequest, production_id: int, school: School = "measured") -> Any:
    """Every shot of the production in the order of the cut, with totals. Anybody in the production."""
    access.role_in(request, production_id)
    return wall(production_id, school)


@router.patch("/shots/{shot_id}/line", response={200: TakenIn, 409: Problems, 422: Problems})
def edit_line(request: HttpRequest, shot_id: int, payload: LineIn) -> Any:
    """Edit a shot where it stands on the wall, call it ready, or take it out of the cut. The supervisor."""
    access.of_shot(request, shot_id, access.WRITES)
    changes = payload.changes.model_dump(exclude_unset=True)
    empty = [name for name in changes if changes[name] is None and name not in ("place_id", "shoot_on")]
    if empty:
        raise InputError.at(empty[0], "This cannot be empty.")

    def work() -> tuple[int, Any]:
        change_line(shot_id, person(request), changes, payload.seen)
        return 200, {"new": 0, "changed": 1}

    return Status(*once(request, work))


@router.get("/shots/{shot_id}/plan", response=PlanOut)
def read_plan(request: HttpRequest, shot_id: int) -> Any:
    """A shot broken down. Anybody in the production."""
    return _plan(shot_id, access.of_shot(request, shot_id))


@router.post("/shots/{shot_id}/recipes", response={201: PlanOut, 422: Problems})
def choose_recipe(request: HttpRequest, shot_id: int, payload: ChooseIn) -> Any:
    """Choose a recipe: its plates fill the stack. The supervisor."""
    role = access.of_shot(request, shot_id, access.WRITES)

    def work() -> tuple[int, Any]:
        who = person(request)
        if payload.own is not None:
            choosing.choose_own(shot_id, who, payload.own)
        else:
            choosing.choose(shot_id, who, payload.key, payload.answers, fill=payload.fill)
        return 201, _plan(shot_id, role)

    return Status(*once(request, work))


@router.patch("/shots/{shot_id}/recipes/{recipe_id}", response={200: PlanOut, 422: Problems})
def recipe_back(request: HttpRequest, shot_id: int, recipe_id: int, payload: Removed) -> Any:
    """Take a recipe back with its layers, or bring them again. The supervisor."""
    role = access.of_shot(request, shot_id, access.WRITES)
    (choosing.drop if payload.removed else choosing.restore)(shot_id, person(request), recipe_id)
    return _plan(shot_id, role)


@router.post("/shots/{shot_id}/save-recipe", response={201: PlanOut, 422: Problems})
def save_recipe(request: HttpRequest, shot_id: int, payload: SaveRecipe) -> Any:
    """Keep the shot's plates as a recipe of the production. The supervisor."""
    role = access.of_shot(request, shot_id, access.WRITES)

    def work() -> tuple[int, Any]:
        choosing.save_as_recipe(shot_id, person(request), payload.title)
        return 201, _plan(shot_id, role)

    return Status(*once(request, work))


@router.post("/layers/{layer_id}/ticks", response={200: PlanOut, 422: Problems})
def tick_check(request: HttpRequest, layer_id: int, payload: TickIn) -> Any:
    """Tick a check of a plate. The supervisor and the crew."""
    from jungoptic.app.shots.models import Layer

    role = access.of_layer(request, layer_id, access.LOGS)
    tick(layer_id, person(request), payload.text, payload.done)
    return _plan(Layer.objects.values_list("shot_id", flat=True).get(pk=layer_id), role)


@router.patch("/shots/{shot_id}/costs", response={200: PlanOut, 422: Problems})
def say_costs(request: HttpRequest, shot_id: int, payload: CostIn) -> Any:
    """Say what a shot's costs depend on, or choose a way. The supervisor."""
    role = access.of_shot(request, shot_id, access.WRITES)
    costing.say(shot_id, payload.changes)
    return _plan(shot_id, role)


@router.post("/shots/{shot_id}/sign", response={200: PlanOut, 422: Problems})
def sign_caution(request: HttpRequest, shot_id: int, payload: SignOffIn) -> Any:
    """Sign a caution off, or take that back. The supervisor."""
    role = access.of_shot(request, shot_id, access.WRITES)
    if payload.withdraw:
        cautions.take_back(shot_id, person(request), payload.caution)
    else:
        cautions.sign(_table(shot_id), person(request), payload.caution, payload.note)
    return _plan(shot_id, role)


@router.put("/shots/{shot_id}/cautions", response={200: PlanOut, 422: Problems})
def set_cautions(request: HttpRequest, shot_id: int, payload: CautionsIn) -> Any:
    """The cautions that are added by hand. The supervisor."""
    role = access.of_shot(request, shot_id, access.WRITES)
    cautions.say_cautions(shot_id, person(request), payload.cautions)
    return _plan(shot_id, role)
