"""Frames over the wire."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Literal

from pydantic import AfterValidator, Field
from pydantic import BaseModel as Schema

from jungoptic.app.base.schemas import Role, Seen
from jungoptic.app.frames.cheat_schemas import SheetCheatsOut
from jungoptic.app.frames.clip_schemas import ClipChoiceOut, LayerBesideOut, SheetClipOut
from jungoptic.app.frames.hyper_schemas import HyperlapseOut
from jungoptic.app.frames.models import MOST_TEXT
from jungoptic.app.frames.point_schemas import FigurePointOut, Hold
from jungoptic.app.frames.rig_schemas import RigOut
from jungoptic.core.frames import Carries, Leg
from jungoptic.core.quantities import YesNo
from jungoptic.core.vocabulary import Verdict

MOST_PASSES = 6
Text = Annotated[str, Field(max_length=MOST_TEXT)]


class WarnedOut(Schema):
    """Something to look at before the next move: ``amount`` is null where nothing could be compared."""

    what: str
    since: Literal["last", "first"]
    amount: float | None
    unit: str
    verdict: Verdict
    text: str
    box: list[float] | None


class AgainstOut(Schema):
    """A frame against another, delivered px, degrees and stops; ``goes_px`` is how far the camera's own way
    takes the picture, off which the camera is told, ``went_share`` which share of that it went, and ``went``
    how it went for each px planned: right, down, turned, larger.
    """

    camera_px: float
    camera_off_px: float
    right_px: float
    down_px: float
    turn_deg: float
    stops: float
    stops_off: float
    side: str
    side_stops: float
    softer_px: float | None
    differs: list[list[float]]
    goes_px: float = 0.0
    went_share: float | None = None
    went: list[float] | None = None


class WatchedOut(Schema):
    """What was measured of a frame when it came, and what there was to say."""

    last: AgainstOut | None
    first: AgainstOut | None
    warnings: list[WarnedOut]


class ExposureOut(Schema):
    """One photograph of a pose, of which of the sheet's passes."""

    id: int
    pose_id: int
    light_pass: int
    width_px: int
    height_px: int
    taken_at: datetime
    by: str
    chosen: bool
    watched: WatchedOut | None
    version: int


class PoseOut(Schema):
    """A line of the exposure sheet; ``frame`` is the first of the shot at which it is shown, ``block`` the
    place of the first pose of its block.
    """

    id: int
    place: int
    frame: int
    block: int
    hold: int
    key: bool
    begins_block: bool
    figure: str
    camera: str
    light: str
    mouth: str
    note: str
    version: int


class SetPieceOut(Schema):
    """Something of the set that has to stand, and its box: left, top, right, bottom, shares of the frame."""

    id: int
    name: str
    box: list[float]
    version: int


class DeskCautionOut(Schema):
    """What can hurt whoever animates, and a safer way."""

    title: str
    text: str
    safer: str


class PaceOut(Schema):
    """How fast frames really come, breaks left out, and what is still to come at that pace."""

    frame_s: float
    s_per_hour: float
    lately_s_per_hour: float | None
    worked_h: float
    left_h: float


class StretchOut(Schema):
    """The last stretch of work without a break: when its first frame was taken, and when it is over unless
    another comes; seconds since 1970.
    """

    began_s: float
    over_s: float


class ExposureSheetOut(Schema):
    """An exposure sheet with its lines and every exposure that was not taken away; ``room_frames`` more fit
    on the server's disk, null where nobody can say. ``gate_px`` is how large its photographs are in the
    delivered frame, ``mm_px`` how many delivered px a millimetre of the set is, null where nothing is filmed.
    ``hyperlapse`` is null where it is not of one. ``films`` are recordings that could lie beside it.
    """

    id: int
    version: int
    layer_id: int
    layer: str
    shot_id: int
    production_id: int
    code: str
    title: str
    role: Role
    rate_fps: float
    length_frames: int
    delivery_width_px: int
    delivery_height_px: int
    aspect: float
    passes: list[str]
    passes_alternate: bool
    poses: list[PoseOut]
    exposures: list[ExposureOut]
    pace: PaceOut | None
    stretch: StretchOut | None
    rigs: list[RigOut]
    plate_leg: Leg | None
    plate_carries: Carries | None
    pieces: list[SetPieceOut]
    points: list[FigurePointOut]
    gate_px: list[float]
    mm_px: float | None
    hyperlapse: HyperlapseOut | None
    cheats: SheetCheatsOut
    clips: list[SheetClipOut]
    beside: list[LayerBesideOut]
    backing: Literal["", "green", "blue"]
    laid_px: list[float]
    films: list[ClipChoiceOut]
    room_frames: int | None
    cautions: list[DeskCautionOut]
    deference: str


