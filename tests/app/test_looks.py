"""What layers look like: the shelf, SVG outlines in limits, parts kept and taken back; pictures."""

import io
from pathlib import Path

import numpy as np
import OpenEXR
import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from hypothesis import given, settings
from hypothesis import strategies as st
from PIL import Image

from jungoptic.app.boards import reading
from jungoptic.app.looks.svg import svg_outline
from jungoptic.app.shots.models import Layer, LayerPicture, Shot
from jungoptic.core.breakdown import OUTLINES
from jungoptic.core.errors import InputError

from .conftest import Caller, a_key, edit

HEAD = '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 100 50">'


def svg(body: str, head: str = HEAD) -> bytes:
    return f"{head}{body}</svg>".encode()


def covered(outline, size: int = 400) -> float:
    """Share of its box that an outline covers."""
    import cv2

    mask = np.zeros((size, size), np.uint8)
    for piece in outline.parts:
        cv2.fillPoly(mask, [np.round(np.array(piece.points) * (size - 1)).astype(np.int32)], 1)
    return float(mask.mean())


# --- SVG


def test_shapes_become_pieces_with_their_colours_and_places():
    outline = svg_outline(
        "mill.svg",
        svg(
            '<g fill="#8d8576" transform="translate(0 10)"><rect id="Wall" width="100" height="40"/></g>'
            '<path id="Roof" style="fill:rgb(90,70,64)" d="M0 10 L50 0 L100 10 Z"/>'
            '<circle id="Moon" cx="80" cy="20" r="5" fill="gold"/>'
        ),
        5.0,
    )
    assert [(piece.name, piece.colour) for piece in outline.parts] == [
        ("Wall", "#8d8576"),
        ("Roof", "#5a4640"),
        ("Moon", "#ffd700"),
    ]
    assert (outline.width_m, outline.height_m) == (10.0, 5.0)
    assert set(outline.parts[1].points) == {(0.0, 0.8), (0.5, 1.0), (1.0, 0.8)}
    moon = np.array(outline.parts[2].points)
    assert moon.mean(axis=0) == pytest.approx((0.8, 0.6), abs=0.01)
    assert np.ptp(moon, axis=0) == pytest.approx((0.1, 0.2), rel=0.01)


@pytest.mark.parametrize(
    ("path", "share"),
    [
        ('<path fill-rule="evenodd" d="M0 0H100V50H0Z M25 10H75V40H25Z"/>', 0.7),
        ('<path d="M0 0H100V50H0Z M25 10V40H75V10Z"/>', 0.7),  # the other way round: a hole too
        ('<path d="M0 0H100V50H0Z M25 10H75V40H25Z"/>', 1.0),  # the same way round: none
    ],
)
def test_holes_stay_open(path: str, share: float):
    assert covered(svg_outline("arch.svg", svg(path))) == pytest.approx(share, abs=0.02)


def test_turns_and_curves_are_followed():
    """A quarter of a disc of radius 50, by an arc, turned by 90° about its corner: π/4 of its box."""
    outline = svg_outline(
        "disc.svg",
        svg('<path transform="rotate(90 0 0)" d="M0 0 L50 0 A50 50 0 0 1 0 50 Z" fill="none" stroke="red"/>'),
    )
    assert outline.parts[0].colour == "#ff0000"
    assert covered(outline) == pytest.approx(np.pi / 4, abs=0.01)
    # what was right of the corner stands below it, what was below to its left: it is at the top right
    assert (1.0, 1.0) in outline.parts[0].points


BOMB = (
    b'<?xml version="1.0"?><!DOCTYPE svg [<!ENTITY a "aaaaaaaaaa">'
    + b"".join(b'<!ENTITY %c "%s">' % (98 + i, b"&%c;" % (97 + i) * 10) for i in range(9))
    + b']><svg xmlns="http://www.w3.org/2000/svg"><text>&j;</text></svg>'
)


