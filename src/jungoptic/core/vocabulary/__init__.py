"""What the house calls things: each word stands here once, and is served to every screen and paper."""

from .audience import IN_SHOT, NEEDS, SEES
from .building import Hold, Made
from .judging import SCHOOLS, VERDICT_WORDS, VERDICTS, School, Verdict
from .layers import (
    CHOICES,
    COMBINES,
    KINDS,
    PASSES,
    PICTURES,
    Combine,
    Contact,
    Driver,
    Focusing,
    Hatch,
    Kept,
    Kind,
    MadeFrom,
    Reference,
)
from .lines import LINES, MOST_POINTS, Asks, LineKind, Shape
from .marks import LIKELY_HEIGHT_M, MARKS, MOST_MARKS, MarkKind, MarkWords
from .sheets import SHEETS, KeyColour
from .units import LUX_PER_FOOTCANDLE, MEASURED, METRES_PER_FOOT, MM_PER_INCH, Quantity, Unit, Units

__all__ = [
    "CHOICES",
    "COMBINES",
    "IN_SHOT",
    "KINDS",
    "LIKELY_HEIGHT_M",
    "LINES",
    "LUX_PER_FOOTCANDLE",
    "MARKS",
    "MEASURED",
    "METRES_PER_FOOT",
    "MM_PER_INCH",
    "MOST_MARKS",
    "MOST_POINTS",
    "NEEDS",
    "PASSES",
    "PICTURES",
    "SCHOOLS",
    "SEES",
    "SHEETS",
    "VERDICTS",
    "VERDICT_WORDS",
    "Asks",
    "Combine",
    "Contact",
    "Driver",
    "Focusing",
    "Hatch",
    "Hold",
    "Kept",
    "KeyColour",
    "Kind",
    "LineKind",
    "Made",
    "MadeFrom",
    "MarkKind",
    "MarkWords",
    "Quantity",
    "Reference",
    "School",
    "Shape",
    "Unit",
    "Units",
    "Verdict",
]
