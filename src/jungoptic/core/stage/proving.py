"""The simulated camera held against the comparison: charts filmed with one thing wrong, and measured.

Each row says what the comparison predicts and what is measured in the picture. Nothing is shared but the
geometry of the scene: discs are measured by their second moments, smears by theirs, noise by its deviation.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Collection, Iterator
from dataclasses import dataclass
from typing import Any

import numpy as np

from ..light import MID_GREY, bt709_signal, mired_of_gain
from ..match.camera import codes_in_a_stop
from ..match.layer import Layer, Part
from ..match.measure import Match
from ..match.pose import Array
from ..match.records import Delivery, SetUp
from ..motion.move import Move
from .camera import Camera
from .charts import WIDTH, as_wanted, chart, dot, film, spots
from .effects import Effects
from .proving_edges import key_direction, recorded_pixels
from .raster import AIRY_SIGMA

_PLAIN = Effects.only()


@dataclass(frozen=True, slots=True)
class Row:
    """One thing that was wrong: what was predicted and what the picture shows, in ``unit``."""

    item: str
    wrong: str
    predicted: float
    measured: float
    unit: str

    @property
    def off(self) -> float:
        """How far apart they are, in the unit."""
        return abs(self.measured - self.predicted)

    @property
    def agrees(self) -> bool:
        """Within 2 % or a tenth: of a pixel or a degree, a stop's hundredth, a mired."""
        return self.off <= max(0.02 * abs(self.predicted), _LEAST[self.unit])


# Lenses that do not breathe: what is wrong is wrong alone.
_HERO = SetUp(
    focal_length_mm=35,
    focusing="constant_view",
    f_number=8,
    focus_distance_m=12,
    gate_width_mm=23.5,
    gate_height_mm=13.22,
    recorded_width_px=3840,
    recorded_height_px=2160,
    distance_m=12,
    lens_height_m=1.6,
    capture_fps=24,
    iso=800,
    illuminance_lx=960,
    key_azimuth_deg=0.0,
    key_elevation_deg=0.0,
)
_MODEL = _HERO.but(distance_m=1, focus_distance_m=1, lens_height_m=1.6 / 12)

_LEAST = {"°": 0.1, "px": 0.1, "stops": 0.01, "mired": 1.0, "×": 0.01, "codes": 1.0}


_DOTS = tuple(dot(x, y, behind) for x in (-2.6, 0.0, 2.6) for y in (0.0125, 2.4) for behind in (0.0, 4.0))


def _places(hero: SetUp, model: SetUp) -> Iterator[Row]:
    """Position: the greatest way that any dot lies off, in whole frames."""
    still, slide = Delivery(), Delivery(move=Move(kind="slide", amount=0.6, end_frame=24))
    pan = Delivery(move=Move(kind="pan", amount=6.0, end_frame=24))
    size = 1.0 / 1.05
    cases: tuple[tuple[str, str, dict[str, Any], dict[str, Any], Delivery, float], ...] = (
        ("lens", "4 % too long", {"focal_length_mm": model.focal_length_mm * 1.04}, {}, still, 0),
        ("perspective", "5 % too far, resized", {"distance_m": 1.05}, {"resize": 1.0 / size}, still, 0),
        ("height", "5 mm too high", {"lens_height_m": model.lens_height_m + 0.005}, {}, still, 0),
        ("tilt", "0.5° up", {"tilt_deg": 0.5}, {}, still, 0),
        ("roll", "0.4°", {"roll_deg": 0.4}, {}, still, 0),
        ("move", "travels 0.04 m of 0.05 m", {"travel_m": 0.04}, {}, slide, 24),
        ("pupil", "20 mm before the axis, 6° pan", {"pupil_off_mm": 20.0}, {}, pan, 24),
    )
    for item, wrong, changes, of_layer, delivery, frame in cases:
        layer = chart(*_DOTS, **of_layer)
        match = Match(hero, layer, model.but(**changes), delivery)
        here = spots(match, _PLAIN, frame)
        there = spots(as_wanted(hero, layer.but(resize=1.0), delivery), _PLAIN, frame)
        ways = [math.hypot(a[0] - b[0], a[1] - b[1]) for a, b in zip(here, there, strict=True)]
        yield Row(item, wrong, match.amounts[item], max(ways), "px")


