"""The break-down over the API: the wall, recipes, ways, cautions, lines, places, stock, sets in plan, the book."""

from __future__ import annotations

from datetime import date
from typing import Any

import pytest
from django.core.management import call_command
from django.db import IntegrityError, connection, transaction
from django.test.utils import CaptureQueriesContext

from jungoptic.app.base.models import Change
from jungoptic.app.boards.models import Board
from jungoptic.app.breakdown import wall as walls
from jungoptic.app.breakdown.models import Summary
from jungoptic.app.breakdown.schemas import PlanOut
from jungoptic.app.builds.models import Build
from jungoptic.app.builds.schemas import BuildOut
from jungoptic.app.costs.models import Figures
from jungoptic.app.papers.book import board_svg, steps
from jungoptic.app.papers.jobs import make_card
from jungoptic.app.papers.models import Card
from jungoptic.app.productions.models import Place
from jungoptic.app.recipes.models import PlannedLayer, ShotRecipe
from jungoptic.app.safety.models import SignOff
from jungoptic.app.shots.models import Layer, Line, Shot
from jungoptic.app.takes.table import BenchTable, shot_with_everything
from jungoptic.core.breakdown.recipes import RECIPES
from jungoptic.core.cautions import DEFERENCE
from tests.pdf import pages_of

from .conftest import Caller, a_key, edit

CODES = [f"TM{n}0" for n in ("01", "02", "03", "04", "05", "06", "07", "08", "09", "10", "11", "12")]


def plan(caller: Caller, shot: Shot) -> dict[str, Any]:
    status, found = caller("get", f"/shots/{shot.pk}/plan")
    assert status == 200, found
    PlanOut.model_validate(found, strict=False, extra="forbid")
    return found


def line_of(found: dict[str, Any], code: str) -> dict[str, Any]:
    return next(one for one in found["shots"] if one["code"] == code)


@pytest.fixture
def empty(production) -> Shot:
    return Shot.objects.create(production=production, code="TM900", title="Something new", length_frames=48, position=900)


# --- the demo production, broken down whole ------------------------------------------------------------------------


def test_the_demo_is_broken_down_whole(supervisor: Caller, production):
    found = supervisor.wall(production)
    assert [one["code"] for one in found["shots"]] == CODES
    for one in found["shots"]:
        assert one["recipes"] and one["board"] and one["verdict"] and one["hours"] > 0 and one["layers"] >= 2, one["code"]
    totals = found["totals"]
    assert totals["shots"] == totals["effects"] == 12
    assert totals["hours"] == pytest.approx(sum(totals["by_craft"].values())) == pytest.approx(sum(one["hours"] for one in found["shots"]))
    assert totals["open_hazards"] == sum(len(one["open_hazards"]) for one in found["shots"]) > 0
    assert {one["code"] for one in found["shots"] if one["ready"]} == {"TM030", "TM070"}
    for shot in Shot.objects.filter(production=production, template=False):
        kept = plan(supervisor, shot)
        assert kept["plates"] and kept["costing"]["options"] and kept["board"], shot.code
        assert {one["number"] for one in kept["plates"]} == set(range(1, len(kept["plates"]) + 1))


def test_the_verdict_on_the_wall_is_the_bench_s(supervisor: Caller, production):
    shots = supervisor.wall(production)["shots"]
    assert len(shots) == 12
    for one in shots:
        bench = supervisor.bench(Shot.objects.get(pk=one["id"]), basis="shot")
        assert (one["shows"], one["tight"], one["holds"]) == (bench["shows"], bench["tight"], bench["holds"]), one["code"]
        assert one["worst"].split(":")[0] in {item["label"] for layer in bench["layers"] for item in layer["items"]}


