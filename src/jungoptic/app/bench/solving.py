"""Settings for one layer within the kit, and the common scales side by side. Nothing is saved."""

from __future__ import annotations

from jungoptic.app.base.answers import Json, jsonable
from jungoptic.app.base.desk import SEARCHES
from jungoptic.app.base.turns import Asker
from jungoptic.app.bench.solving_schemas import SolveIn
from jungoptic.app.shots.edit import SET_UP_FIELDS
from jungoptic.app.shots.models import Layer
from jungoptic.app.takes.solving import fixed, kit_for, to_solve
from jungoptic.app.takes.table import BenchTable, shot_to_look_at
from jungoptic.core.errors import InputError
from jungoptic.core.match import SetUp as SetUpRecord
from jungoptic.core.match import resolved
from jungoptic.core.plan import Answer, ScaleRow, choose_scale, solve
from jungoptic.core.wording import Words, number


def _solvable(layer_id: int, payload: SolveIn) -> tuple[BenchTable, Layer, SetUpRecord]:
    """The table, the layer and its planned set-up with its key written out; refuses what cannot be solved."""
    shot_id = Layer.objects.values_list("shot_id", flat=True).get(pk=layer_id)
    table = BenchTable(
        shot_to_look_at(shot_id), school=payload.school, units=payload.units, draft=payload.draft()
    )
    layer = next((one for one in table.layers if one.pk == layer_id), None)
    if layer is None:
        raise InputError.at("", "This layer was removed.")
    if layer.set_up is None or table.hero is None:
        raise InputError.at(
            "",
            f"“{layer.name}” is a picture that nobody films: there is nothing to set. Choose a filmed layer.",
        )
    if layer.is_hero:
        raise InputError.at("", "This is the hero: the others are solved to it. Choose another layer.")
    return table, layer, resolved(table.set_up_record(layer), table.layer_record(layer))


def _answer(found: Answer, behind_m: float, layer: Layer, others: list[Layer]) -> Json:
    set_up = dict(found.set_up)
    if "distance_m" in set_up:
        set_up["distance_m"] = round(set_up["distance_m"] - behind_m, 5)
    return {
        "set_up": {name: value for name, value in set_up.items() if name in SET_UP_FIELDS},
        "layers": {
            solved.pk: dict(changes)
            for solved, changes in zip([layer, *others], [found.layer, *found.others], strict=True)
            if changes
        },
        "verdict": found.verdict,
        "shows": found.shows,
        "tight": found.tight,
        "holds": found.holds,
        "changes": list(found.changes),
        "sentences": list(found.sentences),
    }


def _scale(row: ScaleRow, words: Words) -> Json:
    """One scale of the table, in words."""
    light = words.light(row.light_wanted_lx) + (
        f" of {words.light(row.light_available_lx)}" if row.light_available_lx else ""
    )
    return {
        "scale": row.scale,
        "size": " × ".join(
            words.length(side) for side in (row.width_m, row.depth_m, row.height_m) if side > 0
        ),
        "distance": words.length(row.distance_m),
        "lens_height": words.length(row.lens_height_m),
        "stop_wanted": row.stop_wanted,
        "rate_wanted_fps": row.rate_wanted_fps,
        "finest": f"{number(row.finest_mm, 2)} mm",
        "verdict": row.verdict,
        "shows": row.shows,
        "tight": row.tight,
        "worst": row.worst,
        "light": light,
        "fits": row.fits,
        "against": list(row.against),
    }


def scales(asker: Asker, layer_id: int, payload: SolveIn) -> Json:
    """The common scales side by side for this layer, this space and this camera."""
    table, layer, plan = _solvable(layer_id, payload)
    assert layer.set_up is not None and table.hero is not None
    rows = SEARCHES.run(
        asker,
        choose_scale,
        table.hero,
        table.layer_record(layer),
        plan,
        table.delivery,
        table.kit(layer.set_up),
        locked=[
            name for name in payload.locked if name not in ("distance_m", "lens_height_m", "focus_distance_m")
        ],
        school=payload.school,
        tolerances=table.tolerances,
        units=payload.units,
    )
    return {"layer_id": layer_id, "rows": [_scale(row, table.words) for row in rows]}


def solved(asker: Asker, layer_id: int, payload: SolveIn) -> Json:
    """Settings for one layer within the kit, best first."""
    table, layer, _ = _solvable(layer_id, payload)
    assert layer.set_up is not None
    answers = SEARCHES.run(
        asker,
        solve,
        **to_solve(table, layer),
        kit=kit_for(table, layer),
        locked=list(dict.fromkeys([*payload.locked, *fixed(table, layer)])),
        units=payload.units,
    )
    behind = table.behind_m(layer)
    return {
        "layer_id": layer_id,
        "set_up_id": layer.set_up.pk,
        "answers": [jsonable(_answer(found, behind, layer, table.beside(layer))) for found in answers],
    }
