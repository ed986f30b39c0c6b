"""Files that would do harm come in nowhere, and leave nothing behind."""

from __future__ import annotations

import hashlib
import io
import json
import zlib
from collections.abc import Callable
from typing import Any

import pytest
from django.core.files.storage import default_storage
from django.core.files.uploadedfile import SimpleUploadedFile
from PIL import Image

from jungoptic.app.base.models import Write
from jungoptic.app.files.models import FOLDER, StoredFile
from jungoptic.app.moving import packed
from jungoptic.app.people.models import Person
from jungoptic.app.productions.models import Production
from jungoptic.core.errors import InputError

from .conftest import Caller
from .moved import Files, come_in, out, with_rows
from .written import Demo


def _png(width: int, height: int) -> bytes:
    """A PNG that says it is so large."""
    small = io.BytesIO()
    Image.new("L", (1, 1)).save(small, "PNG")
    data = bytearray(small.getvalue())
    data[16:24] = width.to_bytes(4, "big") + height.to_bytes(4, "big")
    data[29:33] = zlib.crc32(data[12:29]).to_bytes(4, "big")
    return bytes(data)


def _with_picture(files: Files, data: bytes, kind: str = "image/png") -> Files:
    sha = hashlib.sha256(data).hexdigest()
    changed = with_rows(files, "files", lambda told: told[0].update(sha256=sha, kind=kind))
    return changed | {packed.file_member(sha, kind): data}


def _last_byte_off(files: Files) -> Files:
    name = next(one for one in files if one.startswith("files/"))
    return {**files, name: files[name][:-1] + b"\x00"}


def _first(name: str, **values: Any) -> Callable[[Files], Files]:
    return lambda files: with_rows(files, name, lambda told: told[0].update(values))


def _key(frame: int) -> dict[str, float]:
    return {"frame": frame, "x": 0.5, "y": 0.5, "eases_in": 0.0, "eases_out": 0.0}


HOSTILE: dict[str, tuple[Callable[[Files], Files], str]] = {
    "no head": (lambda f: {k: v for k, v in f.items() if k != "production.json"}, "no production.json"),
    "foreign": (lambda f: {"production.json": b'{"format": "other"}'}, "no production that was taken out"),
    "a name that leads elsewhere": (lambda f: {**f, "tables/../../evil": b"x"}, "leads elsewhere"),
    "an absolute name": (lambda f: {**f, "/etc/evil": b"x"}, "leads elsewhere"),
    "no JSON": (lambda f: {**f, "tables/shots.json": b"[{"}, "no JSON"),
    "no number": (lambda f: {**f, "tables/shots.json": b'[{"code": NaN}]'}, "no JSON"),
    "endless number": (lambda f: {**f, "tables/shots.json": b'[{"code": 1e999}]'}, "no JSON"),
    "nested": (lambda f: {**f, "tables/shots.json": b"[" * 200_000}, "no JSON"),
    "no rows": (lambda f: {**f, "tables/shots.json": b'{"code": 1}'}, "no table of rows"),
    "two productions": (lambda f: with_rows(f, "production", lambda t: t.append(t[0])), "one production"),
    "NUL": (_first("shots", title="a\x00b"), "shots, row 1: title holds a character that is none"),
    "half a letter": (_first("shots", title="\ud800"), "holds a character that is none"),
    "too long": (_first("shots", code="C" * 17), "code is refused"),
    "text for a number": (_first("shots", length_frames="12"), "length_frames must be of another kind"),
    "a yes for a number": (_first("shots", length_frames=True), "length_frames must be of another kind"),
    "too great": (_first("shots", length_frames=2**70), "length_frames is refused"),
    "empty": (_first("shots", code=None), "code may not be empty"),
    "missing": (lambda f: with_rows(f, "shots", lambda t: t[0].pop("code")), "code is missing"),
    "a row that is not there": (_first("layers", shot_id=999), "names a row that is not there"),
    "the row before the first": (_first("layers", shot_id=0), "names a row that is not there"),
    "a word that is none": (_first("members", role="owner"), "role is refused"),
    "twice the same": (lambda f: with_rows(f, "members", lambda t: t.append(t[0])), "contradicts itself"),
    "against the database": (_first("layers", scale=-1), "contradicts itself"),
    "against core": (_first("layers", kind="dragon"), "cannot be as the file says it"),
    "a set-up of another shot": (_first("layers", set_up_id=20), "cannot be as the file says it"),
    "a rig that goes nowhere": (_first("rigs", legs=[{"mm": "far"}]), "cannot be as the file says it"),
    "a box that is none": (_first("marked_pieces", box=[0.5]), "cannot be as the file says it"),
    "a path back in time": (_first("figure_points", keys=[_key(9), _key(2)]), "cannot be as the file says"),
    "a path of nothing": (_first("figure_points", keys=[{"frame": 2}]), "cannot be as the file says it"),
    "a foot that stands backwards": (_first("figure_points", planted=[[9, 2]]), "cannot be as the file says"),
    "a hyperlapse of nothing": (_first("hyperlapses", plan={"length_m": 0}), "cannot be as the file says it"),
    "no delivery": (_first("production", delivery_width_px=3), "the production cannot be"),
    "a change of nothing": (_first("changes", kind="weather"), "a kind that nobody knows"),
    "a moment without a zone": (_first("boards", at="2026-10-01T10:00:00"), "at must say its time zone"),
    "a picture that is none": (lambda f: _with_picture(f, b"GIF89a" + bytes(99)), "not what it says it is"),
    "an SVG": (lambda f: _with_picture(f, b"<svg/>", "image/svg+xml"), "neither a PNG nor a JPEG"),
    "a picture too large": (lambda f: _with_picture(f, _png(100_000, 100_000)), "too large"),
    "a picture that was changed": (_last_byte_off, "is not what was taken out"),
    "a picture that is missing": (
        lambda f: {name: data for name, data in f.items() if not name.startswith("files/")},
        "is missing",
    ),
    "nameless people": (
        lambda f: {
            **f,
            "production.json": json.dumps(
                {**json.loads(f["production.json"]), "people": [{"name": ""}]}
            ).encode(),
        },
        "has no name",
    ),
}


