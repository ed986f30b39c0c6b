"""The shots of the invented production that are set outside the mill."""

from __future__ import annotations

from jungoptic.app.demo.plans import BLUE, FILMED, Planned, Row, enter, panel
from jungoptic.app.demo.shapes import card, house, person, polygon
from jungoptic.app.productions.models import Production


def sea_wall(production: Production) -> None:
    """The water runs at 24 frames a second, so it looks small; the debris is enlarged."""
    dusk = {
        "light_k": 5600,
        "white_balance_k": 5600,
        "key_azimuth_deg": 130,
        "key_elevation_deg": 12,
        "key_to_fill_stops": 1.5,
    }
    hero = Planned(35, 5.6, 20, 12, 2.0 - 0.4, {**dusk, "references": FILMED})
    tank = Planned(35, 5.6, 3.3, 3.33, 0.5, {**dusk, "light_k": 5600, "ripple_depth": 0.35, "references": []})
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
        {
            "name": "Sea",
            "lies": True,
            "points": polygon((-12, 0), (12, 0), (3000, 3000), (-3000, 3000)),
            "colour": "#4a5863",
            "colour_low": "#2a343c",
        }
    ]
    enter(
        production,
        None,
        "TM060",
        "The sea wall",
        "The sea wall gives way.",
        96,
        {"Sea, from the wall": hero, "Water tank 1:6": tank},
        [
            (
                "Dust and debris",
                None,
                dust,
                {
                    "kind": "black_element",
                    "combine": "screen",
                    "near_m": 19,
                    "width_m": 4.6,
                    "height_m": 4.4,
                    "picture_width_px": 480,
                    "behind_weather": True,
                },
            ),
            (
                "Wall and water 1:6",
                "Water tank 1:6",
                wall,
                {
                    "kind": "model",
                    "combine": "hand_matte",
                    "near_m": 20,
                    "depth_m": 3,
                    "width_m": 10,
                    "height_m": 3.6,
                    "scale": 6,
                    "driver": "gravity",
                    "speed_m_s": 6,
                    "contact": "wet_ground",
                    "kept": ["contact_shadow"],
                },
            ),
            (
                "Sea",
                "Sea, from the wall",
                sea,
                {
                    "kind": "live",
                    "combine": "base",
                    "is_hero": True,
                    "near_m": 12,
                    "depth_m": 2000,
                    "width_m": 20,
                    "height_m": 4,
                    "fills_frame": True,
                },
            ),
            (
                "Storm sky",
                None,
                [card(-2200, 2200, -30, 1500, "#2f3640", "#69707a", name="Sky")],
                {
                    "kind": "stock",
                    "combine": "behind",
                    "near_m": 3200,
                    "width_m": 4400,
                    "height_m": 1530,
                    "picture_width_px": 3840,
                },
            ),
        ],
        cautions=["water_edge", "mains_water", "dust"],
    )


