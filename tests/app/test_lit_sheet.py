"""One photograph of a lit sheet: read by itself, by its set-up; marked by hand; what is wrong with it."""

from __future__ import annotations

from typing import Any

import cv2
import numpy as np
import pytest
from django.core.files.uploadedfile import SimpleUploadedFile

from jungoptic.app.jobs.models import Job
from jungoptic.app.productions.models import ToleranceChange
from jungoptic.app.rushes.models import SheetRead
from jungoptic.app.shots.models import Layer
from jungoptic.app.takes.table import BenchTable, shot_to_look_at
from jungoptic.core.match import Match
from tests.core.telephone import BALL, CORNERS, SIZE, by_telephone, with_level
from tests.jobs import done

from .conftest import Caller

SIDES = np.array([SIZE[1], SIZE[0]])


@pytest.fixture
def orla(production) -> Layer:
    return Layer.objects.get(name="Orla", shot__code="TM020", shot__production=production)


def photograph(layer: Layer, lamp: str = "", stops: float = 0.0, **how: Any) -> SimpleUploadedFile:
    """A photograph of a layer's lit sheet, with one of its lamps weaker than planned."""
    table = BenchTable(shot_to_look_at(layer.shot_id), school="measured", units="metric", basis="planned")
    own = next(each for each in table.layers if each.pk == layer.pk)
    setup = table.set_up_record(own)
    level = next((each.level for each in setup.lamps if each.name == lamp), 1.0)
    plan = table.match(own)
    weak = Match(plan.hero, plan.layer, with_level(setup, lamp, level * 2.0**-stops), plan.delivery)
    _, signal = by_telephone(weak, body=True, **how)
    _, made = cv2.imencode(".jpg", np.round(255 * signal[..., ::-1]).astype(np.uint8))
    return SimpleUploadedFile("sheet.jpg", made.tobytes())


def kept(caller: Caller, layer: Layer, file: SimpleUploadedFile, of: str = "sheet") -> int:
    answer = caller.client.post(f"/api/layers/{layer.pk}/stills", {"file": file, "of": of})
    assert answer.status_code == 201, answer.content
    return int(answer.json()["id"])


def read(caller: Caller, layer: Layer) -> Any:
    """What its photograph tells, after what was asked of it by itself."""
    assert caller("get", f"/layers/{layer.pk}/sheet")[1]["reads"]
    job = Job.objects.filter(kind="read_sheet").latest("pk")
    assert done(job.pk).state == "ready"
    return caller("get", f"/layers/{layer.pk}/sheet")[1]


def test_a_photograph_says_which_lamp_gives_less_before_anybody_is_called(crew: Caller, orla):
    before = crew("get", f"/layers/{orla.pk}/sheet")[1]
    assert before["has_sheet"] and before["still_id"] is None and not before["reads"]
    still = kept(crew, orla, photograph(orla, "soft panel 1", 0.6))
    told = read(crew, orla)
    assert told["still_id"] == still and not told["fault"] and not told["reads"]
    weak = next(each for each in told["lamps"] if each["name"] == "soft panel 1")
    stops, off = (float(each) for each in weak["text"].removesuffix(" stop").replace("−", "-").split(" ± "))
    rounded = 0.005  # what is read is said to two places, the error to one figure
    assert weak["differs"] and stops == pytest.approx(-0.6, abs=off + rounded)
    assert told["says"].startswith("Soft panel 1 gives 0.")
    assert told["keys"].startswith("It keys") and "edge" not in told["keys"]
    assert told["found"] and np.array(told["corners"]) * SIDES == pytest.approx(CORNERS, abs=1.5)
    evenness = next(each for each in told["lines"] if each["amount"] == "evenness")
    assert evenness["verdict"] == "shows" and float(evenness["measured_text"]) > 1.0
    production_id = orla.shot.production_id
    ToleranceChange.objects.create(production_id=production_id, item="evenness", holds=9.0, tight=10.0)
    lines = crew("get", f"/layers/{orla.pk}/sheet")[1]["lines"]
    assert {each["amount"]: each["verdict"] for each in lines}["evenness"] == "holds"


def test_what_is_marked_by_hand_is_read_again_and_kept(crew: Caller, orla):
    still = kept(crew, orla, photograph(orla, "soft panel 1", 0.6, ball=(0.5, 0.5, 0.7071)))
    assert read(crew, orla)["light"] == ""
    x, y, radius = BALL
    marked = {
        "corners": (CORNERS / SIDES + 0.002).tolist(),
        "ball": [[x / SIDES[0], y / SIDES[1]], [(x + radius) / SIDES[0], y / SIDES[1]]],
    }
    status, job = crew("post", f"/stills/{still}/sheet", marked)
    assert status == 202 and done(job["id"]).state == "ready"
    told = crew("get", f"/layers/{orla.pk}/sheet")[1]
    assert not told["found"] and told["corners"] == marked["corners"] and told["ball"] == marked["ball"]
    assert told["light"].startswith("The key comes from 3") and "the plan's" in told["light"]
    assert any(each["amount"] == "direction" for each in told["lines"])
    assert any(each["kind"] == "circle" for each in told["overlays"])
    # a ball that is none leaves what was read before
    nowhere = {**marked, "ball": [[0.01, 0.01], [0.0101, 0.01]]}
    failed = done(crew("post", f"/stills/{still}/sheet", nowhere)[1]["id"])
    assert failed.state == "failed" and "ball" in failed.message
    assert crew("get", f"/layers/{orla.pk}/sheet")[1] == told


@pytest.mark.parametrize(
    ("field", "marked"),
    [
        ("corners", {"corners": [[0.1, 0.1], [0.9, 0.1]]}),
        ("corners", {"corners": [[7.0, 0.1], [0.9, 0.1], [0.9, 0.9], [0.1, 0.9]]}),
        ("ball", {"ball": [[0.5, 0.5]]}),
    ],
)
def test_marks_that_are_none_are_said_at_their_field(crew: Caller, orla, field, marked):
    still = kept(crew, orla, photograph(orla))
    status, said = crew("post", f"/stills/{still}/sheet", marked)
    assert status == 422 and said["problems"][0]["field"] == field


def test_where_there_is_no_sheet_it_says_what_to_do(crew: Caller, orla, mill):
    kept(crew, mill, photograph(orla))
    told = read(crew, mill)
    assert not told["has_sheet"] and told["lines"] == []
    assert told["fault"].startswith("The set-up of Mill 1:12 has no sheet. Place its sheet")


def test_a_picture_of_something_else_says_so(crew: Caller, orla):
    black = SimpleUploadedFile(
        "black.png", cv2.imencode(".png", np.zeros((90, 160, 3), np.uint8))[1].tobytes()
    )
    kept(crew, orla, black)
    assert "black" in read(crew, orla)["fault"]


def test_only_what_is_kept_as_a_sheet_is_read_also_when_that_is_said_later(crew: Caller, orla):
    still = kept(crew, orla, photograph(orla), of="set")
    assert not Job.objects.filter(kind="read_sheet").exists()
    assert crew("post", f"/stills/{still}/sheet", {})[0] == 422
    assert crew("patch", f"/stills/{still}", {"of": "sheet", "version": 1})[0] == 200
    assert read(crew, orla)["still_id"] == still
    assert crew("patch", f"/stills/{still}", {"removed": True, "version": 2})[0] == 200
    assert crew("get", f"/layers/{orla.pk}/sheet")[1]["still_id"] is None
    assert crew("post", f"/stills/{still}/sheet", {})[0] == 404
    assert SheetRead.objects.filter(still=still).count() == 1
