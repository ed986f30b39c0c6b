"""Stock over the wire."""

from __future__ import annotations

from pydantic import BaseModel as Schema
from pydantic import Field

from jungoptic.app.base.schemas import Seen
from jungoptic.core.breakdown import Aspect
from jungoptic.core.vocabulary import Verdict


class FitOut(Schema):
    name: str
    verdict: Verdict
    mirrored: bool
    unknown: list[str]
    aspects: list[Aspect]


class ReuseOut(Schema):
    layer_id: int
    layer: str
    fits: list[FitOut]


class StockValues(Schema):
    name: str = Field(max_length=200)
    note: str = Field("", max_length=2000)
    width_px: int | None = None
    fps: float | None = None
    view_deg: float | None = None
    camera_height_m: float | None = None
    key_azimuth_deg: float | None = None
    key_elevation_deg: float | None = None


class StockOut(StockValues):
    id: int
    version: int


class NewStock(StockValues, Seen):
    pass
