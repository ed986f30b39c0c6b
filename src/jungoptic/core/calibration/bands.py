"""What a lamp that pulses with the mains draws into frames: how fast rows follow, how fast frames do, how
deep the lamp pulses.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt
from scipy.optimize import minimize_scalar

from .turning import circle_through

FEWEST_FRAMES = 8
_TWICE = 2.0
"""Errors are told as two deviations."""
_LEAST_BANDS, _MOST_BANDS = 0.25, 12.0
_STEPS_A_BAND = 24
_CLEAR = 4.0
"""Bands stand out of the rows' own noise so far at least."""
_LEAST_LEFT = 0.1
"""A shutter that leaves less than this of a pulse smooths it away."""
MAINS_OFF = 0.001
"""How far the mains wander over some seconds, as a share."""


@dataclass(frozen=True, slots=True)
class RowsMeasured:
    """How fast the rows of a frame are read one after another: µs a row, ms a frame; ``off`` is two
    deviations, as a share. ``bands`` is how many bands of the lamp one frame shows.
    """

    row_us: float
    readout_ms: float
    off: float
    bands: float


def row_time(frames: npt.ArrayLike, mains_hz: float) -> RowsMeasured:
    """How fast rows follow each other, from the bands that a lamp on the mains draws into the frames.

    Parameters
    ----------
    frames : ndarray of float, shape (n, h) or (n, h, w)
        Eight or more frames of a plain sheet under the lamp, linear light, with a short shutter; or the means
        of their rows.
    mains_hz : float
        50 or 60: the lamp pulses twice as fast.

    Returns
    -------
    RowsMeasured
        Rows per band × row time = 1 / (2 · mains).

    Raises
    ------
    ValueError
        Where there are too few frames, or no bands that move: the rate is a part of the mains' own, or the
        shutter is too long.

    References
    ----------
    row_bands, mains_ripple

    Examples
    --------
    >>> row, frame = np.arange(1080), np.arange(8)[:, None]
    >>> bands = 1 + 0.2 * np.sin(2 * np.pi * (100 * 15e-6 * row + 100 / 24 * frame))
    >>> round(row_time(bands, 50).row_us, 1)
    15.0
    """
    seen = np.asarray(frames, np.float64)
    rows = seen.mean(axis=2) if seen.ndim == 3 else seen
    if rows.shape[0] < FEWEST_FRAMES:
        raise ValueError(f"{rows.shape[0]} frames are too few: {FEWEST_FRAMES} at least")
    moving = _moving(rows)
    bands = _bands(moving)
    if bands is None:
        raise ValueError(
            "no bands move through the frames: use a shorter shutter, and a rate that is no part of"
            f" {2 * mains_hz:g} a second"
        )
    count = rows.shape[0]
    without = np.array([_refined(np.delete(moving, each, axis=0), bands) for each in range(count)])
    deviation = math.sqrt((count - 1) / count * float(((without - without.mean()) ** 2).sum()))
    readout_s = bands / (2.0 * mains_hz)
    return RowsMeasured(1e6 * readout_s / rows.shape[1], 1e3 * readout_s, _TWICE * deviation / bands, bands)


def _moving(rows: npt.NDArray[np.float64]) -> npt.NDArray[np.float64]:
    """What stands still is the sheet and the lens; what is left is the lamp, as a share of the light."""
    moving = rows / np.maximum(rows.mean(axis=0), 1e-9) - 1.0
    return np.asarray(moving - moving.mean(axis=1, keepdims=True), np.float64)


def _waves(height: int, bands: float) -> npt.NDArray[np.float64]:
    turn = 2.0 * math.pi * bands * np.arange(height) / height
    return np.column_stack([np.sin(turn), np.cos(turn), np.ones(height)])


def _share(moving: npt.NDArray[np.float64], bands: float) -> float:
    """How much of what moves is one wave of so many bands a frame, in any phase."""
    basis, _ = np.linalg.qr(_waves(moving.shape[1], bands))
    return float(((moving @ basis) ** 2).sum() / max(float((moving**2).sum()), 1e-30))


def _bands(moving: npt.NDArray[np.float64]) -> float | None:
    steps = int(_STEPS_A_BAND * (_MOST_BANDS - _LEAST_BANDS))
    tried = np.linspace(_LEAST_BANDS, _MOST_BANDS, steps)
    shares = np.array([_share(moving, bands) for bands in tried])
    best = int(shares.argmax())
    by_chance = 3.0 / moving.shape[1]  # of white noise, three waves take so much
    if shares[best] < _CLEAR * by_chance:
        return None
    return _refined(moving, float(tried[best]))


def _refined(moving: npt.NDArray[np.float64], near: float) -> float:
    step = 1.0 / _STEPS_A_BAND
    best = minimize_scalar(
        lambda bands: -_share(moving, bands),
        bounds=(max(_LEAST_BANDS / 2.0, near - 2 * step), near + 2 * step),
        method="bounded",
        options={"xatol": 1e-6},
    )
    return float(best.x)


