"""Whether a camera stood still between two pictures: shift, turn and size, and what no shift mends.

Points that are followed say roughly how one picture lies on the other; then every tile of it says by least
squares how it is still off (Lucas & Kanade's equations), and the tiles that agree are what stands still.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass

import cv2
import numpy as np
import numpy.typing as npt

from .amounts import TWICE
from .pixels import Array, Image, Mask, spline_of, stops_of
from .registered import FEWEST_POINTS, registered, textured
from .tiles import Compared, agreed

WORKING_PX = 960
"""Pictures are found on one another at this width, and measured at their own."""
_ROUNDS = 6
_NOT_THE_SAME = "what both pictures show is not the same, or has too little in it to be found again"
_DONE_PX = 0.002
_FEWEST_TILES = 8
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


def roughly(reference: Image, picture: Image) -> Array:
    """How a picture lies on a reference by points that are followed, at the working width.

    Parameters
    ----------
    reference, picture : ndarray of float32, shape (h, w)
        In stops.

    Returns
    -------
    ndarray, shape (2, 3)
        Takes (x, y, 1) of the reference to (x, y) of the picture, px.

    Raises
    ------
    ValueError
        Where they show different things.

    References
    ----------
    good_features, lucas_kanade

    Examples
    --------
    >>> dice = np.random.default_rng(3)
    >>> board = stops_of(cv2.GaussianBlur(dice.random((240, 480), np.float32), (0, 0), 3.0))
    >>> [round(float(each)) for each in roughly(board, np.roll(board, 12, axis=1))[:, 2]]
    [12, 0]
    """
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
        raise ValueError(_NOT_THE_SAME)
    turn, agree = cv2.estimateAffinePartial2D(
        ready.points[seen.which], seen.here, ransacReprojThreshold=1.0, maxIters=2000, confidence=0.999
    )
    if turn is None or agree.sum() < FEWEST_POINTS:
        raise ValueError(_NOT_THE_SAME)
    there = np.asarray(turn, np.float64)
    # pixels have their middles at halves: what is measured small lies half a large pixel otherwise
    half = 0.5 / share - 0.5
    there[:, 2] = there[:, 2] / share + half - there[:, :2] @ (half, half)
    return there


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
    return moved_in_stops(first, second, without)


def moved_in_stops(first: Image, second: Image, without: npt.ArrayLike | None = None) -> Moved:
    """The same of two pictures in stops."""
    return stands(Compared(first), lambda: spline_of(second), roughly(first, second), without)


def stands(
    compared: Compared,
    spline: Callable[[], Image],
    transform: Array,
    without: npt.ArrayLike | None = None,
    done_px: float = _DONE_PX,
    smooth: Image | None = None,
    silent: Mask | None = None,
) -> Moved:
    """How a picture lies on a reference, from a first guess on.

    Parameters
    ----------
    compared : Compared
        The reference, made ready.
    spline : callable
        Gives the picture made ready, in stops, where it has to be laid.
    transform : ndarray, shape (2, 3)
        The first guess.
    without : ndarray of bool, shape (h, w), optional
        Where something else is shown that does not count.
    done_px : float, default 0.002
        A step of less is the last.
    smooth : ndarray of float32, shape (h, w), optional
        The picture smoothed: where it is given, the first guess is that it lies on the reference as it is.
    silent : ndarray of bool, shape (n,), optional
        Tiles that do not count.

    Returns
    -------
    Moved
        In px of the pictures.

    Raises
    ------
    ValueError
        Where too little of them stands still.

    References
    ----------
    lucas_kanade, biweight

    Examples
    --------
    >>> from .pixels import smoothed
    >>> board = stops_of(smoothed(np.random.default_rng(3).random((240, 480), np.float32), 3.0))
    >>> as_it_is = similarity((0.0, 0.0), 0.0, 1.0, (0.0, 0.0))
    >>> round(stands(Compared(board), lambda: spline_of(np.roll(board, 1, axis=1)), as_it_is).shift_px[0], 1)
    1.0
    """
    height, width = compared.smooth.shape
    middle = np.array([(width - 1) / 2.0, (height - 1) / 2.0])
    covered = np.zeros(len(compared.middles), bool) if silent is None else silent.copy()
    if without is not None:
        covered |= compared.sums(np.asarray(without, np.float32)) > 0
    deviations, agrees = np.zeros(4), ~covered
    left, covariance = np.zeros_like(compared.middles), np.zeros((len(compared.middles), 2, 2))
    alike = ~covered
    ready: Image | None = None
    for turn in range(_ROUNDS):
        if smooth is not None and not turn:
            off, covariance, alike = compared.off_laid(smooth)
        else:
            ready = spline() if ready is None else ready
            off, covariance, alike = compared.off(ready, transform)
        off[covered] = np.nan
        solved, deviations, agrees, left = agreed(compared, off, covariance, middle, float(width))
        if agrees.sum() < _FEWEST_TILES:
            raise ValueError("too little in both pictures stands still: mark what moves, or take others")
        step = similarity((solved[0], solved[1]), 0.0, 1.0, (0.0, 0.0))
        turn_px, size_px = solved[2] / width, solved[3] / width
        step[:, :2] += np.array([[size_px, -turn_px], [turn_px, size_px]])
        step[:, 2] -= np.array([[size_px, -turn_px], [turn_px, size_px]]) @ middle
        transform = np.vstack([transform, [0, 0, 1]])[:2] @ np.vstack([step, [0, 0, 1]])
        if np.abs(solved).max() < done_px:
            break
    parallax = _parallax(compared, np.where(alike & ~covered, 1.0, 0.0), left, covariance, (width, height))
    return _told(compared, transform, deviations, agrees, left, covariance, parallax, (width, height))


def _parallax(
    compared: Compared, alike: Array, left: Array, covariance: Array, size_px: tuple[int, int]
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
    compared: Compared,
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
