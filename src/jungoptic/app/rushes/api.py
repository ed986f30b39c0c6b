"""Rushes: recordings looked at, marked and measured."""

from __future__ import annotations

from typing import Any

from django.http import HttpRequest, HttpResponse, HttpResponseBase
from ninja import Router, Status
from ninja.errors import HttpError

from jungoptic.app.base.answers import written
from jungoptic.app.base.once import writes
from jungoptic.app.base.schemas import Problems, Written
from jungoptic.app.files.serving import answer
from jungoptic.app.footage.copying import plain_name
from jungoptic.app.footage.models import Recording
from jungoptic.app.jobs.asking import ask_for
from jungoptic.app.jobs.schemas import JobOut
from jungoptic.app.people.signed_in import person
from jungoptic.app.productions import access
from jungoptic.app.productions.writing import in_production
from jungoptic.app.rushes import keeping
from jungoptic.app.rushes.answers import rush_answer, rushes_answer
from jungoptic.app.rushes.columns import latest_of, told_of
from jungoptic.app.rushes.deciding import DECIDED, NO_WAYS, decide, ways_answer
from jungoptic.app.rushes.jobs import (
    Everything,
    Measuring,
    kind_for,
    look_again,
    look_at_rushes,
    title_again,
    title_of,
)
from jungoptic.app.rushes.models import Rush
from jungoptic.app.rushes.rows import AGAINST, TITLES
from jungoptic.app.rushes.schemas import (
    CountsIn,
    CurveIn,
    DecisionIn,
    FrameMarkIn,
    MeasureFramesIn,
    ReferenceIn,
    RushesIn,
    RushesOut,
    RushOut,
    WaysOut,
)
from jungoptic.app.rushes.sheet_schemas import LitSheetIn, LitSheetOut
from jungoptic.app.rushes.sheets import SHEET, SheetAsked, read_sheet, sheet_answer
from jungoptic.app.rushes.sheets import title_of as title_of_sheet
from jungoptic.app.rushes.values_out import mends_zip
from jungoptic.app.shots.models import Layer, SetUp, Shot
from jungoptic.app.shots.writing import in_shot
from jungoptic.app.stills.models import Still
from jungoptic.app.takes.log import measure_reference
from jungoptic.core.errors import InputError
from jungoptic.core.rushes import MEASURED
from jungoptic.core.vocabulary import School, Units

router = Router()
_NOT_THERE = "There is no such thing here, or it is not yours to see."
_NOTHING = "Everything that is filed was looked at. File recordings to their takes first."


@router.get("/shots/{shot_id}/rushes", response=RushesOut)
def read_rushes(request: HttpRequest, shot_id: int) -> Any:
    """The recordings of a shot by layer and take. Anybody in the production."""
    role = access.of_shot(request, shot_id)
    return rushes_answer(Shot.objects.select_related("production").get(pk=shot_id), role.value)


@router.post(
    "/productions/{production_id}/rushes",
    response={202: JobOut, 409: Problems, 422: Problems, 429: Problems},
)
@writes
def look_at_what_waits(request: HttpRequest, production_id: int, payload: RushesIn) -> Any:
    """Make proxies of what was filed, and measure all frames, as a job. The supervisor and the crew."""
    access.role_in(request, production_id, access.LOGS)
    again = payload.recording_id
    if again is not None:
        row = Recording.objects.filter(pk=again, card__production=production_id, take__isnull=False).first()
        if row is None:
            raise InputError.at("recording_id", "The production has no such recording that is filed.")
        title = title_again(row)
    elif count := keeping.waiting(production_id).count():
        title = title_of(count)
    else:
        raise InputError.at("rushes", _NOTHING)
    with in_production(person(request), production_id, payload.version) as write:
        job = ask_for(write, look_at_rushes, title, Everything(again=again))
    return Status(202, JobOut.of(job))


@router.get("/shots/{shot_id}/mends.zip", include_in_schema=False)
def mend_values_out(request: HttpRequest, shot_id: int) -> HttpResponse:
    """What brings every layer of a shot to what it was held against: CDL, CSV, OTIO. Anybody in the
    production.
    """
    access.of_shot(request, shot_id)
    shot = Shot.objects.select_related("production").get(pk=shot_id)
    name = f'attachment; filename="{plain_name(shot.code)}-mends.zip"'
    return HttpResponse(
        mends_zip(shot), content_type="application/zip", headers={"Content-Disposition": name}
    )


@router.get("/recordings/{recording_id}/rush", response=RushOut)
def read_rush(
    request: HttpRequest, recording_id: int, units: Units = "metric", school: School = "measured"
) -> Any:
    """A recording as it is looked at, with what was measured of it. Anybody in the production."""
    return rush_answer(_rush(request, recording_id), units, school)


