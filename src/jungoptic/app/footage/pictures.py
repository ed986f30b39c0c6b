"""The pictures of a file as they were recorded, one after another: stills, clips, folders of numbered stills.

It knows nothing of Django, so that any process can read, and whoever begins one sets its limits.
"""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass, field, replace
from functools import cached_property
from pathlib import Path
from typing import Any, Literal

import av
import cv2
import filetype
import numpy as np
import numpy.typing as npt
from PIL import Image as Still
from PIL import UnidentifiedImageError

from jungoptic.app.footage.probe import MOST_PX, OPTIONS
from jungoptic.core.errors import InputError
from jungoptic.core.measure import CurveName, brightness, signal_of_luma, signal_of_planes

Image = npt.NDArray[np.float32]

_MOST_PIXELS = 220_000_000
_HEAD_BYTES = 512
_NEAR = 48
"""Frames from the first on: what is no farther is read from there."""
_STILLS = {".jpg", ".jpeg", ".png", ".tif", ".tiff", ".exr"}
_EXR = b"\x76\x2f\x31\x01"
_DEEP = 65535.0
_WHITE = {"uint8": 255.0, "uint16": _DEEP}
_MATRICES = {1: "bt709", 5: "bt601", 6: "bt601", 9: "bt2020", 10: "bt2020"}
_CURVES: dict[int, CurveName] = {1: "bt709", 6: "bt709", 8: "linear", 13: "srgb", 14: "bt709", 15: "bt709"}
_HIGH_RANGE = {16: "PQ", 18: "HLG"}
_LEGAL, _FULL = 1, 2
_SMALL_HEIGHT = 720  # lower pictures say BT.601 where they say nothing
_PLANAR = ("yuv", "yuvj", "yuva")
_FAULTS = {
    "none": "“{name}” is not there: check its place and name.",
    "empty": "“{name}” has 0 bytes: there is nothing in it.",
    "kind": "“{name}” is no picture and no clip: {kind} is in it.",
    "damaged": "“{name}” cannot be read: it is damaged, or was cut off while it was written or copied.",
    "no_picture": "“{name}” has no picture in it, only sound or nothing.",
    "no_frames": "Not one frame of “{name}” can be read: it is damaged.",
    "large": "“{name}” says that its pictures are {width} × {height}: no more than {most} px either way and"
    " {pixels} million pixels are read.",
    "no_stills": "There is no picture in the folder “{name}”: {kinds} are read.",
}


def refuse(path: Path, what: str, **more: object) -> InputError:
    """What is wrong with a file, at the file."""
    return InputError.at("file", _FAULTS[what].format(name=path.name, **more))


@dataclass(frozen=True, slots=True)
class Colour:
    """How a file says its light was recorded; ``guessed`` says in words what it did not say."""

    curve: CurveName = "bt709"
    matrix: str = "bt709"
    legal: bool = True
    bits: int = 8
    guessed: tuple[str, ...] = ()


@dataclass(frozen=True)
class Picture:
    """One picture: its number and second, and what is recorded in it."""

    index: int
    second: float
    colour: Colour
    planes: tuple[npt.NDArray[Any], ...] = field(repr=False)
    turned: int = 0
    """Quarters of a turn against the clock that show it as it was seen."""
    frame: Any = field(default=None, repr=False)
    """As it was decoded; None of a still."""

    @cached_property
    def luma(self) -> Image:
        """The signal of luma (h, w), 1 is white; grey of red, green and blue where there is none."""
        if len(self.planes) == 3:
            return self._upright(signal_of_luma(self.planes[0], self.colour.bits, self.colour.legal))
        return brightness(self.signal())

    @property
    def codes(self) -> tuple[npt.NDArray[Any], int]:
        """Codes of luma (h, w) as they were recorded, and their bits; 16 bits of grey where there is none."""
        if len(self.planes) == 3:
            return self._upright(self.planes[0]), self.colour.bits
        return np.rint(_DEEP * np.clip(self.luma, 0.0, 1.0)).astype(np.uint16), 16

    def signal(self) -> Image:
        """Red, green and blue (h, w, 3), 1 is white."""
        if len(self.planes) == 3:
            luma, blue, red = self.planes
            colour = self.colour
            seen = signal_of_planes(luma, blue, red, colour.bits, colour.legal, colour.matrix)
        else:
            (whole,) = self.planes
            seen = np.asarray(whole, np.float32) * np.float32(1.0 / _WHITE.get(whole.dtype.name, 1.0))
        return np.ascontiguousarray(self._upright(seen))

    def _upright(self, picture: npt.NDArray[Any]) -> npt.NDArray[Any]:
        return np.rot90(picture, self.turned) if self.turned else picture


