"""One frame of a recording, as it was seen through the taking camera; no table is asked, so that any
process can do it.
"""

from __future__ import annotations

from pathlib import Path
from typing import Any

import av
import cv2
import filetype
import numpy as np
import numpy.typing as npt

from jungoptic.app.footage.probe import MOST_PX, OPTIONS
from jungoptic.core.errors import InputError
from jungoptic.core.stage import jpeg

WIDEST_PX = 1920
_QUALITY = 90
_HEAD_BYTES = 262
_NO_FRAME = (
    "No frame of “{name}” can be read there: it is damaged, or breaks off before. Choose another place."
)


def frame_jpeg(path: str, second: float) -> bytes:
    """The frame that is seen at a second of a recording, a JPEG of up to 1920 px; the last one after its end.

    Raises InputError.
    """
    file = Path(path)
    try:
        with file.open("rb") as opened:
            kind = filetype.guess(opened.read(_HEAD_BYTES))
        seen = _still(file) if kind and kind.mime.startswith("image/") else _of_clip(path, second)
    except (OSError, cv2.error):  # the card was pulled, or what is in the file is none
        seen = None
    if seen is None:
        raise InputError.at("second", _NO_FRAME.format(name=file.name))
    share = WIDEST_PX / max(seen.shape)
    if share < 1:
        seen = cv2.resize(seen, None, fx=share, fy=share, interpolation=cv2.INTER_AREA)
    return jpeg(np.asarray(seen, np.uint8), _QUALITY)


def _still(file: Path) -> npt.NDArray[Any] | None:
    """A photograph, red first."""
    picture = cv2.imdecode(np.frombuffer(file.read_bytes(), np.uint8), cv2.IMREAD_COLOR_RGB)
    return None if picture is None else np.asarray(picture)


def _of_clip(path: str, second: float) -> npt.NDArray[Any] | None:
    """The last frame that begins before a second has passed, from the key frame before it on, red first."""
    seen = None
    try:
        with av.open(path, options=OPTIONS, metadata_errors="ignore") as container:
            if not container.streams.video:
                return None
            stream = container.streams.video[0]
            if max(stream.width, stream.height) > MOST_PX:
                return None
            stream.thread_type = "AUTO"
            if second > 0:
                container.seek(int(second * av.time_base))
            for frame in container.decode(stream):
                if seen is not None and (frame.time or 0.0) > second:
                    break
                seen = frame
    except (av.FFmpegError, ValueError):
        pass  # what was seen before it broke is shown
    return None if seen is None else seen.to_ndarray(format="rgb24")
