"""The whole Bench through the real interface: layers, lamps, acceptances, frames, both schools, keyboard, a
server that is away.
"""

from __future__ import annotations

import re

import pytest
from playwright.sync_api import Page, expect

from jungoptic.app.productions.models import Production
from jungoptic.app.shots.models import Acceptance, Layer, PlacedBacking, PlacedLamp, SetUp, Shot
from tests.answers import held

from .conftest import (
    OpenPage,
    box_of,
    choose,
    rest,
    saved,
    settled,
    still,
)

pytestmark = pytest.mark.browser


def tab(page: Page, name: str) -> None:
    page.get_by_role("tab", name=name).click()


def test_the_picture_through_the_lens_follows_the_hand_and_sharpens_when_it_rests(
    open_bench: OpenPage, shot: Shot
):
    page = open_bench("supervisor", shot, clock=True)
    asked: list[int] = []
    page.on(
        "request",
        lambda request: (
            asked.append(request.post_data_json["width_px"]) if request.url.endswith("/picture") else None
        ),
    )
    image = page.locator("svg image")
    expect(image).to_have_attribute("href", re.compile("^blob:"))
    first = image.get_attribute("href")
    camera = page.get_by_role("slider", name="Camera")
    still(settled(page))
    asked.clear()
    camera.focus()
    page.keyboard.press("ArrowDown")
    expect(image).not_to_have_attribute("href", first or "")
    settled(page)
    assert asked and set(asked) == {640}
    coarse = image.get_attribute("href")
    rest(page)  # the change is saved, the picture asked for again
    expect(image).not_to_have_attribute("href", coarse or "")
    settled(page)
    rest(page)
    settled(page)
    assert asked[-1] == 1280


def test_a_layer_is_added_described_undone_and_done_again(open_bench: OpenPage, shot: Shot):
    page = open_bench("supervisor", shot)
    page.keyboard.press("n")
    page.get_by_role("button", name="Add a layer").click()
    card = page.get_by_role("button", name=re.compile("^New layer"))
    expect(card).to_be_visible()
    name = page.get_by_label("Name", exact=True)
    name.fill("Rowing boat")
    name.press("Tab")
    expect(page.get_by_role("button", name=re.compile("^Rowing boat"))).to_be_visible()
    choose(page.get_by_label("Kind"), "element on black")
    expect(page.get_by_role("button", name=re.compile("^Rowing boat element on black"))).to_be_visible()
    near = page.get_by_label("Front edge", exact=True)
    near.fill("far")
    near.press("Tab")
    expect(page.get_by_role("alert")).to_contain_text("“far” is not a number")
    saved(lambda: Layer.objects.get(shot=shot, name="Rowing boat").kind, "black_element")
    for _ in range(3):
        page.get_by_role("button", name="Undo").click()
    expect(page.get_by_role("button", name=re.compile("^(Rowing boat|New layer)"))).to_have_count(0)
    saved(lambda: Layer.objects.get(shot=shot, kind="live_element").removed, True)
    page.keyboard.press("Control+Shift+z")
    expect(page.get_by_role("button", name=re.compile("^New layer"))).to_be_visible()


def test_a_verdict_is_accepted_with_a_reason_and_judged_again(open_bench: OpenPage, shot: Shot):
    page = open_bench("supervisor", shot)
    row = page.get_by_role("button", name=re.compile("^Time"))
    row.click()
    page.get_by_role("button", name="Accept…").click()
    page.get_by_role("button", name="Accept", exact=True).click()
    expect(page.get_by_role("alert")).to_contain_text("Say why it may stay")
    page.get_by_label("Why it may stay").fill("Half a second, under rain.")
    page.get_by_role("button", name="Accept", exact=True).click()
    expect(page.get_by_text("Accepted by Supervisor: “Half a second, under rain.”")).to_be_visible()
    expect(page.get_by_text("1 accepted")).to_be_visible()
    assert Acceptance.objects.get(layer__shot=shot).reason == "Half a second, under rain."
    page.get_by_role("button", name="Judge it again").click()
    expect(page.get_by_text("1 accepted")).to_have_count(0)


def test_what_the_other_school_says_is_one_key_away(open_bench: OpenPage, shot: Shot):
    page = open_bench("supervisor", shot)
    page.get_by_role("button", name=re.compile("^Focus blur, back edge")).click()
    expect(page.get_by_text("Covered would say holds")).to_be_visible()
    page.get_by_role("heading", level=1).click()
    page.keyboard.press("c")
    expect(page.get_by_role("radio", name="Covered")).to_be_checked()
    expect(page.get_by_text("Measured would say shows")).to_be_visible()


