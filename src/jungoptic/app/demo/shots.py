"""TM020 to TM120 of the invented production, each as it was first thought of: every one has the trouble that its line implies."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field
from datetime import datetime
from typing import Any

from jungoptic.app.demo.shapes import add_layer, card, house, person, polygon, room, spokes, wheel
from jungoptic.app.kit.models import Lens, RecordingMode
from jungoptic.app.productions.models import Place, Production
from jungoptic.app.shots.models import PlacedBacking, PlacedLamp, SetUp, Shot
from jungoptic.core.kit.steps import exact_stop

FILMED = ["ball", "chart", "tape"]
GREEN, BLUE = "#1f9d3a", "#2450b8"
Row = dict[str, Any]


def lux(f_number: float, iso: float, fps: float = 24, angle: float = 180) -> float:
    """Light for a normal exposure: 250·N²·360·rate/(angle·ISO), rounded as a meter shows it."""
    return float(f"{250 * exact_stop(f_number) ** 2 * 360 * fps / (angle * iso):.3g}")


@dataclass
class _SetUp:
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


def _make(production: Production, shot: Shot, name: str, plan: _SetUp) -> SetUp:
    values: Row = {"iso": 800.0, "capture_fps": 24.0, **plan.values}
    values.setdefault("illuminance_lx", lux(plan.stop, values["iso"], values["capture_fps"], values.get("shutter_angle_deg", 180)))
    set_up = SetUp.objects.create(
        shot=shot, name=name, lens=Lens.objects.get(production=production, focal_length_mm=plan.lens, camera__isnull=plan.camera != "Telephone"),
        mode=RecordingMode.objects.get(camera__production=production, camera__name=plan.camera, recorded_width_px=plan.width),
        f_number=exact_stop(plan.stop), focus_distance_m=plan.focus, distance_m=plan.distance, lens_height_m=plan.height, **values,
    )  # fmt: skip
    PlacedLamp.objects.bulk_create(PlacedLamp(set_up=set_up, **lamp) for lamp in plan.lamps)
    if plan.backing:
        PlacedBacking.objects.create(set_up=set_up, **plan.backing)
    return set_up


def _panel(
    name: str, role: str, across: float, height: float, behind: float, aim: tuple[float, float, float], level: float = 1.0, kelvin: float = 5600
) -> Row:
    return {
        "name": name, "role": role, "intensity_cd": 900, "beam_deg": 110, "face_m": 0.6, "colour_k": kelvin, "level": level, "across_m": across, "height_m": height,
        "behind_m": behind, "aim_across_m": aim[0], "aim_height_m": aim[1], "aim_behind_m": aim[2],
    }  # fmt: skip


def _spot(across: float, height: float, behind: float, aim: tuple[float, float, float]) -> Row:
    return {
        "name": "300 W spot", "role": "key", "intensity_cd": 18000, "beam_deg": 25, "face_m": 0.14, "colour_k": 3200, "across_m": across, "height_m": height,
        "behind_m": behind, "aim_across_m": aim[0], "aim_height_m": aim[1], "aim_behind_m": aim[2],
    }  # fmt: skip


def _shot(
    production: Production,
    place: Place | None,
    code: str,
    title: str,
    description: str,
    frames: int,
    set_ups: dict[str, _SetUp],
    layers: Sequence[tuple[str, str | None, Sequence[Any], Row]],
    **values: Any,
) -> None:
    """One shot; its layers front first. The first set-up is the hero's, and the layer that says so is the hero."""
    shot = Shot.objects.create(production=production, place=place, code=code, title=title, description=description, length_frames=frames, **values)
    made = {name: _make(production, shot, name, plan) for name, plan in set_ups.items()}
    for at, (name, set_up, parts, layer) in enumerate(layers):
        add_layer(shot, at, name, list(parts), set_up=made[set_up] if set_up else None, **layer)


