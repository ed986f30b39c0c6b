"""The slate on the telephone: a code that OpenCV reads, one take behind it, and a clap."""

import re

import cv2
import numpy as np
import pytest
from playwright.sync_api import Page, expect

from jungoptic.app.shots.models import Shot
from jungoptic.app.takes.models import Take
from jungoptic.core.plan import slated
from jungoptic.core.recordings import read_codes

from .conftest import OpenPage, axe, overflow, saved

pytestmark = pytest.mark.browser


def opened(phone: Page) -> None:
    phone.get_by_role("tab", name=re.compile("Mill")).click()
    phone.get_by_role("button", name="Slate").click()
    expect(phone.get_by_role("dialog", name="Slate")).to_be_visible()


def read_off(phone: Page):
    picture = cv2.imdecode(np.frombuffer(phone.screenshot(), np.uint8), cv2.IMREAD_COLOR)
    (text,) = read_codes(picture)
    return slated(text)


def test_the_take_that_is_logged_is_the_one_that_the_camera_saw(open_phone: OpenPage, shot: Shot):
    phone = open_phone("camera", f"/shots/{shot.pk}/log", "As planned")
    opened(phone)
    slate = phone.get_by_role("dialog", name="Slate")
    expect(slate.get_by_text(re.compile("^Read from"))).to_be_visible()
    assert axe(phone) == [] and overflow(phone) <= 0
    mill = shot.layers.get(name="Mill 1:12")
    said = read_off(phone)
    assert (said.shot, said.layer, said.take) == ("TM010", mill.pk, 1)
    # put away, and the telephone switched off: it is still the take that the camera saw
    phone.keyboard.press("Escape")
    expect(phone.get_by_text("The slate was shown for take 1")).to_be_visible()
    phone.reload()
    opened(phone)
    assert read_off(phone) == said
    slate.get_by_role("button", name="Take 1").click()
    expect(phone.get_by_role("heading", name=re.compile("^Take 1"))).to_be_visible()
    saved(lambda: list(Take.objects.values_list("slate_code", "slate_number")), [(said.code, 1)])
    opened(phone)
    after = read_off(phone)
    assert after.take == 2 and after.code != said.code


def test_the_steps_show_the_slate_and_what_is_marked_goes_with_the_take(open_phone: OpenPage, shot: Shot):
    phone = open_phone("camera", f"/shots/{shot.pk}/log", "As planned")
    phone.get_by_role("tab", name=re.compile("Mill")).click()
    phone.get_by_role("button", name="Steps").click()
    steps = phone.get_by_role("dialog", name=re.compile("^Steps of TM010"))
    expect(steps.get_by_text("Roll the camera")).to_be_visible()
    expect(steps.get_by_role("button", name="Mark")).to_be_disabled()
    assert axe(phone) == [] and overflow(phone) <= 0
    steps.get_by_role("button", name="Next").click()
    expect(steps.get_by_role("timer", name="Seconds left")).to_be_visible()
    said = read_off(phone)
    steps.get_by_role("button", name="Mark").click()
    expect(steps.get_by_text("rolling, 1 marked")).to_be_visible()
    steps.get_by_role("button", name="Stop").click()
    expect(steps.get_by_text(re.compile("^rolled"))).to_be_visible()
    steps.get_by_role("button", name="Take 1").click()
    expect(phone.get_by_text("by its steps, marked at")).to_be_visible()
    saved(lambda: list(Take.objects.values_list("slate_code", flat=True)), [said.code])
    (mark,) = Take.objects.get().marks
    assert mark["step"] == "Slate" and 0 <= mark["at_s"] < 3


def test_a_measured_code_is_told_a_longer_reach(open_phone: OpenPage, shot: Shot):
    phone = open_phone("camera", f"/shots/{shot.pk}/log", "As planned")
    opened(phone)
    slate = phone.get_by_role("dialog", name="Slate")
    before = slate.get_by_text(re.compile("^Read")).inner_text()
    slate.get_by_role("button", name="Measure it").click()
    slate.get_by_label("From the left edge").fill("120")
    phone.keyboard.press("Enter")
    expect(slate.get_by_text("The code is 120 mm wide here")).to_be_visible()
    assert slate.get_by_text(re.compile("^Read")).inner_text() != before
    phone.reload()
    opened(phone)
    expect(slate.get_by_text("The code is 120 mm wide here")).to_be_visible()


def test_the_clap_is_seen(open_phone: OpenPage, shot: Shot):
    phone = open_phone("camera", f"/shots/{shot.pk}/log", "As planned")
    opened(phone)
    phone.evaluate("""() => {
        window.flashes = 0;
        const screens = () => document.querySelectorAll("[role=dialog] .bg-black.absolute");
        const dark = () => (window.flashes += screens().length);
        new MutationObserver(dark).observe(document.body, { childList: true, subtree: true });
    }""")
    phone.get_by_role("button", name="Clap").click()
    saved(lambda: phone.evaluate("window.flashes") > 0, True)
