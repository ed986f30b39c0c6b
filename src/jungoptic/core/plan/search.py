"""The search for settings of one layer: candidates, in closed form where there is one."""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from typing import Any

from ..kit.records import Kit, Lens, RecordingMode, available_light_lx
from ..light import exposure, mains
from ..match.camera import camera_height_m, exposure_offset_stops, focal_px
from ..match.layer import Layer
from ..match.limits import tolerance_of
from ..match.measure import MOVING_DRIVERS, Match
from ..match.records import Delivery, SetUp
from ..match.tolerances import ITEMS, MOTION_BLUR_SHARE, Tolerance, ladder, verdict
from ..optics import diffraction, focus, frame
from ..vocabulary import School

_KEPT_LENSES = 4
LEAST_DISTANCE_M = 0.1
_LEAST_LX, _MOST_LX = 0.1, 200000.0  # what a set-up can say of its light
_LEAST_RESIZE, _MOST_RESIZE = 1e-4, 20.0  # and a layer of its size


@dataclass(frozen=True, slots=True)
class Candidate:
    setup: SetUp
    layer: Layer
    rank: tuple[float, ...]
    worst: tuple[str, ...]


def _rank(
    match: Match, school: School, custom: dict[str, Tolerance], changed: int
) -> tuple[tuple[float, ...], tuple[str, ...]]:
    shows = tight = 0
    worst = total = 0.0
    at_fault = []
    for key, amount in match.amounts.items():
        limit = tolerance_of(match, key, school, custom)[0]
        place = ladder(amount, limit)
        worst, total = max(worst, place), total + place * place
        judged = verdict(amount, limit)
        if judged != "holds":
            at_fault.append(key)
        shows, tight = shows + (judged == "shows"), tight + (judged == "tight")
    return (
        float(shows),
        float(tight),
        round(worst if shows else 0.0, 3),
        round(total, 3),
        float(changed),
    ), tuple(at_fault)


@dataclass(frozen=True, slots=True)
class Shared:
    """Another layer that the same set-up films, and how far behind the solved layer's front its own lies,
    metres of the set.
    """

    layer: Layer
    behind_m: float