def make_shots(production: Production) -> None:
    """Enter the eleven shots after the first."""
    interior = Place.objects.create(production=production, name="Inside the mill", recurring=["tide mark on the wall"])
    quay = Place.objects.create(production=production, name="The quay", recurring=["leaning mooring post"])
    _great_wheel(production, interior)
    _cup(production, interior)
    _bell_rope(production, interior)
    _first_steps(production, quay)
    _sea_wall(production)
    _lamp_bursts(production, interior)
    _dawn(production)
    _causeway(production)
    _mist(production)
    _airship(production, quay)
    _grain_loft(production, interior)


def _great_wheel(production: Production, place: Place) -> None:
    """The coat is near the sheet's green, she crosses out of it, the panels stand too near it, the wheel is out of focus."""
    key = (0.0, 1.2, 0.0)
    actor = _SetUp(
        35, 4, 5, 5, 1.4,
        {"light_k": 3200, "white_balance_k": 3200, "key_to_fill_stops": 2.0, "ripple_depth": 0.05, "references": ["chart"]},
        lamps=(
            _spot(2.2, 3.0, -2.6, key), _panel("soft panel 1", "backing", -1.3, 2.6, 0.4, (-0.6, 1.2, 1.2), kelvin=3200),
            _panel("soft panel 2", "fill", -1.6, 1.6, -2.5, key, 0.9, 3200),
        ),
        backing={"name": "Green sheet", "colour": GREEN, "width_m": 3, "height_m": 2.5, "behind_m": 1.2, "bottom_m": 0.0},
    )  # fmt: skip
    model = _SetUp(35, 4, 0.9, 0.9, 0.35, {"light_k": 3200, "white_balance_k": 3200, "key_azimuth_deg": 40, "key_elevation_deg": 25, "key_size_deg": 10, "key_to_fill_stops": 2.0, "model_speed_m_s": 0.5, "references": FILMED})  # fmt: skip
    openings = [{**one, "colour": "#171a1e", "colour_low": "#14171a"} for one in spokes(0, 2.2, 2.1, 8)]
    turning = [
        {"name": "Wheel", "behind_m": 1.4, "points": wheel(0, 2.2, 2.1, 20), "colour": "#4a3b2c", "colour_low": "#2b231b", "thickness_m": 0.4},
        *openings,
    ]
    _shot(
        production, place, "TM020", "Under the great wheel", "Orla crosses under the great wheel and its shadow sweeps over her.", 132,
        {"Orla on green": actor, "Wheel on the table": model},
        [
            ("Shadow on Orla", "Orla on green", person(0, coat="#a0a0a0"), {"kind": "shadow_pass", "combine": "multiply", "near_m": 4.99, "width_m": 0.6, "height_m": 1.7, "note": "The same frame, dark, used only where the wheel's shadow falls."}),
            ("Orla", "Orla on green", person(0, coat="#56703f"), {"kind": "live_element", "combine": "key", "key_colour": "green", "is_hero": True, "near_m": 5, "width_m": 0.6, "height_m": 1.7, "contact": "ground", "kept": ["contact_shadow"], "moves_from_m": -1.5, "moves_to_m": 1.5, "keep_colours": ["#3f8a48", "#c49a7c"], "driver": "still", "speed_m_s": 0, "note": "Green coat. Crosses from left to right."}),
            ("Haze", None, [], {"kind": "haze", "combine": "screen", "near_m": 6, "width_m": 12, "height_m": 6, "fills_frame": True}),
            ("Wheel 1:8", "Wheel on the table", turning, {"kind": "model", "combine": "hand_matte", "near_m": 7.2, "depth_m": 2.2, "width_m": 4.4, "height_m": 4.4, "scale": 8, "driver": "set_speed", "speed_m_s": 1.2, "contact": "nothing"}),
            ("Inside of the mill", None, [card(-12, 12, -1, 9, "#2b2a2c", "#1b1917")], {"kind": "painted", "combine": "behind", "near_m": 12, "width_m": 24, "height_m": 10, "picture_width_px": 4800}),
        ],
        screen_direction="right", visibility_m=80, carries=["tide mark on the wall"], cautions=["hot_lamps", "overhead_load"],
    )  # fmt: skip


