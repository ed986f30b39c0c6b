"""What each kind of device can do.

A real one is a class that does this, named in the settings; a simulated one ships with the application.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Protocol


class DeviceError(Exception):
    """A device did not do what it was told; the message says what to look at."""


@dataclass(frozen=True)
class CameraSettings:
    """What a camera is set to. Units as in a set-up."""

    capture_fps: float
    shutter_angle_deg: float
    iso: float
    white_balance_k: float
    f_number: float
    focal_length_mm: float
    focus_distance_m: float


class Camera(Protocol):
    """A camera that tells and takes settings, rolls, and takes stills."""

    def settings(self) -> CameraSettings:
        """What it is set to now."""

    def set(self, **settings: float) -> CameraSettings:
        """Change settings by their names; returns what it took (to its own steps).

        Raises DeviceError for what it cannot.
        """

    def roll(self) -> None:
        """Begin to record. Raises DeviceError while it does."""

    def cut(self) -> int:
        """End recording; returns how many frames were recorded. Raises DeviceError where it was not."""

    def still(self) -> bytes:
        """One frame of what stands before it, as an encoded picture."""


@dataclass(frozen=True)
class Axis:
    """One axis of a rig: how far it goes and how fast. ``unit`` is "m" or "deg"."""

    unit: str
    lowest: float
    highest: float
    fastest_per_s: float


class Rig(Protocol):
    """A geared rig: axes that go where they are told and say where they are."""

    def axes(self) -> Mapping[str, Axis]:
        """Its axes by name."""

    def positions(self) -> Mapping[str, float]:
        """Where each axis stands, in its unit."""

    def move_to(self, positions: Mapping[str, float], duration_s: float) -> None:
        """Go there, all axes together, in this time.

        Raises DeviceError before anything moves where an axis cannot.
        """

    def halt(self) -> None:
        """Stop at once, wherever it is."""


class Dimmer(Protocol):
    """Lamps on channels, each from 0 (out) to 1 (full)."""

    def levels(self) -> Mapping[str, float]:
        """The level of each channel, by name."""

    def set(self, levels: Mapping[str, float]) -> None:
        """Set channels; the others stay.

        Raises DeviceError for a channel that is not there or a level out of range, and sets none.
        """


@dataclass(frozen=True)
class Reading:
    """What a meter reads where it is held."""

    illuminance_lx: float
    colour_k: float


class Meter(Protocol):
    """A light meter that is held somewhere."""

    def read(self) -> Reading:
        """Light and its colour at the meter. Raises DeviceError in the dark, where there is no colour."""
