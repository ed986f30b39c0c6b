"""Points of the figure over the wire."""

from __future__ import annotations

from typing import Annotated

from pydantic import BaseModel as Schema
from pydantic import Field

from jungoptic.app.base.schemas import Seen
from jungoptic.core.quantities import YesNo
from jungoptic.core.vocabulary import Verdict

Share = Annotated[float, Field(ge=-1, le=2)]
"""Of the photograph's width or height: what is animated also comes in from outside."""
Ease = Annotated[float, Field(ge=0, le=1)]
MOST_HOLD = 96
Hold = Annotated[int, Field(ge=1, le=MOST_HOLD)]
PointName = Annotated[str, Field(min_length=1, max_length=60)]


class PointKey(Schema):
    """Where a point is planned to be at a frame of the shot, shares of the photograph; over which share of
    the time to the next key it gathers speed (``eases_out``), and of that from the one before it slows down.
    """

    frame: Annotated[int, Field(ge=1, le=100_000)]
    x: Share
    y: Share
    eases_in: Ease = 0.0
    eases_out: Ease = 0.0


class PointSeenOut(Schema):
    """Where a point is seen in an exposure, shares of it; ``marked`` by hand, or found again."""

    exposure_id: int
    x: float
    y: float
    marked: bool


class SlideOut(Schema):
    """By how much a foot slid while it had to stand, delivered px and mm of the set; null where it is seen
    at fewer than two poses.
    """

    first: int
    last: int
    px: float | None
    mm: float | None
    verdict: Verdict | None


class PointStepOut(Schema):
    """How far a point goes next: to the pose at which place, from where it is seen if it is, delivered px,
    and that in words.
    """

    place: int
    px: float
    text: str


class FigurePointOut(Schema):
    """A point of the figure. ``places`` is where it is planned to be at each pose, shares of the photograph,
    empty where nothing is planned; ``strobing`` are the places in the sheet of poses to which it goes too
    far; ``fastest_px`` its longest step, delivered.
    """

    id: int
    name: str
    arcs: bool
    keys: list[PointKey]
    planted: list[list[int]]
    places: list[list[float]]
    seen: list[PointSeenOut]
    fastest_px: float | None
    strobing: list[int]
    slides: list[SlideOut]
    next: PointStepOut | None
    version: int


FrameOfShot = Annotated[int, Field(ge=1, le=100_000)]
Span = Annotated[list[FrameOfShot], Field(min_length=2, max_length=2)]
PointKeys = Annotated[list[PointKey], Field(max_length=400)]
Spans = Annotated[list[Span], Field(max_length=200)]


class FigurePointIn(Seen):
    """A point of the figure; the sheet's version is seen."""

    name: PointName


class SettleIn(Schema):
    """A path goes beyond its last key by so many delivered px, and rests after so many poses, each held for
    so many frames.
    """

    reach_px: Annotated[float, Field(gt=0, le=400)]
    poses: Annotated[int, Field(ge=2, le=24)]
    on: Hold = 2


class WalkIn(Schema):
    """A foot walks from where its first key is, delivered px: all keys and all times at which it stands are
    written anew.
    """

    begins: FrameOfShot
    step_frames: Annotated[int, Field(ge=2, le=240)]
    steps: Annotated[int, Field(ge=1, le=100)]
    right_px: Annotated[float, Field(ge=-2000, le=2000)]
    down_px: Annotated[float, Field(ge=-2000, le=2000)] = 0.0
    lift_px: Annotated[float, Field(ge=0, le=1000)] = 0.0
    leads: YesNo = True


class FigurePointChange(Seen):
    """What of a point is another now; what is not sent stays. ``settle`` and ``walk`` write its keys."""

    name: PointName | None = None
    arcs: YesNo | None = None
    keys: PointKeys | None = None
    planted: Spans | None = None
    settle: SettleIn | None = None
    walk: WalkIn | None = None
    removed: YesNo | None = None


class PointPlaceIn(Seen):
    """Where a point is seen in an exposure, shares of it; the point's version is seen."""

    exposure_id: int
    x: Share
    y: Share
