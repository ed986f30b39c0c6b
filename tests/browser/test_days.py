"""The board of days in Chromium: a job moved by keys and by hand, what it breaks said meanwhile, locked,
taken back; planned by the real worker; a telephone's list; a second window.
"""

from __future__ import annotations

import re
from datetime import datetime
from zoneinfo import ZoneInfo

import pytest
from playwright.sync_api import Page, expect

from jungoptic.app.days.models import Booked, DayFigures, Hand, JobSaid, ShootingDay, Site
from jungoptic.app.people.models import Person
from jungoptic.app.shots.models import Layer, SetUp, Shot
from jungoptic.app.shots.writing import in_shot
from jungoptic.app.takes.log import Said, record_take

from .conftest import OpenPage, axe, choose, overflow, saved, work_off_the_queue

pytestmark = pytest.mark.browser
ROOM = "TM070 Room with the lamp"
MILL, SEA = "TM010 Mill on the table", "TM010 Quay, evening"


def booked(name: str) -> tuple[str, int, bool]:
    """When the set-up of a label is filmed, and whether that is locked."""
    row = Booked.objects.get(set_up__name=name.partition(" ")[2])
    return (row.date.isoformat() if row.date else "", row.start_min, row.locked)


def block(page: Page, label: str):
    return page.get_by_role("slider", name=label, exact=True)


def test_a_job_is_moved_by_keys_locked_and_taken_back(open_page: OpenPage, shot: Shot):
    page = open_page("supervisor", "/days", "people-days")
    was = booked(ROOM)
    room = block(page, ROOM)
    room.focus()
    expect(page.get_by_role("complementary")).to_contain_text("rig, light 1 h")
    room.press("ArrowUp")
    room.press("Shift+ArrowUp")
    saved(lambda: booked(ROOM), (was[0], was[1] - 35, False))
    room.press("ArrowRight")
    saved(lambda: booked(ROOM)[0] > was[0], True)
    room.press("l")
    saved(lambda: booked(ROOM)[2], True)
    expect(room).to_contain_text("locked")
    for _ in range(3):
        page.keyboard.press("Control+z")
    saved(lambda: booked(ROOM), was)
    expect(page.get_by_role("button", name="Undo")).to_be_disabled()


def test_what_a_hand_breaks_is_told_while_it_holds_and_goes_with_escape(open_page: OpenPage, shot: Shot):
    page = open_page("supervisor", "/days", "people-days")
    was = booked(SEA)
    here, there = (block(page, label).bounding_box() for label in (SEA, MILL))
    assert here and there
    page.mouse.move(here["x"] + 60, here["y"] + 8)
    page.mouse.down()
    page.mouse.move(there["x"] + 60, there["y"] + 200, steps=5)
    chosen = page.get_by_role("complementary")
    expect(chosen).to_contain_text("Mill on the table comes before TM010 Quay, evening is done")
    expect(page.get_by_text(re.compile(r"\d rules? broken"))).to_be_visible()
    page.keyboard.press("Escape")
    page.mouse.up()
    expect(page.get_by_text(re.compile(r"\d rules? broken"))).to_have_count(0)
    assert booked(SEA) == was


def test_a_job_is_drawn_onto_a_day_from_no_day(open_page: OpenPage, shot: Shot):
    """What the friends of this job lose if it takes longer is told of it, and the panel follows the hand."""
    was = booked("TM090 Rows on blue")
    page = open_page("supervisor", "/days", "people-days")
    block(page, "TM090 Rows on blue").focus()
    expect(page.get_by_role("complementary")).to_contain_text(
        "Nine friends called for 2 h of 4 h in all. If it"
    )
    page.keyboard.press("Delete")
    saved(lambda: booked("TM090 Rows on blue")[0], "")
    page.get_by_role("button", name="Close").click()
    chip, there = page.get_by_role("button", name="Rows on blue"), block(page, ROOM).bounding_box()
    here = chip.bounding_box()
    assert here and there
    page.mouse.move(here["x"] + 20, here["y"] + 8)
    page.mouse.down()
    page.mouse.move(there["x"] + 60, there["y"] + 8, steps=5)
    expect(page.get_by_role("complementary")).to_contain_text(
        "TM070 Room with the lamp and TM090 Rows on blue overlap"
    )
    page.keyboard.press("Escape")
    page.mouse.up()
    expect(block(page, "TM090 Rows on blue")).to_have_count(0)
    page.mouse.move(here["x"] + 20, here["y"] + 8)
    page.mouse.down()
    page.mouse.move(there["x"] + 60, there["y"] + 8, steps=5)
    page.mouse.up()
    saved(lambda: booked("TM090 Rows on blue")[0], booked(ROOM)[0])
    for _ in range(2):
        page.get_by_role("button", name="Undo").click()
    saved(lambda: booked("TM090 Rows on blue"), was)


