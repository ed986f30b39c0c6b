"""What photographs say of themselves: files written here by Pillow with the published tags (CIPA DC-008,
EXIF 2.32, numbers of the tags from memory), damaged and absurd ones among them.
"""

from __future__ import annotations

import io
import json
import math
import zlib
from typing import Any

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from hypothesis import given
from hypothesis import strategies as st
from PIL import Image
from PIL.TiffImagePlugin import IFDRational

from jungoptic.app.photographs import tags
from jungoptic.app.photographs.tags import Tags
from jungoptic.core.errors import InputError

from .conftest import Caller

MAKE, MODEL, ORIENTATION, EXIF, GPS = 0x010F, 0x0110, 0x0112, 0x8769, 0x8825
EXPOSURE, F_NUMBER, ISO, TAKEN, OFFSET = 0x829A, 0x829D, 0x8827, 0x9003, 0x9011
FOCAL, EQUIVALENT, LENS = 0x920A, 0xA405, 0xA434

OWN: dict[int, Any] = {
    EXPOSURE: IFDRational(1, 50),
    F_NUMBER: IFDRational(18, 10),
    ISO: 200,
    TAKEN: "2027:10:17 18:04:31",
    OFFSET: "+01:00",
    FOCAL: IFDRational(69, 10),
    EQUIVALENT: 26,
    LENS: "main lens",
}
PLACE: dict[int, Any] = {
    1: "N",
    2: (IFDRational(54), IFDRational(18), IFDRational(0)),
    3: "W",
    4: (IFDRational(3), IFDRational(12), IFDRational(0)),
}


def photograph(
    own: dict[int, Any] | None = None,
    place: dict[int, Any] | None = None,
    main: dict[int, Any] | None = None,
    size: tuple[int, int] = (400, 300),
    kind: str = "JPEG",
) -> bytes:
    said = {MAKE: "Invented", MODEL: "Invented T1", **(main or {})}
    parts = {EXIF: dict(OWN if own is None else own)} | ({GPS: dict(place)} if place else {})
    out = io.BytesIO()
    picture = Image.new("RGB", size, "grey")
    if kind == "TIFF":
        picture.save(out, kind, tiffinfo=said | parts)
    else:
        exif = Image.Exif()
        for tag, value in (said | parts).items():
            exif[tag] = value
        picture.save(out, kind, exif=exif)
    return out.getvalue()


def read(data: bytes, **how: bool) -> Tags:
    return tags.read("quay.jpg", data, **how)


@pytest.mark.parametrize("kind", ["JPEG", "TIFF", "PNG", "WEBP"])
def test_the_published_tags_are_read(kind: str):
    found = read(photograph(kind=kind))
    assert (found.width_px, found.height_px) == (400, 300)
    assert (found.camera, found.lens) == ("Invented T1", "main lens")
    assert (found.focal_length_mm, found.equivalent_mm, found.f_number) == (6.9, 26, 1.8)
    assert found.exposure_s == pytest.approx(1 / 50) and found.iso == 200
    assert found.taken_at == "2027-10-17T18:04:31+01:00"
    # by hand: 43.2666 · 6.9/26 = 11.482 mm across; 4:3 of it are 9.186 × 6.889 mm
    assert (found.gate_width_mm, found.gate_height_mm) == (9.19, 6.89)
    assert found.left_out == []


def test_where_it_was_taken_is_told_to_whoever_asks_and_to_nobody_else():
    data = photograph(place=PLACE)
    assert read(data).latitude_deg is None and read(data).longitude_deg is None
    there = read(data, where=True)
    assert (there.latitude_deg, there.longitude_deg) == (54.3, -3.2)


def test_upright_is_upright_and_the_gate_lies_as_it_is_built():
    found = read(photograph(main={ORIENTATION: 6}))
    assert (found.width_px, found.height_px) == (300, 400)
    assert (found.gate_width_mm, found.gate_height_mm) == (9.19, 6.89)


