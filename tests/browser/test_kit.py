"""The kit, as somebody enters their own: from a photograph, a zoom, a lamp that was measured, a sheet."""

from __future__ import annotations

import io
import re
from pathlib import Path

import pytest
from PIL import Image
from playwright.sync_api import expect

from jungoptic.app.kit.models import Camera, Gear, Lamp, Lens, RecordingMode
from jungoptic.app.productions.models import Production
from jungoptic.app.shots.models import Layer, PlacedBacking, SetUp, Shot

from .conftest import OpenPage, axe, choose, overflow, saved

pytestmark = pytest.mark.browser


def photograph(folder: Path) -> Path:
    """As a small camera writes it: 30 mm on 23.5 × 15.6 mm frames like 46 mm."""
    exif = Image.Exif()
    exif[0x010F], exif[0x0110] = "Invented", "Invented M1"
    exif[0x8769] = {0x920A: 30.0, 0xA405: 46, 0x829D: 4.0, 0x8827: 400}
    out = io.BytesIO()
    Image.new("RGB", (600, 400)).save(out, "JPEG", exif=exif)
    path = folder / "garden.jpg"
    path.write_bytes(out.getvalue())
    return path


def test_ones_own_kit_from_nothing(open_page: OpenPage, shot: Shot, tmp_path: Path):
    page = open_page("stranger", "/begin", "Begin it")
    page.get_by_label("Title").fill("The Salt Road")
    page.get_by_role("button", name="Begin it").click()
    expect(page.get_by_text("Nothing is in the kit yet")).to_be_visible()
    assert axe(page) == [] and overflow(page) <= 0
    film = Production.objects.get(title="The Salt Road")

    page.get_by_label("Photograph taken with the camera").set_input_files(photograph(tmp_path))
    region = page.get_by_role("region", name="From a photograph")
    # by hand: 43.267 · 30/46 = 28.22 mm across; 3:2 of it are 23.48 × 15.65 mm
    expect(region).to_contain_text("23.5 × 15.7 mm")
    region.get_by_role("button", name="Add the camera").click()
    expect(region.get_by_role("button", name="The camera is in the kit")).to_be_visible()
    saved(lambda: RecordingMode.objects.filter(camera__production=film).count(), 1)
    mode = RecordingMode.objects.get(camera__production=film)
    assert mode.gate_width_mm == pytest.approx(23.48, abs=0.01)
    assert mode.gate_height_mm == pytest.approx(23.48 * 9 / 16, abs=0.01)
    region.get_by_role("button", name="Add the lens").click()
    saved(lambda: Lens.objects.filter(production=film).count(), 1)
    region.get_by_role("button", name="Done").click()

    page.get_by_role("button", name="Add a lens", exact=True).click()
    form = page.get_by_role("form", name="Add a lens", exact=True)
    form.get_by_label("Name").fill("zoom")
    form.get_by_label("Focal length", exact=True).fill("18")
    form.get_by_label("Longest focal length").fill("16")
    form.get_by_label("Widest stop at the long end").fill("5.6")
    form.get_by_role("button", name="Add it").click()
    expect(form.get_by_role("alert")).to_contain_text("must be more than the short one")
    form.get_by_label("Longest focal length").fill("55")
    form.get_by_role("button", name="Add it").click()
    saved(lambda: Lens.objects.filter(production=film, name="zoom", longest_mm=55).count(), 1)

    page.get_by_role("button", name="Add a lamp").click()
    form = page.get_by_role("form", name="Add a lamp")
    form.get_by_label("Name").fill("work light")
    form.get_by_label("Measured", exact=True).fill("450")
    form.get_by_label("At", exact=True).fill("2")
    form.get_by_role("button", name="Add it").click()
    saved(lambda: Lamp.objects.filter(production=film, intensity_cd=1800).count(), 1)
    expect(page.get_by_label("Intensity, work light")).to_have_value("1800")

    page.get_by_role("button", name="Add a piece of gear").click()
    form = page.get_by_role("form", name="Add a piece of gear")
    form.get_by_label("Name").fill("green sheet")
    form.get_by_label("Colour").fill("#2f9e44")
    form.get_by_role("button", name="Add it").click()
    saved(lambda: Gear.objects.filter(production=film, colour="#2f9e44").count(), 1)
    page.keyboard.press("Control+z")
    saved(lambda: Gear.objects.filter(production=film, removed=False).count(), 0)


