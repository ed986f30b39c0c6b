"""The page on a home screen, and no server: card, cautions, log, verdict, the day and Pocket work, and what
was logged arrives when the server is back.
"""

import re
from collections.abc import Iterator
from contextlib import ExitStack

import pytest
from django.conf import settings
from playwright.sync_api import Browser, BrowserContext, Page, expect

from jungoptic.app.days.models import ShootingDay
from jungoptic.app.shots.models import Layer, Shot
from jungoptic.app.stills.models import Still
from jungoptic.app.takes.models import Take, TakeVerdict
from jungoptic.core.calculation import find
from tests.app.written import Demo
from tests.processes import free_port, kill, web
from tests.sessions import session_of

from .conftest import HERE, axe, overflow, saved

pytestmark = pytest.mark.browser
LEAST_PX = 44


class Device:
    """A telephone, and the server that it knows, which comes and goes."""

    def __init__(self, context: BrowserContext, port: int, running: ExitStack) -> None:
        self.context, self.port, self.running = context, port, running
        self.server = running.enter_context(web(port=port))

    def loses_the_server(self) -> None:
        kill(self.server.process)

    def finds_the_server(self) -> None:
        self.server = self.running.enter_context(web(port=self.port))

    def opens(self, address: str) -> Page:
        """Anew, as after the telephone was switched off."""
        for page in self.context.pages:
            page.close()
        page = self.context.new_page()
        page.goto(f"/#{address}")
        return page


@pytest.fixture
def device(browser: Browser, shot: Shot) -> Iterator[Device]:
    port = free_port()
    context = browser.new_context(
        viewport={"width": 390, "height": 844}, has_touch=True, base_url=f"http://127.0.0.1:{port}"
    )
    context.add_init_script(path=HERE / "asked.js")
    cookie = {"name": settings.SESSION_COOKIE_NAME, "value": session_of("camera")}
    context.add_cookies([{**cookie, "url": f"http://127.0.0.1:{port}"}])
    with ExitStack() as running:
        yield Device(context, port, running)
        context.close()


def taken_along(device: Device, shot: Shot) -> Page:
    """The program is here, and with it the open shot, the next day and the calculators."""
    page = device.opens(f"/shots/{shot.pk}/log")
    expect(page.get_by_text("As planned.")).to_be_visible()
    page.goto("/#/kept")
    expect(page.get_by_text("here", exact=True)).to_be_visible()
    # a telephone takes it along by itself
    expect(page.get_by_text("49", exact=True)).to_be_visible(timeout=120_000)
    expect(page.get_by_role("button", name="Take the next day along")).to_be_visible()
    return page


def with_the_server_gone(page: Page) -> Page:
    expect(page.get_by_label("Connection").get_by_text("No connection")).to_be_visible()
    return page


def test_at_the_camera_without_a_server(device: Device, shot: Shot):
    taken_along(device, shot)
    device.loses_the_server()
    phone = with_the_server_gone(device.opens(f"/shots/{shot.pk}/log"))

    cautions = phone.get_by_role("region", name="Cautions")
    cautions.get_by_role("button").click()
    expect(cautions.get_by_text("Safer:").first).to_be_visible()
    cautions.get_by_role("button").click()
    phone.get_by_role("tab", name=re.compile("Mill")).click()
    phone.get_by_role("button", name="Stop", exact=False).first.click()
    phone.get_by_role("button", name="5.6", exact=True).click()
    told = phone.get_by_label("Foretold")
    expect(told).to_contain_text("shows")
    assert axe(phone) == [] and overflow(phone) <= 0
    for target in (*phone.get_by_role("main").get_by_role("button").all(), *phone.get_by_role("tab").all()):
        box = target.bounding_box()
        assert box and box["height"] >= LEAST_PX, target.inner_text()
    phone.get_by_role("button", name="Take 1").click()
    waiting = phone.get_by_role("alert").filter(has_text="one take is waiting to be sent")
    expect(waiting).to_contain_text("Foretold: shows. Exact for what was set.")
    photograph = {"name": "level.png", "mimeType": "image/png", "buffer": Demo().png().read()}
    phone.get_by_label("Photograph onto TM010 · Mill 1:12 · take 1").set_input_files(photograph)
    expect(phone.get_by_role("button", name="Photograph that waits")).to_be_visible()
    assert axe(phone) == [] and overflow(phone) <= 0

    phone = with_the_server_gone(device.opens("/waiting"))
    expect(phone.get_by_text("TM010 · Mill 1:12 · take 1")).to_be_visible()
    expect(phone.get_by_text("One photograph waits")).to_be_visible()
    assert axe(phone) == [] and overflow(phone) <= 0

    assert not Take.objects.exists()
    device.finds_the_server()
    expect(phone.get_by_text("Nothing waits")).to_be_visible()
    saved(Take.objects.count, 1)
    take = Take.objects.get()
    saved(lambda: list(Still.objects.values_list("take_id", "of")), [(take.pk, "set")])
    assert (take.number, round(take.f_number, 1)) == (1, 5.7)
    assert "shows" in TakeVerdict.objects.filter(judging__take=take).values_list("verdict", flat=True)


