"""The break-down over the API: the wall, recipes, ways, cautions, lines, places, stock, sets in plan, the
book.
"""

from __future__ import annotations

from datetime import date
from itertools import pairwise
from typing import Any

import pytest
from django.core.management import call_command
from django.db import connection
from django.test.utils import CaptureQueriesContext

from jungoptic.app.base.models import Change
from jungoptic.app.boards.models import Board
from jungoptic.app.breakdown import wall as walls
from jungoptic.app.breakdown.models import Summary
from jungoptic.app.breakdown.schemas import PlanOut
from jungoptic.app.papers.book import board_svg, steps
from jungoptic.app.productions.models import Place
from jungoptic.app.shots.models import Shot
from jungoptic.app.takes.table import BenchTable, shot_with_everything
from jungoptic.core.cautions import DEFERENCE
from tests.jobs import done
from tests.pdf import pages_of

from .conftest import Caller, edit

CODES = [f"TM{n}0" for n in ("01", "02", "03", "04", "05", "06", "07", "08", "09", "10", "11", "12")]


def plan(caller: Caller, shot: Shot) -> dict[str, Any]:
    status, found = caller("get", f"/shots/{shot.pk}/plan")
    assert status == 200, found
    PlanOut.model_validate(found, strict=False, extra="forbid")
    return found


def line_of(found: dict[str, Any], code: str) -> dict[str, Any]:
    return next(one for one in found["shots"] if one["code"] == code)


# --- the demo production, broken down whole


def test_the_demo_is_broken_down_whole(supervisor: Caller, production):
    found = supervisor.wall(production)
    assert [one["code"] for one in found["shots"]] == CODES
    for one in found["shots"]:
        assert (
            one["recipes"] and one["board"] and one["verdict"] and one["hours"] > 0 and one["layers"] >= 2
        ), one["code"]
    totals = found["totals"]
    assert totals["shots"] == totals["effects"] == 12
    assert (
        totals["hours"]
        == pytest.approx(sum(totals["by_craft"].values()))
        == pytest.approx(sum(one["hours"] for one in found["shots"]))
    )
    assert totals["open_hazards"] == sum(len(one["open_hazards"]) for one in found["shots"]) > 0
    assert {one["code"] for one in found["shots"] if one["ready"]} == {"TM070"}
    for shot in Shot.objects.filter(production=production, template=False):
        kept = plan(supervisor, shot)
        assert kept["plates"] and kept["costing"]["options"] and kept["board"], shot.code
        assert {one["number"] for one in kept["plates"]} == set(range(1, len(kept["plates"]) + 1))


def test_the_verdict_on_the_wall_is_the_bench_s(supervisor: Caller, production):
    shots = supervisor.wall(production)["shots"]
    assert len(shots) == 12
    for one in shots:
        bench = supervisor.bench(Shot.objects.get(pk=one["id"]), basis="shot")
        assert (one["shows"], one["tight"], one["holds"]) == (
            bench["shows"],
            bench["tight"],
            bench["holds"],
        ), one["code"]
        labels = {item["label"] for layer in bench["layers"] for item in layer["items"]}
        assert one["worst"].split(":")[0] in labels or (one["worst"], one["shows"] + one["tight"]) == ("", 0)


def test_what_was_worked_out_is_kept_until_something_of_the_shot_changes(
    supervisor: Caller, production, shot, mill
):
    before = line_of(supervisor.wall(production), "TM010")
    kept = dict(Summary.objects.values_list("shot__code", "pk"))
    seen = Summary.objects.get(shot=shot, school="measured").version
    with CaptureQueriesContext(connection) as asked:
        supervisor.wall(production)
    assert len(asked) <= 14, [one["sql"][:90] for one in asked]
    supervisor("post", f"/shots/{shot.pk}/changes", {"set_ups": {mill.set_up_id: edit(1, lens_height_m=0.9)}})
    after = line_of(supervisor.wall(production), "TM010")
    assert (
        after["worst"] != before["worst"] and Summary.objects.get(shot=shot, school="measured").version > seen
    ), "the set-up was raised, and the shot judged anew"
    assert dict(Summary.objects.values_list("shot__code", "pk")) == kept


