"""Finding settings: the solver, how exactly each thing must be placed, what of a set is seen at all."""

from .card import GEL, CardSetting, card_lamps, card_settings, lamp_field, lamp_of_field
from .dials import Dial, dials
from .engraving import Mark
from .focusing import Focusing, FocusPass, band_text, focusing
from .foretold import ForetoldPoint, foretell, likely_values
from .framing import Box, Framing, share_inside, vertical_cut_px
from .laying import (
    LaidAs,
    Laying,
    gate_in_frame,
    ground_in_frame,
    horizon_in_frame,
    in_recorded,
    laid_as,
    laid_in_frame,
    moved_in_composite,
    planned_place,
)
from .line_up import LineUp, Reference, Turn, line_up, reference_of
from .lined_up import DialOff, LinedUp, NothingSharedError, in_the_set, lined_up
from .opened import Addition, Reach, additions, reach_of, shot_reach
from .placing import Placing, height_wish, place
from .protocol import CLEAN_PLATE_S, ProtocolStep, protocol
from .reused import Reused, fewest_pieces
from .scales import ScaleRow, choose_scale
from .scope import Shared
from .seen import SeenPart, only_establishing, seen_parts
from .sheets import Cut, CuttingList, Sheet, lay_out, panels
from .slate import SLATE, Slated, SlateReach, slate_reaches, slated
from .solve import SOLVABLE, Answer, solve
from .started import Started, started
from .views import Piece, Stand, View

__all__ = [
    "CLEAN_PLATE_S",
    "GEL",
    "SLATE",
    "SOLVABLE",
    "Addition",
    "Answer",
    "Box",
    "CardSetting",
    "Cut",
    "CuttingList",
    "Dial",
    "DialOff",
    "FocusPass",
    "Focusing",
    "ForetoldPoint",
    "Framing",
    "LaidAs",
    "Laying",
    "LineUp",
    "LinedUp",
    "Mark",
    "NothingSharedError",
    "Piece",
    "Placing",
    "ProtocolStep",
    "Reach",
    "Reference",
    "Reused",
    "ScaleRow",
    "SeenPart",
    "Shared",
    "Sheet",
    "SlateReach",
    "Slated",
    "Stand",
    "Started",
    "Turn",
    "View",
    "additions",
    "band_text",
    "card_lamps",
    "card_settings",
    "choose_scale",
    "dials",
    "fewest_pieces",
    "focusing",
    "foretell",
    "gate_in_frame",
    "ground_in_frame",
    "height_wish",
    "horizon_in_frame",
    "in_recorded",
    "in_the_set",
    "laid_as",
    "laid_in_frame",
    "lamp_field",
    "lamp_of_field",
    "lay_out",
    "likely_values",
    "line_up",
    "lined_up",
    "moved_in_composite",
    "only_establishing",
    "panels",
    "place",
    "planned_place",
    "protocol",
    "reach_of",
    "reference_of",
    "seen_parts",
    "share_inside",
    "shot_reach",
    "slate_reaches",
    "slated",
    "solve",
    "started",
    "vertical_cut_px",
]
