"""A film of one's own: begun by a stranger, a friend invited, the film changed and what would be judged
otherwise; one's own settings.
"""

from __future__ import annotations

import io
import re
from pathlib import Path

import pytest
from PIL import Image
from playwright.sync_api import Page, expect

from jungoptic.app.people.models import Person
from jungoptic.app.productions.models import Invitation, Membership, Production
from jungoptic.app.shots.cut import change_line
from jungoptic.app.shots.models import Shot
from jungoptic.app.shots.writing import in_shot

from .conftest import OpenPage, at, axe, choose, overflow, saved

pytestmark = pytest.mark.browser
PASSWORD = "a boathouse in october"


def begin(page: Page, title: str) -> Production:
    page.get_by_label("Title").fill(title)
    page.get_by_role("button", name="Turn upright").click()
    page.get_by_label("Rate, typed").fill("23.98")
    page.keyboard.press("Tab")
    expect(page.get_by_text("24000/1001 frames/s exactly")).to_be_visible()
    page.get_by_role("button", name="Begin it").click()
    expect(page.get_by_text("Nothing is in the kit yet")).to_be_visible()
    return Production.objects.get(title=title)


def test_a_stranger_begins_a_film_and_a_friend_comes_in_once(
    open_page: OpenPage, open_phone: OpenPage, shot: Shot
):
    page = open_page("stranger", "/", "You are in no production yet")
    page.get_by_role("link", name="Begin a film").click()
    film = begin(page, "The Salt Road")
    assert (film.delivery_width_px, film.frame_rate_fps) == (1080, 24000 / 1001)
    expect(page.get_by_role("button", name="Production: ")).to_have_text(re.compile("The Salt Road"))
    page.get_by_role("link", name="invited").click()
    page.get_by_label("Whom you invite").fill("Ilse")
    page.get_by_role("button", name="Invite", exact=True).click()
    address = page.get_by_label("Address of the invitation").input_value()
    expect(page.get_by_role("img", name="Code of the address").locator("svg")).to_be_visible()

    friend = open_phone("")
    friend.goto(address)
    expect(friend.get_by_text("invites you to The Salt Road, as crew")).to_be_visible()
    assert overflow(friend) <= 0 and axe(friend) == []
    friend.get_by_label("Name to sign in with").fill("ilse")
    friend.get_by_label("Password").fill("short")
    friend.get_by_role("button", name="Make the account").click()
    expect(friend.get_by_role("alert")).to_contain_text("at least 10 characters")
    friend.get_by_label("Password").fill(PASSWORD)
    friend.get_by_role("button", name="Make the account").click()
    expect(friend.get_by_role("heading", name="No shots yet")).to_be_visible()
    assert Membership.objects.get(production=film, person__username="ilse").role == "crew"

    expect(page.get_by_role("cell", name="ilse", exact=True)).to_be_visible()  # told while it happened
    late = open_page("")
    late.goto(address)
    expect(late.get_by_role("alert")).to_contain_text("of no use any more")
    page.get_by_role("button", name="Take out ilse").click()
    page.get_by_role("button", name="Take out", exact=True).click()
    saved(lambda: Membership.objects.get(production=film, person__username="ilse").removed, True)
    page.keyboard.press("Control+z")
    saved(lambda: Membership.objects.get(production=film, person__username="ilse").removed, False)


def test_who_has_an_account_signs_in_and_joins(open_page: OpenPage, shot: Shot):
    page = open_page("supervisor", "/production/people", "Invitations")
    choose(page.get_by_label("As what"), "as guest")
    page.get_by_role("button", name="Invite", exact=True).click()
    address = page.get_by_label("Address of the invitation").input_value()
    page.get_by_role("button", name="Done").click()
    expect(page.get_by_label("Address of the invitation")).to_have_count(0)
    other = open_page("")
    other.goto(address)
    other.get_by_role("button", name="Sign in with it").click()
    other.get_by_label("Name").fill("stranger")
    other.get_by_label("Password").fill("tidemill-demo")
    other.keyboard.press("Enter")
    other.get_by_role("button", name="Come in as Stranger").click()
    expect(other.get_by_text("TM010").first).to_be_visible()
    assert Invitation.objects.get(used_by__username="stranger").role == "guest"


def test_the_last_supervisor_is_told_why_they_cannot_go(open_page: OpenPage, shot: Shot):
    page = open_page("supervisor", "/production/people", "Invitations")
    page.get_by_role("button", name="Leave the production").click()
    page.get_by_role("button", name="Leave", exact=True).click()
    expect(page.get_by_role("alert")).to_contain_text("is the only supervisor")


