"""What a shot costs: the job as it follows from the shot and from what somebody said, priced by core each
way.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any

from jungoptic.app.base.edits import Writing, takes_back
from jungoptic.app.base.models import Change
from jungoptic.app.costs.models import JOB_FIELDS, Costing, Figures
from jungoptic.app.productions.models import Production
from jungoptic.app.recipes.models import ShotRecipe
from jungoptic.app.shots.models import Shot
from jungoptic.app.takes.table import BenchTable
from jungoptic.app.vocabulary.own import book
from jungoptic.core.breakdown import WAYS, Hours, Job, Option, Owned, crossings, priced_ways, storage_gb
from jungoptic.core.breakdown import Figures as FigureRecord
from jungoptic.core.breakdown import paint_out_hours as core_paint_out_hours
from jungoptic.core.errors import InputError
from jungoptic.core.match import BoardLine
from jungoptic.core.plan import share_inside
from jungoptic.core.vocabulary import PICTURES

SAID, RATES = "costs", "rates"
_BY_HAND = ("hand_matte",)


def figures_of(production: Production) -> FigureRecord:
    """What the production reckons with; the defaults where nobody changed them."""
    found: FigureRecord | None = production.__dict__.get("_figures_record")
    if found is None:
        row: Figures | None = getattr(production, "figures", None)
        found = production.__dict__["_figures_record"] = row.record() if row else FigureRecord()
    return found


def _figures(table: BenchTable) -> FigureRecord:
    return figures_of(table.shot.production)


def paint_out_hours(table: BenchTable, line: BoardLine) -> Hours | None:
    """Hours of one paint-out of the board by its size and frames; None for any other line."""
    if line.kind != "paint_out":
        return None
    share = line.share_pct(table.delivery.width_px, table.delivery.height_px)
    costing: Costing | None = getattr(table.shot, "costing", None)
    return core_paint_out_hours(
        line.frames(table.plan.length_frames),
        share,
        table.move.still,
        bool(costing.tracked) if costing else False,
        _figures(table),
    )


def needed_share(table: BenchTable) -> float:
    """Share of the delivered frame that is left when the final framing is decided first."""
    width, height = float(table.delivery.width_px), float(table.delivery.height_px)
    frames = [line for line in table.plan.lines if line.kind == "framing"]
    if frames:
        return share_inside((0.0, 0.0, width, height), frames[-1].rectangle)
    left, top, right, bottom = table.framing.needed_box
    return min(1.0, share_inside((0.0, 0.0, width, height), (left, top, right, bottom)))


def derived_job(table: BenchTable) -> Job:
    """The job as it follows from the shot: its layers, lines and length."""
    records = [table.layer_record(layer) for layer in table.layers]
    models = [one for one in records if one.kind == "model"]
    biggest = max(models, key=lambda one: one.width_m * one.height_m, default=None)
    rate = table.delivery.frame_rate_fps
    animated = [one for one in records if one.kind == "frame_by_frame"]
    drawn = [hours.hours for line in table.plan.lines if (hours := paint_out_hours(table, line))]
    return Job.within(
        frames=table.plan.length_frames,
        layers=max(len(records), 1),
        set_ups=len({layer.set_up_id for layer in table.layers if layer.set_up_id}),
        shapes=sum(one.combine in _BY_HAND for one in records) * 2,
        needed_share=needed_share(table),
        moving_camera=not table.move.still,
        crossings=crossings(judged.items for judged in table.judged),
        area_m2=(
            round(biggest.width_m * biggest.height_m + biggest.width_m * biggest.depth_m, 2)
            if biggest
            else 0.0
        ),
        scale=biggest.scale if biggest else 1.0,
        paintings=sum(one.kind == "painted" for one in records),
        elements=sum(one.kind in ("stock", "black_element") for one in records),
        animated_s=round(table.plan.length_frames / rate, 3) if animated else 0.0,
        delivery_fps=rate,
        things=sum(one.kind == "three_d" for one in records),
        plates_joined=sum(one.kind == "clean_plate" and one.made_from == "neighbours" for one in records),
        plates_painted=sum(one.kind == "clean_plate" and one.made_from == "paint" for one in records),
        light_passes=sum(one.kind == "light_pass" for one in records),
        paint_out_h=sum(drawn),
    )


def job_of(table: BenchTable) -> Job:
    """The job with what somebody said of it put over what follows from the shot."""
    costing: Costing | None = getattr(table.shot, "costing", None)
    said = {
        name: value for name in JOB_FIELDS if costing and (value := getattr(costing, name)) not in (None, "")
    }
    found: Job = derived_job(table).but(**said)
    return found


def owned_by(table: BenchTable) -> Owned:
    """What the production has that a way may want."""
    production = table.shot.production
    kept: Owned | None = production.__dict__.get("_owned")
    if kept is None:
        fastest = max(
            (
                mode.highest_fps
                for camera in production.cameras.prefetch_related("modes")
                for mode in camera.modes.all()
            ),
            default=0.0,
        )
        kept = production.__dict__["_owned"] = Owned(
            backings=production.backings,
            lamps=production.lamps.count(),
            highest_fps=fastest,
            stock_elements=production.stock.filter(removed=False).count(),
            delivery_fps=production.frame_rate_fps,
        )
    return kept


def recipe_ways(shot: Shot) -> tuple[str, ...]:
    """The ways that the shot's recipes name."""
    keys = ShotRecipe.objects.filter(shot=shot, removed=False).values_list("key", flat=True)
    recipes = book().recipes
    return tuple(dict.fromkeys(way for key in keys if key in recipes for way in recipes[key].ways))


