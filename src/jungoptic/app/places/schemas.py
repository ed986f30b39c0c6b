"""Places over the wire."""

from __future__ import annotations

from pydantic import BaseModel as Schema
from pydantic import Field


class ContinuityShot(Schema):
    id: int
    code: str
    title: str
    has: list[bool]
    carries: list[str]


class PlaceOut(Schema):
    id: int
    version: int
    name: str
    recurring: list[str]
    cautions: list[str]
    shots: list[ContinuityShot]


class PlaceIn(Schema):
    version: int = 0
    name: str = Field(max_length=200)
    recurring: list[str] = Field([], max_length=60)
    cautions: list[str] = Field([], max_length=40)
