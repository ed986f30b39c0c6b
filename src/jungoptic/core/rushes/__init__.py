"""Frames that were shot, measured: as amounts, in words, drawn over the picture."""

from . import over_time, standing
from .as_planned import AsPlanned, as_planned
from .backing import key_says
from .columns import DIALS, MEASURED, PLAN_OFF, Column, Foretold, as_measured, columns
from .fine import EdgeBeside, GrainBeside
from .joins import MINUTES_A_KEY, LineWatched, Patches, SeamFound
from .lights import BallLit, GreyBeside
from .measured import Sized, as_measurement, in_words, with_error, within
from .mended import LaidBack, MendValues, mend_values
from .not_shown import not_shown
from .on_location import SheetPhotographed, ball_photographed, sheet_photographed
from .over_time import ALL_OVER, IN_PART_STOPS, PATH
from .photographed import Photographed, photograph_read
from .pointing import Pointed, RowTold, pointed
from .sheet_lamps import LampSeen, LampsSeen, lamps_seen
from .sheet_plane import crossed_region, sheet_places
from .spotted import LineTold, Spot, over_frames
from .struck import LOSSES, Loss, PlateSeen, before_struck, loss_of
from .verdicts import ITEM_OF, AmountJudged, JudgedBy, judged

_TELL = (over_time, standing)
"""They tell what :mod:`~jungoptic.core.measure` returns: loading them is enough."""

__all__ = [
    "ALL_OVER",
    "DIALS",
    "IN_PART_STOPS",
    "ITEM_OF",
    "LOSSES",
    "MEASURED",
    "MINUTES_A_KEY",
    "PATH",
    "PLAN_OFF",
    "AmountJudged",
    "AsPlanned",
    "BallLit",
    "Column",
    "EdgeBeside",
    "Foretold",
    "GrainBeside",
    "GreyBeside",
    "JudgedBy",
    "LaidBack",
    "LampSeen",
    "LampsSeen",
    "LineTold",
    "LineWatched",
    "Loss",
    "MendValues",
    "Patches",
    "Photographed",
    "PlateSeen",
    "Pointed",
    "RowTold",
    "SeamFound",
    "SheetPhotographed",
    "Sized",
    "Spot",
    "as_measured",
    "as_measurement",
    "as_planned",
    "ball_photographed",
    "before_struck",
    "columns",
    "crossed_region",
    "in_words",
    "judged",
    "key_says",
    "lamps_seen",
    "loss_of",
    "mend_values",
    "not_shown",
    "over_frames",
    "photograph_read",
    "pointed",
    "sheet_photographed",
    "sheet_places",
    "with_error",
    "within",
]
