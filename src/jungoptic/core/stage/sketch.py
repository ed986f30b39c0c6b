"""A board drawn from the simulated stage: the picture as pencil on paper."""

from __future__ import annotations

import cv2
import numpy as np
import numpy.typing as npt

_PAPER = np.array([243.0, 240.0, 233.0])
_PENCIL = 0.0075  # radius of the soft pencil, share of the width


def sketch(picture: npt.NDArray[np.uint8]) -> npt.NDArray[np.uint8]:
    """A picture as pencil on paper: lines where tones meet and a light hatch where it is dark.

    Parameters
    ----------
    picture : ndarray of uint8, shape (h, w, 3)
        sRGB codes, red first.

    Returns
    -------
    ndarray of uint8, shape (h, w, 3)
        The drawing.

    References
    ----------
    pencil

    Examples
    --------
    >>> sketch(np.full((54, 96, 3), 200, np.uint8)).shape
    (54, 96, 3)
    """
    grey = cv2.cvtColor(picture, cv2.COLOR_RGB2GRAY)
    grey = cv2.createCLAHE(2.0, (8, 8)).apply(grey)
    soft = cv2.GaussianBlur(255 - grey, (0, 0), max(1.0, _PENCIL * grey.shape[1]))
    lines = cv2.divide(grey, 255 - soft, scale=250.0).astype(np.float64) / 255.0
    y, x = np.mgrid[0 : grey.shape[0], 0 : grey.shape[1]]
    stroke = 0.5 + 0.5 * np.sin((x + y) * (2.0 * np.pi / (0.009 * grey.shape[1])))
    dark = np.clip((110.0 - grey.astype(np.float64)) / 110.0, 0.0, 1.0)
    tone = np.clip(lines, 0.0, 1.0) * (1.0 - 0.55 * dark * stroke)
    drawn: npt.NDArray[np.uint8] = np.clip(tone[..., None] * _PAPER, 0, 255).astype(np.uint8)
    return drawn
