"""A shot's plan over HTTP: recipes, ways and hours, cautions, lines."""

from __future__ import annotations

from typing import Any

import pytest
from django.db import IntegrityError, transaction

from jungoptic.app.base.models import Change
from jungoptic.app.costs.models import Figures
from jungoptic.app.productions.models import Place
from jungoptic.app.recipes.models import PlannedLayer, ShotRecipe
from jungoptic.app.safety.models import SignOff
from jungoptic.app.shots.models import Layer, Line, Shot
from jungoptic.core.breakdown import RECIPES
from jungoptic.core.cautions import DEFERENCE

from .conftest import Caller, a_key, edit
from .test_break_down import card_text, line_of, plan

# --- recipes


@pytest.mark.parametrize("key", list(RECIPES))
def test_every_recipe_fills_an_empty_shot_that_can_then_be_judged(supervisor: Caller, empty, key):
    status, found = supervisor.planned("post", empty, "recipes", {"key": key})
    assert status == 201, found
    recipe = RECIPES[key]
    layers = Layer.objects.filter(shot=empty)
    assert layers.filter(is_hero=True).count() == 1
    assert len(found["plates"]) == layers.count() >= len(recipe.plates)
    items = [item for layer in supervisor.bench(empty)["layers"] for item in layer["items"]]
    placed = ("lens", "perspective", "height", "tilt", "roll", "together", "edges", "move", "backing_edge")
    assert items and not [item for item in items if item["item"] in placed and item["verdict"] == "shows"]
    assert [one["key"] for one in found["costing"]["options"][: len(recipe.ways)]] and set(
        found["costing"]["fitting"]
    ) == set(recipe.ways)
    assert {one["key"] for one in found["hazards"]} >= set(recipe.cautions)
    ids: dict[str, set[int]] = {}  # plates that share a set-up in the recipe share one in the shot
    for plate in recipe.plates:
        if plate.set_up and not plate.each:
            name = plate.name.replace(
                "{s}", f"{next((ask.default for ask in recipe.asks if ask.name == 'scale'), 1):g}"
            )
            ids.setdefault(plate.set_up, set()).add(layers.get(name=name).set_up_id)
    assert all(len(one) == 1 and None not in one for one in ids.values())


def test_plates_stand_in_the_order_of_the_recipe_with_its_reasons(supervisor: Caller, empty):
    found = supervisor.planned("post", empty, "recipes", {"key": "event"})[1]
    filmed = [one for one in found["plates"] if one["set_up"]]
    assert [one["name"] for one in filmed] == ["Plate", "Clean stage", "Event 1:6"]
    assert filmed[1]["why"] == "After the first take nothing stands as it stood."
    found = supervisor.planned("post", empty, "recipes", {"key": "actor_in_model", "answers": {"scale": 8}})[
        1
    ]
    names = [one["name"] for one in found["plates"]]
    assert names.index("Model 1:8") < names.index("Shadow in the model"), "several recipes can be combined"
    assert found["recipes"][1]["answers"]["scale"] == 8
    assert Layer.objects.filter(shot=empty, is_hero=True).count() == 1, "the hero of the first stays"


def test_a_recipe_is_taken_back_with_its_layers_and_brought_again_and_what_was_filmed_stays(
    supervisor: Caller, crew: Caller, empty
):
    found = supervisor.planned("post", empty, "recipes", {"key": "moves_itself"})[1]
    row = found["recipes"][0]["id"]
    count = Layer.objects.filter(shot=empty, removed=False).count()
    rig = Layer.objects.get(shot=empty, kind="rig")
    crew.take(rig)
    assert supervisor.planned("patch", empty, f"recipes/{row}", {"removed": True})[1]["recipes"] == []
    assert set(Layer.objects.filter(shot=empty, removed=False).values_list("kind", flat=True)) == {
        "rig",
        "live",
    }
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
    assert (
        supervisor.planned("post", empty, "recipes", {"key": "giant", "answers": {"line_m": 1e9}})[1][
            "problems"
        ][0]["field"]
        == "line_m"
    )
    assert not ShotRecipe.objects.filter(shot=empty, key="giant").exists()


def test_a_shot_saved_as_a_recipe_of_the_production_is_a_copy(
    supervisor: Caller, shot, empty, production, mill
):
    status, found = supervisor.planned("post", shot, "save-recipe", {"title": "Mill on the water"})
    assert status == 201 and [one["title"] for one in found["own_recipes"]] == ["Mill on the water"]
    assert supervisor.planned("post", shot, "save-recipe", {"title": "Mill on the water"})[0] == 422
    assert supervisor.planned("post", shot, "save-recipe", {"title": " "})[0] == 422
    supervisor("post", f"/shots/{shot.pk}/changes", {"layers": {mill.pk: edit(1, name="Changed since")}})
    status, used = supervisor.planned("post", empty, "recipes", {"own": found["own_recipes"][0]["id"]})
    assert status == 201
    assert {one["name"] for one in used["plates"]} == {
        "Quay and sea",
        "Mill 1:12",
        "Headland",
        "Gulls",
        "Dusk sky",
    }
    copy = Layer.objects.get(shot=empty, name="Mill 1:12")
    assert (
        copy.parts.count() == mill.parts.count() > 0 and copy.set_up_id != mill.set_up_id and copy.scale == 12
    )
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