@router.post("/recordings/{recording_id}/reference", response={200: Written, 409: Problems, 422: Problems})
@writes
def take_as_reference(request: HttpRequest, recording_id: int, payload: ReferenceIn) -> Any:
    """Have what the frames of a hero's circled take tell stand for what was logged of it, or the log again.
    The supervisor.
    """
    rush = _rush(request, recording_id, access.WRITES)
    take = rush.recording.take
    if take is None or not take.layer.is_hero or not take.circled:
        raise InputError.at("what", "Only a circled take of the hero is what others are held against.")
    names = MEASURED[payload.what]
    measured = {name: value for name, value in take.measured.items() if name not in names}
    if payload.counts:
        row = latest_of(rush).get(payload.what)
        told = {each["name"]: each["value"] for each in row.told["amounts"]} if row else {}
        read = {name: told[name] for name in names if name in told}
        if not read:
            raise InputError.at("what", f"{TITLES[payload.what]} was not measured of it yet.")
        measured |= read
    with in_shot(person(request), take.layer.shot_id) as write:
        write.title = f"{take.name}: {'measured' if payload.counts else 'logged'} as the reference"
        measure_reference(write, take.pk, payload.version, measured)
    return written(write, take.pk, payload.version + 1)


@router.post("/recordings/{recording_id}/curve", response={200: Written, 409: Problems, 422: Problems})
@writes
def say_curve(request: HttpRequest, recording_id: int, payload: CurveIn) -> Any:
    """Say by which curve a recording was made. The supervisor and the crew."""
    rush = _rush(request, recording_id, access.LOGS)
    told = payload.model_dump(exclude={"version"}, exclude_defaults=True)
    with in_production(person(request), rush.recording.card.production_id) as write:
        rush.refresh_from_db()
        write.title = f"{rush.recording.name}: curve"
        keeping.say_curve(write, rush, payload.version, told)
    look_again(write.production_id, write.person.pk, rush.recording)
    return written(write, rush.pk, rush.version)


@router.post("/recordings/{recording_id}/frames", response={200: Written, 409: Problems, 422: Problems})
@writes
def say_counting_frames(request: HttpRequest, recording_id: int, payload: CountsIn) -> Any:
    """Say from which frame to which a recording counts; these are measured again. The supervisor and the
    crew.
    """
    rush = _rush(request, recording_id, access.LOGS)
    if (payload.first is None) != (payload.last is None):
        raise InputError.at("last", "Say the first and the last frame that count, or neither.")
    counts = [] if payload.first is None or payload.last is None else [payload.first, payload.last]
    with in_production(person(request), rush.recording.card.production_id) as write:
        rush.refresh_from_db()
        write.title = f"{rush.recording.name}: frames that count"
        keeping.say_counts(write, rush, payload.version, counts)
    look_again(write.production_id, write.person.pk, rush.recording)
    return written(write, rush.pk, rush.version)


@router.get("/recordings/{recording_id}/ways", response=WaysOut)
def read_ways(request: HttpRequest, recording_id: int) -> Any:
    """How what does not hold is mended, what shooting again costs, and which is less. Anybody in the
    production.
    """
    rush = _rush(request, recording_id)
    return ways_answer(rush, told_of(rush)) if rush.recording.take else NO_WAYS


@router.post("/recordings/{recording_id}/decisions", response={200: Written, 409: Problems, 422: Problems})
@writes
def decide_on_frames(request: HttpRequest, recording_id: int, payload: DecisionIn) -> Any:
    """Decide what becomes of an amount that does not hold: it stays, is mended, or is shot again, which opens
    its job. The supervisor.
    """
    rush = _rush(request, recording_id, access.WRITES)
    take = rush.recording.take
    if take is None:
        raise InputError.at("what", "This recording is filed to no take.")
    with in_shot(person(request), take.layer.shot_id) as write:
        rush.refresh_from_db(fields=["version"])
        write.title = f"{take.name}: {DECIDED[payload.choice]}"
        said = payload.model_dump(exclude={"version"})
        decide(write, rush, payload.version, told_of(rush), said)
    return written(write, rush.pk, rush.version)


