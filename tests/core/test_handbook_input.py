"""What the calculations refuse, and how each is a card."""

import math

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from jungoptic.core.calculation import CALCULATIONS, find
from jungoptic.core.errors import InputError
from jungoptic.core.handbook import cards
from jungoptic.core.handbook.checks import CHECKS

BAD = [
    ("tilt_for_ground_plane", {"lens_height_m": 0.05}, "lens_height_m", "higher than its focal length"),
    ("depth_of_field", {"f_number": 0}, "f_number", "Stop must be more than 0; 0 was given."),
    ("mains_flicker", {"exposure_s": 0.1}, "exposure_s", "at most one frame"),
    ("mirror_ball", {"x": 0.9, "y": 0.9}, "x", "must lie on the ball"),
    ("sun_position", {"time": "noon"}, "time", "must be ISO 8601"),
    ("sun_position", {"time": "2027-10-23T12:00:00"}, "time", "offset"),
    ("sun_position", {"time": "0001-01-01T12:00:00+00:00"}, "time", "between the years"),
    ("turn_to_sun", {"date": "tomorrow"}, "date", "must be like"),
    ("backing_size", {"subject_distance_m": None}, "subject_distance_m", "all three"),
    ("backing_size", {"subject_distance_m": 9}, "subject_distance_m", "in front of the backing"),
    (
        "backing_evenness",
        {"region": {"left_m": 1, "right_m": 0, "bottom_m": 0, "top_m": 1}},
        "region",
        "right beyond left",
    ),
    ("backing_evenness", {"lamps": []}, "lamps", "at least 1"),
    ("chroma_resolution", {"extraction_width_px": 4000}, "extraction_width_px", "at most what is recorded"),
    ("eased_move", {"total_turns": 7.5}, "total_turns", "must be whole"),
    ("eased_move", {"ease_in_frames": 12}, "ease_in_frames", "fit into the move"),
    ("hyperlapse", {"length_s": 0.01}, "length_s", "at least 2"),
    (
        "retime_ramp",
        {"keys": [{"output_s": 1, "speed": 1}, {"output_s": 1, "speed": 2}]},
        "keys",
        "after the one before",
    ),
    ("matte_line_clearance", {"thing_distance_m": 3}, "thing_distance_m", "at least 10 m"),
    ("crowd_rows", {"base_heights_m": [0.0]}, "base_heights_m", "each of the 3 rows"),
    ("eyeline", {"target_xyz_m": [0, 1.6, 5]}, "target_xyz_m", "must not be where"),
    ("nodal_parallax", {"far_m": 0.5}, "far_m", "not be nearer"),
    (
        "lens_from_photograph",
        {"vanishing_points": [[3000, 500], [2000, 520]]},
        "vanishing_points",
        "right angles",
    ),
    ("camera_height_from_photograph", {"head_y_px": 950}, "head_y_px", "above the foot"),
]


@pytest.mark.parametrize(("name", "change", "field", "words"), BAD)
def test_what_cannot_be_is_refused_at_its_field(name: str, change: dict, field: str, words: str):
    with pytest.raises(InputError) as caught:
        find(name).run({**CHECKS[name][0].inputs, **change})
    assert caught.value.problems[0].field.split(".")[0] == field
    assert words in str(caught.value)


def _numbers(value: object) -> list[float]:
    if isinstance(value, dict):
        return [n for one in value.values() for n in _numbers(one)]
    if isinstance(value, list):
        return [n for one in value for n in _numbers(one)]
    return [value] if isinstance(value, float) else []


@pytest.mark.parametrize("name", sorted(CHECKS))
@settings(max_examples=25)
@given(data=st.data())
def test_no_input_gives_a_stack_trace_or_a_nan(name: str, data: st.DataObject):
    """Every number field at extremes: the answer is finite, or an error names a field."""
    values = dict(CHECKS[name][0].inputs)
    extremes = st.sampled_from(
        [0, -1, 1e-9, 1e-3, 1, 89.999, 1e3, 1e6, 1e12, -1e12, math.nan, math.inf, "x", None, [], {}, True]
    )
    for field in data.draw(st.lists(st.sampled_from(sorted(values)), max_size=3, unique=True)):
        values[field] = data.draw(extremes)
    try:
        found = find(name).run(values)
    except InputError as error:
        assert error.problems and all(problem.message for problem in error.problems)
    else:
        assert all(math.isfinite(n) for n in _numbers(found)), found


def test_every_calculation_is_a_card_in_one_moment_of_the_work():
    placed = [name for names in cards.MOMENTS.values() for name in names]
    assert sorted(placed) == sorted(CALCULATIONS)


@pytest.mark.parametrize("name", sorted(CALCULATIONS))
def test_a_card_describes_every_input_and_starts_from_a_worked_example(name: str):
    entry = CALCULATIONS[name]
    fields = cards.fields_of(entry)
    assert fields and [field.name for field in fields] == list(entry.inputs.model_fields)
    titles = [field.title for field in fields]
    assert len(set(titles)) == len(titles), titles
    assert all(title[0].isupper() for title in titles)
    for field in fields:
        if field.kind in ("number", "integer"):
            assert field.low < field.high and field.marks
            assert [mark.value for mark in field.marks] == sorted(mark.value for mark in field.marks)
        if field.kind in ("choice", "choices"):
            assert field.choices
    entry.run(cards.example_of(entry))


def test_around_walks_the_engraved_steps_and_says_where_it_cannot_be():
    entry = CALCULATIONS["miniature_frame_rate"]
    rows = cards.around(entry, {"scale": 12, "delivery_fps": 24, "driver": "gravity"}, "scale")
    assert [value for value, _ in rows] == [3, 4, 5, 6, 8, 10, 12, 16, 20, 24, 25, 32, 35]
    assert rows[0][1]["capture_fps"] == pytest.approx(24 * math.sqrt(3))
    fine = cards.around(entry, {"scale": 12, "delivery_fps": 24, "driver": "gravity"}, "scale", points=41)
    assert len(fine) == 41 and fine[20][0] == pytest.approx(12)
    close = cards.around(
        CALCULATIONS["image_distance"], {"focal_length_mm": 35, "focus_distance_m": 0.05}, "focus_distance_m"
    )
    assert close[0][1] is None and close[-1][1] is not None
    for values, field, words in (
        ({"scale": 12}, "driver", "no number called"),
        ({"scale": "x"}, "scale", "must be a number"),
    ):
        with pytest.raises(InputError, match=words):
            cards.around(entry, values, field)