@pytest.mark.parametrize(
    ("data", "words"),
    [
        (svg("<script>alert(1)</script>"), "carries a script"),
        (svg('<rect width="9" height="9" onload="alert(1)"/>'), "carries a script"),
        (svg('<image href="x.png" width="9" height="9"/>'), "carries a picture"),
        (svg('<rect width="9" height="9" fill="url(http://elsewhere/x)"/>'), "outside itself"),
        (svg('<a href="javascript:1"><rect width="9" height="9"/></a>'), "outside itself"),
        (svg('<use href="#x"/>'), "carries references"),
        (svg("<foreignObject/>"), "carries a page"),
        (BOMB, "entities"),
        (
            b'<?xml version="1.0"?><!DOCTYPE s [<!ENTITY x SYSTEM "file:///etc/passwd">]><svg>&x;</svg>',
            "entities",
        ),
        (b"<svg", "could not be read"),
        (b"\x89PNG\r\n", "could not be read"),
        (b"<html/>", "no SVG"),
        (svg(""), "no filled shape"),
        (svg('<path d="M0 0 L"/>'), "path that could not be read"),
        (svg('<path d="M0 0 H1e12 V1e-9 Z"/>'), "too flat"),
        (svg('<rect width="9" height="9"/>' * 5000), "elements"),
        (svg("<g>" * 100 + '<rect width="9" height="9"/>' + "</g>" * 100), "groups within groups"),
        (svg("".join(f'<rect x="{i * 3}" width="2" height="9"/>' for i in range(300))), "shapes; up to"),
        (b"<svg>" + b" " * 2_100_000, "MB; up to"),
    ],
)
def test_what_a_drawing_must_not_bring_is_refused_in_words(data: bytes, words: str):
    with pytest.raises(InputError) as refused:
        svg_outline("it.svg", data)
    assert (refused.value.problems[0].field, words in refused.value.problems[0].message) == ("file", True)


@settings(max_examples=60)
@given(
    st.lists(st.tuples(st.sampled_from("MLHVCQAZ"), st.lists(st.integers(-99, 99), max_size=7)), max_size=8)
)
def test_any_path_is_an_outline_or_refused(steps):
    path = " ".join(f"{how}{' '.join(map(str, numbers))}" for how, numbers in steps)
    try:
        outline = svg_outline("any.svg", svg(f'<path d="{path}"/>'))
    except InputError:
        return
    points = np.array([point for piece in outline.parts for point in piece.points])
    assert points.min() >= 0.0
    assert points.max() <= 1.0


# --- on a layer


def send(caller: Caller, path: str, **fields):
    answer = caller.client.post(f"/api{path}", fields)
    return answer.status_code, answer.json()


def test_a_look_from_the_shelf_is_saved_and_taken_back_like_any_change(
    supervisor: Caller, shot: Shot, mill: Layer
):
    before = Layer.objects.get(pk=mill.pk).values()
    assert {one["name"] for one in supervisor("get", "/looks")[1]} == set(OUTLINES)
    status, look = supervisor("get", f"/layers/{mill.pk}/look?outline=lighthouse")
    assert status == 200
    key = a_key()
    saved = {"layers": {mill.pk: edit(mill.version, **look["fields"])}}
    assert supervisor("post", f"/shots/{shot.pk}/changes", saved, key=key)[0] == 200
    after = Layer.objects.get(pk=mill.pk)
    outline = OUTLINES["lighthouse"]
    assert (after.width_m, after.height_m) == (outline.width_m, outline.height_m)
    assert [part.name for part in after.parts.all()] == [piece.name for piece in outline.parts]
    assert supervisor("get", f"/layers/{mill.pk}/parts")[1]["parts"] == after.values()["parts"]
    back = {"write": None, "key": key}
    assert supervisor("post", f"/productions/{shot.production_id}/take-back", back)[0] == 200
    assert Layer.objects.get(pk=mill.pk).values() == before
    assert supervisor("get", f"/layers/{mill.pk}/look?outline=pyramid")[0] == 422


def test_a_look_may_keep_the_layer_s_own_size(supervisor: Caller, mill: Layer):
    fields = supervisor("get", f"/layers/{mill.pk}/look?outline=barn&true_size=false")[1]["fields"]
    assert set(fields) == {"parts", "shown_as"}
    xs = [x for part in fields["parts"] for x, _ in part["points"]]
    assert max(xs) - min(xs) == pytest.approx(mill.width_m, rel=1e-3)


def test_parts_are_tried_before_they_are_kept(supervisor: Caller, shot: Shot, mill: Layer):
    parts = [{**mill.values()["parts"][0], "colour": "#ff00ff", "colour_low": None}]
    tried = {"layers": {mill.pk: {"parts": parts}}}
    bench = supervisor("post", f"/shots/{shot.pk}/trial", tried)[1]
    drawn = next(one for one in bench["layers"] if one["id"] == mill.pk)["outlines"]
    assert [one["colour"] for one in drawn] == ["#ff00ff"]
    assert mill.parts.count() > 1