def priced(table: BenchTable) -> tuple[Option, ...]:
    return priced_ways(job_of(table), _figures(table), owned_by(table), recipe_ways(table.shot))


def chosen_option(table: BenchTable) -> Option | None:
    """The way that was chosen, else the cheapest that the recipe names; None for a shot without layers."""
    if not table.layers:
        return None
    costing: Costing | None = getattr(table.shot, "costing", None)
    every = priced(table)
    chosen = next((one for one in every if costing and one.key == costing.chosen), None)
    return chosen or every[0]


def storage_of(table: BenchTable) -> float:
    filmed = sum(layer.kind not in PICTURES and layer.set_up_id is not None for layer in table.layers)
    return storage_gb(filmed, table.plan.length_frames, table.delivery.frame_rate_fps, _figures(table))


def say(write: Writing, version: int, changes: Mapping[str, Any]) -> Costing:
    """Save what somebody said of a shot's costs, and the way that was chosen; None goes back to what follows
    from the shot.
    """
    unknown = [name for name in changes if name not in (*JOB_FIELDS, "chosen")]
    if unknown:
        raise InputError.at(unknown[0], f"Nothing called “{unknown[0]}” is asked about a shot's costs.")
    chosen = changes.get("chosen", "")
    if chosen and chosen not in WAYS:
        raise InputError.at("chosen", f"Choose one of {', '.join(WAYS)}; {chosen!r} was given.")
    emptied = {name for name, value in changes.items() if value is None or (value == "" and name == "hold")}
    job = Job.read({name: value for name, value in changes.items() if name not in {"chosen", *emptied}})
    row, _ = Costing.objects.get_or_create(shot_id=write.of_shot)
    write.refuse_unseen(SAID, row, version)
    values = {name: None if name in emptied else getattr(job, name) for name in changes if name != "chosen"}
    if "hold" in emptied:
        values["hold"] = ""
    if "chosen" in changes:
        values["chosen"] = chosen or ""
    write.save(SAID, row, values)
    return row


def change_figures(write: Writing, version: int, changes: Mapping[str, Any]) -> Figures:
    """Change what the production reckons with; refuses what cannot be and what was not seen."""
    row, _ = Figures.objects.get_or_create(production_id=write.production_id)
    write.refuse_unseen(RATES, row, version)
    checked = FigureRecord.read({**row.record().model_dump(), **changes})
    write.save(RATES, row, {name: getattr(checked, name) for name in changes})
    return row


@takes_back(SAID, RATES)
def _back(write: Writing, changes: Sequence[Change]) -> None:
    for change in changes:
        row = (Costing if change.kind == SAID else Figures).objects.get(pk=change.row_id)
        write.save(change.kind, row, {change.field: change.before})