@router.post(
    "/recordings/{recording_id}/measures",
    response={202: JobOut, 409: Problems, 422: Problems, 429: Problems},
)
@writes
def measure_frames(request: HttpRequest, recording_id: int, payload: MeasureFramesIn) -> Any:
    """Measure a row of a recording, as a job. The supervisor and the crew."""
    rush = _rush(request, recording_id, access.LOGS)
    if rush.fault:
        raise InputError.at("what", rush.fault)
    production_id = rush.recording.card.production_id
    if len(payload.region) not in (0, 4):
        raise InputError.at("region", "A region has four numbers: left, top, width and height.")
    if payload.against_id is None and payload.what in AGAINST:
        raise InputError.at("against_id", AGAINST[payload.what])
    if payload.against_id is not None:
        others = Recording.objects.filter(pk=payload.against_id, card__production=production_id)
        if not others.exists() or payload.against_id == recording_id:
            raise InputError.at("against_id", "Choose another recording of this production.")
    with in_production(person(request), production_id) as write:
        wanted = Measuring(recording=recording_id, **payload.model_dump())
        title = f"{TITLES[payload.what]}: {rush.recording.name}"
        job = ask_for(write, kind_for(payload.what), title, wanted)
    return Status(202, JobOut.of(job))


@router.post("/set-ups/{set_up_id}/frame-marks", response={200: Written, 422: Problems})
@writes
def mark_frames(request: HttpRequest, set_up_id: int, payload: FrameMarkIn) -> Any:
    """Remember for a set-up what was marked on a picture of it. The supervisor and the crew."""
    set_up = SetUp.objects.filter(pk=set_up_id).first()
    if set_up is None:
        raise HttpError(404, _NOT_THERE)
    access.of_shot(request, set_up.shot_id, access.LOGS)
    with in_shot(person(request), set_up.shot_id) as write:
        write.title = f"{set_up.name}: {payload.kind} marked"
        keeping.mark(write, set_up, payload.kind, payload.places)
    return written(write, set_up.pk, set_up.version)


@router.get("/layers/{layer_id}/sheet", response=LitSheetOut)
def read_sheet_of_layer(request: HttpRequest, layer_id: int) -> Any:
    """What the newest photograph of a layer's lit sheet tells. Anybody in the production."""
    access.of_layer(request, layer_id)
    return sheet_answer(Layer.objects.select_related("shot__production").get(pk=layer_id))


@router.post("/stills/{still_id}/sheet", response={202: JobOut, 409: Problems, 422: Problems, 429: Problems})
@writes
def read_sheet_again(request: HttpRequest, still_id: int, payload: LitSheetIn) -> Any:
    """Read the photograph of a lit sheet with what is marked on it, as a job. The supervisor and the crew."""
    still = Still.objects.filter(pk=still_id, removed=False).select_related("layer__shot", "take").first()
    if still is None:
        raise HttpError(404, _NOT_THERE)
    production_id = still.layer.shot.production_id
    access.role_in(request, production_id, access.LOGS)
    if still.of != SHEET:
        raise InputError.at("still", "This photograph is not of a lit sheet: say so first.")
    if len(payload.corners) not in (0, 4):
        raise InputError.at("corners", "Mark the four corners of the sheet, from its top left clockwise.")
    if len(payload.ball) not in (0, 2):
        raise InputError.at("ball", "Mark the middle of the ball and a place on its rim.")
    if any(not -1.0 <= value <= 2.0 for place in payload.corners + payload.ball for value in place):
        raise InputError.at("corners", "A mark lies in the photograph, or next to it.")
    with in_production(person(request), production_id) as write:
        asked = SheetAsked(still=still_id, corners=payload.corners, ball=payload.ball)
        job = ask_for(write, read_sheet, title_of_sheet(still), asked)
    return Status(202, JobOut.of(job))


@router.get("/recordings/{recording_id}/proxy", include_in_schema=False)
def rush_proxy(request: HttpRequest, recording_id: int) -> HttpResponseBase:
    """The film that is looked at, or the picture of a still. Anybody in the production."""
    rush = _rush(request, recording_id)
    if rush.proxy is None:
        raise HttpError(404, _NOT_THERE)
    return answer(request, rush.proxy)


@router.get("/recordings/{recording_id}/strip", include_in_schema=False)
def rush_strip(request: HttpRequest, recording_id: int) -> HttpResponseBase:
    """Some frames side by side, a JPEG. Anybody in the production."""
    rush = _rush(request, recording_id)
    if rush.strip is None:
        raise HttpError(404, _NOT_THERE)
    return answer(request, rush.strip)


def _rush(request: HttpRequest, recording_id: int, allowed: Any = access.READS) -> Rush:
    rows = Rush.objects.select_related("recording__card", "recording__take__layer", "proxy", "strip")
    rush = rows.filter(recording=recording_id).first()
    if rush is None:
        raise HttpError(404, _NOT_THERE)
    access.role_in(request, rush.recording.card.production_id, allowed)
    return rush
