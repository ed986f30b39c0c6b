"""The engraved barrels of a set-up: steps, limits of the kit, the hero's mark, what is wanted, the bracket
that holds.
"""

from __future__ import annotations

import math
from collections.abc import Iterable
from dataclasses import dataclass
from typing import Any, Literal

from ..kit.records import Kit
from ..kit.steps import ISO_STEPS, STOPS, rate_name, rates_with, stop_name
from ..match.compare import Judgement
from ..match.measure import Match
from ..vocabulary import Quantity
from ..wording import Words, number
from .engraving import (
    DEGREE_MARKS,
    FULL_ISOS,
    FULL_STOPS,
    LIGHT_MARKS,
    RAISE_MARKS,
    Mark,
    focal_marks,
    length_marks,
    step_marks,
)
from .placing import Placing

_THIRD = 2.0 ** (1 / 3)


@dataclass(frozen=True, slots=True)
class Dial:
    """One barrel. ``steps`` dials stop only at their marks; the others turn freely by ``step`` (Shift:
    ``big_step``).

    On a ``log`` ring a step is a factor, on a ``linear`` one an amount. ``hero`` is where the hero stands,
    brought to this scale; ``wants`` what would marry; ``holds_low`` … ``holds_high`` the bracket within
    which it holds.
    """

    field: str
    label: str
    unit: str
    quantity: Quantity
    value: float
    text: str
    ring: Literal["log", "linear"]
    steps: bool
    step: float
    big_step: float
    low: float
    high: float
    marks: tuple[Mark, ...]
    hero: float | None
    wants: float | None
    wants_text: str
    holds_low: float | None
    holds_high: float | None


def _bracket(placing: Placing | None) -> tuple[float | None, float | None]:
    if placing is None or placing.minus is None or placing.plus is None:
        return None, None
    return placing.wanted - placing.minus, placing.wanted + placing.plus


