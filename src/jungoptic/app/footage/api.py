"""Cards: what is in the machine, read, filed, copied."""

from __future__ import annotations

from typing import Annotated, Any

from django.http import HttpRequest, HttpResponse, HttpResponseBase
from ninja import File, Form, Query, Router, Status, UploadedFile
from ninja.errors import HttpError

from jungoptic.app.base.desk import FILES
from jungoptic.app.base.once import writes
from jungoptic.app.base.schemas import Problems, Seen, Written
from jungoptic.app.files.serving import answer
from jungoptic.app.footage import copying, dropping, folders, keeping
from jungoptic.app.footage.answers import card_answer, cards_answer, from_files
from jungoptic.app.footage.frames import frame_jpeg
from jungoptic.app.footage.jobs import OfACard, copy_card, read_card, rows_to_copy
from jungoptic.app.footage.models import Card, Recording
from jungoptic.app.footage.schemas import CardIn, CardOut, CardsOut, DroppedOut, FilingsIn, FromFileOut
from jungoptic.app.footage.simulated import Nothing, simulated_card
from jungoptic.app.jobs.asking import ask_for
from jungoptic.app.jobs.schemas import JobOut
from jungoptic.app.people.signed_in import person
from jungoptic.app.people.waiting import asker
from jungoptic.app.productions import access
from jungoptic.app.productions.models import Production
from jungoptic.app.productions.writing import in_production
from jungoptic.core.errors import InputError
from jungoptic.core.vocabulary import Units

router = Router()
Name = Annotated[str, Query(min_length=1, max_length=255)]
Modified = Annotated[int, Query(ge=0, le=dropping.LATEST_MS)]
Second = Annotated[float, Query(ge=0, le=1e6)]
Size = Annotated[int, Query(gt=0, le=dropping.MOST_BYTES)]


@router.get("/productions/{production_id}/cards", response=CardsOut)
def read_cards(request: HttpRequest, production_id: int) -> Any:
    """Cards that are in the machine, and those that were read. The supervisor and the crew."""
    access.role_in(request, production_id, access.LOGS)
    return cards_answer(Production.objects.get(pk=production_id))


@router.post(
    "/productions/{production_id}/cards", response={202: JobOut, 409: Problems, 422: Problems, 429: Problems}
)
@writes
def read_a_card(request: HttpRequest, production_id: int, payload: CardIn) -> Any:
    """Read every recording in a folder, as a job. The supervisor and the crew."""
    access.role_in(request, production_id, access.LOGS)
    folder = folders.checked(payload.place)
    with in_production(person(request), production_id, payload.version) as write:
        card = keeping.card_at(write, folder)
        job = ask_for(write, read_card, f"Reading {card.name}", OfACard(card=card.pk))
    return Status(202, JobOut.of(job))


@router.post(
    "/productions/{production_id}/simulated-card", response={202: JobOut, 409: Problems, 429: Problems}
)
@writes
def film_a_card(request: HttpRequest, production_id: int, payload: Seen) -> Any:
    """Have the simulated camera record what was logged, as a job. The supervisor and the crew."""
    access.role_in(request, production_id, access.LOGS)
    with in_production(person(request), production_id, payload.version) as write:
        job = ask_for(write, simulated_card, "A card of the simulated camera", Nothing())
    return Status(202, JobOut.of(job))


@router.get("/productions/{production_id}/dropped", response={200: DroppedOut, 422: Problems})
def read_dropped(
    request: HttpRequest, production_id: int, name: Name, size: Size, modified: Modified = 0
) -> Any:
    """How much of a file has come, to go on from there. The supervisor and the crew."""
    access.role_in(request, production_id, access.LOGS)
    folder = dropping.folder_of(Production.objects.get(pk=production_id).slug)
    file = dropping.Dropped(dropping.checked_name(name), size, modified)
    return {"have": dropping.standing(folder, file), "place": str(folder)}


