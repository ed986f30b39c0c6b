"""The invented production broken down, by the same services that the interface calls: boards, lines, recipes,
costs, cautions, a set.
"""

from __future__ import annotations

from datetime import date
from functools import lru_cache
from typing import Any

from jungoptic.app.base.edits import Edit, Writing
from jungoptic.app.bench.accepting import accept
from jungoptic.app.boards.keeping import give, keep
from jungoptic.app.boards.reading import Picture, pictures
from jungoptic.app.breakdown.wall import change_on_wall
from jungoptic.app.builds import keeping as builds
from jungoptic.app.costs import costing
from jungoptic.app.demo import loft_picture, quay_picture
from jungoptic.app.people.models import Person
from jungoptic.app.photographs.tags import tagged_view_deg
from jungoptic.app.productions.models import Production
from jungoptic.app.productions.writing import in_production
from jungoptic.app.recipes import choosing
from jungoptic.app.safety import cautions
from jungoptic.app.shots.add import add_line
from jungoptic.app.shots.edit import EditSet, change_shot
from jungoptic.app.shots.models import Layer, Shot
from jungoptic.app.shots.pictures import lens_view
from jungoptic.app.shots.writing import in_shot
from jungoptic.app.stock.keeping import add_stock
from jungoptic.app.takes.table import BenchTable, shot_with_everything
from jungoptic.core.stage import jpeg, sketch

