"""What of a production goes into its file: the tables with their columns, and what stays behind and why."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from functools import cached_property
from typing import Any

from django.db import models

from jungoptic.app.base.models import Change, Write
from jungoptic.app.boards.models import Board
from jungoptic.app.builds.models import Build, BuildPiece, BuildView
from jungoptic.app.costs.models import Costing, Figures
from jungoptic.app.days.models import (
    Booked,
    CallSheet,
    Condition,
    DayFigures,
    Hand,
    JobSaid,
    OrderSaid,
    ShootingDay,
    Site,
    Travel,
)
from jungoptic.app.files.models import StoredFile
from jungoptic.app.footage.models import Card, Recording
from jungoptic.app.frames.models import (
    Exposure,
    ExposureSheet,
    FigurePoint,
    Hyperlapse,
    Piece,
    PointPlace,
    Pose,
    Rig,
    SheetCheat,
    SheetClip,
)
from jungoptic.app.kit.models import Camera, Filter, Gear, Lamp, Lens, RecordingMode, Support
from jungoptic.app.measuring.models import MeasuredPicture, Measurement
from jungoptic.app.people.models import Person
from jungoptic.app.productions.models import Membership, Place, Production, ToleranceChange
from jungoptic.app.recipes.models import PlannedLayer, RecipeAnswer, ShotRecipe, Tick
from jungoptic.app.rushes.models import FrameDecision, FrameMeasure, Rush, SetUpMark, SheetRead
from jungoptic.app.safety.models import SignOff
from jungoptic.app.shots.models import (
    Acceptance,
    Layer,
    LayerPicture,
    Line,
    Part,
    PlacedBacking,
    PlacedLamp,
    SetUp,
    Shot,
)
from jungoptic.app.stills.models import Still
from jungoptic.app.stock.models import StockItem
from jungoptic.app.takes.models import Judging, Take, TakeVerdict


@dataclass(frozen=True)
class Table:
    """``path`` leads from a row to its production; ``without`` are columns that mean something on one machine
    only.
    """

    name: str
    model: Any
    path: str
    without: frozenset[str] = frozenset()

    @cached_property
    def columns(self) -> tuple[models.Field[Any, Any], ...]:
        """What a row of the file says; the production itself it need not say."""
        return tuple(
            field
            for field in self.model._meta.concrete_fields
            if not field.primary_key and field.name not in self.without and not leads_to(field, Production)
        )

    def rows(self, production_id: int) -> Any:
        """The rows of a production, in the order in which they were made."""
        return self.model._base_manager.filter(**{self.path: production_id}).order_by("pk")


def leads_to(field: Any, model: type[models.Model]) -> bool:
    """Whether a column names a row of this model."""
    return bool(field.is_relation and field.related_model is model)


_OF_THE_KEEPER = frozenset({"revision"})  # what is worked out is kept by it, on one machine

TABLES = (
    Table("production", Production, "pk", _OF_THE_KEEPER | {"slug"}),
    Table("places", Place, "production"),
    Table("members", Membership, "production"),
    Table("tolerances", ToleranceChange, "production"),
    Table("figures", Figures, "production"),
    Table("files", StoredFile, "production", frozenset({"file"})),
    Table("cameras", Camera, "production"),
    Table("modes", RecordingMode, "camera__production"),
    Table("lenses", Lens, "production"),
    Table("lamps", Lamp, "production"),
    Table("supports", Support, "production"),
    Table("filters", Filter, "production"),
    Table("gear", Gear, "production"),
    Table("stock", StockItem, "production"),
    Table("shots", Shot, "production", _OF_THE_KEEPER),
    Table("set_ups", SetUp, "shot__production"),
    Table("layers", Layer, "shot__production"),
    Table("placed_lamps", PlacedLamp, "set_up__shot__production"),
    Table("placed_backings", PlacedBacking, "set_up__shot__production"),
    Table("parts", Part, "layer__shot__production"),
    Table("layer_pictures", LayerPicture, "layer__shot__production"),
    Table("lines", Line, "shot__production"),
    Table("acceptances", Acceptance, "layer__shot__production"),
    Table("boards", Board, "shot__production"),
    Table("recipes", ShotRecipe, "shot__production"),
    Table("recipe_answers", RecipeAnswer, "recipe__shot__production"),
    Table("planned_layers", PlannedLayer, "layer__shot__production"),
    Table("ticks", Tick, "layer__shot__production"),
    Table("costs", Costing, "shot__production"),
    Table("signatures", SignOff, "shot__production"),
    Table("takes", Take, "layer__shot__production"),
    Table("judgings", Judging, "take__layer__shot__production"),
    Table("verdicts", TakeVerdict, "judging__take__layer__shot__production"),
    Table("stills", Still, "layer__shot__production"),
    Table("exposure_sheets", ExposureSheet, "layer__shot__production"),
    Table("poses", Pose, "sheet__layer__shot__production"),
    Table("rigs", Rig, "sheet__layer__shot__production"),
    Table("marked_pieces", Piece, "sheet__layer__shot__production"),
    Table("figure_points", FigurePoint, "sheet__layer__shot__production"),
    Table("sheet_cheats", SheetCheat, "sheet__layer__shot__production"),
    Table("hyperlapses", Hyperlapse, "point__sheet__layer__shot__production"),
    Table("exposures", Exposure, "pose__sheet__layer__shot__production"),
    Table("point_places", PointPlace, "point__sheet__layer__shot__production"),
    Table("cards", Card, "production"),
    Table("recordings", Recording, "card__production"),
    Table("sheet_clips", SheetClip, "sheet__layer__shot__production"),
    Table("rushes", Rush, "recording__card__production"),
    Table("frames_measured", FrameMeasure, "rush__recording__card__production"),
    Table("frame_decisions", FrameDecision, "rush__recording__card__production"),
    Table("frame_marks", SetUpMark, "set_up__shot__production"),
    Table("sheets_read", SheetRead, "still__layer__shot__production"),
    Table("measurements", Measurement, "production"),
    Table("measured_pictures", MeasuredPicture, "measurement__production"),
    Table("sets", Build, "production"),
    Table("set_pieces", BuildPiece, "build__production"),
    Table("set_views", BuildView, "build__production"),
    Table("day_figures", DayFigures, "production"),
    Table("shooting_days", ShootingDay, "production"),
    Table("people_called", Hand, "production"),
    Table("sites", Site, "production"),
    Table("conditions", Condition, "production"),
    Table("travel", Travel, "production"),
    Table("call_sheet", CallSheet, "production", frozenset({"job"})),
    Table("jobs_said", JobSaid, "production"),
    Table("orders_said", OrderSaid, "production"),
    Table("bookings", Booked, "production"),
    Table("history", Write, "production", frozenset({"key"})),
    Table("changes", Change, "write__production"),
)
BY_MODEL = {table.model: table for table in TABLES}

# Of a production, and yet not in its file.
STAYS_BEHIND = {
    "productions.Invitation": "a way into this machine",
    "jobs.Job": "work of this machine; what it made can be made again",
    "days.DaysPlanned": "what the last planning proved; it is planned again",
    "breakdown.Summary": "worked out from all the rest",
}

# What the history calls a row by: the kind of a change, and the fields of it that name another row.
ROWS_OF_KINDS: dict[str, type[models.Model]] = {
    "production": Production,
    "tolerance": Production,
    "membership": Membership,
    "place": Place,
    "rates": Figures,
    "camera": Camera,
    "mode": RecordingMode,
    "lens": Lens,
    "lamp": Lamp,
    "support": Support,
    "filter": Filter,
    "gear": Gear,
    "stock element": StockItem,
    "measurement": Measurement,
    "measured picture": MeasuredPicture,
    **dict.fromkeys(
        ("shot", "saved recipe", "board", "signature", "cautions", "ready", "who"),
        Shot,
    ),
    "set_ups": SetUp,
    **dict.fromkeys(("layers", "check", "acceptance"), Layer),
    "lamps": PlacedLamp,
    "backings": PlacedBacking,
    "lines": Line,
    "recipe": ShotRecipe,
    "costs": Costing,
    "take": Take,
    "still": Still,
    "exposure_sheet": ExposureSheet,
    "pose": Pose,
    "rig": Rig,
    "marked_piece": Piece,
    "figure_point": FigurePoint,
    "point_place": PointPlace,
    "hyperlapse": Hyperlapse,
    "sheet_clip": SheetClip,
    "sheet_cheat": SheetCheat,
    "exposure": Exposure,
    "card": Card,
    "recording": Recording,
    "rush": Rush,
    "frame mark": SetUp,
    "frame decision": Rush,
    "set": Build,
    "day figures": DayFigures,
    "shooting day": ShootingDay,
    "person called": Hand,
    "site": Site,
    "condition": Condition,
    "travel": Travel,
    "job of a day": JobSaid,
    "order": OrderSaid,
    "booking": Booked,
}
KINDS_THAT_STAY_BEHIND = frozenset({"invitation", "job"})
NAMED_BY: dict[str, type[models.Model]] = {
    "place_id": Place,
    "stage_id": Place,
    "here_id": Place,
    "there_id": Place,
    "first_id": SetUp,
    "then_id": SetUp,
    "camera_id": Camera,
    "lens_id": Lens,
    "on_id": Lens,
    "mode_id": RecordingMode,
    "shot_id": Shot,
    "set_up_id": SetUp,
    "layer_id": Layer,
    "take_id": Take,
    "recording_id": Recording,
    "only_for_id": Layer,
    "picture_id": LayerPicture,
    "board": Board,
}


def person_columns() -> Iterator[tuple[Table, str]]:
    """Where a person is named."""
    for table in TABLES:
        for field in table.columns:
            if leads_to(field, Person):
                yield table, field.attname


def renamed(field: str, value: Any, call: Callable[[type[models.Model], int], int | None]) -> Any:
    """A value of the history with the rows that it names called otherwise."""
    if field in NAMED_BY and isinstance(value, int) and not isinstance(value, bool):
        return call(NAMED_BY[field], value)
    if isinstance(value, list):
        return [renamed("", one, call) for one in value]
    if isinstance(value, dict):
        return {name: renamed(name, one, call) for name, one in value.items()}
    return value
