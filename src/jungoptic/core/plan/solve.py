"""Settings that hold within the kit, or the best compromise and what it cost.

The geometry that marries is known in closed form (distance and height ÷ s, angles as the hero's, resize from
the focal lengths). What is left, lens, recording, rate, stop, focus, shutter, ISO, filter, is millions of
combinations of the kit's real steps: none that could weigh less is left out. Deterministic.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from itertools import islice
from typing import Any

from ..errors import InputError
from ..kit.records import Kit
from ..kit.steps import STOPS, stop_name
from ..match.compare import Judgement, judge_match
from ..match.differences import Difference, differences
from ..match.layer import Layer
from ..match.measure import Match
from ..match.records import Delivery, SetUp
from ..match.tolerances import ITEMS, Tolerance, worst
from ..optics import focus
from ..vocabulary import VERDICTS, School, Units, Verdict
from ..wording import Words, number
from .other_kit import other_kit
from .scope import Shared
from .search import Candidate, Search
from .space import against_place

SOLVABLE: dict[str, str] = {
    "focal_length_mm": "Lens",
    "f_number": "Stop",
    "focus_distance_m": "Focus",
    "distance_m": "Lens to model",
    "lens_height_m": "Lens height",
    "ground_height_m": "Model ground",
    "tilt_deg": "Tilt",
    "roll_deg": "Roll",
    "mode": "Recording",
    "capture_fps": "Rate",
    "shutter_angle_deg": "Shutter",
    "iso": "ISO",
    "nd_stops": "Filter",
    "illuminance_lx": "Light",
    "white_balance_k": "White balance",
    "key": "Key",
    "travel_m": "Travel",
    "resize": "Resize",
}


@dataclass(frozen=True, slots=True)
class Answer:
    """A way to shoot the layer. ``set_up`` and ``layer`` hold the fields to change, ``others`` those of each
    layer that shares the set-up; ``judged`` is the comparison of it.
    """

    set_up: dict[str, Any]
    layer: dict[str, Any]
    others: tuple[dict[str, Any], ...]
    verdict: Verdict
    shows: int
    tight: int
    holds: int
    changes: tuple[Difference, ...]
    sentences: tuple[str, ...]
    light_wanted_lx: float
    light_available_lx: float
    judged: tuple[Judgement, ...]


def solve(
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
    most: int = 3,
    shared: Sequence[Shared] = (),
    advises: bool = True,
) -> list[Answer]:
    """Ways to shoot a layer so that it marries the hero, what shows least first.

    Parameters
    ----------
    hero : SetUp
        The plate's camera.
    layer : Layer
        What is filmed.
    setup : SetUp
        Where the search begins, metres of the set.
    delivery : Delivery
        The finished frame.
    kit : Kit
        Camera, lenses and lamps that there are.
    locked : sequence of str, optional
        Fields of :data:`SOLVABLE` that keep their value; "mode" is the recording mode.
    school : {"measured", "covered"}, default "measured"
        Whether what blur covers counts.
    tolerances : mapping of str to Tolerance, optional
        In place of the items' own, by key.
    units : {"metric", "imperial"}, default "metric"
        Of the sentences.
    most : int, default 3
        How many ways at most.
    shared : sequence of Shared, optional
        Other layers that the same set-up films: they count as much.
    advises : bool, default True
        Say of the best way which other kit would mend what is left.

    Returns
    -------
    list of Answer
        Every verdict is the comparison's own. Empty only when the locked values exclude all that the kit has.

    Raises
    ------
    InputError
        If something is locked that is not solved for.

    References
    ----------
    pinhole, thin_lens, froude

    Examples
    --------
    >>> from jungoptic.core.example import DELIVERY, HERO, KIT, MILL, MODEL
    >>> way = solve(HERO, MILL, MODEL, DELIVERY, KIT)[0]
    >>> [f"{change.label}: {change.after}" for change in way.changes][:2]
    ['Stop: f/16', 'Focus: 1.159 m']
    """
    unknown = sorted(set(locked) - set(SOLVABLE))
    if unknown:
        raise InputError.at(
            "locked", f"Nothing called {', '.join(unknown)} can be locked; there is {', '.join(SOLVABLE)}."
        )
    search = Search(
        hero, layer, setup, delivery, kit, frozenset(locked), school, dict(tolerances or {}), shared
    )
    ways = search.candidates(most)
    return [_answer(search, way, units, advises and way is ways[0]) for way in ways]


def _answer(search: Search, candidate: Candidate, units: Units, advises: bool) -> Answer:
    words = Words(units)
    setup, layer = candidate.setup, candidate.layer
    match = Match(search.hero, layer, setup, search.delivery)
    judged = judge_match(match, school=search.school, tolerances=search.custom, kit=search.kit, units=units)
    set_up = {
        name: value
        for name in SetUp.model_fields
        if (value := getattr(setup, name)) != getattr(search.setup, name)
    }
    resized, *others = (
        {} if now.resize == before.layer.resize else {"resize": now.resize}
        for now, before in zip(candidate.layers, search.subjects, strict=True)
    )
    count: dict[str, int] = {
        word: sum(judgement.verdict == word for judgement in judged) for word in VERDICTS
    }
    return Answer(
        set_up,
        resized,
        tuple(others),
        worst(count),
        count["shows"],
        count["tight"],
        count["holds"],
        tuple(_changes(search.setup, setup, search.layer, layer, words, search.kit)),
        tuple(_sentences(search, candidate, judged, words, advises)),
        setup.illuminance_lx,
        search.available_lx if math.isfinite(search.available_lx) else 0.0,
        judged,
    )


def passes(search: Search, candidate: Candidate) -> int:
    """Focus passes that hold the whole depth at this stop; 0 where one does or more than twenty would be
    wanted.
    """
    setup, layer = candidate.setup, candidate.layer
    far = setup.distance_m + layer.depth_m / layer.scale
    circle = (
        search.custom.get("focus_near", ITEMS["focus_near"].tolerance).holds
        * setup.extracted_mm
        / search.delivery.width_px
    )
    count = (
        sum(
            1
            for _ in islice(
                focus.walk_passes(setup.focal_length_mm, setup.f_number, circle, setup.distance_m, far), 21
            )
        )
        if far > setup.distance_m
        else 1
    )
    return count if 1 < count <= 20 else 0


def _changes(
    before: SetUp, after: SetUp, layer_before: Layer, layer_after: Layer, words: Words, kit: Kit
) -> Iterable[Difference]:
    yield from differences(before, after, words, kit)
    was, now = (f"{100 * layer.resize:.1f} %" for layer in (layer_before, layer_after))
    if was != now:
        yield Difference("resize", "Resize", was, now)


def _sentences(
    search: Search, candidate: Candidate, judged: tuple[Judgement, ...], words: Words, advises: bool
) -> Iterable[str]:
    """What it comes to, what it costs, and what stands in the way, for a crew member."""
    setup = candidate.setup
    faults = [judgement for judgement in judged if judgement.verdict != "holds"]
    if not faults:
        yield (
            f"Everything holds; nearest its limit is {judged[0].label.lower()}."
            if judged[0].ladder > 0.005
            else "Everything holds."
        )
    for judgement in faults:
        comes_to = "shows" if judgement.verdict == "shows" else "is tight"
        yield f"{judgement.label} {comes_to}: {judgement.sentence}"
    if math.isfinite(search.available_lx):
        share = setup.illuminance_lx / search.available_lx if search.available_lx else math.inf
        have = (
            f"{words.light(search.available_lx)} from {', '.join(search.lamps) or 'no lamp of that colour'}"
        )
        need = (
            "more than"
            if math.isinf(share)
            else f"{number(math.log2(share), 2)} stop more than"
            if share > 1.0 + 1e-3
            else "all of"
            if share > 0.95
            else f"{100 * share:.0f} % of"
        )
        yield f"Light: {words.light(setup.illuminance_lx)}, {need} what the kit throws there ({have})."
    wanted = search.hero.f_number * candidate.layer.scale
    if any(judgement.item.startswith("focus") for judgement in faults) and setup.f_number < wanted * 0.99:
        names = [name for name, exact in STOPS if exact <= setup.f_number * 1.01]
        yield (
            f"Equal blur wants f/{stop_name(wanted)}; this is"
            f" f/{names[-1] if names else stop_name(setup.f_number)}. A bigger model, focus passes, or more"
            " light and a smaller stop would close the gap."
        )
    if any(judgement.item.startswith("focus") for judgement in faults):
        count = passes(search, candidate)
        if count:
            yield (
                f"Price of holding it all the same way: {count} focus passes in one composite, each with the"
                " same move."
            )
    travel_m = Match(search.hero, candidate.layer, setup, search.delivery).travel_m
    for reason in against_place(candidate.layer, setup, search.kit, words, travel_m):
        yield f"It does not fit: {reason}."
    if advises:
        yield from other_kit(search, candidate, frozenset(item.item for item in faults), words)
    if search.shared:
        yield (
            f"Counts for {', '.join(other.layer.name for other in search.shared)} too, filmed in the same"
            " set-up."
        )
    if search.told_to_keep:
        yield (
            "Kept as locked:"
            f" {', '.join(label.lower() for name, label in SOLVABLE.items() if name in search.told_to_keep)}."
        )
