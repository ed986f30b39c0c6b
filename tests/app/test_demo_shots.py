"""Every shot of the invented production: its first trouble, and the way to Holds or to an accepted reason."""

from __future__ import annotations

from typing import Any

import pytest

from jungoptic.app.shots.models import Acceptance, Shot

from .conftest import Caller

# What the line of each shot implies, by layer: the first state shows or is tight in at least this.
TROUBLE: dict[str, dict[str, set[str]]] = {
    "TM010": {"Mill 1:12": {"height", "focus_far", "time"}},
    "TM020": {
        "Orla": {"backing_edge", "backing_colour", "evenness", "backing_shadow"},
        "Wheel 1:8": {"height", "time", "focus_near"},
    },
    "TM030": {"Wren, right half": {"split_line", "clean_plate"}},
    "TM040": {"Rope on a line": {"contact"}, "Clean belfry": {"clean_match", "colour"}},
    "TM050": {"Heron 1:4": {"contact", "direction", "hardness", "height"}},
    "TM060": {"Wall and water 1:6": {"time", "flicker", "references"}, "Dust and debris": {"sharpness"}},
    "TM070": {"Room": {"clipping"}, "Sparks on black": {"sharpness"}},
    "TM080": {"Reeds, cut out": {"card_turn", "sharpness"}},
    "TM090": {"First row": {"height", "backing_edge", "evenness"}},
    "TM100": {"Empty sands": {"clean_match", "focus_near"}, "Far mill": {"haze"}},
    "TM110": {"Drying sheds": {"matte_line"}, "Yard": {"clean_plate"}},
    "TM120": {"Left half, flopped": {"handed", "direction"}, "Loft": {"judder"}},
}
MOST_ROUNDS = 30


def faults(bench: dict[str, Any]) -> list[tuple[dict[str, Any], dict[str, Any]]]:
    """What is neither Holds nor accepted, worst first."""
    found = [
        (layer, item)
        for layer in bench["layers"]
        for item in layer["items"]
        if item["verdict"] != "holds" and not item["accepted"] and not item["informs"]
    ]
    return sorted(found, key=lambda one: -one[1]["ladder"])


def save(caller: Caller, bench: dict[str, Any], changes: dict[str, Any]) -> tuple[int, Any]:
    """Save a set of changes with the versions that the bench shows."""
    versions = {
        "layers": {one["id"]: one["version"] for one in bench["layers"]},
        "set_ups": {one["id"]: one["version"] for one in bench["set_ups"]},
    }
    versions["lamps"] = {lamp["id"]: lamp["version"] for one in bench["set_ups"] for lamp in one["lamps"]}
    versions["backings"] = {
        one["backing"]["id"]: one["backing"]["version"] for one in bench["set_ups"] if one["backing"]
    }
    versions["shot"] = {bench["shot_id"]: bench["version"]}
    body = {
        kind: {pk: {"version": versions[kind][int(pk)], "changes": fields} for pk, fields in rows.items()}
        for kind, rows in changes.items()
    }
    return caller("post", f"/shots/{bench['shot_id']}/changes", body)


def apply_fix(caller: Caller, bench: dict[str, Any], fix: dict[str, Any]) -> int:
    if fix["new_layer"]:
        return caller("post", f"/shots/{bench['shot_id']}/add", {"what": "layer", **fix["new_layer"]})[0]
    return save(caller, bench, {kind: rows for kind, rows in fix["changes"].items() if rows})[0]


@pytest.mark.parametrize("code", TROUBLE)
def test_the_first_state_has_the_trouble_that_its_line_implies(code: str, supervisor: Caller, production):
    bench = supervisor.bench(Shot.objects.get(code=code))
    for name, items in TROUBLE[code].items():
        layer = next(one for one in bench["layers"] if one["name"] == name)
        seen = {item["item"] for item in layer["items"] if item["verdict"] != "holds"}
        assert items <= seen, (name, items - seen)


