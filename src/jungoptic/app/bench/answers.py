"""A shot judged and drawn, in the shapes that go over the wire."""

from __future__ import annotations

from typing import Any

from jungoptic.app.base.answers import Json, fields_of
from jungoptic.app.bench.picture_answers import photograph_of, picture_of, reading_of
from jungoptic.app.bench.selected import selected_answer
from jungoptic.app.costs.costing import paint_out_hours
from jungoptic.app.productions.models import Production
from jungoptic.app.shots.edit import SET_UP_FIELDS
from jungoptic.app.shots.models import Acceptance, Layer
from jungoptic.app.shots.plan import counted_further
from jungoptic.app.shots.records import plain
from jungoptic.app.takes.table import BenchTable, Judged, shot_to_look_at, take_count
from jungoptic.core.breakdown import layer_matte_hours
from jungoptic.core.match import (
    BoardLine,
    Fix,
    Judgement,
    Moment,
    across_cut,
    camera_pace_px,
    cut_side,
    ground_text,
    on_its_ground,
    unknown_of,
)
from jungoptic.core.match import Layer as LayerRecord
from jungoptic.core.stage import Outline, cut_of, horizon_px, outlines
from jungoptic.core.vocabulary import COMBINES, LINES
from jungoptic.core.wording import amount_text, aspect, finish_text


def _from_set_up(changes: Json, behind_m: float) -> Json:
    """Places counted from this layer's front edge, counted from the set-up's nearest layer instead."""
    return {
        name: round(value, 5) if isinstance(value, float) else value
        for name, value in counted_further(changes, behind_m).items()
    }


def _fix(fix: Fix, table: BenchTable, layer: Layer, behind_m: float) -> Json:
    """A fix as the changes that make it, by kind of row and id."""
    changes: dict[str, dict[int, Json]] = {}
    new_layer: Json | None = None
    if fix.target == "set_up" and layer.set_up_id:
        own = dict(fix.changes)
        if "distance_m" in own:
            own["distance_m"] = round(own["distance_m"] - behind_m, 5)
        changes["set_ups"] = {layer.set_up_id: own}
    elif fix.target == "layer":
        changes["layers"] = {layer.pk: fix.changes}
    elif fix.target == "shot":
        changes["shot"] = {table.shot.pk: fix.changes}
    elif fix.target == "backing" and layer.set_up_id:
        row = table.backing_of(layer.set_up_id)
        changes["backings"] = {row.pk: _from_set_up(fix.changes, behind_m)} if row else {}
    elif fix.target == "lamps" and layer.set_up_id:
        rows = table.lamps_on(layer)
        changes["lamps"] = {
            rows[at].pk: _from_set_up(values, behind_m) for at, values in fix.changes["lamps"].items()
        }
    elif fix.target == "new_layer":
        new_layer = {"fields": fix.changes, "like_set_up": layer.set_up_id}
    return {"label": fix.label, "changes": changes, "new_layer": new_layer}


def acceptance(one: Acceptance | None) -> Json | None:
    return {"reason": one.reason, "by": one.person.shown_name, "at": one.at} if one else None


def item(
    one: Judgement,
    table: BenchTable,
    layer: Layer,
    accepted: Acceptance | None,
    *,
    behind_m: float = 0.0,
    with_values: bool = False,
    with_fixes: bool = True,
) -> Json:
    return {
        "item": one.item,
        "label": one.label,
        "where": one.where,
        "amount": one.amount,
        "amount_text": amount_text(one.amount),
        "unit": one.unit,
        "holds": one.holds,
        "tight": one.tight,
        "ladder": one.ladder,
        "verdict": one.verdict,
        "sentence": one.sentence,
        "formula": one.formula,
        "covered_by": one.covered_by,
        "sources": list(one.sources),
        "fixes": [_fix(fix, table, layer, behind_m) for fix in one.fixes] if with_fixes else None,
        "informs": one.informs,
        "other_verdict": one.other_verdict,
        "other_holds": one.other_holds,
        "accepted": acceptance(accepted),
        "values": list(one.values()) if with_values else None,
    }


