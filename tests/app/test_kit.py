"""The kit: entered, changed, retired, taken in and out; what stands on it is never lost."""

from __future__ import annotations

import csv
import io
from typing import Any

import pytest

from jungoptic.app.kit.models import Camera, Lamp, Lens, RecordingMode
from jungoptic.app.kit.reading import kit_of
from jungoptic.app.productions.models import Production
from jungoptic.app.shelf.rows import KINDS
from jungoptic.app.shots.models import SetUp, Shot
from jungoptic.app.takes.models import Take

from .conftest import Caller, a_key, edit

ZOOM = {
    "name": "zoom",
    "focal_length_mm": 24,
    "longest_mm": 70,
    "widest_f_number": 4,
    "widest_long_f_number": 5.6,
    "smallest_f_number": 22,
    "closest_focus_m": 0.38,
}


def version_of(production: Production) -> int:
    return Production.objects.values_list("version", flat=True).get(pk=production.pk)


def add(caller: Caller, production: Production, kind: str, /, **fields: Any) -> tuple[int, Any]:
    body = {"version": version_of(production), "fields": fields}
    return caller("post", f"/productions/{production.pk}/kit/{kind}", body, key=a_key())


def change(caller: Caller, row: Any, kind: str, **changes: Any) -> tuple[int, Any]:
    row.refresh_from_db()
    production = row.camera.production_id if kind == "mode" else row.production_id
    body = {"version": row.version, "changes": changes}
    return caller("patch", f"/productions/{production}/kit/{kind}/{row.pk}", body, key=a_key())


def problems(answer: Any) -> dict[str, str]:
    return {one["field"]: one["message"] for one in answer["problems"]}


def rows(caller: Caller, production: Production, kind: str) -> dict[str, dict[str, Any]]:
    found = caller("get", f"/productions/{production.pk}/kit")[1]["rows"][kind]
    return {one["values"]["name"]: one for one in found if not one["removed"]}


@pytest.fixture
def prime(production: Production) -> Lens:
    return Lens.objects.get(production=production, name="35 mm")


# --- entered


def test_the_kit_says_what_it_has_and_what_stands_on_it(guest: Caller, crew: Caller, production, mill):
    crew.take(mill)
    lens = mill.set_up.lens
    found = rows(guest, production, "lens")[lens.name]
    assert found["used"]["takes"] == 1 and "TM010" in found["used"]["shots"]
    assert found["used"]["set_ups"] == SetUp.objects.filter(lens=lens, shot__removed=False).count()
    said = guest("get", f"/productions/{production.pk}/kit")[1]
    assert {one["name"] for one in said["fields"]["lens"]} >= {"longest_mm", "closest_long_m", "dioptres"}


def test_a_camera_with_a_gate_by_name_and_crop(supervisor: Caller, production):
    camera = add(supervisor, production, "camera", name="Cine", base_iso=800)[1]["id"]
    mode = {"camera_id": camera, "name": "UHD", "recorded_width_px": 3840, "recorded_height_px": 2160}
    assert add(supervisor, production, "mode", **mode, gate="full", crop=1.5, highest_fps=59.94)[0] == 201
    made = RecordingMode.objects.get(camera=camera)
    # 36 mm ÷ 1.5 = 24 mm, and 9/16 of that as high
    assert (made.gate_width_mm, made.gate_height_mm) == (24.0, 13.5)
    assert made.highest_fps == 60000 / 1001
    upright = {**mode, "name": "upright", "recorded_width_px": 1080, "recorded_height_px": 1920}
    add(supervisor, production, "mode", **upright, gate="full")
    made = RecordingMode.objects.get(camera=camera, name="upright")
    assert (made.gate_width_mm, made.gate_height_mm) == (20.25, 36.0), "the camera is turned"


