"""Light in frames: sheets, flicker, drift, balls, cards, elements on black, of known light."""

import numpy as np
import pytest
from scipy import ndimage

from jungoptic.core.measure import (
    BlackWatch,
    CopyWatch,
    backing_seen,
    brightness,
    chart_matrix,
    chart_patches,
    evenness_of,
    flicker_of_frames,
    found_ball,
    grey_ball_light,
    grey_of,
    light_over_time,
    linear,
    mirror_ball_lights,
)
from jungoptic.core.measure.grey import CHART
from tests.core.filmed import Tried, cases, laid, noised, photograph, recorded, through_h264

GRID = (9, 16)


def tiles(light: np.ndarray) -> np.ndarray:
    height, width = light.shape
    rows, columns = GRID
    cut = light[: height // rows * rows, : width // columns * columns]
    return cut.reshape(rows, height // rows, columns, width // columns).mean((1, 3)).ravel()


def test_a_sheet_of_known_fall_off_is_as_uneven_as_it_is():
    tried = Tried()
    y, x = np.mgrid[0:360, 0:640]
    for index, dice, _, quality in cases(24):
        across, down, bend = (*dice.uniform(-0.8, 0.8, 2), dice.uniform(0, 1.2))
        middle = dice.uniform(0.2, 0.8)
        stops = across * (x / 640 - 0.5) + down * (y / 360 - 0.5)
        stops = stops - bend * ((x / 640 - middle) ** 2 + (y / 360 - 0.5) ** 2)
        colour = np.array([0.06, 0.42, 0.10] if index % 2 else [0.05, 0.12, 0.4])
        sheet = colour * (2.0**stops)[..., None]
        sheet[130:330, 260:380] = (0.35, 0.22, 0.15)  # whoever stands before it does not count
        seen = recorded(sheet, quality, index, 0.04)
        measured = evenness_of(seen, backing_seen(seen))
        truth = stops.copy()
        truth[120:340, 250:390] = np.nan
        low, high = np.nanpercentile(truth, (2, 98))
        tried.add("evenness", measured.stops, high - low, measured.off)
    tried.hold(evenness=0.03)


def test_flicker_of_known_size_is_measured_and_what_a_codec_swallows_is_in_the_error():
    tried = Tried()
    for index, dice, name, quality in cases(10):
        size, rate = dice.uniform(0.004, 0.04), dice.uniform(2.2, 11)
        wave = size * np.sin(2 * np.pi * rate * np.arange(48) / 24 + dice.uniform(0, 7))
        drift = dice.uniform(-0.1, 0.1) * np.arange(48) / 48
        base = 0.5 * laid(photograph(name))[::2, ::2]
        clip = [noised(base * 2**stops, 0.03, 100 * index + n) for n, stops in enumerate(wave + drift)]
        truth = float(np.median([np.ptp(wave[start : start + 24]) for start in (0, 12, 24)]))
        for kind, frames in (
            ("raw", [brightness(each) for each in clip]),
            ("coded", [brightness(linear(each)) for each in through_h264(clip, quality)]),
        ):
            copies = CopyWatch()
            for each in frames:
                copies.add(each)
            light = np.array([tiles(each) for each in frames])
            seen = flicker_of_frames(light, GRID, 24, copied=copies.share())
            tried.add(kind, seen.peak_to_peak, truth, seen.off)
    tried.hold(raw=0.005, coded=0.02)


def test_what_flickers_is_told_apart():
    frames = np.arange(96)
    dice = np.random.default_rng(2)
    still = 0.2 * (1 + 0.001 * dice.standard_normal((96, 144)))
    side = (np.arange(16) < 5)[None, :].repeat(9, 0).ravel()
    mains = still * 2 ** (0.02 * np.sin(2 * np.pi * 4 * frames / 24))[:, None]
    lamp = still * 2 ** (0.02 * np.sin(2 * np.pi * 7 * frames / 24))[:, None]
    bounce = still * 2 ** (0.05 * dice.standard_normal(96)[:, None] * side)
    flash = still * 2 ** (0.4 * np.isin(frames, (40, 41)))[:, None]
    burst = still * 2 ** np.where(frames < 30, 0.0, 1.5 * np.exp((30 - frames) / 4))[:, None]
    clips = (still, mains, lamp, bounce, flash, burst)
    causes = [flicker_of_frames(each, GRID, 24, 50).cause for each in clips]
    assert causes == ["steady", "mains", "pulse", "bounce", "event", "event"]
    assert flicker_of_frames(flash, GRID, 24, 50).frames == (40, 41)
    assert flicker_of_frames(bounce, GRID, 24, 50).side == "left"
    assert not flicker_of_frames(bounce, GRID, 24, 50, held=False).side  # other things come into that side


def test_light_that_drifts_is_told_by_cues_that_carry_it():
    frames = np.arange(240)
    stops = np.interp(frames, (0, 80, 120, 239), (0.0, -1.0, -1.0, 0.3))
    light = 0.3 * 2**stops * (1 + 0.002 * np.random.default_rng(1).standard_normal(240))
    seen = light_over_time(light, 24)
    assert seen.drift_stops == pytest.approx(0.3, abs=0.05)
    told = np.interp(frames, [cue.frame for cue in seen.cues], [cue.stops for cue in seen.cues])
    assert np.abs(told - (stops - stops.max())).max() < 0.08 and len(seen.cues) < 10


def ball(dice: np.random.Generator) -> tuple[np.ndarray, np.ndarray, tuple[float, float, float]]:
    """A direction, the normals of a ball's picture and its circle."""
    azimuth, height = np.radians(dice.uniform(-80, 80)), np.radians(dice.uniform(-10, 70))
    light = np.array([np.cos(height) * np.sin(azimuth), np.sin(height), np.cos(height) * np.cos(azimuth)])
    radius, cx, cy = dice.uniform(30, 90), *dice.uniform(110, 130, 2)
    y, x = np.mgrid[0:240, 0:240]
    right, up = (x - cx) / radius, (cy - y) / radius
    inside = right**2 + up**2
    normals = np.stack([right, up, np.sqrt(np.maximum(0, 1 - inside))], 2)
    normals[inside >= 1] = np.nan
    return light, normals, (cx, cy, radius)


def direction(azimuth_deg: float, elevation_deg: float) -> np.ndarray:
    azimuth, height = np.radians((azimuth_deg, elevation_deg))
    return np.array([np.cos(height) * np.sin(azimuth), np.sin(height), np.cos(height) * np.cos(azimuth)])


def test_the_key_is_read_off_a_mirror_ball_and_a_grey_ball():
    tried = Tried()
    for index, dice, _, quality in cases(24):
        light, normals, circle = ball(dice)
        mirrored = 2 * normals * normals[..., 2:] - (0, 0, 1)
        off = np.degrees(np.arccos(np.clip(mirrored @ light, -1, 1)))
        shades = {
            "mirror": 0.08 + 2.0 / (1 + np.exp((off - dice.uniform(1.5, 8)) / 0.5)),
            "grey": 0.05 + 0.5 * np.maximum(0, normals @ light),
        }
        for kind, shade in shades.items():
            picture = ndimage.gaussian_filter(np.nan_to_num(shade, nan=0.2), 0.8)
            seen = recorded(np.repeat(picture[..., None], 3, 2), quality, index)
            if kind == "mirror":
                key = mirror_ball_lights(seen, circle)[0]
            else:
                fit = grey_ball_light(seen, circle)
                key = fit.key
                tried.add("fill", fit.key_fill_stops, np.log2(0.55 / 0.05), 0.3)
            there = direction(key.azimuth_deg, key.elevation_deg)
            tried.add(kind, np.degrees(np.arccos(min(1.0, float(there @ light)))), 0.0, key.off_deg)
    tried.hold(mirror=2.0, grey=2.0)


def test_a_ball_is_proposed_where_it_is_and_a_fill_is_seen_in_it():
    normals, circle = ball(np.random.default_rng(5))[1:]
    mirrored = 2 * normals * normals[..., 2:] - (0, 0, 1)
    shade = np.full(normals.shape[:2], 0.05)
    for where, power in (((50, 20), 0.9), ((-60, 10), 0.2)):
        shade += np.nan_to_num(power * (mirrored @ direction(*where) > np.cos(np.radians(4))))
    shade = np.where(np.isfinite(normals[..., 2]), shade, 0.25)
    assert found_ball(shade) == pytest.approx(circle, abs=4)
    key, fill = mirror_ball_lights(shade, circle)
    assert (key.azimuth_deg, fill.azimuth_deg) == pytest.approx((50, -60), abs=2)
    assert fill.stops == pytest.approx(np.log2(0.2 / 0.9), abs=0.6)


def test_a_card_and_a_chart_tell_exposure_white_and_the_cameras_matrix():
    card = np.full((60, 60, 3), 0.18 * 2**0.5) * (2**0.1, 1.0, 2**-0.1)
    seen = grey_of(recorded(card, 14, 1), np.ones((60, 60), bool))
    assert (seen.stops, seen.red_stops, seen.blue_stops) == pytest.approx((0.51, 0.1, -0.1), abs=0.02)
    true = np.array([[int(each[i : i + 2], 16) / 255 for i in (1, 3, 5)] for each in CHART])
    true = np.where(true <= 0.04045, true / 12.92, ((true + 0.055) / 1.055) ** 2.4)
    camera = np.array([[0.85, 0.1, 0.0], [0.1, 0.8, 0.1], [0.0, 0.15, 0.8]])
    patches = (true @ camera.T).reshape(4, 6, 3)
    picture = np.kron(patches, np.ones((40, 40, 1)))
    corners = ((0, 0), (240, 0), (240, 160), (0, 160))
    told = chart_matrix(chart_patches(recorded(picture, 14, 3), corners))
    assert told.mean_de < 1.0 < told.before_de
    assert np.allclose(told.matrix @ camera, np.eye(3), atol=0.06)
    with pytest.raises(ValueError, match="darker"):
        chart_matrix(chart_patches(picture[::-1], corners))
    with pytest.raises(ValueError, match="clipped"):
        grey_of(np.ones((20, 20, 3)), np.ones((20, 20), bool))


def test_an_element_on_black_is_told_where_it_begins_touches_and_clips():
    y, x = np.mgrid[0:270, 0:480]
    watch = BlackWatch()
    clip = []
    for frame in range(16):
        reach = 12 * max(0, frame - 3)
        flame = np.where((x - 240) ** 2 + (y - 135) ** 2 < reach**2, 1.2 if frame == 9 else 0.7, 0.002)
        clip.append(np.repeat(flame[..., None], 3, 2) if frame < 15 else np.full((270, 480, 3), 0.002))
    for seen in through_h264(clip, 18):
        watch.add(linear(seen).max(axis=2))
    told = watch.told()
    assert (told.first, told.last) == (4, 14)
    assert told.black < 0.01 and told.clipped_frame == 9 and told.clipped > 0.05
    assert {side for frame, side in told.touches if frame >= 14} >= {"top", "bottom"}
    assert not [frame for frame, _ in told.touches if frame < 12]
