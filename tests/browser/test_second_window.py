"""Two windows on one production: what one of them writes is seen in the other, at once where it is told and
soon where it is not.
"""

from __future__ import annotations

import re
from collections.abc import Callable

import pytest
from playwright.sync_api import Page, expect

from jungoptic.app.people.models import Person
from jungoptic.app.places.keeping import save_place
from jungoptic.app.productions.models import Place
from jungoptic.app.productions.writing import in_production
from jungoptic.app.shots.cut import change_line
from jungoptic.app.shots.models import SetUp, Shot
from jungoptic.app.shots.writing import in_shot

from .conftest import OpenPage, later, saved, settled, still

pytestmark = pytest.mark.browser
WATCH_MS = 4000


def hears(page: Page, path: str, times: int) -> Page:
    """Wait until the page listens: it looks once more then, so it has asked for this so often."""
    page.wait_for_function(
        "([path, times]) => window.answeredPaths.filter((one) => one.endsWith(path)).length >= times",
        arg=[path, times],
    )
    return settled(page)


def turn_the_stop(theirs: Page, shot: Shot) -> None:
    stop = theirs.get_by_role("slider", name="Stop", exact=True)
    stop.focus()
    theirs.keyboard.press("Shift+ArrowRight")
    saved(lambda: round(SetUp.objects.get(shot=shot, name="Mill on the table").f_number, 1), 11.3)


def test_what_another_person_saves_is_on_the_bench_at_once(open_bench: OpenPage, shot: Shot):
    mine = hears(open_bench("supervisor", shot, clock=True), "/version", 1)
    still(mine)  # its clock stands: nothing is asked because time has passed
    turn_the_stop(open_bench("supervisor", shot), shot)
    expect(mine.get_by_role("slider", name="Stop", exact=True)).to_have_attribute(
        "aria-valuetext", re.compile("f/11")
    )


@pytest.mark.usefixtures("deaf")
def test_where_nothing_is_told_the_bench_asks(open_bench: OpenPage, shot: Shot):
    mine = open_bench("supervisor", shot, clock=True)
    turn_the_stop(open_bench("supervisor", shot), shot)
    later(settled(mine), WATCH_MS)
    expect(mine.get_by_role("slider", name="Stop", exact=True)).to_have_attribute(
        "aria-valuetext", re.compile("f/11")
    )


def retitle(shot: Shot) -> None:
    with in_shot(Person.objects.get(username="supervisor"), shot.pk) as write:
        change_line(write, Shot.objects.get(pk=shot.pk), {"title": "The mill by night"})


def rename_the_quay(shot: Shot) -> None:
    place = Place.objects.filter(production=shot.production_id).order_by("pk")[0]
    with in_production(Person.objects.get(username="supervisor"), shot.production_id) as write:
        save_place(write, place.pk, place.version, "The long quay", place.recurring, place.cautions)


@pytest.mark.parametrize(
    ("address", "path", "change", "seen"),
    [
        ("/", "/wall", retitle, "The mill by night"),
        ("/hand-over", "/wall", retitle, "The mill by night"),
        ("/history", "/history", retitle, "The mill by night"),
        ("/places", "/places", rename_the_quay, "The long quay"),
    ],
)
def test_pages_show_what_another_person_writes(
    open_page: OpenPage, shot: Shot, address: str, path: str, change: Callable[[Shot], None], seen: str
):
    mine = hears(open_page("runner", address), path, 2)
    expect(mine.get_by_text(seen)).to_have_count(0)
    change(shot)
    expect(mine.get_by_text(seen).or_(mine.locator(f"input[value='{seen}']")).first).to_be_visible()


def test_the_log_keeps_what_is_typed_while_another_person_writes(open_phone: OpenPage, shot: Shot):
    phone = hears(open_phone("camera", f"/shots/{shot.pk}/log"), "/log", 2)
    phone.get_by_label("Note").fill("lamp in the way")
    retitle(shot)
    expect(phone.get_by_text("The mill by night")).to_be_visible()
    expect(phone.get_by_label("Note")).to_have_value("lamp in the way")
