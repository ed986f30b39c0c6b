"""Planned, logged and measured side by side; a hero's frames as the reference; keep, mend, shoot again."""

from __future__ import annotations

import csv
import io
import zipfile
from xml.etree import ElementTree

import opentimelineio as otio
import pytest

from jungoptic.app.days.models import ShootingDay
from jungoptic.app.rushes.models import FrameDecision, FrameMeasure, Rush
from jungoptic.app.takes.models import Take

from .written import Demo


def table(caller, rush):
    status, told = caller("get", f"/recordings/{rush.recording_id}/rush")
    assert status == 200
    return told


def decided(caller, rush, **said):
    rush.refresh_from_db()
    body = {"version": rush.version, "what": "still", "amount": "moved", "choice": "", **said}
    return caller("post", f"/recordings/{rush.recording_id}/decisions", body)


@pytest.fixture
def bumped(production) -> Rush:
    demo = Demo()
    return demo.measured(demo.mill, "still", moved=2.3)


def test_a_measured_amount_stands_beside_what_was_planned_and_logged(guest, production):
    demo = Demo()
    rush = demo.measured(demo.mill, "grey", over_hero=-0.6)
    [line] = table(guest, rush)["columns"]
    mill = next(each for each in guest.bench(demo.shot)["layers"] if each["id"] == demo.mill.pk)
    planned = next(each for each in mill["items"] if each["item"] == "brightness")["amount_text"]
    assert (line["item"], line["measured_text"], line["error_text"]) == ("brightness", "0.6", "0.1")
    assert line["verdict"] == "shows" and line["to_do"] == "Open by 0.6 stop."
    assert line["planned_text"] == line["logged_text"] == planned
    still = demo.measured(demo.mill, "still", moved=2.3)
    assert [
        (each["label"], each["planned_text"], each["logged_text"], each["apart"])
        for each in table(guest, still)["columns"]
    ] == [("moved", "0", "0", True)]


def test_what_the_frames_of_a_hero_tell_judges_the_others_and_the_log_comes_back(
    supervisor, crew, production
):
    demo = Demo()
    rush = demo.measured(demo.hero(), "ball", azimuth=70.0, elevation=50.0)
    crew.take(demo.mill, circled=True)
    take = rush.recording.take

    def direction():
        layers = supervisor.bench(demo.shot)["layers"]
        mill = next(each for each in layers if each["id"] == demo.mill.pk)
        return next(each["amount_text"] for each in mill["items"] if each["item"] == "direction")

    def said(**more):
        take.refresh_from_db()
        body = {"version": take.version, "what": "ball", **more}
        return supervisor("post", f"/recordings/{rush.recording_id}/reference", body)

    logged = direction()
    judged = Take.objects.get(layer=demo.mill, circled=True).judgings.count()
    assert said()[0] == 200
    assert direction() != logged
    assert Take.objects.get(layer=demo.mill, circled=True).judgings.count() == judged + 1
    told = table(supervisor, rush)
    assert told["is_reference"] and told["reference_by"] == ["ball"]
    assert supervisor.bench(demo.shot)["hero_basis"].endswith(", measured")
    assert said(counts=False)[0] == 200
    assert direction() == logged and table(supervisor, rush)["reference_by"] == []
    status, refused = said(what="photograph")
    assert status == 422 and "was not measured of it yet" in str(refused)


def test_only_a_circled_take_of_the_hero_is_a_reference(supervisor, production):
    demo = Demo()
    rush = demo.measured(demo.mill, "ball", azimuth=40.0, elevation=20.0)
    body = {"version": rush.recording.take.version, "what": "ball"}
    status, refused = supervisor("post", f"/recordings/{rush.recording_id}/reference", body)
    assert status == 422 and "circled take of the hero" in str(refused)


def test_each_way_has_its_price_and_which_is_less_is_said(guest, production, bumped):
    status, ways = guest("get", f"/recordings/{bumped.recording_id}/ways")
    assert status == 200
    [mends] = ways["columns"]
    assert mends["mends"][0]["hours"] == 0.75  # the production's figure
    assert [cost["item"] for cost in mends["mends"][0]["costs"]] == ["sharpness", "focus_near"]
    assert ways["again"]["hours"] > 1 and "people" in ways["again"]["formula"]
    assert ways["says"].endswith("of mending, shoot again.")


