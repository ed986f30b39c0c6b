"""A set built up again at the desk: live against the frame by which it was left, until all of it holds."""

from __future__ import annotations

import re

import pytest
from playwright.sync_api import expect

from jungoptic.app.frames.models import Exposure, Piece
from jungoptic.app.shots.models import Shot

from .conftest import OpenPage, axe, choose, overflow
from .test_frames import TO_COME, sheet, take

pytestmark = pytest.mark.browser


def test_what_is_off_goes_back_until_it_stands_as_it_was_left(open_page: OpenPage, shot: Shot):
    Piece.objects.create(sheet=sheet(), name="The post", box=[0.1, 0.6, 0.3, 0.95])
    page = open_page("camera", f"/frames/{sheet().pk}", "First steps")
    built = page.get_by_role("region", name="Build it up again")
    expect(built).to_have_count(0)  # nothing was left yet
    choose(page.get_by_label("Camera", exact=True).first, "simulated camera")
    expect(page.get_by_role("img", name="The picture: live, for frame 1")).to_be_visible(timeout=TO_COME)
    take(page, 1)
    # three weeks later: the tripod stands elsewhere, and the lamp is higher
    page.get_by_label("a nudge").check()
    page.get_by_label("a lamp up").check()
    built.get_by_role("button", name="Build it up by frame 1").click()
    expect(built.get_by_role("button", name="It stands: end")).to_be_focused()
    said = built.get_by_role("status")
    expect(said).to_contain_text("are off", timeout=TO_COME)
    expect(built).to_contain_text(re.compile(r"pan right by 0\.(8|7[5-9]|8\d) px"), timeout=TO_COME)
    expect(built).to_contain_text("take 0.05 stop off")
    expect(built).to_contain_text("The post")
    assert axe(page) == [] and overflow(page) <= 0
    page.get_by_label("a nudge").uncheck()
    page.get_by_label("a lamp up").uncheck()
    expect(said).to_contain_text("It stands as it was left", timeout=TO_COME)
    built.get_by_role("button", name="It stands: end").click()
    expect(said).to_have_count(0)
    assert Exposure.objects.count() == 1, "nothing was kept of it"
    choose(page.get_by_label("Camera", exact=True).first, "no camera")
