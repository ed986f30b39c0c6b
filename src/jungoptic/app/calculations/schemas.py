"""The handbook over the wire."""

from __future__ import annotations

from typing import Any, Literal

from pydantic import BaseModel as Schema
from pydantic import Field

from jungoptic.core.handbook import CardField


class SourceOut(Schema):
    key: str
    kind: Literal["published", "practice", "judgement", "derived"]
    title: str
    note: str
    trust: str


class OutputOut(Schema):
    name: str
    title: str
    unit: str
    help: str
    kind: str


class CalculationLine(Schema):
    name: str
    question: str
    moment: str


class CalculationOut(CalculationLine):
    formula: str
    sources: list[SourceOut]
    fields: list[CardField]
    outputs: list[OutputOut]
    example: dict[str, Any]
    checks: list[str]


class AroundIn(Schema):
    values: dict[str, Any]
    field: str
    points: int = Field(13, ge=3, le=81)


class AroundRow(Schema):
    value: float
    outputs: dict[str, Any] | None


class AxisOut(Schema):
    """One input, and the values of it that were worked out, in the order of its barrel."""

    field: str
    values: list[bool | float | str]


class CrossingOut(Schema):
    """A card's answers at every crossing of some inputs, the last one running fastest, while the others stay
    where they stood; null where the calculation refuses.
    """

    axes: list[AxisOut]
    outputs: dict[str, list[Any]]


class FillOut(Schema):
    """What the open shot knows of a card's fields, and which set-up its answer could go back to."""

    values: dict[str, Any]
    layer_id: int
    layer_name: str
    set_up_id: int | None
    set_up_version: int | None
    settable: list[str]