@pytest.mark.parametrize("code", TROUBLE)
def test_solving_and_the_fixes_bring_it_to_holds_or_to_an_accepted_reason(
    code: str, supervisor: Caller, production
):
    shot = Shot.objects.get(code=code)
    Acceptance.objects.filter(layer__shot=shot).update(withdrawn=True)  # as if nobody had accepted anything
    bench = supervisor.bench(shot, basis="planned")
    started = len(faults(bench))
    answered = 0
    filmed = [
        one
        for one in bench["layers"]
        if not one["is_hero"] and one["set_up_id"] and one["kind"] != "clean_plate"
    ]
    for layer in filmed:
        status, solved = supervisor("post", f"/layers/{layer['id']}/solve", {})
        assert status == 200
        answered += bool(solved["answers"])
        if solved["answers"]:
            best = solved["answers"][0]
            changes = {
                "set_ups": {solved["set_up_id"]: best["set_up"]},
                "layers": {int(other): changes for other, changes in best["layers"].items()},
            }
            assert (
                save(
                    supervisor,
                    bench,
                    {kind: rows for kind, rows in changes.items() if any(rows.values())},
                )[0]
                == 200
            )
            bench = supervisor.bench(shot, basis="planned")
    assert answered or not filmed
    tried: set[tuple[int, str, str]] = set()
    for _ in range(MOST_ROUNDS):
        step = next(
            (
                (layer, item, fix)
                for layer, item in faults(bench)
                for fix in item["fixes"]
                if (layer["id"], item["item"], fix["label"]) not in tried
            ),
            None,
        )
        if step is None:
            break
        layer, item, fix = step
        tried.add((layer["id"], item["item"], fix["label"]))
        before = len(faults(bench))
        assert apply_fix(supervisor, bench, fix) in (200, 201)
        after = supervisor.bench(shot, basis="planned")
        if len(faults(after)) > before and not fix["new_layer"]:  # worse: put it back, as a hand would
            back = {
                kind: {
                    pk: {name: _old(bench, kind, int(pk), name) for name in fields}
                    for pk, fields in rows.items()
                }
                for kind, rows in fix["changes"].items()
                if rows
            }
            assert save(supervisor, after, back)[0] == 200
            after = supervisor.bench(shot, basis="planned")
        bench = after
    left = faults(bench)
    assert len(left) <= max(3, started // 2), [
        (layer["name"], item["item"], item["amount"]) for layer, item in left
    ]
    for layer, item in left:
        body = {
            "layer_id": layer["id"],
            "item": item["item"],
            "reason": "Seen, and covered by the cut.",
            "basis": "planned",
        }
        assert supervisor("post", f"/shots/{shot.pk}/accept", body)[0] == 200
    done = supervisor.bench(shot, basis="planned")
    assert faults(done) == [] and done["shows"] == done["tight"] == 0
    assert (
        done["accepted"] == len(left) == Acceptance.objects.filter(layer__shot=shot, withdrawn=False).count()
    )


def _old(bench: dict[str, Any], kind: str, pk: int, name: str) -> Any:
    if kind == "shot":
        return bench["shot"]["values"][name]
    if kind == "layers":
        row = next(one for one in bench["layers"] if one["id"] == pk)
        return row[name] if name in row else row["values"][name]
    if kind == "set_ups":
        return next(one for one in bench["set_ups"] if one["id"] == pk)["values"][name]
    rows = (
        [lamp for one in bench["set_ups"] for lamp in one["lamps"]]
        if kind == "lamps"
        else [one["backing"] for one in bench["set_ups"] if one["backing"]]
    )
    return next(one for one in rows if one["id"] == pk)["values"][name]


def test_the_mark_that_the_hyperlapse_goes_round_stays_in_the_frame(supervisor: Caller, production):
    """An arc round the mill keeps the chimney where it is; a turn of the camera alone would lose it."""
    shot = Shot.objects.get(code="TM080")

    def mark() -> dict[str, Any]:
        layers = supervisor.bench(shot)["layers"]
        return next(item for one in layers for item in one["items"] if item["item"] == "tracking_mark")

    assert mark()["verdict"] == "holds"
    bench = supervisor.bench(shot)
    turned = {"shot": {shot.pk: {"move_kind": "pan", "move_amount": 60.0}}}
    assert save(supervisor, bench, turned)[0] == 200
    assert mark()["verdict"] == "shows"
