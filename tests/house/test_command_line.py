"""The command line: the documented examples, and what is said of bad input."""

import io
import json
import re
from pathlib import Path
from typing import Any

import cv2
import jsonschema_rs
import numpy as np
import OpenEXR
import pytest
from tools import plan_days
from tools.one_layer import main

from jungoptic.core.match import Delivery, Layer, SetUp, judge

DOCS = Path(__file__).resolve().parents[2] / "docs" / "exchange.md"
_BLOCK = re.compile(r"```json (judge|solve|days)\n(.*?)```\n+```json answer\n(.*?)```", re.DOTALL)
EXAMPLES = {
    kind: (question, json.loads(answer)) for kind, question, answer in _BLOCK.findall(DOCS.read_text())
}


def run(capsys: Any, monkeypatch: Any, command: str, question: str, *more: str) -> tuple[int, str, str]:
    monkeypatch.setattr("sys.stdin", io.StringIO(question))
    status = main([command, "-", *more])
    told = capsys.readouterr()
    return status, told.out, told.err


def within(small: Any, whole: Any) -> bool:
    """Whether an answer says all that the example shows of it."""
    if isinstance(small, dict):
        return all(within(value, whole[key]) for key, value in small.items())
    if isinstance(small, list):
        return all(within(*pair) for pair in zip(small, whole, strict=False))
    return bool(small == pytest.approx(whole) if isinstance(small, float) else small == whole)


@pytest.mark.parametrize("command", ["judge", "solve"])
def test_the_documented_example_answers_as_it_says(command: str, capsys, monkeypatch):
    question, answer = EXAMPLES[command]
    status, out, err = run(capsys, monkeypatch, command, question)
    assert (status, err) == (0, "")
    assert within(answer, json.loads(out))


def test_what_is_judged_is_the_comparisons_own(capsys, monkeypatch):
    question = json.loads(EXAMPLES["judge"][0])
    _, out, _ = run(capsys, monkeypatch, "judge", json.dumps(question))
    delivery = Delivery.read({"move": question["move"]})
    hero, layer, setup = (
        SetUp.read(question["hero"]),
        Layer.read(question["layer"]),
        SetUp.read(question["setup"]),
    )
    wanted = {item.item: item.amount for item in judge(hero, layer, setup, delivery)}
    told = {item["item"]: item["amount"] for item in json.loads(out)["items"]}
    assert wanted.items() <= told.items()


def test_a_picture_is_written_in_codes_and_in_light(tmp_path: Path, capsys, monkeypatch):
    question, _ = EXAMPLES["judge"]
    small = json.dumps(json.loads(question) | {"delivery": {"width_px": 480, "height_px": 270}})
    for name in ("mill.png", "mill.exr"):
        status, out, _ = run(capsys, monkeypatch, "picture", small, str(tmp_path / name))
        assert status == 0 and json.loads(out)["width_px"] == 480
    codes = cv2.imread(str(tmp_path / "mill.png"))[..., ::-1] / 255.0
    light = OpenEXR.File(str(tmp_path / "mill.exr")).channels()["RGB"].pixels
    assert codes.shape == light.shape == (270, 480, 3)
    # IEC 61966-2-1: the codes are the light, encoded
    encoded = np.where(light <= 0.0031308, 12.92 * light, 1.055 * np.maximum(light, 0) ** (1 / 2.4) - 0.055)
    assert np.abs(np.clip(encoded, 0, 1) - codes).max() < 0.01


@pytest.mark.parametrize(
    ("change", "field", "reason"),
    [
        ({"setup": {"f_number": -8}}, "setup.f_number", "more than 0"),
        ({"setup": {"iso": None}}, "setup.iso", "number"),
        ({"hero": {"wobble": 1}}, "hero.wobble", ""),
        ({"layer": {"near_m": "far"}}, "layer.near_m", "number"),
        ({"move": {"kind": "wobble"}}, "move.kind", "wobble"),
        ({"school": "guessed"}, "school", "guessed"),
    ],
)
def test_bad_input_is_told_by_field_limit_and_reason(change, field, reason, capsys, monkeypatch):
    question = json.loads(EXAMPLES["judge"][0])
    for name, value in change.items():
        question[name] = {**question[name], **value} if isinstance(value, dict) else value
    status, out, err = run(capsys, monkeypatch, "judge", json.dumps(question))
    assert (status, out) == (2, "")
    assert err.startswith(f"{field}: ") and reason in err


