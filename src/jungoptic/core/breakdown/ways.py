"""The ways of making a shot, and what each costs: hours by craft, kit wanted, days, what will show."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterable
from dataclasses import dataclass

from ..vocabulary import KINDS
from .costs import (
    animate,
    build,
    composite,
    counted,
    figure,
    joined_plates,
    matte,
    paint,
    search,
    set_hours,
    three_d,
    total,
)
from .figures import Figures, Hours, Job, Option, Owned, Saving, Wanted


def _in_every_way(job: Job, figures: Figures, way: Way) -> list[Hours]:
    """What the shot wants whatever way it is made: paint-outs, clean plates that nobody films, and what is
    animated frame by frame, where the way does not price that itself.
    """
    drawn = [Hours("matte", job.paint_out_h, "paint-outs drawn on the board")] if job.paint_out_h else []
    moved = [] if way.animates else [animate(job, figures)]
    return [*drawn, *joined_plates(job, figures), *moved]


def _dimmed(job: Job, figures: Figures) -> Hours | None:
    """Light that was added as a pass is dimmed in the composite."""
    if not job.light_passes:
        return None
    passes = KINDS["light_pass"].name + ("" if job.light_passes == 1 else "es")
    text = f"{job.light_passes} {passes} · {figure(figures.dim_h)} h"
    return Hours("composite", job.light_passes * figures.dim_h, text)


def _film_it_again(job: Job, figures: Figures) -> Hours:
    """The effect filmed once more in other light; a light that was added is dimmed."""
    return _dimmed(job, figures) or set_hours(1, figures)


@dataclass(frozen=True, slots=True)
class Way:
    """One school of making the same picture."""

    key: str
    name: str
    school: str
    layers: tuple[str, ...]
    crafts: Callable[[Job, Figures], Iterable[Hours]]
    wanted: Callable[[Job, Owned], tuple[Wanted, ...]] = lambda job, owned: ()
    cautions: tuple[str, ...] = ()
    shows: Callable[[Job], tuple[str, ...]] = lambda job: ()
    animates: bool = False
    mended: Callable[[Job, Figures], Hours] = _film_it_again


def _moves(text: str) -> Callable[[Job], tuple[str, ...]]:
    return lambda job: (text,) if job.moving_camera else ()


def _key(job: Job, figures: Figures) -> Iterable[Hours]:
    clean = Hours(
        "matte",
        figures.key_h + job.defects * figures.defect_h,
        f"{figure(figures.key_h)} h + {counted(job.defects, 'defect')} · {figure(figures.defect_h)} h",
    )
    return [set_hours(job.set_ups, figures), clean, composite(job, figures)]


def _difference_shows(job: Job) -> tuple[str, ...]:
    return (("The camera moves: a difference matte wants it locked off.",) if job.moving_camera else ()) + (
        "Where thing and place have one tone there is no difference: holes.",
    )


def _split_shows(job: Job) -> tuple[str, ...]:
    return (
        ("The camera moves: a line wants it locked off, or a move repeated exactly.",)
        if job.moving_camera
        else ()
    ) + (
        (
            (
                f"{counted(job.crossings, 'thing')} that cross{'es' if job.crossings == 1 else ''} the line:"
                " each wants a hand-over."
            ),
        )
        if job.crossings
        else ()
    )


WAYS: dict[str, Way] = {
    way.key: way
    for way in (
        Way(
            "key",
            "Keyed",
            "Light the sheet well once, and every frame cuts itself.",
            ("the plate", "the subject before the sheet"),
            _key,
            lambda job, owned: (
                Wanted("a coloured sheet", owned.backings > 0),
                Wanted("two lamps for the sheet", owned.lamps >= 4),
            ),
            ("hot_lamps",),
            lambda job: ("Green on the rims where the sheet is near.",) if job.defects else (),
        ),
        Way(
            "hand_cut",
            "Cut by hand",
            "Film where the light is right; cut later, where nobody waits.",
            ("the plate", "the subject where the light is right"),
            lambda job, figures: [
                set_hours(max(job.set_ups - 1, 1), figures),
                matte(job, figures),
                composite(job, figures),
            ],
            shows=lambda job: ("Hair and blur are cut hard unless they are painted.",),
        ),
        Way(
            "difference",
            "Difference",
            "Clean plate and action: what differs is the matte.",
            ("a clean plate", "the action in the same frame"),
            lambda job, figures: [
                set_hours(max(job.set_ups - 1, 1), figures),
                Hours("matte", figures.difference_h, f"{figure(figures.difference_h)} h"),
                composite(job, figures),
            ],
            shows=_difference_shows,
        ),
        Way(
            "split",
            "Split",
            "A line where nothing crosses costs an hour.",
            ("one half", "the other half", "a clean plate"),
            lambda job, figures: [
                set_hours(max(job.set_ups - 1, 1), figures),
                Hours(
                    "matte",
                    figures.split_h + job.crossings * figures.crossing_h,
                    f"{figure(figures.split_h)} h + {counted(job.crossings, 'crossing')} ·"
                    f" {figure(figures.crossing_h)} h",
                ),
                composite(job, figures, min(job.layers, 3)),
            ],
            shows=_split_shows,
        ),
        Way(
            "in_camera",
            "In camera",
            "One light, one lens, one take: nothing can fail to marry afterwards, and nothing can be mended.",
            ("one take of everything",),
            lambda job, figures: [set_hours(job.set_ups + 1, figures), build(job, figures)],
            lambda job, owned: (Wanted("a small stop and much light", owned.lamps >= 4),),
            ("overhead_load", "hot_lamps"),
            lambda job: ("What is wrong on the day stays wrong.",),
            mended=lambda job, figures: set_hours(job.set_ups + 1, figures),
        ),
        Way(
            "model",
            "Model",
            "Build only what is seen; real light on real things.",
            ("the plate", "the model in the plate's light"),
            lambda job, figures: [
                build(job, figures),
                animate(job, figures),
                set_hours(job.set_ups, figures),
                matte(job, figures, min(job.shapes, 2)),
                composite(job, figures),
            ],
            lambda job, owned: (
                Wanted(
                    f"{figure(math.sqrt(job.scale) * owned.delivery_fps)} frames/s if it falls or flows",
                    owned.highest_fps >= math.sqrt(job.scale) * owned.delivery_fps - 1e-6,
                ),
            ),
            ("workshop",),
            lambda job: ("Paint grain and dust larger than a delivered pixel.",),
            animates=True,
        ),
        Way(
            "frame_by_frame",
            "Frame by frame",
            "A thing that is moved by hand between the frames does whatever is asked of it, slowly.",
            ("the plate", "the puppet in the plate's light, one frame at a time"),
            lambda job, figures: [
                build(job, figures),
                animate(job, figures, job.frames / job.delivery_fps),
                set_hours(job.set_ups, figures),
                matte(job, figures, min(job.shapes, 2)),
                composite(job, figures),
            ],
            cautions=("workshop", "long_work"),
            shows=lambda job: ("It does not smear: what is quick strobes.",),
            animates=True,
        ),
        Way(
            "three_d",
            KINDS["three_d"].name,
            "Everything can be changed until the end, and nothing is there for nothing.",
            ("the plate", "the thing from the machine", "its shadow"),
            lambda job, figures: [
                *three_d(job, figures),
                set_hours(max(job.set_ups - 1, 1), figures),
                composite(job, figures),
            ],
            shows=lambda job: ("Without a ball and a measured lens its light and place are guessed.",),
            animates=True,
            mended=lambda job, figures: Hours(
                "composite", figures.render_h, f"lit and rendered again {figure(figures.render_h)} h"
            ),
        ),
        Way(
            "painted",
            "Painted",
            "A picture where nothing moves: the cheapest depth is none.",
            ("the plate", "a painted picture"),
            lambda job, figures: [
                paint(max(job.paintings, 1), figures),
                set_hours(max(job.set_ups - 1, 1), figures),
                composite(job, figures),
            ],
            cautions=(),
            shows=_moves("The camera moves: a flat picture shows no parallax."),
            mended=lambda job, figures: paint(1, figures),
        ),
        Way(
            "stock",
            "Stock",
            "Somebody filmed it already: fit the rest to it.",
            ("the plate", "an element from stock"),
            lambda job, figures: [
                search(max(job.elements, 1), figures),
                set_hours(max(job.set_ups - 1, 1), figures),
                composite(job, figures),
            ],
            lambda job, owned: (Wanted("a fitting element in stock", owned.stock_elements > 0),),
            shows=lambda job: ("Its lens, height and light are what they are.",),
            mended=lambda job, figures: _dimmed(job, figures) or search(1, figures),
        ),
    )
}


def price(key: str, job: Job, figures: Figures, owned: Owned) -> Option:
    """One way priced, with what three decisions change: framing first, tracking, a better backing."""
    way = WAYS[key]

    def crafts(of: Job) -> tuple[Hours, ...]:
        return tuple(
            hours
            for hours in (*way.crafts(of, figures), *_in_every_way(of, figures, way))
            if hours.hours or hours.craft == "set"
        )

    def less(before: dict[str, object], after: dict[str, object]) -> float:
        return total(crafts(job.model_copy(update=before))) - total(crafts(job.model_copy(update=after)))

    decisions = (
        Saving(
            "final crop and move first",
            less({"framing_first": False}, {"framing_first": True}),
            job.framing_first,
        ),
        Saving("tracking", less({"tracked": False}, {"tracked": True}), job.tracked),
        Saving("a better backing", less({}, {"defects": 0}), job.defects == 0),
    )
    savings = tuple(saving for saving in decisions if saving.hours > 1e-9)
    own = crafts(job)
    return Option(
        key,
        way.name,
        way.school,
        way.layers,
        own,
        way.wanted(job, owned),
        way.cautions,
        way.shows(job),
        savings,
        total(own) / figures.day_h,
        way.mended(job, figures),
    )


def priced_ways(job: Job, figures: Figures, owned: Owned, fitting: Iterable[str] = ()) -> tuple[Option, ...]:
    """Every way of making a shot, priced.

    Parameters
    ----------
    job : Job
        What of the shot the hours depend on.
    figures : Figures
        What the production reckons with.
    owned : Owned
        What it has.
    fitting : iterable of str, optional
        Keys of the ways that the recipe names.

    Returns
    -------
    tuple of Option
        Those of the recipe first, each group cheapest first.

    References
    ----------
    hours

    Examples
    --------
    >>> [option.key for option in priced_ways(Job(), Figures(), Owned(), ("split",))][:1]
    ['split']
    """
    named = set(fitting)
    return tuple(
        sorted(
            (price(key, job, figures, owned) for key in WAYS),
            key=lambda option: (option.key not in named, option.hours),
        )
    )
