"""Live pictures: sent to be measured, never kept."""

from __future__ import annotations

from ninja import UploadedFile

from jungoptic.core.errors import InputError

MOST_BYTES = 6_000_000


def live_picture(file: UploadedFile | None) -> bytes:
    """What was sent as one. Raises InputError."""
    if file is None:
        raise InputError.at("file", "Send the live picture.")
    if (file.size or 0) > MOST_BYTES:
        raise InputError.at("file", f"A live picture has at most {MOST_BYTES / 1e6:.0f} MB.")
    return bytes(file.read())