def test_the_days_are_planned_by_the_worker(open_page: OpenPage, shot: Shot):
    Booked.objects.update(date=None)
    page = open_page("supervisor", "/days", "On no day")
    page.get_by_role("button", name=re.compile("^Plan the days")).click()
    expect(page.get_by_role("progressbar", name="Planning the days")).to_be_visible()
    work_off_the_queue()
    expect(page.get_by_text("Every job has its day")).to_be_visible()
    expect(block(page, MILL)).to_be_visible()
    assert not Booked.objects.filter(date=None).exists()


def test_who_is_there_and_on_which_days_is_said_on_the_board(open_page: OpenPage, shot: Shot):
    page = open_page("supervisor", "/days", "people-days")
    page.get_by_role("button", name="Who, where, when").click()
    panel = page.get_by_role("region", name="Who, where, when")
    panel.get_by_label("Another person, by name or role").fill("Runner")
    panel.get_by_role("button", name="Add", exact=True).last.click()
    choose(panel.get_by_label("What Runner is needed for"), "is named job by job")
    saved(lambda: Hand.objects.get(name="Runner").duty, "none")
    panel.get_by_label("Runner is there to").fill("07:00")
    panel.get_by_label("Runner is there to").press("Tab")
    expect(panel.get_by_role("alert")).to_contain_text("end at 07:00, before they start at 08:00")
    row = panel.get_by_role("listitem").filter(has_text="Runner")
    row.get_by_label("only for").fill("four")
    row.get_by_label("only for").press("Tab")
    expect(panel.get_by_role("alert")).to_contain_text("“four” is not a number of hours")
    panel.get_by_role("group", name="Weekdays of Runner").get_by_label("Monday").click()
    saved(lambda: "mon" in Hand.objects.get(name="Runner").hours[0]["weekdays"], False)
    panel.get_by_label("From", exact=True).fill("2027-11-05")
    panel.get_by_label("to", exact=True).fill("2027-11-08")
    panel.get_by_role("button", name="Add", exact=True).first.click()
    november = ShootingDay.objects.filter(date__month=11, removed=False)
    saved(november.count, 2)
    expect(panel.get_by_text("Sun 7 November")).to_be_visible()
    page.get_by_role("button", name="Undo").click()
    saved(november.count, 0)


def test_another_window_sees_a_job_move(open_page: OpenPage, shot: Shot):
    page = open_page("supervisor", "/days", "people-days")
    other = open_page("camera", "/days", "people-days")
    room = block(page, ROOM)
    room.focus()
    room.press("ArrowUp")
    expect(block(other, ROOM)).to_have_attribute("aria-valuenow", str(booked(ROOM)[1] - 5))
    expect(other.get_by_role("button", name=re.compile("^Plan"))).to_have_count(0)


def test_on_a_telephone_it_is_one_day_as_a_list(open_page: OpenPage, shot: Shot):
    page = open_page("camera", "/days", "Sat 16 October", width=390, height=844, phone=True)
    first = SetUp.objects.filter(booked__date="2027-10-16").order_by("booked__start_min")[0]
    expect(page.get_by_role("listitem").first).to_contain_text(first.name)
    page.get_by_role("button", name="The day after").tap()
    expect(page.get_by_role("heading", name="Sun 17 October")).to_be_visible()


def test_a_day_is_late_says_what_to_drop_and_drops_it(open_page: OpenPage, shot: Shot):
    """The first job of the day rolls at half past three; what no longer fits is left out, and comes back."""
    first, *others = SetUp.objects.filter(booked__date="2027-10-16").order_by("booked__start_min")
    at = datetime(2027, 10, 16, 15, 30, tzinfo=ZoneInfo("Europe/London"))
    for layer in Layer.objects.filter(set_up=first):
        with in_shot(Person.objects.get(username="camera"), layer.shot_id) as write:
            record_take(write, layer.pk, Said(recorded_at=at))
    page = open_page("supervisor", "/days/2027-10-16", "What no longer fits")
    expect(page.get_by_role("main")).to_contain_text("late")
    rows = page.get_by_role("list", name="Jobs of Sat 16 October")
    expect(rows.get_by_text("running")).to_be_visible()
    before = rows.get_by_role("link", name="Log").count()
    assert before == 1 + len(others)
    # a minute later the page has looked again by itself
    page.clock.install()
    page.reload()
    expect(page.get_by_text("What no longer fits")).to_be_visible()
    with page.expect_response(re.compile("shooting-days/2027-10-16")):
        page.clock.run_for(61_000)
    page.get_by_role("button", name=re.compile("Leave (it|them) out")).click()
    expect(page.get_by_text("What no longer fits")).to_have_count(0)
    assert rows.get_by_role("link", name="Log").count() < before
    page.get_by_role("button", name="Undo").click()
    expect(page.get_by_text("What no longer fits")).to_be_visible()