BOARD_PX = 1280
RECIPES: dict[str, tuple[str, dict[str, float]]] = {
    "TM010": ("painted", {"scale": 12, "distance_m": 12, "width_m": 8, "height_m": 4}),
    "TM020": ("actor_in_model", {"scale": 8, "actor_m": 5, "walk_m": 3}),
    "TM030": ("twice", {"distance_m": 2.8}),
    "TM040": ("moves_itself", {"distance_m": 4, "size_m": 3.6}),
    "TM050": ("puppet", {"scale": 4, "distance_m": 5, "size_m": 1.2, "walk_m": 0.9}),
    "TM060": ("event", {"scale": 6, "distance_m": 20, "width_m": 10, "height_m": 3.6}),
    "TM070": ("on_black", {"distance_m": 3.5, "size_m": 1.2}),
    "TM080": ("hyperlapse", {"near_m": 2}),
    "TM090": ("crowd", {"people": 3, "rows": 2, "distance_m": 8}),
    "TM100": ("vanish", {"distance_m": 9}),
    "TM110": ("giant", {"line_m": 22, "distance_m": 60, "width_m": 18, "height_m": 11, "travel_m": 16}),
    "TM120": ("big_room", {"room_m": 3}),
}
LINES: dict[str, tuple[dict[str, Any], ...]] = {
    "TM030": (
        {
            "kind": "split",
            "points": [[960, 0], [960, 1080]],
            "feather_px": 30,
            "note": "over the jug; nothing on the line but the cup",
        },
    ),
    "TM040": (
        {
            "kind": "framing",
            "points": [[96, 54], [1824, 1026]],
            "note": "final crop: decided before a matte is cut",
        },
    ),
    "TM050": (
        {
            "kind": "recurring",
            "points": [[1490, 560]],
            "thing": "leaning mooring post",
            "note": "as in every shot of the quay",
        },
    ),
    "TM080": (
        {
            "kind": "tracking",
            "points": [[960, 420]],
            "thing": "the mill's chimney",
            "layer": "Mill",
            "note": "held on the guide mark",
        },
    ),
    "TM100": (
        {
            "kind": "keep_clear",
            "points": [[1240, 300], [1700, 300], [1700, 640], [1240, 640]],
            "note": "the far mill: nobody walks before it",
        },
    ),
    "TM110": (
        {
            "kind": "matte",
            "points": [[40, 330], [396, 60], [800, 330], [960, 345], [1340, 130], [1700, 345]],
            "layer": "Airship",
            "note": "along both roofs; the airship passes behind",
        },
        {
            "kind": "paint_out",
            "points": [[742, 60], [790, 60], [790, 330], [742, 330]],
            "layer": "Yard",
            "note": "the lamp post",
            "thing": "lamp post",
        },
        {
            "kind": "paint_out",
            "points": [[1480, 560], [1800, 560], [1800, 700], [1480, 700]],
            "layer": "Yard",
            "note": "the parked van, until the cart covers it",
            "thing": "van",
            "first_frame": 0,
            "last_frame": 71,
        },
    ),
    "TM120": (
        {"kind": "split", "points": [[960, 0], [960, 1080]], "feather_px": 60, "note": "between the hoppers"},
    ),
}
DAYS = {
    "TM010": date(2027, 10, 16),
    "TM050": date(2027, 10, 23),
    "TM110": date(2027, 10, 24),
    "TM030": date(2027, 10, 17),
    "TM040": date(2027, 10, 17),
    "TM120": date(2027, 10, 30),
    "TM060": date(2027, 10, 31),
}
SPENT = {"TM030": 6.0, "TM080": 4.5, "TM010": 9.0}
CHOSEN = {
    "TM010": "model",
    "TM020": "key",
    "TM030": "split",
    "TM040": "difference",
    "TM060": "model",
    "TM070": "stock",
    "TM110": "painted",
}
ACCEPTED = {
    "TM070": {
        ("Sparks on black", "sharpness"): "On screen for 0.4 s, and sparks are soft.",
        ("Room", "clipping"): "The bulb itself may burn out: the sparks lie over it.",
        ("Room", "recurring"): "The tide mark is on the wall behind the lens here.",
    }
}
WHO = {
    "TM010": ["nobody"],
    "TM020": ["grown"],
    "TM030": ["grown"],
    "TM040": ["nobody"],
    "TM070": ["nobody"],
    "TM090": ["grown", "children", "frail"],
    "TM100": ["grown"],
}
READY = ("TM070",)
SIGNED = {
    "TM070": {
        "flame": "Nothing burns: sparks are from stock, the flash is a dimmed lamp. Asked the hall's owner.",
        "strobe": "One flash, announced; nobody in the room has fits.",
        "hot_lamps": "Cool lamps only on this set-up.",
        "mains_water": "No water in the room that day.",
    },
    "TM110": {
        "heights": "No ladder: the camera stands on the ground.",
        "water_edge": "Yard only, twenty metres from the edge. Land owner asked.",
    },
}
STOCK: tuple[dict[str, Any], ...] = (
    {
        "name": "Dusk sky, time-lapse",
        "note": "sky, clouds left to right",
        "width_px": 3840,
        "fps": 24,
        "view_deg": 40,
        "key_azimuth_deg": 120,
        "key_elevation_deg": 8,
    },
    {
        "name": "Storm sky",
        "note": "sky, rain curtains",
        "width_px": 3840,
        "fps": 24,
        "view_deg": 40,
        "key_azimuth_deg": -100,
        "key_elevation_deg": 20,
    },
    {
        "name": "Morning sky",
        "note": "sky, thin cloud",
        "width_px": 1920,
        "fps": 24,
        "view_deg": 60,
        "key_azimuth_deg": 150,
        "key_elevation_deg": 12,
    },
    {"name": "Gulls on black", "note": "birds, circling", "width_px": 1920, "fps": 48, "view_deg": 20},
    {"name": "Sparks on black, wide", "note": "sparks, falling", "width_px": 1920, "fps": 48, "view_deg": 35},
    {"name": "Smoke on black", "note": "smoke, rising", "width_px": 1920, "fps": 60, "view_deg": 30},
    {
        "name": "Dust and debris on black",
        "note": "dust, debris, burst",
        "width_px": 3840,
        "fps": 96,
        "view_deg": 30,
    },
    {
        "name": "Reeds in wind",
        "note": "reeds, from all sides, in steps of 30°",
        "width_px": 3840,
        "fps": 24,
        "view_deg": 40,
        "camera_height_m": 1.1,
        "key_azimuth_deg": -150,
        "key_elevation_deg": 8,
    },
)
SET_PIECES: tuple[dict[str, Any], ...] = (
    {"name": "Floor", "x_m": 0, "z_m": 0, "width_m": 8, "height_m": 6, "lies": True, "made": "built"},
    {"name": "Back wall", "x_m": 0, "z_m": 6, "width_m": 8, "height_m": 2.8, "made": "built"},
    {
        "name": "Left wall",
        "x_m": -4,
        "z_m": 3,
        "turn_deg": 90,
        "width_m": 6,
        "height_m": 4,
        "made": "built",
        "wheels": True,
    },
    {
        "name": "Right wall",
        "x_m": 4,
        "z_m": 3,
        "turn_deg": 90,
        "width_m": 6,
        "height_m": 4,
        "made": "built",
        "wheels": True,
    },
    {
        "name": "Belfry screen",
        "x_m": 2.2,
        "z_m": 4.6,
        "turn_deg": -20,
        "width_m": 2,
        "height_m": 2.2,
        "made": "built",
        "wheels": True,
    },
    {
        "name": "Hopper front",
        "x_m": -1.6,
        "z_m": 4.4,
        "width_m": 1.6,
        "height_m": 1.6,
        "base_m": 0.7,
        "made": "built",
    },
    {"name": "Grain chute", "x_m": -1.55, "z_m": 5.3, "width_m": 0.8, "height_m": 3, "made": "built"},
    {
        "name": "Loft screen",
        "x_m": -2.65,
        "z_m": 2.7,
        "turn_deg": 80,
        "width_m": 2,
        "height_m": 2.2,
        "made": "built",
        "wheels": True,
    },
    {"name": "Rafters", "x_m": 0, "z_m": 6.1, "width_m": 12, "height_m": 3, "base_m": 2.6, "made": "painted"},
)
SET_VIEWS = (
    ("TM120", 0.0, -0.5, 0.0, True),
    ("TM030", 1.6, 1.0, -62.0, False),
    ("TM040", -1.8, 0.6, 34.0, False),
)