def test_a_delivery_is_tried_before_it_is_saved(open_page: OpenPage, shot: Shot):
    page = open_page("supervisor", "/production/film", "megapixels")
    choose(page.get_by_label("Size of the delivery"), "3840 × 2160 UHD, 16:9")
    said = page.get_by_role("region", name="What would be judged otherwise")
    expect(said.get_by_text(re.compile(r"^\d+ shots would be judged otherwise"))).to_be_visible()
    expect(said.get_by_role("row", name=re.compile("TM010"))).to_contain_text("→")
    expect(page.get_by_text("8.29 megapixels")).to_be_visible()
    production = Production.objects.get(pk=shot.production_id)
    assert production.delivery_width_px == 1920
    assert axe(page) == [] and overflow(page) <= 0
    said.get_by_role("button", name="Leave it").click()
    expect(page.get_by_label("Width, px")).to_have_value("1920")
    page.get_by_role("button", name="Turn upright").click()
    said.get_by_role("button", name="Save it").click()
    saved(lambda: Production.objects.get(pk=production.pk).delivery_width_px, 1080)
    page.keyboard.press("Control+z")
    saved(lambda: Production.objects.get(pk=production.pk).delivery_width_px, 1920)


def test_what_is_wrong_stands_at_its_field_and_what_is_right_is_kept(open_page: OpenPage, shot: Shot):
    page = open_page("supervisor", "/production/film", "megapixels")
    page.get_by_label("Time zone").fill("Europe/Londn")
    page.keyboard.press("Tab")
    expect(page.get_by_role("alert")).to_contain_text("no time zone “Europe/Londn”")
    page.get_by_label("Time zone").fill("Europe/Lisbon")
    page.keyboard.press("Tab")
    saved(lambda: Production.objects.get(pk=shot.production_id).time_zone, "Europe/Lisbon")
    expect(page.get_by_role("alert")).to_have_count(0)


def test_a_place_comes_from_a_photograph_only_when_one_says_so(
    open_page: OpenPage, shot: Shot, tmp_path: Path
):
    exif = Image.Exif()
    exif[0x8825] = {1: "N", 2: (10.0, 30.0, 0.0), 3: "E", 4: (20.0, 15.0, 0.0)}
    out = io.BytesIO()
    Image.new("RGB", (64, 48)).save(out, "JPEG", exif=exif)
    (tmp_path / "quay.jpg").write_bytes(out.getvalue())
    page = open_page("supervisor", "/production/film", "megapixels")
    page.get_by_label("Photograph that says where it was taken").set_input_files(tmp_path / "quay.jpg")
    expect(page.get_by_text("10.5000, 20.2500")).to_be_visible()
    assert Production.objects.get(pk=shot.production_id).latitude_deg == 54.3
    page.get_by_role("button", name="Use this place").click()
    page.get_by_role("button", name="Save it").click()
    saved(lambda: Production.objects.get(pk=shot.production_id).latitude_deg, 10.5)


def test_a_film_is_put_away_and_brought_back(open_page: OpenPage, shot: Shot):
    page = open_page("supervisor", "/production/film", "megapixels")
    page.get_by_role("button", name="Put it away").click()
    expect(page.get_by_text("This film is put away")).to_be_visible()
    page.get_by_role("button", name="Bring it back").click()
    saved(lambda: Production.objects.get(pk=shot.production_id).put_away, False)


def test_ones_own_settings(open_page: OpenPage, shot: Shot):
    page = open_page("camera", "/settings", "Settings of Camera")
    assert axe(page) == [] and overflow(page) <= 0
    choose(page.get_by_label("The week begins on"), "Sunday")
    page.get_by_label("Dates in").click()
    page.get_by_role("option", name=re.compile("^Deutsch: ")).click()
    saved(lambda: Person.objects.get(username="camera").dates, "de")
    page.get_by_label("Name", exact=True).fill("Jo")
    page.keyboard.press("Tab")
    expect(page.get_by_role("heading", name="Settings of Jo")).to_be_visible()
    page.get_by_label("The one that you have now").fill("wrong")
    page.get_by_label("The new one").fill(PASSWORD)
    page.get_by_role("button", name="Change it").click()
    expect(page.get_by_role("alert")).to_contain_text("not the password that you have now")
    page.get_by_label("The one that you have now").fill("tidemill-demo")
    page.get_by_role("button", name="Change it").click()
    expect(page.get_by_text("Every other device is signed out.")).to_be_visible()
    with in_shot(Person.objects.get(username="supervisor"), shot.pk) as write:
        change_line(write, Shot.objects.get(pk=shot.pk), {"title": "At dusk"})
    at(page, "/history", "At dusk")
    german = "Montag|Dienstag|Mittwoch|Donnerstag|Freitag|Samstag|Sonntag"
    expect(page.get_by_role("heading", name=re.compile(german))).to_be_visible()
