"""The calculations of the job, each usable on its own, as cards. Importing this package registers them all.

The calculations themselves are found by name: :func:`jungoptic.core.calculation.find`.
"""

from . import exposure, frames, lens, light, motion, photograph, place, plate, scale, sheets
from .beforehand import Axis, Crossing, beforehand
from .cards import MOMENTS, CardField, around, example_of, fields_of, moment_of, record_fields
from .checks import CHECKS, Check

__all__ = [
    "CHECKS",
    "MOMENTS",
    "Axis",
    "CardField",
    "Check",
    "Crossing",
    "around",
    "beforehand",
    "example_of",
    "exposure",
    "fields_of",
    "frames",
    "lens",
    "light",
    "moment_of",
    "motion",
    "photograph",
    "place",
    "plate",
    "record_fields",
    "scale",
    "sheets",
]