def test_what_was_worked_out_is_kept_until_something_of_the_shot_changes(supervisor: Caller, production, shot, mill):
    before = line_of(supervisor.wall(production), "TM010")
    kept = dict(Summary.objects.values_list("shot__code", "pk"))
    seen = Summary.objects.get(shot=shot, school="measured").version
    with CaptureQueriesContext(connection) as asked:
        supervisor.wall(production)
    assert len(asked) <= 14, [one["sql"][:90] for one in asked]
    supervisor("post", f"/shots/{shot.pk}/changes", {"set_ups": {mill.set_up_id: edit(1, lens_height_m=0.9)}})
    after = line_of(supervisor.wall(production), "TM010")
    assert after["worst"] != before["worst"] and Summary.objects.get(shot=shot, school="measured").version > seen, (
        "the set-up was raised, and the shot judged anew"
    )
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
        Shot(production=production, code=f"X{n:04d}", title=f"A long title that goes on and on {n}", length_frames=50, position=n) for n in range(50)
    )
    found = supervisor.wall(production)
    assert len(found["shots"]) == 62 and line_of(found, "X0040")["verdict"] is None
    with CaptureQueriesContext(connection) as asked:
        supervisor.wall(production)
    assert len(asked) <= 14


def test_the_other_school_has_its_own_verdicts(supervisor: Caller, production):
    measured, covered = supervisor.wall(production), supervisor.wall(production, school="covered")
    assert sum(one["shows"] for one in covered["shots"]) < sum(one["shows"] for one in measured["shots"])


# --- a line of the wall --------------------------------------------------------------------------------------------


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


# --- recipes -------------------------------------------------------------------------------------------------------


@pytest.mark.parametrize("key", list(RECIPES))
def test_every_recipe_fills_an_empty_shot_that_can_then_be_judged(supervisor: Caller, empty, key):
    status, found = supervisor.planned("post", empty, "recipes", {"key": key})
    assert status == 201, found
    recipe = RECIPES[key]
    layers = Layer.objects.filter(shot=empty)
    assert layers.filter(is_hero=True).count() == 1
    assert len(found["plates"]) == layers.count() >= len(recipe.plates)
    bench = supervisor.bench(empty)
    assert sum(len(layer["items"]) for layer in bench["layers"]) > 0
    assert [one["key"] for one in found["costing"]["options"][: len(recipe.ways)]] and set(found["costing"]["fitting"]) == set(recipe.ways)
    assert {one["key"] for one in found["hazards"]} >= set(recipe.cautions)
    # plates that share a set-up in the recipe share one in the shot
    ids: dict[str, set[int]] = {}
    for plate in recipe.plates:
        if plate.set_up and not plate.each:
            name = plate.name.replace("{s}", f"{next((ask.default for ask in recipe.asks if ask.name == 'scale'), 1):g}")
            ids.setdefault(plate.set_up, set()).add(layers.get(name=name).set_up_id)
    assert all(len(one) == 1 and None not in one for one in ids.values())


def test_plates_stand_in_the_order_of_the_recipe_with_its_reasons(supervisor: Caller, empty):
    found = supervisor.planned("post", empty, "recipes", {"key": "event"})[1]
    filmed = [one for one in found["plates"] if one["set_up"]]
    assert [one["name"] for one in filmed] == ["Plate", "Clean stage", "Event 1:6"]
    assert filmed[1]["why"] == "After the first take nothing stands as it stood."
    found = supervisor.planned("post", empty, "recipes", {"key": "actor_in_model", "answers": {"scale": 8}})[1]
    names = [one["name"] for one in found["plates"]]
    assert names.index("Model 1:8") < names.index("Shadow in the model"), "several recipes can be combined"
    assert found["recipes"][1]["answers"]["scale"] == 8
    assert Layer.objects.filter(shot=empty, is_hero=True).count() == 1, "the hero of the first stays"


def test_a_recipe_is_taken_back_with_its_layers_and_brought_again_and_what_was_filmed_stays(supervisor: Caller, crew: Caller, empty):
    found = supervisor.planned("post", empty, "recipes", {"key": "moves_itself"})[1]
    row = found["recipes"][0]["id"]
    count = Layer.objects.filter(shot=empty, removed=False).count()
    rig = Layer.objects.get(shot=empty, kind="rig")
    crew.take(rig)
    assert supervisor.planned("patch", empty, f"recipes/{row}", {"removed": True})[1]["recipes"] == []
    assert set(Layer.objects.filter(shot=empty, removed=False).values_list("kind", flat=True)) == {"rig", "live"}
    back = supervisor.planned("patch", empty, f"recipes/{row}", {"removed": False})[1]
    assert len(back["plates"]) == count
    assert supervisor.planned("patch", empty, "recipes/999999", {"removed": True})[0] == 422


