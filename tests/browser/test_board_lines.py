"""Lines over the board by mouse, finger and keyboard; what everybody sees of a shot broken down."""

from __future__ import annotations

import re

import pytest
from playwright.sync_api import Page, expect

from jungoptic.app.builds.models import Build
from jungoptic.app.people.models import Person
from jungoptic.app.recipes.models import ShotRecipe
from jungoptic.app.shots.cut import change_line
from jungoptic.app.shots.models import Line, Shot
from jungoptic.app.shots.writing import in_shot
from tests.answers import held

from .conftest import DIALOG, PANEL, OpenPage, at, axe, box_of, overflow, saved, settled
from .test_layout import LONG

pytestmark = pytest.mark.browser


def board_box(page: Page) -> dict[str, float]:
    return box_of(page.get_by_role("group", name=re.compile("^Board of")))


def test_a_line_is_drawn_by_mouse_means_something_and_is_moved_by_keys(open_page: OpenPage, shot: Shot):
    yard = Shot.objects.get(code="TM110")
    page = open_page("supervisor", f"/shots/{yard.pk}/plan", "The airship")
    matte = page.get_by_role("button", name=re.compile("^1 Matte line"))
    expect(matte).to_contain_text("px over it")
    page.get_by_role("button", name="Keep clear").click()
    box = board_box(page)
    for x, y in ((0.6, 0.1), (0.9, 0.1), (0.9, 0.3)):
        page.mouse.click(box["x"] + x * box["width"], box["y"] + y * box["height"])
    page.keyboard.press("Enter")
    zone = page.get_by_role("button", name=re.compile("^4 Keep clear"))
    expect(zone).to_be_visible()
    row = Line.objects.get(shot=yard, kind="keep_clear")
    assert len(row.points) == 3 and abs(row.points[0][0] - 0.6 * 1920) < 6
    page.get_by_label("Note").fill("the sky over the second roof")
    page.get_by_label("Note").press("Tab")
    saved(lambda: Line.objects.get(pk=row.pk).note, "the sky over the second roof")
    page.get_by_role("slider", name=re.compile("^Keep clear.*point 1")).focus()
    page.keyboard.press("Shift+ArrowDown")
    saved(lambda: Line.objects.get(pk=row.pk).points[0][1] - row.points[0][1], 20)
    page.keyboard.press("Control+z")
    saved(lambda: Line.objects.get(pk=row.pk).points, row.points)
    # A point that is carried off the board stays at its edge.
    settled(page).get_by_role("slider", name=re.compile("^Keep clear.*point 1")).hover()
    page.mouse.down()
    page.mouse.move(box["x"] + 0.5 * box["width"], box["y"] - 60, steps=4)
    page.mouse.up()
    saved(lambda: abs(Line.objects.get(pk=row.pk).points[0][1]) < 6, True)
    page.keyboard.press("Control+z")
    saved(lambda: Line.objects.get(pk=row.pk).points, row.points)
    page.get_by_role("heading", level=1).click()
    page.keyboard.press("x")
    expect(page.get_by_role("slider", name=re.compile("point 1"))).to_have_count(0)
    page.keyboard.press("x")
    page.get_by_role("button", name="Remove", exact=True).click()
    expect(zone).to_have_count(0)
    page.get_by_role("button", name="Undo").click()
    expect(zone).to_be_visible()


def test_what_is_drawn_and_what_is_planned_are_taken_back_in_one_order_however_late_the_answers_are(
    open_page: OpenPage, shot: Shot
):
    yard = Shot.objects.get(code="TM110")
    line = Line.objects.filter(shot=yard, kind="matte").get()
    page = open_page("supervisor", f"/shots/{yard.pk}/plan", "The airship")
    page.get_by_role("button", name=re.compile("^1 Matte line")).click()
    point = page.get_by_role("slider", name=re.compile("^Matte line 1, point 1"))
    expect(point).to_be_visible()
    page.get_by_role("button", name=re.compile("^take back|^Take back")).first.wait_for()
    recipes = ShotRecipe.objects.filter(shot=yard, removed=False)
    chosen = recipes.count()
    y_px = lambda: Line.objects.get(pk=line.pk).points[0][1]  # noqa: E731
    with held("/changes"):
        point.focus()
        for _ in range(3):
            page.keyboard.press("Shift+ArrowDown")
        saved(y_px, line.points[0][1] + 20)  # the others wait for its answer
        with held("/recipes/"):
            page.get_by_role("button", name="take back").first.click()
            saved(recipes.count, chosen - 1)
            page.get_by_role("heading", level=1).click()
            page.keyboard.press("Control+z")
            page.keyboard.press("Control+z")
    saved(recipes.count, chosen)
    settled(page)  # on its way the line passes where it must end
    assert y_px() == line.points[0][1] + 40