# --- ways and hours


def test_all_ways_in_one_table_one_chosen_and_the_others_kept(supervisor: Caller, production, shot):
    found = supervisor.planned("patch", shot, "costs", {"changes": {"chosen": "painted"}})[1]["costing"]
    assert len(found["options"]) == 10 and [one["key"] for one in found["options"] if one["chosen"]] == [
        "painted"
    ]
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
    assert (
        supervisor.planned("patch", shot, "costs", {"changes": {"shapes": -1}})[1]["problems"][0]["field"]
        == "shapes"
    )
    assert (
        supervisor.planned("patch", shot, "costs", {"changes": {"mood": 1}})[1]["problems"][0]["field"]
        == "mood"
    )


def test_hours_follow_from_the_shot_until_somebody_says_otherwise(supervisor: Caller, shot):
    before = plan(supervisor, shot)["costing"]
    assert before["said"] == [] and before["job"] == before["derived"]
    said = supervisor.planned("patch", shot, "costs", {"changes": {"shapes": 9, "tracked": True}})[1][
        "costing"
    ]
    assert set(said["said"]) == {"shapes", "tracked"} and said["job"]["shapes"] == 9
    assert said["derived"] == before["derived"]
    again = supervisor.planned("patch", shot, "costs", {"changes": {"shapes": None, "tracked": None}})[1][
        "costing"
    ]
    assert again["said"] == [] and [one["hours"] for one in again["options"]] == [
        one["hours"] for one in before["options"]
    ]


def test_a_shot_beyond_all_measure_is_still_broken_down(supervisor: Caller, production):
    """What follows from the shot is brought within what the costs can say: seventy minutes of stop motion, a
    county built full size.
    """
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
    saving = next(one for one in framed["hand_cut"]["savings"] if one["what"] == "final crop and move first")
    # three quarters of the matte's hours fall away
    assert (
        hours["hand_cut"] - framed["hand_cut"]["hours"] == pytest.approx(saving["hours"]) and saving["taken"]
    )
    assert framed["key"]["hours"] == pytest.approx(hours["key"])


def test_a_paint_out_on_the_board_has_its_hours(supervisor: Caller, shot):
    """By hand: 1920 × 1080 px · 4 % behind a still camera is two patches of half an hour."""
    box = [[0, 0], [384, 0], [384, 216], [0, 216]]
    made = supervisor(
        "post",
        f"/shots/{shot.pk}/add",
        {"what": "line", "fields": {"kind": "paint_out", "points": box, "thing": "aerial"}},
    )[1]
    line = next(one for one in made["bench"]["lines"] if one["id"] == made["id"])
    assert line["hours"] == pytest.approx(1.0) and "patch" in line["hours_text"]
    assert plan(supervisor, shot)["costing"]["job"]["paint_out_h"] == pytest.approx(1.0)


def test_the_production_s_figures_are_its_own(supervisor: Caller, crew: Caller, production, shot):
    path = f"/productions/{production.pk}/figures"
    found = supervisor("get", path)[1]
    before = plan(supervisor, shot)["costing"]["options"]
    status, changed = supervisor(
        "patch",
        path,
        {"version": found["version"], "changes": {"composite_least_h": 20, "composite_most_h": 20}},
    )
    assert status == 200 and changed["values"]["composite_most_h"] == 20
    after = {one["key"]: one["hours"] for one in plan(supervisor, shot)["costing"]["options"]}
    assert all(after[one["key"]] > one["hours"] for one in before if one["key"] != "in_camera")
    assert supervisor("patch", path, {"version": found["version"], "changes": {"crew": 5}})[0] == 409
    assert (
        supervisor("patch", path, {"version": changed["version"], "changes": {"day_h": 0}})[1]["problems"][0][
            "field"
        ]
        == "day_h"
    )
    assert supervisor("patch", path, {"version": changed["version"], "changes": {"mood": 1}})[0] == 422
    assert crew("patch", path, {"version": changed["version"], "changes": {"crew": 5}})[0] == 403
    assert Figures.objects.get(production=production).crew == 3


# --- cautions