def _soft(hero: SetUp, model: SetUp) -> Iterator[Row]:
    """Blur of each end by itself, and the Airy disc."""
    layer = chart(dot(-0.8, 1.2), dot(0.8, 1.2, 6.0))
    for wrong, changes in (
        ("f/8, focused at 1.1 m", {"f_number": 8.0, "focus_distance_m": 1.1}),
        ("f/4, focused at 1 m", {"f_number": 4.0, "focus_distance_m": 1.0}),
        ("f/11, focused at 1.6 m", {"f_number": 11.3137, "focus_distance_m": 1.6}),
    ):
        match = Match(hero, layer, model.but(**changes), Delivery())
        sharp, soft = (spots(match, effects) for effects in (_PLAIN, Effects.only("focus")))
        ends = (match.blur_near_px, match.blur_far_px)
        for item, place, predicted in zip(("focus_near", "focus_far"), (0, 1), ends, strict=True):
            spread = max(soft[place][2] - sharp[place][2], 0.0)
            yield Row(item, wrong, predicted, 4.0 * math.sqrt(spread), "px")
    for stop in (16.0, 32.0):
        match = Match(hero, layer, model.but(f_number=stop), Delivery())
        sharp, soft = (spots(match, effects) for effects in (_PLAIN, Effects.only("diffraction")))
        spread = math.sqrt(soft[0][2] - sharp[0][2])
        yield Row("diffraction", f"f/{stop:g}", match.airy_px, spread / AIRY_SIGMA, "px")


def _moving(hero: SetUp, model: SetUp) -> Iterator[Row]:
    """Smear by its second moment, and how far a tall thing leans."""
    moves = {"driver": "gravity", "speed_m_s": 2.0}
    dots = (dot(0.0, 1.2),)
    pushed = Delivery(move=Move(kind="push", amount=3.0, end_frame=12))
    panned = Delivery(move=Move(kind="pan", amount=8.0, end_frame=48))
    cases: tuple[tuple[str, Layer, Delivery, float], ...] = (
        ("across at 2 m/s, 24 frames/s", chart(*dots, **moves), Delivery(), 0.0),
        ("up at 2 m/s", chart(*dots, driver="gravity", speed_up_m_s=2.0), Delivery(), 0.0),
        ("pan, at its fastest", chart(*dots), panned, 24.0),
        ("push, off the middle", chart(dot(1.4, 1.6)), pushed, 6.0),
    )
    for wrong, layer, delivery, frame in cases:
        match = Match(hero, layer, model, delivery)
        soft = spots(match, Effects.only("smear"), frame, 110)[0]
        camera = Camera(match, frame, WIDTH, _PLAIN)
        seen = camera.view.project([layer.parts[0].outline + camera.come], *camera.size)[0]
        # a square of that size, and a pixel, spread light by a twelfth of their squares
        sharp = float((np.ptp(seen, axis=0) ** 2).sum() + 2.0) / 12.0
        long = math.sqrt(12.0 * max(soft[2] + soft[3] - sharp, 0.0))
        predicted = _pace_px(match, frame) if delivery.move.kind != "none" else match.motion_px
        yield Row("motion_blur", wrong, predicted, long, "px")
    layer = chart(dot(0.0, 0.2), dot(0.0, 2.4), **moves)
    match = Match(hero, layer, model.but(readout_ms=20.0), Delivery())
    low, high = spots(match, Effects.only("skew"))
    tall = abs(low[1] - high[1])
    pace = match.motion_px / (model.shutter_angle_deg / 360.0)
    gate = match.setup.gate_height_mm * 1920.0 / match.setup.extracted_mm if match.setup else 1.0
    lean = pace * model.capture_fps * 0.020 * tall / gate
    yield Row("skew", "20 ms readout, 2 m/s", lean, abs(low[0] - high[0]), "px")


def _pace_px(match: Match, frame: float) -> float:
    """How far the first dot goes while the shutter is open, by where it stands just before and after."""
    ends = [Camera(match, frame + side, WIDTH, _PLAIN) for side in (-0.01, 0.01)]
    outline = match.layer.parts[0].outline
    before, after = (end.view.project([outline + end.come], *end.size)[0].mean(axis=0) for end in ends)
    assert match.setup is not None
    return float(np.hypot(*(after - before))) / 0.02 * match.setup.shutter_angle_deg / 360.0


def _patch(colour: str = "#808080", **fields: Any) -> Layer:
    wide = ((-2.0, 0.2), (-2.0, 2.2), (2.0, 2.2), (2.0, 0.2))
    return chart(Part(name="Patch", points=wide, colour=colour), **fields)


def _middle(match: Match, effects: Effects, frame: float = 0.0) -> Array:
    """Light of the middle of a patch: red, green and blue."""
    planes, camera = film(match, effects, frame)
    outline = match.layer.parts[0].outline + camera.come
    x, y = camera.view.project([outline], *camera.size)[0].mean(axis=0).tolist()
    box = planes[:3, round(y) - 60 : round(y) + 60, round(x) - 60 : round(x) + 60]
    light: Array = box.astype(np.float64).mean(axis=(1, 2))
    return light


