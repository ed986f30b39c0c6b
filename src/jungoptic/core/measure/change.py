"""How much lighter one picture of a set-up is than another, tile by tile, and where."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from .amounts import TWICE
from .pixels import (
    MAD,
    Array,
    Image,
    Mask,
    brightness,
    laid_by,
    spline_of,
)
from .still import Moved
from .tiles import ENOUGH, FEWEST_TILES, TILES, tiled

_CLIPPED, _DARK = 0.97, 0.004
_OUTLIER = 3.5
_LEAST_STOPS = 0.007
_RUNS_ON = 0.08
"""Of what changed in a third: light does not end where the third does."""
_THIRDS = ("left", "middle", "right"), ("top", "middle", "bottom")


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
    >>> from .pixels import smoothed
    >>> from .still import moved
    >>> board = smoothed(np.random.default_rng(3).random((240, 480), np.float32), 3.0)
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
    >>> from .pixels import smoothed
    >>> from .still import moved
    >>> board = smoothed(np.random.default_rng(3).random((240, 480), np.float32), 3.0)
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
    counts = np.isfinite(_lightest(second))
    if still is not None:
        counts &= np.asarray(still, bool)
    second = np.nan_to_num(second)
    counts &= np.maximum(_lightest(first), _lightest(second)) < _CLIPPED
    counts &= np.minimum(_mean(first), _mean(second)) > _DARK
    weight = counts.astype(np.float32)
    told = np.full((4, TILES[1], TILES[0]), np.nan)
    spread = np.full((TILES[1], TILES[0]), np.nan)
    size = first.shape[0] * first.shape[1] / (TILES[0] * TILES[1])
    planes = [(brightness(first), brightness(second)), *((first[..., i], second[..., i]) for i in range(3))]
    with np.errstate(all="ignore"):
        for index, (before, after) in enumerate(planes):
            (was, count), (now, _) = tiled(before, weight), tiled(after, weight)
            told[index] = np.where(count > ENOUGH, np.log2(now / was), np.nan)
            if not index:
                differs = (after - before * np.float32(np.nanmedian(now / was))) ** 2
                squares, _ = tiled(differs, weight)
                spread = np.sqrt(squares / count) / (was / count) / math.log(2.0) / np.sqrt(count * size)
    known = np.isfinite(told[0])
    if known.sum() < FEWEST_TILES:
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


def _lightest(picture: Image) -> Image:
    """Of the three channels of each pixel, many times as quickly as along the axis; NaN where one is."""
    return np.maximum(np.maximum(picture[..., 0], picture[..., 1]), picture[..., 2])


def _mean(picture: Image) -> Image:
    return (picture[..., 0] + picture[..., 1] + picture[..., 2]) / np.float32(3.0)


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
            if known.sum() < FEWEST_TILES:
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
