"""The invented production of the demo: its kit, people and shots."""

from __future__ import annotations

from django.db import transaction

from jungoptic.app.base.models import Write
from jungoptic.app.demo.breakdown import break_down
from jungoptic.app.demo.shapes import add_layer, house, polygon, spokes, wheel
from jungoptic.app.demo.shots import make_shots
from jungoptic.app.kit.models import Camera, Lamp, Lens, RecordingMode, Support
from jungoptic.app.people.models import Person
from jungoptic.app.productions.models import Membership, Production
from jungoptic.app.shots.models import SetUp, Shot

PASSWORD = "tidemill-demo"
PEOPLE = (
    ("supervisor", "Supervisor", "supervisor"),
    ("camera", "Camera", "crew"),
    ("runner", "Runner", "guest"),
)
STRANGER = "stranger"
SLUG = "the-tidemill"


def make_demo() -> Production:
    """Make the demo production if it is not there; leave it alone if it is. Safe to run again."""
    with transaction.atomic():
        _people()
        found = Production.objects.filter(slug=SLUG).first()
        return found or _production()


def _people() -> None:
    for username, name, _ in (*PEOPLE, (STRANGER, "Stranger", "")):
        if not Person.objects.filter(username=username).exists():
            Person.objects.create_user(username=username, password=PASSWORD, first_name=name)


def _production() -> Production:
    production = Production.objects.create(
        title="The Tidemill",
        slug=SLUG,
        delivery_width_px=1920,
        delivery_height_px=1080,
        frame_rate_fps=24,
        mains_hz=50,
        time_zone="Europe/London",
        latitude_deg=54.30,
        longitude_deg=-3.20,
        stage_length_m=12,
        stage_width_m=7,
        beams_m=4.2,
    )
    for username, _, role in PEOPLE:
        Membership.objects.create(
            person=Person.objects.get(username=username), production=production, role=role
        )
    _kit(production)
    _mill_at_dusk(production)
    make_shots(production)
    break_down(production, Person.objects.get(username="supervisor"))
    Write.objects.filter(production=production).delete()  # the history begins with what people do
    return production


def _kit(production: Production) -> None:
    cameras = (
        (
            "Camera A",
            100,
            6400,
            400,
            23.5,
            13.2,
            6.0,
            ((3840, 2160, 60, 10, "4:2:2", False, 5.0), (1920, 1080, 120, 10, "4:2:2", False, 2.0)),
        ),
        ("Camera B", 125, 3200, 125, 13.2, 7.4, 5.0, ((3840, 2160, 30, 8, "4:2:0", True, 20.0),)),
        ("Telephone", 50, 1600, 50, 9.8, 5.5, 4.0, ((3840, 2160, 30, 8, "4:2:0", True, 25.0),)),
    )
    for name, low, high, base, width, height, headroom, modes in cameras:
        camera = Camera.objects.create(
            production=production, name=name, lowest_iso=low, highest_iso=high, base_iso=base
        )
        for w, h, fps, bits, sampling, groups, readout in modes:
            RecordingMode.objects.create(
                camera=camera,
                name=f"{w} × {h}",
                recorded_width_px=w,
                recorded_height_px=h,
                gate_width_mm=width,
                gate_height_mm=height,
                highest_fps=fps,
                bit_depth=bits,
                sampling=sampling,
                long_groups=groups,
                readout_ms=readout,
                headroom_stops=headroom,
            )
    # Distortion and vignetting are stated guesses until somebody films a grid and a grey card.
    for focal, closest, bends, falls in (
        (18, 0.25, -1.8, 0.9),
        (25, 0.25, -1.0, 0.8),
        (35, 0.30, -0.5, 0.6),
        (50, 0.40, -0.2, 0.5),
        (85, 0.85, 0.1, 0.4),
    ):
        Lens.objects.create(
            production=production,
            name=f"{focal} mm",
            focal_length_mm=focal,
            widest_f_number=2,
            smallest_f_number=22,
            closest_focus_m=closest,
            distortion_pct=bends,
            vignetting_stops=falls,
        )
    Lens.objects.create(
        production=production,
        name="telephone's 6.9 mm",
        focal_length_mm=6.9,
        widest_f_number=1.8,
        smallest_f_number=1.8,
        closest_focus_m=0.1,
        camera=Camera.objects.get(production=production, name="Telephone"),
        distortion_pct=-1.0,
        vignetting_stops=0.5,
    )
    Lens.objects.create(
        production=production,
        name="100 mm close-up",
        focal_length_mm=100,
        widest_f_number=2.8,
        smallest_f_number=32,
        closest_focus_m=0.30,
    )
    for number in (1, 2):
        Lamp.objects.create(
            production=production,
            name=f"soft panel {number}",
            intensity_cd=900,
            beam_deg=110,
            area_m2=0.36,
            warmest_k=2800,
            coolest_k=6500,
        )
    Lamp.objects.create(
        production=production,
        name="300 W spot",
        intensity_cd=18000,
        beam_deg=25,
        area_m2=0.02,
        warmest_k=3200,
        coolest_k=3200,
        ripple_depth=0.05,
    )
    for number in (1, 2):
        Lamp.objects.create(
            production=production,
            name=f"tube bank {number}",
            intensity_cd=840,
            beam_deg=120,
            area_m2=0.06,
            length_m=1.2,
            warmest_k=5600,
            coolest_k=5600,
            ripple_depth=0.35,
        )
    Lamp.objects.create(
        production=production,
        name="colour lamp",
        intensity_cd=300,
        beam_deg=90,
        area_m2=0.004,
        warmest_k=2000,
        coolest_k=10000,
    )
    Support.objects.create(production=production, name="Tripod", lowest_lens_m=0.35, highest_lens_m=1.75)


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
