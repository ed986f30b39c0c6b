"""One's own kit measured at the desk and on a telephone: filmed, dropped, into the kit, undone."""

import io

import numpy as np
import pytest
from PIL import Image
from playwright.sync_api import expect

from jungoptic.app.kit.models import Lens
from jungoptic.app.shots.models import Shot

from .conftest import OpenPage, at, axe, choose, overflow, saved, work_off_the_queue

pytestmark = pytest.mark.browser


def focal() -> float:
    return Lens.objects.get(name="35 mm", on=None, removed=False).focal_length_mm


def test_a_lens_is_measured_and_taken_into_the_kit_and_out_again(open_page: OpenPage, shot: Shot):
    page = open_page("supervisor", "/kit", "What you own")
    page.get_by_role("link", name="Measure it").click()
    choose(page.get_by_label("Lens", exact=True), "35 mm")
    page.get_by_role("button", name="Measure: Focal length and distortion").click()
    expect(page.get_by_text("12 more pictures, at least.")).to_be_visible()
    page.get_by_label("Focused at").fill("1.2")
    page.get_by_label("Focused at").press("Enter")
    page.get_by_role("button", name="Film it with the simulated camera").click()
    expect(page.get_by_text("The simulated camera films")).to_be_visible()
    work_off_the_queue()
    expect(page.get_by_text("in the frame than planned")).to_be_visible()
    expect(
        page.get_by_role("img", name="Not seen yet").or_(page.get_by_text("The whole frame"))
    ).to_be_visible()
    changes = page.get_by_role("region", name="What it changes in the production")
    expect(changes.get_by_role("link", name="TM010, Mill 1:12").first).to_be_visible()
    page.get_by_role("button", name="Take it into the kit").click()
    expect(page.get_by_text("What stands on it is planned with this now.")).to_be_visible()
    assert focal() != 35
    page.get_by_role("button", name="Undo").click()
    saved(focal, 35)
    expect(page.get_by_role("button", name="Take it into the kit")).to_be_visible()
    assert axe(page) == [] and overflow(page) <= 0
    page.get_by_role("button", name="drop simulated 1", exact=True).click()
    expect(page.get_by_text("13 pictures")).to_be_visible()
    page.get_by_role("button", name="Discard").click()
    expect(page.get_by_text("It is discarded.")).to_be_visible()
    at(page, "/kit/measure", "Nothing yet")


def test_a_picture_that_tells_nothing_says_why_and_a_pair_goes_together(open_phone: OpenPage, shot: Shot):
    page = open_phone("camera", "/kit/measure", "Measure your kit")
    assert axe(page) == [] and overflow(page) <= 0
    page.get_by_role("button", name="Measure: Noise").click()
    dice = np.random.default_rng(1)
    width, height = 320, 180

    def still(name: str, level: int) -> dict:
        out = io.BytesIO()
        grain = dice.normal(level, 3, (height, width)).clip(0, 255)
        Image.fromarray(grain.astype(np.uint8)).save(out, "PNG")
        return {"name": name, "mimeType": "image/png", "buffer": out.getvalue()}

    chosen = page.get_by_label("Choose pictures")
    chosen.set_input_files([still("alone.png", 90)])
    expect(page.get_by_role("alert")).to_contain_text("alone.png: There is one frame in it; 2 are needed")
    levels = (10, 60, 110, 180)
    chosen.set_input_files([still(f"{level}-{which}.png", level) for level in levels for which in "ab"])
    expect(page.get_by_text("4 pictures")).to_be_visible()
    expect(page.get_by_text("times over its noise at ISO 400")).to_be_visible()
    expect(page.get_by_text("The supervisor takes it into the kit.")).to_be_visible()
    assert axe(page) == [] and overflow(page) <= 0
