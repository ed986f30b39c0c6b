"""Points of the figure at the desk: a path set with clicks, a point marked once and found again, a step that
is off said before the next move, by keyboard too.
"""

from __future__ import annotations

import re

from django.db.models import QuerySet
from playwright.sync_api import Locator, Page, expect

from jungoptic.app.frames.models import FigurePoint, PointPlace
from jungoptic.app.shots.models import Shot

from .conftest import OpenPage, axe, choose, overflow, saved
from .test_frames import TO_COME, said, sheet, take

BODY, STEP = (0.385, 0.88), 0.00329
"""Where the Heron's body is in frame 1, shares of the picture, and how far it goes from pose to pose."""
GATE = (1920.0, 1078.468)
"""Its photographs in the delivered frame, px: all of the width, and the shape of its camera's gate."""


def picture(page: Page) -> Locator:
    return page.get_by_role("img", name=re.compile("^The picture"))


def click(page: Page, x: float, y: float) -> None:
    """On the picture, which stands in the middle of its room."""
    box = picture(page).locator("canvas").bounding_box()
    assert box is not None
    page.mouse.click(box["x"] + x * box["width"], box["y"] + y * box["height"])


def points_of() -> QuerySet[FigurePoint]:
    return FigurePoint.objects.filter(sheet=sheet())


def keys() -> list[int]:
    return [key["frame"] for key in points_of().get().keys]


def marked() -> list[dict[str, int]]:
    """Where points are marked by hand, delivered px, in the order in which they were."""
    rows = PointPlace.objects.filter(marked=True).order_by("pk")
    return [{"right": round(row.x * GATE[0]), "down": round(row.y * GATE[1])} for row in rows]


def test_a_path_is_set_and_a_step_off_it_is_said_before_the_next_move(open_page: OpenPage, shot: Shot):
    page = open_page("camera", f"/frames/{sheet().pk}", "First steps")
    points = page.get_by_role("region", name="Points of the figure")
    expect(points).to_contain_text("marked in one photograph it is found again")
    points.get_by_role("button", name="Add one").click()
    saved(lambda: points_of().count(), 1)
    choose(page.get_by_label("Camera", exact=True).first, "simulated camera")
    expect(page.get_by_role("img", name="The picture: live, for frame 1")).to_be_visible(timeout=TO_COME)
    take(page, 1)
    points.get_by_role("button", name="Mark it in 1").click()
    expect(points.get_by_role("status")).to_contain_text("Click on the picture where Point 1 is seen")
    click(page, *BODY)
    saved(lambda: PointPlace.objects.filter(marked=True).count(), 1)
    # its path: here at the first frame, and as far as it really goes at the fifth
    points.get_by_role("button", name="Key at frame 1").click()
    click(page, *BODY)
    saved(keys, [1])
    page.get_by_role("button", name=re.compile("^Frame 5,")).click()
    points.get_by_role("button", name="Key at frame 9").click()
    click(page, BODY[0] + 4 * STEP, BODY[1])
    saved(keys, [1, 9])
    page.keyboard.press("End")
    step = page.get_by_role("region", name="Next step of Point 1")
    expect(step).to_contain_text("Point 1, to frame 2")
    expect(step).to_contain_text(re.compile(r"6\.\d px \(2\.\d mm\): 6\.\d right"))
    take(page, 2)
    said(page, "All holds")
    expect(points).to_contain_text("found at")
    # the plan goes three times as far as the figure does
    points.get_by_text("Path: 2 keys").click()
    far = points.get_by_label("Key 2 of Point 1, px right")
    far.fill(str(round(1920 * (BODY[0] + 12 * STEP))))
    far.press("Enter")
    said(
        page,
        re.compile(r"Point 1 went 6(\.\d)? px where 19 are planned: 1\d px \(\d(\.\d)? mm\) off its"),
    )
    assert axe(page) == [] and overflow(page) <= 0
    page.get_by_role("heading", name="First steps").click()
    page.keyboard.press("Control+z")
    said(page, "All holds")


def test_keyboard_alone_plans_a_walk_and_marks_a_foot(open_page: OpenPage, shot: Shot):
    page = open_page("camera", f"/frames/{sheet().pk}", "First steps")
    points = page.get_by_role("region", name="Points of the figure")
    points.get_by_role("button", name="Add one").press("Enter")
    name = points.get_by_label("Name of Point 1")
    name.fill("Right toe")
    name.press("Enter")
    saved(lambda: points_of().get().name, "Right toe")
    stands = points.get_by_label("Right toe stands from frame to frame")
    points.get_by_text("Path: 0 keys").press("Enter")
    stands.fill("1–5, 9")
    stands.press("Enter")
    saved(lambda: points_of().get().planted, [[1, 5], [9, 9]])
    stands.fill("from now on")
    stands.press("Enter")
    expect(stands).to_have_value("1–5, 9–9")
    choose(page.get_by_label("Camera", exact=True).first, "simulated camera")
    expect(page.get_by_role("img", name="The picture: live, for frame 1")).to_be_visible(timeout=TO_COME)
    for number in (1, 2):
        take(page, number)
        # what was found in it has come too: whoever types looks at it
        expect(points).to_contain_text({1: "not found; it is at", 2: "found at"}[number])
        for way, px in (("right", 700 + 3 * number), ("down", 800)):
            field = points.get_by_label(f"Right toe in frame {number}, px {way}")
            field.fill(str(px))
            field.press("Enter")
            count = {"right": 1, "down": number}[way]
            saved(lambda way=way, px=px: [each[way] for each in marked()].count(px), count)
            expect(field).to_have_value(re.compile(rf"^{px}(\.0)?$"))
    expect(points).to_contain_text(re.compile(r"Stands 1–5: slid 3\.0 px \(1\.3 mm\)"))