def _lit(hero: SetUp, model: SetUp) -> Iterator[Row]:
    """Exposure, colour, key over fill, noise, highlights, ripple, codes."""
    patch, still = _patch(), Delivery()

    def stops(changes: dict[str, Any], effect: str, setup: SetUp = model) -> float:
        before, after = (Match(hero, patch, lit, still) for lit in (setup, setup.but(**changes)))
        lights = [_middle(match, Effects.only(effect))[1] for match in (before, after)]
        return math.log2(lights[1] / lights[0])

    dark = model.but(illuminance_lx=model.illuminance_lx / 3.0)
    predicted = Match(hero, patch, dark, still).stops - Match(hero, patch, model, still).stops
    yield Row(
        "brightness",
        "a third of the light",
        predicted,
        stops(dark.model_dump(include={"illuminance_lx"}), "exposure"),
        "stops",
    )
    for kelvin in (3200.0, 4300.0):
        match = Match(hero, patch, model.but(light_k=kelvin, white_balance_k=5600.0), still)
        plain = Match(hero, patch, model, still)
        gain = _middle(match, Effects.only("cast")) / _middle(plain, Effects.only("cast"))
        yield Row(
            "colour",
            f"{kelvin:g} K seen at 5600 K",
            match.amounts["colour"],
            abs(mired_of_gain(float(gain[0]), float(gain[2]))),
            "mired",
        )
    for over in (1.0, 2.0, 4.0):
        yield Row(
            "key_fill",
            f"{over:g} stops, a side that faces the key",
            over,
            _lit_side(hero, model, over),
            "stops",
        )
    for wrong, changes in (
        ("ISO 3200 against 800", {"iso": 3200.0}),
        ("half the gate extracted", {"extraction_width_mm": 11.75}),
    ):
        match = Match(hero, patch, model.but(**changes), still)
        yield Row(
            "grain", wrong, match.grain_ratio(), _noise(match) / _noise(Match(hero, patch, model, still)), "×"
        )
    bright = model.but(illuminance_lx=model.illuminance_lx * 2.0**7)
    match = Match(hero, _patch("#ffffff"), bright, still)
    clipped, whole = (_middle(match, Effects.only("exposure", *more))[1] for more in (("clipping",), ()))
    over = math.log2(whole / (MID_GREY * 2.0**bright.headroom_stops))
    yield Row("clipping", "seven stops over", over, math.log2(whole / clipped), "stops")
    rippling = model.but(ripple_depth=0.3, mains_hz=50.0, capture_fps=24.0, shutter_angle_deg=90.0)
    match = Match(hero, patch, rippling, still)
    frames = [_middle(match, Effects.only("flicker"), frame)[1] for frame in range(12)]
    yield Row(
        "flicker",
        "50 Hz, 24 frames/s, 90°",
        match.amounts["flicker"],
        math.log2(max(frames) / min(frames)),
        "stops",
    )
    for bits in (8, 10):
        yield _codes(hero, model.but(bit_depth=bits), bits)


def _lit_side(hero: SetUp, model: SetUp, over: float) -> float:
    """How much brighter the side of a block is that looks into a key from the right than its front, which
    only the fill reaches; stops.
    """
    front = ((-2.2, 0.2), (-2.2, 2.2), (-1.2, 2.2), (-1.2, 0.2))
    block = Part(name="Block", points=front, thickness_m=3.0, colour="#808080")
    aside = model.but(key_azimuth_deg=90.0, key_elevation_deg=0.0, key_to_fill_stops=over)
    planes, camera = film(Match(hero, chart(block, depth_m=3.0), aside, Delivery()), Effects.only("shading"))
    faces = [np.array([(-1.7, 1.2, 0.0)]), np.array([(-1.2, 1.2, 1.2)])]
    lights = []
    for place in faces:
        x, y = (camera.view.seen(place + camera.come, *camera.size)[0]).tolist()
        lights.append(float(planes[1, round(y) - 4 : round(y) + 4, round(x) - 4 : round(x) + 4].mean()))
    return math.log2(lights[1] / lights[0])


def _noise(match: Match) -> float:
    planes, camera = film(match, Effects.only("grain"))
    outline = match.layer.parts[0].outline + camera.come
    x, y = camera.view.project([outline], *camera.size)[0].mean(axis=0).tolist()
    box = planes[1, round(y) - 150 : round(y) + 150, round(x) - 250 : round(x) + 250]
    return float((box - box.mean(axis=1, keepdims=True)).std())


