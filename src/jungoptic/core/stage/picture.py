"""Operations on pictures in linear light: blur, smear, encoding."""

from __future__ import annotations

import math

import cv2
import numpy as np
import numpy.typing as npt

from ..light import LUMA

Image = npt.NDArray[np.float32]


_STEPS = 4096


_SMALL_DISC_PX = 9.0


_LEAST_BLUR_PX = 0.8


_LEAST_SMEAR_PX = 2


def _linear(value: npt.NDArray[np.float64]) -> npt.NDArray[np.float64]:
    return np.where(value <= 0.04045, value / 12.92, ((value + 0.055) / 1.055) ** 2.4)


def linear_rgb(hex_colour: str) -> Image:
    """Linear light of ``#rrggbb``, 0 … 1. Source: sRGB, IEC 61966-2-1."""
    parts = np.array([int(hex_colour[i : i + 2], 16) / 255.0 for i in (1, 3, 5)])
    return _linear(parts).astype(np.float32)


_CODES = np.clip(
    np.where(
        np.linspace(0, 1, _STEPS) <= 0.0031308,
        np.linspace(0, 1, _STEPS) * 12.92,
        1.055 * np.linspace(0, 1, _STEPS) ** (1 / 2.4) - 0.055,
    )
    * 255.0
    + 0.5,
    0,
    255,
).astype(np.uint8)


def encoded(picture: Image) -> npt.NDArray[np.uint8]:
    """Linear light as 8-bit sRGB codes, clipped as a display clips.

    Parameters
    ----------
    picture : ndarray of float32, shape (h, w, 3) or (3, h, w)
        Linear light; 1 is diffuse white.

    Returns
    -------
    ndarray of uint8, shape as given
        Codes.

    References
    ----------
    srgb

    Examples
    --------
    >>> encoded(np.array([0.18, 1.0, 7.0], np.float32)).tolist()
    [118, 255, 255]
    """
    index = (np.clip(picture, 0.0, 1.0) * (_STEPS - 1)).astype(np.uint16)
    return _CODES[index]


def grey(picture: Image) -> Image:
    """Planes of red, green and blue (3, h, w) in black and white."""
    return np.repeat(np.tensordot(LUMA, picture, 1)[None], 3, axis=0)


def _disc(diameter: float) -> Image:
    radius = diameter / 2.0
    reach = math.ceil(radius)
    y, x = np.mgrid[-reach : reach + 1, -reach : reach + 1]
    kernel = np.clip(radius + 0.5 - np.hypot(x, y), 0.0, 1.0).astype(np.float32)
    return np.asarray(kernel / kernel.sum(), dtype=np.float32)


def blurred(picture: Image, diameter_px: float) -> Image:
    """A disc of blur; a large one is laid on a smaller copy, which nobody can tell at that softness."""
    if diameter_px < _LEAST_BLUR_PX:
        return picture
    shrink = max(1, int(diameter_px / _SMALL_DISC_PX))
    if shrink == 1:
        return np.asarray(
            cv2.filter2D(picture, -1, _disc(diameter_px), borderType=cv2.BORDER_CONSTANT), dtype=np.float32
        )
    height, width = picture.shape[:2]
    small = cv2.resize(
        picture, (max(1, width // shrink), max(1, height // shrink)), interpolation=cv2.INTER_AREA
    )
    small = cv2.filter2D(small, -1, _disc(diameter_px / shrink), borderType=cv2.BORDER_CONSTANT)
    return np.asarray(cv2.resize(small, (width, height), interpolation=cv2.INTER_LINEAR), dtype=np.float32)


def smeared(picture: Image, length_px: float) -> Image:
    """Motion blur across the frame."""
    taps = round(length_px)
    return (
        picture
        if taps < _LEAST_SMEAR_PX
        else np.asarray(
            cv2.blur(picture, (min(taps, picture.shape[1]), 1), borderType=cv2.BORDER_CONSTANT),
            dtype=np.float32,
        )
    )


def softened(planes: Image, blur_px: float, smear_px: float = 0.0) -> Image:
    """Blur and smear of every plane."""
    if blur_px < _LEAST_BLUR_PX and round(smear_px) < _LEAST_SMEAR_PX:
        return planes
    return np.stack([smeared(blurred(np.ascontiguousarray(plane), blur_px), smear_px) for plane in planes])


def jpeg(pixels: npt.NDArray[np.uint8], quality: int = 88) -> bytes:
    """A picture as a JPEG.

    Parameters
    ----------
    pixels : ndarray of uint8, shape (h, w, 3)
        sRGB codes, red first.
    quality : int, default 88
        1 to 100.

    Returns
    -------
    bytes
        The file.

    Examples
    --------
    >>> jpeg(np.zeros((9, 16, 3), np.uint8))[:2].hex()
    'ffd8'
    """
    done, data = cv2.imencode(
        ".jpg", np.ascontiguousarray(pixels[..., ::-1]), [cv2.IMWRITE_JPEG_QUALITY, quality]
    )
    assert done
    return data.tobytes()
