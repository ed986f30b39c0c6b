"""Frame by frame: the exposure sheet, what is said of a frame before the next is moved, and the pace."""

from .exposures import first_frames, holds_on, pose_at
from .figure import delivered_of, planned_figure, px_of_mm
from .hyperlapse import (
    Aimed,
    HyperPath,
    Rhythm,
    Station,
    aimed,
    drifts_px,
    rhythm_of,
    stations,
    transforms_csv,
)
from .pace import Pace, pace_of
from .rig import Leg, Turning, counted, leg_of, mm_per_turn, planned_mm, rig_positions, turnings
from .spacing import STROBES_PX, KeyPose, eased_share, settles, spaced, steps_px
from .watch import LIMITS, Against, Box, MarkedPiece, Since, Warned, Watched, WatchedFor, watched

__all__ = [
    "LIMITS",
    "STROBES_PX",
    "Against",
    "Aimed",
    "Box",
    "HyperPath",
    "KeyPose",
    "Leg",
    "MarkedPiece",
    "Pace",
    "Rhythm",
    "Since",
    "Station",
    "Turning",
    "Warned",
    "Watched",
    "WatchedFor",
    "aimed",
    "counted",
    "delivered_of",
    "drifts_px",
    "eased_share",
    "first_frames",
    "holds_on",
    "leg_of",
    "mm_per_turn",
    "pace_of",
    "planned_figure",
    "planned_mm",
    "pose_at",
    "px_of_mm",
    "rhythm_of",
    "rig_positions",
    "settles",
    "spaced",
    "stations",
    "steps_px",
    "transforms_csv",
    "turnings",
    "watched",
]
