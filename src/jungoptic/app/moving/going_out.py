"""A production taken out: every row as it is at one moment."""

from __future__ import annotations

import csv
import io
import json
import zipfile
from collections.abc import Iterable, Iterator, Sequence
from typing import IO, Any

from django.db import connection, transaction
from django.utils import timezone

from jungoptic.app.base.csv_cells import harmless
from jungoptic.app.base.models import Write
from jungoptic.app.breakdown.wall import whole_wall
from jungoptic.app.exchange.tables import write_csv
from jungoptic.app.files.models import LostFileError, StoredFile
from jungoptic.app.moving import cells, packed
from jungoptic.app.moving.tables import ROWS_OF_KINDS, TABLES, Table, leads_to, person_columns, renamed
from jungoptic.app.people.models import Person
from jungoptic.app.productions.models import Membership, Production
from jungoptic.app.takes.models import Take
from jungoptic.core.errors import InputError
from jungoptic.core.match import worst


def pack(production_id: int, target: IO[bytes]) -> None:
    """Write a production's file. Raises InputError where a picture is in the storage no more."""
    shots = write_csv(whole_wall(production_id, "measured"))
    alone = not connection.in_atomic_block
    with transaction.atomic():
        if alone:
            with connection.cursor() as cursor:
                cursor.execute("SET TRANSACTION ISOLATION LEVEL REPEATABLE READ READ ONLY")
        with zipfile.ZipFile(target, "w", zipfile.ZIP_DEFLATED, allowZip64=True) as archive:
            out = _Out(production_id)
            tables = {table: list(out.rows(table)) for table in TABLES}
            archive.writestr(packed.HEAD, _text(out.head(tables)))
            archive.writestr(packed.SCHEMA, _text(packed.schema()))
            for table, rows in tables.items():
                archive.writestr(packed.table_member(table), _lines(rows))
            for stored in out.files:
                member = zipfile.ZipInfo(packed.file_member(stored.sha256, stored.kind))  # compressed already
                archive.writestr(member, _read(stored))
            archive.writestr(packed.SHOTS, shots)
            archive.writestr(packed.TAKES, _takes(production_id))


def _read(stored: StoredFile) -> bytes:
    try:
        return stored.read()
    except LostFileError as error:
        raise InputError.at("file", str(error)) from None


def _text(value: Any) -> str:
    return json.dumps(value, ensure_ascii=False, indent=1) + "\n"


def _lines(rows: Sequence[dict[str, Any]]) -> str:
    """A row a line, so that two files can be compared."""
    told = ",\n".join(json.dumps(row, ensure_ascii=False, separators=(",", ":")) for row in rows)
    return f"[\n{told}\n]\n" if rows else "[]\n"


