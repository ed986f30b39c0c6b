"""Shapes into pixels, exactly: how much of every pixel a polygon covers, and discs and lines of blur."""

from __future__ import annotations

import math
from functools import lru_cache

import cv2
import numpy as np
import numpy.typing as npt

from ..match.pose import Array
from .picture import Image

_ROWS_A_PIXEL = 8
_LINES = 32
_NARROW = 0.4

Box = tuple[int, int, int, int]


def coverage(points: Array, width: int, height: int) -> tuple[Image, Box] | None:
    """How much of every pixel a polygon covers, 0 to 1: exact along the rows, eight lines to a pixel.

    Parameters
    ----------
    points : ndarray, shape (n, 2)
        Corners, px from the top left of the picture; pixel (0, 0) goes from 0 to 1.
    width, height : int
        Of the picture, px.

    Returns
    -------
    cover : ndarray of float32, shape (h, w)
        Inside the box.
    box : tuple of int
        Left, top, right and bottom of it; None in place of both where nothing is covered.
    """
    top, bottom = max(0, math.floor(points[:, 1].min())), min(height, math.ceil(points[:, 1].max()))
    left, right = max(0, math.floor(points[:, 0].min())), min(width, math.ceil(points[:, 0].max()))
    if right <= left or bottom <= top:
        return None
    lines = top + (np.arange((bottom - top) * _ROWS_A_PIXEL) + 0.5) / _ROWS_A_PIXEL
    (x0, y0), (x1, y1) = points.T, np.roll(points, -1, axis=0).T
    above, below = y0 <= lines[:, None], y1 <= lines[:, None]
    line, edge = np.nonzero(above != below)
    steep = (x1[edge] - x0[edge]) / (y1[edge] - y0[edge])
    x = np.clip(x0[edge] + (lines[line] - y0[edge]) * steep, left, right) - left
    way = np.where(y1[edge] > y0[edge], 1.0, -1.0)
    wide = right - left
    cell = np.minimum(x.astype(np.intp), wide - 1)
    inside = x - cell
    row = line // _ROWS_A_PIXEL * (wide + 1)
    steps = np.bincount(row + cell, way * (1.0 - inside), (bottom - top) * (wide + 1))
    steps += np.bincount(row + cell + 1, way * inside, (bottom - top) * (wide + 1))
    covered = np.abs(np.cumsum(steps.reshape(bottom - top, wide + 1), axis=1)[:, :wide]) / _ROWS_A_PIXEL
    return np.minimum(covered, 1.0).astype(np.float32), (left, top, right, bottom)


@lru_cache(maxsize=256)
def disc(diameter_px: float) -> Image:
    """A disc of blur as a kernel that sums to 1: its share of every pixel, as wide as a disc of that diameter
    spreads light (variance ``D²/16`` each way), however small it is.
    """
    wanted = diameter_px**2 / 16.0
    low, high = 0.0, diameter_px + 2.0
    for _ in range(20):
        middle = (low + high) / 2.0
        kernel = _shares(middle)
        reach = len(kernel) // 2
        if float((kernel.sum(axis=0) * np.arange(-reach, reach + 1) ** 2).sum()) < wanted:
            low = middle
        else:
            high = middle
    return _shares(high).astype(np.float32)


def _shares(diameter_px: float) -> Array:
    """Which share of a disc each pixel has, along lines that are finer than its pixels."""
    reach = math.ceil(diameter_px / 2.0 + 0.5)
    lines = (np.arange((2 * reach + 1) * _LINES) + 0.5) / _LINES - reach - 0.5
    half = np.sqrt(np.maximum(diameter_px**2 / 4.0 - lines**2, 0.0))[:, None]
    edges = np.arange(-reach, reach + 2) - 0.5
    along = np.clip(edges, -half, half)
    shares = np.diff(along, axis=1).reshape(2 * reach + 1, _LINES, -1).sum(axis=1)
    total = shares.sum()
    if total <= 0:
        shares[reach, reach] = total = 1.0
    kernel: Array = shares / total
    return kernel


def spread(planes: Image, kernel: Image) -> Image:
    """Every plane under a kernel; what lies outside is dark."""
    return np.stack(
        [
            cv2.filter2D(np.ascontiguousarray(plane), -1, kernel, borderType=cv2.BORDER_CONSTANT)
            for plane in planes
        ]
    )


def airy_spread(planes: Image, diameter_px: float) -> Image:
    """Every plane under an Airy disc of that diameter, as the Gauss curve of the same core."""
    line = _bell(AIRY_SIGMA * diameter_px)
    return np.stack(
        [
            cv2.sepFilter2D(np.ascontiguousarray(plane), -1, line, line, borderType=cv2.BORDER_CONSTANT)
            for plane in planes
        ]
    )


def _bell(sigma: float) -> Image:
    """A Gauss curve as a kernel of that deviation: three taps where it is narrower than they can say."""
    if sigma**2 < _NARROW:
        side = sigma**2 / 2.0
        return np.array([side, 1.0 - 2.0 * side, side], np.float32)
    reach = math.ceil(4.0 * sigma)
    taps = np.exp(-(np.arange(-reach, reach + 1) ** 2) / (2.0 * sigma**2))
    kernel: Image = (taps / taps.sum()).astype(np.float32)
    return kernel


AIRY_SIGMA = 0.42 / 2.44
"""Standard deviation over diameter of the first dark ring: σ ≈ 0.42 λN, diameter 2.44 λN. Source: airy."""


def middles(shape: tuple[int, int]) -> tuple[npt.NDArray[np.float32], npt.NDArray[np.float32]]:
    """Middles of all pixels, px from the top left: x and y (h, w)."""
    y, x = np.mgrid[0 : shape[0], 0 : shape[1]].astype(np.float32)
    return x + 0.5, y + 0.5
