"""What goes over the wire. The TypeScript types are generated from these."""

from __future__ import annotations

from datetime import datetime
from typing import Any, Literal

from pydantic import BaseModel as Schema  # plain models: the API's own base costs a third of a drag
from pydantic import Field

from jungoptic.core.handbook.cards import CardField
from jungoptic.core.match.board import LineKind
from jungoptic.core.match.cut import CutJudgement
from jungoptic.core.match.differences import Difference
from jungoptic.core.match.saying import Value
from jungoptic.core.plan.dials import Dial, Mark
from jungoptic.core.stage.drawings import Outline, Solid
from jungoptic.core.stage.sheet import LampDrawn, SheetSeen

School = Literal["measured", "covered"]
Units = Literal["metric", "imperial"]
Theme = Literal["stage", "daylight"]
Verdict = Literal["holds", "tight", "shows"]
Role = Literal["supervisor", "crew", "guest"]
Basis = Literal["planned", "shot"]
Points = list[list[float]]


Changes = dict[str, Any]


class ProblemOut(Schema):
    field: str
    message: str


class Problems(Schema):
    problems: list[ProblemOut]


class PersonOut(Schema):
    username: str
    name: str
    units: Units
    theme: Theme
    school: School
    single_keys: bool


class SessionOut(Schema):
    person: PersonOut | None


class SignIn(Schema):
    username: str = Field(max_length=150)
    password: str = Field(max_length=200)


class Preferences(Schema):
    units: Units | None = None
    theme: Theme | None = None
    school: School | None = None
    single_keys: bool | None = None


class ProductionOut(Schema):
    id: int
    title: str
    slug: str
    role: Role
    delivery_width_px: int
    delivery_height_px: int
    frame_rate_fps: float
    shots: int


class ChangeSet(Schema):
    """Fields by id, for every kind of row of a shot."""

    set_ups: dict[int, Changes] = {}
    layers: dict[int, Changes] = {}
    lamps: dict[int, Changes] = {}
    backings: dict[int, Changes] = {}
    lines: dict[int, Changes] = {}
    shot: dict[int, Changes] = {}


class NewLayer(Schema):
    fields: Changes
    like_set_up: int | None


class FixOut(Schema):
    label: str
    changes: ChangeSet
    new_layer: NewLayer | None


class AcceptedOut(Schema):
    reason: str
    by: str
    at: datetime


class SourceOut(Schema):
    key: str
    kind: Literal["published", "practice", "judgement", "derived"]
    title: str
    note: str
    trust: str


class ItemOut(Schema):
    item: str
    label: str
    where: str
    amount: float
    amount_text: str
    unit: str
    holds: float
    tight: float
    ladder: float
    verdict: Verdict
    sentence: str
    formula: str
    covered_by: str
    sources: list[str]
    fixes: list[FixOut]
    values: list[Value] | None
    informs: str
    other_verdict: Verdict
    other_holds: float
    accepted: AcceptedOut | None


class LayerOut(Schema):
    id: int
    name: str
    kind: str
    combine: str
    key_colour: str
    is_hero: bool
    scale: float
    near_m: float
    depth_m: float
    resize: float
    values: Changes
    accepted: int
    move_px: float
    matte_hours: float | None
    matte_hours_needed: float | None
    ruler_m: float
    note: str
    version: int
    set_up_id: int | None
    shows: int
    tight: int
    holds: int
    verdict: Verdict
    takes: int
    basis: str
    circled_take: int | None
    items: list[ItemOut]
    outlines: list[Outline]


class SheetDrawn(Schema):
    """The sheet in the set, metres: z from the lens."""

    name: str
    colour: str
    z: float
    bottom: float
    top: float
    left: float
    right: float


class StandingOut(Schema):
    lens_height_m: float
    ground_height_m: float
    tilt_deg: float
    view_across_deg: float
    view_up_deg: float
    distance_m: float
    far_m: float
    focus_m: float
    band_near_m: float
    band_far_m: float | None
    wanted_height_m: float
    wanted_distance_m: float
    solids: list[Solid]
    wants_text: str
    band_text: str
    lamps: list[LampDrawn]
    lamp_ids: list[int]
    sheet: SheetDrawn | None
    travel_m: float
    move_kind: str
    key_azimuth_deg: float | None
    key_elevation_deg: float | None
    caption: str


class PassOut(Schema):
    text: str
    focus_m: float | None