def test_what_is_no_question_is_refused(tmp_path: Path, capsys, monkeypatch):
    question = EXAMPLES["judge"][0]
    assert run(capsys, monkeypatch, "judge", "{")[::2] == (
        2,
        "The input is not JSON: Expecting property name enclosed in double quotes at character 2.\n",
    )
    assert run(capsys, monkeypatch, "judge", "[]")[0] == 2
    assert run(capsys, monkeypatch, "solve", question)[2].startswith("kit: ")
    assert run(capsys, monkeypatch, "picture", question, str(tmp_path / "a.gif"))[2].startswith("OUT: ")
    assert main(["judge", str(tmp_path / "none.json")]) == 2
    assert main([]) == main(["judge"]) == main(["guess", "x"]) == 2


# --- days


def run_days(capsys: Any, monkeypatch: Any, question: str, *words: str) -> tuple[int, str, str]:
    monkeypatch.setattr("sys.stdin", io.StringIO(question))
    status = plan_days.main(list(words) or ["-"])
    told = capsys.readouterr()
    return status, told.out, told.err


def test_the_documented_days_are_planned_as_it_says_and_fit_the_schema(capsys, monkeypatch):
    question, answer = EXAMPLES["days"]
    schema = json.loads((DOCS.parent / "days.schema.json").read_text())
    status, out, err = run_days(capsys, monkeypatch, question)
    assert status == 0 and "none needs fewer than 1" in err
    assert within(answer, json.loads(out))
    assert jsonschema_rs.is_valid(schema["reads"], json.loads(question))
    assert jsonschema_rs.is_valid(schema["writes"], json.loads(out))
    assert not jsonschema_rs.is_valid(schema["reads"], {**json.loads(question), "people": 3})


def test_the_schema_in_the_documentation_is_what_is_read(capsys, monkeypatch):
    status, out, _ = run_days(capsys, monkeypatch, "", "--schema")
    assert status == 0 and json.loads(out) == json.loads((DOCS.parent / "days.schema.json").read_text())


@pytest.mark.parametrize(
    ("change", "told"),
    [
        ({"days": []}, "days: There is no day to film on"),
        (
            {"people": [{"key": "orla", "hours": [{"start": "18:00", "end": "9:00"}]}]},
            "people.0.hours.0.end: ",
        ),
        ({"jobs": [{"key": "sea", "place": "quay", "takes": 3}]}, "jobs.0.takes: "),
    ],
)
def test_bad_days_are_told_at_their_field(change: dict[str, Any], told: str, capsys, monkeypatch):
    question = json.loads(EXAMPLES["days"][0])
    status, out, err = run_days(capsys, monkeypatch, json.dumps({**question, **change}))
    assert status == 2 and out == "" and told in err


def test_what_is_left_out_is_told_and_ends_with_1(capsys, monkeypatch):
    question = json.loads(EXAMPLES["days"][0])
    question["people"][1]["most_min"] = 30
    question["jobs"][1]["before_min"] = 0
    question["jobs"].append({**question["jobs"][1], "key": "again", "name": "The cup again"})
    for job in question["jobs"][1::2]:
        job.update(before_min=0, takes_min=20, after_min=0, people=["orla"])
    status, out, _ = run_days(capsys, monkeypatch, json.dumps(question))
    assert status == 1
    assert any("the time of orla is 30 min in all" in why for why in json.loads(out)["why"])


@pytest.mark.parametrize(
    ("words", "told"),
    [
        ([], "Say which file"),
        (["/nowhere.json"], "cannot be read"),
        (["-"], "Line 1, column 1: this is not JSON"),
    ],
)
def test_no_file_of_days_is_told(words: list[str], told: str, capsys, monkeypatch):
    monkeypatch.setattr("sys.stdin", io.StringIO("<days>"))
    assert plan_days.main(words) == 2 and told in capsys.readouterr().err
