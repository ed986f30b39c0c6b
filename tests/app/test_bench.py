"""The Bench over HTTP: the first state, trials, saving, conflicts, undo, history, errors at the field."""

from concurrent.futures import ThreadPoolExecutor

import pytest
from django.db import IntegrityError, connection, transaction
from django.test.utils import CaptureQueriesContext

from jungoptic.app.base.models import Change
from jungoptic.app.people.models import Person
from jungoptic.app.productions.models import ToleranceChange
from jungoptic.app.shots.models import Layer, Part, SetUp, Shot
from jungoptic.app.takes import table
from jungoptic.app.takes.table import shot_to_look_at

from .conftest import Caller, a_key, edit


def mill_items(bench: dict) -> dict[str, dict]:
    layer = next(one for one in bench["layers"] if one["name"] == "Mill 1:12")
    return {item["item"]: item for item in layer["items"]}


def test_the_mill_as_first_set_up_shows(supervisor: Caller, shot):
    bench = supervisor.bench(shot)
    items = mill_items(bench)
    assert {key for key, item in items.items() if item["verdict"] == "shows"} == {
        "edges",
        "height",
        "lens",
        "together",
        "time",
        "motion_blur",
        "focus_far",
        "skew",
    }
    assert bench["shows"] == 8
    assert items["height"]["where"] == "0.35 m, wants 0.133 m"
    assert bench["selected"]["standing"]["wants_text"] == "lens wants 0.133 m ± 1 mm"
    assert next(one for one in bench["layers"] if one["is_hero"])["shows"] == 0
    assert bench["horizon_text"] == "horizon 1.6 m"
    places = [one["ruler_m"] for one in bench["layers"]]
    assert places == sorted(places)


def test_units_and_school_change_what_is_said(supervisor: Caller, shot):
    assert (
        mill_items(supervisor.bench(shot, units="imperial"))["height"]["where"] == "13 3/4 in, wants 5 1/4 in"
    )
    covered = mill_items(supervisor.bench(shot, school="covered"))
    assert covered["focus_far"]["covered_by"] == "half the motion blur"
    assert covered["focus_far"]["verdict"] == "holds"


def test_only_the_selected_layer_carries_its_numbers(supervisor: Caller, shot, mill):
    bench = supervisor.bench(shot, selected=mill.pk)
    told = {
        (layer["id"] == mill.pk, item["values"] is not None)
        for layer in bench["layers"]
        for item in layer["items"]
    }
    assert told == {(True, True), (False, False)}


def test_a_trial_answers_and_saves_nothing(guest: Caller, shot, mill):
    trial = {
        "set_ups": {mill.set_up_id: {"lens_height_m": 0.5, "f_number": 16}},
        "layers": {mill.pk: {"resize": 0.96}},
    }
    status, bench = guest("post", f"/shots/{shot.pk}/trial", trial)
    assert status == 200
    assert mill_items(bench)["height"]["amount"] > 300
    assert mill_items(bench)["lens"]["amount"] < 10
    assert SetUp.objects.get(pk=mill.set_up_id).lens_height_m == 0.35
    assert Change.objects.count() == 0


def test_saving_answers_with_the_new_bench_and_keeps_the_history(supervisor: Caller, shot, mill):
    edits = {
        "set_ups": {mill.set_up_id: edit(1, ground_height_m=0.2167, f_number="16")},
        "layers": {mill.pk: edit(1, resize=0.9734)},
    }
    status, bench = supervisor("post", f"/shots/{shot.pk}/changes", edits)
    assert status == 200, bench
    assert mill_items(bench)["height"]["verdict"] == "holds"
    stored = SetUp.objects.get(pk=mill.set_up_id)
    assert (stored.f_number, stored.version) == (16.0, 2)
    told = {(change.kind, change.field): (change.before, change.after) for change in Change.objects.all()}
    assert told == {
        ("set_ups", "ground_height_m"): (0.0, 0.2167),
        ("set_ups", "f_number"): (8.0, 16.0),
        ("layers", "resize"): (1.0, 0.9734),
    }
    assert Change.objects.first().write.person.username == "supervisor"


def test_another_lens_and_recording_are_looked_up(supervisor: Caller, shot, mill):
    mode = {
        "recorded_width_px": 1920,
        "recorded_height_px": 1080,
        "gate_width_mm": 23.5,
        "gate_height_mm": 13.2,
        "capture_fps": 90,
    }
    status, _ = supervisor(
        "post",
        f"/shots/{shot.pk}/changes",
        {"set_ups": {mill.set_up_id: edit(1, focal_length_mm=25, **mode)}},
    )
    assert status == 200
    stored = SetUp.objects.select_related("lens", "mode").get(pk=mill.set_up_id)
    assert (stored.lens.name, stored.mode.name, stored.capture_fps) == ("25 mm", "1920 × 1080", 90)


