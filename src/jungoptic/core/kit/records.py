"""Cameras, lenses, lamps and support as they limit a set-up."""

from __future__ import annotations

import math
from functools import cached_property
from typing import Annotated, Any

from pydantic import Field

from .. import quantities as q
from ..errors import FieldProblem, InputError
from .lamp import Lamp
from .lens import Lens, fitting_lens
from .steps import (
    FRAME_RATES_FPS,
    ISO_STEPS,
    ND_STOPS,
    SHUTTER_ANGLES_DEG,
    rate_name,
    stop_name,
)

_EVERY_RATE_FPS = tuple(float(rate) for rate in FRAME_RATES_FPS)


class RecordingMode(q.Record):
    """One way a camera records: pixels, the gate it uses, and how fast it can run."""

    name: str
    recorded_width_px: q.WidthPx
    recorded_height_px: q.HeightPx
    gate_width_mm: q.GateWidthMm
    gate_height_mm: q.GateHeightMm
    highest_fps: q.FramesPerS
    bit_depth: Annotated[int, q.quantity("Bit depth", "bit", ge=1, le=32)] = 10
    sampling: q.Sampling = "4:4:4"
    long_groups: bool = False
    readout_ms: Annotated[float, q.quantity("Readout of the whole frame", "ms", ge=0, le=1000)] = 0.0
    headroom_stops: Annotated[float, q.quantity("Highlight latitude over mid-grey", "stops", ge=0, le=20)] = (
        6.0
    )
    noise_pct: q.NoisePct = None
    noise_iso: q.NoiseIso = None
    menu_fps: Annotated[tuple[float, ...], Field(title="Rates on its menu")] = _EVERY_RATE_FPS

    def settings(self) -> dict[str, Any]:
        """What the mode brings with it into a set-up.

        Returns
        -------
        dict
            Values by the set-up's fields.

        Examples
        --------
        >>> RecordingMode(
        ...     name="HD", recorded_width_px=1920, recorded_height_px=1080, gate_width_mm=23.5,
        ...     gate_height_mm=13.2, highest_fps=120,
        ... ).settings()["gate_width_mm"]
        23.5
        """
        return {
            name: getattr(self, name)
            for name in (
                "recorded_width_px",
                "recorded_height_px",
                "gate_width_mm",
                "gate_height_mm",
                "bit_depth",
                "sampling",
                "long_groups",
                "readout_ms",
                "headroom_stops",
                "noise_pct",
                "noise_iso",
            )
        }

    @property
    def rates_fps(self) -> list[float]:
        """The rates of its menu that it can run at, frames/s, slowest first; a menu in 1000/1001 is written
        rounded, so 59.94 is there where 60 is. One that is slower than its whole menu runs at its highest.
        """
        return [rate for rate in self.menu_fps if rate <= self.highest_fps] or [self.highest_fps]


class Camera(q.Record):
    """A camera body and the ISO it has."""

    name: str
    modes: tuple[RecordingMode, ...]
    lowest_iso: q.Iso
    highest_iso: q.Iso

    @cached_property
    def iso_steps(self) -> list[float]:
        """The trade's ISO steps that it has, lowest first."""
        return [float(step) for step in ISO_STEPS if self.lowest_iso <= step <= self.highest_iso]

    @property
    def rates_fps(self) -> list[float]:
        """The rates that some mode can run at, frames/s, slowest first."""
        return sorted({rate for mode in self.modes for rate in mode.rates_fps})


class Kit(q.Record):
    """What one set-up can draw on."""

    camera: Camera
    lenses: tuple[Lens, ...]
    lamps: tuple[Lamp, ...] = ()
    lowest_lens_m: Annotated[float, q.quantity("Lowest lens height", "m", ge=0, le=10)] = 0.0
    highest_lens_m: Annotated[float, q.quantity("Highest lens height", "m", ge=0, le=100)] = 2.0
    shutter_angles_deg: Annotated[tuple[float, ...], Field(title="Shutter angles")] = SHUTTER_ANGLES_DEG
    nd_stops: Annotated[tuple[float, ...], Field(title="Grey filters, stacked")] = ND_STOPS
    stage_length_m: Annotated[
        float | None, q.quantity("Stage, length", "m", "Along the view.", gt=0, le=1000)
    ] = None
    stage_width_m: Annotated[float | None, q.quantity("Stage, width", "m", gt=0, le=1000)] = None
    beams_m: Annotated[float | None, q.quantity("Up to the beams", "m", gt=0, le=1000)] = None
    travel_m: Annotated[
        float | None, q.quantity("Travel", "m", "The longest slider, crane or track.", gt=0, le=1000)
    ] = None

    def lens_of(
        self,
        focal_length_mm: float,
        f_number: float | None = None,
        focus_distance_m: float | None = None,
    ) -> Lens | None:
        """The lens of a focal length: a prime before a zoom, and of several the first that can do the rest.

        Parameters
        ----------
        focal_length_mm : float
            Focal length, mm.
        f_number : float, optional
            Stop that it should have.
        focus_distance_m : float, optional
            Where it should focus, metres from the entrance pupil.

        Returns
        -------
        Lens or None
            A zoom as it is when it is set to this focal length; None where the kit has none.

        Examples
        --------
        >>> camera = Camera(name="A", modes=(), lowest_iso=100, highest_iso=6400)
        >>> Kit(camera=camera, lenses=()).lens_of(35) is None
        True
        """
        place = fitting_lens(self.lenses, focal_length_mm, f_number, focus_distance_m)
        return None if place is None else self.lenses[place].turned_to(focal_length_mm)

    def mode_of(self, recorded_width_px: int, gate_width_mm: float) -> RecordingMode | None:
        """The recording mode of a width and a gate.

        Parameters
        ----------
        recorded_width_px : int
            Width of the recording, px.
        gate_width_mm : float
            Width of the gate, mm.

        Returns
        -------
        RecordingMode or None
            None where the camera has none.

        Examples
        --------
        >>> camera = Camera(name="A", modes=(), lowest_iso=100, highest_iso=6400)
        >>> Kit(camera=camera, lenses=()).mode_of(3840, 23.5) is None
        True
        """
        return next(
            (
                m
                for m in self.camera.modes
                if m.recorded_width_px == recorded_width_px
                and math.isclose(m.gate_width_mm, gate_width_mm, rel_tol=1e-6)
            ),
            None,
        )


