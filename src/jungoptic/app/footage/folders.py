"""Folders of this machine in which cards appear and into which footage is copied; nothing else of it is
shown.
"""

from __future__ import annotations

import os
import shutil
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path

from django.conf import settings

from jungoptic.core.errors import InputError

MOST_FILES = 5000
_MOST_FOLDERS = 60
_MOST_ALIKE = 99
LEFT_FREE_BYTES = 50_000_000  # on a disk that is written to
PART = ".part"  # until a file is whole
_DEEP = 6  # cameras write some levels down
_TO_A_CARD = 2  # a root, whoever is signed in to the machine, a card
CLIPS = frozenset(".mov .mp4 .m4v .mxf .avi .mkv .webm .mts .m2ts .ts .mpg .mpeg .3gp".split())
STILLS = frozenset(".jpg .jpeg .png .tif .tiff .webp".split())


@dataclass(frozen=True)
class Folder:
    """A folder that may be a card: ``recordings`` are files that are called as such."""

    place: str
    name: str
    recordings: int
    size_bytes: int


@dataclass(frozen=True)
class Entry:
    """A file of a card; ``recorded``: it is called as a recording is."""

    path: str
    size_bytes: int
    modified: float
    recorded: bool


def roots() -> list[Path]:
    """Where cards appear, as far as it is there."""
    return [root.resolve() for root in settings.CARDS if root.is_dir()]


def checked(place: str) -> Path:
    """The folder of a card. Raises InputError where it is none of those in which cards appear."""
    inside = " or ".join(str(root) for root in settings.CARDS)
    try:
        folder = Path(place).resolve(strict=True)
    except (OSError, ValueError, RuntimeError):
        raise InputError.at(
            "place", f"There is no folder “{place}” now: is the card in? Cards appear in {inside}."
        ) from None
    if not folder.is_dir():
        raise InputError.at("place", f"“{place}” is a file: choose the folder that it lies in.")
    if not any(folder.is_relative_to(root) for root in roots()):
        raise InputError.at(
            "place",
            f"Only what lies in {inside} can be read. Whoever runs this server can name another with"
            " JUNGOPTIC_CARDS.",
        )
    return folder


def entries(folder: Path) -> Iterator[Entry]:
    """The files of a card in order, without what systems hide in it; links are not followed.

    Raises InputError where there are too many, OSError where the card goes.
    """
    for count, path in enumerate(_walk(folder, 0)):
        if count >= MOST_FILES:
            raise InputError.at(
                "place", f"There are more than {MOST_FILES} files in it: choose the folder of one card."
            )
        told = path.stat()
        suffix = path.suffix.lower()
        recorded = suffix in CLIPS or suffix in STILLS
        yield Entry(str(path.relative_to(folder)), told.st_size, told.st_mtime, recorded)


def _walk(folder: Path, level: int) -> Iterator[Path]:
    with os.scandir(folder) as listed:
        inside = sorted(listed, key=lambda each: each.name)
    for each in inside:
        if each.name.startswith((".", "$")) or each.name == "System Volume Information" or each.is_symlink():
            continue
        if each.is_dir(follow_symlinks=False):
            if level < _DEEP:
                yield from _walk(Path(each.path), level + 1)
        elif each.is_file(follow_symlinks=False):
            yield Path(each.path)


def cards() -> list[Folder]:
    """What could be a card: folders in which recordings lie, in order of their names."""
    told = [one for root in roots() for folder in _candidates(root, 0) if (one := _told(folder)) is not None]
    return told[:_MOST_FOLDERS]


def _candidates(root: Path, level: int) -> Iterator[Path]:
    """Folders that may be cards: a mount is one whole, of others those that have files somewhere in them."""
    try:
        with os.scandir(root) as listed:
            inside = sorted(
                (each for each in listed if each.is_dir(follow_symlinks=False)), key=lambda each: each.name
            )
    except OSError:
        return
    for each in inside:
        if each.name.startswith("."):
            continue
        path = Path(each.path)
        if level + 1 < _TO_A_CARD and not os.path.ismount(path) and not _has_files_near(path):
            yield from _candidates(path, level + 1)
        else:
            yield path


def _has_files_near(folder: Path) -> bool:
    """Whether it looks like a card itself: files in it, or folders as cameras name theirs."""
    try:
        with os.scandir(folder) as listed:
            return any(each.is_file(follow_symlinks=False) or each.name.isupper() for each in listed)
    except OSError:
        return False


def _told(folder: Path) -> Folder | None:
    recordings = size = 0
    try:
        for entry in entries(folder):
            if entry.recorded:
                recordings += 1
                size += entry.size_bytes
    except (OSError, InputError):
        return None
    return Folder(str(folder), folder.name, recordings, size) if recordings else None


def free_bytes(folder: Path) -> int:
    """What is free on the disk on which a folder lies, or will."""
    there = next(one for one in (folder, *folder.parents) if one.is_dir())
    return shutil.disk_usage(there).free


def numbered(path: Path) -> Iterator[Path]:
    """The names that a file may have where others are called the same: itself, then -02 to -99."""
    yield path
    for number in range(2, _MOST_ALIKE + 1):
        yield path.with_stem(f"{path.stem}-{number:02d}")


def footage_of(slug: str) -> Path:
    """Where the footage of a production is copied to."""
    return Path(settings.FOOTAGE) / slug
