"""The real interface in headless Chromium against a live server with the demo production."""

from __future__ import annotations

import shutil
import time
from collections.abc import Callable
from pathlib import Path

import pytest
from django.db import OperationalError
from django.db.backends.postgresql.operations import DatabaseOperations
from playwright.sync_api import Browser, Page, expect

from jungoptic.app.demo.production import PASSWORD, make_demo
from jungoptic.app.shots.models import Change, Shot
from tests.in_flight import wait_until_quiet

PATIENCE_S = 20.0  # a loaded machine is slow, not wrong; what passes waits no longer than it must
expect.set_options(timeout=1000 * PATIENCE_S)
AXE = (Path(__file__).resolve().parents[2] / "web" / "node_modules" / "axe-core" / "axe.min.js").read_text


@pytest.fixture(scope="session")
def browser_type_launch_args() -> dict:
    chromium = shutil.which("chromium")
    assert chromium, "Debian's chromium is needed: ./run test installs it"
    args = "--no-sandbox --disable-gpu --disable-quic --no-first-run --disable-background-networking --disable-component-update --disable-sync --disable-dev-shm-usage"
    return {"executable_path": chromium, "args": args.split()}


@pytest.fixture(scope="session", autouse=True)
def _emptied_again_after_a_deadlock():
    """The database is emptied after each test; a request that came late may hold what that wants, and the server ends one of the two."""
    once = DatabaseOperations.execute_sql_flush

    def again(self: DatabaseOperations, sql_list: list[str]) -> None:
        for left in reversed(range(5)):
            try:
                return once(self, sql_list)
            except OperationalError:
                if not left:
                    raise
                time.sleep(0.5)

    with pytest.MonkeyPatch.context() as patch:
        patch.setattr(DatabaseOperations, "execute_sql_flush", again)
        yield


@pytest.fixture
def quiet_at_the_end(transactional_db: None):
    """Asked for before any page: once the pages are closed, nothing may still write while the database is emptied."""
    yield
    assert wait_until_quiet(PATIENCE_S), "the server was still answering when the test had ended"


@pytest.fixture
def shot(quiet_at_the_end: None) -> Shot:
    make_demo()
    Change.objects.all().delete()  # the tests count what they change themselves
    return Shot.objects.get(code="TM010")


SignIn = Callable[..., Page]


@pytest.fixture
def sign_in(browser: Browser, live_server, shot: Shot) -> SignIn:
    """Open the application as somebody; any fault on the page's console fails the test."""
    faults: list[str] = []
    pages: list[Page] = []

    def open_as(username: str, *, width: int = 1280, height: int = 800, phone: bool = False) -> Page:
        context = browser.new_context(viewport={"width": width, "height": height}, has_touch=phone, base_url=live_server.url)
        page = context.new_page()
        page.on("pageerror", lambda error: faults.append(str(error)))
        page.goto("/")
        page.get_by_label("Name").fill(username)
        page.get_by_label("Password").fill(PASSWORD)
        page.get_by_role("button", name="Sign in").click()
        page.get_by_role("link", name="Jungoptic").wait_for()
        pages.append(page)
        return page

    yield open_as
    for page in pages:
        page.context.close()
    assert faults == []


def saved(read: Callable[[], object], wanted: object, timeout_s: float = PATIENCE_S) -> None:
    """Wait until what is stored is what is wanted: the screen answers before the database has."""
    ends = time.monotonic() + timeout_s
    while (found := read()) != wanted and time.monotonic() < ends:
        time.sleep(0.05)
    assert found == wanted


def bench_of(page: Page, shot: Shot) -> Page:
    page.goto(f"/#/shots/{shot.pk}/bench")
    page.get_by_role("heading", name="Will it show?").wait_for()
    return page


def axe(page: Page) -> list[str]:
    """What axe finds wrong, as lines. The page's policy lets no inline script in; evaluation is the tester's own."""
    page.evaluate(AXE())
    found = page.evaluate("axe.run(document, {runOnly: ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa']})")
    return [f"{one['id']}: {one['help']}: {node['html'][:160]}" for one in found["violations"] for node in one["nodes"]]
