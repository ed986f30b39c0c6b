"""A production's file, opened, changed and brought in."""

from __future__ import annotations

import io
import json
import zipfile
from collections.abc import Callable
from typing import Any

from jungoptic.app.moving.coming_in import CameIn, bring_in
from jungoptic.app.moving.going_out import pack
from jungoptic.app.people.models import Person
from jungoptic.app.productions.models import Production

Files = dict[str, bytes]


def out(production: Production) -> Files:
    target = io.BytesIO()
    pack(production.pk, target)
    with zipfile.ZipFile(target) as archive:
        return {name: archive.read(name) for name in archive.namelist()}


def zipped(files: Files) -> io.BytesIO:
    target = io.BytesIO()
    with zipfile.ZipFile(target, "w", zipfile.ZIP_DEFLATED) as archive:
        for name, data in files.items():
            archive.writestr(name, data)
    target.seek(0)
    return target


def come_in(files: Files, username: str = "supervisor") -> CameIn:
    return bring_in(Person.objects.get(username=username), "film.zip", zipped(files))


def rows(files: Files, name: str) -> list[dict[str, Any]]:
    found: list[dict[str, Any]] = json.loads(files[f"tables/{name}.json"])
    return found


def with_rows(files: Files, name: str, change: Callable[[list[Any]], Any]) -> Files:
    told = rows(files, name)
    change(told)
    return {**files, f"tables/{name}.json": json.dumps(told).encode()}
