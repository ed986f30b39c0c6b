"""The measuring table: footage looked at, scrubbed, marked, measured, by mouse and keys, on a telephone."""

import re
from pathlib import Path

import pytest
from playwright.sync_api import Page, expect

from jungoptic.app.footage.models import Card, Recording
from jungoptic.app.people.models import Person
from jungoptic.app.rushes.models import FrameDecision, Rush, SetUpMark
from jungoptic.app.shots.models import Layer, Shot
from jungoptic.app.shots.writing import in_shot
from jungoptic.app.takes.log import Said, record_take
from tests.core.filmed import laid, noised, photograph, write

from .conftest import OpenPage, axe, choose, overflow, saved, work_off_the_queue

pytestmark = pytest.mark.browser
FRAMES, BUMP = 48, range(30, 40)


@pytest.fixture
def footage(settings, tmp_path: Path, shot: Shot) -> dict[str, Recording]:
    """An action in which somebody touches the tripod, and its clean plate; a text file called a film."""
    settings.SIMULATED_CARDS, settings.FOOTAGE = tmp_path / "cards", tmp_path / "footage"
    settings.CARDS = [settings.SIMULATED_CARDS]
    folder = tmp_path / "cards" / "A001"
    folder.mkdir(parents=True)
    mill = shot.layers.get(name="Mill 1:12")
    who = Person.objects.get(username="camera")
    empty = Layer.objects.create(
        shot=shot,
        place=90,
        name="Empty table",
        kind="clean_plate",
        combine="over",
        scale=12,
        set_up=mill.set_up,
        near_m=12,
    )
    with in_shot(who, shot.pk) as kept:
        take, clean = (record_take(kept, layer.pk, Said()) for layer in (mill, empty))
    still, bumped = (0.5 * laid(photograph("coffee"), shift) for shift in ((0.0, 0.0), (3.0, 0.0)))
    frames = [noised(bumped if n in BUMP else still, 0.02, n) for n in range(FRAMES)]
    write(str(folder / "action.mp4"), frames, 16)
    write(str(folder / "clean.mp4"), [noised(bumped, 0.02, 90 + n) for n in range(6)], 16)
    (folder / "text.mp4").write_text("no film\n" * 50)
    card = Card.objects.create(production=shot.production, place=str(folder), name="A001", read_by=who)
    return {
        name: Recording.objects.create(
            card=card,
            path=f"{name}.mp4",
            size_bytes=(folder / f"{name}.mp4").stat().st_size,
            modified=0,
            says={"kind": "clip"},
            take=clean if name == "clean" else take,
            filed_by="hand",
        )
        for name in ("action", "clean", "text")
    }


def looked_at(open_page: OpenPage, shot: Shot, **how: object) -> Page:
    page = open_page("camera", f"/shots/{shot.pk}/rushes", "Look at 3 more", **how)
    page.get_by_role("button", name="Look at 3 more").click()
    work_off_the_queue()
    expect(page.get_by_role("slider", name="Frame")).to_be_visible()
    return page


def shows(page: Page, frame: int) -> None:
    """The film stands at this frame, and says so."""
    expect(page.get_by_role("slider", name="Frame")).to_have_attribute("aria-valuenow", str(frame))
    saved(
        lambda: page.evaluate(
            "() => { const film = document.querySelector('video');"
            " return film.seeking ? null : Math.floor(24 * film.currentTime) }"
        ),
        frame,
    )


def test_footage_is_scrubbed_and_what_stands_out_is_gone_to(open_page: OpenPage, shot: Shot, footage):
    page = looked_at(open_page, shot)
    shows(page, 0)
    touched = page.get_by_role("button", name=re.compile(r"^Camera, frames 30 to 39: .* px, and back$"))
    touched.focus()
    shows(page, 30)
    page.keyboard.press("Escape")
    page.evaluate("document.activeElement.blur()")
    for key, frame in (("ArrowRight", 31), ("Shift+ArrowRight", 41), ("ArrowLeft", 40), ("End", 47)):
        page.keyboard.press(key)
        shows(page, frame)
    page.keyboard.press("Home")
    shows(page, 0)
    page.keyboard.press(" ")
    expect(page.get_by_role("button", name="Stop", exact=True)).to_be_visible()
    saved(lambda: page.evaluate("document.querySelector('video').currentTime > 0.3"), True)
    page.get_by_role("button", name="Stop", exact=True).click()
    lines = page.get_by_role("group", name="Frames").bounding_box()
    assert lines
    page.mouse.click(lines["x"] + lines["width"] * 36.5 / FRAMES, lines["y"] + lines["height"] - 50)
    shows(page, 36)
    assert axe(page) == [] and overflow(page) <= 0


