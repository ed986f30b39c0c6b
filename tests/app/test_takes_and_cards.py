"""Logging takes, the circled hero, verdicts kept, cards, calculations over HTTP and from the command line."""

import json
import subprocess
import sys
from pathlib import Path

import pytest
from tools import calc, write_calculations

from jungoptic.app.papers.pdf import write_pdf
from jungoptic.app.papers.shot_card import card_html
from jungoptic.app.shots.models import Layer, PlacedLamp, SetUp
from jungoptic.app.takes.models import Judging, Take, TakeVerdict
from jungoptic.core.calculation import find
from jungoptic.core.handbook import CHECKS
from tests.jobs import done
from tests.pdf import pages_of

from .conftest import Caller, a_key, edit

ROOT = Path(__file__).resolve().parents[2]


def solve_the_mill(supervisor: Caller, shot, mill) -> None:
    best = supervisor("post", f"/layers/{mill.pk}/solve", {})[1]["answers"][0]
    edits = {
        "set_ups": {mill.set_up_id: edit(1, **best["set_up"])},
        "layers": {int(layer): edit(1, **changes) for layer, changes in best["layers"].items()},
    }
    assert supervisor("post", f"/shots/{shot.pk}/changes", edits)[0] == 200


def test_a_take_as_planned_holds_as_planned(supervisor: Caller, crew: Caller, shot, mill):
    solve_the_mill(supervisor, shot, mill)
    take = crew.take(mill)
    assert (take["number"], take["slate"], take["verdict"], take["differences"]) == (1, "TM010", "holds", [])
    assert take["recorded_by"] == "Camera"


def test_a_take_shot_differently_is_judged_on_what_was_shot(supervisor: Caller, crew: Caller, shot, mill):
    solve_the_mill(supervisor, shot, mill)
    actual = {"f_number": 8, "lens_height_m": 0.36}
    take = crew.take(mill, actual=actual, note="lamp in the way")
    assert {(d["label"], d["before"], d["after"]) for d in take["differences"]} == {
        ("Stop", "f/16", "f/8"),
        ("Lens height", "0.35 m", "0.36 m"),
    }
    assert take["verdict"] == "shows"
    shown = {item["item"] for item in take["items"] if item["verdict"] == "shows"}
    assert {"height", "brightness"} <= shown
    # the verdict is kept beside the plan, and the plan is as it was
    kept = TakeVerdict.objects.filter(judging__take_id=take["id"])
    assert {one.item for one in kept if one.verdict == "shows"} == shown
    assert SetUp.objects.get(pk=mill.set_up_id).f_number == pytest.approx(16)


def test_another_recording_mode_is_chosen_at_the_camera_by_its_width_alone(crew: Caller, mill):
    take = crew.take(mill, actual={"recorded_width_px": 1920, "capture_fps": 90})
    assert {(d["label"], d["after"]) for d in take["differences"]} == {
        ("Recording", "1920 × 1080"),
        ("Rate", "90 frames/s"),
    }
    assert Take.objects.get().mode.name == "1920 × 1080"
    assert (
        crew("post", f"/layers/{mill.pk}/takes", {"actual": {"recorded_width_px": 5}})[1]["problems"][0][
            "field"
        ]
        == "recorded_width_px"
    )


@pytest.mark.parametrize("layer", ["mill", "sea"])
@pytest.mark.parametrize(("school", "units"), [("measured", "metric"), ("covered", "imperial")])
def test_what_was_foretold_is_what_the_take_is_given(crew: Caller, request, shot, layer, school, units):
    filmed = request.getfixturevalue(layer)
    found = crew("get", f"/layers/{filmed.pk}/foretold?school={school}&units={units}")[1]
    lamp = PlacedLamp.objects.filter(set_up=filmed.set_up_id).first()
    fields = {"f_number", "focus_distance_m", "tilt_deg", "iso", "recorded_width_px"}
    fields |= {f"lamps.{lamp.pk}.level"} if lamp else set()
    points = [one for one in found["points"] if one["field"] in fields]
    assert fields == {one["field"] for one in points}
    sun_at = filmed.set_up.sun_at  # the sun stands as planned
    given = ("verdict", "shows", "tight", "holds")
    asked = {"school": school, "units": units, **({"recorded_at": sun_at.isoformat()} if sun_at else {})}
    for actual, told in [({}, found["planned"])] + [
        ({one["field"]: one["value"]}, one) for one in points[::3]
    ]:
        take = crew.take(filmed, actual=actual, **asked)
        assert {name: take[name] for name in given} == {name: told[name] for name in given}
        # a take keeps its sentences, and the order of its items, in one school
        said = (
            "item",
            "label",
            "amount_text",
            "unit",
            "verdict",
            *(["sentence"] if school == "measured" else []),
        )
        faults = [[item[name] for name in said] for item in take["items"] if item["verdict"] != "holds"]
        assert sorted([item[name] for name in said] for item in told["items"]) == sorted(faults)


