"""Everything in which one layer's set-up differs from the hero's, in the delivered frame. Numbers only.

:class:`Match` works each quantity out once; the verdicts, the sentences and the solver read it.
"""

from __future__ import annotations

from collections.abc import Collection, Sequence
from typing import Any, Literal

import numpy as np

from ..optics import diffraction, focus, frame
from ..optics.projection import NEAREST_M
from .apart import apart
from .camera import (
    camera_height_m,
    codes_in_a_stop,
    enlargement,
    exposure_offset_stops,
    focal_px,
    noise_ratio,
)
from .glass import bent, blur_px, darkened, off_middle, softness
from .layer import Layer
from .lighting import light_amounts
from .many import Many, flicker_stops, pitch_of, resize_of
from .pace import MOVING_DRIVERS, off_pace_pct, pace_of
from .pose import Array, hero_pose, layer_pose, pictured_at
from .records import Delivery, SetUp
from .samples import Samples, sampled
from .smear import paces_of, shake_px_per_frame, smears, velocity_m_per_frame

GATE_SLACK_PX = 1.0
Part = Literal["optics", "time", "light"]
PARTS: tuple[Part, ...] = ("optics", "time", "light")
"""What is measured beside the place: a search that varies the dials of one part leaves the others out."""
CODES_THAT_HOLD = 50.0


