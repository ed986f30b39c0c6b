"""An afternoon of frames in a row, at a camera of the browser: the page is read anew, a second window goes
on, the server is killed and comes back. As many as ``CASES=500 ./run test`` asks for with this file's name.
"""

from __future__ import annotations

import os
import re
from collections.abc import Callable, Iterator
from contextlib import ExitStack
from itertools import pairwise
from pathlib import Path

import cv2
import numpy as np
import pytest
from django.conf import settings
from playwright.sync_api import BrowserContext, BrowserType, Page, expect

from jungoptic.app.frames.models import RANKS_APART, Exposure, ExposureSheet, Pose
from jungoptic.app.shots.models import Shot
from tests.events import heard_at
from tests.processes import free_port, kill, web
from tests.sessions import session_of

from .conftest import HERE, choose, saved

pytestmark = pytest.mark.browser
COUNT = int(os.environ.get("CASES", "0")) or 30
ALONE = COUNT * 4 // 5 // 2 * 2
"""From here on the second window goes on alone, whose frame was the last."""
AWAY = 4
"""So many are taken while there is no server."""
TO_COME_S, LONG_S = 120.0, 600.0
"""Frames are taken faster than they are measured: what waits then is more by and by."""


@pytest.fixture
def film(tmp_path: Path) -> Path:
    """What the camera sees: a board, with noise."""
    dice = np.random.default_rng(11)
    board = 60.0 + 130.0 * cv2.GaussianBlur(dice.random((270, 480, 3)), (0, 0), 3.0)
    path = tmp_path / "board.mjpeg"
    with path.open("wb") as file:
        for _ in range(8):
            noisy = np.clip(board + dice.normal(0.0, 1.0, board.shape), 0.0, 255.0).astype(np.uint8)
            file.write(cv2.imencode(".jpg", noisy)[1].tobytes())
    return path


@pytest.fixture
def sheet(shot: Shot) -> ExposureSheet:
    """One that is long enough."""
    found = ExposureSheet.objects.get(layer__name="Heron 1:4")
    there = Pose.objects.filter(sheet=found).count()
    last = Pose.objects.filter(sheet=found).latest("rank").rank
    Pose.objects.bulk_create(
        Pose(sheet=found, rank=last + number * RANKS_APART, hold=2)
        for number in range(1, max(COUNT - there, 0) + 1)
    )
    return found


class Set:
    """A browser with a camera, and the server that comes and goes."""

    def __init__(self, context: BrowserContext, port: int, running: ExitStack, address: str) -> None:
        self.context, self.port, self.running, self.address = context, port, running, address
        self.told = running.enter_context(heard_at(f"http://127.0.0.1:{port}"))
        self.finds_the_server()

    def finds_the_server(self) -> None:
        self.server = self.running.enter_context(web(port=self.port, JUNGOPTIC_EVENTS_URL=self.told.url))

    def loses_the_server(self) -> None:
        kill(self.server.process)

    def window(self) -> Page:
        page = self.context.new_page()
        page.goto(self.address)
        self.films(page)
        return page

    def films(self, page: Page) -> None:
        choose(page.get_by_label("Camera", exact=True).first, "a camera of this device")
        live = page.get_by_role("img", name=re.compile("^The picture: live"))
        expect(live).to_be_visible(timeout=1000 * TO_COME_S)
        page.get_by_role("heading", name="First steps").click()  # keys are the desk's again


@pytest.fixture
def on_set(
    browser_type: BrowserType, browser_type_launch_args: dict, film: Path, sheet: ExposureSheet
) -> Iterator[Set]:
    fake = ("device-for-media-stream", "ui-for-media-stream", f"file-for-fake-video-capture={film}")
    flags = [f"--use-{each}" if each.startswith("file") else f"--use-fake-{each}" for each in fake]
    args = {**browser_type_launch_args, "args": [*browser_type_launch_args["args"], *flags]}
    port = free_port()
    address = f"http://127.0.0.1:{port}"
    with ExitStack() as running:
        browser = browser_type.launch(**args)
        running.callback(browser.close)
        context = browser.new_context(base_url=address)
        context.add_init_script(path=HERE / "asked.js")
        cookie = {"name": settings.SESSION_COOKIE_NAME, "value": session_of("camera"), "url": address}
        context.add_cookies([cookie])
        yield Set(context, port, running, f"/#/frames/{sheet.pk}")


def taken() -> list[Exposure]:
    return list(Exposure.objects.order_by("taken_at", "pk").select_related("pose"))


def take(page: Page, number: int) -> None:
    """By key: where the line about the connection comes in, what is clicked may go aside."""
    button = page.get_by_role("button", name=f"Take {number}", exact=True)
    expect(button).to_be_visible(timeout=1000 * TO_COME_S)
    page.bring_to_front()
    page.keyboard.press("t")
    following = page.get_by_role("button", name=f"Take {number + 1}", exact=True)
    expect(following).to_be_visible(timeout=1000 * TO_COME_S)


def test_none_is_lost_none_doubled_and_their_order_is_kept(sheet: ExposureSheet, on_set: Set):
    page = on_set.window()
    others: list[Page] = []

    def read_anew() -> None:
        page.reload()
        on_set.films(page)

    def second_window() -> None:
        others.append(on_set.window())

    happens: dict[int, Callable[[], None]] = {
        COUNT // 5: read_anew,
        2 * COUNT // 5: on_set.loses_the_server,
        2 * COUNT // 5 + AWAY: on_set.finds_the_server,
        3 * COUNT // 5: second_window,
        ALONE: on_set.loses_the_server,
        ALONE + AWAY: on_set.finds_the_server,
    }
    for number in range(1, COUNT):
        if 3 * COUNT // 5 <= number <= ALONE:  # a window knows what the server has, and what it took itself
            saved(lambda: len(taken()), number - 1, LONG_S)
        happens.get(number, lambda: None)()
        # the two take turns as long as each can hear of the other's
        take(others[0] if others and (number % 2 or number >= ALONE) else page, number)
    saved(lambda: len(taken()), COUNT - 1, LONG_S)
    rows = taken()
    places = {pose.pk: place for place, pose in enumerate(sheet.poses.filter(removed=False).order_by("rank"))}
    assert [places[row.pose_id] for row in rows] == [*range(COUNT - 1)]
    assert all(row.chosen for row in rows)
    assert all(before.taken_at < after.taken_at for before, after in pairwise(rows))
    assert all(row.watched is not None for row in rows[1:]), "each was held against the one before it"
