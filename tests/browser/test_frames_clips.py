"""A live plate beneath the picture and a performance beside the sheet, at the frame that is looked at."""

from __future__ import annotations

import re
from pathlib import Path

import numpy as np
import pytest
from playwright.sync_api import Page, expect

from jungoptic.app.files import keeping as files
from jungoptic.app.footage.models import Card, Recording
from jungoptic.app.frames.models import SheetClip
from jungoptic.app.people.models import Person
from jungoptic.app.rushes.models import Rush
from jungoptic.app.shots.models import Shot
from jungoptic.core.stage import jpeg
from tests.core.filmed import write

from .conftest import OpenPage, axe, choose, overflow, saved
from .test_frames import sheet

FRAMES = 24
BRIGHT_JS = """() => {
  const canvas = document.querySelector('[aria-label^="The picture"] canvas');
  const [x, y] = [canvas.width / 2, canvas.height / 2];
  return canvas.getContext("2d").getImageData(x, y, 1, 1).data[0];
}"""


@pytest.fixture
def film(tmp_path: Path, shot: Shot) -> Recording:
    """A film that gets lighter from frame to frame."""
    frames = [np.full((180, 320, 3), 0.02 + 0.03 * n) for n in range(FRAMES)]
    write(str(tmp_path / "plate.mp4"), frames, 10)
    who = Person.objects.get(username="camera")
    production = shot.production
    card = Card.objects.create(production=production, place=str(tmp_path), name="A001", read_by=who)
    row = Recording.objects.create(
        card=card, path="plate.mp4", size_bytes=1, modified=0, says={"kind": "clip"}
    )
    data = (tmp_path / "plate.mp4").read_bytes()
    says = {"kind": "clip", "frames": FRAMES, "rate_fps": 24.0, "strip_every": 4}
    says |= {"width_px": 320, "height_px": 180}
    proxy = files.keep(production.pk, "plate", data, {"video/mp4"}, person_id=who.pk)
    pictures = jpeg(np.hstack([np.full((54, 96, 3), 10 * n, np.uint8) for n in range(FRAMES // 4)]))
    strip = files.keep(production.pk, "strip", pictures, {"image/jpeg"}, person_id=who.pk)
    Rush.objects.create(recording=row, says=says, proxy=proxy, strip=strip)
    return row


def lighter(page: Page, than: int) -> int:
    """How light the picture's middle is, once it is lighter than it was."""
    told: list[int] = []

    def seen() -> bool:
        told.append(int(page.evaluate(BRIGHT_JS)))
        return told[-1] > than

    saved(seen, True)
    return told[-1]


def test_a_plate_lies_beneath_and_a_performance_beside(open_page: OpenPage, shot: Shot, film: Recording):
    page = open_page("camera", f"/frames/{sheet().pk}", "First steps")
    panel = page.get_by_role("region", name="Beside and beneath")
    choose(panel.get_by_label("Live plate", exact=True), "plate.mp4")
    saved(lambda: SheetClip.objects.filter(use="plate", removed=False).count(), 1)
    panel.get_by_role("button", name="Plate beneath").click()
    first = lighter(page, 5)
    page.get_by_role("button", name=re.compile("^Frame 4,")).click()
    later = lighter(page, first + 10)
    # it begins nine frames later
    begins = panel.get_by_label("from its frame")
    begins.fill("10")
    begins.press("Enter")
    saved(lambda: SheetClip.objects.get(use="plate", removed=False).first_frame, 10)
    lighter(page, later + 10)
    choose(panel.get_by_label("Performance", exact=True), "plate.mp4")
    saved(lambda: SheetClip.objects.filter(use="performance", removed=False).count(), 1)
    expect(panel).to_contain_text("its frame 7, at frame 7 of the shot")
    expect(panel.locator("video")).to_have_attribute("data-frame", "6")
    page.get_by_role("button", name=re.compile("^Frame 3,")).click()
    expect(panel).to_contain_text("its frame 5, at frame 5 of the shot")
    assert axe(page) == [] and overflow(page) <= 0
    choose(panel.get_by_label("Live plate", exact=True), "none")
    saved(lambda: SheetClip.objects.filter(use="plate", removed=False).count(), 0)
    page.get_by_role("button", name=re.compile("^Undo: take a recording away")).click()
    saved(lambda: SheetClip.objects.filter(use="plate", removed=False).count(), 1)
