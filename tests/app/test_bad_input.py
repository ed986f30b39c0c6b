"""What cannot be is refused at its own field, whatever row it is on, and nothing is written or lost."""

from __future__ import annotations

from typing import Any

import pytest

from jungoptic.app.base.models import Change
from jungoptic.app.shots.models import Layer, PlacedBacking, PlacedLamp, Shot

from .conftest import Caller, edit

BAD: list[tuple[str, dict[str, Any], str, str]] = [
    ("layers", {"scale": 0}, "scale", "more than 0"),
    ("layers", {"near_m": "near"}, "near_m", "must be a number of m"),
    ("layers", {"near_m": float("1e400")}, "near_m", ""),
    ("layers", {"combine": "glue"}, "combine", "must be one of"),
    ("layers", {"kept": ["smell"]}, "kept.0", "must be one of"),
    ("layers", {"turned_deg": 120}, "turned_deg", "at most 90"),
    ("layers", {"name": ""}, "name", "Name"),
    ("layers", {"key_colour": "mauve"}, "key_colour", "must be one of"),
    ("layers", {"set_up_id": 10**9}, "set_up_id", "not one of this shot's"),
    ("layers", {"set_up_id": "first"}, "set_up_id", "not one of this shot's"),
    ("layers", {"is_hero": True}, "is_hero", "no field called"),
    ("set_ups", {"key_to_fill_stops": -1}, "key_to_fill_stops", "at least 0"),
    ("set_ups", {"ripple_depth": 1}, "ripple_depth", "less than 1"),
    ("set_ups", {"sun_at": "2027-10-23T16:30"}, "sun_at", "offset from UTC"),
    ("set_ups", {"sun_at": "9999-12-31T23:59:59-14:00"}, "sun_at", "between 1900 and 2100"),
    ("set_ups", {"sun_at": "0001-01-01T00:00:00+14:00"}, "sun_at", "between 1900 and 2100"),
    ("set_ups", {"sun_at": "2027-10-23T16:30+23:55"}, "sun_at", "at most 14 h from UTC"),
    ("set_ups", {"sun_at": "teatime"}, "sun_at", "Lit by the sun at"),
    ("set_ups", {"heading_deg": 400}, "heading_deg", "at most 360"),
    ("set_ups", {"references": ["song"]}, "references.0", "must be one of"),
    ("set_ups", {"mains_hz": 60}, "mains_hz", "no field called"),
    ("lamps", {"level": 2}, "level", "at most 1"),
    ("lamps", {"beam_deg": 0}, "beam_deg", "more than 1"),
    ("lamps", {"role": "star"}, "role", "must be one of"),
    ("lamps", {"set_up": 1}, "set_up", "no field called"),
    ("backings", {"colour": "green"}, "colour", "Colour"),
    ("backings", {"width_m": -3}, "width_m", "more than 0"),
    ("shot", {"length_frames": 0}, "length_frames", "at least 1"),
    ("shot", {"move_kind": "whirl"}, "move_kind", "must be one of"),
    ("shot", {"move_ease_in_frames": 5000}, "move_ease_out_frames", "must fit"),
    ("shot", {"visibility_m": 0}, "visibility_m", "more than 0"),
    ("shot", {"vertical_cut": "yes"}, "vertical_cut", "Say yes or no"),
    ("shot", {"vertical_at_px": 99999}, "vertical_at_px", "between 0 and 1920"),
    ("shot", {"title": "Mine"}, "title", "no field called"),
]


@pytest.fixture
def rows(production) -> dict[str, int]:
    shot = Shot.objects.get(code="TM020")
    orla = Layer.objects.get(shot=shot, name="Orla")
    assert orla.set_up_id is not None
    return {
        "shot": shot.pk,
        "layers": orla.pk,
        "set_ups": orla.set_up_id,
        "lamps": PlacedLamp.objects.filter(set_up=orla.set_up)[0].pk,
        "backings": PlacedBacking.objects.get(set_up=orla.set_up).pk,
    }


@pytest.mark.parametrize(
    ("kind", "changes", "field", "words"),
    BAD,
    ids=[f"{kind}-{field}-{n}" for n, (kind, _, field, _) in enumerate(BAD)],
)
def test_it_is_refused_at_its_field(
    kind: str, changes: dict, field: str, words: str, supervisor: Caller, rows: dict[str, int]
):
    if changes.get("near_m") == float("inf"):
        changes = {"near_m": 1e300}
    status, answer = supervisor(
        "post", f"/shots/{rows['shot']}/changes", {kind: {rows[kind]: edit(1, **changes)}}
    )
    assert status == 422, answer
    problem = answer["problems"][0]
    assert problem["field"] == field and words in problem["message"], problem
    assert problem["message"].endswith(".")
    assert Change.objects.count() == 0


TRIED = [one for one in BAD if "no field called" not in one[3] and one[2] not in ("set_up_id", "key_colour")]


