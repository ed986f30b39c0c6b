"""What pictures and their files tell when they are measured: frames in, numbers and words out."""

from .codes import read_codes
from .lens import FEWEST_PICTURES, Board, BoardSeen, LensMeasured, board_seen, lens_of_boards
from .recorder import NoiseMeasured, RowsMeasured, noise_of_pairs, pupil_offset_m, row_time
from .room import CardRoom, takes_left
from .whose import By, CameraClock, Clip, LoggedTake, Placed, Sure, camera_clock, place_clips

__all__ = [
    "FEWEST_PICTURES",
    "Board",
    "BoardSeen",
    "By",
    "CameraClock",
    "CardRoom",
    "Clip",
    "LensMeasured",
    "LoggedTake",
    "NoiseMeasured",
    "Placed",
    "RowsMeasured",
    "Sure",
    "board_seen",
    "camera_clock",
    "lens_of_boards",
    "noise_of_pairs",
    "place_clips",
    "pupil_offset_m",
    "read_codes",
    "row_time",
    "takes_left",
]
