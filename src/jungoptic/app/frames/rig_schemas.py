"""Geared rigs over the wire."""

from __future__ import annotations

from typing import Annotated

from pydantic import BaseModel as Schema
from pydantic import Field

from jungoptic.app.base.schemas import Seen
from jungoptic.app.jobs.schemas import JobOut
from jungoptic.core.frames import Carries, Leg
from jungoptic.core.quantities import YesNo


class TurningOut(Schema):
    """How the crank is turned next: for the pose at which place, to which mark, by how many, how far beyond
    it first goes, and that in words.
    """

    place: int
    to: int
    by: int
    beyond: int
    text: str
    stands_text: str


class RigOut(Schema):
    """A geared rig: ``positions`` are the marks at which it stands at each pose, ``off_px`` is the most that
    rounding to marks is off, ``fastest_px`` its longest step, both in the delivered frame (null where that
    is not known); ``next`` is null where it stands as the next pose wants it; ``turn`` is the job that turns
    it now, or that was broken off and left nobody knowing where it stands.
    """

    id: int
    name: str
    carries: Carries
    lead_mm: float
    gears: list[list[int]]
    marks: int
    take_up: int
    legs: list[Leg]
    stands: int
    stands_text: str
    driven: bool
    mm_per_turn: float
    positions: list[int]
    off_px: float | None
    fastest_px: float | None
    strobes: bool
    next: TurningOut | None
    turn: JobOut | None
    version: int


Teeth = Annotated[list[Annotated[int, Field(ge=1, le=1000)]], Field(min_length=2, max_length=2)]
Lead = Annotated[float, Field(gt=0, le=1000)]
Marks = Annotated[int, Field(ge=1, le=400)]
Stands = Annotated[int, Field(ge=-10_000_000, le=10_000_000)]
TakeUp = Annotated[int, Field(ge=0, le=400)]
Gears = Annotated[list[Teeth], Field(max_length=8)]
Legs = Annotated[list[Leg], Field(max_length=40)]
RigName = Annotated[str, Field(min_length=1, max_length=60)]


class RigIn(Seen):
    """A geared rig: the lead of its screw a turn, gears between crank and screw (teeth that drive, teeth that
    are driven), the marks of its crank, by how many it is taken up, the ways that it goes, and what it
    carries: what is animated, or the camera, to the right, up or forward; ``driven`` where a motor turns it.
    """

    name: RigName = "Track"
    carries: Carries = "figure"
    lead_mm: Lead = 1.0
    gears: Gears = []
    marks: Marks = 10
    take_up: TakeUp = 5
    legs: Legs = []
    driven: YesNo = False


class RigChange(Seen):
    """What of a rig is another now; what is not sent stays."""

    name: RigName | None = None
    carries: Carries | None = None
    lead_mm: Lead | None = None
    gears: Gears | None = None
    marks: Marks | None = None
    take_up: TakeUp | None = None
    legs: Legs | None = None
    stands: Stands | None = None
    driven: YesNo | None = None
    removed: YesNo | None = None


class TurnIn(Seen):
    """Have a rig's motor turn its crank to a count of marks."""

    to: Stands
