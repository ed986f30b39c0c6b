"""Cards: read, matched, filed, copied; nothing on them is ever changed, nothing is filed in silence."""

from __future__ import annotations

import errno
import os
import random
import re
import shutil
from datetime import UTC, datetime, timedelta
from hashlib import sha256
from pathlib import Path
from typing import Any

import pytest
from pytest import approx

from jungoptic.app.footage import copying, folders, jobs
from jungoptic.app.footage.models import Card, Recording
from jungoptic.app.footage.prober import Prober
from jungoptic.app.jobs.models import Job
from jungoptic.app.shots.models import Layer
from jungoptic.app.takes.models import Take
from tests.clips import HEIGHT, WIDTH, clip, slate_text
from tests.jobs import done

from .written import filmed, held

BEGAN = datetime(2027, 10, 16, 12, 0, tzinfo=UTC)
BEHIND = timedelta(minutes=37)


@pytest.fixture
def folder(settings, tmp_path) -> Path:
    """A card that may be read, beside a folder for footage."""
    settings.CARDS = [tmp_path / "media", tmp_path / "simulated"]
    settings.SIMULATED_CARDS = tmp_path / "simulated"
    settings.FOOTAGE = tmp_path / "footage"
    made = tmp_path / "media" / "A001"
    (made / "CLIPS").mkdir(parents=True)
    return made


@pytest.fixture
def takes(take) -> Any:
    """``takes(code, at)`` logs another take like the first, at 24 frames/s and as small as the clips are."""
    mode = take.mode
    mode.pk, mode.name, mode.recorded_width_px, mode.recorded_height_px = None, "Small", WIDTH, HEIGHT
    mode.save()

    def logged(code: str, at: datetime = BEGAN, **settings: Any) -> Take:
        number = Take.objects.filter(layer=take.layer).latest("number").number + 1
        more = {"slate_code": code, "recorded_at": at, "number": number, "capture_fps": 24, "mode": mode}
        again = Take.objects.get(pk=take.pk)
        again.pk = None
        for name, value in {**more, **settings}.items():
            setattr(again, name, value)
        again.save()
        return again

    return logged


def tree(folder: Path) -> dict[str, tuple[int, str]]:
    files = (path for path in folder.rglob("*") if path.is_file())
    return {
        str(one.relative_to(folder)): (one.stat().st_mtime_ns, sha256(one.read_bytes()).hexdigest())
        for one in files
    }


def read(crew, production, folder) -> tuple[Job, dict[str, Any]]:
    status, job = crew("post", f"/productions/{production.pk}/cards", {"place": str(folder)})
    assert status == 202, job
    return done(job["id"]), look(crew, folder)


def look(crew, folder) -> dict[str, Any]:
    status, card = crew("get", f"/cards/{Card.objects.get(place=str(folder)).pk}")
    assert status == 200, card
    return card  # type: ignore[no-any-return]


def copy(crew, card) -> Job:
    status, job = crew("post", f"/cards/{card['id']}/copies", {})
    assert status == 202, job
    return done(job["id"])


def named(card) -> dict[str, dict[str, Any]]:
    return {one["name"]: one for one in card["recordings"]}


def test_sixty_files_of_a_camera_37_minutes_off(crew, production, folder, takes):
    dice = random.Random(16)
    silent = set(dice.sample(range(57), 5))
    twice = set(dice.sample(sorted(set(range(57)) - silent), 3))
    whose: dict[str, int] = {}
    now = BEGAN
    for n in range(57):
        code = f"{n:08d}"
        files = [f"C{len(whose) + again:04d}.MP4" for again in range(2 if n in twice else 1)]
        for name in files:
            clip(
                folder / "CLIPS" / name,
                now - BEHIND,
                "" if n in silent else slate_text(code),
                1.5,
                len(whose),
            )
            now += timedelta(seconds=dice.uniform(5, 9))
            whose[name] = 0
        take = takes("" if n in silent else code, now)
        whose |= dict.fromkeys(files, take.pk)
        now += timedelta(seconds=dice.uniform(60, 300))
    before = tree(folder)
    job, card = read(crew, production, folder)
    assert "60 recordings read, 49 filed" in job.message, job.message
    assert tree(folder) == before
    assert 36.5 * 60 < card["clock"]["behind_s"] < 37.5 * 60 and "37 min" in card["clock"]["text"]
    assert not [
        one["name"] for one in card["recordings"] if one["take"] and one["take"]["id"] != whose[one["name"]]
    ]
    doubtful = [one for one in card["recordings"] if not one["filed"]]
    assert len(doubtful) == 5 + 2 * 3
    assert all(one["why"] and one["sure"] != "matched" for one in doubtful)
    assert sum(one["by"] == "time" and one["sure"] == "likely" for one in doubtful) == 5