def test_a_recipe_sent_twice_is_chosen_once_and_the_same_cannot_be_chosen_again(supervisor: Caller, empty):
    key = a_key()
    one, two = (supervisor.planned("post", empty, "recipes", {"key": "vanish"}, key=key) for _ in range(2))
    assert one == two and ShotRecipe.objects.filter(shot=empty).count() == 1
    status, answer = supervisor.planned("post", empty, "recipes", {"key": "vanish"})
    assert status == 422 and "chosen for TM900 already" in answer["problems"][0]["message"]
    assert supervisor.planned("post", empty, "recipes", {"key": "magic"})[1]["problems"][0]["field"] == "key"
    assert supervisor.planned("post", empty, "recipes", {"key": "giant", "answers": {"line_m": 1e9}})[1]["problems"][0]["field"] == "line_m"
    assert not ShotRecipe.objects.filter(shot=empty, key="giant").exists()


def test_a_shot_saved_as_a_recipe_of_the_production_is_a_copy(supervisor: Caller, shot, empty, production, mill):
    status, found = supervisor.planned("post", shot, "save-recipe", {"title": "Mill on the water"})
    assert status == 201 and [one["title"] for one in found["own_recipes"]] == ["Mill on the water"]
    assert supervisor.planned("post", shot, "save-recipe", {"title": "Mill on the water"})[0] == 422
    assert supervisor.planned("post", shot, "save-recipe", {"title": " "})[0] == 422
    supervisor("post", f"/shots/{shot.pk}/changes", {"layers": {mill.pk: edit(1, name="Changed since")}})
    status, used = supervisor.planned("post", empty, "recipes", {"own": found["own_recipes"][0]["id"]})
    assert status == 201
    assert {one["name"] for one in used["plates"]} == {"Quay and sea", "Mill 1:12", "Headland", "Gulls", "Dusk sky"}
    copy = Layer.objects.get(shot=empty, name="Mill 1:12")
    assert copy.parts.count() == mill.parts.count() > 0 and copy.set_up_id != mill.set_up_id and copy.scale == 12
    assert "R001" not in [one["code"] for one in supervisor.wall(production)["shots"]], "a recipe is no shot"
    assert supervisor.planned("post", empty, "recipes", {"own": 999999})[0] == 422


def test_the_guide_over_the_api(guest: Caller, production):
    found = guest("get", "/recipes")[1]
    assert len(found["recipes"]) == 25 and len(found["sees"]) == 12
    assert guest("get", "/guide?sees=twice")[1][0]["key"] == "twice"
    assert guest("get", "/guide?sees=place&without=model,painter")[1][-1]["lacks"] == ["model", "painter"]
    assert guest("get", "/guide?sees=nothing")[0] == 422
    assert {one["key"] for one in guest("get", "/cautions")[1]} >= {"flame", "people_on_wires"}


def test_checks_are_ticked_by_the_crew(crew: Caller, guest: Caller, supervisor: Caller, empty):
    supervisor.planned("post", empty, "recipes", {"key": "moves_itself"})
    rig = Layer.objects.get(shot=empty, kind="rig")
    text = PlannedLayer.objects.get(layer=rig).checks[1]
    assert crew("post", f"/layers/{rig.pk}/ticks", {"text": text, "done": True})[0] == 200
    found = crew.plan(empty)
    row = next(one for one in found["plates"] if one["layer_id"] == rig.pk)
    assert [check["done"] for check in row["checks"]] == [False, True, False, False]
    assert crew("post", f"/layers/{rig.pk}/ticks", {"text": "Sing", "done": True})[0] == 422
    assert guest("post", f"/layers/{rig.pk}/ticks", {"text": text, "done": False})[0] == 403
    assert crew("post", f"/layers/{rig.pk}/ticks", {"text": text, "done": False})[0] == 200
    row = next(one for one in crew.plan(empty)["plates"] if one["layer_id"] == rig.pk)
    assert not any(check["done"] for check in row["checks"])


