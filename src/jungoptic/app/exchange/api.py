"""Shots in from files and out to files."""

from __future__ import annotations

from typing import Any

from django.http import HttpRequest, HttpResponse
from ninja import Router
from ninja.errors import HttpError

from jungoptic.app.base.desk import FILES
from jungoptic.app.base.once import writes
from jungoptic.app.base.schemas import Problems
from jungoptic.app.breakdown.wall import whole_wall
from jungoptic.app.exchange.candidates import Read
from jungoptic.app.exchange.edit_list import write_otio
from jungoptic.app.exchange.reading import read_any
from jungoptic.app.exchange.schemas import FileIn, PreviewOut, TakeFileIn, TakenIn
from jungoptic.app.exchange.tables import write_csv
from jungoptic.app.exchange.take_in import preview, take_in
from jungoptic.app.people.signed_in import person
from jungoptic.app.people.waiting import asker
from jungoptic.app.productions import access
from jungoptic.app.productions.models import Production
from jungoptic.app.productions.writing import in_production

router = Router()


SHOWN_ROWS = 300
SHOWN_FAULTS = 100


def _read(request: HttpRequest, production: Production, file: FileIn) -> Read:
    return FILES.run(asker(request), read_any, file.name, file.text, file.kind, production.frame_rate_fps)


@router.post("/productions/{production_id}/preview", response={200: PreviewOut, 422: Problems})
def look_into_file(request: HttpRequest, production_id: int, payload: FileIn) -> Any:
    """What taking a file in would do; nothing is written. The supervisor."""
    access.role_in(request, production_id, access.WRITES)
    production = Production.objects.get(pk=production_id)
    seen = preview(production, _read(request, production, payload))
    counts = {state: sum(row.state == state for row in seen.rows) for state in ("new", "changed", "same")}
    rows = [
        {
            "line": row.candidate.line,
            "code": row.candidate.code or "",
            "title": row.candidate.title or "",
            "description": row.candidate.description or "",
            "length_frames": row.candidate.length_frames,
            "place": row.candidate.place or "",
            "state": row.state,
            "changes": list(row.changes),
        }
        for row in seen.rows[:SHOWN_ROWS]
    ]
    return {
        "kind": seen.read.kind,
        "rows": rows,
        "more": max(0, len(seen.rows) - SHOWN_ROWS),
        **counts,
        "notes": list(seen.read.notes),
        "faults": [
            {"line": one.line, "column": one.column, "message": one.message}
            for one in seen.faults[:SHOWN_FAULTS]
        ],
        "more_faults": max(0, len(seen.faults) - SHOWN_FAULTS),
    }


@router.post("/productions/{production_id}/take-in", response={200: TakenIn, 409: Problems, 422: Problems})
@writes
def take_file_in(request: HttpRequest, production_id: int, payload: TakeFileIn) -> Any:
    """Write all of a file's shots, or none of them; ``version`` is the production's. The supervisor."""
    access.role_in(request, production_id, access.WRITES)
    read = _read(request, Production.objects.get(pk=production_id), payload)
    with in_production(person(request), production_id, payload.version) as write:
        new, changed = take_in(write, payload.name, read)
    return {"new": new, "changed": changed}


@router.get("/productions/{production_id}/shots.{ending}", include_in_schema=False)
def take_out(request: HttpRequest, production_id: int, ending: str) -> HttpResponse:
    """The wall as CSV or as an OpenTimelineIO timeline. Anybody in the production."""
    access.role_in(request, production_id)
    production = Production.objects.get(pk=production_id)
    if ending not in ("csv", "otio"):
        raise HttpError(404, "Shots come out as csv or otio.")
    lines = whole_wall(production_id, "measured")
    body = (
        write_csv(lines)
        if ending == "csv"
        else write_otio(production.title, production.frame_rate_fps, lines)
    )
    kind = "text/csv; charset=utf-8" if ending == "csv" else "application/json"
    return HttpResponse(
        body,
        content_type=kind,
        headers={"Content-Disposition": f'attachment; filename="{production.slug}.{ending}"'},
    )
