"""Devices that are not there: they behave as real ones do, by the same rules of light and motion, and the
same again at every run.
"""

from __future__ import annotations

import random
import time
from collections.abc import Callable, Mapping, Sequence
from dataclasses import fields, replace

import numpy as np

from jungoptic.app.devices.protocols import Axis, CameraSettings, DeviceError, Reading
from jungoptic.core.kit import FRAME_RATES_FPS, ISO_STEPS
from jungoptic.core.light import PlacedLamp, light_on, mired

Clock = Callable[[], float]
_CAMERA_LIMITS = {
    "capture_fps": (1, 120),
    "shutter_angle_deg": (1, 360),
    "iso": (100, 6400),
    "white_balance_k": (2000, 10000),
    "f_number": (2, 22),
    "focal_length_mm": (18, 85),
    "focus_distance_m": (0.3, 1e4),
}
_CAMERA_STEPS: Mapping[str, Sequence[float]] = {"capture_fps": FRAME_RATES_FPS, "iso": ISO_STEPS}


class SimulatedCamera:
    """A camera with the steps of a real one. ``sees`` draws what stands before it."""

    def __init__(
        self, sees: Callable[[CameraSettings], bytes] | None = None, clock: Clock = time.monotonic
    ) -> None:
        self._settings = CameraSettings(24, 180, 800, 5600, 5.6, 35, 3)
        self._sees, self._clock = sees, clock
        self._rolls_since: float | None = None

    def settings(self) -> CameraSettings:
        return self._settings

    def set(self, **settings: float) -> CameraSettings:
        known = {field.name for field in fields(CameraSettings)}
        taken = {}
        for name, value in settings.items():
            if name not in known:
                raise DeviceError(f"This camera has no setting called “{name}”.")
            lowest, highest = _CAMERA_LIMITS[name]
            if not lowest <= value <= highest:
                raise DeviceError(
                    f"{name} goes from {lowest:g} to {highest:g} on this camera; {value:g} was asked."
                )
            taken[name] = (
                min(_CAMERA_STEPS[name], key=lambda step: abs(step - value))
                if name in _CAMERA_STEPS
                else value
            )
        if self._rolls_since is not None and "capture_fps" in taken:
            raise DeviceError("The rate cannot be changed while the camera rolls: cut first.")
        self._settings = replace(self._settings, **taken)
        return self._settings

    def roll(self) -> None:
        if self._rolls_since is not None:
            raise DeviceError("The camera rolls already.")
        self._rolls_since = self._clock()

    def cut(self) -> int:
        if self._rolls_since is None:
            raise DeviceError("The camera does not roll.")
        frames = int((self._clock() - self._rolls_since) * self._settings.capture_fps)
        self._rolls_since = None
        return frames

    def still(self) -> bytes:
        if self._sees is None:
            raise DeviceError("The lens cap is on: nothing stands before this camera.")
        return self._sees(self._settings)


_AXES = {
    "track": Axis("m", 0.0, 2.0, 0.25),
    "height": Axis("m", 0.1, 1.8, 0.1),
    "pan": Axis("deg", -175, 175, 30),
    "tilt": Axis("deg", -60, 60, 30),
}


class SimulatedRig:
    """A rig with a track, a column and a head, each as fast as its motor."""

    def __init__(self, axes: Mapping[str, Axis] | None = None, clock: Clock = time.monotonic) -> None:
        self._axes = dict(axes or _AXES)
        self._clock = clock
        self._from = {name: min(max(0.0, axis.lowest), axis.highest) for name, axis in self._axes.items()}
        self._to, self._began, self._takes_s = dict(self._from), clock(), 0.0

    def axes(self) -> Mapping[str, Axis]:
        return self._axes

    def positions(self) -> Mapping[str, float]:
        done = 1.0 if self._takes_s <= 0 else min(1.0, (self._clock() - self._began) / self._takes_s)
        return {name: here + done * (self._to[name] - here) for name, here in self._from.items()}

    def move_to(self, positions: Mapping[str, float], duration_s: float) -> None:
        now = dict(self.positions())
        for name, wanted in positions.items():
            axis = self._axes.get(name)
            if axis is None:
                raise DeviceError(f"This rig has no axis called “{name}”; it has {', '.join(self._axes)}.")
            if not axis.lowest <= wanted <= axis.highest:
                raise DeviceError(
                    f"{name} goes from {axis.lowest:g} to {axis.highest:g} {axis.unit}; {wanted:g} was asked."
                )
            away = abs(wanted - now[name])
            if away > axis.fastest_per_s * duration_s * (1 + 1e-9):
                raise DeviceError(
                    f"{name} needs {away / axis.fastest_per_s:.2g} s to get there; {duration_s:.2g} s were"
                    " given."
                )
        self._from, self._to, self._began, self._takes_s = (
            now,
            now | dict(positions),
            self._clock(),
            duration_s,
        )

    def halt(self) -> None:
        self._from = dict(self.positions())
        self._to, self._takes_s = dict(self._from), 0.0


class SimulatedDimmer:
    """Lamps that stand somewhere, one on each channel."""

    def __init__(self, lamps: Sequence[PlacedLamp] = ()) -> None:
        self._lamps = {lamp.name: lamp for lamp in lamps}

    @property
    def lamps(self) -> list[PlacedLamp]:
        """The lamps at the levels that they are set to."""
        return list(self._lamps.values())

    def levels(self) -> Mapping[str, float]:
        return {name: lamp.level for name, lamp in self._lamps.items()}

    def set(self, levels: Mapping[str, float]) -> None:
        for name, level in levels.items():
            if name not in self._lamps:
                raise DeviceError(f"There is no lamp called “{name}” on this dimmer.")
            if not 0 <= level <= 1:
                raise DeviceError(f"“{name}” goes from 0 to 1; {level:g} was asked.")
        for name, level in levels.items():
            self._lamps[name] = self._lamps[name].but(level=level)


class SimulatedMeter:
    """A meter held at ``at`` (across, height, behind the front, m), facing ``facing``; reads the dimmer's
    lamps within ``error`` of them.

    Light adds up; its colour is the mean of the lamps' mireds, each by its share of the light (an
    approximation for lamps near the Planckian locus).
    """

    def __init__(
        self,
        dimmer: SimulatedDimmer,
        at: tuple[float, float, float] = (0.0, 1.0, 0.0),
        facing: tuple[float, float, float] | None = None,
        error: float = 0.02,
        seed: int = 0,
    ) -> None:
        self._dimmer, self._at, self._facing, self._error = dimmer, at, facing, error
        self._random = random.Random(seed)

    def read(self) -> Reading:
        point = np.array([self._at])
        light = [
            (float(light_on(point, lamp, self._facing)[0]), lamp.colour_k) for lamp in self._dimmer.lamps
        ]
        total = sum(lx for lx, _ in light)
        if total <= 0:
            raise DeviceError("The meter reads no light: is a lamp on, and does it reach here?")
        mean = sum(lx * mired(colour_k) for lx, colour_k in light) / total
        return Reading(total * (1 + self._random.uniform(-self._error, self._error)), 1e6 / mean)
