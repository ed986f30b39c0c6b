"""A film of one's own: begun, also from another; changed field by field; what would be judged otherwise."""

from __future__ import annotations

from typing import Any

import pytest

from jungoptic.app.costs.models import Figures
from jungoptic.app.films import trying
from jungoptic.app.kit.models import Camera, Lamp, Lens, RecordingMode, Support
from jungoptic.app.kit.reading import kit_of
from jungoptic.app.productions.models import Membership, Production, ToleranceChange
from jungoptic.app.shots.models import Layer, SetUp, Shot
from jungoptic.core.kit import rate_name

from .conftest import Caller, a_key

FILM = {"title": "The Salt Road", "delivery_width_px": 1080, "delivery_height_px": 1920}


def begin(caller: Caller, key: str | None = None, **body: Any) -> tuple[int, Any]:
    return caller("post", "/films", {"values": FILM, **body}, key=key or a_key())


def made(caller: Caller, **body: Any) -> Production:
    status, said = begin(caller, **body)
    assert status == 201, said
    return Production.objects.get(pk=said["id"])


def change(caller: Caller, production: Production, **changes: Any) -> tuple[int, Any]:
    version = Production.objects.values_list("version", flat=True).get(pk=production.pk)
    return caller("patch", f"/productions/{production.pk}", {"version": version, "changes": changes})


def says(caller: Caller, production: Production, field: str) -> str:
    found = caller("get", f"/productions/{production.pk}")[1]["follows"]
    return next(one["says"] for one in found if one["field"] == field)


# --- begun


def test_anybody_begins_a_film_and_supervises_it(stranger: Caller):
    film = made(stranger)
    assert (film.delivery_width_px, film.delivery_height_px, film.frame_rate_fps) == (1080, 1920, 24)
    assert [(one["title"], one["role"]) for one in stranger("get", "/productions")[1]] == [
        ("The Salt Road", "supervisor")
    ]
    history = stranger("get", f"/productions/{film.pk}/history")[1]["writes"]
    assert [one["title"] for one in history] == ["“The Salt Road” begun"]
    assert stranger.wall(film)["shots"] == []


def test_sent_twice_it_is_begun_once_and_two_of_a_title_are_two(stranger: Caller):
    assert begin(stranger, key="twice") == begin(stranger, key="twice")
    made(stranger)
    slugs = Production.objects.filter(title="The Salt Road").values_list("slug", flat=True)
    assert sorted(slugs) == ["the-salt-road", "the-salt-road-2"]


@pytest.mark.parametrize(
    ("values", "field"),
    [
        ({"title": "  "}, "title"),
        ({"title": None}, "title"),
        ({"delivery_width_px": 0}, "delivery_width_px"),
        ({"delivery_height_px": 10**9}, "delivery_height_px"),
        ({"delivery_width_px": 19.5}, "delivery_width_px"),
        ({"frame_rate_fps": "twenty"}, "frame_rate_fps"),
        ({"frame_rate_fps": "24/0"}, "frame_rate_fps"),
        ({"mains_hz": 0}, "mains_hz"),
        ({"time_zone": "Mars/Base"}, "time_zone"),
        ({"latitude_deg": 54.3}, "longitude_deg"),
        ({"latitude_deg": 91, "longitude_deg": 0}, "latitude_deg"),
        ({"stage_length_m": -1}, "stage_length_m"),
        ({"colour": "red"}, "colour"),
    ],
)
def test_what_cannot_be_is_refused_at_its_field(stranger: Caller, values: dict[str, Any], field: str):
    for path, body in (("/films", {}), ("/films/asked", {})):
        status, said = stranger("post", path, {"values": {**FILM, **values}, **body})
        assert status == 422 and field in [one["field"] for one in said["problems"]], said
    assert not Production.objects.filter(title="The Salt Road").exists()


