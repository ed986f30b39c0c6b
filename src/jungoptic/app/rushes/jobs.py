"""Recordings looked at and measured, as jobs: beside, where a file may break its reader."""

from __future__ import annotations

import tempfile
from collections.abc import Callable, Sequence
from pathlib import Path
from typing import Any

from django.db import transaction
from pydantic import BaseModel, Field

from jungoptic.app.base.readers import GoneError, Reader
from jungoptic.app.files.models import StoredFile
from jungoptic.app.footage.copying import lies_at
from jungoptic.app.footage.keeping import follows_filing
from jungoptic.app.footage.models import Recording
from jungoptic.app.jobs.asking import ask_by_itself
from jungoptic.app.jobs.kinds import Kind, job_kind
from jungoptic.app.jobs.models import Job
from jungoptic.app.jobs.running import Running
from jungoptic.app.productions.access import LOGS
from jungoptic.app.productions.writing import in_production
from jungoptic.app.rushes.columns import planned_table
from jungoptic.app.rushes.keeping import HELD, counted, delivered_px, region_marked, to_compare, waiting
from jungoptic.app.rushes.models import FrameMeasure, Rush
from jungoptic.app.rushes.of_picture import CROSSED
from jungoptic.app.rushes.rows import BY_ITSELF, MARKED_BY, OF_PICTURES
from jungoptic.core.errors import InputError
from jungoptic.core.rushes import crossed_region

READER = "jungoptic.app.rushes.reading"
SILENT_S = 60.0
"""How long a reader may say nothing before it is given up."""
_HOURS_S, _MINUTES_S = 6 * 3600.0, 180.0
_FILM, _JPEG = frozenset({"video/mp4"}), frozenset({"image/jpeg"})
_GONE = "The footage is not there any more. Put the card in again, or copy it first, and try again."


class Everything(BaseModel):
    """All that waits; or one again, as it is read after somebody said its curve."""

    again: int | None = None


class Measuring(BaseModel):
    """A row of a recording, with what was marked for it: ``region`` left, top, width and height, ``places``
    points, all in shares of the frame.
    """

    recording: int
    what: str
    against_id: int | None = None
    frame: int | None = None
    region: list[float] = Field(default_factory=list)
    places: list[list[float]] = Field(default_factory=list)
    kind: str = ""


@job_kind("look_at_rushes", Everything, queue="heavy", longest_s=_HOURS_S, asks=LOGS)
def look_at_rushes(running: Running, everything: Everything) -> None:
    """Make proxies of what was filed and not looked at yet, and measure all their frames."""
    rows = (
        [Recording.objects.get(pk=everything.again, card__production=running.job.production_id)]
        if everything.again
        else list(waiting(running.job.production_id))
    )
    seen, compared, missed = look_through(running, rows)
    with in_production(running.job.asked_by, running.job.production_id) as write:
        write.title, write.stays = _looked(seen, compared), True
        message = " ".join([_looked(seen, compared), *missed])
        running.finish(said={"missed": missed}, message=message)


def look_through(
    running: Running, rows: Sequence[Recording], begins: float = 0.0, ends: float = 1.0
) -> tuple[int, int, list[str]]:
    """Look at recordings, and hold actions against their clean plates. Returns how many were looked at, how
    many were held, and what is wrong with those that could not be reached.
    """
    seen, compared = 0, 0
    missed: list[str] = []
    with Reader(READER, SILENT_S) as reader, tempfile.TemporaryDirectory() as scratch:
        for number, row in enumerate(rows):
            at = f"“{row.name}”, {number + 1} of {len(rows)}"

            def going(share: float, number: int = number, at: str = at) -> None:
                running.advance(begins + (ends - begins) * (number + share) / len(rows), at)

            going(0.0)
            try:
                told = _asked(reader, row, {"do": "look", "into": scratch}, going)
            except InputError as error:
                missed += [] if str(error) in missed else [str(error)]
                continue
            _keep(running, row, told, Path(scratch))
            seen += 1
        pairs = to_compare(running.job.production_id)
        for number, (action, clean) in enumerate(pairs):
            running.advance(ends, f"“{action.name}” against “{clean.name}”, {number + 1} of {len(pairs)}")
            compared += _compare(running, reader, action, clean)
    return seen, compared, missed


