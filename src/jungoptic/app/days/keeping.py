"""Rows of the days: made, changed, taken out, brought back; and when set-ups are booked."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from datetime import date
from typing import Any

from jungoptic.app.base.edits import Writing, as_before, takes_back
from jungoptic.app.base.models import Change
from jungoptic.app.days.fields import BY_WORD, KINDS, Kind
from jungoptic.app.days.models import Booked, Hand, JobSaid, OfTheDays, ShootingDay
from jungoptic.app.shots.models import SetUp
from jungoptic.core.errors import InputError

BOOKED = "booking"


def kind_called(name: str) -> Kind:
    """A kind of row by its name in an address. Raises InputError."""
    if name not in KINDS:
        raise InputError.at("kind", f"There is no such kind; there are {', '.join(KINDS)}.")
    return KINDS[name]


def add_row(write: Writing, kind: Kind, values: Mapping[str, Any]) -> OfTheDays:
    """A new row. What is there already, and was taken out, is brought back with what is said now."""
    record = kind.record(dict(values))
    columns = kind.columns(record)
    _refuse_strangers(write, kind, columns)
    _refuse_more(write, kind)
    same = {name: columns[name] for name in kind.same}
    there = kind.model._default_manager.filter(production=write.production_id, **same).first()
    if there is not None and not there.removed:
        raise InputError.at(
            kind.same[0] if kind.same else "fields", "This is there already: change that one."
        )
    if there is not None:
        write.save(kind.word, there, {**_changed(there, columns), "removed": False})
        return there
    row: OfTheDays = kind.model._default_manager.create(production_id=write.production_id, **columns)
    write.made(kind.word, row)
    return row


def change_row(
    write: Writing, kind: Kind, row_id: int, version: int, changes: Mapping[str, Any]
) -> OfTheDays:
    """Say something else of a row; ``removed`` takes it out or brings it back."""
    row = kind.model._default_manager.filter(production=write.production_id, pk=row_id).first()
    if row is None:
        raise InputError.at("row", f"There is no such {kind.word}.")
    write.refuse_unseen(kind.word, row, version)
    values = dict(changes)
    removed = values.pop("removed", row.removed)
    if not isinstance(removed, bool):
        raise InputError.at("removed", "It is taken out or not: true or false.")
    columns = kind.columns(kind.record({**row.values(), **values}))
    if row.removed and not removed:
        _refuse_more(write, kind)
    _refuse_strangers(write, kind, columns)
    same = {name: columns[name] for name in kind.same}
    others = kind.model._default_manager.filter(production=write.production_id, removed=False, **same)
    if kind.same and not removed and others.exclude(pk=row.pk).exists():
        raise InputError.at(kind.same[0], "There is another like this already.")
    if isinstance(row, Hand) and columns["name"] != row.name:
        _follow(write, row.name, columns["name"])
    write.save(kind.word, row, {**_changed(row, columns), "removed": removed})
    return row


def _changed(row: OfTheDays, columns: Mapping[str, Any]) -> dict[str, Any]:
    return {name: value for name, value in columns.items() if getattr(row, name) != value}


def _refuse_more(write: Writing, kind: Kind) -> None:
    there = kind.model._default_manager.filter(production=write.production_id, removed=False)
    if kind.most is not None and there.count() >= kind.most:
        raise InputError.at(
            kind.same[0], f"There are {kind.most} already, and no more can be: remove one first."
        )


def _refuse_strangers(write: Writing, kind: Kind, columns: Mapping[str, Any]) -> None:
    for name, rows in kind.names.items():
        value = columns[name]
        if value is not None and not rows(write.production_id).filter(pk=value).exists():
            raise InputError.at(name, "The production has no such thing.")
    here, there = columns.get("here_id"), columns.get("there_id")
    if here is not None and here == there:
        raise InputError.at("there_id", "It takes no time from a place to itself.")
    first, then = columns.get("first_id"), columns.get("then_id")
    if first is not None and first == then:
        raise InputError.at("then_id", "Nothing comes before itself.")


def _follow(write: Writing, was: str, now: str) -> None:
    """Jobs that named somebody go on naming them."""
    for said in JobSaid.objects.filter(production=write.production_id, people__contains=[was]):
        people = [now if name == was else name for name in said.people or ()]
        write.save(KINDS["job"].word, said, {"people": people})


# --- bookings


def book(write: Writing, rows: Sequence[Mapping[str, Any]]) -> list[Booked]:
    """Film set-ups at other times, or on no day (``date`` None). Raises ConflictError for one that somebody
    else moved, InputError for what there is not.
    """
    days = set(
        ShootingDay.objects.filter(production=write.production_id, removed=False, wrapped=False).values_list(
            "date", flat=True
        )
    )
    known = set(
        SetUp.objects.filter(
            shot__production=write.production_id, pk__in=[row["set_up_id"] for row in rows]
        ).values_list("pk", flat=True)
    )
    told = []
    for number, row in enumerate(rows):
        if row["set_up_id"] not in known:
            raise InputError.at(f"bookings.{number}.set_up_id", "The production has no such set-up.")
        if row["date"] is not None and row["date"] not in days:
            raise InputError.at(
                f"bookings.{number}.date",
                f"{row['date'].isoformat()} is none of the shooting days, or it is wrapped: add it first.",
            )
        booked, made = Booked.objects.get_or_create(
            set_up_id=row["set_up_id"], block=row["block"], defaults={"production_id": write.production_id}
        )
        if not made:
            write.refuse_unseen(BOOKED, booked, row["version"])
        write.save(BOOKED, booked, {name: row[name] for name in Booked.FIELDS})
        told.append(booked)
    return told


@takes_back(BOOKED)
def _unbook(write: Writing, changes: Sequence[Change]) -> None:
    for pk, fields in as_before(changes).items():
        booked = Booked.objects.get(pk=pk)
        if isinstance(fields.get("date"), str):
            fields["date"] = date.fromisoformat(fields["date"])
        write.save(BOOKED, booked, fields)


@takes_back(*BY_WORD)
def _back(write: Writing, changes: Sequence[Change]) -> None:
    for word in dict.fromkeys(change.kind for change in changes):
        kind = BY_WORD[word]
        for pk, fields in as_before([change for change in changes if change.kind == word]).items():
            row = kind.model._default_manager.get(pk=pk)
            change_row(write, kind, pk, row.version, fields)