class _Out:
    """What one production's rows are called in the file, and the rows."""

    def __init__(self, production_id: int) -> None:
        self.production_id = production_id
        self.files = self._pictures()
        self._keys = {table.model: self._keys_of(table) for table in TABLES}
        self._people = self._people_in_order()

    def _pictures(self) -> list[StoredFile]:
        """What layers and shots are seen as; papers are printed anew."""
        wanted = {
            pk
            for table in TABLES
            for field in table.columns
            if leads_to(field, StoredFile)
            for pk in table.rows(self.production_id).values_list(field.attname, flat=True)
        }
        return list(StoredFile.objects.filter(pk__in=wanted).order_by("pk"))

    def _keys_of(self, table: Table) -> dict[int, int]:
        if table.model is StoredFile:
            found: Iterable[int] = (stored.pk for stored in self.files)
        else:
            found = table.rows(self.production_id).values_list("pk", flat=True)
        return {pk: key for key, pk in enumerate(found, 1)}

    def _people_in_order(self) -> dict[int, int]:
        """The people by the order in which they came in, then those whom some row names besides."""
        members = Membership.objects.filter(production=self.production_id).order_by("pk")
        order = dict.fromkeys(members.values_list("person_id", flat=True))
        for table, column in person_columns():
            named = table.rows(self.production_id).exclude(**{column: None})
            order |= dict.fromkeys(pk for pk in named.values_list(column, flat=True) if pk not in order)
        return {pk: key for key, pk in enumerate(order, 1)}

    def head(self, tables: dict[Table, list[Any]]) -> dict[str, Any]:
        people = Person.objects.in_bulk(list(self._people))
        return {
            "format": packed.FORMAT,
            "version": f"{packed.MAJOR}.{packed.MINOR}",
            "title": Production.objects.values_list("title", flat=True).get(pk=self.production_id),
            "made_at": timezone.now().isoformat(timespec="seconds"),
            "people": [{"name": people[pk].shown_name} for pk in self._people],
            "rows": {table.name: len(rows) for table, rows in tables.items()},
        }

    def rows(self, table: Table) -> Iterator[dict[str, Any]]:
        rows = self.files if table.model is StoredFile else table.rows(self.production_id)
        for row in rows:
            yield self._row(table, row)

    def _row(self, table: Table, row: Any) -> dict[str, Any]:
        told = {field.attname: self._cell(field, getattr(row, field.attname)) for field in table.columns}
        if table.name == "changes":
            model = ROWS_OF_KINDS.get(row.kind)
            told["row_id"] = self.key(model, row.row_id) if model else 0
            for side in ("before", "after"):
                told[side] = renamed(row.field, told[side], self.key)
        if table.name == "takes" and row.shown is not None:
            told["shown"] = sum(pk <= row.shown for pk in self._keys[Write])
        return told

    def key(self, model: Any, pk: int) -> int:
        """What a row is called in the file; 0 for one that is not in it."""
        return self._keys[model].get(pk, 0)

    def _cell(self, field: Any, value: Any) -> Any:
        if not field.is_relation or value is None:
            return cells.written(value)
        return self._people[value] if leads_to(field, Person) else self.key(field.related_model, value)


_TAKE_COLUMNS = (
    "shot",
    "layer",
    "slate",
    "take",
    "circled",
    "recorded at (UTC)",
    "by",
    "verdict",
    "lens",
    "focal length (mm)",
    "stop",
    "shutter (°)",
    "frames/s",
    "ISO",
    "distance (m)",
    "focus (m)",
    "lens height (m)",
    "tilt (°)",
    "in it",
    "note",
)


def _takes(production_id: int) -> str:
    """What was shot, a line a take, for people to read."""
    out = io.StringIO()
    writer = csv.writer(out)
    writer.writerow(_TAKE_COLUMNS)
    takes = (
        Take.objects.filter(layer__shot__production=production_id)
        .select_related("layer__shot", "lens", "recorded_by")
        .prefetch_related("judgings__verdicts")
        .order_by("layer__shot__code", "layer__place", "number")
    )
    for take in takes:
        told = (
            take.layer.shot.code,
            take.layer.name,
            take.slate,
            take.number,
            "yes" if take.circled else "",
            f"{take.recorded_at:%Y-%m-%d %H:%M:%S}",
            take.recorded_by.shown_name,
            _verdict(take),
            take.lens.name,
            f"{take.focal_length_mm:g}",
            f"{take.f_number:g}",
            f"{take.shutter_angle_deg:g}",
            f"{take.capture_fps:g}",
            take.iso,
            f"{take.distance_m:g}",
            f"{take.focus_distance_m:g}",
            f"{take.lens_height_m:g}",
            f"{take.tilt_deg:g}",
            take.in_it,
            take.note,
        )
        writer.writerow([harmless(cell) if isinstance(cell, str) else cell for cell in told])
    return out.getvalue()


def _verdict(take: Take) -> str:
    """The worst of what was said last."""
    judgings = list(take.judgings.all())
    counts: dict[str, int] = {}
    for one in judgings[-1].verdicts.all() if judgings else ():
        if one.counts:
            counts[one.verdict] = counts.get(one.verdict, 0) + 1
    return worst(counts) if counts else ""