def dawn(production: Production) -> None:
    """The painted reeds are turned too far from the lens, and were photographed too small."""
    telephone = Planned(
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
    pond = [
        {
            "name": "Pond",
            "lies": True,
            "points": polygon((-14, 0), (14, 0), (70, 80), (-70, 80)),
            "colour": "#8a8f8c",
            "colour_low": "#5c635f",
        }
    ]
    mill = [{"name": "Mill", "points": house(-4, 4, 6, 9), "colour": "#4a4540", "colour_low": "#3a3632"}]
    reeds = [
        {
            "name": f"Reed {n}",
            "points": polygon((x, 0), (x + 0.02, 1.1 + 0.1 * (n % 3)), (x + 0.05, 0)),
            "colour": "#5a5232",
            "colour_low": "#3c3822",
        }
        for n, x in enumerate([k * 0.16 - 1.4 for k in range(18)])
    ]
    enter(
        production,
        None,
        "TM080",
        "Dawn round the pond",
        "Dawn round the mill pond.",
        144,
        {"Telephone on the barrow": telephone},
        [
            (
                "Reeds, cut out",
                None,
                reeds,
                {
                    "kind": "painted",
                    "combine": "over",
                    "near_m": 2.2,
                    "width_m": 3,
                    "height_m": 1.4,
                    "turned_deg": 35,
                    "picture_width_px": 900,
                },
            ),
            (
                "Pond",
                "Telephone on the barrow",
                pond,
                {
                    "kind": "live",
                    "combine": "base",
                    "is_hero": True,
                    "near_m": 2,
                    "depth_m": 80,
                    "width_m": 8,
                    "height_m": 3,
                    "fills_frame": True,
                    "note": "144 photographs along the arc, the mill's chimney held on the guide mark.",
                },
            ),
            (
                "Mill",
                None,
                mill,
                {
                    "kind": "painted",
                    "combine": "behind",
                    "near_m": 70,
                    "width_m": 10,
                    "height_m": 9,
                    "picture_width_px": 1200,
                },
            ),
        ],
        move_kind="arc",
        move_amount=5,
        move_round_m=70,
        move_start_frame=0,
        move_end_frame=143,
        move_ease_in_frames=24,
        move_ease_out_frames=24,
        margin_pct=10,
        screen_direction="right",
    )


def causeway(production: Production) -> None:
    """The rows were filmed from standing height and run out of the sheet."""
    evening = {
        "light_k": 5600,
        "white_balance_k": 5600,
        "key_azimuth_deg": 60,
        "key_elevation_deg": 25,
        "references": FILMED,
    }
    hero = Planned(50, 8, 14, 7, 0.6, {**evening, "iso": 400.0})
    rows = Planned(
        50,
        8,
        8,
        8,
        1.6,
        {**evening, "iso": 400.0, "references": []},
        lamps=(
            panel("soft panel 1", "backing", -1.6, 2.2, 0.6, (-0.8, 1.2, 2.0)),
            panel("soft panel 2", "backing", 1.6, 2.2, 0.6, (0.8, 1.2, 2.0)),
        ),
        backing={"name": "Blue sheet", "colour": BLUE, "width_m": 3, "height_m": 2.5, "behind_m": 2.5},
    )

    def row(count: int, apart: float) -> list[Row]:
        return [
            part
            for n in range(count)
            for part in person(
                (n - (count - 1) / 2) * apart, 1.7 - 0.06 * (n % 2), ("#4a4f66", "#6a5140", "#555a50")[n % 3]
            )
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
        {
            "name": "Causeway",
            "lies": True,
            "points": polygon((-1.6, 0), (1.6, 0), (4, 300), (-4, 300)),
            "colour": "#77726a",
            "colour_low": "#5d5850",
        }
    ]
    enter(
        production,
        None,
        "TM090",
        "Forty on the causeway",
        "Forty people on the causeway, from nine.",
        120,
        {"Causeway, low": hero, "Rows on blue": rows},
        [
            (
                "First row",
                "Rows on blue",
                row(3, 0.85),
                {**element, "near_m": 8, "width_m": 2.3, "moves_from_m": -1.35, "moves_to_m": 1.35},
            ),
            ("Second row", "Rows on blue", row(3, 0.8), {**element, "near_m": 9.5, "width_m": 2.2}),
            (
                "Causeway",
                "Causeway, low",
                causeway,
                {
                    "kind": "live",
                    "combine": "base",
                    "is_hero": True,
                    "near_m": 7,
                    "depth_m": 300,
                    "width_m": 10,
                    "height_m": 3,
                    "fills_frame": True,
                },
            ),
            (
                "Sky over the sands",
                None,
                [card(-500, 500, -10, 400, "#7f8ea0", "#c9c2b4", name="Sky")],
                {
                    "kind": "stock",
                    "combine": "behind",
                    "near_m": 900,
                    "width_m": 1000,
                    "height_m": 410,
                    "picture_width_px": 3840,
                },
            ),
        ],
        cautions=["water_edge"],
        screen_direction="left",
    )