def test_an_answer_that_has_no_time_still_works_one_shot_out(supervisor: Caller, production, monkeypatch):
    Summary.objects.all().delete()
    monkeypatch.setattr(walls, "PATIENCE_S", 0.0)
    asked = [supervisor("get", f"/productions/{production.pk}/wall")[1] for _ in range(3)]
    assert [one["pending"] for one in asked] == [11, 10, 9]
    assert [sum(line["verdict"] is not None for line in one["shots"]) for one in asked] == [1, 2, 3]


def test_fifty_shots_more_take_no_more_queries(supervisor: Caller, production):
    supervisor.wall(production)
    Shot.objects.bulk_create(
        Shot(
            production=production,
            code=f"X{n:04d}",
            title=f"A long title that goes on and on {n}",
            length_frames=50,
            position=n,
        )
        for n in range(50)
    )
    found = supervisor.wall(production)
    assert len(found["shots"]) == 62 and line_of(found, "X0040")["verdict"] is None
    with CaptureQueriesContext(connection) as asked:
        supervisor.wall(production)
    assert len(asked) <= 14


def test_the_other_school_has_its_own_verdicts(supervisor: Caller, production):
    measured, covered = supervisor.wall(production), supervisor.wall(production, school="covered")
    assert sum(one["shows"] for one in covered["shots"]) < sum(one["shows"] for one in measured["shots"])


# --- a line of the wall


def test_a_line_is_edited_where_it_stands_and_never_over_what_was_not_seen(supervisor: Caller, shot):
    path = f"/shots/{shot.pk}/line"
    change = {"version": shot.version, "changes": {"title": "The mill at night", "shoot_on": "2027-10-18"}}
    assert supervisor("patch", path, change)[0] == 200
    shot.refresh_from_db()
    assert (shot.title, shot.shoot_on) == ("The mill at night", date(2027, 10, 18))
    assert Change.objects.filter(write__shot=shot, field="title", before="The mill at dusk").exists()
    status, answer = supervisor("patch", path, {"version": shot.version - 1, "changes": {"title": "Mine"}})
    assert status == 409 and "title" in answer["problems"][0]["message"]
    assert Shot.objects.get(pk=shot.pk).title == "The mill at night"


def test_where_two_shots_of_a_place_meet_stands_what_the_bench_says_across_the_cut(guest: Caller, production):
    found = guest.wall(production)
    codes = {one["id"]: one["code"] for one in found["shots"]}
    pairs = [(codes[one["left_id"]], codes[one["right_id"]]) for one in found["joints"]]
    places = {one["code"]: one["place_id"] for one in found["shots"]}
    neighbours = list(pairwise(places))
    assert pairs == [(a, b) for a, b in neighbours if places[a] is not None and places[a] == places[b]]
    assert pairs
    for joint in found["joints"]:
        bench = guest.bench(Shot.objects.get(pk=joint["left_id"]))
        after = next(one for one in bench["across_cut"] if one["where"] == "after")
        assert joint["items"] == after["items"]
        assert joint["verdict"] == after["items"][0]["verdict"]
    feet = guest.wall(production, units="imperial")["joints"]
    heights = [
        next(item["short"] for item in joint["items"] if item["item"] == "height")
        for joint in (found["joints"][0], feet[0])
    ]
    assert heights[0] != heights[1]


@pytest.mark.parametrize(
    ("changes", "field"),
    [
        ({"code": "TM020"}, "code"),
        ({"code": " "}, "code"),
        ({"title": None}, "title"),
        ({"length_frames": 0}, "length_frames"),
        ({"hours_spent": -1}, "hours_spent"),
        ({"position": -1}, "position"),
        ({"place_id": 999999}, "place_id"),
        ({"title": "x" * 121}, "title"),
        ({"shoot_on": "soon"}, "changes.shoot_on"),
        ({"mood": "grey"}, "changes.mood"),
    ],
)
def test_what_cannot_be_on_the_wall_is_said_at_its_field(supervisor: Caller, shot, changes, field):
    status, answer = supervisor("patch", f"/shots/{shot.pk}/line", {"changes": changes})
    assert status == 422 and answer["problems"][0]["field"] == field, answer


