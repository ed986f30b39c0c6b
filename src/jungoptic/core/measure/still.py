"""Whether a camera stood still between two pictures: shift, turn and size, and what no shift mends.

Points that are followed say roughly how one picture lies on the other; then every tile of it says by least
squares how it is still off (Lucas & Kanade's equations), and the tiles that agree are what stands still.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import cv2
import numpy as np
import numpy.typing as npt

from .amounts import TWICE
from .pixels import MAD, Array, Image, Mask, laid_by, smoothed, spline_of, stops_of
from .registered import FEWEST_POINTS, registered, textured

WORKING_PX = 960
"""Pictures are found on one another at this width, and measured at their own."""
_TILE_PX = 48
_SMOOTH_PX = 1.0
"""Both are smoothed by it before they are compared: noise, and what is between pixels, weigh less."""
_ROUNDS = 6
_DONE_PX = 0.002
_FEWEST_TILES = 8
_OUTLIER = 4.0
_LEAST_SCATTER_PX = 0.01
_ALIKE = 0.3
"""Of a tile's texture what is left when it is laid right, at most, where it shows the same thing."""
_PARALLAX_OVER = 3
"""Tiles: what lies nearer or farther is larger than one."""
_CODEC = 1.3
"""Tiles of a compressed picture are not off independently."""
_SYSTEMATIC_PX = 0.015
_TILE_SCATTER_PX = 0.03
_PARALLAX_SURE, _PARALLAX_PX = 6.0, 0.5
"""What laying a picture between its pixels leaves."""


@dataclass(frozen=True, slots=True)
class Tiles:
    """Squares of a picture (n): their middles (n, 2) px, how each is off after the transform (n, 2) px, how
    well that is known (n) px, and which of them stand still.
    """

    middles: Array
    left_px: Array
    known_px: Array
    still: Mask


@dataclass(frozen=True, slots=True)
class Moved:
    """How a picture lies on its reference: ``transform`` (2 × 3) takes places of the reference to places of
    the picture, px. ``shift_px`` (right, down) is of the middle; errors are two deviations. ``parallax_px``
    is the most that a still tile is off after it, ``parallax_at`` where in the frame, shares.
    """

    transform: Array
    shift_px: tuple[float, float]
    shift_off_px: float
    turn_deg: float
    turn_off_deg: float
    size: float
    size_off: float
    corner_px: float
    parallax_px: float
    parallax_off_px: float
    parallax_at: tuple[float, float]
    tiles: Tiles

    @property
    def parted(self) -> bool:
        """Whether near and far have parted for sure: a change of focus alone moves an edge by some tenths."""
        return self.parallax_px > max(_PARALLAX_SURE * self.parallax_off_px, _PARALLAX_PX)


def similarity(
    shift: tuple[float, float], turn_deg: float, size: float, middle: tuple[float, float]
) -> Array:
    """The transform that turns and sizes about the middle, then shifts.

    Parameters
    ----------
    shift : tuple of (float, float)
        Right and down, px.
    turn_deg : float
        Clockwise as it is seen, degrees.
    size : float
        1 leaves it.
    middle : tuple of (float, float)
        About which, px.

    Returns
    -------
    ndarray, shape (2, 3)
        Takes (x, y, 1) to (x, y).

    Examples
    --------
    >>> similarity((2.0, 0.0), 0.0, 1.0, (50.0, 50.0)).tolist()
    [[1.0, -0.0, 2.0], [0.0, 1.0, 0.0]]
    """
    turn = math.radians(turn_deg)
    a, b = size * math.cos(turn), size * math.sin(turn)
    x, y = middle
    return np.array([[a, -b, x - a * x + b * y + shift[0]], [b, a, y - b * x - a * y + shift[1]]])


def _codes(grey: Image) -> npt.NDArray[np.uint8]:
    low, high = np.percentile(grey[::4, ::4], (0.5, 99.5))
    scaled = (grey - low) * (235.0 / max(float(high - low), 1e-3)) + 10.0
    return np.asarray(np.clip(scaled, 0, 255), np.uint8)


def _roughly(reference: Image, picture: Image) -> Array | None:
    """By points that are followed, at the working width; None where they show different things."""
    share = min(1.0, WORKING_PX / reference.shape[1])
    small = [
        _codes(each)
        if share == 1.0
        else _codes(
            np.asarray(cv2.resize(each, None, fx=share, fy=share, interpolation=cv2.INTER_AREA), np.float32)
        )
        for each in (reference, picture)
    ]
    ready = textured(small[0])
    seen = registered(ready, small[1])
    if len(seen.which) < FEWEST_POINTS:
        return None
    turn, agree = cv2.estimateAffinePartial2D(
        ready.points[seen.which], seen.here, ransacReprojThreshold=1.0, maxIters=2000, confidence=0.999
    )
    if turn is None or agree.sum() < FEWEST_POINTS:
        return None
    roughly = np.asarray(turn, np.float64)
    # pixels have their middles at halves: what is measured small lies half a large pixel otherwise
    half = 0.5 / share - 0.5
    roughly[:, 2] = roughly[:, 2] / share + half - roughly[:, :2] @ (half, half)
    return roughly


