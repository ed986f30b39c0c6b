"""Sets, places, figures and the history, as a person uses them."""

from __future__ import annotations

import re

import pytest
from playwright.sync_api import expect

from jungoptic.app.builds.models import Build
from jungoptic.app.costs.models import Figures
from jungoptic.app.people.models import Person
from jungoptic.app.places.keeping import save_place
from jungoptic.app.productions.models import Place
from jungoptic.app.productions.writing import in_production
from jungoptic.app.shots.cut import change_line
from jungoptic.app.shots.models import Layer, Shot
from jungoptic.app.shots.writing import in_shot
from jungoptic.app.stock.models import StockItem

from .conftest import OpenPage, at, box_of, choose, saved

pytestmark = pytest.mark.browser


# --- sets, places, figures


def test_a_set_is_moved_by_hand_and_by_keys_and_taken_back(open_page: OpenPage, shot: Shot):
    page = open_page("supervisor", "/sets", "Inside the mill")
    build = Build.objects.get()
    expect(page.get_by_text("serves as")).to_be_visible()
    expect(page.get_by_text("Only the wide view sees Grain chute")).to_be_visible()
    chute = page.get_by_role("button", name=re.compile("^Grain chute,"))
    chute.focus()
    page.keyboard.press("Shift+ArrowLeft")
    saved(lambda: build.pieces.get(name="Grain chute").x_m, pytest.approx(-2.55))
    page.keyboard.press("Control+z")
    saved(lambda: build.pieces.get(name="Grain chute").x_m, pytest.approx(-1.55))
    box = box_of(page.get_by_role("button", name=re.compile("^TM120 wide, camera")))
    page.mouse.move(box["x"] + box["width"] / 2, box["y"] + 12)
    page.mouse.down()
    page.mouse.move(box["x"] + box["width"] / 2 + 60, box["y"] + 12, steps=4)
    page.mouse.up()
    saved(lambda: build.views.get(shot__code="TM120").x_m > 0.8, True)
    width = page.get_by_label("Width, Back wall")
    width.fill("0")
    width.press("Tab")
    expect(page.get_by_role("alert")).to_contain_text("Width must be more than 0 m; 0 was given")
    assert build.pieces.get(name="Back wall").width_m == 8
    page.get_by_role("tab", name=re.compile("^Cutting list")).click()
    expect(page.get_by_role("img", name=re.compile("^Sheet 1: "))).to_be_visible()
    expect(page.get_by_text(re.compile(r"\d+ × \d+ mm · [\d.]+ × [\d.]+ in")).first).to_be_visible()


def test_a_new_set_from_nothing(open_page: OpenPage, shot: Shot):
    page = open_page("supervisor", "/sets", "Inside the mill")
    page.get_by_role("button", name="New set").click()
    page.get_by_label("Name of the set or model").fill("Inside the mill")
    page.get_by_role("button", name="Make it").click()
    expect(page.get_by_role("alert")).to_contain_text("There is a set called “Inside the mill” already")
    page.get_by_label("Name of the set or model").fill("Sea wall")
    page.get_by_role("button", name="Make it").click()
    expect(page.get_by_role("heading", name="Sea wall")).to_be_visible()
    page.get_by_role("button", name="Add a piece").click()
    expect(page.get_by_text("nothing: in no frame")).to_be_visible()
    page.get_by_role("tab", name=re.compile("^Cameras")).click()
    choose(page.get_by_label("Add the camera of a shot"), "TM060 The sea wall")
    expect(page.get_by_role("button", name=re.compile("^Piece 1, seen by TM060"))).to_be_visible()
    page.get_by_role("button", name="remove this set").click()
    expect(page.get_by_role("heading", name="Inside the mill")).to_be_visible()
    page.get_by_role("button", name="Put it back").click()
    expect(page.get_by_role("button", name=re.compile("^Piece 1, seen by TM060"))).to_be_visible()


def test_what_recurs_is_said_and_missing_falls(open_page: OpenPage, shot: Shot):
    page = open_page("supervisor", "/places", "leaning mooring post")
    quay = page.get_by_role("region", name="The quay")
    expect(quay).to_contain_text("1 missing")
    quay.get_by_label("TM110 has leaning mooring post").click()
    expect(quay).to_contain_text("every shot has everything")
    saved(lambda: Shot.objects.get(code="TM110").carries, ["leaning mooring post"])
    page.keyboard.press("Control+z")
    expect(quay).to_contain_text("1 missing")
    quay.get_by_label("What recurs in The quay").fill("rusted crane")
    quay.get_by_role("button", name="Add", exact=True).click()
    expect(quay).to_contain_text("3 missing")
    choose(quay.get_by_label("Add a caution of The quay"), "Boats, docks and cold water")
    expect(quay.get_by_role("list", name="Cautions of The quay")).to_contain_text("Boats, docks")
    saved(lambda: Shot.objects.get(code="TM110").place.cautions, ["water_edge", "boats"])
    quay.get_by_role("button", name="Remove The quay").click()
    expect(quay.get_by_role("alert")).to_contain_text("2 shots stand here (TM050, TM110)")
    page.get_by_label("Name of The quay").fill("The old quay")
    page.get_by_label("Name of The quay").press("Tab")
    expect(page.get_by_role("region", name="The old quay")).to_be_visible()
    page.get_by_role("button", name="New place").click()
    page.get_by_label("Name of the place").fill("The sluice")
    page.get_by_role("button", name="Add it").click()
    page.get_by_role("button", name="Remove The sluice").click()
    expect(page.get_by_role("region", name="The sluice")).to_have_count(0)
    page.keyboard.press("Control+z")
    expect(page.get_by_role("region", name="The sluice")).to_be_visible()