@pytest.fixture
def whole(production: Production) -> Files:
    supervisor = Caller("supervisor")
    supervisor("patch", f"/productions/{production.pk}", {"changes": {"title": "The Tide Mill"}})
    assert Demo().figure_point() and Demo().set_piece()
    return out(production)


def _stored() -> int:
    return sum(
        len(default_storage.listdir(f"{FOLDER}/{month}")[1]) for month in default_storage.listdir(FOLDER)[0]
    )


@pytest.mark.parametrize("what", HOSTILE)
def test_a_hostile_file_is_refused_at_the_file_and_nothing_of_it_stays(what: str, whole: Files):
    spoil, message = HOSTILE[what]
    before = (Production.objects.count(), Person.objects.count(), Write.objects.count(), _stored())
    with pytest.raises(InputError, match=message) as refused:
        come_in(spoil(whole))
    assert {one.field for one in refused.value.problems} == {"file"}
    after = (Production.objects.count(), Person.objects.count(), Write.objects.count(), _stored())
    assert before == after and StoredFile.objects.count()


def test_a_file_that_grows_is_not_read_to_its_end(whole: Files, monkeypatch):
    monkeypatch.setattr(packed, "MOST_TABLES_BYTES", 3_000_000)
    with pytest.raises(InputError, match=r"tables/shots\.json grows to more than"):
        come_in({**whole, "tables/shots.json": b" " * 50_000_000})
    monkeypatch.setattr(packed, "MOST_BYTES", 40_000_000)
    with pytest.raises(InputError, match="when it is opened"):
        come_in({**whole, "more": b" " * 50_000_000})
    monkeypatch.setattr(packed, "MOST_MEMBERS", 30)
    with pytest.raises(InputError, match="up to 30 are read"):
        come_in(whole)


@pytest.mark.parametrize("data", [b"", b"no zip", b"PK\x03\x04" + bytes(60)])
def test_what_is_no_zip_is_refused(supervisor: Caller, data: bytes):
    sent = {"file": SimpleUploadedFile("film.zip", data)} if data else {}
    answer = supervisor.client.post("/api/film-file", sent)
    assert answer.status_code == 422
    assert answer.json()["problems"][0]["field"] == "file"