def _cup(production: Production, place: Place) -> None:
    """Locked off in two halves: no clean plate, and an arm over the line."""
    table = _SetUp(
        35,
        5.6,
        3,
        2.6,
        1.2,
        {"light_k": 3200, "white_balance_k": 3200, "key_azimuth_deg": 50, "key_elevation_deg": 30, "ripple_depth": 0.1, "references": FILMED},
    )
    board = card(-1.6, 1.6, 0.0, 0.75, "#4a3a2a", "#33281d", name="Table")
    cloth = {"kind": "split", "combine": "split", "near_m": 2.8, "depth_m": 0.6, "height_m": 1.7}
    _shot(
        production, place, "TM030", "The cup", "Both sisters at the table; one passes a cup across the line.", 216,
        {"Table, locked off": table},
        [
            ("Orla, left half", "Table, locked off", person(-0.55, 1.6, "#56703f"), {**cloth, "width_m": 0.7, "offset_m": 0, "moves_from_m": -1.3, "moves_to_m": -0.2, "split_side": "left"}),
            ("Wren, right half", "Table, locked off", person(0.55, 1.6, "#4a4f66"), {**cloth, "near_m": 2.81, "width_m": 0.7, "offset_m": 0, "moves_from_m": -0.16, "moves_to_m": 1.3, "split_side": "right"}),
            ("Table and room", "Table, locked off", [*room(6, 3, 3), board], {"kind": "live", "combine": "base", "is_hero": True, "near_m": 2.6, "depth_m": 3, "width_m": 6, "height_m": 3, "fills_frame": True}),
        ],
        split_px=960, split_feather_px=30, carries=["tide mark on the wall"],
    )  # fmt: skip


def _bell_rope(production: Production, place: Place) -> None:
    """The clean plate was filmed after lunch, and the rope's reflection in the wet floor is not kept."""
    light = {"light_k": 5600, "white_balance_k": 5600, "key_azimuth_deg": -70, "key_elevation_deg": 40, "references": FILMED}
    rope = card(-0.02, 0.02, 0.4, 3.6, "#b9a27a", "#8f7b59", name="Rope")
    handle = card(-0.05, 0.05, 0.35, 0.7, "#7a2d22", name="Grip")
    _shot(
        production, place, "TM040", "The bell rope", "A bell rope pulls itself and the bell answers.", 120,
        {"Belfry": _SetUp(25, 5.6, 4, 3, 1.3, light), "Belfry, after lunch": _SetUp(25, 5.6, 3.2, 4.2, 1.3, {**light, "white_balance_k": 5000})},
        [
            ("Rope on a line", "Belfry", [rope, handle], {"kind": "rig", "combine": "difference", "near_m": 4, "width_m": 0.2, "height_m": 3.6, "driver": "gravity", "speed_m_s": 0.8, "contact": "wet_ground"}),
            ("Clean belfry", "Belfry, after lunch", [], {"kind": "clean_plate", "combine": "behind", "near_m": 4.2, "width_m": 6, "height_m": 4, "fills_frame": True}),
            ("Belfry", "Belfry", [*room(7, 4.2, 4, "#55524c", "#2d2f33"), card(1.6, 2.6, 1.4, 3.0, "#cfd8df", "#a9b6c0", name="Window", behind=3.99)], {"kind": "live", "combine": "base", "is_hero": True, "near_m": 3, "depth_m": 4, "width_m": 7, "height_m": 4.2, "fills_frame": True, "brightest_stops": 5.2}),
        ],
        vertical_cut=True, vertical_at_px=960, carries=["tide mark on the wall"], cautions=["overhead_load"],
    )  # fmt: skip