def test_figures_and_stock(open_page: OpenPage, shot: Shot):
    page = open_page("supervisor", "/figures", "In stock")
    people = page.get_by_label("People on set")
    people.fill("0")
    people.press("Tab")
    expect(page.get_by_role("alert")).to_contain_text("at least 1; 0 was given")
    people.fill("4")
    people.press("Tab")
    saved(lambda: list(Figures.objects.values_list("crew", flat=True)), [4])
    page.get_by_role("button", name="Undo").click()
    saved(lambda: list(Figures.objects.values_list("crew", flat=True)), [3])
    page.get_by_label("Element", exact=True).fill("Wave over the wall")
    page.get_by_label("Angle of view °").fill("wide")
    page.get_by_role("button", name="Add to the stock").click()
    expect(page.get_by_role("alert")).to_contain_text("“wide” is not a number")
    page.get_by_label("Angle of view °").fill("35,5")
    page.get_by_role("button", name="Add to the stock").click()
    expect(page.get_by_role("row", name=re.compile("^Wave over the wall"))).to_contain_text("35.5")
    assert StockItem.objects.get(name="Wave over the wall").view_deg == pytest.approx(35.5)
    page.get_by_role("button", name="Remove Wave over the wall").click()
    expect(page.get_by_role("row", name=re.compile("^Wave over the wall"))).to_have_count(0)
    page.get_by_role("button", name="Undo").click()
    expect(page.get_by_role("row", name=re.compile("^Wave over the wall"))).to_be_visible()


# --- the history


def test_what_was_done_is_read_and_taken_back_after_a_reload(
    open_page: OpenPage, open_bench: OpenPage, shot: Shot
):
    page = open_bench("supervisor", shot)
    page.get_by_role("slider", name="Stop", exact=True).focus()
    page.keyboard.press("ArrowRight")
    mill = Layer.objects.select_related("set_up").get(shot=shot, name="Mill 1:12").set_up
    saved(lambda: type(mill).objects.get(pk=mill.pk).f_number > 8, True)
    page.reload()
    undo = page.get_by_role("button", name="Undo")
    expect(undo).to_be_enabled()
    undo.hover()
    expect(page.get_by_role("tooltip")).to_have_text(re.compile("stop$", re.I))
    page.keyboard.press("Control+z")
    saved(lambda: type(mill).objects.get(pk=mill.pk).f_number, 8)
    at(page, "/history", "Taken back: Mill on the table: stop")
    expect(page.get_by_text("taken back", exact=True)).to_have_count(1)
    expect(page.get_by_text("f/8.98", exact=True)).to_have_count(2)
    page.get_by_role("button", name="Take back: Taken back: Mill on the table: stop").click()
    saved(lambda: type(mill).objects.get(pk=mill.pk).f_number > 8, True)
    expect(page.get_by_text("Done again: Mill on the table: stop")).to_be_visible()
    choose(page.get_by_label("Shot"), "TM020 Under the great wheel")
    expect(page.get_by_text("Nothing that fits.")).to_be_visible()


def test_a_line_of_the_history_that_was_changed_since_says_so(open_page: OpenPage, shot: Shot):
    supervisor = Person.objects.get(username="supervisor")
    for title in ("The mill at night", "The mill at dawn"):
        with in_shot(supervisor, shot.pk) as write:
            change_line(write, Shot.objects.get(pk=shot.pk), {"title": title})
    page = open_page("supervisor", "/history", "The mill at night")
    page.get_by_role("button", name="Take back: TM010: title").last.click()
    expect(page.get_by_role("alert")).to_contain_text("Supervisor changed “TM010” while you worked (title)")
    assert Shot.objects.get(pk=shot.pk).title == "The mill at dawn"


@pytest.mark.usefixtures("deaf")
def test_what_somebody_saved_first_is_shown_and_mine_is_not_lost(open_page: OpenPage, shot: Shot):
    page = open_page("supervisor", "/", "TM010")
    page.get_by_role("radio", name="List").click()
    cell = page.get_by_label("Title, TM010")
    with in_shot(Person.objects.get(username="supervisor"), shot.pk) as write:
        change_line(write, Shot.objects.get(pk=shot.pk), {"title": "The mill at dawn"})
    cell.fill("The mill at night")
    cell.press("Tab")
    alert = page.get_by_role("alert")
    expect(alert).to_contain_text("Supervisor changed “TM010” while you worked (title)")
    expect(cell).to_have_value("The mill at dawn")
    alert.get_by_role("button", name="Save mine over it").click()
    saved(lambda: Shot.objects.get(pk=shot.pk).title, "The mill at night")
    expect(alert).to_have_count(0)


@pytest.mark.usefixtures("deaf")
def test_a_place_that_somebody_changed_first_takes_mine_over_theirs(open_page: OpenPage, shot: Shot):
    page = open_page("supervisor", "/places", "leaning mooring post")
    quay = Place.objects.get(name="The quay")
    with in_production(Person.objects.get(username="supervisor"), shot.production_id) as write:
        save_place(write, quay.pk, quay.version, "The quay", ["rope"], [])
    name = page.get_by_label("Name of The quay")
    name.fill("The old quay")
    name.press("Tab")
    expect(page.get_by_role("alert")).to_contain_text("Supervisor changed “The quay”")
    expect(page.get_by_role("button", name="Remove rope")).to_be_visible()
    page.get_by_role("button", name="Save mine over it").click()
    saved(
        lambda: list(Place.objects.filter(pk=quay.pk).values_list("name", "recurring")),
        [("The old quay", ["rope"])],
    )