def test_nothing_is_foretold_of_what_is_not_filmed(crew: Caller, shot):
    sky = Layer.objects.filter(shot=shot, set_up=None).first()
    status, answer = crew("get", f"/layers/{sky.pk}/foretold")
    assert (status, "Nothing is filmed" in answer["problems"][0]["message"]) == (422, True)


@pytest.mark.parametrize(
    "when", ["0449-06-17T07:11:30+23:55", "9999-12-31T23:59:59-14:00", "2027-10-23T16:30+23:55"]
)
def test_a_take_of_no_time_that_can_be_is_refused_and_not_kept(when: str, crew: Caller, mill):
    status, answer = crew("post", f"/layers/{mill.pk}/takes", {"recorded_at": when})
    assert (status, answer["problems"][0]["field"], Take.objects.count()) == (422, "recorded_at", 0)
    assert crew.take(mill, recorded_at="2027-10-23T16:30+13:45")["number"] == 1


def test_takes_count_up_and_are_never_lost_or_doubled(crew: Caller, mill):
    key = a_key()
    first = crew("post", f"/layers/{mill.pk}/takes", {"note": "one"}, key=key)
    again = crew("post", f"/layers/{mill.pk}/takes", {"note": "one"}, key=key)
    assert first == again
    assert crew("post", f"/layers/{mill.pk}/takes", {}, key=a_key())[1]["number"] == 2
    assert Take.objects.count() == 2


@pytest.mark.parametrize(
    ("actual", "field", "words"),
    [
        ({"f_number": 90}, "f_number", "goes from f/2 to f/22"),
        ({"focus_distance_m": 0.01}, "focus_distance_m", "more than the focal length"),
        ({"mood": 3}, "mood", "no setting called"),
        ({"iso": "fast"}, "iso", "must be a number"),
    ],
)
def test_a_take_that_cannot_be_is_refused_at_its_field(
    crew: Caller, mill, actual: dict, field: str, words: str
):
    status, answer = crew("post", f"/layers/{mill.pk}/takes", {"actual": actual})
    assert status == 422
    assert answer["problems"][0]["field"] == field and words in answer["problems"][0]["message"]
    assert Take.objects.count() == 0


def test_a_picture_has_no_takes(crew: Caller, shot):
    sky = Layer.objects.get(shot=shot, name="Dusk sky")
    status, answer = crew("post", f"/layers/{sky.pk}/takes", {})
    assert status == 422 and "is a picture" in answer["problems"][0]["message"]


def test_a_circled_hero_take_becomes_the_reference(supervisor: Caller, crew: Caller, shot, mill, sea):
    solve_the_mill(supervisor, shot, mill)
    crew.take(mill, circled=True)
    planned = supervisor.bench(shot, basis="planned")
    assert planned["hero_basis"] == "plan" and planned["shows"] == 0
    hero_take = crew.take(sea, actual={"lens_height_m": 1.5, "f_number": 5.656854})
    assert supervisor.bench(shot)["hero_basis"] == "plan"  # not circled yet
    assert hero_take["against"] == "the plan"
    before = TakeVerdict.objects.filter(judging__take__layer=mill).count()
    status, circled = crew(
        "patch", f"/takes/{hero_take['id']}", {"version": hero_take["version"], "circled": True}
    )
    assert status == 200 and circled["circled"]
    bench = supervisor.bench(shot)
    assert bench["hero_basis"] == "take 1" and bench["horizon_text"] == "horizon 1.5 m"
    # the layer not yet shot again is compared with what was really shot, and the shot one is judged again
    mill_now = next(one for one in bench["layers"] if one["id"] == mill.pk)
    assert mill_now["basis"] == "take 1"
    assert {item["item"]: item["verdict"] for item in mill_now["items"]}["height"] == "shows"
    again = TakeVerdict.objects.filter(judging__take__layer=mill)
    assert again.count() == 2 * before
    assert [one.against_id for one in Judging.objects.filter(take__layer=mill)] == [None, hero_take["id"]]
    assert crew("get", f"/shots/{shot.pk}/log")[1]["hero_basis"] == "take 1"
    # solving again solves to the hero as shot
    answer = supervisor("post", f"/layers/{mill.pk}/solve", {})[1]["answers"][0]
    assert answer["set_up"]["ground_height_m"] == pytest.approx(0.35 - 1.5 / 12, abs=1e-4)


