"""A hand in the real interface, measured: how many pictures a second Chromium shows while it drags."""

from __future__ import annotations

import asyncio
import re
import shutil
import statistics
import time
from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

from playwright.async_api import Browser, Locator, Page, async_playwright
from tools.bench_people import served

DRAG_S = 4.0
REACH_PX = 60
MOVES_A_SECOND = 60  # of a mouse

# Every picture that the page draws: when, and whether anything in the drawing of the dragged thing changed.
RECORD = """(held) => {
    const drawn = { times: [], moves: 0, on: true };
    let changed = false;
    const changes = new MutationObserver(() => (changed = true));
    const within = held.closest("svg") ?? held.parentElement;
    changes.observe(within, { attributes: true, childList: true, subtree: true });
    const look = (now) => {
        if (!drawn.on) return changes.disconnect();
        drawn.times.push(now);
        if (changed) drawn.moves++;
        changed = false;
        requestAnimationFrame(look);
    };
    requestAnimationFrame(look);
    window.drawn = drawn;
}"""


@dataclass(frozen=True)
class Drag:
    """Something that can be dragged: on which page, how it is found, where a hand takes it (px from its left
    and its top; the middle, where nothing is said) and which way.
    """

    what: str
    path: str
    find: Callable[[Page], Locator]
    grip: tuple[float | None, float | None] = (None, None)
    across: bool = True
    first: Callable[[Page], Locator] | None = None


def drags() -> list[Drag]:
    from jungoptic.app.shots.models import Shot

    mill, yard = (Shot.objects.get(code=code).pk for code in ("TM010", "TM110"))
    bench = f"/shots/{mill}/bench"
    return [
        Drag("a barrel of the Bench", bench, lambda page: page.locator("[data-dial=focus_distance_m]")),
        Drag(
            "the camera in the set",
            bench,
            lambda page: page.get_by_role("slider", name="Camera"),
            grip=(20, 20),
            across=False,
        ),
        Drag(
            "a point of the board",
            f"/shots/{yard}/plan",
            lambda page: page.get_by_role("slider", name=re.compile("^Matte line.*point 1")),
            across=False,
            first=lambda page: page.get_by_role("button", name=re.compile("^1 Matte line")),
        ),
        Drag(
            "a camera of a set",
            "/sets",
            lambda page: page.get_by_role("button", name=re.compile("camera heading")).first,
            grip=(None, 12),
        ),
    ]


async def dragged(page: Page, held: Locator, one: Drag) -> dict[str, Any]:
    """To and fro, as a hand does, whether the page keeps up or not; what was drawn meanwhile."""
    box = await held.bounding_box()
    assert box
    right, down = one.grip
    x = box["x"] + (box["width"] / 2 if right is None else right)
    y = box["y"] + (box["height"] / 2 if down is None else down)
    wire = await page.context.new_cdp_session(page)
    await page.mouse.move(x, y)
    await page.mouse.down()
    await held.evaluate(RECORD)
    began, off, way, sent = time.monotonic(), 0, 4, []
    while time.monotonic() - began < DRAG_S:
        off += way
        if abs(off) >= REACH_PX:
            way = -way
        at = {"x": x + (off if one.across else 0), "y": y + (0 if one.across else off)}
        move = {"type": "mouseMoved", "button": "left", "buttons": 1, **at}
        sent.append(asyncio.ensure_future(wire.send("Input.dispatchMouseEvent", move)))
        await asyncio.sleep(1 / MOVES_A_SECOND)
    drawn: dict[str, Any] = await page.evaluate("() => { window.drawn.on = false; return window.drawn; }")
    await asyncio.gather(*sent)
    await page.keyboard.press("Escape")
    await page.mouse.up()
    return drawn


async def measure(browser: Browser, url: str, session: str, one: Drag) -> None:
    context = await browser.new_context(viewport={"width": 1280, "height": 800}, base_url=url)
    await context.add_cookies([{"name": "sessionid", "value": session, "url": url}])
    page = await context.new_page()
    answers: list[str] = []
    page.on("response", lambda response: answers.append(response.url))
    await page.goto(f"/#{one.path}")
    held = one.find(page)
    for _ in range(2):  # the first time everything comes to hand
        await page.wait_for_load_state("networkidle")
        if one.first and not await held.count():
            await one.first(page).click()
        await held.wait_for()
        answers.clear()
        drawn = await dragged(page, held, one)
    await context.close()
    gaps = [after - before for before, after in zip(drawn["times"], drawn["times"][1:], strict=False)]
    seconds = sum(gaps) / 1000
    trials = sum(url.endswith(("/trial", "/days-tried")) for url in answers)
    print(
        f"Chromium: dragging {one.what:22} {len(gaps) / seconds:3.0f} pictures a second,"
        f" {drawn['moves'] / seconds:3.0f} of them new, {trials / seconds:4.1f} answers; 99 % within"
        f" {statistics.quantiles(gaps, n=100)[-1]:3.0f} ms   aim: 50 pictures a second"
    )


async def drag_all(port: int, session: str, wanted: list[Drag]) -> None:
    async with async_playwright() as playwright:
        browser = await playwright.chromium.launch(
            executable_path=shutil.which("chromium-headless-shell"),
            args=["--no-sandbox", "--disable-gpu", "--disable-dev-shm-usage"],
        )
        for one in wanted:
            await measure(browser, f"http://127.0.0.1:{port}", session, one)
        await browser.close()


def drag_numbers() -> None:
    """Barrel, set, board and plan under a hand, the server as the start command runs it."""
    from tests.sessions import session_of

    wanted, session = drags(), session_of("supervisor")
    with served() as port:
        asyncio.run(drag_all(port, session, wanted))
