"""What was animated as numbered pictures, an edit and a table: each frame of the shot its picture, or each
pose one that the edit holds.
"""

from __future__ import annotations

import csv
import io
import zipfile
from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from fractions import Fraction
from typing import IO, Any, Literal

import av
import cv2
import numpy as np
import numpy.typing as npt
import opentimelineio as otio

from jungoptic.app.base.csv_cells import harmless
from jungoptic.app.frames.beside import light_of, opened
from jungoptic.core.errors import InputError
from jungoptic.core.light import bt709_signal

Format = Literal["png", "tiff", "exr"]
_WHITE_16, _CODES_16 = 65535.0, 257
_DIGITS = 4
_GB = 1_000_000_000
_HEAD = (
    *("pose", "frame", "hold", "key", "block", "figure", "camera", "light", "mouth", "note"),
    *("file", "taken at (UTC)", "by", "said"),
)

CHEATS_HEAD = (
    *("what", "name", "first frame", "last frame", "right mm", "up mm", "back mm", "away", "dimmed to %"),
    *("note", "said"),
)


@dataclass(frozen=True)
class Line:
    """A line of the sheet as it goes out: ``frame`` is the first of the shot at which it is shown, ``read``
    gives its photograph, None where there is none, ``more`` those of its other passes by their names;
    ``written`` are its columns, ``taken`` when, by whom, and what was said of it.
    """

    place: int
    frame: int
    hold: int
    key: bool
    block: int
    written: tuple[str, ...]
    taken: tuple[str, str, str]
    read: Callable[[], bytes] | None
    more: Mapping[str, Callable[[], bytes]] = field(default_factory=dict)


@dataclass(frozen=True)
class Sheet:
    """A sheet as it goes out: its name in files, and the rate of the shot."""

    name: str
    rate_fps: float
    lines: Sequence[Line]
    cheats: Sequence[Sequence[str | float]] = ()
    """What was moved for reach: a row each, as :data:`CHEATS_HEAD`."""


def encoded(data: bytes, to: Format) -> bytes:
    """A photograph as a PNG of as many bits as it has, 8 or 16; as a TIFF of 16; or as an EXR in linear light
    (the curve of BT.709 undone), half floats.
    """
    picture = opened(data)
    if to == "exr":
        return _exr(light_of(picture))
    if picture.dtype == np.float32:
        picture = np.asarray(
            np.rint(_WHITE_16 * bt709_signal(np.clip(np.nan_to_num(picture), 0, 1))), np.uint16
        )
    elif picture.dtype == np.uint8 and to == "tiff":
        picture = picture.astype(np.uint16) * _CODES_16
    return bytes(cv2.imencode(f".{to}", np.ascontiguousarray(picture[..., ::-1]))[1])


def _exr(light: npt.NDArray[np.float32]) -> bytes:
    height, width = light.shape[:2]
    context = av.CodecContext.create("exr", "w")
    assert isinstance(context, av.VideoCodecContext)
    context.width, context.height, context.pix_fmt = width, height, "gbrpf32le"
    context.time_base = Fraction(1, 24)
    context.options = {"format": "half", "compression": "zip16"}
    frame = av.VideoFrame.from_ndarray(np.ascontiguousarray(light, np.float32), format="gbrpf32le")
    return b"".join(bytes(packet) for packet in (*context.encode(frame), *context.encode(None)))


def file_name(sheet: Sheet, number: int, to: Format) -> str:
    """What a picture is called."""
    return f"{sheet.name}.{number:0{_DIGITS}d}.{to}"


def pack(
    sheet: Sheet,
    to: Format,
    expanded: bool,
    target: IO[bytes],
    advance: Callable[[float], None],
    room: Callable[[], int | None],
) -> None:
    """Write it all into a ZIP: with holds ``expanded`` a picture a frame of the shot, else one a pose.
    ``room`` tells how many bytes may still be kept. Raises InputError before the disk is full.
    """
    count = left = sum(_pictures_of(line, expanded) for line in sheet.lines)
    with zipfile.ZipFile(target, "w", zipfile.ZIP_STORED, allowZip64=True) as packed:
        for done, line in enumerate(sheet.lines):
            advance(done / len(sheet.lines))
            photographs = {"frames": line.read, **line.more}
            for folder, read in photographs.items():
                if read is None:
                    continue
                picture = encoded(read(), to)
                # what is packed is kept as a whole afterwards
                _refuse_no_room(count, len(picture) * (left + count), room())
                for number in numbers_of(line, expanded):
                    left -= 1
                    packed.writestr(f"{sheet.name}/{folder}/{file_name(sheet, number, to)}", picture)
        packed.writestr(f"{sheet.name}/{sheet.name}.otio", edit(sheet, to, expanded))
        packed.writestr(f"{sheet.name}/{sheet.name}.csv", table(sheet, to, expanded))
        if sheet.cheats:
            packed.writestr(f"{sheet.name}/{sheet.name}_cheats.csv", cheats_table(sheet))


