"""The kit over the wire."""

from __future__ import annotations

from pydantic import BaseModel as Schema


class SheetOut(Schema):
    """A coloured sheet that the kit has; None where nobody has said."""

    id: int
    name: str
    colour: str
    width_m: float | None
    height_m: float | None
    reflectance: float | None


class DiffusionOut(Schema):
    """A frame of diffusion, and what it takes."""

    id: int
    name: str
    stops: float


class LampOut(Schema):
    """A lamp that the kit has."""

    id: int
    name: str
    intensity_cd: float
    beam_deg: float


class OnSetOut(Schema):
    """What the kit has to light with; ``references``: the balls, charts and tape that there are."""

    lamps: list[LampOut]
    sheets: list[SheetOut]
    diffusion: list[DiffusionOut]
    references: list[str]
