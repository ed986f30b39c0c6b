"""Recordings copied from a card: summed while they are read, read back, called by shot, layer and take.

The card is only read. A copy has its name when it is whole; until then it is called ``.part``.
"""

from __future__ import annotations

import errno
import fcntl
import os
import re
from collections.abc import Callable, Iterable
from dataclasses import dataclass
from hashlib import sha256
from pathlib import Path
from unicodedata import normalize

from django.utils import timezone

from jungoptic.app.footage.folders import LEFT_FREE_BYTES, PART, checked, footage_of, free_bytes, numbered
from jungoptic.app.footage.models import Card, Recording
from jungoptic.core.errors import InputError

SUMS = "SHA256SUMS"
UNPLACED = "unplaced"
_CHUNK_BYTES = 4 << 20
_NO_ROOM = (errno.ENOSPC, errno.EDQUOT)
_NOT_THE_SAME = "what was written does not read back the same: copy it again, to another disk if it stays."
_UNREADABLE = "it cannot be read ({why}). Copy it again, or try another reader."
_NOT_HERE = "“{name}” is not on its card any more, and not in the footage: put the card in that has it."

Advance = Callable[[int, str], None]


class CopyError(Exception):
    """A file could not be copied; the message says why, and what to do. Nothing half is left."""


@dataclass(frozen=True)
class Copied:
    """What came of it: how many are there now, and what each that is not said."""

    copied: int
    there_already: int
    failed: list[str]


def target_of(row: Recording) -> str:
    """How a copy is called, within the production's footage: by shot, layer and take, else as it came."""
    name = Path(row.path)
    if row.take is None:
        return f"{UNPLACED}/{plain_name(row.card.name)}/{row.path}"
    take = row.take
    layer = plain_name(take.layer.name)
    shot = plain_name(take.slate)
    return f"{shot}/{layer}/{shot}_{layer}_T{take.number:02d}{name.suffix.lower()}"


def plain_name(text: str) -> str:
    """A name that file systems take, in whatever script it is written."""
    return re.sub(r"[^\w.-]+", "-", normalize("NFC", text)).strip("-.") or "x"


def wanted_bytes(rows: Iterable[Recording]) -> int:
    """How much there is to copy."""
    return sum(row.size_bytes for row in rows if not _lies_there(row))


def is_there(row: Recording) -> bool:
    """Whether its copy lies where it was put, as long as it is, and is called by its take."""
    return row.copied_to == _as_it_is_called(row) and _lies_there(row)


def _lies_there(row: Recording) -> bool:
    if not row.copied_to:
        return False
    try:
        return (footage_of(row.card.production.slug) / row.copied_to).stat().st_size == row.size_bytes
    except OSError:
        return False


def lies_at(row: Recording) -> Path:
    """Where a recording can be read now: its copy, else on its card. Raises InputError."""
    if _lies_there(row):
        return footage_of(row.card.production.slug) / row.copied_to
    path = checked(row.card.place) / row.path
    try:
        if path.lstat().st_size == row.size_bytes:
            return path
    except OSError:
        pass
    raise InputError.at("place", _NOT_HERE.format(name=row.name))


def _as_it_is_called(row: Recording) -> str:
    """Its target, with the number that it got where another has that name."""
    target = target_of(row)
    stem, suffix = os.path.splitext(target)
    got = re.fullmatch(re.escape(stem) + r"(-\d\d)?" + re.escape(suffix), row.copied_to)
    return row.copied_to if got else target


def refuse_without_room(card: Card, rows: list[Recording]) -> None:
    """Raise InputError where the disk has not the room for what is to be copied."""
    folder = footage_of(card.production.slug)
    folder.mkdir(parents=True, exist_ok=True)
    free, wanted = free_bytes(folder), wanted_bytes(rows) + LEFT_FREE_BYTES
    if wanted > free:
        raise InputError.at(
            "place",
            f"There are {wanted / 1e9:.1f} GB to copy and {free / 1e9:.1f} GB free in {folder}: free"
            f" {max(0.1, (wanted - free) / 1e9):.1f} GB, or copy to another disk.",
        )


def copy_card(card: Card, rows: list[Recording], advance: Advance) -> Copied:
    """Copy every row that is not there yet; each is kept in the database as soon as it is whole.

    ``advance`` is told bytes and file, and may raise. A file that cannot be copied is said, and the others go
    on; raises CopyError where the card or the room is gone.
    """
    folder, root = Path(card.place), footage_of(card.production.slug)
    copied = there = done = 0
    failed: list[str] = []

    def advance_from(before: int, name: str) -> Callable[[int], None]:
        return lambda count: advance(before + count, name)

    try:
        for row in rows:
            if is_there(row) or _called_anew(row, root):
                there += 1
                continue
            try:
                _copy_one(row, folder, root, advance_from(done, row.name))
                copied, done = copied + 1, done + row.size_bytes
            except CopyError as error:
                failed.append(f"{row.name}: {error}")
            except OSError as error:
                _stop_where_all_is_lost(error, folder, copied + there, len(rows))
                failed.append(f"{row.name}: {_UNREADABLE.format(why=error.strerror)}")
    finally:
        write_sums(card.production_id, root)
    return Copied(copied, there, failed)


