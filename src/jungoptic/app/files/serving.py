"""A kept file over the wire: whole or in ranges, and not again to whoever has it."""

from __future__ import annotations

import re
from collections.abc import Iterator
from typing import IO

from django.http import (
    HttpRequest,
    HttpResponse,
    HttpResponseBase,
    HttpResponseNotModified,
    StreamingHttpResponse,
)
from django.utils.http import content_disposition_header

from jungoptic.app.files.models import StoredFile

FOR_EVER = "private, max-age=31536000, immutable"  # the address says which content
_CHUNK_BYTES = 1 << 18
_RANGE = re.compile(r"bytes=(\d*)-(\d*)")


def _wanted(header: str, size: int) -> tuple[int, int] | None:
    """First and last byte of a Range header (RFC 9110, 14.1.2); None for all of it. Raises ValueError where
    nothing of the file is in it.

    Several ranges at once may be answered with the whole (14.2), and are.
    """
    found = _RANGE.fullmatch(header.strip())
    if not found or not any(found.groups()):
        return None
    first, last = found.groups()
    if not first:  # the last so many
        begins, ends = max(0, size - int(last)), size - 1
    else:
        begins, ends = int(first), min(int(last), size - 1) if last else size - 1
        if last and int(last) < begins:
            return None  # not a range at all
    if begins >= size or begins > ends:
        raise ValueError(header)
    return begins, ends


def _pieces(opened: IO[bytes], begins: int, count: int) -> Iterator[bytes]:
    with opened:
        opened.seek(begins)
        while count > 0 and (piece := opened.read(min(_CHUNK_BYTES, count))):
            count -= len(piece)
            yield piece


def answer(request: HttpRequest, stored: StoredFile, name: str = "") -> HttpResponseBase:
    """The file, as ``name``; the part of it that a Range header asks for; 304 to whoever has it.

    Who may see it was asked before. Raises LostFileError.
    """
    tag = f'"{stored.sha256}"'
    headers = {"ETag": tag, "Accept-Ranges": "bytes", "Cache-Control": FOR_EVER}
    if tag in request.headers.get("If-None-Match", ""):
        return HttpResponseNotModified(headers=headers)
    asked = request.headers.get("Range", "")
    if request.headers.get("If-Range", tag) != tag:
        asked = ""
    size = stored.size_bytes
    try:
        part = _wanted(asked, size)
    except ValueError:
        return HttpResponse(status=416, headers={**headers, "Content-Range": f"bytes */{size}"})
    opened = stored.opened()
    begins, ends = part or (0, size - 1)
    headers |= {
        "Content-Length": str(ends - begins + 1),
        "Content-Disposition": content_disposition_header(False, name or stored.name) or "inline",
    }
    if part:
        headers["Content-Range"] = f"bytes {begins}-{ends}/{size}"
    body = _pieces(opened, begins, ends - begins + 1)
    return StreamingHttpResponse(body, status=206 if part else 200, content_type=stored.kind, headers=headers)
