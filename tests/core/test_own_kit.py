"""A lens and a camera measured against what simulated ones are known to do, and against a plain script."""

import random

import cv2
import numpy as np
import pytest

from jungoptic.core.example import HERO
from jungoptic.core.measure import Board, board_seen, lens_of_boards, noise_of_pairs, pupil_offset_m, row_time
from jungoptic.core.optics import focal_length_px, image_distance_mm
from jungoptic.core.stage import Effects, Held, photograph_board, recorded_codes

SIZE = (1200, 675)
BOARD = Board()
SQUARE_PX = 48


def chart() -> tuple[np.ndarray, float]:
    """The board on paper with a white border, and how wide the sheet is, m."""
    printed = np.pad(np.where(BOARD.picture(SQUARE_PX) > 127, 0.85, 0.04), SQUARE_PX, constant_values=0.85)
    return printed, BOARD.width_m * printed.shape[1] / (BOARD.columns * SQUARE_PX)


def pictures(setup, seed: int, count: int = 12) -> list[np.ndarray]:
    dice = random.Random(seed)
    printed, width_m = chart()
    taken = []
    for number in range(count):
        away = setup.focus_distance_m * dice.uniform(0.9, 1.2)
        frame_m = away * setup.gate_width_mm / setup.focal_length_mm
        held = Held(
            dice.uniform(-0.2, 0.2) * frame_m,
            dice.uniform(-0.12, 0.12) * frame_m,
            away,
            dice.uniform(-35, 35),
            dice.uniform(-35, 35),
            dice.uniform(-15, 15),
        )
        light = photograph_board(printed, width_m, held, setup, effects=Effects(seed=number))
        taken.append(recorded_codes(light))
    return taken


@pytest.mark.parametrize(
    ("focal", "bend", "iso", "seed"), [(35, -2.0, 400, 1), (18, -3.5, 400, 2), (85, 1.0, 1600, 3)]
)
def test_a_lens_is_measured_within_what_it_says(focal, bend, iso, seed):
    width_m = BOARD.width_m
    setup = HERO.but(
        focal_length_mm=focal,
        f_number=8,
        focus_distance_m=width_m / 23.5 * focal / 0.55,
        gate_width_mm=23.5,
        gate_height_mm=13.2,
        recorded_width_px=SIZE[0],
        recorded_height_px=SIZE[1],
        distortion_pct=bend,
        iso=iso,
    )
    taken = pictures(setup, seed)
    seen = [each for each in (board_seen(one, BOARD) for one in taken) if each]
    measured = lens_of_boards(seen)
    v_mm = image_distance_mm(focal, setup.focus_distance_m, setup.focusing)
    true_px = focal_length_px(v_mm, 23.5, SIZE[0])
    assert abs(measured.f_px / true_px - 1) < 0.003
    corner_px = np.hypot(*SIZE) / 2 * bend / 100
    assert abs(measured.corner_px - corner_px) < 0.5
    assert measured.rms_px < 0.3 and measured.pictures >= 11
    # the same pictures by OpenCV's own calibration, called plainly
    _, matrix, bent, _, _ = cv2.calibrateCamera(
        [each.metres for each in seen], [each.px for each in seen], SIZE, None, None, flags=cv2.CALIB_FIX_K3
    )
    assert abs(measured.f_px / matrix[1, 1] - 1) < 0.003
    r = np.hypot(*SIZE) / 2 / matrix[1, 1]
    k1, k2 = np.ravel(bent)[:2]
    assert abs(np.hypot(*SIZE) / 2 * (k1 * r**2 + k2 * r**4) - measured.corner_px) < 0.5


def test_a_board_that_is_never_tilted_tells_no_focal_length():
    setup = HERO.but(recorded_width_px=960, recorded_height_px=540, f_number=16, focus_distance_m=0.8)
    printed, width_m = chart()
    square = [
        board_seen(recorded_codes(photograph_board(printed, width_m, Held(x, 0, 0.8), setup)), BOARD)
        for x in np.linspace(-0.05, 0.05, 8)
    ]
    with pytest.raises(ValueError, match="tilt it"):
        lens_of_boards(square)
    with pytest.raises(ValueError, match="several sizes"):
        bigger = HERO.but(recorded_width_px=1920, recorded_height_px=1080, f_number=16, focus_distance_m=0.8)
        other = board_seen(recorded_codes(photograph_board(printed, width_m, Held(0, 0, 0.8), bigger)), BOARD)
        lens_of_boards([*square[:7], other])


