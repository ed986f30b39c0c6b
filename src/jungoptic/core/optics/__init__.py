"""Lens and frame: angle of view, the delivered pixel, focus, diffraction, close-up, projection.

Plain formulas: numbers in, numbers out, or arrays of them; nothing is checked. Lengths on the sensor in mm,
distances in metres from the entrance pupil.
"""

from .code import MODULES, code_reach_m, focused_reach_m
from .diffraction import airy_diameter_um, closeup_factor
from .focus import (
    blur_disc_mm,
    depth_limits_m,
    focus_from_near_m,
    ground_tilt_deg,
    hyperfocal_m,
    walk_passes,
)
from .frame import (
    angle_of_view_deg,
    extension,
    focal_length_of_view_mm,
    focal_length_px,
    gate_of_equivalent_mm,
    image_distance_mm,
    magnification,
    seen_m,
)
from .projection import project
from .sighting import (
    directions,
    focal_lengths,
    keys_deg,
    lens_heights_m,
    stand_m,
    turned_deg,
    upwards,
    vanishing_points,
)

__all__ = [
    "MODULES",
    "airy_diameter_um",
    "angle_of_view_deg",
    "blur_disc_mm",
    "closeup_factor",
    "code_reach_m",
    "depth_limits_m",
    "directions",
    "extension",
    "focal_length_of_view_mm",
    "focal_length_px",
    "focal_lengths",
    "focus_from_near_m",
    "focused_reach_m",
    "gate_of_equivalent_mm",
    "ground_tilt_deg",
    "hyperfocal_m",
    "image_distance_mm",
    "keys_deg",
    "lens_heights_m",
    "magnification",
    "project",
    "seen_m",
    "stand_m",
    "turned_deg",
    "upwards",
    "vanishing_points",
    "walk_passes",
]
