"""A production's file brought in: all of it becomes a new production, or nothing of it does."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import IO, Any

from django.core.files.base import ContentFile
from django.db import DataError, IntegrityError, connection, transaction
from django.db.models import NOT_PROVIDED
from django.utils.text import slugify

from jungoptic.app.base.copy_in import copy_as_they_are, new_keys
from jungoptic.app.base.edits import Writing, writing
from jungoptic.app.base.models import Change, Write
from jungoptic.app.base.names import free_name
from jungoptic.app.boards.reading import looked_at
from jungoptic.app.files.keeping import kind_of
from jungoptic.app.files.models import StoredFile, path_of
from jungoptic.app.films.making import check_not_too_many, free_slug
from jungoptic.app.moving import cells
from jungoptic.app.moving.checks import check
from jungoptic.app.moving.packed import ENDINGS, Packed, refused
from jungoptic.app.moving.tables import (
    BY_MODEL,
    KINDS_THAT_STAY_BEHIND,
    ROWS_OF_KINDS,
    TABLES,
    Table,
    leads_to,
    renamed,
)
from jungoptic.app.people.models import Person
from jungoptic.app.productions import people
from jungoptic.app.productions.models import Membership, Production
from jungoptic.core.errors import InputError


@dataclass
class CameIn:
    """What became of a file: the production, how much of each, and what this server knows nothing of."""

    production: Production
    write: Writing
    counts: Mapping[str, int]
    left_out: list[str] = field(default_factory=list)


def bring_in(person: Person, name: str, source: IO[bytes]) -> CameIn:
    """A new production out of a file, with the person as a supervisor. Raises InputError at ``file``.

    Whoever has the person's name in the file is the person. The others come in as accounts that nobody can
    sign in with until they are invited: what they did keeps their names.
    """
    check_not_too_many(person)
    kept: list[StoredFile] = []
    try:
        with transaction.atomic():
            return _In(person, Packed(name, source), kept).all()
    except BaseException as error:
        for stored in kept:
            stored.file.storage.delete(stored.path)
        if isinstance(error, IntegrityError | DataError):
            raise InputError.at("file", f"“{name}” contradicts itself{_where(error)}.") from None
        raise


class _In:
    """One file under way into the database."""

    def __init__(self, person: Person, file: Packed, kept: list[StoredFile]) -> None:
        self.person, self.file, self.kept = person, file, kept
        self.left_out: list[str] = [f"{member} as a whole" for member in file.strange()]
        self._told = {table: file.rows(table) for table in TABLES}
        if len(self._told[BY_MODEL[Production]]) != 1:
            refused(f"“{file.name}” must hold one production.")
        self._keys = {table.model: new_keys(table.model, len(rows)) for table, rows in self._told.items()}
        self._people = self._who()

    def all(self) -> CameIn:
        made = {table: self._rows(table) for table in TABLES}
        production: Production = made[BY_MODEL[Production]][0]
        production.slug = free_slug(production.title)
        self._pictures(made[BY_MODEL[StoredFile]])
        for rows in made.values():
            copy_as_they_are(rows)
        with connection.cursor() as cursor:
            cursor.execute("SET CONSTRAINTS ALL IMMEDIATE")  # what contradicts itself is refused now
            cursor.execute("SET CONSTRAINTS ALL DEFERRED")
        production.refresh_from_db()
        check(production)
        with writing(self.person, production.pk) as write:
            write.title, write.stays = f"“{production.title}” brought in from a file"[:200], True
            write.note("production", production.pk, production.title, "title", "", production.title)
            mine = Membership.objects.filter(production=production, person=self.person, removed=False)
            if not mine.filter(role=Membership.Role.SUPERVISOR).exists():
                people.join(write, self.person, Membership.Role.SUPERVISOR)
        return CameIn(
            production, write, {table.name: len(rows) for table, rows in made.items()}, self.left_out
        )

    def _who(self) -> list[Person]:
        found: list[Person] = []
        for name in self.file.people():
            if name == self.person.shown_name and self.person not in found:
                found.append(self.person)
                continue
            account = Person(username=_free_username(name), first_name=name, is_active=False)
            account.set_unusable_password()
            account.save()
            found.append(account)
        return found

    def _rows(self, table: Table) -> list[Any]:
        known = {column.attname for column in table.columns}
        strange = sorted({name for row in self._told[table] for name in row} - known)
        self.left_out += [f"“{name}” of {table.name}" for name in strange]
        return [self._row(table, number, row) for number, row in enumerate(self._told[table], 1)]

    def _row(self, table: Table, number: int, told: Mapping[str, Any]) -> Any:
        row = table.model(pk=self._keys[table.model][number - 1])
        for column in row._meta.concrete_fields:
            if leads_to(column, Production):
                setattr(row, column.attname, self._keys[Production][0])
        try:
            for column in table.columns:
                setattr(row, column.attname, self._cell(column, told))
            if table.model is Change:
                self._own_names(row)
            if table.name == "takes" and row.shown is not None:
                row.shown = self._known_key(Write, row.shown)
        except cells.CellError as error:
            refused(f"“{self.file.name}”: {table.name}, row {number}: {error}.")
        return row

    def _cell(self, column: Any, told: Mapping[str, Any]) -> Any:
        if column.attname not in told:  # by an older server, that had no such column
            if column.default is not NOT_PROVIDED:
                return column.get_default()
            if column.null or column.blank:
                return None if column.null else ""
            raise cells.CellError(f"{column.attname} is missing")
        value = told[column.attname]
        try:
            if column.is_relation and value is not None:
                return self._key(column.related_model, value)
            return cells.read(column, value)
        except cells.CellError as error:
            raise cells.CellError(f"{column.attname} {error}") from None

    def _key(self, model: Any, key: Any) -> int:
        keys = [one.pk for one in self._people] if model is Person else self._keys[model]
        if isinstance(key, bool) or not isinstance(key, int) or not 1 <= key <= len(keys):
            raise cells.CellError(f"names a row that is not there: {str(key)[:40]}")
        return int(keys[key - 1])

    def _own_names(self, row: Change) -> None:
        """The rows that the history speaks of, by what they are called here; 0 for what stayed behind."""
        model = ROWS_OF_KINDS.get(row.kind)
        if model is None and row.kind not in KINDS_THAT_STAY_BEHIND:
            raise cells.CellError(f"a change of a kind that nobody knows: {row.kind[:40]!r}")
        row.row_id = self._known_key(model, row.row_id) if model else 0
        row.before, row.after = (
            renamed(row.field, value, self._known_key) for value in (row.before, row.after)
        )

    def _known_key(self, model: Any, key: int) -> int:
        return self._key(model, key) if key else 0

    def _pictures(self, rows: list[StoredFile]) -> None:
        for row in rows:
            if row.kind not in ENDINGS:
                refused(f"“{self.file.name}”: the picture “{row.name}” is neither a PNG nor a JPEG.")
            data = self.file.file(row.sha256, row.kind, row.name)
            if kind_of(data[:8192]) != row.kind:
                refused(f"“{self.file.name}”: the picture “{row.name}” is not what it says it is.")
            looked_at(row.name, data)
            row.size_bytes = len(data)
            row.file.name = path_of(row, row.name)
            row.file.storage.save(row.path, ContentFile(data))
            self.kept.append(row)


def _where(error: Exception) -> str:
    """The rule of the database that was broken, by its name."""
    rule = getattr(getattr(error.__cause__, "diag", None), "constraint_name", None)
    return f": it breaks the rule “{str(rule).replace('_', ' ')}”" if rule else ""


def _free_username(name: str) -> str:
    base = slugify(name)[:40] or "somebody"
    taken = set(Person.objects.filter(username__startswith=base).values_list("username", flat=True))
    return free_name(base, taken)
