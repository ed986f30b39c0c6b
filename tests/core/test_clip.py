"""All that is measured of every frame in one pass, against clips of known shake, light and movement."""

import tracemalloc

import numpy as np
import pytest
from scipy import ndimage

from jungoptic.core.measure import ClipMeasured, ClipWatch, Curve, flicker_of_frames
from jungoptic.core.rushes import PATH, Sized, as_measurement, in_words, over_frames
from tests.core.filmed import Tried, cases, laid, noised, photograph, planes, through_h264

FRAMES = 20


def luma(pictures: list[np.ndarray], crf: int) -> list[np.ndarray]:
    """Codes of luma of signals that came through a codec."""
    return [
        np.rint(16 + 219 * np.clip(each @ (0.2126, 0.7152, 0.0722), 0, 1)).astype(np.uint8)
        for each in through_h264(pictures, crf)
    ]


def test_how_a_camera_stands_and_how_the_light_goes_is_measured_in_one_pass():
    tried = Tried()
    for index, dice, name, quality in cases(12):
        path = np.cumsum(dice.normal(0, 0.5, (FRAMES, 2)), axis=0)
        path[0] = 0
        turns = np.linspace(0, dice.uniform(-0.2, 0.2), FRAMES)
        goes = np.linspace(0, dice.uniform(-0.3, 0.3), FRAMES)
        whole = 0.6 * photograph(name)
        shot = [
            noised(2.0**stops * laid(whole, tuple(shift), turn), 0.03, 100 * index + n)
            for n, (shift, turn, stops) in enumerate(zip(path, turns, goes, strict=True))
        ]
        watch = ClipWatch(24)
        for codes in luma(shot, quality):
            watch.add(codes)
        seen = watch.measured()
        assert seen.width_px == 640
        for frame in (4, 9, 19):
            assert np.isfinite(seen.camera[frame]).all(), (name, frame)
            for axis, side in enumerate("xy"):
                tried.add(side, seen.camera[frame, axis], path[frame, axis], seen.camera_off[0])
            tried.add("turn", seen.camera[frame, 2], turns[frame], seen.camera_off[1])
            tried.add("light", seen.light_stops[frame], goes[frame] - np.median(goes[:5]), 0.05)
        tried.add("changed", float(np.median(seen.changed_stops)), goes[-5:].mean() - goes[:5].mean(), 0.05)
    tried.hold(x=0.1, y=0.1, turn=0.05, light=0.02, changed=0.02)


@pytest.mark.parametrize(("sways_px", "side"), [(0.0, "left"), (12.0, "")])
def test_a_side_that_bounces_light_is_told_where_the_camera_stands_and_it_alone(sways_px: float, side: str):
    dice = np.random.default_rng(3)
    left = (np.arange(640) < 300)[None, :, None]
    watch = ClipWatch(24)
    shot = [
        noised(0.4 * 2.0 ** (0.15 * stops * left) * laid(photograph("coffee"), (0, sways_px * sway)), 0.02, n)
        for n, (stops, sway) in enumerate(zip(dice.uniform(0, 1, 24), np.sin(np.arange(24)), strict=True))
    ]
    for codes in luma(shot, 14):
        watch.add(codes)
    flicker = watch.measured().flicker
    assert flicker is not None and flicker.side == side


def test_what_moves_before_a_camera_that_stands_is_not_its_shake():
    plate = 0.5 * laid(photograph("coffee"))
    speeds = {4: (), 11: ()}
    for speed in speeds:
        watch = ClipWatch(24)
        shot = []
        for frame in range(16):
            picture = plate.copy()
            left = 30 + speed * frame
            picture[100:300, left : left + 120] = 0.4 * laid(photograph("brick"))[100:300, 60:180]
            shot.append(noised(picture, 0.02, frame))
        for codes in luma(shot, 18):
            watch.add(codes)
        seen = watch.measured()
        assert np.percentile(seen.camera_px, 90) < seen.camera_off[0]
        speeds[speed] = tuple(seen.fastest_px[1:])
    for speed, fastest in speeds.items():
        assert np.median(fastest) == pytest.approx(speed, abs=1.5 + 0.2 * speed)


def test_a_camera_that_pans_away_is_lost_and_not_guessed():
    whole = photograph("coffee", margin=620)
    watch = ClipWatch(24)
    for frame in range(24):
        watch.add(planes(0.5 * laid(whole, (25.0 * frame, 0.0)))[:360])
    seen = watch.measured()
    known = np.isfinite(seen.camera[:, 0])
    assert seen.camera[known, 0] == pytest.approx(25.0 * np.flatnonzero(known), abs=1)
    assert known[:4].all()
    assert np.isnan(seen.camera[-1]).all()


