"""Edges, grain, keys, crossings, seams, patches, hand mattes and movement of known size."""

import numpy as np
import pytest
from scipy import ndimage
from scipy.special import erf
from skimage.draw import polygon
from skimage.restoration import estimate_sigma

from jungoptic.core.measure import (
    Changes,
    MovementWatch,
    PointWatch,
    Watched,
    best_patch,
    best_seam,
    brightness,
    differs,
    edge_of,
    edges_found,
    grain_of_frames,
    grain_of_still,
    keyed,
    linear,
    matte_keys,
    wobble_of_path,
)
from jungoptic.core.rushes import Sized, in_words
from tests.core.filmed import PHOTOGRAPHS, Tried, cases, laid, noised, photograph, recorded, through_h264


def test_an_edge_of_known_spread_is_that_wide_whichever_way_it_runs():
    """e-SFR of ISO 12233: a Gaussian edge of deviation σ over square pixels; 10 to 90 % are
    2.563·√(σ² + 1/12), half of the contrast is left at √(ln 2/2)/π/σ cycles a pixel.
    """
    tried = Tried()
    for index, dice, _, quality in cases(60):
        sigma, way = dice.uniform(0.7, 4.0), np.radians(dice.uniform(0, 180))
        y, x = np.mgrid[0:320, 0:320] / 4.0 - 40.0
        across = x * np.cos(way) + y * np.sin(way)
        edge = (0.35 + 0.25 * erf(across / np.sqrt(2) / sigma)).reshape(80, 4, 80, 4).mean((1, 3))
        light = np.repeat(edge[..., None], 3, 2)
        spread = np.sqrt(sigma**2 + 1 / 12)
        raw = edge_of(noised(light, 0.03, index)[..., 1])
        tried.add("raw", raw.spread_px / (2.5631 * spread), 1, raw.off_px / (2.5631 * spread))
        coded = edge_of(recorded(light, quality, index)[..., 1])
        tried.add("coded", coded.spread_px / (2.5631 * spread), 1, coded.off_px / (2.5631 * spread))
        if sigma > 1:
            tried.add("mtf", raw.mtf50 * np.pi * spread / np.sqrt(np.log(2) / 2), 1, 0.06)
    tried.hold(raw=0.05, coded=0.05, mtf=0.05)


def test_grain_of_known_size_is_measured_and_agrees_with_a_library():
    tried = Tried()
    for index, dice, name, _ in cases(12):
        sigma = dice.uniform(0.01, 0.06)
        base = 0.5 * laid(photograph(name))[..., 1]
        frames = [noised(base, sigma, 100 * index + n) for n in range(6)]
        seen = grain_of_frames(frames)
        tried.add("frames", seen.at_grey / sigma, 1, seen.off / sigma)
    tried.hold(frames=0.05)
    flat = 0.18 * (1 + 0.02 * np.random.default_rng(1).standard_normal((300, 400)))
    assert grain_of_still(flat).at_grey * 0.18 == pytest.approx(estimate_sigma(flat), rel=0.12)
    assert np.std(flat) == pytest.approx(0.18 * 0.02, rel=0.02)


def subject(soft: float) -> np.ndarray:
    y, x = np.mgrid[0:360, 0:640]
    solid = ((x - 320) ** 2 / 100**2 + (y - 150) ** 2 / 110**2 < 1) | ((abs(x - 320) < 50) & (y > 150))
    return ndimage.gaussian_filter(solid.astype(float), soft)[..., None]


def test_a_matte_is_as_it_was_mixed():
    """Porter & Duff's *over*, in linear light, of a known matte."""
    tried = Tried()
    x = np.arange(640)
    for index, dice, name, quality in cases(8):
        soft = dice.uniform(0.8, 3.0)
        matte = subject(soft)
        colour = np.array([0.06, 0.42, 0.10] if index % 2 else [0.05, 0.12, 0.4])
        sheet = colour * (2.0 ** (-0.3 * ((x - 200) / 640.0) ** 2))[None, :, None] * np.ones((360, 1, 1))
        mixed = matte * (0.7 * laid(photograph(name)) + 0.01) + (1 - matte) * sheet
        seen, plate = recorded(mixed, quality, index), recorded(sheet, quality, index + 70)
        backing = np.broadcast_to(x < 100, seen.shape[:2])
        for way, clean in (("colour", None), ("clean", plate)):
            told = keyed(seen, backing, clean=clean)
            tried.add(way, float(np.abs(told.matte - matte[..., 0]).mean()), 0, 0.02)
            assert told.keys in ("keys", "loose") and told.remains < 0.005
        tried.add("edge", told.edge_px, 2.5631 * soft, told.edge_off_px)
    tried.hold(colour=0.02, clean=0.02)


