"""Files measured from the command line: every row, every kind of file, and files that are none."""

from __future__ import annotations

import json
import os
import struct
import subprocess
import sys
import zlib
from pathlib import Path

import av
import cv2
import numpy as np
import pytest

from jungoptic.app.footage.pictures import open_footage
from jungoptic.app.rushes.asked import Asked
from jungoptic.app.rushes.rows import ROWS, measure
from jungoptic.core.errors import InputError
from jungoptic.core.measure import Curve, linear
from tests.core.filmed import laid, noised, photograph, signal, write

ROOT = Path(__file__).parents[2]


@pytest.fixture(scope="module")
def files(tmp_path_factory) -> Path:
    """A clip of somebody who walks before a sheet, its clean plate, a flame on black, stills."""
    place = tmp_path_factory.mktemp("footage")
    plate = 0.5 * laid(photograph("coffee"))
    walks = []
    for frame in range(24):
        picture = plate * 2 ** (0.03 * np.sin(2 * np.pi * 4 * frame / 24))
        picture[120:260, 40 + 14 * frame : 100 + 14 * frame] = 0.02
        walks.append(noised(picture, 0.02, frame))
    write(str(place / "walks.mp4"), walks, 14)
    write(str(place / "clean.mp4"), [noised(plate, 0.02, 90 + frame) for frame in range(10)], 14)
    moved = 0.5 * laid(photograph("coffee"), (2.3, -1.0))
    write(
        str(place / "bumped.mov"),
        [noised(moved, 0.02, frame) for frame in range(3)],
        codec="prores_ks",
        pix_fmt="yuv422p10le",
    )
    y, x = np.mgrid[0:360, 0:640]
    sheet = np.array([0.06, 0.42, 0.1]) * (2.0 ** (-0.9 * (x / 640 - 0.5)))[..., None]
    sheet[(x - 320) ** 2 + (y - 220) ** 2 < 90**2] = (0.35, 0.22, 0.15)
    deep = np.rint(65535 * signal(noised(sheet, 0.01, 3))).astype(np.uint16)
    cv2.imwrite(str(place / "sheet.tif"), deep[..., ::-1])
    cv2.imwrite(str(place / "sheet.jpg"), (deep[..., ::-1] >> 8).astype(np.uint8))
    flame = [
        np.repeat(np.where((x - 320) ** 2 + (y - 180) ** 2 < (5 * n) ** 2, 0.6, 0.001)[..., None], 3, 2)
        for n in range(8)
    ]
    write(str(place / "flame.mp4"), flame)
    return place


def run(*words: str) -> subprocess.CompletedProcess[str]:
    return subprocess.run(
        [sys.executable, ROOT / "tools/measure.py", *words],
        capture_output=True,
        text=True,
        env={**os.environ, "DATABASE_URL": ""},
        check=False,
    )


def told(what: str, file: Path, **more) -> dict[str, dict]:
    answer = measure(what, Asked(file, **more))
    json.dumps(answer, allow_nan=False)
    assert answer["says"].endswith(".") and answer["amounts"]
    return {each["name"]: each for each in answer["amounts"]}


def test_the_command_prints_value_unit_error_and_assumptions(files):
    seen = run(
        "still",
        str(files / "bumped.mov"),
        "--against",
        str(files / "clean.mp4"),
        "--delivery",
        "1280x720",
        "--curve",
        "bt709",
    )
    assert seen.returncode == 0, seen.stderr
    answer = json.loads(seen.stdout)
    amounts = {each["name"]: each["value"] for each in answer["amounts"]}
    assert (amounts["right"], amounts["down"]) == pytest.approx((4.6, -2.0), abs=0.2)  # delivered px
    assert answer["unit"] == "px" and 0 < answer["error"] < 0.3 and answer["value"] == amounts["moved"]
    assert "the curve of ITU-R BT.709, as told." in answer["assumptions"]


@pytest.mark.parametrize(
    ("words", "says"),
    [
        (("evenness", "nothing.mp4"), "is not there"),
        (("still", "{files}/clean.mp4", "--region", "1,2,x"), "--region wants 4 numbers"),
        (("evenness", "{files}/clean.mp4", "--curve", "log:1,2"), "five numbers"),
        (("evenness", "{files}/clean.mp4", "--curve", "film"), "“film”"),
        (("edge", "{files}/sheet.tif"), "Mark the edge"),
        (("edge", "{files}/sheet.tif", "--region", "600,0,100,100"), "640 × 360"),
        (("seam", "{files}/walks.mp4"), "the other half"),
        (("evenness", "{files}/sheet.tif", "--delivery", "wide"), "1920x1080"),
    ],
)
def test_what_cannot_be_measured_is_said_and_ends_with_two(files, words, says):
    seen = run(*(each.replace("{files}", str(files)) for each in words))
    assert seen.returncode == 2 and says in seen.stderr and "Traceback" not in seen.stderr