@pytest.mark.parametrize(
    ("changes", "field", "words"),
    [
        ({"focus_distance_m": 0.03}, "focus_distance_m", "more than the focal length, 35 mm"),
        ({"focus_distance_m": 0.2}, "focus_distance_m", "focuses from 0.3 m"),
        ({"f_number": 45}, "f_number", "goes from f/2 to f/22"),
        ({"f_number": "wide open"}, "f_number", "must be a number"),
        ({"iso": None}, "iso", "must be a number"),
        ({"aperture": 8}, "aperture", "no field called “aperture”"),
        ({"capture_fps": 83}, "capture_fps", "1920 × 1080 goes to 120"),
        ({"focal_length_mm": 40}, "focal_length_mm", "has no 40 mm lens"),
        ({"focal_length_mm": "x"}, "focal_length_mm", "must be a number"),
        ({"recorded_width_px": 1}, "recorded_width_px", "no mode 1 px wide"),
        ({"distance_m": 1e400}, "distance_m", "must be"),
    ],
)
def test_bad_input_is_refused_at_its_field_and_nothing_is_lost(
    supervisor: Caller, shot, mill, changes: dict, field: str, words: str
):
    body = {"set_ups": {mill.set_up_id: edit(1, iso=400) | {"changes": {"tilt_deg": 1, **changes}}}}
    status, answer = supervisor("post", f"/shots/{shot.pk}/changes", body)
    assert status == 422
    problem = next(one for one in answer["problems"] if one["field"] == field)
    assert words in problem["message"]
    stored = SetUp.objects.get(pk=mill.set_up_id)
    assert (stored.tilt_deg, stored.version) == (0, 1)


def test_a_zero_scale_is_refused(supervisor: Caller, shot, mill):
    status, answer = supervisor("post", f"/shots/{shot.pk}/changes", {"layers": {mill.pk: edit(1, scale=0)}})
    assert (status, answer["problems"]) == (
        422,
        [{"field": "scale", "message": "Scale 1: must be more than 0; 0 was given."}],
    )
    trial = supervisor("post", f"/shots/{shot.pk}/trial", {"layers": {mill.pk: {"scale": 0}}})
    assert trial[0] == 422


def test_the_database_itself_refuses_what_must_never_be(shot, mill, sea):
    for pk, change in (
        (mill.pk, {"scale": 0}),
        (mill.pk, {"is_hero": True}),
        (mill.pk, {"near_m": -1}),
        (sea.pk, {"set_up": None}),
    ):
        with pytest.raises(IntegrityError), transaction.atomic():
            Layer.objects.filter(pk=pk).update(**change)
    with pytest.raises(IntegrityError), transaction.atomic():
        Layer.objects.filter(pk=mill.pk).update(place=sea.place)
        with connection.cursor() as cursor:
            cursor.execute("set constraints all immediate")


def test_two_people_saving_the_same_layer(supervisor: Caller, shot, mill):
    first = supervisor("post", f"/shots/{shot.pk}/changes", {"set_ups": {mill.set_up_id: edit(1, iso=400)}})
    second = supervisor(
        "post", f"/shots/{shot.pk}/changes", {"set_ups": {mill.set_up_id: edit(1, tilt_deg=2)}}
    )
    assert first[0] == 200
    assert second[0] == 409
    problem = second[1]["problems"][0]
    assert problem["field"] == "version"
    assert "Supervisor changed “Mill on the table” while you worked (ISO)" in problem["message"]
    assert SetUp.objects.get(pk=mill.set_up_id).tilt_deg == 0
    assert (
        supervisor("post", f"/shots/{shot.pk}/changes", {"set_ups": {mill.set_up_id: edit(2, tilt_deg=2)}})[0]
        == 200
    )


def test_a_change_sent_twice_happens_once(supervisor: Caller, shot, mill):
    key, body = a_key(), {"set_ups": {mill.set_up_id: edit(1, iso=400)}}
    first, second = (supervisor("post", f"/shots/{shot.pk}/changes", body, key=key) for _ in range(2))
    assert first == second
    assert SetUp.objects.get(pk=mill.set_up_id).version == 2
    other = supervisor(
        "post", f"/shots/{shot.pk}/changes", {"set_ups": {mill.set_up_id: edit(2, iso=500)}}, key=key
    )
    assert other[0] == 422
    assert "was used for another write" in other[1]["problems"][0]["message"]


def test_half_of_an_edit_is_never_saved(supervisor: Caller, shot, mill, sea):
    body = {"set_ups": {sea.set_up_id: edit(1, iso=400), mill.set_up_id: edit(7, iso=400)}}
    assert supervisor("post", f"/shots/{shot.pk}/changes", body)[0] == 409
    assert SetUp.objects.get(pk=sea.set_up_id).iso == 800


