"""The board of days with two hundred jobs: how long it is answered, opens, and how it drags in Chromium."""

from __future__ import annotations

import asyncio
import shutil
import statistics
import time
from datetime import date, timedelta
from typing import Any

from playwright.sync_api import sync_playwright
from tools.bench_drag import Drag, drag_all
from tools.bench_load import two_hundred_shots
from tools.bench_people import served

SHOTS = 120  # so many of the demo's shots have two hundred set-ups
WEEKENDS = 40
RUNS = 7


def _planned() -> Any:
    """The production with its jobs booked on as many weekends as they need."""
    from jungoptic.app.days.fields import KINDS
    from jungoptic.app.days.jobs import Asked, keep_ordered, ordered
    from jungoptic.app.days.keeping import add_row
    from jungoptic.app.days.reading import DaysOf
    from jungoptic.app.people.models import Person
    from jungoptic.app.productions.models import Production
    from jungoptic.app.productions.writing import in_production

    two_hundred_shots(SHOTS)
    production, supervisor = Production.objects.get(), Person.objects.get(username="supervisor")
    with in_production(supervisor, production.pk) as write:
        for week in range(WEEKENDS):
            for day in (0, 1):
                new = date(2027, 11, 6) + timedelta(weeks=week, days=day)
                add_row(write, KINDS["day"], {"date": new.isoformat()})
    days = DaysOf(Production.objects.get())
    begun = time.perf_counter()
    plan = ordered(days, Asked(), effort=0.01)
    print(
        f"Days: {len(days.jobs)} jobs of the application onto {len(plan.bookings)} bookings of"
        f" {plan.costs.days} days in {time.perf_counter() - begun:.1f} s at a hundredth of the usual effort"
    )
    with in_production(supervisor, production.pk) as write:
        keep_ordered(write, days, Asked(), plan)
    return production


def board_numbers() -> None:
    """Opened and dragged, the server as the start command runs it."""
    from django.test import Client
    from tests.sessions import session_of

    from jungoptic.app.people.models import Person

    production, session = _planned(), session_of("supervisor")
    client = Client()
    client.force_login(Person.objects.get(username="supervisor"))
    address = f"/api/productions/{production.pk}/days"
    answered, jobs = [], 0
    for _ in range(RUNS):
        begun = time.perf_counter()
        board = client.get(address).json()
        answered.append(1000 * (time.perf_counter() - begun))
        jobs = sum(len(day["slots"]) for day in board["days"])
    slot = next(slot for day in board["days"] for slot in day["slots"] if slot["state"] == "next")
    job = next(job for job in board["jobs"] if job["key"] == slot["job"])
    row = {"set_up_id": job["set_up_id"], "block": job["block"], "date": board["days"][3]["date"]}
    tried = []
    for minute in range(RUNS):
        body = {"bookings": [{**row, "start_min": 600 + 5 * minute}]}
        begun = time.perf_counter()
        assert client.post(f"{address}-tried", body, content_type="application/json").status_code == 200
        tried.append(1000 * (time.perf_counter() - begun))
    with served() as port:
        url = f"http://127.0.0.1:{port}"
        with sync_playwright() as playwright:
            browser = playwright.chromium.launch(
                executable_path=shutil.which("chromium-headless-shell"),
                args=["--no-sandbox", "--disable-gpu"],
            )
            context = browser.new_context(viewport={"width": 1280, "height": 800}, base_url=url)
            context.add_cookies([{"name": "sessionid", "value": session, "url": url}])
            page = context.new_page()
            opens = []
            for _ in range(RUNS):
                page.goto("about:blank")
                begun = time.perf_counter()
                page.goto("/#/days")
                page.locator("[data-job]").nth(jobs - 1).wait_for()
                opens.append(1000 * (time.perf_counter() - begun))
            browser.close()
        answer, trial, stands = map(statistics.median, (answered, tried, opens))
        print(
            f"Days: the board of {jobs} jobs is answered in {answer:.0f} ms, a trial in {trial:.0f} ms, and"
            f" stands in Chromium after {stands:.0f} ms (medians)   aim: 1 s"
        )
        block = f'[data-job="{job["key"]}"]'
        wanted = Drag("a job of the days", "/days", lambda page: page.locator(block), across=False)
        asyncio.run(drag_all(port, session, [wanted]))
