"""Recipes, hours, guide, what raises a caution, what may serve again.

Hours against examples worked by hand.
"""

from __future__ import annotations

import math
import re

import pytest
from hypothesis import given
from hypothesis import strategies as st

from jungoptic.core.breakdown import Figures, Owned, costs
from jungoptic.core.breakdown.guide import guide
from jungoptic.core.breakdown.hazards import open_cautions, plan_reasons, raised_cautions
from jungoptic.core.breakdown.recipe import Ask, answers_of, expand, filmed_at
from jungoptic.core.breakdown.recipes import HABITS, RECIPES
from jungoptic.core.breakdown.ways import WAYS
from jungoptic.core.cautions import CAUTIONS, DEFERENCE
from jungoptic.core.errors import InputError
from jungoptic.core.light.placed import PlacedLamp
from jungoptic.core.match import Delivery, Layer, SetUp
from jungoptic.core.match.compare import judge_member
from jungoptic.core.match.stack import Member, ShotPlan, Stack
from jungoptic.core.vocabulary import NEEDS, PICTURES, SEES

from .test_stack import SEA

EVERY = list(RECIPES.values())
FIGURES = Figures()
HAS = Owned(backings=2, lamps=6, highest_fps=120, stock_elements=8)


def by_craft(option: costs.Option) -> dict[str, float]:
    found: dict[str, float] = {}
    for one in option.crafts:
        found[one.craft] = found.get(one.craft, 0.0) + one.hours
    return found


# --- recipes


def test_there_are_the_twenty_five_each_once():
    assert [one.number for one in EVERY] == list(range(1, 26))
    assert len({one.key for one in EVERY}) == 25


@pytest.mark.parametrize("recipe", EVERY, ids=lambda one: one.key)
def test_a_recipe_is_whole(recipe):
    planned = expand(recipe, {})
    assert sum(one.hero for one in planned) == 1
    assert recipe.order and recipe.wrong and recipe.ways and recipe.references and recipe.audience
    assert set(recipe.sees) <= set(SEES) and recipe.sees
    assert set(recipe.needs) <= set(NEEDS)
    assert set(recipe.cautions) <= set(CAUTIONS)
    assert set(recipe.ways) <= set(WAYS)
    hero = next(one for one in planned if one.hero)
    assert hero.set_up, "a hero is filmed"
    for plate in planned:
        Layer.read(plate.fields)
        kind = plate.fields["kind"]
        assert kind == "black_element" or bool(plate.set_up) == (kind not in PICTURES), plate.fields["name"]
        assert plate.check or not plate.set_up, f"{plate.fields['name']} has nothing to tick off"
    filmed = [one for one in planned if one.set_up]
    assert len({one.fields["name"] for one in planned}) == len(planned)
    # whatever is replaced, removed or split in a locked-off frame has a clean plate
    cut = {"split", "rig"} & {one.fields["kind"] for one in filmed} or {"difference"} & {
        one.fields["combine"] for one in filmed
    }
    assert not cut or any(one.fields["kind"] == "clean_plate" for one in filmed)


@pytest.mark.parametrize("recipe", EVERY, ids=lambda one: one.key)
def test_everything_in_the_filming_order_is_a_plate_and_has_a_reason(recipe):
    told = [found for plate in recipe.plates if (found := filmed_at(recipe, plate))]
    assert told, recipe.order
    names = [plate.name.split(" 1:{")[0].split(" {")[0].casefold() for plate in recipe.plates]
    for row in recipe.order:
        what = row.film
        assert row.why.strip()
        assert any(what.casefold().startswith(name) or name.startswith(what.casefold()) for name in names), (
            what
        )


def named_items(recipe) -> list[str]:
    """The items that the pitfalls name: «item flicker», «items grain and sharpness»."""
    parts = [part.strip() for row in recipe.wrong for part in re.split("[:,;]", row.seen)]
    said = [part.split(" ", 1)[1] for part in parts if part.startswith(("item ", "items "))]
    return [name.strip().casefold() for one in said for name in one.split(" and ")]


@pytest.mark.parametrize("recipe", EVERY, ids=lambda one: one.key)
def test_its_items_are_items_of_the_ladder(recipe):
    """Where a pitfall names an item, the Bench must have one of that name."""
    from jungoptic.core.match.tolerances import ITEMS

    labels = {item.label.casefold().split(",")[0] for item in ITEMS.values()}
    assert set(named_items(recipe)) <= labels


