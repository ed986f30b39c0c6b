"""Frames measured: pictures in, amounts with their errors out."""

from .recorded import signal_of_planes
from .registered import FEWEST_POINTS, Registered, Textured, registered, textured

__all__ = [
    "FEWEST_POINTS",
    "Registered",
    "Textured",
    "registered",
    "signal_of_planes",
    "textured",
]
