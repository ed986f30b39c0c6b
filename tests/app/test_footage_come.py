"""Recordings on their way in: read beside by a reader that may break, dropped on the page in pieces."""

from __future__ import annotations

import signal
from datetime import UTC, datetime
from pathlib import Path
from typing import Any

from django.core.files.uploadedfile import SimpleUploadedFile

from jungoptic.app.base.readers import LONGEST_S
from jungoptic.app.footage.prober import Prober
from tests.clips import clip
from tests.jobs import done

BEGAN = datetime(2027, 10, 16, 12, 0, tzinfo=UTC)


def test_a_reader_that_breaks_or_hangs_is_begun_anew(tmp_path):
    whole = clip(tmp_path / "A.MP4", BEGAN)
    with Prober() as prober:
        assert prober.read(whole)["kind"] == "clip"
        assert prober._process
        prober._process.kill()
        assert "broke" in prober.read(whole)["fault"]
        assert prober.read(whole)["fault"] == ""
        prober._process.send_signal(signal.SIGSTOP)
        prober._longest_s = 1.0  # only of the one that hangs: beginning a reader takes a busy machine longer
        assert "longer than 1 s" in prober.read(whole)["fault"]
        prober._longest_s = LONGEST_S
        assert prober.read(whole)["fault"] == ""


def test_a_file_is_dropped_in_pieces_and_goes_on_where_it_stopped(crew, production, settings, tmp_path):
    settings.DROPPED = tmp_path / "dropped"
    settings.CARDS = [settings.DROPPED]
    data = clip(tmp_path / "card" / "A.MP4", BEGAN, seconds=3.0).read_bytes()
    path, third = f"/productions/{production.pk}/dropped", len(data) // 3

    def send(name: str, begins: int, piece: bytes, size: int = len(data)) -> tuple[int, Any]:
        body = {"name": name, "size": size, "begins": begins, "file": SimpleUploadedFile("piece", piece)}
        answer = crew.client.post(f"/api{path}", body)
        return answer.status_code, answer.json()

    asked = f"{path}?name=A.MP4&size={len(data)}"
    assert crew("get", asked)[1]["have"] == 0
    assert send("A.MP4", 0, data[:third])[1]["have"] == third
    assert send("A.MP4", 0, data[:third])[1]["have"] == third  # sent again
    assert send("A.MP4", 2 * third, data[2 * third :])[1]["have"] == third  # too early
    assert crew("get", asked)[1]["have"] == third
    made = Path(crew("get", asked)[1]["place"])
    assert not list(made.glob("A*"))
    assert send("A.MP4", third, data[third:])[1]["have"] == len(data)
    assert (made / "A.MP4").read_bytes() == data and send("A.MP4", 0, data)[1]["have"] == len(data)
    assert send("../../A.MP4", 0, data[:-1], len(data) - 1)[0] == 200  # another of this name
    assert (made / "A-02.MP4").exists() and len(list(tmp_path.rglob("A*.MP4"))) == 3
    body = {"name": "A.MP4", "size": len(data), "modified": 1_800_000_000_000, "begins": 0}
    other = crew.client.post(f"/api{path}", {**body, "file": SimpleUploadedFile("piece", data[:third])})
    assert other.json()["have"] == third  # as long, and called the same, and another
    for name, begins in (("notes.txt", 0), (".MP4", 0), ("B.MP4", 10**15)):
        assert send(name, begins, b"x")[0] == 422
    _, job = crew("post", f"/productions/{production.pk}/cards", {"place": str(made)})
    assert "2 recordings read" in done(job["id"]).message
