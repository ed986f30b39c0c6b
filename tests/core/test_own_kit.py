"""A lens and a camera measured against what simulated ones are known to do, and against a plain script."""

import random

import cv2
import numpy as np
import pytest

from jungoptic.core.calibration import (
    Asked,
    Board,
    Instrument,
    MarksSeen,
    board_seen,
    curve_of_series,
    guides,
    lens_of_boards,
    level_of_pair,
    noise_of_levels,
    outcome,
    pupil_of_marks,
    row_time,
    vignetting_of_flats,
    watch,
)
from jungoptic.core.errors import InputError
from jungoptic.core.example import DELIVERY, HERO, MILL, MODEL
from jungoptic.core.match import Match, judge
from jungoptic.core.optics import focal_length_px, image_distance_mm
from jungoptic.core.stage import Effects, Held, Truth, film_kit, photograph_board, recorded_codes

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


def test_grain_of_measured_recordings_is_what_their_delivered_pixels_have():
    """Recorded pixels as noisy as each was measured, averaged to one delivered frame by numpy."""
    dice = np.random.default_rng(6)

    def delivered_noise(pixel_pct: float, recorded_px: int) -> float:
        block = recorded_px // 240
        pixels = pixel_pct * dice.standard_normal((480, block, 240, block))
        return float(pixels.mean(axis=(1, 3)).std())

    hero = HERO.but(noise_pct=0.8, noise_iso=400.0)  # filmed at ISO 800
    model = MODEL.but(noise_pct=1.1, noise_iso=800.0, recorded_width_px=1920, recorded_height_px=1080)
    ratio = delivered_noise(1.1, 1920) / delivered_noise(0.8 * np.sqrt(2), 3840)
    grain = Match(hero, MILL, model, DELIVERY).grain_ratio()
    assert grain == pytest.approx(ratio, rel=0.02)
    assert Match(hero, MILL, model.but(iso=3200), DELIVERY).grain_ratio() == pytest.approx(2 * grain)
    # sensors that differ by their photons alone: the law of photons comes out
    small = MODEL.but(gate_width_mm=11.75, gate_height_mm=6.6, iso=1600)
    by_photons = Match(HERO, MILL, small, DELIVERY).grain_ratio()
    twice = small.but(noise_pct=1.6, noise_iso=400.0)
    assert Match(hero, MILL, twice, DELIVERY).grain_ratio() == pytest.approx(by_photons)
    assert Match(HERO, MILL, twice, DELIVERY).grain_ratio() == by_photons, "the hero's was never measured"
    (said,) = (one for one in judge(hero, MILL, model, DELIVERY) if one.item == "grain")
    assert "as both were measured" in said.sentence


@pytest.mark.parametrize(("read", "gain"), [(0.002, 2e-5), (0.01, 3e-4), (0.0005, 1e-3)])
def test_noise_is_measured_within_a_twentieth(read, gain):
    dice = np.random.default_rng(5)

    def frame(light: float) -> np.ndarray:
        uneven = light * (1 - 0.1 * np.linspace(-1, 1, 320) ** 2)  # a lens darkens its corners
        return uneven + np.sqrt(read**2 + gain * uneven) * dice.standard_normal((240, 320))

    levels = [level_of_pair(frame(x), frame(x)) for x in (0.0, 0.05, 0.18, 0.4, 0.8)]
    measured = noise_of_levels(levels)
    for light in (0.02, 0.18, 0.7):
        assert measured.sigma(light) == pytest.approx(np.sqrt(read**2 + gain * light), rel=0.05)
    with pytest.raises(ValueError, match="not of the same light"):
        level_of_pair(frame(0.2), frame(0.25))
    with pytest.raises(ValueError, match="too few"):
        noise_of_levels(levels[:2])


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
def test_the_pupil_is_found_from_two_marks_within_a_millimetre(offset_m):
    """The truth by OpenCV's projection: the head turns about its axis, the pupil goes round it."""
    f_px, marks = 2860.0, np.array([[0.004, 0.0, 0.6], [-0.02, 0.0, 4.0]])
    matrix = np.array([[f_px, 0, 0], [0, f_px, 0], [0, 0, 1]])

    def seen(pan_deg: float) -> MarksSeen:
        turned = cv2.Rodrigues(np.array([0.0, -np.radians(pan_deg), 0.0]))[
            0
        ]  # of the world, as the lens sees it
        px, _ = cv2.projectPoints(marks, turned, np.array([0.0, 0.0, -offset_m]), matrix, None)
        near, far = (tuple(round(float(each) * 4) / 4 for each in point) for point in px[:, 0])
        return MarksSeen(near, far, (1920, 1080))  # read to a quarter of a pixel

    for pan in (8.0, 20.0, -15.0):
        measured = pupil_of_marks(seen(0.0), seen(pan), f_px, 0.6, 4.0)
        assert measured.offset_mm == pytest.approx(1000 * offset_m, abs=1.0)
        assert measured.pan_deg == pytest.approx(pan, abs=0.05)
        assert abs(measured.offset_mm - 1000 * offset_m) < measured.off_mm + 0.3
    for words, after, far_m in (("hardly turned", seen(1.0), 4.0), ("far mark", seen(20.0), 0.7)):
        with pytest.raises(ValueError, match=words):
            pupil_of_marks(seen(0.0), after, f_px, 0.6, far_m)


