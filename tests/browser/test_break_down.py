"""The break-down through the real interface: wall, files, boards, recipes, ways, cautions, sets, places; by
mouse, finger and keyboard.
"""

from __future__ import annotations

import re
from pathlib import Path

import pytest
from PIL import Image, ImageDraw
from playwright.sync_api import Page, expect

from jungoptic.app.boards.models import Board
from jungoptic.app.builds.models import Build
from jungoptic.app.costs.models import Costing
from jungoptic.app.jobs.models import Job
from jungoptic.app.people.models import Person
from jungoptic.app.recipes.models import ShotRecipe, Tick
from jungoptic.app.safety.models import SignOff
from jungoptic.app.shots.cut import change_line
from jungoptic.app.shots.models import Layer, Line, Shot
from jungoptic.app.shots.writing import in_shot
from tests.answers import held
from tests.jobs import done
from tests.pdf import pages_of

from .conftest import DIALOG, PANEL, OpenPage, at, axe, box_of, choose, overflow, saved, settled
from .test_layout import LONG

pytestmark = pytest.mark.browser
SAMPLES = Path(__file__).resolve().parents[1] / "app" / "samples"


def sketch(tmp_path: Path, name: str) -> Path:
    picture = Image.new("RGB", (1280, 720), "#eee")
    ImageDraw.Draw(picture).polygon([(200, 600), (200, 300), (400, 180), (600, 300), (600, 600)], fill="#777")
    picture.save(tmp_path / name)
    return tmp_path / name


@pytest.fixture
def empty(shot: Shot) -> Shot:
    return Shot.objects.create(
        production=shot.production, code="TM900", title="The drowned bell", length_frames=48, position=900
    )


# --- the wall


def test_through_the_wall_by_keys(open_page: OpenPage, shot: Shot):
    page = open_page("supervisor")
    page.locator("[data-wall]").nth(11).wait_for()
    expect(page.get_by_text("12 shots, 12 with effects")).to_be_visible()
    page.keyboard.press("f")
    page.keyboard.type("wheel")
    expect(page.locator("[data-wall]")).to_have_count(1)
    expect(page.get_by_text("1 of 12")).to_be_visible()
    page.get_by_label("Filter").fill("")
    choose(page.get_by_label("Group by"), "place")
    expect(page.get_by_role("heading", name=re.compile("^Inside the mill"))).to_contain_text("5 shots")
    choose(page.get_by_label("Group by"), "recipe")
    expect(page.get_by_role("heading", name=re.compile("^Vanishing"))).to_be_visible()
    choose(page.get_by_label("Group by"), "order of the cut")
    page.get_by_role("button", name=re.compile("cautions open")).click()
    expect(page.locator("[data-wall]", has_text="The cup")).to_have_count(0)
    choose(page.get_by_label("Only"), "All shots")
    page.locator("[data-wall]").first.focus()
    page.keyboard.press("ArrowRight")
    page.keyboard.press("ArrowDown")
    expect(page.locator("[data-wall]:focus")).to_contain_text("The sea wall")
    page.keyboard.press("Enter")
    expect(page.get_by_role("heading", level=1)).to_contain_text("The sea wall")
    page.keyboard.press("e")
    expect(page.get_by_role("heading", name="Will it show?")).to_be_visible()


def test_a_line_is_edited_where_it_stands_and_taken_back(open_page: OpenPage, shot: Shot):
    page = open_page("supervisor")
    page.locator("[data-wall]").first.wait_for()
    page.keyboard.press("v")
    frames = page.get_by_label("Frames, TM020")
    frames.fill("many")
    frames.press("Tab")
    expect(page.get_by_role("alert")).to_contain_text("TM020: “many” is not a number.")
    frames.fill("0")
    frames.press("Tab")
    expect(page.get_by_role("alert")).to_contain_text("between 1 and 1 000 000 frames; 0 was given")
    frames.fill("72")
    frames.press("Tab")
    expect(page.get_by_role("alert")).to_have_count(0)
    saved(lambda: Shot.objects.get(code="TM020").length_frames, 72)
    choose(page.get_by_label("Place, TM010"), "The quay")
    saved(
        lambda: Shot.objects.get(code="TM010").place.name if Shot.objects.get(code="TM010").place else "",
        "The quay",
    )
    page.get_by_label("Title, TM020").focus()
    page.keyboard.press("ArrowDown")
    expect(page.get_by_label("Title, TM030")).to_be_focused()
    page.keyboard.press("Control+z")
    page.keyboard.press("Control+z")
    saved(lambda: Shot.objects.get(code="TM020").length_frames == 72, False)
    page.get_by_label("Ready, TM010").click()
    expect(page.get_by_role("alert")).to_contain_text("TM010 cannot be ready:")