# --- ways and hours ------------------------------------------------------------------------------------------------


def test_all_ways_in_one_table_one_chosen_and_the_others_kept(supervisor: Caller, production, shot):
    found = supervisor.planned("patch", shot, "costs", {"changes": {"chosen": "painted"}})[1]["costing"]
    assert len(found["options"]) == 8 and [one["key"] for one in found["options"] if one["chosen"]] == ["painted"]
    painted = next(one for one in found["options"] if one["key"] == "painted")
    assert line_of(supervisor.wall(production), "TM010")["hours"] == pytest.approx(painted["hours"])
    for one in found["options"]:
        assert (
            one["hours"] == pytest.approx(sum(craft["hours"] for craft in one["crafts"]))
            and one["school"]
            and one["layers"]
            and all(craft["formula"] for craft in one["crafts"])
        )
    assert supervisor.planned("patch", shot, "costs", {"changes": {"chosen": "magic"}})[0] == 422
    assert supervisor.planned("patch", shot, "costs", {"changes": {"shapes": -1}})[1]["problems"][0]["field"] == "shapes"
    assert supervisor.planned("patch", shot, "costs", {"changes": {"mood": 1}})[1]["problems"][0]["field"] == "mood"


def test_hours_follow_from_the_shot_until_somebody_says_otherwise(supervisor: Caller, shot):
    before = plan(supervisor, shot)["costing"]
    assert before["said"] == [] and before["job"] == before["derived"]
    said = supervisor.planned("patch", shot, "costs", {"changes": {"shapes": 9, "tracked": True}})[1]["costing"]
    assert set(said["said"]) == {"shapes", "tracked"} and said["job"]["shapes"] == 9
    assert said["derived"] == before["derived"]
    again = supervisor.planned("patch", shot, "costs", {"changes": {"shapes": None, "tracked": None}})[1]["costing"]
    assert again["said"] == [] and [one["hours"] for one in again["options"]] == [one["hours"] for one in before["options"]]


def test_a_shot_beyond_all_measure_is_still_broken_down(supervisor: Caller, production):
    """What follows from the shot is brought within what the costs can say: seventy minutes of stop motion, a county built full size."""
    heron = Shot.objects.get(code="TM050")
    layer = heron.layers.get(kind="frame_by_frame")
    assert supervisor("patch", f"/shots/{heron.pk}/line", {"changes": {"length_frames": 100_000}})[0] == 200
    changes = {"layers": {layer.pk: edit(layer.version, kind="model", width_m=1e6, height_m=1e4)}}
    job = plan(supervisor, heron)["costing"]["job"]
    assert job["animated_s"] == 3600 and job["frames"] == 100_000
    assert supervisor("post", f"/shots/{heron.pk}/changes", changes)[0] == 200
    assert plan(supervisor, heron)["costing"]["job"]["area_m2"] == 1e6
    assert supervisor("get", f"/shots/{heron.pk}/bench")[0] == 200


def test_framing_first_makes_hours_fall_away(supervisor: Caller, shot):
    hours = {one["key"]: one["hours"] for one in plan(supervisor, shot)["costing"]["options"]}
    add = {"what": "line", "fields": {"kind": "framing", "points": [[480, 270], [1440, 810]]}}
    assert supervisor("post", f"/shots/{shot.pk}/add", add)[0] == 201
    found = plan(supervisor, shot)["costing"]
    framed = {one["key"]: one for one in found["options"]}
    assert found["job"]["needed_share"] == pytest.approx(0.25)
    saving = next(one for one in framed["hand_cut"]["savings"] if one["what"] == "framing first")
    # three quarters of the matte's hours fall away
    assert hours["hand_cut"] - framed["hand_cut"]["hours"] == pytest.approx(saving["hours"]) and saving["taken"]
    assert framed["key"]["hours"] == pytest.approx(hours["key"])


