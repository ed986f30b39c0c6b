"""A layer's picture read by hand through the real interface: drawn on, moved, taken over, taken back."""

from __future__ import annotations

import io
import re

import pytest
from PIL import Image
from playwright.sync_api import Locator, Page, expect

from jungoptic.app.demo.loft_picture import HEIGHT_PX, WIDTH_PX, loft_marks
from jungoptic.app.shots.models import Layer

from .conftest import OpenPage, saved, settled

pytestmark = pytest.mark.browser


@pytest.fixture
def rafters(stored: None) -> Layer:
    return Layer.objects.get(shot__code="TM120", name="Painted rafters")


def opened(open_bench: OpenPage, layer: Layer) -> Page:
    page = open_bench("supervisor", layer.shot)
    page.get_by_role("button", name=re.compile(f"^{layer.name}")).first.click()
    return page


def told(page: Page, title: str) -> str:
    row = page.get_by_role("row", name=re.compile(f"^{title}"))
    return row.get_by_role("cell").nth(0).inner_text()


def place(canvas: Locator, x: float, y: float) -> tuple[float, float]:
    """A place of the picture on the screen."""
    box = canvas.bounding_box()
    assert box
    return box["x"] + x / WIDTH_PX * box["width"], box["y"] + y / HEIGHT_PX * box["height"]


def draw(page: Page, canvas: Locator, *points: tuple[float, float]) -> None:
    """Press on the first, let go on the second, click the others."""
    page.mouse.move(*place(canvas, *points[0]))
    page.mouse.down()
    page.mouse.move(*place(canvas, *points[1]), steps=4)
    page.mouse.up()
    for point in points[2:]:
        page.mouse.click(*place(canvas, *point))


def test_a_photograph_is_read_by_drawing_on_it(open_bench: OpenPage, rafters: Layer):
    """Everything drawn by mouse gives what the same marks gave in the demo."""
    marks = loft_marks()
    Layer.objects.filter(pk=rafters.pk).update(marks=[])
    page = opened(open_bench, rafters)
    page.get_by_role("button", name="Read how it was taken off the picture").click()
    expect(page.get_by_role("dialog")).to_contain_text("Choose above what you see in the picture")
    canvas = page.get_by_role("group", name=re.compile("^The picture"))
    expect(page.get_by_role("button", name="Use what was read")).to_be_disabled()
    keys = {"away": "1", "across": "2", "upright": "3", "horizon": "4", "height": "5", "shadow": "6"}
    for count, mark in enumerate(marks, 1):
        page.keyboard.press(keys[mark["kind"]])
        draw(page, canvas, *mark["points"])
        saved(lambda: len(Layer.objects.get(pk=rafters.pk).marks), count)
    page.keyboard.press("Escape")  # leaves the tool, not the page
    height = page.get_by_role("textbox", name="Height of mark 8")
    height.fill("2.0")
    height.press("Enter")
    saved(lambda: Layer.objects.get(pk=rafters.pk).marks[7]["height_m"], 2.0)
    expect(page.get_by_role("row", name=re.compile("^Taken from"))).to_contain_text(re.compile(r"1\.5\d* m"))
    assert 57 < float(told(page, "Angle of view").split("°")[0]) < 61
    # an end is moved by keyboard and undone
    end = page.get_by_role("slider", name="Line away 3, other end")
    before = Layer.objects.get(pk=rafters.pk).marks[2]["points"][1][0]
    end.focus()
    page.keyboard.press("Shift+ArrowRight")
    saved(lambda: Layer.objects.get(pk=rafters.pk).marks[2]["points"][1][0] > before + 10, True)
    page.get_by_role("dialog").get_by_role("button", name="Undo").click()
    saved(lambda: Layer.objects.get(pk=rafters.pk).marks[2]["points"][1][0], before)
    # a mark is taken away with Delete
    end.focus()
    page.keyboard.press("Delete")
    saved(lambda: len(Layer.objects.get(pk=rafters.pk).marks), len(marks) - 1)
    page.keyboard.press("Control+z")
    saved(lambda: len(Layer.objects.get(pk=rafters.pk).marks), len(marks))
    # taken over: what was unknown is judged
    page.get_by_role("button", name="Use what was read").click()
    saved(lambda: Layer.objects.get(pk=rafters.pk).taken_height_m is not None, True)
    row = Layer.objects.get(pk=rafters.pk)
    assert row.taken_tilt_deg == pytest.approx(-3.0, abs=0.5) and row.taken_roll_deg is not None
    page.get_by_role("button", name="Close", exact=True).click()
    page.get_by_role("tab", name="Will it show?").click()
    expect(page.get_by_role("button", name=re.compile(r"^Roll\W+Painted rafters"))).to_be_visible()


def test_another_picture_is_given_and_a_wrong_one_refused(open_bench: OpenPage, rafters: Layer):
    page = opened(open_bench, rafters)
    page.get_by_role("tab", name="Layer").click()
    choose = page.get_by_label("Another picture")
    choose.set_input_files({"name": "a.txt", "mimeType": "text/plain", "buffer": b"nothing"})
    expect(page.get_by_role("alert")).to_contain_text("could not be read")
    out = io.BytesIO()
    Image.new("RGB", (600, 900), "#405060").save(out, "PNG")
    choose.set_input_files({"name": "tower.png", "mimeType": "image/png", "buffer": out.getvalue()})
    saved(lambda: Layer.objects.get(pk=rafters.pk).picture_height_px, 900)
    settled(page)
    page.get_by_role("button", name="Read it off the picture").last.click()
    expect(page.get_by_role("dialog")).to_contain_text("tower.png")
    # drawn by keyboard alone
    page.get_by_role("button", name=re.compile("^Horizon")).click()
    page.get_by_role("button", name="Place it in the middle").click()
    saved(lambda: [one["kind"] for one in Layer.objects.get(pk=rafters.pk).marks], ["horizon"])
    page.keyboard.press("Escape")
    page.keyboard.press("Escape")
    expect(page.get_by_role("dialog")).to_have_count(0)
    page.get_by_role("button", name="Take it away").click()
    saved(lambda: Layer.objects.get(pk=rafters.pk).picture_id, None)
    expect(page.get_by_text("Choose its picture")).to_be_visible()
    page.keyboard.press("Control+z")
    saved(lambda: Layer.objects.get(pk=rafters.pk).picture_id is not None, True)