def _first_steps(production: Production, place: Place) -> None:
    """The puppet is lit from the wrong side and out of focus, and its feet touch nothing."""
    sun = datetime.fromisoformat("2027-10-23T15:30:00+01:00")
    plate = _SetUp(
        35,
        8,
        5,
        3.5,
        0.9,
        {"light_k": 5600, "white_balance_k": 5600, "sun_at": sun, "heading_deg": 300.0, "key_to_fill_stops": 2.5, "references": FILMED, "iso": 200.0},
    )
    puppet = _SetUp(
        35,
        8,
        1.25,
        1.25,
        0.35,
        {
            "light_k": 5600,
            "white_balance_k": 5600,
            "key_azimuth_deg": -35,
            "key_elevation_deg": 20,
            "key_size_deg": 6,
            "key_to_fill_stops": 1.5,
            "references": ["ball"],
            "iso": 200.0,
        },
    )
    heron = [
        {
            "name": "Body",
            "points": polygon((-0.35, 0.62), (-0.2, 0.78), (0.12, 0.85), (0.3, 0.74), (0.12, 0.56), (-0.2, 0.54)),
            "colour": "#7c8790",
            "colour_low": "#59626a",
            "thickness_m": 0.2,
        },
        {
            "name": "Neck",
            "behind_m": 0.05,
            "points": polygon((0.18, 0.78), (0.24, 1.08), (0.2, 1.2), (0.42, 1.16), (0.3, 1.12), (0.3, 0.78)),
            "colour": "#9aa4ab",
        },
        {
            "name": "Legs",
            "behind_m": 0.08,
            "points": polygon((-0.02, 0), (-0.05, 0.58), (0.0, 0.58), (0.02, 0.3), (0.1, 0.58), (0.14, 0.58), (0.06, 0)),
            "colour": "#a8763c",
        },
    ]
    stones = [
        {"name": "Quay", "lies": True, "points": polygon((-4, 0), (4, 0), (9, 30), (-9, 30)), "colour": "#5a5c5e", "colour_low": "#46484b"},
        card(2.2, 2.5, 0, 1.1, "#4a3626", name="leaning mooring post", behind=4),
    ]
    _shot(
        production, place, "TM050", "First steps", "The Heron takes its first steps on the quay.", 168,
        {"Quay, low": plate, "Puppet on the track": puppet},
        [
            ("Heron 1:4", "Puppet on the track", heron, {"kind": "frame_by_frame", "combine": "key", "key_colour": "blue", "near_m": 5, "depth_m": 0.5, "width_m": 0.8, "height_m": 1.2, "scale": 4, "contact": "wet_ground", "travel_across_m": 0.9, "offset_m": -0.4, "note": "On twos; three steps of the geared track, 0.4 mm a turn."}),
            ("Quay and water", "Quay, low", stones, {"kind": "live", "combine": "base", "is_hero": True, "near_m": 3.5, "depth_m": 60, "width_m": 9, "height_m": 2, "fills_frame": True}),
            ("Evening sky", None, [card(-900, 900, -20, 700, "#44506a", "#d8a070", name="Sky")], {"kind": "stock", "combine": "behind", "near_m": 1500, "width_m": 1800, "height_m": 720, "picture_width_px": 3840}),
        ],
        cautions=["water_edge"],
    )  # fmt: skip


