"""The file: a zip of JSON tables, pictures, and two CSV tables for people to read; opened in limits."""

from __future__ import annotations

import hashlib
import json
import math
import zipfile
import zlib
from collections.abc import Iterator
from typing import IO, Any, NoReturn

from jungoptic.app.moving import cells
from jungoptic.app.moving.tables import TABLES, Table
from jungoptic.core.errors import InputError

FORMAT = "jungoptic production"
MAJOR, MINOR = 1, 0
HEAD, SCHEMA, SHOTS, TAKES = "production.json", "schema.json", "shots.csv", "takes.csv"
TABLE, FILE = "tables/", "files/"
ENDINGS = {"image/jpeg": ".jpg", "image/png": ".png"}
MOST_BYTES = 4_000_000_000
MOST_MEMBERS = 50_000
MOST_TABLES_BYTES = 150_000_000
MOST_FILE_BYTES = 40_000_000
MOST_PEOPLE = 500


def table_member(table: Table) -> str:
    """Where the rows of a table stand."""
    return f"{TABLE}{table.name}.json"


def file_member(sha256: str, kind: str) -> str:
    """Where a picture stands."""
    return f"{FILE}{sha256}{ENDINGS.get(kind, '')}"


def schema() -> dict[str, Any]:
    """All tables by JSON Schema (2020-12)."""
    return {
        "$schema": "https://json-schema.org/draft/2020-12/schema",
        "title": f"{FORMAT} {MAJOR}.{MINOR}",
        "description": "Each table is an array of rows. A row is called by its place in the table, from 1 on"
        " (its key); people by their place in the head's list. Units stand at the end of a column's name.",
        "type": "object",
        "properties": {
            table.name: {
                "type": "array",
                "items": {
                    "type": "object",
                    "properties": {field.attname: cells.schema(field) for field in table.columns},
                    "required": [field.attname for field in table.columns],
                },
            }
            for table in TABLES
        },
    }


def refused(message: str) -> NoReturn:
    """Say what is wrong with the file. Raises InputError."""
    raise InputError.at("file", message)


class Packed:
    """A production's file, opened to be read. Raises InputError at ``file`` for what is none, or is damaged,
    newer, or larger than it may be.
    """

    def __init__(self, name: str, source: IO[bytes]) -> None:
        self.name = name
        self._left = MOST_TABLES_BYTES
        try:
            self._zip = zipfile.ZipFile(source)
        except (zipfile.BadZipFile, OSError, ValueError, NotImplementedError):
            refused(f"“{name}” is no zip file, or it is damaged: take it out of its production once more.")
        self._look_at_members()
        self.head = self._head()

    def _look_at_members(self) -> None:
        members = self._zip.infolist()
        if len(members) > MOST_MEMBERS:
            refused(f"“{self.name}” holds {len(members)} files; up to {MOST_MEMBERS} are read.")
        if sum(one.file_size for one in members) > MOST_BYTES:
            refused(f"“{self.name}” grows to more than {MOST_BYTES / 1e9:.0f} GB when it is opened.")
        for one in members:
            if one.filename.startswith(("/", "\\")) or ".." in one.filename or "\\" in one.filename:
                refused(f"“{self.name}” holds a file whose name leads elsewhere: {one.filename[:80]}.")
            if one.flag_bits & 1:
                refused(f"“{self.name}” is locked by a password: unlock it first.")
        self.members = [one.filename for one in members]
        if len(set(self.members)) != len(self.members):
            refused(f"“{self.name}” holds two files of the same name.")

    def _head(self) -> dict[str, Any]:
        if HEAD not in self.members:
            refused(f"“{self.name}” is no production that was taken out here: it has no {HEAD}.")
        head = self._json(HEAD)
        if not isinstance(head, dict) or head.get("format") != FORMAT:
            refused(f"“{self.name}” is no production that was taken out here.")
        major, _, minor = str(head.get("version", "")).partition(".")
        if major != str(MAJOR) or not minor.isdecimal():
            refused(
                f"“{self.name}” is of version {str(head.get('version'))[:12]} of the file; this server reads"
                f" version {MAJOR}. Bring this server up to date, or take the production out by one of its"
                " version."
            )
        return head

    def _content(self, member: str, most: int) -> bytes:
        """A member, not more of it than ``most`` bytes. Raises InputError."""
        try:
            with self._zip.open(member) as opened:
                data = opened.read(most + 1)
        except (zipfile.BadZipFile, zlib.error, OSError, EOFError, NotImplementedError, RuntimeError):
            refused(f"“{self.name}” is damaged: {member} cannot be read.")
        if len(data) > most:
            refused(f"“{self.name}” is too large: {member} grows to more than {most / 1e6:.0f} MB.")
        return data

    def _json(self, member: str) -> Any:
        data = self._content(member, self._left)
        self._left -= len(data)

        def whole(text: str) -> float:
            if not math.isfinite(value := float(text)):
                raise ValueError(text)
            return value

        try:
            return json.loads(data, parse_float=whole, parse_constant=whole)
        except (ValueError, RecursionError):
            refused(f"“{self.name}” is damaged: {member} is no JSON.")

    def rows(self, table: Table) -> list[dict[str, Any]]:
        """The rows of a table; none where the file does not know it."""
        member = table_member(table)
        if member not in self.members:
            return []
        rows = self._json(member)
        if not isinstance(rows, list) or not all(isinstance(row, dict) for row in rows):
            refused(f"“{self.name}”: {member} is no table of rows.")
        return rows

    def people(self) -> list[str]:
        """What the people are called whom the rows name."""
        people = self.head.get("people", [])
        if not isinstance(people, list) or len(people) > MOST_PEOPLE:
            refused(f"“{self.name}” names more than {MOST_PEOPLE} people, or none as they should be named.")
        names = [one.get("name") if isinstance(one, dict) else None for one in people]
        if not all(isinstance(name, str) and 0 < len(name) <= 150 and "\x00" not in name for name in names):
            refused(f"“{self.name}”: a person in {HEAD} has no name, or one of more than 150 characters.")
        return [str(name) for name in names]

    def file(self, sha256: str, kind: str, name: str) -> bytes:
        """The bytes of a picture, which are what they say. Raises InputError."""
        member = file_member(sha256, kind)
        if member not in self.members:
            refused(f"“{self.name}” is not whole: the picture “{name}” is missing.")
        data = self._content(member, MOST_FILE_BYTES)
        if hashlib.sha256(data).hexdigest() != sha256:
            refused(f"“{self.name}” is damaged: the picture “{name}” is not what was taken out.")
        return data

    def strange(self) -> Iterator[str]:
        """What this server does not know of: it stays out, and whoever brings the file in is told."""
        known = {HEAD, SCHEMA, SHOTS, TAKES, *map(table_member, TABLES)}
        for member in self.members:
            if member not in known and not member.startswith(FILE):
                yield member
