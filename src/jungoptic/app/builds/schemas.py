"""Sets in plan over the wire."""

from __future__ import annotations

from typing import Any

from pydantic import BaseModel as Schema
from pydantic import Field

from jungoptic.app.base.schemas import Points, Seen
from jungoptic.core.handbook import CardField
from jungoptic.core.quantities import YesNo
from jungoptic.core.vocabulary import Made


class BuildName(Schema):
    id: int
    version: int
    name: str
    place: str
    pieces: int
    views: int


class NewBuild(Seen):
    name: str = Field(max_length=200)


class PieceOut(Schema):
    name: str
    x_m: float
    z_m: float
    turn_deg: float
    width_m: float
    height_m: float
    base_m: float
    lies: bool
    made: Made
    wheels: bool
    corners: Points
    seen: list[Points]
    seen_m2: float
    whole_m2: float
    made_box: list[float] | None
    made_m2: float
    by: list[str]
    finest_text: str
    built: bool
    size_text: str


class ViewOut(Schema):
    id: int
    shot_id: int
    code: str
    x_m: float
    z_m: float
    heading_deg: float
    establishing: bool


class Cone(Schema):
    name: str
    x_m: float
    z_m: float
    heading_deg: float
    half_deg: float
    establishing: bool


class Standing(Schema):
    """As which piece one stands for a view."""

    view: str
    piece: str


class ReusedOut(Schema):
    """A piece that is built once and serves as several."""

    names: list[str]
    saves_m2: float
    stands: list[Standing]


class CutPieceOut(Schema):
    name: str
    sheet: int
    x_mm: float
    y_mm: float
    width_mm: float
    height_mm: float
    turned: bool
    text: str


class BuildOut(Schema):
    id: int
    version: int
    name: str
    scale: float
    spare_pct: float
    width_mm: float
    height_mm: float
    kerf_mm: float
    price: float
    place_id: int | None
    pieces: list[PieceOut]
    lacking: list[str]
    views: list[ViewOut]
    cones: list[Cone]
    reused: list[ReusedOut]
    only_establishing: list[str]
    built_m2: float
    whole_m2: float
    hours: float
    hours_whole: float
    sheets: int
    used: float
    price_all: float
    cuts: list[CutPieceOut]
    piece_fields: list[CardField]
    sheet_fields: list[CardField]


class ViewIn(Schema):
    shot_id: int
    x_m: float = Field(0, allow_inf_nan=False)
    z_m: float = Field(0, allow_inf_nan=False)
    heading_deg: float = Field(0, allow_inf_nan=False)
    establishing: YesNo = False


class BuildIn(Schema):
    version: int
    fields: dict[str, float | str | int | None] = {}
    pieces: list[dict[str, Any]] | None = None
    views: list[ViewIn] | None = None
