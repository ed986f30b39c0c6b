"""The shape of what is said about an item: where, a sentence, the values put in, the fixes."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field
from functools import lru_cache
from typing import Annotated, Any

from pydantic import BaseModel, TypeAdapter, ValidationError

from ..kit.records import Kit
from ..light.placed import Backing, PlacedLamp
from ..wording import Words, number
from .layer import Layer
from .measure import Match
from .records import SetUp
from .tolerances import Tolerance


@dataclass(frozen=True, slots=True)
class Value:
    """A symbol of the formula with the value put in."""

    symbol: str
    meaning: str
    text: str


@dataclass(frozen=True, slots=True)
class Fix:
    """Something to dial in: ``changes`` by field of the set-up or of the layer."""

    label: str
    target: str
    changes: dict[str, Any]


Values = tuple[Value, ...]


@dataclass(slots=True)
class Explanation:
    """``where`` qualifies the item in a few words, ``sentence`` says it whole, ``wants`` is the dial's wish.

    ``values`` puts the numbers into the formula, and ``mending``, where it must be searched for, gives the
    fixes in place of ``fixes``; both are called only when somebody asks.
    """

    where: str
    sentence: str
    values: Callable[[], tuple[Value, ...]]
    fixes: tuple[Fix, ...] = ()
    dial: str = ""
    wants: float | None = None
    wants_text: str = ""
    mending: Callable[[], tuple[Fix, ...]] | None = None


@dataclass(frozen=True, slots=True)
class Context:
    """What an explanation may draw on beside the match itself; ``placed`` is the set-up with lamps and sun in
    it, before its key was written out.
    """

    tolerance: Tolerance
    words: Words = field(default_factory=Words)
    kit: Kit | None = None
    placed: SetUp | None = None


Explainer = Callable[[Match, Context], Explanation]

_TARGETS: dict[str, type[BaseModel]] = {
    "set_up": SetUp,
    "layer": Layer,
    "new_layer": Layer,
    "backing": Backing,
    "lamps": PlacedLamp,
}


@lru_cache(maxsize=256)
def _checker(record: type[BaseModel], field_name: str) -> TypeAdapter[Any]:
    info = record.model_fields[field_name]
    shape: Any = Annotated[info.annotation, info]
    return TypeAdapter(shape)


def can_be(fix: Fix) -> bool:
    """Whether each value of the fix is within what its record allows: nobody is sent into an error by a
    button.
    """
    record = _TARGETS.get(fix.target)
    if record is None:
        return True
    rows = fix.changes["lamps"].values() if fix.target == "lamps" else (fix.changes,)
    try:
        for changes in rows:
            for name, value in changes.items():
                _checker(record, name).validate_python(value)
    except ValidationError:
        return False
    return True


_FRACTIONS = {round(1 / 6, 6): "⅙", round(1 / 3, 6): "⅓"}


@lru_cache(maxsize=1024)
def limit_words(limit: Tolerance, unit: str) -> str:
    amount = _FRACTIONS.get(round(limit.holds, 6)) or number(limit.holds, 2)
    return f"Holds up to {amount}{'' if unit == '°' else ' '}{unit}."
