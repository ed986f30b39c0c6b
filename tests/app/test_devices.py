"""The simulated camera, rig, dimmer and meter behave as real ones: they have limits, take time, and follow
the rules of light.
"""

from __future__ import annotations

from typing import Any

import pytest
from django.test.utils import override_settings

from jungoptic.app.devices.in_use import device
from jungoptic.app.devices.protocols import Camera, CameraSettings, DeviceError, Dimmer, Meter, Rig
from jungoptic.app.devices.simulated import SimulatedCamera, SimulatedDimmer, SimulatedMeter, SimulatedRig
from jungoptic.core.light import PlacedLamp


class Clock:
    def __init__(self) -> None:
        self.now = 100.0

    def __call__(self) -> float:
        return self.now


def lamp(name: str = "Key", **where: Any) -> PlacedLamp:
    """1000 cd, on the axis of a meter at the origin that faces it."""
    return PlacedLamp(
        **{
            "name": name,
            "intensity_cd": 1000,
            "height_m": 0,
            "behind_m": -2,
            "aim_height_m": 0,
            "aim_behind_m": 0,
            **where,
        }
    )


def exact(dimmer: SimulatedDimmer) -> Meter:
    return SimulatedMeter(dimmer, at=(0, 0, 0), facing=(0, 0, -1), error=0)


def test_a_camera_takes_settings_to_its_own_steps_and_counts_its_frames():
    clock = Clock()
    camera: Camera = SimulatedCamera(lambda settings: f"{settings.f_number:g}".encode(), clock)
    took = camera.set(capture_fps=24.3, iso=790, f_number=8)
    assert (took.capture_fps, took.iso, took.f_number) == (24, 800, 8) and camera.settings() == took
    camera.roll()
    clock.now += 2.5
    with pytest.raises(DeviceError, match="cut first"):
        camera.set(capture_fps=48)
    with pytest.raises(DeviceError, match="rolls already"):
        camera.roll()
    assert camera.cut() == 60
    with pytest.raises(DeviceError, match="does not roll"):
        camera.cut()
    assert camera.still() == b"8"
    with pytest.raises(DeviceError, match="lens cap"):
        SimulatedCamera().still()


@pytest.mark.parametrize(
    ("settings", "said"), [({"f_number": 1}, "goes from 2 to 22"), ({"mood": 1}, "no setting called")]
)
def test_what_a_camera_cannot_is_said_and_nothing_changes(settings: dict[str, float], said: str):
    camera = SimulatedCamera()
    before = camera.settings()
    with pytest.raises(DeviceError, match=said):
        camera.set(iso=400, **settings)
    assert camera.settings() == before and isinstance(before, CameraSettings)


def test_a_rig_takes_its_time_and_halts_where_it_is():
    clock = Clock()
    rig: Rig = SimulatedRig(clock=clock)
    rig.move_to({"track": 1.0, "pan": 40}, 8)
    clock.now += 2
    assert rig.positions()["track"] == pytest.approx(0.25) and rig.positions()["pan"] == pytest.approx(10)
    rig.halt()
    clock.now += 60
    assert rig.positions()["track"] == pytest.approx(0.25)
    rig.move_to({"track": 0.5}, 1)
    clock.now += 5
    assert rig.positions() == pytest.approx({"track": 0.5, "height": 0.1, "pan": 10, "tilt": 0})


@pytest.mark.parametrize(
    ("positions", "said"),
    [
        ({"track": 3.0}, "goes from 0 to 2 m"),
        ({"track": 2.0}, "needs 8 s to get there; 4 s"),
        ({"crane": 1.0}, "no axis called “crane”"),
    ],
)
def test_what_a_rig_cannot_is_said_before_anything_moves(positions: dict[str, float], said: str):
    rig = SimulatedRig(clock=Clock())
    with pytest.raises(DeviceError, match=said):
        rig.move_to({"pan": 10, **positions}, 4)
    assert rig.positions()["pan"] == 0


# Illuminance on the axis by the inverse-square law, E = I / d² (ISO 23539:2023, CIE S 010: photometry; worked
# by hand): candelas, metres, lux.
INVERSE_SQUARE = [(1000, 1, 1000), (1000, 2, 250), (1000, 4, 62.5), (500, 2, 125)]


@pytest.mark.parametrize(("candelas", "metres", "lux"), INVERSE_SQUARE)
def test_a_meter_reads_the_inverse_square_law(candelas: float, metres: float, lux: float):
    dimmer = SimulatedDimmer([lamp(intensity_cd=candelas, behind_m=-metres)])
    assert exact(dimmer).read().illuminance_lx == pytest.approx(lux)


def test_a_dimmer_dims_and_the_meter_sees_it():
    dimmer = SimulatedDimmer([lamp(colour_k=3200), lamp("Fill", colour_k=5600)])
    meter = exact(dimmer)
    assert meter.read().illuminance_lx == pytest.approx(500)
    assert 1e6 / meter.read().colour_k == pytest.approx((1e6 / 3200 + 1e6 / 5600) / 2), (
        "half of each, in mireds"
    )
    dimmer.set({"Fill": 0})
    assert (meter.read().illuminance_lx, meter.read().colour_k) == (pytest.approx(250), pytest.approx(3200))
    for levels in ({"Key": 0.5, "Sun": 1.0}, {"Key": 0.5, "Fill": 1.5}):
        with pytest.raises(DeviceError):
            dimmer.set(levels)
    assert dimmer.levels() == {"Key": 1.0, "Fill": 0.0}, "all or nothing"
    dimmer.set({"Key": 0})
    with pytest.raises(DeviceError, match="no light"):
        meter.read()


def test_a_meter_is_off_by_what_its_class_allows_and_the_same_again_at_every_run():
    read = [
        SimulatedMeter(SimulatedDimmer([lamp()]), at=(0, 0, 0), facing=(0, 0, -1), seed=7) for _ in range(2)
    ]
    first, again = ([one.read().illuminance_lx for _ in range(200)] for one in read)
    assert first == again and len(set(first)) > 100
    assert all(abs(lux / 250 - 1) <= 0.02 for lux in first)


def test_the_settings_say_which_devices_there_are():
    dimmer: Dimmer = device("dimmer", [lamp()])
    assert isinstance(device("meter", dimmer), SimulatedMeter)
    with override_settings(DEVICES={"rig": "jungoptic.app.devices.simulated.SimulatedCamera"}):
        assert isinstance(device("rig"), SimulatedCamera)
