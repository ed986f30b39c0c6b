"""What was moved so that a hand reaches: what it comes to in light, against the plate and across the cut."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any

from jungoptic.app.base.answers import Json, fields_of
from jungoptic.app.frames.beside import Desk
from jungoptic.app.frames.desks import desk_of, match_of, table_of
from jungoptic.app.frames.models import Exposure, ExposureSheet, Pose, SheetCheat
from jungoptic.app.shots.models import Shot
from jungoptic.app.shots.plan import neighbours_of
from jungoptic.core.errors import InputError
from jungoptic.core.frames import as_cheated, cheat_text, cheats_told, lamp_held, light_moved, light_side
from jungoptic.core.match import ITEMS, CutSide, cut_side

_PLAIN = (
    *("kind", "name", "first_frame", "last_frame", "right_mm", "up_mm", "back_mm", "away", "level"),
    *("note", "version"),
)
_PERCENT = 100
Side = tuple[str, CutSide]


def changed(row: SheetCheat, values: Mapping[str, Any]) -> Json:
    """What of a cheat is written by what was sent. Raises InputError."""
    to = {name: value for name, value in values.items() if name not in ("to_end", "as_planned")}
    if values.get("to_end"):
        to["last_frame"] = None
    if values.get("as_planned"):
        to["level"] = None
    first = to.get("first_frame", row.first_frame)
    last = to.get("last_frame", row.last_frame)
    if last is not None and last < first:
        field = "last_frame" if "last_frame" in to else "first_frame"
        raise InputError.at(field, f"It ends at frame {last} and begins at {first}: end it there or later.")
    return to


def answer(sheet: ExposureSheet, desk: Desk | None, poses: Sequence[Pose], frames: Sequence[int]) -> Json:
    """The cheats of a sheet over the wire, with what they come to."""
    rows = list(sheet.cheats.all())
    match = None if desk is None else match_of(desk)
    setup = None if match is None else match.setup
    told: Json = {"cheats": [], "lines": [], "lamps": [], "cut_to": []}
    if setup is not None:
        told["lamps"] = sorted({lamp.name for lamp in setup.lamps})
    for row in rows:
        held = None if match is None or setup is None else lamp_held(match.layer, setup, row.cheat)
        told["cheats"].append(
            {"id": row.pk}
            | {name: getattr(row, name) for name in _PLAIN}
            | {"text": cheat_text(match, row.cheat) if match else ""}
            | {"held": held and fields_of(held), "seen": _seen(row, poses, frames)}
        )
    if rows and desk is not None and match is not None:
        shot = sheet.layer.shot
        versions = (shot.revision, shot.production.revision)
        before, after = _cut_to(shot)
        table = table_of(shot.pk, versions)
        limit = table.tolerances.get("direction", ITEMS["direction"].tolerance)
        lines = cheats_told(match, [row.cheat for row in rows], shot.length_frames, limit, before, after)
        told["lines"] = [fields_of(line) for line in lines]
        told["cut_to"] = [name for name, _ in (*before, *after)]
    return told


def lighter_stops(sheet: ExposureSheet, desk: Desk, frame: int) -> float:
    """How much lighter what is animated is at a frame of the shot by the cheats that stand, stops."""
    cheats = [row.cheat for row in SheetCheat.objects.filter(sheet=sheet, removed=False)]
    standing = [cheat for cheat in cheats if cheat.stands_at(frame)]
    match = match_of(desk)
    if match.setup is None or not standing:
        return 0.0
    return light_moved(match.layer, match.setup, as_cheated(match.layer, match.setup, standing)).stops


def cheat_rows(sheet: ExposureSheet, desk: Desk | None) -> list[Sequence[str | float]]:
    """The cheats of a sheet as they go out: a row each, in the order of ``taking_out.CHEATS_HEAD``."""
    match = None if desk is None else match_of(desk)
    return [
        (
            *(row.kind, row.name, row.first_frame, row.last_frame or ""),
            *(row.right_mm, row.up_mm, row.back_mm),
            *("yes" if row.away else "", "" if row.level is None else _PERCENT * row.level),
            *(row.note, cheat_text(match, row.cheat) if match else ""),
        )
        for row in sheet.cheats.all()
    ]


def _seen(row: SheetCheat, poses: Sequence[Pose], frames: Sequence[int]) -> Json | None:
    """What the photograph at which a cheat begins says of the light; None where there is none."""
    begun = (pose for pose, frame in zip(poses, frames, strict=True) if frame >= row.first_frame)
    pose = next(begun, None)
    every: list[Exposure] = [] if pose is None else list(pose.exposures.all())
    shown = next((each for each in every if each.chosen and not each.light_pass), None)
    last = shown.watched and shown.watched["last"] if shown else None
    if pose is None or not last:
        return None
    return {"place": pose.place} | {name: last[name] for name in ("stops", "side", "side_stops")}


def _cut_to(shot: Shot) -> tuple[list[Side], list[Side]]:
    """What a shot is cut to before and after it, where that is set in the same place."""
    there = Shot.objects.filter(place__isnull=False, place=shot.place_id)
    before, after = (there.filter(pk=pk).first() if pk else None for pk in neighbours_of(shot))
    revision = shot.production.revision
    return (
        _sides(before, revision, before.length_frames) if before else [],
        _sides(after, revision, 1) if after else [],
    )


def _sides(shot: Shot, revision: int, frame: int) -> list[Side]:
    """The light of a shot at one of its frames: of its plate, and of what is animated in it with its cheats.
    ``revision`` is the production's.
    """
    versions = (shot.revision, revision)
    table = table_of(shot.pk, versions)
    sides = [(shot.code, cut_side(table.hero))] if table.hero is not None else []
    for sheet in ExposureSheet.objects.filter(layer__shot=shot, removed=False).select_related("layer"):
        cheats = [row.cheat for row in SheetCheat.objects.filter(sheet=sheet, removed=False)]
        desk = desk_of(shot.pk, sheet.layer_id, versions) if cheats else None
        side = light_side(match_of(desk), cheats, frame) if desk else None
        if side is not None:
            sides.append((f"{shot.code}, {sheet.layer.name}", side))
    return sides
