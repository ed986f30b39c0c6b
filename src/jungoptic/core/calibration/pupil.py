"""Where a lens has its entrance pupil, from two marks in line, a pan, and where they are seen then."""

from __future__ import annotations

import math
from dataclasses import dataclass

import cv2
import numpy as np
import numpy.typing as npt
from scipy.optimize import least_squares

from .lens import DICTIONARY

NEAR_MARK, FAR_MARK = 48, 49
"""Markers of the dictionary that no board has."""
_TURNED_LEAST_DEG = 3.0
_OFF_PX = 0.15
"""What the middle of a mark may be off, two deviations."""
_FURTHEST_M = 0.5
_LOOKS = 8
"""Steps in which the bend is undone: each leaves less than a tenth."""


@dataclass(frozen=True, slots=True)
class MarksSeen:
    """Where the middles of the near and the far mark are seen, recorded px from the middle of the frame, bent
    as the lens bends them.
    """

    near_px: tuple[float, float]
    far_px: tuple[float, float]
    size_px: tuple[int, int]


@dataclass(frozen=True, slots=True)
class PupilMeasured:
    """The entrance pupil before the axis of the head (negative: behind it), mm, and by how far the head was
    turned, °. ``off`` are two deviations.
    """

    offset_mm: float
    off_mm: float
    pan_deg: float


def mark_picture(number: int, side_px: int = 600) -> npt.NDArray[np.uint8]:
    """A mark as it is printed, without its white border.

    Parameters
    ----------
    number : int
        ``NEAR_MARK`` or ``FAR_MARK``.
    side_px : int, default 600
        How wide and high.

    Returns
    -------
    ndarray of uint8, shape (side, side)
        Black and white.

    References
    ----------
    charuco

    Examples
    --------
    >>> mark_picture(NEAR_MARK, 60).shape
    (60, 60)
    """
    marks = cv2.aruco.getPredefinedDictionary(DICTIONARY)
    return np.asarray(cv2.aruco.generateImageMarker(marks, number, side_px), np.uint8)


def marks_seen(picture: npt.ArrayLike) -> MarksSeen | None:
    """Where both marks are seen in a picture.

    Parameters
    ----------
    picture : ndarray of uint8, shape (h, w)
        Codes of 8 bits.

    Returns
    -------
    MarksSeen or None
        None where one of them is not seen.

    References
    ----------
    charuco

    Examples
    --------
    >>> marks_seen(np.full((60, 80), 128, np.uint8)) is None
    True
    """
    frame = np.ascontiguousarray(picture, np.uint8)
    how = cv2.aruco.DetectorParameters()
    how.cornerRefinementMethod = cv2.aruco.CORNER_REFINE_SUBPIX
    finder = cv2.aruco.ArucoDetector(cv2.aruco.getPredefinedDictionary(DICTIONARY), how)
    corners, numbers, _ = finder.detectMarkers(frame)
    height, width = frame.shape[:2]
    middles = {
        int(number): _middle(np.asarray(each, np.float64).reshape(4, 2), width, height)
        for number, each in zip(np.ravel(numbers) if corners else (), corners, strict=True)
    }
    if not {NEAR_MARK, FAR_MARK} <= middles.keys():
        return None
    return MarksSeen(middles[NEAR_MARK], middles[FAR_MARK], (width, height))


def _middle(corners: npt.NDArray[np.float64], width: int, height: int) -> tuple[float, float]:
    """Where the diagonals of a mark meet, from the middle of the frame."""
    a, b, c, d = corners
    along = np.linalg.solve(np.column_stack([c - a, b - d]), b - a)
    x, y = a + along[0] * (c - a)
    return float(x + 0.5 - width / 2.0), float(y + 0.5 - height / 2.0)


