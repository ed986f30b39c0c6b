"""How noisy the frames of a clip are at each level of light, from what differs between frames that show the
same.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import cv2
import numpy as np
import numpy.typing as npt

from ..light import MID_GREY
from .amounts import TWICE
from .pixels import NOISE_OF_FINE, Image, fine, smoothed

_LEVELS = np.geomspace(MID_GREY / 64.0, MID_GREY * 5.0, 18)
"""Half a stop apart, about: six stops under mid grey to white."""
_FEWEST_PX = 400
_LOCAL_PX = 31
"""What differs over more than this is light or movement, not noise."""
_MOVES = 0.35
"""Of its deviation the mean of a piece may be off, where nothing moves."""
_TRIM = 7.0
_ROUNDS = 4
_LAGS = (1, 2, 4, 8, 16)
_FINE, _PATCH_PX = 0.1, 24


@dataclass(frozen=True, slots=True)
class GrainLevel:
    """Noise at one level of light: both in shares of white, and over how many pixels."""

    light: float
    sigma: float
    count: int


@dataclass(frozen=True, slots=True)
class Grain:
    """Noise by level; ``at_grey`` is σ at mid grey as a share of mid grey, ``off`` two deviations of it.
    ``frames_apart`` are those that were compared: 0 where there was one frame only.
    """

    levels: tuple[GrainLevel, ...]
    at_grey: float
    off: float
    frames_apart: int

    def sigma(self, light: float) -> float:
        """Noise at one level of light, from those that were measured near it, by the law of photons.

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
        >>> round(Grain((GrainLevel(0.1, 0.01, 9), GrainLevel(0.4, 0.02, 9)), 0.07, 0.01, 1).sigma(0.2), 4)
        0.0141
        """
        lights = np.array([each.light for each in self.levels])
        shares = np.array([each.sigma for each in self.levels]) / np.sqrt(lights)
        apart = np.abs(np.log2(lights / light))
        weights = np.array([each.count for each in self.levels]) * np.exp(-((apart - apart.min()) ** 2))
        return float(np.average(shares, weights=weights)) * math.sqrt(light)


def _trimmed(values: Image) -> float:
    """Deviation without what lies far out. A codec leaves most of a frame and changes some of it much: that
    is noise too.
    """
    square = values.astype(np.float64) ** 2
    power = float(square.mean())
    for _ in range(_ROUNDS):
        kept = square[square <= _TRIM**2 * max(power, 1e-16)]
        power = float(kept.mean()) if len(kept) else 0.0
    return math.sqrt(power)


def _by_level(
    light: Image, differs: Image, counts: npt.NDArray[np.bool_]
) -> dict[int, tuple[float, float, int]]:
    """Of each level that enough pixels have: its light, the deviation of what differs, over how many."""
    level = np.searchsorted(np.sqrt(_LEVELS[1:] * _LEVELS[:-1]), light)
    level[~counts | (light < _LEVELS[0] * 0.7) | (light > 0.97)] = -1
    told = {}
    for index in range(len(_LEVELS)):
        here = level == index
        count = int(np.count_nonzero(here))
        if count >= _FEWEST_PX:
            told[index] = float(light[here].mean()), _trimmed(differs[here]), count
    return told


def _difference(first: Image, second: Image) -> tuple[Image, npt.NDArray[np.bool_]]:
    """What differs between two frames besides light that changed, and where nothing moves."""
    differs = second - first
    size = (_LOCAL_PX, _LOCAL_PX)
    mean = np.asarray(cv2.boxFilter(differs, cv2.CV_32F, size), np.float32)
    square = np.asarray(cv2.sqrBoxFilter(differs, cv2.CV_32F, size), np.float32)
    deviation = np.sqrt(np.maximum(square - mean * mean, 1e-14))
    return differs - mean, np.abs(mean - np.median(mean)) < _MOVES * deviation


def grain_of_frames(frames: Sequence[npt.ArrayLike]) -> Grain:
    """Noise of frames that show the same, as of a clean plate.

    Parameters
    ----------
    frames : sequence of (ndarray of float, shape (h, w))
        Linear light of one channel, at the size at which the noise is wanted; three or more let it be seen
        whether a codec has copied the noise from frame to frame.

    Returns
    -------
    Grain
        σ of a level is the deviation of the difference of two frames, over √2; frames as far apart as it
        takes for that not to grow any more.

    Raises
    ------
    ValueError
        Where there are fewer than two, or nothing in them stands still.

    References
    ----------
    photon_transfer

    Examples
    --------
    >>> dice = np.random.default_rng(1)
    >>> frames = [0.18 + 0.01 * dice.standard_normal((90, 160)) for _ in range(4)]
    >>> round(grain_of_frames(frames).at_grey * 0.18, 4)
    0.01
    """
    seen = [np.asarray(each, np.float32) for each in frames]
    if len(seen) < 2:
        raise ValueError("one frame is too few: noise is what differs between two")
    best: dict[int, tuple[float, float, int]] = {}
    apart = 0
    for lag in [each for each in _LAGS if each < len(seen)]:
        pairs = range(0, len(seen) - lag, max(1, (len(seen) - lag) // 4))
        told: dict[int, list[tuple[float, float, int]]] = {}
        for index in pairs:
            first, second = seen[index], seen[index + lag]
            differs, counts = _difference(first, second)
            for level, each in _by_level(smoothed(0.5 * (first + second), 2.0), differs, counts).items():
                told.setdefault(level, []).append(each)
        whole = {level: _mean(each) for level, each in told.items()}
        if _weighed(whole) > 1.01 * _weighed(best):
            best, apart = whole, lag
    if not best:
        raise ValueError("nothing in them stands still, or it is all black or clipped")
    return _grain(
        {level: (light, sigma / math.sqrt(2.0), count) for level, (light, sigma, count) in best.items()},
        apart,
    )


def _mean(told: list[tuple[float, float, int]]) -> tuple[float, float, int]:
    light, sigma, count = np.array(told).T
    return float(light.mean()), float(np.sqrt((sigma**2 * count).sum() / count.sum())), int(count.sum())


def _weighed(told: dict[int, tuple[float, float, int]]) -> float:
    """One deviation for all levels, as a share of the root of the light."""
    if not told:
        return 0.0
    light, sigma, count = np.array(list(told.values())).T
    return float(np.average(sigma / np.sqrt(light), weights=count))


def _grain(told: dict[int, tuple[float, float, int]], apart: int) -> Grain:
    levels = tuple(GrainLevel(*told[level]) for level in sorted(told))
    count = sum(each.count for each in levels)
    whole = Grain(levels, 0.0, 0.0, apart)
    at_grey = whole.sigma(MID_GREY) / MID_GREY
    shares = np.array([each.sigma / math.sqrt(each.light) for each in levels])
    uneven = (
        float(shares.std()) / max(float(shares.mean()), 1e-12) / math.sqrt(len(levels))
        if len(levels) > 1
        else 0.0
    )
    off = at_grey * math.hypot(TWICE / math.sqrt(2.0 * count), 0.03, min(uneven, 0.2) if apart == 0 else 0.0)
    return Grain(levels, at_grey, off, apart)


def grain_of_still(picture: npt.ArrayLike) -> Grain:
    """Noise of one picture, from its plainest places.

    Parameters
    ----------
    picture : ndarray of float, shape (h, w)
        Linear light of one channel.

    Returns
    -------
    Grain
        From what a mask that sees neither planes nor edges leaves of the plainest tenth of the frame; what
        is painted that fine counts as noise, and noise that a codec smoothed is missing.

    Raises
    ------
    ValueError
        Where nothing in it is plain.

    References
    ----------
    noise_mask

    Examples
    --------
    >>> dice = np.random.default_rng(1)
    >>> round(grain_of_still(0.18 + 0.01 * dice.standard_normal((360, 640))).at_grey * 0.18, 3)
    0.009
    """
    seen = np.asarray(picture, np.float32)
    detail = fine(seen)
    rows, columns = (max(1, side // _PATCH_PX) for side in seen.shape)
    size = (columns, rows)
    cut = np.s_[: rows * _PATCH_PX, : columns * _PATCH_PX]
    light = np.asarray(cv2.resize(seen[cut], size, interpolation=cv2.INTER_AREA), np.float64).ravel()
    square = np.asarray(cv2.resize(detail[cut] ** 2, size, interpolation=cv2.INTER_AREA), np.float64).ravel()
    sigma = np.sqrt(square * NOISE_OF_FINE)
    usable = (light > _LEVELS[0]) & (light < 0.9)
    if usable.sum() < 4:
        raise ValueError("nothing in it is plain, and neither black nor clipped")
    level = np.searchsorted(np.sqrt(_LEVELS[1:] * _LEVELS[:-1]), light)
    told = {}
    for index in np.unique(level[usable]):
        here = usable & (level == index)
        share = sigma[here] / np.sqrt(light[here])
        plain = share <= np.quantile(share, max(_FINE, min(1.0, 4.0 / len(share))))
        told[int(index)] = (
            float(light[here].mean()),
            float(np.median(share[plain]) * math.sqrt(float(light[here].mean()))),
            int(plain.sum()) * _PATCH_PX**2,
        )
    return _grain(told, 0)