@follows_filing
def look_at_what_was_filed(production_id: int, person_id: Any) -> None:
    """Nobody has to ask for what was filed to be looked at."""
    count = waiting(production_id).count()
    asked = Job.objects.filter(
        kind=look_at_rushes.name, production=production_id, state=Job.State.WAITING
    ).exists()
    if count and not asked:
        ask_by_itself(production_id, person_id, look_at_rushes, title_of(count), Everything())


def look_again(production_id: int, person_id: Any, row: Recording) -> None:
    """Have all frames of a recording measured by the curve that somebody said now."""
    ask_by_itself(production_id, person_id, look_at_rushes, title_again(row), Everything(again=row.pk))


def title_of(count: int) -> str:
    """What looking at so many recordings is called."""
    return f"Looking at {count} recording{'' if count == 1 else 's'}"


def title_again(row: Recording) -> str:
    """What looking at one once more is called."""
    return f"Looking at {row.name} again"


def _looked(count: int, compared: int) -> str:
    told = f"{count} recording{'' if count == 1 else 's'} looked at"
    return f"{told}, {compared} held against clean plates." if compared else f"{told}."


def _compare(running: Running, reader: Reader, action: Recording, clean: Recording) -> int:
    """Hold an action against its clean plate; 1 where something came of it. What cannot be held against it
    (of another size, with nothing in it that stands still) is left: whoever measures it hears why.
    """
    kept = 0
    for what in BY_ITSELF:
        try:
            told = _asked(
                reader,
                action,
                {"do": "measure", "what": what, **_against(clean)},
                lambda _: running.advance(running.job.progress / 100),
            )
        except InputError:
            continue
        if "told" in told:
            FrameMeasure.objects.create(
                rush=action.rush,
                what=what,
                against=clean,
                told=told["told"],
                by_id=running.job.asked_by_id,
            )
            kept = 1
    rush = action.rush
    rush.says = {**rush.says, HELD: [*rush.says.get(HELD, ()), clean.pk]}
    rush.save(update_fields=["says"])
    return kept


def _asked(
    reader: Reader, row: Recording, what: dict[str, Any], going: Callable[[float], None]
) -> dict[str, Any]:
    """What the reader says of a recording. Raises InputError where it cannot be reached."""
    rush, production = Rush.objects.filter(recording=row).first(), row.card.production
    more = {
        "path": str(lies_at(row)),
        "curve": rush.curve if rush else {},
        "mains_hz": production.mains_hz,
        "delivery": delivered_px(row),
        **counted(rush),
        "counts": rush.counts if rush else [],
        "slate_s": _slate_s(row),
    }
    try:
        return reader.ask({**more, **what}, going)
    except GoneError:
        raise InputError.at("place", _GONE) from None


def _against(row: Recording, what: str = "") -> dict[str, Any]:
    """What a recording is held against, as it is asked. Raises InputError where it cannot be reached."""
    rush = Rush.objects.filter(recording=row).first()
    return {
        "against": str(lies_at(row)),
        **{f"against_{name}": frame for name, frame in counted(rush).items()},
        "against_region": region_marked(row, MARKED_BY.get(what, ())),
        "against_delivery": delivered_px(row),
    }


def _slate_s(row: Recording) -> float | None:
    """When the slate was read that was held up before a take; one after it is another's."""
    half = (row.says.get("length_s") or 0.0) / 2.0
    return next((each["second"] for each in row.says.get("codes", ()) if each["second"] <= half), None)


