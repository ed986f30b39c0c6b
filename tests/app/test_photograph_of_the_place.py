"""A photograph of the place as the hero's plate: what is drawn on it tells the hero's camera, layers stand on
its ground. Truth by OpenCV.
"""

from __future__ import annotations

import io
import math

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from PIL import Image

from jungoptic.app.shots.models import Layer, Shot
from tests.core.by_opencv import W
from tests.quay import VIEW_DEG, quay_marks, quay_photograph

from .conftest import Caller, edit


@pytest.fixture
def hero(shot: Shot) -> Layer:
    return shot.layers.get(is_hero=True)


def photograph() -> SimpleUploadedFile:
    return SimpleUploadedFile("quay.jpg", quay_photograph())


def untagged() -> bytes:
    out = io.BytesIO()
    Image.new("RGB", (60, 40), "#8a8070").save(out, "PNG")
    return out.getvalue()


def of_hero(caller: Caller, hero: Layer) -> dict:
    return next(
        one for one in caller("get", f"/shots/{hero.shot_id}/bench")[1]["layers"] if one["id"] == hero.pk
    )


@pytest.fixture
def drawn(supervisor: Caller, hero: Layer) -> Layer:
    body = {"version": hero.version, "shown": "true", "file": photograph()}
    assert supervisor.client.post(f"/api/layers/{hero.pk}/picture", body).status_code == 200
    hero.refresh_from_db()
    saved = {"layers": {hero.pk: edit(hero.version, marks=quay_marks())}}
    assert supervisor("post", f"/shots/{hero.shot_id}/changes", saved)[0] == 200
    hero.refresh_from_db()
    return hero


def test_its_tags_say_how_wide_it_sees(drawn: Layer):
    assert drawn.taken_view_deg == pytest.approx(VIEW_DEG, rel=1e-3)
    assert drawn.shown_as == "picture"


def test_horizon_and_a_person_tell_the_camera_and_where_everything_stands(supervisor: Caller, drawn: Layer):
    reading = of_hero(supervisor, drawn)["reading"]
    told = {one["field"]: one for one in reading["read"]}
    for field, truth in (("taken_height_m", 1.55), ("taken_tilt_deg", -3.0), ("taken_roll_deg", 1.2)):
        assert told[field]["amount"] == pytest.approx(truth, abs=max(told[field]["within"], 0.01)), field
    horizon, person, lamp, barrel = reading["stands"]
    assert horizon is None
    assert person["distance_m"]["amount"] == pytest.approx(math.hypot(1.3, 6.0), rel=0.01)
    assert lamp["height_m"]["amount"] == pytest.approx(4.2, rel=0.01)
    assert (barrel["ahead_m"]["amount"], barrel["aside_m"]["amount"]) == pytest.approx((5.0, 1.6), rel=0.01)
    assert barrel["height_m"] is None
    assert {line["axis"] for line in reading["ground"]} == {"ahead", "aside"}


def test_the_frame_lies_in_it_as_the_hero_s_lens_sees(supervisor: Caller, drawn: Layer):
    seen = of_hero(supervisor, drawn)["photograph"]
    left, top, right, bottom = seen["frame_px"]
    k = math.tan(math.radians(seen["lens_view_deg"]) / 2) / math.tan(math.radians(VIEW_DEG) / 2)
    assert (right - left) / W == pytest.approx(k, rel=1e-3)
    assert (bottom - top) / (right - left) == pytest.approx(1080 / 1920, rel=1e-6)
    # the lens that sees as much: f over the gate as the photograph's over its width
    gate = drawn.set_up.mode.gate_width_mm
    infinite = gate / 2 / math.tan(math.radians(VIEW_DEG) / 2)
    assert seen["fits_mm"] == pytest.approx(infinite, rel=0.01)


def test_a_layer_is_put_down_where_its_foot_is_seen(supervisor: Caller, drawn: Layer, mill: Layer):
    """The middle of the mill's foot, seen by the hero, stands where the mill stands; the sky is no ground."""
    bench = supervisor("get", f"/shots/{drawn.shot_id}/bench")[1]
    path = f"/layers/{mill.pk}/ground"
    horizon = bench["horizon_px"]
    near, far = (supervisor("post", path, {"x_px": 960, "y_px": horizon + down})[1] for down in (300, 150))
    # level camera: distance is height over the share below the horizon, so half as far below is twice as far
    assert far["near_m"] == pytest.approx(2 * near["near_m"], rel=1e-3)
    assert near["offset_m"] == pytest.approx(0, abs=1e-6)
    status, answer = supervisor("post", path, {"x_px": 960, "y_px": horizon - 40})
    assert (status, answer["problems"][0]["field"]) == (422, "y_px")


def test_another_photograph_forgets_what_was_drawn_on_the_last(supervisor: Caller, drawn: Layer):
    body = {"version": drawn.version, "shown": "true", "file": photograph()}
    assert supervisor.client.post(f"/api/layers/{drawn.pk}/picture", body).status_code == 200
    drawn.refresh_from_db()
    assert drawn.marks == []
    plain = SimpleUploadedFile("plain.png", untagged())
    body = {"version": drawn.version, "shown": "true", "file": plain}
    assert supervisor.client.post(f"/api/layers/{drawn.pk}/picture", body).status_code == 200
    drawn.refresh_from_db()
    assert drawn.taken_view_deg is None  # it was the last one's
