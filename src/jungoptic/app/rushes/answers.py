"""Recordings that are looked at, in the shapes that go over the wire."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from django.db.models.fields.json import KeyTransform

from jungoptic.app.base.answers import Json
from jungoptic.app.footage.models import Recording
from jungoptic.app.rushes.checking import checks_answer
from jungoptic.app.rushes.columns import amounts_of, column_answer, told_of, tolerances_of
from jungoptic.app.rushes.deciding import decisions_of
from jungoptic.app.rushes.keeping import counted, delivered_px, waiting
from jungoptic.app.rushes.models import FrameMeasure, Rush, SetUpMark
from jungoptic.app.rushes.reading import curve_of
from jungoptic.app.rushes.rows import BY_ITSELF, MARKS
from jungoptic.app.shots.models import Layer, Shot
from jungoptic.core.match import Tolerance
from jungoptic.core.measure import Curve
from jungoptic.core.rushes import MEASURED, PATH, AmountJudged, judged, mend_values
from jungoptic.core.vocabulary import School, Units

_CURVES = {"bt709": "BT.709", "srgb": "sRGB", "linear": "linear", "log": "log", "table": "by a table"}
_PATH = {name for name, _, _ in PATH}
_MATRICES = {"bt709": "BT.709", "bt601": "BT.601", "bt2020": "BT.2020"}


def rushes_answer(shot: Shot, role: str) -> Json:
    """The recordings of a shot by layer and take."""
    rows = (
        Recording.objects.filter(take__layer__shot=shot)
        .select_related("take", "rush")
        .defer("rush__clip", "says")
        .order_by("take__layer", "take__number", "pk")
    )
    by_layer: dict[int, list[Json]] = {}
    for row in rows:
        assert row.take is not None
        by_layer.setdefault(row.take.layer_id, []).append(_line(row))
    layers = Layer.objects.filter(shot=shot, removed=False).order_by("place", "pk")
    return {
        "production_id": shot.production_id,
        "shot_id": shot.pk,
        "version": shot.production.version,
        "code": shot.code,
        "title": shot.title,
        "role": role,
        "waiting": waiting(shot.production_id).count(),
        "layers": [
            {
                "layer_id": layer.pk,
                "name": layer.name,
                "kind": layer.kind,
                "set_up_id": layer.set_up_id,
                "recordings": by_layer.get(layer.pk, []),
            }
            for layer in layers
            if layer.pk in by_layer or layer.set_up_id is not None
        ],
        "compared": compared(shot),
        "checks": checks_answer(shot.pk),
    }


def compared(shot: Shot) -> list[Json]:
    """Actions held against their clean plates: of every layer its newest take, as what was shot again is done
    with; of each pair what shows most.
    """
    rows = (
        FrameMeasure.objects.filter(
            rush__recording__take__layer__shot=shot,
            what__in=BY_ITSELF,
            against__take__layer__kind="clean_plate",
        )
        .select_related("rush__recording__take__layer", "against__take__layer")
        .annotate(says=KeyTransform("says", "told"), amounts=KeyTransform("amounts", "told"))
        .defer("told", "rush__clip")
        .order_by("-rush__recording__take__recorded_at", "rush", "against", "-id")
    )
    tolerances = tolerances_of(shot.production_id)
    pairs: dict[tuple[int, int], dict[str, Any]] = {}
    for row in rows:
        pairs.setdefault((row.rush_id, row.against_id or 0), {}).setdefault(row.what, row)
    newest: dict[int, Json] = {}
    for found in pairs.values():
        pair = _pair(list(found.values()), tolerances)
        newest.setdefault(pair["layer_id"], pair)
    return list(newest.values())


def _pair(rows: list[Any], tolerances: dict[str, Tolerance]) -> Json:
    """The row of a pair that shows most."""
    told = [(_judged(row.what, row.amounts, tolerances), row) for row in rows]
    worst, row = max(told, key=lambda each: each[0][0].ladder if each[0] else -1.0)
    action, clean = row.rush.recording.take, row.against.take
    return {
        "layer_id": action.layer_id,
        "take_id": action.pk,
        "recording_id": row.rush.recording_id,
        "against_id": row.against.pk,
        "action": action.name,
        "clean": clean.name,
        "verdict": worst[0].verdict if worst else "holds",
        "says": row.says,
    }


def _judged(what: str, amounts: list[Json], tolerances: dict[str, Tolerance]) -> tuple[AmountJudged, ...]:
    return judged(what, amounts_of(amounts), tolerances)


def _line(row: Recording) -> Json:
    take, rush = row.take, getattr(row, "rush", None)
    assert take is not None
    return {
        "recording_id": row.pk,
        "name": row.name,
        "take_id": take.pk,
        "take_number": take.number,
        "circled": take.circled,
        "by": row.get_filed_by_display(),
        "picture": f"/api/recordings/{row.pk}.jpg" if row.picture_id else "",
        "seen": rush is not None,
        "fault": row.fault or (rush.fault if rush else ""),
    }


def rush_answer(rush: Rush, units: Units, school: School) -> Json:
    """A recording as it is looked at, with what was measured of it: the last of each row."""
    row, says = rush.recording, rush.says
    found = told_of(rush, units, school)
    latest = found.latest
    decided = decisions_of(rush, found.columns)
    take = row.take
    set_up = take.layer.set_up_id if take else None
    hero = take is not None and take.layer.is_hero
    marked = {mark.kind: mark.places for mark in SetUpMark.objects.filter(set_up=set_up)}
    return {
        "recording_id": row.pk,
        "version": rush.version,
        "name": row.name,
        "fault": rush.fault,
        **{
            name: says.get(name, nothing)
            for name, nothing in (
                ("kind", "clip"),
                ("width_px", 0),
                ("height_px", 0),
                ("rate_fps", 0.0),
                ("frames", 0),
                ("guessed", []),
                ("remarks", []),
                ("strip_every", 1),
                ("curve", "bt709"),
            )
        },
        **_counted(rush),
        "colour": _colour(rush),
        "curve_said": rush.curve,
        "proxy": _address(row, "proxy", rush.proxy_id),
        "strip": _address(row, "strip", rush.strip_id),
        "set_up_id": set_up,
        "marks": [{"kind": kind, "places": places} for kind, places in marked.items()],
        "proposed": _proposed(rush, latest, marked),
        "clip": _told(rush.clip) if rush.clip else None,
        "measured": [measure_answer(each) for each in latest.values()],
        "columns": [
            column_answer(
                each,
                latest[each.row.what].against_id if each.row.what in latest else None,
                decided.get((each.row.what, each.judged.amount)),
            )
            for each in found.columns
        ],
        "values": list(mend_values(found.rows).lines),
        "delivered_px": delivered_px(row)[0],
        "take_version": take.version if take else 0,
        "is_reference": bool(hero and take and take.circled),
        "reference_by": _reference_by(take.measured) if hero and take else [],
    }


def _counted(rush: Rush) -> Json:
    """The frames that count."""
    frames = counted(rush)
    last = max(0, rush.says.get("frames", 1) - 1)
    ends = last if frames["ends"] is None else min(last, frames["ends"])
    return {"begins": frames["begins"], "ends": ends, "counts_said": bool(rush.counts)}


def _proposed(rush: Rush, latest: Mapping[str, FrameMeasure], marked: Mapping[str, Any]) -> list[Json]:
    """What was found by itself and is not marked: what stands in its middle frame, and the best split line
    where it was measured.
    """
    found = {kind: [list(place) for place in box] for kind, box in rush.says.get("proposed", {}).items()}
    if "seam" in latest:
        lines = [each for each in latest["seam"].told["overlays"] if each["kind"] == "line"]
        if lines:
            found["line"] = _fewer(lines[0]["places"])
    return [{"kind": kind, "places": places} for kind, places in found.items() if kind not in marked]


def _fewer(places: list[list[float]]) -> list[list[float]]:
    """As many places of a line as a mark may have, with both its ends."""
    most = MARKS["line"][1]
    if len(places) <= most:
        return places
    return [places[round(nth * (len(places) - 1) / (most - 1))] for nth in range(most)]


def _reference_by(measured: Mapping[str, float]) -> list[str]:
    """The rows of a hero's that stand for what was logged of it."""
    return [what for what, names in MEASURED.items() if any(name in measured for name in names)]