class FocusOut(Schema):
    """Focus passes that hold the whole depth at this stop, and the lens tilt for the ground."""

    passes: list[PassOut]
    more: bool
    tilt_text: str


class PlacingOut(Schema):
    """How far a dial may be off before the worst item that it moves leaves Holds."""

    dial: str
    unit: str
    minus: float | None
    plus: float | None
    item: str
    text: str


class SelectedOut(Schema):
    layer_id: int
    set_up_id: int
    set_up_name: str
    set_up_version: int
    dials: list[Dial]
    sheet: SheetSeen | None
    focus: FocusOut
    placings: list[PlacingOut]
    standing: StandingOut


class RowOut(Schema):
    """A lamp or a backing as it is saved."""

    id: int
    version: int
    values: Changes


class SetUpOut(Schema):
    """A set-up as it is saved, with its lamps and backing: what a change is made from and undone to."""

    id: int
    name: str
    version: int
    values: Changes
    lamps: list[RowOut]
    backing: RowOut | None


class ShotOut(Schema):
    values: Changes
    move_unit: str
    moves: bool


class CutOut(Schema):
    shot_id: int
    code: str
    where: Literal["before", "after"]
    items: list[CutJudgement]


class VersionOut(Schema):
    """Counts up with every change of the shot, and with every change of what the production is judged by."""

    version: int
    revision: int


class LineOut(Schema):
    """A line of the board: what was drawn, in delivered px, what it costs where it costs something, and what the check of its kind says."""

    id: int
    version: int
    kind: LineKind
    values: Changes
    hours: float | None
    hours_text: str
    verdict: Verdict | None
    says: str


class BenchOut(Schema):
    revision: int
    frame: int
    after_finish: bool
    finish: str
    shot: ShotOut
    needed_box: list[float]
    cut_box: list[float] | None
    across_cut: list[CutOut]
    accepted: int
    shot_id: int
    code: str
    title: str
    description: str
    previous_id: int | None
    next_id: int | None
    production_id: int
    production_title: str
    role: Role
    version: int
    school: School
    units: Units
    basis: Basis
    any_takes: bool
    delivery_width_px: int
    delivery_height_px: int
    aspect: str
    horizon_px: float
    horizon_text: str
    hero_layer_id: int | None
    hero_basis: str
    shows: int
    tight: int
    holds: int
    layers: list[LayerOut]
    set_ups: list[SetUpOut]
    lines: list[LineOut]
    selected: SelectedOut | None


class Reading(Schema):
    """How the shot is read: which school, units and basis, which layer, which frame, before or after the finish."""

    school: School = "measured"
    units: Units = "metric"
    basis: Basis = "planned"
    selected: int | None = None
    after_finish: bool = True
    frame: int = Field(0, ge=0, le=1_000_000)


class Trial(ChangeSet, Reading):
    """What is being tried. Nothing is saved."""


class PictureIn(Trial):
    """What the lens sees, with what is being tried; ``only`` shows one layer as it is filmed."""

    width_px: int = Field(640, ge=64, le=1920)
    only: int | None = None


class EditIn(Schema):
    version: int
    changes: Changes


class ChangesIn(Reading):
    """Edits to save together, or not at all."""

    set_ups: dict[int, EditIn] = {}
    layers: dict[int, EditIn] = {}
    lamps: dict[int, EditIn] = {}
    backings: dict[int, EditIn] = {}
    lines: dict[int, EditIn] = {}
    shot: dict[int, EditIn] = {}


class AddIn(Reading):
    """Something new in the shot. A layer may share the set-up ``like_set_up`` or get its own, copied from it."""

    what: Literal["layer", "lamp", "backing", "line"]
    fields: Changes = {}
    like_set_up: int | None = None
    own_set_up: bool = False
    kit_lamp: int | None = None


class AddOut(Schema):
    id: int
    bench: BenchOut


class AcceptIn(Reading):
    layer_id: int
    item: str = Field(max_length=24)
    reason: str = Field("", max_length=400)
    withdraw: bool = False


class ScaleRowOut(Schema):
    scale: float
    size: str
    distance: str
    lens_height: str
    stop_wanted: str
    rate_wanted_fps: float
    finest: str
    verdict: Verdict
    shows: int
    tight: int
    worst: str
    light: str
    fits: bool
    against: list[str]


class ScalesOut(Schema):
    layer_id: int
    rows: list[ScaleRowOut]