@pytest.mark.parametrize(
    ("kind", "changes", "field", "words"),
    TRIED,
    ids=[f"{one[0]}-{one[2]}-{n}" for n, one in enumerate(TRIED)],
)
def test_it_is_refused_when_it_is_only_tried_too(
    kind: str, changes: dict, field: str, words: str, supervisor: Caller, rows: dict[str, int]
):
    status, answer = supervisor("post", f"/shots/{rows['shot']}/trial", {kind: {rows[kind]: changes}})
    assert status == 422, answer
    assert answer["problems"][0]["field"] == field and words in answer["problems"][0]["message"]


def test_rows_of_another_shot_are_not_this_ones(supervisor: Caller, rows: dict[str, int], shot: Shot):
    for kind in ("layers", "set_ups", "lamps", "backings"):
        status, answer = supervisor("post", f"/shots/{shot.pk}/changes", {kind: {rows[kind]: edit(1)}})
        assert status == 422 and "This shot has no" in answer["problems"][0]["message"], kind
    assert (
        supervisor("post", f"/shots/{shot.pk}/changes", {"shot": {rows["shot"]: edit(1, margin_pct=5)}})[0]
        == 422
    )


def test_one_bad_field_among_good_ones_saves_none_of_them(supervisor: Caller, rows: dict[str, int]):
    body = {
        "layers": {rows["layers"]: edit(1, width_m=0.7)},
        "lamps": {rows["lamps"]: edit(1, level=3)},
        "shot": {rows["shot"]: edit(1, margin_pct=10)},
    }
    assert supervisor("post", f"/shots/{rows['shot']}/changes", body)[0] == 422
    assert (
        Layer.objects.get(pk=rows["layers"]).width_m == 0.6
        and Shot.objects.get(pk=rows["shot"]).margin_pct == 0
    )


@pytest.mark.parametrize(
    ("body", "field"),
    [
        ({"what": "lamp"}, "like_set_up"),
        ({"what": "lamp", "like_set_up": 10**9}, "set_up_id"),
        ({"what": "backing", "like_set_up": 10**9}, "set_up_id"),
        ({"what": "layer", "like_set_up": 10**9, "fields": {"kind": "model"}}, "like_set_up"),
        ({"what": "elephant"}, "what"),
    ],
)
def test_what_cannot_be_added_is_refused(body: dict, field: str, supervisor: Caller, rows: dict[str, int]):
    status, answer = supervisor("post", f"/shots/{rows['shot']}/add", body)
    assert status == 422 and answer["problems"][0]["field"] == field, answer


def test_a_lamp_of_another_productions_kit_is_not_placed(supervisor: Caller, rows: dict[str, int]):
    status, answer = supervisor(
        "post",
        f"/shots/{rows['shot']}/add",
        {"what": "lamp", "like_set_up": rows["set_ups"], "kit_lamp": 10**9},
    )
    assert status == 422 and answer["problems"][0]["message"] == "The kit has no such lamp."


@pytest.mark.parametrize(
    ("method", "path", "body", "field"),
    [
        ("post", "/productions/{production}/places", {"name": "The \x00quay"}, "name"),
        (
            "post",
            "/productions/{production}/places",
            {"name": "The sluice", "recurring": ["post", "\x00"]},
            "recurring.1",
        ),
        (
            "post",
            "/productions/{production}/take-in",
            {"name": "a.csv", "text": "shot,title\nX010,\x00\n"},
            "text",
        ),
        ("patch", "/shots/{shot}/line", {"changes": {"title": "\x00"}}, "changes.title"),
        (
            "post",
            "/shots/{shot}/changes",
            {"layers": {"1": {"version": 1, "changes": {"na\x00me": "x"}}}},
            "layers.1.changes",
        ),
    ],
)
def test_text_that_the_database_cannot_keep_is_refused_at_its_field(
    method, path, body, field, supervisor: Caller, shot: Shot
):
    status, answer = supervisor(method, path.format(production=shot.production_id, shot=shot.pk), body)
    assert status == 422 and answer["problems"] == [
        {
            "field": field,
            "message": "Text may not hold a NUL character: type it again, or paste it as plain text.",
        }
    ]


def test_a_question_that_the_database_cannot_read_is_refused_at_its_field(supervisor: Caller, shot: Shot):
    status, answer = supervisor("get", f"/productions/{shot.production_id}/history?kinds=layers%00")
    assert status == 422
    assert [one["field"] for one in answer["problems"]] == ["kinds"]


def test_a_backslash_before_four_noughts_is_text_like_any_other(supervisor: Caller, shot: Shot):
    assert supervisor("patch", f"/shots/{shot.pk}/line", {"changes": {"title": r"Reel \u0000"}})[0] == 200
    assert Shot.objects.get(pk=shot.pk).title == r"Reel \u0000"


def test_what_is_no_json_is_refused(supervisor: Caller, shot: Shot):
    answer = supervisor.client.post(
        f"/api/shots/{shot.pk}/changes", data="{", content_type="application/json"
    )
    assert answer.status_code == 400 and "request body" in answer.json()["problems"][0]["message"]