# --- every guided measurement, with a simulated camera whose truth is known

TRUE = HERO.but(
    focal_length_mm=35.9,
    gate_width_mm=23.5,
    gate_height_mm=13.2,
    distortion_pct=-2.1,
    vignetting_stops=1.3,
    readout_ms=17.0,
    headroom_stops=5.5,
    iso=400,
    widest_f_number=2.0,
)
TRUTH = Truth(TRUE, pupil_mm=33.0, ripple_depth=0.31, rate_fps=24000 / 1001, shutter_angle_deg=172.8)
SAID = Instrument(focal_length_mm=35.0, gate_width_mm=23.5, gate_height_mm=13.2, readout_ms=17.0)
KNOWN = Instrument(focal_length_mm=35.9, distortion_pct=-2.1, gate_width_mm=23.5, gate_height_mm=13.2)
GREY = (
    100 * 0.006 * (0.18 + 0.02) ** 0.5
)  # what the simulated sensor makes at ISO 400 on this gate, % of white


@pytest.mark.parametrize(
    ("kind", "title", "true", "within"),
    [
        ("lens", "Focal length", 35.9, 0.003 * 35.9),
        ("lens", "Distortion at the corner", -2.1, 0.05 * 2.1),
        ("vignetting", "Vignetting wide open", 1.3, 0.05 * 1.3),
        ("pupil", "Entrance pupil before the axis", 33.0, 1.0),
        ("noise", "At mid grey, of white, ISO 400", GREY, 0.07 * GREY),  # 0.05, and codes of 8 bits
        ("rows", "Readout of the frame", 17.0, 0.05 * 17),
        ("rows", "Frames a second", 24000 / 1001, 0.01),
        ("ripple", "Flicker depth", 0.31, 0.05 * 0.31),
        ("shutter", "Open for", 172.8, 0.05 * 172.8),
        ("curve", "Highlight latitude over mid-grey", 5.5, 0.05 * 5.5),
    ],
)
def test_a_guided_measurement_finds_what_the_simulated_camera_is(filmed, kind, title, true, within):
    came = filmed(kind)
    value = next(each for each in came.values if each.title == title)
    assert abs(value.value - true) < within
    assert abs(value.value - true) <= max(2 * value.off, 0.05 * abs(true))
    if value.field:
        assert came.kit[value.field] == value.value


@pytest.fixture(scope="module")
def filmed():
    asked = Asked(focus_distance_m=1.2, f_number=2.0)
    kept = {}

    def film(kind):
        if kind not in kept:
            known = KNOWN if kind == "pupil" else SAID
            told = [
                watch(kind, each.frames, known) | ({} if each.stops is None else {"stops": each.stops})
                for each in film_kit(kind, TRUTH, asked, 3)
            ]
            kept[kind] = outcome(kind, told, asked, known)
        return kept[kind]

    return film


