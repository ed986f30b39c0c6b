"""A set that is built up again: the live picture against the frame by which the set was left."""

from __future__ import annotations

from typing import Any, Literal

from django.http import HttpRequest
from ninja import File, Router, Schema, UploadedFile

from jungoptic.app.base.desk import LIVE
from jungoptic.app.base.schemas import Problems
from jungoptic.app.files.live import live_picture
from jungoptic.app.frames import beside, desks
from jungoptic.app.frames.points import hyperlapse_of
from jungoptic.app.frames.rows import exposure_of
from jungoptic.app.frames.watching import stands_for
from jungoptic.app.people.waiting import asker
from jungoptic.app.productions import access
from jungoptic.core.errors import InputError
from jungoptic.core.vocabulary import Verdict

router = Router()


class BuiltLineOut(Schema):
    """What has to be as it was: how far it is off, and the way back, in words; empty where it holds."""

    what: Literal["camera", "light", "side", "focus", "piece", "lost"]
    name: str
    off: str
    verdict: Verdict
    way: str
    box: list[float] | None


class BuiltUpOut(Schema):
    """A set against the frame by which it was left, in the order in which it is mended."""

    holds: bool
    lines: list[BuiltLineOut]


@router.post("/exposures/{exposure_id}/built-up", response={200: BuiltUpOut, 422: Problems})
def measure_built_up(
    request: HttpRequest, exposure_id: int, file: File[UploadedFile | None] = None
) -> dict[str, Any]:
    """A live picture against an exposure: what is off, and which way it goes back. Nothing is kept. Anybody
    in the production.
    """
    row = exposure_of(request, exposure_id)
    data = live_picture(file)
    sheet = row.pose.sheet
    if hyperlapse_of(sheet) is not None:
        raise InputError.at("", "A hyperlapse goes on from where it is: there is nothing to build up again.")
    _, shot_id, versions = access.layer_seen(request, sheet.layer_id)
    desk = desks.desk_of(shot_id, sheet.layer_id, versions)
    to = stands_for(desk, sheet.pk)
    mm_px = desks.gate_of(desk, sheet.layer.shot.production).mm_px
    left = beside.Held.of(row.file.read())
    return LIVE.run(asker(request), beside.built, data, left, to, mm_px)
