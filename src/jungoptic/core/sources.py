"""Every published source, practice and judgement that a formula or a limit leans on, by key.

They stand in their data file.
"""

from __future__ import annotations

from importlib.resources import files
from typing import Annotated, Literal

from pydantic import Field

from . import data_file
from .quantities import Record

__all__ = ["SOURCES", "Source", "source"]

_FILE = "sources.toml"
_TRUST = {
    "published": "Published",
    "practice": "Common practice",
    "judgement": "Our judgement; change it if your eye says otherwise",
    "derived": "Follows from geometry",
}


class Source(Record):
    """Where a rule comes from. ``from_memory`` marks a published value that was not looked up."""

    key: str
    kind: Literal["published", "practice", "judgement", "derived"]
    title: Annotated[str, Field(min_length=1)]
    note: str = ""
    from_memory: bool = False

    @property
    def trust(self) -> str:
        """How far it can be leaned on, in words."""
        return _TRUST[self.kind] + (" (quoted from memory)" if self.from_memory else "")


def _read(text: str) -> dict[str, Source]:
    return {
        key: data_file.record(Source, {"key": key, **row}, text, _FILE, within=key)
        for key, row in data_file.tables(text, _FILE).items()
    }


SOURCES = _read(files(__package__).joinpath(_FILE).read_text("utf-8"))


def source(key: str) -> Source:
    """The source of a key.

    Parameters
    ----------
    key : str
        As a formula cites it.

    Returns
    -------
    Source
        Title, kind and what else is said of it.

    Raises
    ------
    KeyError
        If there is none: a fault in the formula that cites it.

    Examples
    --------
    >>> source("airy").trust
    'Published'
    """
    return SOURCES[key]
