"""The search for settings of one layer: every lens, stop, recording, rate, shutter, ISO and filter.

What a way weighs is a sum over items (:mod:`..match.weighed`), and no item reads all the dials: place, focus
and glass read lens, stop, focus, recording and resize; time reads rate and shutter; light reads ISO, filter
and lamps, and of the others only the light that they cost. So each part is measured once for its own dials,
by the comparison itself, and their sums are compared.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from typing import Any

import numpy as np
import numpy.typing as npt

from ..kit.records import RecordingMode
from ..light import exposure
from ..match.apart import ITEMS_OF_PLACE
from ..match.layer import Layer
from ..match.measure import Match
from ..match.records import SetUp
from ..match.weighed import Weights, counts_of, weighed
from .focus_search import FARTHEST_M
from .light_search import Exposures
from .optics_search import LEAST_RESIZE, MATCHED, TAPE, Optics, OpticsSearch

_ROWS, TRIED = 96, 12
_ROUNDS, _FINER = 3, 26  # by which the best are focused anew
_PLACE = (*ITEMS_OF_PLACE, "together", "edges")


@dataclass(frozen=True, slots=True)
class Candidate:
    """One way: the set-up, the layers as they are resized (the solved one first), and what it weighs."""

    setup: SetUp
    layers: tuple[Layer, ...]
    weight: int
    changed: int

    @property
    def layer(self) -> Layer:
        """The layer that is solved."""
        return self.layers[0]

    @property
    def counts(self) -> tuple[int, int, int]:
        """How far it is beyond all bearing, how many items show, how many are tight."""
        return counts_of(self.weight)

    @property
    def order(self) -> tuple[float, ...]:
        """What comes first: what weighs least, then what changes least."""
        setup = self.setup
        return (
            self.weight,
            self.changed,
            setup.focal_length_mm,
            setup.f_number,
            setup.capture_fps,
            setup.recorded_width_px,
        )


class Search(OpticsSearch):
    """One layer's search over all dials."""

    def candidates(self, most: int, tried: int = TRIED) -> list[Candidate]:
        """The best ways, in order; none is within a stop of another that is better and uses the same lens and
        recording.

        Parameters
        ----------
        most : int
            How many at most.
        tried : int, optional
            How many of the best are measured whole, half of them focused anew.

        Returns
        -------
        list of Candidate
            Empty where what is locked excludes all that the kit has.
        """
        if not self.lenses or not self.modes:
            return []
        optics = self.optics()
        if not len(optics):
            return []
        weights = self.weigh(optics, ("optics",), ())
        picked: dict[tuple[int, int, float], tuple[int, _Pick]] = {}
        for mode, recording in enumerate(self.modes):
            rows = np.flatnonzero(optics.mode == mode)
            rows = rows[np.argsort(weights[rows], kind="stable")]
            self._timed(optics, weights, rows, recording, picked)
        picks = [pick for _, pick in sorted(picked.values(), key=lambda pick: pick[0])[:tried]]
        whole = [self._finished(pick) for pick in picks]
        for mode in range(len(self.modes)) if self.free("focus_distance_m") else ():
            some = [pick for pick in picks[: (tried + 1) // 2] if pick.optics.mode[0] == mode]
            whole += [self._finished(pick) for pick in self.refocused(some)] if some else []
        chosen: list[Candidate] = []
        for candidate in sorted(whole, key=lambda each: each.order):
            if all(differs(candidate, other) for other in chosen):
                chosen.append(candidate)
        return chosen[:most]

    def _timed(
        self,
        optics: Optics,
        weights: Weights,
        rows: npt.NDArray[np.intp],
        recording: RecordingMode,
        picked: dict[tuple[int, int, float], tuple[int, _Pick]],
    ) -> None:
        """The best rate, shutter and light for every way of one recording, from the best on, until none can
        come among the best any more.
        """
        times = [(rate, angle) for rate in self.rates(recording) for angle in self.angles]
        alike = np.where(optics.resize[rows] == MATCHED, -1, optics.lens[rows]) * 3 + optics.resize[rows]
        _, first, kind = np.unique(alike, return_index=True, return_inverse=True)
        stands = rows[first]
        rates, angles = np.array(times).T
        timed = self.weigh(
            optics[np.repeat(stands, len(times))],
            ("time",),
            _PLACE,
            capture_fps=np.tile(rates, len(stands)),
            shutter_angle_deg=np.tile(angles, len(stands)),
        ).reshape(len(stands), len(times))
        least = int(timed.min())
        exposures = Exposures(self, recording)
        time_s: Any = exposure.exposure_time_s(angles, rates)
        for start in range(0, len(rows), _ROWS):
            some = rows[start : start + _ROWS]
            if len(picked) > TRIED:
                bar = sorted(weight for weight, _ in picked.values())[TRIED]
                if int(weights[some[0]]) + least > bar:
                    return
            resizes = [self.filmed(optics[some], subject).resizes for subject in self.subjects]
            light, dials = exposures.best(self.gathered(optics[some]), resizes, time_s[None, :])
            total = weights[some, None] + timed[np.ravel(kind)[start : start + _ROWS]] + light
            best = total.argmin(axis=1)
            for place, (row, time) in enumerate(zip(some.tolist(), best.tolist(), strict=True)):
                weight = int(total[place, time])
                key = (int(optics.lens[row]), int(optics.mode[row]), float(optics.f_number[row]))
                if key not in picked or weight < picked[key][0]:
                    rate, angle = times[time]
                    picked[key] = weight, _Pick(optics[row : row + 1], rate, angle, *dials(place, time))

    def refocused(self, picks: list[_Pick]) -> list[_Pick]:
        """Ways of one recording focused where all of their items weigh least together, not those of focus
        alone: a lens that breathes shows more or less of the frame, and needs more or less light.
        """
        used = [self.lenses[pick.optics.lens[0]] for pick in picks]
        closest = np.array([lens.closest_focus_m for lens in used])
        farthest = np.array([lens.farthest_focus_m or FARTHEST_M for lens in used])
        least, most = 1.0 / farthest, 1.0 / closest
        low, high, best = least, most, picks
        middle = np.array([1.0 / pick.optics.focus_m[0] for pick in picks])
        of = np.repeat(np.arange(len(picks)), _FINER)
        ways = Optics.joined([pick.optics for pick in picks])[of]
        times = [exposure.exposure_time_s(pick.angle_deg, pick.rate_fps) for pick in picks]
        time_s = np.array(times)[of, None]
        exposures = Exposures(self, self.modes[ways.mode[0]])
        for _ in range(_ROUNDS):
            step = (high - low) / (_FINER - 2)
            places = low[:, None] + step[:, None] * np.arange(_FINER)
            places[:, -1] = middle  # never worse than it was
            snapped = np.clip(np.round(1.0 / places, TAPE), closest[:, None], farthest[:, None])
            optics = replace(ways, focus_m=snapped.ravel())
            resizes = [self.filmed(optics, subject).resizes for subject in self.subjects]
            light, dials = exposures.best(self.gathered(optics), resizes, time_s)
            weights = self.weigh(optics, ("optics",), ()) + light[:, 0]
            place = weights.reshape(places.shape).argmin(axis=1)
            best = [
                _Pick(optics[row : row + 1], pick.rate_fps, pick.angle_deg, *dials(row, 0))
                for pick, row in zip(picks, (place + np.arange(len(picks)) * _FINER).tolist(), strict=True)
            ]
            middle = places[np.arange(len(picks)), place]
            low, high = np.maximum(middle - step, least), np.minimum(middle + step, most)
        return best

    def _finished(self, pick: _Pick) -> Candidate:
        """One way as it would be set, measured whole."""
        optics = pick.optics
        lens, mode = self.lenses[optics.lens[0]], self.modes[optics.mode[0]]
        extraction, focus_m = self.setup.extraction_width_mm, float(optics.focus_m[0])
        if self.free("focus_distance_m"):
            focus_m = max(round(focus_m, TAPE), lens.closest_focus_m)
            focus_m = min(focus_m, lens.farthest_focus_m or focus_m)
        update: dict[str, Any] = {
            "focal_length_mm": lens.focal_length_mm,
            "focusing": lens.focusing,
            **lens.faults(),
            **mode.settings(),
            "extraction_width_mm": None if extraction is None else min(extraction, mode.gate_width_mm),
            "f_number": float(optics.f_number[0]),
            "focus_distance_m": focus_m,
            "capture_fps": pick.rate_fps,
            "shutter_angle_deg": pick.angle_deg,
            "iso": pick.iso,
            "nd_stops": pick.nd_stops,
            "illuminance_lx": pick.light_lx,
        }
        if self.layer.driver == "set_speed":
            update["model_speed_m_s"] = round(self.speed_m_s(self.layer, pick.rate_fps), 4)
        setup = self.template.model_copy(update=update)
        layers, weight = [], 0
        for subject in self.subjects:
            resize = float(self.filmed(optics, subject).resizes[0])
            # what was worked out of the layer for its hero goes with the copy: it knows nothing of the resize
            layer = subject.layer.model_copy(update={"resize": max(round(resize, 6), LEAST_RESIZE)})
            filmed = setup.model_copy(update={"distance_m": setup.distance_m + subject.behind_m})
            match = Match(self.hero, layer, filmed, self.delivery)
            weight += int(weighed(match, self.school, self.custom))
            layers.append(layer)
        changed = sum(getattr(setup, name) != getattr(self.setup, name) for name in SetUp.model_fields)
        return Candidate(setup, tuple(layers), weight, changed)


@dataclass(frozen=True, slots=True)
class _Pick:
    """A way of the optics with the best of the other dials."""

    optics: Optics
    rate_fps: float
    angle_deg: float
    iso: float
    nd_stops: float
    light_lx: float


_ANOTHER_VIEW = math.log(1.1)  # less is the same lens, turned a little


def differs(candidate: Candidate, other: Candidate) -> bool:
    """Worth showing beside the other: another lens, recording mode, or at least a stop apart."""
    return (
        abs(math.log(candidate.setup.focal_length_mm / other.setup.focal_length_mm)) > _ANOTHER_VIEW
        or candidate.setup.recorded_width_px != other.setup.recorded_width_px
        or abs(math.log2(candidate.setup.f_number / other.setup.f_number)) * 2 >= 0.99
    )