@dataclass(frozen=True)
class Footage:
    """A file that pictures can be had of. ``frames`` is what it says, None where it does not; ``remarks`` are
    what has to be known beside: a rate that changes, fields, an alpha channel.
    """

    path: Path
    kind: Literal["still", "clip", "stills"]
    width_px: int
    height_px: int
    rate_fps: float
    frames: int | None
    colour: Colour
    remarks: tuple[str, ...] = ()
    files: tuple[Path, ...] = field(default=(), repr=False)

    def pictures(self) -> Iterator[Picture]:
        """Every picture, from the first on. Raises InputError where none can be read."""
        if self.kind == "clip":
            yield from _of_clip(self.path, self.colour)
            return
        for index, path in enumerate(self.files):
            yield Picture(index, index / self.rate_fps, self.colour, (_still(path),))

    def picture(self, index: int) -> Picture:
        """The picture of a number; the last one where there are fewer. Raises InputError."""
        if self.kind != "clip":
            place = min(index, len(self.files) - 1)
            return Picture(place, place / self.rate_fps, self.colour, (_still(self.files[place]),))
        if index > _NEAR and self.remarks == () and (there := _gone_to(self.path, self, index)) is not None:
            return there
        last = None
        for last in self.pictures():
            if last.index >= index:
                break
        assert last is not None
        return last


def open_footage(path: Path, rate_fps: float | None = None) -> Footage:
    """A still, a clip or a folder of numbered stills, its head read.

    ``rate_fps`` is that of stills that follow each other; 24 when left out. Raises InputError.
    """
    if path.is_dir():
        return _folder(path, rate_fps)
    try:
        with path.open("rb") as opened:
            head = opened.read(_HEAD_BYTES)
    except OSError as error:
        raise refuse(path, "none") from error
    if not head:
        raise refuse(path, "empty")
    kind = filetype.guess(head)
    mime = str(kind.mime) if kind else ""
    if mime.startswith("image/") or head.startswith(_EXR):
        width, height, colour, remarks = _still_head(path, head.startswith(_EXR))
        return Footage(path, "still", width, height, rate_fps or 24.0, 1, colour, remarks, (path,))
    return _clip(path, mime, head)


def _folder(path: Path, rate_fps: float | None) -> Footage:
    files = tuple(
        sorted(each for each in path.iterdir() if each.suffix.lower() in _STILLS and each.is_file())
    )
    if not files:
        raise refuse(path, "no_stills", kinds=", ".join(sorted(each[1:].upper() for each in _STILLS)))
    first = open_footage(files[0], rate_fps)
    return replace(first, path=path, kind="stills", frames=len(files), files=files)


def _refuse_large(path: Path, width: int, height: int) -> None:
    if max(width, height) > MOST_PX or width * height > _MOST_PIXELS:
        raise refuse(
            path, "large", width=width, height=height, most=MOST_PX, pixels=_MOST_PIXELS // 1_000_000
        )


# --- Stills -------------------------------------------------------------------------------------------------


