"""One frame of a recording, as it was seen through the taking camera; no table is asked, so that any
process can do it.
"""

from __future__ import annotations

import io
from pathlib import Path

import av
import filetype

from jungoptic.app.boards import reading
from jungoptic.app.footage.probe import MOST_PX, OPTIONS
from jungoptic.core.errors import InputError

_HEAD_BYTES = 262
_NO_FRAME = (
    "No frame of “{name}” can be read there: it is damaged, or breaks off before. Choose another place."
)


def frame_jpeg(path: str, second: float) -> bytes:
    """The frame that is seen at a second of a recording, a JPEG of up to 1920 px; the last one after its end.

    Raises InputError.
    """
    file = Path(path)
    with file.open("rb") as opened:
        kind = filetype.guess(opened.read(_HEAD_BYTES))
    if kind and kind.mime.startswith("image/"):
        return reading.first_picture(file.name, file.read_bytes()).data
    try:
        with av.open(path, options=OPTIONS, metadata_errors="ignore") as container:
            frame = _frame(container, second)
            if frame is None or max(frame.width, frame.height) > MOST_PX:
                raise InputError.at("second", _NO_FRAME.format(name=file.name))
            share = min(1.0, reading.KEPT_PX / max(frame.width, frame.height))
            size = max(1, round(frame.width * share)), max(1, round(frame.height * share))
            made = io.BytesIO()
            frame.to_image(width=size[0], height=size[1]).save(made, "JPEG", quality=reading.QUALITY)
            return made.getvalue()
    except (av.FFmpegError, ValueError):
        raise InputError.at("second", _NO_FRAME.format(name=file.name)) from None


def _frame(container: av.container.InputContainer, second: float) -> av.VideoFrame | None:
    """The last frame that begins before a second has passed, from the key frame before it on."""
    if not container.streams.video:
        return None
    stream = container.streams.video[0]
    stream.thread_type = "AUTO"
    if second > 0:
        container.seek(int(second * av.time_base))
    seen = None
    for frame in container.decode(stream):
        if seen is not None and (frame.time or 0.0) > second:
            break
        seen = frame
    return seen
