"""Shots from and to CSV (RFC 4180).

Columns are matched by name, whatever their order; the separator is found by itself.
"""

from __future__ import annotations

import csv
import io
import re
from collections.abc import Iterable
from typing import TYPE_CHECKING

from jungoptic.app.base.csv_cells import delimiter_of, harmless

from .candidates import MOST_SHOTS, Candidate, Fault, Read

if TYPE_CHECKING:
    from jungoptic.app.breakdown.schemas import WallLine

COLUMNS: dict[str, tuple[str, ...]] = {
    "code": ("code", "shot", "shot code", "name", "id", "number", "shot number"),
    "title": ("title", "shot title", "what"),
    "description": ("description", "what happens", "action", "line", "notes", "note"),
    "length_frames": (
        "length_frames",
        "frames",
        "length",
        "duration",
        "length (frames)",
        "duration (frames)",
    ),
    "place": ("place", "location", "set", "scene place"),
    "position": ("position", "order", "cut order", "place in the cut"),
}
_BY_NAME = {name: column for column, names in COLUMNS.items() for name in names}
_LONGEST = {"code": 16, "title": 120, "place": 80}
_CODE = re.compile(r"^[\w.\-/ ]+$")


def read_csv(text: str) -> Read:
    """Candidates of a CSV file. Every fault says its line and column; nothing is guessed."""
    reader = csv.reader(
        io.StringIO(text.lstrip("\ufeff"), newline=""),
        delimiter=delimiter_of(text.lstrip("\ufeff")),
        strict=True,
    )
    faults: list[Fault] = []
    found: list[Candidate] = []
    notes: list[str] = []
    try:
        header = [cell.strip() for cell in next(reader, [])]
        columns = [
            _BY_NAME.get(cell.casefold().replace("_", " "), _BY_NAME.get(cell.casefold(), ""))
            for cell in header
        ]
        if "code" not in columns and "title" not in columns:
            return Read(
                "csv",
                faults=(
                    Fault(
                        1, "", "The first line must name the columns; at least “code” or “title” is needed."
                    ),
                ),
            )
        doubled = {column for column in columns if column and columns.count(column) > 1}
        if doubled:
            return Read(
                "csv",
                faults=(
                    Fault(
                        1, sorted(doubled)[0], f"Two columns say “{sorted(doubled)[0]}”; keep one of them."
                    ),
                ),
            )
        unread = [cell for cell, column in zip(header, columns, strict=True) if cell and not column]
        if unread:
            notes.append(f"Not read: {', '.join(unread)}.")
        for row in reader:
            line = reader.line_num
            if not any(cell.strip() for cell in row):
                continue
            if len(row) > len(header):
                faults.append(
                    Fault(
                        line,
                        str(len(header) + 1),
                        f"{len(row)} cells stand in this line and the first line names {len(header)} columns:"
                        " a comma too many?",
                    )
                )
                continue
            values = {column: cell.strip() for column, cell in zip(columns, row, strict=False) if column}
            found.append(_candidate(line, values, header, columns, faults))
            if len(found) > MOST_SHOTS:
                faults.append(Fault(line, "", f"More than {MOST_SHOTS} shots: split the file."))
                break
    except csv.Error as error:
        faults.append(
            Fault(reader.line_num, "", f"The line cannot be read: {error}. A quotation mark may be missing.")
        )
    return Read("csv", tuple(found), tuple(faults), tuple(notes))


def _candidate(
    line: int, values: dict[str, str], header: list[str], columns: list[str], faults: list[Fault]
) -> Candidate:
    def named(column: str) -> str:
        return header[columns.index(column)]

    numbers: dict[str, int | None] = {}
    for column, least in (("length_frames", 1), ("position", 0)):
        text = values.get(column, "")
        if not text:
            numbers[column] = None
            continue
        if not re.fullmatch(r"\d{1,7}", text) or int(text) < least:
            faults.append(
                Fault(
                    line,
                    named(column),
                    f"{named(column)} must be a whole number from {least} on; “{text[:40]}” was given.",
                )
            )
            numbers[column] = None
        else:
            numbers[column] = int(text)
    for column, most in _LONGEST.items():
        if len(values.get(column, "")) > most:
            faults.append(
                Fault(
                    line,
                    named(column),
                    f"{named(column)} may have {most} characters; {len(values[column])} were given.",
                )
            )
    code = values.get("code") or None
    if code and not _CODE.match(code):
        faults.append(
            Fault(
                line, named("code"), f"A code is letters, digits, points and dashes; “{code[:40]}” was given."
            )
        )
    if "code" in columns and not code:
        faults.append(Fault(line, named("code"), "The code is missing."))
    return Candidate(
        line,
        code,
        values.get("title") or None,
        values.get("description") or None,
        numbers["length_frames"],
        values.get("place") or None,
        numbers["position"],
    )


_OUT = (
    "code",
    "title",
    "description",
    "frames",
    "place",
    "order",
    "recipes",
    "verdict",
    "hours",
    "hours left",
    "layers",
    "layers shot",
    "open cautions",
    "day",
)
NOT_JUDGED = "not judged"  # and so nobody knows its cautions


def write_csv(lines: Iterable[WallLine]) -> str:
    """The wall as CSV.

    A cell that a spreadsheet would take for a formula is kept as text by a leading quote mark.
    """
    out = io.StringIO()
    writer = csv.writer(out)
    writer.writerow(_OUT)
    for one in lines:
        cells = (
            one.code,
            one.title,
            one.description,
            one.length_frames,
            one.place,
            one.position,
            "; ".join(one.recipes),
            one.verdict or (NOT_JUDGED if one.fault else ""),
            f"{one.hours:.1f}",
            f"{one.hours_left:.1f}",
            one.layers,
            one.shot_layers,
            NOT_JUDGED if one.fault else "; ".join(one.open_hazards),
            one.shoot_on or "",
        )
        writer.writerow([harmless(cell) if isinstance(cell, str) else cell for cell in cells])
    return out.getvalue()
