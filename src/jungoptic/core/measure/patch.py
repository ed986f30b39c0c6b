"""What of the neighbouring frames covers a place of one frame best."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass

import cv2
import numpy as np
import numpy.typing as npt

from .pixels import Image, least_between, smoothed, stops_of

Box = tuple[int, int, int, int]

_RING_PX, _CLEAR_PX = 20, 4
"""What is held against each other around the place, and how far off it that begins."""
_REACH_PX = 24
_SMOOTH_PX = 1.2
_AS_GOOD_STOPS = 0.005
"""Of two that are as good the one that was named first is taken."""


@dataclass(frozen=True, slots=True)
class Patch:
    """A frame whose place, shifted by (right, down) px, covers a box: the gain that brings its light to that
    of the frame, stops, and what differs around the box after both, stops (rms) and px of a whole frame.
    """

    frame: int
    shift_px: tuple[float, float]
    gain_stops: float
    residual_stops: float
    covers: bool


def best_patch(
    frame: npt.ArrayLike, box: Box, others: Mapping[int, npt.ArrayLike], seam_stops: float = 0.05
) -> tuple[Patch, ...]:
    """Frames that cover a place, the best first.

    Parameters
    ----------
    frame : ndarray of float, shape (h, w)
        Linear light of the frame in which something is to be covered.
    box : tuple of (int, int, int, int)
        Left, top, width and height of the place, px.
    others : mapping of int to ndarray
        Linear light of its neighbours (h, w), by their numbers, the nearest first.
    seam_stops : float, default 0.05
        What may differ along the rim before the patch is seen.

    Returns
    -------
    tuple of Patch
        Each at the shift at which what lies around the place is most alike; sub-pixel by a parabola.

    Raises
    ------
    ValueError
        Where there are no others, or the place fills the frame.

    References
    ----------
    template_match

    Examples
    --------
    >>> board = cv2.GaussianBlur(np.random.default_rng(3).random((120, 200), np.float32), (0, 0), 2.0)
    >>> rod = board.copy()
    >>> rod[50:70, 90:110] = 0.0
    >>> best = best_patch(rod, (88, 48, 24, 24), {7: np.roll(board, 3, axis=1)})[0]
    >>> best.frame, [round(each) for each in best.shift_px], best.covers
    (7, [3, 0], True)
    """
    if not others:
        raise ValueError("there is no other frame to take it from")
    seen = smoothed(stops_of(frame), _SMOOTH_PX)
    left, top, width, height = box
    outer = (
        max(0, left - _RING_PX),
        max(0, top - _RING_PX),
        min(seen.shape[1], left + width + _RING_PX),
        min(seen.shape[0], top + height + _RING_PX),
    )
    ring = np.ones((outer[3] - outer[1], outer[2] - outer[0]), np.float32)
    x, y = left - outer[0], top - outer[1]
    ring[max(0, y - _CLEAR_PX) : y + height + _CLEAR_PX, max(0, x - _CLEAR_PX) : x + width + _CLEAR_PX] = 0.0
    if ring.sum() < 64:
        raise ValueError("the place fills the frame: nothing around it can be held against another")
    piece = seen[outer[1] : outer[3], outer[0] : outer[2]]
    told = [
        _patch(number, piece, ring, outer, smoothed(stops_of(other), _SMOOTH_PX), seam_stops)
        for number, other in others.items()
    ]
    return tuple(sorted(told, key=lambda each: each.residual_stops // _AS_GOOD_STOPS))


def _patch(number: int, piece: Image, ring: Image, outer: Box, other: Image, seam_stops: float) -> Patch:
    padded = cv2.copyMakeBorder(other, *((_REACH_PX,) * 4), cv2.BORDER_REPLICATE)
    within = padded[outer[1] : outer[3] + 2 * _REACH_PX, outer[0] : outer[2] + 2 * _REACH_PX]
    count = float(ring.sum())
    # variance of the difference over the ring, for every shift: a gain does not count
    cross = cv2.matchTemplate(within, (piece * ring).astype(np.float32), cv2.TM_CCORR)
    mean = cv2.matchTemplate(within, ring, cv2.TM_CCORR) / count
    square = cv2.matchTemplate(within * within, ring, cv2.TM_CCORR) / count
    own = float((piece * ring).sum()) / count
    power = float((piece * piece * ring).sum()) / count
    left = np.maximum(square - 2.0 * cross / count + power - (mean - own) ** 2, 0.0)
    row, column = np.unravel_index(int(left.argmin()), left.shape)
    across, down = least_between(left[row], int(column)), least_between(left[:, column], int(row))
    residual = math.sqrt(float(left[row, column]))
    return Patch(
        number,
        (across - _REACH_PX, down - _REACH_PX),
        float(own - mean[row, column]),
        residual,
        residual <= seam_stops,
    )