@router.post("/productions/{production_id}/dropped", response={200: DroppedOut, 422: Problems})
def drop_a_piece(
    request: HttpRequest,
    production_id: int,
    name: Form[str] = "",
    size: Form[int] = 0,
    modified: Form[int] = 0,
    begins: Form[int] = 0,
    file: File[UploadedFile | None] = None,
) -> Any:
    """A piece of a file at its place; the same piece twice is one. The supervisor and the crew."""
    access.role_in(request, production_id, access.LOGS)
    whole = dropping.Dropped(dropping.checked_name(name), size, modified)
    if file is None or not 0 < (file.size or 0) <= dropping.MOST_PIECE_BYTES:
        raise InputError.at("file", f"A piece has up to {dropping.MOST_PIECE_BYTES / 1e6:.0f} MB.")
    if not (0 <= begins < size <= dropping.MOST_BYTES and 0 <= modified <= dropping.LATEST_MS):
        raise InputError.at("begins", "This piece does not lie in its file.")
    folder = dropping.folder_of(Production.objects.get(pk=production_id).slug)
    return {"have": dropping.add_piece(folder, whole, begins, file.chunks()), "place": str(folder)}


@router.get("/cards/{card_id}", response=CardOut)
def read_one_card(request: HttpRequest, card_id: int, units: Units = "metric") -> Any:
    """A card: its recordings and whose they are. The supervisor and the crew."""
    access.of_card(request, card_id, access.LOGS)
    return card_answer(_card(card_id), units)


@router.post("/cards/{card_id}/filings", response={200: Written, 409: Problems, 422: Problems})
@writes
def file_recordings(request: HttpRequest, card_id: int, payload: FilingsIn) -> Any:
    """File recordings to their takes, or to none. The supervisor and the crew."""
    access.of_card(request, card_id, access.LOGS)
    card = _card(card_id)
    wanted = {one.recording_id: one.take_id for one in payload.filings}
    with in_production(person(request), card.production_id) as write:
        card.refresh_from_db()
        rows = keeping.file_recordings(write, card, payload.version, wanted)
        count = len(rows)
        write.title = f"{count} recording{'' if count == 1 else 's'} of {card.name} filed"
    keeping.filed(card.production_id, write.person.pk)
    assert write.kept
    return {"write": write.kept.pk, "id": card_id, "version": card.version}


@router.post("/cards/{card_id}/copies", response={202: JobOut, 409: Problems, 422: Problems, 429: Problems})
@writes
def copy_a_card(request: HttpRequest, card_id: int, payload: Seen) -> Any:
    """Copy a card into the footage of the production, as a job. The supervisor and the crew."""
    access.of_card(request, card_id, access.LOGS)
    card = _card(card_id)
    folders.checked(card.place)
    rows = rows_to_copy(card)
    if not rows:
        raise InputError.at("place", "There is nothing to copy: read the card first.")
    copying.refuse_without_room(card, rows)
    with in_production(person(request), card.production_id) as write:
        write.refuse_unseen(keeping.CARD, card, payload.version)
        job = ask_for(write, copy_card, f"Copying {card.name}", OfACard(card=card.pk))
    return Status(202, JobOut.of(job))


@router.get("/shots/{shot_id}/recordings", response=list[FromFileOut])
def read_from_files(request: HttpRequest, shot_id: int, units: Units = "metric") -> Any:
    """What files say of the takes of a shot. Anybody in the production."""
    access.of_shot(request, shot_id)
    return from_files(shot_id, units)


@router.get("/recordings/{recording_id}.jpg", include_in_schema=False)
def recording_picture(request: HttpRequest, recording_id: int) -> HttpResponseBase:
    """A small picture of a recording. Anybody in the production."""
    row = _recording(request, recording_id)
    if row.picture is None:
        raise HttpError(404, "There is no such thing here, or it is not yours to see.")
    return answer(request, row.picture, f"{row.name}.jpg")


@router.get("/recordings/{recording_id}/frame.jpg", response={422: Problems})
def recording_frame(request: HttpRequest, recording_id: int, second: Second = 0.0) -> HttpResponse:
    """The frame of a recording that is seen at a second of it, a JPEG. Anybody in the production."""
    row = _recording(request, recording_id)
    made = FILES.run(asker(request), frame_jpeg, str(copying.lies_at(row)), second)
    return HttpResponse(made, content_type="image/jpeg", headers={"Cache-Control": "no-store"})


def _recording(request: HttpRequest, recording_id: int) -> Recording:
    rows = Recording.objects.select_related("picture", "card__production")
    row = rows.filter(pk=recording_id).first()
    if row is None:
        raise HttpError(404, "There is no such thing here, or it is not yours to see.")
    access.role_in(request, row.card.production_id)
    return row


def _card(card_id: int) -> Card:
    return Card.objects.select_related("production", "read_by").get(pk=card_id)