def test_rain_is_one_key_and_taken_back_with_what_it_moved(open_page: OpenPage, shot: Shot):
    page = open_page("supervisor", "/days/2027-10-16", "If it rains")
    rows = page.get_by_role("list", name="Jobs of Sat 16 October")
    before = rows.get_by_role("link", name="Log").count()
    page.keyboard.press("r")
    work_off_the_queue()
    expect(page.get_by_role("button", name="No rain after all")).to_be_visible()
    expect(page.get_by_role("main")).to_contain_text("Rain on Sat 16 October: TM")
    assert rows.get_by_role("link", name="Log").count() < before
    page.get_by_role("button", name="Undo").click()
    expect(page.get_by_role("button", name="If it rains")).to_be_visible()
    expect(rows.get_by_role("link", name="Log")).to_have_count(before)


def test_the_sun_of_a_set_up_is_seen_and_a_hill_takes_its_window(open_page: OpenPage, shot: Shot):
    page = open_page("supervisor", "/days/2027-10-16", "The sun for")
    page.get_by_role("button", name=re.compile("Quay, low")).click()
    chart = page.get_by_role("region", name="The sun for Quay, low")
    today = chart.get_by_role("row", name=re.compile("Sat 16 October"))
    expect(today).to_contain_text("15:05 to 15:57")
    page.get_by_role("slider", name="Time of day").fill("930")
    expect(chart).to_contain_text("Holds")
    chart.get_by_role("button", name="Say what hides the sun here").click()
    field = chart.get_by_role("textbox")
    field.fill("200 something")
    expect(chart.get_by_role("alert")).to_be_visible()
    field.fill("100 0, 180 60, 300 60")
    chart.get_by_role("button", name="Save the horizon").click()
    expect(today).to_contain_text("no window")


def test_an_empty_production_is_told_what_belongs_here(open_page: OpenPage, shot: Shot):
    ShootingDay.objects.update(removed=True)
    page = open_page("supervisor", "/days", "No shooting day yet")
    page.get_by_role("button", name="Say who, where and when").click()
    expect(page.get_by_label("Another person, by name or role")).to_be_visible()


def test_all_that_is_said_beside_the_board_can_be_said_on_it(open_page: OpenPage, shot: Shot):
    """Places, windows, figures, and what is said of one job: by keyboard, with nothing that axe finds."""

    def enter(label: str, typed: str) -> None:
        field = page.get_by_label(label, exact=True)
        field.fill(typed)
        field.press("Enter")

    page = open_page("supervisor", "/days", "people-days")
    page.get_by_role("button", name="Who, where, when").click()
    page.get_by_role("tab", name="Places").click()
    enter("Boathouse is open", "from nine")
    expect(page.get_by_role("alert").first).to_contain_text("Hours are typed like")
    enter("Boathouse is open", "sat sun 8 to 18:30")
    saved(lambda: [own.hours[0]["end"] for own in Site.objects.all()], [1110])
    assert axe(page) == []
    page.get_by_role("tab", name="Windows and ways").click()
    page.get_by_label("Another one").fill("low tide")
    enter("Its hours", "2027-10-16 13 to 17")
    expect(page.get_by_label("Hours of low tide")).to_have_value("2027-10-16 13:00 to 17:00")
    page.get_by_role("tab", name="Figures").click()
    enter("Rigging a set-up", "45")
    saved(lambda: DayFigures.objects.get().rig_min, 45)
    assert axe(page) == []
    page.get_by_role("button", name="Close", exact=True).first.click()
    block(page, MILL).focus()
    page.get_by_role("button", name="Minutes, people, place").click()
    page.get_by_role("group", name="Needs").get_by_role("button", name="low tide").click()
    saved(
        lambda: [said.needs for said in JobSaid.objects.filter(set_up__name="Mill on the table")],
        [["low tide"]],
    )
    enter("Takes, min", "50")
    saved(lambda: JobSaid.objects.get(set_up__name="Mill on the table").takes_min, 50)
    assert axe(page) == []


def test_somebody_is_off_on_a_day_by_a_tap(open_page: OpenPage, shot: Shot):
    page = open_page("supervisor", "/days/2027-10-16", "Who is there", width=390, height=844, phone=True)
    there = page.get_by_role("region", name="Who is there")
    camera = there.get_by_role("listitem").filter(has_text="Camera")
    camera.get_by_role("button", name="08:30 to 18:30").tap()
    camera.get_by_role("button", name="12:00 to 13:00").tap()
    camera.get_by_role("button", name="13:00 to 14:00").tap()
    dated = {"weekdays": [], "date": "2027-10-16"}
    hours = [{**dated, "start": 510, "end": 720}, {**dated, "start": 840, "end": 1110}]
    saved(lambda: Hand.objects.get(name="Camera").hours[1:], hours)
    assert overflow(page) <= 0 and axe(page) == []
    camera.get_by_role("button", name="done").tap()
    camera.get_by_role("button", name="off", exact=True).tap()
    saved(lambda: Hand.objects.get(name="Camera").off, ["2027-10-16"])
    expect(page.get_by_role("main")).to_contain_text("Without Camera")
    assert overflow(page) <= 0
