"""Line-up in the real interface: the simulated camera knocked off, measured, brought back."""

import re

import pytest
from playwright.sync_api import Page, expect

from jungoptic.app.line_up.beside import match_of
from jungoptic.app.line_up.standing import standing_of
from jungoptic.app.shots.models import Layer, Shot
from jungoptic.app.stills.models import Still
from jungoptic.core.match import Off, off_view

from .conftest import OpenPage, axe, overflow, saved

pytestmark = pytest.mark.browser
TO_COME = 30_000
PAN_DEG = 0.5


def mill(shot: Shot) -> Layer:
    return Layer.objects.get(shot=shot, name="Mill 1:12")


def filming(page: Page) -> Page:
    page.get_by_label("Live picture", exact=True).click()
    page.get_by_role("option", name="simulated camera").click()
    expect(page.get_by_role("region", name="Simulated camera")).to_be_visible()
    return page


def across_px(page: Page) -> float:
    said = page.get_by_label("Measured").get_by_text("across").inner_text()
    found = re.match(r"([−+])([\d.]+) across", said)
    assert found, said
    return float(found[2]) * (-1 if found[1] == "−" else 1)


def test_the_simulated_camera_is_knocked_off_and_brought_back(open_page: OpenPage, shot: Shot):
    layer = mill(shot)
    page = filming(open_page("camera", f"/layers/{layer.pk}/line-up"))
    told = page.get_by_label("Measured")
    expect(told).to_contain_text("one lines up by eye")
    page.get_by_role("button", name="Hold this picture").click()
    saved(lambda: list(Still.objects.values_list("layer", "of")), [(layer.pk, "frame")])
    expect(told.get_by_text("In register")).to_be_visible(timeout=TO_COME)

    pan = page.get_by_role("slider", name="Pan")
    pan.focus()
    for _ in range(round(PAN_DEG / 0.01)):
        pan.press("ArrowRight")
    expect(told.get_by_text(re.compile(r"^Pan 0\.(49|50|51)° to the left"))).to_be_visible(timeout=TO_COME)
    page.wait_for_timeout(500)
    match = match_of(standing_of(shot.pk, layer.pk, (shot.revision, shot.production.revision))[0])
    middle = off_view(match, Off()).turn[2] * 1e4 + off_view(match, Off()).eye
    size = match.delivery.width_px, match.delivery.height_px
    was, gone = (off_view(match, off).seen(middle[None], *size)[0, 0] for off in (Off(), Off(pan=PAN_DEG)))
    assert across_px(page) == pytest.approx(gone - was, abs=0.3)

    for way in ("Difference", "Blink", "Edges", "Live", "Mix"):
        page.get_by_role("radio", name=way).click()
    page.get_by_label("ground").check()
    page.get_by_role("button", name="As planned").click()
    expect(told.get_by_text("In register")).to_be_visible(timeout=TO_COME)
    page.get_by_role("button", name="Undo").click()
    expect(told).to_contain_text("one lines up by eye")
    page.get_by_label("Live picture", exact=True).click()
    page.get_by_role("option", name="no live picture").click()
    assert axe(page) == []


def test_the_supervisor_sets_actors_marks_by_a_touch_and_by_key(open_page: OpenPage, shot: Shot):
    page = open_page("supervisor", f"/layers/{mill(shot).pk}/line-up")
    marks = page.get_by_role("region", name="Actor's marks")
    marks.get_by_role("button", name="Set a mark").click()
    picture = page.get_by_role("button", name="Where the actor stands")
    box = picture.bounding_box()
    assert box
    picture.click(position={"x": 0.25 * box["width"], "y": 0.9 * box["height"]})
    expect(marks).to_contain_text(re.compile(r"m ahead of the lens, .* to its left; in the set"))
    marks.get_by_role("button", name="Set a mark").click()
    picture.press("Enter")
    expect(marks).to_contain_text("straight ahead of the lens")
    delivered = shot.production
    [[first], [second]] = shot.lines.filter(kind="actor").order_by("pk").values_list("points", flat=True)
    assert first == pytest.approx(
        (0.25 * delivered.delivery_width_px, 0.9 * delivered.delivery_height_px), abs=4
    )
    assert second[0] == delivered.delivery_width_px / 2
    assert axe(page) == []
    page.get_by_role("button", name="Undo").click()
    expect(marks).not_to_contain_text("straight ahead")
    marks.get_by_role("button", name=re.compile("^Remove mark")).click()
    expect(marks).to_contain_text("None yet")
    marks.get_by_role("button", name="Set a mark").click()
    picture.press("Escape")
    expect(picture).to_have_count(0)
    assert shot.lines.filter(kind="actor", removed=False).count() == 0


def test_on_a_telephone_and_with_no_camera(open_phone: OpenPage, shot: Shot):
    phone = open_phone("camera", "/pocket")
    phone.add_init_script("window.DeviceOrientationEvent.requestPermission = async () => 'granted'")
    phone.goto(f"/#/layers/{mill(shot).pk}/line-up")
    phone.reload()
    assert axe(phone) == [] and overflow(phone) <= 0
    phone.get_by_label("Live picture", exact=True).click()
    phone.get_by_role("option", name="a camera of this device").click()
    expect(phone.get_by_role("alert")).to_contain_text("amera")
    phone.get_by_role("button", name="Use this telephone").click()
    phone.evaluate("""() => window.dispatchEvent(
        new DeviceOrientationEvent("deviceorientationabsolute",
            { alpha: 90, beta: 2.5, gamma: -1, absolute: true }))""")
    level = phone.get_by_role("region", name="Level")
    expect(level).to_contain_text("2.5°")
    expect(level).to_contain_text("1.0° to the right")
    expect(level).to_contain_text("270°")
    assert axe(phone) == [] and overflow(phone) <= 0
    filming(phone)
    expect(phone.get_by_role("img", name="Live picture")).to_be_visible()
