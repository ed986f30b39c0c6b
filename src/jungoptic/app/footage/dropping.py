"""Files that were dropped on the page: in pieces, each at its place, going on from where they stopped."""

from __future__ import annotations

import fcntl
import os
import re
from collections.abc import Iterable
from dataclasses import dataclass
from itertools import takewhile
from pathlib import Path

from django.conf import settings

from jungoptic.app.footage.folders import CLIPS, LEFT_FREE_BYTES, PART, STILLS, free_bytes, numbered
from jungoptic.core.errors import InputError

MOST_PIECE_BYTES = 8_000_000
MOST_BYTES = 2_000_000_000_000
LATEST_MS = 4_102_444_800_000  # the year 2100
NAME = "Dropped"
_NS_A_MS = 1_000_000
_NO_ROOM = "“{name}” has {size:.1f} GB; there is no room for it on the server."
_LONGEST_NAME = 150


def folder_of(slug: str) -> Path:
    """Where what was dropped for a production lies: read like a card."""
    return Path(settings.DROPPED) / slug / NAME


def checked_name(name: str) -> str:
    """The name of a file without the folders before it. Raises InputError for what is no recording."""
    plain = re.split(r"[/\\]", name)[-1].strip()
    suffix = Path(plain).suffix.lower()
    if suffix not in CLIPS | STILLS or plain.startswith(".") or len(plain) > _LONGEST_NAME:
        kinds = ", ".join(sorted(kind.removeprefix(".") for kind in CLIPS | STILLS))
        raise InputError.at("name", f"“{plain or name}” is not called as a recording is: {kinds}.")
    return plain


@dataclass(frozen=True)
class Dropped:
    """A file as the browser knows it: two that are called alike are told apart by size and time."""

    name: str
    size_bytes: int
    modified_ms: int

    def is_at(self, path: Path) -> bool:
        """Whether this is it."""
        told = path.stat()
        return told.st_size == self.size_bytes and told.st_mtime_ns // _NS_A_MS == self.modified_ms

    def part(self, folder: Path) -> Path:
        """What it is called until all of it has come."""
        return folder / f".{self.name}.{self.size_bytes}.{self.modified_ms}{PART}"


def standing(folder: Path, file: Dropped) -> int:
    """How many bytes of a file have come: all of them where it is there already."""
    if any(file.is_at(path) for path in _called(folder, file.name)):
        return file.size_bytes
    try:
        return file.part(folder).stat().st_size
    except OSError:
        return 0


def add_piece(folder: Path, file: Dropped, begins: int, pieces: Iterable[bytes]) -> int:
    """Put a piece at its place; returns how many bytes there are then. A piece that came before, or comes too
    early, changes nothing.

    Raises InputError where the disk has no room.
    """
    size = file.size_bytes
    if standing(folder, file) == size:
        return size
    if size - begins + LEFT_FREE_BYTES > free_bytes(folder):
        raise InputError.at("size", _NO_ROOM.format(name=file.name, size=size / 1e9))
    folder.mkdir(parents=True, exist_ok=True)
    part = file.part(folder)
    with part.open("ab") as to:
        fcntl.flock(to, fcntl.LOCK_EX)
        there = os.fstat(to.fileno()).st_size
        if there == begins:
            for piece in pieces:
                to.write(piece[: size - there])
                there += len(piece[: size - there])
            to.flush()
            os.fsync(to.fileno())
        if there == size and part.exists():
            os.utime(part, ns=(file.modified_ms * _NS_A_MS,) * 2)
            part.rename(_free_name(folder, file.name))
    return there


def _called(folder: Path, name: str) -> list[Path]:
    return list(takewhile(Path.exists, numbered(folder / name)))


def _free_name(folder: Path, name: str) -> Path:
    for path in numbered(folder / name):
        if not path.exists():
            return path
    raise InputError.at("name", f"There are too many files called “{name}” already: call it otherwise.")