def test_a_paint_out_on_the_board_has_its_hours(supervisor: Caller, shot):
    """By hand: 1920 × 1080 px · 4 % behind a still camera is two patches of half an hour."""
    box = [[0, 0], [384, 0], [384, 216], [0, 216]]
    made = supervisor("post", f"/shots/{shot.pk}/add", {"what": "line", "fields": {"kind": "paint_out", "points": box, "thing": "aerial"}})[1]
    line = next(one for one in made["bench"]["lines"] if one["id"] == made["id"])
    assert line["hours"] == pytest.approx(1.0) and "patch" in line["hours_text"]
    assert plan(supervisor, shot)["costing"]["job"]["paint_out_h"] == pytest.approx(1.0)


def test_the_production_s_figures_are_its_own(supervisor: Caller, crew: Caller, production, shot):
    path = f"/productions/{production.pk}/figures"
    found = supervisor("get", path)[1]
    before = plan(supervisor, shot)["costing"]["options"]
    status, changed = supervisor("patch", path, {"version": found["version"], "changes": {"composite_least_h": 20, "composite_most_h": 20}})
    assert status == 200 and changed["values"]["composite_most_h"] == 20
    after = {one["key"]: one["hours"] for one in plan(supervisor, shot)["costing"]["options"]}
    assert all(after[one["key"]] > one["hours"] for one in before if one["key"] != "in_camera")
    assert supervisor("patch", path, {"version": found["version"], "changes": {"crew": 5}})[0] == 409
    assert supervisor("patch", path, {"version": changed["version"], "changes": {"day_h": 0}})[1]["problems"][0]["field"] == "day_h"
    assert supervisor("patch", path, {"version": changed["version"], "changes": {"mood": 1}})[0] == 422
    assert crew("patch", path, {"version": changed["version"], "changes": {"crew": 5}})[0] == 403
    assert Figures.objects.get(production=production).crew == 3


# --- cautions ------------------------------------------------------------------------------------------------------


def test_a_shot_with_an_open_caution_cannot_be_ready_and_its_card_says_so(supervisor: Caller, crew: Caller, production, shot):
    ready = {"changes": {"ready": True}}
    status, answer = supervisor("patch", f"/shots/{shot.pk}/line", ready)
    assert status == 422 and "not signed off" in answer["problems"][0]["message"]
    found = plan(supervisor, shot)
    assert not found["ready"] and found["deference"] == DEFERENCE
    assert "not signed off" in card_text(supervisor, "POST", f"/shots/{shot.pk}/cards")
    for one in found["hazards"]:
        assert one["safer"] and one["ask"] and one["by"]
        assert crew.planned("post", shot, "sign", {"caution": one["key"], "note": "Asked."})[0] == 403, "the supervisor alone signs"
        assert supervisor.planned("post", shot, "sign", {"caution": one["key"], "note": " "})[1]["problems"][0]["field"] == "note"
        assert supervisor.planned("post", shot, "sign", {"caution": one["key"], "note": "Owner asked."})[0] == 200
    signed = plan(supervisor, shot)["hazards"]
    assert all(one["signed"]["by"] == "Supervisor" and one["signed"]["at"] and one["signed"]["note"] == "Owner asked." for one in signed)
    assert supervisor("patch", f"/shots/{shot.pk}/line", ready)[0] == 200
    assert plan(supervisor, shot)["ready"] and line_of(supervisor.wall(production), "TM010")["ready"]
    # what comes later opens it again
    assert supervisor.planned("put", shot, "cautions", {"cautions": ["flame", "water_edge"]})[0] == 200
    assert not plan(supervisor, shot)["ready"] and not line_of(supervisor.wall(production), "TM010")["ready"]
    assert supervisor.planned("put", shot, "cautions", {"cautions": ["love"]})[0] == 422


def test_a_signature_is_kept_when_it_is_taken_back(supervisor: Caller, production):
    shot = Shot.objects.get(code="TM070")
    assert plan(supervisor, shot)["ready"]
    found = supervisor.planned("post", shot, "sign", {"caution": "flame", "withdraw": True})[1]
    assert not found["ready"] and next(one for one in found["hazards"] if one["key"] == "flame")["signed"] is None
    assert SignOff.objects.filter(shot=shot, caution="flame", withdrawn=True).count() == 1
    assert Change.objects.filter(write__shot=shot, kind="signature", field="flame", after__isnull=True).exists()
    assert supervisor.planned("post", shot, "sign", {"caution": "boats", "note": "x"})[0] == 422, "nothing raises it here"


