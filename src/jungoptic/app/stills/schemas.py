"""Photographs at the camera over the wire."""

from __future__ import annotations

from datetime import datetime

from pydantic import BaseModel as Schema
from pydantic import Field

from jungoptic.app.base.schemas import Seen
from jungoptic.core.quantities import YesNo
from jungoptic.core.vocabulary import StillOf

MOST_NOTE = 120


class StillOut(Schema):
    """A photograph: of which layer, after which take, what it is kept for."""

    id: int
    layer_id: int
    take_id: int | None
    take_number: int | None
    of: StillOf
    name: str
    note: str
    width_px: int
    height_px: int
    photographed_at: datetime
    by: str
    version: int


class StillOfOut(Schema):
    """Something that a photograph may be kept for."""

    key: StillOf
    name: str


class StillsOut(Schema):
    """The photographs of a shot, newest first, and what one may be kept for."""

    stills: list[StillOut]
    choices: list[StillOfOut]


class StillChange(Seen):
    """What a photograph is of, its note, or that it is taken away; what is not sent stays."""

    of: StillOf | None = None
    note: str | None = Field(None, max_length=MOST_NOTE)
    removed: YesNo | None = None
