"""What goes over the wire for the break-down: the wall, a shot's plan, files in, sets, places."""

from __future__ import annotations

from datetime import date, datetime
from typing import Any, Literal

from pydantic import BaseModel as Schema
from pydantic import ConfigDict, Field

from jungoptic.app.api.schemas import Points, Role, Verdict
from jungoptic.core.breakdown.costs import Hours, Job, Saving, Wanted
from jungoptic.core.breakdown.recipe import Ask
from jungoptic.core.breakdown.reuse import Aspect
from jungoptic.core.handbook.cards import CardField


class WallLine(Schema):
    id: int
    code: str
    title: str
    description: str
    length_frames: int
    position: int
    place_id: int | None
    place: str
    shoot_on: date | None
    hours_spent: float
    recipes: list[str]
    board: int | None
    version: int
    layers: int
    filmed: int
    shot_layers: int
    takes: int
    shows: int
    tight: int
    holds: int
    verdict: Verdict | None
    worst: str
    hero: str
    hours: float
    hours_left: float
    by_craft: dict[str, float]
    way: str
    storage_gb: float
    hazards: list[str]
    open_hazards: list[str]
    ready: bool
    effects: bool
    pending: bool


class Totals(Schema):
    shots: int
    effects: int
    frames: int
    hours: float
    hours_left: float
    by_craft: dict[str, float]
    storage_gb: float
    open_hazards: int
    ready: int


class PlaceName(Schema):
    id: int
    name: str


class RemovedShot(Schema):
    id: int
    code: str
    title: str


class WallOut(Schema):
    shots: list[WallLine]
    pending: int
    totals: Totals
    places: list[PlaceName]
    removed: list[RemovedShot]


class LineChanges(Schema):
    """Fields of a shot that are edited on the wall; only those that are given are changed."""

    model_config = ConfigDict(extra="forbid")

    code: str | None = Field(None, max_length=64)
    title: str | None = Field(None, max_length=400)
    description: str | None = Field(None, max_length=8000)
    length_frames: int | None = None
    place_id: int | None = None
    shoot_on: date | None = None
    hours_spent: float | None = Field(None, allow_inf_nan=False)
    position: int | None = None
    ready: bool | None = None
    removed: bool | None = None


class LineIn(Schema):
    changes: LineChanges
    seen: dict[str, Any] = {}


class FileIn(Schema):
    name: str = Field("", max_length=200)
    text: str = Field(max_length=6_000_000)
    kind: Literal["", "csv", "fountain", "otio", "edl", "lines"] = ""


class FaultOut(Schema):
    line: int
    column: str
    message: str


class CandidateOut(Schema):
    line: int
    code: str
    title: str
    description: str
    length_frames: int | None
    place: str
    state: Literal["new", "changed", "same"]
    changes: list[str]


class PreviewOut(Schema):
    kind: str
    rows: list[CandidateOut]
    more: int
    new: int
    changed: int
    same: int
    faults: list[FaultOut]
    more_faults: int
    notes: list[str]


class TakenIn(Schema):
    new: int
    changed: int


class PlateWords(Schema):
    name: str
    kind: str
    combine: str
    why: str
    hero: bool


class WhatWhy(Schema):
    what: str
    why: str


class WhatSeen(Schema):
    what: str
    seen: str


class RecipeOut(Schema):
    key: str
    number: int
    title: str
    audience: str
    sees: list[str]
    needs: list[str]
    asks: list[Ask]
    plates: list[PlateWords]
    order: list[WhatWhy]
    wrong: list[WhatSeen]
    cautions: list[str]
    references: list[str]
    schools: str
    lock_off: bool
    ways: list[str]


class KeyWords(Schema):
    key: str
    text: str


class RecipesOut(Schema):
    recipes: list[RecipeOut]
    sees: list[KeyWords]
    needs: list[KeyWords]


class SuggestionOut(Schema):
    key: str
    lacks: list[str]


class ShotRecipeOut(Schema):
    id: int
    key: str
    title: str
    answers: dict[str, float]
    recipe: RecipeOut | None


class OwnRecipeOut(Schema):
    id: int
    title: str
    description: str


class BoardOut(Schema):
    id: int
    name: str
    width_px: int
    height_px: int


class CheckOut(Schema):
    text: str
    done: bool


class PlateOut(Schema):
    number: int
    layer_id: int
    name: str
    kind: str
    combine: str
    key_colour: str
    hero: bool
    set_up: str
    set_up_id: int | None
    why: str
    note: str
    scale: float
    checks: list[CheckOut]
    shot: bool


class OptionOut(Schema):
    key: str
    name: str
    school: str
    layers: list[str]
    hours: float
    days: float
    chosen: bool
    crafts: list[Hours]
    wanted: list[Wanted]
    cautions: list[str]
    shows: list[str]
    savings: list[Saving]


class CostingOut(Schema):
    chosen: str
    job: Job
    derived: Job
    said: list[str]
    options: list[OptionOut]
    fields: list[CardField]
    crafts: list[str]
    fitting: list[str]
    hours_spent: float


class SignedOut(Schema):
    by: str
    at: datetime
    note: str


