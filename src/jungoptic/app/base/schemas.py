"""What goes over the wire everywhere. The TypeScript types are generated from the rooms' schemas."""

from __future__ import annotations

from typing import Any, Literal

from pydantic import BaseModel as Schema

School = Literal["measured", "covered"]


Units = Literal["metric", "imperial"]


Theme = Literal["stage", "daylight"]


Verdict = Literal["holds", "tight", "shows"]


Role = Literal["supervisor", "crew", "guest"]


Basis = Literal["planned", "shot"]


Points = list[list[float]]


Changes = dict[str, Any]


class ProblemOut(Schema):
    field: str
    message: str


class Problems(Schema):
    problems: list[ProblemOut]


class Removed(Schema):
    """Take something out of the production, or bring it back."""

    removed: bool


class TakenIn(Schema):
    new: int
    changed: int