def test_lamps_and_the_sheet_are_moved_in_the_drawing_by_hand_and_by_keys(
    open_bench: OpenPage, wheel_shot: Shot
):
    page = open_bench("supervisor", wheel_shot)
    page.get_by_role("button", name=re.compile("^Orla hero")).click()
    spot = page.get_by_role("slider", name="300 W spot", exact=True)
    expect(spot).to_have_attribute("aria-valuetext", re.compile("^key, 3200 K"))
    spot.focus()
    page.keyboard.press("Shift+ArrowUp")
    saved(
        lambda: PlacedLamp.objects.get(set_up__shot=wheel_shot, name="300 W spot").height_m,
        pytest.approx(3.1),
    )
    expect(page.get_by_role("button", name="Undo")).to_be_enabled()
    sheet = page.get_by_role("slider", name="Backing")
    box = box_of(sheet)
    shadow = page.get_by_role("button", name=re.compile("^Shadow on the backing")).first
    before = shadow.text_content()
    top = box["y"] + 0.15 * box["height"]  # clear of the lamps' aims
    page.mouse.move(box["x"] + box["width"] / 2, top)
    page.mouse.down()
    page.mouse.move(box["x"] + 90, top, steps=5)
    expect(shadow).not_to_have_text(before or "")
    page.mouse.up()
    moved = PlacedBacking.objects.get(set_up__shot=wheel_shot)
    saved(lambda: PlacedBacking.objects.get(pk=moved.pk).behind_m > 1.5, True)
    page.keyboard.press("Control+z")
    saved(lambda: PlacedBacking.objects.get(pk=moved.pk).behind_m, pytest.approx(1.2))
    tab(page, "Light")
    choose(page.get_by_label("Lamp of the kit"), "colour lamp")
    page.get_by_role("button", name="Place the lamp").click()
    expect(page.get_by_role("slider", name="colour lamp", exact=True)).to_be_visible()
    page.get_by_role("button", name="Remove colour lamp").click()
    expect(page.get_by_role("slider", name="colour lamp", exact=True)).to_have_count(0)
    page.get_by_role("radio", name="As filmed").click()
    expect(page.locator("svg text", has_text="−⅓")).to_be_visible()


def test_keys_count_and_are_taken_back_while_the_answer_is_still_on_its_way(
    open_bench: OpenPage, wheel_shot: Shot
):
    page = open_bench("supervisor", wheel_shot, clock=True)
    page.get_by_role("button", name=re.compile("^Orla hero")).click()
    spot = page.get_by_role("slider", name="300 W spot", exact=True)
    focus = page.get_by_role("slider", name="Focus", exact=True)
    expect(spot).to_be_visible()
    expect(focus).to_be_visible()
    lamp = PlacedLamp.objects.get(set_up__shot=wheel_shot, name="300 W spot")
    height = lambda: PlacedLamp.objects.get(pk=lamp.pk).height_m  # noqa: E731
    still(page)
    with held("/changes"), held("/trial"):
        spot.focus()
        for _ in range(3):
            page.keyboard.press("Shift+ArrowUp")
        rest(page)  # what it did is one step
        focus.focus()
        before = focus.get_attribute("aria-valuenow")
        for _ in range(2):
            page.keyboard.press("ArrowRight")
        expect(focus).not_to_have_attribute(
            "aria-valuenow", before or ""
        )  # it turns before the answer is here
        rest(page)
        saved(height, pytest.approx(lamp.height_m + 0.3))
        page.keyboard.press("Control+z")  # of the two that are on their way, the one that came last
        expect(focus).to_have_attribute("aria-valuenow", before or "")
        page.keyboard.press("Control+z")
        expect(page.get_by_role("button", name="Undo")).to_be_disabled()
    saved(height, pytest.approx(lamp.height_m))
    expect(focus).to_have_attribute("aria-valuenow", before or "")
    expect(page.get_by_role("button", name="Undo")).to_be_disabled()
    page.keyboard.press("Control+Shift+z")
    saved(height, pytest.approx(lamp.height_m + 0.3))


