"""Pocket through the real interface: find, turn, share, fill from the shot, send back."""

import re

import pytest
from playwright.sync_api import expect

from jungoptic.app.shots.models import SetUp, Shot

from .conftest import OpenPage, axe, saved

pytestmark = pytest.mark.browser


def test_a_card_is_found_turned_and_shared(open_page: OpenPage, open_phone: OpenPage, shot: Shot):
    page = open_page("runner")
    page.get_by_role("link", name="Pocket").click()
    page.get_by_label("What do you want to know?").fill("camera run")
    page.get_by_role("link", name="How fast must the camera run?").first.click()
    answer = page.get_by_role("region", name="Answer")
    expect(answer).to_contain_text("96")  # the worked example, 1:16
    page.get_by_role("slider", name="Scale 1:").focus()
    page.keyboard.press("Home")
    page.get_by_role("textbox", name="Scale 1:").fill("25")
    page.keyboard.press("Enter")
    expect(answer).to_contain_text("120")
    expect(page).to_have_url(re.compile(r"scale=25"))
    expect(page.get_by_role("row", name=re.compile("^25 120$"))).to_be_visible()
    page.get_by_role("button", name="why").click()
    expect(page.get_by_text("Froude similarity")).to_be_visible()
    other = open_phone("camera", page.url.split("#", 1)[1])
    expect(other.get_by_role("region", name="Answer")).to_contain_text("120")


def test_bad_input_is_said_at_the_field_and_the_last_answer_stays(open_page: OpenPage, shot: Shot):
    page = open_page("runner", "/pocket/image_distance")
    answer = page.get_by_role("region", name="Answer")
    expect(answer).to_contain_text("35.41")
    focus = page.get_by_role("textbox", name="Focus distance")
    focus.fill("0.01")
    focus.press("Enter")
    expect(page.get_by_role("alert")).to_contain_text("more than the focal length, 35 mm")
    expect(answer).to_contain_text("35.41")
    page.get_by_role("button", name="Worked example").click()
    expect(page.get_by_role("alert")).to_have_count(0)


def test_filled_from_the_open_shot_and_sent_back_to_it(open_bench: OpenPage, shot: Shot):
    page = open_bench("supervisor", shot)
    page.goto("/#/pocket/depth_of_field")
    page.get_by_role("button", name="Fill from TM010 · Mill 1:12").click()
    expect(page.get_by_role("textbox", name="Focus distance")).to_have_value("1")
    page.goto("/#/pocket/miniature_frame_rate")
    page.get_by_role("button", name="Fill from TM010 · Mill 1:12").click()
    page.get_by_role("button", name="Set on Mill 1:12").first.click()
    # 83.1 frames/s: the camera's large mode has no such rate, and says which mode goes further
    expect(page.get_by_role("alert")).to_contain_text("records at most 60 frames/s")
    scale = page.get_by_role("textbox", name="Scale 1:")
    scale.fill("4")
    scale.press("Enter")
    page.get_by_role("button", name="Set on Mill 1:12").first.click()
    expect(page.get_by_role("button", name="Set", exact=True)).to_be_visible()
    saved(lambda: SetUp.objects.get(shot=shot, name="Mill on the table").capture_fps, 48)


def test_pocket_has_no_automatic_accessibility_violations(open_page: OpenPage, shot: Shot):
    page = open_page("supervisor")
    found: list[str] = []
    for name in ("miniature_frame_rate", "backing_evenness", "crowd_rows", "placing"):
        page.goto(f"/#/pocket/{name}")
        page.get_by_role("region", name="Answer").wait_for()
        page.get_by_text("Reckoning…").wait_for(state="detached")
        found += axe(page)
    assert not found, "\n".join(found)
