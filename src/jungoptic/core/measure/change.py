"""What changed between two pictures of one set-up: light, white and focus, tile by tile, and where."""

from __future__ import annotations

import math
from dataclasses import dataclass

import cv2
import numpy as np
import numpy.typing as npt

from .amounts import TWICE
from .pixels import (
    MAD,
    NOISE_OF_FINE_MEAN,
    Array,
    Image,
    Mask,
    brightness,
    fine,
    laid_by,
    smoothed,
    spline_of,
)
from .still import Moved

_TILES = (16, 9)
_CLIPPED, _DARK = 0.97, 0.004
_FEWEST_TILES = 6
_ENOUGH = 0.25
"""Of a tile that stands still and is neither clipped nor black."""
_OUTLIER = 3.5
_LEAST_STOPS = 0.007
_SPREAD_OF_SIGMA = 2.5631
"""10 to 90 % of a Gaussian edge, in its deviations."""
_SMOOTH_PX = 1.0
_BLUR_OPEN_PX, _BLUR_LEAST_PX = 0.4, 0.05
"""Deviation of a Gaussian that laying one picture on another and a codec may add or take."""
_BLURS = np.concatenate([[0.0], np.geomspace(0.3, 6.0, 14)])
_RUNS_ON = 0.08
"""Of what changed in a third: light does not end where the third does."""
_THIRDS = ("left", "middle", "right"), ("top", "middle", "bottom")
_KEEPS_RIM = 3


@dataclass(frozen=True, slots=True)
class Gains:
    """How much lighter the tiles of a picture are (rows, columns), stops, NaN where that is not known, and
    the whole of it: the median, its error, the share of red, green and blue, and where it departs most:
    words for a third of the frame, by how much, and its error.
    """

    tiles: Array
    stops: float
    off: float
    channels: tuple[float, float, float]
    channels_off: float
    where: str
    there: float
    there_off: float


@dataclass(frozen=True, slots=True)
class Softened:
    """By how much edges of a picture are wider than those of its reference, 10 to 90 %, px; less than 0
    where they are narrower. ``there`` is the most of any tile, ``where`` it is, shares of the frame.
    """

    px: float
    off: float
    there: float
    where: tuple[float, float]


def laid_back(picture: npt.ArrayLike, moved: Moved) -> Image:
    """A picture laid onto its reference.

    Parameters
    ----------
    picture : ndarray of float, shape (h, w) or (h, w, 3)
        The second of those that were compared.
    moved : Moved
        How it lies on the first.

    Returns
    -------
    ndarray of float32, shape (h, w) or (h, w, 3)
        NaN where it has nothing.

    Examples
    --------
    >>> from .still import moved
    >>> board = cv2.GaussianBlur(np.random.default_rng(3).random((240, 480), np.float32), (0, 0), 3.0)
    >>> bool(np.isnan(laid_back(board, moved(board, np.roll(board, 2, axis=1)))[:, -1]).all())
    True
    """
    seen = np.asarray(picture, np.float32)
    planes = seen[..., None] if seen.ndim == 2 else seen
    laid = [laid_by(spline_of(planes[..., each]), moved.transform) for each in range(planes.shape[2])]
    return np.asarray(np.stack(laid, axis=2).reshape(seen.shape), np.float32)


def still_pixels(moved: Moved, shape: tuple[int, ...]) -> Mask:
    """Where a picture stands still.

    Parameters
    ----------
    moved : Moved
        How it lies on its reference.
    shape : tuple of int
        Height and width.

    Returns
    -------
    ndarray of bool, shape (h, w)
        By its tiles.

    Examples
    --------
    >>> from .still import moved
    >>> board = cv2.GaussianBlur(np.random.default_rng(3).random((240, 480), np.float32), (0, 0), 3.0)
    >>> bool(still_pixels(moved(board, board), board.shape).mean() > 0.4)
    True
    """
    middles = moved.tiles.middles
    columns = len(np.unique(middles[:, 0]))
    grid = moved.tiles.still.reshape(-1, columns).astype(np.uint8)
    step = round(2.0 * float(middles[0, 0]) + 1.0)
    still = np.zeros(shape[:2], bool)
    large = np.kron(grid, np.ones((step, step), np.uint8)) > 0
    still[: large.shape[0], : large.shape[1]] = large[: shape[0], : shape[1]]
    return still


def _tiled(values: Image, weight: Image) -> tuple[Array, Array]:
    """Sums of values and of weights over the tiles."""
    sums, counts = (
        np.asarray(cv2.resize(each, _TILES, interpolation=cv2.INTER_AREA), np.float64)
        for each in (values * weight, weight)
    )
    return sums, counts


