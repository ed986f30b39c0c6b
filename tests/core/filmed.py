"""A second generator of pictures, that shares nothing with the simulated camera: photographs that ship with
scikit-image, warped by splines, blurred, lit and noised by known amounts, and encoded by H.264.
"""

from __future__ import annotations

import io
import os
from collections.abc import Iterable, Sequence
from functools import cache

import av
import numpy as np
from scipy import ndimage
from skimage import data

from jungoptic.core.measure import linear, signal_of_planes

Array = np.ndarray
SIZE = (360, 640)
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
    cos, sin = size * np.cos(np.deg2rad(turn_deg)), size * np.sin(np.deg2rad(turn_deg))
    back = np.linalg.inv([[cos, sin], [-sin, cos]])  # places are (y, x)
    middle = (np.array(of) - 1) / 2.0
    begins = middle + margin - back @ (middle + np.array(shift)[::-1])
    seen = [
        ndimage.affine_transform(each, back, begins, of, order=5, prefilter=False) for each in splines(whole)
    ]
    return np.stack(seen, axis=2)


KEPT: dict[int, tuple[Array, list[Array]]] = {}


def splines(whole: Array) -> list[Array]:
    """The channels of a photograph as coefficients of splines, made once."""
    if id(whole) not in KEPT:  # the picture is kept too: else another one gets its number
        KEPT[id(whole)] = whole, [ndimage.spline_filter(whole[..., each], 5) for each in range(3)]
    return KEPT[id(whole)][1]


def noised(light: Array, sigma: float, seed: int) -> Array:
    """With noise that goes as the root of the light; ``sigma`` at mid grey, as a share of it."""
    dice = np.random.default_rng(seed)
    return light + sigma * np.sqrt(0.18 * np.maximum(light, 0.0)) * dice.standard_normal(light.shape)


def signal(light: Array) -> Array:
    """By the curve of ITU-R BT.709, written out once more."""
    x = np.clip(light, 0.0, 1.0)
    return np.where(x < 0.018, 4.5 * x, 1.099 * x**0.45 - 0.099)


def planes(light: Array) -> Array:
    """Luma over a quarter of each chroma, legal range of ITU-R BT.709, as 4:2:0 is recorded."""
    rgb = signal(light)
    luma = rgb @ (0.2126, 0.7152, 0.0722)
    blue, red = (rgb[..., 2] - luma) / 1.8556, (rgb[..., 0] - luma) / 1.5748
    height, width = luma.shape
    quarters = [each.reshape(height // 2, 2, width // 2, 2).mean((1, 3)) for each in (blue, red)]
    flat = np.concatenate([16 + 219 * luma.ravel(), *(128 + 224 * each.ravel() for each in quarters)])
    return np.asarray(np.rint(flat), np.uint8).reshape(height * 3 // 2, width)


def write(
    file: object, pictures: Iterable[Array], crf: int = 18, codec: str = "libx264", **more: str
) -> None:
    """A clip of 24 pictures of linear light a second, in MP4 or as ``file`` is called."""
    kind = {} if isinstance(file, str) else {"format": "mp4"}
    options = {"crf": str(crf)} if codec.startswith("libx26") else {}
    with av.open(file, "w", **kind) as container:
        stream = None
        for each in pictures:
            if stream is None:
                stream = container.add_stream(codec, rate=24, options=options)
                stream.height, stream.width = each.shape[:2]
                stream.pix_fmt = more.get("pix_fmt", "yuv420p")
            container.mux(stream.encode(av.VideoFrame.from_ndarray(planes(each), format="yuv420p")))
        container.mux(stream.encode(None))


def through_h264(pictures: Sequence[Array], crf: int) -> list[Array]:
    """Pictures of linear light, encoded by H.264 and decoded: signal, float (h, w, 3)."""
    file = io.BytesIO()
    height, width = pictures[0].shape[:2]
    write(file, pictures, crf)
    file.seek(0)
    with av.open(file) as container:
        return [_signal(each.to_ndarray(), height, width) for each in container.decode(video=0)]


def recorded(light: Array, crf: int, seed: int, sigma: float = 0.03) -> Array:
    """The third frame of a noisy recording of something that stands still, in linear light."""
    return linear(through_h264([noised(light, sigma, 10 * seed + take) for take in range(3)], crf)[2])


def _signal(flat: Array, height: int, width: int) -> Array:
    luma, rest = flat[:height], flat[height:].reshape(2, height // 2, width // 2)
    return signal_of_planes(luma, *rest)


class Tried:
    """Measurements beside known truths: how far each is off, and within what it said it was."""

    def __init__(self) -> None:
        self.rows: dict[str, list[tuple[float, float]]] = {}

    def add(self, name: str, measured: float, truth: float, off: float) -> None:
        self.rows.setdefault(name, []).append((measured - truth, off))

    def hold(self, **most: float) -> None:
        """All errors together within what was stated in 95 of 100; each of those named within a limit, of
        its root mean square.
        """
        rows = {name: np.array(each) for name, each in self.rows.items()}
        within = {name: np.abs(each[:, 0]) <= each[:, 1] for name, each in rows.items()}
        mean = {name: np.sqrt((each[:, 0] ** 2).mean()) for name, each in rows.items()}
        if many():
            for name, each in rows.items():
                share, stated = within[name].mean(), np.median(each[:, 1])
                print(f"{name:>9} {len(each):>4} ×  within its error {share:4.0%}", end="")
                print(f"  off by {mean[name]:.4f} rms  stated {stated:.4f}  at most {most.get(name)}")
                assert share >= 0.95, (name, share)
        told = {name: np.round(each, 4).tolist() for name, each in rows.items()}
        assert np.concatenate(list(within.values())).mean() >= 0.95, told
        for name, limit in most.items():
            assert mean[name] <= limit, (name, told[name])


def cases(count: int) -> Iterable[tuple[int, np.random.Generator, str, int]]:
    """Number, dice, photograph and quality of so many cases, the same every time; of as many as are asked for
    by CASES.
    """
    for index in range(max(count, many())):
        quality = QUALITIES[(index + index // len(PHOTOGRAPHS)) % 2]  # each photograph by each
        yield index, np.random.default_rng(7000 + index), PHOTOGRAPHS[index % len(PHOTOGRAPHS)], quality


def many() -> int:
    """How many cases were asked for, as ``CASES=100 ./run test tests/core/test_frames_fine.py``: then each
    measurement is held by itself.
    """
    return int(os.environ.get("CASES", "0"))
