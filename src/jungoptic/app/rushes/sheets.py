"""Photographs of lit sheets, read as jobs by the set-up that they are of, and what they tell."""

from __future__ import annotations

import tempfile
from pathlib import Path
from typing import Any

from pydantic import BaseModel, Field

from jungoptic.app.base.answers import Json
from jungoptic.app.base.readers import Reader
from jungoptic.app.jobs.asking import ask_by_itself
from jungoptic.app.jobs.kinds import job_kind
from jungoptic.app.jobs.models import Job
from jungoptic.app.jobs.running import Running
from jungoptic.app.productions.access import LOGS
from jungoptic.app.productions.writing import in_production
from jungoptic.app.rushes.columns import amounts_of, planned_of, planned_table, tolerances_of
from jungoptic.app.rushes.jobs import READER, SILENT_S
from jungoptic.app.rushes.models import SheetRead
from jungoptic.app.shots.models import Layer
from jungoptic.app.stills.keeping import follows_keeping
from jungoptic.app.stills.models import Still
from jungoptic.app.takes.table import BenchTable
from jungoptic.core.errors import InputError
from jungoptic.core.rushes import AmountJudged, crossed_region, judged
from jungoptic.core.vocabulary import StillOf
from jungoptic.core.wording import amount_text

SHEET: StillOf = "sheet"
_LONGEST_S = 90.0
_NO_SHEET = (
    "The set-up of {layer} has no sheet. Place its sheet and its lamps on the Bench, and read the photograph"
    " again."
)
_JUDGES = ("evenness", "key")


class SheetAsked(BaseModel):
    """The photograph of a lit sheet, with what was marked on it in shares of it: the corners of the sheet
    from its top left clockwise, the middle of a grey ball and a place on its rim.
    """

    still: int
    corners: list[list[float]] = Field(default_factory=list)
    ball: list[list[float]] = Field(default_factory=list)


@job_kind("read_sheet", SheetAsked, longest_s=_LONGEST_S, asks=LOGS)
def read_sheet(running: Running, asked: SheetAsked) -> None:
    """Read the photograph of a lit sheet."""
    rows = Still.objects.filter(layer__shot__production=running.job.production_id)
    still = rows.select_related("layer__shot", "file").get(pk=asked.still)
    running.advance(0.0, still.name)
    told = what_it_tells(running, still, asked)
    with in_production(running.job.asked_by, running.job.production_id) as write:
        write.title, write.stays = running.job.title, True
        read = keep_read(still, asked, told)
        running.finish(said={"still": still.pk}, message=read.fault or told["told"]["says"])


def keep_read(still: Still, asked: SheetAsked, told: dict[str, Any]) -> SheetRead:
    """Keep what a photograph tells in the place of what it told before. Raises InputError where it tells
    nothing by what was marked: what was read before stands.
    """
    fault = told.get("fault", "")
    if fault and (asked.corners or asked.ball):
        raise InputError.at("file", fault)
    values = {"corners": asked.corners, "ball": asked.ball, "told": told.get("told"), "fault": fault}
    return SheetRead.objects.update_or_create(still=still, defaults=values)[0]


def what_it_tells(running: Running, still: Still, asked: SheetAsked) -> dict[str, Any]:
    """What a reader says of a photograph, or its ``fault``."""
    table = planned_table(still.layer.shot_id)
    layer = _in(table, still.layer_id)
    setup = table.set_up_record(layer) if layer and layer.set_up_id else None
    if layer is None or setup is None or setup.backing is None:
        return {"fault": _NO_SHEET.format(layer=still.layer.name)}
    with Reader(READER, SILENT_S) as reader, tempfile.TemporaryDirectory() as scratch:
        path = Path(scratch) / "sheet.jpg"
        path.write_bytes(still.file.read())
        what = {
            "do": SHEET,
            "path": str(path),
            "setup": setup.model_dump(mode="json"),
            "crossed": crossed_region(table.stack, table.layers.index(layer)),
            "layer": table.layer_record(layer).model_dump(mode="json"),
            **asked.model_dump(include={"corners", "ball"}),
        }
        return reader.ask(what, lambda _: running.advance(running.job.progress / 100))