class LampOut(Schema):
    """A lamp that the kit has."""

    id: int
    name: str
    intensity_cd: float
    beam_deg: float


class FieldsOut(Schema):
    """What can be said of a layer, a lamp, a backing, a set-up's light and a shot: label, unit, limits, choices."""

    layer: list[CardField]
    lamp: list[CardField]
    backing: list[CardField]
    set_up: list[CardField]
    shot: list[CardField]
    move: list[CardField]


class ToleranceRow(Schema):
    item: str
    label: str
    unit: str
    holds: float
    tight: float
    default_holds: float
    default_tight: float


class JudgingOut(Schema):
    """How a production is judged: its finish, its errors of placing, and the tolerances it changed."""

    version: int
    black_and_white: bool
    soften_px: float
    grain_added: float
    shows_models: bool
    tape_error_m: float
    level_error_deg: float
    tolerances: list[ToleranceRow]


class ToleranceIn(Schema):
    """None puts the default back."""

    holds: float | None = None
    tight: float | None = None


class JudgingIn(Schema):
    version: int
    black_and_white: bool | None = None
    soften_px: float | None = None
    grain_added: float | None = None
    shows_models: bool | None = None
    tape_error_m: float | None = None
    level_error_deg: float | None = None
    tolerances: dict[str, ToleranceIn] = {}


class SolveIn(ChangeSet):
    locked: list[str] = []
    school: School = "measured"
    units: Units = "metric"


class AnswerOut(Schema):
    set_up: Changes
    layer: Changes
    verdict: Verdict
    shows: int
    tight: int
    holds: int
    changes: list[Difference]
    sentences: list[str]


class SolveOut(Schema):
    layer_id: int
    set_up_id: int
    lockable: dict[str, str]
    answers: list[AnswerOut]


class TakeIn(Schema):
    actual: Changes = {}
    note: str = Field("", max_length=2000)
    circled: bool = False
    recorded_at: datetime | None = None
    units: Units = "metric"


class CircleIn(Schema):
    version: int
    circled: bool
    units: Units = "metric"


class TakeItemOut(Schema):
    item: str
    label: str
    where: str
    amount_text: str
    unit: str
    ladder: float
    verdict: Verdict
    sentence: str


class TakeOut(Schema):
    id: int
    layer_id: int
    layer_name: str
    number: int
    slate: str
    circled: bool
    note: str
    recorded_at: datetime
    recorded_by: str
    version: int
    verdict: Verdict
    shows: int
    tight: int
    holds: int
    against: str
    differences: list[Difference]
    items: list[TakeItemOut]


class SettingOut(Schema):
    """One line of the set-up card at the camera."""

    field: str
    label: str
    text: str
    value: float | None
    unit: str
    quantity: Literal["number", "length", "light"]
    choices: list[Mark]


class LogLayerOut(Schema):
    id: int
    name: str
    kind: str
    is_hero: bool
    verdict: Verdict
    shows: int
    tight: int
    holds: int
    next_take: int
    settings: list[SettingOut]
    takes: list[TakeOut]


class LogOut(Schema):
    shot_id: int
    code: str
    title: str
    production_id: int
    role: Role
    previous_id: int | None
    next_id: int | None
    hero_basis: str
    layers: list[LogLayerOut]


class CardIn(Schema):
    paper: Literal["a4", "letter"] = "a4"
    units: Units = "metric"
    school: School = "measured"


class CardOut(Schema):
    id: int
    paper: str
    state: Literal["waiting", "working", "ready", "stopped", "failed"]
    progress: int
    message: str


class OutputOut(Schema):
    name: str
    title: str
    unit: str
    help: str
    kind: str


class CalculationLine(Schema):
    name: str
    question: str
    moment: str


class CalculationOut(CalculationLine):
    formula: str
    sources: list[SourceOut]
    fields: list[CardField]
    outputs: list[OutputOut]
    example: dict[str, Any]
    checks: list[str]


class AroundIn(Schema):
    values: dict[str, Any]
    field: str
    points: int = Field(13, ge=3, le=81)


class AroundRow(Schema):
    value: float
    outputs: dict[str, Any] | None


class FillOut(Schema):
    """What the open shot knows of a card's fields, and which set-up its answer could go back to."""

    values: dict[str, Any]
    layer_id: int
    layer_name: str
    set_up_id: int | None
    set_up_version: int | None
    settable: list[str]