def test_frames_out_of_focus_and_dark_pulses_are_found_by_frame():
    board = 0.5 * laid(photograph("gravel"))
    watch = ClipWatch(25, mains_hz=50)
    for frame in range(60):
        picture = board * 2.0 ** (0.03 * np.sin(2 * np.pi * 3 * frame / 25))
        if frame in (21, 22, 23):
            picture = ndimage.gaussian_filter(picture, (2, 2, 0))
        watch.add(planes(noised(picture, 0.02, frame))[:360])
    seen = watch.measured()
    assert set(np.argsort(seen.sharp)[:3]) == {21, 22, 23}
    assert seen.flicker is not None and seen.flicker.peak_to_peak == pytest.approx(0.06, abs=0.005)
    told = as_measurement(seen, Sized(640, 360, 2.0, 25))
    lines = {"light", "camera", "sharpness", "movement"}
    assert {each.name for each in told.series} == lines | {name for name, _, _ in PATH}
    assert told.amount("camera").value == pytest.approx(2.0 * seen.camera_px.max())
    assert "frame 2" in in_words(seen, Sized(640, 360, 2.0, 25))


def test_ten_bits_a_log_curve_and_a_clip_of_nothing():
    curve = Curve("log", log=(5.0, 0.05, 0.25, 0.4, 0.01))
    board = np.maximum(laid(photograph("coffee"))[..., 1], 0.1)
    watch = ClipWatch(24, curve, bits=10, legal=False)
    for stops in (0.0, 0.0, -1.0, -1.0):
        codes = 0.25 * np.log10(5.0 * 0.4 * 2**stops * board + 0.05) + 0.4
        watch.add(np.rint(1023 * codes).astype(np.uint16))
    assert watch.measured().light_stops[-1] == pytest.approx(-1.0, abs=0.01)
    with pytest.raises(ValueError, match="not one frame"):
        ClipWatch(24).measured()
    black = ClipWatch(24)
    for _ in range(6):
        black.add(np.full((90, 160), 16, np.uint8))
    seen = black.measured()
    assert seen.flicker is None and np.isnan(seen.camera).all()


def test_no_more_is_kept_of_a_long_clip_than_some_numbers_a_frame():
    frames = [planes(noised(0.5 * laid(photograph("coffee")), 0.02, n))[:360:2, ::2].copy() for n in range(4)]
    watch, held = ClipWatch(24), []
    tracemalloc.start()
    for frame in range(1, 2881):
        watch.add(frames[frame % 4])
        if not frame % 1440:
            held.append(tracemalloc.get_traced_memory()[0])
    tracemalloc.stop()
    assert held[1] - held[0] < 1440 * 100
    assert watch.measured().flicker_from in (0, 1440)


def clip_of(light=None, camera=None, sharp=None, flicker=None) -> ClipMeasured:
    """A clip of forty-eight frames of which nothing is said but this."""
    flat, still = np.zeros(48), np.zeros((48, 3)) if camera is None else camera
    seen = (flat if light is None else light, 0.01, still, (0.05, 0.01), flat + 1 if sharp is None else sharp)
    return ClipMeasured(960, *seen, flat, flicker, 0, np.zeros((9, 16)), 0.0)


def test_what_stands_out_over_the_frames_is_said_with_its_frames():
    bumped = np.zeros((48, 3))
    bumped[30:, 0] = 2.0
    bumped[10:13, 1] = np.nan
    soft = np.ones(48)
    soft[20:24] = 0.4
    jump = 0.001 * np.sin(np.arange(48))
    jump[40] = 0.5
    flicker = flicker_of_frames(0.2 * 2 ** jump[:, None] * np.ones(144), (9, 16), 24)
    light, camera, sharp, movement = over_frames(clip_of(jump, bumped, soft, flicker), Sized(960, 540, 2.0))
    assert [(spot.first, spot.last, spot.text) for spot in camera.spots] == [
        (10, 12, "nothing of the first frame is seen"),
        (30, 47, "4 px, and it stays so"),
    ]
    assert [(spot.first, spot.last) for spot in sharp.spots] == [(20, 23)] and "20 to 23" in sharp.says
    assert [(spot.first, spot.last) for spot in light.spots] == [(40, 40)]
    assert movement.says == "Nothing moves by more than 2.4 px a frame."
    later = over_frames(clip_of(jump, bumped, soft, flicker), Sized(960, 540, 2.0, begins=50))
    assert [spot.first for spot in later[1].spots] == [60, 80] and "80 to 97" in later[1].says
    assert [spot.first for line in later for spot in line.spots] == [90, 60, 80, 70]
    shaken = np.zeros((48, 3))
    shaken[:, 0] = 3.0 * np.sin(np.arange(48))
    assert over_frames(clip_of(camera=shaken), Sized(960, 540))[1].says.startswith(
        "Moves: off its first frame"
    )
    nothing = over_frames(clip_of(camera=np.full((48, 3), np.nan)), Sized(960, 540))[1]
    assert "nothing in it" in nothing.says
