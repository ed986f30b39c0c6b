"""Two pictures of one set-up: moved, parted, lighter, warmer, softer by known amounts, through H.264."""

import numpy as np
import pytest
from scipy import ndimage
from skimage.registration import phase_cross_correlation

from jungoptic.core.light import planck_gain
from jungoptic.core.measure import brightness, changed, moved
from tests.core.filmed import Tried, cases, laid, noised, photograph, recorded


def test_how_a_camera_moved_is_told_within_a_tenth_of_a_pixel():
    tried = Tried()
    for index, dice, name, quality in cases(18):
        whole = photograph(name)
        shift, turn = tuple(dice.uniform(-20, 20, 2)), dice.uniform(-0.6, 0.6)
        size, gain = 1 + dice.uniform(-0.004, 0.004), dice.uniform(-0.3, 0.3)
        first = recorded(0.5 * laid(whole), quality, index)
        second = recorded(0.5 * 2**gain * laid(whole, shift, turn, size), quality, index + 500)
        seen = moved(brightness(first), brightness(second))
        tried.add("right", seen.shift_px[0], shift[0], seen.shift_off_px)
        tried.add("down", seen.shift_px[1], shift[1], seen.shift_off_px)
        tried.add("turn", seen.turn_deg, turn, seen.turn_off_deg)
        tried.add("size", seen.size, size, seen.size_off)
        tried.add("parted", seen.parted, 0, 0)
    tried.hold(right=0.1, down=0.1, turn=0.01, size=0.0002)


def test_a_registration_of_a_library_tells_the_same_shift():
    """scikit-image's phase correlation, which wraps around, on a shift that it can tell."""
    whole = photograph("gravel")
    first, second = laid(whole), laid(whole, (4.3, -2.6))
    down, right = phase_cross_correlation(first.mean(2), second.mean(2), upsample_factor=100)[0]
    ours = moved(brightness(first), brightness(second)).shift_px
    assert ours == pytest.approx((4.3, -2.6), abs=0.01)
    assert ours == pytest.approx((-right, -down), abs=0.1)


def test_near_and_far_that_part_are_told_and_where():
    y, x = np.mgrid[0:360, 0:640]

    def disc(shift: float) -> np.ndarray:
        inside = (x - 400 - shift) ** 2 + (y - 200) ** 2 < 110**2
        matte = ndimage.gaussian_filter(inside.astype(float), 1.0)[..., None]
        far, near = laid(photograph("gravel"), (0.7, 0)), laid(photograph("brick"), (shift, 0))
        return noised(0.6 * matte * near + 0.5 * (1 - matte) * far, 0.02, round(10 * shift))

    together, parted = (moved(brightness(disc(0.7)), brightness(disc(0.7 + by))) for by in (0.0, 1.5))
    assert not together.parted
    assert parted.parted and parted.parallax_px == pytest.approx(1.5, abs=parted.parallax_off_px)
    across, down = parted.parallax_at
    assert np.hypot(across * 640 - 400, down * 360 - 200) < 110
    assert parted.shift_px == pytest.approx((0.0, 0.0), abs=0.1)  # most of the frame stands still


def test_what_moves_by_itself_does_not_move_the_camera():
    whole = photograph("brick")
    first, second = 0.5 * laid(whole), 0.5 * laid(whole, (2.2, 0.4))
    first[100:250, 60:180], second[100:250, 160:280] = 0.9, 0.9
    seen = moved(brightness(noised(first, 0.03, 1)), brightness(noised(second, 0.03, 2)))
    assert seen.shift_px == pytest.approx((2.2, 0.4), abs=0.1)


def test_pictures_of_different_things_are_refused():
    with pytest.raises(ValueError, match="not the same"):
        moved(laid(photograph("brick"))[..., 1], laid(photograph("astronaut"))[..., 1])


def test_light_white_and_focus_that_changed_are_told_and_where():
    tried = Tried()
    for index, dice, name, quality in cases(12):
        whole, gain, kelvin = photograph(name), dice.uniform(-0.3, 0.3), dice.uniform(5000, 6300)
        white = planck_gain(kelvin, 5600).astype(float)
        blur = dice.uniform(0.6, 2.0)
        left = np.where(np.arange(640) < 213, 2**0.2, 1.0)[None, :, None]
        first = 0.45 * laid(whole)
        second = 0.45 * 2**gain * laid(whole, tuple(dice.uniform(-8, 8, 2)), dice.uniform(-0.3, 0.3))
        lit = recorded(white * left * second, quality, index + 100)
        soft = recorded(ndimage.gaussian_filter(second, (blur, blur, 0)), quality, index + 300)
        held = recorded(first, quality, index)
        seen = changed(held, lit)
        tried.add("green", seen.gains.channels[1], gain, seen.gains.channels_off)
        tried.add("mired", seen.mired, 1e6 / kelvin - 1e6 / 5600, seen.mired_off)
        assert seen.gains.where == "left third"
        tried.add(
            "left", seen.gains.there - seen.gains.stops, 0.2, np.hypot(seen.gains.there_off, seen.gains.off)
        )
        wider = changed(held, soft).softened
        assert wider is not None
        tried.add("wider", wider.px, 2.5631 * blur, wider.off)
    tried.hold(green=0.02, mired=2.0, left=0.02, wider=0.2)


def test_white_of_what_is_grey_is_not_surer_than_its_codec():
    """A codec makes no chroma of less than one code: what is left of a small change of white is in the error,
    where the thing is grey; what has colour keeps it.
    """
    offs = {}
    for name in ("brick", "astronaut"):
        held, warmer = (
            recorded(0.45 * laid(photograph(name)) * planck_gain(kelvin, 5600).astype(float), 24, seed)
            for kelvin, seed in ((5600, 1), (5450, 2))
        )
        seen = changed(held, warmer)
        assert abs(seen.mired - (1e6 / 5450 - 1e6 / 5600)) <= seen.mired_off
        offs[name] = seen.colour_off
    assert offs["brick"] > 0.03 > 2 * offs["astronaut"]