def test_what_is_like_its_backing_does_not_key():
    matte = subject(1.5)
    sheet = np.full((360, 640, 3), (0.06, 0.42, 0.10))
    shirt = 0.9 * sheet + 0.1 * laid(photograph("coffee"))
    seen = recorded(matte * shirt + (1 - matte) * sheet, 14, 1)
    marked = np.broadcast_to(np.arange(640) < 100, (360, 640))
    assert keyed(seen, marked, subject=matte[..., 0] > 0.99).keys == "hand"
    with pytest.raises(ValueError, match="unlike the backing"):
        keyed(recorded(sheet, 14, 1), marked)


def walks(across: float, crosses: bool, dice: np.random.Generator) -> tuple[list[np.ndarray], set[int]]:
    """A block that comes towards a line, and over it or not; the frames in which it is on the line."""
    base = 0.5 * laid(photograph(PHOTOGRAPHS[int(dice.integers(6))]))
    lum, wide, top = (0.4 if base.mean() < 0.2 else 0.03), dice.uniform(24, 50), int(dice.uniform(30, 280))
    clip, on = [], set()
    for frame in range(20):
        middle = across * 640 - 200 + (400 if crosses else 140) * frame / 19
        picture = base * 2 ** (0.02 * np.sin(1.7 * frame))  # light that flickers crosses nothing
        left, right = (int(np.clip(middle + side * wide / 2, 0, 640)) for side in (-1, 1))
        picture[top : top + 70, left:right] = lum
        clip.append(picture)
        if abs(middle - across * 640) < wide / 2:
            on.add(frame)
    return clip, on


@pytest.mark.parametrize("index", range(12))
def test_nobody_who_crosses_is_missed_and_nobody_else_is_told(index):
    dice = np.random.default_rng(index)
    across = dice.uniform(0.35, 0.65)
    clip, on = walks(across, index % 3 != 0, dice)
    watched = Watched([(across, 0.0), (across, 1.0)], (360, 640))
    for seen in through_h264([noised(each, 0.03, n) for n, each in enumerate(clip)], 14 + 10 * (index % 2)):
        watched.add(brightness(linear(seen)))
    told = {frame for each in watched.crossings() for frame in range(each.first, each.last + 1)}
    assert on <= told
    assert all(any(abs(frame - there) <= 1 for there in on) for frame in told)


def test_a_seam_goes_where_nothing_happens_in_either_half():
    dice = np.random.default_rng(4)
    clip, _ = walks(0.4, False, dice)  # stays left of 0.4
    changes = Changes()
    for n, each in enumerate(clip):
        changes.add(brightness(noised(each, 0.01, n)))
    seam = best_seam(changes.stops())
    assert seam.straight and all(x > 0.36 for x, _ in seam.line) and seam.change_stops < 0.1
    rows, columns = np.mgrid[0:100, 0:200]
    blocked = np.where(np.abs(columns - 130 + 0.6 * rows) < 12, 0.0, 1.0)
    bent = best_seam(blocked)
    assert not bent.straight and bent.line[0][0] > 0.6 and bent.line[-1][0] < 0.45
    assert bent.change_stops == 0


def test_a_rod_is_covered_by_the_neighbour_that_shows_what_it_hides():
    whole = photograph("gravel")
    frames = {n: 0.5 * laid(whole, (1.5 * n, 0.0))[..., 1] for n in range(-3, 4)}
    rod = frames.pop(0).copy()
    rod[120:220, 300:320] = 0.9
    best = best_patch(rod, (298, 118, 24, 104), frames)[0]
    assert best.covers and best.shift_px == pytest.approx((1.5 * best.frame, 0.0), abs=0.2)


def test_an_outline_that_goes_straight_wants_few_keys_and_one_that_jumps_many():
    plate = 0.4 * laid(photograph("coffee"))

    def masks(path):
        for x, y in path:
            frame = plate.copy()
            frame[y : y + 80, x : x + 60] = 0.9
            yield differs(noised(frame, 0.02, x), noised(plate, 0.02, y))

    straight = matte_keys(list(masks((60 + 20 * n, 100) for n in range(20))))
    jumps = matte_keys(list(masks((60 + 20 * n, 100 + 25 * (n % 2)) for n in range(20))))
    assert len(straight.keys) <= 3 and len(jumps.keys) >= 15
    assert straight.hours(6.0) == pytest.approx(len(straight.keys) * 0.1)


