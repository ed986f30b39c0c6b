"""Frames measured: pictures in, amounts with their errors out."""

from .registered import FEWEST_POINTS, Registered, Textured, registered, textured

__all__ = [
    "FEWEST_POINTS",
    "Registered",
    "Textured",
    "registered",
    "textured",
]