@pytest.mark.parametrize(
    ("kind", "fields", "field"),
    [
        ("camera", {"name": " "}, "name"),
        ("camera", {"name": "Camera A"}, "name"),
        ("camera", {"name": "X", "lowest_iso": 800, "highest_iso": 400}, "highest_iso"),
        ("camera", {"name": "X", "base_iso": 12800}, "base_iso"),
        ("lens", {**ZOOM, "longest_mm": 20}, "longest_mm"),
        ("lens", {**ZOOM, "smallest_f_number": 2}, "smallest_f_number"),
        ("lens", {**ZOOM, "closest_focus_m": -1}, "closest_focus_m"),
        ("lens", {**ZOOM, "camera_id": 999999}, "camera"),
        ("lens", {**ZOOM, "on_id": 999999, "dioptres": 2}, "lens"),
        ("mode", {"name": "X", "camera_id": 999999, "gate": "full"}, "recorded_width_px"),
        ("lamp", {"name": "X", "reading_lx": 400}, "reading_m"),
        ("lamp", {"name": "X", "reading_lx": 400, "reading_m": 1, "area_m2": 0.36}, "reading_m"),
        ("lamp", {"name": "X", "warmest_k": 5600, "coolest_k": 3200}, "coolest_k"),
        ("support", {"name": "X", "lowest_lens_m": 2}, "highest_lens_m"),
        ("filter", {"name": "X", "stops": 0}, "stops"),
        ("gear", {"name": "X", "colour": "green"}, "colour"),
        ("ship", {"name": "X"}, "kind"),
        ("lens", {**ZOOM, "brand": "none"}, "brand"),
    ],
)
def test_what_cannot_be_is_refused_at_its_field(
    supervisor: Caller, production, kind: str, fields: dict[str, Any], field: str
):
    status, said = add(supervisor, production, kind, **fields)
    assert status == 422 and field in problems(said), said


def test_a_lamp_is_what_a_meter_read_before_it(supervisor: Caller, production):
    add(supervisor, production, "lamp", name="found", reading_lx=450, reading_m=2, half_off_m=0.5)
    lamp = Lamp.objects.get(name="found")
    assert lamp.intensity_cd == 1800  # 450 · 2²
    assert change(supervisor, lamp, "lamp", reading_lx=900)[0] == 200
    lamp.refresh_from_db()
    assert lamp.intensity_cd == 3600
    change(supervisor, lamp, "lamp", gel="full blue", gel_mired=-137, gel_stops=1.6)
    lamp.refresh_from_db()
    assert lamp.record().intensity_cd == pytest.approx(3600 * 2**-1.6)
    assert lamp.record().coolest_k == pytest.approx(1e6 / (1e6 / 5600 - 137))


# --- a zoom on the Bench


def test_a_zoom_is_turned_on_the_bench_and_logged(supervisor: Caller, crew: Caller, production, mill):
    assert add(supervisor, production, "lens", **ZOOM)[0] == 201
    set_up = mill.set_up
    body = {"set_ups": {set_up.pk: edit(set_up.version, focal_length_mm=41.5, f_number=8)}}
    status, said = supervisor("post", f"/shots/{mill.shot_id}/changes", body)
    assert status == 200, said
    set_up.refresh_from_db()
    assert (set_up.lens.name, set_up.zoomed_mm) == ("zoom", 41.5)
    assert set_up.values()["focal_length_mm"] == 41.5
    crew.take(mill)
    take = Take.objects.filter(layer=mill).latest("pk")
    assert take.values()["focal_length_mm"] == 41.5
    body = {"set_ups": {set_up.pk: edit(set_up.version, focal_length_mm=35)}}
    supervisor("post", f"/shots/{mill.shot_id}/changes", body)
    set_up.refresh_from_db()
    assert (set_up.lens.name, set_up.zoomed_mm) == ("35 mm", None), "a prime before a zoom"
    status, said = supervisor(
        "post",
        f"/shots/{mill.shot_id}/changes",
        {"set_ups": {set_up.pk: edit(set_up.version, focal_length_mm=90)}},
    )
    assert status == 422 and "24–70" in problems(said)["focal_length_mm"]


def test_a_set_up_stays_where_it_stood_when_its_prime_is_a_zoom(supervisor: Caller, production, prime):
    standing = SetUp.objects.filter(lens=prime, shot__removed=False).first()
    assert standing
    assert change(supervisor, prime, "lens", focal_length_mm=28, longest_mm=70)[0] == 200
    standing.refresh_from_db()
    assert standing.values()["focal_length_mm"] == 35
    status, said = change(supervisor, prime, "lens", focal_length_mm=40)
    assert status == 422 and standing.shot.code in problems(said)["longest_mm"]
    prime.refresh_from_db()
    assert prime.focal_length_mm == 28


# --- what is put on


