"""What belongs to a whole shot: its move, its frames, its scales, its judging, its neighbours."""

from __future__ import annotations

from typing import Any, get_args

import cv2
import numpy as np
import pytest

from jungoptic.app.base.models import Change
from jungoptic.app.bench.schemas import FieldsOut
from jungoptic.app.bench.solving_schemas import ScalesOut
from jungoptic.app.productions.models import ToleranceChange
from jungoptic.app.productions.schemas import JudgingOut
from jungoptic.app.shots.models import Layer, Shot
from jungoptic.core.vocabulary import Kind

from .conftest import Caller, edit
from .test_whole_bench import item_of, layer_of


def test_the_shots_move_and_framing_are_changed_checked_and_undone_by_their_values(supervisor: Caller, shot):
    status, bench = supervisor(
        "post",
        f"/shots/{shot.pk}/changes",
        {
            "shot": {
                shot.pk: edit(
                    shot.version,
                    move_kind="slide",
                    move_amount=2.4,
                    move_end_frame=100,
                    margin_pct=10,
                    vertical_cut=True,
                )
            }
        },
    )
    assert status == 200, bench
    assert (
        bench["shot"]["moves"]
        and bench["needed_box"] == pytest.approx([-96, -54, 2016, 1134])
        and bench["cut_box"][0] == pytest.approx(656.25)
    )
    assert item_of(bench, "Mill 1:12", "move")["verdict"] == "holds"
    for changes, field in (
        ({"move_end_frame": 0}, "move_end_frame"),
        ({"margin_pct": "wide"}, "margin_pct"),
        ({"screen_direction": "up"}, "screen_direction"),
        ({"split_px": "left"}, "split_px"),
    ):
        status, answer = supervisor(
            "post", f"/shots/{shot.pk}/changes", {"shot": {shot.pk: edit(shot.version + 1, **changes)}}
        )
        assert status == 422 and answer["problems"][0]["field"] == field, answer
    assert (
        supervisor(
            "post", f"/shots/{shot.pk}/changes", {"shot": {shot.pk: edit(shot.version + 1, code="TM999")}}
        )[0]
        == 422
    )
    assert Change.objects.get(kind="shot", field="move_amount").after == 2.4


def test_another_frame_moves_the_drawing_and_not_the_verdict(supervisor: Caller, production):
    airship = Shot.objects.get(code="TM110")
    first, last = (supervisor.bench(airship, frame=frame) for frame in (0, 107))
    assert (first["frame"], last["frame"]) == (0, 107) and supervisor.bench(airship, frame=5000)[
        "frame"
    ] == 107
    x = [layer_of(one, "Airship")["outlines"][0]["points"][0][0] for one in (first, last)]
    assert x[1] - x[0] > 500
    assert [i["amount"] for i in layer_of(first, "Airship")["items"]] == [
        i["amount"] for i in layer_of(last, "Airship")["items"]
    ]


def test_the_picture_is_a_jpeg_of_the_delivery_that_follows_what_is_tried(guest: Caller, shot, mill):
    def seen(**body: Any) -> np.ndarray:
        status, data = guest("post", f"/shots/{shot.pk}/picture", {"width_px": 320, **body})
        assert status == 200
        return cv2.imdecode(np.frombuffer(data, np.uint8), cv2.IMREAD_COLOR).astype(float)

    plain = seen()
    assert plain.shape == (180, 320, 3)
    assert np.abs(plain - seen()).max() == 0
    assert np.abs(plain - seen(set_ups={mill.set_up_id: {"lens_height_m": 0.133}})).max() > 40
    assert np.abs(plain - seen(only=mill.pk)).max() > 40
    assert guest("post", f"/shots/{shot.pk}/picture", {"width_px": 100000})[0] == 422


def test_the_scales_side_by_side_over_http(guest: Caller, shot, mill):
    status, found = guest("post", f"/layers/{mill.pk}/scales", {"units": "imperial"})
    assert status == 200
    ScalesOut.model_validate(found)
    rows = {row["scale"]: row for row in found["rows"]}
    assert rows[12]["rate_wanted_fps"] == pytest.approx(83.1, abs=0.1) and "in" in rows[12]["distance"]
    assert not rows[1]["fits"]
    sky = Layer.objects.get(shot=shot, name="Dusk sky")
    assert guest("post", f"/layers/{sky.pk}/scales", {})[0] == 422