def _in(table: BenchTable, layer_id: int) -> Layer | None:
    return next((each for each in table.layers if each.pk == layer_id), None)


@follows_keeping
def read_what_was_photographed(still: Still, person_id: Any) -> None:
    """Nobody has to ask for the photograph of a sheet to be read."""
    if still.of == SHEET and not still.removed and not SheetRead.objects.filter(still=still).exists():
        ask_by_itself(
            still.layer.shot.production_id, person_id, read_sheet, title_of(still), SheetAsked(still=still.pk)
        )


def title_of(still: Still) -> str:
    """What reading a photograph is called."""
    return f"Reading {still.name}"


def sheet_answer(layer: Layer) -> Json:
    """The newest photograph of a layer's lit sheet with what it tells; nothing of both where there is
    none. ``has_sheet`` says whether its set-up has a sheet at all.
    """
    table = planned_table(layer.shot_id)
    own = _in(table, layer.pk)
    setup = table.set_up_record(own) if own and own.set_up_id else None
    still = Still.objects.filter(layer=layer, of=SHEET, removed=False).select_related("person").first()
    answer: Json = {
        "layer_id": layer.pk,
        "has_sheet": bool(setup and setup.backing),
        "still_id": None,
        "reads": False,
        "fault": "",
        "says": "",
        "lines": [],
        "lamps": [],
        "keys": "",
        "light": "",
        "corners": [],
        "found": False,
        "ball": [],
        "overlays": [],
        "assumptions": [],
        "width_px": 0,
        "height_px": 0,
        "by": "",
        "at": None,
    }
    if still is None:
        return answer
    read = SheetRead.objects.filter(still=still).first()
    answer |= {
        "still_id": still.pk,
        "reads": _waits(layer, still),
        "width_px": still.width_px,
        "height_px": still.height_px,
        "by": still.person.shown_name,
        "at": still.photographed_at,
    }
    if read is None:
        return answer
    answer |= {"fault": read.fault, "ball": read.ball, "corners": read.corners}
    if (told := read.told) is None:
        return answer
    planned = planned_of(table, own) if own and table.hero is not None else {}
    ball = told["ball"]
    return answer | {
        "says": told["says"],
        "lines": [
            {
                "amount": each.amount,
                "label": each.label,
                "unit": each.unit,
                "planned_text": amount_text(planned[each.item].amount) if each.item in planned else "",
                "measured_text": amount_text(each.size),
                "error_text": "" if each.off is None else amount_text(each.off),
                "verdict": each.verdict,
            }
            for each in _judged(told, layer.shot.production_id)
        ],
        "lamps": told["lamps"],
        "keys": told["keys"],
        "light": ball["says"] if ball else "",
        "corners": read.corners or told["corners"],
        "found": not read.corners and bool(told["corners"]),
        "overlays": told["overlays"] + (ball["overlays"] if ball else []),
        "assumptions": told["assumptions"],
    }


def _waits(layer: Layer, still: Still) -> bool:
    """Whether it is being read, or will be."""
    going = (Job.State.WAITING, Job.State.WORKING)
    jobs = Job.objects.filter(
        kind=read_sheet.name, production=layer.shot.production_id, state__in=going, arguments__still=still.pk
    )
    return jobs.exists()


def _judged(told: Json, production_id: int) -> list[AmountJudged]:
    tolerances = tolerances_of(production_id)
    amounts = amounts_of(told["amounts"])
    ball = amounts_of(told["ball"]["amounts"]) if told["ball"] else ()
    lines = [line for what in _JUDGES for line in judged(what, amounts, tolerances)]
    return lines + list(judged("ball", ball, tolerances))