def _sea_wall(production: Production) -> None:
    """The water runs at 24 frames a second, so it looks small; the debris is enlarged."""
    dusk = {"light_k": 5600, "white_balance_k": 5600, "key_azimuth_deg": 130, "key_elevation_deg": 12, "key_to_fill_stops": 1.5}
    hero = _SetUp(35, 5.6, 20, 12, 2.0 - 0.4, {**dusk, "references": FILMED})
    tank = _SetUp(35, 5.6, 3.3, 3.33, 0.5, {**dusk, "light_k": 5600, "ripple_depth": 0.35, "references": []})
    wall = [
        card(-5, 5, 0, 2.6, "#585a5c", "#3a3c3e", name="Wall", behind=1.5) | {"thickness_m": 1.0},
        {
            "name": "Breach",
            "behind_m": 0.4,
            "points": polygon((-1.4, 0), (-1.0, 2.9), (-0.2, 3.6), (0.5, 3.3), (1.3, 2.2), (1.6, 0)),
            "colour": "#c9d3d8",
            "colour_low": "#8b9aa3",
        },
    ]
    dust = [
        {
            "name": "Dust",
            "points": polygon((-2.2, 1.2), (-1.2, 3.8), (0.4, 4.3), (2.0, 3.2), (2.4, 1.4)),
            "colour": "#3a3834",
            "colour_low": "#201f1d",
        }
    ]
    sea = [
        {"name": "Sea", "lies": True, "points": polygon((-12, 0), (12, 0), (3000, 3000), (-3000, 3000)), "colour": "#4a5863", "colour_low": "#2a343c"}
    ]
    _shot(
        production, None, "TM060", "The sea wall", "The sea wall gives way.", 96,
        {"Sea, from the wall": hero, "Water tank 1:6": tank},
        [
            ("Dust and debris", None, dust, {"kind": "black_element", "combine": "screen", "near_m": 19, "width_m": 4.6, "height_m": 4.4, "picture_width_px": 480, "behind_weather": True}),
            ("Wall and water 1:6", "Water tank 1:6", wall, {"kind": "model", "combine": "hand_matte", "near_m": 20, "depth_m": 3, "width_m": 10, "height_m": 3.6, "scale": 6, "driver": "gravity", "speed_m_s": 6, "contact": "wet_ground", "kept": ["contact_shadow"]}),
            ("Sea", "Sea, from the wall", sea, {"kind": "live", "combine": "base", "is_hero": True, "near_m": 12, "depth_m": 2000, "width_m": 20, "height_m": 4, "fills_frame": True}),
            ("Storm sky", None, [card(-2200, 2200, -30, 1500, "#2f3640", "#69707a", name="Sky")], {"kind": "stock", "combine": "behind", "near_m": 3200, "width_m": 4400, "height_m": 1530, "picture_width_px": 3840}),
        ],
        cautions=["water_edge", "mains_water", "dust"],
    )  # fmt: skip


def _lamp_bursts(production: Production, place: Place) -> None:
    """The flash burns out, the stock sparks are too small for the frame."""
    light = {"light_k": 3200, "white_balance_k": 3200, "key_azimuth_deg": 20, "key_elevation_deg": 50, "references": FILMED}
    hero = _SetUp(25, 4, 3.5, 2.5, 1.5, light)
    sparks = [
        {"name": f"Spark {n}", "points": polygon((x, y), (x + 0.05, y + 0.16), (x + 0.1, y)), "colour": "#ffd890"}
        for n, (x, y) in enumerate(((-0.5, 1.6), (-0.2, 2.1), (0.1, 1.7), (0.35, 2.2), (0.5, 1.5), (-0.35, 1.2), (0.2, 1.1)))
    ]
    lamp = {"name": "Lamp", "behind_m": 1.0, "points": polygon((-0.12, 1.7), (-0.2, 2.0), (0.2, 2.0), (0.12, 1.7)), "colour": "#f2d9a0"}
    _shot(
        production, place, "TM070", "The lamp bursts", "A lamp bursts; the room flashes.", 60,
        {"Room with the lamp": hero},
        [
            ("Sparks on black", None, sparks, {"kind": "black_element", "combine": "add", "near_m": 3.4, "width_m": 1.2, "height_m": 1.4, "picture_width_px": 400, "seen_s": 0.4, "note": "From stock: no spark is made on set."}),
            ("Flash on the room", "Room with the lamp", room(6, 3.8, 3, "#6b6150", "#4a4238"), {"kind": "light_pass", "combine": "add", "near_m": 3.0, "depth_m": 3, "width_m": 6, "height_m": 3, "fills_frame": True, "seen_s": 0.2, "note": "The dimmable colour lamp, flashed in its time."}),
            ("Room", "Room with the lamp", [*room(6, 3.8, 3.5), lamp], {"kind": "live", "combine": "base", "is_hero": True, "near_m": 2.5, "depth_m": 3.5, "width_m": 6, "height_m": 3, "fills_frame": True, "brightest_stops": 7.5}),
        ],
        carries=[], cautions=["mains_water", "hot_lamps", "strobe"],
    )  # fmt: skip


