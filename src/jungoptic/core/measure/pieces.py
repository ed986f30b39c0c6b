"""Where a piece of a frame went: found by correlation, then by least squares. Frames are smoothed stops."""

from __future__ import annotations

import math

import cv2
import numpy as np

from .amounts import TWICE
from .pixels import MAD, Array, Image, laid_by, spline_of
from .tiles import SMOOTH_PX

_REACH_PX, _LEAST_PIECE_PX, _SAME_PIECE, _ROUNDS = 32, 10, 0.6, 6
"""How far a piece is looked for, its least side, how alike it has to be, how often it is laid."""
_LEAST_OFF_PX = 0.03
_AROUND_PX = 12
"""So far about a point its picture goes."""
_STANDS, _FEWEST, _EVERY = 3.0, 40, 4
"""Where a picture differs by fewer deviations it stands; where fewer pixels do, all of a piece does."""
_OPEN_PX = 1.0
"""A point that is told no better is not told."""
_TUKEY = 4.685
"""Deviations beyond which a pixel counts for nothing: 95 % of least squares where nothing is off."""

Off = tuple[float, float, float]
"""To the right and down, and two deviations, px."""
_NOT_THERE: Off = (math.nan, math.nan, math.nan)


def box_off(reference: Image, laid: Image, box: tuple[float, float, float, float]) -> Off:
    """How far what is in a box (left, top, right, bottom, shares of the frame) went; NaN where it is not."""
    height, width = reference.shape
    left, right = (round(each * width) for each in (box[0], box[2]))
    top, bottom = (round(each * height) for each in (box[1], box[3]))
    if min(right - left, bottom - top) < _LEAST_PIECE_PX:
        return _NOT_THERE
    return _off(reference, laid, (left, top, right, bottom), (0, 0), np.ones((bottom - top, right - left)))


def point_off(reference: Image, frame: Image, place: tuple[float, float], step: tuple[float, float]) -> Off:
    """How far what is about a point went, looked for about where its step takes it; NaN where it is not."""
    height, width = reference.shape
    x, y = round(place[0]), round(place[1])
    box = max(x - _AROUND_PX, 0), max(y - _AROUND_PX, 0), x + _AROUND_PX + 1, y + _AROUND_PX + 1
    if min(min(box[2], width) - box[0], min(box[3], height) - box[1]) < _LEAST_PIECE_PX:
        return _NOT_THERE
    goes = _goes(reference, frame, box)
    if goes.sum() < _FEWEST:
        return _off(reference, frame, box, (0, 0), np.ones_like(goes))
    went = _off(reference, frame, box, (round(step[0]), round(step[1])), goes)
    return went if went[2] < _OPEN_PX else _NOT_THERE


def _goes(reference: Image, frame: Image, box: tuple[int, int, int, int]) -> Array:
    """1 where a piece is another picture in the frame, 0 where it stands: what is behind the figure does."""
    left, top, right, bottom = box
    # most of a set stands, whatever the figure fills about the point
    sigma = MAD * float(np.median(np.abs(frame[::_EVERY, ::_EVERY] - reference[::_EVERY, ::_EVERY])))
    off = np.abs(frame[top:bottom, left:right] - reference[top:bottom, left:right])
    return np.asarray(off > _STANDS * sigma, np.float64)


def _off(
    reference: Image,
    laid: Image,
    box: tuple[int, int, int, int],
    step: tuple[int, int],
    weights: Array,
) -> Off:
    left, top, right, bottom = box
    piece = reference[top:bottom, left:right]
    from_x, from_y = max(left + step[0] - _REACH_PX, 0), max(top + step[1] - _REACH_PX, 0)
    room = laid[from_y : max(bottom + step[1] + _REACH_PX, 0), from_x : max(right + step[0] + _REACH_PX, 0)]
    if room.shape[0] < piece.shape[0] or room.shape[1] < piece.shape[1]:
        return _NOT_THERE
    room = np.nan_to_num(room, nan=float(piece.mean()))
    weights = weights[: piece.shape[0], : piece.shape[1]]
    alike = cv2.matchTemplate(
        np.ascontiguousarray(room),
        np.ascontiguousarray(piece),
        cv2.TM_CCOEFF_NORMED,
        mask=np.asarray(weights, np.float32),
    )
    _, best, _, (x, y) = cv2.minMaxLoc(np.nan_to_num(alike, posinf=0.0, neginf=0.0))
    if best < _SAME_PIECE:
        return _NOT_THERE
    across = np.array([x - (left - from_x), y - (top - from_y)], np.float64)
    spline = spline_of(room)
    off = math.nan
    for _ in range(_ROUNDS):
        by = np.array([[1.0, 0.0, across[0] + left - from_x], [0.0, 1.0, across[1] + top - from_y]])
        seen = laid_by(spline, by)[: piece.shape[0], : piece.shape[1]]
        moved, off = _step(piece, seen, weights)
        across += moved
        if float(np.abs(moved).max()) < 0.01:
            break
    return float(across[0]), float(across[1]), math.hypot(TWICE * off, _LEAST_OFF_PX)


def _step(piece: Image, seen: Image, weights: Array) -> tuple[Array, float]:
    right, down = (
        0.5
        * (cv2.Sobel(piece, cv2.CV_32F, *way, scale=0.125) + cv2.Sobel(seen, cv2.CV_32F, *way, scale=0.125))
        for way in ((1, 0), (0, 1))
    )
    counts = np.isfinite(seen) & np.isfinite(right) & np.isfinite(down) & (weights > 0.0)
    if counts.sum() < _FEWEST:
        return np.zeros(2), math.nan
    sides = np.stack([right[counts], down[counts]], 1).astype(np.float64)
    differs = (seen - piece)[counts].astype(np.float64)
    weight = _tukey(differs)
    sides -= np.average(sides, axis=0, weights=weight)
    differs -= np.average(differs, weights=weight)
    weighed = sides * weight[:, None]
    inverse = np.linalg.pinv(sides.T @ weighed)
    step = -inverse @ (weighed.T @ differs)
    left = differs + sides @ step
    # smoothing spreads each pixel's noise over 4πσ² of them
    free = max(float(weight.sum()) / (4.0 * math.pi * SMOOTH_PX**2), 3.0)
    spread = float(np.average(left**2, weights=weight)) * len(left) / free
    return step, math.sqrt(float(np.trace(inverse)) * spread)


def _tukey(differs: Array) -> Array:
    """How much each pixel counts by how far off it is: the biweight."""
    middle = float(np.median(differs))
    sigma = max(MAD * float(np.median(np.abs(differs - middle))), 1e-6)
    share = np.clip(np.abs(differs - middle) / (_TUKEY * sigma), 0.0, 1.0)
    return np.asarray((1.0 - share**2) ** 2 + 1e-9, np.float64)
