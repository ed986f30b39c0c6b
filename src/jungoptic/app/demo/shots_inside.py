"""Shots of the invented production inside the mill: the cup, the bell rope, the lamp, the grain loft."""

from __future__ import annotations

from jungoptic.app.demo.plans import FILMED, ONLY_FOR, Planned, enter
from jungoptic.app.demo.shapes import card, person, polygon, room
from jungoptic.app.productions.models import Place, Production


def _cup(production: Production, place: Place) -> None:
    """Locked off in two halves: no clean plate, and an arm over the line."""
    table = Planned(
        35,
        5.6,
        3,
        2.6,
        1.2,
        {
            "light_k": 3200,
            "white_balance_k": 3200,
            "key_azimuth_deg": 50,
            "key_elevation_deg": 30,
            "ripple_depth": 0.1,
            "references": FILMED,
        },
    )
    board = card(-1.6, 1.6, 0.0, 0.75, "#4a3a2a", "#33281d", name="Table")
    cloth = {"kind": "split", "combine": "split", "near_m": 2.8, "depth_m": 0.6, "height_m": 1.7}
    enter(
        production,
        place,
        "TM030",
        "The cup",
        "Both sisters at the table; one passes a cup across the line.",
        216,
        {"Table, locked off": table},
        [
            (
                "Orla, left half",
                "Table, locked off",
                person(-0.55, 1.6, "#56703f"),
                {
                    **cloth,
                    "width_m": 0.7,
                    "offset_m": 0,
                    "moves_from_m": -1.3,
                    "moves_to_m": -0.2,
                    "split_side": "left",
                },
            ),
            (
                "Wren, right half",
                "Table, locked off",
                person(0.55, 1.6, "#4a4f66"),
                {
                    **cloth,
                    "near_m": 2.81,
                    "width_m": 0.7,
                    "offset_m": 0,
                    "moves_from_m": -0.16,
                    "moves_to_m": 1.3,
                    "split_side": "right",
                },
            ),
            (
                "Table and room",
                "Table, locked off",
                [*room(6, 3, 3), board],
                {
                    "kind": "live",
                    "combine": "base",
                    "is_hero": True,
                    "near_m": 2.6,
                    "depth_m": 3,
                    "width_m": 6,
                    "height_m": 3,
                    "fills_frame": True,
                },
            ),
        ],
        split_px=960,
        split_feather_px=30,
        carries=["tide mark on the wall"],
    )


def _bell_rope(production: Production, place: Place) -> None:
    """The clean plate was filmed after lunch, and the rope's reflection in the wet floor is not kept."""
    light = {
        "light_k": 5600,
        "white_balance_k": 5600,
        "key_azimuth_deg": -70,
        "key_elevation_deg": 40,
        "references": FILMED,
    }
    rope = card(-0.02, 0.02, 0.4, 3.6, "#b9a27a", "#8f7b59", name="Rope")
    handle = card(-0.05, 0.05, 0.35, 0.7, "#7a2d22", name="Grip")
    enter(
        production,
        place,
        "TM040",
        "The bell rope",
        "A bell rope pulls itself and the bell answers.",
        120,
        {
            "Belfry": Planned(25, 5.6, 4, 3, 1.3, light),
            "Belfry, after lunch": Planned(25, 5.6, 3.2, 4.2, 1.3, {**light, "white_balance_k": 5000}),
        },
        [
            (
                "Rope on a line",
                "Belfry",
                [rope, handle],
                {
                    "kind": "rig",
                    "combine": "difference",
                    "near_m": 4,
                    "width_m": 0.2,
                    "height_m": 3.6,
                    "driver": "gravity",
                    "speed_m_s": 0.8,
                    "contact": "wet_ground",
                },
            ),
            (
                "Clean belfry",
                "Belfry, after lunch",
                [],
                {
                    "kind": "clean_plate",
                    "pass_of": "Rope on a line",
                    "combine": "behind",
                    "near_m": 4.2,
                    "width_m": 6,
                    "height_m": 4,
                    "fills_frame": True,
                },
            ),
            (
                "Belfry",
                "Belfry",
                [
                    *room(7, 4.2, 4, "#55524c", "#2d2f33"),
                    card(1.6, 2.6, 1.4, 3.0, "#cfd8df", "#a9b6c0", name="Window", behind=3.99),
                ],
                {
                    "kind": "live",
                    "combine": "base",
                    "is_hero": True,
                    "near_m": 3,
                    "depth_m": 4,
                    "width_m": 7,
                    "height_m": 4.2,
                    "fills_frame": True,
                    "brightest_stops": 5.2,
                },
            ),
        ],
        vertical_cut=True,
        vertical_at_px=960,
        carries=["tide mark on the wall"],
        cautions=["overhead_load"],
    )


