"""The animator's desk in the real interface: taken, watched, shot again, played; a camera of the browser, and
one that cannot reach the server.
"""

from __future__ import annotations

import re
from collections.abc import Iterator

import pytest
from django.conf import settings
from playwright.sync_api import Browser, BrowserType, Page, expect

from jungoptic.app.frames.models import Exposure, ExposureSheet
from jungoptic.app.shots.models import Shot
from tests.sessions import session_of

from .conftest import OpenPage, Windows, axe, choose, overflow, saved
from .test_main_path import offline

pytestmark = pytest.mark.browser
TO_COME = 60_000
MOVED = re.compile(r"The camera stands 0\.[78]\d? px off the last frame")
FAKE_CAMERA = ("--use-fake-device-for-media-stream", "--use-fake-ui-for-media-stream")


def sheet() -> ExposureSheet:
    return ExposureSheet.objects.get(layer__name="Heron 1:4")


def taken() -> list[int]:
    """The places of the poses that were taken, in the order in which they were."""
    return list(Exposure.objects.order_by("taken_at", "pk").values_list("pose__place", flat=True))


def said(page: Page, text: str | re.Pattern[str]) -> None:
    expect(page.get_by_role("complementary", name="Desk")).to_contain_text(text, timeout=TO_COME)


def take(page: Page, number: int) -> None:
    page.get_by_role("button", name=f"Take {number}", exact=True).click()
    saved(lambda: Exposure.objects.filter(pose__place=number - 1).exists(), True)
    expect(page.get_by_role("button", name=re.compile(f"^Frame {number}, taken"))).to_be_visible()


def test_a_nudge_is_said_before_the_next_move_and_the_frame_shot_again(open_page: OpenPage, shot: Shot):
    page = open_page("camera", "/frames", "Heron 1:4")
    page.get_by_role("link", name="Open the desk").click()
    said(page, "Nothing is taken yet")
    assert axe(page) == [] and overflow(page) <= 0
    choose(page.get_by_label("Camera", exact=True).first, "simulated camera")
    expect(page.get_by_role("img", name="The picture: live, for frame 1")).to_be_visible(timeout=TO_COME)
    take(page, 1)
    said(page, "First of its block")
    take(page, 2)
    said(page, "All holds")
    page.get_by_label("a nudge").check()
    take(page, 3)
    said(page, MOVED)
    expect(page.get_by_role("button", name="Frame 3, taken, shows")).to_be_visible()
    page.get_by_label("a nudge").uncheck()
    page.keyboard.press("a")
    saved(lambda: Exposure.objects.filter(pose__place=2).count(), 2)
    said(page, "All holds")
    choose(page.get_by_label("Camera", exact=True).first, "no camera")
    # back by key, to the one that was shot again: the other can be shown
    page.get_by_role("heading", name="First steps").click()
    page.keyboard.press("ArrowLeft")
    said(page, "Exposures of frame 3")
    page.get_by_role("button", name="show", exact=True).click()
    said(page, MOVED)
    page.get_by_role("button", name=re.compile("^Undo: show another")).click()
    said(page, "All holds")
    assert axe(page) == []
    page.keyboard.press("Space")
    expect(page.get_by_role("img", name="The picture: plays the last 2 s")).to_be_visible()
    page.keyboard.press("Space")
    assert taken() == [0, 1, 2, 2]


def test_a_line_of_the_sheet_is_written_and_goes_back(open_page: OpenPage, shot: Shot):
    page = open_page("supervisor", f"/frames/{sheet().pk}", "First steps")
    page.get_by_role("button", name="Frame 4, not taken").click()
    line = page.get_by_role("region", name="Line 4 of the sheet")
    line.get_by_label("Figure").fill("looks up")
    line.get_by_label("held").fill("4")
    line.get_by_label("held").press("Enter")
    pose = sheet().poses.all()[3]
    saved(lambda: list(sheet().poses.filter(pk=pose.pk).values_list("figure", "hold")), [("looks up", 4)])
    expect(page.get_by_text("sheet 170, shot 168 frames")).to_be_visible()
    page.get_by_role("button", name=re.compile("^Undo: frame 4")).click()
    expect(page.get_by_text("sheet 170, shot 168 frames")).to_have_count(0)
    assert overflow(page) <= 0


