"""What pictures and their files tell when they are measured: frames in, numbers and words out."""

from .bands import RowsMeasured, frame_rate, ripple_depth, row_time
from .codes import read_codes
from .curve import CurveMeasured, curve_of_series
from .evenness import corner_stops, vignetting_of_flats
from .guided import ENGRAVED_OFF, Asked, Guide, Instrument, MeasuredValue, Outcome, guides, usual
from .lens import FEWEST_PICTURES, Board, BoardSeen, LensMeasured, board_seen, lens_of_boards
from .noise import Level, NoiseMeasured, level_of_pair, noise_of_levels
from .outcome import focal_of_px, outcome
from .pupil import (
    FAR_MARK,
    NEAR_MARK,
    MarksSeen,
    PupilMeasured,
    mark_picture,
    marks_seen,
    pupil_of_marks,
)
from .registered import FEWEST_POINTS, Registered, Textured, registered, textured
from .room import CardRoom, takes_left
from .turning import ShutterMeasured, shutter_of_frames
from .watched import watch
from .whose import By, CameraClock, Clip, LoggedTake, Placed, Sure, camera_clock, place_clips

__all__ = [
    "ENGRAVED_OFF",
    "FAR_MARK",
    "FEWEST_PICTURES",
    "FEWEST_POINTS",
    "NEAR_MARK",
    "Asked",
    "Board",
    "BoardSeen",
    "By",
    "CameraClock",
    "CardRoom",
    "Clip",
    "CurveMeasured",
    "Guide",
    "Instrument",
    "LensMeasured",
    "Level",
    "LoggedTake",
    "MarksSeen",
    "MeasuredValue",
    "NoiseMeasured",
    "Outcome",
    "Placed",
    "PupilMeasured",
    "Registered",
    "RowsMeasured",
    "ShutterMeasured",
    "Sure",
    "Textured",
    "board_seen",
    "camera_clock",
    "corner_stops",
    "curve_of_series",
    "focal_of_px",
    "frame_rate",
    "guides",
    "lens_of_boards",
    "level_of_pair",
    "mark_picture",
    "marks_seen",
    "noise_of_levels",
    "outcome",
    "place_clips",
    "pupil_of_marks",
    "read_codes",
    "registered",
    "ripple_depth",
    "row_time",
    "shutter_of_frames",
    "takes_left",
    "textured",
    "usual",
    "vignetting_of_flats",
    "watch",
]
