"""Boards and the pictures of layers: given, shown."""

from __future__ import annotations

from typing import Any

from django.http import HttpRequest, HttpResponse, HttpResponseBase
from ninja import File, Form, Router, Status, UploadedFile
from ninja.errors import HttpError

from jungoptic.app.base.answers import written
from jungoptic.app.base.desk import FILES
from jungoptic.app.base.once import writes
from jungoptic.app.base.schemas import Problems, Written
from jungoptic.app.boards import keeping, reading
from jungoptic.app.boards.jobs import MOST_PICTURES, Came, Given, boards
from jungoptic.app.boards.models import Board
from jungoptic.app.boards.schemas import BoardOut
from jungoptic.app.files import keeping as files_kept
from jungoptic.app.files.serving import FOR_EVER, answer
from jungoptic.app.jobs.asking import ask_for
from jungoptic.app.jobs.schemas import JobOut
from jungoptic.app.people.signed_in import person
from jungoptic.app.people.waiting import asker
from jungoptic.app.productions import access
from jungoptic.app.productions.writing import in_production
from jungoptic.app.shots.models import Layer, LayerPicture, Shot
from jungoptic.app.shots.pictures import lens_jpeg
from jungoptic.app.shots.writing import in_shot
from jungoptic.app.takes.table import BenchTable, shot_to_look_at
from jungoptic.core.errors import InputError

router = Router()

KEPT_FOR_EVER = {"Cache-Control": FOR_EVER}
EMPTY: list[UploadedFile] = []
SMALL_PX = 400
KINDS = frozenset({"image/png", "image/jpeg", "image/tiff", "application/pdf", ""})
UNSEEN = 0  # no row has this version: who may write is answered before what was seen


@router.post(
    "/productions/{production_id}/boards", response={202: JobOut, 409: Problems, 422: Problems, 429: Problems}
)
@writes
def upload_boards(
    request: HttpRequest,
    production_id: int,
    version: Form[int] = UNSEEN,
    files: File[list[UploadedFile]] = EMPTY,
) -> Any:
    """Many boards at once, as a job: to the shots that their names say, else in order, all of them or none.

    The supervisor.
    """
    access.role_in(request, production_id, access.WRITES)
    if not files:
        raise InputError.at("files", "Choose at least one picture.")
    if len(files) > MOST_PICTURES:
        raise InputError.at(
            "files", f"These are {len(files)} files; up to {MOST_PICTURES} come at once: give them in parts."
        )
    given = Given(files=[_came(production_id, one, person(request).pk) for one in files])
    with in_production(person(request), production_id, version) as write:
        title = f"Boards out of {len(files)} file{'' if len(files) == 1 else 's'}"
        return Status(202, JobOut.of(ask_for(write, boards, title, given)))


def _came(production_id: int, file: UploadedFile, person_id: int) -> Came:
    name = (file.name or "board")[:200]
    reading.refuse_by_size(name, file.size or 0)
    reading.refuse_by_head(name, file.read(reading.HEAD_BYTES))
    file.seek(0)
    return Came(name=name, file=files_kept.keep(production_id, name, file, KINDS, person_id=person_id).pk)


@router.post("/shots/{shot_id}/board", response={200: BoardOut, 409: Problems, 422: Problems})
@writes
def upload_board(
    request: HttpRequest, shot_id: int, version: Form[int] = UNSEEN, file: File[UploadedFile | None] = None
) -> Any:
    """The shot's board: PNG, JPEG, TIFF or the first page of a PDF. The supervisor."""
    access.of_shot(request, shot_id, access.WRITES)
    if file is None:
        raise InputError.at("file", "Choose a picture.")
    data = file.read(reading.MOST_BYTES + 1)
    picture = FILES.run(asker(request), reading.first_picture, file.name or "board", data)
    with in_shot(person(request), shot_id, version) as write:
        made = keeping.keep(write, Shot.objects.get(pk=shot_id), picture)
    return {"id": made.pk, "name": made.name, "width_px": made.width_px, "height_px": made.height_px}


@router.delete("/shots/{shot_id}/board", response={200: Written, 409: Problems})
@writes
def remove_board(request: HttpRequest, shot_id: int, version: int) -> Any:
    """Show the shot without its board; the picture is kept. The supervisor."""
    access.of_shot(request, shot_id, access.WRITES)
    with in_shot(person(request), shot_id, version) as write:
        keeping.show(write, Shot.objects.get(pk=shot_id), None)
    return written(write, shot_id, version)


@router.get("/boards/{board_id}.jpg", include_in_schema=False)
def board_picture(request: HttpRequest, board_id: int, width: int = 0) -> HttpResponseBase:
    """The picture of a board, whole or not wider than ``width``. Anybody in the production."""
    board = Board.objects.filter(pk=board_id).select_related("shot", "file").first()
    if board is None:
        raise HttpError(404, "There is no such thing here, or it is not yours to see.")
    access.role_in(request, board.shot.production_id)
    if 0 < width < board.width_px:
        seen = keeping.smaller_board(asker(request), board_id, width)
        return HttpResponse(seen, content_type="image/jpeg", headers=KEPT_FOR_EVER)
    return answer(request, board.file, f"{board.shot.code} board.jpg")


@router.post("/layers/{layer_id}/picture", response={200: Written, 409: Problems, 422: Problems})
@writes
def upload_picture(
    request: HttpRequest,
    layer_id: int,
    version: Form[int] = UNSEEN,
    shown: Form[bool] = False,
    file: File[UploadedFile | None] = None,
) -> Any:
    """The picture of a layer: PNG, JPEG, TIFF, EXR or the first page of a PDF; ``shown``: the layer is seen
    as it from now on; its angle of view as its tags have it. The supervisor.
    """
    access.of_layer(request, layer_id, access.WRITES)
    if file is None:
        raise InputError.at("file", "Choose a picture.")
    data = file.read(reading.MOST_BYTES + 1)
    name = file.name or "picture"
    picture, view_deg = FILES.run(asker(request), reading.first_with_its_view, name, data)
    layer = Layer.objects.get(pk=layer_id)
    with in_shot(person(request), layer.shot_id) as write:
        layer.refresh_from_db()
        write.refuse_unseen("layers", layer, version)
        keeping.give(write, layer, picture, shown=shown, view_deg=view_deg)
    return written(write, layer_id, version)


@router.get("/layer-pictures/{picture_id}.jpg", include_in_schema=False)
def layer_picture(request: HttpRequest, picture_id: int) -> HttpResponseBase:
    """The picture of a layer, to look at. Anybody in the production."""
    picture = LayerPicture.objects.filter(pk=picture_id).select_related("layer__shot", "file").first()
    if picture is None:
        raise HttpError(404, "There is no such thing here, or it is not yours to see.")
    access.role_in(request, picture.layer.shot.production_id)
    return answer(request, picture.file, f"{picture.name}.jpg")


@router.get("/shots/{shot_id}/small.jpg", include_in_schema=False)
def small_picture(request: HttpRequest, shot_id: int) -> HttpResponse:
    """The view through the lens, small, for the wall. Anybody in the production."""
    access.of_shot(request, shot_id)
    table = BenchTable(shot_to_look_at(shot_id), school="measured", units="metric")
    if table.hero is None:
        raise HttpError(404, "There is no hero yet, so there is no camera to look through.")
    seen = lens_jpeg(asker(request), table, table.stack, SMALL_PX)
    return HttpResponse(seen, content_type="image/jpeg", headers=KEPT_FOR_EVER)