def _called_anew(row: Recording, root: Path) -> bool:
    """Whether it was copied before it was filed elsewhere: the copy then gets its other name."""
    if not _lies_there(row):
        return False
    old = root / row.copied_to
    target = root / target_of(row)
    target.parent.mkdir(parents=True, exist_ok=True)
    path = _named(old, target, row.sha256)
    old.unlink(missing_ok=True)
    row.copied_to = str(path.relative_to(root))
    row.save(update_fields=["copied_to"])
    return True


def _stop_where_all_is_lost(error: OSError, folder: Path, done: int, count: int) -> None:
    whole = f"{done} of {count} files are copied and whole, nothing is half there."
    if error.errno in _NO_ROOM:
        raise CopyError(
            f"The disk is full. {whole} Free some room, and copy again: it goes on from there."
        ) from None
    if not folder.is_dir() or error.errno in (errno.ENODEV, errno.ENXIO, errno.ESTALE):
        raise CopyError(
            f"The card is gone. {whole} Put it in again, and copy again: it goes on from there."
        ) from None


def _copy_one(row: Recording, folder: Path, root: Path, advance: Callable[[int], None]) -> None:
    source = folder / row.path
    target = root / target_of(row)
    target.parent.mkdir(parents=True, exist_ok=True)
    part = target.with_name(target.name + PART)
    with part.open("ab+") as to:
        try:
            fcntl.flock(to, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except BlockingIOError:
            raise CopyError("it is being copied by somebody else at this moment.") from None
        try:
            summed = _written(source, row, to.fileno(), advance)
            if _summed(part) != summed:
                raise CopyError(_NOT_THE_SAME)
            _keep_time(source, part)
            path = _named(part, target, summed)
        finally:
            part.unlink(missing_ok=True)
    row.sha256, row.copied_to, row.copied_at = summed, str(path.relative_to(root)), timezone.now()
    row.save(update_fields=["sha256", "copied_to", "copied_at"])


def _written(source: Path, row: Recording, to: int, advance: Callable[[int], None]) -> str:
    os.ftruncate(to, 0)
    sums, count = sha256(), 0
    with os.fdopen(os.open(source, os.O_RDONLY | os.O_NOFOLLOW), "rb", buffering=0) as opened:
        before = os.fstat(opened.fileno())
        if before.st_size != row.size_bytes:
            raise CopyError("it is not as long as when the card was read: read the card again.")
        while piece := opened.read(_CHUNK_BYTES):
            sums.update(piece)
            _write_all(to, piece)
            count += len(piece)
            advance(count)
        after = os.fstat(opened.fileno())
    if count != row.size_bytes or after.st_mtime != before.st_mtime:
        raise CopyError("it changed while it was copied: is the camera still writing? Read the card again.")
    os.fsync(to)
    return sums.hexdigest()


def _write_all(to: int, piece: bytes) -> None:
    view = memoryview(piece)
    while view:
        view = view[os.write(to, view) :]


def _summed(path: Path) -> str:
    """The sum of what lies on the disk, not of what the system remembers of it."""
    sums = sha256()
    with path.open("rb", buffering=0) as opened:
        os.posix_fadvise(opened.fileno(), 0, 0, os.POSIX_FADV_DONTNEED)
        while piece := opened.read(_CHUNK_BYTES):
            sums.update(piece)
    return sums.hexdigest()


def _keep_time(source: Path, part: Path) -> None:
    told = source.stat()
    os.utime(part, ns=(told.st_atime_ns, told.st_mtime_ns))


def _named(part: Path, target: Path, summed: str) -> Path:
    """The copy by its name. What has that name already is left: the same bytes are the copy, others get the
    next number.
    """
    for path in numbered(target):
        try:
            os.link(part, path)
        except FileExistsError:
            if _summed(path) == summed:
                return path
        except OSError as error:
            if error.errno in _NO_ROOM or path.exists():
                raise
            part.rename(path)  # a file system without hard links
            return path
        else:
            return path
    raise CopyError("too many files have its name already: move them away.")


def write_sums(production_id: int, root: Path) -> None:
    """Write the sums of all that was copied, as ``sha256sum -c`` reads them."""
    rows = (
        Recording.objects.filter(card__production=production_id).exclude(copied_to="").order_by("copied_to")
    )
    lines = {
        row.copied_to: f"{row.sha256}  {row.copied_to}\n" for row in rows if (root / row.copied_to).is_file()
    }
    try:
        root.mkdir(parents=True, exist_ok=True)
        part = root / f"{SUMS}{PART}"
        part.write_text("".join(lines.values()), "utf-8")
        part.replace(root / SUMS)
    except OSError:  # what was copied is whole all the same, and its sum is in the database
        return
