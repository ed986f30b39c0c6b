"""What every measurement does to pixels: their brightness, their stops, their noise smoothed away."""

from __future__ import annotations

import math

import cv2
import numpy as np
import numpy.typing as npt
from scipy.ndimage import affine_transform

from ..light import LUMA

Array = npt.NDArray[np.float64]
Image = npt.NDArray[np.float32]
Mask = npt.NDArray[np.bool_]

MAD = 1.4826
"""By which a median deviation is a standard one."""
NOISE_OF_FINE = 1.0 / 36.0
"""Of what :func:`fine` leaves: its mean square times this is the variance of white noise in a picture."""
NOISE_OF_FINE_MEAN = math.sqrt(math.pi / 2.0) / 6.0
"""Its mean size times this is the deviation of Gaussian noise: what stands out weighs less."""
FLOOR = 0.01
"""Added to light before its stops are taken, so that noise in the blacks stays small."""
DARK = 0.018
"""The curve of BT.709 goes straight up to so much light."""
_CODES = 255.0
_POLE = math.sqrt(3.0) - 2.0
_SPLINE_REACH = 12
"""What is so far away says less than a ten-millionth of a coefficient."""
_TAPS = 3
_EVENLY_PX = 0.3
"""So far from the middle of what all goes, a spline's own slopes tell the rest."""
_FURTHEST_PX = 64.0


def brightness(light: npt.ArrayLike) -> Image:
    """Of each pixel.

    Parameters
    ----------
    light : ndarray of float, shape (h, w) or (h, w, 3)
        Linear light.

    Returns
    -------
    ndarray of float32, shape (h, w)
        As it is, where there is one channel.

    References
    ----------
    bt709_codes

    Examples
    --------
    >>> brightness(np.full((1, 1, 3), 0.5)).tolist()
    [[0.5]]
    """
    seen = np.asarray(light, np.float32)
    return seen if seen.ndim == 2 else np.asarray(seen @ LUMA, np.float32)


def stops_of(light: npt.ArrayLike) -> Image:
    """Brightness in stops: a gain is a difference, and noise weighs alike over the range.

    Parameters
    ----------
    light : ndarray of float, shape (h, w) or (h, w, 3)
        Linear light.

    Returns
    -------
    ndarray of float32, shape (h, w)
        log₂, over a floor of :data:`FLOOR`.

    Examples
    --------
    >>> stops_of(np.full((1, 1), 0.24)).tolist()
    [[-2.0]]
    """
    return np.asarray(np.log2(np.maximum(brightness(light), 0.0) + np.float32(FLOOR)), np.float32)


def code_of(light: npt.ArrayLike) -> Array:
    """How much light a code of 8 bits is.

    Parameters
    ----------
    light : ndarray of float, shape (...)
        Linear light at which it is.

    Returns
    -------
    ndarray of float, shape (...)
        Linear light.

    References
    ----------
    bt709_codes

    Examples
    --------
    >>> code_of([0.18, 1.0]).round(4).tolist()
    [0.0031, 0.0079]
    """
    return np.asarray(np.maximum(light, DARK) ** 0.55 / (0.45 * 1.099) / _CODES, np.float64)


def smoothed(values: npt.ArrayLike, sigma_px: float) -> Image:
    """By a Gaussian.

    Parameters
    ----------
    values : ndarray of float, shape (h, w) or (h, w, 3)
        Of any kind.
    sigma_px : float
        Its deviation, px.

    Returns
    -------
    ndarray of float32, shape (h, w) or (h, w, 3)
        As large.

    Examples
    --------
    >>> smoothed(np.full((4, 4), 0.5), 1.0).round(3)[0, 0].item()
    0.5
    """
    return np.asarray(cv2.GaussianBlur(np.asarray(values, np.float32), (0, 0), sigma_px), np.float32)


def least_between(values: npt.NDArray[np.float32], place: int) -> float:
    """The place of the least of some values, between their places by a parabola.

    Parameters
    ----------
    values : ndarray of float, shape (n,)
        Some.
    place : int
        Where the least of them is.

    Returns
    -------
    float
        At an end that end.

    Examples
    --------
    >>> least_between(np.float32([4.0, 1.0, 0.0, 1.0]), 2)
    2.0
    """
    if not 0 < place < len(values) - 1:
        return float(place)
    low, middle, high = (float(each) for each in values[place - 1 : place + 2])
    bend = low - 2.0 * middle + high
    return place + (0.5 * (low - high) / bend if bend > 1e-12 else 0.0)


def fine(values: npt.ArrayLike) -> Image:
    """What a mask that sees neither planes nor edges leaves of a picture.

    Parameters
    ----------
    values : ndarray of float, shape (h, w)
        One channel.

    Returns
    -------
    ndarray of float32, shape (h, w)
        Mostly noise, six times as large.

    References
    ----------
    noise_mask

    Examples
    --------
    >>> float(fine(np.add.outer(np.arange(5.0), np.arange(5.0)))[2, 2])
    0.0
    """
    mask = np.array([[1, -2, 1], [-2, 4, -2], [1, -2, 1]], np.float32)
    return np.asarray(cv2.filter2D(np.asarray(values, np.float32), cv2.CV_32F, mask), np.float32)


