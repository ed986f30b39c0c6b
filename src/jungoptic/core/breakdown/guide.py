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
    """Recipes for what the audience should see.

    Parameters
    ----------
    sees : str
        A key of :data:`~jungoptic.core.vocabulary.SEES`.
    without : collection of str, optional
        Keys of :data:`~jungoptic.core.vocabulary.NEEDS` that the production does without.
    recipes : iterable of Recipe, optional
        Those of common practice when left out.

    Returns
    -------
    tuple of Suggestion
        Those that need nothing that is missing first, then those that lack least.

    Raises
    ------
    InputError
        For a word that is none of the vocabulary's.

    Examples
    --------
    >>> try:
    ...     guide("a dragon")
    ... except InputError as error:
    ...     print(error.problems[0].field)
    sees
    >>> [suggestion.recipe.key for suggestion in guide(next(iter(SEES)))][:1]
    ['opening']
    """
    if sees not in SEES:
        raise InputError.at("sees", f"Choose one of: {', '.join(SEES)}; {sees!r} was given.")
    unknown = [word for word in without if word not in NEEDS]
    if unknown:
        raise InputError.at("without", f"Nobody needs {unknown[0]!r}; choose from {', '.join(NEEDS)}.")
    fitting = [
        Suggestion(recipe, tuple(need for need in recipe.needs if need in without))
        for recipe in recipes
        if sees in recipe.sees
    ]
    return tuple(
        sorted(fitting, key=lambda row: (len(row.lacks), row.recipe.sees.index(sees), row.recipe.number))
    )