@pytest.mark.parametrize(("read", "gain"), [(0.002, 2e-5), (0.01, 3e-4), (0.0005, 1e-3)])
def test_noise_is_measured_within_a_twentieth(read, gain):
    dice = np.random.default_rng(5)

    def frame(light: float) -> np.ndarray:
        uneven = light * (1 - 0.1 * np.linspace(-1, 1, 320) ** 2)  # a lens darkens its corners
        return uneven + np.sqrt(read**2 + gain * uneven) * dice.standard_normal((240, 320))

    measured = noise_of_pairs([(frame(x), frame(x)) for x in (0.0, 0.05, 0.18, 0.4, 0.8)])
    for light in (0.02, 0.18, 0.7):
        assert measured.sigma(light) == pytest.approx(np.sqrt(read**2 + gain * light), rel=0.05)
    with pytest.raises(ValueError, match="not of the same light"):
        noise_of_pairs([(frame(0.2), frame(0.25))] * 3)
    with pytest.raises(ValueError, match="too few"):
        noise_of_pairs([(frame(0.2), frame(0.2))])


@pytest.mark.parametrize(
    ("readout_ms", "mains_hz", "rate"), [(15.0, 50, 24), (30.0, 60, 25), (8.0, 50, 30), (4.0, 60, 25)]
)
def test_row_time_is_measured_within_a_twentieth(readout_ms, mains_hz, rate):
    dice = np.random.default_rng(7)
    height, width = 1080, 64
    row, frame = np.arange(height), np.arange(24)[:, None]
    at_s = frame / rate + row / height * readout_ms / 1000
    lamp = 1 + 0.15 * np.sin(2 * np.pi * 2 * mains_hz * at_s)
    sheet = 0.4 * (1 - 0.3 * np.linspace(-1, 1, height) ** 2)
    seen = (lamp * sheet)[:, :, None] + 0.02 * dice.standard_normal((24, height, width))
    measured = row_time(seen, mains_hz)
    assert measured.readout_ms == pytest.approx(readout_ms, rel=0.05)
    assert measured.row_us == pytest.approx(1000 * readout_ms / height, rel=0.05)
    assert abs(measured.readout_ms / readout_ms - 1) < 2 * measured.off + 1e-3


def test_bands_that_stand_still_or_are_none_are_said():
    row, frame = np.arange(540), np.arange(12)[:, None]
    still = 1 + 0.2 * np.sin(2 * np.pi * 100 * (row * 2e-5 + frame / 25))
    noise = 0.01 * np.random.default_rng(3).standard_normal((12, 540))
    for frames in (still + noise, 1 + noise):
        with pytest.raises(ValueError, match="no bands move"):
            row_time(frames, 50)
    with pytest.raises(ValueError, match="too few"):
        row_time(still[:3], 50)


@pytest.mark.parametrize("offset_m", [0.031, 0.062, -0.012])
def test_the_pupil_is_found_from_two_rods_within_a_millimetre(offset_m):
    """The truth by OpenCV's projection: the head turns about its axis, the pupil goes round it."""
    f_px, rods = 2860.0, np.array([[0.0, 0.0, 0.6], [0.0, 0.0, 4.0]])
    matrix = np.array([[f_px, 0, 960], [0, f_px, 540], [0, 0, 1]])
    for pan in (8.0, 20.0, 30.0):
        turned = cv2.Rodrigues(np.array([0.0, -np.radians(pan), 0.0]))[0]  # of the world, as the lens sees it
        seen, _ = cv2.projectPoints(rods, turned, np.array([0.0, 0.0, -offset_m]), matrix, None)
        near, far = seen[:, 0, 0]
        blunt = round((far - near) * 4) / 4  # read to a quarter of a pixel
        measured, off = pupil_offset_m(blunt, f_px, pan, 0.6, 4.0)
        assert abs(measured - offset_m) < 0.001 and off < 0.001
    with pytest.raises(ValueError, match="turn the head"):
        pupil_offset_m(3.0, f_px, 0.0, 0.6, 4.0)
    with pytest.raises(ValueError, match="no lens"):
        pupil_offset_m(4000.0, f_px, 10.0, 0.6, 4.0)