def test_most_recipes_name_an_item_and_have_something_to_cut_out():
    """So that the two tests above have something to hold."""
    assert sum(bool(named_items(one)) for one in EVERY) >= 5
    assert sum(any(plate.fields["kind"] == "clean_plate" for plate in expand(one, {})) for one in EVERY) >= 5


@given(st.data())
def test_any_answer_within_its_limits_makes_layers_that_core_takes(data):
    recipe = data.draw(st.sampled_from(EVERY))

    def value(ask: Ask) -> st.SearchStrategy[float]:
        return (
            st.integers(int(ask.least), int(ask.most)).map(float)
            if ask.whole
            else st.floats(ask.least, ask.most)
        )

    given_answers = {ask.name: data.draw(value(ask), label=ask.name) for ask in recipe.asks}
    planned = expand(recipe, given_answers)
    for plate in planned:
        Layer.read(plate.fields)
    counted = [plate for plate in recipe.plates if plate.each]
    assert len(planned) == len(recipe.plates) + sum(int(given_answers[plate.each]) - 1 for plate in counted)


def test_the_answers_reach_the_layers():
    planned = {
        one.fields["name"]: one.fields
        for one in expand(RECIPES["opening"], {"scale": 8, "distance_m": 20, "width_m": 5, "height_m": 3})
    }
    wall = planned["Wall with the opening 1:8"]
    assert (wall["scale"], wall["near_m"], wall["width_m"], wall["height_m"]) == (8, 20, 5, 3)
    rows = expand(RECIPES["crowd"], {"people": 9, "rows": 4, "distance_m": 8})
    assert [one.fields["near_m"] for one in rows if one.fields["name"].startswith("Row")] == [
        8,
        9.5,
        11,
        12.5,
    ]


@pytest.mark.parametrize(
    ("given_answers", "field", "said"),
    [
        ({"scale": 0}, "scale", "between 2 and 100"),
        ({"scale": "twelve"}, "scale", "must be a number"),
        ({"scale": math.nan}, "scale", "must be a number"),
        ({"colour": 1}, "colour", "does not ask for"),
    ],
)
def test_an_answer_that_cannot_be_is_refused_at_its_field(given_answers, field, said):
    with pytest.raises(InputError) as refused:
        answers_of(RECIPES["opening"], given_answers)
    assert [one.field for one in refused.value.problems] == [field]
    assert said in refused.value.problems[0].message


def test_a_crowd_is_counted_in_whole_people():
    with pytest.raises(InputError, match="whole number"):
        answers_of(RECIPES["crowd"], {"people": 2.5})


# --- no text says how to do what only licensed people may do

# What an instruction for fire, explosives or for rigging a person would have to name. None of it stands
# anywhere.
NEVER = (
    "petrol",
    "gasoline",
    "lighter fluid",
    "paraffin",
    "kerosene",
    "propane",
    "butane",
    "acetone",
    "thermite",
    "magnesium powder",
    "flash powder",
    "gunpowder",
    "black powder",
    "nitrate",
    "chlorate",
    "perchlorate",
    "squib",
    "detonat",
    "fuse wire",
    "igniter",
    "ignite",
    "accelerant",
    "molotov",
    "charge of",
    "grams of",
    "millilitres of",
    "mix ",
    "pour ",
    "soak ",
    "light the f",
    "set fire",
    "set it alight",
    "harness",
    "carabiner",
    "karabiner",
    "tie the person",
    "tie him",
    "hang him",
    "hang her",
    "hoist",
    "descender",
    "breaking strain",
    "safe working load",
    "knot",
)


def every_text() -> list[tuple[str, str]]:
    found = [
        ("deference", DEFERENCE),
        *(
            (f"caution {one.key}", " ".join((one.title, one.text, one.ask, one.safer)))
            for one in CAUTIONS.values()
        ),
    ]
    for recipe in EVERY:
        words = [recipe.title, recipe.audience, recipe.schools, *recipe.references]
        words += [text for row in (*recipe.order, *recipe.wrong) for text in row.model_dump().values()]
        words += [text for plate in recipe.plates for text in (plate.name, plate.why, *plate.check)]
        found.append((f"recipe {recipe.key}", " ".join(words)))
    found += [(f"way {key}", " ".join((way.name, way.school, *way.layers))) for key, way in WAYS.items()]
    return [*found, *((f"habit {n}", text) for n, text in enumerate(HABITS))]


def test_no_text_gives_instructions_for_fire_explosives_or_for_rigging_a_person():
    found = [(where, word) for where, text in every_text() for word in NEVER if word in text.casefold()]
    assert not found