def _column(values: Any, count: int) -> list[Any]:
    """A number for each of many."""
    if not isinstance(values, np.ndarray):
        return [values] * count
    numbers: list[Any] = values.tolist()
    return numbers * (count // len(numbers))


class Match:
    """One layer against the hero. Lengths of the set in metres; ``amounts`` by item key, in the item's unit.

    ``setup`` is None for a picture whose camera is unknown: then only its enlargement can be measured. Where
    set-up or layer stand for many (:class:`~.many.Many`, :class:`~.at_once.Layers`), what it measures is an
    array (v,).
    """

    __slots__ = (
        "airy_hero_px airy_px amounts bent_hero_px bent_px blur_far_px blur_hero_far_px blur_hero_near_px "
        "blur_near_px dark_hero_stops dark_stops delivery f_hero_px f_px far_m hero layer lean_hero_px "
        "lean_px motion_hero_px motion_px move_hero_px own place resize setup soft_far_m soft_near_m "
        "speed_ratio speed_set_m_s stops stops_hero travel_m wanted_distance_m wanted_fps wanted_height_m "
        "wanted_travel_m worked_out"
    ).split()

    def __init__(
        self,
        hero: SetUp,
        layer: Layer,
        setup: SetUp | None,
        delivery: Delivery,
        parts: Collection[Part] = PARTS,
        samples: Samples | None = None,
    ) -> None:
        self.hero, self.layer, self.setup, self.delivery = hero, layer, setup, delivery
        self.amounts: dict[str, float] = {}
        self.worked_out: dict[Any, Any] = {}  # by who explains or draws it
        self.resize = layer.resize if setup is None else resize_of(setup, layer)
        self.f_hero_px = focal_px(hero, delivery)
        if setup is None:
            self._measure_picture()
        else:
            self._measure_geometry(setup, samples)
            if "optics" in parts:
                self._measure_focus(setup)
                self._measure_glass(setup)
                self._measure_recording(setup)
            if "time" in parts:
                self._measure_move(setup)
                self._measure_time(setup)
            if "light" in parts:
                self._measure_light(setup)

    def of_each(
        self, layers: Sequence[Layer], setups: Sequence[SetUp], samples: Sequence[Samples]
    ) -> list[Match]:
        """The matches of v layers that this one stands for, where place, optics and time are measured.

        Parameters
        ----------
        layers, setups, samples : sequence
            Each layer, what films it, and its own samples.

        Returns
        -------
        list of Match
            With their light.

        Examples
        --------
        >>> from jungoptic.core.example import DELIVERY, HERO, MILL, MODEL
        >>> both = Match(HERO, MILL, Many.of(MODEL, np.array([1.0, 1.2])), DELIVERY, ("optics", "time"))
        >>> each = both.of_each([MILL, MILL.but(resize=1.2)], [MODEL, MODEL], [both.place[0]] * 2)
        >>> [round(match.amounts["edges"]) for match in each]
        [497, 597]
        """
        own_names = {"hero", "layer", "setup", "delivery", "amounts", "worked_out", "place", "own"}
        slots = [name for name in self.__slots__ if name not in own_names and hasattr(self, name)]
        columns = [_column(getattr(self, name), len(layers)) for name in slots]
        amounts = [_column(amount, len(layers)) for amount in self.amounts.values()]
        stops_hero = exposure_offset_stops(self.hero)
        matches = []
        for which, (layer, setup, own) in enumerate(zip(layers, setups, samples, strict=True)):
            match = Match.__new__(Match)
            match.hero, match.layer, match.setup, match.delivery = self.hero, layer, setup, self.delivery
            match.worked_out = {}
            for name, column in zip(slots, columns, strict=True):
                setattr(match, name, column[which])
            match.amounts = {item: column[which] for item, column in zip(self.amounts, amounts, strict=True)}
            # many have an item where any of them has it
            if not match.amounts.get("pupil"):
                match.amounts.pop("pupil", None)
            if not (match.lean_px or match.lean_hero_px):
                match.amounts.pop("skew", None)
            these = slice(which, which + 1)
            match.place = own, self.place[1][:, these]
            match.own = self.own[0][:, these, :, : own.anchor], self.own[1][these, :, : own.anchor]
            match._measure_light(setup, stops_hero)
            matches.append(match)
        return matches

    def _measure_picture(self) -> None:
        layer = self.layer
        self.move_hero_px = 0.0
        if layer.picture_width_px:
            spans = self.f_hero_px * layer.width_m / layer.near_m * layer.resize
            self.amounts["sharpness"] = 100.0 * max(0.0, spans / layer.picture_width_px - 1.0)

    def _measure_geometry(self, setup: SetUp, samples: Samples | None) -> None:
        hero, layer, delivery = self.hero, self.layer, self.delivery
        self.f_px = focal_px(setup, delivery)
        self.wanted_distance_m = layer.near_m / layer.scale
        depth = layer.depth_m / layer.scale
        distance_m = setup.distance_m
        self.far_m = distance_m + depth
        self.wanted_height_m = (camera_height_m(hero) - layer.base_m) / layer.scale
        if samples is None:
            samples = sampled(hero_pose(hero, layer, delivery, setup), layer, delivery, hero.distance_m)
        poses = layer_pose(setup, layer, delivery, self.resize).rows()
        self.place = samples, poses
        differs = apart(samples, poses, pinned=layer.combine != "in_camera")
        amounts = self.amounts
        px = {item: self._number(amount) for item, amount in differs.amounts_px.items()}
        for item in ("lens", "perspective", "height", "tilt", "roll", "together"):
            amounts[item] = px[item]
        if delivery.move.shows_depth:
            amounts["move"] = px["move"]
        if np.any(px["pupil"]):
            amounts["pupil"] = px["pupil"]
        reach = differs.across_px, differs.down_px
        self.own = differs.picture_px, differs.depth_m
        if samples.path.turns and not setup.follows_move:
            stood, depth_m = pictured_at(samples.points, samples.path.unturned(), poses)
            self.own = stood[..., : samples.anchor], depth_m[..., : samples.anchor]
            across, down = np.abs(stood[..., samples.needed :]).max(axis=(2, 3))
            reach = across, down
        amounts["edges"] = self._missing_px(setup, reach) if samples.shown else 0.0

    def _missing_px(self, setup: SetUp, reach_px: tuple[Array, Array]) -> float:
        """How far the recorded picture, resized, ends inside what the hero's frame shows of the layer, px.

        A pixel of slack in height: gates are given to a tenth of a millimetre. What a turn that is laid on
        afterwards shows must have been recorded by a camera that stood.
        """
        half_w = self.resize * self.delivery.width_px / 2.0 / setup.extracted_mm
        seen = half_w * setup.gate_width_mm, half_w * setup.gate_height_mm + GATE_SLACK_PX
        share = 0.5 if self.layer.fills_frame else 0.0
        missing = [
            np.maximum(reaches, share * needed) - sees
            for reaches, needed, sees in zip(reach_px, self.delivery.needed_px, seen, strict=True)
        ]
        return self._number(np.maximum(np.maximum(*missing), 0.0))

    def _number(self, values: Any) -> float:
        """A number, where one set-up is measured; else the array, which stands for a number of each."""
        if type(values) is float or isinstance(self.setup, Many):  # numpy's is a float too, and is no JSON
            return values  # type: ignore[no-any-return]
        return float(values.item())

    def _hero_number(self, values: Array) -> float:
        """A number, where one layer is measured: its hero is one, however many set-ups there are."""
        return float(values[0]) if len(values) == 1 else values  # type: ignore[return-value]

    def _blur_px(self, setup: SetUp, distance_m: float) -> float:
        disc = focus.blur_disc_mm(
            setup.focal_length_mm, setup.f_number, setup.focus_distance_m, distance_m, setup.focusing
        )
        return disc * self.delivery.width_px / setup.extracted_mm

    def blur_at_px(self, distance_m: float) -> float:
        """The layer's blur disc at a distance, as the composite resizes it.

        Parameters
        ----------
        distance_m : float
            From the entrance pupil along the lens's axis, metres of the set.

        Returns
        -------
        float
            Diameter, delivered px.

        References
        ----------
        thin_lens

        Examples
        --------
        >>> from jungoptic.core.example import DELIVERY, HERO, MILL, MODEL
        >>> round(Match(HERO, MILL, MODEL, DELIVERY).blur_at_px(1.5), 1)
        4.3
        """
        assert self.setup is not None
        return self._blur_px(self.setup, distance_m) * self.resize

    def hero_blur_at_px(self, full_size_m: float) -> float:
        """The blur disc that the hero's camera would have shown at a distance.

        Parameters
        ----------
        full_size_m : float
            From the entrance pupil along the lens's axis, full-size metres.

        Returns
        -------
        float
            Diameter, delivered px.

        References
        ----------
        thin_lens

        Examples
        --------
        >>> from jungoptic.core.example import DELIVERY, HERO, MILL, MODEL
        >>> round(Match(HERO, MILL, MODEL, DELIVERY).hero_blur_at_px(18), 2)
        0.35
        """
        return self._blur_px(self.hero, full_size_m)

    def _measure_focus(self, setup: SetUp) -> None:
        layer, hero, delivery, amounts = self.layer, self.hero, self.delivery, self.amounts
        samples, scale = self.place[0], np.reshape(layer.scale, (-1, 1, 1))
        depth_m = np.maximum(self.own[1], NEAREST_M) / scale
        wanted_m = np.maximum(samples.wanted_at[1][:, :, : samples.anchor], NEAREST_M)
        here = blur_px(setup, depth_m, delivery, self.resize)
        there = blur_px(hero, wanted_m, delivery)
        near, far = samples.behind
        ends = softness(here, there, depth_m, near), softness(here, there, depth_m, far)
        self.blur_near_px, self.blur_far_px = (self._number(end.here_px) for end in ends)
        self.blur_hero_near_px, self.blur_hero_far_px = (self._number(end.hero_px) for end in ends)
        self.soft_near_m, self.soft_far_m = (self._number(end.distance_m) for end in ends)
        amounts["focus_near"] = abs(self.blur_near_px - self.blur_hero_near_px)
        if np.any(layer.depth_m):
            amounts["focus_far"] = abs(self.blur_far_px - self.blur_hero_far_px)
        self.airy_px = self._airy_px(setup) * self.resize
        self.airy_hero_px = self._airy_px(hero)
        amounts["diffraction"] = self._number(np.maximum(0.0, self.airy_px - self.airy_hero_px))
        sharp, sharp_hero = enlargement(setup, delivery, self.resize), enlargement(hero, delivery, 1.0)
        softer = np.maximum(1.0, sharp) / max(1.0, sharp_hero)
        amounts["sharpness"] = self._number(100.0 * np.maximum(0.0, softer - 1.0))

    def _airy_px(self, setup: SetUp) -> float:
        further = frame.extension(setup.focal_length_mm, setup.focus_distance_m, setup.focusing)
        um = diffraction.airy_diameter_um(setup.f_number, further)
        return um / 1000.0 * self.delivery.width_px / setup.extracted_mm

    def _measure_glass(self, setup: SetUp) -> None:
        """Bent lines and dark corners, where the layer is wanted: what else is wrong of its place is said
        elsewhere.
        """
        hero, delivery = self.hero, self.delivery
        self.bent_px = self.bent_hero_px = self.dark_stops = self.dark_hero_stops = 0.0
        bends = np.any(setup.distortion_pct) or hero.distortion_pct
        darkens = np.any(setup.vignetting_stops) or hero.vignetting_stops
        if not bends and not darkens:
            return
        place = self.place[0].wanted[..., : self.place[0].anchor]
        own = off_middle(place, setup, delivery, self.resize)
        wanted = off_middle(place, hero, delivery)
        if bends:
            fault = bent(own, setup, wanted, hero)
            self.bent_px, self.bent_hero_px = self._number(fault.here), self._hero_number(fault.hero)
            self.amounts["distortion"] = self._number(fault.apart)
        if darkens:
            fault = darkened(own, setup, wanted, hero)
            self.dark_stops, self.dark_hero_stops = self._number(fault.here), self._hero_number(fault.hero)
            self.amounts["vignetting"] = self._number(fault.apart)

    def _measure_move(self, setup: SetUp) -> None:
        """How far the set-up's own travel is from the hero's at this scale. A turn about the entrance pupil
        is a flat move of the picture and can be laid on afterwards; a slide or a push shows the depth of the
        layer, so it must be made, at 1:s.
        """
        layer, move = self.layer, self.delivery.move
        self.wanted_travel_m = move.amount / layer.scale if move.kind in ("slide", "boom", "push") else 0.0
        made_m = self.wanted_travel_m if setup.travel_m is None else setup.travel_m
        self.travel_m = made_m if setup.follows_move else 0.0

    def _measure_time(self, setup: SetUp) -> None:
        self.speed_ratio, self.wanted_fps, self.speed_set_m_s = pace_of(self.hero, self.layer, setup)
        if self.layer.driver in MOVING_DRIVERS:
            self.amounts["time"] = self._number(off_pace_pct(self.speed_ratio))
        self._measure_motion(setup)
        if setup.ripple_depth > 0:
            self.amounts["flicker"] = flicker_stops(setup)

    def _measure_motion(self, setup: SetUp) -> None:
        """Smear and lean of what moves. Filmed frame by frame, nothing moves while the shutter is open."""
        layer, hero, move, delivery = self.layer, self.hero, self.delivery.move, self.delivery
        stepped = layer.kind == "frame_by_frame"
        shaken = shake_px_per_frame(move.shake_px, move.shake_hz, delivery.frame_rate_fps)
        self.motion_hero_px = self.motion_px = self.move_hero_px = self.lean_px = self.lean_hero_px = 0.0
        velocity_m = velocity_m_per_frame(layer, delivery, hero.capture_fps)
        if move.still and not shaken and not velocity_m.any():
            return
        samples, poses = self.place
        paces = paces_of(samples, velocity_m)
        smeared = smears(
            paces,
            poses,
            turns=setup.follows_move or layer.combine == "in_camera",
            share=self.speed_ratio,
            exposed=0.0 if stepped else np.asarray(setup.shutter_angle_deg) / 360.0,
            hero_exposed=hero.shutter_angle_deg / 360.0,
            shaken_px=shaken,
        )
        self.motion_hero_px, self.motion_px = self._hero_number(smeared.hero_px), self._number(smeared.px)
        self.move_hero_px = self._hero_number(smeared.camera_px)
        self.amounts["motion_blur"] = self._number(smeared.apart_px)
        tall = self._hero_number(np.minimum(paces.tall_px, float(delivery.height_px)))
        self.lean_hero_px = self._lean_px(hero, 1.0, self._hero_number(smeared.hero_pace_px), tall)
        leans = self._lean_px(setup, self.resize, self._number(smeared.pace_px), tall)
        self.lean_px = 0.0 if stepped else leans
        if np.any(self.lean_px) or np.any(self.lean_hero_px):
            self.amounts["skew"] = abs(self.lean_px - self.lean_hero_px)

    def _lean_px(self, setup: SetUp, resize: float, pace_px: float, tall_px: float) -> float:
        """How far a thing leans while its rows are read: it takes its share of the gate's."""
        gate_px = setup.gate_height_mm * self.delivery.width_px / setup.extracted_mm * resize
        return pace_px * setup.capture_fps * setup.readout_ms / 1000.0 * tall_px / gate_px

    def _measure_light(self, setup: SetUp, stops_hero: float | None = None) -> None:
        self.stops_hero = exposure_offset_stops(self.hero) if stops_hero is None else stops_hero
        self.stops = exposure_offset_stops(setup)
        self.amounts |= light_amounts(self.hero, self.layer, setup)
        ratio = self.grain_ratio()
        self.amounts["grain"] = self._number(np.maximum(ratio, 1.0 / ratio) - 1.0)
        if self.layer.kind != "light_pass":  # added as bright as it should look
            self.amounts["brightness"] = abs(self.stops - self.stops_hero)
        if self.layer.brightest_stops is not None:
            over = self.layer.brightest_stops + self.stops - setup.headroom_stops
            self.amounts["clipping"] = self._number(np.maximum(0.0, over))

    def _measure_recording(self, setup: SetUp) -> None:
        if self.layer.combine == "key":
            self.amounts["chroma"] = pitch_of(setup) * enlargement(setup, self.delivery, self.resize)
            steps = codes_in_a_stop(setup.bit_depth) / (1.0 + setup.long_groups)
            self.amounts["codes"] = CODES_THAT_HOLD / steps

    def grain_ratio(self) -> float:
        """Noise of the layer over the hero's, for each delivered pixel: as measured, else by photons alone.

        Returns
        -------
        float
            1 is the same.

        References
        ----------
        photon_noise, photon_transfer

        Examples
        --------
        >>> from jungoptic.core.example import DELIVERY, HERO, MILL, MODEL
        >>> round(Match(HERO, MILL, MODEL.but(iso=3200), DELIVERY).grain_ratio(), 3)
        2.0
        """
        assert self.setup is not None
        setup = self.setup
        return self._number(noise_ratio(self.hero, setup, setup.iso, setup.extracted_mm, self.resize))
