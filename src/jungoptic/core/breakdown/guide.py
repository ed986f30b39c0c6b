"""The short guide: from what the audience should see, and what is not at hand, to the recipes that fit."""

from __future__ import annotations

from collections.abc import Collection, Iterable
from dataclasses import dataclass

from ..errors import InputError
from ..vocabulary import NEEDS, SEES
from .recipe import Recipe
from .recipes import RECIPES


@dataclass(frozen=True, slots=True)
class Suggestion:
    """A recipe that shows the audience what it should see; ``lacks`` is what it needs and the production does
    without.
    """

    recipe: Recipe
    lacks: tuple[str, ...]


def guide(
    sees: str, without: Collection[str] = (), recipes: Iterable[Recipe] = tuple(RECIPES.values())
) -> tuple[Suggestion, ...]:
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
        for one in recipes
        if sees in one.sees
    ]
    return tuple(
        sorted(found, key=lambda one: (len(one.lacks), one.recipe.sees.index(sees), one.recipe.number))
    )
