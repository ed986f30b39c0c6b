"""A hyperlapse from its plan to what it costs to make it steady: by keyboard, on a telephone, on the beat."""

from __future__ import annotations

import re

import pytest
from playwright.sync_api import Page, expect

from jungoptic.app.frames.models import Exposure, Hyperlapse, PointPlace
from jungoptic.app.shots.models import Shot

from .conftest import OpenPage, axe, choose, overflow, saved
from .test_frames import TO_COME
from .test_frames_points import click

TELEPHONE = {"width": 390, "height": 844}


def hyperlapse() -> Hyperlapse:
    return Hyperlapse.objects.get()


def address() -> str:
    return f"/frames/{hyperlapse().point.sheet_id}"


def plan() -> dict[str, object]:
    return dict(hyperlapse().plan)


def taken() -> int:
    return Exposure.objects.filter(pose__sheet=hyperlapse().point.sheet_id).count()


def with_camera(page: Page) -> None:
    choose(page.get_by_label("Camera", exact=True).first, "simulated camera")
    expect(page.get_by_role("img", name="The picture: live, for frame 1")).to_be_visible(timeout=TO_COME)


def side(page: Page, text: str | re.Pattern[str]) -> None:
    expect(page.get_by_role("complementary", name="Hyperlapse")).to_contain_text(text, timeout=TO_COME)


def take(page: Page, number: int) -> None:
    page.get_by_role("button", name=f"Take {number}", exact=True).click()
    saved(taken, number)
    side(page, f"Photograph {number}")


def test_it_is_planned_from_above_and_every_number_follows(open_page: OpenPage, shot: Shot):
    page = open_page("camera", "/frames", "Dawn round the pond")
    page.get_by_role("link", name="Open the camera").click()
    page.get_by_role("tab", name="Plan").click()
    way = page.get_by_role("region", name="Way")
    expect(way).to_contain_text(re.compile("144 photographs, a step.*4.3 cm"))
    expect(way).to_contain_text("11 min 55 s")
    path = page.get_by_label("Path, m")
    path.fill("14,3")
    path.press("Enter")
    saved(lambda: plan()["length_m"], 14.3)
    expect(way).to_contain_text("10.0 cm")
    path.fill("9000")
    path.press("Enter")
    expect(way.get_by_role("alert")).to_have_text(
        "An arc of 70 m about the point is at most 440 m long; 9000 m was given."
    )
    assert axe(page) == []
    interval = page.get_by_label("Interval, s")
    interval.fill("3")
    interval.press("Enter")
    saved(lambda: plan()["interval_s"], 3.0)
    expect(page.get_by_role("region", name="Rhythm")).to_contain_text("Too quick by 1.02 s")
    page.get_by_role("group", name="Along").get_by_text("a line").click()
    saved(lambda: plan()["kind"], "line")
    expect(page.get_by_label("Point along it, m")).to_be_visible()
    assert axe(page) == [] and overflow(page) <= 0
    page.get_by_role("button", name=re.compile("^Undo: the plan")).click()
    saved(lambda: plan()["kind"], "arc")


@pytest.mark.parametrize("size", [None, TELEPHONE], ids=["desk", "telephone"])
def test_each_photograph_says_how_it_is_aimed(open_page: OpenPage, shot: Shot, size: dict[str, int] | None):
    page = open_page("camera", address(), "Dawn round the pond")
    if size:
        page.set_viewport_size(size)  # type: ignore[arg-type]
    side(page, "then take: the first photograph says how it looks")
    with_camera(page)
    take(page, 1)
    side(page, "on its mark")
    take(page, 2)
    side(page, re.compile(r"px (right|left|high|low).*Photograph 2"))
    assert axe(page) == [] and overflow(page) <= 0
    # marked by hand far to the right of where it is
    page.get_by_role("button", name=re.compile("^mark the mill's chimney by hand")).click()
    click(page, 0.6, 0.4)
    saved(lambda: PointPlace.objects.filter(marked=True).count(), 1)
    side(page, "Take it again: turn right")
    again = page.get_by_role("region", name="Take again")
    expect(again.get_by_role("button", name="2", exact=True)).to_be_visible()
    page.get_by_role("button", name="Again 2").click()
    saved(taken, 3)
    expect(again).to_have_count(0, timeout=TO_COME)


def test_it_is_taken_on_the_beat_and_made_steady(open_page: OpenPage, shot: Shot):
    row = hyperlapse()
    Hyperlapse.objects.filter(pk=row.pk).update(plan={**row.plan, "interval_s": 2.0})
    page = open_page("camera", address(), "Dawn round the pond")
    with_camera(page)
    metronome = page.get_by_role("region", name="Metronome")
    metronome.get_by_role("button", name="Start").click()
    saved(lambda: taken() >= 5, True, timeout_s=90.0)  # a beat on which the last is still taken is left out
    metronome.get_by_role("button", name="Stop").click()
    page.get_by_role("tab", name="Steady").click()
    steady = page.get_by_role("region", name="Made steady")
    expect(steady).to_contain_text(re.compile(r"enlarged \d\.\d\d ×"), timeout=TO_COME)
    steady.get_by_role("group", name="Steady on").get_by_text("its own path").click()
    saved(lambda: plan()["steady_on"], "path")
    expect(steady).to_contain_text("it went: that costs less of the picture")
    steady.get_by_role("button", name="Show it steady").click()
    steady.get_by_role("button", name="Play it all").click()
    expect(page.get_by_role("img", name=re.compile("^The picture: plays"))).to_be_visible()
    page.keyboard.press("Home")
    with page.expect_download() as got:
        page.get_by_role("link", name="Shifts of every photograph").click()
    assert got.value.suggested_filename == "TM080-steady.csv"
    assert axe(page) == [] and overflow(page) <= 0
