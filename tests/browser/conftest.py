"""The real interface in headless Chromium against a live server with the demo production.

A page is opened with ``open_page``; it is signed in by a cookie, and every fault on its console fails the
test. No test waits for a time to pass: ``saved`` waits for what is stored, ``settled`` for a page that has
all it asked for, ``still`` and ``rest`` are the page's clock, and ``answers.held`` keeps an answer back
until the test has seen what stands on the screen without it.
"""

from __future__ import annotations

import os
import re
import shutil
import subprocess
import sys
import time
from collections.abc import Callable, Iterator
from functools import partial
from pathlib import Path

import pytest
from django.conf import settings
from django.test.utils import override_settings
from playwright.sync_api import Browser, BrowserContext, Locator, Page, expect
from procrastinate.contrib.django.models import ProcrastinateJob

from jungoptic.app.shots.models import Shot
from tests.database_url import database_url
from tests.events import heard_at
from tests.live import Live
from tests.sessions import session_of

PATIENCE_S = 20.0  # a loaded machine is slow, not wrong; what passes waits no longer than it must
PANEL = "[role=tabpanel]:not([hidden])"
DIALOG = "[role=dialog]"
RETRY_MS = 5000  # after this, what waits to be sent has been tried again
SETTLE_MS = 400  # a hand that has not moved for this long rests
expect.set_options(timeout=1000 * PATIENCE_S)
FORGET = """() => {
    localStorage.clear();
    sessionStorage.clear();
    return new Promise((gone) => (indexedDB.deleteDatabase("jungoptic").onsuccess = gone));
}"""
HERE = Path(__file__).resolve().parent
ROOT = HERE.parents[1]
AXE = ROOT / "web" / "node_modules" / "axe-core" / "axe.min.js"


@pytest.fixture(scope="session")
def browser_type_launch_args() -> dict:
    shell = shutil.which("chromium-headless-shell")
    assert shell, "Debian's chromium-headless-shell is needed: ./run test installs it"
    args = (
        "--no-sandbox --disable-gpu --disable-quic --no-first-run --disable-background-networking"
        " --disable-component-update --disable-sync --disable-dev-shm-usage"
    )
    return {"executable_path": shell, "args": args.split()}


# --- the server and its database


@pytest.fixture
def shot(stored: None) -> Shot:
    return Shot.objects.get(code="TM010")


# --- pages

OpenPage = Callable[..., Page]


class Windows:
    """Windows of one size are used again by the next test, emptied: their program is at hand already.

    One with a clock is not.
    """

    def __init__(self, browser: Browser, server: Live) -> None:
        self.browser, self.server = browser, server
        self.idle: dict[tuple[int, int, bool], list[BrowserContext]] = {}

    def take(self, width: int, height: int, phone: bool, clock: bool) -> BrowserContext:
        ready = self.idle.get((width, height, phone))
        if ready and not clock:
            return ready.pop()
        context = self.browser.new_context(
            viewport={"width": width, "height": height},
            has_touch=phone,
            base_url=self.server.url,
            service_workers="block",  # tests/browser/test_installed.py lets one in
        )
        context.add_init_script(path=HERE / "asked.js")
        if clock:
            context.clock.install()
        return context

    def give_back(self, page: Page, width: int, height: int, phone: bool, clock: bool) -> None:
        context = page.context
        if clock:
            context.close()
            return
        if page.is_closed():
            page = context.new_page()
            page.goto("/")
        page.evaluate(FORGET)
        for one in context.pages:
            one.close()
        context.clear_cookies()
        self.idle.setdefault((width, height, phone), []).append(context)


@pytest.fixture(scope="session", autouse=True)
def events(server: Live, django_db_blocker) -> Iterator[None]:
    """What happens is told to the pages, as where the application runs."""
    with (
        django_db_blocker.unblock(),
        heard_at(server.url) as running,
        override_settings(EVENTS_URL=running.url),
    ):
        yield


@pytest.fixture
def deaf(events: None) -> Iterator[None]:
    """Nothing is told to the pages that are opened now: what somebody else writes reaches them when they
    next ask.
    """
    with override_settings(EVENTS_URL=""):
        yield


@pytest.fixture(scope="session")
def windows(browser: Browser, server: Live) -> Windows:
    return Windows(browser, server)


@pytest.fixture
def open_page(windows: Windows, shot: Shot) -> Iterator[OpenPage]:
    """Open the application at an address, as somebody or (without a name) signed out; any fault on the
    page's console fails the test.

    ``ready`` is a text to wait for. With ``clock`` the page's time is the test's: see ``still``, ``rest``
    and ``later``.
    """
    faults: list[str] = []
    opened: list[tuple[Page, int, int, bool, bool]] = []

    def open_one(
        username: str,
        address: str = "/",
        ready: str = "",
        *,
        width: int = 1280,
        height: int = 800,
        phone: bool = False,
        clock: bool = False,
    ) -> Page:
        context = windows.take(width, height, phone, clock)
        if username:
            context.add_cookies(
                [
                    {
                        "name": settings.SESSION_COOKIE_NAME,
                        "value": session_of(username),
                        "url": windows.server.url,
                    }
                ]
            )
        page = context.new_page()
        opened.append((page, width, height, phone, clock))
        page.on("pageerror", lambda error: faults.append(str(error)))
        page.goto(f"/#{address}")
        page.get_by_role("link", name="Jungoptic").or_(
            page.get_by_role("button", name="Sign in")
        ).first.wait_for()
        if ready:
            page.get_by_text(ready).first.wait_for()
        return page

    yield open_one
    for one in opened:
        windows.give_back(*one)
    assert faults == []