def test_the_reader_above_finds_an_instruction_where_there_is_one():
    assert any(word in "Soak the rag in petrol and set it alight.".casefold() for word in NEVER)


def test_every_caution_says_whom_to_ask_and_a_safer_way_and_the_dangerous_ones_defer_to_licensed_people():
    for caution in CAUTIONS.values():
        assert caution.text and caution.ask and caution.safer, caution.key
    assert "licensed" in CAUTIONS["flame"].ask and "licensed" in CAUTIONS["people_on_wires"].ask
    assert "stock" in CAUTIONS["flame"].safer
    assert "never by this crew" in CAUTIONS["people_on_wires"].text
    assert "Local codes and licensed practice come first" in DEFERENCE


def test_recipes_that_burn_flash_or_drive_raise_their_caution():
    assert {"flame", "strobe"} <= set(RECIPES["on_black"].cautions)
    assert "roads" in RECIPES["near_miss"].cautions and "roads" in RECIPES["rolling_road"].cautions
    assert "people_on_wires" in RECIPES["falling"].cautions


# --- what raises a caution


def test_the_plan_raises_what_one_look_at_it_tells(hero: SetUp, model: SetUp, mill: Layer):
    high = PlacedLamp(name="spot", intensity_cd=18000, beam_deg=25, height_m=3.1)
    flash = Layer(name="Flash", kind="light_pass", combine="add", near_m=4, width_m=6, height_m=3, seen_s=0.4)
    quiet = Stack(ShotPlan(), Delivery(), hero, (Member(mill, model, 2, False), Member(SEA, hero, 1, True)))
    assert plan_reasons(quiet) == []
    loud = Stack(
        ShotPlan(),
        Delivery(),
        hero,
        (
            Member(flash, hero, 1, False),
            Member(mill, model.but(lamps=(high,), ground_height_m=1.4, lens_height_m=1.75), 2, False),
            Member(SEA, hero, 1, True),
        ),
    )
    assert {key for key, _ in plan_reasons(loud)} == {"strobe", "heights", "overhead_load"}
    assert plan_reasons(None) == []


def test_a_caution_is_raised_once_with_all_that_raises_it_and_closes_when_signed():
    every = raised_cautions(
        [
            ("dust", "recipe: one"),
            ("heights", "spot at 3 m"),
            ("dust", "said by hand"),
            ("dust", "recipe: one"),
            ("unknown", "x"),
        ]
    )
    assert [(one.caution.key, one.by) for one in every] == [
        ("heights", ("spot at 3 m",)),
        ("dust", ("recipe: one", "said by hand")),
    ]
    assert [one.caution.key for one in open_cautions(every, {"dust": object()})] == ["heights"]


# --- the guide


@pytest.mark.parametrize("sees", SEES)
def test_the_guide_has_an_answer_for_everything_it_asks_and_puts_first_what_lacks_nothing(sees):
    every = guide(sees)
    assert every and not any(one.lacks for one in every)
    poor = guide(sees, list(NEEDS))
    assert {one.recipe.key for one in poor} == {one.recipe.key for one in every}
    assert [len(one.lacks) for one in poor] == sorted(len(one.lacks) for one in poor)


def test_the_guide_leads_where_a_practitioner_would_go():
    # common practice: one actor twice is a split; a crowd from few comes next; fire comes from black
    assert guide("twice")[0].recipe.key == "twice"
    assert guide("light", ["model"])[0].recipe.key == "on_black"
    with pytest.raises(InputError):
        guide("love")
    with pytest.raises(InputError):
        guide("place", ["money"])


# --- lines of the board, in the comparison


def test_a_clean_plate_that_a_recipe_plans_satisfies_the_look_for_it(hero: SetUp):
    planned = expand(RECIPES["moves_itself"], {})
    members = [Member(Layer.read(one.fields), hero if one.set_up else None, 1, one.hero) for one in planned]
    stack = Stack(ShotPlan(), Delivery(), hero, tuple(sorted(members, key=lambda one: one.layer.near_m)))
    at = next(n for n, one in enumerate(stack.members) if one.layer.kind == "rig")
    assert next(one for one in judge_member(stack, at)[1] if one.item == "clean_plate").verdict == "holds"
    bare = Stack(
        ShotPlan(), Delivery(), hero, tuple(one for one in stack.members if one.layer.kind != "clean_plate")
    )
    at = next(n for n, one in enumerate(bare.members) if one.layer.kind == "rig")
    assert next(one for one in judge_member(bare, at)[1] if one.item == "clean_plate").verdict == "shows"