def test_a_shot_is_removed_and_brought_back(open_page: OpenPage, shot: Shot):
    page = open_page("supervisor")
    page.locator("[data-wall]").first.wait_for()
    page.keyboard.press("v")
    page.get_by_role("button", name="Remove TM090").click()
    expect(page.get_by_label("Title, TM090")).to_have_count(0)
    expect(page.get_by_text("11 shots, 11 with effects")).to_be_visible()
    removed = page.get_by_role("region", name="Removed shots")
    expect(removed).to_contain_text("TM090")
    page.keyboard.press("Control+z")
    expect(page.get_by_label("Title, TM090")).to_be_visible()
    page.get_by_role("button", name="Remove TM090").click()
    removed.get_by_role("button", name="Bring back TM090").click()
    expect(page.get_by_label("Title, TM090")).to_be_visible()
    expect(removed).to_have_count(0)
    saved(lambda: Shot.objects.filter(removed=True).count(), 0)


def test_two_hundred_shots_with_long_names(open_page: OpenPage, shot: Shot):
    Shot.objects.bulk_create(
        Shot(
            production=shot.production,
            code=f"X{n:04d}",
            title=f"{n} {LONG}",
            description=LONG * 3,
            length_frames=50,
            position=n,
        )
        for n in range(200)
    )
    page = open_page("supervisor")
    expect(page.locator("[data-wall]")).to_have_count(212)
    expect(page.get_by_text("212 shots, 12 with effects")).to_be_visible()
    assert overflow(page) <= 0
    page.keyboard.press("v")
    expect(page.get_by_role("row")).to_have_count(213)
    assert overflow(page) <= 0


def test_shots_are_typed_or_taken_in_and_nothing_of_a_faulty_file(
    open_page: OpenPage, shot: Shot, tmp_path: Path
):
    page = open_page("supervisor")
    page.locator("[data-wall]").first.wait_for()
    page.keyboard.press("n")
    box = page.get_by_label("Shots, one a line")
    box.fill("TM210 The gate - it opens by itself (48)\nRain over the quay\nTM030 The cup, passed twice")
    dialog = page.get_by_role("dialog")
    expect(dialog).to_contain_text("2 new shots, 1 changed, 0 the same")
    expect(dialog.get_by_role("row", name=re.compile("Rain over the quay"))).to_contain_text("TM220")
    bad = tmp_path / "shots.csv"
    bad.write_text("shot,title,frames\nTM310,Wind,many\nTM320,Calm,24\n")
    page.locator("input[type=file][accept*='.fountain']").set_input_files(bad)
    expect(dialog.get_by_role("alert")).to_contain_text(
        "line 2, frames: frames must be a whole number from 1 on; “many” was given"
    )
    expect(page.get_by_role("button", name="Take in", exact=True)).to_be_disabled()
    page.locator("input[type=file][accept*='.fountain']").set_input_files(SAMPLES / "sisters.fountain")
    expect(dialog).to_contain_text("Read as a screenplay: 6 new shots")
    page.get_by_role("button", name="Take in 6 shots").click()
    expect(page.locator("[data-wall]", has_text="the mill at dusk, with the sea around it")).to_be_visible()
    saved(lambda: Shot.objects.filter(template=False).count(), 18)


# --- a shot broken down


