"""What was moved so that a hand reaches: recorded, changed, taken away."""

from __future__ import annotations

from typing import Any

from django.http import HttpRequest
from ninja import Router, Status

from jungoptic.app.base.answers import written
from jungoptic.app.base.once import writes
from jungoptic.app.base.schemas import Problems, Written
from jungoptic.app.frames import cheats, keeping
from jungoptic.app.frames.cheat_schemas import SheetCheatChange, SheetCheatIn
from jungoptic.app.frames.models import SheetCheat
from jungoptic.app.frames.rows import part_of, sheet_of
from jungoptic.app.people.signed_in import person
from jungoptic.app.productions import access
from jungoptic.app.shots.writing import in_shot

router = Router()


@router.post("/exposure-sheets/{sheet_id}/cheats", response={201: Written, 409: Problems, 422: Problems})
@writes
def add_sheet_cheat(request: HttpRequest, sheet_id: int, payload: SheetCheatIn) -> Any:
    """Record that a lamp, the figure, a wall or a piece was moved so that a hand reaches. The supervisor and
    the crew.
    """
    sheet = sheet_of(request, sheet_id, access.LOGS)
    with in_shot(person(request), sheet.layer.shot_id) as write:
        sheet.refresh_from_db()
        values = payload.model_dump(exclude={"version"})
        row = keeping.add(write, keeping.CHEAT, sheet, payload.version, values)
    return Status(201, written(write, row.pk, row.version))


@router.patch("/sheet-cheats/{cheat_id}", response={200: Written, 409: Problems, 422: Problems})
@writes
def change_sheet_cheat(request: HttpRequest, cheat_id: int, payload: SheetCheatChange) -> Any:
    """Say how far it was moved, from which frame of the shot to which; take it away. The supervisor and the
    crew.
    """
    row = part_of(request, SheetCheat, cheat_id)
    values = payload.model_dump(exclude={"version"}, exclude_none=True)
    with in_shot(person(request), row.sheet.layer.shot_id) as write:
        row.refresh_from_db()
        keeping.change(write, keeping.CHEAT, row, payload.version, cheats.changed(row, values))
    return written(write, row.pk, row.version)
