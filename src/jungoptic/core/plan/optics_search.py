"""Ways of lens, stop, focus, recording and resize, and what they weigh."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, fields
from typing import Any

import numpy as np
import numpy.typing as npt

from ..kit.lens import Lens
from ..match.camera import focal_px
from ..match.layer import Layer
from ..match.many import PITCH, Many
from ..match.measure import Match, Part
from ..match.pose import Array
from ..match.weighed import Weights, weighed
from ..optics import diffraction, frame
from ..optics.frame import MOVES
from .focus_search import FARTHEST_M, Ends, Rings, best_places
from .scope import Scope, Shared

TAPE = 4  # decimals of a metre: finer than any tape
MATCHED, _AS_IT_IS, _WHOLE = range(3)  # ways to resize
LEAST_RESIZE, _MOST_RESIZE = 1e-4, 20.0  # what a layer can have
_OF_LENS = ("focal_length_mm", "widest_f_number", "distortion_pct", "vignetting_stops")
_OF_RECORDING = (
    *("gate_width_mm", "gate_height_mm", "recorded_width_px", "recorded_height_px"),
    *("bit_depth", "long_groups", "readout_ms", "headroom_stops"),
)
_AT_ONCE = 2048  # ways measured in one go: what a processor keeps at hand


@dataclass(frozen=True, slots=True)
class Optics:
    """Ways of lens, stop, focus, recording and resize, one row each."""

    lens: npt.NDArray[np.intp]
    mode: npt.NDArray[np.intp]
    resize: npt.NDArray[np.intp]
    f_number: Array
    focus_m: Array

    def __getitem__(self, rows: Any) -> Optics:
        return Optics(
            self.lens[rows], self.mode[rows], self.resize[rows], self.f_number[rows], self.focus_m[rows]
        )

    def __len__(self) -> int:
        return len(self.lens)

    @classmethod
    def joined(cls, ways: Sequence[Optics]) -> Optics:
        """All of them, one after the other."""
        return cls(*(np.concatenate([getattr(way, each.name) for way in ways]) for each in fields(cls)))


class OpticsSearch(Scope):
    """The ways to point and focus the kit's lenses at the layers, measured."""

    def _stops(self, lens: Lens) -> list[float]:
        return [exact for _, exact in lens.stops] if self.free("f_number") else [self.setup.f_number]

    def _rings(self, lenses: Sequence[tuple[int, float]]) -> Rings:
        kept = [self.lenses[lens] for lens, _ in lenses]
        wanted = None
        if self.free("resize"):
            wanted = (
                focal_px(self.hero, self.delivery) * self.template.distance_m / self._wanted_m(self.layer)
            )
        return Rings(
            np.array([lens.focal_length_mm for lens in kept]),
            np.array([f_number for _, f_number in lenses]),
            np.array([MOVES[lens.focusing] for lens in kept]),
            np.array([max(lens.closest_focus_m, 1.0001 * lens.focal_length_mm / 1000.0) for lens in kept]),
            np.array([lens.farthest_focus_m or FARTHEST_M for lens in kept]),
            self.delivery.width_px / self.template.extracted_mm * self.layer.resize,
            wanted,
        )

    def _wanted_m(self, layer: Layer) -> float:
        return layer.near_m / layer.scale

    def focused(self) -> tuple[npt.NDArray[np.intp], Array, Array]:
        """Lens, stop and focus of every way to focus."""
        pairs = [(place, stop) for place, lens in enumerate(self.lenses) for stop in self._stops(lens)]
        rings = self._rings(pairs)
        lens, stops = np.array([place for place, _ in pairs]), rings.f_number
        here = np.full((len(pairs), 1), self.setup.focus_distance_m)
        if self.free("focus_distance_m"):
            ends = tuple(Ends.of(match) for match in self.matches)
            best = best_places(rings, ends, self.school, self.custom)
            # the hero's own focus breathes as the hero does
            kept = np.full_like(here, self.hero.focus_distance_m / self.layer.scale)
            here = np.round(rings.held(np.concatenate([best, kept, here], axis=1)), TAPE)
            here = rings.held(here)
        else:
            can = np.isclose(rings.held(here), here, rtol=1e-9)[:, 0] & (1000.0 * here[:, 0] > rings.focal_mm)
            lens, stops, here = lens[can], stops[can], here[can]
        again = np.zeros(here.shape, dtype=bool)
        for place in range(1, here.shape[1]):
            again[:, place] = (here[:, :place] == here[:, place, None]).any(axis=1)
        row, column = np.nonzero(~again)
        return lens[row], stops[row], here[row, column]

    def optics(self) -> Optics:
        lens, f_number, focus_m = self.focused()
        resizes = [MATCHED, _AS_IT_IS, _WHOLE] if self.free("resize") else [_AS_IT_IS]
        if all(subject.layer.resize == 1.0 for subject in self.subjects) and len(resizes) > 1:
            resizes.remove(_AS_IT_IS)
        count, ways = len(lens), [(mode, resize) for mode in range(len(self.modes)) for resize in resizes]
        return Optics(
            np.tile(lens, len(ways)),
            np.repeat([mode for mode, _ in ways], count),
            np.repeat([resize for _, resize in ways], count),
            np.tile(f_number, len(ways)),
            np.tile(focus_m, len(ways)),
        )

    def filmed(self, optics: Optics, subject: Shared, **varied: Any) -> Many:
        """A layer as so many ways film it."""
        lenses, modes = (
            {name: np.array([getattr(each, name) for each in kept])[place] for name in names}
            for kept, place, names in (
                (self.lenses, optics.lens, _OF_LENS),
                (self.modes, optics.mode, _OF_RECORDING),
            )
        )
        gates = [lens.measured_gate_mm or np.nan for lens in self.lenses]
        measured = np.array(gates)[optics.lens]
        many = Many.of(
            self.before(subject),
            1.0,
            **lenses,
            **modes,
            measured_gate_mm=np.where(np.isnan(measured), modes["gate_width_mm"], measured),
            focusing=np.array([MOVES[lens.focusing] for lens in self.lenses])[optics.lens],
            pitch=np.array([PITCH[mode.sampling] for mode in self.modes])[optics.mode],
            f_number=optics.f_number,
            focus_distance_m=optics.focus_m,
            **varied,
        )
        return many.model_copy(update={"resizes": self.resizes(optics, subject, many)})

    def resizes(self, optics: Optics, subject: Shared, many: Many) -> Array:
        """What each way resizes a layer by."""
        size = (
            focal_px(self.hero, self.delivery)
            * many.distance_m
            / (focal_px(many, self.delivery) * self._wanted_m(subject.layer))
        )
        matched = np.clip(size, LEAST_RESIZE, _MOST_RESIZE)
        choices = [matched, np.full(len(optics), subject.layer.resize), np.ones(len(optics))]
        resizes: Array = np.choose(optics.resize, choices)
        return resizes

    def weigh(self, optics: Optics, parts: Iterable[Part], but: Iterable[str], **varied: Any) -> Weights:
        total = np.zeros(len(optics), dtype=np.int64)
        for start in range(0, len(optics), _AT_ONCE):
            rows = slice(start, start + _AT_ONCE)
            some = {name: values[rows] for name, values in varied.items()}
            for subject, whole in zip(self.subjects, self.matches, strict=True):
                if subject.layer.driver == "set_speed" and "capture_fps" in some:
                    some["model_speed_m_s"] = self.speed_m_s(subject.layer, some["capture_fps"])
                many = self.filmed(optics[rows], subject, **some)
                match = Match(self.hero, subject.layer, many, self.delivery, tuple(parts))
                total[rows] += weighed(match, self.school, self.custom, tuple(but), whole)
        return total

    def gathered(self, optics: Optics) -> Array:
        """How much more light than f/1 at infinity each way needs."""
        focal: Any = np.array([lens.focal_length_mm for lens in self.lenses])[optics.lens]
        moves: Any = np.array([MOVES[lens.focusing] for lens in self.lenses])[optics.lens]
        focus_m: Any = optics.focus_m
        further = frame.extension(focal, focus_m, moves)
        gathered: Array = optics.f_number**2 * diffraction.closeup_factor(further)
        return gathered
