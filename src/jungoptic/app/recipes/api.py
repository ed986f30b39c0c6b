"""The recipes of the trade, and the guide to them."""

from __future__ import annotations

from typing import Any

from django.http import HttpRequest
from ninja import Router

from jungoptic.app.base.schemas import Problems
from jungoptic.app.recipes.answers import recipe_out
from jungoptic.app.recipes.schemas import RecipesOut, SuggestionOut
from jungoptic.core.breakdown.guide import NEEDS, SEES, guide
from jungoptic.core.breakdown.recipes import RECIPES

router = Router()


@router.get("/recipes", response=RecipesOut)
def list_recipes(request: HttpRequest) -> Any:
    """Every recipe, and what the guide asks. Anybody who is signed in."""
    return {
        "recipes": [recipe_out(one) for one in RECIPES.values()], "sees": [{"key": key, "text": text} for key, text in SEES.items()],
        "needs": [{"key": key, "text": text} for key, text in NEEDS.items()],
    }  # fmt: skip


@router.get("/guide", response={200: list[SuggestionOut], 422: Problems})
def ask_guide(request: HttpRequest, sees: str, without: str = "") -> Any:
    """Recipes for what the audience should see, those that need nothing missing first. Anybody who is signed in."""
    lacking = [one for one in without.split(",") if one]
    return [{"key": one.recipe.key, "lacks": list(one.lacks)} for one in guide(sees, lacking)]
