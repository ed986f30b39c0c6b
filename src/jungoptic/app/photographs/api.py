"""What a photograph says of itself. Nothing of it is kept."""

from __future__ import annotations

from dataclasses import asdict
from typing import Any

from django.http import HttpRequest
from ninja import File, Form, Router, UploadedFile

from jungoptic.app.base.desk import FILES
from jungoptic.app.base.schemas import Problems
from jungoptic.app.people.waiting import asker
from jungoptic.app.photographs import tags
from jungoptic.app.photographs.schemas import TagsOut
from jungoptic.core.errors import InputError

router = Router()


@router.post("/photographs/tags", response={200: TagsOut, 422: Problems})
def read_tags(request: HttpRequest, where: Form[bool] = False, file: File[UploadedFile | None] = None) -> Any:
    """The tags of a photograph, of which its beginning is enough; where it was taken only with ``where``.

    Anybody who is signed in; nothing is kept.
    """
    if file is None:
        raise InputError.at("file", "Choose a photograph.")
    data = file.read(tags.MOST_BYTES + 1)
    return asdict(FILES.run(asker(request), tags.read, file.name or "the photograph", data, where=where))
