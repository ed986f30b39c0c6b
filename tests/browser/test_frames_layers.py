"""The shot's other layers with what is animated: the plate's take behind it at the frame that is looked at,
the blue sheet taken out of it; and what was moved for reach.
"""

from __future__ import annotations

import re
from datetime import UTC, datetime

import numpy as np
import pytest
from playwright.sync_api import Page, expect

from jungoptic.app.footage.models import Recording
from jungoptic.app.frames.models import Exposure, SheetCheat, SheetClip
from jungoptic.app.people.models import Person
from jungoptic.app.shots.models import Layer, Shot
from jungoptic.app.shots.writing import in_shot
from jungoptic.app.takes.log import Said, record_take
from jungoptic.app.takes.models import Take
from jungoptic.core.stage import jpeg

from .conftest import OpenPage, axe, choose, overflow, saved
from .test_frames import sheet
from .test_frames_clips import film

__all__ = ["film"]
QUAY = "Quay and water"
PIXEL_JS = """([x, y]) => {
  const canvas = document.querySelector('[aria-label^="The picture"] canvas');
  const at = [Math.floor(x * canvas.width), Math.floor(y * canvas.height)];
  return [...canvas.getContext("2d").getImageData(...at, 1, 1).data].slice(0, 3);
}"""
BLUE, FIGURE = (30, 40, 160), (200, 150, 90)
ASIDE, MIDDLE = (0.25, 0.5), (0.5, 0.5)


@pytest.fixture
def plate(film: Recording, shot: Shot) -> Layer:
    """The quay, of which there is a take with a film that gets lighter."""
    layer = Layer.objects.get(shot__code="TM050", name=QUAY)
    with in_shot(Person.objects.get(username="camera"), layer.shot_id) as write:
        record_take(write, layer.pk, Said(recorded_at=datetime(2027, 10, 23, 16, tzinfo=UTC), circled=True))
    film.take = Take.objects.get(layer=layer)
    film.save()
    return layer


def before_blue() -> bytes:
    """What stands in the middle of a blue sheet."""
    picture = np.full((540, 960, 3), BLUE, np.uint8)
    picture[180:420, 400:560] = FIGURE
    return jpeg(picture)


def pixel(page: Page, place: tuple[float, float]) -> list[int]:
    return list(page.evaluate(PIXEL_JS, list(place)))


def shows(page: Page, place: tuple[float, float], colour: tuple[int, int, int], off: int = 12) -> None:
    saved(lambda: max(abs(a - b) for a, b in zip(pixel(page, place), colour, strict=True)) <= off, True)


def test_the_plate_is_seen_behind_where_the_sheet_was(open_page: OpenPage, plate: Layer):
    page = open_page("camera", f"/frames/{sheet().pk}", "First steps")
    files = page.get_by_label("Files of frames, in the order of their names")
    pictures = [
        {"name": f"frame{n}.jpg", "mimeType": "image/jpeg", "buffer": before_blue()} for n in range(3)
    ]
    files.set_input_files(pictures)
    saved(Exposure.objects.count, 3)
    page.get_by_role("button", name=re.compile("^Frame 1,")).click()
    shows(page, ASIDE, BLUE)
    panel = page.get_by_role("region", name="Beside and beneath")
    expect(panel).to_contain_text("behind, as it is")
    panel.get_by_label(QUAY, exact=True).check()
    # the first frame of the film is nearly black, and grey is what it is
    saved(lambda: max(pixel(page, ASIDE)) < min(BLUE[2], 90) and np.ptp(pixel(page, ASIDE)) < 8, True)
    dark = pixel(page, ASIDE)[0]
    shows(page, MIDDLE, FIGURE)
    page.get_by_role("button", name=re.compile("^Frame 3,")).click()
    saved(lambda: pixel(page, ASIDE)[0] > dark + 10, True)
    shows(page, MIDDLE, FIGURE)
    # from another of its frames on, once it is said
    later = pixel(page, ASIDE)[0]
    begins = panel.get_by_label(f"{QUAY}, from its frame")
    begins.fill("12")
    begins.press("Enter")
    saved(SheetClip.objects.filter(use="layer", removed=False, first_frame=12).count, 1)
    saved(lambda: pixel(page, ASIDE)[0] > later + 10, True)
    # mixed, both are seen everywhere
    panel.get_by_role("group", name="How it is laid over what is beneath").get_by_text("mixed").click()
    saved(lambda: pixel(page, ASIDE)[2] - pixel(page, ASIDE)[0] > 20, True)
    assert axe(page) == [] and overflow(page) <= 0
    panel.get_by_label(QUAY, exact=True).uncheck()
    shows(page, ASIDE, BLUE)