@pytest.mark.parametrize("typed", ["23.98", "23,976", "24000/1001", 23.976])
def test_a_rate_is_exact_however_it_is_typed(stranger: Caller, typed: str | float):
    film = made(stranger, values={**FILM, "frame_rate_fps": typed})
    assert film.frame_rate_fps == 24000 / 1001
    assert stranger("get", f"/productions/{film.pk}")[1]["rate"] == "23.976"
    assert says(stranger, film, "frame_rate_fps").startswith("24000/1001 frames/s exactly. At 180°")


# --- with what another one has


def test_kit_recipes_rates_and_judging_come_along_as_chosen(supervisor: Caller, production, shot):
    assert supervisor.planned("post", shot, "save-recipe", {"title": "Mill by the sea"})[0] == 201
    supervisor("patch", f"/productions/{production.pk}/figures", {"changes": {"crew": 5}})
    supervisor("patch", f"/productions/{production.pk}/judging", {"soften_px": 1.5})
    ToleranceChange.objects.create(production=production, item="time", holds=0.1, tight=0.2)
    film = made(supervisor, source=production.pk)
    for model in (Camera, Lens, Lamp, Support):
        names = [
            sorted(model.objects.filter(production=one).values_list("name", flat=True))
            for one in (production, film)
        ]
        assert names[0] == names[1] and names[0], model
    assert RecordingMode.objects.filter(camera__production=film).count() == 4
    assert film.stage_length_m == 12 and film.soften_px == 1.5
    assert Figures.objects.get(production=film).crew == 5
    assert film.tolerances.get().tight == 0.2
    recipe = Shot.objects.get(production=film, template=True)
    assert recipe.title == "Mill by the sea"
    for set_up in SetUp.objects.filter(shot=recipe).select_related("lens", "mode__camera"):
        assert {set_up.lens.production_id, set_up.mode.camera.production_id} == {film.pk}
    built_in = Lens.objects.get(production=film, camera__isnull=False)
    assert built_in.camera and built_in.camera.production_id == film.pk


def test_what_was_said_of_the_room_stays(supervisor: Caller, production):
    film = made(supervisor, source=production.pk, values={**FILM, "stage_length_m": 5})
    assert (film.stage_length_m, film.stage_width_m) == (5, 7)


def test_what_is_not_chosen_stays_behind(supervisor: Caller, production):
    film = made(supervisor, source=production.pk, what=["judging"])
    assert not Camera.objects.filter(production=film).exists()
    assert not Figures.objects.filter(production=film).exists()


def test_nothing_comes_from_a_production_that_one_is_not_in(stranger: Caller, production):
    status, said = begin(stranger, source=production.pk)
    assert (status, said["problems"][0]["field"]) == (422, "source")
    assert not Membership.objects.filter(person__username="stranger").exists()


def test_a_recipe_that_came_along_fills_a_shot(supervisor: Caller, production, shot):
    supervisor.planned("post", shot, "save-recipe", {"title": "Mill by the sea"})
    film = made(supervisor, source=production.pk)
    new = Shot.objects.create(production=film, code="SR010", title="New", length_frames=48)
    own = Shot.objects.get(production=film, template=True)
    status, said = supervisor("post", f"/shots/{new.pk}/recipes", {"own": own.pk})
    assert status < 300, said
    assert Layer.objects.filter(shot=new).count() == Layer.objects.filter(shot=own).count()
    assert supervisor.bench(new)["layers"]


# --- changed


def test_every_field_says_what_follows(supervisor: Caller, production):
    follows = {
        one["field"]: one["says"] for one in supervisor("get", f"/productions/{production.pk}")[1]["follows"]
    }
    assert follows["delivery_height_px"].startswith("1.78 : 1, wide (16:9); 2.07 megapixels")
    assert "open for 1/48 s" in follows["frame_rate_fps"] and "min" in follows["frame_rate_fps"]
    assert "86.4°, 172.8°" in follows["mains_hz"]  # 24 frames/s on 50 Hz: 360·24/100 = 86.4
    assert follows["longitude_deg"].startswith("On ")
    assert follows["stage_width_m"].startswith("84 m²")


