"""The vocabulary over the wire, and a practitioner's own recipes and cautions beside the house's."""

from __future__ import annotations

import re
from pathlib import Path

import pytest
from django.test import Client

from jungoptic.app import settings as settings_module
from jungoptic.app.shots.models import Shot
from jungoptic.core.vocabulary import COMBINES, KINDS, LINES, VERDICTS
from tests.app.conftest import Caller
from tests.core.test_data_files import SAND

ICE = """\
[ice]
title = "Thin ice"
text = "Ice that carries one person does not carry a crew."
ask = "The keeper of the lake."
safer = "A floor of board, with the ice laid in."
"""


@pytest.fixture
def own(settings, tmp_path: Path) -> Path:
    settings.OWN_RECIPES = tmp_path
    return tmp_path


def test_the_vocabulary_is_served_whole(supervisor: Caller):
    status, words = supervisor("get", "/vocabulary")
    assert status == 200
    assert [kind["key"] for kind in words["kinds"]] == list(KINDS)
    assert [way["name"] for way in words["combines"]] == [way.name for way in COMBINES.values()]
    assert {line["key"]: (line["least"], line["dash"]) for line in words["lines"]} == {
        key: (line.least, line.dash) for key, line in LINES.items()
    }
    assert [verdict["key"] for verdict in words["verdicts"]] == list(VERDICTS)
    units = {(unit["quantity"], unit["units"]): unit for unit in words["units"]}
    # ISO 31-1 (from memory): 1 ft = 0.3048 m
    assert units["length", "imperial"]["per_kept"] == pytest.approx(1 / 0.3048)
    assert units["light", "metric"]["sign"] == "lx"


def test_a_stranger_reads_no_vocabulary(db):
    assert Client().get("/api/vocabulary").status_code == 401


def test_a_recipe_of_ones_own_appears_is_chosen_and_raises_its_own_caution(
    supervisor: Caller, shot: Shot, own: Path
):
    (own / "cautions.toml").write_text(ICE, "utf-8")
    (own / "sand.toml").write_text(SAND.replace('["dust"]', '["dust", "ice"]'), "utf-8")
    found = supervisor("get", "/recipes")[1]
    assert found["problems"] == []
    assert (
        found["recipes"][-1]["title"] == "Sand storm" and found["recipes"][-1]["cautions"][-1] == "Thin ice"
    )
    assert "sand_storm" in [row["key"] for row in supervisor("get", "/guide?sees=event")[1]]
    status, _ = supervisor(
        "post",
        f"/shots/{shot.pk}/recipes",
        {"key": "sand_storm", "answers": {"distance_m": 100}, "version": shot.version},
    )
    assert status == 201
    plan = supervisor("get", f"/shots/{shot.pk}/plan")[1]
    assert "Thin ice" in [one["title"] for one in plan["hazards"]]
    assert "Sand storm" in [one["title"] for one in plan["recipes"]]
    # Its files gone: the shot is still read, and says what it can.
    for file in own.iterdir():
        file.unlink()
    plan = supervisor("get", f"/shots/{shot.pk}/plan")[1]
    assert "sand_storm" in [one["title"] for one in plan["recipes"]]
    assert "Thin ice" not in [one["title"] for one in plan["hazards"]]


def test_a_file_that_cannot_be_used_is_said_and_the_others_are_used(supervisor: Caller, own: Path):
    (own / "sand.toml").write_text(SAND, "utf-8")
    (own / "broken.toml").write_text(SAND.replace('combine = "screen"', 'combine = "paste"'), "utf-8")
    (own / "latin.toml").write_bytes("title = 'Sturmflut über'".encode("latin-1"))
    (own / "long.toml").write_text("#" * 300_000, "utf-8")
    (own / "notes.txt").write_text("not a recipe", "utf-8")
    found = supervisor("get", "/recipes")[1]
    assert found["recipes"][-1]["key"] == "sand_storm"
    said = " ".join(found["problems"])
    assert "broken.toml, line 32, plates.1.combine: " in said
    assert "latin.toml is not text in UTF-8" in said and "long.toml has 300 kB" in said
    assert "notes.txt" not in said
    # mended, it is read without starting anything again
    (own / "broken.toml").write_text(SAND.replace("sand_storm", "dust_storm"), "utf-8")
    assert [one["key"] for one in supervisor("get", "/recipes")[1]["recipes"]][-2:] == [
        "dust_storm",
        "sand_storm",
    ]


def test_no_two_rooms_give_a_schema_the_same_name():
    """The API's schema keeps one of a name, and says the other's answers wrongly."""
    rooms = Path(settings_module.__file__).parent
    names = [
        name
        for file in rooms.glob("*/schemas.py")
        for name in re.findall(r"^class (\w+)\(", file.read_text("utf-8"), re.M)
    ]
    assert sorted(names) == sorted(set(names))