def dials(
    match: Match,
    judged: Iterable[Judgement],
    placings: Iterable[Placing],
    kit: Kit,
    words: Words,
    band: tuple[float, float],
) -> list[Dial]:
    """The barrels of one layer's set-up, in the order of the Bench.

    Parameters
    ----------
    match : Match
        A layer with a set-up.
    judged : iterable of Judgement
        What is judged of it; its wishes are marked.
    placings : iterable of Placing
        How exactly it must be placed.
    kit : Kit
        Whose steps and limits are engraved.
    words : Words
        The reader's units.
    band : tuple of float
        Where it holds focus, metres of the set; the back edge may be ``math.inf``.

    Returns
    -------
    list of Dial
        Values in the set-up's own units.

    References
    ----------
    engraved_stops

    Examples
    --------
    >>> from jungoptic.core.example import DELIVERY, HERO, KIT, MILL, MODEL
    >>> barrels = dials(Match(HERO, MILL, MODEL, DELIVERY), (), (), KIT, Words(), (0.9, 1.2))
    >>> [dial.label for dial in barrels][:3]
    ['Lens', 'Stop', 'Focus']
    """
    setup, hero, layer = match.setup, match.hero, match.layer
    assert setup is not None
    wishes = {
        judgement.dial: judgement
        for judgement in judged
        if judgement.dial and judgement.wants is not None and judgement.verdict != "holds"
    }
    near = {placing.dial: placing for placing in placings}
    lens = kit.lens_of(setup.focal_length_mm, setup.f_number, setup.focus_distance_m)
    mode = kit.mode_of(setup.recorded_width_px, setup.gate_width_mm)
    s = layer.scale

    def dial(
        field: str,
        label: str,
        unit: str,
        text: str,
        ring: Literal["log", "linear"],
        marks: tuple[Mark, ...],
        *,
        hero_at: float | None,
        steps: bool = False,
        step: float = _THIRD,
        big: float = 2.0,
        low: float | None = None,
        high: float | None = None,
        quantity: Quantity = "number",
        holds: tuple[float | None, float | None] = (None, None),
    ) -> Dial:
        wish = wishes.get(field)
        return Dial(
            field,
            label,
            unit,
            quantity,
            getattr(setup, field),
            text,
            ring,
            steps,
            step,
            big,
            marks[0].value if low is None else low,
            marks[-1].value if high is None else high,
            marks,
            hero_at,
            wish.wants if wish else None,
            wish.wants_text if wish else "",
            *holds,
        )

    length = words.length
    turn_length: dict[str, Any] = {"step": 1.02, "big": 1.1, "quantity": "length"}
    zooms = [owned for owned in kit.lenses if owned.longest_mm]
    turns: dict[str, Any] = {"step": 1.01, "big": 1.1} if zooms else {"steps": True}
    menu = mode.menu_fps if mode else rates_with(hero.capture_fps)
    rates = sorted({*menu, setup.capture_fps})
    isos = sorted({float(step) for step in ISO_STEPS} | {setup.iso})
    angles = sorted({*kit.shutter_angles_deg, setup.shutter_angle_deg})
    stops = [(name, exact) for name, exact in STOPS if exact >= 1.39]
    if not any(math.isclose(exact, setup.f_number, rel_tol=4e-3) for _, exact in stops):
        stops = sorted([*stops, (stop_name(setup.f_number), setup.f_number)], key=lambda step: step[1])
    return [
        dial(
            "focal_length_mm",
            "Lens",
            "mm",
            number(setup.focal_length_mm, 3),
            "log",
            focal_marks(kit, setup.focal_length_mm),
            hero_at=hero.focal_length_mm,
            **turns,
        ),
        dial(
            "f_number",
            "Stop",
            "",
            f"f/{stop_name(setup.f_number)}",
            "log",
            step_marks(stops, (exact for _, exact in lens.stops) if lens else (), FULL_STOPS),
            hero_at=hero.f_number,
            steps=True,
        ),
        dial(
            "focus_distance_m",
            "Focus",
            "m",
            length(setup.focus_distance_m),
            "log",
            length_marks(
                words.units,
                lens.closest_focus_m if lens else 0.0,
                lens.farthest_focus_m if lens else None,
            ),
            hero_at=hero.focus_distance_m / s,
            holds=(band[0], band[1] if math.isfinite(band[1]) else None),
            **turn_length,
        ),
        dial(
            "capture_fps",
            "Rate",
            "fps",
            rate_name(setup.capture_fps),
            "log",
            step_marks(((rate_name(r), r) for r in rates), mode.rates_fps if mode else ()),
            hero_at=hero.capture_fps,
            steps=True,
        ),
        dial(
            "lens_height_m",
            "Height",
            "m",
            length(setup.lens_height_m),
            "log",
            length_marks(words.units, kit.lowest_lens_m),
            hero_at=match.wanted_height_m + setup.ground_height_m,
            holds=_bracket(near.get("lens_height_m")),
            **turn_length,
        ),
        dial(
            "distance_m",
            "Distance",
            "m",
            length(setup.distance_m),
            "log",
            length_marks(words.units, 0.0),
            hero_at=match.wanted_distance_m,
            holds=_bracket(near.get("distance_m")),
            **turn_length,
        ),
        dial(
            "ground_height_m",
            "Raise",
            "m",
            length(setup.ground_height_m),
            "linear",
            RAISE_MARKS,
            hero_at=None,
            step=0.005,
            big=0.05,
            quantity="length",
        ),
        dial(
            "shutter_angle_deg",
            "Shutter",
            "°",
            f"{setup.shutter_angle_deg:g}",
            "log",
            step_marks(((f"{a:g}", a) for a in angles), kit.shutter_angles_deg),
            hero_at=hero.shutter_angle_deg,
            steps=True,
        ),
        dial(
            "iso",
            "ISO",
            "",
            f"{setup.iso:g}",
            "log",
            step_marks(
                ((f"{i:g}", i) for i in isos),
                kit.camera.iso_steps,
                FULL_ISOS,
            ),
            hero_at=hero.iso,
            steps=True,
        ),
        dial(
            "illuminance_lx",
            "Light",
            "lx",
            words.light(setup.illuminance_lx),
            "log",
            LIGHT_MARKS,
            hero_at=hero.illuminance_lx,
            quantity="light",
        ),
        dial(
            "tilt_deg",
            "Tilt",
            "°",
            f"{number(setup.tilt_deg)}",
            "linear",
            DEGREE_MARKS,
            hero_at=hero.tilt_deg,
            step=0.1,
            big=1.0,
            holds=_bracket(near.get("tilt_deg")),
        ),
    ]
