"""Recipes in the shapes that go over the wire."""

from __future__ import annotations

from jungoptic.app.recipes.models import ShotRecipe
from jungoptic.app.recipes.schemas import PlateWords, RecipeOut, ShotRecipeOut, WhatSeen, WhatWhy
from jungoptic.app.vocabulary.own import book, caution_title
from jungoptic.core.breakdown import WAYS, Recipe


def recipe_out(recipe: Recipe) -> RecipeOut:
    return RecipeOut(
        key=recipe.key,
        number=recipe.number,
        title=recipe.title,
        audience=recipe.audience,
        sees=list(recipe.sees),
        needs=list(recipe.needs),
        asks=list(recipe.asks),
        plates=[
            PlateWords(name=one.name, kind=one.kind, combine=one.combine, why=one.why, hero=one.hero)
            for one in recipe.plates
        ],
        order=[WhatWhy(what=one.film, why=one.why) for one in recipe.order],
        wrong=[WhatSeen(what=one.what, seen=one.seen) for one in recipe.wrong],
        cautions=[caution_title(key) for key in recipe.cautions],
        references=list(recipe.references),
        schools=recipe.schools,
        lock_off=recipe.lock_off,
        ways=[WAYS[key].name for key in recipe.ways],
    )


def chosen_answer(row: ShotRecipe) -> ShotRecipeOut:
    core = book().recipes.get(row.key)
    return ShotRecipeOut(
        id=row.pk,
        version=row.version,
        key=row.key,
        title=row.name,
        answers={one.name: one.value for one in row.answers.all()},
        recipe=recipe_out(core) if core else None,
    )