def test_what_is_wrong_with_a_file_is_said_and_the_rest_is_read(crew, production, folder, takes):
    takes("AAAAAAAA")
    whole = clip(folder / "CLIPS" / "A.MP4", BEGAN, slate_text("AAAAAAAA"), 4.0).read_bytes()
    inside = folder / "CLIPS"
    (inside / "zero.MP4").write_bytes(b"")
    (inside / "half.MP4").write_bytes(whole[: len(whole) * 2 // 3])
    (inside / "head.MP4").write_bytes(whole[:400])
    (inside / "text.MOV").write_text("#EXTM3U\nfile:///etc/passwd\n")
    (inside / "noise.MXF").write_bytes(random.Random(1).randbytes(40_000))
    (inside / "still.jpg").write_bytes(b"\xff\xd8\xff\xe0 and no more")
    (inside / "notes.txt").write_text("lens cap")
    (inside / ".hidden.MP4").write_bytes(b"x")
    os.symlink("/etc/passwd", inside / "linked.MP4")
    job, card = read(crew, production, folder)
    told = named(card)
    assert "6 recordings" in job.message or len(told) == 7
    assert set(told) == {"A.MP4", "zero.MP4", "half.MP4", "head.MP4", "text.MOV", "noise.MXF", "still.jpg"}
    assert card["others"] == 1 and told["A.MP4"]["filed"]
    words = {
        "zero": "0 bytes",
        "half": "breaks off",
        "head": "damaged",
        "text": "has text in it",
        "noise": "damaged",
        "still": "could not be read",
    }
    for name, said in words.items():
        row = next(one for key, one in told.items() if key.startswith(name))
        assert said in row["fault"] and not row["filed"] and row["take"] is None, row
    _, problems = crew(
        "post",
        f"/cards/{card['id']}/filings",
        {"filings": [{"recording_id": told["half.MP4"]["id"], "take_id": told["A.MP4"]["take"]["id"]}]},
    )
    assert "cannot be filed" in problems["problems"][0]["message"]


def test_only_folders_of_cards_are_read(crew, guest, stranger, production, folder, tmp_path):
    path = f"/productions/{production.pk}/cards"
    (tmp_path / "media" / "way-out").symlink_to("/etc")
    for place, said in (
        ("/etc", "Only what lies in"),
        (str(tmp_path / "media" / "way-out"), "Only what lies in"),
        (f"{folder}/../../..", "Only what lies in"),
        (str(folder / "gone"), "There is no folder"),
        ("a\0b", "may not"),
    ):
        status, body = crew("post", path, {"place": place})
        assert status == 422 and (said in body["problems"][0]["message"] or said == "may not"), body
    clip(folder / "A.MP4", BEGAN)
    assert [one["name"] for one in crew("get", path)[1]["folders"]] == ["A001"]
    assert guest("get", path)[0] == 403 and stranger("get", path)[0] == 404


def test_a_slate_that_nobody_logged_is_told_and_filed_once_it_is(crew, production, folder, takes, mill):
    takes("AAAAAAAA", BEGAN)
    clip(folder / "A.MP4", BEGAN, slate_text("AAAAAAAA"))
    clip(folder / "B.MP4", BEGAN, slate_text("BBBBBBBB", "TM010", mill.pk, 7))
    clip(folder / "C.MP4", BEGAN, slate_text("CCCCCCCC", "TM020", mill.pk, 7))
    _, card = read(crew, production, folder)
    told = named(card)
    assert told["B.MP4"]["slates"][0] | {"layer": ""} == {
        "code": "BBBBBBBB",
        "shot": "TM010",
        "layer_id": mill.pk,
        "layer": "",
        "number": 7,
        "take_id": None,
    }
    assert told["C.MP4"]["slates"][0]["layer_id"] is None
    assert "Nobody has logged" in told["B.MP4"]["why"]
    at = datetime.fromisoformat(told["B.MP4"]["logged_at"])  # by the clock that A.MP4 put right
    assert abs(at - BEGAN) < timedelta(seconds=1)
    status, _ = crew("post", f"/layers/{mill.pk}/takes", {"slate_code": "BBBBBBBB", "slate_number": 7})
    assert status == 201
    found = named(look(crew, folder))["B.MP4"]
    assert (found["sure"], found["by"], found["filed"]) == ("matched", "code", False)


def test_filing_by_hand_is_taken_back_and_refused_where_another_was_quicker(crew, production, folder, takes):
    first, other = takes("AAAAAAAA"), takes("")
    clip(folder / "A.MP4", BEGAN, slate_text("AAAAAAAA"))
    _, card = read(crew, production, folder)
    (row,) = card["recordings"]
    assert row["filed"] and row["take"]["id"] == first.pk
    body = {"version": card["version"], "filings": [{"recording_id": row["id"], "take_id": other.pk}]}
    status, written = crew("post", f"/cards/{card['id']}/filings", body)
    assert status == 200
    assert look(crew, folder)["recordings"][0]["take"]["id"] == other.pk
    assert look(crew, folder)["recordings"][0]["by"] == "hand"
    assert crew("post", f"/cards/{card['id']}/filings", body)[0] == 409
    assert crew("post", f"/productions/{production.pk}/take-back", {"write": written["write"]})[0] == 200
    assert look(crew, folder)["recordings"][0]["take"]["id"] == first.pk


def test_a_card_that_is_used_again_loses_nothing_of_before(crew, production, folder, takes, settings):
    first, second = takes("AAAAAAAA"), takes("BBBBBBBB", BEGAN + timedelta(days=1))
    clip(folder / "A.MP4", BEGAN, slate_text("AAAAAAAA"))
    _, card = read(crew, production, folder)
    copy(crew, card)
    (folder / "A.MP4").unlink()
    clip(folder / "A.MP4", BEGAN + timedelta(days=1, hours=3), slate_text("BBBBBBBB"), 3.0, seed=9)
    _, card = read(crew, production, folder)
    told = {one["take"]["id"]: (one["here"], one["filed"]) for one in card["recordings"]}
    assert told == {first.pk: (False, True), second.pk: (True, True)}
    assert card["clock"]["files"] == 1  # the clock is that of what is on it now
    assert "1 file copied" in copy(crew, card).message
    assert len(list(Path(settings.FOOTAGE).rglob("*.mp4"))) == 2
    assert "1 recording read, 0 filed" in read(crew, production, folder)[0].message


def test_what_a_file_says_stands_beside_what_was_logged(crew, production, folder, takes, shot):
    take = takes("AAAAAAAA", rolled_s=30.0)
    fact = take.fact()
    settings = {"FNumber": 2.8, "PhotographicSensitivity": fact.iso, "ExposureTime": 1 / 48}
    clip(folder / "A.MP4", BEGAN, slate_text("AAAAAAAA"), **settings)
    read(crew, production, folder)
    _, told = crew("get", f"/shots/{shot.pk}/recordings")
    (from_file,) = told
    assert from_file["take_id"] == take.pk and "f/2.8" in from_file["settings"]
    differs = {one["field"]: one["after"] for one in from_file["differs"]}
    assert differs["rolled_s"] == "2 s: stopped early, or begun late"
    assert differs["f_number"] == "f/2.8" and "iso" not in differs and "shutter_angle_deg" not in differs


def test_a_copy_is_whole_called_by_its_take_and_made_once(crew, production, folder, takes, settings):
    take = takes("AAAAAAAA")
    Layer.objects.filter(pk=take.layer_id).update(name="Mühle / 1:12")
    clip(folder / "CLIPS" / "A.MP4", BEGAN, slate_text("AAAAAAAA"))
    clip(folder / "CLIPS" / "B.MP4", BEGAN, seed=3)
    (folder / "CLIPS" / "zero.MP4").write_bytes(b"")
    before = tree(folder)
    _, card = read(crew, production, folder)
    job = copy(crew, card)
    assert job.state == "ready" and "2 files copied and read back." in job.message, job.message
    root = Path(settings.FOOTAGE) / production.slug
    name = f"TM010/Mühle-1-12/TM010_Mühle-1-12_T{take.number:02d}.mp4"
    assert set(tree(root)) == {name, "unplaced/A001/CLIPS/B.MP4", copying.SUMS}
    assert sha256((root / name).read_bytes()).hexdigest() == before["CLIPS/A.MP4"][1]
    assert (root / name).stat().st_mtime_ns == before["CLIPS/A.MP4"][0]
    assert os.system(f"cd '{root}' && sha256sum --quiet -c {copying.SUMS}") == 0
    assert "2 were there already" in copy(crew, card).message and tree(folder) == before
    row = Recording.objects.get(path="CLIPS/B.MP4")
    body = {"filings": [{"recording_id": row.pk, "take_id": take.pk}]}
    crew("post", f"/cards/{card['id']}/filings", body)
    assert "0 files copied" in copy(crew, card).message  # it only gets another name
    assert set(tree(root)) == {name, name.replace(".mp4", "-02.mp4"), copying.SUMS}


@pytest.mark.parametrize(
    ("number", "said"),
    [(errno.ENOSPC, "The disk is full"), (errno.EIO, "cannot be read"), (errno.ENODEV, "The card is gone")],
)
def test_a_full_disk_a_bad_block_and_a_pulled_card(
    crew, production, folder, takes, settings, monkeypatch, number, said
):
    takes("AAAAAAAA")
    for name in "ABC":
        clip(folder / f"{name}.MP4", BEGAN, slate_text("AAAAAAAA") if name == "A" else "", seed=ord(name))
    _, card = read(crew, production, folder)
    real, calls = copying._write_all, []

    def breaks(to: int, piece: bytes) -> None:
        calls.append(piece)
        if len(calls) == 2:
            real(to, piece[: len(piece) // 2])
            raise OSError(number, os.strerror(number))
        real(to, piece)

    monkeypatch.setattr(copying, "_write_all", breaks)
    job = copy(crew, card)
    assert said in job.message, job.message
    left = tree(Path(settings.FOOTAGE))
    assert not [name for name in left if name.endswith(".part")]
    assert Recording.objects.exclude(copied_to="").count() == (2 if number == errno.EIO else 1)
    monkeypatch.setattr(copying, "_write_all", real)
    assert copy(crew, card).state == "ready" and Recording.objects.exclude(copied_to="").count() == 3


def test_a_card_that_is_pulled_while_it_is_read_keeps_what_was_read(
    crew, production, folder, takes, monkeypatch
):
    for name in "ABC":
        clip(folder / f"{name}.MP4", BEGAN, seed=ord(name))
    real = Prober.read

    def pulled(self: Prober, path: Path, waiting: Any = None) -> dict[str, Any]:
        if path.name == "B.MP4":
            shutil.rmtree(folder)
        return real(self, path, waiting)

    monkeypatch.setattr(jobs.Prober, "read", pulled)
    job, card = read(crew, production, folder)
    assert job.state == "failed" and "What was read is kept" in job.message
    assert list(named(card)) == ["A.MP4"] and not card["here"]
    assert crew("post", f"/cards/{card['id']}/copies", {})[0] == 422


def test_a_file_that_grows_or_does_not_read_back_is_not_called_copied(
    crew, production, folder, takes, monkeypatch
):
    clip(folder / "A.MP4", BEGAN)
    _, card = read(crew, production, folder)
    with monkeypatch.context() as patched:
        patched.setattr(copying, "_summed", lambda path: "another")
        assert "does not read back the same" in copy(crew, card).message
    with (folder / "A.MP4").open("ab") as opened:
        opened.write(b"more")
    assert "read the card again" in copy(crew, card).message
    assert not Recording.objects.exclude(copied_to="").exists()


def test_no_room_is_said_before_anything_is_copied(crew, production, folder, takes, monkeypatch):
    clip(folder / "A.MP4", BEGAN, seconds=2.0)
    _, card = read(crew, production, folder)
    assert card["room"].startswith("Card full in")
    for module in (folders, copying):
        monkeypatch.setattr(module, "free_bytes", lambda place: 5)
    status, body = crew("post", f"/cards/{card['id']}/copies", {})
    assert status == 422 and "GB free in" in body["problems"][0]["message"]
    assert "not one more take goes" in look(crew, folder)["room"]


def test_a_file_that_another_card_has_already_is_only_likely(crew, production, folder, takes):
    takes("AAAAAAAA")
    clip(folder / "A.MP4", BEGAN, slate_text("AAAAAAAA"))
    read(crew, production, folder)
    second = folder.parent / "A002"
    clip(second / "B.MP4", BEGAN, slate_text("AAAAAAAA"), seed=4)
    _, card = read(crew, production, second)
    (row,) = card["recordings"]
    assert (row["sure"], row["filed"]) == ("likely", False) and "A001 has a file" in row["why"]


def test_the_simulated_camera_records_what_was_logged(crew, production, folder, mill, monkeypatch):
    monkeypatch.setattr("jungoptic.app.footage.simulated.MOST_TAKES", 1)
    crew("post", f"/layers/{mill.pk}/takes", {"slate_code": "7F3K9Q2W", "slate_number": 1})
    _, job = crew("post", f"/productions/{production.pk}/simulated-card", {})
    ended = done(job["id"])
    assert ended.state == "ready", ended.message
    assert "1 recording read, 1 filed" in ended.message
    card = Card.objects.get(pk=ended.said["card"])
    _, told = crew("get", f"/cards/{card.pk}")
    assert [one["filed"] for one in told["recordings"]] == [True]
    assert not [one for row in told["recordings"] for one in row["differs"]]
    assert "37 min" in told["clock"]["text"]
    (recording,) = told["recordings"]
    asked = f"/recordings/{recording['id']}/frame.jpg?second="
    frame = crew("get", f"{asked}{recording['length_s'] - 0.2:.2f}")[1]
    _, lined_up = filmed(crew, mill, against=held(crew, mill, frame), pan=0.3)
    first, *others = lined_up["measured"]["turns"]
    assert float(re.findall(r"^Pan ([\d.]+)", first["to_do"])[0]) == approx(0.3, abs=0.02)
    assert all(turn["px"] < 1 for turn in others), "a recording is a little softer"
    assert crew("get", f"{asked}0")[1] != frame and crew("get", f"{asked}1000")[1][:2] == b"\xff\xd8"


def test_a_frame_is_read_of_the_copy_or_of_the_card_or_it_is_said_why_not(crew, production, folder, takes):
    takes("AAAAAAAA")
    clip(folder / "A.MP4", BEGAN, slate_text("AAAAAAAA"))
    _, card = read(crew, production, folder)
    asked = f"/recordings/{card['recordings'][0]['id']}/frame.jpg?second=1.5"
    assert copy(crew, card).state == "ready"
    shutil.rmtree(folder)
    status, picture = crew("get", asked)
    assert status == 200 and picture[:2] == b"\xff\xd8"
    copied = copying.lies_at(Recording.objects.get(pk=card["recordings"][0]["id"]))
    copied.write_bytes(b"\0" * copied.stat().st_size)
    assert "can be read there" in crew("get", asked)[1]["problems"][0]["message"]
    copied.unlink()
    assert "is the card in?" in crew("get", asked)[1]["problems"][0]["message"]
    assert crew("get", asked.replace("1.5", "nan"))[0] == 422