def _still_head(path: Path, exr: bool) -> tuple[int, int, Colour, tuple[str, ...]]:
    if exr:
        seen = _exr(path)
        colour = Colour("linear", legal=False, bits=32, guessed=("EXR: linear light.",))
        return seen.shape[1], seen.shape[0], colour, ()
    try:
        limit, Still.MAX_IMAGE_PIXELS = Still.MAX_IMAGE_PIXELS, None
        with Still.open(path) as opened:
            width, height = opened.size
            _refuse_large(path, width, height)
            alpha = "A" in opened.getbands()
            orientation = int(opened.getexif().get(0x0112, 1))
    except InputError:
        raise
    except (OSError, UnidentifiedImageError, SyntaxError, ValueError) as error:
        raise refuse(path, "damaged") from error
    finally:
        Still.MAX_IMAGE_PIXELS = limit
    if orientation >= 5:
        width, height = height, width
    remarks = ("It has an alpha channel: that is left out.",) if alpha else ()
    return (
        width,
        height,
        Colour("srgb", legal=False, guessed=("A still says no curve: sRGB is taken.",)),
        remarks,
    )


def _still(path: Path) -> npt.NDArray[Any]:
    """A still, red first, as deep as it is recorded. Raises InputError."""
    try:
        with path.open("rb") as opened:
            head = opened.read(_HEAD_BYTES)
            if head.startswith(_EXR):
                return _exr(path)
            data = np.frombuffer(head + opened.read(), np.uint8)
    except OSError as error:
        raise refuse(path, "none") from error
    try:
        # asked for red first the library scrambles a TIFF of 16 bits
        deep = cv2.imdecode(data, cv2.IMREAD_ANYDEPTH | cv2.IMREAD_COLOR)
    except cv2.error:
        deep = None
    if deep is None:
        raise refuse(path, "damaged")
    return np.asarray(deep)[..., ::-1]


def _exr(path: Path) -> npt.NDArray[Any]:
    try:
        with av.open(str(path), format="exr_pipe", options={"protocol_whitelist": "file"}) as container:
            stream = container.streams.video[0]
            _refuse_large(path, stream.width, stream.height)
            frame = next(container.decode(stream))
            return np.asarray(frame.to_ndarray(format="gbrpf32le"), np.float32)
    except (av.FFmpegError, ValueError, StopIteration, IndexError) as error:
        if isinstance(error, InputError):
            raise
        raise refuse(path, "damaged") from error


# --- Clips --------------------------------------------------------------------------------------------------


def _clip(path: Path, mime: str, head: bytes) -> Footage:
    try:
        container = av.open(str(path), options=OPTIONS, metadata_errors="ignore")
    except (av.FFmpegError, ValueError) as error:
        if mime.startswith("video/"):
            raise refuse(path, "damaged") from error
        raise refuse(path, "kind", kind=mime or ("text" if _is_text(head) else "nothing known")) from error
    with container:
        if not container.streams.video:
            raise refuse(path, "no_picture")
        stream = container.streams.video[0]
        _refuse_large(path, stream.width, stream.height)
        rate = stream.average_rate or stream.guessed_rate
        try:
            frame = next(container.decode(stream))
        except (av.FFmpegError, StopIteration) as error:
            raise refuse(path, "no_frames") from error
        _refuse_large(path, frame.width, frame.height)
        sideways = _quarters(frame) % 2
        width, height = (frame.height, frame.width) if sideways else (frame.width, frame.height)
        remarks = []
        if frame.interlaced_frame:
            remarks.append("It is recorded in fields: movement shows as combs.")
        if len(frame.format.components) in (2, 4):
            remarks.append("It has an alpha channel: that is left out.")
        guessed = stream.guessed_rate
        if rate and guessed and abs(float(rate) / float(guessed) - 1.0) > 0.01:
            remarks.append("Its rate changes: frames are counted, seconds follow the mean rate.")
        return Footage(
            path,
            "clip",
            width,
            height,
            float(rate) if rate else 24.0,
            stream.frames or None,
            _colour(frame),
            tuple(remarks),
        )


def _is_text(head: bytes) -> bool:
    try:
        head.decode()
    except UnicodeDecodeError:
        return False
    return True