class HazardOut(Schema):
    key: str
    title: str
    text: str
    ask: str
    safer: str
    by: list[str]
    signed: SignedOut | None


class KeyTitle(Schema):
    key: str
    title: str


class PlanOut(Schema):
    shot_id: int
    version: int
    role: Role
    production_id: int
    ready: bool
    board: BoardOut | None
    recipes: list[ShotRecipeOut]
    own_recipes: list[OwnRecipeOut]
    plates: list[PlateOut]
    habits: list[str]
    costing: CostingOut
    hazards: list[HazardOut]
    cautions_by_hand: list[str]
    all_cautions: list[KeyTitle]
    deference: str


class ChooseIn(Schema):
    """Choose a recipe of the trade by ``key`` with its answers, or one that the production saved (``own``)."""

    key: str = Field("", max_length=24)
    own: int | None = None
    answers: dict[str, float] = {}
    fill: bool = True


class Removed(Schema):
    """Take something out of the production, or bring it back."""

    removed: bool


class SaveRecipe(Schema):
    title: str = Field(max_length=120)


class CostIn(Schema):
    """What is said of the costs; None goes back to what follows from the shot."""

    changes: dict[str, float | int | bool | str | None]


class SignOffIn(Schema):
    caution: str = Field(max_length=24)
    note: str = Field("", max_length=300)
    withdraw: bool = False


class CautionsIn(Schema):
    cautions: list[str] = Field(max_length=40)


class TickIn(Schema):
    text: str = Field(max_length=200)
    done: bool


class FiguresOut(Schema):
    version: int
    values: dict[str, float]
    fields: list[CardField]


class FiguresIn(Schema):
    version: int
    changes: dict[str, int | float]


class MatchedBoard(Schema):
    picture: str
    code: str


class FitOut(Schema):
    name: str
    verdict: Verdict
    mirrored: bool
    unknown: list[str]
    aspects: list[Aspect]


class ReuseOut(Schema):
    layer_id: int
    layer: str
    fits: list[FitOut]


class ContinuityShot(Schema):
    id: int
    code: str
    title: str
    has: list[bool]
    carries: list[str]


class PlaceOut(Schema):
    id: int
    version: int
    name: str
    recurring: list[str]
    cautions: list[str]
    shots: list[ContinuityShot]


class PlaceIn(Schema):
    version: int = 0
    name: str = Field(max_length=200)
    recurring: list[str] = Field([], max_length=60)
    cautions: list[str] = Field([], max_length=40)


class StockIn(Schema):
    name: str = Field(max_length=200)
    note: str = Field("", max_length=2000)
    width_px: int | None = None
    fps: float | None = None
    view_deg: float | None = None
    camera_height_m: float | None = None
    key_azimuth_deg: float | None = None
    key_elevation_deg: float | None = None


class StockOut(StockIn):
    id: int


class BuildName(Schema):
    id: int
    name: str
    place: str
    pieces: int
    views: int


class NewBuild(Schema):
    name: str = Field(max_length=200)


class PieceOut(Schema):
    name: str
    x_m: float
    z_m: float
    turn_deg: float
    width_m: float
    height_m: float
    base_m: float
    lies: bool
    made: Literal["built", "painted", "extended"]
    wheels: bool
    corners: Points
    seen: list[Points]
    seen_m2: float
    whole_m2: float
    made_box: list[float] | None
    made_m2: float
    by: list[str]
    finest_text: str
    built: bool
    size_text: str


class ViewOut(Schema):
    id: int
    shot_id: int
    code: str
    x_m: float
    z_m: float
    heading_deg: float
    establishing: bool


class Cone(Schema):
    name: str
    x_m: float
    z_m: float
    heading_deg: float
    half_deg: float
    establishing: bool


class TwiceOut(Schema):
    first: str
    second: str
    saves_m2: float


class CutPieceOut(Schema):
    name: str
    sheet: int
    x_mm: float
    y_mm: float
    width_mm: float
    height_mm: float
    turned: bool
    text: str


class BuildOut(Schema):
    id: int
    version: int
    name: str
    scale: float
    spare_pct: float
    width_mm: float
    height_mm: float
    kerf_mm: float
    price: float
    place_id: int | None
    pieces: list[PieceOut]
    lacking: list[str]
    views: list[ViewOut]
    cones: list[Cone]
    twice: list[TwiceOut]
    only_establishing: list[str]
    built_m2: float
    whole_m2: float
    hours: float
    hours_whole: float
    sheets: int
    used: float
    price_all: float
    cuts: list[CutPieceOut]
    piece_fields: list[CardField]
    sheet_fields: list[CardField]


class ViewIn(Schema):
    shot_id: int
    x_m: float = Field(0, allow_inf_nan=False)
    z_m: float = Field(0, allow_inf_nan=False)
    heading_deg: float = Field(0, allow_inf_nan=False)
    establishing: bool = False


class BuildIn(Schema):
    version: int
    fields: dict[str, float | str | int | None] = {}
    pieces: list[dict[str, Any]] | None = None
    views: list[ViewIn] | None = None
