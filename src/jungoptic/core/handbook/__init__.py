"""The calculations of the job, each usable on its own. Importing this package registers them all."""

from . import exposure, frames, lens, light, motion, photograph, place, plate, scale, sheets

__all__ = ["exposure", "frames", "lens", "light", "motion", "photograph", "place", "plate", "scale", "sheets"]
