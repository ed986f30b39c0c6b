"""Calls as a page makes them, with every field that the operation knows: what the malformed ones are made
from.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass, field, replace
from typing import Any

from django.core.files.uploadedfile import SimpleUploadedFile

from jungoptic.app.builds.models import Build
from jungoptic.app.costs.models import JOB_FIELDS
from jungoptic.app.productions.film import FIELDS as FILM_FIELDS
from jungoptic.app.shelf.rows import KINDS as KIT_KINDS
from jungoptic.app.shots.edit import KINDS
from jungoptic.app.shots.models import Layer, Shot
from jungoptic.core.breakdown import Figures, Job
from jungoptic.core.calculation import CALCULATIONS
from jungoptic.core.handbook import example_of

from .conftest import Caller
from .seen import version_seen
from .test_access import calls
from .test_writes import BODIES, Demo

FOUNTAIN = (
    "INT. MILL - DAY\n\nOrla lifts the gate.\n\n[[note]]\n\nEXT. QUAY - NIGHT #2A#\n\nThe tide comes.\n"
)
CSV = "shot,title,description,length,place\r\nX010,The gate,It opens,48,The quay\r\n"
EDL = "TITLE: CUT\n\n001  AX V C 01:00:00:00 01:00:02:00 00:00:00:00 00:00:02:00\n* FROM CLIP NAME: TM010\n"


@dataclass(frozen=True)
class Call:
    """One call; ``path`` without the query, ``files`` where the body is a form."""

    method: str
    path: str
    body: Any = None
    query: Mapping[str, Any] = field(default_factory=dict)
    files: Mapping[str, SimpleUploadedFile] = field(default_factory=dict)


def plain(value: Any) -> Any:
    """A column's value as JSON has it; None for what is no column's."""
    if hasattr(value, "isoformat"):
        return value.isoformat()
    if isinstance(value, tuple | list):
        return [plain(one) for one in value]
    return value if isinstance(value, bool | int | float | str | dict) else None


def _values(row: Any, names: Any) -> dict[str, Any]:
    return {name: plain(getattr(row, name, None)) for name in sorted(names)}


def _values_of(bench: dict[str, Any], kind: str) -> list[tuple[int, dict[str, Any]]]:
    """The rows of a kind with what may be changed of each, as the bench shows it."""
    lit = bench["set_ups"]
    rows = {
        **bench,
        "shot": [{"id": bench["shot_id"], **bench["shot"]}],
        "lamps": [lamp for one in lit for lamp in one["lamps"]],
        "backings": [one["backing"] for one in lit if one["backing"]],
    }[kind]
    of_others = ("set_up_id",) if kind == "layers" else ()
    return [
        (
            one["id"],
            {name: value for name, value in one["values"].items() if name in KINDS[kind].fields}
            | {name: one[name] for name in of_others},
        )
        for one in rows
    ]


def _rows(bench: dict[str, Any], wrapped: bool) -> dict[str, Any]:
    """One row of each kind with every field as it stands."""
    found: dict[str, Any] = {}
    for name in KINDS:
        for pk, values in _values_of(bench, name)[:1]:
            found[name] = {pk: {"version": 1, "changes": values} if wrapped else values}
    return found


ADDED: dict[str, dict[str, Any]] = {
    "layer": {
        "name": "Another",
        "kind": "model",
        "combine": "key",
        "near_m": 3.0,
        "width_m": 1.0,
        "scale": 4,
    },
    "lamp": {"name": "Another", "intensity_cd": 900, "across_m": 1.0, "height_m": 2.0, "level": 0.5},
    "line": {"kind": "keep_clear", "points": [[10, 10], [200, 10], [200, 200]], "note": "Clear"},
}


def _of_shots(demo: Demo) -> Iterator[Call]:
    supervisor = Caller("supervisor")
    for code in ("TM010", "TM020"):
        shot = Shot.objects.get(production=demo.production, code=code)
        bench = supervisor.bench(shot)
        yield Call("post", f"/shots/{shot.pk}/changes", _rows(bench, wrapped=True))
        yield Call("post", f"/shots/{shot.pk}/trial", _rows(bench, wrapped=False))
        layer = Layer.objects.filter(shot=shot, set_up__isnull=False)[0]
        actual = dict(_values_of(bench, "set_ups"))[layer.set_up_id or 0]
        said = {
            "actual": actual,
            "note": "first",
            "circled": True,
            "recorded_at": "2027-10-23T16:30:00+02:00",
        }
        yield Call("post", f"/layers/{layer.pk}/takes", {**said, "shown": demo.newest()})
        for what, fields in ADDED.items():
            said = {"what": what, "fields": fields, "like_set_up": layer.set_up_id}
            yield Call("post", f"/shots/{shot.pk}/add", said)
    shot = demo.shot
    bench = supervisor.bench(shot)
    line = _values(
        shot, ("code", "title", "description", "length_frames", "shoot_on", "position", "place_id")
    )
    yield Call("patch", f"/shots/{shot.pk}/line", {"changes": line})
    job = Job().model_dump()
    yield Call("patch", f"/shots/{shot.pk}/costs", {"changes": {name: job[name] for name in JOB_FIELDS}})
    trial = {"school": "measured", "units": "metric", "basis": "planned", "frame": 12, "after_finish": True}
    yield Call("get", f"/shots/{shot.pk}/bench", query={**trial, "selected": demo.mill.pk})
    rows = _rows(bench, wrapped=False)
    yield Call(
        "post", f"/shots/{shot.pk}/picture", {"width_px": 160, "frame": 1, "only": demo.mill.pk, **rows}
    )
    locked = {"locked": ["focal_length_mm", "iso", "f_number"], "units": "metric"}
    for what in ("solve", "scales"):
        yield Call("post", f"/layers/{demo.mill.pk}/{what}", locked)


def _of_productions(demo: Demo) -> Iterator[Call]:
    of = f"/productions/{demo.production.pk}"
    film = _values(demo.production, FILM_FIELDS)
    yield Call("patch", of, {"changes": film})
    yield Call("post", f"{of}/tried", {"changes": film, "start": 0})
    yield Call("post", "/films", {"values": film, "source": demo.production.pk})
    yield Call("post", "/films/asked", {"values": film})
    yield Call("patch", f"{of}/figures", {"changes": Figures().model_dump()})
    for name, kind in KIT_KINDS.items():
        rows: Any = kind.model._default_manager  # type: ignore[attr-defined]
        row = rows.filter(**{kind.to_production: demo.production}).first()
        if row is None:
            continue
        values = {key: plain(value) for key, value in kind.values(row).items()}
        yield Call("patch", f"{of}/kit/{name}/{row.pk}", {"changes": values})
        yield Call("post", f"{of}/kit/{name}", {"fields": {**values, "name": f"Another {name}"}})
    abilities = {"scale": 12, "f_number": 8, "iso": 800, "card_gb": 64, "units": "metric"}
    yield Call("get", f"{of}/kit-abilities", query=abilities)
    asked = {
        "shot": demo.shot.pk,
        "kinds": "layers",
        "row": demo.mill.pk,
        "mine": True,
        "limit": 5,
        "before": 9,
    }
    yield Call("get", f"{of}/history", query=asked)
    for name, text in (
        ("a.csv", CSV),
        ("a.fountain", FOUNTAIN),
        ("a.edl", EDL),
        ("", "TM900 New\nTM910 Newer"),
    ):
        yield Call("post", f"{of}/preview", {"name": name, "text": text})
        yield Call("post", f"{of}/take-in", {"name": name, "text": text})
    build = Build.objects.filter(production=demo.production, removed=False)[0]
    fields = _values(
        build, ("name", "scale", "spare_pct", "width_mm", "height_mm", "kerf_mm", "price", "place_id")
    )
    pieces = [
        {"name": "Wall", "x_m": 0, "z_m": 4, "turn_deg": 0, "width_m": 3, "height_m": 2.4, "made": "built"}
    ]
    views = [{"shot_id": demo.shot.pk, "x_m": 0, "z_m": 0, "heading_deg": 0, "establishing": True}]
    yield Call("put", f"/builds/{build.pk}", {"fields": fields, "pieces": pieces, "views": views})


def _of_nobody() -> Iterator[Call]:
    for name, entry in CALCULATIONS.items():
        values = example_of(entry)
        yield Call("post", f"/calculations/{name}", values)
        field = next((key for key, value in values.items() if isinstance(value, int | float)), "")
        yield Call("post", f"/calculations/{name}/around", {"values": values, "field": field, "points": 5})
    yield Call(
        "patch", "/session", {"name": "Su", "units": "imperial", "theme": "stage", "single_keys": True}
    )
    yield Call("put", "/session/password", {"old": "tidemill-demo", "new": "a long and wide estuary"})
    yield Call("post", "/session", {"username": "supervisor", "password": "no such"})
    yield Call("post", "/qr", {"text": "https://127.0.0.1:8000/"})
    for what in ("", "/account", "/join"):
        said = {"token": "t" * 43} | (
            {"username": "new", "name": "New", "password": "a wide estuary"} if what == "/account" else {}
        )
        yield Call("post", f"/invitation{what}", said)
    yield Call("get", "/guide", query={"sees": "water", "without": "stage"})


def _parted(path: str) -> tuple[str, dict[str, str]]:
    at, _, asked = path.partition("?")
    return at, dict(pair.split("=", 1) for pair in asked.split("&") if "=" in pair)


def every_call(take: Any, card: Any) -> list[Call]:
    """The demo's calls, each operation at least once, the versions as they stand."""
    demo = Demo()
    Caller("supervisor")("patch", f"/shots/{demo.other.pk}/line", {"changes": {"title": "To be taken back"}})
    found = []
    for method, path, body in calls(demo.production, demo.shot, demo.mill, take, card):
        at, asked = _parted(path)
        found.append(Call(method, at, body, asked))
    for operation, make in BODIES.items():
        path, body = make(demo)
        files = {name: one for name, one in body.items() if isinstance(one, SimpleUploadedFile)}
        left = {name: one for name, one in body.items() if name not in files}
        found.append(Call(operation.split()[0], path, None if files else left, files=files))
    found += [*_of_shots(demo), *_of_productions(demo), *_of_nobody()]
    return found


def as_seen(call: Call) -> Call:
    """The call with the versions as they stand now."""
    if call.method == "get" or call.files:
        return call
    if call.path.endswith("/changes"):
        return replace(
            call,
            body={
                kind: {pk: _row_seen(kind, pk, one) for pk, one in rows.items()}
                for kind, rows in call.body.items()
            },
        )
    seen = version_seen(call.path, call.body or {})
    if seen is None:
        return call
    if call.method == "delete":
        return replace(call, query={**call.query, "version": seen})
    return replace(call, body={**(call.body or {}), "version": seen})


def _row_seen(kind: str, pk: int, edit: dict[str, Any]) -> dict[str, Any]:
    version = KINDS[kind].model.objects.filter(pk=pk).values_list("version", flat=True).first()
    return {**edit, "version": version or 1}
