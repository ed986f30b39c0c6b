"""Places over the wire."""

from __future__ import annotations

from pydantic import BaseModel as Schema
from pydantic import Field

from jungoptic.app.base.schemas import Seen


class ContinuityShot(Schema):
    id: int
    version: int
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


class PlaceIn(Seen):
    name: str = Field(max_length=200)
    recurring: list[str] = Field([], max_length=60)
    cautions: list[str] = Field([], max_length=40)
