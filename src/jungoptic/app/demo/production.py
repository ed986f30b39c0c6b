"""The invented production of the demo: its kit, people and shots."""

from __future__ import annotations

from django.db import transaction

from jungoptic.app.base.models import Write
from jungoptic.app.demo.animated import begin_sheet
from jungoptic.app.demo.breakdown import break_down
from jungoptic.app.demo.days import film_days, make_days
from jungoptic.app.demo.filmed import film_before
from jungoptic.app.demo.frames import hold_frames
from jungoptic.app.demo.hyperlapse import plan_hyperlapse
from jungoptic.app.demo.mill import _mill_at_dusk
from jungoptic.app.demo.shots import make_shots
from jungoptic.app.kit.models import Camera, Lamp, Lens, RecordingMode, Support
from jungoptic.app.people.models import Person
from jungoptic.app.people.passwords import PRINTED
from jungoptic.app.productions.models import Membership, Production

PEOPLE = (
    ("supervisor", "Supervisor", "supervisor"),
    ("camera", "Camera", "crew"),
    ("runner", "Runner", "guest"),
)
STRANGER = "stranger"
SLUG = "the-tidemill"


def make_demo(filmed: bool = True) -> Production:
    """Make the demo production if it is not there; leave it alone if it is. Safe to run again.

    ``filmed``: its first Saturday is behind it; else nothing is filmed yet.
    """
    with transaction.atomic():
        _people()
        found = Production.objects.filter(slug=SLUG).first()
        return found or _production(filmed)


def _people() -> None:
    for username, name, _ in (*PEOPLE, (STRANGER, "Stranger", "")):
        if not Person.objects.filter(username=username).exists():
            Person.objects.create_user(username=username, password=PRINTED, first_name=name)


def _production(filmed: bool) -> Production:
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
    make_days(production, Person.objects.get(username="supervisor"))
    begin_sheet(production, Person.objects.get(username="supervisor"))
    plan_hyperlapse(production, Person.objects.get(username="supervisor"))
    if filmed:
        supervisor, camera = (Person.objects.get(username=name) for name in ("supervisor", "camera"))
        film_before(production, camera)
        film_days(production, supervisor, camera)
        hold_frames(production, camera)
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
            (
                (3840, 2160, 60, 10, "4:2:2", False, 5.0, 35.0),
                (1920, 1080, 120, 10, "4:2:2", False, 2.0, 25.0),
            ),
        ),
        ("Camera B", 125, 3200, 125, 13.2, 7.4, 5.0, ((3840, 2160, 30, 8, "4:2:0", True, 20.0, 12.5),)),
        ("Telephone", 50, 1600, 50, 9.8, 5.5, 4.0, ((3840, 2160, 30, 8, "4:2:0", True, 25.0, 6.25),)),
    )
    for name, low, high, base, width, height, headroom, modes in cameras:
        camera = Camera.objects.create(
            production=production, name=name, lowest_iso=low, highest_iso=high, base_iso=base
        )
        for w, h, fps, bits, sampling, groups, readout, writes in modes:
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
                data_rate_mb_s=writes,
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
            measured_gate_mm=23.5,
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
        measured_gate_mm=23.5,
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
