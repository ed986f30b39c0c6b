"""Photographs of the desk opened, made small and watched; the simulated camera at the desk. No table is
asked, so that any process can do it; what does not change from frame to frame is kept by who worked it out.
"""

from __future__ import annotations

import io
from dataclasses import asdict, dataclass, field
from functools import lru_cache
from typing import Any

import cv2
import numpy as np
import numpy.typing as npt
from PIL import Image, UnidentifiedImageError

from jungoptic.core.errors import InputError
from jungoptic.core.frames import WatchedFor, watched
from jungoptic.core.match import Stack
from jungoptic.core.measure import SetFrame, linear
from jungoptic.core.stage import DeskCamera, DeskFaults, jpeg

WATCHED_PX, PROXY_PX = 960, 640
MOST_PX, LEAST_PX = 8192, 64
QUALITY, _PROXY_QUALITY = 94, 85
_FRAMES_KEPT, _DESKS_KEPT = 8, 2
_FORMATS = ("JPEG", "PNG", "WEBP")
_WHITE = 255.0


@dataclass(frozen=True)
class Held:
    """A frame to hold others against: its number and its file."""

    number: int
    data: bytes = field(compare=False)


@dataclass(frozen=True)
class Taken:
    """A photograph as it is kept: its size, its small picture, what is said of it."""

    width_px: int
    height_px: int
    proxy: bytes
    watched: dict[str, Any] | None


@dataclass(frozen=True)
class Desk:
    """A layer's simulated camera: ``key`` names its shot in its version."""

    key: tuple[int, ...]
    stack: Stack = field(compare=False)
    position: int = field(compare=False)


def _opened(data: bytes) -> npt.NDArray[np.uint8]:
    """Red, green and blue of a JPEG, PNG or WebP (h, w, 3). Raises InputError."""
    try:
        with Image.open(io.BytesIO(data), formats=_FORMATS) as image:
            if max(image.size) > MOST_PX or min(image.size) < LEAST_PX:
                raise InputError.at(
                    "file",
                    f"A frame has {LEAST_PX} to {MOST_PX} px each way; this one has {image.width} ×"
                    f" {image.height}.",
                )
            return np.asarray(image.convert("RGB"))
    except InputError:
        raise
    except (UnidentifiedImageError, OSError, ValueError, SyntaxError, Image.DecompressionBombError):
        raise InputError.at("file", "The frame could not be read as a JPEG, PNG or WebP.") from None


def _small(picture: npt.NDArray[np.uint8], width_px: int) -> npt.NDArray[np.uint8]:
    height, width = picture.shape[:2]
    if width <= width_px:
        return picture
    size = (width_px, max(1, round(height * width_px / width)))
    return np.asarray(cv2.resize(picture, size, interpolation=cv2.INTER_AREA), np.uint8)


def _set_frame(picture: npt.NDArray[np.uint8]) -> SetFrame:
    return SetFrame(linear(np.asarray(_small(picture, WATCHED_PX), np.float32) / _WHITE))


@lru_cache(_FRAMES_KEPT)
def _held(held: Held) -> SetFrame:
    return _set_frame(_opened(held.data))


def taken(data: bytes, last: Held | None, first: Held | None, to: WatchedFor) -> Taken:
    """A photograph that just came, held against the last frame and the block's first. Raises InputError."""
    cv2.setNumThreads(1)
    picture = _opened(data)
    height, width = picture.shape[:2]
    told = None
    if last or first:
        before = _held(last) if last else None
        begins = before if first == last else _held(first) if first else None
        told = _plain(asdict(watched(_set_frame(picture), before, begins, to)))
    return Taken(width, height, jpeg(_small(picture, PROXY_PX), _PROXY_QUALITY), told)


def _plain(told: Any) -> Any:
    """As JSON has it: what has no end is null."""
    if isinstance(told, dict):
        return {key: _plain(value) for key, value in told.items()}
    if isinstance(told, list | tuple):
        return [_plain(value) for value in told]
    if isinstance(told, float):
        return float(told) if np.isfinite(told) else None
    return told


@lru_cache(_DESKS_KEPT)
def _camera(desk: Desk, width_px: int) -> DeskCamera:
    return DeskCamera(desk.stack, desk.position, width_px)


def photographed(desk: Desk, width_px: int, frame: int, exposure: int, faults: DeskFaults) -> bytes:
    """A photograph of the simulated camera, a JPEG."""
    cv2.setNumThreads(1)
    camera = _camera(desk, width_px)
    camera.faults = faults
    return jpeg(camera.photograph(frame, exposure), QUALITY)