def pupil_of_marks(
    before: MarksSeen,
    after: MarksSeen,
    f_px: float,
    near_m: float,
    far_m: float,
    *,
    f_off: float = 0.0,
    bend_pct: float = 0.0,
    tape_off_m: float = 0.003,
) -> PupilMeasured:
    """How far the entrance pupil stands before the axis of a pan, from two marks before and after it.

    To first order e = Δ / (f·sin(pan)·(1/near − 1/far)), Δ the shift between the marks; solved exactly for
    offset and pan together, since the pupil comes nearer to the marks too, and they need not stand in line to
    the pixel.

    Parameters
    ----------
    before, after : MarksSeen
        Before and after the head was turned.
    f_px : float
        Focal length, recorded px, as it was measured.
    near_m, far_m : float
        The marks from the axis of the head, along the line of sight before the pan.
    f_off : float, default 0
        What the focal length may be off, as a share.
    bend_pct : float, default 0
        Distortion at the corner of the frame.
    tape_off_m : float, default 0.003
        What the tape may be off.

    Returns
    -------
    PupilMeasured
        Offset and pan.

    Raises
    ------
    ValueError
        Where nothing was turned, the marks stand as far as each other, or no pupil makes such a shift.

    References
    ----------
    pupil_by_pan, pinhole, distortion_scale

    Examples
    --------
    >>> size = (1920, 1080)
    >>> before, after = MarksSeen((0, 0), (0, 0), size), MarksSeen((-1108.5, 0), (-1050.9, 0), size)
    >>> round(pupil_of_marks(before, after, 2860.0, 0.6, 4.0).pan_deg, 1)
    20.0
    """
    if before.size_px != after.size_px:
        raise ValueError("the two pictures are not of one size: take both with one recording")
    if not 0 < near_m < far_m / 1.5:
        raise ValueError("put the far mark at more than one and a half times the way of the near one")
    straight = _tangents(before, f_px, bend_pct)
    turned = _tangents(after, f_px, bend_pct)
    offset, pan = _solved(straight, turned, (near_m, far_m))
    if abs(math.degrees(pan)) < _TURNED_LEAST_DEG:
        raise ValueError("the head was hardly turned: turn it so that both marks come near the frame's edge")
    if abs(offset) > min(_FURTHEST_M, near_m / 2.0):
        raise ValueError("no lens makes such a shift: measure the ways to both marks again")
    apart = [
        _solved(straight, turned + np.array([_OFF_PX / f_px, 0.0]), (near_m, far_m)),
        _solved(straight + np.array([0.0, _OFF_PX / f_px]), turned, (near_m, far_m)),
        _solved(straight / (1.0 + f_off), turned / (1.0 + f_off), (near_m, far_m)),
        _solved(straight, turned, (near_m + tape_off_m, far_m)),
        _solved(straight, turned, (near_m, far_m + tape_off_m)),
    ]
    off = math.sqrt(sum((other[0] - offset) ** 2 for other in apart))
    return PupilMeasured(1000.0 * offset, 1000.0 * off, math.degrees(pan))


def _tangents(seen: MarksSeen, f_px: float, bend_pct: float) -> npt.NDArray[np.float64]:
    """How far right of the line of sight both marks are seen, the bend undone."""
    corner = math.hypot(*seen.size_px) / 2.0
    sides = []
    for x, y in (seen.near_px, seen.far_px):
        plain_x, plain_y = x, y
        for _ in range(_LOOKS):
            scale = 1.0 + bend_pct / 100.0 * (plain_x**2 + plain_y**2) / corner**2
            plain_x, plain_y = x / scale, y / scale
        sides.append(plain_x / f_px)
    return np.array(sides)


def _solved(
    straight: npt.NDArray[np.float64], turned: npt.NDArray[np.float64], ways_m: tuple[float, float]
) -> tuple[float, float]:
    away = np.array(ways_m)

    def left(unknown: npt.NDArray[np.float64]) -> npt.NDArray[np.float64]:
        offset, pan = unknown
        across = straight * (away - offset)
        x, z = across - offset * math.sin(pan), away - offset * math.cos(pan)
        ahead = x * math.sin(pan) + z * math.cos(pan)
        return np.asarray((x * math.cos(pan) - z * math.sin(pan)) / ahead - turned, np.float64)

    begin = math.atan(float(straight[1])) - math.atan(float(turned[1]))
    best = least_squares(left, [0.0, begin], xtol=1e-12, ftol=1e-12, gtol=1e-12)
    return float(best.x[0]), float(best.x[1])
