"""Which other kit would mend what this kit cannot: the search again, with one thing more to draw on."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator
from dataclasses import dataclass

from ..kit.lens import Lens
from ..kit.records import Kit, RecordingMode
from ..kit.steps import STOPS, stop_name
from ..match.measure import Match
from ..match.pace import FIRE_DRIVER
from ..wording import Words, number
from .search import Candidate, Search

_LIGHT = frozenset({"brightness", "focus_near", "focus_far", "grain", "diffraction"})
_LENS = frozenset(
    {"lens", "edges", "focus_near", "focus_far", "sharpness", "distortion", "vignetting", "diffraction"}
)
_RECORDING = {
    "sharpness": "more pixels",
    "edges": "a wider gate",
    "chroma": "colour 4:4:4",
    "codes": "12 bit",
    "clipping": "two stops more of highlights",
    "skew": "all rows read at once",
}
_PLACE = frozenset({"height", "perspective", "together", "focus_near", "focus_far"})
_CLOSEST_M, _TWICE = 0.03, 2


@dataclass(frozen=True, slots=True)
class _Other:
    """A kit with one thing more, what is locked beside, and what that thing is."""

    kit: Kit
    described: Callable[[Candidate], str]
    rate_fps: float | None = None


def other_kit(search: Search, best: Candidate, faults: frozenset[str], words: Words) -> Iterator[str]:
    """What to hire or borrow, and what would be left then, in sentences; only what helps.

    Parameters
    ----------
    search : Search
        What was searched.
    best : Candidate
        What this kit comes to.
    faults : frozenset of str
        Items that do not hold.
    words : Words
        The reader's units.

    Yields
    ------
    str
        A sentence each.
    """
    for other in _others(search, best, faults, words):
        setup, locked = search.setup, search.locked
        if other.rate_fps is not None:
            setup, locked = setup.model_copy(update={"capture_fps": other.rate_fps}), locked | {"capture_fps"}
        again = Search(
            search.hero,
            search.layer,
            setup,
            search.delivery,
            other.kit,
            locked,
            search.school,
            search.custom,
            search.shared,
        )
        way = next(iter(again.candidates(1, tried=3)), None)
        if way is None or way.counts >= best.counts:
            continue
        what, left = other.described(way), _left(way)
        if what:
            yield f"With {what}: {left}."


def _left(way: Candidate) -> str:
    _, shows, tight = way.counts
    if not shows and not tight:
        return "everything holds"
    counted = [f"{shows} still {'shows' if shows == 1 else 'show'}"] if shows else []
    counted += [f"{tight} {'is' if tight == 1 else 'are'} tight"] if tight else []
    return " and ".join(counted)


def _others(search: Search, best: Candidate, faults: frozenset[str], words: Words) -> Iterator[_Other]:
    kit, setup = search.kit, best.setup
    if faults & _LIGHT and kit.lamps and search.free("illuminance_lx"):
        yield _Other(kit.model_copy(update={"lamps": ()}), lambda way: _more_light(search, way, words))
    if "time" in faults and search.free("capture_fps"):
        match = Match(search.hero, best.layer, setup, search.delivery)
        wanted = math.ceil(match.wanted_fps)
        if search.layer.driver == FIRE_DRIVER or wanted > setup.capture_fps:
            faster = tuple(
                mode.model_copy(update={"highest_fps": max(mode.highest_fps, float(wanted))})
                for mode in kit.camera.modes
            )
            yield _Other(
                _with_modes(kit, faster), lambda _: f"a camera that records {wanted} frames/s", float(wanted)
            )
    if faults & _LENS and search.free("focal_length_mm") and kit.lenses:
        yield _Other(
            kit.model_copy(update={"lenses": (*kit.lenses, *_lenses(search))}),
            lambda way: _other_lens(kit, way, words),
        )
    if faults & _RECORDING.keys() and search.free("mode") and kit.camera.modes:
        wants = dict.fromkeys(what for item, what in _RECORDING.items() if item in faults)
        if "chroma" in faults and setup.sampling == "4:4:4":  # then only a finer one has more colour
            wants = {"more pixels": None} | {what: None for what in wants if what != _RECORDING["chroma"]}
        better = " and ".join(wants)
        yield _Other(
            _with_modes(kit, (*kit.camera.modes, _recording(kit))),
            lambda way: f"a recording with {better}" if not _has_mode(kit, way) else "",
        )
    if faults & _PLACE:
        anywhere = {
            "lowest_lens_m": 0.0,
            "highest_lens_m": 100.0,
            "stage_length_m": None,
            "beams_m": None,
        }
        yield _Other(kit.model_copy(update=anywhere), lambda way: _other_place(kit, search, way, words))


def _more_light(search: Search, way: Candidate, words: Words) -> str:
    light, have = way.setup.illuminance_lx, search.available_lx
    if light <= have:
        return ""
    more = f" ({number(math.log2(light / have), 2)} stops more than there is)" if have > 0 else ""
    return f"lamps for {words.light(light)}{more}"


def _lenses(search: Search) -> list[Lens]:
    """The kit's lenses and the hero's view, as a lens that goes nearer and stops down further would be."""
    hero, setup = search.hero, search.setup
    view = round(hero.focal_length_mm * setup.extracted_mm / hero.extracted_mm)
    focals = {lens.focal_length_mm for lens in search.kit.lenses} | {float(max(view, 1))}
    return [
        Lens(
            name=f"{focal:g} mm",
            focal_length_mm=focal,
            widest_f_number=2.0,
            smallest_f_number=STOPS[-1][1],
            closest_focus_m=max(_CLOSEST_M, 1.1 * focal / 1000.0),
        )
        for focal in sorted(focals)
    ]


def _other_lens(kit: Kit, way: Candidate, words: Words) -> str:
    setup = way.setup
    owned = kit.lens_of(setup.focal_length_mm)
    what = []
    if owned is None or setup.f_number > 1.002 * max(exact for _, exact in owned.stops):
        what.append(f"stops down to f/{stop_name(setup.f_number)}")
    if owned is None or setup.focus_distance_m < owned.closest_focus_m * (1 - 1e-9):
        what.append(f"focuses at {words.length(setup.focus_distance_m)}")
    if not what:
        return ""
    return f"a lens of {setup.focal_length_mm:g} mm that {' and '.join(what)}"


def _with_modes(kit: Kit, modes: tuple[RecordingMode, ...]) -> Kit:
    return kit.model_copy(update={"camera": kit.camera.model_copy(update={"modes": modes})})


def _recording(kit: Kit) -> RecordingMode:
    """The widest recording of the camera, better in every way."""
    widest = max(kit.camera.modes, key=lambda mode: (mode.gate_width_mm, mode.recorded_width_px))
    return RecordingMode(
        name="better",
        recorded_width_px=min(_TWICE * widest.recorded_width_px, 65536),
        recorded_height_px=min(_TWICE * widest.recorded_height_px, 65536),
        gate_width_mm=1.5 * widest.gate_width_mm,
        gate_height_mm=1.5 * widest.gate_height_mm,
        highest_fps=max(mode.highest_fps for mode in kit.camera.modes),
        bit_depth=12,
        sampling="4:4:4",
        headroom_stops=min(widest.headroom_stops + 2.0, 20.0),
    )


def _has_mode(kit: Kit, way: Candidate) -> bool:
    return kit.mode_of(way.setup.recorded_width_px, way.setup.gate_width_mm) is not None


def _other_place(kit: Kit, search: Search, way: Candidate, words: Words) -> str:
    setup, layer = way.setup, search.layer
    what = []
    length = setup.distance_m + layer.depth_m / layer.scale
    if kit.stage_length_m is not None and length > kit.stage_length_m:
        what.append(f"a stage {words.length(length)} long")
    top = max(setup.ground_height_m + layer.height_m / layer.scale, setup.lens_height_m)
    if kit.beams_m is not None and top > kit.beams_m:
        what.append(f"beams over {words.length(top)}")
    if setup.lens_height_m < kit.lowest_lens_m - 1e-6:
        what.append(f"a support as low as {words.length(setup.lens_height_m)}")
    if setup.lens_height_m > kit.highest_lens_m + 1e-6:
        what.append(f"a support as high as {words.length(setup.lens_height_m)}")
    return " and ".join(what)
