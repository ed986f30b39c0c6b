"""What layers look like, and the photograph of the place: by hand in the real interface."""

from __future__ import annotations

import io
import re
from pathlib import Path

import cv2
import numpy as np
import pytest
from PIL import Image
from playwright.sync_api import FilePayload, Locator, Page, expect

from jungoptic.app.shots.models import Layer, Shot
from jungoptic.core.breakdown import OUTLINES
from tests.core.by_opencv import H, W
from tests.quay import LAMP_M, TOOK, VIEW_DEG, quay_marks, quay_photograph

from .conftest import DIALOG, OpenPage, at, axe, box_of, choose, overflow, saved, settled

pytestmark = pytest.mark.browser


@pytest.fixture
def mill(shot: Shot) -> Layer:
    return Layer.objects.get(shot=shot, name="Mill 1:12")


def looks(open_bench: OpenPage, layer: Layer, **how: object) -> Page:
    page = open_bench("supervisor", layer.shot, **how)
    page.get_by_role("button", name=re.compile(f"^{layer.name}")).first.click()
    page.keyboard.press("l")
    expect(page.get_by_role("dialog")).to_contain_text(f"{layer.name}: what it looks like")
    return page


def names(layer: Layer) -> list[str]:
    return [part.name for part in Layer.objects.get(pk=layer.pk).parts.all()]


def sheet(size: tuple[int, int] = (160, 240)) -> FilePayload:
    """Somebody in red before a green sheet."""
    image = Image.new("RGB", size, "#2f9e44")
    image.paste((190, 60, 50), (50, 40, 110, 220))
    out = io.BytesIO()
    image.save(out, "PNG")
    return {"name": "orla.png", "mimeType": "image/png", "buffer": out.getvalue()}


def drawn(body: str) -> FilePayload:
    head = '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 40 20">'
    return {"name": "cog.svg", "mimeType": "image/svg+xml", "buffer": f"{head}{body}</svg>".encode()}


def test_a_layer_takes_its_look_from_the_shelf_and_from_a_drawing(open_bench: OpenPage, mill: Layer):
    before = names(mill)
    page = looks(open_bench, mill)
    dialog = page.get_by_role("dialog")
    page.get_by_label("Find on the shelf").fill("light")
    dialog.get_by_role("button", name=re.compile("^lighthouse")).click()
    wanted = [piece.name for piece in OUTLINES["lighthouse"].parts]
    saved(lambda: names(mill), wanted)
    saved(lambda: Layer.objects.get(pk=mill.pk).height_m, OUTLINES["lighthouse"].height_m)
    colour = dialog.get_by_label("Colour, Band")
    colour.fill("#224466")
    saved(lambda: Layer.objects.get(pk=mill.pk).parts.get(name="Band").colour, "#224466")
    behind = dialog.get_by_label("Behind, Tower")
    behind.fill("0.5")
    behind.press("Enter")
    saved(lambda: Layer.objects.get(pk=mill.pk).parts.get(name="Tower").behind_m, 0.5)
    files = page.locator("input[type=file]").last
    files.set_input_files(drawn("<script/>"))
    expect(dialog.get_by_role("alert")).to_contain_text("“cog.svg” carries a script")
    files.set_input_files(drawn('<rect id="Cog" width="40" height="20" fill="#123456"/>'))
    saved(lambda: names(mill), ["Cog"])
    for _ in range(4):
        dialog.get_by_role("button", name="Undo").click()
        settled(page)
    saved(lambda: names(mill), before)
    assert axe(page, DIALOG) == []


def test_a_picture_is_cut_out_and_stands_in_the_lens_view(open_bench: OpenPage, mill: Layer):
    page = looks(open_bench, mill)
    dialog = page.get_by_role("dialog")
    page.locator("input[type=file]").last.set_input_files(sheet())
    saved(lambda: Layer.objects.get(pk=mill.pk).shown_as, "picture")
    choose(dialog.get_by_label("Cut out by"), "the colour of the sheet")
    saved(lambda: Layer.objects.get(pk=mill.pk).cut_by, "sheet")
    dialog.get_by_role("button", name="Take it from the picture").click()
    canvas = box_of(dialog.get_by_role("img", name=re.compile("^Picture of")))
    page.mouse.click(canvas["x"] + canvas["width"] * 0.1, canvas["y"] + canvas["height"] * 0.1)
    # the sheet's #2f9e44, as a JPEG keeps it
    saved(lambda: (Layer.objects.get(pk=mill.pk).cut_colour or "")[:2], "#3")
    dialog.get_by_role("button", name="Loose outline").click()
    for x, y in ((0.2, 0.1), (0.8, 0.1), (0.8, 0.95), (0.2, 0.95)):
        page.mouse.click(canvas["x"] + canvas["width"] * x, canvas["y"] + canvas["height"] * y)
    dialog.get_by_role("button", name="Close the outline").click()
    saved(lambda: len(Layer.objects.get(pk=mill.pk).cut_outline), 4)
    assert axe(page, DIALOG) == []
    dialog.get_by_role("radio", name="Through the lens").click()
    expect(dialog.get_by_role("img", name=re.compile("^Through the lens"))).to_be_visible()
    dialog.get_by_role("radio", name="Outline").click()
    saved(lambda: Layer.objects.get(pk=mill.pk).shown_as, "outline")