def test_what_a_measurement_says_is_what_to_do(filmed):
    assert "2.6 % larger in the frame than planned" in filmed("lens").says
    assert filmed("pupil").says.startswith("Slide the camera back by 3")
    assert "for 180° set 18" in filmed("shutter").says
    assert "by up to" in filmed("curve").says


def test_faults_of_a_lens_that_were_measured_on_another_gate_are_said_anew():
    before = Instrument(distortion_pct=-1.0, distortion_gate_mm=47.0, gate_width_mm=23.5)
    kit = outcome("vignetting", [{"stops": 1.0}] * 2, Asked(f_number=2.0), before).kit
    assert kit == {"vignetting_stops": 1.0, "distortion_pct": -0.25, "measured_gate_mm": 23.5}
    zoom = outcome(
        "vignetting", [{"stops": 0.5}] * 2, Asked(f_number=4.0), Instrument(widest_f_number=2.0)
    ).kit
    assert zoom["vignetting_stops"] == 1.0  # wide open


@pytest.mark.parametrize(
    ("kind", "frames", "says"),
    [
        ("lens", [np.full((90, 160), 90, np.uint8)], "The board is not seen in it"),
        ("pupil", [np.full((90, 160), 90, np.uint8)], "Both marks are not seen"),
        ("lens", [np.full((90, 120), 90, np.uint8)], "1.33 : 1, and the recording is 1.78 : 1"),
        ("noise", [np.full((90, 160), 90, np.uint8)], "two photographs at once, or a clip"),
        ("rows", [np.full((90, 160), 90, np.uint8)] * 5, "a clip of a second or more"),
        ("vignetting", [np.full((90, 160), 255, np.uint8)], "It is clipped"),
        ("vignetting", [np.full((90, 160), 9, np.uint8)], "It is too dark"),
        ("shutter", [np.full((90, 160), 9, np.uint8)] * 12, "No bright dot is seen"),
    ],
)
def test_a_picture_that_tells_nothing_says_how_a_better_one_is_taken(kind, frames, says):
    with pytest.raises(InputError, match=says.replace("(", r"\(")):
        watch(kind, frames, SAID)


def test_what_is_missing_for_a_measurement_is_said():
    for kind, guide in guides().items():
        with pytest.raises(InputError, match=f"{guide.fewest} more picture"):
            outcome(kind, [], Asked(), SAID)
    with pytest.raises(InputError, match="by how many stops"):
        outcome("curve", [{"signal": 0.4}] * 5, Asked(), SAID)
    steps = [(stop / 2, 0.4 * 2 ** (stop / 4)) for stop in range(-4, 4)]
    with pytest.raises(ValueError, match="nothing clips"):
        curve_of_series(steps)
    with pytest.raises(ValueError, match="as metered"):
        curve_of_series([(stop + 0.25, value) for stop, value in steps])
    white = [(float(stop), 1.0) for stop in range(-2, 3)]
    with pytest.raises(ValueError, match="almost all is white"):
        curve_of_series(white)
    dark = [(stop / 1, 0.01 if stop < 1 else 0.5 if stop < 2 else 1.0) for stop in range(-3, 4)]
    with pytest.raises(ValueError, match="black or white"):
        curve_of_series(dark)
    with pytest.raises(ValueError, match="about the same light"):
        noise_of_levels([level_of_pair(np.full((9, 9), 0.2), np.full((9, 9), 0.2))] * 3)
    with pytest.raises(InputError, match="not smeared"):
        outcome("shutter", [{"angle": 0.0, "off": 0.0, "turn": 20.0}], Asked(), SAID)
    mark = {"near": [0.0, 0.0], "far": [0.0, 0.0], "size": [160, 90]}
    with pytest.raises(InputError, match="no nearer than its focal length"):
        outcome("pupil", [mark, mark], Asked(focus_distance_m=0.03), SAID)
    with pytest.raises(ValueError, match="not even"):
        vignetting_of_flats([0.2, 1.4])
    rows = {"rows": np.ones((24, 90)).tolist(), "height": 90}
    with pytest.raises(InputError, match="Measure the row time first"):
        outcome("ripple", [rows], Asked(), Instrument())
    with pytest.raises(InputError, match="smooths the pulses away"):
        outcome("ripple", [rows], Asked(exposure_s=1 / 50), SAID)
