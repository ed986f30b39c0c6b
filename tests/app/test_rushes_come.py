"""Footage that was filed: looked at in a worker, its proxies and strips, measured, marked; what is wrong."""

from __future__ import annotations

import io
import json
from datetime import UTC, datetime, timedelta
from pathlib import Path
from typing import Any

import av
import cv2
import numpy as np
import pytest

from jungoptic.app.footage.models import Card, Recording
from jungoptic.app.jobs.models import Job
from jungoptic.app.productions.models import ToleranceChange
from jungoptic.app.rushes import reading
from jungoptic.app.rushes.models import FrameMeasure, Rush
from jungoptic.app.rushes.rows import thinned
from jungoptic.app.shots.models import Layer
from jungoptic.app.takes.models import Take
from tests.clips import clip, slate_text
from tests.core.filmed import laid, noised, photograph, write
from tests.jobs import done

BEGAN = datetime(2027, 10, 16, 12, 0, tzinfo=UTC)


@pytest.fixture
def card(settings, tmp_path, production, take) -> Card:
    """A card in the machine, read; nothing on it yet."""
    settings.CARDS, settings.FOOTAGE = [tmp_path / "media"], tmp_path / "footage"
    folder = tmp_path / "media" / "A001"
    folder.mkdir(parents=True)
    return Card.objects.create(
        production=production, place=str(folder), name="A001", read_by=take.recorded_by, read_at=BEGAN
    )


def filed(card: Card, take: Any, name: str) -> Recording:
    """A file of a card, filed to a take."""
    path = Path(card.place) / name
    return Recording.objects.create(
        card=card,
        path=name,
        size_bytes=path.stat().st_size,
        modified=path.stat().st_mtime,
        says={"kind": "clip"},
        take=take,
        filed_by="code",
    )


def plate(card: Card, name: str, shift: tuple[float, float] = (0.0, 0.0), frames: int = 20) -> None:
    """A clip of a place; somebody walks through it."""
    still = 0.5 * laid(photograph("coffee"), shift)
    seen = []
    for frame in range(frames):
        picture = still.copy()
        picture[120:260, 40 + 14 * frame : 100 + 14 * frame] = 0.02
        seen.append(noised(picture, 0.02, frame))
    write(str(Path(card.place) / name), seen, 14)


def looked_at(crew: Any, production: Any) -> Job:
    status, job = crew("post", f"/productions/{production.pk}/rushes", {})
    assert status == 202, job
    return done(job["id"])


def test_what_was_filed_is_looked_at_and_every_frame_can_be_gone_to(crew, guest, production, card, take):
    plate(card, "walks.mp4")
    row = filed(card, take, "walks.mp4")
    before = (Path(card.place) / "walks.mp4").read_bytes()
    shot = take.layer.shot_id
    told = crew("get", f"/shots/{shot}/rushes")[1]
    assert told["waiting"] == 1
    ended = looked_at(crew, production)
    assert (ended.state, ended.message) == ("ready", "1 recording looked at.")
    assert (Path(card.place) / "walks.mp4").read_bytes() == before
    lines = [
        line for layer in crew("get", f"/shots/{shot}/rushes")[1]["layers"] for line in layer["recordings"]
    ]
    assert [(line["recording_id"], line["seen"], line["fault"]) for line in lines] == [(row.pk, True, "")]
    rush = guest("get", f"/recordings/{row.pk}/rush")[1]
    assert (rush["frames"], rush["width_px"], rush["rate_fps"]) == (20, 640, 24.0)
    assert rush["colour"] == "BT.709, matrix BT.601, 8 bit, legal range"
    assert "The file says no curve: BT.709 is taken." in rush["guessed"]
    assert {each["name"] for each in rush["clip"]["series"]} == {"light", "camera", "sharpness", "movement"}
    assert "stood still" in rush["clip"]["says"]
    with av.open(io.BytesIO(guest("get", rush["proxy"].removeprefix("/api"))[1])) as film:
        frames = list(film.decode(video=0))
        assert len(frames) == 20 and all(frame.key_frame for frame in frames)
    strip = guest("get", rush["strip"].removeprefix("/api"))[1]
    assert strip[:2] == b"\xff\xd8" and rush["strip_every"] == 1
    assert crew("post", f"/productions/{production.pk}/rushes", {})[0] == 422


