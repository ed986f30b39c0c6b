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
from jungoptic.app.costs.models import Costing
from jungoptic.app.jobs.models import Job
from jungoptic.app.recipes.models import ShotRecipe, Tick
from jungoptic.app.safety.models import SignOff
from jungoptic.app.shots.models import Layer, Shot
from tests.jobs import done
from tests.pdf import pages_of

from .conftest import OpenPage, choose, overflow, saved
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
    expect(page.locator("[data-wall]", has_text="The lamp bursts")).to_have_count(0)
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
    expect(page.get_by_role("alert")).to_contain_text("between 1 and 1,000,000 frames; 0 was given")
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


def test_many_boards_are_placed_together_and_the_page_follows(
    open_page: OpenPage, shot: Shot, tmp_path: Path
):
    page = open_page("supervisor")
    page.locator("[data-wall]").nth(11).wait_for()
    given = page.locator("input[type=file][multiple]")
    given.set_input_files([sketch(tmp_path, "TM040 the bell.png"), sketch(tmp_path, "tm-010.png")])
    expect(page.get_by_text("The boards wait their turn")).to_be_visible()
    page.reload()  # it is followed all the same
    expect(page.get_by_text("The boards wait their turn")).to_be_visible()
    done(Job.objects.get(kind="boards").pk)
    expect(
        page.get_by_text("2 boards placed: TM040 the bell.png → TM040, tm-010.png → TM010.")
    ).to_be_visible()
    newest = Board.objects.order_by("-pk").values_list("shot__code", flat=True)[:2]
    assert set(newest) == {"TM010", "TM040"}
    (tmp_path / "half.png").write_bytes((tmp_path / "tm-010.png").read_bytes()[:90])
    given.set_input_files([tmp_path / "tm-010.png", tmp_path / "half.png"])
    page.get_by_text("The boards wait their turn").wait_for()
    done(Job.objects.filter(kind="boards").latest("pk").pk)
    expect(page.get_by_role("alert")).to_contain_text("“half.png” could not be read")
    expect(page.get_by_role("alert")).to_contain_text("No board was changed.")


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


def sign_everything(page: Page, note: str) -> None:
    """Every caution of the page, the first one without its note at first."""
    page.get_by_role("button", name="Sign off…").first.click()
    page.get_by_role("button", name="Sign off", exact=True).click()
    expect(page.get_by_role("alert")).to_contain_text("Say who was asked and what was agreed")
    left = page.get_by_role("button", name="Sign off…")
    for signed in range(1, left.count() + 2):
        if signed > 1:
            left.first.click()
        page.get_by_label("Who was asked, what was agreed").fill(note)
        page.get_by_role("button", name="Sign off", exact=True).click()
        expect(page.get_by_text("Signed off by Supervisor")).to_have_count(signed)


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
    page.get_by_role("tab", name="Methods").click()
    page.get_by_role("button", name="Difference", exact=True).click()
    expect(page.get_by_text("Clean plate and action: what differs is the matte.")).to_be_visible()
    page.get_by_role("row", name=re.compile("^Difference")).get_by_role("button", name="Choose").click()
    expect(page.get_by_role("row", name=re.compile("^Difference"))).to_contain_text("chosen")
    saved(lambda: list(Costing.objects.filter(shot=empty).values_list("chosen", flat=True)), ["difference"])
    # say who is in it, sign off, set to ready
    page.get_by_role("tab", name=re.compile("^Cautions, . open")).click()
    expect(page.get_by_text("Local codes and licensed practice come first.")).to_be_visible()
    expect(page.get_by_text("Nobody has said it yet.")).to_be_visible()
    page.get_by_role("button", name="nobody", exact=True).click()
    expect(page.get_by_role("button", name="nobody", exact=True, pressed=True)).to_be_visible()
    saved(lambda: Shot.objects.get(pk=empty.pk).who, ["nobody"])
    expect(page.get_by_role("button", name="Set to ready")).to_be_disabled()
    asked = "Hall owner asked; the line hangs from the floor stand."
    sign_everything(page, asked)
    page.get_by_role("button", name="Set to ready").click()
    expect(page.get_by_text("ready", exact=True).first).to_be_visible()
    assert Shot.objects.get(pk=empty.pk).ready
    assert set(SignOff.objects.filter(shot=empty).values_list("note", flat=True)) == {asked}
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
