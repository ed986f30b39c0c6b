"""Two pictures held against one another tile by tile: how each is off, and what most of them agree on.

Every tile says by least squares how it is off (Lucas & Kanade's equations), and how well it knows that.
"""

from __future__ import annotations

import math
from functools import cache

import cv2
import numpy as np

from .pixels import MAD, Array, Image, Mask, laid_by, smoothed

TILES = (16, 9)
"""The frame in so many, across and down, for what changes slowly over it."""
FEWEST_TILES = 6
ENOUGH = 0.25
"""Of a tile that stands still and is neither clipped nor black."""
TILE_PX = 48
SMOOTH_PX = 1.0
"""Both are smoothed by it before they are compared: noise, and what is between pixels, weigh less."""
_OUTLIER = 4.0
_LEAST_SCATTER_PX = 0.01
_ALIKE = 0.3
"""Of a tile's texture what is left when it is laid right, at most, where it shows the same thing."""


def _sums(values: Image, rows: int, columns: int) -> Array:
    """Sums over the tiles of a picture, flat."""
    cut = values[: rows * TILE_PX, : columns * TILE_PX]
    means = cv2.resize(cut, (columns, rows), interpolation=cv2.INTER_AREA)
    return np.asarray(means, np.float64).ravel() * TILE_PX**2


