"""Taking shots in from a file or from what was pasted: first a preview, then all of it or nothing."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import Any

from jungoptic.app.base.copy_in import copy_in
from jungoptic.app.base.edits import Writing
from jungoptic.app.productions.models import Place, Production
from jungoptic.app.shots.cut import greatest_code, next_code
from jungoptic.app.shots.models import Shot
from jungoptic.core.errors import FieldProblem, InputError
from jungoptic.core.quantities import MOST_FRAMES

from .candidates import MOST_SHOTS, Candidate, Fault, Read

DEFAULT_FRAMES = 96
_FIELDS = ("title", "description", "length_frames", "position")


@dataclass(frozen=True, slots=True)
class Row:
    """One candidate as it would be written: new, changed in some fields, or the same as what is there."""

    candidate: Candidate
    shot_id: int | None
    changes: dict[str, Any]

    @property
    def state(self) -> str:
        return "new" if self.shot_id is None else "changed" if self.changes else "same"


@dataclass(frozen=True, slots=True)
class Preview:
    """What taking a file in would do."""

    read: Read
    rows: tuple[Row, ...]
    faults: tuple[Fault, ...]


def preview(production: Production, read: Read) -> Preview:
    """Compare what was read with what is there. Nothing is written."""
    shots = {
        shot.code.casefold(): shot
        for shot in Shot.in_cut.filter(production=production).select_related("place")
    }
    faults = list(read.faults)
    taken: dict[str, int] = {}
    greatest = greatest_code(shot.code for shot in shots.values())
    rows = []
    for given in read.candidates:
        one = given
        if one.code is None:
            one = replace(one, code=next_code([greatest]))
        assert one.code is not None
        greatest = greatest_code((greatest, one.code))
        low = one.code.casefold()
        if low in taken:
            faults.append(Fault(one.line, "code", f"{one.code} stands in line {taken[low]} already."))
            continue
        taken[low] = one.line
        if one.length_frames is not None and one.length_frames > MOST_FRAMES:
            faults.append(
                Fault(
                    one.line,
                    "length",
                    f"{one.code} is {one.length_frames:,} frames long; a shot may have {MOST_FRAMES:,}.",
                )
            )
            continue
        shot = shots.get(low)
        changes = _changes(one, shot) if shot else {}
        rows.append(Row(one, shot.pk if shot else None, changes))
    if len(rows) > MOST_SHOTS:
        faults.append(
            Fault(rows[MOST_SHOTS].candidate.line, "", f"More than {MOST_SHOTS} shots: split the file.")
        )
    return Preview(
        read, tuple(_in_order_kept(rows, shots)), tuple(sorted(faults, key=lambda fault: fault.line))
    )


def _in_order_kept(rows: list[Row], shots: Mapping[str, Shot]) -> list[Row]:
    """Where a file gives the whole cut the order that it has, and no new shots, the places stay as they
    are.
    """
    told = sorted(
        (row for row in rows if row.candidate.position), key=lambda row: row.candidate.position or 0
    )
    known = [shots.get((row.candidate.code or "").casefold()) for row in told]
    places = [(one.position, one.code) for one in known if one is not None]
    if not len(places) == len(rows) == len(shots) or places != sorted(places):
        return rows
    return [replace(row, changes={k: v for k, v in row.changes.items() if k != "position"}) for row in rows]


def _changes(one: Candidate, shot: Shot) -> dict[str, Any]:
    found = {
        name: value
        for name in _FIELDS
        if (value := getattr(one, name)) is not None and value != getattr(shot, name)
    }
    if one.place and (shot.place is None or shot.place.name != one.place):
        found["place"] = one.place
    return found


def take_in(write: Writing, name: str, read: Read) -> tuple[int, int]:
    """Write what the preview showed, all of it or nothing.

    Returns how many shots are new and how many changed.
    """
    production = Production.objects.get(pk=write.production_id)
    seen = preview(production, read)
    if seen.faults:
        raise InputError(
            *(
                FieldProblem(
                    f"line {one.line}",
                    f"Line {one.line}{', ' + one.column if one.column else ''}: {one.message}",
                )
                for one in seen.faults[:50]
            )
        )
    write.title = f"{name or seen.read.kind} taken in"
    places = {place.name: place for place in production.places.filter(removed=False)}
    for row in seen.rows:
        wanted = row.candidate.place
        if wanted and wanted not in places and (row.shot_id is None or "place" in row.changes):
            places[wanted] = Place.objects.create(production=production, name=wanted)
            write.made("place", places[wanted])
    fresh = [_new(production, row.candidate, places) for row in seen.rows if row.state == "new"]
    copy_in(fresh)
    keys = dict(Shot.in_cut.filter(production=production).values_list("code", "pk"))
    for shot in fresh:
        write.note("shot", keys[shot.code], shot.code, "removed", True, False)
    changed = [row for row in seen.rows if row.state == "changed"]
    for row in changed:
        _write(write, row, places)
    return len(fresh), len(changed)


def _new(production: Production, one: Candidate, places: dict[str, Place]) -> Shot:
    return Shot(
        production=production,
        code=one.code or "",
        title=one.title or one.code or "",
        description=one.description or "",
        length_frames=one.length_frames or DEFAULT_FRAMES,
        place=places[one.place] if one.place else None,
        position=one.position or 0,
    )


def _write(write: Writing, row: Row, places: dict[str, Place]) -> None:
    shot = Shot.objects.select_for_update(no_key=True).get(pk=row.shot_id or 0)
    # A shorter cut must not leave the shot's move behind its end: the move is kept, and judged as it is.
    write.save(
        "shot",
        shot,
        {
            "place_id" if name == "place" else name: places[value].pk if name == "place" else value
            for name, value in row.changes.items()
        },
    )
