"""Photographs of the desk opened, made small and watched; the simulated camera at the desk. No table is
asked, so that any process can do it; what does not change from frame to frame is kept by who worked it out.
"""

from __future__ import annotations

import hashlib
import io
from collections import OrderedDict
from collections.abc import Sequence
from dataclasses import asdict, dataclass, field
from functools import lru_cache
from typing import Any

import av
import cv2
import numpy as np
import numpy.typing as npt
from PIL import Image, UnidentifiedImageError

from jungoptic.core.errors import InputError
from jungoptic.core.frames import HyperPath, WatchedFor, built_up, from_the_first, stations, watched
from jungoptic.core.light import bt709_signal
from jungoptic.core.match import Match, Off, Stack
from jungoptic.core.measure import SetFrame, linear, point_again
from jungoptic.core.stage import DeskCamera, DeskFaults, HyperCamera, HyperFaults, jpeg

WATCHED_PX, PROXY_PX = 960, 640
MOST_PX, LEAST_PX = 8192, 64
QUALITY, _PROXY_QUALITY = 94, 85
_FRAMES_KEPT, _DESKS_KEPT = 8, 2
_FORMATS = ("JPEG", "PNG", "WEBP", "TIFF")
_EXR = b"\x76\x2f\x31\x01"
_NO_PICTURE = "The frame could not be read as a JPEG, PNG, WebP, TIFF or EXR."
_WHITE, _TO_8 = 255.0, 8
AS_PLANNED = Off()
Picture = npt.NDArray[Any]


@dataclass(frozen=True)
class Held:
    """A frame to hold others against: what its file is known by, and the file."""

    key: str
    data: bytes = field(compare=False)

    @classmethod
    def of(cls, data: bytes) -> Held:
        """Of a file: the one that came last is known when the next is held against it."""
        return cls(hashlib.blake2b(data, digest_size=16).hexdigest(), data)


@dataclass(frozen=True)
class Sought:
    """A point of the figure to be found again: its id; the frame in which it was seen last, and where; how
    far it is planned to have gone since. Shares of the frame.
    """

    point: int
    last: Held
    place: tuple[float, float]
    step: tuple[float, float]


@dataclass(frozen=True)
class Taken:
    """A photograph as it is kept: its size, its small picture, what is said of it, and where points of the
    figure are found in it: their ids, shares of the frame.
    """

    width_px: int
    height_px: int
    proxy: bytes
    watched: dict[str, Any] | None
    points: tuple[tuple[int, float, float], ...] = ()


@dataclass(frozen=True)
class Desk:
    """A layer's simulated camera: ``key`` names its shot in its version."""

    key: tuple[int, ...]
    stack: Stack = field(compare=False)
    position: int = field(compare=False)


def opened(data: bytes) -> Picture:
    """Red, green and blue (h, w, 3) of a JPEG, PNG, WebP, TIFF or EXR: codes of 8 bits, of 16, or linear
    light. Raises InputError.
    """
    try:
        picture = _exr(data) if data.startswith(_EXR) else _of_codes(data)
    except InputError:
        raise
    except (
        *(av.FFmpegError, cv2.error, UnidentifiedImageError, Image.DecompressionBombError),
        *(OSError, ValueError, SyntaxError, StopIteration, IndexError),
    ):
        raise InputError.at("file", _NO_PICTURE) from None
    return picture


def _watched_size(data: bytes) -> tuple[Picture, tuple[int, int]]:
    """A photograph as it is watched, and the width and height that it has. Raises InputError."""
    reduced = _reduced(data)
    if reduced is None:
        picture = opened(data)
        reduced = picture, (picture.shape[1], picture.shape[0])
    return _small(reduced[0], WATCHED_PX), reduced[1]


