"""What was moved so that a hand reaches, over the wire."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import BaseModel as Schema
from pydantic import Field

from jungoptic.app.base.schemas import Seen
from jungoptic.app.frames.point_schemas import FrameOfShot
from jungoptic.core.frames import Cheated
from jungoptic.core.quantities import YesNo
from jungoptic.core.vocabulary import Verdict

CheatName = Annotated[str, Field(min_length=1, max_length=60)]
Millimetres = Annotated[float, Field(ge=-20_000, le=20_000)]
Level = Annotated[float, Field(ge=0, le=1)]
CheatNote = Annotated[str, Field(max_length=80)]


class LampHeldOut(Schema):
    """What keeps a lamp's light as it was: its level where it is now, and where it stands as far off on its
    own ray, mm from where it is planned.
    """

    level: float
    right_mm: float
    up_mm: float
    back_mm: float


class CheatSeenOut(Schema):
    """What the photograph at which a cheat begins says against the one before it: ``place`` in the sheet, how
    much lighter, stops, and the third that departs most.
    """

    place: int
    stops: float
    side: str
    side_stops: float


class SheetCheatOut(Schema):
    """Something that stands elsewhere than planned, or is ``away``, from a frame of the shot to another, null
    for its end; mm of the set to the right, up and back; a lamp's ``level`` meanwhile, null as planned.
    ``text`` is what it comes to by itself.
    """

    id: int
    kind: Cheated
    name: str
    first_frame: int
    last_frame: int | None
    right_mm: float
    up_mm: float
    back_mm: float
    away: bool
    level: float | None
    note: str
    text: str
    held: LampHeldOut | None
    seen: CheatSeenOut | None
    version: int


class CheatLineOut(Schema):
    """What all cheats together come to: against the plate, in the shot, across the cut before or after."""

    where: Literal["plate", "shot", "before", "after"]
    frame: int
    text: str
    verdict: Verdict


class SheetCheatsOut(Schema):
    """The cheats of a sheet, what they come to, the lamps of its set-up, and which shots it is cut to that
    are set in the same place.
    """

    cheats: list[SheetCheatOut]
    lines: list[CheatLineOut]
    lamps: list[str]
    cut_to: list[str]


class SheetCheatIn(Seen):
    """Something that was moved, or is away; the sheet's version is seen."""

    kind: Cheated
    name: CheatName
    first_frame: FrameOfShot = 1


class SheetCheatChange(Seen):
    """What of a cheat is another now; what is not sent stays. ``to_end`` says that it has no last frame any
    more, ``as_planned`` that it has no level of its own.
    """

    kind: Cheated | None = None
    name: CheatName | None = None
    first_frame: FrameOfShot | None = None
    last_frame: FrameOfShot | None = None
    to_end: YesNo | None = None
    right_mm: Millimetres | None = None
    up_mm: Millimetres | None = None
    back_mm: Millimetres | None = None
    away: YesNo | None = None
    level: Level | None = None
    as_planned: YesNo | None = None
    note: CheatNote | None = None
    removed: YesNo | None = None
