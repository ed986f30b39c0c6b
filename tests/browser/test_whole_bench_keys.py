"""The whole Bench by keyboard, for axe and on a phone."""

from __future__ import annotations

import re

import pytest
from playwright.sync_api import expect

from jungoptic.app.shots.models import Layer, SetUp, Shot

from .conftest import (
    PANEL,
    RETRY_MS,
    OpenPage,
    axe,
    later,
    overflow,
    saved,
)
from .test_whole_bench import tab

pytestmark = pytest.mark.browser


def test_a_drag_with_the_server_away_is_kept_and_sent_when_it_is_back(open_bench: OpenPage, shot: Shot):
    page = open_bench("supervisor", shot, clock=True)
    page.route("**/api/shots/**", lambda route: route.abort())
    focus = page.get_by_role("slider", name="Plane of focus")
    focus.focus()
    page.keyboard.press("Shift+ArrowRight")
    expect(page.get_by_role("alert")).to_contain_text("The server cannot be reached")
    expect(page.get_by_role("alert")).to_contain_text(
        "1 change is kept here and will be sent when it is back"
    )
    assert SetUp.objects.get(shot=shot, name="Mill on the table").focus_distance_m == 1
    page.unroute("**/api/shots/**")
    later(page, RETRY_MS)
    saved(
        lambda: SetUp.objects.get(shot=shot, name="Mill on the table").focus_distance_m, pytest.approx(1.05)
    )
    expect(page.get_by_role("alert")).to_have_count(0)


def test_the_crew_reads_and_cannot_change(open_bench: OpenPage, shot: Shot):
    page = open_bench("camera", shot)
    tab(page, "Layer")
    expect(page.get_by_label("Name", exact=True)).to_be_disabled()
    expect(page.get_by_role("button", name="Add a layer")).to_be_disabled()
    tab(page, "Judging")
    expect(page.get_by_label("Black and white")).to_be_disabled()


def test_every_panel_is_free_of_automatic_accessibility_violations(open_bench: OpenPage, wheel_shot: Shot):
    page = open_bench("supervisor", wheel_shot)
    page.get_by_role("button", name=re.compile("^Orla hero")).click()
    found = axe(page)
    for number, name in enumerate(("Layer", "Light", "Shot", "Across the cut", "Judging"), 2):
        page.get_by_role("heading", level=1).click()
        page.keyboard.press(str(number))
        expect(page.get_by_role("tab", name=name)).to_have_attribute("aria-selected", "true")
        found += [f"{name}: {fault}" for fault in axe(page, PANEL)]
    page.get_by_role("radio", name="As filmed").click()
    page.get_by_role("tab", name="From above").click()
    found += axe(page)
    assert found == []


def test_the_whole_bench_by_the_keyboard_alone(open_bench: OpenPage, shot: Shot):
    """Every control is reached by Tab, and what is changed by hand can be changed by keys."""
    page = open_bench("supervisor", shot)
    page.get_by_role("link", name="Jungoptic").focus()
    reached: set[str] = set()
    for _ in range(120):
        page.keyboard.press("Tab")
        reached.add(
            page.evaluate(
                "(e => e.getAttribute('aria-label') || e.textContent.trim())(document.activeElement)"
            )[:24]
        )
    for wanted in (
        "Frame",
        "Will it show?",
        "Camera",
        "Plane of focus",
        "Height of the ground",
        "Solve s",
        "From the side",
        "Stop",
    ):
        assert any(one.startswith(wanted) for one in reached), wanted
    # within a list of tabs the arrow keys go on, Home and End to its ends
    page.get_by_role("tab", name="Will it show?").focus()
    page.keyboard.press("ArrowRight")
    expect(page.get_by_role("tab", name="Layer", exact=True)).to_have_attribute("aria-selected", "true")
    page.keyboard.press("End")
    expect(page.get_by_role("tab", name="Judging")).to_have_attribute("aria-selected", "true")
    page.keyboard.press("Home")
    page.get_by_role("tab", name="Will it show?").press("2")
    page.get_by_label("Front edge", exact=True).focus()
    page.keyboard.press("ArrowUp")
    saved(lambda: Layer.objects.get(shot=shot, name="Mill 1:12").near_m, pytest.approx(12.01))
    # a list opens by keys, typed letters find in it and change nothing else, Escape leaves it as it was
    kind = page.get_by_label("Kind")
    kind.press("Enter")
    expect(page.get_by_role("option", name="model", exact=True)).to_be_visible()
    page.keyboard.press("Escape")
    expect(page.get_by_role("option")).to_have_count(0)
    assert Layer.objects.get(shot=shot, name="Mill 1:12").kind == "model"
    kind.press("ArrowDown")
    page.keyboard.type("rig")
    page.keyboard.press("Enter")
    saved(lambda: Layer.objects.get(shot=shot, name="Mill 1:12").kind, "rig")
    expect(kind).to_contain_text("rig shot")
    # a line is walked by keys too
    frame = page.get_by_role("slider", name="Frame")
    frame.press("End")
    expect(frame).to_have_attribute("aria-valuenow", "143")
    frame.press("Home")
    expect(frame).to_have_attribute("aria-valuenow", "0")


def test_on_a_phone_nothing_is_wider_than_the_screen(open_phone: OpenPage, wheel_shot: Shot):
    phone = open_phone("supervisor", f"/shots/{wheel_shot.pk}/bench")
    phone.get_by_role("tab", name="Will it show?").wait_for()
    for name in ("Layer", "Light", "Shot", "Judging"):
        phone.get_by_role("tab", name=name).click()
        assert overflow(phone) <= 0, name
