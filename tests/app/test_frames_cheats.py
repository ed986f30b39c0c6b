"""What was moved for reach: recorded and taken back, what it comes to at the desk's own lamps, across the cut
to a shot of the same place, in what the simulated camera sees, and in what goes out.
"""

from __future__ import annotations

import csv
import io
import math
from typing import Any

import pytest

from jungoptic.app.demo.animated import CHEATS
from jungoptic.app.frames.models import SheetCheat
from jungoptic.app.productions.models import Place
from jungoptic.app.shots.models import PlacedLamp, Shot

from .conftest import Caller
from .test_frames import poses, sent, sheet, simulated, whats
from .test_frames_out import packed
from .test_taken_back import back, newest
from .written import Demo

__all__ = ["poses"]
LAMP = "soft panel 1"


@pytest.fixture
def bare(production) -> None:
    """The sheet of the Heron before anything was moved."""
    Demo().exposure_sheet()
    SheetCheat.objects.all().delete()


def recorded(caller: Caller, **more: Any) -> tuple[int, Any]:
    now = sheet(caller)
    body = {"kind": "lamp", "name": LAMP, "version": now["version"], **more}
    return caller("post", f"/exposure-sheets/{now['id']}/cheats", body)


def told(caller: Caller) -> Any:
    return sheet(caller)["cheats"]


def changed(caller: Caller, **fields: Any) -> tuple[int, Any]:
    [now] = told(caller)["cheats"]
    return caller("patch", f"/sheet-cheats/{now['id']}", {"version": now["version"], **fields})


def test_a_lamp_that_was_moved_says_what_it_does_and_what_holds_its_light(crew: Caller, bare, production):
    assert recorded(crew, first_frame=49)[0] == 201
    assert (told(crew)["lamps"], told(crew)["lines"]) == ([LAMP], [])
    assert changed(crew, right_mm=-200.0, back_mm=-150.0, note="for the left arm")[0] == 200
    [cheat] = told(crew)["cheats"]
    assert "key turned by" in cheat["text"] and "darker" in cheat["text"]
    # as it says, dimmed to that it gives as much as before
    assert 0.67 < cheat["held"]["level"] < 1.0
    assert changed(crew, level=cheat["held"]["level"])[0] == 200
    [cheat] = told(crew)["cheats"]
    assert "darker" not in cheat["text"] and "key turned by" in cheat["text"]
    lines = told(crew)["lines"]
    assert [(line["where"], line["frame"], line["verdict"]) for line in lines] == [
        ("plate", 49, "shows"),
        ("shot", 49, "shows"),
    ]
    assert changed(crew, as_planned=True, last_frame=60)[0] == 200
    [cheat] = told(crew)["cheats"]
    assert (cheat["level"], cheat["last_frame"], cheat["note"]) == (None, 60, "for the left arm")
    assert {line["frame"] for line in told(crew)["lines"] if line["where"] == "shot"} == {49, 61}
    assert back(crew, production, write=newest(crew, production)["id"])[0] == 200
    assert told(crew)["cheats"][0]["last_frame"] is None
    assert changed(crew, removed=True)[0] == 200 and told(crew)["cheats"] == []


def test_what_cannot_be_is_refused_at_its_field(crew: Caller, bare):
    recorded(crew, first_frame=49)
    for wrong, field in (
        ({"last_frame": 48}, "last_frame"),
        ({"right_mm": 30_000}, "right_mm"),
        ({"level": 1.5}, "level"),
        ({"name": ""}, "name"),
        ({"kind": "roof"}, "kind"),
        ({"first_frame": 0}, "first_frame"),
    ):
        status, said = changed(crew, **wrong)
        assert status == 422 and field in said["problems"][0]["field"], wrong
    assert changed(crew, last_frame=60)[0] == 200
    status, said = changed(crew, first_frame=61)
    assert status == 422 and said["problems"][0]["field"] == "first_frame"
    assert changed(crew, first_frame=61, to_end=True)[0] == 200


def test_across_the_cut_it_is_held_against_shots_of_the_same_place_only(crew: Caller, bare, production):
    recorded(crew, first_frame=1)
    assert changed(crew, right_mm=-200.0)[0] == 200
    assert told(crew)["cut_to"] == []
    quay = Place.objects.get(production=production, name="The quay")
    Shot.objects.filter(production=production, code="TM060").update(place=quay, revision=999)
    Shot.objects.filter(production=production, code="TM050").update(revision=999)
    now = told(crew)
    assert now["cut_to"] == ["TM060"]
    across = [line for line in now["lines"] if line["where"] == "after"]
    assert across and all(line["text"].startswith("Cut to TM060: ") for line in across)
    assert all(line["frame"] == sheet(crew)["length_frames"] for line in across)
    # put back before the cut, nothing of it is left there
    assert changed(crew, last_frame=100)[0] == 200
    assert [line for line in told(crew)["lines"] if line["where"] == "after"] == []


def test_the_simulated_camera_sees_the_lamp_and_the_photograph_says_so(crew: Caller, bare, poses):
    lamp = PlacedLamp.objects.get(set_up__shot__code="TM050")
    assert math.isclose(lamp.level, 0.67)
    recorded(crew, first_frame=3)
    assert changed(crew, level=0.67 * 2.0**-0.1)[0] == 200
    for place in (0, 1):
        status, made = sent(crew, poses[place], simulated(crew, poses[place], place))
        assert status == 201
    assert ("light", "last") in [(one["what"], one["since"]) for one in made["watched"]["warnings"]]
    [cheat] = told(crew)["cheats"]
    assert cheat["seen"]["place"] == 1
    # what was foretold by inverse squares, as measured from the photographs
    assert cheat["seen"]["stops"] == pytest.approx(-0.1, abs=0.01) and "0.1 stop darker" in cheat["text"]
    # and without it nothing is said
    assert changed(crew, removed=True)[0] == 200
    status, good = sent(crew, poses[1], simulated(crew, poses[1], 7))
    assert status == 201 and whats(good) == []


def test_they_go_out_as_a_table_beside_the_frames(crew: Caller, production, poses):
    assert sent(crew, poses[0], simulated(crew, poses[0]))[0] == 201
    pack = packed(crew, format="png", expanded=False)
    [name] = [name for name in pack.namelist() if name.endswith("_cheats.csv")]
    rows = list(csv.DictReader(io.StringIO(pack.read(name).decode())))
    assert [row["name"] for row in rows] == [each["name"] for each in CHEATS]
    assert [float(row["back mm"]) for row in rows] == [each["back_mm"] for each in CHEATS]
    assert rows[1]["said"].startswith("On the figure: key turned by")


def test_a_guest_sees_them_and_records_none(crew: Caller, guest: Caller, bare):
    recorded(crew)
    assert [cheat["name"] for cheat in told(guest)["cheats"]] == [LAMP]
    assert recorded(guest)[0] == 403 and changed(guest, away=True)[0] == 403
