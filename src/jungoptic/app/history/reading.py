"""What was done in a production, in words, newest first."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from django.db.models import CharField, Count, Exists, F, OuterRef, Subquery, Value, Window
from django.db.models.functions import Concat, RowNumber

from jungoptic.app.base.columns import in_words
from jungoptic.app.base.models import Change, Write
from jungoptic.app.boards.models import Board
from jungoptic.app.history.schemas import ChangeOut, HistoryOut, HistoryQuery, WriteOut
from jungoptic.app.history.words import Names, kind_in_words, value_in_words
from jungoptic.app.people.models import Person
from jungoptic.app.productions.models import Place
from jungoptic.app.shots.models import Layer, LayerPicture, SetUp, Shot
from jungoptic.app.takes.models import Take
from jungoptic.core.wording import Words

SHOWN_CHANGES = 12
_LONGEST = 160
_NAMED = 3  # fields in a title
_TAKE = Concat(
    "slate", Value(" · "), "layer__name", Value(", take "), "number", output_field=CharField()
)  # what a take is called
# Fields that say that something happened: how it is said of no and of yes.
_HAPPENED = {
    "removed": ("added", "taken out"),
    "logged": ("taken back", "logged"),
    "circled": ("uncircled", "circled"),
}


def title_of(write: Write, changes: Sequence[Change], count: int) -> str:
    """What a write did, in a few words."""
    if write.title:
        return write.title
    if not changes:
        return "Nothing changed"
    first = changes[0]
    names = list(dict.fromkeys(one.name for one in changes))
    if first.field in _HAPPENED:
        what = f"{first.name} {_HAPPENED[first.field][bool(first.after)]}"
    else:
        fields = list(dict.fromkeys(in_words(one.field) for one in changes if one.name == first.name))
        more = f" and {len(fields) - _NAMED} more" if len(fields) > _NAMED + 1 else ""
        what = f"{first.name}: {', '.join(fields[:_NAMED] if more else fields)}{more}"
    what = what[:1].upper() + what[1:]
    others = len(names) - 1 if count <= len(changes) else count - 1
    return (what + (f" and {others} more" if others else ""))[:_LONGEST]


def history(production_id: int, person: Person, role: str, asked: HistoryQuery) -> HistoryOut:
    """A page of the history: of the whole production, or of one shot; everybody's, or one's own that still
    stands.
    """
    rows = Write.objects.filter(production=production_id)
    if asked.shot is not None:
        rows = rows.filter(shot=asked.shot)
    if asked.kinds:
        of_kinds = Change.objects.filter(write=OuterRef("pk"), kind__in=asked.kinds.split(","))
        rows = rows.filter(Exists(of_kinds if asked.row is None else of_kinds.filter(row_id=asked.row)))
    if asked.mine:
        rows = rows.filter(person=person)
    if asked.standing:
        rows = rows.filter(stays=False, takes_back__isnull=True, taken_back_by__isnull=True)
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
    words, names = Words(asked.units), _names([one for rows in changes.values() for one in rows])
    return HistoryOut(
        writes=[_line(one, changes, person, role, words, names) for one in shown],
        next=shown[-1].pk if len(page) > asked.limit else None,
    )


def _first_changes(writes: list[int]) -> dict[int, list[Change]]:
    """The first few changes of each write."""
    nth = Window(RowNumber(), partition_by="write", order_by="id")
    rows = Change.objects.filter(write__in=writes).annotate(nth=nth).filter(nth__lte=SHOWN_CHANGES)
    found: dict[int, list[Change]] = {pk: [] for pk in writes}
    for row in rows.order_by("pk"):
        found[row.write_id].append(row)
    return found


def _names(changes: list[Change]) -> Names:
    """What the rows are called that the changes name by number."""
    found: dict[tuple[str, int], str] = {}
    name: Any = F("name")
    for field, model, called in (
        ("place_id", Place, name),
        ("set_up_id", SetUp, name),
        ("layer_id", Layer, name),
        ("only_for_id", Layer, name),
        ("picture_id", LayerPicture, name),
        ("board", Board, name),
        ("take_id", Take, _TAKE),
    ):
        ids = {
            value
            for one in changes
            if one.field == field
            for value in (one.before, one.after)
            if isinstance(value, int)
        }
        if ids:
            rows: Any = model
            found |= {
                (field, pk): told for pk, told in rows.objects.filter(pk__in=ids).values_list("pk", called)
            }
    return found


def _change(one: Change, words: Words, names: Names) -> ChangeOut:
    if one.field in _HAPPENED:
        field, before, after = "", "", _HAPPENED[one.field][bool(one.after)]
    else:
        field = in_words(one.field)
        before, after = (value_in_words(one.field, value, words, names) for value in (one.before, one.after))
    return ChangeOut(kind=kind_in_words(one.kind), name=one.name, field=field, before=before, after=after)


def _line(
    write: Any, changes: dict[int, list[Change]], person: Person, role: str, words: Words, names: Names
) -> WriteOut:
    own = changes[write.pk]
    taken_back = hasattr(write, "taken_back_by")
    mine = write.person_id == person.pk
    title = title_of(write, own, write.change_count)
    if write.takes_back:
        what = "Done again" if write.takes_back.takes_back_id else "Taken back"
        title = (
            f"{what}:"
            f" {title_of(write.takes_back, changes[write.takes_back_id], len(changes[write.takes_back_id]))}"
        )
    return WriteOut(
        id=write.pk,
        key=write.key if mine else "",
        at=write.at,
        by=write.person.shown_name if write.person else "",
        mine=mine,
        title=title,
        shot_id=write.shot_id,
        code=write.code or "",
        changes=[_change(one, words, names) for one in own],
        more=max(0, write.change_count - len(own)),
        takes_back=write.takes_back_id,
        taken_back=taken_back,
        can_go_back=not write.stays
        and not taken_back
        and (role == "supervisor" or (role == "crew" and mine)),
    )