def gains(reference: npt.ArrayLike, picture: npt.ArrayLike, still: npt.ArrayLike | None = None) -> Gains:
    """How much lighter one picture is than another that lies on it.

    Parameters
    ----------
    reference, picture : ndarray of float, shape (h, w, 3)
        Linear light, the second laid onto the first; NaN where it has nothing.
    still : ndarray of bool, shape (h, w), optional
        What counts; all of it when left out.

    Returns
    -------
    Gains
        log₂ of the ratio of the tiles' sums.

    Raises
    ------
    ValueError
        Where too little of them counts.

    References
    ----------
    exposure_meter, biweight

    Examples
    --------
    >>> grey = np.full((90, 160, 3), 0.18, np.float32)
    >>> round(gains(grey, 1.1 * grey).stops, 3)
    0.138
    """
    first, second = np.asarray(reference, np.float32), np.asarray(picture, np.float32)
    counts = np.isfinite(second).all(axis=2)
    if still is not None:
        counts &= np.asarray(still, bool)
    second = np.nan_to_num(second)
    counts &= np.maximum(first.max(axis=2), second.max(axis=2)) < _CLIPPED
    counts &= np.minimum(first.mean(axis=2), second.mean(axis=2)) > _DARK
    weight = counts.astype(np.float32)
    told = np.full((4, _TILES[1], _TILES[0]), np.nan)
    spread = np.full((_TILES[1], _TILES[0]), np.nan)
    size = first.shape[0] * first.shape[1] / (_TILES[0] * _TILES[1])
    planes = [(brightness(first), brightness(second)), *((first[..., i], second[..., i]) for i in range(3))]
    with np.errstate(all="ignore"):
        for index, (before, after) in enumerate(planes):
            (was, count), (now, _) = _tiled(before, weight), _tiled(after, weight)
            told[index] = np.where(count > _ENOUGH, np.log2(now / was), np.nan)
            if not index:
                differs = (after - before * np.float32(np.nanmedian(now / was))) ** 2
                squares, _ = _tiled(differs, weight)
                spread = np.sqrt(squares / count) / (was / count) / math.log(2.0) / np.sqrt(count * size)
    known = np.isfinite(told[0])
    if known.sum() < _FEWEST_TILES:
        raise ValueError("too little of both pictures stands still, and is neither clipped nor black")
    stops, off = _middle(told[0][known], spread[known])
    shares = [_middle(each[known] - told[0][known], spread[known]) for each in told[1:]]
    where, there, there_off = _where(told[0], spread, stops)
    channels = tuple(stops + share for share, _ in shares)
    return Gains(
        told[0],
        stops,
        off,
        (channels[0], channels[1], channels[2]),
        max(each for _, each in shares),
        where,
        there,
        there_off,
    )


def _middle(values: Array, spread: Array) -> tuple[float, float]:
    """What values agree on, and its error; a channel that is black in a tile has none there."""
    there = np.isfinite(values) & np.isfinite(spread)
    if not there.any():
        return 0.0, math.inf
    values, spread = values[there], spread[there]
    middle = float(np.median(values))
    scatter = MAD * float(np.median(np.abs(values - middle)))
    keep = np.abs(values - middle) < max(_OUTLIER * scatter, _LEAST_STOPS)
    weight = 1.0 / (spread[keep] ** 2 + scatter**2 + _LEAST_STOPS**2)
    told = float((values[keep] * weight).sum() / weight.sum())
    return told, math.hypot(TWICE / math.sqrt(float(weight.sum())), _LEAST_STOPS)


def _where(tiles: Array, spread: Array, stops: float) -> tuple[str, float, float]:
    """The third of the frame, across or down, that departs most from the whole; its gain and error."""
    rows, columns = tiles.shape
    worst = ("", stops, 0.0)
    for axis, names in enumerate(_THIRDS):
        parts = np.array_split(np.arange((columns, rows)[axis]), 3)
        for name, part in zip(names, parts, strict=True):
            cut, by = (each[:, part] if axis == 0 else each[part] for each in (tiles, spread))
            known = np.isfinite(cut)
            if known.sum() < _FEWEST_TILES:
                continue
            there, off = _middle(cut[known], by[known])
            off = math.hypot(off, _RUNS_ON * (there - stops))
            if abs(there - stops) > abs(worst[1] - stops):
                worst = (
                    f"{name} third" if name != "middle" else ("middle across", "middle down")[axis],
                    there,
                    off,
                )
    return worst


def _energy(grey: Image, weight: Image) -> Array:
    """Energy of the gradient of each tile."""
    right = cv2.Sobel(grey, cv2.CV_32F, 1, 0, ksize=3, scale=0.125)
    down = cv2.Sobel(grey, cv2.CV_32F, 0, 1, ksize=3, scale=0.125)
    return _tiled(right * right + down * down, weight)[0]


def _noise(grey: Image, weight: Image) -> Array:
    """Variance of the noise of each tile, by what a mask that sees neither planes nor edges finds."""
    total, count = _tiled(np.abs(fine(grey)), weight)
    with np.errstate(all="ignore"):
        return np.asarray((NOISE_OF_FINE_MEAN * total / count) ** 2 * count, np.float64)


