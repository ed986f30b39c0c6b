"""Rigs at the desk: one with a motor turned and stopped from there, one that carries the camera."""

from __future__ import annotations

import re

from playwright.sync_api import expect

from jungoptic.app.frames.models import Exposure, Rig
from jungoptic.app.jobs.models import Job
from jungoptic.app.shots.models import Shot

from .conftest import OpenPage, axe, choose, overflow, saved, work_off_the_queue
from .test_frames import TO_COME, sheet, take


def rig() -> Rig:
    return sheet().rigs.get()


def test_a_motor_is_asked_for_stopped_before_it_goes_and_turned(open_page: OpenPage, shot: Shot):
    page = open_page("camera", f"/frames/{sheet().pk}", "First steps")
    track = page.get_by_role("region", name="Track under the Heron")
    track.get_by_text("Gears and ways").click()
    track.get_by_label("Has a motor").check()
    saved(lambda: rig().driven, True)
    expect(track).to_contain_text("Hands, hair and sleeves off")
    stands = track.get_by_label("Stands at, turns")
    stands.fill("-1")
    stands.press("Enter")
    saved(lambda: rig().stands, -10)
    track.get_by_role("button", name="Turn it").click()
    # what has not begun is stopped at once, and nothing was turned
    track.get_by_role("button", name="Stop it").click()
    saved(Job.objects.filter(kind="turn_rig", state="stopped").count, 1)
    saved(lambda: rig().stands, -10)
    track.get_by_role("button", name="Turn it").click()
    saved(Job.objects.filter(kind="turn_rig").count, 2)
    work_off_the_queue()
    saved(lambda: rig().stands, 0)
    expect(track).to_contain_text("Stands for frame 1: at no turn.")
    assert axe(page) == [] and overflow(page) <= 0


def test_a_camera_on_its_rig_is_told_off_its_way_and_asked_for_its_crank(open_page: OpenPage, shot: Shot):
    Rig.objects.filter(sheet=sheet()).update(
        carries="camera_right",
        legs=[{"mm": 12.0, "start_frame": 1, "end_frame": 13, "ease_in_frames": 0, "ease_out_frames": 0}],
    )
    page = open_page("camera", f"/frames/{sheet().pk}", "First steps")
    track = page.get_by_role("region", name="Track under the Heron")
    choose(page.get_by_label("Camera", exact=True).first, "simulated camera")
    expect(page.get_by_role("img", name="The picture: live, for frame 1")).to_be_visible(timeout=TO_COME)
    take(page, 1)
    expect(track).to_contain_text("for frame 2, to 5 turns")
    track.get_by_role("button", name="Turned").click()
    saved(lambda: rig().stands, 50)
    take(page, 2)
    side = page.get_by_role("complementary", name="Desk")
    expect(side.get_by_role("row", name=re.compile("^off its way of px"))).to_be_visible()
    # nobody turned it: the picture stands where it stood
    take(page, 3)
    expect(side).to_contain_text("was its crank turned?", timeout=TO_COME)
    assert Exposure.objects.count() == 3
    assert axe(page) == [] and overflow(page) <= 0
