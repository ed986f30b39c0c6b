"""The delivered pixel. Plain formulas: floats in, floats out, nothing checked.

Lengths on the sensor in mm, distances in metres from the entrance pupil, sizes in delivered pixels.
"""

from __future__ import annotations

import math


def image_distance_mm(focal_length_mm: float, focus_distance_m: float, focusing: str = "unit") -> float:
    """Distance from the lens to the image, mm: ``v = f·d/(d − f)`` for a lens that focuses as a unit.

    ``constant_view`` keeps ``v = f`` (no breathing). ``focus_distance_m`` may be ``math.inf``. Source:
    thin_lens.
    """
    if focusing == "constant_view" or math.isinf(focus_distance_m):
        return focal_length_mm
    distance_mm = 1000.0 * focus_distance_m
    return focal_length_mm * distance_mm / (distance_mm - focal_length_mm)


def magnification(focal_length_mm: float, focus_distance_m: float) -> float:
    """Image size over object size at the plane of focus, ``m = f/(d − f)``. Source: thin_lens."""
    if math.isinf(focus_distance_m):
        return 0.0
    return focal_length_mm / (1000.0 * focus_distance_m - focal_length_mm)


def angle_of_view_deg(extent_mm: float, image_distance_mm: float) -> float:
    """Angle that ``extent_mm`` of sensor sees, degrees: ``2·atan(extent / 2v)``. Source: pinhole."""
    return math.degrees(2.0 * math.atan(extent_mm / (2.0 * image_distance_mm)))


def focal_length_px(image_distance_mm: float, extraction_width_mm: float, delivery_width_px: float) -> float:
    """Focal length in delivered pixels: ``f_px = v·W/G``, G the width of gate that ends in the delivery.

    Source: pinhole.
    """
    return image_distance_mm * delivery_width_px / extraction_width_mm


def seen_m(extent_mm: float, image_distance_mm: float, distance_m: float) -> float:
    """Width or height that the frame sees at ``distance_m``, metres: ``d·extent/v``. Source: pinhole."""
    return distance_m * extent_mm / image_distance_mm