def _lamp_bursts(production: Production, place: Place) -> None:
    """The flash burns out, the stock sparks are too small for the frame."""
    light = {
        "light_k": 3200,
        "white_balance_k": 3200,
        "key_azimuth_deg": 20,
        "key_elevation_deg": 50,
        "references": FILMED,
    }
    flash = {
        "name": "colour lamp",
        "role": "key",
        "intensity_cd": 300,
        "beam_deg": 90,
        "face_m": 0.06,
        "colour_k": 3200,
        "across_m": 0.08,
        "height_m": 1.75,
        "behind_m": 0.95,
        "aim_height_m": 1.5,
        "aim_behind_m": 2.0,
        ONLY_FOR: "Flash on the room",
    }
    hero = Planned(25, 4, 3.5, 2.5, 1.5, light, lamps=(flash,))
    sparks = [
        {
            "name": f"Spark {n}",
            "points": polygon((x, y), (x + 0.05, y + 0.16), (x + 0.1, y)),
            "colour": "#ffd890",
        }
        for n, (x, y) in enumerate(
            ((-0.5, 1.6), (-0.2, 2.1), (0.1, 1.7), (0.35, 2.2), (0.5, 1.5), (-0.35, 1.2), (0.2, 1.1))
        )
    ]
    lamp = {
        "name": "Lamp",
        "behind_m": 1.0,
        "points": polygon((-0.12, 1.7), (-0.2, 2.0), (0.2, 2.0), (0.12, 1.7)),
        "colour": "#f2d9a0",
    }
    enter(
        production,
        place,
        "TM070",
        "The lamp bursts",
        "A lamp bursts; the room flashes.",
        60,
        {"Room with the lamp": hero},
        [
            (
                "Sparks on black",
                None,
                sparks,
                {
                    "kind": "black_element",
                    "combine": "add",
                    "near_m": 3.4,
                    "width_m": 1.2,
                    "height_m": 1.4,
                    "picture_width_px": 400,
                    "seen_s": 0.4,
                    "cue_frame": 24,
                    "cue_frames": 10,
                    "note": "From stock: no spark is made on set.",
                },
            ),
            (
                "Flash on the room",
                "Room with the lamp",
                room(6, 3.8, 3, "#6b6150", "#4a4238"),
                {
                    "kind": "light_pass",
                    "combine": "add",
                    "near_m": 3.0,
                    "depth_m": 3,
                    "width_m": 6,
                    "height_m": 3,
                    "fills_frame": True,
                    "seen_s": 0.2,
                    "pass_of": "Sparks on black",
                    "cue_frame": 24,
                    "cue_frames": 5,
                    "note": "The dimmable colour lamp, flashed in its time.",
                },
            ),
            (
                "Room",
                "Room with the lamp",
                [*room(6, 3.8, 3.5), lamp],
                {
                    "kind": "live",
                    "combine": "base",
                    "is_hero": True,
                    "near_m": 2.5,
                    "depth_m": 3.5,
                    "width_m": 6,
                    "height_m": 3,
                    "fills_frame": True,
                    "brightest_stops": 7.5,
                },
            ),
        ],
        carries=[],
        cautions=["mains_water", "hot_lamps", "strobe"],
    )


def _grain_loft(production: Production, place: Place) -> None:
    """The flopped half carries lettering and the wrong light, and the pan is too quick."""
    light = {
        "light_k": 3200,
        "white_balance_k": 3200,
        "key_azimuth_deg": 45,
        "key_elevation_deg": 35,
        "references": FILMED,
    }
    hero = Planned(25, 5.6, 4, 3, 1.5, light)
    half = Planned(25, 5.6, 4, 4, 1.5, {**light, "light_k": 3000})
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
    enter(
        production,
        place,
        "TM120",
        "The grain loft",
        "The grain loft, twice the size it was built.",
        156,
        {"Loft, right half": hero, "Loft, for the flop": half},
        [
            (
                "Left half, flopped",
                "Loft, for the flop",
                hoppers,
                {
                    "kind": "split",
                    "combine": "split",
                    "near_m": 4,
                    "depth_m": 1,
                    "width_m": 3.0,
                    "height_m": 2.4,
                    "offset_m": -1.7,
                    "mirrored": True,
                    "lettering": True,
                    "split_side": "left",
                    "moves_from_m": -3.2,
                    "moves_to_m": -0.2,
                },
            ),
            (
                "Clean loft",
                "Loft, right half",
                [],
                {
                    "kind": "clean_plate",
                    "combine": "behind",
                    "near_m": 4.1,
                    "width_m": 8,
                    "height_m": 3.4,
                    "fills_frame": True,
                },
            ),
            (
                "Loft",
                "Loft, right half",
                loft,
                {
                    "kind": "live",
                    "combine": "base",
                    "is_hero": True,
                    "near_m": 3,
                    "depth_m": 4,
                    "width_m": 8,
                    "height_m": 3.4,
                    "fills_frame": True,
                },
            ),
            (
                "Painted rafters",
                None,
                [card(-6, 6, 3.2, 6, "#3a3229", "#4a4134", name="Rafters")],
                {
                    "kind": "painted",
                    "combine": "over",
                    "near_m": 7.2,
                    "width_m": 12,
                    "height_m": 2.8,
                    "base_m": 0,
                    "picture_width_px": 1600,
                },
            ),
        ],
        split_px=960,
        split_feather_px=60,
        move_kind="pan",
        move_amount=20,
        move_start_frame=24,
        move_end_frame=72,
        move_ease_in_frames=8,
        move_ease_out_frames=8,
        carries=["tide mark on the wall"],
    )
