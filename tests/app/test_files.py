"""Files: known by what they contain, kept once, served in ranges, cleaned away when nobody refers to them; on
disk and in a store that speaks S3.
"""

from __future__ import annotations

import hashlib
import io
from collections.abc import Iterator
from datetime import timedelta
from pathlib import Path

import boto3
import pytest
from django.core.files import File
from django.db import transaction
from django.test import RequestFactory
from django.test.utils import override_settings
from moto import mock_aws
from PIL import Image

from jungoptic.app import settings as said
from jungoptic.app.boards.models import Board
from jungoptic.app.files import keeping
from jungoptic.app.files.cleaning import Cleaned, clean, unreferred
from jungoptic.app.files.keeping import keep, kind_of
from jungoptic.app.files.models import LostFileError, StoredFile
from jungoptic.app.files.serving import answer
from jungoptic.core.errors import InputError
from tests.demo_database import files_in

from .conftest import Caller

NOW = timedelta(0)
PDF = b"%PDF-1.7\n" + bytes(range(256)) * 40
KINDS = frozenset({"application/pdf"})


def drawn(kind: str) -> bytes:
    out = io.BytesIO()
    Image.new("RGB", (16, 9), "#808080").save(out, kind)
    return out.getvalue()


BUCKET = "the-tidemill"