def ripple_depth(
    frames: npt.ArrayLike, readout_ms: float, shutter_s: float, mains_hz: float
) -> tuple[float, float]:
    """How deep a lamp pulses, from the bands that it draws into the frames of a rolling shutter.

    Parameters
    ----------
    frames : ndarray of float, shape (n, h)
        Means of the rows of eight or more frames of a plain sheet under the lamp, linear light.
    readout_ms : float
        How long the rows of a frame take, as it was measured.
    shutter_s : float
        How long each row is open.
    mains_hz : float
        50 or 60.

    Returns
    -------
    tuple of (float, float)
        (max − min)/(max + min) of the lamp, and what it may be off. An open row smooths a pulse to
        sinc(2 · mains · t) of itself, which is undone.

    Raises
    ------
    ValueError
        Where the shutter smooths the pulses away, or there are too few frames.

    References
    ----------
    mains_ripple, row_bands

    Examples
    --------
    >>> row, frame = np.arange(1080), np.arange(8)[:, None]
    >>> bands = 1 + 0.2 * np.sin(2 * np.pi * (100 * 15e-6 * row + 100 / 24 * frame))
    >>> round(ripple_depth(bands, 16.2, 0.0, 50)[0], 3)
    0.2
    """
    rows = np.asarray(frames, np.float64)
    if rows.shape[0] < FEWEST_FRAMES:
        raise ValueError(f"{rows.shape[0]} frames are too few: {FEWEST_FRAMES} at least")
    if readout_ms <= 0:
        raise ValueError("measure the row time first: bands are read by it")
    left = abs(float(np.sinc(2.0 * mains_hz * shutter_s)))
    if left < _LEAST_LEFT:
        raise ValueError(
            f"a shutter of {shutter_s:.4f} s smooths the pulses away: open it for a quarter of a pulse,"
            f" 1/{8 * mains_hz:.0f} s, or less"
        )
    _, waves = _amplitudes(rows, readout_ms, mains_hz)
    deviation = float(waves.std(ddof=1)) / math.sqrt(len(waves))
    return float(waves.mean()) / left, _TWICE * deviation / left


def frame_rate(
    frames: npt.ArrayLike, readout_ms: float, mains_hz: float, nominal_fps: float
) -> tuple[float, float]:
    """How fast frames really follow, by the mains: from how far the bands of a lamp move from frame to frame.

    Parameters
    ----------
    frames : ndarray of float, shape (n, h)
        Means of the rows of eight or more frames, one right after the other.
    readout_ms : float
        How long the rows of a frame take.
    mains_hz : float
        50 or 60; it is right within a thousandth.
    nominal_fps : float
        What the camera says: of the rates that draw the same bands, the nearest one is meant.

    Returns
    -------
    tuple of (float, float)
        Frames a second, and what they may be off.

    Raises
    ------
    ValueError
        Where there are too few frames, or the rate is far from what the camera says.

    References
    ----------
    row_bands, mains_ripple

    Examples
    --------
    >>> row, frame = np.arange(1080), np.arange(48)[:, None]
    >>> bands = 1 + 0.2 * np.sin(2 * np.pi * 100 * (15e-6 * row + frame * 1001 / 24000))
    >>> round(frame_rate(bands, 16.2, 50, 24)[0], 3)
    23.976
    """
    rows = np.asarray(frames, np.float64)
    if rows.shape[0] < FEWEST_FRAMES:
        raise ValueError(f"{rows.shape[0]} frames are too few: {FEWEST_FRAMES} at least")
    phases, _ = _amplitudes(rows, readout_ms, mains_hz)
    pulses = 2.0 * mains_hz
    nominal = pulses / nominal_fps
    drift = np.unwrap(np.angle(np.exp(1j * (phases - 2.0 * math.pi * nominal * np.arange(len(phases))))))
    (slope, _), covariance = np.polyfit(np.arange(len(phases)), drift, 1, cov=True)
    a_frame = nominal + float(slope) / (2.0 * math.pi)
    if a_frame <= 0:
        raise ValueError("no such rate draws these bands: say the rate that the camera was set to")
    off = _TWICE * math.sqrt(float(covariance[0, 0])) / (2.0 * math.pi) / a_frame
    rate = pulses / a_frame
    return rate, rate * math.hypot(off, MAINS_OFF)


def _amplitudes(
    rows: npt.NDArray[np.float64], readout_ms: float, mains_hz: float
) -> tuple[npt.NDArray[np.float64], npt.NDArray[np.float64]]:
    """Phase and amplitude of the bands of each frame. What stands still may have some of such a wave too: it
    is the middle of the circle on which those of all frames lie.
    """
    basis = _waves(rows.shape[1], 2.0 * mains_hz * readout_ms / 1000.0)
    solved, *_ = np.linalg.lstsq(basis, _moving(rows).T, rcond=None)
    waves = np.asarray(solved[:2].T, np.float64)
    sine, cosine, _ = circle_through(waves)
    return np.arctan2(waves[:, 1] - cosine, waves[:, 0] - sine), np.hypot(
        waves[:, 0] - sine, waves[:, 1] - cosine
    )
