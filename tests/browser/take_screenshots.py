"""The pictures of docs/screenshots, taken anew from the demo: `./run screenshots`.

Not collected with the tests.
"""

import re
from datetime import datetime, timedelta
from pathlib import Path
from zoneinfo import ZoneInfo

from playwright.sync_api import Page

from jungoptic.app.days.models import Booked
from jungoptic.app.demo.days import film_days
from jungoptic.app.demo.filmed import film_before
from jungoptic.app.demo.footage import Nothing, demo_footage
from jungoptic.app.demo.hyperlapse import MISSED
from jungoptic.app.jobs.asking import ask_by_itself
from jungoptic.app.people.models import Person
from jungoptic.app.productions.models import Production
from jungoptic.app.shots.models import Layer, Shot
from jungoptic.app.shots.writing import in_shot
from jungoptic.app.takes.log import Said, record_take

from .conftest import OpenPage, at, choose, settled, work_off_the_queue

OUT = Path(__file__).resolve().parents[2] / "docs" / "screenshots"


def on_bench(page: Page, shot: Shot) -> None:
    at(page, f"/shots/{shot.pk}/bench", "Will it show?")


def shoot(page: Page, name: str) -> None:
    settled(page).clock.run_for(500)  # the picture through the lens sharpens when the hand rests
    settled(page).screenshot(path=OUT / f"{name}.png")


def shoot_other_shots(page: Page) -> None:
    """Backing and lamps, a photograph of the place, a live picture lined up."""
    on_bench(page, Shot.objects.get(code="TM020"))
    page.get_by_role("button", name=re.compile("^Orla hero")).click()
    page.get_by_role("radio", name="As filmed").click()
    page.get_by_role("button", name=re.compile("^Off the sheet")).click()
    page.mouse.move(5, 700)
    shoot(page, "bench-backing")
    heron = Shot.objects.get(code="TM050")
    at(page, f"/shots/{heron.pk}/photograph", "by the sun")
    shoot(page, "photograph")
    on_bench(page, heron)
    shoot_line_up(page)


def shoot_line_up(page: Page) -> None:
    """A live picture that is off, over the one that it should be."""
    sheds = Layer.objects.get(shot__code="TM110", name="Drying sheds")
    at(page, f"/layers/{sheds.pk}/line-up", "Against")
    choose(page.get_by_label("Live picture", exact=True), "simulated camera")
    page.get_by_role("button", name="Hold this picture").click()
    page.get_by_text("In register").wait_for()
    for dial, turns in (("Pan", 60), ("Roll", -80)):
        slider = page.get_by_role("slider", name=dial)
        for _ in range(abs(turns)):
            slider.press("ArrowRight" if turns > 0 else "ArrowLeft")
    page.get_by_text(re.compile(r"^Pan 0\.60° to the left")).wait_for()
    page.get_by_text(re.compile(r"^Roll 0\.(79|80|81)° to the right")).wait_for()
    page.mouse.move(5, 790)
    page.screenshot(path=OUT / "line-up.png")
    choose(page.get_by_label("Live picture", exact=True), "no live picture")


def shoot_break_down(page: Page) -> None:
    """The cut, a board, the ways, a set in plan."""
    page.locator("[data-wall]").nth(11).wait_for()
    shoot(page, "break-down")
    yard = Shot.objects.get(code="TM110")
    page.goto(f"/#/shots/{yard.pk}/plan")
    page.get_by_role("button", name=re.compile("^1 Matte line")).click()
    page.mouse.move(5, 790)
    shoot(page, "board")
    page.get_by_role("tab", name="Methods").click()
    page.get_by_role("button", name="Cut by hand", exact=True).click()
    page.mouse.wheel(0, 900)
    shoot(page, "ways")
    page.goto("/#/sets")
    page.get_by_role("tab", name=re.compile("^Pieces")).wait_for()
    shoot(page, "sets")


def late_on(day: str, minutes: int) -> None:
    """The first set-up of a day rolls so much later than it is booked."""
    first = Booked.objects.filter(date=day).order_by("start_min")[0]
    zone = ZoneInfo(first.production.time_zone)
    at = datetime.fromisoformat(day).replace(tzinfo=zone) + timedelta(minutes=first.start_min + 60 + minutes)
    for layer in first.set_up.layers.filter(removed=False):
        with in_shot(Person.objects.get(username="camera"), layer.shot_id) as write:
            record_take(write, layer.pk, Said(recorded_at=at))


