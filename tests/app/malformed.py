"""Calls made wrong: values that no page sends, put into calls that one does."""

from __future__ import annotations

import json
import random
from collections.abc import Iterator, Sequence
from dataclasses import replace
from typing import Any

from django.core.files.uploadedfile import SimpleUploadedFile

from jungoptic.core.quantities import Record

from .said import Call, as_seen
from .wrong_values import BYTES, FILES, HEADERS, IDS, NAMES, NUMBERS, OTHERS, TEXTS, TYPES


def leaves(value: Any, at: tuple[Any, ...] = ()) -> Iterator[tuple[Any, ...]]:
    """Every place in a body, the containers too."""
    if at:
        yield at
    if isinstance(value, dict):
        for key, inner in value.items():
            yield from leaves(inner, (*at, key))
    elif isinstance(value, list):
        for index, inner in enumerate(value):
            yield from leaves(inner, (*at, index))


def put(value: Any, at: tuple[Any, ...], new: Any) -> Any:
    if not at:
        return new
    step, rest = at[0], at[1:]
    if isinstance(value, dict):
        return {key: put(inner, rest, new) if key == step else inner for key, inner in value.items()}
    return [put(inner, rest, new) if index == step else inner for index, inner in enumerate(value)]


def there(value: Any, at: tuple[Any, ...]) -> Any:
    for step in at:
        value = value[step]
    return value


def _choices(schema: dict[str, Any]) -> Iterator[Any]:
    """What a field's own schema allows at its ends."""
    for inner in schema.get("anyOf", []):
        yield from _choices({**{key: one for key, one in schema.items() if key != "anyOf"}, **inner})
    yield from schema.get("enum", ())
    if schema.get("type") in ("number", "integer"):
        whole = schema["type"] == "integer"
        for end, inward in (
            ("minimum", 1),
            ("maximum", -1),
            ("exclusiveMinimum", 1),
            ("exclusiveMaximum", -1),
        ):
            if end in schema:
                yield schema[end]
                yield schema[end] + inward * (1 if whole else 1e-6 * (abs(schema[end]) or 1))
                yield schema[end] / (2 if not whole else 1)


def _edges() -> dict[str, list[Any]]:
    """Values at the ends of what each field may be, by its name, of every record that core reads."""
    found: dict[str, list[Any]] = {}
    waiting: list[type[Record]] = [Record]
    while waiting:
        kind = waiting.pop()
        waiting.extend(kind.__subclasses__())
        for name, schema in kind.model_json_schema().get("properties", {}).items():
            found.setdefault(name, []).extend(_choices(schema))
    return {name: values for name, values in sorted(found.items()) if values}


EDGES = _edges()


class Malformer:
    """Deals wrong calls, always the same for the same seed."""

    def __init__(self, seed: int, calls: Sequence[Call]) -> None:
        self.random = random.Random(seed)
        self.calls = calls
        self.by_operation: dict[tuple[str, str], list[Call]] = {}
        for call in calls:
            steps = call.path.split("/")
            of_calculations = steps[1] == "calculations"
            shape = "/".join(
                "#" if step.isdigit() or (of_calculations and at == 2) else step
                for at, step in enumerate(steps)
            )
            self.by_operation.setdefault((call.method, shape), []).append(call)
        self.operations = sorted(self.by_operation)

    def value(self, like: Any = None, name: Any = "") -> Any:
        """A wrong value, mostly of the kind that stands there, or one at an end of what may stand there."""
        deal = self.random
        if name in EDGES and deal.random() < 0.5:
            return deal.choice(EDGES[name])
        if isinstance(like, bool) or like is None or deal.random() < 0.25:
            return deal.choice((*NUMBERS, *TEXTS, *OTHERS))
        if isinstance(like, int | float):
            return deal.choice(NUMBERS)
        if isinstance(like, str):
            return deal.choice(TEXTS)
        return deal.choice(OTHERS)

    def call(self) -> tuple[Call, dict[str, Any]]:
        """A call, and how it is sent: ``data``, ``content_type``, ``headers``."""
        deal = self.random
        weights = [self._weight(one) for one in self.operations]
        call = as_seen(deal.choice(self.by_operation[deal.choices(self.operations, weights)[0]]))
        how: dict[str, Any] = {"headers": {}}
        if deal.random() < 0.08:
            call = self._elsewhere(call)
        if deal.random() < (0.6 if call.query else 0.1):
            call = self._asked(call)
        if deal.random() < 0.04:
            how["headers"] = dict(deal.choice(HEADERS))
        if call.files:
            return call, {**how, **self._form(call)}
        if call.method == "get":
            return call, how
        if deal.random() < 0.06:
            return call, {**how, "data": deal.choice(BYTES), "content_type": "application/json"}
        body = call.body if call.body is not None else {}
        for _ in range(deal.choice((1, 1, 1, 2, 3, 8))):
            body = self._wrong(body)
        kind = deal.choice(TYPES) if deal.random() < 0.02 else "application/json"
        return replace(call, body=body), {**how, "data": json.dumps(body).encode(), "content_type": kind}

    @staticmethod
    def _weight(operation: tuple[str, str]) -> float:
        """What is slow, less often; what has many fields, more often."""
        path = operation[1]
        if path.endswith(("/solve", "/scales", "film-file", "/tried", "/films")):
            return 0.25
        if path.endswith(("/wall", "/plan", "session/password", "/session")):
            return 0.4
        if path.endswith(("/changes", "/trial", "/takes", "/calculations/#")):
            return 6.0
        return 1.0

    def _elsewhere(self, call: Call) -> Call:
        steps = call.path.split("/")
        numbered = [index for index, step in enumerate(steps) if step.isdigit()]
        if numbered:
            steps[self.random.choice(numbered)] = self.random.choice(IDS)
        elif len(steps) > 2:
            steps[-1] = self.random.choice(IDS)
        return replace(call, path="/".join(steps))

    def _asked(self, call: Call) -> Call:
        query = dict(call.query)
        name = self.random.choice([*query, "units", "school", "version", "limit"])
        query[name] = self.value(query.get(name))
        return replace(call, query=query)

    def _wrong(self, body: Any) -> Any:
        deal = self.random
        places = list(leaves(body))
        if not places or deal.random() < 0.02:
            return self.value(body)
        at = deal.choice(places)
        was = there(body, at)
        if deal.random() < 0.05 and isinstance(was, dict):
            return put(body, at, {**was, deal.choice(NAMES): self.value()})
        if deal.random() < 0.03:
            keys = there(body, at[:-1])
            if isinstance(keys, dict):
                return put(body, at[:-1], {key: one for key, one in keys.items() if key != at[-1]})
        return put(body, at, self.value(was, at[-1]))

    def _form(self, call: Call) -> dict[str, Any]:
        deal = self.random
        sent: dict[str, Any] = {"version": self.value(1)} if deal.random() < 0.5 else {"version": 1}
        sent = {name: str(value).encode("utf-8", "replace") for name, value in sent.items()}
        for name, file in call.files.items():
            file.seek(0)
            data = file.read()
            if deal.random() < 0.6:
                data = deal.choice(FILES)
            elif data:
                cut = deal.randrange(len(data))
                data = data[:cut] + bytes([deal.randrange(256)]) + data[cut + deal.choice((1, 1, 400)) :]
            named = deal.choice(
                [
                    file.name,
                    "a.pdf",
                    "a.tiff",
                    "x" * 300 + ".png",
                    "\u202e.png",
                    "a\nb.png",
                    "..png",
                    "TM010.jpg",
                ]
            )
            sent[name] = SimpleUploadedFile(named or "x", data)
        return {"data": sent}
