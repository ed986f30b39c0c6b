"""One file after another, read in a process that may break: what each says of itself, and the codes in it.

It is asked for a path and answers what it found (:mod:`~jungoptic.app.base.readers`). It knows nothing of
Django; whoever began it ends it when a file takes too long or too much.
"""

from __future__ import annotations

import base64
import time
from collections.abc import Iterator
from contextlib import suppress
from dataclasses import asdict, dataclass, field
from datetime import UTC, datetime
from fractions import Fraction
from hashlib import sha256
from pathlib import Path
from typing import Any

import av
import cv2
import filetype
import numpy as np
import numpy.typing as npt

from jungoptic.app.base.readers import answer_all
from jungoptic.app.photographs import tags
from jungoptic.core.errors import InputError
from jungoptic.core.recordings import read_codes

MEMORY_BYTES = 3_000_000_000
ENDS_S = 10.0  # a slate is held up so long before and after a take, at most
LOOKS_FOR_S = 40.0  # at one file
_EVERY_S, _EVERY_S_WIDE = 0.5, 1.0  # a look at a wide frame takes most of a second
_WIDE_PX = 2048
_SMALL_PX = 320
_PICTURE_AT = 0.7
_END_BYTES, _HEAD_BYTES = 1 << 20, 512
MOST_PX = 17_000
_MOST_BROKEN = 50  # packets
_FORMATS = "mov,mp4,m4a,3gp,3g2,mj2,matroska,webm,avi,mpegts,mpeg,mxf,mxf_opatom"
OPTIONS = {"protocol_whitelist": "file", "format_whitelist": _FORMATS}
_SETTINGS = {
    "photographicsensitivity": "iso",
    "isospeedratings": "iso",
    "iso": "iso",
    "fnumber": "f_number",
    "exposuretime": "exposure_s",
    "focallength": "focal_length_mm",
}
_PLAY = " Play it on the camera: if it is whole there, put the card in again and read it again."
_FAULTS = {
    "empty": "0 bytes: the camera made the file and wrote nothing into it.",
    "damaged": "It cannot be opened: it is damaged, or was cut off while it was written or copied." + _PLAY,
    "no_film": "It is called a film and is none: it has {kind} in it.",
    "no_picture": "There is no picture in it, only sound or nothing.",
    "no_frames": "Not one frame of it can be read: it is damaged." + _PLAY,
    "cut_off": "It breaks off: what it says is {length:.1f} s long ends after {last:.1f} s." + _PLAY,
    "too_large": "It says that its pictures are {width} × {height}: no camera makes such.",
}


@dataclass
class Says:
    """What a file says. ``began`` is the camera's own clock, seconds since 1970; ``codes`` what its slates
    say, each with the second at which it was read; ``picture`` a small JPEG, base64.
    """

    kind: str = "clip"
    fault: str = ""
    width_px: int | None = None
    height_px: int | None = None
    rate_fps: float | None = None
    frames: int | None = None
    length_s: float | None = None
    began: float | None = None
    timecode: str = ""
    codec: str = ""
    camera: str = ""
    settings: dict[str, float] = field(default_factory=dict)
    codes: list[dict[str, Any]] = field(default_factory=list)
    ends: str = ""
    picture: str = ""


def read(path: Path) -> Says:
    """What one file says, or what is wrong with it. Raises OSError where it cannot be read at all."""
    size = path.stat().st_size
    if not size:
        return Says(fault=_FAULTS["empty"])
    with path.open("rb") as opened:
        head = opened.read(_END_BYTES)
        opened.seek(max(0, size - _END_BYTES))
        ends = sha256(head + opened.read(_END_BYTES) + str(size).encode()).hexdigest()
    kind = filetype.guess(head)
    mime = str(kind.mime) if kind else ""
    says = _still(path) if mime.startswith("image/") else _clip(path, mime)
    says.ends = ends
    return says


def _still(path: Path) -> Says:
    says = Says(kind="still")
    with path.open("rb") as opened:
        data = opened.read(tags.MOST_BYTES + 1)
    try:
        found = tags.read(path.name, data)
    except InputError as error:
        says.fault = str(error)
        return says
    says.width_px, says.height_px, says.camera = found.width_px, found.height_px, found.camera
    for name in ("iso", "f_number", "exposure_s", "focal_length_mm"):
        if (value := getattr(found, name)) is not None:
            says.settings[name] = value
    if found.taken_at:
        taken = datetime.fromisoformat(found.taken_at)
        says.began = (taken if taken.tzinfo else taken.replace(tzinfo=UTC)).timestamp()
    picture = cv2.imdecode(np.frombuffer(data, np.uint8), cv2.IMREAD_COLOR)
    if picture is None:
        says.fault = _FAULTS["damaged"]
        return says
    says.codes = [
        {"text": text, "second": 0.0} for text in read_codes(cv2.cvtColor(picture, cv2.COLOR_BGR2GRAY))
    ]
    says.picture = _small(picture)
    return says


