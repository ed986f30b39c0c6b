"""A live picture held against the one that it should be: the dials that are off, by known truth."""

from __future__ import annotations

import cv2
import numpy as np
import pytest

from jungoptic.core.example import ACTOR, DELIVERY, HERO, MILL, MODEL, ON_GREEN
from jungoptic.core.match import Match, Off, off_view
from jungoptic.core.measure import registered, textured
from jungoptic.core.plan import (
    Laying,
    NothingSharedError,
    gate_in_frame,
    in_recorded,
    in_the_set,
    line_up,
    lined_up,
    reference_of,
)
from jungoptic.core.stage import LIVE_FAULTS, LiveCamera
from jungoptic.core.wording import Words

WIDE = 640
ON_TABLE = Match(HERO, MILL, MODEL.but(distortion_pct=-2.0, vignetting_stops=0.6), DELIVERY)
BEFORE_SHEET = Match(HERO, ACTOR, ON_GREEN, DELIVERY)
METRIC = Words("metric")


def against(match: Match, camera: LiveCamera, live: np.ndarray, **how: object):
    laying = Laying(match, WIDE)
    held = reference_of(match, laying, camera.picture(Off(), 0)[..., 1])
    return line_up(match, laying, held, live, METRIC, **how)


def told(match: Match, off: Off, *, zooms: bool = False, number: int = 7, **how: object):
    camera = LiveCamera(match, WIDE, **how)
    return against(match, camera, camera.picture(off, number)[..., 1], zooms=zooms)


def middle_gone(match: Match, off: Off) -> np.ndarray:
    """Where the direction of the frame's middle is for a camera that is turned: by OpenCV, on its own."""
    planned, turned = off_view(match, Off()), off_view(match, off)
    axes = np.diag([1.0, -1.0, 1.0])  # ours goes up, theirs down
    turn = cv2.Rodrigues(axes @ turned.turn @ axes)[0]
    there = (planned.turn.T @ [-planned.shift_px[0], planned.shift_px[1], planned.focal_px])[None]
    lens = np.array([[turned.focal_px, 0, 0], [0, turned.focal_px, 0], [0, 0, 1.0]])
    seen = cv2.projectPoints(there @ axes, turn, np.zeros(3), lens, None)[0].ravel()
    return seen + planned.shift_px


@pytest.mark.parametrize(
    "off",
    [
        Off(pan=0.03),
        Off(pan=0.5, tilt=-0.3, roll=0.4),
        Off(pan=-2.0, tilt=1.0, roll=-2.0),
        Off(pan=0.4, zoom=0.03),
    ],
)
@pytest.mark.parametrize("match", [ON_TABLE, BEFORE_SHEET], ids=["on its table", "before a sheet"])
def test_a_turned_camera_is_told_within_three_tenths_of_a_pixel(match: Match, off: Off):
    found = told(match, off, zooms=bool(off.zoom)).measured
    gone = middle_gone(match, off)
    assert np.hypot(*(found.shift_px - gone)) < max(0.3, found.within_px)
    assert found.within_px < 0.3
    amounts = {each.dial: each.amount for each in found.dials}
    for dial in ("pan", "tilt", "roll"):
        assert amounts.get(dial, 0.0) == pytest.approx(getattr(off, dial), abs=0.03)
    assert amounts.get("zoom", 0.0) == pytest.approx(off.zoom, abs=3e-4)


@pytest.mark.parametrize(
    ("off", "to_do"),
    [
        (Off(forward=0.02), "Move it 20 mm back"),
        (Off(aside=0.02, pan=-1.0), "Move it 20 mm to the left"),
        (Off(up=-0.015), "Raise it 15 mm"),
    ],
)
def test_a_camera_that_stands_elsewhere_is_told_from_one_that_is_turned(off: Off, to_do: str):
    found = told(ON_TABLE, off)
    moved = {each.dial: each.amount for each in found.measured.dials}
    for dial in ("aside", "up", "forward"):
        assert moved.get(dial, 0.0) == pytest.approx(getattr(off, dial), abs=0.0012)
    assert moved.get("pan", 0.0) == pytest.approx(off.pan, abs=0.06)
    said = next(each.to_do for each in found.turns if each.dial in ("aside", "up", "forward"))
    assert said.split()[:2] == to_do.split()[:2] and said.split()[3:] == to_do.split()[3:]


def test_it_holds_when_it_stands_as_planned_and_says_what_to_turn_first_when_not():
    assert told(ON_TABLE, Off()).verdict == "holds"
    assert told(ON_TABLE, Off()).turns == ()
    found = told(ON_TABLE, Off(pan=0.1, tilt=0.6))
    assert [each.to_do for each in found.turns] == ["Tilt 0.60° down", "Pan 0.10° to the left"]
    assert found.verdict == "shows" and found.turns[0].px > found.turns[1].px
    zoomed = told(ON_TABLE, Off(zoom=0.05), zooms=True)
    assert zoomed.turns[0].to_do == "Zoom to 35 mm: it stands at 36.8"
    assert told(ON_TABLE, Off(roll=0.5)).turns[0].to_do == "Roll 0.50° to the left"