def _dawn(production: Production) -> None:
    """The painted reeds are turned too far from the lens, and were photographed too small."""
    telephone = _SetUp(
        6.9,
        1.8,
        3,
        2,
        1.2,
        {
            "iso": 50.0,
            "illuminance_lx": 400.0,
            "light_k": 5600,
            "white_balance_k": 5600,
            "key_azimuth_deg": 160,
            "key_elevation_deg": 5,
            "references": FILMED,
        },
        camera="Telephone",
    )
    pond = [{"name": "Pond", "lies": True, "points": polygon((-14, 0), (14, 0), (70, 80), (-70, 80)), "colour": "#8a8f8c", "colour_low": "#5c635f"}]
    mill = [{"name": "Mill", "points": house(-4, 4, 6, 9), "colour": "#4a4540", "colour_low": "#3a3632"}]
    reeds = [
        {"name": f"Reed {n}", "points": polygon((x, 0), (x + 0.02, 1.1 + 0.1 * (n % 3)), (x + 0.05, 0)), "colour": "#5a5232", "colour_low": "#3c3822"}
        for n, x in enumerate([k * 0.16 - 1.4 for k in range(18)])
    ]
    _shot(
        production, None, "TM080", "Dawn round the pond", "Dawn round the mill pond.", 144,
        {"Telephone on the barrow": telephone},
        [
            ("Reeds, cut out", None, reeds, {"kind": "painted", "combine": "over", "near_m": 2.2, "width_m": 3, "height_m": 1.4, "turned_deg": 35, "picture_width_px": 900}),
            ("Pond", "Telephone on the barrow", pond, {"kind": "live", "combine": "base", "is_hero": True, "near_m": 2, "depth_m": 80, "width_m": 8, "height_m": 3, "fills_frame": True, "note": "144 photographs along the arc, the mill's chimney held on the guide mark."}),
            ("Mill", None, mill, {"kind": "painted", "combine": "behind", "near_m": 70, "width_m": 10, "height_m": 9, "picture_width_px": 1200}),
        ],
        move_kind="slide", move_amount=6, move_start_frame=0, move_end_frame=143, move_ease_in_frames=24, move_ease_out_frames=24, margin_pct=10, screen_direction="right",
    )  # fmt: skip


def _causeway(production: Production) -> None:
    """The rows were filmed from standing height and run out of the sheet."""
    evening = {"light_k": 5600, "white_balance_k": 5600, "key_azimuth_deg": 60, "key_elevation_deg": 25, "references": FILMED}
    hero = _SetUp(50, 8, 14, 7, 0.6, {**evening, "iso": 400.0})
    rows = _SetUp(50, 8, 8, 8, 1.6, {**evening, "iso": 400.0, "references": []}, lamps=(_panel("soft panel 1", "backing", -1.6, 2.2, 0.6, (-0.8, 1.2, 2.0)), _panel("soft panel 2", "backing", 1.6, 2.2, 0.6, (0.8, 1.2, 2.0))), backing={"name": "Blue sheet", "colour": BLUE, "width_m": 3, "height_m": 2.5, "behind_m": 2.5})  # fmt: skip

    def row(count: int, apart: float) -> list[Row]:
        return [
            part
            for n in range(count)
            for part in person((n - (count - 1) / 2) * apart, 1.7 - 0.06 * (n % 2), ("#4a4f66", "#6a5140", "#555a50")[n % 3])
        ]

    element = {
        "kind": "live_element",
        "combine": "key",
        "key_colour": "blue",
        "depth_m": 0.4,
        "height_m": 1.7,
        "contact": "ground",
        "kept": ["contact_shadow"],
        "keep_colours": ["#6a5140", "#c49a7c"],
    }
    causeway = [
        {"name": "Causeway", "lies": True, "points": polygon((-1.6, 0), (1.6, 0), (4, 300), (-4, 300)), "colour": "#77726a", "colour_low": "#5d5850"}
    ]
    _shot(
        production, None, "TM090", "Forty on the causeway", "Forty people on the causeway, from nine.", 120,
        {"Causeway, low": hero, "Rows on blue": rows},
        [
            ("First row", "Rows on blue", row(3, 0.85), {**element, "near_m": 8, "width_m": 2.3, "moves_from_m": -1.35, "moves_to_m": 1.35}),
            ("Second row", "Rows on blue", row(3, 0.8), {**element, "near_m": 9.5, "width_m": 2.2}),
            ("Causeway", "Causeway, low", causeway, {"kind": "live", "combine": "base", "is_hero": True, "near_m": 7, "depth_m": 300, "width_m": 10, "height_m": 3, "fills_frame": True}),
            ("Sky over the sands", None, [card(-500, 500, -10, 400, "#7f8ea0", "#c9c2b4", name="Sky")], {"kind": "stock", "combine": "behind", "near_m": 900, "width_m": 1000, "height_m": 410, "picture_width_px": 3840}),
        ],
        cautions=["water_edge"], screen_direction="left",
    )  # fmt: skip