class Search:
    """One layer's search: what is free, what the kit has, and the light that can be thrown."""

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
        quick: bool = False,
    ) -> None:
        self.hero, self.layer, self.setup, self.delivery, self.kit = hero, layer, setup, delivery, kit
        self.shared, self.quick = tuple(shared), quick
        self.locked, self.school, self.custom = locked, school, custom
        _ = layer.kept_samples, layer.body_wire
        width = layer.width_m / layer.scale
        lit, self.lamps = available_light_lx(kit.lamps, width, setup.light_k)
        self.available_lx = lit if kit.lamps else math.inf

    def free(self, field: str) -> bool:
        return field not in self.locked

    def lenses(self) -> list[Lens]:
        owned = list(self.kit.lenses)
        if not self.free("focal_length_mm"):
            return [
                lens
                for lens in owned
                if math.isclose(lens.focal_length_mm, self.setup.focal_length_mm, rel_tol=1e-6)
            ]
        wanted = self.hero.focal_length_mm * self.setup.extracted_mm / self.hero.extracted_mm
        return sorted(owned, key=lambda lens: abs(math.log(lens.focal_length_mm / wanted)))[
            : 1 if self.quick else _KEPT_LENSES
        ]

    def modes(self) -> Iterable[tuple[RecordingMode, float]]:
        for mode in self.kit.camera.modes:
            same = (
                mode.recorded_width_px == self.setup.recorded_width_px
                and mode.gate_width_mm == self.setup.gate_width_mm
            )
            if not self.free("mode") and not same:
                continue
            if not self.free("capture_fps"):
                rates = [self.setup.capture_fps] if self.setup.capture_fps <= mode.highest_fps else []
            elif self.layer.driver in MOVING_DRIVERS:
                rates = mode.rates_fps
            else:
                rates = [
                    rate for rate in mode.rates_fps if math.isclose(rate, self.hero.capture_fps)
                ] or mode.rates_fps[:1]
            yield from ((mode, rate) for rate in rates)

    def stops(self, lens: Lens) -> list[float]:
        if not self.free("f_number"):
            return [self.setup.f_number]
        every = [exact for _, exact in lens.stops]
        return sorted({*every[::3], every[-1]}) if self.quick else every

    def geometry(self, lens: Lens) -> dict[str, Any]:
        """Distance, heights and angles for this lens, in closed form, within closest focus and the
        support.
        """
        setup, layer, hero = self.setup, self.layer, self.hero
        wants = layer.near_m / layer.scale
        if self.kit.stage_length_m is not None:  # the model's back edge must stand inside the walls
            wants = max(min(wants, self.kit.stage_length_m - layer.depth_m / layer.scale), LEAST_DISTANCE_M)
        distance = wants if self.free("distance_m") else setup.distance_m
        ideal = (camera_height_m(hero) - layer.base_m) / layer.scale
        height, ground = setup.lens_height_m, setup.ground_height_m
        if self.free("lens_height_m"):
            highest = min(self.kit.highest_lens_m, self.kit.beams_m or math.inf)
            height = min(max(ground + ideal, self.kit.lowest_lens_m), highest)
        if self.free("ground_height_m") and abs(height - ground - ideal) > 1e-9:
            ground = max(0.0, height - ideal)
        angles = {
            key: getattr(hero, key) if self.free(key) else getattr(setup, key)
            for key in ("tilt_deg", "roll_deg")
        }
        if self.free("key") and hero.key_azimuth_deg is not None:
            angles |= {key: getattr(hero, key) for key in ("key_azimuth_deg", "key_elevation_deg")}
        return {
            "focal_length_mm": lens.focal_length_mm,
            "focusing": lens.focusing,
            "distance_m": round(distance, 5),
            "lens_height_m": round(height, 5),
            "ground_height_m": round(ground, 5),
            **lens.faults(),
            **angles,
        }

    def focus_m(self, lens: Lens, geometry: dict[str, Any], f_number: float) -> float:
        """The focus distance that keeps the worse end nearest the hero's blur, by golden section."""
        if not self.free("focus_distance_m"):
            return self.setup.focus_distance_m
        near = float(geometry["distance_m"])
        far = near + self.layer.depth_m / self.layer.scale
        low, high = max(near * 0.8, lens.closest_focus_m), max(far * 1.2, lens.closest_focus_m * 1.001)

        ends = [(near, self.hero_blur_px(0.0))]
        if self.layer.depth_m > 0:
            ends.append((far, self.hero_blur_px(self.layer.depth_m)))
        f_mm, keeps = lens.focal_length_mm, lens.focusing
        hero_px = focal_px(self.hero, self.delivery)

        def worst(focus_m: float) -> float:
            v = frame.image_distance_mm(f_mm, focus_m, keeps)
            # px for each mm of the sensor once the picture is brought to the hero's framing
            px_a_mm = hero_px * near / self.wanted_m / v if self.resizes else self.px_a_mm
            return max(
                abs(focus.blur_disc_mm(f_mm, f_number, focus_m, distance, keeps) * px_a_mm - wanted)
                for distance, wanted in ends
            )

        golden = (math.sqrt(5.0) - 1.0) / 2.0
        for _ in range(22):
            left, right = high - golden * (high - low), low + golden * (high - low)
            if worst(left) <= worst(right):
                high = right
            else:
                low = left
        return max(round((low + high) / 2.0, 3), lens.closest_focus_m)

    @property
    def resizes(self) -> bool:
        """Whether the composite may bring the layer to its size."""
        return self.free("resize") and not self.layer.fills_frame

    @property
    def wanted_m(self) -> float:
        """How far the lens wants to be, metres of the set."""
        return self.layer.near_m / self.layer.scale

    @property
    def px_a_mm(self) -> float:
        """Delivered px for each mm of the sensor, where the layer stays as it is resized."""
        return self.delivery.width_px / self.setup.extracted_mm * self.layer.resize

    def hero_blur_px(self, behind_m: float) -> float:
        """What the hero would show so far behind the front edge, delivered px."""
        hero = self.hero
        disc = focus.blur_disc_mm(
            hero.focal_length_mm,
            hero.f_number,
            hero.focus_distance_m,
            self.layer.near_m + behind_m,
            hero.focusing,
        )
        return disc * self.delivery.width_px / hero.extracted_mm

    def iso_and_light(self, base: SetUp) -> tuple[float, float]:
        """ISO nearest to the hero's grain that the light allows, and the light for the hero's exposure."""
        hero_stops = exposure_offset_stops(self.hero)
        m = frame.extension(base.focal_length_mm, base.focus_distance_m, base.focusing)
        time_s = exposure.exposure_time_s(base.shutter_angle_deg, base.capture_fps)

        def light_for(iso: float) -> float:
            light: float = exposure.illuminance_lx(
                base.f_number, iso, time_s, base.nd_stops, diffraction.closeup_factor(m)
            )
            return float(light * 2.0**hero_stops)

        ceiling = (
            max(self.available_lx, _LEAST_LX) if self.free("illuminance_lx") else self.setup.illuminance_lx
        )
        if not self.free("iso"):
            iso = self.setup.iso
        else:
            same_grain = self.hero.iso * (base.extracted_mm / self.hero.extracted_mm) ** 2
            slack = 2.0 ** self.limit("brightness").holds

            def cost(step: float) -> tuple[float, float]:
                missing = (
                    max(0.0, math.log2(light_for(step) / ceiling))
                    if self.free("illuminance_lx")
                    else abs(math.log2(light_for(step) / ceiling))
                )
                dark = ladder(missing, self.limit("brightness"))
                ratio = math.sqrt(max(step / same_grain, same_grain / step))
                grain = ladder(ratio - 1.0, self.limit("grain"))
                over = light_for(step) > ceiling * slack
                return (max(dark, grain) if over or grain > 1 else grain, grain)

            iso = min(self.kit.camera.iso_steps, key=cost, default=self.setup.iso)
        light = min(light_for(iso), ceiling) if self.free("illuminance_lx") else self.setup.illuminance_lx
        return iso, round(min(max(light, _LEAST_LX), _MOST_LX), 1)

    def limit(self, item: str) -> Tolerance:
        return self.custom.get(item, ITEMS[item].tolerance)

    def finish(self, base: SetUp) -> Candidate:
        """Light, ISO, model speed and resize for a set-up whose optics stand, and its rank."""
        layer = self.layer
        iso, light = self.iso_and_light(base)
        update: dict[str, Any] = {"iso": iso, "illuminance_lx": light}
        if layer.driver == "set_speed":
            update["model_speed_m_s"] = round(
                layer.fastest_m_s * base.capture_fps / self.hero.capture_fps / layer.scale, 4
            )
        setup = base.model_copy(update=update)
        if self.resizes:
            f_px, hero_px = (focal_px(films, self.delivery) for films in (setup, self.hero))
            size = hero_px * setup.distance_m / (f_px * self.wanted_m)
            # what was worked out of the layer for its hero goes with the copy: it knows nothing of the resize
            layer = layer.model_copy(update={"resize": round(min(max(size, _LEAST_RESIZE), _MOST_RESIZE), 5)})
        match = Match(self.hero, layer, setup, self.delivery)
        changed = sum(getattr(setup, name) != getattr(self.setup, name) for name in SetUp.model_fields)
        rank, worst = _rank(match, self.school, self.custom, changed)
        for other in self.shared:
            beside = Match(
                self.hero,
                other.layer,
                setup.model_copy(update={"distance_m": setup.distance_m + other.behind_m}),
                self.delivery,
            )
            theirs, at_fault = _rank(beside, self.school, self.custom, 0)
            rank = (
                *(a + b for a, b in zip(rank[:2], theirs[:2], strict=True)),
                max(rank[2], theirs[2]),
                rank[3] + theirs[3],
                rank[4],
            )
            worst = (*worst, *(item for item in at_fault if item not in worst))
        return Candidate(setup, layer, rank, worst)

    def angles(self) -> list[float]:
        if not self.free("shutter_angle_deg"):
            return [self.setup.shutter_angle_deg]
        near = [angle for angle in self.kit.shutter_angles_deg if angle <= 2 * self.hero.shutter_angle_deg]
        return sorted(set(near) | {self.hero.shutter_angle_deg})

    def steady(self, angles: list[float], rate: float) -> list[float]:
        """The angles at which the mains leave no flicker, where the light ripples; all of them where there
        are none.
        """
        if self.setup.ripple_depth == 0 or len(angles) == 1:
            return angles

        def left(angle: float) -> float:
            time_s = exposure.exposure_time_s(angle, rate)
            return mains.ripple_stops(
                mains.ripple_amplitude(self.setup.mains_hz, rate, time_s, self.setup.ripple_depth)
            )

        return [angle for angle in angles if left(angle) <= self.limit("flicker").holds] or angles

    def candidates(self) -> Iterable[Candidate]:
        modes = list(self.modes())
        for lens in self.lenses():
            geometry = self.geometry(lens)
            for f_number in self.stops(lens):
                focus_m = self.focus_m(lens, geometry, f_number)
                if focus_m < lens.closest_focus_m or 1000 * focus_m <= lens.focal_length_mm:
                    continue
                for mode, rate in modes:
                    extraction = (
                        None
                        if self.setup.extraction_width_mm is None
                        else min(self.setup.extraction_width_mm, mode.gate_width_mm)
                    )
                    base = self.setup.model_copy(
                        update={
                            **geometry,
                            "f_number": f_number,
                            "focus_distance_m": focus_m,
                            "capture_fps": rate,
                            **mode.settings(),
                            "extraction_width_mm": extraction,
                            "shutter_angle_deg": self.angle_for(rate),
                        }
                    )
                    yield self.finish(base)

    def angle_for(self, rate: float) -> float:
        """The shutter whose smear comes nearest the hero's at this rate; the hero's own when nothing
        moves.
        """
        angles = self.steady(self.angles(), rate)
        layer = self.layer
        if layer.driver not in MOVING_DRIVERS or layer.fastest_m_s == 0 or len(angles) == 1:
            return min(angles, key=lambda angle: abs(math.log(angle / self.hero.shutter_angle_deg)))
        wanted_rate = self.hero.capture_fps * math.sqrt(layer.scale) if layer.driver != "set_speed" else rate
        wanted = self.hero.shutter_angle_deg * rate / wanted_rate
        near = MOTION_BLUR_SHARE.holds * self.hero.shutter_angle_deg
        if abs(wanted - self.hero.shutter_angle_deg) <= near and self.hero.shutter_angle_deg in angles:
            return self.hero.shutter_angle_deg
        return min(angles, key=lambda angle: abs(math.log(angle / wanted)))


def differs(candidate: Candidate, other: Candidate) -> bool:
    """Worth showing beside the other: another lens, recording mode, or at least a stop apart."""
    return (
        candidate.setup.focal_length_mm != other.setup.focal_length_mm
        or candidate.setup.recorded_width_px != other.setup.recorded_width_px
        or abs(math.log2(candidate.setup.f_number / other.setup.f_number)) * 2 >= 0.99
    )
