"""The main job through the real interface: plan, predict, solve, log, judge, print."""

import re

import pytest
from django.conf import settings
from playwright.sync_api import Route, expect

from jungoptic.app.base.edits import Edit
from jungoptic.app.base.models import Change
from jungoptic.app.jobs.models import Job
from jungoptic.app.people.models import Person
from jungoptic.app.people.passwords import PRINTED
from jungoptic.app.shots.edit import EditSet, change_shot
from jungoptic.app.shots.models import SetUp, Shot
from jungoptic.app.shots.writing import in_shot
from jungoptic.app.takes.models import Take
from tests.jobs import done
from tests.pdf import pages_of

from .conftest import PANEL, RETRY_MS, OpenPage, at, axe, box_of, later, log_take, saved, work_off_the_queue

pytestmark = pytest.mark.browser


def mill_set_up(shot: Shot) -> SetUp:
    return SetUp.objects.get(shot=shot, name="Mill on the table")


def test_from_the_first_verdict_to_the_printed_card(open_page: OpenPage, open_phone: OpenPage, shot: Shot):
    page = open_page("supervisor")
    late: list[Route] = []

    def hold(route: Route) -> None:
        late.append(route)

    page.route("**/api/sources", hold)
    page.locator("[data-wall]", has_text="TM010").press("Enter")
    page.get_by_role("link", name=re.compile("^Lay it on the Bench")).click()
    # predict: the model as first set up will show
    expect(page.get_by_text("8 show")).to_be_visible()
    height = page.get_by_role("button", name=re.compile("^Camera height"))
    expect(height).to_contain_text("wants 0.133 m")
    height.click()
    expect(page.get_by_text("0.217 m too high over the layer's ground")).to_be_visible()
    page.get_by_role("button", name="why").click()
    late[0].continue_()  # the sources come when somebody is already looking for them
    expect(page.get_by_text("Central projection")).to_be_visible()
    # solve, and see it hold
    page.keyboard.press("s")
    first = page.get_by_role("article").first
    expect(first).to_contain_text("Everything holds")
    first.get_by_role("button", name="Use this").click()
    expect(page.get_by_text("0 show")).to_be_visible()
    expect(page.get_by_text("0 tight")).to_be_visible()
    stored = mill_set_up(shot)
    assert (round(stored.f_number), stored.ground_height_m) == (16, pytest.approx(0.2167, abs=1e-3))
    # shoot and log, on a phone, slightly differently
    phone = open_phone("camera", f"/shots/{shot.pk}/log")
    phone.get_by_role("tab", name=re.compile("Mill")).click()
    phone.get_by_role("button", name=re.compile("^Stop")).click()
    phone.get_by_role("button", name="8", exact=True).click()
    expect(phone.get_by_text("Not as planned: stop f/8")).to_be_visible()
    log_take(phone, 1)
    expect(phone.get_by_role("heading", name="Take 1: shows")).to_be_visible()
    expect(phone.get_by_text("(planned f/16)").first).to_be_visible()
    take = Take.objects.get()
    assert take.f_number == 8 and take.recorded_by.username == "camera"
    phone.get_by_role("button", name="Circle", exact=True).click()
    expect(phone.get_by_text("circled", exact=True)).to_be_visible()
    # decide: the verdict on what was shot stands beside the plan
    at(page, f"/shots/{shot.pk}/bench", "Will it show?")
    page.reload()
    expect(page.get_by_text("as shot, take 1")).to_be_visible()
    expect(page.get_by_role("button", name=re.compile("^Brightness"))).to_contain_text("2")
    page.get_by_role("radio", name="Planned").click()
    expect(page.get_by_text("0 show")).to_be_visible()
    # print
    page.get_by_role("link", name="Hand over").click()
    page.get_by_role("button", name="Make card, A4").first.click()
    expect(page.get_by_role("progressbar")).to_be_visible()
    work_off_the_queue()
    link = page.get_by_role("link", name="Open the card")
    expect(link).to_be_visible()
    pdf = page.request.get(link.get_attribute("href") or "")
    assert pdf.ok and pdf.body().startswith(b"%PDF")