def _sums(values: Image, rows: int, columns: int) -> Array:
    """Sums over the tiles of a picture, flat."""
    cut = values[: rows * _TILE_PX, : columns * _TILE_PX]
    means = cv2.resize(cut, (columns, rows), interpolation=cv2.INTER_AREA)
    return np.asarray(means, np.float64).ravel() * _TILE_PX**2


class _Compared:
    """A reference made ready, and what its tiles say of pictures laid onto it."""

    def __init__(self, reference: Image) -> None:
        self.smooth = smoothed(reference, _SMOOTH_PX)
        self.rows, self.columns = (side // _TILE_PX for side in reference.shape)
        self.right = cv2.Sobel(self.smooth, cv2.CV_32F, 1, 0, ksize=3, scale=0.125)
        self.down = cv2.Sobel(self.smooth, cv2.CV_32F, 0, 1, ksize=3, scale=0.125)
        y, x = np.mgrid[0 : self.rows, 0 : self.columns] * float(_TILE_PX) + (_TILE_PX - 1) / 2.0
        self.middles = np.column_stack([x.ravel(), y.ravel()])

    def sums(self, values: Image) -> Array:
        return _sums(values, self.rows, self.columns)

    def off(self, spline: Image, transform: Array) -> tuple[Array, Array, Mask]:
        """How each tile is off (n, 2) px after a transform, its covariance (n, 2, 2), and whether it shows
        the same thing.
        """
        laid = smoothed(laid_by(spline, transform), _SMOOTH_PX)
        right = 0.5 * (self.right + cv2.Sobel(laid, cv2.CV_32F, 1, 0, ksize=3, scale=0.125))
        down = 0.5 * (self.down + cv2.Sobel(laid, cv2.CV_32F, 0, 1, ksize=3, scale=0.125))
        differs = laid - self.smooth
        # what a gain of the tile does to it is taken away with its mean
        count = float(_TILE_PX**2)
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
            free = count / (4.0 * math.pi * _SMOOTH_PX**2)
            within = np.maximum(left, 1e-9) / count
            covariance = inverse * (within * count / free)[:, None, None]
            weak = np.linalg.eigvalsh(np.nan_to_num(matrix))[:, 0] / count
        good = np.isfinite(off).all(axis=1) & (weak > 1e-7) & (np.hypot(off[:, 0], off[:, 1]) < _TILE_PX)
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


def _agreed(
    compared: _Compared, off: Array, covariance: Array, middle: Array, width: float
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


def moved(reference: npt.ArrayLike, picture: npt.ArrayLike, without: npt.ArrayLike | None = None) -> Moved:
    """How the camera moved between two pictures of the same thing.

    Parameters
    ----------
    reference, picture : ndarray of float, shape (h, w) or (h, w, 3)
        Linear light.
    without : ndarray of bool, shape (h, w), optional
        Where something else is shown that does not count.

    Returns
    -------
    Moved
        In px of the pictures; a gain of light between them does not matter, what moves by itself neither
        while most of the frame stands still.

    Raises
    ------
    ValueError
        Where they are not of one size, or show different things.

    References
    ----------
    good_features, lucas_kanade, biweight

    Examples
    --------
    >>> dice = np.random.default_rng(3)
    >>> board = cv2.GaussianBlur(dice.random((240, 480), np.float32), (0, 0), 3.0)
    >>> same = moved(board, np.roll(board, 2, axis=1))
    >>> round(same.shift_px[0], 1), round(same.turn_deg, 2) + 0.0
    (2.0, 0.0)
    """
    first, second = stops_of(reference), stops_of(picture)
    if first.shape != second.shape:
        raise ValueError(
            f"the pictures are {first.shape[1]} × {first.shape[0]} and {second.shape[1]} × {second.shape[0]}:"
            " take two of one recording"
        )
    transform = _roughly(first, second)
    if transform is None:
        raise ValueError("what both pictures show is not the same, or has too little in it to be found again")
    compared, spline = _Compared(first), spline_of(second)
    height, width = first.shape
    middle = np.array([(width - 1) / 2.0, (height - 1) / 2.0])
    covered = np.zeros(len(compared.middles), bool)
    if without is not None:
        covered = compared.sums(np.asarray(without, np.float32)) > 0
    deviations, agrees = np.zeros(4), ~covered
    left, covariance = np.zeros_like(compared.middles), np.zeros((len(compared.middles), 2, 2))
    alike = ~covered
    for _ in range(_ROUNDS):
        off, covariance, alike = compared.off(spline, transform)
        off[covered] = np.nan
        solved, deviations, agrees, left = _agreed(compared, off, covariance, middle, float(width))
        if agrees.sum() < _FEWEST_TILES:
            raise ValueError("too little in both pictures stands still: mark what moves, or take others")
        step = similarity((solved[0], solved[1]), 0.0, 1.0, (0.0, 0.0))
        turn, size = solved[2] / width, solved[3] / width
        step[:, :2] += np.array([[size, -turn], [turn, size]])
        step[:, 2] -= np.array([[size, -turn], [turn, size]]) @ middle
        transform = np.vstack([transform, [0, 0, 1]])[:2] @ np.vstack([step, [0, 0, 1]])
        if np.abs(solved).max() < _DONE_PX:
            break
    parallax = _parallax(compared, np.where(alike & ~covered, 1.0, 0.0), left, covariance, (width, height))
    return _told(compared, transform, deviations, agrees, left, covariance, parallax, (width, height))


def _parallax(
    compared: _Compared, alike: Array, left: Array, covariance: Array, size_px: tuple[int, int]
) -> tuple[float, float, tuple[float, float]]:
    """The most that neighbouring tiles, which show the same thing, are off together: px, its error, where.

    Each counts as far as it knows each direction: along an edge it knows nothing.
    """
    known = (alike > 0) & np.isfinite(left).all(axis=1) & np.isfinite(covariance).all(axis=(1, 2))
    sure = np.zeros_like(covariance)
    sure[known] = np.linalg.inv(_CODEC**2 * covariance[known] + _TILE_SCATTER_PX**2 * np.eye(2))
    pulled = np.einsum("nij,nj->ni", sure, np.where(known[:, None], np.nan_to_num(left), 0.0))
    shape = (compared.rows, compared.columns)

    def over(values: Array) -> Array:
        spread = cv2.boxFilter(
            values.reshape(shape),
            cv2.CV_64F,
            (_PARALLAX_OVER,) * 2,
            normalize=False,
            borderType=cv2.BORDER_CONSTANT,
        )
        return np.asarray(spread, np.float64).ravel()

    xx, xy, yy = (over(sure[:, a, b]) for a, b in ((0, 0), (0, 1), (1, 1)))
    px, py = over(pulled[:, 0]), over(pulled[:, 1])
    enough = known & (over(known.astype(np.float64)) > _PARALLAX_OVER)
    with np.errstate(all="ignore"):
        determinant = xx * yy - xy * xy
        x, y = (yy * px - xy * py) / determinant, (xx * py - xy * px) / determinant
        far = np.hypot(x, y)
        # how well it is known along the way that it points
        off = TWICE * np.sqrt((yy * x * x - 2.0 * xy * x * y + xx * y * y) / determinant) / far
        times = np.where(enough & np.isfinite(off), far / off, 0.0)
    sure_enough = times >= min(2.0 * _PARALLAX_SURE, float(times.max()))
    worst = int(np.where(sure_enough, np.nan_to_num(far), -1.0).argmax())
    if not times[worst] > 0:
        return 0.0, _SYSTEMATIC_PX, (0.5, 0.5)
    across, down = compared.middles[worst] / size_px
    # one step of the equations: a tenth of it is left open
    within = math.hypot(float(off[worst]), _SYSTEMATIC_PX, 0.1 * float(far[worst]))
    return float(far[worst]), within, (float(across), float(down))


def _told(
    compared: _Compared,
    transform: Array,
    deviations: Array,
    agrees: Mask,
    left: Array,
    covariance: Array,
    parallax: tuple[float, float, tuple[float, float]],
    size_px: tuple[int, int],
) -> Moved:
    width, height = size_px
    middle = np.array([(width - 1) / 2.0, (height - 1) / 2.0])
    shift = transform @ np.append(middle, 1.0) - middle
    corners = np.array([(0, 0), (width, 0), (width, height), (0, height)], np.float64)
    gone = corners @ transform[:, :2].T + transform[:, 2] - corners
    turn = math.degrees(math.atan2(transform[1, 0], transform[0, 0]))
    known = TWICE * np.sqrt(np.maximum(np.trace(covariance, axis1=1, axis2=2) / 2.0, 0.0))
    return Moved(
        transform,
        (float(shift[0]), float(shift[1])),
        math.hypot(_CODEC * TWICE * float(np.hypot(*deviations[:2])), _SYSTEMATIC_PX),
        turn,
        math.degrees(math.hypot(_CODEC * TWICE * float(deviations[2]), _SYSTEMATIC_PX) / width),
        float(np.hypot(transform[0, 0], transform[1, 0])),
        math.hypot(_CODEC * TWICE * float(deviations[3]), _SYSTEMATIC_PX) / width,
        float(np.hypot(gone[:, 0], gone[:, 1]).max()),
        *parallax,
        Tiles(compared.middles, left, known, agrees),
    )
