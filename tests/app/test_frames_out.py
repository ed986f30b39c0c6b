"""Frames out as numbered pictures with an edit and a table, each read back by another library; frames in as
other programs write them; a disk that is full.
"""

from __future__ import annotations

import csv
import io
import re
import zipfile
from types import SimpleNamespace
from typing import Any

import av
import cv2
import numpy as np
import opentimelineio as otio
import pytest
import tifffile
from django.core.files.uploadedfile import SimpleUploadedFile
from PIL import Image

from jungoptic.app.files import keeping as files
from jungoptic.app.frames import api, beside
from jungoptic.app.frames.models import Exposure, Pose
from jungoptic.core.errors import InputError
from tests.jobs import done

from .conftest import Caller
from .test_frames import sent, sheet, simulated, span
from .written import Demo

TAKEN = (0, 1, 2, 4)
"""The places that are photographed: the fourth line is not."""


def packed(caller: Caller, **how: Any) -> zipfile.ZipFile:
    found = sheet(caller)
    status, job = caller(
        "post", f"/exposure-sheets/{found['id']}/pictures", {"version": found["version"], **how}
    )
    assert status == 202, job
    assert done(job["id"]).state == "ready"
    opens = caller("get", f"/jobs/{job['id']}")[1]["opens"]
    return zipfile.ZipFile(io.BytesIO(b"".join(caller.client.get(opens).streaming_content)))


@pytest.fixture
def poses(production) -> list[Pose]:
    return list(Demo().exposure_sheet().poses.all())


@pytest.fixture
def photographed(crew: Caller, poses: list[Pose]) -> dict[int, bytes]:
    data = {place: simulated(crew, poses[place], place) for place in TAKEN}
    for place, each in data.items():
        assert sent(crew, poses[place], each)[0] == 201
    assert span(crew, poses[1], poses[1], "held", 3)[0] == 200
    return data


def codes(jpeg: bytes) -> np.ndarray:
    return np.asarray(Image.open(io.BytesIO(jpeg)).convert("RGB"))


def pictures(archive: zipfile.ZipFile) -> dict[str, str]:
    return {name.rpartition("/")[2]: name for name in archive.namelist() if "/frames/" in name}


def test_every_frame_of_the_shot_has_its_picture_and_the_edit_its_length(crew: Caller, photographed):
    with packed(crew, format="png", expanded=True) as archive:
        found = pictures(archive)
        # frames 1 and 2, 3 to 5 (held for three), 6 and 7; 8 and 9 are not photographed; 10 and 11
        assert list(found) == [f"TM050_heron-14.{number:04d}.png" for number in (*range(1, 8), 10, 11)]
        for number, place in ((1, 0), (3, 1), (5, 1), (10, 4)):
            seen = codes(archive.read(found[f"TM050_heron-14.{number:04d}.png"]))
            assert np.array_equal(seen, codes(photographed[place]))
        [edit] = [name for name in archive.namelist() if name.endswith(".otio")]
        timeline = otio.adapters.read_from_string(archive.read(edit).decode())
        [track] = timeline.tracks
        lengths = [(type(each).__name__, each.duration().value) for each in track]
        length = sum(one["hold"] for one in sheet(crew)["poses"])
        assert lengths == [("Clip", 7), ("Gap", 2), ("Clip", 2), ("Gap", length - 11)]
        clip = track[2]
        assert clip.media_reference.target_url_for_image_number(0) == f"frames/{list(found)[-2]}"
        assert clip.source_range.start_time.rate == pytest.approx(24)
        [table, _] = sorted(name for name in archive.namelist() if name.endswith(".csv"))
        rows = list(csv.DictReader(io.StringIO(archive.read(table).decode())))
        assert [(row["pose"], row["frame"], row["hold"]) for row in rows[:3]] == [
            *(("1", "1", "2"), ("2", "3", "3"), ("3", "6", "2"))
        ]
        assert (rows[0]["figure"], rows[3]["file"]) == ("stands, head up", "") and rows[4]["file"] in found


def test_a_pose_has_one_picture_that_the_edit_holds(crew: Caller, photographed):
    with packed(crew, format="tiff", expanded=False) as archive:
        found = pictures(archive)
        assert [name.split(".")[-2] for name in found] == ["0001", "0002", "0003", "0005"]
        with av.open(io.BytesIO(archive.read(next(iter(found.values())))), format="tiff_pipe") as picture:
            seen = next(picture.decode(video=0)).to_ndarray(format="rgb48le")
        assert seen.dtype == np.uint16 and np.array_equal(
            seen, codes(photographed[0]).astype(np.uint16) * 257
        )
        [edit] = [name for name in archive.namelist() if name.endswith(".otio")]
        [track] = otio.adapters.read_from_string(archive.read(edit).decode()).tracks
        clips = list(track.find_clips())
        assert [clip.duration().value for clip in clips] == [2, 3, 2, 2]
        assert all(isinstance(clip.effects[0], otio.schema.FreezeFrame) for clip in clips)
        names = [clip.media_reference.target_url_for_image_number(0) for clip in clips]
        assert names == [f"frames/{name}" for name in found]


def test_an_exr_is_the_light_behind_the_codes(crew: Caller, photographed):
    with packed(crew, format="exr", expanded=False) as archive:
        data = archive.read(next(iter(pictures(archive).values())))
    with av.open(io.BytesIO(data), format="exr_pipe") as container:
        seen = next(container.decode(video=0)).to_ndarray(format="gbrpf32le")
    signal = codes(photographed[0]) / 255.0
    light = np.where(signal < 0.081, signal / 4.5, ((signal + 0.099) / 1.099) ** (1 / 0.45))
    assert np.abs(seen - light).max() < 1 / 1024  # of half floats
    assert np.array_equal(beside.codes_of(beside.opened(data)), codes(photographed[0]))