def test_what_is_put_on_a_lens_follows_it(supervisor: Caller, production, prime):
    status, _ = add(
        supervisor,
        production,
        "lens",
        name="",
        on_id=prime.pk,
        dioptres=2,
        **{name: ZOOM[name] for name in ("focal_length_mm", "widest_f_number", "smallest_f_number")},
        closest_focus_m=1,
    )
    assert status == 201
    near = Lens.objects.get(on=prime)
    assert near.name == "35 mm + 2 dioptres"
    assert near.focal_length_mm == pytest.approx(35 / 1.07) and near.farthest_focus_m == 0.5
    assert change(supervisor, prime, "lens", closest_focus_m=0.5)[0] == 200
    near.refresh_from_db()
    assert near.closest_focus_m == pytest.approx(1 / (2 + 1 / 0.5))
    assert problems(add(supervisor, production, "lens", **{**ZOOM, "on_id": near.pk, "dioptres": 1})[1])


def test_a_tube_and_a_lens_of_one_focal_length_are_told_apart_by_where_they_focus(
    supervisor: Caller, production, prime, mill
):
    add(supervisor, production, "lens", **{**ZOOM, "name": "tubed", "on_id": prime.pk, "tube_mm": 10})
    set_up = mill.set_up
    for focus_m, name in ((0.15, "tubed"), (1.0, "35 mm")):
        set_up.refresh_from_db()
        change_of = edit(set_up.version, focal_length_mm=35, focus_distance_m=focus_m)
        status, said = supervisor(
            "post", f"/shots/{mill.shot_id}/changes", {"set_ups": {set_up.pk: change_of}}
        )
        assert status == 200, said
        set_up.refresh_from_db()
        assert set_up.lens.name == name
    near = {"set_ups": {set_up.pk: edit(set_up.version, focus_distance_m=0.14)}}
    assert supervisor("post", f"/shots/{mill.shot_id}/changes", near)[0] == 200
    set_up.refresh_from_db()
    assert set_up.lens.name == "tubed", "focused nearer than the prime can, the tube is on"


def test_what_a_thing_belongs_to_stays(supervisor: Caller, production, prime):
    other = Lens.objects.get(production=production, name="50 mm")
    for on in (other, prime):
        status, said = change(supervisor, prime, "lens", on_id=on.pk, dioptres=2)
        assert status == 422 and "on_id" in problems(said)
    mode = RecordingMode.objects.filter(camera__name="Camera A").first()
    camera = Camera.objects.get(name="Camera B")
    assert "camera_id" in problems(change(supervisor, mode, "mode", camera_id=camera.pk)[1])


# --- retired


def test_a_retired_lens_leaves_the_kit_and_stays_where_it_is_used(
    supervisor: Caller, crew: Caller, production, mill
):
    lens, set_up = mill.set_up.lens, mill.set_up
    assert change(supervisor, lens, "lens", removed=True)[0] == 200
    production.refresh_from_db()
    kit = kit_of(set_up.mode.camera_id, production)
    assert kit.lens_of(lens.focal_length_mm) is None
    set_up.refresh_from_db()
    status, said = supervisor(
        "post",
        f"/shots/{mill.shot_id}/changes",
        {"set_ups": {set_up.pk: edit(set_up.version, iso=400)}},
    )
    assert status == 200, said
    crew.take(mill)  # and a take with it is logged
    assert Take.objects.filter(layer=mill).latest("pk").lens_id == lens.pk
    assert add(supervisor, production, "lens", **{**ZOOM, "name": lens.name})[0] == 201
    status, said = change(supervisor, lens, "lens", removed=False)
    assert status == 422 and "name" in problems(said), "its name was given to another"


def test_takes_keep_what_they_were(supervisor: Caller, crew: Caller, production, mill):
    crew.take(mill)
    take = Take.objects.filter(layer=mill).latest("pk")
    before = supervisor("get", f"/shots/{mill.shot_id}/log")[1]
    change(supervisor, mill.set_up.lens, "lens", smallest_f_number=16, distortion_pct=-9)
    fact = take.fact()
    assert fact is not None and fact.distortion_pct != -9
    after = supervisor("get", f"/shots/{mill.shot_id}/log")[1]
    taken = [[one["takes"] for one in said["layers"]] for said in (before, after)]
    assert taken[0] == taken[1]


def test_a_change_is_taken_back(supervisor: Caller, production, prime):
    change(supervisor, prime, "lens", closest_focus_m=0.2, note="serviced")
    newest = supervisor("get", f"/productions/{production.pk}/history")[1]["writes"][0]
    assert newest["title"] == "35 mm: closest focus, note"
    assert supervisor("post", f"/productions/{production.pk}/take-back", {"write": newest["id"]})[0] == 200
    prime.refresh_from_db()
    assert (prime.closest_focus_m, prime.note) == (0.3, "")