def test_it_plays_with_the_layer_behind(open_page: OpenPage, plate: Layer):
    page = open_page("camera", f"/frames/{sheet().pk}", "First steps")
    pictures = [
        {"name": f"frame{n:02d}.jpg", "mimeType": "image/jpeg", "buffer": before_blue()} for n in range(8)
    ]
    page.get_by_label("Files of frames, in the order of their names").set_input_files(pictures)
    saved(Exposure.objects.count, 8, 30)
    page.get_by_role("region", name="Beside and beneath").get_by_label(QUAY, exact=True).check()
    page.get_by_role("button", name=re.compile("^Play")).click()
    expect(page.get_by_role("img", name=re.compile("^The picture: plays"))).to_be_visible()
    seen: set[int] = set()

    def another() -> bool:
        red, _, blue = pixel(page, ASIDE)
        if abs(blue - red) < 8:  # grey, as the film is
            seen.add(red // 8)
        return len(seen) >= 3

    saved(another, True, 20)
    shows(page, MIDDLE, FIGURE)


def test_a_lamp_that_was_moved_for_reach_says_what_it_does_to_the_light(open_page: OpenPage, shot: Shot):
    page = open_page("camera", f"/frames/{sheet().pk}", "First steps")
    SheetCheat.objects.all().delete()
    page.reload()
    page.get_by_role("button", name="Frame 25, not taken").click()
    cheats = page.get_by_role("region", name="Moved for reach")
    expect(cheats).to_contain_text("what it does to the light")
    choose(cheats.get_by_label("Record what was moved"), "soft panel 1")
    saved(lambda: SheetCheat.objects.filter(name="soft panel 1", first_frame=49).count(), 1)
    right = cheats.get_by_label("soft panel 1, right, mm")
    right.fill("−200")
    right.press("Enter")
    saved(lambda: SheetCheat.objects.get().right_mm, -200.0)
    expect(cheats).to_contain_text("On the figure: key turned by")
    expect(cheats).to_contain_text("At frame 49 the light jumps")
    # back before the frame that is looked at
    page.get_by_role("button", name="Frame 31, not taken").click()
    cheats.get_by_role("button", name="back before 61").click()
    saved(lambda: SheetCheat.objects.get().last_frame, 60)
    expect(cheats).to_contain_text("At frame 61 the light jumps")
    cheats.get_by_role("button", name=re.compile(r"^Set it to \d+ %$")).click()
    saved(lambda: SheetCheat.objects.get().level is not None, True)
    expect(cheats.get_by_text(re.compile(r"^On the figure: key turned by [\d.]+°\.$"))).to_be_visible()
    wrong = cheats.get_by_label("soft panel 1, to frame")
    wrong.fill("20")
    wrong.press("Enter")
    expect(page.get_by_role("alert")).to_contain_text("It ends at frame 20 and begins at 49")
    assert axe(page) == [] and overflow(page) <= 0
    page.get_by_role("button", name=re.compile("^Undo: soft panel 1 moved")).click()
    saved(lambda: SheetCheat.objects.get().level, None)
    cheats.get_by_label("off, or out of the set").check()
    saved(lambda: SheetCheat.objects.get().away, True)
    cheats.get_by_role("button", name="take away").click()
    saved(lambda: SheetCheat.objects.filter(removed=False).count(), 0)
    expect(cheats).to_contain_text("what it does to the light")
