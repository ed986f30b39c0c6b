"""Data files of recipes and cautions: what is wrong with one is said by file, line and field."""

from __future__ import annotations

import re
from importlib.resources import files
from typing import get_args

import pytest
from hypothesis import given
from hypothesis import strategies as st

from jungoptic.core import cautions, data_file, vocabulary
from jungoptic.core.breakdown import recipes
from jungoptic.core.breakdown.recipe import expand
from jungoptic.core.data_file import DataFileError

SAND = """\
key = "sand_storm"
title = "Sand storm"
audience = "A wall of sand comes over the road."
sees = ["event"]
ways = ["stock"]
cautions = ["dust"]

[[asks]]
name = "distance_m"
label = "The wall stands away"
unit = "m"
default = 80
least = 10
most = 500

[[plates]]
name = "Road"
kind = "live"
combine = "base"
set_up = "Road"
why = "The hero."
hero = true
[plates.layer]
near_m = 8.0
width_m = 20.0
height_m = 5.0
fills_frame = true

[[plates]]
name = "Wall of sand"
kind = "black_element"
combine = "screen"
why = "Flour on black."
[plates.layer]
near_m = { answer = "distance_m", plus = 5 }
width_m = 60.0
height_m = 20.0

[[order]]
film = "Road"
why = "First, in its light."

[[wrong]]
what = "The sand is lit from the wrong side"
seen = "item Key direction"
"""


def problems(text: str, **known: object) -> list[str]:
    with pytest.raises(DataFileError) as refused:
        recipes.read_recipe(text, "sand.toml", **known)  # type: ignore[arg-type]
    return [problem.message for problem in refused.value.problems]


def test_a_recipe_of_ones_own_is_read_and_laid_out():
    planned = expand(recipes.read_recipe(SAND, "sand.toml"), {"distance_m": 120})
    assert [(plate.fields["name"], plate.fields["near_m"]) for plate in planned] == [
        ("Road", 8.0),
        ("Wall of sand", 125.0),
    ]


@pytest.mark.parametrize(
    ("old", "new", "field", "said"),
    [
        ('combine = "screen"', 'combine = "paste"', "plates.1.combine", "must be one of"),
        ("height_m = 20.0", "height_m = -20.0", "plates.1.layer.height_m", "must be more than 0 m"),
        ("height_m = 20.0", 'depth_of = "x"', "plates.1.layer.depth_of", "no field called “depth_of”"),
        ('why = "Flour on black."', "", "plates.1.why", "is missing"),
        ("most = 500", "most = 50", "asks.0.default", "must lie between 10 and 50"),
        ("least = 10", 'least = "ten"', "asks.0.least", "must be a number"),
        ("hero = true", "hero = false", "plates", "must say hero = true"),
        ('film = "Road"', 'film = "Sky"', "order.0.film", "No plate is called “Sky”"),
        ('sees = ["event"]', 'sees = ["sound"]', "sees.0", "“sound” is none of"),
        ('ways = ["stock"]', 'ways = ["luck"]', "ways.0", "“luck” is none of"),
        ('cautions = ["dust"]', 'cautions = ["sand"]', "cautions.0", "no caution called “sand”"),
        (
            'near_m = { answer = "distance_m"',
            'near_m = { answer = "far_m"',
            "plates.1.layer.near_m",
            "asked:",
        ),
        ('title = "Sand storm"', 'titel = "Sand storm"', "titel", "no field called “titel”"),
        ('key = "sand_storm"', 'key = "Sand storm"', "key", "small letters"),
    ],
)
def test_what_is_wrong_is_said_by_file_line_and_field(old: str, new: str, field: str, said: str):
    assert SAND.count(old) == 1
    text = SAND.replace(old, new)
    found = [message for message in problems(text) if f", {field}: " in message]
    assert len(found) == 1, problems(text)
    assert said in found[0]
    named = re.match(r"sand\.toml, line (\d+), ", found[0])
    assert named
    line = text.splitlines()[int(named[1]) - 1]
    # the line of the field, or of the table that lacks it
    table, own = field.partition(".")[0], field.rpartition(".")[2]
    assert line.startswith((own, "[[plates]]", table)), line


