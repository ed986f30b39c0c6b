"""Kept files, opened."""

from __future__ import annotations

from django.http import HttpRequest, HttpResponseBase
from ninja import Router

from jungoptic.app.files.models import StoredFile
from jungoptic.app.files.serving import answer
from jungoptic.app.productions import access

router = Router()


@router.get("/files/{file_id}", include_in_schema=False)
def open_file(request: HttpRequest, file_id: int) -> HttpResponseBase:
    """A file, whole or the range that is asked for. Anybody in the production."""
    access.of_file(request, file_id)
    return answer(request, StoredFile.objects.get(pk=file_id))