def test_a_camera_that_was_bumped_is_told_and_what_was_marked_is_remembered(crew, production, card, take):
    plate(card, "action.mp4")
    plate(card, "clean.mp4", (2.3, -1.0), 4)
    action, clean = (filed(card, take, name) for name in ("action.mp4", "clean.mp4"))
    looked_at(crew, production)
    marked = {"kind": "still", "places": [[0.0, 0.0], [0.4, 1.0]]}
    set_up = take.layer.set_up_id
    assert crew("post", f"/set-ups/{set_up}/frame-marks", marked)[0] == 200
    asked = {"what": "still", "against_id": clean.pk, "frame": 2}
    status, job = crew("post", f"/recordings/{action.pk}/measures", asked)
    assert status == 202
    ended = done(job["id"])
    assert ended.state == "ready", ended.message
    rush = crew("get", f"/recordings/{action.pk}/rush")[1]
    (still,) = rush["measured"]
    assert still["against_id"] == clean.pk and still["frame"] == 2
    share = production.delivery_width_px / 640
    assert still["amounts"][0]["value"] == pytest.approx(share * np.hypot(2.3, 1.0), abs=0.1 * share)
    assert rush["marks"] == [marked]
    crew("post", f"/set-ups/{set_up}/frame-marks", {"kind": "still", "places": []})
    assert crew("get", f"/recordings/{clean.pk}/rush")[1]["marks"] == []
    for body, field in (
        ({"what": "change"}, "against_id"),
        ({"what": "still", "against_id": action.pk}, "against_id"),
        ({"what": "sideways"}, "what"),
        ({"what": "flicker", "region": [0.1, 0.2]}, "region"),
        ({"what": "flicker", "region": [0.1, 0.2, 0.3, 7]}, "region.3"),
        ({"what": "movement", "places": [[0.1, 0.2, 0.3]]}, "places.0"),
    ):
        status, problems = crew("post", f"/recordings/{action.pk}/measures", body)
        assert status == 422 and problems["problems"][0]["field"].endswith(field), body
    wrong = crew("post", f"/set-ups/{set_up}/frame-marks", {"kind": "chart", "places": [[0.1, 0.1]]})
    assert wrong[0] == 422 and "4 places" in wrong[1]["problems"][0]["message"]


def test_an_action_is_held_against_its_clean_plate_by_itself(crew, production, card, take):
    plate(card, "action.mp4")
    plate(card, "clean.mp4", (2.3, -1.0), 4)
    (Path(card.place) / "small.mp4").write_bytes((Path(card.place) / "clean.mp4").read_bytes())
    layer = Layer.objects.get(pk=take.layer_id)
    layer.pk, layer.kind, layer.name, layer.place, layer.is_hero = None, "clean_plate", "Empty", 90, False
    layer.save()
    empty = Take.objects.get(pk=take.pk)
    empty.pk, empty.layer, empty.number = None, layer, 1
    empty.save()
    action, clean = filed(card, take, "action.mp4"), filed(card, empty, "clean.mp4")
    ended = looked_at(crew, production)
    assert ended.message == "2 recordings looked at, 1 held against clean plates."
    shot = take.layer.shot_id
    (pair,) = crew("get", f"/shots/{shot}/rushes")[1]["compared"]
    assert (pair["recording_id"], pair["against_id"]) == (action.pk, clean.pk)
    assert pair["verdict"] == "shows" and "moved" in pair["says"] and pair["clean"] == "Empty, take 1"
    assert {row["what"] for row in crew("get", f"/recordings/{action.pk}/rush")[1]["measured"]} == {
        "still",
        "change",
    }
    ToleranceChange.objects.create(production=production, item="split_line", holds=50, tight=60)
    (pair,) = crew("get", f"/shots/{shot}/rushes")[1]["compared"]
    assert pair["verdict"] == "holds"
    again = filed(card, take, "small.mp4")
    looked_at(crew, production)
    assert FrameMeasure.objects.filter(rush__recording=action, what="still").count() == 1
    assert FrameMeasure.objects.filter(rush__recording=again, what="still").count() == 1
    later = Take.objects.get(pk=take.pk)
    later.pk, later.number, later.recorded_at = None, 77, take.recorded_at + timedelta(minutes=5)
    later.save()
    (Path(card.place) / "newer.mp4").write_bytes((Path(card.place) / "action.mp4").read_bytes())
    newer = filed(card, later, "newer.mp4")
    looked_at(crew, production)
    (pair,) = crew("get", f"/shots/{shot}/rushes")[1]["compared"]
    assert pair["recording_id"] == newer.pk, "what was shot again is done with"


