"""Recordings that are looked at, over the wire."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Any, Literal

from pydantic import BaseModel as Schema
from pydantic import Field

from jungoptic.app.base.schemas import Points, Role, Seen
from jungoptic.core.vocabulary import Verdict

Finite = Annotated[float, Field(allow_inf_nan=False)]
Share = Annotated[float, Field(ge=0, le=1)]
Place = Annotated[list[Share], Field(min_length=2, max_length=2)]
Pair = Annotated[list[Finite], Field(min_length=2, max_length=2)]
What = Literal[
    "evenness",
    "key",
    "still",
    "change",
    "flicker",
    "grain",
    "edge",
    "movement",
    "seam",
    "patch",
    "matte-hours",
    "ball",
    "grey",
    "photograph",
    "clip",
    "black",
    "light",
    "wobble",
]
MarkKind = Literal[
    "backing",
    "still",
    "edge",
    "grain",
    "light",
    "point",
    "patch",
    "line",
    "zone",
    "mirror",
    "ball",
    "card",
    "chart",
]


class MeasuredAmountOut(Schema):
    """One measured amount; ``error`` is two deviations, null where it is counted."""

    name: str
    title: str
    value: float
    error: float | None
    unit: str


class OverlayOut(Schema):
    """Something drawn over the picture, in shares of the frame."""

    kind: Literal["line", "area", "circle", "point"]
    places: Points
    text: str
    weight: Literal["plain", "faint", "shows"]


class SeriesOut(Schema):
    """One amount over the frames, one value for ``every`` of them; null where there is none."""

    name: str
    title: str
    unit: str
    values: list[float | None]
    every: int = 1


class SpotOut(Schema):
    """Frames to look at."""

    first: int
    last: int
    text: str


class LineToldOut(Schema):
    """What a series does, in a sentence, and what stands out in it."""

    series: str
    says: str
    spots: list[SpotOut]


class FramesMeasuredOut(Schema):
    """What one row came to: ``says`` in words, the amount that judges first. ``frame`` is the one that was
    looked at, ``against_id`` the recording that it was held against.
    """

    id: int | None
    what: What
    says: str
    amounts: list[MeasuredAmountOut]
    assumptions: list[str]
    overlays: list[OverlayOut]
    series: list[SeriesOut]
    lines: list[LineToldOut] = Field(default_factory=list)
    frame: int | None
    against_id: int | None
    by: str
    at: datetime | None


class RushLineOut(Schema):
    """A recording in the list of a shot. ``seen``: it was looked at; ``fault`` is what is wrong with it."""

    recording_id: int
    name: str
    take_id: int
    take_number: int
    circled: bool
    by: str
    picture: str
    seen: bool
    fault: str


class RushLayerOut(Schema):
    """A layer of a shot with its recordings."""

    layer_id: int
    name: str
    kind: str
    set_up_id: int | None
    recordings: list[RushLineOut]


class ComparedOut(Schema):
    """An action held against its clean plate, by itself: the verdict of what shows most, and in words."""

    layer_id: int
    take_id: int
    recording_id: int
    against_id: int
    action: str
    clean: str
    verdict: Verdict
    says: str


class PlateCheckOut(Schema):
    """A plate before the set is struck: why it cannot be had again, and the worst that was measured of its
    take and nobody has decided on; ``left`` how much there is. No verdict: nothing was measured.
    """

    layer_id: int
    name: str
    take_number: int | None
    recording_id: int | None
    loss: str
    filmed: bool
    verdict: Verdict | None
    says: str
    to_do: str
    left: int
    decided: int


class RushesOut(Schema):
    """The footage of a shot. ``waiting``: so many recordings of the production were not looked at yet;
    ``version`` is the production's; ``compared`` is of every layer its newest take
    that was held against a clean plate.
    """

    production_id: int
    shot_id: int
    version: int
    code: str
    title: str
    role: Role
    waiting: int
    layers: list[RushLayerOut]
    compared: list[ComparedOut]
    checks: list[PlateCheckOut]


class DecidedOut(Schema):
    """What was decided of a measured amount."""

    choice: Literal["keep", "mend", "again"]
    way: str
    hours: float | None
    reason: str
    by: str
    at: datetime


class ColumnOut(Schema):
    """An amount of a row on the ladder, beside what was planned and logged of it, in ``unit``; empty where
    nobody did. ``apart`` says that it is off what was foretold by more than both errors; ``kit`` what of the
    kit is worth measuring.
    """

    what: What
    amount: str
    item: str
    label: str
    unit: str
    planned_text: str
    logged_text: str
    measured_text: str
    error_text: str
    verdict: Verdict
    ladder: float
    apart: bool
    points_to: str
    to_do: str
    kit: Literal["", "lens", "noise", "lamp"]
    against_id: int | None
    decided: DecidedOut | None


class MendCostOut(Schema):
    """What a mend makes worse, as an item of the ladder."""

    item: str
    label: str
    amount: float
    unit: str
    verdict: Verdict


class MendOut(Schema):
    """A way to mend it in the composite."""

    way: str
    hours: float
    formula: str
    costs: list[MendCostOut]


class MendsOut(Schema):
    """The ways to mend an amount that does not hold, the least work first; ``pays`` says whether that is no
    more work than shooting again.
    """

    what: What
    amount: str
    mends: list[MendOut]
    pays: bool


class AgainOut(Schema):
    """What filming the set-up again costs, hours of all people together, and when it could be."""

    hours: float
    formula: str
    when: str


class WaysOut(Schema):
    """Keep, mend or shoot again, priced; ``says`` which is less, and where they meet."""

    columns: list[MendsOut]
    again: AgainOut | None
    says: str


class DecisionIn(Seen):
    """What becomes of a measured amount; no choice asks again. ``version`` is the recording's."""

    what: What
    amount: str = Field(max_length=24)
    choice: Literal["", "keep", "mend", "again"]
    way: str = Field("", max_length=120)
    reason: str = Field("", max_length=400)


