"""What a recipe is: plates, set-ups, order, checks, pitfalls, cautions, and the few numbers that it asks for.

A recipe is read from a data file (:mod:`jungoptic.core.breakdown.recipes`); the fields here are its fields.
"""

from __future__ import annotations

import math
import re
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Annotated, Any, Literal, Self

from pydantic import Discriminator, Field, Tag, model_validator

from .. import quantities as q
from ..errors import FieldProblem, InputError, refuse
from ..match.layer import Layer, Part
from ..vocabulary import NEEDS, SEES, Combine, KeyColour, Kind
from .outlines import OUTLINES, outline_parts
from .ways import WAYS

Words = Annotated[str, Field(min_length=1, max_length=400)]
Key = Annotated[
    str,
    Field(
        title="Key",
        pattern="^[a-z][a-z0-9_]{0,23}$",
        json_schema_extra={"form": "up to 24 small letters, digits and _, a letter first"},
    ),
]


class Ask(q.Record):
    """A number that a recipe wants to know, with unit and limits. ``whole`` numbers are counted."""

    name: Key
    label: Words
    unit: str = ""
    default: float
    least: float
    most: float
    whole: bool = False

    @model_validator(mode="after")
    def _in_order(self) -> Self:
        if not self.least <= self.default <= self.most:
            raise refuse(
                "default",
                f"The default of “{self.label}” must lie between {self.least:g} and {self.most:g}.",
            )
        return self


class Of(q.Record):
    """A value that follows from an answer: ``times · answer + plus``."""

    answer: Key
    times: float = 1.0
    plus: float = 0.0


# A field of a layer: a value, which core's Layer checks, or what follows from an answer.
LayerValue = Annotated[
    Annotated[Of, Tag("follows")] | Annotated[Any, Tag("value")],
    Discriminator(lambda value: "follows" if isinstance(value, dict | Of) else "value"),
]


class Plate(q.Record):
    """One plate of a recipe. ``layer`` holds fields of core's Layer, in full-size metres, each a value or an
    :class:`Of`.

    ``outline`` is what it looks like to begin with, one of :data:`~.outlines.OUTLINES`; "" is its box.
    ``set_up`` names the set-up that films it ("" for a picture); plates of the same name share one. ``each``
    names the answer that says how many of it there are, each ``apart_m`` further back. ``check`` is what to
    tick off when it is filmed.
    """

    name: Words
    kind: Kind
    combine: Combine
    why: Words
    set_up: str = ""
    check: tuple[Words, ...] = ()
    hero: bool = False
    key_colour: KeyColour | Literal[""] = ""
    outline: str = ""
    each: str = ""
    apart_m: float = 0.0
    layer: dict[str, LayerValue] = Field(default_factory=dict)


class RecipeSetUp(q.Record):
    """A set-up of a recipe: what differs from the shot's own, and the sheet behind, by the colour of the
    kit.
    """

    name: Words
    backing: KeyColour | Literal[""] = ""
    values: dict[str, bool | float | str] = Field(default_factory=dict)


class Filmed(q.Record):
    """What is filmed when (the order of the list), and why then."""

    film: Words
    why: Words


class Pitfall(q.Record):
    """What goes wrong, and how it is seen."""

    what: Words
    seen: Words


class Recipe(q.Record):
    """One way to make one kind of effect."""

    key: Key
    title: Words
    audience: Words
    sees: Annotated[tuple[str, ...], Field(min_length=1)]
    plates: Annotated[tuple[Plate, ...], Field(min_length=1)]
    order: Annotated[tuple[Filmed, ...], Field(min_length=1)]
    wrong: tuple[Pitfall, ...] = ()
    number: Annotated[int, Field(ge=1, le=999, title="Number")] = 999
    needs: tuple[str, ...] = ()
    cautions: tuple[str, ...] = ()
    set_ups: tuple[RecipeSetUp, ...] = ()
    asks: tuple[Ask, ...] = ()
    ways: tuple[str, ...] = ()
    references: tuple[Words, ...] = (
        "grey ball and mirror ball",
        "chart",
        "tape on the ground at known distances",
    )
    schools: str = ""
    lock_off: bool = False

    @model_validator(mode="after")
    def _hangs_together(self) -> Self:
        for name, given, known in (
            ("sees", self.sees, SEES),
            ("needs", self.needs, NEEDS),
            ("ways", self.ways, WAYS),
        ):
            for index, word in enumerate(given):
                if word not in known:
                    raise refuse(f"{name}.{index}", f"“{word}” is none of: {', '.join(known)}.")
        asked = [ask.name for ask in self.asks]
        set_ups = {plate.set_up for plate in self.plates}
        for index, set_up in enumerate(self.set_ups):
            if set_up.name not in set_ups:
                raise refuse(
                    f"set_ups.{index}.name", f"No plate is filmed in a set-up called “{set_up.name}”."
                )
        self._plates_hang_together(asked)
        if sum(plate.hero for plate in self.plates) != 1:
            raise refuse("plates", "One plate, and one only, must say hero = true: what the others marry to.")
        for index, filmed in enumerate(self.order):
            film = filmed.film.casefold()
            if not any(film.startswith(own) or own.startswith(film) for own in map(_own_name, self.plates)):
                raise refuse(f"order.{index}.film", f"No plate is called “{filmed.film}”.")
        _planned(self, {ask.name: ask.default for ask in self.asks})
        return self

    def _plates_hang_together(self, asked: list[str]) -> None:
        for index, plate in enumerate(self.plates):
            if plate.outline and plate.outline not in OUTLINES:
                raise refuse(
                    f"plates.{index}.outline",
                    f"There is no outline called “{plate.outline}”; there are {_listed(list(OUTLINES))}.",
                )
            if plate.each and plate.each not in asked:
                raise refuse(f"plates.{index}.each", f"“{plate.each}” is not asked; asked: {_listed(asked)}.")
            for field, value in plate.layer.items():
                if isinstance(value, Of) and value.answer not in asked:
                    raise refuse(
                        f"plates.{index}.layer.{field}",
                        f"“{value.answer}” is not asked; asked: {_listed(asked)}.",
                    )