def test_what_was_foretold_without_a_server_is_what_the_take_is_given(device: Device, shot: Shot):
    taken_along(device, shot)
    device.loses_the_server()
    phone = with_the_server_gone(device.opens(f"/shots/{shot.pk}/log"))
    phone.get_by_role("button", name="Stop", exact=False).first.click()
    phone.get_by_role("button", name="11", exact=True).click()
    foretold = phone.get_by_label("Foretold").inner_text().split()[0]
    phone.get_by_role("button", name="Take 1").click()
    device.finds_the_server()
    expect(phone.get_by_role("heading", name=f"Take 1: {foretold}")).to_be_visible(timeout=30_000)


# More than the ring was worked out for, before the device has looked up the answer to the first: its last
# point, and not that next to the first.
SIX_AT_ONCE = """async (barrel) => { for (let i = 0; i < 6; i++) {
    barrel.dispatchEvent(
        new KeyboardEvent("keydown", { key: "ArrowRight", shiftKey: true, bubbles: true, cancelable: true }));
    for (let turn = 0; turn < 20; turn++) await null; // the page follows; what it looks up takes longer
} }"""


def test_the_day_and_pocket_without_a_server(device: Device, shot: Shot):
    taken_along(device, shot)
    device.loses_the_server()
    phone = with_the_server_gone(device.opens("/today"))
    first = ShootingDay.objects.order_by("date").first()
    expect(phone).to_have_url(re.compile(f"/days/{first.date}$"))
    expect(phone.get_by_text("Who is there")).to_be_visible()
    assert axe(phone) == [] and overflow(phone) <= 0

    phone = with_the_server_gone(device.opens("/pocket/depth_of_field"))
    answer = phone.get_by_role("region", name="Answer")
    expect(answer).to_contain_text("exact there")
    barrel = phone.get_by_role("slider", name="Stop")
    before = float(barrel.get_attribute("aria-valuenow") or 0)
    barrel.evaluate(SIX_AT_ONCE)

    def stands() -> dict[str, float]:
        return {
            name: float(phone.get_by_role("slider", name=label).get_attribute("aria-valuenow") or 0)
            for name, label in (
                ("focal_length_mm", "Focal length"),
                ("f_number", "Stop"),
                ("circle_of_confusion_mm", "Circle of confusion"),
                ("focus_distance_m", "Focus distance"),
            )
        }

    def answers_for_what_stands() -> bool:
        near = find("depth_of_field").run(stands())["near_m"]
        return stands()["f_number"] > 2.5 * before and f"{near:.4g}" in answer.inner_text()

    saved(answers_for_what_stands, True)
    assert axe(phone) == [] and overflow(phone) <= 0


def test_a_page_that_was_not_taken_along_says_so_and_where_to_go(device: Device, shot: Shot):
    taken_along(device, shot)
    device.loses_the_server()
    other = Layer.objects.exclude(shot=shot).exclude(set_up=None).first()
    phone = with_the_server_gone(device.opens(f"/shots/{other.shot_id}/log"))
    expect(phone.get_by_text("this shot was not opened here before")).to_be_visible()
    phone.get_by_role("link", name="on this device").click()
    expect(phone.get_by_role("heading", name="What this device has")).to_be_visible()
    expect(phone.get_by_role("button", name="Take every shot along")).to_be_disabled()
