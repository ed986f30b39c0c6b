"""What light becomes on a sensor and in a recording: colour, noise, curve."""

from __future__ import annotations

import math

import numpy as np
import numpy.typing as npt

from ..light import bt709_signal
from ..match.records import SetUp
from .picture import Image

GRAIN_AT_400 = 0.006
"""Noise of a delivered pixel of diffuse white at ISO 400 on a gate of :data:`GRAIN_GATE_MM`. Assumed."""
GRAIN_GATE_MM = 23.5
DARK = 0.02


def grain_sigma(setup: SetUp, scale: float) -> float:
    """Noise of a delivered pixel of diffuse white, times ``scale``: the resize, and the width of a smaller
    picture, which averages it. In less light it is less by the root of that.
    """
    return GRAIN_AT_400 * math.sqrt(setup.iso / 400.0) * GRAIN_GATE_MM / setup.extracted_mm * scale


def add_grain(planes: Image, setup: SetUp, scale: float, seed: tuple[int, ...]) -> None:
    """Photon noise in linear light: each delivered pixel is as noisy as ISO and gate make it, times
    ``scale``: the resize, and the width of a smaller picture, which averages them.
    """
    sigma = grain_sigma(setup, scale)
    noise = np.random.default_rng(seed).standard_normal(planes[:3].shape).astype(np.float32)
    alpha = np.maximum(planes[3], 1e-6)
    bright = np.clip(planes[:3] / alpha, 0.0, None) + DARK
    planes[:3] += (sigma * noise * np.sqrt(bright) * planes[3]).astype(np.float32)


def recorded_codes(light: npt.ArrayLike) -> npt.NDArray[np.uint8]:
    """Linear light as a camera records it in 8 bits, by the curve of ITU-R BT.709, full range.

    Parameters
    ----------
    light : ndarray of float, shape (h, w) or (h, w, 3)
        1 is diffuse white; what is more is clipped.

    Returns
    -------
    ndarray of uint8, shape (h, w) or (h, w, 3)
        Codes.

    References
    ----------
    bt709_codes

    Examples
    --------
    >>> recorded_codes([[0.18, 1.0, 7.0]]).tolist()
    [[104, 255, 255]]
    """
    signal = bt709_signal(light)
    return np.clip(np.round(signal * 255.0), 0, 255).astype(np.uint8)
