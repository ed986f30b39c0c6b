"""How a request's body and its query are read: JSON, and no text that PostgreSQL cannot keep."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

from django.http import HttpRequest
from django.utils.datastructures import MultiValueDict
from ninja.parser import Parser
from ninja.types import DictStrAny

from jungoptic.core.errors import FieldProblem, InputError

_NUL = "\x00"
_ESCAPED = rb"\u0000"  # a bare NUL is no JSON


class BodyParser(Parser):
    def parse_body(self, request: HttpRequest) -> Any:
        """The body as plain values. Raises InputError at each field whose text holds a NUL character."""
        body = super().parse_body(request)
        if _ESCAPED in request.body:
            _refuse(body)
        return body

    def parse_querydict(
        self, data: MultiValueDict[str, Any], list_fields: list[str], request: HttpRequest
    ) -> DictStrAny:
        """A query or a form as plain values. Raises InputError at each field that holds a NUL character."""
        values = super().parse_querydict(data, list_fields, request)
        _refuse(values)
        return values


def _refuse(values: Any) -> None:
    problems = [
        FieldProblem(field, "Text may not hold a NUL character: type it again, or paste it as plain text.")
        for field in _fields(values)
    ]
    if problems:
        raise InputError(*problems)


def _fields(value: Any, at: str = "") -> Iterator[str]:
    """Where in the body a NUL stands, as field names with dots."""
    if isinstance(value, str):
        if _NUL in value:
            yield at
    elif isinstance(value, dict):
        for key, one in value.items():
            if _NUL in key:
                yield at
            yield from _fields(one, f"{at}.{key}".strip("."))
    elif isinstance(value, list):
        for index, one in enumerate(value):
            yield from _fields(one, f"{at}.{index}".strip("."))
