"""Frames that were shot, measured: as amounts, in words, drawn over the picture."""

from . import backing, over_time, standing
from .fine import EdgeBeside, GrainBeside
from .joins import MINUTES_A_KEY, LineWatched, Patches, SeamFound
from .lights import BallLit, GreyBeside
from .measured import Sized, as_measurement, in_words, with_error, within
from .photographed import Photographed, photograph_read
from .spotted import LineTold, Spot, over_frames

_TELL = (backing, over_time, standing)
"""They tell what :mod:`~jungoptic.core.measure` returns: loading them is enough."""

__all__ = [
    "MINUTES_A_KEY",
    "BallLit",
    "EdgeBeside",
    "GrainBeside",
    "GreyBeside",
    "LineTold",
    "LineWatched",
    "Patches",
    "Photographed",
    "SeamFound",
    "Sized",
    "Spot",
    "as_measurement",
    "in_words",
    "over_frames",
    "photograph_read",
    "with_error",
    "within",
]
