"""Open formats in and out: CSV, Fountain, OpenTimelineIO, CMX 3600, pictures.

Read without loss of what is used; damage has line and reason.
"""

from __future__ import annotations

import csv
import io
from pathlib import Path

import opentimelineio as otio
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from jungoptic.app.base.models import Change
from jungoptic.app.exchange.candidates import Candidate
from jungoptic.app.exchange.edit_list import read_edl, read_otio
from jungoptic.app.exchange.reading import kind_of
from jungoptic.app.exchange.screenplay import read_lines, read_screenplay
from jungoptic.app.exchange.tables import read_csv, write_csv
from jungoptic.app.productions.models import Place
from jungoptic.app.shots.cut import next_code
from jungoptic.app.shots.models import Shot
from tests.wall import wall_line

from .conftest import Caller, a_key

SAMPLES = Path(__file__).parent / "samples"


def sample(name: str) -> str:
    return (SAMPLES / name).read_text(encoding="utf-8")


def told(candidate: Candidate, *names: str) -> tuple[object, ...]:
    return tuple(getattr(candidate, name) for name in names)


# --- CSV: RFC 4180


def test_quotes_commas_and_line_breaks_as_the_standard_has_them():
    # RFC 4180, section 2: fields with commas, quotes and line breaks stand in quotes; a quote in them is
    # doubled
    text = (
        'Shot,Title,"What happens",Frames,Location,Mood\r\nTM010,"Mill, at ""dusk""","sea\r\naround",144,The'
        " quay,grey\r\n\r\nTM020,Wheel,,96,,\r\n"
    )
    found = read_csv(text)
    assert found.faults == () and found.notes == ("Not read: Mood.",)
    assert told(found.candidates[0], "code", "title", "description", "length_frames", "place") == (
        "TM010",
        'Mill, at "dusk"',
        "sea\r\naround",
        144,
        "The quay",
    )
    assert told(found.candidates[1], "line", "description", "place") == (5, None, None)


@pytest.mark.parametrize("separator", [",", ";", "\t"])
def test_columns_are_matched_by_name_in_any_order_with_any_separator(separator):
    text = (
        "\ufeff"
        + separator.join(("LENGTH (frames)", "Notes", "shot"))
        + "\n"
        + separator.join(("48", "gulls", "TM010"))
    )
    found = read_csv(text)
    assert told(found.candidates[0], "code", "description", "length_frames") == ("TM010", "gulls", 48)


@pytest.mark.parametrize(
    ("text", "line", "column", "said"),
    [
        ("shot,frames\nTM010,96\nTM020,twelve\n", 3, "frames", "“twelve” was given"),
        ("shot,frames\nTM010,0\n", 2, "frames", "from 1 on"),
        ("shot,frames\n,96\n", 2, "shot", "missing"),
        ("shot,title\nTM010,a,b\n", 2, "3", "a comma too many"),
        ("shot,title\nTM010," + "x" * 121, 2, "title", "120 characters; 121"),
        ("shot,title\nTM/?<,a\n", 2, "shot", "letters, digits"),
        ("mood,frames\ngrey,96\n", 1, "", "must name the columns"),
        ("shot,code\nTM010,TM010\n", 1, "code", "Two columns"),
        ('shot,title\nTM010,"never closed\nTM020,b\n', 3, "", "quotation mark"),
        ("", 1, "", "must name the columns"),
    ],
)
def test_a_damaged_table_says_line_column_and_reason(text, line, column, said):
    fault = read_csv(text).faults[0]
    assert (fault.line, fault.column) == (line, column)
    assert said in fault.message


cells = st.text(
    st.characters(codec="utf-8", exclude_characters="\x00\r", exclude_categories=("Cs", "Cc", "Zl", "Zp")),
    max_size=40,
).map(str.strip)


@settings(max_examples=60)
@given(st.lists(st.tuples(cells.filter(bool), cells, st.integers(1, 9999)), min_size=1, max_size=12))
def test_what_is_written_is_read_again(rows):
    lines = [
        wall_line(
            code=f"TM{n:03d}",
            title=title,
            description=said,
            length_frames=frames,
            position=n,
            recipes=["a"],
            hours=1.0,
        )
        for n, (title, said, frames) in enumerate(rows)
    ]
    found = read_csv(write_csv(lines))
    assert found.faults == ()
    for line, one in zip(lines, found.candidates, strict=True):
        for name, value in (("title", line.title), ("description", line.description)):
            read = getattr(one, name) or ""
            # a cell that a spreadsheet would take for a formula is kept as text by a leading quote mark
            assert read == (f"'{value}" if value.startswith(("=", "+", "-", "@")) else value)
        assert (one.code, one.length_frames) == (line.code, line.length_frames)


