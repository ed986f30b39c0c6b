"""The wall and a shot's plan over the wire."""

from __future__ import annotations

from datetime import date

from pydantic import BaseModel as Schema
from pydantic import ConfigDict, Field

from jungoptic.app.base.schemas import Role, Seen
from jungoptic.app.boards.schemas import BoardOut
from jungoptic.app.costs.schemas import CostingOut
from jungoptic.app.recipes.schemas import OwnRecipeOut, PlateOut, ShotRecipeOut
from jungoptic.app.safety.schemas import HazardOut, KeyTitle
from jungoptic.core.match import CutJudgement
from jungoptic.core.quantities import Day, YesNo
from jungoptic.core.vocabulary import Verdict


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
    revision: int
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
    fault: str = ""


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
    version: int
    code: str
    title: str


class Joint(Schema):
    """Where two shots of one place meet: what the comparison across the cut says, worst first."""

    left_id: int
    right_id: int
    verdict: Verdict
    items: list[CutJudgement]


class WallOut(Schema):
    version: int
    shots: list[WallLine]
    joints: list[Joint]
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
    shoot_on: Day | None = None
    hours_spent: float | None = Field(None, allow_inf_nan=False)
    position: int | None = None
    ready: YesNo | None = None
    removed: YesNo | None = None


class LineIn(Seen):
    changes: LineChanges


class PlanOut(Schema):
    shot_id: int
    version: int
    revision: int
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
    who: list[str]
    in_shot: list[KeyTitle]
    all_cautions: list[KeyTitle]
    deference: str
