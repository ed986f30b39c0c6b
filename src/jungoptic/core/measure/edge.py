"""How sharp an edge is: its spread from 10 to 90 %, and the frequency at which half its contrast is left.

As ISO 12233 does it with a slanted edge (e-SFR), for an edge in any direction that need not be quite
straight: the pixels around it are sorted by their distance from it, a quarter of a pixel apart.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

import cv2
import numpy as np
import numpy.typing as npt
from scipy.optimize import isotonic_regression

from .pixels import Array

_FINER = 4
_LOW, _HIGH = 0.1, 0.9
_HALF = 0.5
_LEAST_CONTRAST = 0.15
"""log₂ of both sides."""
_LEAST_LONG_PX, _LEAST_WIDE_PX = 16, 6
_PARTS, _STUDENT = 8, 2.4
_ROUNDS = 3
_SYSTEMATIC, _CODEC_PX = 0.03, 0.2
"""What the method leaves open, of the spread, and what a codec adds to the sharpest edges."""


@dataclass(frozen=True, slots=True)
class Edge:
    """An edge: ``spread_px`` from 10 to 90 %, two deviations of it, cycles a pixel at which half the contrast
    is left, the direction in which it runs (0 level, 90 upright), both sides' light, and its spread function
    a quarter of a pixel apart.
    """

    spread_px: float
    off_px: float
    mtf50: float
    angle_deg: float
    dark: float
    bright: float
    profile: tuple[float, ...]

    def enlarged(self, times: float) -> Edge:
        """The same edge in a picture that is so many times as large.

        Parameters
        ----------
        times : float
            More than 0.

        Returns
        -------
        Edge
            Its profile stays as it was measured.

        Examples
        --------
        >>> Edge(2.0, 0.1, 0.2, 85.0, 0.1, 0.6, ()).enlarged(2.0).spread_px
        4.0
        """
        return replace(
            self,
            spread_px=self.spread_px * times,
            off_px=self.off_px * times,
            mtf50=self.mtf50 / times,
        )


def edge_of(picture: npt.ArrayLike) -> Edge:
    """The one edge in a piece of a picture.

    Parameters
    ----------
    picture : ndarray of float, shape (h, w)
        Linear light: one edge that goes through it, plain on both sides.

    Returns
    -------
    Edge
        In px of the picture.

    Raises
    ------
    ValueError
        Where there is none, it is too short, or its sides are not plain.

    References
    ----------
    edge_spread

    Examples
    --------
    >>> y, x = np.mgrid[0:60, 0:60]
    >>> sharp = np.where(x * 8 + y > 270, 0.6, 0.1).astype(np.float32)
    >>> round(edge_of(cv2.GaussianBlur(sharp, (0, 0), 2.0)).spread_px / 2.5631, 1)
    2.0
    """
    seen = np.asarray(picture, np.float64)
    if seen.ndim != 2 or min(seen.shape) < _LEAST_WIDE_PX or max(seen.shape) < _LEAST_LONG_PX:
        raise ValueError(
            f"mark a piece of at least {_LEAST_LONG_PX} px along the edge and {_LEAST_WIDE_PX} across"
        )
    along, across, angle = _placed(seen)
    whole = _spread_function(across.ravel(), seen.ravel())
    spread, dark, bright = _spread(*whole)
    if bright <= 0 or math.log2(bright / max(dark, 1e-4)) < _LEAST_CONTRAST:
        raise ValueError("both sides of it are about as light: take an edge with more contrast")
    return Edge(
        spread,
        math.hypot(_jackknife(along, across, seen, spread), _SYSTEMATIC * spread, _CODEC_PX),
        _mtf50(whole[1], dark, bright),
        angle,
        dark,
        bright,
        tuple(float(each) for each in whole[1]),
    )


def _placed(seen: Array) -> tuple[Array, Array, float]:
    """Of each pixel its place along the edge and across it, px, and the direction of the edge, degrees."""
    smooth = cv2.GaussianBlur(seen, (0, 0), 1.0)
    right = cv2.Sobel(smooth, cv2.CV_64F, 1, 0, ksize=3)
    down = cv2.Sobel(smooth, cv2.CV_64F, 0, 1, ksize=3)
    strength = np.hypot(right, down)
    strength = np.where(strength > 0.3 * np.quantile(strength, 0.995), strength**2, 0.0)
    if not strength.any():
        raise ValueError("there is no edge in it")
    turn = 0.5 * math.atan2(
        2.0 * float((strength * right * down).sum() / strength.sum()),
        float((strength * (right**2 - down**2)).sum() / strength.sum()),
    )
    normal = np.array([math.cos(turn), math.sin(turn)])
    if float((strength * (right * normal[0] + down * normal[1])).sum()) < 0:
        normal = -normal
    y, x = np.mgrid[0 : seen.shape[0], 0 : seen.shape[1]].astype(np.float64)
    along = x * -normal[1] + y * normal[0]
    across = x * normal[0] + y * normal[1]
    across -= float((strength * across).sum() / strength.sum())
    bend = np.zeros(3)
    reach = float(np.abs(across).max())
    for _ in range(_ROUNDS):
        inside = (np.abs(across) < reach) & (strength > 0)
        if np.count_nonzero(inside) < _LEAST_LONG_PX:
            raise ValueError("there is no edge in it")
        middle = float(along[inside].mean())
        t = (along - middle) / max(float(np.ptp(along[inside])), 1.0)
        design = np.stack([np.ones(inside.sum()), t[inside], t[inside] ** 2], 1)
        weight = strength[inside]
        bend = np.linalg.solve(
            design.T @ (design * weight[:, None]) + 1e-9 * np.eye(3), design.T @ (weight * across[inside])
        )
        across = across - (bend[0] + bend[1] * t + bend[2] * t**2)
        reach = max(3.0, 4.0 * math.sqrt(float((weight * across[inside] ** 2).sum() / weight.sum())))
    return along, across, math.degrees(math.atan2(-normal[0], -normal[1])) % 180.0


def _spread_function(across: Array, light: Array) -> tuple[Array, Array]:
    """Mean light by distance from the edge, a quarter of a pixel apart, as far as both sides go."""
    reach = min(float(-across.min()), float(across.max()))
    count = int(reach * _FINER)
    if count < _LEAST_WIDE_PX * _FINER // 2:
        raise ValueError("the edge lies at the rim of what is marked: bring it to the middle")
    index = np.rint(across * _FINER).astype(int) + count
    inside = (index >= 0) & (index <= 2 * count)
    total = np.bincount(index[inside], light[inside], 2 * count + 1)
    number = np.bincount(index[inside], minlength=2 * count + 1)
    places = np.arange(-count, count + 1) / _FINER
    filled = number > 0
    return places, np.interp(places, places[filled], total[filled] / number[filled])


def _spread(places: Array, light: Array) -> tuple[float, float, float]:
    """Spread from 10 to 90 % of a spread function, px, and the light of both sides."""
    rising = isotonic_regression(light).x
    quarter = max(2, len(light) // 6)
    dark, bright = float(np.median(light[:quarter])), float(np.median(light[-quarter:]))
    for _ in range(2):  # the sides are what lies well off the edge, as wide as it turns out to be
        share = (rising - dark) / max(bright - dark, 1e-9)
        share = np.maximum.accumulate(share + np.arange(len(share)) * 1e-9)
        low, high = np.interp([_LOW, _HIGH], share, places)
        away = max(1.0, 1.5 * (high - low))
        below, above = places < low - 0.5 * away, places > high + 0.5 * away
        if below.sum() >= quarter // 2 and above.sum() >= quarter // 2:
            dark, bright = float(light[below].mean()), float(light[above].mean())
    share = (rising - dark) / max(bright - dark, 1e-9)
    share = np.maximum.accumulate(share + np.arange(len(share)) * 1e-9)
    low, high = np.interp([_LOW, _HIGH], share, places)
    return float(high - low), dark, bright


def _jackknife(along: Array, across: Array, seen: Array, spread: float) -> float:
    """How far the spread may be off, by leaving out one part of the edge after another."""
    part = np.clip(
        ((along - along.min()) / max(float(np.ptp(along)), 1e-9) * _PARTS).astype(int), 0, _PARTS - 1
    )
    apart = []
    for index in range(_PARTS):
        keep = part != index
        try:
            apart.append(_spread(*_spread_function(across[keep], seen[keep]))[0] - spread)
        except ValueError:
            continue
    if len(apart) < 3:
        return 0.2 * spread
    count = len(apart)
    return _STUDENT * math.sqrt((count - 1) / count * float((np.array(apart) ** 2).sum()))


def _mtf50(light: Array, dark: float, bright: float) -> float:
    """Cycles a pixel at which half the contrast is left."""
    line = np.diff(light) / max(bright - dark, 1e-9)
    middle = int(np.rint((np.abs(line) * np.arange(len(line))).sum() / np.abs(line).sum()))
    half = min(middle, len(line) - 1 - middle)
    cut = line[middle - half : middle + half + 1]
    cut = cut * np.hamming(len(cut))
    count = 16 * len(cut)
    spectrum = np.abs(np.fft.rfft(cut, count))
    frequency = np.fft.rfftfreq(count, 1.0 / _FINER)
    spectrum = spectrum / spectrum[0] / np.maximum(np.sinc(frequency / _FINER), 1e-3) ** 2
    below = np.flatnonzero(spectrum < _HALF)
    if not len(below):
        return float(frequency[-1])
    last = int(below[0])
    (f0, f1), (m0, m1) = frequency[[last - 1, last]], spectrum[[last - 1, last]]
    return float(f0 + (f1 - f0) * (m0 - _HALF) / max(float(m0 - m1), 1e-12))