class SheetBriefOut(Schema):
    """A layer that is animated frame by frame, with how far its sheet is; ``sheet_id`` is null where none was
    begun.
    """

    layer_id: int
    layer: str
    shot_id: int
    code: str
    title: str
    sheet_id: int | None
    poses: int
    taken: int
    warned: int
    s_per_hour: float | None
    left_h: float | None
    hyperlapse: bool


class ForHyperlapseOut(Schema):
    """A filmed layer that a hyperlapse can be planned of."""

    layer_id: int
    layer: str
    code: str


class FramesOut(Schema):
    """Everything of a production that is made frame by frame, and what else a hyperlapse can be of:
    ``s_per_hour`` of film as it really comes, null where nobody knows yet, ``planned_s_per_hour`` as Days and
    costs reckon with, by the production's figures in that version; ``left_h`` is how long all still takes.
    """

    role: Role
    rate_fps: float
    sheets: list[SheetBriefOut]
    for_hyperlapses: list[ForHyperlapseOut]
    s_per_hour: float | None
    planned_s_per_hour: float
    figures_version: int
    left_h: float


class SheetIn(Schema):
    """Begin an exposure sheet: on ones, twos, threes."""

    on: Hold = 2


PassName = Annotated[str, Field(min_length=1, max_length=40)]


class SheetChange(Seen):
    """What of a sheet is another now; what is not sent stays."""

    removed: YesNo | None = None
    passes: Annotated[list[PassName], Field(max_length=MOST_PASSES)] | None = None
    passes_alternate: YesNo | None = None


class PoseChange(Seen):
    """Write into a line of the sheet; what is not sent stays."""

    hold: Hold | None = None
    key: YesNo | None = None
    begins_block: YesNo | None = None
    figure: Text | None = None
    camera: Text | None = None
    light: Text | None = None
    mouth: Text | None = None
    note: Text | None = None


class PoseIn(Seen):
    """A new line behind another (its id), or as the first: the sheet's version is seen."""

    after: int | None = None
    hold: Hold = 1


class SpanChange(Seen):
    """What is done to the lines from one to another (their ids), both included: ``regrouped`` on so many
    frames with as many lines as that takes, each ``held`` for so many, or ``left_out``; the sheet's version
    is seen.
    """

    first: int
    last: int
    how: Literal["regrouped", "held", "left_out"]
    on: Hold = 2


def _is_box(box: list[float]) -> list[float]:
    left, top, right, bottom = box
    if not (0 <= left < right <= 1 and 0 <= top < bottom <= 1):
        raise ValueError("A box lies in the frame: left before right, top before bottom, 0 to 1.")
    if min(right - left, bottom - top) < LEAST_BOX:
        raise ValueError(f"A piece is {100 * LEAST_BOX:g} % of the frame wide and high at least.")
    return box


LEAST_BOX = 0.02
SetBox = Annotated[list[float], Field(min_length=4, max_length=4), AfterValidator(_is_box)]
PieceName = Annotated[str, Field(min_length=1, max_length=60)]


class PieceIn(Seen):
    """Something of the set that has to stand; the sheet's version is seen."""

    name: PieceName
    box: SetBox


class PieceChange(Seen):
    """What of a piece is another now; what is not sent stays."""

    name: PieceName | None = None
    box: SetBox | None = None
    removed: YesNo | None = None


class TakeOutIn(Seen):
    """How frames are taken out: as which pictures, and whether one stands for every frame of the shot; the
    sheet's version is seen.
    """

    format: Literal["png", "tiff", "exr"] = "png"
    expanded: YesNo = True


class ExposureChange(Seen):
    """Have an exposure shown in place of another, take it away, or bring it back."""

    chosen: Literal[True] | None = None
    removed: YesNo | None = None


class DeskQuery(Schema):
    """What the simulated camera photographs, and what goes wrong meanwhile."""

    frame: Annotated[int, Field(ge=1, le=100_000)] = 1
    number: Annotated[int, Field(ge=0, le=999)] = 0
    width: Annotated[int, Field(ge=320, le=3840)] = 960
    nudge_px: Annotated[float, Field(ge=-20, le=20)] = 0.0
    bounce_stops: Annotated[float, Field(ge=-2, le=2)] = 0.0
    lighter_stops: Annotated[float, Field(ge=-2, le=2)] = 0.0
    hand: bool = False
    aim_px: Annotated[float, Field(ge=0, le=200)] = 6.0
