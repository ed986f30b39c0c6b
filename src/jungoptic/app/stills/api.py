"""Photographs at the camera: kept onto a take with one touch, changed, shown."""

from __future__ import annotations

from datetime import datetime
from typing import Any

from django.core.cache import cache
from django.http import HttpRequest, HttpResponse, HttpResponseBase
from ninja import File, Form, Router, Status, UploadedFile
from ninja.errors import HttpError

from jungoptic.app.base.answers import written
from jungoptic.app.base.desk import FILES, PICTURES
from jungoptic.app.base.once import writes
from jungoptic.app.base.schemas import Problems, Written
from jungoptic.app.boards import reading
from jungoptic.app.files.serving import FOR_EVER, answer
from jungoptic.app.people.signed_in import person
from jungoptic.app.people.waiting import asker
from jungoptic.app.productions import access
from jungoptic.app.shots.models import Layer
from jungoptic.app.shots.writing import in_shot
from jungoptic.app.stills import keeping
from jungoptic.app.stills.models import Still
from jungoptic.app.stills.schemas import MOST_NOTE, StillChange, StillOut, StillsOut
from jungoptic.app.takes.models import Take
from jungoptic.core.errors import InputError
from jungoptic.core.vocabulary import STILLS, StillOf, usual_still

router = Router()
_NOT_HERE = HttpError(404, "There is no such thing here, or it is not yours to see.")


def still_answer(row: Still) -> StillOut:
    """A photograph over the wire."""
    return StillOut(
        id=row.pk,
        layer_id=row.layer_id,
        take_id=row.take_id,
        take_number=row.take.number if row.take else None,
        of=row.of,
        name=STILLS[row.of],  # type: ignore[index]
        note=row.note,
        width_px=row.width_px,
        height_px=row.height_px,
        photographed_at=row.photographed_at,
        by=row.person.shown_name,
        version=row.version,
    )


@router.get("/shots/{shot_id}/stills", response=StillsOut)
def read_stills(request: HttpRequest, shot_id: int) -> Any:
    """The photographs of a shot, newest first. Anybody in the production."""
    access.of_shot(request, shot_id)
    rows = Still.objects.filter(layer__shot=shot_id, removed=False).select_related("take", "layer", "person")
    return StillsOut(
        stills=[still_answer(row) for row in rows],
        choices=[{"key": key, "name": name} for key, name in STILLS.items()],
    )


@router.post("/layers/{layer_id}/stills", response={201: StillOut, 422: Problems})
@writes
def keep_still(
    request: HttpRequest,
    layer_id: int,
    of: Form[StillOf | None] = None,
    take_id: Form[int | None] = None,
    note: Form[str] = "",
    photographed_at: Form[datetime | None] = None,
    file: File[UploadedFile | None] = None,
) -> Any:
    """Keep a photograph of a layer's set, after one of its takes. The supervisor and the crew."""
    access.of_layer(request, layer_id, access.LOGS)
    layer = Layer.objects.get(pk=layer_id)
    take = None if take_id is None else Take.objects.filter(pk=take_id, layer=layer).first()
    if take_id is not None and take is None:
        raise InputError.at("take_id", "That take is not one of this layer.")
    if len(note) > MOST_NOTE:
        raise InputError.at("note", f"A note on a photograph has at most {MOST_NOTE} characters.")
    if file is None:
        raise InputError.at("file", "Choose a photograph.")
    data = file.read(reading.MOST_BYTES + 1)
    picture = FILES.run(asker(request), reading.first_picture, file.name or "photograph", data)
    with in_shot(person(request), layer.shot_id) as write:
        row = keeping.keep(
            write, layer, picture, of or usual_still(layer.kind), take=take, note=note, at=photographed_at
        )
    keeping.kept(row, write.person.pk)
    return Status(201, still_answer(row))


@router.get("/stills/{still_id}.jpg", include_in_schema=False)
def still_picture(request: HttpRequest, still_id: int, width: int = 0) -> HttpResponseBase:
    """A photograph, whole or not wider than ``width``. Anybody in the production."""
    row = _row(request, still_id)
    if not 0 < width < row.width_px:
        return answer(request, row.file, f"{row.layer.shot.code} {row.name}.jpg")
    key = f"still-{still_id}-{width}"
    made: bytes | None = cache.get(key)
    if made is None:
        made = PICTURES.run(asker(request), reading.smaller, row.file.read(), width)
        cache.set(key, made, timeout=None)
    return HttpResponse(made, content_type="image/jpeg", headers={"Cache-Control": FOR_EVER})


@router.patch("/stills/{still_id}", response={200: Written, 409: Problems, 422: Problems})
@writes
def change_still(request: HttpRequest, still_id: int, payload: StillChange) -> Any:
    """Say what a photograph is of, write a note to it, take it away. The supervisor and the crew."""
    row = _row(request, still_id, access.LOGS)
    values = payload.model_dump(exclude={"version"}, exclude_none=True)
    with in_shot(person(request), row.layer.shot_id) as write:
        row.refresh_from_db()
        keeping.change(write, row, payload.version, values)
    if payload.of is not None:
        keeping.kept(row, write.person.pk)
    return written(write, row.pk, row.version)


def _row(request: HttpRequest, still_id: int, allowed: frozenset[access.Role] = access.READS) -> Still:
    row = Still.objects.filter(pk=still_id).select_related("layer__shot", "take", "file").first()
    if row is None:
        raise _NOT_HERE
    access.role_in(request, row.layer.shot.production_id, allowed)
    return row