def test_kit_and_place_raise_theirs(supervisor: Caller, production, empty):
    supervisor.planned("post", empty, "recipes", {"key": "vanish"})
    assert plan(supervisor, empty)["hazards"] == []
    quay = Place.objects.get(name="The quay")
    supervisor("patch", f"/shots/{empty.pk}/line", {"changes": {"place_id": quay.pk}})
    hero = Layer.objects.get(shot=empty, is_hero=True)
    spot = next(one for one in supervisor("get", f"/productions/{production.pk}/lamps")[1] if one["name"] == "300 W spot")
    add = {"what": "lamp", "like_set_up": hero.set_up_id, "kit_lamp": spot["id"], "fields": {"height_m": 3.2}}
    assert supervisor("post", f"/shots/{empty.pk}/add", add)[0] == 201
    by = {one["key"]: one["by"] for one in plan(supervisor, empty)["hazards"]}
    assert by["water_edge"] == ["place: The quay"] and by["hot_lamps"] == ["kit: 300 W spot"]
    assert by["heights"] == ["300 W spot at 3.2 m"]


def test_one_signature_a_caution_in_the_database(production, shot):
    from jungoptic.app.people.models import Person

    who = Person.objects.get(username="supervisor")
    SignOff.objects.create(shot=shot, caution="dust", note="a", person=who)
    with pytest.raises(IntegrityError), transaction.atomic():
        SignOff.objects.create(shot=shot, caution="dust", note="b", person=who)


# --- lines ---------------------------------------------------------------------------------------------------------


def test_a_line_is_drawn_checked_by_the_bench_changed_and_taken_away(supervisor: Caller, crew: Caller, production):
    shot = Shot.objects.get(code="TM110")
    before = supervisor.bench(shot)
    matte = Line.objects.get(shot=shot, kind="matte")
    low = [[x, y + 250] for x, y in matte.points]
    assert supervisor("post", f"/shots/{shot.pk}/changes", {"lines": {matte.pk: edit(1, points=low)}})[0] == 200
    after = supervisor.bench(shot)

    def over(bench: dict[str, Any]) -> float:
        return max((item["amount"] for layer in bench["layers"] for item in layer["items"] if item["item"] == "matte_line"), default=0.0)

    assert over(after) > over(before)
    assert supervisor("post", f"/shots/{shot.pk}/changes", {"lines": {matte.pk: edit(1, note="old")}})[0] == 409
    assert supervisor("post", f"/shots/{shot.pk}/changes", {"lines": {matte.pk: edit(2, points=[[1, 1]])}})[1]["problems"][0]["field"] == "points"
    foreign = Layer.objects.get(shot__code="TM010", is_hero=True)
    assert supervisor("post", f"/shots/{shot.pk}/changes", {"lines": {matte.pk: edit(2, layer_id=foreign.pk)}})[0] == 422
    assert supervisor("post", f"/shots/{shot.pk}/changes", {"lines": {matte.pk: edit(2, removed=True)}})[0] == 200
    assert len(supervisor.bench(shot)["lines"]) == len(before["lines"]) - 1
    assert crew("post", f"/shots/{shot.pk}/add", {"what": "line", "fields": {"kind": "matte", "points": [[0, 0], [9, 9]]}})[0] == 403


# --- used again, places, stock -------------------------------------------------------------------------------------


def test_stock_and_other_shots_are_suggested_by_what_must_match(supervisor: Caller, production, shot):
    found = {one["layer"]: one["fits"] for one in supervisor("get", f"/shots/{shot.pk}/reuse")[1]}
    sky = found["Dusk sky"]
    assert sky[0]["name"] == "Dusk sky, time-lapse, stock" and sky[0]["verdict"] == "holds"
    assert {"light", "lens", "rate"} <= {aspect["what"] for aspect in sky[0]["aspects"]}
    assert all("TM010" not in fit["name"] for fits in found.values() for fit in fits)
    item = {
        "name": "Twin of the dusk sky",
        "note": "sky",
        "width_px": 3840,
        "fps": 24,
        "view_deg": 37,
        "key_azimuth_deg": -118,
        "key_elevation_deg": 14,
    }
    path = f"/productions/{production.pk}/stock"
    assert supervisor("post", path, item)[0] == 201
    assert "Twin of the dusk sky" in [one["name"] for one in supervisor("get", path)[1]]
    again = {one["layer"]: one["fits"] for one in supervisor("get", f"/shots/{shot.pk}/reuse")[1]}["Dusk sky"]
    assert any(fit["name"].startswith("Twin") and fit["mirrored"] for fit in again)
    for field, value in (("name", "Twin of the dusk sky"), ("name", ""), ("view_deg", 300), ("fps", -1)):
        assert supervisor("post", path, {**item, "name": "Other", field: value})[1]["problems"][0]["field"] == field


