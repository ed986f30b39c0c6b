"""The one door for what is said to the API: JSON where JSON is meant, in limits of length and depth, with
numbers that are finite and fit, and text that can be kept.
"""

from __future__ import annotations

import json
import math
import re
from collections.abc import Iterator
from typing import Any

from django.http import HttpRequest
from django.utils.datastructures import MultiValueDict
from ninja.errors import HttpError
from ninja.parser import Parser
from ninja.types import DictStrAny

from jungoptic.core.errors import FieldProblem, InputError
from jungoptic.core.quantities import name_in_words

DEEPEST = 32  # a body of ours is five deep
MOST_VALUES = 100_000  # the largest of ours, a set with all its pieces, has some thousands
MOST_PROBLEMS = 20
MOST_WHOLE = 2**63 - 1  # what a column for whole numbers holds
_UNKEPT = re.compile("[\x00\ud800-\udfff]")  # NUL, and halves of pairs that are no characters
ONLY_JSON = "Send this as JSON: the Content-Type must be application/json."


class BodyParser(Parser):
    def parse_body(self, request: HttpRequest) -> Any:
        """The body as plain values.

        Raises HttpError for what is no JSON, InputError at each field that cannot be kept.
        """
        if request.content_type != "application/json":
            raise HttpError(415, ONLY_JSON)
        try:
            body = json.loads(request.body.decode())  # JSON is UTF-8 (RFC 8259, section 8.1)
        except RecursionError:
            raise _too_much() from None
        except ValueError as error:
            where = f" ({error})" if isinstance(error, json.JSONDecodeError) else ""
            raise HttpError(400, f"The request body is no JSON{where}.") from None
        _refuse(body)
        return body

    def parse_querydict(
        self, data: MultiValueDict[str, Any], list_fields: list[str], request: HttpRequest
    ) -> DictStrAny:
        """A query or a form as plain values. Raises InputError at each field that cannot be kept."""
        values = super().parse_querydict(data, list_fields, request)
        _refuse(values)
        return values


def _too_much() -> InputError:
    most = f"up to {MOST_VALUES:,} values, lists in lists {DEEPEST} deep"
    return InputError.at("", f"This is more, or deeper, than can be read: {most}.")


def _refuse(values: Any) -> None:
    problems: list[FieldProblem] = []
    for field, message in _unfit(values):
        problems.append(FieldProblem(field, message))
        if len(problems) == MOST_PROBLEMS:
            break
    if problems:
        raise InputError(*problems)


def _wrong(value: Any, at: str = "") -> str:
    """What is wrong with one value; "" for nothing."""
    if isinstance(value, str):
        if not _UNKEPT.search(value):
            return ""
        what = "a NUL character" if "\x00" in value else "half a character"
        return f"Text may not hold {what}: type it again, or paste it as plain text."
    if isinstance(value, float):
        return "" if math.isfinite(value) else f"{_called(at)} must be a finite number."
    if isinstance(value, int) and abs(value) > MOST_WHOLE:
        return f"{_called(at)} must be a number of up to {MOST_WHOLE:,}."
    return ""


def _column(at: str) -> str:
    """The column that a number is of, as everything else names it: the last step that is a name."""
    return next((step for step in reversed(at.split(".")) if not step.isdigit()), "")


def _called(at: str) -> str:
    return name_in_words(_column(at)) or "This"


def _unfit(body: Any) -> Iterator[tuple[str, str]]:
    """Where in a body something stands that cannot be kept, as field names with dots, and what.

    Raises InputError for a body that holds too much.
    """
    count = 0
    waiting: list[tuple[str, int, Any]] = [("", 0, body)]
    while waiting:
        at, depth, value = waiting.pop()
        count += 1
        if depth > DEEPEST or count > MOST_VALUES:
            raise _too_much()
        if isinstance(value, dict):
            for key in value:
                if wrong := _wrong(key):
                    yield at, wrong
            inner: Iterator[tuple[Any, Any]] = iter(value.items())
        elif isinstance(value, list):
            inner = iter(enumerate(value))
        else:
            if wrong := _wrong(value, at):
                yield (at if isinstance(value, str) else _column(at)), wrong
            continue
        waiting.extend((f"{at}.{key}".strip("."), depth + 1, one) for key, one in reversed(list(inner)))
