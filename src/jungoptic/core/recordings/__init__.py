"""Files of a camera: the codes that they show, which take each is, what still goes onto a card."""

from .codes import read_codes
from .room import CardRoom, takes_left
from .whose import By, CameraClock, Clip, LoggedTake, Placed, Sure, camera_clock, place_clips

__all__ = [
    "By",
    "CameraClock",
    "CardRoom",
    "Clip",
    "LoggedTake",
    "Placed",
    "Sure",
    "camera_clock",
    "place_clips",
    "read_codes",
    "takes_left",
]