def test_a_place_of_another_production_is_no_place_of_ours(supervisor: Caller, production, shot):
    from jungoptic.app.productions.models import Production

    other = Production.objects.create(title="Another", slug="another")
    foreign = Place.objects.create(production=other, name="Elsewhere")
    assert supervisor("patch", f"/shots/{shot.pk}/line", {"changes": {"place_id": foreign.pk}})[0] == 422


# --- the book


def card_text(caller: Caller, method: str, path: str, **body: str) -> str:
    status, card = caller(method.lower(), path, body)
    assert status == 202
    made = done(card["id"])
    status, pdf = caller("get", f"/files/{made.file_id}")
    assert status == 200, made.message
    return " ".join(page.text for page in pages_of(pdf))


def test_one_shot_s_page_has_board_notes_plates_ways_and_cautions(supervisor: Caller, production):
    shot = Shot.objects.get(code="TM110")
    text = card_text(supervisor, "POST", f"/shots/{shot.pk}/page", paper="letter")
    for said in (
        "TM110",
        "Matte line",
        "along both roofs",
        "Plates in filming order",
        "Painted",
        "How it is put together",
        "Cautions",
        "Signed off by Supervisor",
        DEFERENCE,
    ):
        assert said in text, said


def test_a_page_without_a_board_has_the_view_through_the_lens_and_an_empty_shot_s_has_no_picture(shot, empty):
    Board.objects.filter(shot=shot).update(current=False)
    filled, bare = (
        BenchTable(shot_with_everything(one.pk), school="measured", units="metric") for one in (shot, empty)
    )
    assert "data:image/jpeg" in board_svg(filled) and len(steps(filled)) == len(filled.layers)
    assert (board_svg(bare), steps(bare)) == ("", [])


def test_the_book_has_the_wall_and_a_page_for_every_shot(guest: Caller, production):
    status, card = guest("post", f"/productions/{production.pk}/book", {})
    assert status == 202
    kept = done(card["id"])
    assert (kept.state, kept.progress) == ("ready", 100), kept.message
    cover, *pages = pages_of(guest("get", f"/files/{kept.file_id}")[1])
    assert all(code in cover.text for code in CODES)
    for code in CODES:
        assert any(page.text.startswith(code) for page in pages), code
    assert sum("open" in page.text for page in pages) > 1
    assert sum(page.pictures for page in pages) > 24


# --- the database and the models


def test_the_migrations_are_what_the_models_say(db):
    call_command("makemigrations", check=True, dry_run=True, verbosity=0)


# --- a recipe for a shot that has its hero


def test_the_camera_stays_while_a_recipes_layers_come_and_go(supervisor: Caller, empty: Shot):
    """A set-up counts from the nearest layer that it films: a nearer one must not move the camera."""
    fields = {"name": "Sea", "near_m": 9.0, "fills_frame": True}
    assert supervisor("post", f"/shots/{empty.pk}/add", {"what": "layer", "fields": fields})[0] == 201
    sea = empty.layers.get()
    before = sea.set_up.distance_m
    status, found = supervisor.planned("post", empty, "recipes", {"key": "vanish"})
    assert status == 201, found

    def camera() -> tuple[float, float]:
        """How far the set-up says it is, and where that puts the lens before the sea."""
        table = BenchTable(shot_with_everything(empty.pk), school="measured", units="metric")
        layer = next(each for each in table.layers if each.pk == sea.pk)
        return table.set_ups[layer.set_up_id].distance_m, table.set_up_record(layer).distance_m

    assert camera() == (pytest.approx(before - 6.49), pytest.approx(before))  # the clean plate is at 2.51 m
    (row,) = found["recipes"]
    status, found = supervisor.planned(
        "patch", empty, f"recipes/{row['id']}", {"removed": True, "version": row["version"]}
    )
    assert status == 200, found
    assert camera() == (pytest.approx(before), pytest.approx(before))