def test_moving_a_layer_along_the_ruler_keeps_order_by_distance(supervisor: Caller, shot, mill):
    gulls = Layer.objects.get(shot=shot, name="Gulls")
    status, bench = supervisor(
        "post", f"/shots/{shot.pk}/changes", {"layers": {gulls.pk: edit(1, near_m=20)}}
    )
    assert status == 200
    assert [one["name"] for one in bench["layers"]][:2] == ["Mill 1:12", "Gulls"]


def test_a_set_up_that_serves_two_layers_counts_its_distance_from_the_nearer(supervisor: Caller, shot, mill):
    sheds = Layer.objects.create(
        shot=shot,
        place=9,
        name="Sheds",
        kind="model",
        combine="key",
        set_up=mill.set_up,
        scale=12,
        near_m=18,
        width_m=2,
        height_m=2,
    )
    bench = supervisor.bench(shot, selected=sheds.pk)
    layer = next(one for one in bench["layers"] if one["id"] == sheds.pk)
    assert bench["selected"]["standing"]["distance_m"] == pytest.approx(1.5)
    assert next(dial for dial in bench["selected"]["dials"] if dial["field"] == "distance_m")[
        "value"
    ] == pytest.approx(1.0)
    assert {item["item"]: item for item in layer["items"]}["perspective"]["amount"] == pytest.approx(
        0, abs=1e-9
    )


def test_solving_with_a_distance_that_is_only_tried_counts_from_there(supervisor: Caller, shot, mill):
    """The answer's distance is the set-up's own, wherever the hand has it now: the mill stands at 12 m ÷
    12.
    """
    for tried in ({}, {"set_ups": {mill.set_up_id: {"distance_m": 2.5}}}):
        status, found = supervisor("post", f"/layers/{mill.pk}/solve", tried)
        assert status == 200
        assert found["answers"][0]["set_up"].get("distance_m", 1.0) == pytest.approx(1.0, abs=0.01)


def test_a_changed_tolerance_of_the_production_judges(supervisor: Caller, production, shot):
    ToleranceChange.objects.create(production=production, item="focus_far", holds=4, tight=8)
    assert mill_items(supervisor.bench(shot))["focus_far"]["verdict"] == "holds"


def test_a_shot_without_a_hero_says_nothing_and_does_not_fail(supervisor: Caller, production):
    other = Shot.objects.create(production=production, code="TM130", title="Not laid out", length_frames=48)
    bench = supervisor.bench(other)
    assert bench["layers"] == [] and bench["selected"] is None and bench["hero_layer_id"] is None
    assert supervisor("get", f"/shots/{other.pk}/log")[1]["layers"] == []


def test_the_wall_lists_every_shot_with_its_verdict(guest: Caller, production):
    wall = guest.wall(production)
    shots = wall["shots"]
    assert [one["code"] for one in shots] == [f"TM{n:03}" for n in range(10, 130, 10)]
    assert (shots[0]["verdict"], shots[0]["shows"], shots[1]["verdict"]) == ("shows", 8, "shows")
    assert wall["totals"]["shots"] == 12 and wall["totals"]["hours"] == pytest.approx(
        sum(one["hours"] for one in shots)
    )


def test_the_bench_reads_the_database_a_fixed_number_of_times(supervisor: Caller, shot, mill):
    def queries() -> int:
        with CaptureQueriesContext(connection) as seen:
            supervisor.bench(shot)
        return len(seen)

    first, again = queries(), queries()
    for n in range(10):
        Layer.objects.create(
            shot=shot,
            place=20 + n,
            name=f"Model {n}",
            kind="model",
            combine="key",
            set_up=mill.set_up,
            scale=12,
            near_m=13 + n,
        )
    assert queries() <= first <= 28  # more layers, not more questions
    assert again <= 5  # nothing has changed: only the session, who asks and the versions, and the neighbours


def test_what_is_kept_of_a_shot_is_read_again_after_any_change(supervisor: Caller, production, shot, mill):
    def tripods_lowest() -> str:
        return next(item for item in mill_items(supervisor.bench(shot)).values() if item["item"] == "height")[
            "sentence"
        ]

    assert "no lower than 0.35 m" in tripods_lowest()
    support = production.supports.get()
    support.lowest_lens_m = 0.3
    support.save()
    assert "no lower than 0.3 m" in tripods_lowest()
    part = mill.parts.get(name="Chimney")
    before = next(one for one in supervisor.bench(shot)["layers"] if one["id"] == mill.pk)["outlines"]
    part.points = [[0, 0], [0, 4], [1, 4]]
    part.save()
    assert next(one for one in supervisor.bench(shot)["layers"] if one["id"] == mill.pk)["outlines"] != before


