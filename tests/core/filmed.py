"""A second generator of pictures, that shares nothing with the simulated camera: photographs that ship with
scikit-image, warped by splines, blurred, lit and noised by known amounts, and encoded by H.264.
"""

from __future__ import annotations

import io
from collections.abc import Sequence
from functools import cache

import av
import numpy as np
from scipy import ndimage
from skimage import data, transform

from jungoptic.core.measure import signal_of_planes

Array = np.ndarray
SIZE = (540, 960)
PHOTOGRAPHS = ("coffee", "rocket", "astronaut", "gravel", "brick", "chelsea")
QUALITIES = (14, 24)


@cache
def photograph(name: str, size: tuple[int, int] = SIZE, margin: int = 60) -> Array:
    """A photograph in linear light (sRGB undone), enlarged by splines, with so much more around it."""
    picture = np.asarray(getattr(data, name)(), np.float64) / 255.0
    if picture.ndim == 2:
        picture = np.repeat(picture[..., None], 3, axis=2)
    light = np.where(picture <= 0.04045, picture / 12.92, ((picture + 0.055) / 1.055) ** 2.4)
    height, width = size[0] + 2 * margin, size[1] + 2 * margin
    scale = max(height / light.shape[0], width / light.shape[1])
    large = ndimage.zoom(light, (scale, scale, 1), order=3, mode="reflect")
    top, left = (large.shape[0] - height) // 2, (large.shape[1] - width) // 2
    return np.clip(large[top : top + height, left : left + width], 0.0, 1.0)


def laid(
    whole: Array,
    shift: tuple[float, float] = (0.0, 0.0),
    turn_deg: float = 0.0,
    size: float = 1.0,
    of: tuple[int, int] = SIZE,
) -> Array:
    """A part of a larger picture, as a camera sees it that moved: places of it go to size·R(turn)·x + shift
    about its middle; y is down and the turn is clockwise as it is seen.
    """
    margin = (whole.shape[0] - of[0]) // 2
    middle = np.array([(of[1] - 1) / 2.0, (of[0] - 1) / 2.0])
    about = transform.AffineTransform(translation=-middle)
    gone = transform.SimilarityTransform(
        scale=size, rotation=np.deg2rad(turn_deg), translation=middle + shift
    )
    back = transform.AffineTransform(translation=(margin, margin))
    there = np.linalg.inv(gone.params @ about.params)
    return transform.warp(whole, transform.ProjectiveTransform(back.params @ there), output_shape=of, order=5)


def noised(light: Array, sigma: float, seed: int) -> Array:
    """With noise that goes as the root of the light; ``sigma`` at mid grey, as a share of it."""
    dice = np.random.default_rng(seed)
    return light + sigma * np.sqrt(0.18 * np.maximum(light, 0.0)) * dice.standard_normal(light.shape)


def signal(light: Array) -> Array:
    """By the curve of ITU-R BT.709, written out once more."""
    x = np.clip(light, 0.0, 1.0)
    return np.where(x < 0.018, 4.5 * x, 1.099 * x**0.45 - 0.099)


def codes(light: Array) -> Array:
    return np.asarray(np.rint(255.0 * signal(light)), np.uint8)


def planes(light: Array) -> Array:
    """Luma over a quarter of each chroma, legal range of ITU-R BT.709, as 4:2:0 is recorded."""
    rgb = signal(light)
    luma = rgb @ (0.2126, 0.7152, 0.0722)
    blue, red = (rgb[..., 2] - luma) / 1.8556, (rgb[..., 0] - luma) / 1.5748
    height, width = luma.shape
    quarters = [each.reshape(height // 2, 2, width // 2, 2).mean((1, 3)) for each in (blue, red)]
    flat = np.concatenate([16 + 219 * luma.ravel(), *(128 + 224 * each.ravel() for each in quarters)])
    return np.asarray(np.rint(flat), np.uint8).reshape(height * 3 // 2, width)


def through_h264(pictures: Sequence[Array], crf: int) -> list[Array]:
    """Pictures of linear light, encoded by H.264 and decoded: signal, float (h, w, 3)."""
    file = io.BytesIO()
    height, width = pictures[0].shape[:2]
    with av.open(file, "w", format="mp4") as container:
        stream = container.add_stream("libx264", rate=24, options={"crf": str(crf)})
        stream.height, stream.width, stream.pix_fmt = height, width, "yuv420p"
        for each in pictures:
            container.mux(stream.encode(av.VideoFrame.from_ndarray(planes(each), format="yuv420p")))
        container.mux(stream.encode(None))
    file.seek(0)
    with av.open(file) as container:
        return [_signal(each.to_ndarray(), height, width) for each in container.decode(video=0)]


def _signal(flat: Array, height: int, width: int) -> Array:
    luma, rest = flat[:height], flat[height:].reshape(2, height // 2, width // 2)
    return signal_of_planes(luma, *rest)
