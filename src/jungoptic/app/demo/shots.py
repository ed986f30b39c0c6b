"""TM020 to TM120 of the invented production, each as it was first thought of: every one has the trouble that
its line implies.
"""

from __future__ import annotations

from datetime import datetime

from jungoptic.app.demo.plans import FILMED, GREEN, Planned, enter, panel, spot
from jungoptic.app.demo.shapes import card, person, polygon, spokes, wheel
from jungoptic.app.demo.shots_air import airship, mist
from jungoptic.app.demo.shots_inside import _bell_rope, _cup, _grain_loft, _lamp_bursts
from jungoptic.app.demo.shots_outside import causeway, dawn, sea_wall
from jungoptic.app.productions.models import Place, Production


def make_shots(production: Production) -> None:
    """Enter the eleven shots after the first."""
    interior = Place.objects.create(
        production=production, name="Inside the mill", recurring=["tide mark on the wall"]
    )
    quay = Place.objects.create(production=production, name="The quay", recurring=["leaning mooring post"])
    _great_wheel(production, interior)
    _cup(production, interior)
    _bell_rope(production, interior)
    _first_steps(production, quay)
    sea_wall(production)
    _lamp_bursts(production, interior)
    dawn(production)
    causeway(production)
    mist(production)
    airship(production, quay)
    _grain_loft(production, interior)


def _great_wheel(production: Production, place: Place) -> None:
    """The coat is near the sheet's green, she crosses out of it, the panels stand too near it, the wheel is
    out of focus.
    """
    key = (0.0, 1.2, 0.0)
    actor = Planned(
        35,
        4,
        5,
        5,
        1.4,
        {
            "light_k": 3200,
            "white_balance_k": 3200,
            "key_to_fill_stops": 2.0,
            "ripple_depth": 0.05,
            "references": ["chart"],
        },
        lamps=(
            spot(2.2, 3.0, -2.6, key),
            panel("soft panel 1", "backing", -1.3, 2.6, 0.4, (-0.6, 1.2, 1.2), kelvin=3200),
            panel("soft panel 2", "fill", -1.6, 1.6, -2.5, key, 0.9, 3200),
        ),
        backing={
            "name": "Green sheet",
            "colour": GREEN,
            "width_m": 3,
            "height_m": 2.5,
            "behind_m": 1.2,
            "bottom_m": 0.0,
        },
    )
    model = Planned(
        35,
        4,
        0.9,
        0.9,
        0.35,
        {
            "light_k": 3200,
            "white_balance_k": 3200,
            "key_azimuth_deg": 40,
            "key_elevation_deg": 25,
            "key_size_deg": 10,
            "key_to_fill_stops": 2.0,
            "model_speed_m_s": 0.5,
            "references": FILMED,
        },
    )
    openings = [{**one, "colour": "#171a1e", "colour_low": "#14171a"} for one in spokes(0, 2.2, 2.1, 8)]
    turning = [
        {
            "name": "Wheel",
            "behind_m": 1.4,
            "points": wheel(0, 2.2, 2.1, 20),
            "colour": "#4a3b2c",
            "colour_low": "#2b231b",
            "thickness_m": 0.4,
        },
        *openings,
    ]
    enter(
        production,
        place,
        "TM020",
        "Under the great wheel",
        "Orla crosses under the great wheel and its shadow sweeps over her.",
        132,
        {"Orla on green": actor, "Wheel on the table": model},
        [
            (
                "Shadow on Orla",
                "Orla on green",
                person(0, coat="#a0a0a0"),
                {
                    "kind": "shadow_pass",
                    "combine": "multiply",
                    "near_m": 4.99,
                    "width_m": 0.6,
                    "height_m": 1.7,
                    "note": "The same frame, dark, used only where the wheel's shadow falls.",
                },
            ),
            (
                "Orla",
                "Orla on green",
                person(0, coat="#56703f"),
                {
                    "kind": "live_element",
                    "combine": "key",
                    "key_colour": "green",
                    "is_hero": True,
                    "near_m": 5,
                    "width_m": 0.6,
                    "height_m": 1.7,
                    "contact": "ground",
                    "kept": ["contact_shadow"],
                    "moves_from_m": -1.5,
                    "moves_to_m": 1.5,
                    "keep_colours": ["#3f8a48", "#c49a7c"],
                    "driver": "still",
                    "speed_m_s": 0,
                    "note": "Green coat. Crosses from left to right.",
                },
            ),
            (
                "Haze",
                None,
                [],
                {
                    "kind": "haze",
                    "combine": "screen",
                    "near_m": 6,
                    "width_m": 12,
                    "height_m": 6,
                    "fills_frame": True,
                },
            ),
            (
                "Wheel 1:8",
                "Wheel on the table",
                turning,
                {
                    "kind": "model",
                    "combine": "hand_matte",
                    "near_m": 7.2,
                    "depth_m": 2.2,
                    "width_m": 4.4,
                    "height_m": 4.4,
                    "scale": 8,
                    "driver": "set_speed",
                    "speed_m_s": 1.2,
                    "contact": "nothing",
                },
            ),
            (
                "Inside of the mill",
                None,
                [card(-12, 12, -1, 9, "#2b2a2c", "#1b1917")],
                {
                    "kind": "painted",
                    "combine": "behind",
                    "near_m": 12,
                    "width_m": 24,
                    "height_m": 10,
                    "picture_width_px": 4800,
                },
            ),
        ],
        screen_direction="right",
        visibility_m=80,
        carries=["tide mark on the wall"],
        cautions=["hot_lamps", "overhead_load"],
    )


