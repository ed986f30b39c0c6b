"""How things move in a clip: how far in a frame, how long they smear, how often they come round."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

import cv2
import numpy as np
import numpy.typing as npt
from scipy import ndimage

from .pixels import Array, Image, Mask

Codes = npt.NDArray[np.uint8]

_FASTEST = 80.0
"""Of 100 squares that move: those beyond it are chance matches of what is uncovered."""
_SQUARE_PX, _MOSTLY = 8, 0.6
_MOVES_PX = 0.3
_FEWEST_SHARE = 0.0005
_WAYS_BACK_PX = 1.0
_PERIOD = 0.5
_FEWEST_FRAMES = 8
_SMALL = (64, 36)
_TILES = (16, 9)
_DARKEST, _SAME_LIGHT = 8.0, 0.01
"""Codes added to both, that black tiles say little; the share by which light may change and be the same."""
_NEAR_PX, _NOISE, _LEAST_CODES = 24, 3.0, (2.0, 4.0)
"""How near a difference counts, as at the edge of a flat thing; how often the noise; no less and no more."""
_EXPLAINS = 0.5
"""Of how far two frames are apart: less is left where the one is moved onto the other by what really goes."""
_LASTS = 3
"""Steps of which the middle one counts: one by itself is a chance match."""
_FREEZES = 5


@dataclass(frozen=True, slots=True)
class Flow:
    """Between two frames: the fastest (the 80th of 100 of what moves), px; the share of the frame that moves;
    where it is fastest, shares of the frame.
    """

    fastest_px: float
    share: float
    where: tuple[float, float]


def flow_between(before: npt.ArrayLike, after: npt.ArrayLike, known: bool = True) -> Flow:
    """How far things move from one frame to the next.

    Parameters
    ----------
    before, after : ndarray of uint8, shape (h, w)
        Codes of luma.
    known : bool, default True
        Only what is found again on the way back counts: slower, and sure.

    Returns
    -------
    Flow
        By dense inverse search.

    References
    ----------
    inverse_search

    Examples
    --------
    >>> board = cv2.GaussianBlur(np.random.default_rng(3).random((120, 200), np.float32), (0, 0), 2.0)
    >>> codes = np.uint8(255 * (board - board.min()) / np.ptp(board))
    >>> round(flow_between(codes, np.roll(codes, 4, axis=1)).fastest_px)
    4
    """
    first = np.asarray(before, np.uint8)
    second = as_light(first, np.asarray(after, np.uint8))
    still = np.zeros((*first.shape, 2), np.float32)
    search = cv2.DISOpticalFlow.create(cv2.DISOPTICAL_FLOW_PRESET_FAST)
    flow = np.asarray(search.calc(first, second, still.copy()), np.float32)
    length = np.hypot(flow[..., 0], flow[..., 1])
    moves = (length > _MOVES_PX) & differing(first, second)
    if known and moves.any():
        back = np.asarray(search.calc(second, first, still), np.float32)
        rows, columns = np.indices(length.shape, np.float32)
        x, y = columns + flow[..., 0], rows + flow[..., 1]
        there = cv2.remap(back, x, y, cv2.INTER_LINEAR, borderValue=(99.0, 99.0))
        off = np.hypot(*np.moveaxis(flow + there, 2, 0))
        moves &= off < _WAYS_BACK_PX + 0.05 * length
        laid = cv2.remap(second, x, y, cv2.INTER_LINEAR, borderMode=cv2.BORDER_REPLICATE)
        apart, left = (_apart(first, each, _SQUARE_PX) for each in (second, laid))
        moves &= (left < _EXPLAINS * apart) | (left < _LEAST_CODES[0])
    share = float(moves.mean())
    fastest, where = _fastest(length, moves)
    if share < _FEWEST_SHARE or not fastest:
        return Flow(0.0, 0.0, (0.5, 0.5))
    return Flow(fastest, share, where)


def as_light(before: Codes, after: Codes) -> Codes:
    """A frame made as light as the one before it, so that light that changes is not taken for movement; what
    moves is in few of the tiles of which the median counts.
    """
    was, now = (cv2.resize(each, _TILES, interpolation=cv2.INTER_AREA) for each in (before, after))
    lighter = float(np.median((now + _DARKEST) / (was + _DARKEST)))
    if abs(lighter - 1.0) < _SAME_LIGHT:
        return after
    return np.asarray(cv2.convertScaleAbs(after, alpha=1.0 / lighter), np.uint8)


def differing(before: Codes, after: Codes) -> Mask:
    """Where two frames differ by more than their noise: only there something is seen to go; over a plain sky
    a flow goes anywhere.
    """
    apart = _apart(before, after, _NEAR_PX)
    return np.asarray(apart > np.clip(_NOISE * float(np.median(apart[::4, ::4])), *_LEAST_CODES), bool)


def _apart(before: npt.NDArray[Any], after: npt.NDArray[Any], near_px: int) -> Image:
    apart = np.asarray(cv2.absdiff(before, after), np.float32)
    return np.asarray(cv2.blur(apart, (near_px, near_px)), np.float32)


def _fastest(length: Image, moves: Mask) -> tuple[float, tuple[float, float]]:
    """How far the fastest thing goes, and where it is: the median of the small squares that move for the
    most part, the fastest but a few of them; what is uncovered beside a thing goes anywhere.
    """
    rows, columns = (max(1, side // _SQUARE_PX) for side in length.shape)
    cut = np.s_[: rows * _SQUARE_PX, : columns * _SQUARE_PX]
    squares = [
        each[cut].reshape(rows, _SQUARE_PX, columns, _SQUARE_PX).swapaxes(1, 2).reshape(rows * columns, -1)
        for each in (length, moves)
    ]
    going = squares[1].mean(axis=1) > _MOSTLY
    if not going.any():
        return 0.0, (0.5, 0.5)
    values = np.where(squares[1][going], squares[0][going], np.nan)
    middles = np.nanmedian(values, axis=1)
    fastest = float(np.percentile(middles, _FASTEST))
    fast = np.flatnonzero(going)[middles >= 0.9 * fastest]
    x, y = float((fast % columns).mean() + 0.5) / columns, float((fast // columns).mean() + 0.5) / rows
    return fastest, (x, y)


@dataclass(frozen=True, slots=True)
class Motion:
    """Movement over a clip: the fastest px of each step (n − 1); the most that lasts for more than one of
    them, its error, from which frame on, and where in it; how sharp each frame is against the sharpest (n);
    the frames for a freeze, the sharpest first; and frames a turn of what spins, where something does.
    """

    fastest_px: Array
    most_px: float
    off_px: float
    at_frame: int
    where: tuple[float, float]
    sharp: Array
    freeze: tuple[int, ...]
    turn_frames: float | None

    def smear_px(self, shutter_angle_deg: float) -> float:
        """How long the fastest thing smears.

        Parameters
        ----------
        shutter_angle_deg : float
            Of the camera.

        Returns
        -------
        float
            px.

        References
        ----------
        shutter

        Examples
        --------
        >>> Motion(np.array([24.0]), 24.0, 0.5, 0, (0.5, 0.5), np.ones(2), (0,), None).smear_px(180)
        12.0
        """
        return self.most_px * shutter_angle_deg / 360.0


class MovementWatch:
    """Frames of a clip in which something moves, one after another."""

    def __init__(self) -> None:
        self._before: Codes | None = None
        self._flows: list[Flow] = []
        self._sharp: list[float] = []
        self._small: list[Image] = []

    def add(self, codes: npt.ArrayLike) -> None:
        """One frame more.

        Parameters
        ----------
        codes : ndarray of uint8, shape (h, w)
            Codes of luma.
        """
        seen = np.asarray(codes, np.uint8)
        if self._before is not None:
            self._flows.append(flow_between(self._before, seen))
        self._before = seen
        self._sharp.append(sharpness(seen))
        self._small.append(np.asarray(cv2.resize(seen, _SMALL, interpolation=cv2.INTER_AREA), np.float32))

    def motion(self) -> Motion:
        """What they come to.

        Returns
        -------
        Motion
            Frames are counted from 0.

        Raises
        ------
        ValueError
            Where there are fewer than two.

        References
        ----------
        inverse_search, self_similarity

        Examples
        --------
        >>> board = cv2.GaussianBlur(np.random.default_rng(3).random((120, 200), np.float32), (0, 0), 2.0)
        >>> codes = np.uint8(255 * (board - board.min()) / np.ptp(board))
        >>> watch = MovementWatch()
        >>> for frame in range(4):
        ...     watch.add(np.roll(codes, 4 * frame, axis=1))
        >>> round(watch.motion().most_px)
        4
        """
        if not self._flows:
            raise ValueError("one frame is too few: two at least")
        fastest = np.array([each.fastest_px for each in self._flows])
        most = float(ndimage.median_filter(fastest, _LASTS, mode="nearest").max())
        worst = int(np.argmin(np.abs(fastest - most)))
        sharp = np.array(self._sharp)
        return Motion(
            fastest,
            most,
            0.8 + 0.05 * most,
            worst,
            self._flows[worst].where,
            sharp / max(float(sharp.max()), 1e-12),
            tuple(int(each) for each in np.argsort(-sharp, kind="stable")[:_FREEZES]),
            period_frames(np.stack(self._small)),
        )


def sharpness(light: npt.ArrayLike) -> float:
    """How much fine detail a frame has, to find the sharpest of a clip.

    Parameters
    ----------
    light : ndarray of float or uint8, shape (h, w)
        Codes or light.

    Returns
    -------
    float
        Mean square of its Laplacian over the variance of the frame: comparable within a clip.

    Examples
    --------
    >>> board = np.random.default_rng(3).random((60, 80)).astype(np.float32)
    >>> sharpness(board) > 3 * sharpness(cv2.GaussianBlur(board, (0, 0), 2.0))
    True
    """
    seen = np.asarray(light, np.float32)
    fine = np.asarray(cv2.Laplacian(seen, cv2.CV_32F), np.float32)
    return float((fine * fine).mean() / max(float(seen.var()), 1e-9))


def period_frames(small: npt.ArrayLike) -> float | None:
    """After how many frames a clip looks the same again: a turn of a spinning thing.

    Parameters
    ----------
    small : ndarray of float, shape (n, h, w)
        The region in which it turns, small.

    Returns
    -------
    float or None
        Frames a turn, between whole ones by a parabola; None where nothing comes round.

    References
    ----------
    self_similarity

    Examples
    --------
    >>> angle = 2 * np.pi * np.arange(60) / 12.5
    >>> hand = np.stack([np.cos(angle), np.sin(angle), np.cos(2 * angle)], 1)[:, :, None]
    >>> round(period_frames(hand), 1)
    12.5
    """
    frames = np.asarray(small, np.float64)
    count = len(frames)
    if count < _FEWEST_FRAMES:
        return None
    flat = frames.reshape(count, -1)
    flat = flat - flat.mean(axis=1, keepdims=True)  # light that comes and goes turns nothing
    flat /= np.maximum(np.linalg.norm(flat, axis=1, keepdims=True), 1e-9)
    flat -= flat.mean(axis=0)
    norms = np.maximum(np.linalg.norm(flat, axis=1), 1e-9)
    alike = (flat @ flat.T) / np.outer(norms, norms)
    lags = np.array([float(np.diag(alike, lag).mean()) for lag in range(count // 2 + 1)])
    falls = int(np.argmax(lags < _PERIOD / 2.0)) if (lags < _PERIOD / 2.0).any() else 0
    if not falls or falls >= len(lags) - 2:
        return None
    tops = [
        lag
        for lag in range(falls, len(lags) - 1)
        if lags[lag] > _PERIOD and lags[lag] >= lags[lag - 1] and lags[lag] >= lags[lag + 1]
    ]
    if not tops:
        return None
    top = tops[0]
    low, middle, high = lags[top - 1 : top + 2]
    bend = low - 2.0 * middle + high
    return float(top + (0.5 * (low - high) / bend if bend < -1e-9 else 0.0))
