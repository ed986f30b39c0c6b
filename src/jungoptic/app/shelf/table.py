"""The kit as one table, CSV (RFC 4180), out and in."""

from __future__ import annotations

import csv
import io
from collections.abc import Mapping
from typing import Any

from jungoptic.app.base.csv_cells import delimiter_of, harmless
from jungoptic.app.base.edits import Writing
from jungoptic.app.kit.models import Camera, Lens
from jungoptic.app.shelf.keeping import add, change
from jungoptic.app.shelf.rows import KINDS, Kind
from jungoptic.core.errors import FieldProblem, InputError
from jungoptic.core.handbook import record_fields

MOST_ROWS, MOST_CHARS = 2000, 2_000_000
_NAMED_FOR_ID = {"camera_id": ("camera", Camera), "on_id": ("on", Lens)}
_GEAR = "gear_kind"  # the column "kind" says what a line is of


def _columns() -> list[str]:
    names: dict[str, None] = {}
    for key, kind in KINDS.items():
        for name in kind.columns:
            names[_column(key, name)] = None
    return ["kind", *names]


def _column(key: str, name: str) -> str:
    if key == "gear" and name == "kind":
        return _GEAR
    return _NAMED_FOR_ID[name][0] if name in _NAMED_FOR_ID else name


def write_table(production_id: int) -> str:
    """Everything that is not retired; cameras and bare lenses by name."""
    out = io.StringIO()
    writer = csv.DictWriter(out, _columns(), restval="", lineterminator="\r\n")
    writer.writeheader()
    for key, kind in KINDS.items():
        rows: Any = kind.model._default_manager.filter(**{kind.to_production: production_id}, removed=False)
        for row in rows.order_by("pk"):
            said = {_column(key, name): _cell(row, name, value) for name, value in kind.values(row).items()}
            writer.writerow({"kind": key, **said})
    return out.getvalue()


def _cell(row: Any, name: str, value: Any) -> str:
    if value is None:
        return ""
    if name in _NAMED_FOR_ID:
        value = getattr(row, name.removesuffix("_id")).name
    if isinstance(value, bool):
        return "yes" if value else "no"
    if isinstance(value, list):
        return " ".join(f"{one:.10g}" for one in value)
    if isinstance(value, float):
        return f"{value:.10g}"
    return harmless(str(value))


def read_table(write: Writing, text: str) -> tuple[int, int]:
    """Lines whose kind and name are there already change it, the others are new.

    Returns how many were added and changed. Raises InputError with line and column; then nothing is changed.
    """
    if len(text) > MOST_CHARS:
        raise InputError.at("text", f"A kit has at most {MOST_CHARS:,} characters here.")
    plain = text.removeprefix("\ufeff")
    reader = csv.DictReader(io.StringIO(plain, newline=""), delimiter=delimiter_of(plain), strict=True)
    added = changed = 0
    try:
        columns = [name.strip() for name in reader.fieldnames or []]
        reader.fieldnames = columns
        unknown = [name for name in columns if name and name not in _columns()]
        if "kind" not in columns or "name" not in columns or unknown:
            said = f"; it has no column “{unknown[0]}”" if unknown else ""
            raise InputError.at(
                "text", f"The first line names the columns, “kind” and “name” among them{said}."
            )
        for line in reader:
            if reader.line_num > MOST_ROWS:
                raise InputError.at("text", f"A kit has at most {MOST_ROWS} lines.")
            try:
                new = _take_in(write, line)
            except InputError as error:
                raise InputError(
                    *(
                        FieldProblem("text", f"Line {reader.line_num}, {one.field or 'line'}: {one.message}")
                        for one in error.problems
                    )
                ) from None
            added, changed = added + new, changed + (not new)
    except csv.Error as error:
        raise InputError.at("text", f"Line {reader.line_num} cannot be read: {error}.") from None
    return added, changed


def _take_in(write: Writing, line: Mapping[str | None, Any]) -> bool:
    cells = {name: (value or "").strip() for name, value in line.items() if isinstance(name, str)}
    if line.get(None):
        raise InputError.at("", "There are more cells than columns.")
    key = cells.get("kind", "")
    if key not in KINDS:
        raise InputError.at("kind", f"It is one of {', '.join(KINDS)}; “{key}” is none.")
    kind = KINDS[key]
    fields = _values(write, key, kind, cells)
    where: dict[str, Any] = {kind.to_production: write.production_id, "name": fields.get("name", "")}
    if key == "mode":
        where["camera_id"] = fields.get("camera_id")
    same: Any = kind.model._default_manager.filter(**where, removed=False).first()
    if same is None:
        add(write, key, fields)
        return True
    change(write, key, same.pk, same.version, fields)
    return False


def _values(write: Writing, key: str, kind: Kind, cells: Mapping[str, str]) -> dict[str, Any]:
    found: dict[str, Any] = {}
    for field in record_fields(kind.record):
        column = _column(key, field.name)
        text = cells.get(column, "")
        if column not in cells:
            continue
        if field.name in _NAMED_FOR_ID:
            found[field.name] = _id_of(write, column, text) if text else None
        elif not text:
            if field.optional:
                found[field.name] = (
                    None if field.kind in ("number", "integer") else "" if field.kind == "text" else []
                )
        else:
            found[field.name] = _value(field.kind, text)
    if found.get("on_id") is None:
        for name in ("dioptres", "tube_mm", "converter"):
            found.pop(name, None)
    return found


def _id_of(write: Writing, column: str, name: str) -> int:
    model: Any = dict(_NAMED_FOR_ID.values())[column]
    row = model._default_manager.filter(production=write.production_id, name=name, removed=False).first()
    if row is None:
        raise InputError.at(column, f"There is no {model.__name__.lower()} called “{name}” above this line.")
    return int(row.pk)


def _value(kind: str, text: str) -> Any:
    if kind == "flag":
        return {"yes": True, "true": True, "1": True, "no": False, "false": False, "0": False}.get(
            text.casefold(), text
        )
    if kind in ("number", "integer"):
        try:
            return float(text.replace(",", ".")) if kind == "number" else int(text)
        except ValueError:
            return text
    if kind not in ("text", "choice"):
        return [_value("number", one) for one in text.split()]
    return text.removeprefix("'")
