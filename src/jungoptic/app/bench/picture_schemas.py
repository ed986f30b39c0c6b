"""Pictures of layers over the wire: what is read off them, and what stands on their ground."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel as Schema
from pydantic import Field

from jungoptic.app.base.schemas import Points


class PictureOut(Schema):
    """The picture of a layer, as wide and high as it came."""

    id: int
    name: str
    width_px: int
    height_px: int


class ReadOut(Schema):
    """An amount read off a picture, for a field of its layer; 95 of 100 readings lie ``within`` of it. Both
    rounded to what that leaves.
    """

    field: str
    amount: float
    within: float


class AmountOut(Schema):
    """An amount, and within what it lies in 95 of 100 readings."""

    amount: float
    within: float


class StandsOut(Schema):
    """Where a thing stands on the ground of a picture: metres ahead of the lens, to its right, over the
    ground; and how high it is, where a mark tells that.
    """

    ahead_m: AmountOut
    aside_m: AmountOut
    distance_m: AmountOut
    height_m: AmountOut | None = None


class GroundLineOut(Schema):
    """A line on the ground, so many metres ahead or aside; its ends in metres and its points in px of the
    picture.
    """

    metres: float
    axis: Literal["ahead", "aside"]
    ends_m: Points
    points: Points


class ReadingOut(Schema):
    """What is drawn on a picture tells, what it does not, where its horizon lies and within how much, px of
    the picture; what stands where, mark by mark; the ground in round metres.
    """

    read: list[ReadOut]
    wants: list[str]
    horizon_px: Points | None
    horizon_within_px: float
    stands: list[StandsOut | None]
    ground: list[GroundLineOut]


class CutPictureOut(Schema):
    """How a picture is cut out by a colour: which, up to which share of it something stays, from which it is
    gone.
    """

    colour: str
    keeps: float
    clears: float


class HeroFieldOut(Schema):
    """A field of the hero's set-up beside what the photograph tells of it; what would be written into it."""

    field: str
    read: AmountOut | None
    has: float | None
    written: float | None
    by_sun: bool


class PhotographOut(Schema):
    """The hero's photograph beside the hero's lens: angles of view across, the focal length that sees as much
    as the photograph on the hero's gate, and where the delivered frame lies in it (left, top, right, bottom,
    px of the picture).
    """

    view_deg: float
    lens_view_deg: float
    same_lens: bool
    fits_mm: float
    fields: list[HeroFieldOut]
    frame_px: list[float]


class GroundIn(Schema):
    """A place of the delivered frame, px from its top left."""

    x_px: float = Field(ge=-1e5, le=1e5, allow_inf_nan=False)
    y_px: float = Field(ge=-1e5, le=1e5, allow_inf_nan=False)
    frame: int = Field(0, ge=0, le=1_000_000)


class GroundOut(Schema):
    """Where on the ground that is: metres from the hero's lens and to the right of its axis."""

    near_m: float
    offset_m: float
