"""Choose a scale: the common ones side by side for this thing, this space and this camera."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from ..kit.records import Kit
from ..kit.steps import stop_name
from ..match.camera import camera_height_m
from ..match.layer import Layer
from ..match.measure import Match
from ..match.records import Delivery, SetUp
from ..match.tolerances import Tolerance
from ..scale import similarity
from ..vocabulary import School, Units, Verdict
from ..wording import Words
from .solve import Answer, solve
from .space import against_place, against_scale

COMMON_SCALES = (1, 2, 3, 4, 6, 8, 10, 12, 16, 20, 24, 32, 48, 72)


@dataclass(frozen=True, slots=True)
class ScaleRow:
    """One scale: size of the model and its place, what the solver comes to, and what stands against it.

    Metres of the set.
    """

    scale: float
    width_m: float
    depth_m: float
    height_m: float
    distance_m: float
    lens_height_m: float
    stop_wanted: str
    rate_wanted_fps: float
    finest_mm: float
    verdict: Verdict
    shows: int
    tight: int
    worst: str
    light_wanted_lx: float
    light_available_lx: float
    fits: bool
    against: tuple[str, ...]


def choose_scale(
    hero: SetUp,
    layer: Layer,
    setup: SetUp,
    delivery: Delivery,
    kit: Kit,
    *,
    locked: Sequence[str] = (),
    school: School = "measured",
    tolerances: Mapping[str, Tolerance] | None = None,
    units: Units = "metric",
    scales: Sequence[float] = COMMON_SCALES,
) -> list[ScaleRow]:
    """The common scales side by side for one thing, one space and one camera.

    Every verdict is the comparison's own.

    Parameters
    ----------
    hero : SetUp
        The plate's camera.
    layer : Layer
        What is built.
    setup : SetUp
        Where the search begins.
    delivery : Delivery
        The finished frame.
    kit : Kit
        Camera, lenses, lamps and stage.
    locked : sequence of str, optional
        Fields of :data:`SOLVABLE` that keep their value.
    school : {"measured", "covered"}, default "measured"
        Whether what blur covers counts.
    tolerances : mapping of str to Tolerance, optional
        In place of the items' own, by key.
    units : {"metric", "imperial"}, default "metric"
        Of the words.
    scales : sequence of float, optional
        The common ones when left out.

    Returns
    -------
    list of ScaleRow
        From the largest model to the smallest; a scale that the locked values exclude is left out.

    Raises
    ------
    InputError
        If something is locked that is not solved for.

    References
    ----------
    froude, scale_limits

    Examples
    --------
    >>> from jungoptic.core.example import DELIVERY, HERO, KIT, MILL, MODEL
    >>> rows = choose_scale(HERO, MILL, MODEL, DELIVERY, KIT, scales=(6, 12))
    >>> [(row.scale, row.stop_wanted) for row in rows]
    [(6.0, 'f/48'), (12.0, 'f/96')]
    """
    words = Words(units)
    rows = []
    for scale in scales:
        there = layer.model_copy(update={"scale": float(scale), "resize": 1.0})
        answers = solve(
            hero,
            there,
            setup,
            delivery,
            kit,
            locked=locked,
            school=school,
            tolerances=tolerances,
            units=units,
            most=1,
            advises=False,
        )
        if answers:
            rows.append(_row(hero, there, setup, delivery, kit, answers[0], words))
    return rows


def _row(
    hero: SetUp, layer: Layer, setup: SetUp, delivery: Delivery, kit: Kit, answer: Answer, words: Words
) -> ScaleRow:
    s = layer.scale
    solved = setup.model_copy(update=answer.set_up)
    match = Match(hero, layer, solved, delivery)
    against = [
        *against_place(layer, solved, kit, words, match.travel_m),
        *against_scale(layer, solved, kit, words),
    ]
    fault = next((judgement for judgement in answer.judged if judgement.verdict != "holds"), None)
    rate = (
        similarity.gravity_rate_fps(s, hero.capture_fps)
        if layer.driver in ("gravity", "fire")
        else hero.capture_fps
    )
    return ScaleRow(
        s,
        layer.width_m / s,
        layer.depth_m / s,
        layer.height_m / s,
        solved.distance_m,
        camera_height_m(solved),
        f"f/{stop_name(hero.f_number * s)}",
        rate,
        1000.0 * solved.distance_m / match.f_px,
        answer.verdict,
        answer.shows,
        answer.tight,
        fault.label if fault else "",
        answer.light_wanted_lx,
        answer.light_available_lx,
        not against,
        tuple(against),
    )
