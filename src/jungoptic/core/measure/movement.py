"""How things move in a clip: how far in a frame, how long they smear, how often they come round."""

from __future__ import annotations

from dataclasses import dataclass

import cv2
import numpy as np
import numpy.typing as npt

Codes = npt.NDArray[np.uint8]

_FASTEST = 99.0
_MOVES_PX = 0.3
_FEWEST_SHARE = 0.0005
_WAYS_BACK_PX = 1.0
_PERIOD = 0.5
_FEWEST_FRAMES = 8


@dataclass(frozen=True, slots=True)
class Flow:
    """Between two frames: the fastest (the 99th of 100 of what moves), px; the share of the frame that moves;
    where it is fastest, shares of the frame.
    """

    fastest_px: float
    share: float
    at: tuple[float, float]


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
    first, second = np.asarray(before, np.uint8), np.asarray(after, np.uint8)
    still = np.zeros((*first.shape, 2), np.float32)
    search = cv2.DISOpticalFlow.create(cv2.DISOPTICAL_FLOW_PRESET_FAST)
    flow = np.asarray(search.calc(first, second, still.copy()), np.float32)
    length = np.hypot(flow[..., 0], flow[..., 1])
    moves = length > _MOVES_PX
    if known and moves.any():
        back = np.asarray(search.calc(second, first, still), np.float32)
        y, x = np.indices(length.shape, np.float32)
        there = cv2.remap(
            back, x + flow[..., 0], y + flow[..., 1], cv2.INTER_LINEAR, borderValue=(99.0, 99.0)
        )
        off = np.hypot(*np.moveaxis(flow + there, 2, 0))
        moves &= off < _WAYS_BACK_PX + 0.05 * length
    share = float(moves.mean())
    if share < _FEWEST_SHARE:
        return Flow(0.0, 0.0, (0.5, 0.5))
    fastest = float(np.percentile(length[moves], _FASTEST))
    fast = moves & (length >= 0.9 * fastest)
    y, x = (each.mean() + 0.5 for each in np.nonzero(fast))
    return Flow(fastest, share, (float(x) / length.shape[1], float(y) / length.shape[0]))


def smear_px(travel_px: float, shutter_angle_deg: float) -> float:
    """How long something smears that moves so far in a frame.

    Parameters
    ----------
    travel_px : float
        From one captured frame to the next.
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
    >>> smear_px(24.0, 180)
    12.0
    """
    return travel_px * shutter_angle_deg / 360.0


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
    flat = frames.reshape(count, -1) - frames.reshape(count, -1).mean(axis=0)
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
