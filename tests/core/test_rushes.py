"""What was measured, as amounts and in words."""

import numpy as np
import pytest

from jungoptic.core.errors import InputError
from jungoptic.core.match import Mark, reading_of
from jungoptic.core.measure import (
    Amount,
    Curve,
    chart_matrix,
    edge_of,
    evenness_of,
    grain_of_frames,
    linear,
    moved,
    signal_of_planes,
)
from jungoptic.core.measure.grey import CHART
from jungoptic.core.rushes import (
    EdgeBeside,
    GrainBeside,
    Photographed,
    Sized,
    as_measurement,
    in_words,
    with_error,
    within,
)
from tests.core.filmed import laid, noised, photograph

SIZED = Sized(640, 360, 3.0)


def test_numbers_are_told_to_the_place_that_their_error_allows():
    assert with_error(0.8123, 0.03) == "0.81 ± 0.03"
    assert with_error(-2.3, 0.14) == "−2.30 ± 0.14"
    assert with_error(1234.0, 25.0) == "1234 ± 25"
    assert with_error(3.0, 0.0) == "3"
    assert within(Amount("holes", "Holes", 12.0, None, "%")) == "12 %"


def test_lengths_are_told_in_delivered_px():
    whole = 0.5 * laid(photograph("brick"))[..., 1]
    bumped = 0.5 * laid(photograph("brick"), (1.5, 0.0))[..., 1]
    result = moved(noised(whole, 0.02, 1), noised(bumped, 0.02, 2))
    seen = as_measurement(result, SIZED)
    assert seen.amount("right").value == pytest.approx(4.5, abs=0.1)
    assert seen.amount("right").off == pytest.approx(3 * result.shift_off_px)
    assert in_words(result, SIZED).startswith("The camera moved: 4.5")
    assert in_words(moved(whole, whole), SIZED).startswith("The camera stood still, within 0.")


def test_a_sheet_is_told_by_its_darker_side_and_drawn_by_its_contours():
    falls = 2.0 ** np.linspace(0.0, -1.0, 640)
    sheet = falls[None, :, None] * np.ones((360, 1, 1)) * (0.05, 0.4, 0.1)
    result = evenness_of(sheet)
    assert in_words(result, SIZED) == (
        "The backing differs by 0.959 ± 0.018 stop over what is marked. Lift the right side by 1 stop."
    )
    lines = [each for each in as_measurement(result, SIZED).overlays if each.kind == "line"]
    assert {each.text for each in lines} >= {"−⅓", "0", "+⅓"}
    for each in lines:  # each runs where the light is that of its name
        places = np.array(each.places)
        if each.text == "+⅓":
            assert np.allclose(places[:, 0], (0.5 - 1 / 3), atol=0.02)


def test_a_layer_is_told_beside_the_hero():
    y, x = np.mgrid[0:80, 0:80]
    soft, sharp = (edge_of(0.1 + 0.4 / (1 + np.exp(-(x - 40 - 0.2 * y) / width))) for width in (1.6, 0.8))
    assert in_words(EdgeBeside(soft, sharp), SIZED).startswith("It is softer than the hero")
    assert in_words(EdgeBeside(sharp, soft), SIZED).startswith("It is sharper than the hero: soften")
    dice = np.random.default_rng(1)
    fine, coarse = (
        grain_of_frames([0.18 + sigma * dice.standard_normal((90, 160)) for _ in range(4)])
        for sigma in (0.004, 0.008)
    )
    assert as_measurement(GrainBeside(coarse, fine), SIZED).amounts[0].value == pytest.approx(2, abs=0.1)
    assert "as noisy as the hero" in in_words(GrainBeside(coarse, fine), SIZED)


def test_a_photograph_is_told_by_what_its_lines_tell():
    horizon = Mark(kind="horizon", points=((0, 1000), (3000, 1000)))
    post = Mark(kind="height", points=((1500, 1600), (1500, 850)), height_m=2.0)
    read = Photographed((horizon, post), reading_of((horizon, post), 3000, 2000, 60.0))
    assert "lens height 1.600" in in_words(read, Sized(3000, 2000)).lower()
    nothing = Photographed((), reading_of((), 3000, 2000))
    assert in_words(nothing, SIZED).startswith("Nothing can be read of it.")


def test_a_perfect_chart_needs_no_matrix():
    codes = np.array([[int(each[i : i + 2], 16) for i in (1, 3, 5)] for each in CHART], np.uint8)
    result = chart_matrix(linear(codes[None], Curve("srgb"))[0])
    assert np.allclose(result.matrix, np.eye(3), atol=1e-4) and result.most_de < 0.1
    assert ": good." in in_words(result, SIZED)


def test_curves_are_undone_and_wrong_ones_refused():
    light = np.geomspace(0.002, 4.0, 50)
    numbers = (5.2, 0.06, 0.25, 0.4, 0.01)
    a, b, c, d, cut = numbers
    log = c * np.log10(a * light + b) + d
    straight = c * np.log10(a * cut + b) + d + (light - cut) * c * a / ((a * cut + b) * np.log(10))
    recorded = np.where(light < cut, straight, log)
    assert np.allclose(Curve("log", log=numbers).light(recorded), light, rtol=1e-4)
    table = Curve("table", table=((0.0, 0.0), (0.5, 0.1), (1.0, 1.0)))
    assert table.light([0.25, 0.75]).tolist() == pytest.approx([0.05, 0.55])
    for wrong in (
        {"name": "film"},
        {"name": "log", "log": (1.0,)},
        {"name": "table", "table": ((1, 1), (0, 0))},
    ):
        with pytest.raises(InputError):
            Curve(**wrong)


def test_what_is_recorded_as_luma_and_chroma_comes_back_in_8_and_10_bits():
    colour = np.array([0.6, 0.4, 0.2])
    luma = colour @ (0.2126, 0.7152, 0.0722)
    blue, red = (colour[2] - luma) / 1.8556, (colour[0] - luma) / 1.5748
    for bits, more in ((8, 1), (10, 4)):
        codes = [
            np.full((4, 4), round(more * each))
            for each in (16 + 219 * luma, 128 + 224 * blue, 128 + 224 * red)
        ]
        seen = signal_of_planes(codes[0], codes[1][:2, :2], codes[2][:2, :2], bits)
        assert seen[0, 0] == pytest.approx(colour, abs=0.008 / more)
    with pytest.raises(InputError, match="matrix"):
        signal_of_planes(codes[0], codes[1], codes[2], matrix="bt470")
