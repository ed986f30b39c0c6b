"""The command line: the documented examples, and what is said of bad input."""

import io
import json
import re
from pathlib import Path
from typing import Any

import cv2
import numpy as np
import OpenEXR
import pytest
from tools.one_layer import main

from jungoptic.core.match import Delivery, Layer, SetUp, judge

DOCS = Path(__file__).resolve().parents[2] / "docs" / "exchange.md"
_BLOCK = re.compile(r"```json (judge|solve)\n(.*?)```\n+```json answer\n(.*?)```", re.DOTALL)
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