@lru_cache(maxsize=32)
def _drawn(code: str, production: str) -> bytes:
    """The board of a shot, drawn once in each process: the same shot makes the same board."""
    shot = Shot.in_cut.get(code=code, production__slug=production)
    table = BenchTable(shot_with_everything(shot.pk), school="measured", units="metric")
    return jpeg(sketch(lens_view(table, table.stack, BOARD_PX)))


@lru_cache(maxsize=32)
def _picture(code: str, production: str) -> Picture:
    return next(pictures(f"{code} board.jpg", _drawn(code, production)))


def break_down(production: Production, person: Person) -> None:
    """Boards, recipes, lines, costs, cautions, days, stock and one set in plan."""
    production.lamps.filter(name="300 W spot").update(cautions=["hot_lamps"])
    production.places.filter(name="The quay").update(cautions=["water_edge"])
    Production.objects.filter(pk=production.pk).update(backings=3)
    shots = {shot.code: shot for shot in Shot.in_cut.filter(production=production)}
    for code, who in WHO.items():
        Shot.objects.filter(pk=shots[code].pk).update(who=who)
    for code, shot in shots.items():
        key, answers = RECIPES[code]
        with in_shot(person, shot.pk) as write:
            keep(write, shot, _picture(code, production.slug))
            choosing.choose(write, key, answers, fill=False)
            for line in LINES.get(code, ()):
                own = dict(line)
                layer = own.pop("layer", "")
                layer_id = Layer.objects.get(shot=shot, name=layer).pk if layer else None
                add_line(write, {**own, "layer_id": layer_id})
            if code in CHOSEN:
                costing.say(write, 1, {"chosen": CHOSEN[code]})
            for caution, note in SIGNED.get(code, {}).items():
                cautions.sign(write, caution, note)
            for (name, judged), reason in ACCEPTED.get(code, {}).items():
                accepted = Layer.objects.get(shot=shot, name=name)
                accept(write, accepted.pk, accepted.version, judged, reason, as_shot=False)
            if code == "TM120":
                loft = next(pictures(loft_picture.NAME, loft_picture.loft_jpeg()))
                _photograph(write, Layer.objects.get(shot=shot, name="Painted rafters"), loft)
            if code == "TM050":
                _place(write, Layer.objects.get(shot=shot, is_hero=True))
            changes: dict[str, Any] = {}
            if code in DAYS:
                changes["shoot_on"] = DAYS[code]
            if code in SPENT:
                changes["hours_spent"] = SPENT[code]
            if code in READY:
                changes["ready"] = True
            change_on_wall(write, shot.version, changes)
    with in_production(person, production.pk) as write:
        for item in STOCK:
            add_stock(write, item)
        _set(write, production, shots)


def _photograph(write: Writing, layer: Layer, picture: Picture) -> None:
    """The photograph over which a layer was painted, and what was drawn on it to read its camera."""
    give(write, layer, picture)
    layer.refresh_from_db()
    edit = Edit(layer.version, {"marks": loft_picture.loft_marks()})
    change_shot(write, EditSet(layers={layer.pk: edit}))


def _place(write: Writing, hero: Layer) -> None:
    """The photograph of the quay, by a telephone that stood where the camera will stand; its sky is cut off
    along the horizon, since another one is laid behind.
    """
    name, data = quay_picture.NAME, quay_picture.quay_jpeg()
    give(write, hero, next(pictures(name, data)), shown=True, view_deg=tagged_view_deg(name, data))
    hero.refresh_from_db()
    changes = {"marks": quay_picture.quay_marks(), "cut_outline": quay_picture.under_the_sky()}
    change_shot(write, EditSet(layers={hero.pk: Edit(hero.version, changes)}))


def _set(write: Writing, production: Production, shots: dict[str, Shot]) -> None:
    build = builds.new(write, "Inside the mill")
    place = production.places.get(name="Inside the mill")
    views = [
        {"shot_id": shots[code].pk, "x_m": x, "z_m": z, "heading_deg": turn, "establishing": wide}
        for code, x, z, turn, wide in SET_VIEWS
    ]
    builds.save(write, build.pk, build.version, {"place_id": place.pk, "scale": 1.0}, list(SET_PIECES), views)
