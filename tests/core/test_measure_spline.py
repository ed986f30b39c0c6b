"""Pictures laid between their pixels against scipy's cubic spline, whose filter and evaluation are others."""

from __future__ import annotations

import cv2
import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.ndimage import affine_transform, spline_filter

from jungoptic.core.measure.pixels import laid_by, spline_of
from jungoptic.core.measure.still import similarity

HEIGHT, WIDTH = 90, 160
BOARD = cv2.GaussianBlur(np.random.default_rng(7).random((HEIGHT, WIDTH), np.float32), (0, 0), 1.0)
SHIFTS = st.floats(-40.0, 40.0)


def laid_by_scipy(transform: np.ndarray) -> np.ndarray:
    (a, b, right), (c, d, down) = transform
    spline = spline_filter(BOARD.astype(np.float64), 3, mode="mirror")
    how = {"order": 3, "mode": "constant", "cval": np.nan, "prefilter": False}
    return np.asarray(affine_transform(spline, np.array([[d, c], [b, a]]), (down, right), **how))


def test_its_coefficients_are_those_of_scipy():
    assert np.abs(spline_of(BOARD) - spline_filter(BOARD.astype(np.float64), 3, mode="mirror")).max() < 1e-5


@given(SHIFTS, SHIFTS, st.floats(-0.08, 0.08), st.floats(0.999, 1.001))
def test_what_goes_almost_equally_far_is_laid_as_scipy_lays_it(right, down, turn_deg, size):
    middle = ((WIDTH - 1) / 2.0, (HEIGHT - 1) / 2.0)
    transform = similarity((right, down), turn_deg, size, middle)
    ours, theirs = laid_by(spline_of(BOARD), transform), laid_by_scipy(transform)
    both = np.isfinite(ours) & np.isfinite(theirs)
    # where the rim of the picture lies, the last digit decides
    assert (np.isfinite(ours) != np.isfinite(theirs)).sum() <= WIDTH + HEIGHT
    if both.any():
        assert np.abs(ours - theirs)[both].max() < 0.01 * float(BOARD.std())


@pytest.mark.parametrize("turn_deg", [0.0, 3.0, 40.0])
def test_however_far_it_goes_it_is_laid_as_scipy_lays_it(turn_deg):
    transform = similarity((70.0, -3.3), turn_deg, 1.1, (40.0, 20.0))
    ours, theirs = laid_by(spline_of(BOARD), transform), laid_by_scipy(transform)
    assert np.array_equal(np.isfinite(ours), np.isfinite(theirs)) and np.isfinite(ours).any()
    assert np.nanmax(np.abs(ours - theirs)) < 1e-4
