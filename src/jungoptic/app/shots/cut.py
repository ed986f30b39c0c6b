"""A shot as a line of the cut: its code, title, length, place, day, hours; taken out of the cut and brought
back.
"""

from __future__ import annotations

import re
from collections.abc import Iterable, Mapping, Sequence
from datetime import date
from typing import Any

from jungoptic.app.base.edits import Edit, Writing, as_before, takes_back
from jungoptic.app.base.models import Change
from jungoptic.app.productions.models import Place
from jungoptic.app.shots.edit import EditSet, change_shot
from jungoptic.app.shots.models import Shot
from jungoptic.core.errors import FieldProblem, InputError
from jungoptic.core.quantities import MOST_FRAMES

CUT_FIELDS = (
    "code",
    "title",
    "description",
    "length_frames",
    "place_id",
    "shoot_on",
    "hours_spent",
    "position",
    "removed",
)
_MOST = {"code": 16, "title": 120, "description": 4000}


def check_fields(
    production_id: int, changes: Mapping[str, Any], own: int | None = None
) -> list[FieldProblem]:
    """What cannot be said of a shot in the cut, in sentences."""
    problems = [
        FieldProblem(name, f"A shot has no field called “{name}” on the wall.")
        for name in changes
        if name not in CUT_FIELDS
    ]
    for name, most in _MOST.items():
        text = changes.get(name)
        if text is not None and len(text) > most:
            problems.append(
                FieldProblem(name, f"{name.capitalize()} may have {most} characters; {len(text)} were given.")
            )
    for name in ("code", "title"):
        if name in changes and not str(changes[name]).strip():
            problems.append(FieldProblem(name, f"A shot needs a {name}."))
    if "length_frames" in changes and not 1 <= changes["length_frames"] <= MOST_FRAMES:
        problems.append(
            FieldProblem(
                "length_frames",
                f"Length must be between 1 and {MOST_FRAMES:,} frames; {changes['length_frames']} was given.",
            )
        )
    if "hours_spent" in changes and not 0 <= changes["hours_spent"] <= 100_000:
        problems.append(
            FieldProblem(
                "hours_spent",
                f"Hours spent must be between 0 and 100 000; {changes['hours_spent']:g} was given.",
            )
        )
    if "position" in changes and not 0 <= changes["position"] <= 1_000_000:
        problems.append(FieldProblem("position", "Place in the cut must be between 0 and 1 000 000."))
    if (
        changes.get("place_id") is not None
        and not Place.objects.filter(pk=changes["place_id"], production=production_id, removed=False).exists()
    ):
        problems.append(FieldProblem("place_id", "The production has no such place."))
    code = changes.get("code")
    if code is not None:
        others = Shot.in_cut.filter(production=production_id, code=code).exclude(pk=own or 0)
        if others.exists():
            problems.append(FieldProblem("code", f"There is a shot {code} already."))
    return problems


def change_line(write: Writing, shot: Shot, changes: Mapping[str, Any]) -> None:
    """Change a shot in the cut, or nothing of it: raises InputError with what cannot be said."""
    problems = check_fields(shot.production_id, changes, shot.pk)
    if (
        changes.get("removed") is False
        and Shot.in_cut.filter(production=shot.production_id, code=shot.code).exclude(pk=shot.pk).exists()
    ):
        problems.append(
            FieldProblem("removed", f"There is another {shot.code} now: give that one another code first.")
        )
    if problems:
        raise InputError(*problems)
    write.save(
        "shot",
        shot,
        {name: value.strip() if isinstance(value, str) else value for name, value in changes.items()},
    )


@takes_back("shot")
def _back(write: Writing, changes: Sequence[Change]) -> None:
    """Shots as they were: in the cut, and what the Bench says of them."""
    fields = as_before(changes)
    for shot in Shot.objects.select_for_update(no_key=True).filter(pk__in=list(fields)).order_by("pk"):
        values = fields[shot.pk]
        in_cut = {name: value for name, value in values.items() if name in CUT_FIELDS}
        if in_cut.get("shoot_on"):
            in_cut["shoot_on"] = date.fromisoformat(in_cut["shoot_on"])
        if in_cut:
            change_line(write, shot, in_cut)
        planned = {name: value for name, value in values.items() if name not in CUT_FIELDS}
        if planned:
            change_shot(write, EditSet(shot={shot.pk: Edit(shot.version, planned)}), shot.pk)


def greatest_code(codes: Iterable[str]) -> str:
    """The last of the codes that can be counted on: of the longest, the greatest; "" where there is none."""
    numbered = (code for code in codes if re.search("[0-9]$", code))
    return max(numbered, default="", key=lambda code: (len(code), code))


def next_code(codes: Iterable[str]) -> str:
    """The next code after the last: TM120 → TM130, counted on by ten."""
    last = greatest_code(codes)
    if not last:
        return "010"
    head = last.rstrip("0123456789")
    tail = last[len(head) :]
    return f"{head}{int(tail) // 10 * 10 + 10:0{len(tail)}d}"