def test_every_row_is_measured_of_files(files):
    walks, clean, sheet = files / "walks.mp4", files / "clean.mp4", files / "sheet.tif"
    seen = told("evenness", sheet, curve=Curve("bt709"))
    assert seen["evenness"]["value"] == pytest.approx(0.9 * 0.96, abs=0.05)
    assert seen["across"]["value"] == pytest.approx(-0.9, abs=0.03)
    keyed = told("key", sheet, curve=Curve("bt709"), region=(0.0, 0.0, 0.2, 1.0))
    assert keyed["separation"]["value"] > 6 and keyed["remains"]["value"] < 1
    change = told("change", files / "bumped.mov", against=clean)
    assert change["light"]["value"] == pytest.approx(0, abs=0.01)
    assert change["moved"]["value"] == pytest.approx(2.5, abs=0.2)
    flicker = told("flicker", walks, mains_hz=50.0, region=(0.0, 0.75, 1.0, 0.25))
    assert flicker["mains"]["value"] == pytest.approx(4.0)
    assert flicker["flicker"]["value"] == pytest.approx(0.052, abs=0.02)
    assert 0.4 < told("grain", clean)["grain"]["value"] < 2.1  # the codec keeps less of it than there was
    assert told("grain", clean, against=clean, delivery=(320, 180))["ratio"]["value"] == pytest.approx(1)
    assert told("edge", sheet, region=(210, 200, 40, 40), curve=Curve("bt709"))["edge"]["value"] < 1.5
    assert told("movement", walks)["fastest"]["value"] == pytest.approx(14, abs=3)
    crossed = told("movement", walks, places=((0.5, 0.0), (0.5, 1.0)))
    assert 4 <= crossed["crossed"]["value"] <= 7
    assert told("seam", walks, against=clean)["crossed"]["value"] == 0
    assert told("patch", walks, frame=8, region=(150, 118, 66, 144))["residual"]["value"] < 0.05
    assert told("matte-hours", walks, against=clean)["keys"]["value"] <= 24
    assert told("grey", sheet, region=(290, 200, 40, 40), curve=Curve("bt709"))["exposure"]["unit"] == "stop"
    assert told("black", files / "flame.mp4")["last"]["value"] == 7
    assert told("light", walks)["range"]["value"] < 0.1
    assert told("wobble", clean, region=(300, 150, 60, 60))["wobble"]["value"] < 0.2
    assert set(ROWS) >= {"ball", "photograph"}


def test_every_kind_of_file_says_what_it_holds(files, tmp_path):
    prores = open_footage(files / "bumped.mov")
    assert (prores.colour.bits, prores.colour.legal, prores.frames) == (10, True, 3)
    deep, small = (open_footage(files / name) for name in ("sheet.tif", "sheet.jpg"))
    pictures = [linear(each.picture(0).signal(), Curve("bt709")) for each in (deep, small)]
    assert np.abs(pictures[0] - pictures[1]).mean() < 0.01
    assert pictures[0][10, 10, 1] > pictures[0][10, 630, 1] * 1.5  # red first, green backing
    light = np.full((40, 60, 3), (0.5, 0.25, 2.0), np.float32)
    with av.open(str(tmp_path / "ball.exr"), "w", format="image2") as container:
        stream = container.add_stream("exr", rate=1)
        stream.width, stream.height, stream.pix_fmt = 60, 40, "gbrpf32le"
        frame = av.VideoFrame.from_ndarray(light, format="gbrpf32le")
        container.mux(stream.encode(frame))
        container.mux(stream.encode(None))
    exr = open_footage(tmp_path / "ball.exr")
    assert exr.colour.curve == "linear"
    assert exr.picture(0).signal()[5, 5].tolist() == pytest.approx([0.5, 0.25, 2.0])
    folder = tmp_path / "stills"
    folder.mkdir()
    for number in range(3):
        cv2.imwrite(str(folder / f"{number:04}.png"), np.full((40, 60, 4), 60 * number, np.uint8))
    series = open_footage(folder)
    assert series.frames == 3 and any("alpha" in each for each in series.remarks)
    assert [round(float(each.signal().mean()), 2) for each in series.pictures()] == [0.0, 0.24, 0.47]


def png_that_claims(width: int, height: int) -> bytes:
    def chunk(kind: bytes, data: bytes) -> bytes:
        return struct.pack(">I", len(data)) + kind + data + struct.pack(">I", zlib.crc32(kind + data))

    head = struct.pack(">IIBBBBB", width, height, 8, 2, 0, 0, 0)
    return (
        b"\x89PNG\r\n\x1a\n"
        + chunk(b"IHDR", head)
        + chunk(b"IDAT", zlib.compress(b"\0" * 100))
        + chunk(b"IEND", b"")
    )


def test_files_that_are_none_are_refused_in_words_and_what_broke_off_is_measured(files, tmp_path):
    whole = (files / "walks.mp4").read_bytes()
    bad = {
        "notes.mov": (b"not a film at all\n" * 20, "no picture and no clip: text"),
        "empty.mp4": (b"", "0 bytes"),
        "half.mp4": (whole[: len(whole) // 3], "damaged"),
        "huge.png": (png_that_claims(100_000, 100_000), "100000 × 100000"),
        "broken.png": (png_that_claims(64, 64)[:60], "damaged"),
        "noise.jpg": (b"\xff\xd8\xff\xe0" + bytes(range(256)) * 4, "damaged"),
    }
    for name, (data, says) in bad.items():
        (tmp_path / name).write_bytes(data)
        with pytest.raises(InputError, match=says):
            measure("evenness", Asked(tmp_path / name))
    (tmp_path / "empty").mkdir()
    with pytest.raises(InputError, match="no picture in the folder"):
        measure("flicker", Asked(tmp_path / "empty"))
    frames = [noised(0.5 * laid(photograph("brick")), 0.02, n) for n in range(12)]
    write(str(tmp_path / "cut.mkv"), frames, 14)
    data = (tmp_path / "cut.mkv").read_bytes()
    (tmp_path / "cut.mkv").write_bytes(data[: int(0.7 * len(data))])
    assert "values" in measure("light", Asked(tmp_path / "cut.mkv"))["series"][0]
