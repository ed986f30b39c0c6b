"""The kit over the wire."""

from __future__ import annotations

from pydantic import BaseModel as Schema


class LampOut(Schema):
    """A lamp that the kit has."""

    id: int
    name: str
    intensity_cd: float
    beam_deg: float
