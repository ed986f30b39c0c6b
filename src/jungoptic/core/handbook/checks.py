"""Check values: for every calculation at least one worked example against something outside the project.

The tests hold the calculations to them, the documentation prints them, and a card starts from the first of
its own. They stand in their data file.
"""

from __future__ import annotations

from importlib.resources import files
from typing import Annotated, Any, Literal

from pydantic import Field

from .. import data_file
from ..quantities import Record

__all__ = ["CHECKS", "Check"]

_FILE = "checks.toml"


class Check(Record):
    """Inputs, what must come out (value and tolerance by path, lists by index: ``rows.0.height_px``), and
    whose value it is.
    """

    kind: Literal["published", "practice", "derived"]
    source: Annotated[str, Field(min_length=1)]
    inputs: dict[str, Any]
    expected: Annotated[dict[str, tuple[Any, float]], Field(min_length=1)]


def _read(text: str) -> dict[str, tuple[Check, ...]]:
    return {
        name: tuple(
            data_file.record(Check, row, text, _FILE, within=f"{name}.{index}")
            for index, row in enumerate(rows)
        )
        for name, rows in data_file.tables(text, _FILE).items()
    }


CHECKS = _read(files(__package__).joinpath(_FILE).read_text("utf-8"))
