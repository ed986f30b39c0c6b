"""The recipes of the trade, and the guide to them."""

from __future__ import annotations

from typing import Any

from django.http import HttpRequest
from ninja import Router, Status

from jungoptic.app.base.answers import written
from jungoptic.app.base.once import writes
from jungoptic.app.base.schemas import Problems, Removed, Written
from jungoptic.app.people.signed_in import person
from jungoptic.app.productions import access
from jungoptic.app.recipes import choosing
from jungoptic.app.recipes.answers import recipe_out
from jungoptic.app.recipes.plates import tick
from jungoptic.app.recipes.schemas import ChooseIn, RecipesOut, SaveRecipe, SuggestionOut, TickIn
from jungoptic.app.shots.models import Layer
from jungoptic.app.shots.writing import in_shot
from jungoptic.app.vocabulary.own import book
from jungoptic.core.breakdown import guide
from jungoptic.core.vocabulary import NEEDS, SEES

router = Router()


@router.get("/recipes", response=RecipesOut)
def list_recipes(request: HttpRequest) -> Any:
    """Every recipe, and what the guide asks. Anybody who is signed in."""
    return {
        "recipes": [recipe_out(one) for one in book().recipes.values()],
        "problems": list(book().problems),
        "sees": [{"key": key, "text": text} for key, text in SEES.items()],
        "needs": [{"key": key, "text": text} for key, text in NEEDS.items()],
    }


@router.get("/guide", response={200: list[SuggestionOut], 422: Problems})
def ask_guide(request: HttpRequest, sees: str, without: str = "") -> Any:
    """Recipes for what the audience should see, those that need nothing missing first.

    Anybody who is signed in.
    """
    lacking = [one for one in without.split(",") if one]
    return [
        {"key": one.recipe.key, "lacks": list(one.lacks)}
        for one in guide(sees, lacking, book().recipes.values())
    ]


@router.post("/shots/{shot_id}/recipes", response={201: Written, 409: Problems, 422: Problems})
@writes
def choose_recipe(request: HttpRequest, shot_id: int, payload: ChooseIn) -> Any:
    """Choose a recipe: its plates fill the stack. The supervisor."""
    access.of_shot(request, shot_id, access.WRITES)
    with in_shot(person(request), shot_id, payload.version) as write:
        if payload.own is not None:
            row = choosing.choose_own(write, payload.own)
        else:
            row = choosing.choose(write, payload.key, payload.answers, fill=payload.fill)
    return Status(201, written(write, row.pk, row.version))


@router.patch("/shots/{shot_id}/recipes/{recipe_id}", response={200: Written, 409: Problems, 422: Problems})
@writes
def recipe_back(request: HttpRequest, shot_id: int, recipe_id: int, payload: Removed) -> Any:
    """Take a recipe back with its layers, or bring them again. The supervisor."""
    access.of_shot(request, shot_id, access.WRITES)
    with in_shot(person(request), shot_id) as write:
        row = choosing.set_removed(write, recipe_id, payload.version, payload.removed)
    return written(write, row.pk, row.version)


@router.post("/shots/{shot_id}/save-recipe", response={201: Written, 409: Problems, 422: Problems})
@writes
def save_recipe(request: HttpRequest, shot_id: int, payload: SaveRecipe) -> Any:
    """Keep the shot's plates as a recipe of the production. The supervisor."""
    access.of_shot(request, shot_id, access.WRITES)
    with in_shot(person(request), shot_id, payload.version) as write:
        kept = choosing.save_as_recipe(write, payload.title)
    return Status(201, written(write, kept.pk, kept.version))


@router.post("/layers/{layer_id}/ticks", response={200: Written, 409: Problems, 422: Problems})
@writes
def tick_check(request: HttpRequest, layer_id: int, payload: TickIn) -> Any:
    """Tick a check of a plate. The supervisor and the crew."""
    access.of_layer(request, layer_id, access.LOGS)
    shot_id = Layer.objects.values_list("shot_id", flat=True).get(pk=layer_id)
    with in_shot(person(request), shot_id) as write:
        tick(write, layer_id, payload.version, payload.text, payload.done)
    return written(write, layer_id, payload.version)