def test_the_fastest_thing_is_as_fast_as_it_is_and_a_wheel_comes_round():
    tried = Tried()
    for index, dice, name, quality in cases(8):
        speed, base = dice.uniform(2, 24), 0.5 * laid(photograph(name))
        thing = 0.6 * laid(photograph(PHOTOGRAPHS[(index + 2) % 6]))[100:220, 100:221]
        clip = []
        for frame in range(4):
            whole, part = divmod(100 + speed * frame, 1.0)
            picture = base.copy()
            picture[140:260, int(whole) : int(whole) + 120] = ndimage.shift(thing, (0, part, 0))[:, 1:]
            clip.append(noised(picture, 0.03, 10 * index + frame))
        watch = MovementWatch()
        for seen in through_h264(clip, quality):
            watch.add(np.clip(255 * np.sqrt(brightness(linear(seen))), 0, 255).astype(np.uint8))
        motion = watch.motion()
        tried.add("fastest", motion.most_px, speed, motion.off_px)
    tried.hold(fastest=1.5)
    y, x = np.mgrid[0:120, 0:120] - 59.5
    wheel = MovementWatch()
    for frame in range(60):
        angle = np.arctan2(y, x) - 2 * np.pi * frame / 16.5
        wheel.add(np.uint8(120 + 100 * np.cos(angle) * (np.hypot(x, y) < 50)))
    assert wheel.motion().turn_frames == pytest.approx(16.5, abs=0.2)


def test_light_that_comes_and_goes_moves_nothing():
    """Over a plain wall, where a flow goes anywhere: beside what really goes it counts for nothing."""
    wall = 0.15 + 0.1 * np.mgrid[0:360, 0:640][1][..., None] / 640 * np.ones(3)
    wall[200:, :200] = 0.3 * laid(photograph("coffee"))[200:, :200]
    thing = 0.3 * laid(photograph("gravel"))[100:160, 100:160]
    for goes in (0, 9):
        watch = MovementWatch()
        lit = [
            wall.copy() * 2.0**stops
            for stops in 0.15 * np.cos(np.arange(24)) + np.isin(np.arange(24), (9, 10))
        ]
        for frame, picture in enumerate(lit):
            picture[40:100, 300 + goes * frame :][:, :60] = thing * (picture[0, 0, 0] / wall[0, 0, 0])
        for seen in through_h264([noised(each, 0.02, n) for n, each in enumerate(lit)], 18):
            watch.add(np.clip(255 * np.sqrt(brightness(linear(seen))), 0, 255).astype(np.uint8))
        motion = watch.motion()
        assert motion.most_px == pytest.approx(goes, abs=motion.off_px)
        assert motion.turn_frames is None
        said = in_words(motion, Sized(640, 360))
        assert said.startswith("The fastest goes" if goes else "Nothing moves by more than 0.8 px a frame.")


def test_a_hyperlapse_is_followed_and_costs_its_worst_photographs():
    whole, dice = photograph("brick", margin=80), np.random.default_rng(8)
    path = np.cumsum(dice.uniform(0.5, 1.5, (30, 2)), axis=0) + dice.normal(0, 0.6, (30, 2))
    path[17] += (20, -9)
    watch = PointWatch((280, 130, 80, 80))
    for x, y in path:
        watch.add(0.5 * laid(whole, (x, y))[..., 1])
    gone = watch.path() - watch.path()[0]
    assert np.abs(gone - (path - path[0])).max() < 0.15
    seen = wobble_of_path(watch.path(), (640, 360))
    assert seen.again == (17,) and seen.margin > 3 * seen.margin_after


def test_edges_of_what_is_built_are_found_by_the_way_they_run():
    """Drawn towards two points: of f = 800 px, looked at level and turned by 35°, f·tan 35° and f·tan 55° off
    the middle.
    """
    picture = np.full((600, 900), 0.6)
    for index in range(9):
        y = 60.0 + 60 * index
        for side, off in ((-1, 800 * np.tan(np.radians(35))), (1, 800 * np.tan(np.radians(55)))):
            x, share = 450.0 + side * 10, 380.0 / off
            ends = [(x, y), (x + side * 380, y + (300 - y) * share)]
            corners = [*ends, *((a, b + 9) for a, b in ends[::-1])]
            rows, columns = polygon([b for _, b in corners], [a for a, _ in corners], picture.shape)
            picture[rows, columns] = 0.1
    picture[40:560, 444:456] = picture[80:520, 30:40] = picture[80:520, 860:870] = 0.1
    found = edges_found(picture)
    assert len(found.upright) >= 4 and len(found.away) >= 6 and len(found.across) >= 6
    assert all(max(a, c) < 460 for (a, _), (c, _) in found.away)  # 35° off is nearer than 55°
    assert all(min(a, c) > 440 for (a, _), (c, _) in found.across)