def test_the_continuity_list_and_what_the_bench_says_agree(supervisor: Caller, production):
    path = f"/productions/{production.pk}/places"
    places = {one["name"]: one for one in supervisor("get", path)[1]}
    quay = places["The quay"]
    assert {shot["code"]: shot["has"] for shot in quay["shots"]} == {"TM050": [True], "TM110": [False]}
    yard = Shot.objects.get(code="TM110")

    def missing() -> float:
        return max(item["amount"] for layer in supervisor.bench(yard)["layers"] for item in layer["items"] if item["item"] == "recurring")

    assert missing() == 2  # what is left out weighs two: it shows
    body = {"version": quay["version"], "name": "The quay", "recurring": ["leaning mooring post", "rusted crane"], "cautions": ["water_edge"]}
    assert supervisor("put", f"{path}/{quay['id']}", body)[0] == 200
    assert missing() == 4
    assert (
        supervisor("post", f"/shots/{yard.pk}/changes", {"shot": {yard.pk: edit(yard.version, carries=["Leaning mooring post", "rusted crane"])}})[0]
        == 200
    )
    assert missing() == 0
    assert next(one for one in supervisor("get", path)[1] if one["name"] == "The quay")["shots"][1]["has"] == [True, True]
    assert supervisor("put", f"{path}/{quay['id']}", body)[0] == 409, "never over what was not seen"
    for field, bad in (("name", ""), ("cautions", ["love"]), ("recurring", ["x" * 90])):
        assert supervisor("put", f"{path}/{quay['id']}", {**body, "version": quay["version"] + 1, field: bad})[1]["problems"][0]["field"] == field
    assert supervisor("put", f"{path}/999999", body)[0] == 422


# --- sets in plan --------------------------------------------------------------------------------------------------


def test_the_demo_s_set_is_built_only_as_far_as_it_is_seen(supervisor: Caller, production):
    build = Build.objects.get(production=production)
    status, found = supervisor("get", f"/builds/{build.pk}")
    assert status == 200
    BuildOut.model_validate(found, strict=False, extra="forbid")
    assert 0 < found["built_m2"] < 0.75 * found["whole_m2"] and found["hours"] == pytest.approx(1.5 * found["built_m2"])
    assert found["twice"] and {found["twice"][0]["first"], found["twice"][0]["second"]} == {"Belfry screen", "Loft screen"}
    assert found["only_establishing"] == ["Grain chute"]
    assert {one["name"] for one in found["cones"]} == {"TM030", "TM040", "TM120"}
    # the move of TM120 is seen over its whole length
    assert sum(one["name"] == "TM120" for one in found["cones"]) == 5
    assert found["sheets"] * found["price"] == pytest.approx(found["price_all"])
    assert all("mm" in cut["text"] and "in" in cut["text"] for cut in found["cuts"])
    feet = supervisor("get", f"/builds/{build.pk}?units=imperial")[1]
    assert "ft" in feet["pieces"][0]["size_text"] and feet["built_m2"] == pytest.approx(found["built_m2"])


