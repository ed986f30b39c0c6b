"""Recipes and plates over the wire."""

from __future__ import annotations

from pydantic import BaseModel as Schema
from pydantic import Field

from jungoptic.app.base.schemas import Seen
from jungoptic.core.breakdown import Ask
from jungoptic.core.quantities import YesNo


class PlateWords(Schema):
    name: str
    kind: str
    combine: str
    why: str
    hero: bool


class WhatWhy(Schema):
    what: str
    why: str


class WhatSeen(Schema):
    what: str
    seen: str


class RecipeOut(Schema):
    key: str
    number: int
    title: str
    audience: str
    sees: list[str]
    needs: list[str]
    asks: list[Ask]
    plates: list[PlateWords]
    order: list[WhatWhy]
    wrong: list[WhatSeen]
    cautions: list[str]
    references: list[str]
    schools: str
    lock_off: bool
    ways: list[str]


class KeyWords(Schema):
    key: str
    text: str


class RecipesOut(Schema):
    """Every recipe, and what is wrong with data files of one's own that could not be used."""

    problems: list[str]
    recipes: list[RecipeOut]
    sees: list[KeyWords]
    needs: list[KeyWords]


class SuggestionOut(Schema):
    key: str
    lacks: list[str]


class ShotRecipeOut(Schema):
    id: int
    version: int
    key: str
    title: str
    answers: dict[str, float]
    recipe: RecipeOut | None


class OwnRecipeOut(Schema):
    id: int
    title: str
    description: str


class CheckOut(Schema):
    text: str
    done: bool


class PlateOut(Schema):
    number: int
    layer_id: int
    version: int
    name: str
    kind: str
    combine: str
    key_colour: str
    hero: bool
    set_up: str
    set_up_id: int | None
    why: str
    note: str
    scale: float
    checks: list[CheckOut]
    shot: bool


class ChooseIn(Seen):
    """Choose a recipe of the trade by ``key`` with its answers, or one that the production saved
    (``own``).
    """

    key: str = Field("", max_length=24)
    own: int | None = None
    answers: dict[str, float] = {}
    fill: YesNo = True


class SaveRecipe(Seen):
    title: str = Field(max_length=120)


class TickIn(Seen):
    text: str = Field(max_length=200)
    done: YesNo