def _clip(path: Path, mime: str) -> Says:
    says = Says()
    try:
        container = av.open(str(path), options=OPTIONS, metadata_errors="ignore")
    except (av.FFmpegError, ValueError):
        called = mime.startswith("video/") or path.suffix.lower() in (".mxf", ".ts", ".mts", ".m2ts")
        text = mime or ("text" if _is_text(path) else "bytes of no known kind")
        says.fault = _FAULTS["damaged"] if called else _FAULTS["no_film"].format(kind=text)
        return says
    with container:
        if not container.streams.video:
            says.fault = _FAULTS["no_picture"]
            return says
        _header(container, says)
        if (says.width_px or 0) > MOST_PX or (says.height_px or 0) > MOST_PX:
            says.fault = _FAULTS["too_large"].format(width=says.width_px, height=says.height_px)
            return says
        _look(container, says)
    return says


def _is_text(path: Path) -> bool:
    with path.open("rb") as opened:
        head = opened.read(_HEAD_BYTES)
    try:
        head.decode()
    except UnicodeDecodeError:
        return False
    return True


def _header(container: Any, says: Says) -> None:
    stream = container.streams.video[0]
    says.width_px, says.height_px = stream.width, stream.height
    says.codec = str(stream.codec_context.name)
    rate = stream.average_rate or stream.guessed_rate
    says.rate_fps = float(rate) if rate else None
    if stream.duration and stream.time_base:
        says.length_s = float(stream.duration * stream.time_base)
    elif container.duration:
        says.length_s = container.duration / av.time_base
    says.frames = stream.frames or (
        round(says.length_s * says.rate_fps) if says.length_s and says.rate_fps else None
    )
    told: dict[str, str] = {}
    for metadata in (*(each.metadata for each in container.streams), container.metadata):
        told.update({str(name).lower(): str(value) for name, value in metadata.items()})
    says.timecode = told.get("timecode", "")[:20]
    says.camera = " ".join(filter(None, (told.get("make"), told.get("model"))))[:80]
    with suppress(ValueError, OverflowError):
        made = datetime.fromisoformat(told.get("creation_time", "").replace("Z", "+00:00"))
        says.began = (made if made.tzinfo else made.replace(tzinfo=UTC)).timestamp()
    for name, value in told.items():
        known = _SETTINGS.get(name.rsplit(":", 1)[-1].rsplit(".", 1)[-1].replace("_", ""))
        with suppress(ValueError, ZeroDivisionError):
            if known and 0 < (number := float(Fraction(value.strip()))) < 1e7:
                says.settings[known] = number


def _look(container: Any, says: Says) -> None:
    """Codes in its first and last seconds, a picture, and whether it ends where it says."""
    container.streams.video[0].thread_type = "AUTO"
    ends = time.monotonic() + LOOKS_FOR_S
    last = 0.0
    seen = False
    for second, frame, to_look_at in _frames(container, 0.0):
        if not seen:
            says.picture = _small(frame.to_ndarray(format="bgr24"))
        seen, last = True, second
        if second > ENDS_S or time.monotonic() > ends:
            break
        if to_look_at and _shows(frame, second, says):
            break
    if not seen:
        says.fault = _FAULTS["no_frames"]
        return
    length = says.length_s or last
    shown = len(says.codes)
    with suppress(av.FFmpegError):
        container.seek(int(max(0.0, length - ENDS_S) * av.time_base))
        for second, frame, to_look_at in _frames(container, max(last, length - ENDS_S)):
            last = max(last, second)
            if to_look_at and len(says.codes) == shown and time.monotonic() < ends:
                _shows(frame, second, says)
    with suppress(av.FFmpegError, StopIteration):  # nobody holds a slate there
        container.seek(int(_PICTURE_AT * length * av.time_base))
        there = (frame for second, frame, _ in _frames(container, 0.0) if second >= _PICTURE_AT * length)
        says.picture = _small(next(there).to_ndarray(format="bgr24"))
    rate = says.rate_fps or 24.0
    if last < length - max(1.0, 3.0 / rate):
        says.fault = _FAULTS["cut_off"].format(length=length, last=last)


def _frames(container: Any, begins: float) -> Iterator[tuple[float, Any, bool]]:
    """Every frame with its second, as far as it goes; now and then, from ``begins`` on, one to look at."""
    wanted = begins
    every_s = _EVERY_S_WIDE if container.streams.video[0].width > _WIDE_PX else _EVERY_S
    broken = 0
    for packet in container.demux(video=0):
        try:
            frames = packet.decode()
        except av.FFmpegError:
            broken += 1
            if broken > _MOST_BROKEN:
                return
            continue
        for frame in frames:
            second = float(frame.time or 0.0)
            to_look_at = second + 1e-6 >= wanted
            if to_look_at:
                wanted = second + every_s
            yield second, frame, to_look_at


def _shows(frame: Any, second: float, says: Says) -> bool:
    known = {each["text"] for each in says.codes}
    read_now = [text for text in read_codes(frame.to_ndarray(format="gray")) if text not in known]
    says.codes += [{"text": text, "second": round(second, 2)} for text in read_now]
    return bool(read_now)


def _small(picture: npt.NDArray[Any]) -> str:
    height, width = picture.shape[:2]
    size = (_SMALL_PX, max(1, round(height * _SMALL_PX / width)))
    small = cv2.resize(np.ascontiguousarray(picture), size, interpolation=cv2.INTER_AREA)
    made, data = cv2.imencode(".jpg", small, [cv2.IMWRITE_JPEG_QUALITY, 80])
    return base64.b64encode(data.tobytes()).decode() if made else ""


def main() -> None:
    """Read until nobody asks any more."""
    answer_all(lambda path: asdict(read(Path(path))), MEMORY_BYTES)


if __name__ == "__main__":
    main()