def test_a_set_is_made_saved_and_never_over_what_was_not_seen(supervisor: Caller, production, shot):
    path = f"/productions/{production.pk}/builds"
    status, made = supervisor("post", path, {"name": "Sea wall"})
    assert status == 201 and supervisor("post", path, {"name": "Sea wall"})[0] == 422 and supervisor("post", path, {"name": " "})[0] == 422
    wall_piece = {"name": "Wall", "z_m": 6, "width_m": 20, "height_m": 3}
    body = {"version": made["version"], "fields": {"scale": 6}, "pieces": [wall_piece], "views": [{"shot_id": shot.pk, "z_m": -4}]}
    status, saved = supervisor("put", f"/builds/{made['id']}", body)
    assert status == 200 and saved["version"] == made["version"] + 1 and 0 < saved["built_m2"] < 60
    # by hand: 20 h for each square metre of the model, its area is that of the set ÷ 6²
    assert saved["hours"] == pytest.approx(20 * saved["built_m2"] / 36)
    assert supervisor("put", f"/builds/{made['id']}", body)[0] == 409
    for change, field in (
        ({"pieces": [{**wall_piece, "width_m": 0}]}, "pieces.0.width_m"),
        ({"pieces": [wall_piece, wall_piece]}, "pieces.1.name"),
        ({"pieces": [{**wall_piece, "mood": 1}]}, "pieces.0.mood"),
        ({"views": [{"shot_id": 999999}]}, "views.0.shot_id"),
        ({"fields": {"scale": 0}}, "scale"),
        ({"fields": {"kerf_mm": -1}}, "kerf_mm"),
        ({"fields": {"mood": 1}}, "mood"),
        ({"fields": {"scale": "twelve"}}, "scale"),
        ({"fields": {"name": ""}}, "name"),
        ({"fields": {"name": "Inside the mill"}}, "name"),
        ({"fields": {"place_id": 999999}}, "place_id"),
        ({"views": [{"shot_id": shot.pk, "x_m": 1e9}]}, "views.0.x_m"),
        ({"views": [{"shot_id": shot.pk, "heading_deg": 400}]}, "views.0.heading_deg"),
    ):
        status, answer = supervisor("put", f"/builds/{made['id']}", {"version": saved["version"], **change})
        assert (status, answer["problems"][0]["field"]) == (422, field), answer
    assert supervisor("get", f"/builds/{made['id']}")[1]["version"] == saved["version"]


def test_a_camera_without_a_hero_is_said_and_sees_nothing(supervisor: Caller, production, empty):
    made = supervisor("post", f"/productions/{production.pk}/builds", {"name": "Bare"})[1]
    body = {"version": made["version"], "pieces": [{"name": "Wall", "z_m": 6}], "views": [{"shot_id": empty.pk}]}
    saved = supervisor("put", f"/builds/{made['id']}", body)[1]
    assert "TM900 has no hero plate yet" in saved["lacking"][0] and saved["built_m2"] == 0 and saved["cuts"] == []


# --- the book ------------------------------------------------------------------------------------------------------


def card_text(caller: Caller, method: str, path: str, **body: str) -> str:
    status, card = caller(method.lower(), path, body)
    assert status == 202
    make_card(card["id"])
    status, pdf = caller("get", f"/cards/{card['id']}/pdf")
    assert status == 200, Card.objects.get(pk=card["id"]).message
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
    filled, bare = (BenchTable(shot_with_everything(one.pk), school="measured", units="metric") for one in (shot, empty))
    assert "data:image/jpeg" in board_svg(filled) and len(steps(filled)) == len(filled.layers)
    assert (board_svg(bare), steps(bare)) == ("", [])


def test_the_book_has_the_wall_and_a_page_for_every_shot(guest: Caller, production):
    status, card = guest("post", f"/productions/{production.pk}/book", {})
    assert status == 202
    make_card(card["id"])
    kept = Card.objects.get(pk=card["id"])
    assert (kept.state, kept.progress) == ("ready", 100), kept.message
    cover, *pages = pages_of(guest("get", f"/cards/{card['id']}/pdf")[1])
    assert all(code in cover.text for code in CODES)
    for code in CODES:
        assert any(page.text.startswith(code) for page in pages), code
    assert sum("open" in page.text for page in pages) > 1
    assert sum(page.pictures for page in pages) > 24


# --- the database and the models -----------------------------------------------------------------------------------


def test_the_migrations_are_what_the_models_say(db):
    call_command("makemigrations", check=True, dry_run=True, verbosity=0)