def test_parts_that_cannot_be_are_refused_at_their_field(supervisor: Caller, shot: Shot, mill: Layer):
    count = mill.parts.count()
    changes = {"layers": {mill.pk: edit(mill.version, parts=[{"name": "Line", "points": [[0, 0], [1, 1]]}])}}
    status, answer = supervisor("post", f"/shots/{shot.pk}/changes", changes)
    assert (status, answer["problems"][0]["field"][:5]) == (422, "parts")
    assert mill.parts.count() == count


def test_an_svg_is_read_as_high_as_the_layer_stands(supervisor: Caller, mill: Layer):
    file = SimpleUploadedFile("cog.svg", svg('<rect width="100" height="50" fill="#123456"/>'))
    status, look = send(supervisor, f"/layers/{mill.pk}/outline", file=file)
    assert status == 200
    assert look["fields"]["width_m"] == pytest.approx(2 * mill.height_m)
    assert look["fields"]["parts"][0]["colour"] == "#123456"
    bad = SimpleUploadedFile("cog.svg", svg("<script/>"))
    status, answer = send(supervisor, f"/layers/{mill.pk}/outline", file=bad)
    assert (status, "script" in answer["problems"][0]["message"]) == (422, True)
    assert send(supervisor, f"/layers/{mill.pk}/outline")[0] == 422


# --- pictures that stand


def png(colour: tuple[int, ...], size: tuple[int, int] = (120, 80)) -> bytes:
    image = Image.new("RGBA", size, (0, 0, 0, 0))
    image.paste(colour, (20, 10, 100, 70))
    out = io.BytesIO()
    image.save(out, "PNG")
    return out.getvalue()


def exr(light: np.ndarray, path: Path) -> bytes:
    with OpenEXR.File({"compression": OpenEXR.ZIP_COMPRESSION}, {"RGBA": light}) as file:
        file.write(str(path))
    return path.read_bytes()


def test_an_exr_comes_in_as_a_display_shows_it(tmp_path: Path):
    """18 % grey is 118 of 255 in sRGB [published: IEC 61966-2-1]; what is brighter than white is white."""
    light = np.full((40, 60, 4), 0.18, np.float32)
    light[:20, :, :3], light[..., 3], light[:, :30, 3] = 7.0, 1.0, 0.0
    found = next(reading.pictures("plate.exr", exr(light, tmp_path / "a.exr"), transparent=True))
    image = Image.open(io.BytesIO(found.data))
    assert (image.format, found.came_px) == ("PNG", (60, 40))
    assert [image.getpixel(place) for place in ((45, 30), (45, 5))] == [(118, 118, 118, 255), (255,) * 4]
    assert image.getpixel((5, 30))[3] == 0
    with pytest.raises(InputError, match="could not be read as an EXR"):
        next(reading.pictures("plate.exr", exr(light, tmp_path / "b.exr")[:300]))


def magenta(caller: Caller, shot: Shot, **tried) -> float:
    """Share of the lens view that is magenta."""
    status, data = caller("post", f"/shots/{shot.pk}/picture", {"width_px": 480, "frame": 0, **tried})
    assert status == 200
    view = np.asarray(Image.open(io.BytesIO(data)).convert("RGB"), float)
    return float(((view[..., 0] + view[..., 2]) / 2 - view[..., 1] > 40).mean())


def test_a_transparent_picture_stands_where_the_layer_stands(supervisor: Caller, shot: Shot, mill: Layer):
    assert magenta(supervisor, shot) == 0.0
    file = SimpleUploadedFile("cut.png", png((255, 0, 255, 255)))
    path = f"/layers/{mill.pk}/picture"
    assert send(supervisor, path, file=file, version=mill.version, shown="true")[0] == 200
    mill.refresh_from_db()
    assert (mill.shown_as, mill.cut_by) == ("picture", "alpha")
    assert mill.width_m == pytest.approx(mill.height_m * 120 / 80, rel=1e-3)
    assert LayerPicture.objects.get(pk=mill.picture_id).file.kind == "image/png"
    assert 0.02 < (share := magenta(supervisor, shot)) < 0.8
    assert magenta(supervisor, shot, layers={mill.pk: {"shown_as": "outline"}}) == 0.0
    half = [[20, 10], [60, 10], [60, 70], [20, 70]]
    assert magenta(supervisor, shot, layers={mill.pk: {"cut_outline": half}}) == pytest.approx(
        share / 2, rel=0.2
    )
    small = supervisor("get", f"/shots/{shot.pk}/small.jpg")
    assert small[0] == 200
