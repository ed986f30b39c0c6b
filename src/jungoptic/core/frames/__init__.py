"""Frame by frame: the exposure sheet, what is said of a frame before the next is moved, and the pace."""

from .exposures import first_frames, holds_on, pose_at
from .figure import delivered_of, planned_figure
from .pace import Pace, pace_of
from .watch import LIMITS, Against, Box, MarkedPiece, Since, Warned, Watched, WatchedFor, watched

__all__ = [
    "LIMITS",
    "Against",
    "Box",
    "MarkedPiece",
    "Pace",
    "Since",
    "Warned",
    "Watched",
    "WatchedFor",
    "delivered_of",
    "first_frames",
    "holds_on",
    "pace_of",
    "planned_figure",
    "pose_at",
    "watched",
]