def test_the_other_passes_lie_beside_the_first(crew: Caller, poses, photographed):
    said = {"version": sheet(crew)["version"], "passes": ["front light", "Back light"]}
    assert crew("patch", f"/exposure-sheets/{poses[0].sheet_id}", said)[0] == 200
    matte = simulated(crew, poses[0], 9, lighter_stops=-1)
    assert sent(crew, poses[0], matte, light_pass=1)[0] == 201
    with packed(crew) as archive:
        beside_it = [name for name in archive.namelist() if "/pass2_back-light/" in name]
        assert [name.split(".")[-2] for name in beside_it] == ["0001", "0002"]
        assert np.array_equal(codes(archive.read(beside_it[0])), codes(matte))
        assert len(pictures(archive)) == 9


def test_nothing_photographed_is_nothing_to_pack(crew: Caller, poses):
    found = sheet(crew)
    status, said = crew("post", f"/exposure-sheets/{found['id']}/pictures", {"version": found["version"]})
    assert status == 422 and "take a frame first" in said["problems"][0]["message"]


def as_tiff(picture: np.ndarray) -> bytes:
    out = io.BytesIO()
    tifffile.imwrite(out, picture.astype(np.uint16) * 257, photometric="rgb")
    return out.getvalue()


def as_exr(picture: np.ndarray) -> bytes:
    from jungoptic.app.frames.taking_out import encoded

    return encoded(as_tiff(picture), "exr")


@pytest.mark.parametrize("name, kind", [("frame.tif", as_tiff), ("frame.exr", as_exr)])
def test_what_another_program_writes_is_taken_whole_and_shown(crew: Caller, poses, name: str, kind):
    board = codes(Demo().frame().read())
    data = kind(board)
    answers = []
    for pose in poses[:2]:
        body = {"file": SimpleUploadedFile(name, data)}
        answers.append(crew.client.post(f"/api/poses/{pose.pk}/exposures", body))
    assert [each.status_code for each in answers] == [201, 201]
    told = answers[1].json()
    assert told["watched"]["warnings"] == [] and (told["width_px"], told["height_px"]) == (320, 180)
    assert Exposure.objects.get(pk=told["id"]).file.read() == data
    for width in (1280, 320, 200):
        answer = crew.client.get(f"/api/exposures/{told['id']}.jpg?width={width}")
        shown = codes(b"".join(answer.streaming_content) if answer.streaming else answer.content)
        near = cv2.resize(board, shown.shape[1::-1], interpolation=cv2.INTER_AREA).astype(float)
        assert np.abs(shown - near).mean() < 2


@pytest.mark.parametrize("width, mode", [(1920, "RGB"), (3840, "RGB"), (1919, "RGB"), (1920, "L")])
def test_a_photograph_is_opened_small_as_it_is_whole(width: int, mode: str):
    """The way that skips what is not watched shows what the whole one does, and knows its size."""
    picture = Image.fromarray(codes(Demo().frame().read())).convert(mode).resize((width, width * 9 // 16))
    data = io.BytesIO()
    turned = Image.Exif()
    turned[0x0112] = 6  # on its side, which nobody who photographs a set means
    picture.save(data, "JPEG", quality=94, exif=turned)
    small, size = beside._watched_size(data.getvalue())
    assert size == picture.size and small.shape[1] == (beside.WATCHED_PX)
    whole = beside._small(beside.opened(data.getvalue()), beside.WATCHED_PX)
    assert np.abs(small.astype(float) - whole).mean() < 0.7
    with pytest.raises(InputError):
        beside._watched_size(data.getvalue()[:-2000])


def test_a_pack_for_which_there_is_no_room_is_said_with_what_it_takes(
    crew: Caller, photographed, monkeypatch: pytest.MonkeyPatch
):
    row = Demo().exposure_sheet()
    body = {"version": row.version, "format": "tiff", "expanded": True}
    monkeypatch.setattr(files, "room_bytes", lambda: 2_000_000)
    job = crew("post", f"/exposure-sheets/{row.pk}/pictures", body)[1]
    ended = done(job["id"])
    assert ended.state == "failed" and re.search(r"need about [\d.]+ MB more", ended.message), ended.message
    assert "2 MB are free" in ended.message and "one picture a pose" in ended.message


def test_a_full_disk_is_said_before_it_is_and_the_frame_stays_where_it_was_taken(
    crew: Caller,
    poses,
    monkeypatch,
):
    data = simulated(crew, poses[0])
    assert sent(crew, poses[0], data)[0] == 201
    monkeypatch.setattr("jungoptic.app.frames.reading.room_bytes", lambda: 40 * len(data))
    assert 30 <= sheet(crew)["room_frames"] <= 40
    monkeypatch.setattr(api, "room_bytes", lambda: len(data) - 1)
    status, _ = sent(crew, poses[1], data)
    assert status == 507 and Exposure.objects.count() == 1  # tried again later, as what a busy server answers
    monkeypatch.setattr(files.shutil, "disk_usage", lambda _: SimpleNamespace(free=7_000_000_000))
    assert files.room_bytes() == 7_000_000_000 - files.LEFT_FREE_BYTES