def test_from_an_empty_shot_to_a_costed_plan_that_is_ready(open_page: OpenPage, empty: Shot, tmp_path: Path):
    page = open_page("supervisor", f"/shots/{empty.pk}/plan", "The drowned bell")
    expect(page.get_by_text("No plates yet.")).to_be_visible()
    page.locator("input[type=file][accept*='application/pdf']").set_input_files(sketch(tmp_path, "bell.png"))
    expect(page.get_by_text("bell.png")).to_be_visible()
    assert Board.objects.get(shot=empty).width_px == 1280
    # what should the audience see?
    page.keyboard.press("r")
    page.get_by_role("button", name="a thing that moves by itself").click()
    expect(page.get_by_role("list", name="Recipes").get_by_role("button").first).to_contain_text(
        "Thing that lifts or moves itself"
    )
    size = page.get_by_label("Size of the thing")
    size.fill("900")
    page.get_by_role("button", name="Fill the stack").click()
    expect(page.get_by_role("dialog").get_by_role("alert")).to_contain_text(
        "Size of the thing must be between 0.02 and 20 m; 900 was given"
    )
    size.fill("0.6")
    page.get_by_role("button", name="Fill the stack").click()
    expect(page.get_by_role("dialog")).to_have_count(0)
    rows = page.get_by_role("row")
    expect(rows.nth(2)).to_contain_text("Now, while everything stands.")
    assert Layer.objects.get(shot=empty, kind="rig").height_m == pytest.approx(0.6)
    # tick, price, choose
    page.get_by_label("does not swing: counted to three before action").check()
    saved(Tick.objects.count, 1)
    page.get_by_role("tab", name="Ways").click()
    page.get_by_role("button", name="Difference", exact=True).click()
    expect(page.get_by_text("Clean plate and action: what differs is the matte.")).to_be_visible()
    page.get_by_role("row", name=re.compile("^Difference")).get_by_role("button", name="Choose").click()
    expect(page.get_by_role("row", name=re.compile("^Difference"))).to_contain_text("chosen")
    saved(lambda: list(Costing.objects.filter(shot=empty).values_list("chosen", flat=True)), ["difference"])
    # sign off, set to ready
    page.get_by_role("tab", name=re.compile("^Cautions, 1 open")).click()
    expect(page.get_by_text("Local codes and licensed practice come first.")).to_be_visible()
    expect(page.get_by_role("button", name="Set to ready")).to_be_disabled()
    page.get_by_role("button", name="Sign off…").click()
    page.get_by_role("button", name="Sign off", exact=True).click()
    expect(page.get_by_role("alert")).to_contain_text("Say who was asked and what was agreed")
    page.get_by_label("Who was asked, what was agreed").fill(
        "Hall owner asked; the line hangs from the floor stand."
    )
    page.get_by_role("button", name="Sign off", exact=True).click()
    expect(page.get_by_text("Signed off by Supervisor")).to_be_visible()
    page.get_by_role("button", name="Set to ready").click()
    expect(page.get_by_text("ready", exact=True).first).to_be_visible()
    assert Shot.objects.get(pk=empty.pk).ready and SignOff.objects.get(shot=empty).note.startswith(
        "Hall owner"
    )
    # its page of the book
    page.get_by_role("button", name="Page", exact=True).click()
    saved(Job.objects.count, 1)
    done(Job.objects.get().pk)
    link = page.get_by_role("link", name="Open the page")
    link.wait_for()
    first, *_ = pages_of(page.request.get(link.get_attribute("href") or "").body())
    assert "The drowned bell" in first.text and "Plates in filming order" in first.text


def test_a_recipe_is_taken_back_and_undone(open_page: OpenPage, empty: Shot):
    page = open_page("supervisor", f"/shots/{empty.pk}/plan", "The drowned bell")
    page.get_by_text("No plates yet.").wait_for()
    page.keyboard.press("r")
    page.get_by_role("button", name="Vanishing", exact=True).click()
    page.get_by_role("button", name="Fill the stack").click()
    expect(page.get_by_role("row", name=re.compile("Empty place"))).to_be_visible()
    page.get_by_role("button", name="take back").click()
    expect(page.get_by_role("row", name=re.compile("Empty place"))).to_have_count(0)
    page.keyboard.press("Control+z")
    expect(page.get_by_role("row", name=re.compile("Empty place"))).to_be_visible()
    page.get_by_role("button", name="Save this shot as a recipe of the production").click()
    page.get_by_label("Name of the recipe").fill("Our vanishing")
    page.get_by_role("button", name="Save", exact=True).click()
    page.get_by_role("button", name=re.compile("^Add another")).click()
    expect(page.get_by_role("button", name=re.compile("^Our vanishing"))).to_be_visible()
    assert ShotRecipe.objects.filter(shot=empty, removed=False).count() == 1


# --- lines over the board


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


# --- for everybody


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
    for name in ("Ways", "Cautions", "Used again"):
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
        ("/places", "Recurs here"),
        ("/figures", "In stock"),
        ("/history", "take back"),
    ):
        at(page, address, ready)
        assert overflow(page) <= 0, address