class Compared:
    """A reference made ready, and what its tiles say of pictures laid onto it."""

    def __init__(self, reference: Image) -> None:
        self.smooth = smoothed(reference, SMOOTH_PX)
        self.rows, self.columns = (side // TILE_PX for side in reference.shape)
        self.right = cv2.Sobel(self.smooth, cv2.CV_32F, 1, 0, ksize=3, scale=0.125)
        self.down = cv2.Sobel(self.smooth, cv2.CV_32F, 0, 1, ksize=3, scale=0.125)
        y, x = np.mgrid[0 : self.rows, 0 : self.columns] * float(TILE_PX) + (TILE_PX - 1) / 2.0
        self.middles = np.column_stack([x.ravel(), y.ravel()])

    def sums(self, values: Image) -> Array:
        return _sums(values, self.rows, self.columns)

    def off(self, spline: Image, transform: Array) -> tuple[Array, Array, Mask]:
        """How each tile is off (n, 2) px after a transform, its covariance (n, 2, 2), and whether it shows
        the same thing.
        """
        return self.off_laid(smoothed(laid_by(spline, transform), SMOOTH_PX))

    def off_laid(self, laid: Image) -> tuple[Array, Array, Mask]:
        """The same of a picture that is smoothed and laid already."""
        right = 0.5 * (self.right + cv2.Sobel(laid, cv2.CV_32F, 1, 0, ksize=3, scale=0.125))
        down = 0.5 * (self.down + cv2.Sobel(laid, cv2.CV_32F, 0, 1, ksize=3, scale=0.125))
        differs = laid - self.smooth
        # what a gain of the tile does to it is taken away with its mean
        count = float(TILE_PX**2)
        sums = [self.sums(each) for each in (right, down, differs)]
        pairs = [
            self.sums(first * second) - sums[i] * sums[j] / count
            for first, second, i, j in (
                (right, right, 0, 0),
                (right, down, 0, 1),
                (down, down, 1, 1),
                (right, differs, 0, 2),
                (down, differs, 1, 2),
                (differs, differs, 2, 2),
            )
        ]
        xx, xy, yy, xe, ye, ee = pairs
        matrix = np.stack([np.stack([xx, xy], -1), np.stack([xy, yy], -1)], -2)
        with np.errstate(all="ignore"):
            determinant = xx * yy - xy * xy
            inverse = (
                np.stack([np.stack([yy, -xy], -1), np.stack([-xy, xx], -1)], -2) / determinant[:, None, None]
            )
            off = -np.einsum("nij,nj->ni", inverse, np.stack([xe, ye], -1))
            left = ee + np.einsum("ni,nij,nj->n", off, matrix, off) + 2.0 * (off[:, 0] * xe + off[:, 1] * ye)
            # smoothing spreads each pixel's noise over 4πσ² of them
            free = count / (4.0 * math.pi * SMOOTH_PX**2)
            within = np.maximum(left, 1e-9) / count
            covariance = inverse * (within * count / free)[:, None, None]
            weak = np.linalg.eigvalsh(np.nan_to_num(matrix))[:, 0] / count
        good = np.isfinite(off).all(axis=1) & (weak > 1e-7) & (np.hypot(off[:, 0], off[:, 1]) < TILE_PX)
        off[~good] = np.nan
        texture = self.sums(self.smooth * self.smooth) - self.sums(self.smooth) ** 2 / count
        return off, covariance, good & (left < _ALIKE * texture)


def _fit(middles: Array, off: Array, weight: Array, middle: Array, width: float) -> tuple[Array, Array]:
    """Shift right, shift down, turn and size (both × width) that tiles agree with, and their covariance."""
    x, y = ((middles - middle) / width).T
    ones, none = np.ones_like(x), np.zeros_like(x)
    design = np.concatenate([np.stack([ones, none, -y, x], 1), np.stack([none, ones, x, y], 1)])
    both = np.concatenate([weight, weight])
    normal = design.T @ (design * both[:, None])
    inverse = np.linalg.pinv(normal)
    return inverse @ (design.T @ (both * off.T.ravel())), inverse


def agreed(
    compared: Compared, off: Array, covariance: Array, middle: Array, width: float
) -> tuple[Array, Array, Mask, Array]:
    """What most tiles agree on: the four of a fit, their deviations, who agrees, what each is left by."""
    known = np.sqrt(np.maximum(np.trace(covariance, axis1=1, axis2=2) / 2.0, 0.0))
    usable = np.isfinite(off).all(axis=1) & np.isfinite(known) & (known < 1.0)
    weight = np.where(usable, 1.0 / (np.nan_to_num(known) ** 2 + _LEAST_SCATTER_PX**2), 0.0)
    told = np.where(usable[:, None], off, 0.0)
    robust = weight.copy()
    start = np.median(told[usable], axis=0) if usable.any() else np.zeros(2)
    solved = np.array([start[0], start[1], 0.0, 0.0])
    inverse = np.eye(4)
    left = told
    for _ in range(12):
        x, y = ((compared.middles - middle) / width).T
        fitted = np.stack(
            [solved[0] - solved[2] * y + solved[3] * x, solved[1] + solved[2] * x + solved[3] * y], 1
        )
        left = told - fitted
        apart = np.hypot(left[:, 0], left[:, 1])
        scatter = MAD * float(np.median(apart[usable])) / 1.18 if usable.any() else 1.0
        reach = _OUTLIER * np.maximum(max(scatter, _LEAST_SCATTER_PX), known)
        share = np.clip(np.nan_to_num(apart / np.maximum(reach, 1e-9), nan=2.0), 0.0, 1.0)
        robust = weight * (1.0 - share**2) ** 2
        before = solved
        solved, inverse = _fit(compared.middles, told, robust, middle, width)
        if np.abs(solved - before).max() < 1e-5:
            break
    agrees = robust > 0
    freedom = max(1.0, 2.0 * float(agrees.sum()) - 4.0)
    scatter2 = float((robust[:, None] * left**2).sum()) / freedom
    deviations = np.sqrt(np.maximum(np.diag(inverse), 0.0) * max(scatter2, 1.0))
    return solved, deviations, agrees, left


def tiled(values: Image, weight: Image) -> tuple[Array, Array]:
    """Means of weighted values and of weights over the tiles; two products of matrices take a tenth of the
    time of a resize whose tiles are no whole pixels.
    """
    height, width = values.shape
    columns, rows = TILES
    down, across = _shares(height, rows), _shares(width, columns).T
    sums, counts = (np.asarray(down @ each @ across, np.float64) for each in (values * weight, weight))
    return sums, counts


@cache
def _shares(length: int, parts: int) -> Image:
    """What share each pixel of a row has of the mean of each of its parts (parts, length)."""
    edges = np.linspace(0.0, length, parts + 1)
    pixels = np.arange(length)
    within = np.minimum(pixels + 1, edges[1:, None]) - np.maximum(pixels, edges[:-1, None])
    return np.asarray(np.maximum(within, 0.0) * parts / length, np.float32)
