"""Papers over the wire."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel as Schema

from jungoptic.app.base.schemas import School, Seen, Units


class CardIn(Seen):
    """``version`` is that of the shot, of the production for the book."""

    paper: Literal["a4", "letter"] = "a4"
    units: Units = "metric"
    school: School = "measured"


class CardOut(Schema):
    id: int
    version: int
    paper: str
    state: Literal["waiting", "working", "ready", "stopped", "failed"]
    progress: int
    message: str