def _first_steps(production: Production, place: Place) -> None:
    """The puppet is lit from the wrong side and out of focus, and its feet touch nothing."""
    sun = datetime.fromisoformat("2027-10-23T15:30:00+01:00")
    plate = Planned(
        35,
        8,
        5,
        3.5,
        0.9,
        {
            "light_k": 5600,
            "white_balance_k": 5600,
            "sun_at": sun,
            "heading_deg": 300.0,
            "key_to_fill_stops": 2.5,
            "references": FILMED,
            "iso": 200.0,
            "nd_stops": 3.0,
        },
    )
    puppet = Planned(
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
        lamps=(panel("soft panel 1", "key", -0.8, 0.6, -0.94, (-0.1, 0.15, 0.06), 0.67),),
    )
    heron = [
        {
            "name": "Body",
            "points": polygon(
                (-0.35, 0.62), (-0.2, 0.78), (0.12, 0.85), (0.3, 0.74), (0.12, 0.56), (-0.2, 0.54)
            ),
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
            "points": polygon(
                (-0.02, 0), (-0.05, 0.58), (0.0, 0.58), (0.02, 0.3), (0.1, 0.58), (0.14, 0.58), (0.06, 0)
            ),
            "colour": "#a8763c",
        },
    ]
    stones = [
        {
            "name": "Quay",
            "lies": True,
            "points": polygon((-4, 0), (4, 0), (9, 30), (-9, 30)),
            "colour": "#5a5c5e",
            "colour_low": "#46484b",
        },
        card(2.2, 2.5, 0, 1.1, "#4a3626", name="leaning mooring post", behind=4),
    ]
    enter(
        production,
        place,
        "TM050",
        "First steps",
        "The Heron takes its first steps on the quay.",
        168,
        {"Quay, low": plate, "Puppet on the track": puppet},
        [
            (
                "Heron 1:4",
                "Puppet on the track",
                heron,
                {
                    "kind": "frame_by_frame",
                    "combine": "key",
                    "key_colour": "blue",
                    "near_m": 5,
                    "depth_m": 0.5,
                    "width_m": 0.8,
                    "height_m": 1.2,
                    "scale": 4,
                    "contact": "wet_ground",
                    "travel_across_m": 0.9,
                    "offset_m": -0.4,
                    "note": "On twos; three steps of the geared track, 0.4 mm a turn.",
                },
            ),
            (
                "Quay and water",
                "Quay, low",
                stones,
                {
                    "kind": "live",
                    "combine": "base",
                    "is_hero": True,
                    "near_m": 3.5,
                    "depth_m": 60,
                    "width_m": 9,
                    "height_m": 2,
                    "fills_frame": True,
                },
            ),
            (
                "Evening sky",
                None,
                [card(-900, 900, -20, 700, "#44506a", "#d8a070", name="Sky")],
                {
                    "kind": "stock",
                    "combine": "behind",
                    "near_m": 1500,
                    "width_m": 1800,
                    "height_m": 720,
                    "picture_width_px": 3840,
                },
            ),
        ],
        cautions=["water_edge"],
    )
