"""By how much softer one picture is than another: blurred until its gradients have the other's energy."""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import cache

import cv2
import numpy as np
import numpy.typing as npt

from .amounts import TWICE
from .pixels import MAD, NOISE_OF_FINE_MEAN, Array, Image, Mask, brightness, code_of, fine, smoothed
from .tiles import ENOUGH, FEWEST_TILES, tiled

_SPREAD_OF_SIGMA = 2.5631
"""10 to 90 % of a Gaussian edge, in its deviations."""
_SMOOTH_PX = 1.0
_BLUR_OPEN_PX, _BLUR_LEAST_PX = 0.4, 0.05
"""Deviation of a Gaussian that laying one picture on another and a codec may add or take."""
_BLURS = np.concatenate([[0.0], np.geomspace(0.3, 6.0, 14)])
_KEEPS_RIM = 3
_CODED = 4.0
"""Variance of what a codec leaves open, codes²."""
_LEAST_ENERGY, _LEAST_TEXTURE = 1e-12, 1e-7
_OVER_NOISE = 4.0
"""Texture that counts, over noise and over what a codec leaves open."""


@dataclass(frozen=True, slots=True)
class Softened:
    """By how much edges of a picture are wider than those of its reference, 10 to 90 %, px; less than 0
    where they are narrower. ``there`` is the most of any tile, ``where`` it is, shares of the frame.
    """

    px: float
    off: float
    there: float
    where: tuple[float, float]


def _energy(grey: Image, weight: Image) -> Array:
    """Energy of the gradient of each tile."""
    right = cv2.Sobel(grey, cv2.CV_32F, 1, 0, ksize=3, scale=0.125)
    down = cv2.Sobel(grey, cv2.CV_32F, 0, 1, ksize=3, scale=0.125)
    return tiled(right * right + down * down, weight)[0]


def _noise(grey: Image, weight: Image) -> Array:
    """Variance of the noise of each tile, by what a mask that sees neither planes nor edges finds."""
    total, count = tiled(np.abs(fine(grey)), weight)
    with np.errstate(all="ignore"):
        return np.asarray((NOISE_OF_FINE_MEAN * total / count) ** 2 * count, np.float64)


@cache
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


class FocusLadder:
    """A picture blurred by steps, and what energy the gradients of its tiles have left after each: worked out
    as far as somebody asks, since most pictures are as sharp as one another.

    Parameters
    ----------
    grey : ndarray of float32, shape (h, w)
        Linear light.
    weight : ndarray of float32, shape (h, w)
        1 where it counts, else 0.
    """

    def __init__(self, grey: Image, weight: Image) -> None:
        self.noise = _noise(grey, weight)
        self._grey, self._weight = grey, weight
        self._steps: list[Array] = []
        self.light, count = tiled(grey, weight)
        with np.errstate(all="ignore"):
            self.coded = _CODED * code_of(self.light / count) ** 2 * count

    def step(self, number: int) -> Array:
        """What is left in each tile after one of the blurs, noise taken off."""
        while len(self._steps) <= number:
            sigma = math.hypot(_SMOOTH_PX, float(_BLURS[len(self._steps)]))
            energy = _energy(smoothed(self._grey, sigma), self._weight)
            self._steps.append(energy - self.noise * _passes(sigma))
        return self._steps[number]

    def falling_to(self, gain: Array, energy: Array, asked: Mask) -> Array:
        """The ladder in light that is ``gain`` as much, as far as the tiles that are asked for want it to
        have no more than an energy: the least so far, by steps.
        """
        falling: list[Array] = []
        for number in range(len(_BLURS)):
            least = np.maximum(self.step(number) * gain**2, _LEAST_ENERGY)
            falling.append(np.minimum(falling[-1], least) if falling else least)
            if not np.any(asked & ~(falling[-1] <= energy)):
                break
        return np.stack(falling)


def softer(reference: FocusLadder, picture: FocusLadder, counts: Mask) -> Softened:
    """By how much softer a picture is than its reference, by tiles.

    Parameters
    ----------
    reference, picture : FocusLadder
        Of two pictures that lie on one another.
    counts : ndarray of bool, shape (9, 16)
        Which tiles do.

    Returns
    -------
    Softened
        As :func:`softened` tells it.

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
    >>> ladders = [FocusLadder(each, np.ones_like(sharp)) for each in (sharp, smoothed(sharp, 1.5))]
    >>> round(softer(*ladders, np.ones((9, 16), bool)).px / 2.5631, 1)
    1.7
    """
    with np.errstate(all="ignore"):  # more light is no sharper edge
        gain = picture.light / reference.light
    gain = np.where(np.isfinite(gain), gain, np.nan)
    # texture of no more than the codes of a recording is what its codec makes of it
    noise = np.maximum.reduce([reference.noise, picture.noise, reference.coded])
    floor = np.maximum(_OVER_NOISE * noise * _passes(_SMOOTH_PX), _LEAST_TEXTURE)
    was, now = reference.step(0) * gain**2, picture.step(0)
    with np.errstate(invalid="ignore"):
        says = counts & np.isfinite(gain) & (np.minimum(was, now) >= floor)
        softer_now = says & (now <= was)
    told = np.full(counts.shape, np.nan)
    ways = (
        (softer_now, reference, gain, now, 1.0),
        (says & ~softer_now, picture, np.ones_like(gain), was, -1.0),
    )
    for asked, sharper, lit, energy, sign in ways:
        ladder = sharper.falling_to(lit, energy, asked)
        for row, column in np.argwhere(asked):
            told[row, column] = sign * _blur_between(ladder[:, row, column], float(energy[row, column]))
    known = np.isfinite(told)
    if known.sum() < FEWEST_TILES:
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
    sharp, other = (FocusLadder(np.asarray(each, np.float32), weight) for each in (first, second))
    return softer(sharp, other, tiled(weight, weight)[1] > ENOUGH)


def _softened_off(blur: float, scatter: float) -> float:
    """Blurs add up by their squares: what is left open of a small one is more than of a large one."""
    return scatter + math.hypot(blur, _BLUR_OPEN_PX) - abs(blur) + _BLUR_LEAST_PX


def _blur_between(falling: Array, energy: float) -> float:
    """The blur, of a ladder of them as far as it was needed, at which the sharper has that energy."""
    below = np.flatnonzero(falling <= energy)
    if not len(below):
        return float(_BLURS[-1])
    last = int(below[0])
    if not last:
        return 0.0
    # that of an edge goes as one over its width, and the squares of widths add up
    (e0, e1), (b0, b1) = falling[[last - 1, last]] ** -2, _BLURS[[last - 1, last]] ** 2
    return math.sqrt(float(b0 + (b1 - b0) * (energy**-2 - e0) / max(float(e1 - e0), 1e-12)))
