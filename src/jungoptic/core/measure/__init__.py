"""What pictures and their files tell when they are measured: frames in, numbers and words out."""

from .codes import read_codes
from .room import takes_left
from .whose import By, CameraClock, Clip, LoggedTake, Placed, Sure, camera_clock, place_clips

__all__ = [
    "By",
    "CameraClock",
    "Clip",
    "LoggedTake",
    "Placed",
    "Sure",
    "camera_clock",
    "place_clips",
    "read_codes",
    "takes_left",
]