def _keep(running: Running, row: Recording, told: dict[str, Any], folder: Path) -> None:
    """Keep what a reader made of a recording: a fault too, so that it is not tried again and again."""
    proxy = _file(running, row, folder, told.get("proxy") or told.get("picture"))
    strip = _file(running, row, folder, told.get("strip"))
    with transaction.atomic():
        running.advance(running.job.progress / 100)  # nothing is kept of a job that was stopped
        values = {"says": told.get("says", {}), "proxy": proxy, "strip": strip, "clip": told.get("clip")}
        Rush.objects.update_or_create(recording=row, defaults={"fault": told.get("fault", ""), **values})


def _file(running: Running, row: Recording, folder: Path, name: str | None) -> StoredFile | None:
    if not name:
        return None
    path = folder / name
    kept = running.keep(f"{Path(row.name).stem}{path.suffix}", path.read_bytes(), _FILM | _JPEG)
    path.unlink()
    return kept


def _measure(running: Running, wanted: Measuring) -> None:
    """Measure one row of a recording, and end the job."""
    told = measured_row(running, wanted, running.advance)
    with in_production(running.job.asked_by, running.job.production_id) as write:
        write.title, write.stays = running.job.title, True
        kept = keep_row(running, wanted, told)
        running.finish(said={"measure": kept.pk}, message=told["says"])


def measured_row(running: Running, wanted: Measuring, going: Callable[[float, str], None]) -> dict[str, Any]:
    """What one row of a recording comes to. Raises InputError."""
    rows = Recording.objects.select_related("card__production", "take__layer__shot", "rush")
    row = rows.get(pk=wanted.recording, card__production=running.job.production_id)
    other = (
        rows.get(pk=wanted.against_id, card__production=running.job.production_id)
        if wanted.against_id
        else None
    )
    asked = wanted.model_dump(exclude={"recording", "against_id"}) | {
        "shutter_angle_deg": row.take.shutter_angle_deg if row.take else None,
        **(_against(other, wanted.what) if other else {}),
    }
    crossed = crossed_of(row) if wanted.what == "evenness" and not wanted.region else None
    if crossed:
        asked |= {"region": crossed, "kind": CROSSED}
    with Reader(READER, _MINUTES_S) as reader:
        going(0.0, f"“{row.name}”")
        told = _asked(reader, row, {"do": "measure", **asked}, lambda share: going(share, f"“{row.name}”"))
    if fault := told.get("fault"):
        raise InputError.at("file", str(fault))
    found: dict[str, Any] = told["told"]
    return found | {"crossed": crossed} if crossed else found


def crossed_of(row: Recording) -> list[float] | None:
    """Where in its frame what a recording shows is seen against its sheet, as it was filmed."""
    take = row.take
    if take is None:
        return None
    table = planned_table(take.layer.shot_id)
    place = next((nth for nth, each in enumerate(table.layers) if each.pk == take.layer_id), None)
    if place is None or table.hero is None:
        return None
    region = crossed_region(table.stack_with(table.layers[place], take), place)
    return list(region) if region else None


def keep_row(running: Running, wanted: Measuring, told: dict[str, Any]) -> FrameMeasure:
    """Keep what a row came to, beside what was measured before."""
    return FrameMeasure.objects.create(
        rush=Rush.objects.get(recording=wanted.recording),
        what=wanted.what,
        against_id=wanted.against_id,
        asked=wanted.model_dump(exclude={"recording", "what", "against_id"}),
        told=told,
        by_id=running.job.asked_by_id,
    )


@job_kind("measure_picture", Measuring, longest_s=_MINUTES_S, asks=LOGS)
def measure_picture(running: Running, wanted: Measuring) -> None:
    """Measure what one picture tells, or two."""
    _measure(running, wanted)


@job_kind("measure_clip", Measuring, queue="heavy", longest_s=_HOURS_S, asks=LOGS)
def measure_clip(running: Running, wanted: Measuring) -> None:
    """Measure what every frame of a clip tells."""
    _measure(running, wanted)


def kind_for(what: str) -> Kind:
    """The kind of job that measures a row."""
    return measure_picture if what in OF_PICTURES else measure_clip