def test_solving_is_offered_and_used(supervisor: Caller, shot, mill):
    status, solved = supervisor("post", f"/layers/{mill.pk}/solve", {})
    assert status == 200
    best = solved["answers"][0]
    assert best["verdict"] == "holds"
    assert Change.objects.count() == 0
    edits = {
        "set_ups": {mill.set_up_id: edit(1, **best["set_up"])},
        "layers": {int(layer): edit(1, **changes) for layer, changes in best["layers"].items()},
    }
    status, bench = supervisor("post", f"/shots/{shot.pk}/changes", edits)
    assert status == 200, bench
    assert (bench["shows"], bench["tight"]) == (0, 0)


def test_what_cannot_be_solved_is_said(supervisor: Caller, shot, sea):
    status, answer = supervisor("post", f"/layers/{sea.pk}/solve", {})
    assert status == 422 and "This is the hero" in answer["problems"][0]["message"]
    sky = Layer.objects.get(shot=shot, name="Dusk sky")
    assert "nothing to set" in supervisor("post", f"/layers/{sky.pk}/solve", {})[1]["problems"][0]["message"]
    assert supervisor("post", f"/layers/{sky.pk}/solve", {"locked": "everything"})[0] == 422


def test_the_demo_is_made_once(production):
    from jungoptic.app.demo.production import make_demo

    assert make_demo().pk == production.pk
    assert Person.objects.count() == 4


def test_a_shot_that_is_kept_answers_every_thread_as_it_did_the_first(supervisor: Caller, shot, mill):
    """Whoever drags in another thread reads the same rows, and asks the database for none of them again."""
    versions = shot.revision, shot.production.revision
    mine = shot_to_look_at(shot.pk, versions)

    def judged() -> list[tuple[str, float]]:
        seen = shot_to_look_at(shot.pk, versions)
        assert seen is mine
        rows = table.BenchTable(seen, school="measured", units="metric").judged
        return [(item.item, item.amount) for row in rows for item in row.items]

    first = judged()
    with ThreadPoolExecutor(
        4
    ) as others:  # their connections see nothing of this test's: they ask for nothing
        assert [one.result() for one in [others.submit(judged) for _ in range(8)]] == [first] * 8


def test_what_was_kept_is_stale_after_a_bulk_write(supervisor: Caller, shot, mill):
    assert next(one for one in supervisor.bench(shot)["layers"] if one["id"] == mill.pk)["scale"] == 12
    Layer.objects.filter(pk=mill.pk).update(scale=6)
    assert next(one for one in supervisor.bench(shot)["layers"] if one["id"] == mill.pk)["scale"] == 6
    Part.objects.bulk_create([Part(layer=mill, name="Chimney", points=[[0, 0], [1, 0], [1, 5]])])
    assert any(
        part["name"] == "Chimney"
        for part in next(one for one in supervisor.bench(shot)["layers"] if one["id"] == mill.pk)["outlines"]
    )


def test_while_a_hand_moves_only_what_takes_a_search_waits(supervisor: Caller, shot, mill):
    tried = {"set_ups": {mill.set_up_id: {"lens_height_m": 0.4}}, "selected": mill.pk}
    path = f"/shots/{shot.pk}/trial"
    (_, moving), (_, resting) = (
        supervisor("post", path, {**tried, "moving": moving}) for moving in (True, False)
    )
    waiting = []
    for one, other in zip(moving["layers"], resting["layers"], strict=True):
        for item, whole in zip(one["items"], other["items"], strict=True):
            if item["fixes"] != whole["fixes"]:
                assert item["fixes"] is None
                waiting.append((one["name"], item["item"]))
                item["fixes"] = whole["fixes"]
        assert one == other
    assert waiting and {name for name, _ in waiting} == {mill.name}, (
        "others have none while something is tried"
    )
    hand, rest = moving["selected"], resting["selected"]
    assert hand["placings"] is None
    placed = {one["dial"]: one for one in rest["placings"]}
    assert set(placed) == {"lens_height_m", "distance_m", "tilt_deg"}
    for one, other in zip(hand["dials"], rest["dials"], strict=True):
        if one["field"] in placed:
            assert one["holds_low"] is None and one["holds_high"] is None
            # the page puts the margins about this
            assert other["hero"] - other["holds_low"] == pytest.approx(placed[one["field"]]["minus"])
            assert one | {"holds_low": other["holds_low"], "holds_high": other["holds_high"]} == other
        else:
            assert one == other
    assert rest["standing"]["wants_text"].startswith(hand["standing"]["wants_text"])
    left = {"dials", "placings", "standing"}
    assert {k: v for k, v in hand.items() if k not in left} == {
        k: v for k, v in rest.items() if k not in left
    }
