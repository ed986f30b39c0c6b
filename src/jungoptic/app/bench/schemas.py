"""The Bench over the wire: a shot judged and drawn, and what is asked of it."""

from __future__ import annotations

from dataclasses import fields as dataclass_fields
from datetime import datetime
from typing import Literal

from pydantic import BaseModel as Schema
from pydantic import Field

from jungoptic.app.base.schemas import Basis, Changes, Role, Seen
from jungoptic.app.bench.picture_schemas import CutPictureOut, PhotographOut, PictureOut, ReadingOut
from jungoptic.app.shots.plan import Draft
from jungoptic.core.handbook import CardField
from jungoptic.core.match import CutJudgement, Value
from jungoptic.core.plan import Dial
from jungoptic.core.quantities import YesNo
from jungoptic.core.stage import LampDrawn, Outline, SheetSeen, Solid
from jungoptic.core.vocabulary import LineKind, School, Units, Verdict


class ChangeSet(Schema):
    """Fields by id, for every kind of row of a shot."""

    set_ups: dict[int, Changes] = {}
    layers: dict[int, Changes] = {}
    lamps: dict[int, Changes] = {}
    backings: dict[int, Changes] = {}
    lines: dict[int, Changes] = {}
    shot: dict[int, Changes] = {}

    def draft(self) -> Draft:
        return Draft(**{kind.name: getattr(self, kind.name) for kind in dataclass_fields(Draft)})


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


class ItemOut(Schema):
    """A judged item. ``fixes`` is null while something is tried and another layer is looked at, and while a
    hand moves where they must be searched for: the hand does not wait for it.
    """

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
    fixes: list[FixOut] | None
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
    unknown: list[str]
    picture: PictureOut | None
    reading: ReadingOut
    photograph: PhotographOut | None
    cut: CutPictureOut | None
    on_its_ground: bool
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
    key_from: str
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
    """The layer that is looked at. While a hand moves, ``placings`` and the brackets of their dials wait."""

    layer_id: int
    set_up_id: int
    set_up_name: str
    set_up_version: int
    dials: list[Dial]
    lockable: list[str]
    sheet: SheetSeen | None
    focus: FocusOut
    placings: list[PlacingOut] | None
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
    """Counts up with every change in the shot, and with every change of what the production is judged by."""

    revision: int
    production_revision: int


class LineOut(Schema):
    """A line of the board: what was drawn, in delivered px, what it costs where it costs something, what the
    check of its kind says, and its place on the ground where somebody stands on it.
    """

    id: int
    version: int
    kind: LineKind
    values: Changes
    hours: float | None
    hours_text: str
    verdict: Verdict | None
    says: str
    place: str


class BenchOut(Schema):
    revision: int
    production_revision: int
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
    """How the shot is read: which school, units and basis, which layer, which frame, before or after the
    finish.
    """

    school: School = "measured"
    units: Units = "metric"
    basis: Basis = "planned"
    selected: int | None = None
    after_finish: YesNo = True
    frame: int = Field(0, ge=0, le=1_000_000)


class Tried(ChangeSet, Reading):
    """What is being tried. Nothing is saved."""


class Trial(Tried):
    """What is being tried, to be judged. While a hand is ``moving``, what takes a search waits."""

    moving: YesNo = False


class PictureIn(Tried):
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


class AddIn(Reading, Seen):
    """Something new in the shot, whose own ``version`` is given.

    A layer may share the set-up ``like_set_up`` or get its own, copied from it.
    """

    what: Literal["layer", "lamp", "backing", "line"]
    fields: Changes = {}
    like_set_up: int | None = None
    own_set_up: YesNo = False
    kit_lamp: int | None = None


class AddOut(Schema):
    id: int
    bench: BenchOut


class AcceptIn(Reading, Seen):
    """A verdict of a layer, whose ``version`` is given."""

    layer_id: int
    item: str = Field(max_length=24)
    reason: str = Field("", max_length=400)
    withdraw: YesNo = False


class FieldsOut(Schema):
    """What can be said of a layer, a lamp, a backing, a set-up's light and a shot: label, unit, limits,
    choices.
    """

    layer: list[CardField]
    lamp: list[CardField]
    backing: list[CardField]
    set_up: list[CardField]
    shot: list[CardField]
    move: list[CardField]
    film: list[CardField]