def _codes(hero: SetUp, model: SetUp, bits: int) -> Row:
    """How many steps of luma lie in the stop under mid-grey of a ramp."""
    ramp = Part(
        name="Ramp",
        points=((-2.0, 0.1), (-2.0, 2.4), (2.0, 2.4), (2.0, 0.1)),
        colour="#a0a0a0",
        colour_low="#000000",
    )
    planes, _ = film(Match(hero, chart(ramp), model, Delivery()), Effects.only("codes"))
    luma = bt709_signal(planes[1][:, WIDTH // 2])
    low, high = (float(bt709_signal(np.array([light]))[0]) for light in (MID_GREY / 2.0, MID_GREY))
    steps = np.unique(luma[(luma > low) & (luma <= high)].round(6))
    return Row("codes", f"{bits} bit", codes_in_a_stop(bits), float(len(steps)), "codes")


def _glass(hero: SetUp, model: SetUp) -> Iterator[Row]:
    """Bent and darkened towards the corner, and where the recorded picture ends."""
    layer = chart(dot(-2.6, 2.4), dot(2.6, 0.1))
    for bend in (-2.0, 1.5):
        match = Match(hero, layer, model.but(distortion_pct=bend), Delivery())
        plain, bent = (spots(match, effects) for effects in (_PLAIN, Effects.only("distortion")))
        ways = [math.hypot(a[0] - b[0], a[1] - b[1]) for a, b in zip(plain, bent, strict=True)]
        yield Row("distortion", f"{bend:g} % in the corner", match.bent_px, max(ways), "px")
    match = Match(hero, layer, model.but(vignetting_stops=1.2, widest_f_number=2.0, f_number=4.0), Delivery())
    whole, dark = (_light_of_dots(match, effects) for effects in (_PLAIN, Effects.only("vignetting")))
    lost = max(math.log2(before / after) for before, after in zip(whole, dark, strict=True))
    yield Row("vignetting", "1.2 stops wide open, at f/4 of f/2", match.dark_stops, lost, "stops")
    wide = ((-4.0, 0.0), (-4.0, 3.0), (4.0, 3.0), (4.0, 0.0))
    layer = chart(Part(name="Wall", points=wide, colour="#ffffff"), width_m=8.0, resize=0.9)
    match = Match(hero, layer, model.but(focal_length_mm=model.focal_length_mm / 0.9), Delivery())
    planes, _ = film(match, Effects.only("gate"))
    shown = planes[3][540, : WIDTH // 2]
    there, _ = film(as_wanted(hero, layer.but(resize=1.0), Delivery()), _PLAIN)
    yield Row(
        "edges",
        "resized to 90 %",
        match.amounts["edges"],
        float((there[3][540, : WIDTH // 2] - shown).sum()),
        "px",
    )


def _light_of_dots(match: Match, effects: Effects) -> list[float]:
    planes, camera = film(match, effects)
    lights = []
    for part in match.layer.parts:
        x, y = camera.view.project([part.outline + camera.come], *camera.size)[0].mean(axis=0).tolist()
        lights.append(float(planes[1, round(y) - 20 : round(y) + 20, round(x) - 20 : round(x) + 20].sum()))
    return lights


def _recorded(hero: SetUp, model: SetUp) -> Iterator[Row]:
    """The recording's own pixels, and the direction of the key."""
    for numbers in (*recorded_pixels(hero, model), *key_direction(hero, model)):
        yield Row(*numbers)


PROVED = ("place", "focus", "motion", "light", "glass", "recording")


def proved(kinds: Collection[str] = PROVED) -> list[Row]:
    """Charts at 1:12 filmed with one thing wrong after the other, and measured in the picture.

    Parameters
    ----------
    kinds : collection of str, optional
        Some of "place", "focus", "motion", "light", "glass", "recording"; all when left out.

    Returns
    -------
    list of Row
        Delivered px of 1920, stops, mired, ratios, codes.

    References
    ----------
    pinhole, thin_lens, shutter, airy

    Examples
    --------
    >>> [row.agrees for row in proved(("glass",))]
    [True, True, True, True]
    """
    parts: tuple[Callable[[SetUp, SetUp], Iterator[Row]], ...] = (
        _places,
        _soft,
        _moving,
        _lit,
        _glass,
        _recorded,
    )
    return [
        row for kind, part in zip(PROVED, parts, strict=True) if kind in kinds for row in part(_HERO, _MODEL)
    ]