def test_only_one_take_of_a_layer_is_circled(crew: Caller, mill):
    first = crew.take(mill, circled=True)
    second = crew.take(mill, circled=True)
    assert [take.circled for take in Take.objects.order_by("number")] == [False, True]
    stale = crew("patch", f"/takes/{first['id']}", {"version": first["version"], "circled": True})
    assert stale[0] == 409
    undone = crew("patch", f"/takes/{second['id']}", {"version": second["version"], "circled": False})
    assert undone[1]["circled"] is False
    assert not Take.objects.filter(circled=True).exists()


def test_the_log_carries_what_the_plan_knows(crew: Caller, shot, mill):
    _, log = crew("get", f"/shots/{shot.pk}/log")
    assert [one["is_hero"] for one in log["layers"]] == [True, False]
    card = next(one for one in log["layers"] if one["id"] == mill.pk)
    lines = {line["field"]: line for line in card["settings"]}
    assert lines["f_number"]["text"] == "f/8"
    assert [choice["label"] for choice in lines["f_number"]["choices"]][:3] == ["2", "2.2", "2.5"]
    assert [choice["label"] for choice in lines["recorded_width_px"]["choices"]] == [
        "3840 × 2160",
        "1920 × 1080",
    ]
    assert (card["next_take"], lines["focus_distance_m"]["quantity"]) == (1, "length")


# --- cards


@pytest.mark.parametrize(("paper", "size"), [("a4", (595, 842)), ("letter", (612, 792))])
def test_the_card_is_a_pdf_with_settings_verdicts_reasons_and_cautions(
    supervisor: Caller, shot, paper: str, size: tuple
):
    card = done(supervisor("post", f"/shots/{shot.pk}/cards", {"paper": paper})[1]["id"])
    assert (card.state, card.progress) == ("ready", 100), card.message
    status, pdf = supervisor("get", f"/files/{card.file_id}")
    assert status == 200
    pages = pages_of(pdf)
    assert pages[0].size == size
    text = " ".join(page.text for page in pages)
    for words in (
        "The mill at dusk",
        "Hero plate",
        "f/8",
        "35 mm",
        "214 px",
        "0.217 m too high",
        "Quay and open water",
        "Local codes and licensed practice come first",
    ):
        assert words in text, words


def test_the_card_says_what_was_really_shot(crew: Caller, shot, mill):
    crew.take(mill, actual={"iso": 1600}, circled=True)
    html = card_html(shot.pk, paper="a4", units="imperial", school="measured")
    assert "as shot, take 1" in html
    assert "iso 1600 (planned 800)" in html
    assert "5 1/4 in" in html


def test_a_card_reads_no_outside_file():
    pdf = write_pdf('<p>text</p><img src="file:///etc/hostname"><img src="http://127.0.0.1:9/x.png">')
    assert pdf.startswith(b"%PDF")
    assert [(page.text, page.pictures) for page in pages_of(pdf)] == [("text", 0)]


def test_a_fault_is_said_on_the_job(supervisor: Caller, shot, monkeypatch):
    monkeypatch.setattr("jungoptic.app.papers.pdf.write_pdf", lambda html: 1 / 0)
    failed = done(supervisor("post", f"/shots/{shot.pk}/cards", {})[1]["id"])
    assert (failed.state, failed.file) == ("failed", None)
    assert failed.message.startswith("Shot card of TM010 could not be made. Try again")


# --- calculations through the other two doors


def test_calculations_over_http(guest: Caller):
    status, answer = guest(
        "post",
        "/calculations/angle_of_view",
        {"focal_length_mm": 50, "gate_width_mm": 36, "gate_height_mm": 24},
    )
    assert status == 200 and answer["horizontal_deg"] == pytest.approx(39.6, abs=0.005)
    status, answer = guest("post", "/calculations/angle_of_view", {"focal_length_mm": 0})
    assert status == 422
    assert {problem["field"] for problem in answer["problems"]} == {
        "focal_length_mm",
        "gate_width_mm",
        "gate_height_mm",
    }
    assert guest("post", "/calculations/nothing", {})[0] == 422
    listed = [one["name"] for one in guest("get", "/calculations")[1]]
    assert len(listed) == 49 and len(set(listed)) == 49
    _, card = guest("get", "/calculations/defocus_blur")
    field = card["fields"][0]
    assert (field["title"], field["unit"], field["kind"], field["ring"]) == (
        "Focal length",
        "mm",
        "number",
        "log",
    )
    assert card["example"]["f_number"] == 4 and card["checks"] and card["sources"][0]["trust"]
    assert guest("get", "/calculations/defocus_blurr")[0] == 422
    assert {one["key"] for one in guest("get", "/sources")[1]} >= {"thin_lens", "froude", "covered"}


