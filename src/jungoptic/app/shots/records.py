"""Columns as core records: what a shot, its production and the kit say."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from pydantic import BaseModel

from jungoptic.app.productions.models import Production
from jungoptic.app.shots.models import Shot
from jungoptic.core.errors import FieldProblem, InputError
from jungoptic.core.kit import Kit
from jungoptic.core.match import BoardLine, Delivery, ShotPlan
from jungoptic.core.motion import Move
from jungoptic.core.plan import Framing, vertical_cut_px

MOVE = "move_"
SHOT_FIELDS = (
    "length_frames",
    "split_px",
    "split_feather_px",
    "visibility_m",
    "carries",
    "screen_direction",
    "move_kind",
    "move_amount",
    "move_start_frame",
    "move_end_frame",
    "move_ease_in_frames",
    "move_ease_out_frames",
    "move_round_m",
    "move_shake_px",
    "move_shake_hz",
    "margin_pct",
    "vertical_cut",
    "vertical_only",
    "vertical_at_px",
)
_PLAN_FIELDS = ("length_frames", "split_px", "split_feather_px", "visibility_m", "carries")


def plain(value: Any) -> Any:
    """A field of a core record as a column holds it: lists for tuples, objects for the records in it."""
    if isinstance(value, tuple):
        return [plain(one) for one in value]
    return value.model_dump(mode="json") if isinstance(value, BaseModel) else value


def shot_values(shot: Shot) -> dict[str, Any]:
    """The shot's own columns that the Bench changes, by name."""
    return {name: getattr(shot, name) for name in SHOT_FIELDS}


def shot_records(
    values: Mapping[str, Any], shot: Shot, lines: tuple[BoardLine, ...] = ()
) -> tuple[ShotPlan, Move, Framing]:
    """What the values and the lines of the board say to core; raises InputError at the shot's own fields."""
    recurring = tuple(shot.place.recurring) if shot.place else ()
    plan = ShotPlan.read(
        {name: values[name] for name in _PLAN_FIELDS} | {"recurring": recurring, "lines": lines}
    )
    try:
        move = Move.read(
            {name.removeprefix(MOVE): value for name, value in values.items() if name.startswith(MOVE)}
        )
    except InputError as error:
        raise InputError(
            *(FieldProblem(MOVE + problem.field, problem.message) for problem in error.problems)
        ) from None
    production = shot.production
    width, height = production.delivery_width_px, production.delivery_height_px
    margin = values["margin_pct"]
    if isinstance(margin, bool) or not isinstance(margin, int | float) or not 0 <= margin <= 100:
        raise InputError.at(
            "margin_pct", f"Stabiliser margin must be between 0 and 100 %; {margin!r} was given."
        )
    at = values["vertical_at_px"]
    if at is not None and (isinstance(at, bool) or not isinstance(at, int | float) or not 0 <= at <= width):
        raise InputError.at(
            "vertical_at_px", f"The cut-down's middle must be between 0 and {width} px; {at!r} was given."
        )
    for name in ("vertical_cut", "vertical_only"):
        if not isinstance(values[name], bool):
            raise InputError.at(name, f"Say yes or no; {values[name]!r} was given.")
    if values["screen_direction"] not in ("", "left", "right"):
        raise InputError.at(
            "screen_direction",
            f"Screen direction must be left, right or nothing; {values['screen_direction']!r} was given.",
        )
    cut = vertical_cut_px(width, height) if values["vertical_cut"] else None
    return plan, move, Framing(width, height, float(margin), cut, at, values["vertical_only"])


def delivery(
    production: Production, plan: ShotPlan, move: Move, framing: Framing, after_finish: bool
) -> Delivery:
    """The finished frame of the production with this shot's move and what is needed of it."""
    needed_w, needed_h = framing.needed_px
    whole = Delivery(
        width_px=production.delivery_width_px,
        height_px=production.delivery_height_px,
        frame_rate_fps=production.frame_rate_fps,
        move=move,
        needed_width_px=needed_w,
        needed_height_px=needed_h,
        black_and_white=production.black_and_white,
        soften_px=production.soften_px,
        grain_added=production.grain_added,
        shows_models=production.shows_models,
        length_frames=plan.length_frames,
    )
    return whole if after_finish else whole.before_finish()


def with_kit(kit: Kit, values: Mapping[str, Any]) -> dict[str, Any]:
    """The values with what the named lens and recording mode bring with them."""
    found = dict(values)
    focal, width, gate = (
        values.get(name) for name in ("focal_length_mm", "recorded_width_px", "gate_width_mm")
    )
    lens = kit.lens_of(focal) if isinstance(focal, int | float) else None
    if lens:
        found |= {"focusing": lens.focusing, **lens.faults()}
    mode = kit.mode_of(width, gate) if isinstance(width, int) and isinstance(gate, int | float) else None
    if mode:
        found |= mode.settings()
    return found
