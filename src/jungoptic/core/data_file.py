"""Data files that a practitioner can read and extend: TOML, one field a line, checked when they are read.

What is wrong is said by file, line and field, so that it can be mended in any editor.
"""

from __future__ import annotations

import re
import tomllib
from collections.abc import Iterable, Mapping
from typing import Any, TypeVar

from .errors import FieldProblem, InputError
from .quantities import Record

__all__ = [
    "DataFileError",
    "placed",
    "record",
    "tables",
]

R = TypeVar("R", bound=Record)

_HEADER = re.compile(r"^\s*(\[\[?)\s*([\w.-]+)\s*\]\]?\s*(#.*)?$")
_KEY = re.compile(r"^\s*([\w-]+)\s*=")
_AT = re.compile(r" \(at (?:line (\d+), column (\d+)|end of document)\)$")


class DataFileError(InputError):
    """A data file that cannot be used; each problem's message starts with file, line and field."""


def tables(text: str, file: str) -> dict[str, Any]:
    """The tables of a TOML text.

    Parameters
    ----------
    text : str
        The file as it was read.
    file : str
        Its name, for what is said of it.

    Returns
    -------
    dict
        Tables, arrays and values by key.

    Raises
    ------
    DataFileError
        Where the text is not TOML, with the line.

    Examples
    --------
    >>> tables('title = "Thin ice"', "own.toml")
    {'title': 'Thin ice'}
    """
    try:
        return tomllib.loads(text)
    except tomllib.TOMLDecodeError as error:
        message = _AT.sub("", str(error))
        place = _AT.search(str(error))
        line = int(place[1]) if place and place[1] else text.count("\n") + 1
        raise DataFileError(FieldProblem("", f"{file}, line {line}: {message}.")) from None


def record(model: type[R], values: Mapping[str, Any], text: str, file: str, within: str = "") -> R:
    r"""A record from a table of a data file.

    Parameters
    ----------
    model : type of Record
        What is built.
    values : mapping
        The table, as :func:`tables` gave it.
    text, file : str
        The file that it came from and its name, for what is said of it.
    within : str
        Dotted path of the table in the file; "" for the whole file.

    Returns
    -------
    Record
        Checked, frozen.

    Raises
    ------
    DataFileError
        Every field at fault, with file, line and field.

    Examples
    --------
    >>> from jungoptic.core.plan import Sheet
    >>> text = "width_mm = 1220\nkerf_mm = -3"
    >>> try:
    ...     record(Sheet, tables(text, "sheet.toml"), text, "sheet.toml")
    ... except DataFileError as error:
    ...     print(error)
    sheet.toml, line 2, kerf_mm: Lost at each cut must be at least 0 mm; -3 was given.
    """
    try:
        return model.read(values)
    except InputError as error:
        raise placed(error.problems, text, file, within) from None


def placed(problems: Iterable[FieldProblem], text: str, file: str, within: str = "") -> DataFileError:
    r"""The error that says of each problem where in the file it is.

    Parameters
    ----------
    problems : iterable of FieldProblem
        What is wrong, each at its dotted path within the table.
    text, file : str
        The file that it is about and its name.
    within : str
        Dotted path of the table in the file; "" for the whole file.

    Returns
    -------
    DataFileError
        To raise.

    Examples
    --------
    >>> print(placed([FieldProblem("title", "Say it shorter.")], 'key = "ice"\ntitle = "…"', "own.toml"))
    own.toml, line 2, title: Say it shorter.
    """
    lines = _lines(text)
    return DataFileError(*(_placed(problem, lines, file, within) for problem in problems))


def _placed(problem: FieldProblem, lines: Mapping[str, int], file: str, within: str) -> FieldProblem:
    path = ".".join(step for step in (within, problem.field) if step)
    known = path
    while known and known not in lines:
        known = known.rpartition(".")[0]
    return FieldProblem(path, f"{file}, line {lines.get(known, 1)}, {path or 'file'}: {problem.message}")


def _lines(text: str) -> dict[str, int]:
    """The line, from 1, of every key and table of a TOML text by its dotted path; arrays count from 0.

    One field a line is the house's form: keys inside inline tables stand on the line of their field.
    """
    lines: dict[str, int] = {}
    counts: dict[str, int] = {}
    table = ""
    for line_number, line in enumerate(text.splitlines(), 1):
        if header := _HEADER.match(line):
            parts = header[2].split(".")
            path = ""
            for step, part in enumerate(parts):
                path = f"{path}.{part}" if path else part
                last = step == len(parts) - 1
                if last and header[1] == "[[":
                    lines.setdefault(path, line_number)
                    counts[path] = counts.get(path, -1) + 1
                if path in counts:
                    path = f"{path}.{counts[path]}"
            table = path
            lines.setdefault(path, line_number)
        elif key := _KEY.match(line):
            lines.setdefault(f"{table}.{key[1]}" if table else key[1], line_number)
    return lines
