"""Frames that were shot, measured: as amounts, in words, drawn over the picture."""

from . import backing, over_time, standing
from .fine import EdgeBeside, GrainBeside
from .joins import MINUTES_A_KEY, LineWatched, Patches, SeamFound
from .lights import BallLit, GreyBeside
from .measured import Sized, as_measurement, in_words, with_error, within
from .photographed import Photographed, photograph_read
from .spotted import LineTold, Spot, over_frames
from .verdicts import ITEM_OF, AmountJudged, judged

_TELL = (backing, over_time, standing)
"""They tell what :mod:`~jungoptic.core.measure` returns: loading them is enough."""

__all__ = [
    "ITEM_OF",
    "MINUTES_A_KEY",
    "AmountJudged",
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
    "judged",
    "over_frames",
    "photograph_read",
    "with_error",
    "within",
]