def _reduced(data: bytes) -> tuple[Picture, tuple[int, int]] | None:
    """A JPEG opened a half, a quarter or an eighth as large where that is enough, which takes less than half
    of the time, and the width and height that it has; None where it is not, or is none that is whole.
    """
    if not data.endswith(_ENDS):
        return None
    try:
        with Image.open(io.BytesIO(data), formats=("JPEG",)) as image:
            size, coloured = image.size, image.mode == "RGB"
    except (UnidentifiedImageError, Image.DecompressionBombError, OSError, SyntaxError):
        return None
    _refuse_size(*size)
    reduced = [flag for by, flag in _REDUCED if size[0] >= by * WATCHED_PX]
    if not (coloured and reduced):
        return None
    codes = cv2.imdecode(np.frombuffer(data, np.uint8), reduced[-1] | cv2.IMREAD_IGNORE_ORIENTATION)
    return None if codes is None else (np.ascontiguousarray(codes[..., ::-1]), size)


_ENDS = b"\xff\xd9"
"""Of a JPEG that is whole."""
_REDUCED = ((2, cv2.IMREAD_REDUCED_COLOR_2), (4, cv2.IMREAD_REDUCED_COLOR_4), (8, cv2.IMREAD_REDUCED_COLOR_8))


def _of_codes(data: bytes) -> Picture:
    with Image.open(io.BytesIO(data), formats=_FORMATS) as image:
        _refuse_size(*image.size)
        deep = image.format in ("TIFF", "PNG")
        if not deep:
            return np.asarray(image.convert("RGB"))
    codes = cv2.imdecode(np.frombuffer(data, np.uint8), cv2.IMREAD_UNCHANGED)  # red last
    if codes is None or codes.dtype not in (np.uint8, np.uint16):
        raise InputError.at("file", _NO_PICTURE)
    planes = codes[..., None] if codes.ndim == 2 else codes[..., 2::-1]
    return np.ascontiguousarray(np.broadcast_to(planes, (*planes.shape[:2], 3)))


def _exr(data: bytes) -> Picture:
    with av.open(io.BytesIO(data), "r", format="exr_pipe") as container:
        stream = container.streams.video[0]
        _refuse_size(stream.width, stream.height)
        frame = next(container.decode(stream))
        return np.asarray(frame.to_ndarray(format="gbrpf32le"), np.float32)


def _refuse_size(width: int, height: int) -> None:
    if max(width, height) > MOST_PX or min(width, height) < LEAST_PX:
        said = f"A frame has {LEAST_PX} to {MOST_PX} px each way; this one has {width} × {height}."
        raise InputError.at("file", said)


def light_of(picture: Picture) -> npt.NDArray[np.float32]:
    """An opened picture in linear light, 1 is white."""
    if picture.dtype == np.float32:
        return np.asarray(np.nan_to_num(picture), np.float32)
    return _light_of_codes(picture.dtype.str)[picture]


@lru_cache
def _light_of_codes(kind: str) -> npt.NDArray[np.float32]:
    """How much light each code of a kind of whole numbers is: looked up, not worked out for each pixel."""
    most = np.iinfo(np.dtype(kind)).max
    codes = np.arange(most + 1, dtype=np.float32)[None] / np.float32(most)
    return np.asarray(linear(codes)[0], np.float32)


def codes_of(picture: Picture) -> npt.NDArray[np.uint8]:
    """An opened picture in codes of 8 bits."""
    if picture.dtype == np.float32:
        return np.asarray(np.rint(_WHITE * bt709_signal(np.clip(np.nan_to_num(picture), 0.0, 1.0))), np.uint8)
    return np.asarray(picture if picture.dtype == np.uint8 else picture >> _TO_8, np.uint8)


def smaller(data: bytes, width_px: int) -> bytes:
    """A frame not wider than so much, as a browser shows it: a JPEG."""
    cv2.setNumThreads(1)
    return jpeg(_small(codes_of(opened(data)), width_px), QUALITY)


def _small(picture: Picture, width_px: int) -> Picture:
    height, width = picture.shape[:2]
    if width <= width_px:
        return picture
    size = (width_px, max(1, round(height * width_px / width)))
    return np.asarray(cv2.resize(picture, size, interpolation=cv2.INTER_AREA), picture.dtype)


def _set_frame(data: bytes) -> SetFrame:
    return SetFrame(light_of(_watched_size(data)[0]))


_FRAMES: OrderedDict[str, SetFrame] = OrderedDict()
"""What was held last, by its key."""


