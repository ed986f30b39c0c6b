"""Frames out of what a camera wrote, for a measurement: a still, or the first frames of a clip. Run in a
process beside: what is read came from outside.
"""

from __future__ import annotations

from contextlib import suppress
from typing import Any

import av
import cv2
import numpy as np
import numpy.typing as npt

from jungoptic.app.footage.probe import MOST_PX, OPTIONS
from jungoptic.core.calibration import Instrument, guides, watch
from jungoptic.core.errors import InputError

MOST_BYTES = 250_000_000
_MOST_STILL_BYTES = 60_000_000
_AS_RECORDED = cv2.IMREAD_GRAYSCALE | cv2.IMREAD_IGNORE_ORIENTATION  # corners stay where the lens drew them
_MOST_FRAMES = 48
_MOST_MEMORY_BYTES = 400_000_000

Frame = npt.NDArray[np.uint8]


def told_by(kind: str, paths: list[str], names: list[str], instrument: Instrument) -> dict[str, Any]:
    """What files (one, or the stills of a pair) tell for a measurement. Raises InputError."""
    frames: list[Frame] = []
    for path, name in zip(paths, names, strict=True):
        frames += _frames(path, name, guides()[kind].frames)
    return watch(kind, frames, instrument)


def _frames(path: str, name: str, fewest: int) -> list[Frame]:
    with open(path, "rb") as opened:
        data = opened.read(_MOST_STILL_BYTES + 1)
    if 0 < len(data) <= _MOST_STILL_BYTES:
        with suppress(cv2.error):
            picture = cv2.imdecode(np.frombuffer(data, np.uint8), _AS_RECORDED)
            if picture is not None:
                return [np.asarray(picture, np.uint8)]
    del data
    return _clip(path, name, _MOST_FRAMES if fewest > 2 else max(1, fewest))


def _clip(path: str, name: str, most: int) -> list[Frame]:
    frames: list[Frame] = []
    with (
        suppress(av.FFmpegError, ValueError),
        av.open(path, options=OPTIONS, metadata_errors="ignore") as film,
    ):
        if film.streams.video and max(film.streams.video[0].width, film.streams.video[0].height) <= MOST_PX:
            for frame in film.decode(video=0):
                frames.append(np.asarray(frame.to_ndarray(format="gray"), np.uint8))
                if len(frames) >= most or sum(each.nbytes for each in frames) > _MOST_MEMORY_BYTES:
                    break
    if not frames:
        raise InputError.at(
            "file", f"“{name}” is no picture and no film that can be read: JPEG, PNG, TIFF, MP4 or MOV."
        )
    return frames