def test_dragging_the_camera_answers_as_the_hand_moves_and_can_be_undone(open_bench: OpenPage, shot: Shot):
    page = open_bench("supervisor", shot)
    trials: list[str] = []
    page.on("request", lambda request: trials.append(request.url) if request.url.endswith("/trial") else None)
    handle = page.get_by_role("slider", name="Camera")
    box = box_of(handle)
    x, y = box["x"] + 20, box["y"] + 20
    page.mouse.move(x, y)
    page.mouse.down()
    page.mouse.move(x, y + 10, steps=4)
    row = page.get_by_role("button", name=re.compile("^Camera height"))
    expect(row).not_to_contain_text("0.35 m")
    assert trials and mill_set_up(shot).lens_height_m == 0.35
    page.mouse.up()
    expect(page.get_by_role("button", name="Undo")).to_be_enabled()
    saved(lambda: mill_set_up(shot).lens_height_m < 0.35, True)
    lowered = mill_set_up(shot).lens_height_m
    page.keyboard.press("Control+z")
    expect(row).to_contain_text("0.35 m")
    saved(lambda: mill_set_up(shot).lens_height_m, 0.35)
    page.keyboard.press("Control+Shift+z")
    expect(row).not_to_contain_text("0.35 m")
    saved(lambda: mill_set_up(shot).lens_height_m, pytest.approx(lowered))


def test_barrels_turn_by_thirds_and_take_typed_values(open_bench: OpenPage, shot: Shot):
    page = open_bench("supervisor", shot)
    stop = page.get_by_role("slider", name="Stop", exact=True)
    stop.focus()
    page.keyboard.press("ArrowRight")
    expect(page.get_by_label("Stop", exact=True).first).to_have_value("9")
    page.keyboard.press("Shift+ArrowRight")
    expect(page.get_by_label("Stop", exact=True).first).to_have_value("13")
    expect(page.get_by_role("button", name="Undo")).to_be_enabled()
    field = page.locator("input[id$='-field']").nth(1)
    field.fill("22")
    field.press("Enter")
    expect(stop).to_have_attribute("aria-valuetext", re.compile("f/22"))
    expect(page.locator("[data-dial=f_number]")).to_have_attribute("aria-valuenow", re.compile(r"^22\.62"))
    saved(
        lambda: mill_set_up(shot).f_number, pytest.approx(22.627, abs=0.001)
    )  # the engraved 22 stands for its exact value


def test_bad_input_says_so_at_the_field_and_nothing_is_lost(open_bench: OpenPage, shot: Shot):
    page = open_bench("supervisor", shot)
    focus = page.locator("input[id$='-field']").nth(2)
    focus.fill("0.1")
    focus.press("Enter")
    expect(page.get_by_role("alert")).to_contain_text("focuses from 0.3 m; 0.1 m was given")
    expect(page.get_by_role("alert")).to_be_in_viewport(ratio=0.95)  # the barrels make room for it
    expect(focus).to_have_attribute("aria-invalid", "true")
    expect(focus).to_have_value("0.1")  # what was typed stays to be mended
    focus.press("Escape")
    expect(focus).to_have_value("1")
    expect(page.get_by_role("alert")).to_have_count(0)
    focus.fill("near")
    focus.press("Enter")
    expect(page.get_by_role("alert")).to_contain_text("Focus must be a number; “near” was typed")
    expect(focus).to_have_value("near")
    saved(lambda: mill_set_up(shot).focus_distance_m, 1.0)
    focus.fill("1.2")
    focus.press("Enter")
    expect(page.get_by_role("alert")).to_have_count(0)
    expect(page.locator("[data-dial=focus_distance_m]")).to_have_attribute("aria-valuenow", "1.2")


@pytest.mark.usefixtures("deaf")
def test_two_people_on_one_shot(open_page: OpenPage, open_bench: OpenPage, shot: Shot):
    one, two = open_bench("supervisor", shot), open_bench("supervisor", shot)
    one.get_by_role("slider", name="ISO").or_(one.get_by_role("slider", name="Rate")).first.focus()
    one.keyboard.press("ArrowRight")
    expect(one.get_by_role("button", name="Undo")).to_be_enabled()
    two.get_by_role("slider", name="Stop", exact=True).focus()
    two.keyboard.press("ArrowRight")
    expect(two.get_by_role("alert")).to_contain_text(
        "Supervisor changed “Mill on the table” while you worked"
    )
    saved(lambda: mill_set_up(shot).f_number, 8)
    two.get_by_role("button", name="Save mine over it").click()
    expect(two.get_by_role("alert")).to_have_count(0)
    expect(two.get_by_role("button", name="Undo")).to_be_enabled()
    saved(lambda: mill_set_up(shot).f_number, pytest.approx(8.98, abs=0.01))
    saved(lambda: Change.objects.filter(write__shot=shot).count(), 2)