def _held(held: Held, small: Picture | None = None) -> SetFrame:
    """A frame made ready, which may have been opened already as it is watched."""
    frame = _FRAMES.pop(held.key, None)
    if frame is None:
        frame = _set_frame(held.data) if small is None else SetFrame(light_of(small))
    _FRAMES[held.key] = frame
    if len(_FRAMES) > _FRAMES_KEPT:
        _FRAMES.popitem(last=False)
    return frame


def taken(
    data: bytes, last: Held | None, first: Held | None, to: WatchedFor, sought: Sequence[Sought] = ()
) -> Taken:
    """A photograph that just came, held against the last frame and the block's first, and points found again
    in it. Raises InputError.
    """
    cv2.setNumThreads(1)
    small, size = _watched_size(data)
    told, points = None, []
    if last or first:
        frame = _held(Held.of(data), small)
        before = _held(last) if last else None
        begins = before if first == last else _held(first) if first else None
        told = _plain(asdict(watched(frame, before, begins, to)))
        points = [place for each in sought if (place := _found(frame, each))]
    return Taken(*size, _proxy(small), told, tuple(points))


def aimed(
    data: bytes, point: int, known: Sequence[tuple[Held, tuple[float, float]]], mark: tuple[float, float]
) -> Taken:
    """A photograph of a hyperlapse that just came, and where its reference point is in it: looked for about
    the guide mark, as it is in those in which it is ``known``; the first one says what it looks like there.
    Raises InputError.
    """
    cv2.setNumThreads(1)
    small, size = _watched_size(data)
    place = mark
    if known:
        frame = _held(Held.of(data), small)
        right, down, _ = point_again(frame, [(_held(each), there) for each, there in known], mark)
        place = right, down
    points = ((point, *place),) if np.isfinite(place).all() else ()
    return Taken(*size, _proxy(small), None, points)


def _proxy(small: Picture) -> bytes:
    return jpeg(codes_of(_small(small, PROXY_PX)), _PROXY_QUALITY)


def built(data: bytes, left: Held, to: WatchedFor, mm_px: float | None) -> dict[str, Any]:
    """A live picture against the frame by which a set was left. Raises InputError."""
    cv2.setNumThreads(1)
    told = built_up(_set_frame(data), _held(left), to, mm_px)
    return {"holds": told.holds, "lines": _plain([asdict(line) for line in told.lines])}


def _found(frame: SetFrame, sought: Sought) -> tuple[int, float, float] | None:
    last = _held(sought.last)
    if last.size_px != frame.size_px:
        return None
    right, down, _ = frame.point_off(last, sought.place, sought.step)
    if not np.isfinite(right):
        return None
    width, height = frame.size_px
    return sought.point, sought.place[0] + right / width, sought.place[1] + down / height


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


@lru_cache(_DESKS_KEPT)
def _carried(desk: Desk, width_px: int, away_m: float, mark: tuple[float, float]) -> HyperCamera:
    member, stack = desk.stack.members[desk.position], desk.stack
    match = Match(stack.hero, member.layer, member.setup, stack.delivery)
    return HyperCamera(match, width_px, away_m, mark)


def aimed_photograph(
    desk: Desk,
    width_px: int,
    path: HyperPath,
    mark: tuple[float, float],
    frame: int,
    exposure: int,
    aim_px: float,
) -> bytes:
    """A photograph of the simulated camera from a station of a hyperlapse, from 1, aimed by hand: a JPEG."""
    cv2.setNumThreads(1)
    camera = _carried(desk, width_px, path.away_m, mark)
    camera.faults = HyperFaults(aim_px=aim_px)
    station = stations(path)[min(frame, path.photographs) - 1]
    place = (*from_the_first(station, path), station.turned_deg)
    return jpeg(camera.photograph(frame, place, exposure), QUALITY)


def photographed(
    desk: Desk, width_px: int, frame: int, exposure: int, faults: DeskFaults, stands: Off = AS_PLANNED
) -> bytes:
    """A photograph of the simulated camera, which ``stands`` where its rigs took it: a JPEG."""
    cv2.setNumThreads(1)
    camera = _camera(desk, width_px)
    camera.faults = faults
    return jpeg(camera.photograph(frame, exposure, stands), QUALITY)
