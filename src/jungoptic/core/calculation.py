"""One description of each calculation: question, inputs, outputs, formula, sources.

A calculation is a plain function whose arguments are annotated with :mod:`quantities` and whose result is a
:class:`Record`. The decorator registers it; the API, the command line, the *why* texts and
``docs/calculations.md`` all read this registry.
"""

from __future__ import annotations

import inspect
from collections import Counter
from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Any, get_type_hints

from pydantic import ConfigDict, Field, create_model

from .errors import InputError
from .quantities import Record, is_vocabulary, name_in_words
from .sources import SOURCES

__all__ = [
    "CALCULATIONS",
    "Calculation",
    "calculation",
    "find",
]


@dataclass(frozen=True, slots=True)
class Calculation:
    """A registered calculation. ``run`` checks the inputs once and answers with plain values."""

    name: str
    question: str
    formula: str
    sources: tuple[str, ...]
    function: Callable[..., Record]
    inputs: type[Record]
    outputs: type[Record]

    def __call__(self, **values: Any) -> Any:
        checked = self.inputs.read(values)
        return self.function(**{name: getattr(checked, name) for name in self.inputs.model_fields})

    def run(self, values: Mapping[str, Any]) -> dict[str, Any]:
        """Check the values, calculate, and return the outputs.

        Parameters
        ----------
        values : mapping
            Inputs by name, in the units that :attr:`inputs` states.

        Returns
        -------
        dict
            Outputs by name, in the units that :attr:`outputs` states.

        Raises
        ------
        InputError
            Naming every input at fault, or what of it cannot be.

        Examples
        --------
        >>> from jungoptic.core import handbook
        >>> round(find("mired_shift").run({"from_k": 5600, "to_k": 3200})["mired"])
        134
        """
        if not isinstance(values, Mapping):
            raise InputError.at("", "The input must be a JSON object of names and values.")
        return dict(self(**values).model_dump())


def _own(hint: Any) -> Any:
    """The description that an annotation carries, or the annotation itself when it has none."""
    return next(iter(getattr(hint, "__metadata__", ())), hint)


def _described(name: str, hint: Any, parameter: inspect.Parameter, shared: Counter[int]) -> tuple[Any, Any]:
    """The field of an argument: one of the vocabulary, or one that serves several arguments, is labelled by
    the argument's own name.
    """
    default = ... if parameter.default is inspect.Parameter.empty else parameter.default
    by_name = is_vocabulary(hint) or (hasattr(hint, "__metadata__") and shared[id(_own(hint))] > 1)
    return (hint, Field(default, title=name_in_words(name))) if by_name else (hint, default)


CALCULATIONS: dict[str, Calculation] = {}


def calculation(
    *, question: str, formula: str, sources: tuple[str, ...]
) -> Callable[[Callable[..., Any]], Calculation]:
    """Register a function as a calculation under its own name.

    Parameters
    ----------
    question : str
        What it answers, as somebody on set would ask.
    formula : str
        As it is printed.
    sources : tuple of str
        Keys of :data:`~jungoptic.core.sources.SOURCES`.

    Returns
    -------
    callable
        The decorator; what it decorates becomes a :class:`Calculation`.

    Raises
    ------
    LookupError
        If there is no source of a key.

    Examples
    --------
    >>> try:
    ...     calculation(question="How far?", formula="d", sources=("hearsay",))
    ... except LookupError as error:
    ...     print(error)
    no such source: ['hearsay']
    """
    unknown = [key for key in sources if key not in SOURCES]
    if unknown:
        raise LookupError(f"no such source: {unknown}")

    def register(function: Callable[..., Any]) -> Calculation:
        hints = get_type_hints(function, include_extras=True)
        parameters = inspect.signature(function).parameters
        shared = Counter(id(_own(hints[name])) for name in parameters)
        fields: dict[str, Any] = {
            name: _described(name, hints[name], parameter, shared) for name, parameter in parameters.items()
        }
        title = "".join(word.capitalize() for word in function.__name__.split("_"))
        inputs = create_model(f"{title}Inputs", __base__=Record, **fields)
        inputs.model_config = ConfigDict(frozen=True, extra="forbid")
        entry = Calculation(function.__name__, question, formula, sources, function, inputs, hints["return"])
        CALCULATIONS[entry.name] = entry
        return entry

    return register


def find(name: str) -> Calculation:
    """The calculation of a name.

    Parameters
    ----------
    name : str
        As it was registered.

    Returns
    -------
    Calculation
        Ready to run.

    Raises
    ------
    InputError
        Naming the near ones, if there is none of that name.

    Examples
    --------
    >>> from jungoptic.core import handbook
    >>> find("depth_of_field").question
    'From where to where is it sharp?'
    >>> try:
    ...     find("depth_of_fields")
    ... except InputError as error:
    ...     print(error)
    There is no calculation called “depth_of_fields”. Try depth_of_field.
    """
    from difflib import get_close_matches

    if name in CALCULATIONS:
        return CALCULATIONS[name]
    near = get_close_matches(name, CALCULATIONS, n=3) or sorted(CALCULATIONS)
    raise InputError.at("name", f"There is no calculation called “{name}”. Try {', '.join(near)}.")
