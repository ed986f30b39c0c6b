"""What a recipe is: plates, set-ups, order, checks, pitfalls, cautions, and the few numbers that it asks
for.
"""

from __future__ import annotations

import math
import re
from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Any

from ..errors import FieldProblem, InputError
from ..match.records import Layer


@dataclass(frozen=True, slots=True)
class Ask:
    """A number that a recipe wants to know, with unit and limits. ``whole`` numbers are counted."""

    name: str
    label: str
    unit: str
    default: float
    least: float
    most: float
    whole: bool = False


@dataclass(frozen=True, slots=True)
class Of:
    """A value that follows from an answer: ``times · answer + plus``."""

    ask: str
    times: float = 1.0
    plus: float = 0.0


@dataclass(frozen=True, slots=True)
class Plate:
    """One plate of a recipe. ``fields`` are those of core's Layer, in full-size metres, each a value or an
    :class:`Of`.

    ``set_up`` names the set-up that films it ("" for a picture); plates of the same name share one. ``each``
    names the answer
    that says how many of it there are, each ``apart_m`` further back. ``check`` is what to tick off when it
    is filmed.
    """

    name: str
    kind: str
    combine: str
    set_up: str
    why: str
    check: tuple[str, ...] = ()
    hero: bool = False
    key_colour: str = ""
    each: str = ""
    apart_m: float = 0.0
    fields: Mapping[str, Any] = field(default_factory=dict)


@dataclass(frozen=True, slots=True)
class Place:
    """A set-up of a recipe: what differs from the shot's own, and the sheet behind, by the colour of the
    kit.
    """

    name: str
    backing: str = ""
    values: Mapping[str, Any] = field(default_factory=dict)


@dataclass(frozen=True, slots=True)
class Recipe:
    """One way to make one kind of effect. ``order`` and ``wrong`` are pairs: (what to film, why then), (what
    goes wrong, how it is seen).
    """

    key: str
    number: int
    title: str
    audience: str
    sees: tuple[str, ...]
    needs: tuple[str, ...]
    plates: tuple[Plate, ...]
    order: tuple[tuple[str, str], ...]
    wrong: tuple[tuple[str, str], ...]
    cautions: tuple[str, ...] = ()
    places: tuple[Place, ...] = ()
    asks: tuple[Ask, ...] = ()
    ways: tuple[str, ...] = ()
    references: tuple[str, ...] = (
        "grey ball and mirror ball",
        "chart",
        "tape on the ground at known distances",
    )
    schools: str = ""
    lock_off: bool = False


@dataclass(frozen=True, slots=True)
class Planned:
    """A plate as it goes into the stack: the fields of core's Layer, and what belongs to the break-down."""

    fields: dict[str, Any]
    set_up: str
    hero: bool
    key_colour: str
    check: tuple[str, ...]
    why: str
    rank: int | None
    why_then: str


def answers_of(recipe: Recipe, given: Mapping[str, Any]) -> dict[str, float]:
    """The answers to what the recipe asks, defaults filled in; raises InputError at each that cannot be."""
    problems = [
        FieldProblem(name, f"“{recipe.title}” does not ask for “{name}”.")
        for name in given
        if name not in {one.name for one in recipe.asks}
    ]
    found: dict[str, float] = {}
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
            found[ask.name] = float(value)
    if problems:
        raise InputError(*problems)
    return found


def filmed_at(recipe: Recipe, plate: Plate) -> tuple[int, str] | None:
    """The plate's place in the recipe's filming order, from 0, and why then; None where it has none of its
    own.
    """
    own = re.split(r" 1:\{| \{", plate.name)[0].casefold()
    rows = [(what.casefold(), at, why) for at, (what, why) in enumerate(recipe.order)]
    exact = [(at, why) for what, at, why in rows if what == own]
    near = [(at, why) for what, at, why in rows if what.startswith(own) or own.startswith(what)]
    return next(iter([*exact, *near]), None)


def expand(recipe: Recipe, given: Mapping[str, Any]) -> tuple[Planned, ...]:
    """The plates of the recipe with the answers put in, in the recipe's order; each is checked as a Layer."""
    answers = answers_of(recipe, given)
    planned: list[Planned] = []
    for plate in recipe.plates:
        count = int(answers[plate.each]) if plate.each else 1
        rank, why_then = filmed_at(recipe, plate) or (None, "")
        for n in range(count):
            fields = {name: _value(value, answers) for name, value in plate.fields.items()}
            name = plate.name.replace("{n}", str(n + 1)).replace("{s}", f"{answers.get('scale', 1.0):g}")
            fields |= {"name": name, "kind": plate.kind, "combine": plate.combine}
            fields["near_m"] = round(fields.get("near_m", 5.0) + n * plate.apart_m, 3)
            Layer.read(fields)
            planned.append(
                Planned(
                    fields, plate.set_up, plate.hero, plate.key_colour, plate.check, plate.why, rank, why_then
                )
            )
    return tuple(planned)


def _value(value: Any, answers: Mapping[str, float]) -> Any:
    if not isinstance(value, Of):
        return value
    return round(value.times * answers[value.ask] + value.plus, 4)