def test_grey_filters_are_those_that_one_has(supervisor: Caller, production):
    camera = Camera.objects.get(name="Camera A")
    for name, stops in (("ND 0.6", 2), ("ND 1.8", 6)):
        add(supervisor, production, "filter", name=name, stops=stops)
    production.refresh_from_db()
    assert kit_of(camera.pk, production).nd_stops == (0, 2, 6, 8)


# --- beginnings


def test_every_start_makes_a_kit_that_a_shot_stands_on(supervisor: Caller, stranger: Caller):
    made = stranger("post", "/films", {"values": {"title": "The Salt Road"}})[1]["id"]
    film = Production.objects.get(pk=made)
    said = stranger("get", f"/productions/{film.pk}/kit")[1]
    shot = Shot.objects.create(production=film, code="SR010", title="First", length_frames=48)
    status, refused = stranger("post", f"/shots/{shot.pk}/add", {"what": "layer"})
    assert status == 422 and "Kit" in refused["problems"][0]["message"]
    for start in said["starts"]:
        for _ in range(2):  # twice: two telephones
            body = {"version": version_of(film), "start": start["key"]}
            assert stranger("post", f"/productions/{film.pk}/kit-start", body, key=a_key())[0] == 201, start
    assert {one.name for one in Camera.objects.filter(production=film)} >= {"Telephone", "Telephone, 2"}
    assert stranger("post", f"/shots/{shot.pk}/add", {"what": "layer"})[0] == 201
    assert stranger.bench(shot)["layers"]


# --- in and out


def table(caller: Caller, production: Production) -> str:
    status, body = caller("get", f"/productions/{production.pk}/kit.csv")
    assert status == 200
    return body.decode() if isinstance(body, bytes) else str(body)


def take_in(caller: Caller, production: Production, text: str) -> tuple[int, Any]:
    body = {"version": version_of(production), "text": text}
    return caller("post", f"/productions/{production.pk}/kit-table", body, key=a_key())


def values(caller: Caller, production: Production) -> dict[str, Any]:
    return {
        kind: {
            name: {k: v for k, v in one["values"].items() if not k.endswith("_id")}
            for name, one in rows(caller, production, kind).items()
        }
        for kind in KINDS
    }


def test_the_kit_goes_out_and_into_another_film_as_it_was(supervisor: Caller, production, prime):
    add(supervisor, production, "lens", **ZOOM)
    add(supervisor, production, "lens", **{**ZOOM, "name": "tubed", "on_id": prime.pk, "tube_mm": 10})
    add(supervisor, production, "gear", name="=sheet", kind="backing", colour="#2f9e44")
    made = supervisor("post", "/films", {"values": {"title": "The Salt Road"}})[1]["id"]
    film = Production.objects.get(pk=made)
    status, said = take_in(supervisor, film, table(supervisor, production))
    assert status == 200, said
    assert values(supervisor, film) == values(supervisor, production)
    assert table(supervisor, film) == table(supervisor, production)
    status, again = take_in(supervisor, film, table(supervisor, production))
    assert (again["added"], status) == (0, 200)
    cells = next(
        row for row in csv.DictReader(io.StringIO(table(supervisor, film))) if row["gear_kind"] == "backing"
    )
    assert cells["name"] == "'=sheet", "no spreadsheet takes it for a formula"


@pytest.mark.parametrize(
    ("text", "said"),
    [
        ("", "names the columns"),
        ("a,b\n1,2", "no column “a”"),
        ("kind,name\nship,X", "Line 2, kind"),
        ("kind,name,focal_length_mm\nlens,X,long", "Line 2, focal_length_mm"),
        ("kind,name,on\nlens,X,Nothing", "no lens called “Nothing”"),
        ('kind,name\n"lens', "cannot be read"),
        ("kind,name\nlens,X,Y,Z", "more cells than columns"),
    ],
)
def test_a_table_that_cannot_be_read_changes_nothing(supervisor: Caller, production, text: str, said: str):
    before = values(supervisor, production)
    good = "kind;name;stops\nfilter;ND 0.3;1\n" if ";" in text else ""
    status, answer = take_in(supervisor, production, good + text)
    assert status == 422 and said in answer["problems"][0]["message"], answer
    assert values(supervisor, production) == before
