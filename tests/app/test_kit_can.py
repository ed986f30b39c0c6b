"""What the kit can do over the wire, and what one thing more would open up, as the workers find it."""

from __future__ import annotations

from typing import Any

import pytest

from jungoptic.app.jobs.models import Job
from jungoptic.app.kit.models import Gear, Lamp, Lens, RecordingMode
from jungoptic.app.kit.reading import kit_of
from jungoptic.app.productions.models import Production
from jungoptic.app.shelf.opened import kit_opened
from jungoptic.app.shots.models import Layer, Shot
from tests.jobs import done

from .conftest import Caller, edit


def table(caller: Caller, production: Production, query: str = "") -> dict[str, Any]:
    status, said = caller("get", f"/productions/{production.pk}/kit-abilities?{query}")
    assert status == 200, said
    return said  # type: ignore[no-any-return]


def test_every_camera_by_every_lens_that_goes_on_it(guest: Caller, production):
    said = table(guest, production)
    assert [one["name"] for one in said["cameras"]] == ["Camera A", "Camera B", "Telephone"]
    first = said["cameras"][0]["modes"]
    assert [one["name"] for one in first] == ["3840 × 2160", "1920 × 1080"]
    assert first[1]["smallest_scale"] == "1:25"  # (120/24)²
    lenses = {one["name"]: one for one in first[0]["lenses"]}
    # 2·atan(23.5 / 70) by hand, the gate of 16:9 within 23.5 × 13.2
    assert lenses["35 mm"]["view"] == "37.1°" and len(lenses) == 6
    assert (said["stop"], lenses["35 mm"]["reaches"], lenses["35 mm"]["reaches_scale"]) == (
        "f/96",
        False,
        "1:2.75",
    )
    telephone = said["cameras"][2]["modes"][0]["lenses"]
    assert [one["name"] for one in telephone] == ["telephone's 6.9 mm"], "its own lens and no other"
    assert float(first[0]["hours"]) > 0


def test_what_is_asked_changes_what_is_said(guest: Caller, production):
    said = table(guest, production, "scale=4&f_number=4&units=imperial&card_gb=256&iso=1600")
    lens = said["cameras"][0]["modes"][0]["lenses"][0]
    assert (said["rate"], said["stop"], lens["reaches"]) == ("48", "f/16", True)
    assert "fc" in lens["light"] and "in" in lens["narrowest"]
    whole, half = (
        float(table(guest, production, f"card_gb={gb}")["cameras"][0]["modes"][0]["hours"])
        for gb in (256, 128)
    )
    assert abs(whole - 2 * half) < 0.1
    status, refused = guest("get", f"/productions/{production.pk}/kit-abilities?scale=0")
    assert status == 422 and "scale" in refused["problems"][0]["field"]


def test_a_zoom_has_both_its_ends_and_what_is_retired_is_gone(supervisor: Caller, production):
    Lens.objects.create(
        production=production,
        name="zoom",
        focal_length_mm=24,
        longest_mm=70,
        widest_f_number=2.8,
        smallest_f_number=22,
        closest_focus_m=0.38,
    )
    Lens.objects.filter(production=production, name="18 mm").update(removed=True)
    lenses = {one["name"]: one for one in table(supervisor, production)["cameras"][0]["modes"][0]["lenses"]}
    assert lenses["zoom"]["view"] == "52.1–19°" and "18 mm" not in lenses


def look(caller: Caller, production: Production) -> dict[str, Any]:
    status, job = caller("post", f"/productions/{production.pk}/kit-opened", {})
    assert status == 202, job
    ready = done(job["id"])
    assert ready.state == "ready", ready.message
    return caller("get", f"/productions/{production.pk}/kit-opened")[1]  # type: ignore[no-any-return]


def test_a_faster_camera_opens_what_falls(supervisor: Caller, production, mill: Layer):
    """With no camera that runs faster than the film, the 1:12 model whose water falls shows; 120 frames/s let
    it hold, and none of the others does.
    """
    before = supervisor("get", f"/productions/{production.pk}/kit-opened")[1]
    assert before == {"job": None, "found": None, "stale": False}
    Shot.objects.filter(production=production).exclude(code="TM010").update(removed=True)
    status, said = supervisor(
        "post", f"/shots/{mill.shot_id}/changes", {"layers": {mill.pk: edit(mill.version, driver="gravity")}}
    )
    assert status == 200, said
    whole = look(supervisor, production)["found"]
    RecordingMode.objects.filter(camera__production=production).update(highest_fps=24)
    Production.objects.filter(pk=production.pk).update(revision=production.revision + 1000)
    assert supervisor("get", f"/productions/{production.pk}/kit-opened")[1]["stale"]
    found = look(supervisor, production)["found"]
    (shot,) = found["shots"]
    assert (shot["code"], shot["before"], found["holding"]) == ("TM010", "shows", 0)
    assert "faster" in shot["after"], shot
    titles = {one["key"]: one["title"] for one in found["additions"]}
    assert titles["faster"] == "120 frames/s" and "lamp" in titles
    fewer = {key: count for key, count in shot["shows_after"].items() if count < shot["shows"]}
    assert set(fewer) == {"faster"}
    assert whole["holding"] + len(whole["shots"]) == 1