def spline_of(picture: npt.ArrayLike) -> Image:
    """A picture made ready to be laid elsewhere between its pixels.

    Parameters
    ----------
    picture : ndarray of float, shape (h, w)
        One channel.

    Returns
    -------
    ndarray of float32, shape (h, w)
        Coefficients of its cubic spline.

    References
    ----------
    cubic_spline

    Examples
    --------
    >>> bool(np.allclose(spline_of(np.full((8, 8), 0.5)), 0.5))
    True
    """
    taps = np.arange(-_SPLINE_REACH, _SPLINE_REACH + 1)
    inverse = -6.0 * _POLE / (1.0 - _POLE**2) * _POLE ** np.abs(taps)
    return _filtered(np.asarray(picture, np.float32), inverse, inverse)


def laid_by(spline: Image, transform: Array) -> Image:
    """A picture seen through a transform. Library warps by cubics pull what they shift by up to a twentieth
    of a pixel, as their kernels do not keep a slope; a spline does.

    Parameters
    ----------
    spline : ndarray of float32, shape (h, w)
        From :func:`spline_of`.
    transform : ndarray, shape (2, 3)
        Takes (x, y, 1) of what is asked for to (x, y) of the picture, px.

    Returns
    -------
    ndarray of float32, shape (h, w)
        NaN where the picture has nothing.

    References
    ----------
    cubic_spline

    Examples
    --------
    >>> ramp = np.tile(np.arange(32.0), (8, 1))
    >>> aside = np.array([[1.0, 0.0, 0.3], [0.0, 1.0, 0.0]])
    >>> round(float(laid_by(spline_of(ramp), aside)[4, 10]), 3)
    10.3
    """
    (a, b, right), (c, d, down) = np.asarray(transform, np.float64)
    height, width = spline.shape
    far = np.array([0.0, width - 1.0])[:, None], np.array([0.0, height - 1.0])
    away = np.stack([(a - 1.0) * far[0] + b * far[1] + right, c * far[0] + (d - 1.0) * far[1] + down])
    least, most = away.min(axis=(1, 2)), away.max(axis=(1, 2))
    even, furthest = (most - least).max() <= 2.0 * _EVENLY_PX, np.abs(away).max()
    if even and furthest <= min(_FURTHEST_PX, min(spline.shape) - 2 * _TAPS):
        return _laid_evenly(spline, np.asarray(transform, np.float64), (least + most) / 2.0)
    return np.asarray(
        affine_transform(
            spline,
            np.array([[d, c], [b, a]]),
            (down, right),
            output=np.float32,
            order=3,
            mode="constant",
            cval=np.nan,
            prefilter=False,
        ),
        np.float32,
    )


def _filtered(values: Image, across: Array, down: Array) -> Image:
    return np.asarray(
        cv2.sepFilter2D(values, cv2.CV_32F, across, down, borderType=cv2.BORDER_REFLECT_101), np.float32
    )


def _laid_evenly(spline: Image, transform: Array, middle: Array) -> Image:
    """What :func:`laid_by` gives where all of a picture goes almost equally far: gone as far as its middle
    does by one set of weights, and from there by the spline's own slopes, in a third of the time or less.
    """
    height, width = spline.shape
    whole = np.floor(middle).astype(int)
    part = middle - whole
    rim = int(np.abs(whole).max()) + _TAPS
    wide = np.asarray(cv2.copyMakeBorder(spline, rim, rim, rim, rim, cv2.BORDER_REFLECT_101), np.float32)
    left, top = (rim - _TAPS + whole).tolist()
    cut = wide[top : top + height + 2 * _TAPS, left : left + width + 2 * _TAPS]
    weights = [[_basis(float(each), slope) for slope in range(3)] for each in part]
    inner = np.s_[_TAPS : _TAPS + height, _TAPS : _TAPS + width]

    def slope(right: int, down: int) -> Image:
        return _filtered(cut, weights[0][right], weights[1][down])[inner]

    (a, b, aside), (c, d, below) = transform
    x, y = np.arange(width), np.arange(height)[:, None]
    right = ((a - 1.0) * x + (aside - middle[0])).astype(np.float32) + (b * y).astype(np.float32)
    down = (c * x).astype(np.float32) + ((d - 1.0) * y + (below - middle[1])).astype(np.float32)
    laid = slope(0, 0) + right * (slope(1, 0) + 0.5 * right * slope(2, 0) + down * slope(1, 1))
    laid += down * (slope(0, 1) + 0.5 * down * slope(0, 2))
    for band in (np.s_[:rim], np.s_[-rim:], np.s_[:, :rim], np.s_[:, -rim:]):
        from_x = np.broadcast_to(x, laid.shape)[band] + (right[band] + middle[0])
        from_y = np.broadcast_to(y, laid.shape)[band] + (down[band] + middle[1])
        laid[band][(from_x < 0) | (from_x > width - 1) | (from_y < 0) | (from_y > height - 1)] = np.nan
    return np.asarray(laid, np.float32)


def _basis(part: float, slope: int) -> Array:
    """Weights of the coefficients 2 before to 2 behind for a place so far on from a pixel, 0 to 1: for the
    spline's value there, its slope, or its slope's slope.
    """
    p, q = part, 1.0 - part
    return np.array(
        (
            (0.0, q**3 / 6, (4 - 6 * p**2 + 3 * p**3) / 6, (4 - 6 * q**2 + 3 * q**3) / 6, p**3 / 6),
            (0.0, -(q**2) / 2, (3 * p**2 - 4 * p) / 2, (4 * q - 3 * q**2) / 2, p**2 / 2),
            (0.0, q, 3 * p - 2, 3 * q - 2, p),
        )[slope]
    )