def test_it_is_changed_put_away_and_taken_back(supervisor: Caller, guest: Caller, production):
    assert change(guest, production, title="Mine")[0] == 403
    assert change(supervisor, production, title=" The Tide Mill ", frame_rate_fps=25)[0] == 200
    production.refresh_from_db()
    assert (production.title, production.frame_rate_fps) == ("The Tide Mill", 25)
    newest = supervisor("get", f"/productions/{production.pk}/history")[1]["writes"][0]
    assert supervisor("post", f"/productions/{production.pk}/take-back", {"write": newest["id"]})[0] == 200
    production.refresh_from_db()
    assert (production.title, production.frame_rate_fps) == ("The Tidemill", 24)
    assert change(supervisor, production, put_away=True)[0] == 200
    assert supervisor("get", "/productions")[1][0]["put_away"] is True
    assert supervisor("get", f"/productions/{production.pk}/wall")[0] == 200, "and is whole"


def test_a_menu_in_thousandths_comes_with_the_rate(supervisor: Caller, production):
    camera = Camera.objects.get(production=production, name="Camera A")
    change(supervisor, production, frame_rate_fps="23.976")
    production.refresh_from_db()
    fastest = max(kit_of(camera.pk, production).camera.rates_fps)
    assert rate_name(fastest) == "119.88"


# --- tried


def tried(caller: Caller, production: Production, **changes: Any) -> dict[str, Any]:
    found: dict[str, Any] = {}
    start: int | None = 0
    while start is not None:
        status, said = caller(
            "post", f"/productions/{production.pk}/tried", {"changes": changes, "start": start}
        )
        assert status == 200, said
        found |= {one["code"]: one for one in said["shots"]}
        start = said["next"]
    return found


def counts(caller: Caller, production: Production) -> dict[str, dict[str, int]]:
    return {
        one["code"]: {word: one[word] for word in ("shows", "tight", "holds")}
        for one in caller.wall(production)["shots"]
    }


def test_what_is_tried_is_what_comes_and_nothing_is_written(supervisor: Caller, guest: Caller, production):
    before = counts(supervisor, production)
    would = tried(guest, production, delivery_width_px=3840, delivery_height_px=2160)
    assert would, "twice the pixels leave nothing as it was"
    production.refresh_from_db()
    assert production.delivery_width_px == 1920 and counts(supervisor, production) == before
    assert change(supervisor, production, delivery_width_px=3840, delivery_height_px=2160)[0] == 200
    after = counts(supervisor, production)
    for code, one in before.items():
        assert after[code] == (would[code]["after"] if code in would else one), code
        assert code not in would or would[code]["before"] == one


def test_the_kit_that_is_kept_is_not_the_one_that_was_tried(supervisor: Caller, production):
    camera = Camera.objects.get(production=production, name="Camera A")
    tried(supervisor, production, frame_rate_fps="23.976", beams_m=2)
    production.refresh_from_db()
    kit = kit_of(camera.pk, production)
    assert (max(kit.camera.rates_fps), kit.beams_m) == (120, 4.2)


def test_a_piece_at_a_time_is_the_whole(supervisor: Caller, production, monkeypatch):
    at_once = tried(supervisor, production, mains_hz=60)
    monkeypatch.setattr(trying, "PATIENCE_S", 0)
    monkeypatch.setattr(trying, "_TOGETHER", 1)
    assert tried(supervisor, production, mains_hz=60) == at_once


def test_a_title_judges_nothing(supervisor: Caller, production):
    status, said = supervisor("post", f"/productions/{production.pk}/tried", {"changes": {"title": "Other"}})
    assert (status, said["shots"], said["next"]) == (200, [], None)


def test_what_is_usual_is_offered(stranger: Caller):
    said = stranger("get", "/films/choices")[1]
    assert {"fps": 24000 / 1001, "name": "23.976"} in said["rates"]
    assert {"width_px": 1080, "height_px": 1920, "name": "upright, 9:16"} in said["sizes"]
    assert "Europe/London" in said["zones"] and len(said["zones"]) > 300
