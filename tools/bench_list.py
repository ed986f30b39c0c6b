"""The wall of two hundred shots as a list in Chromium: until it stands, and until its places open."""

from __future__ import annotations

import shutil
import statistics
import time

from playwright.sync_api import Page, sync_playwright
from tools.bench_people import served

SHOTS = 200
RUNS = 7


def list_of(page: Page) -> tuple[float, float, float]:
    """Milliseconds until every line of the list is drawn, until the places of a line in its middle are open,
    and until they are shut.
    """
    drawn = "() => new Promise((done) => requestAnimationFrame(() => setTimeout(done, 0)))"
    page.get_by_role("radio", name="Wall").click()
    page.locator("[data-wall]").first.wait_for()
    begun = time.perf_counter()
    page.get_by_role("radio", name="List").click()
    page.locator("tbody tr").nth(SHOTS - 1).wait_for()
    page.evaluate(drawn)
    stands = time.perf_counter()
    place = page.locator("[data-cell=place_id]").nth(SHOTS // 2)
    place.scroll_into_view_if_needed()
    page.evaluate(drawn)
    asked = time.perf_counter()
    place.press("Enter")
    page.get_by_role("listbox").wait_for()
    page.evaluate(drawn)
    opened = time.perf_counter()
    page.keyboard.press("Escape")
    page.get_by_role("listbox").wait_for(state="detached")
    closed = time.perf_counter()
    return 1000 * (stands - begun), 1000 * (opened - asked), 1000 * (closed - opened)


def list_numbers() -> None:
    from tests.sessions import session_of

    from jungoptic.app.productions.models import Production
    from jungoptic.app.shots.models import Shot

    production = Production.objects.get()
    missing = SHOTS - Shot.objects.filter(production=production, removed=False).count()
    Shot.objects.bulk_create(
        Shot(production=production, code=f"Z{n:03d}", title=f"Shot {n}", length_frames=48, position=1000 + n)
        for n in range(missing)
    )
    with served() as port, sync_playwright() as playwright:
        url = f"http://127.0.0.1:{port}"
        browser = playwright.chromium.launch(
            executable_path=shutil.which("chromium-headless-shell"), args=["--no-sandbox", "--disable-gpu"]
        )
        context = browser.new_context(viewport={"width": 1280, "height": 800}, base_url=url)
        context.add_cookies([{"name": "sessionid", "value": session_of("supervisor"), "url": url}])
        page = context.new_page()
        page.goto("/")
        page.locator("[data-wall]").nth(SHOTS - 1).wait_for()
        times = [list_of(page) for _ in range(RUNS)]
        nodes = page.evaluate("() => document.querySelectorAll('*').length")
        browser.close()
    stands, opens, closes = (statistics.median(column) for column in zip(*times, strict=True))
    print(
        f"Chromium: the list of {SHOTS} shots stands in {stands:.0f} ms ({nodes} elements), the places of a"
        f" line are open in {opens:.0f} ms and shut in {closes:.0f} ms (medians)   aim: 1 s, 100 ms"
    )
