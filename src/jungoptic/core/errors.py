"""One kind of error for every door: which field, what limit, why."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from pydantic import BaseModel, ValidationError
from pydantic.fields import FieldInfo
from pydantic_core import PydanticCustomError

__all__ = [
    "FieldProblem",
    "InputError",
    "readable",
    "refuse",
]


@dataclass(frozen=True, slots=True)
class FieldProblem:
    """What is wrong with one field. ``field`` is a dotted path ("" for the whole); ``message`` is a
    sentence.
    """

    field: str
    message: str


class InputError(ValueError):
    """Input that cannot be worked with. ``problems`` names every field at fault."""

    def __init__(self, *problems: FieldProblem) -> None:
        self.problems = problems
        super().__init__(" ".join(problem.message for problem in problems))

    def __reduce__(self) -> tuple[type[InputError], tuple[FieldProblem, ...]]:
        """So that it can be raised in one process and caught in another."""
        return type(self), self.problems

    @classmethod
    def at(cls, field: str, message: str) -> InputError:
        """The error of one field.

        Parameters
        ----------
        field : str
            Dotted path of the field; "" for the whole.
        message : str
            A sentence that says what to do.

        Returns
        -------
        InputError
            To raise.

        Examples
        --------
        >>> InputError.at("iso", "ISO must be more than 0; -1 was given.").problems[0].field
        'iso'
        """
        return cls(FieldProblem(field, message))


def refuse(field: str, message: str) -> PydanticCustomError:
    """The error to raise inside a record's own checks, so that it lands at a field.

    Parameters
    ----------
    field : str
        Dotted path of the field.
    message : str
        A sentence that says what to do.

    Returns
    -------
    PydanticCustomError
        To raise; :func:`readable` turns it into an :class:`InputError`.

    Examples
    --------
    >>> refuse("end_frame", "The move must end after it starts.").type
    'refused'
    """
    # The message goes in as a value: a brace in what the user typed must not be read as a placeholder.
    return PydanticCustomError("refused", "{message}", {"field": field, "message": message})


def _field_at(model: type[BaseModel] | None, path: tuple[str | int, ...]) -> FieldInfo | None:
    info: FieldInfo | None = None
    for step in path:
        if model is None or not isinstance(step, str) or step not in model.model_fields:
            continue
        info = model.model_fields[step]
        inner = info.annotation
        candidates = [inner, *getattr(inner, "__args__", ())]
        model = next((c for c in candidates if isinstance(c, type) and issubclass(c, BaseModel)), None)
    return info


def _shown(value: Any) -> str:
    text = repr(value) if isinstance(value, str) else str(value)
    return text if len(text) <= 40 else text[:37] + "…"


def _limit(kind: str, context: dict[str, Any], unit: str, given: Any) -> str | None:
    words = {
        "greater_than": ("more than", "gt"),
        "greater_than_equal": ("at least", "ge"),
        "less_than": ("less than", "lt"),
        "less_than_equal": ("at most", "le"),
    }
    if kind not in words:
        return None
    phrase, key = words[kind]
    limit = context[key]
    if kind == "greater_than_equal" and 0 < limit < 1 and isinstance(given, int | float) and given <= 0:
        phrase, limit = "more than", 0  # how small it may be is said to whoever tries
    number = f"{limit:,.10g}" if isinstance(limit, int | float) else str(limit)
    return f"must be {phrase} {number}{' ' + unit if unit else ''}"


def _message(name: str, unit: str, form: str, error: Any) -> str:
    kind, context, given = error["type"], error.get("ctx", {}), error.get("input")
    unit = "" if unit.endswith("/") else unit  # f/ stands before a number
    if limit := _limit(kind, context, unit, given):
        return f"{name} {limit}; {_shown(given)} was given."
    if kind == "missing":
        return f"{name} is missing."
    if kind == "extra_forbidden":
        return f"There is no field called “{name}” here."
    if kind in {"float_parsing", "float_type", "int_parsing", "int_type", "int_from_float", "finite_number"}:
        whole = "a whole number" if kind.startswith("int") else "a number"
        return f"{name} must be {whole}{' of ' + unit if unit else ''}; {_shown(given)} was given."
    if kind == "literal_error":
        return f"{name} must be one of {context['expected']}; {_shown(given)} was given."
    if kind == "string_pattern_mismatch" and form:
        return f"{name} must be {form}; {_shown(given)} was given."
    if kind.startswith("bool_"):
        return f"{name}: say yes or no; {_shown(given)} was given."
    if kind == "refused":
        return str(context["message"])
    return f"{name}: {error['msg']}."


def readable(error: ValidationError, model: type[BaseModel] | None = None) -> InputError:
    """Sentences in place of a record's validation error.

    Parameters
    ----------
    error : ValidationError
        What pydantic raised.
    model : type of BaseModel, optional
        The record, for the labels and units of its fields.

    Returns
    -------
    InputError
        Every field at fault, each with a sentence that says what to do.

    Examples
    --------
    >>> from pydantic import TypeAdapter
    >>> try:
    ...     TypeAdapter(float).validate_python("wide")
    ... except ValidationError as error:
    ...     print(readable(error))
    Input must be a number; 'wide' was given.
    """
    problems = []
    for item in error.errors(include_url=False):
        path = tuple(step for step in item["loc"])
        info = _field_at(model, path)
        extra = info.json_schema_extra if info and isinstance(info.json_schema_extra, dict) else {}
        name = (info.title if info and info.title else None) or (str(path[-1]) if path else "Input")
        refused = str(item.get("ctx", {}).get("field", ""))  # of the record that refused it, wherever it lies
        steps = [*map(str, path), *([refused] if refused and refused not in map(str, path) else [])]
        field = ".".join(steps)
        problems.append(
            FieldProblem(field, _message(name, str(extra.get("unit", "")), str(extra.get("form", "")), item))
        )
    return InputError(*problems)
