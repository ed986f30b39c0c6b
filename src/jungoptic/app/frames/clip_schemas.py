"""Recordings that lie beside a sheet or beneath it, over the wire."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import BaseModel as Schema
from pydantic import Field

from jungoptic.app.base.schemas import Seen
from jungoptic.core.quantities import YesNo

Use = Literal["performance", "plate"]
ClipFrame = Annotated[int, Field(ge=1, le=1_000_000)]


class SheetClipOut(Schema):
    """A recording beside a sheet (a stand-in's performance) or beneath it (the live plate): its frame
    ``first_frame``, from 1, stands at the shot's first; ``frames`` of it there are, at ``rate_fps``, each
    ``aspect`` as wide as it is high; its strip has one for ``strip_every``.
    """

    id: int
    use: Use
    recording_id: int
    name: str
    first_frame: int
    frames: int
    rate_fps: float
    strip_every: int
    aspect: float
    version: int


class ClipChoiceOut(Schema):
    """A recording of the production that can lie there."""

    recording_id: int
    name: str
    frames: int


class SheetClipIn(Seen):
    """Lay a recording beside a sheet or beneath it; the sheet's version is seen."""

    use: Use
    recording_id: int
    first_frame: ClipFrame = 1


class SheetClipChange(Seen):
    """Which recording lies there, from which frame on; take it away."""

    recording_id: int | None = None
    first_frame: ClipFrame | None = None
    removed: YesNo | None = None
