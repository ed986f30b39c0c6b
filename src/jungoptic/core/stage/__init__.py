"""The set as the lens sees it and as it stands: projection, drawings in numbers, the simulated picture."""

from .drawings import Outline, Points, Solid, Standing, horizon_px, outlines, standing
from .moment import START, Moment
from .picture import jpeg
from .project import project
from .render import render
from .sheet import Contour, LampDrawn, SheetSeen, lamps_drawn, sheet_in_set, sheet_seen
from .sketch import sketch

__all__ = [
    "START",
    "Contour",
    "LampDrawn",
    "Moment",
    "Outline",
    "Points",
    "SheetSeen",
    "Solid",
    "Standing",
    "horizon_px",
    "jpeg",
    "lamps_drawn",
    "outlines",
    "project",
    "render",
    "sheet_in_set",
    "sheet_seen",
    "sketch",
    "standing",
]
