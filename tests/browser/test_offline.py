"""What a telephone keeps: no take is lost, none is logged twice, none in another's name."""

import re
from itertools import pairwise

import pytest
from django.conf import settings
from django.utils import timezone
from playwright.sync_api import BrowserContext, Page, Route, expect

from jungoptic.app.people.passwords import PRINTED
from jungoptic.app.shots.models import Shot
from jungoptic.app.takes.models import Take
from tests.sessions import session_of

from .conftest import OpenPage, axe, log_take, overflow, saved
from .test_main_path import offline

pytestmark = pytest.mark.browser


def mill(phone: Page) -> Page:
    phone.get_by_role("tab", name=re.compile("Mill")).click()
    return phone


def unanswered(route: Route) -> None:
    """What is asked is on its way and never arrives."""


def by_whom() -> list[str]:
    return sorted(Take.objects.values_list("recorded_by__username", flat=True))


def opened_again(context: BrowserContext, shot: Shot) -> Page:
    page = context.new_page()
    page.goto(f"/#/shots/{shot.pk}/log")
    return mill(page)


def sign_in(page: Page, name: str) -> None:
    page.get_by_label("Name").fill(name)
    page.get_by_label("Password").fill(PRINTED)
    page.get_by_role("button", name="Sign in").click()


def test_a_page_that_dies_in_the_middle_of_a_take_has_kept_it(open_phone: OpenPage, shot: Shot):
    phone = mill(open_phone("camera", f"/shots/{shot.pk}/log"))
    phone.route("**/takes", unanswered)
    phone.get_by_role("button", name=re.compile("^Take 1")).click()
    expect(phone.get_by_text("one take is waiting to be sent")).to_be_visible()
    kept = phone.evaluate("""async () => {
        const opened = await new Promise((done) => {
            const asked = indexedDB.open("jungoptic");
            asked.onsuccess = () => done(asked.result);
        });
        const asked = opened.transaction("outbox").objectStore("outbox").getAll();
        const rows = await new Promise((done) => (asked.onsuccess = () => done(asked.result)));
        opened.close();
        return rows.map((row) => [row.person, row.box]);
    }""")
    assert kept == [["camera", "takes"]]
    context = phone.context
    phone.close(run_before_unload=False)
    assert Take.objects.count() == 0
    again = opened_again(context, shot)
    expect(again.get_by_role("heading", name=re.compile("^Take 1"))).to_be_visible()
    saved(by_whom, ["camera"])


def test_a_refused_take_is_kept_until_the_mended_one_is(open_phone: OpenPage, shot: Shot):
    said = {"problems": [{"field": "actual.f_number", "message": "The stop cannot be that."}]}
    phone = mill(open_phone("camera", f"/shots/{shot.pk}/log"))
    phone.route("**/takes", lambda route: route.fulfill(status=422, json=said), times=1)
    phone.get_by_label("Circle it").check()
    log_take(phone, 1)
    alert = phone.get_by_role("alert").filter(has_text="The stop cannot be that.")
    alert.get_by_role("button", name="Put it back").click()
    expect(alert.get_by_text("It is on the card")).to_be_visible()
    phone.reload()  # before it was mended
    reloaded = timezone.now()
    mill(phone)
    alert.get_by_role("button", name="Put it back").click()
    log_take(phone, 1)
    expect(phone.get_by_role("heading", name=re.compile("^Take 1"))).to_be_visible()
    expect(alert).to_have_count(0)
    saved(by_whom, ["camera"])
    take = Take.objects.get()
    assert take.circled and take.recorded_at < reloaded, "as it was when it was taken"
    expect(phone.get_by_label("Circle it")).not_to_be_checked()


def test_however_many_takes_wait_the_next_one_is_in_reach(open_phone: OpenPage, shot: Shot):
    phone = open_phone("camera", f"/shots/{shot.pk}/log", "The mill at dusk")
    phone.route("**/api/layers/*/takes", offline)
    for number in range(12):
        phone.get_by_role("tab").nth(number % 2).click()
        phone.get_by_role("button", name=re.compile("^Take ")).click()
        expect(phone.get_by_text("one take is waiting to be sent")).to_have_count(number + 1)
    alert = phone.get_by_role("alert").filter(has_text="12 takes wait here.")
    # the newest on top, all of them in a list that is rolled
    expect(alert.get_by_role("group", name="Takes that wait here").locator("p").first).to_contain_text(
        "take 6"
    )
    box = alert.bounding_box()
    assert box is not None and box["height"] < 844 / 2.5
    expect(phone.get_by_text("Touch what was different on the day.")).to_be_in_viewport()
    phone.unroute("**/api/layers/*/takes")
    phone.reload()
    saved(Take.objects.count, 12)
    assert axe(phone) == [] and overflow(phone) <= 0


