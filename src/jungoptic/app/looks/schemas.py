"""Looks over the wire."""

from __future__ import annotations

from typing import Any

from pydantic import BaseModel as Schema

from jungoptic.core.breakdown import Outline


class ShelfOutline(Outline):
    """An outline of the shelf, by its name."""

    name: str


class LookFields(Schema):
    """Fields of a layer that give it a look, to be saved as any change of it is: its parts, and its size
    where that is the thing's own.
    """

    title: str
    fields: dict[str, Any]


class PartsOut(Schema):
    """Parts of a layer as they stand, fields of core's Part."""

    parts: list[dict[str, Any]]
