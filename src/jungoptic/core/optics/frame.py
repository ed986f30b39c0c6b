"""The delivered pixel. Plain formulas: floats in, floats out, nothing checked.

Lengths on the sensor in mm, distances in metres from the entrance pupil, sizes in delivered pixels.
"""

from __future__ import annotations

import math

MOVES = {"unit": 1.0, "constant_view": 0.0}
"""How much of its extension a lens moves by as it focuses, by the way it does."""


def image_distance_mm(focal_length_mm: float, focus_distance_m: float, focusing: str = "unit") -> float:
    """Distance from the lens to the image: ``v = f·d/(d − f)``; ``v = f`` for a lens that keeps its view.

    Parameters
    ----------
    focal_length_mm : float
        Focal length, mm.
    focus_distance_m : float
        Where the lens is focused, metres from the entrance pupil; may be ``math.inf``.
    focusing : {"unit", "constant_view"}, default "unit"
        Whether the lens moves as a unit or keeps its angle of view (no breathing).

    Returns
    -------
    float
        Image distance, mm.

    References
    ----------
    thin_lens

    Examples
    --------
    >>> round(image_distance_mm(100, 0.5), 1)
    125.0
    """
    return focal_length_mm * (1.0 + extension(focal_length_mm, focus_distance_m, focusing))


def extension(focal_length_mm: float, focus_distance_m: float, focusing: str = "unit") -> float:
    """How far focusing moves the image away from the lens, in focal lengths: ``v/f − 1``.

    For a lens that moves as a unit it is the magnification. A lens that keeps its view keeps its image
    distance too, so close focus costs it neither light nor stop.

    Parameters
    ----------
    focal_length_mm : float
        Focal length, mm.
    focus_distance_m : float
        Where the lens is focused, metres from the entrance pupil; may be ``math.inf``.
    focusing : {"unit", "constant_view"}, default "unit"
        Whether the lens moves as a unit or keeps its angle of view.

    Returns
    -------
    float
        0 at infinity; 1 at life size.

    References
    ----------
    thin_lens

    Examples
    --------
    >>> round(extension(100, 0.5), 2), extension(100, 0.5, "constant_view")
    (0.25, 0.0)
    """
    moves = MOVES[focusing] if isinstance(focusing, str) else focusing
    return moves * magnification(focal_length_mm, focus_distance_m)


def magnification(focal_length_mm: float, focus_distance_m: float) -> float:
    """Image size over object size at the plane of focus: ``m = f/(d − f)``.

    Parameters
    ----------
    focal_length_mm : float
        Focal length, mm.
    focus_distance_m : float
        Where the lens is focused, metres from the entrance pupil; may be ``math.inf``.

    Returns
    -------
    float
        Magnification; 1 is life size, 0 at infinity.

    References
    ----------
    thin_lens

    Examples
    --------
    >>> magnification(100, 0.2)
    1.0
    """
    return focal_length_mm / (1000.0 * focus_distance_m - focal_length_mm)


def angle_of_view_deg(extent_mm: float, image_distance_mm: float) -> float:
    """Angle that an extent of the sensor sees: ``2·atan(extent / 2v)``.

    Parameters
    ----------
    extent_mm : float
        Width, height or diagonal of the sensor's part, mm.
    image_distance_mm : float
        Distance from the lens to the image, mm.

    Returns
    -------
    float
        Full angle, degrees.

    References
    ----------
    pinhole

    Examples
    --------
    >>> round(angle_of_view_deg(36, 50), 1)
    39.6
    """
    return math.degrees(2.0 * math.atan(extent_mm / (2.0 * image_distance_mm)))


def focal_length_of_view_mm(
    extent_mm: float, view_deg: float, focus_distance_m: float = math.inf, focusing: str = "unit"
) -> float:
    """The lens that sees so much.

    ``f = v·d/(v + d)`` with ``v = w/(2·tan(θ/2))``; ``f = v`` for one that keeps its view.

    Parameters
    ----------
    extent_mm : float
        What is used of the gate, mm.
    view_deg : float
        Angle of view across it, degrees.
    focus_distance_m : float, default inf
        Where the lens is focused, metres.
    focusing : {"unit", "constant_view"}, default "unit"
        Whether the lens moves as a unit or keeps its angle of view.

    Returns
    -------
    float
        Focal length, mm.

    References
    ----------
    thin_lens, pinhole

    Examples
    --------
    >>> round(focal_length_of_view_mm(36, 53.13), 1)
    36.0
    """
    v = extent_mm / (2.0 * math.tan(math.radians(view_deg) / 2.0))
    if math.isinf(focus_distance_m) or not MOVES[focusing]:
        return v
    return v * focus_distance_m / (v / 1000.0 + focus_distance_m)


def focal_length_px(image_distance_mm: float, extraction_width_mm: float, delivery_width_px: float) -> float:
    """Focal length in delivered pixels: ``f_px = v·W/G``.

    Parameters
    ----------
    image_distance_mm : float
        Distance v from the lens to the image, mm.
    extraction_width_mm : float
        Width G of gate that ends in the delivery, mm.
    delivery_width_px : float
        Width W of the delivered frame, px.

    Returns
    -------
    float
        Focal length, delivered px.

    References
    ----------
    pinhole

    Examples
    --------
    >>> round(focal_length_px(35, 23.5, 1920))
    2860
    """
    return image_distance_mm * delivery_width_px / extraction_width_mm


def seen_m(extent_mm: float, image_distance_mm: float, distance_m: float) -> float:
    """Width or height that the frame sees at a distance: ``d·extent/v``.

    Parameters
    ----------
    extent_mm : float
        Width or height of the sensor's part, mm.
    image_distance_mm : float
        Distance v from the lens to the image, mm.
    distance_m : float
        Distance d of the thing, metres from the entrance pupil.

    Returns
    -------
    float
        What is seen there, metres.

    References
    ----------
    pinhole

    Examples
    --------
    >>> round(seen_m(23.5, 35, 12), 2)
    8.06
    """
    return distance_m * extent_mm / image_distance_mm


FULL_FRAME_DIAGONAL_MM = math.hypot(36.0, 24.0)


def gate_of_equivalent_mm(focal_length_mm: float, equivalent_mm: float, aspect: float) -> tuple[float, float]:
    """The gate that a photograph was taken on: ``diagonal = 43.27 · f / f35``.

    Parameters
    ----------
    focal_length_mm : float
        Focal length, mm.
    equivalent_mm : float
        Focal length that frames alike on 36 × 24 mm, by the diagonal, mm.
    aspect : float
        Width of the photograph divided by its height.

    Returns
    -------
    width_mm : float
        Of the part of the sensor that the photograph shows, mm. The tag is a whole number of millimetres:
        half of one is what the answer may be off by.
    height_mm : float
        Of that part, mm.

    References
    ----------
    exif

    Examples
    --------
    >>> [round(side, 1) for side in gate_of_equivalent_mm(6.9, 26.0, 4 / 3)]
    [9.2, 6.9]
    """
    diagonal = FULL_FRAME_DIAGONAL_MM * focal_length_mm / equivalent_mm
    height = diagonal / math.hypot(aspect, 1.0)
    return aspect * height, height
