"""The twenty-five recipes of common practice, by key, in their order; and the habits that hold in all of
them.
"""

from __future__ import annotations

from ..recipe import Recipe
from . import models, people, places, things

RECIPES: dict[str, Recipe] = {
    one.key: one
    for one in sorted(
        (*models.RECIPES, *people.RECIPES, *things.RECIPES, *places.RECIPES), key=lambda one: one.number
    )
}

HABITS = (
    "Talk to whoever composites before filming.",
    "Film reference (grey ball, mirror ball, chart, tape) in every light.",
    "Frame first: final crop and move are decided before a single matte is cut.",
    "Lock off everything for a locked-off shot; clean plate in the same set-up, at once, 20 to 30 s.",
    "What recurs in a place recurs in every shot of it: keep the list.",
    "The same light as the plate, its direction and its hardness; real sun for sun.",
    "Film skies and textures whenever they look good.",
    "Make a rough composite early. Shoot the wrong one again.",
    "Small moving things on top (birds, smoke, weather) bind a picture.",
    "Show the big thing once, and cut so that the effect is seen from its easy side.",
)