def _passes(sigma: float) -> float:
    """How much of the variance of white noise is left as energy of the gradient after smoothing."""
    side = 2 * math.ceil(4.0 * sigma) + 9
    point = np.zeros((side, side), np.float32)
    point[side // 2, side // 2] = 1.0
    return _energy_whole(smoothed(point, sigma))


def _energy_whole(grey: Image) -> float:
    right = cv2.Sobel(grey, cv2.CV_32F, 1, 0, ksize=3, scale=0.125)
    down = cv2.Sobel(grey, cv2.CV_32F, 0, 1, ksize=3, scale=0.125)
    return float((right * right + down * down).sum())


def softened(
    reference: npt.ArrayLike, picture: npt.ArrayLike, still: npt.ArrayLike | None = None
) -> Softened:
    """By how much softer one picture is than another that lies on it.

    Parameters
    ----------
    reference, picture : ndarray of float, shape (h, w) or (h, w, 3)
        Linear light, the second laid onto the first; NaN where it has nothing.
    still : ndarray of bool, shape (h, w), optional
        What counts; all of it when left out.

    Returns
    -------
    Softened
        The Gaussian blur that the sharper of both wants so that its gradients have the energy of the other's,
        noise taken off, tile by tile; as the 10 to 90 % spread of a point's edge.

    Raises
    ------
    ValueError
        Where there is nothing in them that could be soft.

    References
    ----------
    edge_spread, noise_mask

    Examples
    --------
    >>> sharp = np.kron(np.indices((9, 16)).sum(axis=0) % 2 * 0.5 + 0.2, np.ones((20, 20))).astype(np.float32)
    >>> round(softened(sharp, cv2.GaussianBlur(sharp, (0, 0), 1.5)).px / 2.5631, 1)
    1.7
    """
    first, second = (brightness(each) for each in (reference, picture))
    counts = np.isfinite(second)
    if still is not None:
        counts &= np.asarray(still, bool)
    counts = cv2.erode(counts.astype(np.uint8), np.ones((2 * _KEEPS_RIM + 1,) * 2, np.uint8)) > 0
    weight = counts.astype(np.float32)
    second = np.where(np.isfinite(second), second, first)
    noises = [_noise(each, weight) for each in (first, second)]
    ladder = [
        [
            _energy(smoothed(each, math.hypot(_SMOOTH_PX, blur)), weight)
            - noise * _passes(math.hypot(_SMOOTH_PX, blur))
            for blur in _BLURS
        ]
        for each, noise in zip((first, second), noises, strict=True)
    ]
    share = _tiled(weight, weight)[1]
    with np.errstate(all="ignore"):  # more light is no sharper edge
        gain = _tiled(second, weight)[0] / _tiled(first, weight)[0]
    told = np.full(share.shape, np.nan)
    floor = 4.0 * np.maximum(*noises) * _passes(_SMOOTH_PX)
    for place in np.argwhere(share > _ENOUGH):
        row, column = int(place[0]), int(place[1])
        a, b = (np.array([step[row, column] for step in each]) for each in ladder)
        a *= gain[row, column] ** 2
        if min(a[0], b[0]) < max(float(floor[row, column]), 1e-7):
            continue
        told[row, column] = _blur_between(a, b[0]) if b[0] <= a[0] else -_blur_between(b, a[0])
    known = np.isfinite(told)
    if known.sum() < _FEWEST_TILES:
        raise ValueError("there is too little in both pictures that could be sharp")
    values = told[known]
    middle = float(np.median(values))
    scatter = MAD * float(np.median(np.abs(values - middle)))
    smooth = np.where(known, told, middle)
    smooth = cv2.medianBlur(smooth.astype(np.float32), 3)
    worst = np.unravel_index(int(np.abs(smooth - middle).argmax()), smooth.shape)
    where = ((worst[1] + 0.5) / smooth.shape[1], (worst[0] + 0.5) / smooth.shape[0])
    k = _SPREAD_OF_SIGMA
    return Softened(
        k * middle,
        k * _softened_off(middle, TWICE * 1.25 * scatter / math.sqrt(len(values))),
        k * float(smooth[worst]),
        (float(where[0]), float(where[1])),
    )


def _softened_off(blur: float, scatter: float) -> float:
    """Blurs add up by their squares: what is left open of a small one is more than of a large one."""
    return scatter + math.hypot(blur, _BLUR_OPEN_PX) - abs(blur) + _BLUR_LEAST_PX


def _blur_between(sharper: Array, energy: float) -> float:
    """The blur, of a ladder of them, at which the sharper has that energy."""
    falling = np.minimum.accumulate(np.maximum(sharper, 1e-12))
    below = np.flatnonzero(falling <= energy)
    if not len(below):
        return float(_BLURS[-1])
    last = int(below[0])
    if not last:
        return 0.0
    # that of an edge goes as one over its width, and the squares of widths add up
    (e0, e1), (b0, b1) = falling[[last - 1, last]] ** -2, _BLURS[[last - 1, last]] ** 2
    return math.sqrt(float(b0 + (b1 - b0) * (energy**-2 - e0) / max(float(e1 - e0), 1e-12)))
