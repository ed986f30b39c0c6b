"""One's own kit measured: begun, filmed, taken into the kit."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import ExitStack, contextmanager
from pathlib import Path
from tempfile import NamedTemporaryFile
from typing import Any

from django.http import HttpRequest
from ninja import File, Form, Router, Status, UploadedFile

from jungoptic.app.base.desk import FILES
from jungoptic.app.base.once import writes
from jungoptic.app.base.schemas import Problems, Seen, Written
from jungoptic.app.jobs.asking import ask_for
from jungoptic.app.jobs.schemas import JobOut
from jungoptic.app.measuring import keeping, reading
from jungoptic.app.measuring.answers import measurement_answer, measuring_answer
from jungoptic.app.measuring.effects import effects
from jungoptic.app.measuring.instruments import instrument_of
from jungoptic.app.measuring.models import Measurement
from jungoptic.app.measuring.schemas import (
    AskedIn,
    DiscardIn,
    EffectsOut,
    MeasureIn,
    MeasurementOut,
    MeasuringOut,
    PictureChange,
)
from jungoptic.app.measuring.simulated import OfAMeasurement, simulated_measuring
from jungoptic.app.people.signed_in import person
from jungoptic.app.people.waiting import asker
from jungoptic.app.productions import access
from jungoptic.app.productions.models import Production
from jungoptic.app.productions.writing import in_production
from jungoptic.core.errors import InputError
from jungoptic.core.vocabulary import School, Units

router = Router()
EMPTY: list[UploadedFile] = []
UNSEEN = 0  # no row has this version: who may write is answered before what was seen
_MOST_FILES = 2


@router.get("/productions/{production_id}/measuring", response=MeasuringOut)
def read_measuring(request: HttpRequest, production_id: int) -> Any:
    """What of the kit can be measured, and what was. Anybody in the production."""
    access.role_in(request, production_id)
    return measuring_answer(Production.objects.get(pk=production_id))


@router.post(
    "/productions/{production_id}/measurements", response={201: Written, 409: Problems, 422: Problems}
)
@writes
def begin_measurement(request: HttpRequest, production_id: int, payload: MeasureIn) -> Any:
    """Begin a measurement. The supervisor and the crew."""
    access.role_in(request, production_id, access.LOGS)
    with in_production(person(request), production_id, payload.version) as write:
        subjects = {"mode_id": payload.mode_id, "lens_id": payload.lens_id, "lamp_id": payload.lamp_id}
        row = keeping.begin(write, payload.kind, subjects, payload.asked)
    assert write.kept
    return Status(201, {"write": write.kept.pk, "id": row.pk, "version": row.version})


@router.get("/measurements/{measurement_id}", response=MeasurementOut)
def read_measurement(request: HttpRequest, measurement_id: int) -> Any:
    """A measurement, its pictures, and what comes of it. Anybody in the production."""
    access.of_measurement(request, measurement_id)
    return measurement_answer(_row(measurement_id))


@router.get("/measurements/{measurement_id}/effects", response=EffectsOut)
def read_effects(
    request: HttpRequest, measurement_id: int, school: School = "measured", units: Units = "metric"
) -> Any:
    """What it changes in the production. Anybody in the production."""
    access.of_measurement(request, measurement_id)
    return effects(_row(measurement_id), school, units)


@router.patch("/measurements/{measurement_id}", response={200: Written, 409: Problems, 422: Problems})
@writes
def say_of_measurement(request: HttpRequest, measurement_id: int, payload: AskedIn) -> Any:
    """Say something else of what is asked for it. The supervisor and the crew."""
    access.of_measurement(request, measurement_id, access.LOGS)
    row = _row(measurement_id)
    with in_production(person(request), row.production_id) as write:
        row.refresh_from_db()
        keeping.say(write, row, payload.version, payload.asked)
    return _written(write, row)


@router.post("/measurements/{measurement_id}/pictures", response={200: Written, 409: Problems, 422: Problems})
@writes
def add_picture(
    request: HttpRequest,
    measurement_id: int,
    version: Form[int] = UNSEEN,
    stops: Form[float | None] = None,
    files: File[list[UploadedFile]] = EMPTY,
) -> Any:
    """A picture for it: a still, a short clip, or the two stills of a pair. Only what it tells is kept. The
    supervisor and the crew.
    """
    access.of_measurement(request, measurement_id, access.LOGS)
    row = _row(measurement_id)
    if not 0 < len(files) <= _MOST_FILES:
        raise InputError.at("file", "Choose a picture, a short clip, or the two pictures of a pair.")
    if sum(file.size or 0 for file in files) > reading.MOST_BYTES:
        raise InputError.at(
            "file", f"It has more than {reading.MOST_BYTES / 1e6:.0f} MB: two seconds of film are enough."
        )
    if stops is not None and not abs(stops) <= 20:
        raise InputError.at("stops", "Stops over the metered exposure lie between −20 and 20.")
    names = [file.name or "picture" for file in files]
    with ExitStack() as kept:
        paths = [kept.enter_context(_beside(file)) for file in files]
        told = FILES.run(
            asker(request),
            reading.told_by,
            row.kind,
            paths,
            names,
            instrument_of(row),
        )
    with in_production(person(request), row.production_id) as write:
        row.refresh_from_db()
        keeping.add_picture(write, row, version, names[0], told, stops)
    return _written(write, row)


@contextmanager
def _beside(file: UploadedFile) -> Iterator[str]:
    """The file where the process that reads it finds it."""
    with NamedTemporaryFile(suffix=Path(file.name or "").suffix[:8]) as kept:
        for piece in file.chunks():
            kept.write(piece)
        kept.flush()
        yield kept.name


@router.patch(
    "/measurements/{measurement_id}/pictures/{measured_picture_id}",
    response={200: Written, 409: Problems, 422: Problems},
)
@writes
def change_picture(
    request: HttpRequest, measurement_id: int, measured_picture_id: int, payload: PictureChange
) -> Any:
    """Drop a picture, or say by how many stops it is over. The supervisor and the crew."""
    access.of_measurement(request, measurement_id, access.LOGS)
    row = _row(measurement_id)
    values = {"removed": payload.dropped} | ({} if payload.stops is None else {"stops": payload.stops})
    with in_production(person(request), row.production_id) as write:
        row.refresh_from_db()
        keeping.change_picture(write, row, payload.version, measured_picture_id, values)
    return _written(write, row)


@router.post(
    "/measurements/{measurement_id}/simulated",
    response={202: JobOut, 409: Problems, 422: Problems, 429: Problems},
)
@writes
def film_with_the_simulated_camera(request: HttpRequest, measurement_id: int, payload: Seen) -> Any:
    """Have the simulated camera take the pictures, as a job. The supervisor and the crew."""
    access.of_measurement(request, measurement_id, access.LOGS)
    row = _row(measurement_id)
    with in_production(person(request), row.production_id) as write:
        row.refresh_from_db()
        write.refuse_unseen(keeping.MEASUREMENT, row, payload.version)
        keeping.refuse_kept(row)
        job = ask_for(
            write, simulated_measuring, f"Filming: {row.name}"[:100], OfAMeasurement(measurement=row.pk)
        )
    return Status(202, JobOut.of(job))


@router.post("/measurements/{measurement_id}/accept", response={200: Written, 409: Problems, 422: Problems})
@writes
def accept_measurement(request: HttpRequest, measurement_id: int, payload: Seen) -> Any:
    """Take what came of it into the kit. The supervisor."""
    access.of_measurement(request, measurement_id, access.WRITES)
    row = _row(measurement_id)
    with in_production(person(request), row.production_id) as write:
        row.refresh_from_db()
        write.title = f"{row.name}: into the kit"
        keeping.accept(write, row, payload.version)
    return _written(write, row)


@router.post("/measurements/{measurement_id}/discard", response={200: Written, 409: Problems})
@writes
def discard_measurement(request: HttpRequest, measurement_id: int, payload: DiscardIn) -> Any:
    """Discard it, or bring it back; what of it is in the kit stays there. The supervisor and the crew."""
    access.of_measurement(request, measurement_id, access.LOGS)
    row = _row(measurement_id)
    with in_production(person(request), row.production_id) as write:
        row.refresh_from_db()
        keeping.discard(write, row, payload.version, payload.discarded)
    return _written(write, row)


def _row(measurement_id: int) -> Measurement:
    return Measurement.objects.select_related("production", "mode__camera", "lens", "lamp", "begun_by").get(
        pk=measurement_id
    )


def _written(write: Any, row: Measurement) -> dict[str, int]:
    return {"write": write.kept.pk, "id": row.pk, "version": row.version}