def test_lines_by_keyboard_alone_and_a_fault_at_its_field(open_page: OpenPage, shot: Shot):
    page = open_page("supervisor", f"/shots/{shot.pk}/plan", "The mill at dusk")
    page.get_by_role("heading", name="In the margin").wait_for()
    page.keyboard.press("3")
    page.get_by_role("button", name="Place it in the middle").press("Enter")
    note = page.get_by_role("button", name=re.compile("^1 Paint-out"))
    expect(note).to_contain_text("1 h")  # 4 % of the frame: two patches of half an hour
    page.get_by_label("From frame").fill("50")
    page.get_by_label("From frame").press("Tab")
    page.get_by_label("To frame").fill("20")
    page.get_by_label("To frame").press("Tab")
    expect(page.get_by_role("alert").first).to_contain_text("To frame must be at least 50; 20 was given")
    assert Line.objects.get(shot=shot).last_frame is None


def test_a_line_by_finger_on_a_phone(open_phone: OpenPage, shot: Shot):
    phone = open_phone("supervisor", f"/shots/{shot.pk}/plan", "The mill at dusk")
    phone.get_by_role("button", name="Final framing").tap()
    box = board_box(phone)
    for share in (0.2, 0.8):
        phone.touchscreen.tap(box["x"] + share * box["width"], box["y"] + share * box["height"])
    expect(phone.get_by_role("button", name=re.compile("^1 Final framing"))).to_be_visible()
    assert Line.objects.get(shot=shot).kind == "framing"
    assert overflow(phone) <= 0


def test_a_guest_reads_the_break_down_and_changes_nothing(open_page: OpenPage, shot: Shot):
    page = open_page("runner")
    page.locator("[data-wall]").first.wait_for()
    expect(page.get_by_role("button", name=re.compile("^Add shots"))).to_have_count(0)
    page.keyboard.press("n")
    expect(page.get_by_role("dialog")).to_have_count(0)
    at(page, f"/shots/{shot.pk}/plan", "In the margin")
    for name in ("Matte line", "Add another r", "take back"):
        expect(page.get_by_role("button", name=name)).to_have_count(0)
    page.get_by_role("tab", name=re.compile("^Cautions")).click()
    expect(page.get_by_text("Only the supervisor signs it off.").first).to_be_visible()
    at(page, "/sets", "Inside the mill")
    expect(page.get_by_label("Width, Back wall")).to_be_disabled()
    page.get_by_role("button", name=re.compile("^Grain chute,")).press("ArrowLeft")
    assert Build.objects.get().pieces.get(name="Grain chute").x_m == pytest.approx(-1.55)
    at(page, "/places", "leaning mooring post")
    expect(page.get_by_role("button", name="New place")).to_have_count(0)


def test_the_break_down_is_clean_for_axe(open_page: OpenPage, shot: Shot):
    yard = Shot.objects.get(code="TM110")
    page = open_page("supervisor")
    page.locator("[data-wall]").first.wait_for()
    assert axe(page) == []
    page.keyboard.press("v")
    page.get_by_label("Title, TM010").wait_for()
    assert axe(page) == []
    page.keyboard.press("v")
    page.keyboard.press("n")
    page.get_by_label("Shots, one a line").fill("TM210 The gate")
    page.get_by_text("1 new shot").wait_for()
    assert axe(page, DIALOG) == []
    page.keyboard.press("Escape")
    at(page, f"/shots/{yard.pk}/plan", "The airship")
    page.get_by_role("button", name=re.compile("^1 Matte line")).click()
    assert axe(page) == []
    for name in ("Methods", "Cautions", "Re-use"):
        page.get_by_role("tab", name=re.compile(f"^{name}")).click()
        assert axe(page, PANEL) == [], name
    page.keyboard.press("r")
    page.get_by_role("button", name="Vanishing", exact=True).click()
    assert axe(page, DIALOG) == []
    page.keyboard.press("Escape")
    for address, ready in (
        ("/sets", "Inside the mill"),
        ("/places", "leaning mooring post"),
        ("/figures", "In stock"),
        ("/history", "Nothing has been changed yet"),
    ):
        at(page, address, ready)
        assert axe(page) == [], address
    page.goto("/#/sets")
    for name in ("Cameras", "Cutting list"):
        page.get_by_role("tab", name=re.compile(f"^{name}")).click()
        assert axe(page, PANEL) == [], name


@pytest.mark.parametrize(("width", "height", "phone"), [(390, 844, True), (1280, 800, False)])
def test_no_page_of_it_is_wider_than_its_window(
    open_page: OpenPage, shot: Shot, width: int, height: int, phone: bool
):
    Shot.objects.filter(code="TM110").update(title=LONG, description=LONG * 4)
    yard = Shot.objects.get(code="TM110")
    page = open_page("supervisor", width=width, height=height, phone=phone)
    with in_shot(Person.objects.get(username="supervisor"), yard.pk) as write:
        change_line(write, yard, {"title": LONG[1:]})
    for address, ready in (
        ("/", "TM110"),
        (f"/shots/{yard.pk}/plan", "In the margin"),
        ("/sets", "Pieces"),
        ("/places", "Continuity"),
        ("/figures", "In stock"),
        ("/history", "take back"),
    ):
        at(page, address, ready)
        assert overflow(page) <= 0, address