def test_it_is_stopped_like_any_job(supervisor: Caller, production):
    job = supervisor("post", f"/productions/{production.pk}/kit-opened", {})[1]
    supervisor("delete", f"/jobs/{job['id']}")
    assert done(job["id"]).state == "stopped"
    seen = supervisor("get", f"/productions/{production.pk}/kit-opened")[1]
    assert (seen["job"]["state"], seen["found"]) == ("stopped", None)
    assert Job.objects.filter(kind=kit_opened.name).count() == 1


# --- an upright film


def upright(caller: Caller, start: str) -> tuple[Production, RecordingMode]:
    film = {"title": "Upright", "delivery_width_px": 1080, "delivery_height_px": 1920}
    made = caller("post", "/films", {"values": film})[1]["id"]
    assert caller("post", f"/productions/{made}/kit-start", {"start": start})[0] == 201
    modes = RecordingMode.objects.filter(camera__production=made)
    return Production.objects.get(pk=made), modes.order_by("-recorded_width_px", "pk")[0]


def test_in_an_upright_film_cameras_are_turned(stranger: Caller):
    film, mode = upright(stranger, "telephone")
    assert (mode.name, mode.recorded_width_px, mode.recorded_height_px) == ("2160 × 3840", 2160, 3840)
    # the telephone's 9.8 × 7.3 mm on its side: 9/16 of 9.8 across, by hand
    assert (mode.gate_width_mm, mode.gate_height_mm) == pytest.approx((5.5125, 9.8), abs=0.001)
    assert stranger("get", f"/productions/{film.pk}/kit")[1]["new_mode"]["recorded_width_px"] == 2160
    said = table(stranger, film)["cameras"][0]["modes"][0]["lenses"][0]
    # 2·atan(5.5125 / 13.8), by hand
    assert said["view"] == "43.5°"


def test_a_camera_that_lies_gives_an_upright_film_what_stands_in_its_gate(stranger: Caller):
    film, mode = upright(stranger, "mirrorless")
    lying = {
        "recorded_width_px": 3840,
        "recorded_height_px": 2160,
        "gate_width_mm": 23.5,
        "gate_height_mm": 13.2,
    }
    RecordingMode.objects.filter(camera=mode.camera_id).update(**lying)
    shot = Shot.objects.create(production=film, code="UP010", title="Upright", length_frames=48)
    status, answer = stranger("post", f"/shots/{shot.pk}/add", {"what": "layer", "fields": {"name": "Plate"}})
    assert status == 201, answer
    set_up = shot.set_ups.get()
    assert set_up.extraction_width_mm == 7.425  # 13.2 · 9/16
    edges = [
        item
        for layer in stranger.bench(shot)["layers"]
        for item in layer["items"]
        if item["item"] == "edges" and item["verdict"] == "shows"
    ]
    assert edges == []


# --- what there is to light with


def test_what_is_on_the_shelf_is_offered_on_set(supervisor: Caller, production, mill: Layer):
    def add(what: str, **fields: Any) -> int:
        status, said = supervisor("post", f"/productions/{production.pk}/kit/{what}", {"fields": fields})
        assert status == 201, said
        return int(said["id"])

    add("gear", name="green sheet", kind="backing", colour="#2f9e44", width_m=4, height_m=3)
    add("gear", name="silk", kind="diffusion", stops=1.5)
    add("gear", name="grey ball", kind="ball")
    gone = add("gear", name="old sheet", kind="backing")
    Gear.objects.filter(pk=gone).update(removed=True)
    Lamp.objects.filter(production=production, name="300 W spot").update(removed=True)
    said = supervisor("get", f"/productions/{production.pk}/on-set")[1]
    assert "300 W spot" not in [one["name"] for one in said["lamps"]] and said["lamps"]
    assert [(one["name"], one["stops"]) for one in said["diffusion"]] == [("silk", 1.5)]
    assert said["references"] == ["grey ball"]
    (sheet,) = said["sheets"]
    assert (sheet["colour"], sheet["width_m"], sheet["reflectance"]) == ("#2f9e44", 4, None)


def test_the_longest_travel_of_the_supports_is_the_kit_s(supervisor: Caller, production, mill: Layer):
    assert kit_of(mill.set_up.mode.camera_id, production).travel_m is None
    for name, travel_m in (("slider", 0.8), ("track", 6)):
        fields = {"name": name, "lowest_lens_m": 0.2, "highest_lens_m": 1.5, "travel_m": travel_m}
        supervisor("post", f"/productions/{production.pk}/kit/support", {"fields": fields})
    production.refresh_from_db()
    assert kit_of(mill.set_up.mode.camera_id, production).travel_m == 6