def offline(route: Route) -> None:
    route.abort("internetdisconnected")


def test_a_change_made_without_connection_is_kept_and_sent(open_bench: OpenPage, shot: Shot):
    page = open_bench("supervisor", shot, clock=True)
    page.route("**/api/**", offline)
    page.get_by_role("slider", name="Stop", exact=True).focus()
    page.keyboard.press("ArrowRight")
    expect(page.get_by_role("alert")).to_contain_text("1 change is kept here")
    page.unroute("**/api/**")
    later(page, RETRY_MS)
    expect(page.get_by_role("alert")).to_have_count(0)
    saved(lambda: mill_set_up(shot).f_number, pytest.approx(8.98, abs=0.01))


def test_a_take_logged_without_connection_is_never_lost_nor_doubled(open_phone: OpenPage, shot: Shot):
    phone = open_phone("camera", f"/shots/{shot.pk}/log")
    phone.get_by_role("tab", name=re.compile("Mill")).click()
    phone.route("**/api/**", offline)
    log_take(phone, 1)
    expect(phone.get_by_role("alert")).to_contain_text("one take is waiting to be sent")
    log_take(phone, 2)
    expect(phone.get_by_text("one take is waiting to be sent")).to_have_count(2)  # both are on the device
    saved(Take.objects.count, 0)
    phone.unroute("**/api/**")
    phone.reload()
    phone.get_by_role("tab", name=re.compile("Mill")).click()
    for number in (1, 2):
        expect(phone.get_by_role("heading", name=re.compile(f"^Take {number}"))).to_be_visible()
    expect(phone.get_by_role("alert")).to_have_count(0)
    expect(phone.get_by_role("button", name=re.compile("^Take 3"))).to_be_visible()
    saved(lambda: sorted(Take.objects.values_list("number", flat=True)), [1, 2])


def test_a_guest_cannot_write_and_a_stranger_sees_nothing(
    open_page: OpenPage, open_bench: OpenPage, shot: Shot
):
    guest = open_bench("runner", shot)
    expect(guest.get_by_role("slider", name="Stop", exact=True)).to_have_attribute("aria-disabled", "true")
    guest.get_by_role("button", name=re.compile("^Camera height")).click()
    expect(guest.get_by_role("button", name="Raise the model 0.217 m")).to_be_disabled()
    guest.goto(f"/#/shots/{shot.pk}/log")
    expect(guest.get_by_text("As planned")).to_be_visible()
    expect(guest.get_by_role("button", name=re.compile("^Take 1"))).to_have_count(0)
    stranger = open_page("stranger")
    expect(stranger.get_by_role("heading", name="You are in no production yet")).to_be_visible()
    expect(stranger.get_by_text("TM010")).to_have_count(0)
    stranger.goto(f"/#/shots/{shot.pk}/bench")
    expect(stranger.get_by_role("alert")).to_contain_text("not yours to see")


def test_signing_in_wrong_passwords_and_lock_out(open_page: OpenPage, shot: Shot):
    page = open_page("")
    for _ in range(5):
        page.get_by_label("Name").fill("supervisor")
        page.get_by_label("Password").fill("guess")
        page.get_by_role("button", name="Sign in").click()
        expect(page.get_by_role("alert")).to_be_visible()
        expect(page.get_by_role("button", name="Sign in")).to_be_enabled()
    page.get_by_role("button", name="Sign in").click()
    expect(page.get_by_role("alert")).to_contain_text("Wait 1 minute")
    page.get_by_label("Name").fill("runner")
    page.get_by_label("Password").fill(PRINTED)
    page.get_by_role("button", name="Sign in").click()
    expect(page.get_by_role("heading", name="The Tidemill")).to_be_visible()
    expect(page.get_by_role("button", name="Runner")).to_be_visible()


