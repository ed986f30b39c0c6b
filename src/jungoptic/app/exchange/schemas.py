"""Files of shots over the wire."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel as Schema
from pydantic import Field

from jungoptic.app.base.schemas import Seen


class FileIn(Schema):
    name: str = Field("", max_length=200)
    text: str = Field(max_length=6_000_000)
    kind: Literal["", "csv", "fountain", "otio", "edl", "lines"] = ""


class TakeFileIn(FileIn, Seen):
    pass


class FaultOut(Schema):
    line: int
    column: str
    message: str


class CandidateOut(Schema):
    line: int
    code: str
    title: str
    description: str
    length_frames: int | None
    place: str
    state: Literal["new", "changed", "same"]
    changes: list[str]


class PreviewOut(Schema):
    kind: str
    rows: list[CandidateOut]
    more: int
    new: int
    changed: int
    same: int
    faults: list[FaultOut]
    more_faults: int
    notes: list[str]


class TakenIn(Schema):
    new: int
    changed: int
