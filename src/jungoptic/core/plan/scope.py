"""What one layer's search may draw on: what is free, what the kit has, what else the set-up films."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property
from typing import Any

from ..kit.lamp import available_light_lx
from ..kit.lens import Lens
from ..kit.records import Kit, RecordingMode
from ..match.camera import exposure_offset_stops, focal_px
from ..match.layer import Layer
from ..match.measure import Match
from ..match.pace import MOVING_DRIVERS
from ..match.records import Delivery, SetUp
from ..match.tolerances import Tolerance
from ..scale import similarity
from ..vocabulary import School
from .standing import stood

ZOOM_PLACES = 1  # of a millimetre: no ring is turned more finely
_ZOOM_STEP = 1.12  # between focal lengths of a zoom that are looked at: what is between is a resize away


@dataclass(frozen=True, slots=True)
class Shared:
    """Another layer that the same set-up films, and how far behind the solved layer's front its own lies,
    metres of the set.
    """

    layer: Layer
    behind_m: float


class Scope:
    """What is free, what the kit has, and the light that can be thrown."""

    def __init__(
        self,
        hero: SetUp,
        layer: Layer,
        setup: SetUp,
        delivery: Delivery,
        kit: Kit,
        locked: frozenset[str],
        school: School,
        custom: dict[str, Tolerance],
        shared: Sequence[Shared] = (),
    ) -> None:
        self.hero, self.layer, self.setup, self.delivery, self.kit = hero, layer, setup, delivery, kit
        self.shared = tuple(shared)
        # what is done in camera is not resized
        self.locked = locked | {"resize"} if layer.combine == "in_camera" else locked
        self.school, self.custom, self.told_to_keep = school, custom, locked
        self.subjects = (Shared(layer, 0.0), *self.shared)
        for subject in self.subjects:
            _ = subject.layer.worked_out, subject.layer.body_wire
        width = layer.width_m / layer.scale
        lit, self.lamps = available_light_lx(kit.lamps, width, setup.light_k)
        self.available_lx = lit if kit.lamps else math.inf
        self.template = stood(hero, layer, setup, delivery, kit, locked)

    def free(self, field: str) -> bool:
        """Whether a field of :data:`~.solve.SOLVABLE` is not locked."""
        return field not in self.locked

    @cached_property
    def lenses(self) -> list[Lens]:
        """The lenses that may be used; a zoom as the primes that it can be set to."""
        owned = self.kit.lenses
        if not self.free("focal_length_mm"):
            kept = self.setup.focal_length_mm
            return [lens.turned_to(kept) for lens in owned if lens.reaches(kept)]
        positions = [lens for lens in owned if lens.longest_mm is None]
        primes = {lens.focal_length_mm for lens in positions}
        for lens in owned:
            if lens.longest_mm is not None:
                positions += [lens.turned_to(focal) for focal in self._turned_to(lens) if focal not in primes]
        return positions

    def _turned_to(self, zoom: Lens) -> list[float]:
        """Focal lengths of a zoom: its ends, steps between them, and those that frame as the hero does in
        each recording, however the focus breathes.
        """
        short, long = zoom.focal_length_mm, zoom.longest_mm or zoom.focal_length_mm
        steps = max(math.ceil(math.log(long / short) / math.log(_ZOOM_STEP)), 1)
        ratio = (long / short) ** (1.0 / steps)
        positions = {long, *(round(short * ratio**step, ZOOM_PLACES) for step in range(steps))}
        wanted_px = focal_px(self.hero, self.delivery)
        for mode in self.modes:
            part = self.template.extraction_width_mm
            extracted = None if part is None else min(part, mode.gate_width_mm)
            filmed = self.template.model_copy(update={**mode.settings(), "extraction_width_mm": extracted})
            for resize in (1.0, self.layer.resize):
                alike = self.template.focal_length_mm * wanted_px / focal_px(filmed, self.delivery) / resize
                positions.add(round(alike, ZOOM_PLACES))
        return sorted(focal for focal in positions if zoom.reaches(focal))

    @cached_property
    def modes(self) -> list[RecordingMode]:
        """The recordings that may be used, those that run at a locked rate."""
        here = self.setup
        return [
            mode
            for mode in self.kit.camera.modes
            if (
                self.free("mode")
                or (mode.recorded_width_px, mode.gate_width_mm)
                == (here.recorded_width_px, here.gate_width_mm)
            )
            and (self.free("capture_fps") or here.capture_fps <= mode.highest_fps)
        ]

    def rates(self, mode: RecordingMode) -> list[float]:
        """Frames/s; where nothing moves there is no reason for another rate than the hero's."""
        if not self.free("capture_fps"):
            return [self.setup.capture_fps]
        if any(subject.layer.driver in MOVING_DRIVERS for subject in self.subjects):
            return mode.rates_fps
        same = [rate for rate in mode.rates_fps if math.isclose(rate, self.hero.capture_fps)]
        return same or mode.rates_fps[:1]

    @cached_property
    def angles(self) -> list[float]:
        """Shutter angles; as many degrees as the hero's come first, since the first of equals is taken."""
        if not self.free("shutter_angle_deg"):
            return [self.setup.shutter_angle_deg]
        wanted = self.hero.shutter_angle_deg
        return sorted({*self.kit.shutter_angles_deg, wanted}, key=lambda angle: abs(angle - wanted))

    def speed_m_s(self, layer: Layer, rate_fps: Any) -> Any:
        """How fast a driven model must go at a rate, metres of the set for each second."""
        return similarity.set_speed_m_s(layer.fastest_m_s, layer.scale, rate_fps, self.hero.capture_fps)

    @cached_property
    def matches(self) -> tuple[Match, ...]:
        """Every layer filmed as the set-up would stand, whatever the lens: what the items are judged by."""
        return tuple(
            Match(self.hero, subject.layer, self.before(subject), self.delivery) for subject in self.subjects
        )

    def before(self, subject: Shared) -> SetUp:
        """The set-up as it stands before a layer."""
        distance_m = self.template.distance_m + subject.behind_m
        return self.template.model_copy(update={"distance_m": distance_m})

    @cached_property
    def hero_stops(self) -> float:
        """How far over or under a normal exposure the hero is."""
        return exposure_offset_stops(self.hero)