def _layer(table: BenchTable, judged: Judged, ruler_scale: float, *, selected: bool, moving: bool) -> Json:
    layer, record = judged.layer, judged.match.layer
    behind = table.behind_m(layer)
    circled = table.circled(layer)
    drawn = list(outlines(judged.match, table.moment))
    return {
        "id": layer.pk,
        "name": record.name,
        "kind": record.kind,
        "combine": record.combine,
        "key_colour": table.draft.layers.get(layer.pk, {}).get("key_colour", layer.key_colour),
        "is_hero": layer.is_hero,
        "scale": record.scale,
        "near_m": record.near_m,
        "depth_m": record.depth_m,
        "resize": record.resize,
        "ruler_m": (record.near_m + (record.depth_m if record.combine == "base" else 0.0)) / ruler_scale,
        "values": {
            **{name: plain(getattr(record, name)) for name in FORM_FIELDS},
            "picture_id": layer.picture_id,
        },
        "unknown": unknown_of(record) if layer.set_up_id is None else [],
        "picture": picture_of(table, layer),
        "reading": reading_of(table, layer, record),
        "photograph": photograph_of(table, layer, record),
        "cut": fields_of(cut) if (cut := cut_of(record)) else None,
        "on_its_ground": on_its_ground(record),
        "accepted": len(judged.accepted),
        "move_px": camera_pace_px(judged.match),
        **_matte(table, record, drawn),
        "note": layer.note,
        "version": layer.version,
        "set_up_id": layer.set_up_id,
        "shows": judged.count("shows"),
        "tight": judged.count("tight"),
        "holds": judged.count("holds"),
        "verdict": judged.verdict,
        "takes": take_count(layer),
        "basis": f"take {judged.take.number}" if judged.take else "plan",
        "circled_take": circled.number if circled else None,
        "items": [
            item(
                one,
                table,
                layer,
                judged.accepted.get(one.item),
                behind_m=behind,
                with_values=selected,
                with_fixes=not (moving and one.mended_by_search) and (selected or not table.draft.any),
            )
            for one in judged.items
        ],
        "outlines": drawn,
    }


FORM_FIELDS = tuple(
    name
    for name in LayerRecord.model_fields
    if name not in ("parts", "name", "scale", "near_m", "depth_m", "resize")
)
_LINE_ITEMS = frozenset(line.item for line in LINES.values() if line.item)


def _matte(table: BenchTable, record: LayerRecord, drawn: list[Outline]) -> Json:
    points = (
        [point for outline in drawn for point in outline.points] if COMBINES[record.combine].by_hand else []
    )
    hours = layer_matte_hours(points, table.framing.needed_box, table.plan.length_frames)
    return {"matte_hours": hours and hours[0], "matte_hours_needed": hours and hours[1]}


def bench_answer(table: BenchTable, role: str, selected: int | None, *, moving: bool = False) -> Json:
    """Everything that the Bench draws, from one reading of the shot; while a hand is ``moving``, without what
    takes a search.
    """
    judged = table.judged
    chosen = next((one for one in judged if one.layer.pk == selected), None) or _first_to_look_at(judged)
    previous, following = table.neighbours
    ruler = chosen.match.layer.scale if chosen else 1.0
    shot, production = table.shot, table.shot.production
    cut_box = table.framing.cut_box
    return {
        "revision": shot.revision,
        "production_revision": production.revision,
        "frame": table.frame,
        "after_finish": table.after_finish,
        "finish": _finish(production),
        "shot": {
            "values": {
                **table.values,
                "place": shot.place.name if shot.place else "",
                "recurring": list(table.plan.recurring),
            },
            "move_unit": table.move.unit,
            "moves": not table.move.still,
        },
        "needed_box": list(table.framing.needed_box),
        "cut_box": list(cut_box) if cut_box else None,
        "across_cut": across(table),
        "shot_id": shot.pk,
        "code": shot.code,
        "title": shot.title,
        "description": shot.description,
        "previous_id": previous,
        "next_id": following,
        "production_id": production.pk,
        "production_title": production.title,
        "role": role,
        "version": shot.version,
        "school": table.school,
        "units": table.words.units,
        "basis": table.basis,
        "any_takes": any(table.circled(layer) for layer in table.layers),
        "delivery_width_px": table.delivery.width_px,
        "delivery_height_px": table.delivery.height_px,
        "aspect": aspect(table.delivery.width_px, table.delivery.height_px),
        "horizon_px": (
            horizon_px(table.hero, table.delivery, table.moment)
            if table.hero
            else table.delivery.height_px / 2
        ),
        "horizon_text": (
            f"horizon {table.words.length(table.hero.lens_height_m - table.hero.ground_height_m)}"
            if table.hero
            else ""
        ),
        "hero_layer_id": table.hero_layer.pk if table.hero_layer else None,
        "hero_basis": table.hero_basis,
        "shows": _count(judged, "shows"),
        "tight": _count(judged, "tight"),
        "holds": _count(judged, "holds"),
        "accepted": sum(len(one.accepted) for one in judged),
        "layers": [_layer(table, one, ruler, selected=one is chosen, moving=moving) for one in judged],
        "set_ups": _set_ups(table),
        "lines": _lines(table),
        "selected": selected_answer(table, chosen, moving) if chosen else None,
    }