class MarkOut(Schema):
    """What was marked on the pictures of a set-up."""

    kind: MarkKind
    places: Points


class RushOut(Schema):
    """A recording as it is looked at. ``proxy`` is the address of its film, or of its picture where it is a
    still; ``strip`` that of some of its frames side by side, one for ``strip_every``. ``begins`` is the first
    frame that counts, after its slate; ``colour`` how it was recorded, ``guessed`` what of that
    the file does not say. ``columns`` is the measuring table; ``reference_by`` the rows of a hero's that
    stand for what was logged of its take; ``values`` what brings it to what it was held against;
    ``delivered_px`` how wide all of it is in the delivered frame; ``ends`` the last frame that counts,
    ``counts_said`` whether somebody said which do; ``proposed`` what was found and may be marked.
    """

    recording_id: int
    version: int
    name: str
    fault: str
    kind: Literal["clip", "still", "stills"]
    width_px: int
    height_px: int
    rate_fps: float
    frames: int
    begins: int
    ends: int
    counts_said: bool
    colour: str
    curve: str
    curve_said: dict[str, Any]
    guessed: list[str]
    remarks: list[str]
    proxy: str
    strip: str
    strip_every: int
    set_up_id: int | None
    marks: list[MarkOut]
    proposed: list[MarkOut]
    clip: FramesMeasuredOut | None
    measured: list[FramesMeasuredOut]
    columns: list[ColumnOut]
    values: list[str]
    delivered_px: int
    take_version: int
    is_reference: bool
    reference_by: list[What]


class CountsIn(Seen):
    """Which frames of a recording count, the first and the last; neither is all of it after its slate."""

    first: int | None = Field(None, ge=0)
    last: int | None = Field(None, ge=0)


class ReferenceIn(Seen):
    """Whether what a row of a hero's take tells stands for what was logged. ``version`` is the take's."""

    what: Literal["photograph", "ball"]
    counts: bool = True


class RushesIn(Seen):
    """Look at what was filed and not looked at yet; or at one recording again."""

    recording_id: int | None = None


class MeasureFramesIn(Schema):
    """Measure a row of a recording. ``region`` is left, top, width and height, ``places`` are points, all in
    shares of the frame.
    """

    what: What
    against_id: int | None = None
    frame: int | None = Field(None, ge=0)
    region: list[Share] = Field(default_factory=list, max_length=4)
    places: list[Place] = Field(default_factory=list, max_length=60)
    kind: Literal["", "zone", "grey", "mirror", "chart"] = ""


class CurveIn(Seen):
    """By which curve a recording was made; no name is what the file says."""

    name: Literal["", "bt709", "srgb", "linear", "log", "table"] = ""
    log: list[Finite] = Field(default_factory=list, max_length=5)
    table: list[Pair] = Field(default_factory=list, max_length=4096)


class FrameMarkIn(Schema):
    """What was marked on a picture of a set-up; no places take it away."""

    kind: MarkKind
    places: Points = Field(max_length=60)
