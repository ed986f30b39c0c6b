"""A photograph's tags over the wire."""

from __future__ import annotations

from pydantic import BaseModel as Schema


class TagsOut(Schema):
    """``left_out``: tags that make no sense, in words."""

    width_px: int
    height_px: int
    camera: str
    lens: str
    focal_length_mm: float | None
    equivalent_mm: float | None
    gate_width_mm: float | None
    gate_height_mm: float | None
    gate_off_mm: float | None
    gate_how: str
    built_in: bool
    f_number: float | None
    exposure_s: float | None
    iso: float | None
    taken_at: str | None
    latitude_deg: float | None
    longitude_deg: float | None
    left_out: list[str]