# --- the photograph of the place


def place(canvas: Locator, x: float, y: float) -> tuple[float, float]:
    box = canvas.bounding_box()
    assert box
    return box["x"] + x / W * box["width"], box["y"] + y / H * box["height"]


def draw(page: Page, canvas: Locator, points: list[tuple[float, float]]) -> None:
    if len(points) == 1:
        page.mouse.click(*place(canvas, *points[0]))
        return
    page.mouse.move(*place(canvas, *points[0]))
    page.mouse.down()
    page.mouse.move(*place(canvas, *points[1]), steps=4)
    page.mouse.up()


def test_a_photograph_of_the_place_becomes_the_hero_and_the_mill_is_moved_over_its_ground(
    open_page: OpenPage, shot: Shot, mill: Layer
):
    """Horizon and a person drawn by mouse: the hero stands at the height, tilt and roll of the camera that
    took it.
    """
    page = at(open_page("supervisor"), f"/shots/{shot.pk}/photograph", "Drop a photograph of the place here")
    assert axe(page) == []
    page.locator("input[type=file]").first.set_input_files(
        {"name": "quay.jpg", "mimeType": "image/jpeg", "buffer": quay_photograph()}
    )
    expect(page.get_by_role("heading", name=re.compile("^Lens"))).to_contain_text(f"{VIEW_DEG:.1f}°")
    canvas = page.get_by_role("group", name=re.compile("^The picture"))
    settled(page)
    hero = Layer.objects.get(shot=shot, is_hero=True)
    keys = {"horizon": "4", "height": "5", "stands": "8", "foot": "7"}
    for count, mark in enumerate(quay_marks(), 1):
        page.keyboard.press(keys[mark["kind"]])
        draw(page, canvas, mark["points"])
        saved(lambda: len(Layer.objects.get(pk=hero.pk).marks), count)
    page.keyboard.press("Escape")
    expect(page.get_by_text(re.compile(rf"^{LAMP_M:.1f}\d* m ± .* high"))).to_be_visible()
    page.get_by_role("button", name="Write it into the hero").click()

    def stands() -> tuple[float, float, float]:
        set_up = Shot.objects.get(pk=shot.pk).layers.get(is_hero=True).set_up
        return (
            round(set_up.lens_height_m - set_up.ground_height_m, 1),
            round(set_up.tilt_deg, 0),
            round(set_up.roll_deg, 0),
        )

    saved(stands, (round(TOOK.height_m, 1), TOOK.tilt_deg, round(TOOK.roll_deg, 0)))
    expect(page.get_by_role("button", name="The hero has it so")).to_be_disabled()
    before = Layer.objects.get(pk=mill.pk).near_m
    foot = box_of(page.get_by_role("slider", name="Mill 1:12 on the ground"))
    middle = foot["x"] + foot["width"] / 2, foot["y"] + foot["height"] / 2
    page.mouse.move(*middle)
    page.mouse.down()
    page.mouse.move(middle[0] + 10, middle[1] - 8, steps=3)
    page.mouse.up()
    saved(lambda: Layer.objects.get(pk=mill.pk).near_m > before * 1.02, True)
    page.get_by_role("button", name="Undo").click()
    saved(lambda: Layer.objects.get(pk=mill.pk).near_m, before)
    assert axe(page) == []


def test_the_photograph_fits_a_telephone(open_page: OpenPage, shot: Shot):
    page = open_page("supervisor", width=390, height=844)
    at(page, f"/shots/{shot.pk}/photograph", "Drop a photograph of the place here")
    page.locator("input[type=file]").first.set_input_files(
        {"name": "quay.jpg", "mimeType": "image/jpeg", "buffer": quay_photograph()}
    )
    expect(page.get_by_role("group", name=re.compile("^The picture"))).to_be_visible()
    assert overflow(page) == 0


def clip(path: Path) -> Path:
    """Two seconds: something red crosses a green sheet."""
    writer = cv2.VideoWriter(str(path), cv2.VideoWriter.fourcc(*"VP80"), 24, (320, 180))
    for place in range(48):
        frame = np.full((180, 320, 3), (68, 158, 47), np.uint8)
        cv2.circle(frame, (20 + 5 * place, 100), 25, (50, 60, 190), -1)
        writer.write(frame)
    writer.release()
    return path


def test_a_frame_of_a_clip_is_taken_and_the_clip_stays_here(
    open_bench: OpenPage, mill: Layer, tmp_path: Path
):
    page = looks(open_bench, mill)
    sent: list[str] = []
    page.on("request", lambda request: sent.append(request.headers.get("content-type", "")))
    page.locator("input[type=file]").last.set_input_files(clip(tmp_path / "walk.webm"))
    time = page.get_by_role("slider", name="Time in the clip")
    use = page.get_by_role("button", name="Use this frame")
    expect(use).to_be_enabled()
    for _ in range(12):
        time.press("ArrowRight")
    expect(page.get_by_text("0.50 s")).to_be_visible()
    assert axe(page, DIALOG) == []
    assert not any(kind.startswith("multipart") for kind in sent)
    use.click()
    saved(lambda: Layer.objects.get(pk=mill.pk).shown_as, "picture")
    picture = Layer.objects.get(pk=mill.pk).picture
    assert picture
    assert (picture.name, picture.width_px) == ("walk.webm at 0.50 s.png", 320)
