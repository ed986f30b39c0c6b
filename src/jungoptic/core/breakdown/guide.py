"""The short guide: from what the audience should see, and what is not at hand, to the recipes that fit."""

from __future__ import annotations

from collections.abc import Collection
from dataclasses import dataclass

from ..errors import InputError
from .recipe import Recipe
from .recipes import RECIPES

SEES: dict[str, str] = {
    "place": "a place that is not there, or larger than it is",
    "event": "something breaks, floods, bursts or falls",
    "danger": "somebody in danger",
    "twice": "one person twice, or many from few",
    "gone": "somebody or something vanishes or changes",
    "alive": "a thing that moves by itself",
    "creature": "a creature or a giant",
    "sky": "something in the sky",
    "light": "fire, light or night",
    "time": "time running fast or slow",
    "screen": "a picture on a screen or in a frame",
    "drive": "a journey",
}
NEEDS: dict[str, str] = {
    "model": "a model and somebody who builds it",
    "backing": "a coloured sheet and lamps for it",
    "locked camera": "a camera that stands still",
    "animator": "an animator's days",
    "high frame rate": "a camera that runs faster than delivery",
    "painter": "somebody who paints",
}


@dataclass(frozen=True, slots=True)
class Suggestion:
    """A recipe that shows the audience what it should see; ``lacks`` is what it needs and the production does
    without.
    """

    recipe: Recipe
    lacks: tuple[str, ...]


def guide(sees: str, without: Collection[str] = ()) -> tuple[Suggestion, ...]:
    """Recipes for what the audience should see: those that need nothing that is missing first, then those
    that lack least.
    """
    if sees not in SEES:
        raise InputError.at("sees", f"Choose one of: {', '.join(SEES)}; {sees!r} was given.")
    unknown = [one for one in without if one not in NEEDS]
    if unknown:
        raise InputError.at("without", f"Nobody needs {unknown[0]!r}; choose from {', '.join(NEEDS)}.")
    found = [
        Suggestion(one, tuple(need for need in one.needs if need in without))
        for one in RECIPES.values()
        if sees in one.sees
    ]
    return tuple(
        sorted(found, key=lambda one: (len(one.lacks), one.recipe.sees.index(sees), one.recipe.number))
    )
