"""What is proposed as a mark: found where it is, and not where there is nothing of its kind."""

import cv2
import numpy as np
import pytest

from jungoptic.core.measure import edge_of, grey_ball_light, proposals

from .filmed import photograph

SIZE = (540, 960)


def place():
    """A photographed place, dim, in which things are laid."""
    return (0.5 * photograph("coffee", SIZE, 0)).astype(np.float32)


def within(box, wanted, off):
    """Whether a region lies as wanted, both in shares of the frame."""
    return np.asarray(box).ravel() == pytest.approx(np.asarray(wanted).ravel(), abs=off)


def ball_in(picture, x, y, radius):
    across, down = (np.indices(SIZE)[::-1] - np.array([x, y])[:, None, None]) / radius
    out = np.sqrt(np.maximum(0.0, 1.0 - across**2 - down**2))
    shade = 0.04 + 0.3 * np.maximum(0.0, 0.5 * across - 0.5 * down + 0.7071 * out)
    return np.where((out > 0)[..., None], shade[..., None], picture).astype(np.float32)


@pytest.mark.parametrize(("x", "y", "radius"), [(700, 300, 60), (240, 200, 90), (500, 400, 40)])
def test_a_grey_ball_is_found_and_its_light_told(x, y, radius):
    picture = ball_in(place(), x, y, radius)
    (left, top), (right, low) = proposals(picture)["ball"]
    circle = (
        (left + right) / 2 * SIZE[1] - 0.5,
        (top + low) / 2 * SIZE[0] - 0.5,
        (right - left) / 2 * SIZE[1],
    )
    assert circle == pytest.approx((x, y, radius), abs=0.06 * radius)
    key = grey_ball_light(picture, circle).key
    assert key.azimuth_deg == pytest.approx(35.26, abs=2.0 * key.off_deg)


@pytest.mark.parametrize("name", ["coffee", "rocket", "astronaut", "chelsea"])
def test_round_things_that_are_no_ball_are_not_taken_for_one(name):
    assert "ball" not in proposals(photograph(name, SIZE, 0).astype(np.float32))


@pytest.mark.parametrize("turn", [0.0, 12.0])
def test_a_grey_card_is_found_and_the_region_lies_within_it(turn):
    picture = place()
    box = cv2.boxPoints(((600.0, 250.0), (130.0, 180.0), turn))
    cv2.fillConvexPoly(picture, np.int32(np.round(box)), (0.18, 0.18, 0.18))
    (left, top), (right, low) = proposals(picture)["card"]
    corners = np.array([(x * SIZE[1], y * SIZE[0]) for x in (left, right) for y in (top, low)], np.float32)
    assert all(cv2.pointPolygonTest(box, tuple(map(float, each)), True) > 2.0 for each in corners)


@pytest.mark.parametrize("sigma", [1.0, 2.5])
def test_a_slanted_edge_is_found_that_tells_how_sharp_it_is(sigma):
    picture = place()
    cv2.fillConvexPoly(picture, np.int32([(120, 60), (330, 90), (300, 300), (90, 270)]), (0.6, 0.6, 0.6))
    cv2.fillConvexPoly(picture, np.int32([(140, 84), (310, 108), (280, 276), (110, 252)]), (0.05, 0.05, 0.05))
    soft = cv2.GaussianBlur(picture, (0, 0), sigma)
    (left, top), (right, low) = proposals(soft)["edge"]
    x0, y0, x1, y1 = (round(each) for each in (left * 960, top * 540, right * 960, low * 540))
    edge = edge_of(soft[y0:y1, x0:x1, 1])
    assert edge.spread_px == pytest.approx(2.5631 * sigma, abs=max(edge.off_px, 0.3))


def test_a_sheet_its_evenest_part_and_what_is_found_again_are_proposed():
    picture = place()
    picture[60:480, 200:820] = (0.04, 0.35, 0.06)
    picture[300:480, 480:540] = (0.3, 0.2, 0.15)
    found = proposals(picture)
    assert within(found["backing"], ((200 / 960, 60 / 540), (820 / 960, 480 / 540)), 0.01)
    (left, top), (right, low) = found["grain"]
    assert right - left == pytest.approx(0.1, abs=0.01)
    part = picture[int(top * 540) : int(low * 540), int(left * 960) : int(right * 960)]
    assert part.std(axis=(0, 1)).max() < 0.01
    assert all(0.1 <= sum(each) / 2 <= 0.9 for each in zip(*found["point"], strict=True))


def test_nothing_is_proposed_of_a_plain_picture_but_its_even_part():
    assert set(proposals(np.full((270, 480, 3), 0.2, np.float32))) <= {"grain"}
    assert proposals(np.zeros((270, 480, 3), np.float32)) == {}