# --- Fountain: its published syntax


def test_scenes_and_marked_lines_of_a_screenplay_become_candidates():
    # Fountain syntax, as its page describes it (from memory): headings, forced headings, scene numbers,
    # notes, boneyard, bold, forced action
    found = read_screenplay(sample("sisters.fountain"))
    assert found.faults == () and found.notes == ("4 scenes, 5 marked lines.",)
    rows = [told(one, "line", "code", "title", "place") for one in found.candidates]
    assert rows == [
        (13, "1-1", "the mill at dusk, with the sea around it", "Sea Wall"),
        (19, "1-2", "The wheel turns faster", "Sea Wall"),
        (26, "2-1", "One sister passes the cup to the other", "Mill, Table Room"),
        (31, "3", "Grain Loft", "Grain Loft"),
        (37, "4-1", "Forty people walk, from nine", "Causeway"),
        (38, "4-2", "Wren walks into the mist and is gone", "Causeway"),
    ]
    assert (
        found.candidates[0].description == "the mill at dusk, with the sea around it. A model and a real sea."
    )
    assert "FIELD" not in str(found.candidates), "the boneyard is not read"


def test_a_note_that_never_ends_says_where_it_begins():
    fault = read_screenplay("INT. MILL - NIGHT\n\nA cup.\n\n[[FX: it lifts itself\n\nMore.\n").faults[0]
    assert fault.line == 5 and "never ends" in fault.message


def test_lines_that_were_typed():
    found = read_lines(
        "TM210 The gate - it opens by itself (48)\n\nA lamp swings, and nobody is there\nTM230 Rain: it"
        " begins (12 frames)\nTM240 The tide [96]\nTM250 A door, it shuts [24 f]"
    )
    assert [
        told(one, "line", "code", "title", "description", "length_frames") for one in found.candidates
    ] == [
        (1, "TM210", "The gate", "it opens by itself", 48),
        (3, None, "A lamp swings", "and nobody is there", None),
        (4, "TM230", "Rain", "it begins", 12),
        (5, "TM240", "The tide", None, 96),
        (6, "TM250", "A door", "it shuts", 24),
    ]
    assert read_lines("x" * 130).faults[0].line == 1


def test_codes_are_counted_on_by_ten():
    assert next_code(["TM010", "TM120"]) == "TM130"
    assert next_code(["TM118"]) == "TM120"
    assert next_code([]) == "010"


# --- OpenTimelineIO, written by itself


def timeline(rate: float = 24) -> otio.schema.Timeline:
    made = otio.schema.Timeline("The Tidemill")
    track = otio.schema.Track("V1", kind=otio.schema.TrackKind.Video)
    made.tracks.append(track)
    for name, frames in (("TM010_comp_v003", 144), ("TM040", 60), ("TM010_comp_v003", 12)):
        clip = otio.schema.Clip(
            name,
            source_range=otio.opentime.TimeRange(
                otio.opentime.RationalTime(86400, rate), otio.opentime.RationalTime(frames, rate)
            ),
        )
        clip.markers.append(otio.schema.Marker(f"note of {name}"))
        track.append(clip)
    track.insert(
        1,
        otio.schema.Gap(source_range=otio.opentime.TimeRange(duration=otio.opentime.RationalTime(10, rate))),
    )
    made.tracks.append(otio.schema.Track("A1", kind=otio.schema.TrackKind.Audio))
    return made


def test_a_timeline_gives_lengths_and_order():
    found = read_otio(otio.adapters.write_to_string(timeline(), "otio_json"), 24)
    assert found.faults == ()
    # the shot that is cut in two is as long as both pieces
    assert [told(one, "code", "length_frames", "position") for one in found.candidates] == [
        ("TM010", 156, 1),
        ("TM040", 60, 2),
    ]
    assert "note of TM040" in found.candidates[1].description


def test_a_timeline_at_another_rate_is_counted_anew():
    # by hand: 144 + 12 frames at 30 are 5.2 s, 124.8 at 24: each piece is rounded, 115 + 10
    found = read_otio(otio.adapters.write_to_string(timeline(30), "otio_json"), 24)
    assert found.candidates[0].length_frames == 125
    assert "30 frames/s" in found.notes[0]


