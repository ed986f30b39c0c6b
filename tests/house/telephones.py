"""Two telephones log the same layers over a bad line, are opened again and again, and the server and its
database die meanwhile: every take is there, once, in the order in which it was logged.
"""

from __future__ import annotations

import os
import re
import shutil
import time
from typing import Any

from playwright.sync_api import Browser, sync_playwright
from playwright.sync_api import Page as Window

from .bad_line import Line
from .started import Page, Run, killed

TAKES = int(os.environ.get("TELEPHONE_TAKES", "100"))  # by each of the two
OPENED_AGAIN_EVERY = 16
PATIENCE_MS = 120_000
LAUNCH = "--no-sandbox --disable-gpu --disable-quic --disable-background-networking --disable-dev-shm-usage"
# A reading waits for the writing before it: what was logged is on the disk.
KEPT = """async () => {
    const opened = await new Promise((done) => {
        const asked = indexedDB.open("jungoptic");
        asked.onsuccess = () => done(asked.result);
    });
    const asked = opened.transaction("outbox").objectStore("outbox").count();
    const count = await new Promise((done) => (asked.onsuccess = () => done(asked.result)));
    opened.close();
    return count;
}"""


class Telephone:
    """One that is signed in, has the program, and stands at a shot's log."""

    def __init__(self, browser: Browser, line: Line, name: str, username: str, shot: int) -> None:
        self.name, self.logged = name, 0
        context = browser.new_context(
            viewport={"width": 390, "height": 844}, has_touch=True, base_url=line.url
        )
        context.set_default_timeout(PATIENCE_MS)
        self.window: Window = context.new_page()
        self.window.goto("/")
        self.window.get_by_label("Name").fill(username)
        self.window.get_by_label("Password").fill("tidemill-demo")
        self.window.get_by_role("button", name="Sign in").click()
        self.window.get_by_role("button", name="Sign in").wait_for(state="hidden")
        self.window.evaluate("navigator.serviceWorker.ready.then(() => true)")
        self.window.goto(f"/#/shots/{shot}/log")
        self.take.wait_for()

    @property
    def take(self) -> Any:
        return self.window.get_by_role("button", name=re.compile(r"^Take \d"))

    def log(self) -> None:
        # the hero, then the layer behind it, turn by turn
        self.window.get_by_role("tab").nth(self.logged % 2).click()
        self.window.get_by_label("Note").fill(f"{self.name} {self.logged}")
        self.take.click()
        self.logged += 1

    def open_again(self) -> None:
        self.window.evaluate(KEPT)
        self.window.reload()
        self.take.wait_for()

    def send_the_rest(self) -> None:
        self.window.reload()
        self.take.wait_for()
        # however many wait: fewer and fewer, until none does
        left = self.window.evaluate(KEPT)
        while left:
            ends = time.monotonic() + PATIENCE_MS / 1000
            while (now := self.window.evaluate(KEPT)) >= left:
                assert time.monotonic() < ends, f"{self.name}: {left} takes are not sent"
                self.window.wait_for_timeout(500)
            left = now
        self.window.get_by_role("link", name=re.compile("takes? waits?")).wait_for(state="hidden")


def two_telephones_log_over_a_bad_line(run: Run) -> None:
    asking = Page(run.url)
    asking.sign_in()
    production = asking.until_answered("GET", "/api/productions")[0]["id"]
    shot = asking.until_answered("GET", f"/api/productions/{production}/wall")["shots"][0]["id"]
    layers = [one["id"] for one in asking.until_answered("GET", f"/api/shots/{shot}/log")["layers"]][:2]
    line = Line(run.url)
    shell = shutil.which("chromium-headless-shell")
    with sync_playwright() as driver:
        browser = driver.chromium.launch(executable_path=shell, args=LAUNCH.split())
        people = [("one", "supervisor"), ("other", "camera")]
        both = [Telephone(browser, line, name, username, shot) for name, username in people]
        line.bad = True
        for turn in range(TAKES):
            if turn == TAKES // 4:
                killed(run, "the web server")
            if turn == TAKES * 5 // 8:
                killed(run, "the database")
            for place, telephone in enumerate(both):
                if turn % OPENED_AGAIN_EVERY == 7 * (1 + place):
                    telephone.open_again()
                telephone.log()
        line.bad = False
        for telephone in both:
            telephone.send_the_rest()
        browser.close()
    assert all(line.did[kind] for kind in ("lost", "answer lost", "late", "twice")), line.did
    line.shutdown()
    line.server_close()
    everything_once_and_in_order(asking, layers, [name for name, _ in people])


def everything_once_and_in_order(asking: Page, layers: list[int], names: list[str]) -> None:
    notes: dict[str, list[int]] = {name: [] for name in names}
    for layer in layers:
        takes: list[dict[str, Any]] = []
        before = 2**31 - 1
        more = True
        while more:
            page = asking.until_answered("GET", f"/api/layers/{layer}/takes?before={before}")
            takes += page["takes"]
            before, more = page["takes"][-1]["number"], page["more"]
        takes.reverse()
        numbers = [one["number"] for one in takes]
        assert numbers == list(range(numbers[0], numbers[0] + len(numbers))), "no number is left out"
        for name in names:
            logged = [int(one["note"].split()[1]) for one in takes if one["note"].startswith(f"{name} ")]
            assert logged == sorted(logged), f"{name}: in the order in which they were logged"
            notes[name] += logged
    for name in names:
        assert sorted(notes[name]) == list(range(TAKES)), f"{name}: every take, once"
