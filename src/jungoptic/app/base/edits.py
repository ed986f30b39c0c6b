"""The one way to write: what is changed is locked, was seen, is kept in the history and told to whoever
looks, or nothing of it happens.

An operation opens a :class:`Writing` for its production or shot (``productions.writing``,
``shots.writing``); services change rows through it. Each room says in :func:`takes_back` how its own kinds
of rows go back to what they were.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping, Sequence
from contextlib import contextmanager
from dataclasses import dataclass, field
from typing import Any, Protocol

from django.db import models, transaction
from django.db.models import OuterRef, Subquery

from jungoptic.app.base import events
from jungoptic.app.base.columns import in_words
from jungoptic.app.base.copy_in import copy_in
from jungoptic.app.base.models import Change, Write
from jungoptic.app.base.once import current_key


class Author(Protocol):
    """Who writes."""

    pk: Any

    @property
    def shown_name(self) -> str: ...


@dataclass(frozen=True)
class Edit:
    """Fields to change in one row, and the version that the writer has seen."""

    version: int
    changes: Mapping[str, Any]


class ConflictError(Exception):
    """Somebody else saved first. Nothing was written."""

    def __init__(self, name: str, who: str = "Somebody", fields: Sequence[str] = ()) -> None:
        super().__init__(
            f"{who} changed {name} while you worked ({', '.join(fields) or 'another field'}). Yours was not"
            " saved; look at theirs and save again."
        )


def as_json(value: Any) -> Any:
    """A column's value as the history keeps it."""
    return (
        value.isoformat()
        if hasattr(value, "isoformat")
        else list(value)
        if isinstance(value, tuple)
        else value
    )


def _name(row: models.Model) -> str:
    return str(getattr(row, "name", "") or row)


@dataclass
class Writing:
    """One write under way: who writes where, and what has changed so far."""

    person: Author
    production_id: int
    shot_id: int | None = None
    title: str = ""
    stays: bool = False
    takes_back: Write | None = None
    changes: list[Change] = field(default_factory=list)
    versions: dict[str, dict[int, int]] = field(default_factory=dict)
    """Version of every row that was changed, since, by kind and id."""
    kept: Write | None = None

    @property
    def of_shot(self) -> int:
        """The shot's id, in a write that is in one."""
        assert self.shot_id is not None
        return self.shot_id

    def refuse_unseen(self, kind: str, row: Any, version: int) -> None:
        """Raise ConflictError unless ``version`` is the row's own: who else changed what of it."""
        if row.version == version:
            return
        latest = list(
            Change.objects.filter(kind=kind, row_id=row.pk)
            .select_related("write__person")
            .order_by("-id")[:8]
        )
        who = next((one.write.person.shown_name for one in latest if one.write.person), "Somebody")
        raise ConflictError(f"“{_name(row)}”", who, sorted({in_words(one.field) for one in latest}))

    def note(self, kind: str, row_id: int, name: str, field: str, before: Any, after: Any) -> None:
        """Keep one change in the history; nothing where nothing changed."""
        was, now = as_json(before), as_json(after)
        if was != now:
            self.changes.append(
                Change(kind=kind, row_id=row_id, name=name[:200], field=field[:200], before=was, after=now)
            )

    def save(self, kind: str, row: Any, values: Mapping[str, Any]) -> None:
        """Give a row new values, count its version up, keep what was and what is."""
        name = _name(row)
        for column, value in values.items():
            self.note(kind, row.pk, name, column, getattr(row, column), value)
            setattr(row, column, list(value) if isinstance(value, tuple) else value)
        self.count_up(kind, row)
        row.save(update_fields=[*values, "version"])

    def count_up(self, kind: str, row: Any) -> None:
        """A row changes; whoever saves it saves its version too."""
        row.version += 1
        self.versions.setdefault(kind, {})[row.pk] = row.version

    def made(self, kind: str, row: Any) -> None:
        """A new row stands. Taking it back removes it."""
        self.note(kind, row.pk, _name(row), "removed", True, False)


Check = Callable[[Writing], None]
_CHECKS: list[Check] = []


def before_it_stands(check: Check) -> Check:
    """Have every write looked at once more when all of it is done; whatever ``check`` raises undoes it."""
    _CHECKS.append(check)
    return check


@contextmanager
def writing(person: Author, production_id: int, shot_id: int | None = None) -> Iterator[Writing]:
    """Everything inside is one write: kept in the history and told when it is done, or undone whole where it
    raises.
    """
    with transaction.atomic():
        write = Writing(person, production_id, shot_id)
        yield write
        _keep(write)
        for check in _CHECKS:
            check(write)


MANY = 200  # changes: written with COPY from here on


def _keep(write: Writing) -> None:
    row = Write.objects.create(
        production_id=write.production_id,
        shot_id=write.shot_id,
        person_id=write.person.pk,
        key=current_key(),
        title=write.title[:200],
        stays=write.stays,
        takes_back=write.takes_back,
    )
    for change in write.changes:
        change.write = row
    if len(write.changes) > MANY:
        copy_in(write.changes)
    else:
        Change.objects.bulk_create(write.changes)
    write.kept = row
    events.publish(write.production_id, shot=write.shot_id, write=row.pk, key=row.key)


Handler = Callable[[Writing, Sequence[Change]], None]
_HANDLERS: dict[str, Handler] = {}


def takes_back(*kinds: str) -> Callable[[Handler], Handler]:
    """How changes of these kinds go back: the handler gets those of one write together and gives every field
    its value ``before``.
    """

    def register(handler: Handler) -> Handler:
        _HANDLERS.update(dict.fromkeys(kinds, handler))
        return handler

    return register


def as_before(changes: Sequence[Change]) -> dict[int, dict[str, Any]]:
    """The fields of each row with the values that they had."""
    fields: dict[int, dict[str, Any]] = {}
    for change in changes:
        fields.setdefault(change.row_id, {})[change.field] = change.before
    return fields


def put_back(write: Writing, earlier: Write) -> None:
    """Give everything that ``earlier`` changed its values from before.

    Raises ConflictError where something was changed since.
    """
    same = Change.objects.filter(kind=OuterRef("kind"), row_id=OuterRef("row_id"), field=OuterRef("field"))
    changes = list(earlier.changes.annotate(newest=Subquery(same.order_by("-id").values("id")[:1])))
    moved = [change for change in changes if change.newest != change.pk]
    since = Change.objects.select_related("write__person").in_bulk([change.newest for change in moved])
    for change in moved:
        latest = since[change.newest]
        if latest.after != change.after:
            who = latest.write.person.shown_name if latest.write.person else "Somebody"
            raise ConflictError(f"“{change.name}”", who, [in_words(change.field)])
    write.takes_back = earlier
    by_handler: dict[Handler, list[Change]] = {}
    for change in reversed(
        changes
    ):  # what was made first goes last: a place after the shots that stand in it
        by_handler.setdefault(_HANDLERS[change.kind], []).append(change)
    for handler, group in by_handler.items():
        handler(write, group)