def test_how_a_production_is_judged_is_changed_seen_and_put_back(
    supervisor: Caller, guest: Caller, shot, mill, production
):
    path = f"/productions/{production.pk}/judging"
    now = guest("get", path)[1]
    JudgingOut.model_validate(now)
    status, grey = supervisor(
        "patch",
        path,
        {
            "version": now["version"],
            "black_and_white": True,
            "tolerances": {"height": {"holds": 500, "tight": 600}},
        },
    )
    assert status == 200 and grey["black_and_white"]
    bench = supervisor.bench(shot)
    assert (
        item_of(bench, "Mill 1:12", "colour")["informs"]
        and item_of(bench, "Mill 1:12", "height")["verdict"] == "holds"
    )
    assert bench["finish"] == "black and white"
    assert not item_of(supervisor.bench(shot, after_finish=False), "Mill 1:12", "colour")["informs"]
    assert supervisor("patch", path, {"version": now["version"], "soften_px": 2})[0] == 409
    problem = supervisor(
        "patch", path, {"version": grey["version"], "tolerances": {"height": {"holds": 5, "tight": 1}}}
    )
    assert problem[0] == 422 and "Tight must not be smaller" in problem[1]["problems"][0]["message"]
    for body, field, message in (
        ({"soften_px": -3}, "soften_px", "Softened at the end must be at least 0 px; -3.0 was given."),
        ({"tape_error_m": 1.5}, "tape_error_m", "Error of the tape must be at most 1 m; 1.5 was given."),
        (
            {"tolerances": {"height": {"holds": 0, "tight": 1}}},
            "height",
            "Camera height: Holds must be more than 0 and at most 1,000,000; 0 was given.",
        ),
    ):
        assert supervisor("patch", path, {"version": grey["version"], **body}) == (
            422,
            {"problems": [{"field": field, "message": message}]},
        )
    back = supervisor(
        "patch",
        path,
        {
            "version": grey["version"],
            "black_and_white": False,
            "tolerances": {"height": {"holds": None, "tight": None}},
        },
    )
    assert back[0] == 200 and ToleranceChange.objects.count() == 0
    assert item_of(supervisor.bench(shot), "Mill 1:12", "height")["verdict"] == "shows"


def test_the_neighbours_across_the_cut_are_those_of_the_same_place(guest: Caller, production):
    bench = guest.bench(Shot.objects.get(code="TM030"))
    assert [(one["code"], one["where"]) for one in bench["across_cut"]] == [
        ("TM020", "before"),
        ("TM040", "after"),
    ]
    assert all(one["items"] for one in bench["across_cut"])
    assert guest.bench(Shot.objects.get(code="TM010"))["across_cut"] == []


def test_what_can_be_said_is_described_once_by_core(guest: Caller):
    status, fields = guest("get", "/fields")
    assert status == 200
    FieldsOut.model_validate(fields)
    scale = next(one for one in fields["layer"] if one["name"] == "scale")
    assert scale["title"] == "Scale 1:" and scale["kind"] == "number"
    kinds = next(one for one in fields["layer"] if one["name"] == "kind")
    assert list(kinds["choices"]) == list(get_args(Kind))


def test_two_people_on_one_shot_never_overwrite_silently(supervisor: Caller, shot, mill):
    other = Caller("supervisor")
    seen = supervisor.bench(shot)
    assert other("post", f"/shots/{shot.pk}/changes", {"layers": {mill.pk: edit(1, width_m=9)}})[0] == 200
    status, answer = supervisor(
        "post",
        f"/shots/{shot.pk}/changes",
        {"layers": {mill.pk: edit(layer_of(seen, "Mill 1:12")["version"], width_m=7)}},
    )
    assert status == 409 and "(width)" in answer["problems"][0]["message"]
    mill.refresh_from_db()
    assert mill.width_m == 9