@pytest.mark.parametrize("name", sorted(CHECKS))
def test_every_calculation_through_all_three_doors(name: str, guest: Caller):
    """The same answer in core and over HTTP, the same refusal too; and the card and its table are there."""
    inputs = dict(CHECKS[name][0].inputs)
    status, answer = guest("post", f"/calculations/{name}", inputs)
    assert status == 200
    assert answer == json.loads(json.dumps(find(name).run(inputs)))
    status, refused = guest("post", f"/calculations/{name}", {**inputs, "no_such_field": 1})
    assert status == 422 and refused["problems"] == [
        {"field": "no_such_field", "message": "There is no field called “no_such_field” here."}
    ]
    assert guest("get", f"/calculations/{name}")[0] == 200


def first_number(name: str) -> str | None:
    return next((key for key, value in CHECKS[name][0].inputs.items() if type(value) in (int, float)), None)


@pytest.mark.parametrize("name", [name for name in sorted(CHECKS) if first_number(name)])
def test_the_table_around_a_number(name: str, guest: Caller):
    body = {"values": dict(CHECKS[name][0].inputs), "field": first_number(name), "points": 5}
    status, rows = guest("post", f"/calculations/{name}/around", body)
    assert status == 200 and len(rows) >= 3 and any(row["outputs"] for row in rows)


def test_a_card_is_filled_from_the_open_shot(supervisor: Caller, guest: Caller, stranger: Caller, mill):
    status, filled = supervisor("get", f"/layers/{mill.pk}/fill/miniature_frame_rate")
    assert status == 200
    assert filled["values"] == {
        "scale": 12,
        "delivery_fps": 24,
        "driver": "gravity",
        "full_size_speed_m_s": 2,
        "camera_fps": 24,
    }
    assert filled["settable"] == ["capture_fps", "model_speed_m_s"]
    assert guest("get", f"/layers/{mill.pk}/fill/miniature_frame_rate")[1]["settable"] == []
    assert stranger("get", f"/layers/{mill.pk}/fill/miniature_frame_rate")[0] == 404
    for name in CHECKS:
        values = supervisor("get", f"/layers/{mill.pk}/fill/{name}")[1]["values"]
        answer = supervisor("post", f"/calculations/{name}", {**CHECKS[name][0].inputs, **values})
        # what the shot knows may not go with the rest of the worked example; then the card says which field
        assert answer[0] == 200 or all(
            problem["field"] in CHECKS[name][0].inputs for problem in answer[1]["problems"]
        ), (name, answer[1])


def test_calculations_from_the_command_line(capsys: pytest.CaptureFixture[str]):
    assert calc.main(["mired_shift", '{"from_k": 3200, "to_k": 5600}']) == 0
    assert json.loads(capsys.readouterr().out)["mired"] == pytest.approx(-133.9, abs=0.05)
    for words, said in (
        (("mired_shift", '{"from_k": 0}'), "at least 1,000 K"),
        (("mired_shift", "{"), "not JSON"),
        (("mired",), "mired_shift"),
        ((), "angle_of_view"),
        (("mired_shift", "[1]"), "JSON object"),
    ):
        assert calc.main(list(words)) == 2
        printed = capsys.readouterr()
        assert said in printed.err and not printed.out


def test_the_command_runs_by_itself():
    """Once as the terminal does: the same program, with nothing of Django."""
    words = [
        sys.executable,
        "-X",
        "importtime",
        str(ROOT / "tools" / "calc.py"),
        "mired_shift",
        '{"from_k": 3200, "to_k": 5600}',
    ]
    done = subprocess.run(
        words, capture_output=True, text=True, env={"PYTHONPATH": str(ROOT / "src")}, check=True
    )
    assert json.loads(done.stdout)["mired"] == pytest.approx(-133.9, abs=0.05)
    assert "jungoptic.core" in done.stderr and "django" not in done.stderr


def test_the_documentation_of_the_calculations_is_current():
    assert write_calculations.TARGET.read_text() == write_calculations.text(), "./run docs"