def shoot_rushes(page: Page) -> None:
    """What the simulated camera filmed with faults that are known, on the measuring table."""
    production = Production.objects.get()
    camera = Person.objects.get(username="camera")
    film_before(production, camera)
    ask_by_itself(production.pk, camera.pk, demo_footage, "Footage of the demo", Nothing())
    work_off_the_queue()
    wheel = Shot.objects.get(code="TM020")
    at(page, f"/shots/{wheel.pk}/rushes", "Before struck")
    page.get_by_role("button", name=re.compile("^Evenness")).click()
    page.get_by_text(re.compile("^Shooting again")).wait_for()
    page.mouse.move(5, 790)
    shoot(page, "rushes")
    at(page, "/frames", "Heron 1:4")
    page.get_by_role("link", name="Open the desk").click()
    page.get_by_role("button", name=re.compile("^Frame 60, taken")).wait_for()
    page.keyboard.press("p")
    for _ in range(37):
        page.keyboard.press("ArrowLeft")
    page.get_by_text("look before you move on").wait_for()
    page.mouse.move(5, 790)
    shoot(page, "frames")
    at(page, "/frames", "Dawn round the pond")
    page.get_by_role("link", name="Open the camera").click()
    page.get_by_role("region", name="Take again").get_by_role("button", name=str(MISSED)).click()
    page.get_by_text("Take it again:").wait_for()
    page.mouse.move(5, 790)
    shoot(page, "hyperlapse")


def shoot_lit_sheet(phone: Page) -> None:
    """A sheet that was photographed before the camera ran: which lamp of it gives less."""
    wheel = Shot.objects.get(code="TM020")
    phone.goto(f"/#/shots/{wheel.pk}/log")
    phone.get_by_role("tab", name=re.compile("^Orla")).click()
    phone.get_by_alt_text("The lit sheet as it was photographed").wait_for()
    phone.get_by_role("list", name="Its lamps, against the kit").wait_for()
    phone.get_by_text("The lit sheet:").scroll_into_view_if_needed()
    shoot(phone, "lit-sheet")


def shoot_own_film(page: Page) -> None:
    """A lens measured, days of which one slipped and one is rained off, one that is late."""
    at(page, "/kit/measure", "Focal length and distortion")
    choose(page.get_by_label("Lens", exact=True), "35 mm")
    page.get_by_role("button", name="Measure: Focal length and distortion").click()
    page.get_by_role("button", name="Film it with the simulated camera").click()
    work_off_the_queue()
    page.get_by_role("button", name="Take it into the kit").wait_for()
    page.mouse.move(5, 700)
    shoot(page, "measure")
    production = Production.objects.get()
    film_days(production, *(Person.objects.get(username=name) for name in ("supervisor", "camera")))
    late_on("2027-10-23", 70)
    at(page, "/days", "people-days")
    page.get_by_role("slider", name="TM050 Quay, low").focus()
    page.mouse.move(5, 790)
    shoot(page, "days")
    at(page, "/days/2027-10-23", "What no longer fits")
    page.get_by_role("button", name=re.compile("Sheds from the yard")).click()
    page.mouse.move(5, 790)
    shoot(page, "day")


def shoot_phone(phone: Page, shot: Shot) -> None:
    """The log, at the camera."""
    phone.goto(f"/#/shots/{shot.pk}/log")
    phone.get_by_role("tab", name=re.compile("Mill")).click()
    phone.get_by_role("button", name=re.compile("^Stop")).click()
    phone.get_by_role("button", name="11", exact=True).click()
    phone.get_by_label("Foretold").wait_for()
    shoot(phone, "log")


def test_take_them(open_page: OpenPage, open_phone: OpenPage, shot: Shot) -> None:
    OUT.mkdir(parents=True, exist_ok=True)
    page = open_page("supervisor", clock=True)
    shoot_break_down(page)
    on_bench(page, shot)
    shoot(page, "bench-stage")
    page.keyboard.press("s")
    page.get_by_role("article").first.wait_for()
    shoot(page, "solve")
    page.get_by_role("button", name="Use this").first.click()
    page.get_by_text("0 show").wait_for()
    shoot_other_shots(page)
    page.goto("/#/pocket/backing_evenness")
    page.get_by_role("heading", name="Map").wait_for()
    shoot(page, "pocket")
    on_bench(page, shot)
    page.get_by_text("0 show").wait_for()
    page.get_by_role("button", name="Supervisor").click()
    page.get_by_role("radio", name="Daylight").click()
    page.keyboard.press("Escape")
    page.mouse.move(5, 700)
    shoot(page, "bench-daylight")
    page.get_by_role("button", name="Supervisor").click()
    page.get_by_role("radio", name="Stage").click()
    page.keyboard.press("Escape")
    phone = open_phone("camera", clock=True)
    shoot_phone(phone, shot)
    shoot_own_film(page)
    shoot_rushes(page)
    shoot_lit_sheet(phone)
