"""What the demo's shots are made of: set-ups with lamps and backing, as they are written down."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field
from typing import Any

from jungoptic.app.demo.shapes import add_layer
from jungoptic.app.kit.models import Lens, RecordingMode
from jungoptic.app.productions.models import Place, Production
from jungoptic.app.shots.models import PlacedBacking, PlacedLamp, SetUp, Shot
from jungoptic.core.kit import exact_stop
from jungoptic.core.vocabulary import SHEETS

GREEN, BLUE = SHEETS["green"], SHEETS["blue"]
ONLY_FOR = "only_for"  # a lamp of a pass: its layer, by name
FILMED = ["ball", "chart", "tape"]
Row = dict[str, Any]


def lux(f_number: float, iso: float, fps: float = 24, angle: float = 180) -> float:
    """Light for a normal exposure: 250·N²·360·rate/(angle·ISO), rounded as a meter shows it."""
    return float(f"{250 * exact_stop(f_number) ** 2 * 360 * fps / (angle * iso):.3g}")


@dataclass
class Planned:
    lens: float
    stop: float
    focus: float
    distance: float
    height: float
    values: Row = field(default_factory=dict)
    camera: str = "Camera A"
    width: int = 3840
    lamps: tuple[Row, ...] = ()
    backing: Row | None = None


def make_set_up(production: Production, shot: Shot, name: str, plan: Planned) -> SetUp:
    values: Row = {"iso": 800.0, "capture_fps": 24.0, **plan.values}
    values.setdefault(
        "illuminance_lx",
        lux(plan.stop, values["iso"], values["capture_fps"], values.get("shutter_angle_deg", 180))
        * 2 ** values.get("nd_stops", 0),
    )
    set_up = SetUp.objects.create(
        shot=shot,
        name=name,
        lens=Lens.objects.get(
            production=production, focal_length_mm=plan.lens, camera__isnull=plan.camera != "Telephone"
        ),
        mode=RecordingMode.objects.get(
            camera__production=production, camera__name=plan.camera, recorded_width_px=plan.width
        ),
        f_number=exact_stop(plan.stop),
        focus_distance_m=plan.focus,
        distance_m=plan.distance,
        lens_height_m=plan.height,
        **values,
    )
    PlacedLamp.objects.bulk_create(
        PlacedLamp(set_up=set_up, **{name: value for name, value in lamp.items() if name != ONLY_FOR})
        for lamp in plan.lamps
    )
    if plan.backing:
        PlacedBacking.objects.create(set_up=set_up, **plan.backing)
    return set_up


def panel(
    name: str,
    role: str,
    across: float,
    height: float,
    behind: float,
    aim: tuple[float, float, float],
    level: float = 1.0,
    kelvin: float = 5600,
) -> Row:
    return {
        "name": name,
        "role": role,
        "intensity_cd": 900,
        "beam_deg": 110,
        "face_m": 0.6,
        "colour_k": kelvin,
        "level": level,
        "across_m": across,
        "height_m": height,
        "behind_m": behind,
        "aim_across_m": aim[0],
        "aim_height_m": aim[1],
        "aim_behind_m": aim[2],
    }


def spot(across: float, height: float, behind: float, aim: tuple[float, float, float]) -> Row:
    return {
        "name": "300 W spot",
        "role": "key",
        "intensity_cd": 18000,
        "beam_deg": 25,
        "face_m": 0.14,
        "colour_k": 3200,
        "across_m": across,
        "height_m": height,
        "behind_m": behind,
        "aim_across_m": aim[0],
        "aim_height_m": aim[1],
        "aim_behind_m": aim[2],
    }


def enter(
    production: Production,
    place: Place | None,
    code: str,
    title: str,
    description: str,
    frames: int,
    set_ups: dict[str, Planned],
    layers: Sequence[tuple[str, str | None, Sequence[Any], Row]],
    **values: Any,
) -> None:
    """One shot; its layers front first.

    The first set-up is the hero's, and the layer that says so is the hero.
    """
    shot = Shot.objects.create(
        production=production,
        place=place,
        code=code,
        title=title,
        description=description,
        length_frames=frames,
        **values,
    )
    made = {name: make_set_up(production, shot, name, plan) for name, plan in set_ups.items()}
    for at, (name, set_up, parts, layer) in enumerate(layers):
        add_layer(shot, at, name, list(parts), set_up=made[set_up] if set_up else None, **layer)
    for name, plan in set_ups.items():
        for lamp in plan.lamps:
            if ONLY_FOR in lamp:
                made[name].lamps.filter(name=lamp["name"]).update(
                    only_for=shot.layers.get(name=lamp[ONLY_FOR])
                )
