"""What a camera's sensor does, from a few pictures: its noise at each level, and how fast its rows follow."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt
from scipy.optimize import brentq, minimize_scalar

FEWEST_LEVELS = 3
FEWEST_FRAMES = 8
_TWICE = 2.0
"""Errors are told as two deviations."""
_LEAST_BANDS, _MOST_BANDS = 0.25, 12.0
_STEPS_A_BAND = 24
_CLEAR = 4.0
"""Bands stand out of the rows' own noise so far at least."""


@dataclass(frozen=True, slots=True)
class NoiseMeasured:
    """Noise by the light: σ² = read² + gain · light, light in shares of white. ``off`` is two deviations of σ
    at mid grey, as a share of it. ``levels`` are light and σ as they were measured.
    """

    read: float
    gain: float
    off: float
    levels: tuple[tuple[float, float], ...]

    def sigma(self, light: float) -> float:
        """Deviation of a pixel at one level of light.

        Parameters
        ----------
        light : float
            1 is white.

        Returns
        -------
        float
            In the same unit.

        References
        ----------
        photon_transfer

        Examples
        --------
        >>> round(NoiseMeasured(0.01, 0.0001, 0.02, ()).sigma(0.18), 5)
        0.01086
        """
        return math.sqrt(max(0.0, self.read**2 + self.gain * light))


def noise_of_pairs(pairs: Sequence[tuple[npt.ArrayLike, npt.ArrayLike]]) -> NoiseMeasured:
    """Noise from pairs of grey frames, each pair of the same light: what differs within a pair is noise.

    Parameters
    ----------
    pairs : sequence of tuple of (ndarray, ndarray)
        Linear light, 1 is white; three or more levels, the lens cap among them if it can be.

    Returns
    -------
    NoiseMeasured
        The line σ² against light, weighed by how well each variance is known.

    Raises
    ------
    ValueError
        Where there are too few levels, or two frames are not of the same light.

    References
    ----------
    photon_transfer

    Examples
    --------
    >>> dice = np.random.default_rng(1)
    >>> grey = lambda light: light + 0.01 * dice.standard_normal((200, 200))
    >>> round(noise_of_pairs([(grey(x), grey(x)) for x in (0.0, 0.2, 0.6)]).sigma(0.2), 4)
    0.01
    """
    if len(pairs) < FEWEST_LEVELS:
        raise ValueError(f"{len(pairs)} levels are too few: {FEWEST_LEVELS} at least, from dark to bright")
    light, variance, count = [], [], []
    for first, second in pairs:
        a, b = np.asarray(first, np.float64), np.asarray(second, np.float64)
        difference = a - b
        drift = float(difference.mean())
        spread = float(difference.var()) / 2.0
        if abs(drift) > max(0.02 * float(a.mean()), 6.0 * math.sqrt(2.0 * spread / a.size) + 1e-4):
            raise ValueError("the two frames of a pair are not of the same light: it changed between them")
        light.append(float((a.mean() + b.mean()) / 2.0))
        variance.append(spread)
        count.append(a.size)
    levels, seen = np.array(light), np.array(variance)
    deviation = np.maximum(seen, 1e-12) * np.sqrt(2.0 / np.array(count))
    weight = 1.0 / deviation
    design = np.column_stack([np.ones_like(levels), levels])
    solved, *_ = np.linalg.lstsq(design * weight[:, None], seen * weight, rcond=None)
    within = np.linalg.inv((design * weight[:, None]).T @ (design * weight[:, None]))
    scatter = max(1.0, float((((design @ solved - seen) * weight) ** 2).sum()) / max(1, len(levels) - 2))
    grey = np.array([1.0, 0.18])
    at_grey = float(grey @ solved)
    off = _TWICE * math.sqrt(scatter * float(grey @ within @ grey)) / max(2.0 * at_grey, 1e-12)
    sigmas = tuple((float(x), math.sqrt(max(0.0, float(y)))) for x, y in zip(levels, seen, strict=True))
    return NoiseMeasured(math.sqrt(max(0.0, float(solved[0]))), float(solved[1]), off, sigmas)


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
    # what stands still is the sheet and the lens; what is left is the lamp
    moving = rows / np.maximum(rows.mean(axis=0), 1e-9) - 1.0
    moving -= moving.mean(axis=1, keepdims=True)
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


def _share(moving: npt.NDArray[np.float64], bands: float) -> float:
    """How much of what moves is one wave of so many bands a frame, in any phase."""
    height = moving.shape[1]
    turn = 2.0 * math.pi * bands * np.arange(height) / height
    waves = np.column_stack([np.sin(turn), np.cos(turn), np.ones(height)])
    basis, _ = np.linalg.qr(waves)
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


def pupil_offset_m(
    shift_px: float, f_px: float, pan_deg: float, near_m: float, far_m: float, shift_off_px: float = 0.25
) -> tuple[float, float]:
    """How far the entrance pupil stands before the axis of a pan, from two rods that were in line before it.

    To first order e = Δ / (f·sin(pan)·(1/near − 1/far)); solved exactly, since the pupil comes nearer too.

    Parameters
    ----------
    shift_px : float
        How far the far rod came to the right of the near one in the frame, recorded px, after a pan to the
        right.
    f_px : float
        Focal length, recorded px.
    pan_deg : float
        How far the head was turned.
    near_m, far_m : float
        The rods, from the axis.
    shift_off_px : float, default 0.25
        What the shift may be off.

    Returns
    -------
    tuple of (float, float)
        Offset, negative behind the axis, and what it may be off, m.

    Raises
    ------
    ValueError
        Where nothing was turned, the rods stand as far as each other, or no pupil within half the way to the
        near rod makes such a shift.

    References
    ----------
    pupil_by_pan, pinhole

    Examples
    --------
    >>> offset, off = pupil_offset_m(57.0, 2860.0, 20.0, 0.6, 4.0)
    >>> round(1000 * offset, 1), round(1000 * off, 2)
    (33.8, 0.16)
    """
    turn = math.radians(pan_deg)
    reach = min(near_m, far_m) / 2.0

    def apart_px(offset_m: float) -> float:
        near, far = (
            f_px * math.tan(math.atan2(-offset_m * math.sin(turn), away - offset_m * math.cos(turn)) - turn)
            for away in (near_m, far_m)
        )
        return far - near

    slope = (apart_px(1e-4) - apart_px(-1e-4)) / 2e-4
    if abs(slope) < 1.0:
        raise ValueError("turn the head by some degrees, between a near rod and a far one")
    if (apart_px(-reach) - shift_px) * (apart_px(reach) - shift_px) > 0:
        raise ValueError("no lens makes such a shift: measure both rods and the pan again")
    offset = float(brentq(lambda each: apart_px(each) - shift_px, -reach, reach, xtol=1e-9))
    return offset, abs(shift_off_px / slope)
