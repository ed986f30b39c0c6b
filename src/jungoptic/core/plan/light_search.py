"""The best light for a way to shoot: ISO, grey filter and lamps that come nearest the hero's exposure and
grain.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import Any

import numpy as np

from ..kit.records import RecordingMode
from ..light import exposure
from ..match.camera import noise_ratio
from ..match.pose import Array
from ..match.weighed import Weights, item_weight
from .scope import Scope

LEAST_LX, MOST_LX = 0.1, 200000.0  # what a set-up can say of its light


class Exposures:
    """Every exposure that one recording allows: all ISO steps and filters that are free, and the lamps."""

    def __init__(self, scope: Scope, recording: RecordingMode) -> None:
        self.scope, self.recording = scope, recording
        setup, kit = scope.setup, scope.kit
        isos = list(kit.camera.iso_steps) if scope.free("iso") else [setup.iso]
        if setup.iso in isos:  # the first of equals is taken: what is dialled in already
            isos = [setup.iso, *(iso for iso in isos if iso != setup.iso)]
        dims = scope.free("illuminance_lx")
        # lamps are dimmed before a filter is screwed on
        filters = (
            [setup.nd_stops]
            if dims and setup.nd_stops == 0
            else sorted({*self.scope.kit.nd_stops, setup.nd_stops})
        )
        if not scope.free("nd_stops"):
            filters = [setup.nd_stops]
        self.dials = [(iso, nd_stops) for nd_stops in filters for iso in isos]
        self.isos, self.filters = (np.array(values) for values in zip(*self.dials, strict=True))
        self.lights = (LEAST_LX, max(scope.available_lx, LEAST_LX)) if dims else (setup.illuminance_lx,) * 2
        self.extracted_mm = min(setup.extraction_width_mm or recording.gate_width_mm, recording.gate_width_mm)

    def best(
        self, gathered: Array, resizes: Sequence[Array], time_s: Array
    ) -> tuple[Weights, Callable[[int, int], tuple[float, float, float]]]:
        """What light, grain and highlights weigh at best.

        Parameters
        ----------
        gathered : ndarray, shape (a,)
            How much more light each way needs than f/1 at infinity.
        resizes : sequence of ndarray, shape (a,)
            Of every layer that is filmed.
        time_s : ndarray, shape (1, b) or (a, 1)
            Exposure times: each way with all of them, or each with its own.

        Returns
        -------
        weights : ndarray of int64, shape (a, b)
            By way and exposure time.
        dials : callable
            ISO, filter (stops) and light (lux) of a way and an exposure time.
        """
        scope, hero = self.scope, self.scope.hero
        exposed: Any = np.sqrt(gathered)[:, None, None], self.isos, time_s[..., None], self.filters
        normal: Any = exposure.illuminance_lx(*exposed)
        wanted = normal * 2.0**scope.hero_stops
        least, most = self.lights
        light = np.round(np.clip(wanted, least, min(most, MOST_LX)), 1)
        light = np.maximum(np.where(light > most, np.floor(10.0 * most) / 10.0, light), least)
        stops = np.log2(light / normal)
        total = np.zeros(wanted.shape, dtype=np.int64)

        def weight(match: Any, item: str, amount: Any) -> Weights:
            return item_weight(match, item, amount, scope.school, scope.custom)

        for match, resize in zip(scope.matches, resizes, strict=True):
            ratio = noise_ratio(hero, self.recording, self.isos, self.extracted_mm, resize[:, None])
            total += weight(match, "grain", np.maximum(ratio, 1.0 / ratio) - 1.0)[:, None, :]
            if match.layer.kind != "light_pass":
                total += weight(match, "brightness", np.abs(stops - scope.hero_stops))
            if match.layer.brightest_stops is not None:
                over = match.layer.brightest_stops + stops - self.recording.headroom_stops
                total += weight(match, "clipping", np.maximum(over, 0.0))
        choice = total.argmin(axis=2)

        def dials(way: int, time: int) -> tuple[float, float, float]:
            place = int(choice[way, time])
            iso, nd_stops = self.dials[place]
            return float(iso), float(nd_stops), float(light[way, time, place])

        return np.take_along_axis(total, choice[..., None], axis=2)[..., 0], dials