def test_a_curve_that_somebody_says_is_the_one_it_is_measured_by(crew, production, card, take):
    plate(card, "walks.mp4", frames=6)
    row = filed(card, take, "walks.mp4")
    looked_at(crew, production)

    def light() -> float:
        job = crew(
            "post", f"/recordings/{row.pk}/measures", {"what": "light", "region": [0.6, 0.0, 0.3, 0.2]}
        )[1]
        assert done(job["id"]).state == "ready"
        rush = crew("get", f"/recordings/{row.pk}/rush")[1]
        return float(np.mean(rush["measured"][0]["series"][1]["values"]))

    before = light()
    version = crew("get", f"/recordings/{row.pk}/rush")[1]["version"]
    log = {"name": "log", "log": [5.0, 0.05, 0.25, 0.4, 0.01]}
    status, told = crew("post", f"/recordings/{row.pk}/curve", {**log, "version": version})
    assert status == 200, told
    assert crew("get", f"/recordings/{row.pk}/rush")[1]["colour"].startswith("log, matrix BT.601")
    assert light() != pytest.approx(before, rel=0.05)
    lines = Rush.objects.get(recording=row).clip["series"][0]["values"]
    again = Job.objects.get(kind="look_at_rushes", state=Job.State.WAITING)
    assert done(again.pk).state == "ready"
    assert Rush.objects.get(recording=row).clip["series"][0]["values"] != lines
    flat = {"name": "log", "log": [0.0], "version": version + 1}
    ragged = {"name": "table", "table": [[0.0, 0.0], [1.0]], "version": version + 1}
    assert crew("post", f"/recordings/{row.pk}/curve", ragged)[0] == 422
    assert crew("get", f"/recordings/{row.pk}/rush")[1]["proxy"].endswith(
        f"?file={Rush.objects.get(recording=row).proxy_id}"
    )
    assert "five numbers" in crew("post", f"/recordings/{row.pk}/curve", flat)[1]["problems"][0]["message"]