def test_a_lens_is_changed_where_it_stands_retired_and_brought_back(open_page: OpenPage, shot: Shot):
    page = open_page("supervisor", "/kit", "and what they record")
    assert axe(page) == []
    closest = page.get_by_label("Closest focus, 35 mm")
    closest.fill("far")
    closest.press("Tab")
    expect(page.get_by_role("alert")).to_contain_text("must be a number")
    closest.fill("0.28")
    closest.press("Tab")
    saved(lambda: Lens.objects.get(production=shot.production_id, name="35 mm").closest_focus_m, 0.28)
    page.get_by_role("button", name="retire 35 mm").click()
    expect(page.get_by_role("status")).to_contain_text(re.compile(r"\d+ set-ups stand on it"))
    page.get_by_role("button", name="Retire", exact=True).click()
    page.get_by_role("button", name="bring back 35 mm").click()
    saved(lambda: Lens.objects.get(production=shot.production_id, name="35 mm").removed, False)
    page.get_by_role("button", name="Put something on a lens").click()
    choose(page.get_by_label("Lens", exact=True), "50 mm")
    page.get_by_role("button", name="Make this lens").click()
    made = page.get_by_label("Focal length, 50 mm + 2 dioptres", exact=True)
    expect(made).to_have_value("45.45")
    expect(made).to_be_disabled()


def test_a_zoom_turns_freely_on_the_bench(open_page: OpenPage, shot: Shot):
    Lens.objects.create(
        production=shot.production,
        name="zoom",
        focal_length_mm=20,
        longest_mm=70,
        widest_f_number=2.8,
        smallest_f_number=22,
        closest_focus_m=0.3,
    )
    page = open_page("supervisor", f"/shots/{shot.pk}/bench", "Will it show?")
    ring = page.locator("[data-dial=focal_length_mm]")
    before = float(ring.get_attribute("aria-valuenow") or 0)
    ring.focus()
    page.keyboard.press("ArrowRight")
    expect(page.get_by_role("button", name="Undo")).to_be_enabled()
    now = float(ring.get_attribute("aria-valuenow") or 0)
    assert now == pytest.approx(1.01 * before, rel=2e-3) and now not in (18, 25, 35, 50, 85)


def test_the_kit_on_a_telephone_and_a_table(open_phone: OpenPage, shot: Shot, tmp_path: Path):
    phone = open_phone("supervisor", "/kit", "and what they record")
    assert overflow(phone) <= 0
    phone.get_by_role("button", name="more of 35 mm").click()
    expect(phone.get_by_label("Closest focus", exact=True)).to_be_visible()
    assert axe(phone) == []
    (tmp_path / "kit.csv").write_text("kind,name,stops\r\nfilter,ND 0.9,3\r\ncamera,Camera A,\r\n")
    phone.get_by_label("Kit as a table").set_input_files(tmp_path / "kit.csv")
    expect(phone.get_by_role("status")).to_contain_text("1 added, 1 changed.")
    assert Camera.objects.filter(production=shot.production_id, name="Camera A").count() == 1


def test_who_may_not_write_reads(open_page: OpenPage, shot: Shot):
    page = open_page("runner", "/kit", "and what they record")
    expect(page.get_by_label("Closest focus, 35 mm")).to_be_disabled()
    expect(page.get_by_role("button", name="Add a lens", exact=True)).to_have_count(0)


def test_a_sheet_of_the_kit_is_hung_and_a_frame_of_it_put_before_the_lamps(open_page: OpenPage, shot: Shot):
    kept = {"production_id": shot.production_id, "colour": "#2f9e44", "width_m": 4, "height_m": 3}
    Gear.objects.create(kind="backing", name="green sheet", **kept)
    Gear.objects.create(kind="diffusion", name="silk", stops=1.5, production_id=shot.production_id)
    layer = Layer.objects.get(shot=shot, name="Mill 1:12")
    page = open_page("supervisor", f"/shots/{shot.pk}/bench", "Will it show?")
    page.get_by_role("button", name=re.compile("^Mill 1:12")).first.click()
    page.get_by_role("tab", name="Light").click()
    choose(page.get_by_label("Sheet of the kit"), "green sheet")
    page.get_by_role("button", name="Add a backing").click()
    sheets = PlacedBacking.objects.filter(set_up=layer.set_up_id, removed=False)
    saved(lambda: list(sheets.values_list("name", "colour", "width_m")), [("green sheet", "#2f9e44", 4)])
    page.get_by_role("button", name="silk, 1.5 stops").click()
    saved(lambda: SetUp.objects.get(pk=layer.set_up_id).diffusion_stops, 1.5)
    expect(page.get_by_text("In the kit: no ball, no chart, no tape.")).to_be_visible()