def _address(row: Recording, what: str, file_id: int | None) -> str:
    """Of a file that was made of a recording: it says which, as a browser keeps what an address has."""
    return f"/api/recordings/{row.pk}/{what}?file={file_id}" if file_id else ""


def measure_answer(row: FrameMeasure) -> Json:
    """One row as it came out."""
    return _told(row.told) | {
        "id": row.pk,
        "frame": row.asked.get("frame"),
        "against_id": row.against_id,
        "by": row.by.shown_name,
        "at": row.at,
    }


def _told(told: dict[str, Any]) -> Json:
    names = ("what", "says", "amounts", "assumptions", "overlays", "series")
    nobody = {"id": None, "frame": None, "against_id": None, "by": "", "at": None}
    seen = {name: told[name] for name in names}
    seen["series"] = [each for each in told["series"] if told["what"] != "clip" or each["name"] not in _PATH]
    return seen | {"lines": told.get("lines", [])} | nobody


def _colour(rush: Rush) -> str:
    """How it was recorded, in a line."""
    says = rush.says
    if not says:
        return ""
    curve = curve_of(rush.curve) or Curve(says["curve"])
    parts = [_CURVES[curve.name]]
    if says["kind"] != "still" and says["matrix"] != says["curve"]:
        parts.append(f"matrix {_MATRICES[says['matrix']]}")
    parts.append("float" if says["bits"] == 32 else f"{says['bits']} bit")
    if says["kind"] != "still":
        parts.append("legal range" if says["legal"] else "full range")
    return ", ".join(parts)
