"""Focus. Plain formulas: mm, metres from the entrance pupil, f-numbers; nothing checked.

Source: thin_lens.
"""

from __future__ import annotations

import math
from collections.abc import Iterator

from .frame import image_distance_mm


def blur_disc_mm(
    focal_length_mm: float,
    f_number: float,
    focus_distance_m: float,
    distance_m: float,
    focusing: str = "unit",
) -> float:
    """Blur disc on the sensor, mm: ``(f/N) · v · |1/d − 1/d_f|``, v the image distance. Either distance may
    be ``math.inf``.

    For a lens that focuses as a unit this is ``(f/N) · f/(d_f − f) · |d − d_f|/d``; a lens that keeps its
    view has v = f.
    """
    nearness = 0.0 if math.isinf(distance_m) else 1.0 / distance_m
    focus_nearness = 0.0 if math.isinf(focus_distance_m) else 1.0 / focus_distance_m
    v = image_distance_mm(focal_length_mm, focus_distance_m, focusing)
    return focal_length_mm / f_number * v * abs(nearness - focus_nearness) / 1000.0


def ground_tilt_deg(focal_length_mm: float, height_m: float) -> float:
    """Tilt of the lens that lays the plane of focus on the ground for a level camera, degrees: ``asin(f /
    height)``. Source: scheimpflug.
    """
    return math.degrees(math.asin(focal_length_mm / (1000.0 * height_m)))


def hyperfocal_m(focal_length_mm: float, f_number: float, circle_mm: float) -> float:
    """Hyperfocal distance, metres: ``f²/(N·c) + f``. Source: depth_tables."""
    return (focal_length_mm**2 / (f_number * circle_mm) + focal_length_mm) / 1000.0


def depth_limits_m(
    focal_length_mm: float, f_number: float, circle_mm: float, focus_distance_m: float
) -> tuple[float, float]:
    """Nearest and farthest distance whose blur disc is at most ``circle_mm``; the far one may be
    ``math.inf``.

    ``near = d(H − f)/(H + d − 2f)``, ``far = d(H − f)/(H − d)``. Source: depth_tables.
    """
    hyper = 1000.0 * hyperfocal_m(focal_length_mm, f_number, circle_mm)
    if math.isinf(focus_distance_m):
        return (hyper - focal_length_mm) / 1000.0, math.inf
    focus = 1000.0 * focus_distance_m
    near = focus * (hyper - focal_length_mm) / (hyper + focus - 2 * focal_length_mm)
    far = focus * (hyper - focal_length_mm) / (hyper - focus) if focus < hyper else math.inf
    return near / 1000.0, far / 1000.0


def focus_from_near_m(focal_length_mm: float, f_number: float, circle_mm: float, near_m: float) -> float:
    """Focus distance whose near limit is ``near_m``; ``math.inf`` when even that is not far enough.

    Solves ``(f²/N)·(d − n)/(n·(d − f)) = c`` for d. Source: thin_lens.
    """
    near = 1000.0 * near_m
    k = focal_length_mm**2 / (f_number * circle_mm)
    focus = near * (k - focal_length_mm) / (k - near) if near < k else math.inf
    return focus / 1000.0


def walk_passes(
    focal_length_mm: float, f_number: float, circle_mm: float, near_m: float, far_m: float
) -> Iterator[tuple[float, float, float]]:
    """Focus passes from the near end until ``far_m`` is held: (focus, near limit, far limit), metres, the
    last may be infinite.

    Each pass begins where the last one ends, so the count is the least. Source: thin_lens.
    """
    start = near_m
    while True:
        at = focus_from_near_m(focal_length_mm, f_number, circle_mm, start)
        end = depth_limits_m(focal_length_mm, f_number, circle_mm, at)[1]
        yield at, start, end
        if end >= far_m * (1 - 1e-9):
            return
        start = end
