"""The other layers of a shot beside what is animated: what is photographed of their own sheets and their best
takes, each where the delivered frame has it, and from which of its frames on.
"""

from __future__ import annotations

from typing import Any

import pytest

from jungoptic.app.frames.models import Exposure, ExposureSheet, Pose, SheetClip
from jungoptic.app.rushes.models import Rush
from jungoptic.app.shots.models import Layer
from jungoptic.app.takes.models import Take

from .conftest import Caller
from .test_frames import poses, sent, sheet, simulated
from .test_taken_back import back, newest
from .written import Demo

__all__ = ["poses"]
QUAY = "Quay and water"


def quay() -> Layer:
    return Layer.objects.get(shot__code="TM050", name=QUAY)


def filmed(layer: Layer, circled: bool = True) -> int:
    """A take of a layer, of which there is a film that can be gone through: its recording."""
    assert Caller("camera").take(layer, circled=circled)
    film = Demo().watched_film()
    take = Take.objects.filter(layer=layer).latest("pk")
    proxy, says = film.rush.proxy, film.rush.says
    film.pk, film.path, film.take = None, f"{layer.pk} {take.number}.MP4", take
    film.save()
    Rush.objects.create(recording=film, says=says, proxy=proxy)
    return film.pk


def beside(caller: Caller) -> list[Any]:
    return sheet(caller)["beside"]


def begins(caller: Caller, recording: int, first_frame: int) -> tuple[int, Any]:
    now = sheet(caller)
    body = {"version": now["version"], "use": "layer", "recording_id": recording, "first_frame": first_frame}
    return caller("post", f"/exposure-sheets/{now['id']}/clips", body)


def test_a_layer_that_is_filmed_is_seen_by_its_best_take_behind_what_is_animated(crew: Caller, poses):
    assert beside(crew) == []
    circled = filmed(quay())
    filmed(quay(), circled=False)
    [told] = beside(crew)
    assert (told["name"], told["in_front"], told["laid"], told["poses"]) == (QUAY, False, "whole", [])
    film = told["clip"]
    assert (film["recording_id"], film["clip_id"], film["first_frame"]) == (circled, None, 1)
    # the plate's camera fills the frame; the Heron's is laid so that its ground is the plate's
    assert told["laid_px"][0::2] == pytest.approx([0, 1920], abs=0.01)
    now = sheet(crew)
    assert now["laid_px"][2] == pytest.approx(now["gate_px"][0]) and now["backing"] == "blue"


def test_its_film_begins_elsewhere_once_for_each_layer_and_is_taken_back(crew: Caller, poses, production):
    circled, other = filmed(quay()), filmed(quay(), circled=False)
    assert begins(crew, circled, 9)[0] == 201
    [told] = beside(crew)
    assert told["clip"]["first_frame"] == 9
    change = {"version": told["clip"]["version"], "first_frame": 12}
    assert crew("patch", f"/sheet-clips/{told['clip']['clip_id']}", change)[0] == 200
    assert beside(crew)[0]["clip"]["first_frame"] == 12
    # another take in its place
    assert begins(crew, other, 3)[0] == 201
    assert SheetClip.objects.filter(use="layer", removed=False).count() == 1
    assert beside(crew)[0]["clip"]["recording_id"] == other
    assert back(crew, production, write=newest(crew, production)["id"])[0] == 200
    assert beside(crew)[0]["clip"]["first_frame"] == 12
    # it is not among what lies beneath or beside
    assert sheet(crew)["clips"] == []


def test_only_takes_of_other_layers_of_the_shot_are_layers_of_it(crew: Caller, poses):
    elsewhere = Demo().watched_film().pk
    own = filmed(Layer.objects.get(shot__code="TM050", name="Heron 1:4"))
    for wrong in (elsewhere, own):
        status, said = begins(crew, wrong, 2)
        assert (status, said["problems"][0]["field"]) == (422, "recording_id")
    circled = filmed(quay())
    begins(crew, circled, 2)
    clip = SheetClip.objects.get(use="layer", removed=False)
    change = {"version": clip.version, "recording_id": own}
    assert crew("patch", f"/sheet-clips/{clip.pk}", change)[0] == 422
    assert beside(crew)[0]["clip"]["recording_id"] == circled


def test_a_layer_of_frames_is_seen_by_what_is_shown_of_each_pose(crew: Caller, poses):
    status, made = sent(crew, poses[0], simulated(crew, poses[0]))
    assert status == 201
    # a second figure, animated in front of the Heron on threes
    place = Layer.objects.get(shot__code="TM050", name="Heron 1:4").place
    gull = quay()
    gull.pk, gull.is_hero, gull.kind, gull.combine, gull.name = None, False, "frame_by_frame", "add", "Gull"
    gull.place = 90
    gull.save()
    other = ExposureSheet.objects.create(layer=gull)
    lines = [Pose.objects.create(sheet=other, rank=rank, hold=3) for rank in (10, 20, 30)]
    source = Exposure.objects.get(pk=made["id"])
    shown = {}
    for at, pose in ((0, lines[0]), (2, lines[2])):
        for chosen in (False, True):
            source.pk, source.pose, source.chosen = None, pose, chosen
            source.save()
        shown[at] = source.pk
    [told] = beside(crew)
    assert (told["name"], told["laid"], told["in_front"]) == ("Gull", "added", place > 90)
    assert told["clip"] is None
    assert told["poses"] == [
        {"frame": 1, "hold": 3, "exposure_id": shown[0]},
        {"frame": 7, "hold": 3, "exposure_id": shown[2]},
    ]
