"""Frames of a desk made from photographs that share nothing with the simulated camera."""

from __future__ import annotations

from functools import cache

import cv2
import numpy as np

from jungoptic.core.measure import SetFrame, linear

from .filmed import laid, noised, photograph, signal

SIZE = (540, 960)
DELIVERED = 2.0
"""The delivered frame is 1920 wide, the pictures that are held against each other half of that."""
MARGIN = 24


@cache
def clean(name: str) -> np.ndarray:
    return laid(photograph(name, SIZE, MARGIN), of=SIZE)


def taken(light: np.ndarray, seed: int, quality: int = 92) -> SetFrame:
    """A frame as a camera hands it over: noise, the curve, a JPEG."""
    codes = np.uint8(np.rint(255 * signal(noised(light, 0.02, seed))))
    _, data = cv2.imencode(
        ".jpg", np.ascontiguousarray(codes[..., ::-1]), [cv2.IMWRITE_JPEG_QUALITY, quality]
    )
    return SetFrame(linear(np.float32(cv2.imdecode(data, cv2.IMREAD_COLOR)[..., ::-1]) / 255.0))