def test_what_is_damaged_is_told_at_the_file_and_the_rest_is_looked_at(crew, production, card, take):
    folder = Path(card.place)
    plate(card, "whole.mp4", frames=6)
    whole = (folder / "whole.mp4").read_bytes()
    (folder / "cut.mp4").write_bytes(whole[: len(whole) // 2])
    (folder / "text.mov").write_text("a list of shots, called a film\n" * 50)
    (folder / "away.mp4").write_bytes(whole)
    rows = {name: filed(card, take, name) for name in ("cut.mp4", "text.mov", "away.mp4", "whole.mp4")}
    (folder / "away.mp4").unlink()
    ended = looked_at(crew, production)
    assert ended.state == "ready"
    assert "away.mp4" in ended.message and "card in" in ended.message
    faults = {rush.recording.name: rush.fault for rush in Rush.objects.select_related("recording")}
    assert set(faults) == {"cut.mp4", "text.mov", "whole.mp4"}
    assert "text is in it" in faults["text.mov"] and not faults["whole.mp4"]
    assert "cut off" in faults["cut.mp4"] or "read" in faults["cut.mp4"]
    status, told = crew("post", f"/recordings/{rows['text.mov'].pk}/measures", {"what": "flicker"})
    assert status == 422 and "text" in told["problems"][0]["message"]
    assert not FrameMeasure.objects.exists()
    (folder / "text.mov").write_bytes(whole)
    rows["text.mov"].size_bytes = len(whole)
    rows["text.mov"].save()
    again = {"recording_id": rows["text.mov"].pk}
    assert crew("get", f"/recordings/{rows['text.mov'].pk}/rush")[1]["proxy"] == ""
    assert done(crew("post", f"/productions/{production.pk}/rushes", again)[1]["id"]).state == "ready"
    assert crew("get", f"/recordings/{rows['text.mov'].pk}/rush")[1]["fault"] == ""
    assert crew("post", f"/productions/{production.pk}/rushes", {"recording_id": 10**6})[0] == 422


def test_filing_has_it_looked_at_without_anybody_asking(crew, production, card, take):
    plate(card, "walks.mp4", frames=4)
    row = filed(card, None, "walks.mp4")
    body = {"filings": [{"recording_id": row.pk, "take_id": take.pk}], "version": card.version}
    assert crew("post", f"/cards/{card.pk}/filings", body)[0] == 200
    job = Job.objects.get(kind="look_at_rushes")
    assert done(job.pk).state == "ready" and Rush.objects.get(recording=row).proxy is not None


def test_what_is_measured_begins_when_the_slate_is_gone(crew, production, card, take):
    clip(Path(card.place) / "slated.mp4", BEGAN, slate_text("AAAAAAAA"), seconds=4.0)
    row = filed(card, take, "slated.mp4")
    row.says = {"kind": "clip", "length_s": 4.0, "codes": [{"text": "A", "second": 0.0}]}
    row.save()
    looked_at(crew, production)
    rush = crew("get", f"/recordings/{row.pk}/rush")[1]
    assert 24 <= rush["begins"] <= 44  # the slate is up for a second, and half a second is left for the hand
    light = next(each for each in rush["clip"]["series"] if each["name"] == "light")["values"]
    assert len(light) == 96 and set(light[: rush["begins"]]) == {None}
    assert max(abs(value) for value in light[rush["begins"] :]) < 0.02
    assert done(crew("post", f"/recordings/{row.pk}/measures", {"what": "flicker"})[1]["id"]).state == "ready"
    (flicker,) = crew("get", f"/recordings/{row.pk}/rush")[1]["measured"]
    assert flicker["amounts"][0]["value"] < 0.02 and flicker["series"][0]["values"][0] is None


def test_a_still_has_a_picture_and_a_long_clip_few_values(tmp_path):
    light = 0.5 * laid(photograph("coffee"))
    cv2.imwrite(
        str(tmp_path / "still.tif"),
        np.rint(65535 * np.maximum(light, 0) ** (1 / 2.2)).astype(np.uint16)[..., ::-1],
    )
    told = reading.answer({"do": "look", "path": str(tmp_path / "still.tif"), "into": str(tmp_path)})
    assert told["picture"] == "picture.jpg" and (tmp_path / "picture.jpg").stat().st_size > 5000
    assert told["says"]["kind"] == "still"
    values: list[float | None] = [0.0] * 20_000
    values[777], values[12_001:12_010] = 5.0, [None] * 9
    series = thinned({"series": [{"values": values}]})["series"][0]
    assert series["every"] == 5 and len(series["values"]) == 4000
    assert series["values"][777 // 5] == 5.0 and series["values"][2401] is None
    assert json.dumps(series)


def test_a_row_that_looks_at_every_frame_says_how_far_it_is(tmp_path, capsys):
    clip(tmp_path / "A.MP4", BEGAN, seconds=2.0)
    told = reading.answer({"do": "measure", "what": "movement", "path": str(tmp_path / "A.MP4")})
    assert told["told"]["what"] == "movement"
    shares = [json.loads(line)["at"] for line in capsys.readouterr().out.splitlines()]
    assert shares and shares == sorted(shares) and shares[-1] <= 1.0