def test_a_shot_with_an_open_caution_cannot_be_ready_and_its_card_says_so(
    supervisor: Caller, crew: Caller, production, shot
):
    ready = {"changes": {"ready": True}}
    status, answer = supervisor("patch", f"/shots/{shot.pk}/line", ready)
    assert status == 422 and "not signed off" in answer["problems"][0]["message"]
    found = plan(supervisor, shot)
    assert not found["ready"] and found["deference"] == DEFERENCE
    assert "not signed off" in card_text(supervisor, "POST", f"/shots/{shot.pk}/cards")
    for one in found["hazards"]:
        assert one["safer"] and one["ask"] and one["by"]
        assert crew.planned("post", shot, "sign", {"caution": one["key"], "note": "Asked."})[0] == 403, (
            "the supervisor alone signs"
        )
        assert (
            supervisor.planned("post", shot, "sign", {"caution": one["key"], "note": " "})[1]["problems"][0][
                "field"
            ]
            == "note"
        )
        signed = supervisor.planned("post", shot, "sign", {"caution": one["key"], "note": "Owner asked."})
        assert signed[0] == 200
    signed = plan(supervisor, shot)["hazards"]
    assert all(
        one["signed"]["by"] == "Supervisor"
        and one["signed"]["at"]
        and one["signed"]["note"] == "Owner asked."
        for one in signed
    )
    status, answer = supervisor("patch", f"/shots/{shot.pk}/line", ready)
    assert status == 422 and "accept them" in answer["problems"][0]["message"]
    supervisor.accept_all(shot)
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
    assert (
        not found["ready"]
        and next(one for one in found["hazards"] if one["key"] == "flame")["signed"] is None
    )
    assert SignOff.objects.filter(shot=shot, caution="flame", withdrawn=True).count() == 1
    assert Change.objects.filter(
        write__shot=shot, kind="signature", field="flame", after__isnull=True
    ).exists()
    assert supervisor.planned("post", shot, "sign", {"caution": "boats", "note": "x"})[0] == 422, (
        "nothing raises it here"
    )


def test_kit_and_place_raise_theirs(supervisor: Caller, production, empty):
    supervisor.planned("post", empty, "recipes", {"key": "vanish"})
    assert plan(supervisor, empty)["hazards"] == []
    quay = Place.objects.get(name="The quay")
    supervisor("patch", f"/shots/{empty.pk}/line", {"changes": {"place_id": quay.pk}})
    hero = Layer.objects.get(shot=empty, is_hero=True)
    spot = next(
        one
        for one in supervisor("get", f"/productions/{production.pk}/on-set")[1]["lamps"]
        if one["name"] == "300 W spot"
    )
    add = {"what": "lamp", "like_set_up": hero.set_up_id, "kit_lamp": spot["id"], "fields": {"height_m": 3.2}}
    assert supervisor("post", f"/shots/{empty.pk}/add", add)[0] == 201
    by = {one["key"]: one["by"] for one in plan(supervisor, empty)["hazards"]}
    assert by["water_edge"][0] == "place: The quay" and by["hot_lamps"] == ["kit: 300 W spot"]
    assert by["heights"] == ["300 W spot at 3.2 m"]


def test_one_signature_a_caution_in_the_database(production, shot):
    from jungoptic.app.people.models import Person

    who = Person.objects.get(username="supervisor")
    SignOff.objects.create(shot=shot, caution="dust", note="a", person=who)
    with pytest.raises(IntegrityError), transaction.atomic():
        SignOff.objects.create(shot=shot, caution="dust", note="b", person=who)


# --- lines


def test_a_line_is_drawn_checked_by_the_bench_changed_and_taken_away(
    supervisor: Caller, crew: Caller, production
):
    shot = Shot.objects.get(code="TM110")
    before = supervisor.bench(shot)
    matte = Line.objects.get(shot=shot, kind="matte")
    low = [[x, y + 250] for x, y in matte.points]
    assert (
        supervisor("post", f"/shots/{shot.pk}/changes", {"lines": {matte.pk: edit(1, points=low)}})[0] == 200
    )
    after = supervisor.bench(shot)

    def over(bench: dict[str, Any]) -> float:
        return max(
            (
                item["amount"]
                for layer in bench["layers"]
                for item in layer["items"]
                if item["item"] == "matte_line"
            ),
            default=0.0,
        )

    assert over(after) > over(before)
    assert (
        supervisor("post", f"/shots/{shot.pk}/changes", {"lines": {matte.pk: edit(1, note="old")}})[0] == 409
    )
    assert (
        supervisor("post", f"/shots/{shot.pk}/changes", {"lines": {matte.pk: edit(2, points=[[1, 1]])}})[1][
            "problems"
        ][0]["field"]
        == "points"
    )
    foreign = Layer.objects.get(shot__code="TM010", is_hero=True)
    assert (
        supervisor("post", f"/shots/{shot.pk}/changes", {"lines": {matte.pk: edit(2, layer_id=foreign.pk)}})[
            0
        ]
        == 422
    )
    assert (
        supervisor("post", f"/shots/{shot.pk}/changes", {"lines": {matte.pk: edit(2, removed=True)}})[0]
        == 200
    )
    assert len(supervisor.bench(shot)["lines"]) == len(before["lines"]) - 1
    assert (
        crew(
            "post",
            f"/shots/{shot.pk}/add",
            {"what": "line", "fields": {"kind": "matte", "points": [[0, 0], [9, 9]]}},
        )[0]
        == 403
    )