@pytest.fixture(params=["disk", "S3"])
def storage(request: pytest.FixtureRequest, tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> Iterator[str]:
    """An empty storage of each kind, configured as whoever runs the server configures it."""
    if request.param == "disk":
        with files_in(tmp_path):
            yield "disk"
        return
    for name, value in {
        "BUCKET": BUCKET,
        "REGION": "eu-west-2",
        "KEY": "a-key",
        "SECRET": "a-secret",
    }.items():
        monkeypatch.setenv(f"JUNGOPTIC_S3_{name}", value)
    with mock_aws(), override_settings(STORAGES={**said.STORAGES, "default": said._files()}):
        boto3.client("s3", region_name="eu-west-2").create_bucket(
            Bucket=BUCKET, CreateBucketConfiguration={"LocationConstraint": "eu-west-2"}
        )
        yield "S3"


def contents(storage: str, tmp_path: Path) -> int:
    """How many contents the storage really holds."""
    if storage == "S3":
        return len(
            boto3.client("s3", region_name="eu-west-2").list_objects_v2(Bucket=BUCKET).get("Contents", [])
        )
    return sum(path.is_file() for path in tmp_path.rglob("*"))


@pytest.mark.parametrize(
    ("data", "kind"),
    [
        (drawn("PNG"), "image/png"),
        (drawn("JPEG"), "image/jpeg"),
        (drawn("TIFF"), "image/tiff"),
        (PDF, "application/pdf"),
        (b"nothing in particular", ""),
        (b"", ""),
    ],
)
def test_a_kind_is_told_by_the_content(data: bytes, kind: str) -> None:
    assert kind_of(data) == kind


def test_a_file_is_kept_once_and_comes_back_whole(storage: str, production, tmp_path: Path) -> None:
    kept = keep(production.pk, "card.pdf", PDF, KINDS)
    assert (kept.kind, kept.size_bytes, kept.sha256) == (
        "application/pdf",
        len(PDF),
        hashlib.sha256(PDF).hexdigest(),
    )
    assert kept.read() == PDF
    assert keep(production.pk, "the same under another name.pdf", io.BytesIO(PDF), KINDS) == kept
    assert contents(storage, tmp_path) == 1
    with pytest.raises(InputError, match=r"“card\.pdf” is image/png; it must be application/pdf"):
        keep(production.pk, "card.pdf", drawn("PNG"), KINDS)
    with pytest.raises(InputError, match="of no kind that is known here"):
        keep(production.pk, "card.pdf", b"hello", KINDS)
    assert contents(storage, tmp_path) == 1


def test_two_who_keep_the_same_at_once_keep_one(
    storage: str, production, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    """The other one comes between the question whether it is kept and the writing of the row."""

    def between(source: io.BytesIO) -> File:
        monkeypatch.undo()
        keep(production.pk, "theirs.pdf", PDF, KINDS)
        return File(source)

    monkeypatch.setattr(keeping, "File", between)
    assert keep(production.pk, "mine.pdf", PDF, KINDS).name == "theirs.pdf"
    assert StoredFile.objects.filter(kind="application/pdf").count() == contents(storage, tmp_path) == 1


# First and last byte and what is answered, after the examples of RFC 9110, 14.1.2 and 14.2 to 14.4 (there for
# 10000 bytes).
RANGES = [
    ("bytes=0-499", 206, 0, 500),
    ("bytes=500-999", 206, 500, 1000),
    ("bytes=-500", 206, len(PDF) - 500, len(PDF)),
    ("bytes=9500-", 206, 9500, len(PDF)),
    ("bytes=9500-999999", 206, 9500, len(PDF)),
    ("bytes=-999999", 206, 0, len(PDF)),
    ("bytes=0-0,-1", 200, 0, len(PDF)),
    ("bytes=9-1", 200, 0, len(PDF)),
    ("lines=0-1", 200, 0, len(PDF)),
    ("bytes=-", 200, 0, len(PDF)),
]


@pytest.mark.parametrize(("asked", "status", "begins", "ends"), RANGES)
def test_a_file_is_served_in_ranges(
    storage: str, production, asked: str, status: int, begins: int, ends: int
) -> None:
    kept = keep(production.pk, "card.pdf", PDF, KINDS)
    given = answer(RequestFactory().get("/", headers={"Range": asked}), kept)
    assert (given.status_code, given.getvalue(), given["Content-Length"]) == (
        status,
        PDF[begins:ends],
        str(ends - begins),
    )
    assert given.get("Content-Range") == (f"bytes {begins}-{ends - 1}/{len(PDF)}" if status == 206 else None)


def test_a_file_is_not_served_again_nor_from_beyond_its_end(storage: str, production) -> None:
    kept = keep(production.pk, "Ünïcode.pdf", PDF, KINDS)
    ask = RequestFactory().get
    whole = answer(ask("/"), kept)
    assert (whole.status_code, whole["Content-Type"], whole["ETag"]) == (
        200,
        "application/pdf",
        f'"{kept.sha256}"',
    )
    assert "filename*=utf-8''%C3%9Cn%C3%AFcode.pdf" in whole["Content-Disposition"]
    assert answer(ask("/", headers={"If-None-Match": whole["ETag"]}), kept).status_code == 304
    beyond = answer(ask("/", headers={"Range": f"bytes={len(PDF)}-"}), kept)
    assert (beyond.status_code, beyond["Content-Range"]) == (416, f"bytes */{len(PDF)}")
    assert answer(ask("/", headers={"Range": "bytes=-0"}), kept).status_code == 416
    # what was begun of another content is not gone on with
    assert answer(ask("/", headers={"Range": "bytes=5-", "If-Range": '"another"'}), kept).status_code == 200


def test_what_nobody_refers_to_is_cleaned_away(storage: str, production, shot, tmp_path: Path) -> None:
    picture = keep(production.pk, "board.jpg", drawn("JPEG"), frozenset({"image/jpeg"}))
    Board.objects.filter(shot=shot).update(current=False)
    Board.objects.create(shot=shot, name="board.jpg", file=picture, width_px=16, height_px=9)
    keep(production.pk, "card.pdf", PDF, KINDS)
    with pytest.raises(ZeroDivisionError), transaction.atomic():
        keep(production.pk, "undone.pdf", PDF + b"more", KINDS)
        _ = 1 / 0
    assert contents(storage, tmp_path) == 3
    assert clean() == Cleaned(0, 0), "all of it may still be spoken of"
    assert clean(NOW) == Cleaned(1, 1)
    assert contents(storage, tmp_path) == 1 and picture.read() == drawn("JPEG")
    assert clean(NOW) == Cleaned(0, 0)


def test_nothing_of_the_demo_is_without_a_referrer(production) -> None:
    assert StoredFile.objects.count() >= 12
    assert not unreferred(NOW).exists()


def test_a_file_that_its_storage_has_lost_is_no_empty_file(storage: str, production) -> None:
    kept = keep(production.pk, "card.pdf", PDF, KINDS)
    kept.file.storage.delete(kept.path)
    with pytest.raises(LostFileError, match="is not in the storage any more"):
        kept.read()


def test_a_file_that_the_storage_has_lost_is_said(supervisor: Caller, shot, tmp_path: Path) -> None:
    board = Board.objects.get(shot=shot, current=True)
    assert supervisor("get", f"/boards/{board.pk}.jpg")[0] == 200
    with files_in(tmp_path):
        status, said = supervisor("get", f"/boards/{board.pk}.jpg")
        small = supervisor("get", f"/boards/{board.pk}.jpg?width=90")
    assert status == 404 and "not in the storage any more" in said["problems"][0]["message"]
    assert small[0] == 404
