"""A production and how it is judged, over the wire."""

from __future__ import annotations

from pydantic import BaseModel as Schema

from jungoptic.app.base.schemas import Role, Seen
from jungoptic.core.quantities import YesNo


class ProductionOut(Schema):
    id: int
    version: int
    title: str
    slug: str
    role: Role
    delivery_width_px: int
    delivery_height_px: int
    frame_rate_fps: float
    rate: str
    put_away: bool
    shots: int


class ToleranceRow(Schema):
    item: str
    label: str
    unit: str
    holds: float
    tight: float
    default_holds: float
    default_tight: float


class JudgingOut(Schema):
    """How a production is judged: its finish, its errors of placing, and the tolerances it changed."""

    version: int
    black_and_white: bool
    soften_px: float
    grain_added: float
    shows_models: bool
    tape_error_m: float
    level_error_deg: float
    tolerances: list[ToleranceRow]


class ToleranceIn(Schema):
    """None puts the default back."""

    holds: float | None = None
    tight: float | None = None


class JudgingIn(Seen):
    black_and_white: YesNo | None = None
    soften_px: float | None = None
    grain_added: float | None = None
    shows_models: YesNo | None = None
    tape_error_m: float | None = None
    level_error_deg: float | None = None
    tolerances: dict[str, ToleranceIn] = {}
