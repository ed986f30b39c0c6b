"""The set as the lens sees it and as it stands: projection, drawings in numbers, the simulated picture."""

from .board import Held, photograph_board
from .cutout import Cut, cropped, cut_of, cut_out
from .desk import AS_IT_SHOULD, DeskCamera, DeskFaults
from .drawings import Outline, Points, Solid, Standing, horizon_px, outlines, standing
from .effects import ALL, Effects
from .film import NO_FAULTS, FilmFaults, film
from .flat import photograph_flat
from .hyper import AIMED_WELL, HyperCamera, HyperFaults
from .live import LIVE_FAULTS, USUAL_FAULTS, LiveCamera, LiveFault
from .own_kit import Filmed, Truth, film_kit
from .picture import encoded, jpeg
from .proving import Row, proved
from .render import render
from .sensor import recorded_codes
from .sheet import Contour, LampDrawn, SheetSeen, lamps_drawn, sheet_in_set, sheet_seen
from .shoot import photograph
from .sketch import sketch
from .telephone import sheet_by_telephone

__all__ = [
    "AIMED_WELL",
    "ALL",
    "AS_IT_SHOULD",
    "LIVE_FAULTS",
    "NO_FAULTS",
    "USUAL_FAULTS",
    "Contour",
    "Cut",
    "DeskCamera",
    "DeskFaults",
    "Effects",
    "FilmFaults",
    "Filmed",
    "Held",
    "HyperCamera",
    "HyperFaults",
    "LampDrawn",
    "LiveCamera",
    "LiveFault",
    "Outline",
    "Points",
    "Row",
    "SheetSeen",
    "Solid",
    "Standing",
    "Truth",
    "cropped",
    "cut_of",
    "cut_out",
    "encoded",
    "film",
    "film_kit",
    "horizon_px",
    "jpeg",
    "lamps_drawn",
    "outlines",
    "photograph",
    "photograph_board",
    "photograph_flat",
    "proved",
    "recorded_codes",
    "render",
    "sheet_by_telephone",
    "sheet_in_set",
    "sheet_seen",
    "sketch",
    "standing",
]
