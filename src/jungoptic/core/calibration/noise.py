"""How noisy a sensor is at each level of light, from pairs of grey frames."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

FEWEST_LEVELS = 3
_LEAST_APART = 0.05
_TWICE = 2.0
"""Errors are told as two deviations."""


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


@dataclass(frozen=True, slots=True)
class Level:
    """What a pair of grey frames of one light tells: its light, the variance of a pixel, over how many."""

    light: float
    variance: float
    count: int


def level_of_pair(first: npt.ArrayLike, second: npt.ArrayLike) -> Level:
    """What differs within a pair of grey frames of one light is noise.

    Parameters
    ----------
    first, second : ndarray of float, shape (h, w)
        Linear light, 1 is white.

    Returns
    -------
    Level
        Half the variance of their difference.

    Raises
    ------
    ValueError
        Where they are not of one size, or not of the same light.

    References
    ----------
    photon_transfer

    Examples
    --------
    >>> level_of_pair([[0.2, 0.22]], [[0.22, 0.2]]).count
    2
    """
    a, b = np.asarray(first, np.float64), np.asarray(second, np.float64)
    if a.shape != b.shape:
        raise ValueError("the two frames of a pair are not of one size: take both with one recording")
    difference = a - b
    drift = float(difference.mean())
    spread = float(difference.var()) / 2.0
    if abs(drift) > max(0.02 * float(a.mean()), 6.0 * math.sqrt(2.0 * spread / a.size) + 1e-4):
        raise ValueError("the two frames of a pair are not of the same light: it changed between them")
    return Level(float((a.mean() + b.mean()) / 2.0), spread, a.size)


def noise_of_levels(levels: Sequence[Level]) -> NoiseMeasured:
    """Noise from pairs of grey frames at several levels of light.

    Parameters
    ----------
    levels : sequence of Level
        Three or more, the lens cap among them if it can be.

    Returns
    -------
    NoiseMeasured
        The line σ² against light, weighed by how well each variance is known.

    Raises
    ------
    ValueError
        Where there are too few levels.

    References
    ----------
    photon_transfer

    Examples
    --------
    >>> dice = np.random.default_rng(1)
    >>> grey = lambda light: light + 0.01 * dice.standard_normal((200, 200))
    >>> levels = [level_of_pair(grey(x), grey(x)) for x in (0.0, 0.2, 0.6)]
    >>> round(noise_of_levels(levels).sigma(0.2), 4)
    0.01
    """
    if len(levels) < FEWEST_LEVELS:
        raise ValueError(f"{len(levels)} levels are too few: {FEWEST_LEVELS} at least, from dark to bright")
    light = np.array([level.light for level in levels])
    seen = np.array([level.variance for level in levels])
    if float(np.ptp(light)) < _LEAST_APART:
        raise ValueError("all pairs are of about the same light: take some darker and some brighter")
    deviation = np.maximum(seen, 1e-12) * np.sqrt(2.0 / np.array([level.count for level in levels]))
    weight = 1.0 / deviation
    design = np.column_stack([np.ones_like(light), light])
    solved, *_ = np.linalg.lstsq(design * weight[:, None], seen * weight, rcond=None)
    within = np.linalg.inv((design * weight[:, None]).T @ (design * weight[:, None]))
    scatter = max(1.0, float((((design @ solved - seen) * weight) ** 2).sum()) / max(1, len(light) - 2))
    grey = np.array([1.0, 0.18])
    at_grey = float(grey @ solved)
    off = _TWICE * math.sqrt(scatter * float(grey @ within @ grey)) / max(2.0 * at_grey, 1e-12)
    sigmas = tuple((float(x), math.sqrt(max(0.0, float(y)))) for x, y in zip(light, seen, strict=True))
    return NoiseMeasured(math.sqrt(max(0.0, float(solved[0]))), float(solved[1]), off, sigmas)