def _colour(frame: Any) -> Colour:
    """What a frame says of its colour, and in words what had to be guessed."""
    name = frame.format.name
    guessed = []
    curve = _CURVES.get(int(frame.color_trc))
    if high := _HIGH_RANGE.get(int(frame.color_trc)):
        guessed.append(f"It is recorded in {high}: say its curve as a table; BT.709 is taken.")
    elif curve is None:
        guessed.append("The file says no curve: BT.709 is taken.")
    bits = int(frame.format.components[0].bits)
    if not name.startswith("yuv"):
        return Colour(curve or "bt709", legal=False, bits=bits, guessed=tuple(guessed))
    matrix = _MATRICES.get(int(frame.colorspace))
    if matrix is None:
        matrix = "bt709" if frame.height >= _SMALL_HEIGHT else "bt601"
        guessed.append(f"The file says no matrix: {matrix.upper().replace('BT', 'BT.')} is taken.")
    full = int(frame.color_range) == _FULL or name.startswith("yuvj")
    if not full and int(frame.color_range) != _LEGAL:
        guessed.append("The file says no range: legal range is taken.")
    return Colour(curve or "bt709", matrix, not full, bits, tuple(guessed))


def _quarters(frame: Any) -> int:
    turn = float(frame.rotation or 0.0)
    return round(turn / 90.0) % 4 if math.isfinite(turn) else 0


def _of_clip(path: Path, colour: Colour) -> Iterator[Picture]:
    shown = 0
    try:
        with av.open(str(path), options=OPTIONS, metadata_errors="ignore") as container:
            stream = container.streams.video[0]
            stream.thread_type = "AUTO"
            for frame in container.decode(stream):
                if max(frame.width, frame.height) > MOST_PX:
                    break
                second, turned = float(frame.time or 0.0), _quarters(frame)
                yield Picture(shown, second, colour, _planes(frame), turned, frame)
                shown += 1
    except (av.FFmpegError, ValueError, OSError) as error:
        if not shown:
            raise refuse(path, "no_frames") from error
        # what was seen before it broke off is measured
    if not shown:
        raise refuse(path, "no_frames")


def _gone_to(path: Path, footage: Footage, index: int) -> Picture | None:
    """The picture of a number, from the key frame before it on; None where that cannot be gone to."""
    try:
        with av.open(str(path), options=OPTIONS, metadata_errors="ignore") as container:
            stream = container.streams.video[0]
            begins = float((stream.start_time or 0) * (stream.time_base or 0))
            second = begins + index / footage.rate_fps
            container.seek(int((second - 0.5 / footage.rate_fps) * av.time_base))
            for frame in container.decode(stream):
                number = round((float(frame.time or 0.0) - begins) * footage.rate_fps)
                if number > index:
                    return None
                if number == index:
                    planes, turned = _planes(frame), _quarters(frame)
                    return Picture(index, second, footage.colour, planes, turned, frame)
    except (av.FFmpegError, ValueError, OSError):
        pass
    return None


def _planes(frame: Any) -> tuple[npt.NDArray[Any], ...]:
    """The planes of a frame as they are recorded; red, green and blue where it is recorded so."""
    name = frame.format.name
    if name.startswith(_PLANAR) and "p" in name and frame.format.components[0].bits <= 16:
        return tuple(_plane(plane, frame.format.components[0].bits) for plane in frame.planes[:3])
    if name.startswith("nv"):
        return _planes(frame.reformat(format="yuv420p"))
    if name.startswith(("p0", "p2")):
        return _planes(frame.reformat(format="yuv422p10le" if name.startswith("p2") else "yuv420p10le"))
    if name.startswith("gbr") and "f32" in name:
        return (np.asarray(frame.to_ndarray(format="gbrpf32le")),)
    return (np.asarray(frame.to_ndarray(format="rgb24" if _eight(frame) else "rgb48le")),)


def _eight(frame: Any) -> bool:
    return all(component.bits <= 8 for component in frame.format.components)


def _plane(plane: Any, bits: int) -> npt.NDArray[Any]:
    kind = np.dtype(np.uint8 if bits <= 8 else "<u2")
    codes = np.frombuffer(plane, kind).reshape(plane.height, plane.line_size // kind.itemsize)
    return codes[:, : plane.width]
