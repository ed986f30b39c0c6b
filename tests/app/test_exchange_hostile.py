"""Files from outside at their worst: read to their end in a time that grows as they do, and nothing in them
breaks anything. What we write ourselves reads back as the same.
"""

from __future__ import annotations

import json
from typing import Any

import opentimelineio as otio
import pytest
from hypothesis import given
from hypothesis import strategies as st

from jungoptic.app.exchange.edit_list import nesting, read_otio
from jungoptic.app.exchange.reading import read_any
from jungoptic.app.exchange.screenplay import _plain, _taken_out, read_lines, read_screenplay
from jungoptic.app.exchange.take_in import Preview
from jungoptic.app.exchange.take_in import preview as compared
from jungoptic.app.productions.models import Production
from jungoptic.app.shots.models import Shot

from .conftest import Caller


def preview(production: Production, name: str, text: str, kind: str = "") -> Preview:
    return compared(production, read_any(name, text, kind, production.frame_rate_fps))


LARGE = 1_000_000  # characters; where each of them looks at all that follow, this takes hours


@pytest.mark.parametrize(
    "text",
    [
        "[[" * (LARGE // 2),
        "/*" * (LARGE // 2),
        "[[ ]]\n" * (LARGE // 6),
        "INT. MILL" + " " * LARGE + "- DAY\n",
        "INT. MILL #" + " " * LARGE + "1#x\n",
        "FX:" + " *a" * (LARGE // 3),
        "FX: " + "*a_b" * (LARGE // 4),
        "**" + "a**" * (LARGE // 3) + "b",
        "\n\nINT. A\n\nFX: b\n" * (LARGE // 15),
        "[[FX " + " " * LARGE + "\n",
    ],
    ids=[
        "notes",
        "boneyard",
        "many notes",
        "spaces",
        "number",
        "emphasis",
        "mixed",
        "bold",
        "scenes",
        "note",
    ],
)
def test_a_screenplay_of_the_worst_kind_is_read(text: str):
    assert read_screenplay(text).kind == "fountain"


@pytest.mark.parametrize(
    "line",
    [
        "A" + " " * LARGE + "B",
        "A (" + " " * LARGE + "x)",
        "A (1" + " " * LARGE + "x)",
        ", " * (LARGE // 2),
        "(" * LARGE,
    ],
    ids=["spaces", "frames", "open", "commas", "brackets"],
)
def test_a_line_of_the_worst_kind_is_read(line: str):
    assert read_lines(line).kind == "lines"


def test_a_number_of_lines_without_codes_is_counted_on(production):
    seen = preview(production, "", "A shot\n" * 20_000, "lines")
    codes = [row.candidate.code for row in seen.rows]
    assert len(set(codes)) == 20_000 and codes[0] == "TM130" and not seen.faults
    assert "More than 20000 shots" in preview(production, "", "A shot\n" * 20_001, "lines").faults[0].message


@pytest.mark.parametrize(
    ("marked", "plain"),
    [
        ("*a* and **b**", "a and b"),
        ("***all of it***", "all of it"),
        ("a_b_c", "abc"),
        ("2 * 3 * 4", "2 * 3 * 4"),
        ("a* b", "a* b"),
        ("*never closed", "*never closed"),
        ("**", "**"),
        ("*one* two*", "one two*"),
        ("  much   room  ", "much room"),
    ],
)
def test_emphasis_is_left_out_where_it_comes_in_pairs(marked: str, plain: str):
    assert _plain(marked) == plain


@given(st.text("[] \na*_", max_size=60))
def test_no_line_is_lost_with_what_is_left_out(text: str):
    kept, found, never = _taken_out(text, "[[", "]]")
    assert kept.count("\n") == text.count("\n") and (never is None) == ("[[" not in kept)
    for one in found:
        assert one.text in text and 1 <= one.line <= text.count("\n") + 1


def timeline(**clip: Any) -> dict[str, Any]:
    made = otio.schema.Timeline("Cut")
    track = otio.schema.Track("Shots", kind=otio.schema.TrackKind.Video)
    span = otio.opentime.TimeRange(otio.opentime.RationalTime(0, 24), otio.opentime.RationalTime(48, 24))
    track.append(otio.schema.Clip("TM010", source_range=span))
    made.tracks.append(track)
    value: dict[str, Any] = json.loads(otio.adapters.write_to_string(made, "otio_json"))
    value["tracks"]["children"][0]["children"][0] |= clip
    return value


@pytest.mark.parametrize(
    "text",
    [
        json.dumps(timeline() | {"tracks": None}),
        json.dumps(timeline(source_range=None)),
        json.dumps(timeline(name=None)),
        json.dumps(timeline(metadata=None)),
        json.dumps(timeline(metadata={"jungoptic": [1], "cmx_3600": None})),
        json.dumps(timeline(markers=[None])),
        json.dumps(timeline()).replace('"rate": 24.0', '"rate": 0.0'),
        json.dumps(timeline()).replace('"rate": 24.0', '"rate": -24.0'),
        json.dumps(timeline()).replace('"value": 48.0', '"value": 1e300'),
        json.dumps(timeline()).replace('"value": 48.0', '"value": NaN'),
        json.dumps(timeline()).replace('"value": 48.0', '"value": -48'),
        '{"OTIO_SCHEMA": "Timeline.1", "tracks": ' + "[" * 100_000 + "]" * 100_000 + "}",
        '{"OTIO_SCHEMA": "Timeline.1", "tracks": {"OTIO_SCHEMA": "Clip.1"}}',
        '{"OTIO_SCHEMA": "Timeline.999"}',
        '{"OTIO_SCHEMA": "Nonsense.1"}',
        '{"OTIO_SCHEMA": 7}',
        "[]",
        "1",
        '"x"',
        "null",
        "{",
    ],
)
def test_a_timeline_of_the_worst_kind_is_refused_or_read_in_words(text: str, supervisor: Caller, production):
    status, answer = supervisor(
        "post", f"/productions/{production.pk}/preview", {"name": "a.otio", "text": text, "kind": "otio"}
    )
    assert status == 200, answer
    assert answer["faults"] or answer["rows"] or answer["kind"] == "otio"
    assert all(
        one["length_frames"] is None or 1 <= one["length_frames"] <= 1_000_000 for one in answer["rows"]
    )


def test_depth_is_counted_outside_of_text():
    assert nesting('{"a": [[1], "]]]]", "[[[\\"[["]}') == 3
    assert (
        read_otio("[" * 300 + "]" * 300, 24).faults[0].message.startswith("Its lists and objects lie deeper")
    )


def test_what_we_wrote_ourselves_reads_back_as_the_same(supervisor: Caller, production):
    for ending in ("otio", "csv"):
        text = supervisor.client.get(f"/api/productions/{production.pk}/shots.{ending}").content.decode()
        seen = preview(production, f"shots.{ending}", text)
        assert [row.changes for row in seen.rows if row.state != "same"] == [] and not seen.faults, ending
        assert len(seen.rows) == Shot.in_cut.filter(production=production).count()


def test_a_table_that_says_another_order_is_followed_whatever_order_its_lines_have(production):
    codes = list(Shot.in_cut.filter(production=production).values_list("code", flat=True))
    orders = [2, 1, *range(3, len(codes) + 1)]
    lines = "".join(f"{code},{order}\n" for code, order in zip(codes, orders, strict=True))
    changed = {
        row.candidate.code: row.changes for row in preview(production, "a.csv", "shot,order\n" + lines).rows
    }
    assert changed[codes[1]] == {"position": 1}
    one = preview(production, "a.csv", f"shot,order\n{codes[-1]},1\n").rows[0]
    assert one.changes == {"position": 1}


@pytest.mark.parametrize("name", ["a.csv", "", "a.otio"])
def test_no_shot_is_longer_than_one_can_be(name: str, production):
    clip = json.dumps(timeline()).replace('"value": 48.0', '"value": 9999999.0')
    text = {"a.csv": "shot,length\nX1,9999999\n", "": "X1 Long (9999999)", "a.otio": clip}[name]
    assert (
        "9,999,999 frames long; a shot may have 1,000,000"
        in preview(production, name, text).faults[0].message
    )


def test_a_timeline_in_another_order_moves_the_shots(supervisor: Caller, production):
    value = supervisor("get", f"/productions/{production.pk}/shots.otio")[1]
    clips = value["tracks"]["children"][0]["children"]
    value["tracks"]["children"][0]["children"] = [clips[1], clips[0], *clips[2:]]
    seen = preview(production, "a.otio", json.dumps(value))
    assert {row.candidate.code: row.changes["position"] for row in seen.rows if row.changes}["TM020"] == 1
