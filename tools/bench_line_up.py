"""The line-up, measured: one picture filmed and one measured, and how many a second in Chromium."""

from __future__ import annotations

import shutil
import time
from collections.abc import Callable

from playwright.sync_api import Page, sync_playwright
from tools.bench_people import served

COUNTS_S = 10.0
PAN_DEG = 0.5
WIDTH_PX = 640

Timed = Callable[..., float]


def alone(timed: Timed) -> None:
    """Filmed and measured in this process, as a process beside a web server does it."""
    from jungoptic.app.line_up import beside
    from jungoptic.core.example import DELIVERY, HERO, MILL, MODEL
    from jungoptic.core.stage import USUAL_FAULTS

    setup = MODEL.but(distortion_pct=-2.0, vignetting_stops=0.6)
    standing = beside.Standing((1,), HERO, MILL, setup, DELIVERY, zooms=False)

    def film(pan: float, number: int) -> bytes:
        return beside.live_jpeg(standing, {"pan": pan}, number, WIDTH_PX, USUAL_FAULTS)

    held, live = beside.Held(1, film(0.0, 0), standing), film(PAN_DEG, 1)
    filmed = timed("line-up: one picture of the simulated camera", lambda: film(PAN_DEG, 2), 60)
    measured = timed(
        "line-up: one picture measured",
        lambda: beside.measured(standing, live, held, beside.Asked("metric", "measured", {})),
        60,
    )
    print(f"{'':4}(both on one core: {1000.0 / (filmed + measured):.0f} a second)")


def counted(page: Page) -> float:
    """How many pictures a second are measured while somebody looks."""
    answers: list[str] = []
    page.on("response", lambda answer: answers.append(answer.url))
    began = time.monotonic()
    page.wait_for_timeout(1000 * COUNTS_S)
    seconds = time.monotonic() - began
    return sum("/live?" in one for one in answers) / seconds


def line_up_numbers(timed: Timed) -> None:
    """The simulated camera before the mill, held against its own picture, the server as it is started."""
    from tests.sessions import session_of

    from jungoptic.app.shots.models import Layer

    alone(timed)
    mill = Layer.objects.get(shot__code="TM010", name="Mill 1:12").pk
    session = session_of("supervisor")
    with served() as port, sync_playwright() as playwright:
        browser = playwright.chromium.launch(
            executable_path=shutil.which("chromium-headless-shell"),
            args=["--no-sandbox", "--disable-gpu", "--disable-dev-shm-usage"],
        )
        url = f"http://127.0.0.1:{port}"
        context = browser.new_context(viewport={"width": 1280, "height": 800}, base_url=url)
        context.add_cookies([{"name": "sessionid", "value": session, "url": url}])
        page = context.new_page()
        page.goto(f"/#/layers/{mill}/line-up")
        page.get_by_label("Live picture", exact=True).click()
        page.get_by_role("option", name="simulated camera").click()
        page.get_by_role("button", name="Hold this picture").click()
        page.get_by_text("In register").wait_for()
        page.get_by_role("button", name="Knock it off").click()
        page.wait_for_timeout(2000)
        for way in ("Live", "Mix", "Difference"):
            page.get_by_role("radio", name=way, exact=True).click()
            rate = counted(page)
            print(f"Chromium: line-up, {way.lower():10} {rate:5.1f} pictures a second   aim: 10")
        browser.close()