@pytest.fixture
def open_phone(open_page: OpenPage) -> OpenPage:
    return partial(open_page, width=390, height=844, phone=True)


@pytest.fixture
def open_bench(open_page: OpenPage) -> OpenPage:
    """Open a shot on the Bench."""

    return lambda username, shot, **how: open_page(
        username, f"/shots/{shot.pk}/bench", "Will it show?", **how
    )


def at(page: Page, address: str, ready: str) -> Page:
    """Go to an address of the application, and on when this text stands there."""
    page.goto(f"/#{address}")
    page.get_by_text(ready).first.wait_for()
    return page


def choose(select: Locator, option: str) -> None:
    """Open a list and choose from it."""
    select.click()
    select.page.get_by_role("option", name=option, exact=True).click()


# --- waiting for what happens, never for a time


def saved(read: Callable[[], object], wanted: object, timeout_s: float = PATIENCE_S) -> None:
    """Wait until what is stored is what is wanted: the screen answers before the database has."""
    ends = time.monotonic() + timeout_s
    while (found := read()) != wanted and time.monotonic() < ends:
        time.sleep(0.02)
    assert found == wanted


def settled(page: Page) -> Page:
    """Wait until the page has all that it asked for, its pictures too, and nothing on it is moving."""
    page.wait_for_function(
        "window.askedForNothing", timeout=3000 * PATIENCE_S
    )  # two hundred shots are asked for in pieces
    return page


def box_of(thing: Locator) -> dict[str, float]:
    """Where something stands for a hand that takes hold of it, once nothing moves it any more: x, y, width
    and height, px.
    """
    settled(thing.page)
    box = thing.bounding_box()
    assert box
    return dict(box)


def still(page: Page) -> None:
    """From now on the clock of a page (opened with one) stands: a hand may take as long as the machine
    needs.
    """
    page.clock.pause_at(page.evaluate("Date.now() + 1"))


def rest(page: Page) -> None:
    """The hand rests, by a clock that stands: what it did is one step."""
    page.clock.run_for(SETTLE_MS)


def later(page: Page, ms: int) -> None:
    """So much later, by the clock of a page that was opened with one."""
    page.clock.fast_forward(ms)


def work_off_the_queue() -> None:
    """The real worker, on the test's database, as soon as something is queued and until nothing is."""
    saved(ProcrastinateJob.objects.filter(status="todo").exists, True)
    subprocess.run(
        [sys.executable, "-m", "jungoptic.app.manage", "procrastinate", "worker", "--one-shot"],
        env={
            **os.environ,
            "DATABASE_URL": database_url(),
            "DJANGO_SETTINGS_MODULE": "jungoptic.app.settings",
            "JUNGOPTIC_FILES": settings.STORAGES["default"]["OPTIONS"]["location"],
            "JUNGOPTIC_CARDS": "",
            "JUNGOPTIC_SIMULATED_CARDS": str(settings.SIMULATED_CARDS),
            "JUNGOPTIC_FOOTAGE": str(settings.FOOTAGE),
            "JUNGOPTIC_DROPPED": str(settings.DROPPED),
        },
        cwd=ROOT,
        check=True,
        capture_output=True,
        timeout=900,
    )


# --- what the pages are held against


def log_take(phone: Page, number: int) -> None:
    """Press *Take* on the log's page. What comes of it is the test's to look for."""
    phone.get_by_role("button", name=re.compile(f"^Take {number}\\b")).click()


def overflow(page: Page) -> int:
    """How many pixels the page, once it is settled, is wider than the window."""
    return int(
        settled(page).evaluate("document.documentElement.scrollWidth - document.documentElement.clientWidth")
    )


def axe(page: Page, within: str = "html") -> list[str]:
    """What axe finds wrong in a part of the page, as lines: everything in the theme *Stage*, then contrast
    alone in *Daylight*.
    """
    if not settled(page).evaluate("'axe' in window"):
        page.evaluate(
            AXE.read_text()
        )  # the page's policy lets no inline script in; evaluation is the tester's own
    every = _axe(
        page, within, {"type": "tag", "values": ["wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "wcag22aa"]}
    )
    page.evaluate("document.documentElement.dataset.theme = 'daylight'")
    contrast = _axe(settled(page), within, {"type": "rule", "values": ["color-contrast"]})
    page.evaluate("document.documentElement.dataset.theme = 'stage'")
    return every + [f"daylight: {one}" for one in contrast]


def _axe(page: Page, within: str, only: dict[str, object]) -> list[str]:
    how = {"runOnly": only, "resultTypes": ["violations"], "selectors": False, "preload": False}
    found = page.evaluate(
        "async ([within, how]) => { const {violations, passes} = await axe.run(within, how); return"
        " {violations, passed: passes.length}; }",
        [within, how],
    )
    assert found["passed"], f"axe looked at nothing in {within}"
    return [
        f"{one['id']}: {one['help']}: {node['html'][:160]}"
        for one in found["violations"]
        for node in one["nodes"]
    ]


@pytest.fixture
def wheel_shot(shot: Shot) -> Shot:
    return Shot.objects.get(code="TM020")
