"""Recordings that lie beside a sheet or beneath it, over the wire."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import BaseModel as Schema
from pydantic import Field

from jungoptic.app.base.schemas import Seen
from jungoptic.core.plan import LaidAs
from jungoptic.core.quantities import YesNo

Use = Literal["performance", "plate", "layer"]
ClipFrame = Annotated[int, Field(ge=1, le=1_000_000)]


class FilmOut(Schema):
    """A recording that is seen with a sheet: its frame ``first_frame``, from 1, stands at the shot's first;
    ``frames`` of it there are, at ``rate_fps``, each ``aspect`` as wide as it is high; its strip has one for
    ``strip_every``.
    """

    recording_id: int
    name: str
    first_frame: int
    frames: int
    rate_fps: float
    strip_every: int
    aspect: float


class SheetClipOut(FilmOut):
    """A recording beside a sheet (a stand-in's performance) or beneath it (the live plate)."""

    id: int
    use: Use
    version: int


class LayerFilmOut(FilmOut):
    """A take of another layer: its best, unless somebody said another or where it begins."""

    clip_id: int | None
    version: int | None


class LayerPoseOut(Schema):
    """A photograph of another layer that is made frame by frame: from which frame of the shot, how long."""

    frame: int
    hold: int
    exposure_id: int


class LayerBesideOut(Schema):
    """Another layer of the shot: ``poses`` of its own sheet, or a film. Its photographs lie at ``laid_px`` of
    the delivered frame (left, top, width, height); how it is laid over what is behind it, its ``sheet`` of
    green or blue where it is keyed.
    """

    layer_id: int
    name: str
    in_front: bool
    laid: LaidAs
    sheet: Literal["", "green", "blue"]
    laid_px: list[float]
    poses: list[LayerPoseOut]
    clip: LayerFilmOut | None


class ClipChoiceOut(Schema):
    """A recording of the production that can lie there."""

    recording_id: int
    name: str
    frames: int


class SheetClipIn(Seen):
    """Lay a recording beside a sheet or beneath it, or say which take of another layer is seen; the sheet's
    version is seen.
    """

    use: Use
    recording_id: int
    first_frame: ClipFrame = 1


class SheetClipChange(Seen):
    """Which recording lies there, from which frame on; take it away."""

    recording_id: int | None = None
    first_frame: ClipFrame | None = None
    removed: YesNo | None = None
