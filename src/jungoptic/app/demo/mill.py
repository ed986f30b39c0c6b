"""TM010 of the invented production: the mill at dusk."""

from __future__ import annotations

from jungoptic.app.demo.shapes import add_layer, house, polygon, spokes, wheel
from jungoptic.app.kit.models import RecordingMode
from jungoptic.app.productions.models import Production
from jungoptic.app.shots.models import SetUp, Shot


def _mill_at_dusk(production: Production) -> Shot:
    """TM010: hero sea plate; the 1:12 mill as it was first set up, which will show; stock sky, painted
    headland, gulls.
    """
    shot = Shot.objects.create(
        production=production,
        code="TM010",
        title="The mill at dusk",
        description="The mill at dusk, the sea around it, the sky moving.",
        length_frames=144,
        cautions=["water_edge", "mains_water", "hot_lamps", "overhead_load"],
    )
    lenses = {lens.focal_length_mm: lens for lens in production.lenses.all()}
    mode = RecordingMode.objects.get(
        camera__production=production, camera__name="Camera A", recorded_width_px=3840
    )
    hero = SetUp.objects.create(
        shot=shot,
        name="Quay, evening",
        lens=lenses[35],
        mode=mode,
        f_number=8,
        focus_distance_m=12,
        distance_m=6.5,
        lens_height_m=1.6,
        capture_fps=24,
        iso=800,
        illuminance_lx=960,
        light_k=5600,
        white_balance_k=5600,
        key_azimuth_deg=118,
        key_elevation_deg=14,
        heading_deg=300,
        references=["ball", "chart", "tape"],
    )
    model = SetUp.objects.create(
        shot=shot,
        name="Mill on the table",
        lens=lenses[35],
        mode=mode,
        f_number=8,
        focus_distance_m=1.0,
        distance_m=1.0,
        lens_height_m=0.35,
        capture_fps=24,
        iso=800,
        illuminance_lx=1050,
        light_k=3200,
        white_balance_k=3200,
        key_azimuth_deg=110,
        key_elevation_deg=18,
        references=["ball", "chart", "tape"],
    )
    wall, roof = "#3b3630", "#262524"
    window = "#e0a850"
    mill = [
        {
            "name": "Quay",
            "lies": True,
            "raised_m": 0.35,
            "points": polygon((-3.0, 0), (3.55, 0), (4.6, 6), (-4.0, 6)),
            "colour": "#4b4640",
            "colour_low": "#5a544c",
        },
        {
            "name": "Quay wall",
            "points": polygon((-3.0, 0), (-3.0, 0.35), (3.55, 0.35), (3.55, 0)),
            "colour": "#3a362f",
            "colour_low": "#2b2823",
            "thickness_m": 0.2,
        },
        {
            "name": "Far shed",
            "behind_m": 5.0,
            "points": house(3.0, 4.6, 1.75, 2.5),
            "colour": "#393a3d",
            "thickness_m": 1.0,
        },
        {
            "name": "Near shed",
            "behind_m": 4.2,
            "points": house(1.75, 3.2, 1.55, 2.2),
            "colour": "#3f4043",
            "thickness_m": 1.2,
        },
        {
            "name": "Mill",
            "behind_m": 2.6,
            "points": house(-1.9, 0.75, 2.55, 3.45),
            "colour": roof,
            "colour_low": wall,
            "thickness_m": 2.4,
        },
        {
            "name": "Chimney",
            "behind_m": 2.9,
            "points": polygon((0.15, 2.9), (0.15, 3.75), (0.45, 3.75), (0.45, 2.8)),
            "colour": "#211f1e",
            "thickness_m": 0.3,
        },
        {
            "name": "Upper window, left",
            "behind_m": 2.59,
            "points": polygon((-1.3, 1.75), (-1.3, 2.2), (-0.95, 2.2), (-0.95, 1.75)),
            "colour": window,
        },
        {
            "name": "Upper window, right",
            "behind_m": 2.59,
            "points": polygon((-0.25, 1.75), (-0.25, 2.2), (0.1, 2.2), (0.1, 1.75)),
            "colour": window,
        },
        {
            "name": "Lower window",
            "behind_m": 2.59,
            "points": polygon((-0.25, 0.85), (-0.25, 1.35), (0.1, 1.35), (0.1, 0.85)),
            "colour": window,
        },
        {
            "name": "Wheel",
            "behind_m": 1.4,
            "points": wheel(-2.0, 1.42, 1.12, 16),
            "colour": "#1d1b19",
            "thickness_m": 0.5,
        },
        *spokes(-2.0, 1.42, 1.12, 8),
    ]
    sea = [
        {
            "name": "Sea",
            "lies": True,
            "points": polygon((-6, 0), (6, 0), (4200, 4000), (-4200, 4000)),
            "colour": "#5b6a77",
            "colour_low": "#2a3640",
        }
    ]
    headland = [
        {
            "name": "Headland",
            "points": polygon((-420, 0), (-420, 34), (-330, 52), (-210, 47), (-120, 30), (-30, 12), (60, 0)),
            "colour": "#454a55",
            "colour_low": "#3d4049",
        }
    ]
    sky = [
        {
            "name": "Sky",
            "points": polygon((-2200, -50), (-2200, 1400), (2200, 1400), (2200, -50)),
            "colour": "#3d4657",
            "colour_low": "#d99a63",
        }
    ]
    gulls = [
        {
            "name": f"Gull {n}",
            "points": polygon(
                (x - 0.22, y + 0.06),
                (x - 0.1, y + 0.09),
                (x, y),
                (x + 0.1, y + 0.09),
                (x + 0.22, y + 0.06),
                (x, y + 0.035),
            ),
            "colour": "#e8e4dc",
        }
        for n, (x, y) in enumerate(((-1.9, 2.75), (-1.35, 3.05), (1.1, 2.9)), 1)
    ]
    add_layer(
        shot,
        0,
        "Gulls",
        gulls,
        kind="stock",
        combine="add",
        near_m=10,
        width_m=3.5,
        height_m=0.6,
        picture_width_px=1920,
        note="Birds on black, from stock.",
    )
    add_layer(
        shot,
        3,
        "Quay and sea",
        sea,
        kind="live",
        combine="base",
        is_hero=True,
        set_up=hero,
        near_m=6.5,
        depth_m=3000,
        width_m=8,
        height_m=3,
        fills_frame=True,
        note="The real sea from the quay. Tide above half; ball, chart and tape in the same light.",
    )
    add_layer(
        shot,
        1,
        "Mill 1:12",
        mill,
        kind="model",
        combine="hand_matte",
        set_up=model,
        scale=12,
        near_m=12,
        depth_m=6,
        width_m=8,
        height_m=3.75,
        driver="gravity",
        speed_m_s=2,
        note="Quay, mill, wheel and two sheds on one table, ground from 1.0 to 1.5 m.",
    )
    add_layer(
        shot,
        2,
        "Headland",
        headland,
        kind="painted",
        combine="over",
        near_m=900,
        width_m=480,
        height_m=52,
        picture_width_px=2400,
        note="Painted on board, photographed flat.",
    )
    add_layer(
        shot,
        4,
        "Dusk sky",
        sky,
        kind="stock",
        combine="behind",
        near_m=3500,
        width_m=4400,
        height_m=1450,
        picture_width_px=3840,
        note="Time-lapse from stock, moving left to right.",
    )
    return shot
