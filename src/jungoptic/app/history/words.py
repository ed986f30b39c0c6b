"""Values of the history as a crew member says them."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from jungoptic.app.base.columns import UNITS, ending
from jungoptic.core.wording import Words, number

NOTHING = "nothing"
_KINDS = {
    "set_ups": "set-up",
    "layers": "layer",
    "lamps": "lamp",
    "backings": "backing",
    "lines": "line",
    "rates": "rate",
    "membership": "person",
}
Names = Mapping[tuple[str, int], str]


def kind_in_words(kind: str) -> str:
    return _KINDS.get(kind, kind)


def value_in_words(field: str, value: Any, words: Words, names: Names) -> str:
    """One value: lengths and light in the reader's units, rows by their names, lists by what is in them."""
    if value is None or value in ("", [], {}):
        return NOTHING
    if isinstance(value, bool):
        return "yes" if value else "no"
    if isinstance(value, int | float):
        return _number(field, value, words, names)
    if isinstance(value, dict):
        return str(value.get("reason", ", ".join(f"{name} {one}" for name, one in value.items())))
    if isinstance(value, list):
        return _list(value)
    return str(value)


def _number(field: str, value: float, words: Words, names: Names) -> str:
    if (field, value) in names:
        return names[field, int(value)]
    if field == "f_number":
        return f"f/{number(value, 3)}"
    match ending(field):
        case "_id":
            return f"number {value:g}"
        case "_m":
            return words.length(value)
        case "_lx":
            return words.light(value)
        case end:
            return number(value, 4) + UNITS.get(end, "")


def _list(values: list[Any]) -> str:
    if all(isinstance(one, str) for one in values):
        return ", ".join(values)
    if all(isinstance(one, int | float) for one in values):
        return " and ".join(number(one, 4) for one in values)
    if all(isinstance(one, dict) and one.get("name") for one in values):
        return (
            f"{len(values)}: "
            + ", ".join(str(one["name"]) for one in values[:6])
            + (" …" if len(values) > 6 else "")
        )
    return (
        f"{len(values)} points" if all(isinstance(one, list) for one in values) else f"{len(values)} entries"
    )