def test_a_damaged_timeline_says_line_and_reason():
    text = otio.adapters.write_to_string(timeline(), "otio_json")
    cut = read_otio(text[: len(text) // 2], 24).faults[0]
    assert cut.line > 1 and "not whole JSON" in cut.message
    assert (
        "OpenTimelineIO cannot read it"
        in read_otio('{"OTIO_SCHEMA": "Timeline.99", "tracks": 3}', 24).faults[0].message
    )
    alone = otio.adapters.write_to_string(otio.schema.Clip("TM010"), "otio_json")
    assert "no timeline" in read_otio(alone, 24).faults[0].message
    empty = otio.schema.Timeline("x")
    empty.tracks.append(otio.schema.Track("V1", kind=otio.schema.TrackKind.Video))
    empty.tracks[0].append(otio.schema.Clip("TM010"))
    assert "no length" in read_otio(otio.adapters.write_to_string(empty, "otio_json"), 24).faults[0].message


def test_the_wall_out_to_a_timeline_and_in_again(supervisor: Caller, production):
    body = supervisor("get", f"/productions/{production.pk}/shots.otio")[1]
    text = body.decode() if isinstance(body, bytes) else __import__("json").dumps(body)
    again = otio.adapters.read_from_string(text, "otio_json")
    clips = list(again.find_clips())
    shots = list(Shot.objects.filter(production=production))
    assert [clip.name for clip in clips] == [shot.code for shot in shots]
    assert [clip.duration().value for clip in clips] == [shot.length_frames for shot in shots]
    assert list(clips[0].metadata["jungoptic"]["recipes"]) == ["Miniature enlarged by painting"]
    assert any("Open caution" in marker.name for marker in clips[0].markers)
    seen = supervisor("post", f"/productions/{production.pk}/preview", {"name": "cut.otio", "text": text})[1]
    assert (seen["kind"], seen["same"] + seen["changed"], seen["new"], seen["faults"]) == ("otio", 12, 0, [])
    # only the place in the cut, which a timeline says and the demo leaves open, is told anew
    assert {change for row in seen["rows"] for change in row["changes"]} <= {"position"}


# --- CMX 3600


def test_an_edit_list_written_by_hand_from_its_description():
    # CMX 3600: event, reel, track, transition, source in and out, record in and out; comments with an
    # asterisk (from memory)
    found = read_edl(sample("cut.edl"), 24)
    assert found.faults == ()
    assert [told(one, "line", "code", "length_frames", "position") for one in found.candidates] == [
        (4, "TM010", 168, 1),
        (7, "TM030", 96, 2),
        (11, "TM210", 48, 3),
    ]


def test_a_list_counted_at_24_is_a_film_at_23_976_frame_for_frame():
    # common practice: lists of such a film count 24 frames to the second; 41 s 16 f are 1000 frames
    text = (
        "TITLE: LONG\nFCM: NON-DROP FRAME\n\n"
        "001  A001     V     C        00:00:00:00 00:00:41:16 01:00:00:00 01:00:41:16\n"
        "* FROM CLIP NAME: TM010\n"
    )
    for rate in (24, 24000 / 1001):
        assert [one.length_frames for one in read_edl(text, rate).candidates] == [1000]


def test_an_edit_list_written_by_the_adapter_itself():
    made = timeline()
    made.tracks.pop()  # the list has one picture track
    text = otio.adapters.write_to_string(made, "cmx_3600", rate=24)
    found = read_edl(text, 24)
    assert found.faults == ()
    assert [told(one, "code", "length_frames") for one in found.candidates] == [("TM010", 156), ("TM040", 60)]


@pytest.mark.parametrize(
    ("old", "new", "line", "said"),
    [
        ("02:10:00:12", "02:10:00", 7, "four timecodes"),
        ("02:10:00:12", "02:70:00:12", 7, "02:70:00:12"),
        ("02:10:00:12", "02:10:00:31", 7, "frames to the rate"),
    ],
)
def test_a_damaged_edit_list_says_line_and_reason(old, new, line, said):
    fault = read_edl(sample("cut.edl").replace(old, new), 24).faults[0]
    assert (fault.line, fault.column) == (line, "timecode")
    assert said in fault.message
    assert read_edl("TITLE: nothing\n", 24).faults[0].message.startswith("There is no event")


# --- what a file is, and taking it in


def test_a_file_is_known_by_its_name_and_else_by_what_it_contains():
    assert (
        kind_of("shots.tsv", "") == "csv"
        and kind_of("cut.edl", "") == "edl"
        and kind_of("page.fountain", "") == "fountain"
    )
    assert kind_of("", sample("cut.edl")) == "edl"
    assert kind_of("page.txt", "EXT. QUAY - DAY\n") == "fountain"
    assert kind_of("", "shot;title\nTM010;x") == "csv"
    assert kind_of("", '{"OTIO_SCHEMA": "Timeline.1"}') == "otio"
    assert kind_of("", "TM210 The gate\n") == "lines"


TABLE = (
    "shot,title,frames,place\nTM010,The mill at dusk,150,The quay\nTM210,The"
    " gate,48,Causeway\nTM220,Rain,24,Causeway\n"
)


def test_the_preview_writes_nothing_and_taking_in_writes_all_of_it(supervisor: Caller, production):
    before = Shot.objects.count()
    seen = supervisor("post", f"/productions/{production.pk}/preview", {"name": "shots.csv", "text": TABLE})[
        1
    ]
    assert (seen["new"], seen["changed"], seen["same"]) == (2, 1, 0)
    assert seen["rows"][0]["changes"] == ["length_frames", "place"]
    assert Shot.objects.count() == before and not Place.objects.filter(name="Causeway").exists()
    key = a_key()
    for _ in range(2):  # sent twice, done once
        status, done = supervisor(
            "post", f"/productions/{production.pk}/take-in", {"name": "shots.csv", "text": TABLE}, key=key
        )
        assert (status, done) == (200, {"new": 2, "changed": 1})
    assert Shot.objects.count() == before + 2
    assert Shot.objects.get(code="TM210").place == Place.objects.get(name="Causeway")
    mill = Shot.objects.get(code="TM010")
    assert mill.length_frames == 150
    assert Change.objects.filter(
        kind="shot", row_id=mill.pk, field="length_frames", before=144, after=150
    ).exists()
    again = supervisor("post", f"/productions/{production.pk}/preview", {"name": "shots.csv", "text": TABLE})[
        1
    ]
    assert (again["new"], again["changed"], again["same"]) == (0, 0, 3)


def test_one_fault_and_nothing_of_the_file_is_taken_in(supervisor: Caller, production):
    before = Shot.objects.count()
    bad = TABLE + "TM230,Wind,many,\nTM210,The gate again,10,\n"
    seen = supervisor("post", f"/productions/{production.pk}/preview", {"name": "shots.csv", "text": bad})[1]
    assert [(one["line"], one["column"]) for one in seen["faults"]] == [(5, "frames"), (6, "code")]
    status, answer = supervisor(
        "post", f"/productions/{production.pk}/take-in", {"name": "shots.csv", "text": bad}
    )
    assert status == 422 and answer["problems"][0]["message"].startswith("Line 5, frames:")
    assert Shot.objects.count() == before and not Place.objects.filter(name="Causeway").exists()


def test_a_screenplay_and_an_edit_list_go_in_by_the_same_door(supervisor: Caller, production):
    path = f"/productions/{production.pk}/take-in"
    assert supervisor("post", path, {"name": "sisters.fountain", "text": sample("sisters.fountain")})[1] == {
        "new": 6,
        "changed": 0,
    }
    assert Shot.objects.get(code="4-2", production=production).place.name == "Causeway"
    assert supervisor("post", path, {"name": "cut.edl", "text": sample("cut.edl")})[1] == {
        "new": 1,
        "changed": 2,
    }
    assert Shot.objects.get(code="TM010").length_frames == 168
    assert supervisor("post", path, {"name": "x", "text": "\x00\x01"})[0] == 422


def test_the_wall_as_csv(supervisor: Caller, guest: Caller, stranger: Caller, production):
    status, body = guest("get", f"/productions/{production.pk}/shots.csv")
    rows = list(csv.DictReader(io.StringIO(body.decode())))
    assert status == 200 and [row["code"] for row in rows][:2] == ["TM010", "TM020"]
    assert rows[0]["recipes"] == "Miniature enlarged by painting" and float(rows[0]["hours"]) > 0
    assert stranger("get", f"/productions/{production.pk}/shots.csv")[0] == 404
    assert supervisor("get", f"/productions/{production.pk}/shots.xls")[0] == 404
