"""Line-up over the wire."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel as Schema
from pydantic import Field

from jungoptic.app.base.schemas import Points
from jungoptic.core.stage import LiveFault
from jungoptic.core.vocabulary import School, Units, Verdict


class GridLineOut(Schema):
    """A line on the ground, as the hero wants it, delivered px: how far ahead of the lens or aside of it, in
    words, full size and in the set.
    """

    axis: Literal["ahead", "aside"]
    text: str
    in_set: str
    points: Points


class PlannedOut(Schema):
    """Something that the camera is set to, as planned."""

    label: str
    text: str


class LiveFaultOut(Schema):
    """A fault of the simulated camera, and whether it has it as a rule."""

    key: LiveFault
    name: str
    usual: bool


class LineUpOut(Schema):
    """A layer's camera as planned, and what is drawn over its live picture. ``gate`` is where its whole
    recorded picture lies in the delivered frame: left, top, width, height; ``moved_px`` by how much the
    composite moves it, to the right and down; the horizon, its two ends; ``mask_mm`` how wide a monitor's
    picture is at least and at most.
    """

    shot_id: int
    production_id: int
    code: str
    layer: str
    role: str
    gate: list[float]
    moved_px: list[float]
    horizon: Points
    ground: list[GridLineOut]
    planned: list[PlannedOut]
    tilt_deg: float
    roll_deg: float
    heading_deg: float
    scale: float
    distance_m: float
    zooms: bool
    mask_mm: list[float]
    faults: list[LiveFaultOut]


class LiveQuery(Schema):
    """How the simulated camera stands off its plan, which picture it is, which faults it has, and the picture
    that it is held against.
    """

    pan: float = Field(0.0, ge=-20, le=20)
    tilt: float = Field(0.0, ge=-20, le=20)
    roll: float = Field(0.0, ge=-20, le=20)
    zoom: float = Field(0.0, ge=-0.5, le=0.5)
    aside: float = Field(0.0, ge=-20, le=20)
    up: float = Field(0.0, ge=-20, le=20)
    forward: float = Field(0.0, ge=-20, le=20)
    number: int = Field(0, ge=0, le=100_000_000)
    width: int = Field(640, ge=160, le=1280)
    faults: str = Field("", max_length=120)
    against: int | None = None
    units: Units = "metric"
    school: School = "measured"


class TurnOut(Schema):
    """A dial to be turned: what to do, and by how many px of the delivered frame it is off."""

    dial: str
    label: str
    to_do: str
    px: float


class LinedUpOut(Schema):
    """A live picture against the one that it should be, delivered px; ``nothing`` says why it cannot be
    measured, and then there are no numbers.
    """

    nothing: str = ""
    shift_px: list[float] = []
    within_px: float | None = None
    turn_deg: float | None = None
    size_pct: float | None = None
    off_px: float | None = None
    rest_px: float | None = None
    points: int = 0
    followed: int = 0
    verdict: Verdict | None = None
    place: float | None = None
    holds_px: float | None = None
    turns: list[TurnOut] = []


class LiveOut(Schema):
    """A picture of the simulated camera, a JPEG in base64, and what was measured of it."""

    picture: str
    measured: LinedUpOut | None
