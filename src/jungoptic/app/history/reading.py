"""What was done in a production, in words, newest first."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from django.db.models import Count, Exists, OuterRef, Q, Subquery

from jungoptic.app.base.edits import in_words
from jungoptic.app.base.models import Change, Write
from jungoptic.app.history.schemas import HistoryQuery
from jungoptic.app.people.models import Person
from jungoptic.app.shots.models import Shot

SHOWN_CHANGES = 12
_LONGEST = 160


def title_of(write: Write, changes: Sequence[Change], count: int) -> str:
    """What a write did, in a few words."""
    if write.title:
        return write.title
    if not changes:
        return "Nothing changed"
    first = changes[0]
    names = list(dict.fromkeys(one.name for one in changes))
    if first.field == "removed":
        what = f"{first.name} {'taken out' if first.after else 'added'}"
    elif first.field in ("logged", "state"):
        what = f"{first.name} logged" if first.field == "logged" else f"{first.name}: {first.after}"
    else:
        fields = list(dict.fromkeys(in_words(one.field) for one in changes if one.name == first.name))
        what = f"{first.name}: {', '.join(fields)}"
    others = len(names) - 1 if count <= len(changes) else count - 1
    return (what + (f" and {others} more" if others else ""))[:_LONGEST]


def history(production_id: int, person: Person, role: str, asked: HistoryQuery) -> dict[str, Any]:
    """A page of the history: of the whole production, or of one shot; everybody's, or one's own that still stands."""
    rows = Write.objects.filter(production=production_id)
    if asked.shot is not None:
        rows = rows.filter(shot=asked.shot)
    if asked.kinds:
        of_kinds = Change.objects.filter(write=OuterRef("pk"), kind__in=asked.kinds.split(","))
        rows = rows.filter(Exists(of_kinds if asked.row is None else of_kinds.filter(row_id=asked.row)))
    if asked.mine:
        rows = rows.filter(person=person, stays=False, takes_back__isnull=True, taken_back_by__isnull=True)
    if asked.before is not None:
        rows = rows.filter(pk__lt=asked.before)
    code = Shot.objects.filter(pk=OuterRef("shot_id")).values("code")
    some = Change.objects.filter(write=OuterRef("pk"))
    count = some.order_by().values("write").annotate(n=Count("pk")).values("n")
    page = list(
        rows.filter(Exists(some))
        .annotate(change_count=Subquery(count), code=Subquery(code))
        .select_related("person", "takes_back", "taken_back_by")
        .order_by("-pk")[: asked.limit + 1]
    )
    shown = page[: asked.limit]
    wanted = {one.pk for one in shown} | {one.takes_back_id for one in shown if one.takes_back_id}
    changes = _first_changes([pk for pk in wanted if pk])
    return {
        "writes": [_line(one, changes, person, role) for one in shown],
        "next": shown[-1].pk if len(page) > asked.limit else None,
    }


def _first_changes(writes: list[int]) -> dict[int, list[Change]]:
    """The first few changes of each write."""
    nth = Change.objects.filter(write=OuterRef("write"), pk__lt=OuterRef("pk")).values("write").annotate(n=Count("pk")).values("n")
    rows = Change.objects.filter(write__in=writes).annotate(nth=Subquery(nth)).filter(Q(nth__isnull=True) | Q(nth__lt=SHOWN_CHANGES))
    found: dict[int, list[Change]] = {pk: [] for pk in writes}
    for row in rows.order_by("pk"):
        found[row.write_id].append(row)
    return found


def _line(write: Any, changes: dict[int, list[Change]], person: Person, role: str) -> dict[str, Any]:
    own = changes[write.pk]
    taken_back = hasattr(write, "taken_back_by")
    mine = write.person_id == person.pk
    title = title_of(write, own, write.change_count)
    if write.takes_back:
        title = f"Taken back: {title_of(write.takes_back, changes[write.takes_back_id], len(changes[write.takes_back_id]))}"
    return {
        "id": write.pk, "key": write.key if mine else "", "at": write.at, "by": write.person.shown_name if write.person else "", "mine": mine,
        "title": title, "shot_id": write.shot_id, "code": write.code or "",
        "changes": [{"kind": one.kind, "name": one.name, "field": one.field, "before": one.before, "after": one.after} for one in own],
        "more": max(0, write.change_count - len(own)), "takes_back": write.takes_back_id, "taken_back": taken_back,
        "can_go_back": not write.stays and not taken_back and (role == "supervisor" or (role == "crew" and mine)),
    }  # fmt: skip
