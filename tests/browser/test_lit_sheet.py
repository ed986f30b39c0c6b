"""The lit sheet on the Log's telephone: photographed, read, marked by finger and keys."""

import re
from pathlib import Path

import cv2
import pytest
from playwright.sync_api import Page, expect

from jungoptic.app.rushes.models import SheetRead
from jungoptic.app.shots.models import Layer, Shot
from jungoptic.app.stills.models import Still
from jungoptic.app.takes.table import BenchTable, shot_to_look_at
from jungoptic.core.match import Match
from jungoptic.core.stage import FilmFaults, sheet_by_telephone

from .conftest import OpenPage, axe, box_of, overflow, saved, work_off_the_queue
from .test_main_path import offline

pytestmark = pytest.mark.browser


@pytest.fixture
def sheet(wheel_shot: Shot, tmp_path: Path) -> Path:
    """The sheet of Orla with one of its lamps half a stop weaker than planned."""
    table = BenchTable(shot_to_look_at(wheel_shot.pk), school="measured", units="metric", basis="planned")
    orla = next(layer for layer in table.layers if layer.name == "Orla")
    plan = table.match(orla)
    lit = Match(plan.hero, plan.layer, table.set_up_record(orla), plan.delivery)
    seen = sheet_by_telephone(lit, FilmFaults(lamps=(("soft panel 2", -0.5),)))
    path = tmp_path / "sheet.jpg"
    cv2.imwrite(str(path), seen[..., ::-1])
    return path


def log_of(open_phone: OpenPage, shot: Shot, who: str = "camera") -> Page:
    phone = open_phone(who, f"/shots/{shot.pk}/log", "Orla")
    phone.get_by_role("tab", name=re.compile("^Orla")).click()
    return phone


def photographed(phone: Page, path: Path) -> None:
    summary = phone.get_by_text("The lit sheet:")
    expect(summary).to_be_visible()
    button = phone.get_by_label("Photograph the sheet")
    if not button.is_visible():
        summary.click()
    button.set_input_files(path)


def test_one_photograph_says_which_lamp_gives_less_and_corners_are_moved(
    open_phone: OpenPage, wheel_shot: Shot, sheet: Path
):
    phone = log_of(open_phone, wheel_shot)
    photographed(phone, sheet)
    work_off_the_queue()
    expect(phone.get_by_text("Soft panel 2 gives 0.")).to_be_visible()
    expect(phone.get_by_role("row", name=re.compile("^Evenness of the backing"))).to_be_visible()
    expect(phone.get_by_text("Its corners were found by its colour")).to_be_visible()
    assert overflow(phone) == 0
    assert axe(phone, "main") == []

    found = SheetRead.objects.get(still__layer__name="Orla", still__layer__shot=wheel_shot).told["corners"]
    phone.get_by_role("button", name="Corners").click()
    corner = phone.get_by_role("button", name=re.compile("^Move the top left corner"))
    before = box_of(corner)
    corner.press("Shift+ArrowRight")
    saved(lambda: round(box_of(corner)["x"] - before["x"], 1), round(0.025 * 390, 1))
    low = phone.get_by_role("button", name=re.compile("^Move the bottom left corner"))
    place = box_of(low)
    phone.mouse.move(place["x"] + 22, place["y"] + 22)
    phone.mouse.down()
    phone.mouse.move(place["x"] + 42, place["y"] + 22)
    phone.mouse.up()
    assert axe(phone, "main") == []
    phone.get_by_role("button", name="Read it again").click()
    work_off_the_queue()
    expect(phone.get_by_text("Its corners are as they were marked.")).to_be_visible()
    marked = SheetRead.objects.get(still__layer__name="Orla", still__layer__shot=wheel_shot).corners
    assert marked[0] == pytest.approx([found[0][0] + 0.025, found[0][1]])
    assert marked[3] == pytest.approx([found[3][0] + 20 / 390, found[3][1]], abs=1 / 390)
    assert marked[1:3] == found[1:3]

    phone.get_by_role("button", name="Grey ball").click()
    phone.get_by_role("button", name=re.compile("^Move the rim of the ball")).press("Escape")
    expect(phone.get_by_role("button", name="Grey ball")).to_be_focused()
    phone.get_by_role("button", name="Grey ball").click()
    expect(phone.get_by_role("button", name=re.compile("^Move the rim of the ball"))).to_be_visible()
    phone.get_by_role("button", name="Leave it").click()
    expect(phone.get_by_role("button", name="Grey ball")).to_be_visible()


def test_a_photograph_of_a_sheet_waits_on_the_device_and_is_read_when_it_has_come(
    open_phone: OpenPage, wheel_shot: Shot, sheet: Path
):
    phone = log_of(open_phone, wheel_shot)
    expect(phone.get_by_text("The lit sheet:")).to_be_visible()
    phone.route("**/api/**", offline)
    photographed(phone, sheet)
    expect(phone.get_by_text("its photograph waits on this device to be sent.")).to_be_visible()
    assert not Still.objects.filter(of="sheet").exists()
    phone.unroute("**/api/**")
    saved(Still.objects.filter(of="sheet", layer__name="Orla", take=None).exists, True)
    work_off_the_queue()
    expect(phone.get_by_text("Soft panel 2 gives 0.")).to_be_visible()


def test_a_guest_sees_what_it_says_and_layers_without_a_sheet_have_none(
    open_phone: OpenPage, wheel_shot: Shot, sheet: Path
):
    crew = log_of(open_phone, wheel_shot)
    photographed(crew, sheet)
    work_off_the_queue()
    guest = log_of(open_phone, wheel_shot, "runner")
    expect(guest.get_by_text("Soft panel 2 gives 0.")).to_be_visible()
    expect(guest.get_by_label("Photograph it again")).to_have_count(0)
    guest.get_by_role("tab", name=re.compile("^Wheel")).click()
    expect(guest.get_by_text("The lit sheet:")).to_have_count(0)
    assert Layer.objects.get(shot=wheel_shot, name="Wheel 1:8").set_up is not None
