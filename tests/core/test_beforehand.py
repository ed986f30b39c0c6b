"""What travels to a place without a server is what the server would say there: at its points, exactly."""

import math
import random
from dataclasses import replace

import pytest

from jungoptic.core import handbook
from jungoptic.core.calculation import CALCULATIONS
from jungoptic.core.errors import InputError
from jungoptic.core.example import DELIVERY, HERO, KIT, MILL, MODEL, STACK
from jungoptic.core.match import Facts, Match, PlacingErrors, judge_facts
from jungoptic.core.plan import card_settings, dials, foretell, likely_values
from jungoptic.core.wording import Words


def alike(kept, asked) -> bool:
    if isinstance(asked, float):
        return kept == asked or math.isclose(kept, asked, rel_tol=1e-5)
    if isinstance(asked, list | tuple):
        return len(kept) == len(asked) and all(map(alike, kept, asked))
    if isinstance(asked, dict):
        return kept.keys() == asked.keys() and all(alike(kept[key], asked[key]) for key in asked)
    return kept == asked


@pytest.mark.parametrize("name", CALCULATIONS)
def test_what_was_worked_out_before_is_what_the_card_answers(name):
    entry = CALCULATIONS[name]
    example = handbook.example_of(entry)
    crossings = handbook.beforehand(entry, example)
    assert sum(len(next(iter(crossing.outputs.values()))) for crossing in crossings) <= 4200
    whole = {field.name for field in handbook.fields_of(entry) if field.kind == "integer"}
    chosen = random.Random(name)
    for crossing in chosen.sample(crossings, min(len(crossings), 5)):
        points = math.prod(len(axis.values) for axis in crossing.axes)
        assert {len(column) for column in crossing.outputs.values()} == {points}
        for _ in range(5):
            places = [chosen.randrange(len(axis.values)) for axis in crossing.axes]
            index = 0
            for axis, place in zip(crossing.axes, places, strict=True):
                index = index * len(axis.values) + place
            turned = {
                axis.field: axis.values[place] for axis, place in zip(crossing.axes, places, strict=True)
            }
            try:
                asked = entry.run(
                    {
                        **example,
                        **{field: int(value) if field in whole else value for field, value in turned.items()},
                    }
                )
            except InputError:
                asked = dict.fromkeys(crossing.outputs)
            assert alike({output: crossing.outputs[output][index] for output in crossing.outputs}, asked)


@pytest.mark.parametrize("name", CALCULATIONS)
def test_the_card_s_own_values_are_among_the_points(name):
    entry = CALCULATIONS[name]
    example = handbook.example_of(entry)
    for crossing in handbook.beforehand(entry, example):
        for axis in crossing.axes:
            assert example[axis.field] in axis.values
            assert list(axis.values) == list(dict.fromkeys(axis.values))


def test_four_numbers_are_crossed_with_each_other_and_of_more_any_two():
    depth = CALCULATIONS["depth_of_field"]
    (whole,) = handbook.beforehand(depth, handbook.example_of(depth))
    assert [len(axis.values) for axis in whole.axes] == [8, 8, 8, 8]
    stops = next(axis for axis in whole.axes if axis.field == "f_number").values
    assert [round(stop, 1) for stop in stops] == [2, 2.8, 4, 5.7, 8, 11.3, 16, 22.6], "full stops, not thirds"
    backing = CALCULATIONS["backing_size"]
    pairs = handbook.beforehand(backing, handbook.example_of(backing))
    assert len(pairs) == math.comb(8, 2)
    assert len({frozenset(axis.field for axis in pair.axes) for pair in pairs}) == len(pairs)


def card():
    match = Match(HERO, MILL, MODEL, DELIVERY)
    turned = dials(match, (), (), KIT, Words(), (0.9, 1.2))
    return card_settings(MODEL, turned, KIT, Words())


def test_likely_values_stay_beside_what_was_planned():
    for line in card():
        values = likely_values(line)
        assert list(values) == sorted(set(values))
        assert not any(math.isclose(value, line.value, rel_tol=1e-9) for value in values)
        if line.choices and line.field != "recorded_width_px":
            steps = [mark.value for mark in line.choices]
            assert set(values) <= set(steps) and len(values) <= 8


def test_a_likely_take_is_judged_as_one_that_was_logged():
    facts = Facts(STACK, 1, MODEL, {}, KIT, PlacingErrors())
    filmed = [
        (line.field, value, MODEL.but(**{line.field: value}))
        for line in card()
        if line.field in ("f_number", "tilt_deg", "lens_height_m", "iso")
        for value in likely_values(line)
    ]
    points = foretell(facts, filmed, school="covered", units="imperial")
    assert [(point.field, point.value) for point in points] == [(field, value) for field, value, _ in filmed]
    for point, (_, _, setup) in zip(points, filmed, strict=True):
        members = (STACK.members[0], replace(STACK.members[1], setup=setup), STACK.members[2])
        asked = judge_facts(
            replace(facts, stack=replace(STACK, members=members)), school="covered", units="imperial"
        )
        told = [(item.item, item.amount, item.verdict, item.sentence) for item in point.judged]
        assert told == [(item.item, item.amount, item.verdict, item.sentence) for item in asked]
    assert len({tuple(item.amount for item in point.judged) for point in points}) == len(points)
