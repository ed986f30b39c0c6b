"""From which frame to which a recording counts, said by hand; marks that are proposed."""

from __future__ import annotations

from pathlib import Path
from typing import Any

import numpy as np
import pytest

from jungoptic.app.footage.models import Card, Recording
from jungoptic.app.jobs.models import Job
from jungoptic.app.rushes.models import Rush
from tests.core.filmed import laid, noised, photograph, write
from tests.jobs import done

from .conftest import Caller
from .test_rushes_come import card, filed, looked_at  # noqa: F401

FRAMES, BUMPED_FROM = 20, 12


@pytest.fixture
def bumped(card: Card, take: Any, crew: Caller, production) -> Recording:  # noqa: F811
    """A clip in which somebody touches the tripod towards its end."""
    still, away = (0.5 * laid(photograph("coffee"), shift) for shift in ((0.0, 0.0), (3.0, 0.0)))
    seen = [noised(away if n >= BUMPED_FROM else still, 0.02, n) for n in range(FRAMES)]
    write(str(Path(card.place) / "bumped.mp4"), seen, 14)
    row = filed(card, take, "bumped.mp4")
    looked_at(crew, production)
    return row


def rush_of(crew: Caller, row: Recording) -> Any:
    return crew("get", f"/recordings/{row.pk}/rush")[1]


def measured_again() -> None:
    """What follows from saying which frames count."""
    job = Job.objects.filter(kind="look_at_rushes").latest("pk")
    assert done(job.pk).state == "ready"


def moved(crew: Caller, row: Recording) -> float:
    asked = {"what": "still"}
    job = done(crew("post", f"/recordings/{row.pk}/measures", asked)[1]["id"])
    assert job.state == "ready", job.message
    return float(next(each for each in rush_of(crew, row)["measured"])["amounts"][0]["value"])


def test_frames_that_do_not_count_are_measured_no_more(crew: Caller, bumped, production):
    share = production.delivery_width_px / 640
    before = rush_of(crew, bumped)
    assert (before["begins"], before["ends"], before["counts_said"]) == (0, FRAMES - 1, False)
    assert "stood still" not in before["clip"]["says"]
    assert moved(crew, bumped) == pytest.approx(3.0 * share, abs=0.1 * share)
    said = {"first": 2, "last": BUMPED_FROM - 1, "version": before["version"]}
    assert crew("post", f"/recordings/{bumped.pk}/frames", said)[0] == 200
    measured_again()
    after = rush_of(crew, bumped)
    assert (after["begins"], after["ends"], after["counts_said"]) == (2, BUMPED_FROM - 1, True)
    assert "stood still" in after["clip"]["says"]
    values = after["clip"]["series"][0]["values"]
    assert values[:2] == [None, None] and len(values) == BUMPED_FROM
    assert after["frames"] == FRAMES, "the film that is looked at has all of them"
    assert moved(crew, bumped) < 0.15 * share
    flicker = done(crew("post", f"/recordings/{bumped.pk}/measures", {"what": "flicker"})[1]["id"])
    assert flicker.state == "ready"
    # and back again
    assert crew("post", f"/recordings/{bumped.pk}/frames", {"version": after["version"]})[0] == 200
    measured_again()
    assert rush_of(crew, bumped)["clip"] == before["clip"]


def test_frames_that_count_go_back_as_every_write_does(crew: Caller, bumped, production):
    said = {"first": 2, "last": 9, "version": rush_of(crew, bumped)["version"]}
    _, kept = crew("post", f"/recordings/{bumped.pk}/frames", said)
    assert Rush.objects.get(recording=bumped).counts == [2, 9]
    assert crew("post", f"/productions/{production.pk}/take-back", {"write": kept["write"]})[0] == 200
    assert Rush.objects.get(recording=bumped).counts == []


@pytest.mark.parametrize(
    ("said", "word"),
    [
        ({"first": 9, "last": 9}, "must come after"),
        ({"first": 3, "last": FRAMES}, f"0 to {FRAMES - 1}"),
        ({"first": 3}, "or neither"),
    ],
)
def test_frames_that_are_not_there_are_said_at_their_field(crew: Caller, bumped, said, word):
    body = {**said, "version": rush_of(crew, bumped)["version"]}
    status, told = crew("post", f"/recordings/{bumped.pk}/frames", body)
    assert status == 422 and told["problems"][0]["field"] == "last"
    assert word in told["problems"][0]["message"]


def test_what_is_found_is_proposed_until_it_is_marked(crew: Caller, card, take, production):  # noqa: F811
    picture = 0.4 * laid(photograph("coffee"))
    picture[30:330, 140:560] = (0.04, 0.35, 0.06)
    picture[200:330, 300:340] = (0.3, 0.2, 0.15)
    write(str(Path(card.place) / "sheet.mp4"), [noised(picture, 0.01, n) for n in range(4)], 14)
    row = filed(card, take, "sheet.mp4")
    looked_at(crew, production)
    proposed = {each["kind"]: each["places"] for each in rush_of(crew, row)["proposed"]}
    wanted = [[140 / 640, 30 / 360], [560 / 640, 330 / 360]]
    assert np.ravel(proposed["backing"]) == pytest.approx(np.ravel(wanted), abs=0.01)
    assert {"backing", "grain", "point"} <= set(proposed)
    mark = {"kind": "backing", "places": proposed["backing"]}
    assert crew("post", f"/set-ups/{take.layer.set_up_id}/frame-marks", mark)[0] == 200
    told = rush_of(crew, row)
    assert "backing" not in {each["kind"] for each in told["proposed"]} and mark in told["marks"]
