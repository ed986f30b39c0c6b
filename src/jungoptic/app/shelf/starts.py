"""Kit to begin with, by generic class."""

from __future__ import annotations

import tomllib
from functools import cache
from pathlib import Path
from typing import Any

from jungoptic.app.base.edits import Writing
from jungoptic.app.base.names import free_name
from jungoptic.app.kit.models import Camera
from jungoptic.app.productions.models import Production
from jungoptic.app.shelf.keeping import add
from jungoptic.app.shelf.rows import KINDS
from jungoptic.core.errors import InputError

_USUAL_PX = (3840, 2160)


@cache
def starts() -> dict[str, dict[str, Any]]:
    """By key: its title and its rows."""
    return tomllib.loads((Path(__file__).parent / "starts.toml").read_text())


def put_in(write: Writing, key: str) -> int:
    """All that belongs to one starting point; what has a name that is taken gets a number behind it.

    Returns how many things were added. Raises InputError.
    """
    if key not in starts():
        raise InputError.at("start", f"There is no such start: {', '.join(starts())}.")
    upright = Production.objects.get(pk=write.production_id).upright
    write.title = f"Kit: {starts()[key]['title'][0].lower()}{starts()[key]['title'][1:]}"
    became: dict[str, int] = {}
    for row in starts()[key]["rows"]:
        fields = {name: value for name, value in row.items() if name not in ("kind", "of", "gear")}
        kind = row["kind"]
        if "gear" in row:
            fields["kind"] = row["gear"]
        if "of" in row:
            fields["camera_id"] = became[row["of"]]
        if kind == "mode" and upright:
            fields |= turned(fields["recorded_width_px"], fields["recorded_height_px"])
        if kind != "mode":
            fields["name"] = _free(write, kind, row["name"])
        made = add(write, kind, fields)
        if isinstance(made, Camera):
            became[row["name"]] = made.pk
    return len(starts()[key]["rows"])


def turned(width_px: int, height_px: int) -> dict[str, Any]:
    """A recording of so many pixels with the camera on its side."""
    return recording(height_px, width_px)


def recording(width_px: int, height_px: int) -> dict[str, Any]:
    """A recording of so many pixels, and what it is called."""
    return {
        "name": f"{width_px} × {height_px}",
        "recorded_width_px": width_px,
        "recorded_height_px": height_px,
    }


def new_recording(upright: bool) -> dict[str, Any]:
    """What a new recording begins with: in an upright film cameras are turned."""
    return turned(*_USUAL_PX) if upright else recording(*_USUAL_PX)


def _free(write: Writing, kind: str, name: str) -> str:
    rows = KINDS[kind].model._default_manager.filter(production=write.production_id, removed=False)
    taken = set(rows.values_list("name", flat=True))
    return free_name(name, taken, between=", ")
