"""What fails by itself says so where it stands, and the rest goes on; and what a first view costs."""

import gzip
import json
import re
from collections.abc import Callable

import pytest
from playwright.sync_api import Response, Route, expect

from jungoptic.app.shots.models import Shot

from .conftest import PATIENCE_S, ROOT, OpenPage, at, settled

pytestmark = pytest.mark.browser

MOST_SCRIPT_BYTES = 200_000


def spoilt(spoil: Callable[[dict], None]) -> Callable[[Route], None]:
    """Answers that lack what the page counts on, as a server of another version might give them."""

    def answer(route: Route) -> None:
        answered = route.fetch()
        body = answered.json()
        spoil(body)
        route.fulfill(response=answered, body=json.dumps(body))

    return answer


def test_a_drawing_that_fails_leaves_the_rest_of_the_bench_alone(open_page: OpenPage, shot: Shot):
    page = open_page("supervisor", "/pocket")
    page.route("**/api/shots/*/bench?*", spoilt(lambda body: body["selected"]["standing"].pop("lamps")))
    at(page, f"/shots/{shot.pk}/bench", "The drawing of the set cannot be shown.")
    expect(page.get_by_role("tab", name="Will it show?")).to_be_visible()
    expect(page.get_by_role("slider", name="Stop", exact=True)).to_be_visible()
    page.unroute("**/api/shots/*/bench?*")
    page.reload()
    expect(page.get_by_role("slider", name="Camera", exact=True)).to_be_visible()


def test_a_page_that_fails_is_left_for_another(open_page: OpenPage, shot: Shot):
    page = open_page("supervisor", "/pocket")
    page.route("**/api/shots/*/bench?*", spoilt(lambda body: body.pop("layers")))
    at(page, f"/shots/{shot.pk}/bench", "This page cannot be shown.")
    page.get_by_role("link", name="Break down").click()
    expect(page.get_by_role("heading", name="The Tidemill")).to_be_visible()
    expect(page.get_by_text("cannot be shown")).to_have_count(0)


def test_the_first_view_of_the_bench_costs_little(open_page: OpenPage, shot: Shot):
    """Scripts that come before the Bench stands, as they are sent: compressed."""
    page = open_page("supervisor", "/pocket")
    asked: list[str] = []

    def note(response: Response) -> None:
        if response.url.endswith(".js"):
            asked.append(response.url.rsplit("/", 1)[1])

    page.add_init_script("window.requestIdleCallback = () => 0")  # the other pages come after it
    page.goto("about:blank")
    page.on("response", note)
    page.goto(f"/#/shots/{shot.pk}/bench")
    page.get_by_text("Will it show?").first.wait_for()
    settled(page)
    built = ROOT / "web" / "dist" / "assets"
    sizes = {name: len(gzip.compress((built / name).read_bytes())) for name in set(asked)}
    assert any(name.startswith("Bench-") for name in sizes), sizes
    assert not any(re.match("(Log|Pocket|BreakDown)-", name) for name in sizes), sizes
    assert sum(sizes.values()) < MOST_SCRIPT_BYTES, sizes


def test_the_other_pages_are_there_when_the_connection_is_not(open_page: OpenPage, shot: Shot):
    page = open_page("supervisor", f"/shots/{shot.pk}/bench", "Will it show?")
    at(page, f"/shots/{shot.pk}/log", "As planned")
    at(page, f"/shots/{shot.pk}/bench", "Will it show?")
    page.locator("html[data-pages=all]").wait_for(state="attached", timeout=3000 * PATIENCE_S)
    page.route("**/*", lambda route: route.abort("internetdisconnected"))
    page.goto(f"/#/shots/{shot.pk}/log")
    expect(page.get_by_text("Log on: takes are kept here")).to_be_visible()
    expect(page.get_by_text("As planned")).to_be_visible()
    page.goto("/#/pocket")
    expect(page.get_by_text("Unloaded")).to_have_count(0)
    expect(page.get_by_role("heading", level=1)).to_be_visible()