@pytest.mark.parametrize("fault", LIVE_FAULTS)
def test_every_fault_of_the_simulated_camera_by_itself(fault):
    off, bends = Off(pan=0.2, roll=0.2), {"distortion": {"distortion_pct": 3}, "softness": {"f_number": 2.8}}
    match = Match(HERO, MILL, MODEL.but(vignetting_stops=1, **bends.get(fault, {})), DELIVERY)
    found = told(match, off, faults=[fault], number=3).measured  # what is nudged was nudged before too
    assert np.hypot(*(found.shift_px - middle_gone(match, off))) < 0.3
    plain, faulty = (LiveCamera(match, WIDE, faults=which) for which in ([], [fault]))
    assert not np.array_equal(plain.picture(off, 53), faulty.picture(off, 53))
    assert np.array_equal(faulty.picture(off, 53), faulty.picture(off, 53))


def test_somebody_who_walks_through_changes_nothing():
    camera = LiveCamera(ON_TABLE, WIDE)
    off = Off(pan=0.4, roll=0.3)
    live = camera.picture(off, 7)[..., 1].copy()
    rng = np.random.default_rng(3)
    live[150:, 250:370] = cv2.blur(rng.integers(0, 255, (live.shape[0] - 150, 120)).astype(np.uint8), (5, 5))
    found = against(ON_TABLE, camera, live).measured
    assert np.hypot(*(found.shift_px - middle_gone(ON_TABLE, off))) < 0.3


def test_pictures_of_different_things_are_said_to_share_nothing():
    on_table, before_sheet = (LiveCamera(match, WIDE) for match in (ON_TABLE, BEFORE_SHEET))
    grey = np.full((405, WIDE), 90, np.uint8)
    for live in (before_sheet.picture(Off(pan=3), 1)[..., 1], grey):
        with pytest.raises(NothingSharedError, match="in both pictures"):
            against(ON_TABLE, on_table, live)
    with pytest.raises(ValueError, match="not as large"):
        registered(textured(grey), grey[:, :-2])


def test_a_feed_of_any_size_is_laid_alike_and_what_it_does_not_reach_is_not_counted():
    camera = LiveCamera(ON_TABLE, WIDE)
    live = camera.picture(Off(pan=0.5), 7)[..., 1]
    large = cv2.resize(live, None, fx=2, fy=2, interpolation=cv2.INTER_CUBIC)
    found, again = (against(ON_TABLE, camera, each).measured for each in (live, large))
    assert again.shift_px == pytest.approx(found.shift_px, abs=0.1)
    cropped = Match(HERO, MILL.but(resize=0.8), MODEL, DELIVERY)
    left, top, width, height = gate_in_frame(cropped)
    across = min(left + width, DELIVERY.width_px) - max(left, 0.0)
    down = min(top + height, DELIVERY.height_px) - max(top, 0.0)
    covered = Laying(cropped, WIDE).lay(live)[1]
    share = across * down / (DELIVERY.width_px * DELIVERY.height_px)
    assert share < 0.95
    assert (covered > 0).mean() == pytest.approx(share, abs=0.01)


def test_a_frame_of_another_layer_that_the_same_camera_films_serves_too():
    near = Match(HERO, MILL.but(scale=1), HERO, DELIVERY)
    plate = Match(HERO, MILL.but(scale=1, near_m=20), HERO.but(distance_m=20), DELIVERY)
    camera = LiveCamera(near, WIDE)
    held = reference_of(near, Laying(near, WIDE), camera.picture(Off(), 0)[..., 1])
    live = camera.picture(Off(pan=0.5), 5)[..., 1]
    found = line_up(plate, Laying(plate, WIDE), held, live, METRIC)
    assert [each.to_do for each in found.turns] == ["Pan 0.50° to the left"]


def test_where_things_stand_is_where_the_camera_shows_them():
    places = in_the_set(ON_TABLE, np.random.default_rng(2).uniform((5, 5), (1900, 1070), (200, 2)))
    seen = off_view(ON_TABLE, Off()).seen(places, 1920, 1080)
    again = in_the_set(ON_TABLE, seen)
    assert np.allclose(places, again, atol=1e-3 * np.maximum(places[:, 2:], 1.0))
    assert (np.abs(places[:, 1]) < 1e-6).any() and (places[:, 1] > 0.1).any()
    with pytest.raises(NothingSharedError):
        lined_up(ON_TABLE, places[:5], seen[:5], 5)


@pytest.mark.parametrize("bend_pct", [-3.0, 2.5])
def test_where_a_lens_bends_a_place_to_is_what_opencv_says(bend_pct: float):
    match = Match(HERO, MILL, MODEL.but(distortion_pct=bend_pct), DELIVERY)
    left, top, wide, high = gate_in_frame(match)
    places = np.stack(np.meshgrid(np.linspace(0, 1920, 7), np.linspace(0, 1080, 5)), -1).reshape(-1, 2)
    out = np.column_stack([(places - (left + wide / 2, top + high / 2)) / wide, np.ones(len(places))])
    gate = MODEL.gate_width_mm, MODEL.gate_height_mm
    corner = MODEL.measured_on_mm * np.hypot(1, gate[1] / gate[0]) / 2 / gate[0]  # of widths of the gate
    first = np.array([bend_pct / 100 / corner**2, 0, 0, 0])
    seen = cv2.projectPoints(out, np.zeros(3), np.zeros(3), np.eye(3), first)[0].reshape(-1, 2)
    assert in_recorded(match, places) == pytest.approx(seen * (1, wide / high) + 0.5, abs=1e-9)