def _mist(production: Production) -> None:
    """The clean plate's focus was let go, and nothing stands for the mist before the far post."""
    morning = {"light_k": 6500, "white_balance_k": 5600, "key_azimuth_deg": 150, "key_elevation_deg": 10, "references": FILMED}
    flat = [{"name": "Sand", "lies": True, "points": polygon((-4, 0), (4, 0), (60, 120), (-60, 120)), "colour": "#8d8c88", "colour_low": "#77766f"}]
    _shot(
        production, None, "TM100", "Into the mist", "Wren walks into the mist and is gone.", 180,
        {"Sands": _SetUp(35, 5.6, 9, 5, 1.5, morning), "Sands, empty": _SetUp(35, 5.6, 40, 9.1, 1.5, morning)},
        [
            ("Wren", "Sands", person(0, 1.7, "#4a4f66"), {"kind": "live_element", "combine": "difference", "near_m": 9, "width_m": 0.6, "height_m": 1.7, "contact": "ground", "kept": ["contact_shadow"], "travel_away_m": 14, "paint_out": "Wren, dissolved from frame 120"}),
            ("Empty sands", "Sands, empty", [], {"kind": "clean_plate", "combine": "behind", "near_m": 9.1, "width_m": 8, "height_m": 4, "fills_frame": True}),
            ("Sands", "Sands", flat, {"kind": "live", "combine": "base", "is_hero": True, "near_m": 5, "depth_m": 120, "width_m": 8, "height_m": 3, "fills_frame": True}),
            ("Far mill", None, [{"name": "Mill", "points": house(-3, 3, 6, 9), "colour": "#3a3632", "colour_low": "#33302c"}], {"kind": "painted", "combine": "behind", "near_m": 90, "width_m": 8, "height_m": 9, "picture_width_px": 600}),
        ],
        visibility_m=160, cautions=["water_edge"],
    )  # fmt: skip