def test_units_theme_school_and_keys_follow_the_person(open_bench: OpenPage, shot: Shot):
    page = open_bench("supervisor", shot)
    page.get_by_role("radio", name="Covered").click()
    expect(page.get_by_role("button", name=re.compile("^Focus blur, back edge"))).to_contain_text("holds")
    page.get_by_role("radio", name="ft").first.click()
    expect(page.get_by_role("button", name=re.compile("^Camera height"))).to_contain_text(
        "13 3/4 in, wants 5 1/4 in"
    )
    page.get_by_role("button", name="Supervisor").click()
    page.get_by_role("radio", name="Daylight").click()
    expect(page.locator("html")).to_have_attribute("data-theme", "daylight")
    bench = page.url
    page.get_by_role("menuitem", name="Settings").click()
    page.get_by_role("group", name="Single-letter keys").get_by_role("radio", name="Off").click()
    saved(lambda: Person.objects.get(username="supervisor").single_keys, False)
    page.goto(bench)
    page.reload()
    expect(page.get_by_role("button", name=re.compile("^Camera height"))).to_contain_text("wants 5 1/4 in")
    page.keyboard.press("t")
    expect(page).to_have_url(re.compile("/bench$"))
    assert settings.DEBUG is False


def test_find_and_shortcuts(open_page: OpenPage, shot: Shot):
    page = open_page("supervisor")
    page.locator("[data-wall]", has_text="TM010").wait_for()
    page.keyboard.press("/")
    page.get_by_placeholder("Code, title").fill("heron")
    page.keyboard.press("Enter")
    expect(page.get_by_role("heading", name=re.compile("First steps"))).to_be_visible()
    page.keyboard.press("?")
    expect(page.get_by_role("dialog")).to_contain_text("undo · redo")
    page.keyboard.press("Escape")
    expect(page.get_by_role("dialog")).to_have_count(0)
    page.keyboard.press("g")
    page.keyboard.press("b")
    expect(page.get_by_role("heading", name="The Tidemill")).to_be_visible()


def test_no_automatic_accessibility_violations(open_page: OpenPage, open_phone: OpenPage, shot: Shot):
    page = open_page("supervisor", "/", "TM010")
    found = axe(page)
    at(page, f"/shots/{shot.pk}/bench", "Will it show?")
    page.get_by_role("button", name=re.compile("^Camera height")).click()
    page.get_by_role("button", name="why").click()
    found += axe(page, PANEL)
    page.keyboard.press("s")
    page.get_by_role("article").first.wait_for()
    found += axe(page)
    found += axe(at(page, "/hand-over", "Hand over"))
    found += axe(open_phone("camera", f"/shots/{shot.pk}/log", "As planned"))
    assert not found, "\n".join(found)


def test_a_take_says_what_it_said_and_how_it_stands_now(open_phone: OpenPage, shot: Shot):
    phone = open_phone("camera", f"/shots/{shot.pk}/log", "As planned.")
    phone.get_by_role("tab", name=re.compile("Mill")).click()
    phone.get_by_role("button", name=re.compile("^Take 1")).click()
    given = phone.get_by_role("article")
    expect(given).to_contain_text("judged")
    take = Take.objects.get()
    # the card went with it: nothing was filled from the plan
    assert take.filled == "" and take.shown is not None and take.planned == take.filmed
    perspective = given.get_by_role("listitem").filter(has_text="Perspective")
    expect(perspective).to_have_count(0)
    given.get_by_role("button", name="Judge it now").click()
    expect(given).to_contain_text("Nothing that matters has moved since.")
    with in_shot(Person.objects.get(username="supervisor"), shot.pk) as write:
        change_shot(
            write, EditSet(layers={take.layer_id: Edit(take.layer.version, {"scale": 6.0, "near_m": 20.0})})
        )
    given.get_by_role("button", name="close").click()
    given.get_by_role("button", name="Judge it now").click()
    expect(perspective).to_have_count(1)
    expect(perspective).to_contain_text("→")


def test_a_card_that_could_not_be_made_is_tried_again(open_page: OpenPage, shot: Shot):
    person = Person.objects.get(username="supervisor")
    said = "Shot card of TM010 could not be made. Try again."
    Job.objects.create(
        kind="card",
        title="Shot card of TM010",
        production_id=shot.production_id,
        shot=shot,
        asked_by=person,
        arguments={"paper": "letter"},
        state="failed",
        message=said,
    )
    page = open_page("supervisor", "/hand-over", said)
    page.get_by_role("button", name="Try again").click()
    expect(page.get_by_role("progressbar")).to_be_visible()
    again = Job.objects.filter(state="waiting").get()
    done(again.pk)
    link = page.get_by_role("link", name="Open the card")
    expect(link).to_be_visible()
    assert pages_of(page.request.get(link.get_attribute("href") or "").body())[0].size == (
        612,
        792,
    ), "on the paper that was asked for first"
