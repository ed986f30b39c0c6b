"""Shots of the invented production in mist and air."""

from __future__ import annotations

from datetime import datetime

from jungoptic.app.demo.plans import FILMED, Planned, enter
from jungoptic.app.demo.shapes import card, house, person, polygon
from jungoptic.app.productions.models import Place, Production


def mist(production: Production) -> None:
    """The clean plate's focus was let go, and nothing stands for the mist before the far post."""
    morning = {
        "light_k": 6500,
        "white_balance_k": 5600,
        "key_azimuth_deg": 150,
        "key_elevation_deg": 10,
        "references": FILMED,
    }
    flat = [
        {
            "name": "Sand",
            "lies": True,
            "points": polygon((-4, 0), (4, 0), (60, 120), (-60, 120)),
            "colour": "#8d8c88",
            "colour_low": "#77766f",
        }
    ]
    enter(
        production,
        None,
        "TM100",
        "Into the mist",
        "Wren walks into the mist and is gone.",
        180,
        {
            "Sands": Planned(35, 5.6, 9, 5, 1.5, morning),
            "Sands, empty": Planned(35, 5.6, 40, 9.1, 1.5, morning),
        },
        [
            (
                "Wren",
                "Sands",
                person(0, 1.7, "#4a4f66"),
                {
                    "kind": "live_element",
                    "combine": "difference",
                    "near_m": 9,
                    "width_m": 0.6,
                    "height_m": 1.7,
                    "contact": "ground",
                    "kept": ["contact_shadow"],
                    "travel_away_m": 14,
                    "paint_out": "Wren, dissolved from frame 120",
                },
            ),
            (
                "Empty sands",
                "Sands, empty",
                [],
                {
                    "kind": "clean_plate",
                    "pass_of": "Wren",
                    "combine": "behind",
                    "near_m": 9.1,
                    "width_m": 8,
                    "height_m": 4,
                    "fills_frame": True,
                },
            ),
            (
                "Sands",
                "Sands",
                flat,
                {
                    "kind": "live",
                    "combine": "base",
                    "is_hero": True,
                    "near_m": 5,
                    "depth_m": 120,
                    "width_m": 8,
                    "height_m": 3,
                    "fills_frame": True,
                },
            ),
            (
                "Far mill",
                None,
                [
                    {
                        "name": "Mill",
                        "points": house(-3, 3, 6, 9),
                        "colour": "#3a3632",
                        "colour_low": "#33302c",
                    }
                ],
                {
                    "kind": "painted",
                    "combine": "behind",
                    "near_m": 90,
                    "width_m": 8,
                    "height_m": 9,
                    "picture_width_px": 600,
                },
            ),
        ],
        visibility_m=160,
        cautions=["water_edge"],
    )


def airship(production: Production, place: Place) -> None:
    """A van and a lamp post stand in the plate with nothing behind them, and the sheds rise over their matte
    line.
    """
    sun = datetime.fromisoformat("2027-10-24T15:00:00+01:00")
    plate = Planned(
        35,
        8,
        12,
        7,
        1.6,
        {
            "light_k": 5600,
            "white_balance_k": 5600,
            "sun_at": sun,
            "heading_deg": 280.0,
            "iso": 200.0,
            "nd_stops": 3.0,
            "references": ["chart", "tape"],
        },
    )
    ship = [
        {
            "name": "Hull",
            "points": polygon(
                (-9, 8.6),
                (-7.5, 9.8),
                (-3, 10.6),
                (3, 10.6),
                (7.5, 9.8),
                (9, 8.6),
                (7.5, 7.6),
                (3, 6.9),
                (-3, 6.9),
                (-7.5, 7.6),
            ),
            "colour": "#a38d6e",
            "colour_low": "#6b5a45",
        },
        card(-1.6, 1.6, 6.1, 7.0, "#4a3f33", name="Car"),
    ]
    sheds = [
        {
            "name": "Near shed",
            "points": house(-7, -1, 3.2, 5.4),
            "colour": "#4c4a48",
            "colour_low": "#3b3937",
        },
        {
            "name": "Far shed",
            "behind_m": 4,
            "points": house(0, 7, 3.4, 6.0),
            "colour": "#525050",
            "colour_low": "#403e3d",
        },
    ]
    ground = [
        {
            "name": "Yard",
            "lies": True,
            "points": polygon((-6, 0), (6, 0), (40, 80), (-40, 80)),
            "colour": "#6a665e",
            "colour_low": "#5a564e",
        }
    ]
    enter(
        production,
        place,
        "TM110",
        "The airship",
        "An airship slides behind the drying sheds.",
        108,
        {"Sheds from the yard": plate},
        [
            (
                "Drying sheds",
                "Sheds from the yard",
                sheds,
                {
                    "kind": "live",
                    "combine": "hand_matte",
                    "near_m": 22,
                    "depth_m": 4,
                    "width_m": 14,
                    "height_m": 6,
                    "matte_line_px": 250,
                },
            ),
            (
                "Yard",
                "Sheds from the yard",
                ground,
                {
                    "kind": "live",
                    "combine": "base",
                    "is_hero": True,
                    "near_m": 7,
                    "depth_m": 70,
                    "width_m": 12,
                    "height_m": 6,
                    "fills_frame": True,
                    "paint_out": "a parked van and a lamp post",
                },
            ),
            (
                "Airship",
                None,
                ship,
                {
                    "kind": "painted",
                    "combine": "behind",
                    "near_m": 60,
                    "width_m": 18,
                    "height_m": 11,
                    "picture_width_px": 480,
                    "travel_across_m": 16,
                    "offset_m": -14,
                    "driver": "set_speed",
                    "speed_m_s": 3.6,
                },
            ),
            (
                "Afternoon sky",
                None,
                [card(-500, 500, -10, 400, "#6f86a6", "#c3c7c6", name="Sky")],
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
        screen_direction="right",
        cautions=["heights"],
    )
