"""Line-up: what is drawn over a live picture, the simulated camera, and a live picture measured."""

from __future__ import annotations

from base64 import b64encode
from typing import Any

from django.http import HttpRequest, HttpResponse
from ninja import File, Form, Query, Router, UploadedFile

from jungoptic.app.base.answers import Json, fields_of
from jungoptic.app.base.desk import LIVE
from jungoptic.app.base.schemas import Problems
from jungoptic.app.files.live import live_picture
from jungoptic.app.line_up import beside
from jungoptic.app.line_up.schemas import LinedUpOut, LineUpOut, LiveOut, LiveQuery
from jungoptic.app.line_up.standing import MASK_MM, held_picture, layer_of, standing_of, table_of
from jungoptic.app.people.waiting import asker
from jungoptic.app.productions import access
from jungoptic.core.errors import InputError
from jungoptic.core.match import OFF_DIALS
from jungoptic.core.plan import (
    LineUp,
    gate_in_frame,
    ground_in_frame,
    horizon_in_frame,
    moved_in_composite,
    planned_place,
)
from jungoptic.core.stage import LIVE_FAULTS, USUAL_FAULTS
from jungoptic.core.vocabulary import School, Units

router = Router()


@router.get("/layers/{layer_id}/line-up", response={200: LineUpOut, 422: Problems})
def read_line_up(
    request: HttpRequest, layer_id: int, school: School = "measured", units: Units = "metric"
) -> Any:
    """A layer's camera as planned, and what is drawn over its live picture. Anybody in the production."""
    role, shot_id, versions = access.layer_seen(request, layer_id)
    table = table_of(shot_id, versions, school, units)
    layer = layer_of(table, layer_id)
    standing = standing_of(shot_id, layer_id, versions)[0]
    match = beside.match_of(standing)
    words, scale = table.words, standing.layer.scale
    return {
        "shot_id": shot_id,
        "production_id": table.shot.production_id,
        "code": table.shot.code,
        "layer": layer.name,
        "role": role,
        "gate": gate_in_frame(match),
        "moved_px": moved_in_composite(match),
        "horizon": horizon_in_frame(match),
        "ground": [
            {
                "axis": line.axis,
                "text": words.length(abs(line.metres)),
                "in_set": words.length(abs(line.metres) / scale),
                "points": line.points,
            }
            for line in ground_in_frame(match)
        ],
        "planned": [{"label": label, "text": text} for label, text in planned_place(match, words)],
        "tilt_deg": standing.setup.tilt_deg,
        "roll_deg": standing.setup.roll_deg,
        "heading_deg": standing.setup.heading_deg,
        "scale": scale,
        "distance_m": standing.setup.distance_m,
        "zooms": standing.zooms,
        "mask_mm": MASK_MM,
        "faults": [
            {"key": key, "name": name, "usual": key in USUAL_FAULTS} for key, name in LIVE_FAULTS.items()
        ],
    }


@router.get("/layers/{layer_id}/live", response={200: LiveOut, 422: Problems})
def film(request: HttpRequest, response: HttpResponse, layer_id: int, query: Query[LiveQuery]) -> Any:
    """One live picture of the simulated camera before a layer, measured where it is held against one.
    Anybody in the production.
    """
    response["Cache-Control"] = "no-store"
    _, shot_id, versions = access.layer_seen(request, layer_id)
    standing, custom = standing_of(shot_id, layer_id, versions)
    faults = tuple(fault for fault in LIVE_FAULTS if fault in query.faults.split(","))
    unknown = set(filter(None, query.faults.split(","))) - set(LIVE_FAULTS)
    if unknown:
        raise InputError.at("faults", f"There is no such fault: {', '.join(sorted(unknown))}.")
    off: dict[str, float] = {dial: getattr(query, dial) for dial in OFF_DIALS}
    held = held_picture(shot_id, query.against, versions) if query.against is not None else None
    asked = beside.Asked(query.units, query.school, custom)
    made, told = LIVE.run(
        asker(request), beside.filmed, standing, off, query.number, query.width, faults, held, asked
    )
    return {
        "picture": b64encode(made).decode(),
        "measured": None if told is None else _told(told),
    }


@router.post("/layers/{layer_id}/line-up", response={200: LinedUpOut, 422: Problems})
def measure_live(
    request: HttpRequest,
    layer_id: int,
    against: Form[int] = 0,
    units: Form[Units] = "metric",
    school: Form[School] = "measured",
    file: File[UploadedFile | None] = None,
) -> Any:
    """A live picture of the whole gate against one that is held: which dial is off, and by how much. Nothing
    is kept. Anybody in the production.
    """
    _, shot_id, versions = access.layer_seen(request, layer_id)
    data = live_picture(file)
    standing, custom = standing_of(shot_id, layer_id, versions)
    held = held_picture(shot_id, against, versions)
    asked = beside.Asked(units, school, custom)
    return _told(LIVE.run(asker(request), beside.measured, standing, data, held, asked))


def _told(told: LineUp | str) -> Json:
    if isinstance(told, str):
        return {"nothing": told}
    found = told.measured
    return {
        **{name: getattr(found, name) for name in ("shift_px", "within_px", "turn_deg", "size_pct")},
        **{name: getattr(found, name) for name in ("off_px", "rest_px", "points", "followed")},
        "verdict": told.verdict,
        "place": told.place,
        "holds_px": told.holds_px,
        "turns": [fields_of(turn) for turn in told.turns],
    }