def test_two_people_on_one_telephone(open_phone: OpenPage, shot: Shot):
    phone = mill(open_phone("camera", f"/shots/{shot.pk}/log"))
    phone.route("**/api/layers/*/takes", offline)
    log_take(phone, 1)
    expect(phone.get_by_role("alert")).to_contain_text("one take is waiting to be sent")
    phone.get_by_role("button", name="Camera").click()
    phone.get_by_role("menuitem", name="Sign out").click()
    expect(
        phone.get_by_text("One entry of camera waits here, and is sent when camera signs in.")
    ).to_be_visible()
    phone.unroute("**/api/layers/*/takes")
    sign_in(phone, "supervisor")
    phone.goto(f"/#/shots/{shot.pk}/log")
    mill(phone)
    expect(phone.get_by_role("alert")).to_have_count(0)
    log_take(phone, 1)
    expect(phone.get_by_role("heading", name=re.compile("^Take 1"))).to_be_visible()
    saved(by_whom, ["supervisor"])
    phone.get_by_role("button", name="Supervisor").click()
    phone.get_by_role("menuitem", name="Sign out").click()
    sign_in(phone, "camera")
    saved(by_whom, ["camera", "supervisor"])


def test_somebody_else_signs_in_in_another_window_while_a_take_waits(open_phone: OpenPage, shot: Shot):
    phone = mill(open_phone("camera", f"/shots/{shot.pk}/log"))
    cookie = {"name": settings.SESSION_COOKIE_NAME, "url": phone.url.split("/#")[0]}
    phone.context.add_cookies([{**cookie, "value": session_of("supervisor")}])
    phone.get_by_role("button", name=re.compile("^Take 1")).click()
    alert = phone.get_by_role("alert").filter(has_text="Somebody else is signed in on this device now")
    expect(alert).to_be_visible()
    assert Take.objects.count() == 0
    alert.get_by_role("button", name="Sign in").click()
    sign_in(phone, "camera")
    saved(by_whom, ["camera"])


def test_a_full_device_says_so_and_sends_what_it_could_not_keep(open_phone: OpenPage, shot: Shot):
    phone = mill(open_phone("camera", f"/shots/{shot.pk}/log"))
    phone.evaluate("""() => {
        IDBObjectStore.prototype.put = () => { throw new DOMException("Full.", "QuotaExceededError"); };
    }""")
    phone.route("**/api/**", offline)
    phone.get_by_role("button", name=re.compile("^Take 1")).click()
    expect(phone.get_by_role("alert")).to_contain_text("this device has no room to keep the take")
    phone.unroute("**/api/**")
    saved(by_whom, ["camera"])
    expect(phone.get_by_role("heading", name=re.compile("^Take 1"))).to_be_visible()
    expect(phone.get_by_role("alert")).to_have_count(0)


def test_a_window_that_keeps_nothing_logs_all_the_same(open_phone: OpenPage, shot: Shot):
    phone = open_phone("camera", "/pocket")
    phone.add_init_script("""
        const no = () => { throw new DOMException("The user denied permission.", "SecurityError"); };
        Object.defineProperty(window, "indexedDB", { get: no });
        Object.defineProperty(window, "localStorage", { get: no });
    """)
    phone.goto(f"/#/shots/{shot.pk}/log")
    phone.reload()
    mill(phone)
    for number in (1, 2):
        log_take(phone, number)
        expect(phone.get_by_role("heading", name=re.compile(f"^Take {number}"))).to_be_visible()
    numbers = list(Take.objects.order_by("recorded_at").values_list("number", flat=True))
    assert all(b - a == 1 for a, b in pairwise(numbers)) and len(numbers) == 2
    phone.close()
