"""What every measurement does to pixels: their brightness, their stops, their noise smoothed away."""

from __future__ import annotations

import cv2
import numpy as np
import numpy.typing as npt

Array = npt.NDArray[np.float64]
Image = npt.NDArray[np.float32]
Mask = npt.NDArray[np.bool_]

LUMA = np.array([0.2126, 0.7152, 0.0722], np.float32)
"""What red, green and blue weigh in brightness, by ITU-R BT.709."""
MAD = 1.4826
"""By which a median deviation is a standard one."""
FLOOR = 0.01
"""Added to light before its stops are taken, so that noise in the blacks stays small."""


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
