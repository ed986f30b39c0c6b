"""The demo's footage: filmed with faults that are known, read, filed, looked at, measured and decided."""

from __future__ import annotations

import re

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile

from jungoptic.app.demo import animated, filmed, footage, hyperlapse
from jungoptic.app.footage.models import Recording
from jungoptic.app.frames.models import Exposure, Pose
from jungoptic.app.jobs.models import Job
from jungoptic.app.people.models import Person
from jungoptic.app.rushes.models import FrameDecision, Rush
from jungoptic.app.shots.models import Shot
from tests.jobs import done


def test_the_faults_that_were_filmed_are_found_and_one_shot_is_finished(
    settings, tmp_path, monkeypatch, crew, production
):
    settings.SIMULATED_CARDS = tmp_path / "cards"
    settings.CARDS, settings.FOOTAGE = [settings.SIMULATED_CARDS], tmp_path / "footage"
    for name, small in (("WIDTH_PX", 640), ("HEIGHT_PX", 360), ("FRAMES", 12)):
        monkeypatch.setattr(footage, name, small)
    monkeypatch.setattr(hyperlapse, "WIDTH_PX", 640)
    monkeypatch.setattr(hyperlapse, "PHOTOGRAPHS", 6)
    kept = {name: filmed.BEFORE[name] for name in ("Table, locked off", "Orla on green")}
    monkeypatch.setattr(filmed, "BEFORE", kept)
    camera = Person.objects.get(username="camera")
    filmed.film_before(production, camera)
    footage.ask_for_footage(production)
    job = Job.objects.get(kind=footage.demo_footage.name)
    assert done(job.pk).state == "ready"
    circled = Recording.objects.filter(take__circled=True)
    # of two evenings, and of the plate that the Heron is animated into
    assert circled.count() == 6 and Rush.objects.filter(fault="").count() == 6
    footage.ask_for_footage(production)
    assert Job.objects.filter(kind=footage.demo_footage.name).count() == 1  # once is enough

    def table(code, layer):
        row = circled.get(take__layer__shot__code=code, take__layer__name=layer)
        told = crew("get", f"/recordings/{row.pk}/rush")[1]
        return {(line["what"], line["amount"]): line for line in told["columns"]}

    frames = Exposure.objects.filter(pose__sheet__layer__name=animated.LAYER)
    told = {
        (row.pose.place + 1, row.chosen): {each["what"] for each in row.watched["warnings"]}
        for row in frames.exclude(watched=None)
        if row.watched["warnings"]
    }
    off = range(animated.NUDGED, animated.REBUILT_AT)  # from the nudge on, until the set was built up again
    assert told == {
        (animated.HAND, False): {"left"},
        (animated.BOUNCED, True): {"side"},
        **{(number, True): {"camera"} for number in off},
        (animated.REBUILT_AT, True): {"camera", "light"},
    }
    assert frames.filter(chosen=True).count() == animated.PHOTOGRAPHED
    # the next frame, by the desk's own camera, goes on from there
    pose = Pose.objects.filter(sheet__layer__name=animated.LAYER)[animated.PHOTOGRAPHED]
    frame = animated.ON * animated.PHOTOGRAPHED + 1
    seen = crew.client.get(f"/api/exposure-sheets/{pose.sheet_id}/simulated.jpg?frame={frame}&width=1920")
    body = {"file": SimpleUploadedFile("next.jpg", seen.content)}
    assert crew.client.post(f"/api/poses/{pose.pk}/exposures", body).json()["watched"]["warnings"] == []
    sheet = table("TM020", "Orla")["evenness", "evenness"]
    assert sheet["verdict"] == "shows" and sheet["kit"] == "lamp"
    assert sheet["points_to"].startswith("Soft panel 2 gives 0.")
    within = re.search(r"then within ([\d.]+) stop", sheet["to_do"])
    assert within is None or float(within[1]) < float(sheet["measured_text"]), "of the same part of the sheet"
    orla = circled.get(take__layer__shot__code="TM020", take__layer__name="Orla").take.layer
    photographed = crew("get", f"/layers/{orla.pk}/sheet")[1]
    assert photographed["says"].startswith("Soft panel 2 gives 0.") and photographed["found"]
    moved = table("TM030", "Orla, left half")["still", "moved"]
    assert float(moved["measured_text"]) == pytest.approx(1.3, abs=float(moved["error_text"]))
    assert moved["decided"]["choice"] == "keep" and moved["decided"]["reason"] == footage.KEPT_BECAUSE
    cup = Shot.objects.get(code="TM030", production=production)
    checks = crew("get", f"/shots/{cup.pk}/rushes")[1]["checks"]
    assert {each["verdict"] for each in checks} == {"holds"}
    assert FrameDecision.objects.filter(rush__recording__take__layer__shot=cup).exists()
