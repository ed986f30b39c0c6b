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
    """Blur disc on the sensor: ``(f/N) · v · |1/d − 1/d_f|``, v the image distance.

    For a lens that focuses as a unit this is ``(f/N) · f/(d_f − f) · |d − d_f|/d``; a lens that keeps its
    view has v = f.

    Parameters
    ----------
    focal_length_mm : float
        Focal length, mm.
    f_number : float
        Stop of the lens.
    focus_distance_m, distance_m : float
        Where the lens is focused and where the thing stands, metres from the entrance pupil; either may be
        ``math.inf``.
    focusing : {"unit", "constant_view"}, default "unit"
        Whether the lens moves as a unit or keeps its angle of view.

    Returns
    -------
    float
        Diameter of the disc, mm.

    References
    ----------
    thin_lens

    Examples
    --------
    >>> round(blur_disc_mm(35, 8, 12, 18), 4)
    0.0043
    """
    v = image_distance_mm(focal_length_mm, focus_distance_m, focusing)
    return focal_length_mm / f_number * v * abs(1.0 / distance_m - 1.0 / focus_distance_m) / 1000.0


def ground_tilt_deg(focal_length_mm: float, height_m: float) -> float:
    """Tilt of the lens that lays the plane of focus on the ground for a level camera: ``asin(f / height)``.

    Parameters
    ----------
    focal_length_mm : float
        Focal length, mm.
    height_m : float
        Lens above the ground, metres; more than the focal length.

    Returns
    -------
    float
        Tilt of the lens against the sensor, degrees.

    Raises
    ------
    ValueError
        If the lens is nearer to the ground than its focal length.

    References
    ----------
    scheimpflug

    Examples
    --------
    >>> round(ground_tilt_deg(35, 0.133), 2)
    15.26
    """
    return math.degrees(math.asin(focal_length_mm / (1000.0 * height_m)))


def hyperfocal_m(focal_length_mm: float, f_number: float, circle_mm: float) -> float:
    """Hyperfocal distance: ``f²/(N·c) + f``.

    Parameters
    ----------
    focal_length_mm : float
        Focal length, mm.
    f_number : float
        Stop of the lens.
    circle_mm : float
        Circle of confusion, mm.

    Returns
    -------
    float
        Distance that holds infinity just sharp, metres from the entrance pupil.

    References
    ----------
    depth_tables

    Examples
    --------
    >>> round(hyperfocal_m(50, 8, 0.025), 2)
    12.55
    """
    return (focal_length_mm**2 / (f_number * circle_mm) + focal_length_mm) / 1000.0


def depth_limits_m(
    focal_length_mm: float, f_number: float, circle_mm: float, focus_distance_m: float
) -> tuple[float, float]:
    """Nearest and farthest distance whose blur disc is at most the circle of confusion.

    ``near = d(H − f)/(H + d − 2f)``, ``far = d(H − f)/(H − d)``.

    Parameters
    ----------
    focal_length_mm : float
        Focal length, mm.
    f_number : float
        Stop of the lens.
    circle_mm : float
        Circle of confusion, mm.
    focus_distance_m : float
        Where the lens is focused, metres from the entrance pupil; may be ``math.inf``.

    Returns
    -------
    near_m : float
        Metres from the entrance pupil.
    far_m : float
        Metres; ``math.inf`` from the hyperfocal distance on.

    References
    ----------
    depth_tables

    Examples
    --------
    >>> tuple(round(end, 2) for end in depth_limits_m(50, 8, 0.025, 3))
    (2.43, 3.93)
    """
    hyper = 1000.0 * hyperfocal_m(focal_length_mm, f_number, circle_mm)
    if math.isinf(focus_distance_m):
        return (hyper - focal_length_mm) / 1000.0, math.inf
    focus = 1000.0 * focus_distance_m
    near = focus * (hyper - focal_length_mm) / (hyper + focus - 2 * focal_length_mm)
    far = focus * (hyper - focal_length_mm) / (hyper - focus) if focus < hyper else math.inf
    return near / 1000.0, far / 1000.0


def focus_from_near_m(focal_length_mm: float, f_number: float, circle_mm: float, near_m: float) -> float:
    """Focus distance whose near limit of depth is given.

    Solves ``(f²/N)·(d − n)/(n·(d − f)) = c`` for d.

    Parameters
    ----------
    focal_length_mm : float
        Focal length, mm.
    f_number : float
        Stop of the lens.
    circle_mm : float
        Circle of confusion, mm.
    near_m : float
        Near limit that is wanted, metres from the entrance pupil.

    Returns
    -------
    float
        Focus distance, metres; ``math.inf`` when even that is not far enough.

    References
    ----------
    thin_lens

    Examples
    --------
    >>> round(focus_from_near_m(50, 8, 0.025, 2.43), 2)
    3.0
    """
    near = 1000.0 * near_m
    k = focal_length_mm**2 / (f_number * circle_mm)
    focus = near * (k - focal_length_mm) / (k - near) if near < k else math.inf
    return focus / 1000.0


def walk_passes(
    focal_length_mm: float, f_number: float, circle_mm: float, near_m: float, far_m: float
) -> Iterator[tuple[float, float, float]]:
    """Focus passes from the front edge until the back edge is held, each beginning where the last one ends.

    The count is the least that holds it all.

    Parameters
    ----------
    focal_length_mm : float
        Focal length, mm.
    f_number : float
        Stop of the lens.
    circle_mm : float
        Circle of confusion, mm.
    near_m, far_m : float
        Ends of what must be held, metres from the entrance pupil.

    Yields
    ------
    tuple of float
        Where to focus, and the near and back edge that the pass holds, metres; the last may be ``math.inf``.

    References
    ----------
    thin_lens

    Examples
    --------
    >>> [round(focus, 2) for focus, near, far in walk_passes(50, 8, 0.025, 0.5, 0.6)]
    [0.52, 0.56, 0.61]
    """
    start = near_m
    while True:
        focus_m = focus_from_near_m(focal_length_mm, f_number, circle_mm, start)
        end = depth_limits_m(focal_length_mm, f_number, circle_mm, focus_m)[1]
        yield focus_m, start, end
        if end >= far_m * (1 - 1e-9):
            return
        start = end
