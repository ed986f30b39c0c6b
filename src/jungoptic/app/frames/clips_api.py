"""Recordings beside a sheet and beneath it."""

from __future__ import annotations

from typing import Any

from django.http import HttpRequest
from ninja import Router, Status

from jungoptic.app.base.answers import written
from jungoptic.app.base.once import writes
from jungoptic.app.base.schemas import Problems, Written
from jungoptic.app.frames import clips, keeping, layers
from jungoptic.app.frames.clip_schemas import SheetClipChange, SheetClipIn
from jungoptic.app.frames.models import SheetClip
from jungoptic.app.frames.rows import part_of, sheet_of
from jungoptic.app.people.signed_in import person
from jungoptic.app.productions import access
from jungoptic.app.shots.writing import in_shot

router = Router()


@router.post("/exposure-sheets/{sheet_id}/clips", response={201: Written, 409: Problems, 422: Problems})
@writes
def add_sheet_clip(request: HttpRequest, sheet_id: int, payload: SheetClipIn) -> Any:
    """Lay a recording beside a sheet or beneath it, or have a take of another layer seen from one of its
    frames on, in place of another. The supervisor and the crew.
    """
    sheet = sheet_of(request, sheet_id, access.LOGS)
    clips.refuse_no_film(sheet.layer.shot.production_id, payload.recording_id)
    there = SheetClip.objects.filter(sheet=sheet, use=payload.use, removed=False)
    if payload.use == clips.LAYER:
        layer_id = layers.refuse_no_layer(sheet, payload.recording_id)
        there = there.filter(recording__take__layer=layer_id)
    with in_shot(person(request), sheet.layer.shot_id) as write:
        sheet.refresh_from_db()
        values = payload.model_dump(exclude={"version"})
        for before in there:
            write.save(keeping.CLIP, before, {"removed": True})
        row = keeping.add(write, keeping.CLIP, sheet, payload.version, values)
    return Status(201, written(write, row.pk, row.version))


@router.patch("/sheet-clips/{clip_id}", response={200: Written, 409: Problems, 422: Problems})
@writes
def change_sheet_clip(request: HttpRequest, clip_id: int, payload: SheetClipChange) -> Any:
    """Lay another recording there, or from another frame on; take it away. The supervisor and the crew."""
    clip = part_of(request, SheetClip, clip_id)
    values = payload.model_dump(exclude={"version"}, exclude_none=True)
    if payload.recording_id is not None:
        clips.refuse_no_film(clip.sheet.layer.shot.production_id, payload.recording_id)
        if clip.use == clips.LAYER:
            layers.refuse_no_layer(clip.sheet, payload.recording_id)
    with in_shot(person(request), clip.sheet.layer.shot_id) as write:
        clip.refresh_from_db()
        keeping.change(write, keeping.CLIP, clip, payload.version, values)
    return written(write, clip.pk, clip.version)
