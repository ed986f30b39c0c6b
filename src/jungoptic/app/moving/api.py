"""A production out as one file, and in again."""

from __future__ import annotations

from contextlib import ExitStack
from tempfile import TemporaryFile
from typing import Any

from django.http import FileResponse, HttpRequest
from ninja import File, Router, Status, UploadedFile

from jungoptic.app.base.answers import written
from jungoptic.app.base.once import writes
from jungoptic.app.base.schemas import Problems
from jungoptic.app.moving.coming_in import bring_in
from jungoptic.app.moving.going_out import pack
from jungoptic.app.moving.schemas import CameInOut
from jungoptic.app.people.signed_in import person
from jungoptic.app.productions import access
from jungoptic.app.productions.models import Production
from jungoptic.core.errors import InputError

router = Router()
MOST_LEFT_OUT = 50


@router.get("/productions/{production_id}/film.zip", include_in_schema=False)
def take_film_out(request: HttpRequest, production_id: int) -> FileResponse:
    """All of the production as one file. The supervisor."""
    access.role_in(request, production_id, access.WRITES)
    with ExitStack() as undone:
        target = undone.enter_context(TemporaryFile())
        pack(production_id, target)
        target.seek(0)
        undone.pop_all()  # whoever sends the answer closes it
    slug = Production.objects.values_list("slug", flat=True).get(pk=production_id)
    return FileResponse(target, as_attachment=True, filename=f"{slug}.zip", content_type="application/zip")


@router.post("/film-file", response={201: CameInOut, 422: Problems})
@writes
def bring_film_in(request: HttpRequest, file: File[UploadedFile | None] = None) -> Any:
    """A new production out of a file. Anybody who is signed in."""
    if file is None or file.file is None:
        raise InputError.at("file", "Choose the file of a production.")
    came = bring_in(person(request), file.name or "the file", file.file)
    return Status(
        201,
        {
            **written(came.write, came.production.pk, came.production.version),
            "title": came.production.title,
            "shots": came.counts["shots"],
            "takes": came.counts["takes"],
            "pictures": came.counts["files"],
            "people": came.counts["members"],
            "left_out": came.left_out[:MOST_LEFT_OUT],
        },
    )