def _pictures_of(line: Line, expanded: bool) -> int:
    photographs = (line.read is not None) + len(line.more)
    return photographs * len(numbers_of(line, expanded))


def _refuse_no_room(count: int, needed: int, room: int | None) -> None:
    if room is not None and room < needed:
        raise InputError.at(
            "",
            f"These {count} pictures need about {_said(needed)} more on the server's disk while they are"
            f" packed; {_said(max(room, 0))} are free. Take one picture a pose, or PNGs, or take old films"
            " off the server.",
        )


def _said(size: int) -> str:
    return f"{size / 1e9:.1f} GB" if size >= _GB else f"{size / 1e6:.0f} MB"


def numbers_of(line: Line, expanded: bool) -> Sequence[int]:
    """The numbers of a pose's pictures: those of the shot's frames, or its own."""
    return range(line.frame, line.frame + line.hold) if expanded else (line.place + 1,)


def table(sheet: Sheet, to: Format, expanded: bool) -> str:
    """The sheet, a line a pose, for people and for tables."""
    out = io.StringIO()
    writer = csv.writer(out)
    writer.writerow(_HEAD)
    for line in sheet.lines:
        file = file_name(sheet, next(iter(numbers_of(line, expanded))), to) if line.read else ""
        texts = [harmless(cell) for cell in (*line.written, file, *line.taken)]
        key = "yes" if line.key else ""
        writer.writerow([line.place + 1, line.frame, line.hold, key, line.block + 1, *texts])
    return out.getvalue()


def cheats_table(sheet: Sheet) -> str:
    """What was moved for reach, for who composites it."""
    out = io.StringIO()
    writer = csv.writer(out)
    writer.writerow(CHEATS_HEAD)
    for row in sheet.cheats:
        writer.writerow([harmless(cell) if isinstance(cell, str) else cell for cell in row])
    return out.getvalue()


def edit(sheet: Sheet, to: Format, expanded: bool) -> str:
    """The sheet in time: a clip a pose that is held, or one for all pictures that follow one another; gaps
    where nothing was photographed.
    """
    timeline = otio.schema.Timeline(sheet.name)
    track = otio.schema.Track("frames", kind=otio.schema.TrackKind.Video)
    timeline.tracks.append(track)
    for first, count, there, line in _runs(sheet.lines, expanded):
        long = otio.opentime.RationalTime(count, sheet.rate_fps)
        if not there:
            track.append(otio.schema.Gap(duration=long))
            continue
        number = first if expanded else line.place + 1
        pictures = count if expanded else 1
        name = f"{sheet.name} {number}" if expanded else f"pose {number}"
        clip = otio.schema.Clip(name, _reference(sheet, to, number, pictures))
        begin = otio.opentime.RationalTime(0, sheet.rate_fps)
        clip.source_range = otio.opentime.TimeRange(begin, long)
        if not expanded:
            clip.metadata["jungoptic"] = {"pose": number, "frame": line.frame, "hold": line.hold}
            if line.hold > 1:
                clip.effects.append(otio.schema.FreezeFrame())
        track.append(clip)
    return str(timeline.to_json_string())


def _runs(lines: Sequence[Line], expanded: bool) -> Iterable[tuple[int, int, bool, Line]]:
    """First frame, how many, whether photographed, and the first line, of what is one clip or gap."""
    begun: list[Any] = []
    for line in lines:
        there = line.read is not None
        if begun and begun[2] == there and (expanded or not there):
            begun[1] += line.hold
            continue
        if begun:
            yield begun[0], begun[1], begun[2], begun[3]
        begun = [line.frame, line.hold, there, line]
    if begun:
        yield begun[0], begun[1], begun[2], begun[3]


def _reference(sheet: Sheet, to: Format, number: int, count: int) -> Any:
    return otio.schema.ImageSequenceReference(
        target_url_base="frames/",
        name_prefix=f"{sheet.name}.",
        name_suffix=f".{to}",
        start_frame=number,
        frame_step=1,
        rate=sheet.rate_fps,
        frame_zero_padding=_DIGITS,
        available_range=otio.opentime.TimeRange(
            otio.opentime.RationalTime(0, sheet.rate_fps),
            otio.opentime.RationalTime(count, sheet.rate_fps),
        ),
    )