def test_what_was_refused_stays_while_something_else_is_saved_and_a_nudge_is_not_lost(
    open_bench: OpenPage, shot: Shot
):
    page = open_bench("supervisor", shot)
    set_up = lambda: SetUp.objects.get(shot=shot, name="Mill on the table")  # noqa: E731
    focus = page.locator("input[id$='-field']").nth(2)
    focus.fill("0.1")
    focus.press("Enter")
    expect(page.get_by_role("alert")).to_contain_text("0.1 m was given")
    tab(page, "Layer")
    scale = page.get_by_label("Scale 1:")
    scale.fill("10")
    scale.press("Tab")
    saved(lambda: Layer.objects.get(shot=shot, name="Mill 1:12").scale, 10)
    expect(focus).to_have_value("0.1")
    expect(page.get_by_role("alert")).to_contain_text("0.1 m was given")
    focus.press("Escape")
    expect(focus).to_have_value("1")
    height = set_up().lens_height_m
    page.get_by_role("slider", name="Camera", exact=True).press("ArrowUp")
    scale.fill("12")
    scale.press("Tab")  # before the nudge has settled
    saved(lambda: Layer.objects.get(shot=shot, name="Mill 1:12").scale, 12)
    saved(lambda: set_up().lens_height_m > height, True)
    for _ in range(3):
        page.get_by_role("button", name="Undo").click()
    saved(lambda: set_up().lens_height_m, height)
    saved(lambda: Layer.objects.get(shot=shot, name="Mill 1:12").scale, 12)
    expect(page.get_by_role("button", name="Undo")).to_be_disabled()


def test_the_frame_slider_the_move_and_the_cut(open_bench: OpenPage, shot: Shot):
    page = open_bench("supervisor", Shot.objects.get(code="TM030"))
    tab(page, "Shot")
    choose(page.get_by_label("Camera move"), "slide")
    amount = page.get_by_label("How far, m")
    amount.fill("0.6")
    amount.press("Tab")
    expect(page.get_by_text("At its fastest, in px for each frame:")).to_be_visible()
    end = page.get_by_label("Ends at frame")
    end.fill("0")
    end.press("Tab")
    expect(page.get_by_role("alert").first).to_contain_text("must be at least 1; 0 was given")
    page.keyboard.press("Escape")
    slider = page.get_by_role("slider", name="Frame")
    slider.focus()
    page.keyboard.press("End")
    expect(page.get_by_text("215 / 215")).to_be_visible()
    tab(page, "Across the cut")
    expect(page.get_by_text("Direction of light").first).to_be_visible()
    page.get_by_role("link", name="TM040").click()
    expect(page.get_by_role("heading", name="TM040")).to_be_visible()


def test_a_scale_is_chosen_from_the_table(open_bench: OpenPage, shot: Shot):
    page = open_bench("supervisor", Shot.objects.get(code="TM060"))
    page.keyboard.press("s")
    page.get_by_role("button", name="Choose a scale").click()
    row = page.get_by_role("row", name=re.compile("^1:4 "))
    expect(row).to_contain_text("2.5 m")
    expect(page.get_by_role("row", name=re.compile("^1:12 "))).to_contain_text("water looks wrong")
    row.get_by_role("button", name="use").click()
    saved(lambda: Layer.objects.get(name="Wall and water 1:6").scale, 4)


def test_how_the_production_is_judged(open_bench: OpenPage, shot: Shot):
    page = open_bench("supervisor", shot)
    tab(page, "Judging")
    page.get_by_label("Black and white").check()
    expect(page.get_by_role("button", name=re.compile("after the finish"))).to_be_visible()
    holds = page.get_by_label("Camera height, holds")
    holds.fill("500")
    holds.press("Tab")
    expect(page.get_by_role("alert")).to_contain_text("Tight must not be smaller than Holds")
    expect(holds).to_have_attribute("aria-invalid", "true")
    tight = page.get_by_label("Camera height, tight")
    tight.fill("600")
    tight.press("Tab")
    holds.fill("400")
    holds.press("Tab")
    expect(page.get_by_role("button", name="default")).to_be_visible()
    soft = page.get_by_label("Softened at the end")
    soft.fill("-3")
    soft.press("Tab")
    expect(page.get_by_role("alert")).to_have_text(
        "Softened at the end must be at least 0 px; -3.0 was given."
    )
    expect(soft).to_have_value("-3")  # what was refused stays to be mended, as long as it is said why
    soft.press("Escape")
    expect(soft).to_have_value("0")
    with held("/judging"):
        for _ in range(3):
            soft.press("ArrowUp")
        expect(soft).to_have_value("0.3")
    saved(lambda: Production.objects.get(pk=shot.production_id).soften_px, pytest.approx(0.3))
    tab(page, "Will it show?")
    expect(page.get_by_role("button", name=re.compile("^Camera height"))).to_contain_text("holds")
    expect(page.get_by_role("button", name=re.compile("^Colour of light"))).to_contain_text("for information")