def test_shooting_again_opens_the_job_and_says_when_it_could_be(supervisor, guest, production, bumped):
    ways = guest("get", f"/recordings/{bumped.recording_id}/ways")[1]
    days = ShootingDay.objects.filter(production=production, removed=False)
    assert ("at the soonest" in ways["again"]["when"]) == days.exists()
    take = bumped.recording.take
    assert take.circled and decided(supervisor, bumped, choice="again")[0] == 200
    take.refresh_from_db()
    assert not take.circled  # whose job is open again
    [line] = table(guest, bumped)["columns"]
    assert line["decided"]["choice"] == "again" and line["decided"]["hours"] == ways["again"]["hours"]


def test_a_decision_has_a_reason_and_stands_for_the_amount_that_was_seen(
    supervisor, crew, production, bumped
):
    assert decided(crew, bumped, choice="keep", reason="It is dark there.")[0] == 403
    status, refused = decided(supervisor, bumped, choice="keep")
    assert status == 422 and refused["problems"][0]["field"] == "reason"
    assert decided(supervisor, bumped, choice="mend", way="Pray")[0] == 422
    assert decided(supervisor, bumped, choice="keep", what="grain")[0] == 422
    assert decided(supervisor, bumped, choice="keep", reason=" It is dark there. ")[0] == 200
    assert table(crew, bumped)["columns"][0]["decided"]["reason"] == "It is dark there."
    assert decided(supervisor, bumped, choice="mend", way="Track it and lay it back")[0] == 200
    assert FrameDecision.objects.filter(withdrawn=False).count() == 1
    again = FrameMeasure.objects.get(rush=bumped)
    again.pk, again.told["amounts"][0]["value"] = None, 2.6
    again.save()
    assert table(crew, bumped)["columns"][0]["decided"] is None  # another amount brings the question back
    assert decided(supervisor, bumped, choice="")[0] == 200
    assert not FrameDecision.objects.filter(withdrawn=False).exists()


def test_mend_values_go_out_in_open_formats(guest, stranger, production, bumped):
    grade = FrameMeasure.objects.get(rush=bumped)
    grade.pk, grade.what = None, "change"
    grade.told = {
        **grade.told,
        "what": "change",
        "amounts": [
            {"name": name, "title": name, "value": value, "error": 0.01, "unit": "stop"}
            for name, value in (("green", 1.0), ("red", 0.0), ("blue", -1.0))
        ],
    }
    grade.save()
    clip = {
        "what": "clip",
        "says": "",
        "amounts": [],
        "assumptions": [],
        "overlays": [],
        "lines": [{"series": "camera", "says": "", "spots": [{"first": 3, "last": 4, "text": "2 px"}]}],
        "series": [
            {"name": name, "title": name, "unit": unit, "values": [None, 0.5], "every": 1}
            for name, unit in (("right", "px"), ("turn", "°"), ("light", "stop"))
        ],
    }
    Rush.objects.filter(pk=bumped.pk).update(clip=clip, says={**bumped.says, "frames": 2, "rate_fps": 24.0})
    shot = Demo().shot
    assert stranger("get", f"/shots/{shot.pk}/mends.zip")[0] == 404
    status, packed = guest("get", f"/shots/{shot.pk}/mends.zip")
    assert status == 200
    files = zipfile.ZipFile(io.BytesIO(packed))
    of = f"{shot.code}/"
    root = ElementTree.fromstring(files.read(f"{of}grades.ccc"))
    names = {"c": "urn:ASC:CDL:v1.01"}
    slope = root.findtext(".//c:SOPNode/c:Slope", namespaces=names)
    assert [float(each) for each in slope.split()] == [0.5, 0.5, 1.0]
    assert root.findtext(".//c:SatNode/c:Saturation", namespaces=names) == "1.0"
    [line] = csv.DictReader(io.StringIO(files.read(f"{of}values.csv").decode()))
    assert (line["layer"], line["slope_blue"]) == ("Mill 1:12", "1.0")
    frames = files.read(f"{of}frames/Mill-1-12.csv").decode().splitlines()
    assert frames == ["frame,right_px,turn_deg,light_stop", "0,,,", "1,0.5,0.5,0.5"]
    timeline = otio.adapters.read_from_string(files.read(f"{of}markers.otio").decode(), "otio_json")
    [own] = timeline.tracks
    texts = {marker.name: marker.marked_range.start_time.value for marker in own[0].markers}
    assert texts["camera: 2 px"] == 3 and any(text.startswith("moved 2.3") for text in texts)
    told = table(guest, bumped)
    assert told["values"] == ["Gain 0.5000, 0.5000, 1.0000 (red, green, blue; linear)"]
    assert [each["name"] for each in told["clip"]["series"]] == ["light"]
