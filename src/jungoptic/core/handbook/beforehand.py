"""The answers of a card worked out before they are asked for: for a place without a server. Exact at their
points, and nothing is said between them.
"""

from __future__ import annotations

import itertools
import json
import math
from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from ..calculation import Calculation
from ..errors import InputError
from .cards import CardField, fields_of

_MOST_ROWS = 4096
_MOST_CHARACTERS = 400_000
_TOGETHER = 4
"""So many numbers are crossed with each other; of more, each with each."""
_AS_GOOD_AS = 0.015
"""A value this near to an engraved one stands in its place: f/2.8 for 2.828."""
_DIGITS = 6


@dataclass(frozen=True, slots=True)
class Axis:
    """One input, and the values of it that were worked out, in the order of its barrel."""

    field: str
    values: tuple[float | str | bool, ...]


@dataclass(frozen=True, slots=True)
class Crossing:
    """A card's answers at every crossing of some inputs, while the others stay where they stood.

    ``outputs`` has for each output one value a crossing, the last axis running fastest; None where the
    calculation refuses. Numbers are rounded to six digits.
    """

    axes: tuple[Axis, ...]
    outputs: dict[str, list[Any]]


def beforehand(entry: Calculation, values: Mapping[str, Any]) -> tuple[Crossing, ...]:
    """The answers of a card for the likely turns of its barrels.

    Up to four numbers are crossed with each other; of more, any two. Each takes as many values around where
    it stands as the whole has room for: engraved ones, those with a label first. Choices and switches take
    all of theirs everywhere; lists, tables, records and what is not set stay.

    Parameters
    ----------
    entry : Calculation
        What is calculated.
    values : mapping
        Where the card stands: inputs by name.

    Returns
    -------
    tuple of Crossing
        One, or one for every two numbers.

    Raises
    ------
    InputError
        If the card cannot be answered where it stands.

    Examples
    --------
    >>> from jungoptic.core import handbook
    >>> from jungoptic.core.calculation import find
    >>> crossing, = beforehand(find("mired_shift"), {"from_k": 5600, "to_k": 3200})
    >>> [axis.field for axis in crossing.axes], 5600 in crossing.axes[0].values
    (['from_k', 'to_k'], True)
    """
    here = entry.run(dict(values))
    fields = fields_of(entry)
    choices = [
        Axis(field.name, field.choices if field.kind == "choice" else (False, True))
        for field in fields
        if field.kind in ("choice", "flag") and values.get(field.name) is not None
    ]
    numbers = [field for field in fields if _is_turned(field, values)]
    together = len(numbers) if len(numbers) <= _TOGETHER else 2
    room = _room(here, (len(numbers), together), [len(axis.values) for axis in choices])
    axes = {axis.field: axis for axis in choices}
    for field, count in _shares(numbers, together, room):
        axes[field.name] = Axis(field.name, _around(field, float(values[field.name]), count))
    everywhere = {axis.field for axis in choices}
    return tuple(
        _crossing(entry, values, [axes[field.name] for field in fields if field.name in crossed], list(here))
        for crossed in (
            {*everywhere, *(field.name for field in turned)}
            for turned in itertools.combinations(numbers, together)
        )
    )


def _room(answer: Mapping[str, Any], crossed: tuple[int, int], choices: Iterable[int]) -> float:
    """How many points a crossing may have without its choices, so that all of them together are not too much
    to keep: ``crossed`` says of how many numbers how many are crossed.
    """
    characters = len(json.dumps(answer, default=str))
    return min(_MOST_ROWS, _MOST_CHARACTERS / characters) / (math.comb(*crossed) * math.prod(choices))


def _is_turned(field: CardField, values: Mapping[str, Any]) -> bool:
    value = values.get(field.name)
    return (
        field.kind in ("number", "integer")
        and isinstance(value, int | float)
        and not isinstance(value, bool)
        and math.isfinite(value)
    )


def _shares(numbers: Sequence[CardField], together: int, room: float) -> Iterator[tuple[CardField, int]]:
    """How many values each takes, so that ``together`` of them cross in ``room`` points: what a short barrel
    does not need is left to the others.
    """
    left = float(room)
    alike = len(numbers) > together
    for place, field in enumerate(sorted(numbers, key=lambda field: len(field.marks))):
        roots = together if alike else together - place
        count = max(int(left ** (1 / roots) + 1e-9), 1)
        yield field, count
        if not alike:
            left /= max(min(count, len(field.marks) + 1), 1)


def _around(field: CardField, here: float, count: int) -> tuple[float, ...]:
    """So many values of a barrel around where it stands, that one among them."""
    within = [mark for mark in field.marks if field.low <= mark.value <= field.high]
    marks = [mark.value for mark in within if mark.major]
    if len(marks) < count:
        marks = [mark.value for mark in within]
    if field.kind == "integer":
        marks = [float(round(mark)) for mark in marks]
    others = {mark for mark in marks if not math.isclose(mark, here, rel_tol=_AS_GOOD_AS)}
    steps = sorted({*others, here})
    first = min(max(steps.index(here) - count // 2, 0), max(len(steps) - count, 0))
    return tuple(steps[first : first + count])


def _crossing(
    entry: Calculation, values: Mapping[str, Any], axes: Sequence[Axis], names: Sequence[str]
) -> Crossing:
    outputs: dict[str, list[Any]] = {name: [] for name in names}
    whole = {field.name for field in fields_of(entry) if field.kind == "integer"}
    for crossing in itertools.product(*(axis.values for axis in axes)):
        turned = {
            axis.field: int(value) if axis.field in whole else value
            for axis, value in zip(axes, crossing, strict=True)
        }
        try:
            answer = entry.run({**values, **turned})
        except InputError:
            answer = dict.fromkeys(names)
        for name in names:
            outputs[name].append(_rounded(answer[name]))
    return Crossing(tuple(axes), outputs)


def _rounded(value: Any) -> Any:
    if isinstance(value, float):
        return float(f"{value:.{_DIGITS}g}") if math.isfinite(value) else value
    if isinstance(value, list | tuple):
        return [_rounded(part) for part in value]
    if isinstance(value, dict):
        return {key: _rounded(part) for key, part in value.items()}
    return value
