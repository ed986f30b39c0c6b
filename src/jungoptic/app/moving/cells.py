"""One value of a row in the file: how it is written, how it is read, and its JSON schema."""

from __future__ import annotations

import math
from datetime import date, datetime
from typing import Any

from django.contrib.postgres.fields import ArrayField
from django.core.exceptions import ValidationError
from django.db import models

_DEEPEST = 40
_KINDS: tuple[tuple[type[Any], str, tuple[type, ...]], ...] = (
    (models.BooleanField, "boolean", (bool,)),
    (models.FloatField, "number", (int, float)),
    (models.IntegerField, "integer", (int,)),
    (models.CharField, "string", (str,)),
    (models.TextField, "string", (str,)),
    (models.DateTimeField, "string", (str,)),
    (models.DateField, "string", (str,)),
    (ArrayField, "array", (list,)),
)


class CellError(ValueError):
    """What is wrong with a value, in words that go on a field's name."""


def written(value: Any) -> Any:
    """A column's value as JSON has it."""
    return value.isoformat() if isinstance(value, date) else value


def read(field: Any, value: Any) -> Any:
    """The value for a column, checked by what the column may hold. Raises CellError."""
    if isinstance(field, models.JSONField):
        if value is None and not field.null:
            raise CellError("may not be empty")
        _harmless(value)
        return value
    if value is None:
        if not field.null:
            raise CellError("may not be empty")
        return None
    kinds = next((kinds for kind, _, kinds in _KINDS if isinstance(field, kind)), ())
    if not isinstance(value, kinds) or (isinstance(value, bool) and bool not in kinds):
        raise CellError(f"must be of another kind; {str(value)[:40]!r} was given")
    _harmless(value)
    return _checked(field, value)


def _checked(field: Any, value: Any) -> Any:
    try:
        if isinstance(field, ArrayField):
            found: Any = [read(field.base_field, one) for one in value]
        elif isinstance(field, models.DateTimeField):
            found = datetime.fromisoformat(value)
            if found.tzinfo is None:
                raise CellError("must say its time zone")
        elif isinstance(field, models.DateField):
            found = date.fromisoformat(value)
        else:
            found = field.to_python(value)
        if field.choices and found not in field.empty_values:
            field.validate(found, None)
        field.run_validators(found)
    except ValidationError as error:
        raise CellError(f"is refused: {' '.join(error.messages)}") from None
    except (ValueError, OverflowError) as error:
        raise error if isinstance(error, CellError) else CellError(f"cannot be read: {error}") from None
    return found


def _harmless(value: Any, depth: int = 0) -> None:
    """Nothing that PostgreSQL or a reader of JSON stumbles over. Raises CellError."""
    if depth > _DEEPEST:
        raise CellError("is nested too deep")
    if isinstance(value, str):
        if "\x00" in value or any("\ud800" <= letter <= "\udfff" for letter in value):
            raise CellError("holds a character that is none")
    elif isinstance(value, float):
        if not math.isfinite(value):
            raise CellError("must be a number that has an end")
    elif isinstance(value, dict):
        for key, one in value.items():
            _harmless(key, depth + 1)
            _harmless(one, depth + 1)
    elif isinstance(value, list):
        for one in value:
            _harmless(one, depth + 1)


def schema(field: Any) -> dict[str, Any]:
    """What may stand in the column, by JSON Schema (2020-12)."""
    if isinstance(field, models.JSONField):
        said: dict[str, Any] = {}
    elif field.is_relation:
        said = {"type": "integer", "description": f"key of {field.related_model._meta.verbose_name}"}
    else:
        said = {"type": next(name for kind, name, _ in _KINDS if isinstance(field, kind))}
        if isinstance(field, models.DateTimeField):
            said["format"] = "date-time"
        elif isinstance(field, models.DateField):
            said["format"] = "date"
        if isinstance(field, ArrayField):
            said["items"] = schema(field.base_field)
        elif field.choices:
            said["enum"] = [key for key, _ in field.choices] + ([""] if field.blank else [])
        elif getattr(field, "max_length", None):
            said["maxLength"] = field.max_length
    if field.null and "type" in said:
        said["type"] = [said["type"], "null"]
    if field.help_text:
        said["description"] = str(field.help_text)
    return said