def _listed(names: list[str]) -> str:
    return ", ".join(names) or "nothing"


@dataclass(frozen=True, slots=True)
class Planned:
    """A plate as it goes into the stack: the fields of core's Layer without its ``parts``, those, and what
    belongs to the break-down.
    """

    fields: dict[str, Any]
    set_up: str
    hero: bool
    key_colour: str
    check: tuple[str, ...]
    why: str
    rank: int | None
    why_then: str
    parts: tuple[Part, ...] = ()

    @property
    def layer(self) -> Layer:
        """The plate as core's record."""
        return Layer.read({**self.fields, "parts": self.parts})


def answers_of(recipe: Recipe, given: Mapping[str, Any]) -> dict[str, float]:
    """The answers to what a recipe asks, defaults filled in.

    Parameters
    ----------
    recipe : Recipe
        What asks.
    given : mapping
        Answers by name, in the units that it states.

    Returns
    -------
    dict of str to float
        One for each question.

    Raises
    ------
    InputError
        At each answer that cannot be, or that is not asked for.

    Examples
    --------
    >>> from jungoptic.core.breakdown import RECIPES
    >>> recipe = next(recipe for recipe in RECIPES.values() if recipe.asks)
    >>> answers_of(recipe, {}) == {ask.name: ask.default for ask in recipe.asks}
    True
    """
    problems = [
        FieldProblem(name, f"“{recipe.title}” does not ask for “{name}”.")
        for name in given
        if name not in {ask.name for ask in recipe.asks}
    ]
    answers: dict[str, float] = {}
    for ask in recipe.asks:
        value = given.get(ask.name, ask.default)
        if isinstance(value, bool) or not isinstance(value, int | float) or not math.isfinite(value):
            problems.append(FieldProblem(ask.name, f"{ask.label} must be a number; {value!r} was given."))
        elif not ask.least <= value <= ask.most:
            unit = f" {ask.unit}" if ask.unit else ""
            problems.append(
                FieldProblem(
                    ask.name,
                    f"{ask.label} must be between {ask.least:g} and {ask.most:g}{unit}; {value:g} was given.",
                )
            )
        elif ask.whole and value != int(value):
            problems.append(
                FieldProblem(ask.name, f"{ask.label} must be a whole number; {value:g} was given.")
            )
        else:
            answers[ask.name] = float(value)
    if problems:
        raise InputError(*problems)
    return answers


def filmed_at(recipe: Recipe, plate: Plate) -> tuple[int, str] | None:
    """The plate's place in the recipe's filming order, from 0, and why then; None where it has none of its
    own.
    """
    own = _own_name(plate)
    rows = [(row.film.casefold(), index, row.why) for index, row in enumerate(recipe.order)]
    exact = [(index, why) for film, index, why in rows if film == own]
    near = [(index, why) for film, index, why in rows if film.startswith(own) or own.startswith(film)]
    return next(iter([*exact, *near]), None)


def _own_name(plate: Plate) -> str:
    """A plate's name without what is put in: "row {n}" is a "row"."""
    return re.split(r" 1:\{| \{", plate.name)[0].casefold()


def expand(recipe: Recipe, given: Mapping[str, Any]) -> tuple[Planned, ...]:
    """The plates of a recipe with the answers put in.

    Parameters
    ----------
    recipe : Recipe
        What is laid out.
    given : mapping
        Answers by name; defaults fill in the others.

    Returns
    -------
    tuple of Planned
        In the recipe's order, each checked as a :class:`~jungoptic.core.match.Layer`.

    Raises
    ------
    InputError
        At each answer that cannot be.

    Examples
    --------
    >>> from jungoptic.core.breakdown import RECIPES
    >>> recipe = next(iter(RECIPES.values()))
    >>> sum(plate.hero for plate in expand(recipe, {}))
    1
    """
    return _planned(recipe, answers_of(recipe, given))


def _planned(recipe: Recipe, answers: Mapping[str, float]) -> tuple[Planned, ...]:
    planned: list[Planned] = []
    for index, plate in enumerate(recipe.plates):
        count = int(answers[plate.each]) if plate.each else 1
        rank, why_then = filmed_at(recipe, plate) or (None, "")
        for n in range(count):
            fields = {name: _value(value, answers) for name, value in plate.layer.items()}
            name = plate.name.replace("{n}", str(n + 1)).replace("{s}", f"{answers.get('scale', 1.0):g}")
            fields |= {"name": name, "kind": plate.kind, "combine": plate.combine}
            fields["near_m"] = round(fields.get("near_m", 5.0) + n * plate.apart_m, 3)
            try:
                layer = Layer.read(fields)
            except InputError as error:
                first = error.problems[0]
                raise refuse(f"plates.{index}.layer.{first.field}", first.message) from None
            planned.append(
                Planned(
                    fields,
                    plate.set_up,
                    plate.hero,
                    plate.key_colour,
                    plate.check,
                    plate.why,
                    rank,
                    why_then,
                    outline_parts(plate.outline, layer),
                )
            )
    return tuple(planned)


def _value(value: Any, answers: Mapping[str, float]) -> Any:
    if not isinstance(value, Of):
        return value
    return round(value.times * answers[value.answer] + value.plus, 4)
