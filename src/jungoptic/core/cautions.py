"""The usual cautions of practical work, by key, from their data file.

They never say how to make a hazard, only what it is and whom to ask. Kind: common practice. Local codes and
licensed practice come first.
"""

from __future__ import annotations

from collections.abc import Iterable
from importlib.resources import files
from typing import Annotated

from pydantic import Field

from . import data_file
from .errors import FieldProblem
from .quantities import Record

__all__ = ["CAUTIONS", "DEFERENCE", "Caution", "read"]

DEFERENCE = "Local codes and licensed practice come first. These are reminders, not instructions."

_Text = Annotated[str, Field(min_length=1, max_length=600)]


_Word = Annotated[str, Field(min_length=2, max_length=40)]


class Caution(Record):
    """One hazard: what can go wrong, who must be asked, and a safer way that looks the same; ``words`` of a
    shot's own text that raise it.
    """

    key: str
    title: _Text
    text: _Text
    ask: _Text
    safer: _Text
    words: tuple[_Word, ...] = ()


def read(text: str, file: str, taken: Iterable[str] = ()) -> dict[str, Caution]:
    """Cautions from the text of a data file: one table each, named by its key.

    Parameters
    ----------
    text : str
        TOML; the fields of each table are those of :class:`Caution`.
    file : str
        The file's name, for what is said of it.
    taken : iterable of str
        Keys of the cautions that there are: a key can be used once.

    Returns
    -------
    dict of str to Caution
        In the order of the file.

    Raises
    ------
    DataFileError
        Every field at fault, with file, line and field.

    Examples
    --------
    >>> ice = '''
    ... [ice]
    ... title = "Thin ice"
    ... text = "Ice that carries one person does not carry a crew."
    ... ask = "The keeper of the lake."
    ... safer = "A floor of board, with the ice laid in."
    ... '''
    >>> read(ice, "own.toml")["ice"].title
    'Thin ice'
    """
    known, cautions = set(taken), dict[str, Caution]()
    for key, values in data_file.tables(text, file).items():
        if not isinstance(values, dict):
            raise data_file.placed([FieldProblem(key, f"Write [{key}] above its fields.")], text, file)
        if key in known:
            raise data_file.placed([FieldProblem(key, "There is a caution of that key already.")], text, file)
        cautions[key] = data_file.record(Caution, {"key": key, **values}, text, file, within=key)
    return cautions


CAUTIONS = read(files(__package__).joinpath("cautions.toml").read_text("utf-8"), "cautions.toml")