def test_a_missing_field_is_said_at_its_own_table():
    text = SAND.replace('why = "Flour on black."\n', "")
    at = [n for n, line in enumerate(text.splitlines(), 1) if line == "[[plates]]"][1]
    assert problems(text) == [f"sand.toml, line {at}, plates.1.why: why is missing."]


def test_a_text_that_is_no_toml_is_said_with_its_line():
    text = SAND.replace('kind = "black_element"', 'kind = "black_element')
    at = next(n for n, line in enumerate(text.splitlines(), 1) if "black_element" in line)
    assert problems(text)[0].startswith(f"sand.toml, line {at}: ")


def test_a_key_is_used_once():
    assert "There is a recipe called “sand_storm” already" in problems(SAND, taken=["sand_storm"])[0]


@given(st.integers(0, 200), st.sampled_from(["=", "[", '"', "}", "x = ", "\x00", "[[plates]]", "key = 3"]))
def test_a_damaged_file_is_refused_or_read_but_never_worse(at: int, damage: str):
    lines = SAND.splitlines()
    lines.insert(at % len(lines), damage)
    try:
        recipes.read_recipe("\n".join(lines), "sand.toml")
    except DataFileError as error:
        assert all(problem.message.startswith("sand.toml, line ") for problem in error.problems)


def test_cautions_are_read_by_table_and_a_fault_is_said_at_its_line():
    ice = '[ice]\ntitle = "Thin ice"\ntext = "It breaks."\nask = "The keeper."\nsafer = "A board."\n'
    assert cautions.read(ice, "own.toml")["ice"].safer == "A board."
    for text, said in (
        (ice.replace('ask = "The keeper."\n', ""), "own.toml, line 1, ice.ask: ask is missing."),
        (ice + 'risk = "high"\n', "own.toml, line 6, ice.risk: There is no field called “risk” here."),
        ('title = "Ice"\n', "own.toml, line 1, title: Write [title] above its fields."),
        (ice.replace("[ice]", "[dust]"), "own.toml, line 1, dust: There is a caution of that key already."),
    ):
        with pytest.raises(DataFileError) as refused:
            cautions.read(text, "own.toml", taken=cautions.CAUTIONS)
        assert [problem.message for problem in refused.value.problems] == [said]


def test_the_shipped_files_say_one_field_a_line():
    folder = files("jungoptic.core.breakdown.recipes")
    names = [file for file in folder.iterdir() if file.name.endswith(".toml")]
    assert len(names) == 26
    for file in names:
        for line in file.read_text("utf-8").splitlines():
            assert re.match(r'^(\[\[?[\w.]+\]\]?|[\w]+ = .*|  ".*",|\]|#.*)?$', line), (file.name, line)


@pytest.mark.parametrize(
    ("words", "literal"),
    [
        (vocabulary.KINDS, vocabulary.Kind),
        (vocabulary.COMBINES, vocabulary.Combine),
        (vocabulary.LINES, vocabulary.LineKind),
        (vocabulary.VERDICT_WORDS, vocabulary.Verdict),
        (vocabulary.SCHOOLS, vocabulary.School),
        (vocabulary.SHEETS, vocabulary.KeyColour),
    ],
)
def test_every_word_of_the_vocabulary_is_described_and_no_other(words: dict, literal: object):
    assert sorted(words) == sorted(get_args(literal))


def test_names_of_choices_are_said_once():
    choices = [*vocabulary.CHOICES, *vocabulary.KINDS, *vocabulary.COMBINES]
    twice = {name for name in choices if choices.count(name) > 1}
    assert twice == {"split"}  # a kind of layer and a way to combine, said by their own tables
    assert data_file.tables('a = "b"', "x.toml") == {"a": "b"}