def _airship(production: Production, place: Place) -> None:
    """An aerial and a van stand in the plate with nothing behind them, and the sheds rise over their matte line."""
    sun = datetime.fromisoformat("2027-10-24T15:00:00+01:00")
    plate = _SetUp(
        35,
        8,
        12,
        7,
        1.6,
        {"light_k": 5600, "white_balance_k": 5600, "sun_at": sun, "heading_deg": 280.0, "iso": 200.0, "references": ["chart", "tape"]},
    )
    ship = [
        {
            "name": "Hull",
            "points": polygon((-9, 8.6), (-7.5, 9.8), (-3, 10.6), (3, 10.6), (7.5, 9.8), (9, 8.6), (7.5, 7.6), (3, 6.9), (-3, 6.9), (-7.5, 7.6)),
            "colour": "#a38d6e",
            "colour_low": "#6b5a45",
        },
        card(-1.6, 1.6, 6.1, 7.0, "#4a3f33", name="Car"),
    ]
    sheds = [
        {"name": "Near shed", "points": house(-7, -1, 3.2, 5.4), "colour": "#4c4a48", "colour_low": "#3b3937"},
        {"name": "Far shed", "behind_m": 4, "points": house(0, 7, 3.4, 6.0), "colour": "#525050", "colour_low": "#403e3d"},
    ]
    ground = [{"name": "Yard", "lies": True, "points": polygon((-6, 0), (6, 0), (40, 80), (-40, 80)), "colour": "#6a665e", "colour_low": "#5a564e"}]
    _shot(
        production, place, "TM110", "The airship", "An airship slides behind the drying sheds.", 108,
        {"Sheds from the yard": plate},
        [
            ("Drying sheds", "Sheds from the yard", sheds, {"kind": "live", "combine": "hand_matte", "near_m": 22, "depth_m": 4, "width_m": 14, "height_m": 6, "matte_line_px": 250}),
            ("Yard", "Sheds from the yard", ground, {"kind": "live", "combine": "base", "is_hero": True, "near_m": 7, "depth_m": 70, "width_m": 12, "height_m": 6, "fills_frame": True, "paint_out": "an aerial and a parked van"}),
            ("Airship", None, ship, {"kind": "painted", "combine": "behind", "near_m": 60, "width_m": 18, "height_m": 11, "picture_width_px": 480, "travel_across_m": 16, "offset_m": -14, "driver": "set_speed", "speed_m_s": 3.6}),
            ("Afternoon sky", None, [card(-500, 500, -10, 400, "#6f86a6", "#c3c7c6", name="Sky")], {"kind": "stock", "combine": "behind", "near_m": 900, "width_m": 1000, "height_m": 410, "picture_width_px": 3840}),
        ],
        screen_direction="right", cautions=["heights"],
    )  # fmt: skip


def _grain_loft(production: Production, place: Place) -> None:
    """The flopped half carries lettering and the wrong light, and the pan is too quick."""
    light = {"light_k": 3200, "white_balance_k": 3200, "key_azimuth_deg": 45, "key_elevation_deg": 35, "references": FILMED}
    hero = _SetUp(25, 5.6, 4, 3, 1.5, light)
    half = _SetUp(25, 5.6, 4, 4, 1.5, {**light, "light_k": 3000})
    hoppers = [
        {
            "name": f"Hopper {n}",
            "behind_m": 0.4 * n,
            "points": polygon((x, 0.8), (x - 0.3, 2.2), (x + 0.9, 2.2), (x + 0.6, 0.8)),
            "colour": "#6b5a40",
            "colour_low": "#4a3f2d",
            "thickness_m": 0.5,
        }
        for n, x in enumerate((0.6, 1.9))
    ]
    loft = [*room(8, 3.4, 4, "#5a5144", "#3d3528"), *hoppers]
    _shot(
        production, place, "TM120", "The grain loft", "The grain loft, twice the size it was built.", 156,
        {"Loft, right half": hero, "Loft, for the flop": half},
        [
            ("Left half, flopped", "Loft, for the flop", hoppers, {"kind": "split", "combine": "split", "near_m": 4, "depth_m": 1, "width_m": 3.0, "height_m": 2.4, "offset_m": -1.7, "mirrored": True, "lettering": True, "split_side": "left", "moves_from_m": -3.2, "moves_to_m": -0.2}),
            ("Clean loft", "Loft, right half", [], {"kind": "clean_plate", "combine": "behind", "near_m": 4.1, "width_m": 8, "height_m": 3.4, "fills_frame": True}),
            ("Loft", "Loft, right half", loft, {"kind": "live", "combine": "base", "is_hero": True, "near_m": 3, "depth_m": 4, "width_m": 8, "height_m": 3.4, "fills_frame": True}),
            ("Painted rafters", None, [card(-6, 6, 3.2, 6, "#3a3229", "#4a4134", name="Rafters")], {"kind": "painted", "combine": "over", "near_m": 7.2, "width_m": 12, "height_m": 2.8, "base_m": 0, "picture_width_px": 1600}),
        ],
        split_px=960, split_feather_px=60, move_kind="pan", move_amount=20, move_start_frame=24, move_end_frame=72, move_ease_in_frames=8, move_ease_out_frames=8, carries=["tide mark on the wall"],
    )  # fmt: skip