def test_a_row_is_marked_by_keys_taken_back_and_measured(open_page: OpenPage, shot: Shot, footage):
    page = looked_at(open_page, shot)
    expect(page.get_by_label("Camera: against")).to_contain_text("Empty table, take 1 · clean.mp4")
    moved = page.get_by_text(re.compile(r"^The camera moved: \d\.\d"))
    expect(moved).to_be_visible()  # nobody asked: it was held against its clean plate
    page.get_by_role("button", name="Measure again: Camera").click()
    work_off_the_queue()
    expect(page.get_by_role("button", name="Measure again: Camera")).to_be_enabled()
    page.get_by_role("tab", name="Fine").click()
    measure = page.get_by_role("button", name="Measure: Sharpness")
    expect(measure).to_be_disabled()
    page.get_by_role("button", name="Mark an edge").click()
    over = page.get_by_role("application", name=re.compile("^Mark an edge"))
    expect(over).to_be_focused()
    over.press("Enter")
    for key in ("Shift+ArrowRight", "Shift+ArrowDown"):
        over.press(key)
    over.press("Enter")
    mark = SetUpMark.objects.filter(kind="edge")
    saved(lambda: mark.values_list("places", flat=True).first(), [[0.5, 0.5], [0.55, 0.55]])
    expect(measure).to_be_enabled()
    page.keyboard.press("Control+z")
    saved(mark.exists, False)
    expect(measure).to_be_disabled()
    page.get_by_role("button", name="Mark an edge").click()
    page.get_by_role("application").press("Escape")
    expect(page.get_by_role("application")).to_have_count(0)
    page.get_by_role("button", name=re.compile("^Colour: BT.709")).click()
    choose(page.get_by_label("Curve", exact=True), "a log curve of five numbers")
    page.get_by_label(re.compile("^a, b, c, d and cut")).fill("5, 0.05")
    page.get_by_role("button", name="Keep").click()
    expect(page.get_by_role("alert")).to_contain_text("five numbers")
    page.get_by_label(re.compile("^a, b, c, d and cut")).fill("5, 0.05, 0.25, 0.4, 0.01")
    assert axe(page) == []
    page.get_by_role("button", name="Keep").click()
    expect(page.get_by_role("button", name=re.compile("^Colour: log"))).to_be_visible()


def test_what_was_found_is_taken_as_a_mark_and_frames_are_left_out(open_page: OpenPage, shot: Shot, footage):
    page = looked_at(open_page, shot)
    page.get_by_role("tab", name="Fine").click()
    page.get_by_role("button", name="Mark an even part").click()
    assert axe(page) == []
    page.get_by_role("button", name="Take what was found").click()
    mark = SetUpMark.objects.filter(kind="grain")
    saved(mark.exists, True)
    places = footage["action"].rush.says["proposed"]["grain"]
    assert mark.get().places == places
    expect(page.get_by_role("button", name="Take what was found")).to_have_count(0)

    rush = Rush.objects.filter(recording=footage["action"])
    page.evaluate("document.activeElement.blur()")
    page.keyboard.press("Home")
    page.keyboard.press("Shift+ArrowRight")
    page.keyboard.press("a")
    saved(lambda: rush.get().counts, [10, FRAMES - 1])
    work_off_the_queue()
    page.get_by_role("button", name=re.compile("^Camera, frames 30 to 39")).focus()
    shows(page, BUMP[0])
    page.get_by_role("button", name="Ends here").click()
    saved(lambda: rush.get().counts, [10, BUMP[0]])
    work_off_the_queue()
    expect(page.get_by_text("left out")).to_have_count(2)
    assert axe(page) == [] and overflow(page) <= 0
    page.get_by_role("button", name="all of it counts").click()
    saved(lambda: rush.get().counts, [])
    page.keyboard.press("Control+z")
    saved(lambda: rush.get().counts, [10, BUMP[0]])


