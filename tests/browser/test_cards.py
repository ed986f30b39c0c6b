"""A camera's card at the desk: read, decided, filed, taken back, copied; on a telephone too."""

import re
from datetime import timedelta
from pathlib import Path

import pytest
from django.utils import timezone
from playwright.sync_api import expect

from jungoptic.app.footage.models import Recording
from jungoptic.app.people.models import Person
from jungoptic.app.shots.models import Shot
from jungoptic.app.shots.writing import in_shot
from jungoptic.app.stills.models import Still
from jungoptic.app.takes.log import Said, record_take
from jungoptic.app.takes.models import Take
from tests.clips import clip, slate_text

from .conftest import OpenPage, at, axe, choose, overflow, saved, settled, work_off_the_queue

pytestmark = pytest.mark.browser


@pytest.fixture
def card(settings, tmp_path: Path, shot: Shot) -> Path:
    """A card with a file that is matched, one that is likely, one never logged, one damaged."""
    settings.SIMULATED_CARDS = tmp_path / "cards"
    settings.CARDS = [settings.SIMULATED_CARDS]
    settings.FOOTAGE = tmp_path / "footage"
    folder = tmp_path / "cards" / "A001"
    mill = shot.layers.get(name="Mill 1:12")
    now = timezone.now()
    for minutes, code in ((0, "AAAAAAAA"), (10, "")):
        with in_shot(Person.objects.get(username="camera"), shot.pk) as write:
            record_take(
                write, mill.pk, Said(slate_code=code, recorded_at=now + timedelta(minutes=minutes, seconds=3))
            )
    mode = Take.objects.filter(layer=mill)[0].mode
    mode.pk, mode.name, mode.recorded_width_px, mode.recorded_height_px = None, "Small", 320, 240
    mode.save()
    Take.objects.filter(layer=mill).update(mode=mode)
    clip(folder / "C0001.MP4", now, slate_text("AAAAAAAA", "TM010", mill.pk, 1), FNumber=2.8)
    clip(folder / "C0002.MP4", now + timedelta(minutes=10), seed=2)
    clip(folder / "C0003.MP4", now + timedelta(hours=2), slate_text("BBBBBBBB", "TM010", mill.pk, 3), seed=3)
    (folder / "C0004.MP4").write_bytes(b"")
    return folder


def test_a_card_is_read_filed_taken_back_and_copied(card: Path, open_page: OpenPage, shot: Shot):
    page = open_page("camera", "/cards", "machine now")
    page.get_by_role("button", name="Read A001").click()
    work_off_the_queue()
    expect(page.get_by_role("heading", name="A001")).to_be_visible()
    rows = page.get_by_role("list", name="Files").locator("> li")
    expect(rows).to_have_count(2)  # to decide
    assert axe(page) == [] and overflow(page) <= 0
    likely = rows.filter(has_text="C0002")
    expect(likely).to_contain_text("Likely")
    likely.get_by_role("button", name="File it there").click()
    filed = {"C0001.MP4": 1, "C0002.MP4": 2}
    expect(page.get_by_text("C0002.MP4 is filed to TM010 · Mill 1:12 · take 2.")).to_be_visible()
    page.get_by_role("button", name="Take it back").click()
    saved(numbers, {"C0001.MP4": 1})
    expect(page.get_by_role("button", name="Take it back")).to_have_count(0)
    likely.get_by_role("button", name="another take").click()
    choose(likely.get_by_label("The take of C0002.MP4"), "TM010 · Mill 1:12 · take 2")
    saved(numbers, filed)
    rows.filter(has_text="C0003").get_by_role("button", name="Log the take on its slate").click()
    saved(numbers, filed | {"C0003.MP4": 3})
    expect(
        page.get_by_text("Cannot be used.")
    ).to_be_visible()  # nothing is left to decide but what is damaged
    page.get_by_role("button", name=re.compile("^Copy ")).click()
    work_off_the_queue()
    expect(page.get_by_text("3 files copied and read back.")).to_be_visible()
    assert sorted(one.name for one in (card.parents[1] / "footage").rglob("*.mp4")) == [
        f"TM010_Mill-1-12_T0{number}.mp4" for number in (1, 2, 3)
    ]
    at(page, f"/shots/{shot.pk}/log", "As planned")
    page.get_by_role("tab", name=re.compile("^Mill")).click()
    expect(page.get_by_text("File C0001.MP4 of A001, copied")).to_be_visible()
    expect(page.get_by_text("It says stop f/2.8")).to_be_visible()
    mill = shot.layers.get(name="Mill 1:12")
    at(page, f"/layers/{mill.pk}/line-up", "Actor's marks").get_by_text("A frame of a recording").click()
    choose(page.get_by_label("Recording", exact=True), "take 2, C0002.MP4")
    page.get_by_role("slider", name="Second of the recording").press("End")
    expect(page.get_by_alt_text("C0002.MP4 at 2.0 s")).to_be_visible()
    page.get_by_role("button", name="Hold this frame").click()
    saved(lambda: list(Still.objects.values_list("take__number", "note")), [(2, "take 2 at 2.0 s")])


def test_files_that_are_dropped_come_in_pieces_and_are_read(
    card: Path, open_page: OpenPage, settings, tmp_path
):
    settings.DROPPED = tmp_path / "dropped"
    settings.CARDS = [settings.SIMULATED_CARDS, settings.DROPPED]
    page = open_page("camera", "/cards", "The card is in this machine")
    (tmp_path / "notes.txt").write_text("no recording")
    page.get_by_label("Choose files").set_input_files([card / "C0001.MP4", tmp_path / "notes.txt"])
    expect(page.get_by_text("“notes.txt” is not called as a recording is")).to_be_visible()
    work_off_the_queue()
    expect(page.get_by_role("heading", name="Dropped")).to_be_visible()
    saved(numbers, {"C0001.MP4": 1})
    (came,) = settings.DROPPED.rglob("*.MP4")
    assert came.read_bytes() == (card / "C0001.MP4").read_bytes()


def numbers() -> dict[str, int]:
    rows = Recording.objects.filter(take__isnull=False).select_related("take")
    return {row.name: row.take.number for row in rows}


def test_a_folder_that_is_no_card_is_refused_at_its_field_and_a_telephone_has_room(
    card: Path, open_page: OpenPage
):
    page = open_page("camera", "/cards", "machine now", width=390, height=844, phone=True)
    field = page.get_by_label("Another folder of that machine")
    field.fill("/etc")
    page.get_by_role("button", name="Read it").click()
    expect(page.get_by_text("Only what lies in")).to_be_visible()
    assert field.input_value() == "/etc" and axe(page) == [] and overflow(page) <= 0
    page.get_by_role("button", name="Read A001").click()
    work_off_the_queue()
    expect(page.get_by_role("heading", name="A001")).to_be_visible()
    page.get_by_role("radio", name="All 4").click()
    assert axe(settled(page)) == [] and overflow(page) <= 0