@pytest.fixture
def with_camera(
    browser_type: BrowserType, browser_type_launch_args: dict, windows: Windows
) -> Iterator[Page]:
    """A window of a browser that has a camera, signed in."""
    args = {**browser_type_launch_args, "args": [*browser_type_launch_args["args"], *FAKE_CAMERA]}
    browser: Browser = browser_type.launch(**args)
    context = browser.new_context(base_url=windows.server.url, service_workers="block")
    cookie = {"name": settings.SESSION_COOKIE_NAME, "value": session_of("camera"), "url": windows.server.url}
    context.add_cookies([cookie])
    context.add_init_script(path=str(__file__).replace("test_frames.py", "asked.js"))
    yield context.new_page()
    browser.close()


def test_a_camera_of_the_browser_loses_nothing_and_doubles_nothing(shot: Shot, with_camera: Page):
    page = with_camera
    address = f"/#/frames/{sheet().pk}"
    page.goto(address)

    def filming(window: Page) -> None:
        choose(window.get_by_label("Camera", exact=True).first, "a camera of this device")
        expect(window.get_by_role("img", name=re.compile("^The picture: live"))).to_be_visible()

    filming(page)
    for number in range(1, 6):
        take(page, number)
    # the server is away: frames wait here, also when the page is read anew
    page.route("**/api/**", offline)
    for number in (6, 7):
        page.get_by_role("button", name=f"Take {number}", exact=True).click()
        expect(page.get_by_role("button", name=f"Take {number + 1}", exact=True)).to_be_visible()
        expect(page.get_by_role("button", name=f"Frame {number}, on its way")).to_be_visible()
    assert taken() == [0, 1, 2, 3, 4]
    page.unroute("**/api/**")
    page.reload()
    saved(taken, [0, 1, 2, 3, 4, 5, 6])
    # a second window goes on from there
    second = page.context.new_page()
    second.goto(address)
    filming(second)
    take(second, 8)
    expect(page.get_by_role("button", name="Take 9", exact=True)).to_be_visible(timeout=TO_COME)
    assert taken() == [*range(8)]
    sizes = set(Exposure.objects.values_list("width_px", "height_px"))
    [(width, height)] = sizes
    assert width / height == pytest.approx(23.5 / 13.2, rel=0.01)


def test_on_a_telephone_the_desk_is_in_reach(open_phone: OpenPage, shot: Shot):
    phone = open_phone("camera", f"/frames/{sheet().pk}", "First steps")
    expect(phone.get_by_role("button", name="Take 1", exact=True)).to_be_visible()
    assert axe(phone) == [] and overflow(phone) <= 0


def test_the_track_is_turned_and_stands_where_it_was_left(open_page: OpenPage, shot: Shot):
    page = open_page("camera", f"/frames/{sheet().pk}", "First steps")
    track = page.get_by_role("region", name="Track under the Heron")
    expect(track).to_contain_text("Stands for frame 1: at no turn.")
    expect(track).to_contain_text("0.400 mm a turn")
    track.get_by_text("Gears and ways").click()
    track.get_by_label("Stands at, turns").fill("2.5")
    track.get_by_label("Stands at, turns").press("Enter")
    expect(track).to_contain_text("3 turns back, then 5 tenths forwards")
    page.get_by_role("heading", name="First steps").click()
    page.keyboard.press("r")
    expect(track).to_contain_text("Stands for frame 1: at no turn.")
    track.get_by_label("Gears, teeth").fill("12:60, 1:2")
    track.get_by_label("Gears, teeth").press("Enter")
    expect(track).to_contain_text("0.200 mm a turn")
    page.get_by_role("button", name=re.compile("^Undo: Track")).click()
    expect(track).to_contain_text("0.400 mm a turn")
    assert sheet().rigs.get().stands == 0
    assert axe(page) == []