@pytest.mark.parametrize(
    ("tag", "value", "said"),
    [
        (FOCAL, IFDRational(0, 1), "Focal length: the tag says 0 mm."),
        (FOCAL, IFDRational(1, 0), "Focal length: the tag says nothing that is a number."),
        (FOCAL, IFDRational(4_000_000, 1), "Focal length"),
        (F_NUMBER, IFDRational(0, 10), "Stop"),
        (EXPOSURE, IFDRational(100_000, 1), "Exposure"),
        (TAKEN, "yesterday", "Time: the tag is no time."),
        (TAKEN, "2027:13:45 99:00:00", "Time"),
    ],
)
def test_an_absurd_tag_is_left_out_and_said(tag: int, value: Any, said: str):
    found = read(photograph({**OWN, tag: value}))
    assert any(one.startswith(said) for one in found.left_out), found.left_out
    assert found.iso == 200, "the others are read all the same"
    assert (found.gate_width_mm is None) == (tag == FOCAL)


def test_an_equivalent_of_nought_is_the_standards_word_for_unknown():
    found = read(photograph({**OWN, EQUIVALENT: 0}))
    assert found.equivalent_mm is None and found.gate_width_mm is None and found.left_out == []


def test_a_gate_that_no_camera_has_is_not_believed():
    found = read(photograph({**OWN, FOCAL: IFDRational(200), EQUIVALENT: 10}))
    assert found.gate_width_mm is None and "no such camera" in found.left_out[0]


@pytest.mark.parametrize(
    "wrong",
    [
        {2: (IFDRational(154), IFDRational(18), IFDRational(0))},
        {4: (IFDRational(3), IFDRational(77), IFDRational(0))},
        {2: IFDRational(54)},
        {4: (IFDRational(1, 0), IFDRational(0), IFDRational(0))},
    ],
)
def test_a_place_that_is_none_is_said_to_be_none(wrong: dict[int, Any]):
    found = read(photograph(place={**PLACE, **wrong}), where=True)
    assert found.latitude_deg is None and "no place" in found.left_out[0]


def test_a_photograph_without_tags_is_a_photograph_without_tags():
    out = io.BytesIO()
    Image.new("RGB", (64, 48)).save(out, "JPEG")
    found = read(out.getvalue(), where=True)
    assert (found.width_px, found.focal_length_mm, found.left_out) == (64, None, [])


def test_the_beginning_of_a_large_one_is_enough():
    whole = photograph(size=(3000, 2000))
    assert read(whole[:4000]).focal_length_mm == 6.9


WHOLE = photograph(place=PLACE)


@given(st.data())
def test_whatever_is_damaged_it_is_read_or_refused_with_a_word(data: st.DataObject):
    damaged = bytearray(WHOLE[: data.draw(st.integers(0, len(WHOLE)))])
    for at in data.draw(st.lists(st.integers(0, max(len(damaged) - 1, 0)), max_size=12)):
        if damaged:
            damaged[at] = data.draw(st.integers(0, 255))
    try:
        found = read(bytes(damaged), where=True)
    except InputError as error:
        assert error.problems[0].field == "file"
        return
    for value in vars(found).values():
        if isinstance(value, float):
            assert math.isfinite(value)
    json.dumps(vars(found), allow_nan=False)


def header_of(width: int, height: int) -> bytes:
    """A PNG that says how large it is, and nothing else."""
    whole = io.BytesIO()
    Image.new("L", (1, 1)).save(whole, "PNG")
    data = bytearray(whole.getvalue())
    data[16:24] = width.to_bytes(4, "big") + height.to_bytes(4, "big")
    data[29:33] = zlib.crc32(data[12:29]).to_bytes(4, "big")
    return bytes(data)


@pytest.mark.parametrize("data", [b"", b"GIF89a", b"<svg/>", header_of(100_000, 100_000)])
def test_what_is_no_photograph_is_refused_with_a_word(data: bytes):
    with pytest.raises(InputError, match=r"“quay.jpg”"):
        read(data)


def test_over_the_wire_nothing_is_kept(stranger: Caller):
    sent = SimpleUploadedFile("quay.jpg", photograph(place=PLACE), "image/jpeg")
    answer = stranger.client.post("/api/photographs/tags", {"file": sent, "where": "true"})
    assert answer.status_code == 200 and answer.json()["latitude_deg"] == 54.3
    sent.seek(0)
    assert stranger.client.post("/api/photographs/tags", {"file": sent}).json()["latitude_deg"] is None
    assert stranger.client.post("/api/photographs/tags", {}).json()["problems"][0]["field"] == "file"
