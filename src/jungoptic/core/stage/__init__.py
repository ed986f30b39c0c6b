"""The set as the lens sees it and as it stands: projection, drawings in numbers, the simulated picture."""

from .drawings import Outline, Points, Solid, Standing, horizon_px, outlines, standing
from .picture import jpeg
from .render import photograph, render
from .sheet import Contour, LampDrawn, SheetSeen, lamps_drawn, sheet_in_set, sheet_seen
from .sketch import sketch

__all__ = [
    "Contour",
    "LampDrawn",
    "Outline",
    "Points",
    "SheetSeen",
    "Solid",
    "Standing",
    "horizon_px",
    "jpeg",
    "lamps_drawn",
    "outlines",
    "photograph",
    "render",
    "sheet_in_set",
    "sheet_seen",
    "sketch",
    "standing",
]