def check_against_kit(
    kit: Kit,
    *,
    focal_length_mm: float,
    f_number: float,
    focus_distance_m: float,
    recorded_width_px: int,
    gate_width_mm: float,
    capture_fps: float,
    iso: float,
) -> None:
    """Refuse every setting that this camera and these lenses do not have.

    Parameters
    ----------
    kit : Kit
        What the set-up can draw on.
    focal_length_mm : float
        Focal length, mm.
    f_number : float
        Stop.
    focus_distance_m : float
        Where the lens is focused, metres from the entrance pupil.
    recorded_width_px : int
        Width of the recording, px.
    gate_width_mm : float
        Width of the gate, mm.
    capture_fps : float
        Capture rate, frames/s.
    iso : float
        Exposure index.

    Raises
    ------
    InputError
        Naming each setting, what was given and what the kit has.

    References
    ----------
    engraved_stops

    Examples
    --------
    >>> mode = RecordingMode(
    ...     name="4K", recorded_width_px=3840, recorded_height_px=2160, gate_width_mm=23.5,
    ...     gate_height_mm=13.2, highest_fps=60,
    ... )
    >>> prime = Lens(
    ...     name="35 mm", focal_length_mm=35, widest_f_number=2, smallest_f_number=22, closest_focus_m=0.3
    ... )
    >>> kit = Kit(camera=Camera(name="A", modes=(mode,), lowest_iso=100, highest_iso=6400), lenses=(prime,))
    >>> try:
    ...     check_against_kit(
    ...         kit, focal_length_mm=35, f_number=8, focus_distance_m=0.2, recorded_width_px=3840,
    ...         gate_width_mm=23.5, capture_fps=24, iso=800,
    ...     )
    ... except InputError as error:
    ...     print(error)
    The 35 mm focuses from 0.3 m; 0.2 m was given.
    """
    problems: list[FieldProblem] = []
    lens = kit.lens_of(focal_length_mm, f_number, focus_distance_m)
    if lens is None:
        owned = ", ".join(lens.engraved_mm for lens in kit.lenses) or "none"
        problems.append(
            FieldProblem("focal_length_mm", f"The kit has no {focal_length_mm:g} mm lens; it has {owned} mm.")
        )
    else:
        if not lens.has_stop(f_number):
            problems.append(
                FieldProblem(
                    "f_number",
                    f"The {lens.name} goes from f/{lens.widest_f_number:.3g} to f/{lens.smallest_f_number:g};"
                    f" f/{stop_name(f_number)} was given.",
                )
            )
        if not lens.focuses_at(focus_distance_m):
            far = f" to {lens.farthest_focus_m:.4g} m" if lens.farthest_focus_m else ""
            problems.append(
                FieldProblem(
                    "focus_distance_m",
                    f"The {lens.name} focuses from {lens.closest_focus_m:.4g} m{far};"
                    f" {focus_distance_m:g} m was given.",
                )
            )
    mode = kit.mode_of(recorded_width_px, gate_width_mm)
    if mode is None:
        problems.append(
            FieldProblem(
                "recorded_width_px",
                f"{kit.camera.name} has no mode {recorded_width_px} px wide on a {gate_width_mm:g} mm gate.",
            )
        )
    elif capture_fps > mode.highest_fps:
        faster = max(kit.camera.modes, key=lambda m: m.highest_fps)
        more = (
            f" {faster.name} goes to {rate_name(faster.highest_fps)}."
            if faster.highest_fps > mode.highest_fps
            else ""
        )
        problems.append(
            FieldProblem(
                "capture_fps",
                f"{kit.camera.name} records at most {rate_name(mode.highest_fps)} frames/s in {mode.name};"
                f" {rate_name(capture_fps)} was given.{more}",
            )
        )
    if not kit.camera.lowest_iso <= iso <= kit.camera.highest_iso:
        problems.append(
            FieldProblem(
                "iso",
                f"{kit.camera.name} goes from ISO {kit.camera.lowest_iso:g} to {kit.camera.highest_iso:g};"
                f" {iso:g} was given.",
            )
        )
    if problems:
        raise InputError(*problems)