def _count(judged: list[Judged], verdict: str) -> int:
    """Items with that verdict over all layers; of the hero only what needs nothing to be held against."""
    return sum(one.count(verdict) for one in judged)


def _finish(production: Production) -> str:
    return finish_text(
        black_and_white=production.black_and_white,
        soften_px=production.soften_px,
        grain_added=production.grain_added,
        shows_models=production.shows_models,
    )


def across(table: BenchTable) -> list[Json]:
    """The hero against its neighbours' heroes, across both cuts."""
    if table.hero is None or table.shot.place_id is None:
        return []
    found = []
    for pk, where in zip(table.neighbours, ("before", "after"), strict=True):
        if pk is None:
            continue
        other = shot_to_look_at(pk)
        beside = BenchTable(other, school=table.school, units=table.words.units, basis=table.basis)
        if beside.hero is None or other.place_id != table.shot.place_id:
            continue
        directions = (str(table.values["screen_direction"]), other.screen_direction)
        found.append(
            {
                "shot_id": pk,
                "code": other.code,
                "where": where,
                "items": [
                    fields_of(one)
                    for one in across_cut(
                        cut_side(table.hero), cut_side(beside.hero), other.code, directions, table.words
                    )
                ],
            }
        )
    return found


def _set_ups(table: BenchTable) -> list[Json]:
    """Every set-up as it is saved, with its lamps and its backing."""
    used = {layer.set_up_id for layer in table.layers if layer.set_up_id}
    found = []
    for pk, one in table.set_ups.items():
        if pk not in used:
            continue
        row = table.backing_of(pk)
        found.append(
            {
                "id": pk,
                "name": one.name,
                "version": one.version,
                "values": {k: v for k, v in one.values().items() if k in SET_UP_FIELDS},
                "lamps": [
                    {"id": lamp.pk, "version": lamp.version, "values": lamp.values()}
                    for lamp in table.lamps_of(pk)
                ],
                "backing": {"id": row.pk, "version": row.version, "values": row.values()} if row else None,
            }
        )
    return found


def _lines(table: BenchTable) -> list[Json]:
    """The lines of the board as they are tried or saved; a paint-out with its hours, an actor's mark with its
    place, the others with the worst that their check says.
    """
    found = []
    worst: dict[str, Any] = {}
    for one in table.judged:
        for item in one.items:
            if item.item in _LINE_ITEMS and (item.item not in worst or item.ladder > worst[item.item].ladder):
                worst[item.item] = item
    for row, record in zip(table.lines, table.plan.lines, strict=True):
        says = worst.get(LINES[record.kind].item)
        hours = paint_out_hours(table, record)
        values = row.values() | dict(table.draft.lines.get(row.pk, {}))
        values.pop("removed", None)
        found.append(
            {
                "id": row.pk,
                "version": row.version,
                "kind": row.kind,
                "values": values,
                "hours": hours.hours if hours else None,
                "hours_text": hours.formula if hours else "",
                "verdict": says.verdict if says else None,
                "says": says.where if says else "",
                "place": place_of(table, record),
            }
        )
    return found


def place_of(table: BenchTable, line: BoardLine) -> str:
    """Where on the ground of its layer a mark is that somebody stands on."""
    if table.hero is None or not LINES[line.kind].stands:
        return ""
    members = {member.layer.name: member for member in table.stack.members}
    hero = next((member for member in members.values() if member.is_hero), None)
    member = members.get(line.layer, hero)
    if member is None:
        return ""
    moment = Moment.at(line.first_frame or 0, table.plan.length_frames, table.delivery.move)
    return ground_text(table.hero, member.layer, table.delivery, line.points[0], table.words, moment)


def _first_to_look_at(judged: list[Judged]) -> Judged | None:
    """The layer with the worst item; the hero when all are equal."""
    filmed = [one for one in judged if one.match.setup is not None]
    return max(
        filmed, key=lambda one: (not one.layer.is_hero, one.worst.ladder if one.worst else 0.0), default=None
    )
