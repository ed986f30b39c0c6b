"""Own kit measured in pictures: frames in, numbers and words for the kit out."""

from .bands import RowsMeasured, frame_rate, ripple_depth, row_time
from .curve import CurveMeasured, curve_of_series
from .evenness import corner_stops, vignetting_of_flats
from .guided import ENGRAVED_OFF, Asked, Guide, Instrument, MeasuredValue, Outcome, guides, usual
from .lens import FEWEST_PICTURES, Board, BoardSeen, LensMeasured, board_seen, lens_of_boards
from .noise import Level, NoiseMeasured, level_of_pair, noise_of_levels
from .outcome import focal_of_px, outcome
from .pupil import FAR_MARK, NEAR_MARK, MarksSeen, PupilMeasured, mark_picture, marks_seen, pupil_of_marks
from .turning import ShutterMeasured, shutter_of_frames
from .watched import watch

__all__ = [
    "ENGRAVED_OFF",
    "FAR_MARK",
    "FEWEST_PICTURES",
    "NEAR_MARK",
    "Asked",
    "Board",
    "BoardSeen",
    "CurveMeasured",
    "Guide",
    "Instrument",
    "LensMeasured",
    "Level",
    "MarksSeen",
    "MeasuredValue",
    "NoiseMeasured",
    "Outcome",
    "PupilMeasured",
    "RowsMeasured",
    "ShutterMeasured",
    "board_seen",
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
    "pupil_of_marks",
    "ripple_depth",
    "row_time",
    "shutter_of_frames",
    "usual",
    "vignetting_of_flats",
    "watch",
]