def test_the_telephone_says_what_to_shoot_again(open_page: OpenPage, shot: Shot, footage):
    looked_at(open_page, shot)
    phone = open_page("camera", f"/shots/{shot.pk}/log", "Again now", width=390, height=844, phone=True)
    told = phone.get_by_role("list", name="Against the clean plate").get_by_role("listitem")
    expect(told).to_contain_text("Mill 1:12, take 1 against Empty table, take 1. The camera moved")
    assert axe(phone) == [] and overflow(phone) <= 0
    told.get_by_role("link", name="See it").click()
    expect(phone.get_by_role("slider", name="Frame")).to_be_visible()


def test_what_is_no_film_says_so_and_a_guest_only_looks(open_page: OpenPage, shot: Shot, footage):
    page = looked_at(open_page, shot, width=390, height=844, phone=True)
    for theme in ("stage", "daylight"):
        page.evaluate(f"document.documentElement.dataset.theme = '{theme}'")
        assert axe(page) == [] and overflow(page) <= 0
    choose(page.get_by_label("Recording"), "Mill 1:12 · take 1 · text.mp4")
    expect(page.get_by_role("alert")).to_contain_text("text is in it")
    page.get_by_role("button", name="Look at it again").click()
    work_off_the_queue()
    expect(page.get_by_text("1 recording looked at.")).to_be_visible()
    guest = open_page("runner", f"/shots/{shot.pk}/rushes/{footage['action'].pk}", "Stands still")
    expect(guest.get_by_role("slider", name="Frame")).to_be_visible()
    expect(guest.get_by_role("button", name=re.compile("^Measure"))).to_have_count(0)


def test_what_does_not_hold_is_decided_with_its_price(open_page: OpenPage, shot: Shot, footage):
    looked_at(open_page, shot)
    page = open_page("supervisor", f"/shots/{shot.pk}/rushes", "Before struck")
    page.get_by_role("button", name=re.compile("^Camera moved px")).click()
    moved = page.get_by_role("region", name="Camera moved")
    expect(moved).to_contain_text(re.compile(r"Measured [89]\S* ± .* px, logged 0\.[\s\S]*tripod"))
    expect(moved).to_contain_text("Track it and lay it back, 0.75 h")
    expect(moved).to_contain_text("Shooting again")
    moved.get_by_role("button", name="Keep", exact=True).click()
    moved.get_by_label("Why it may stay").fill("It is dark there.")
    assert axe(page) == [] and overflow(page) <= 0
    moved.get_by_role("button", name="Keep it").click()
    standing = FrameDecision.objects.filter(withdrawn=False)
    saved(lambda: list(standing.values_list("choice", "reason")), [("keep", "It is dark there.")])
    expect(moved).to_contain_text("Kept as it is. “It is dark there.”")
    page.evaluate("document.activeElement.blur()")
    page.keyboard.press("Control+z")
    saved(standing.exists, False)
    expect(moved.get_by_role("button", name="Shoot again")).to_be_visible()
    page.get_by_role("button", name="Before struck").click()
    plates = page.get_by_role("list", name="Before it is struck").get_by_role("listitem")
    expect(plates.filter(has_text="Empty table")).to_contain_text("Holds.")
    choose(page.get_by_label("Laid over it", exact=True), "Empty table, take 1 · clean.mp4")
    page.get_by_label("Difference").check()
    page.get_by_label("as measured").check()
    other = page.get_by_label(re.compile(r"^clean\.mp4, frame"))
    expect(other).to_be_visible()
    assert "translate" in (other.locator("..").get_attribute("style") or "")
    assert axe(page) == [] and overflow(page) <= 0
