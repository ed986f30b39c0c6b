"""What one thing more in the kit would open up: each layer solved with the kit as it is, and with more."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass

from ..kit.lens import Lens
from ..kit.records import Kit, RecordingMode
from ..kit.steps import FRAME_RATES_FPS
from ..vocabulary import VERDICTS, Verdict
from .solve import Answer

FASTER_FPS = 120.0
_LONGER, _CLOSER_MAGNIFICATION = 2.0, 1.0
_WIDEST, _SMALLEST = 2.8, 22.0  # common practice
_FOCUSED_AT = 9.0  # focal lengths, of a long lens at its closest: common practice
_TWICE = 2


@dataclass(frozen=True, slots=True)
class Addition:
    """Something that a kit could have besides: what it is called, and the kit with it."""

    key: str
    title: str
    kit: Kit


@dataclass(frozen=True, slots=True)
class Reach:
    """How well a layer can be filmed: its verdict, and how many items show and are tight."""

    verdict: Verdict
    shows: int
    tight: int

    @property
    def worth(self) -> tuple[int, int]:
        """What compares two: less is better."""
        return self.shows, self.tight


def additions(kit: Kit) -> tuple[Addition, ...]:
    """What one would hire or borrow first.

    One lamp more, as the strongest; a lens twice as long as the longest; one that goes to life size; a camera
    that runs to 120 frames/s; one with twice the pixels. What the kit has already is left out.

    Parameters
    ----------
    kit : Kit
        What there is.

    Returns
    -------
    tuple of Addition
        In the order in which they cost.

    Examples
    --------
    >>> from jungoptic.core.example import KIT
    >>> [one.key for one in additions(KIT)]
    ['lamp', 'longer_lens', 'close_lens', 'pixels']
    """
    return tuple(made for make in _MAKERS if (made := make(kit)) is not None)


def _lamp(kit: Kit) -> Addition | None:
    if not kit.lamps:
        return None
    strongest = max(kit.lamps, key=lambda lamp: lamp.intensity_cd)
    return Addition("lamp", f"One lamp more, as {strongest.name}", kit.but(lamps=(*kit.lamps, strongest)))


def _longest_mm(kit: Kit) -> float:
    return max(lens.longest_mm or lens.focal_length_mm for lens in kit.lenses)


def _longer_lens(kit: Kit) -> Addition | None:
    if not kit.lenses:
        return None
    focal = _LONGER * _longest_mm(kit)
    return _with_lens(
        kit, "longer_lens", f"A lens of {focal:g} mm", focal, (1 + _FOCUSED_AT) * focal / 1000.0
    )


def _close_lens(kit: Kit) -> Addition | None:
    if not kit.lenses:
        return None
    focal = _longest_mm(kit)
    closest = (1.0 + 1.0 / _CLOSER_MAGNIFICATION) * focal / 1000.0
    if any(lens.closest_focus_m <= closest * 1.05 for lens in kit.lenses):
        return None
    return _with_lens(kit, "close_lens", f"A lens of {focal:g} mm that goes to life size", focal, closest)


def _with_lens(kit: Kit, key: str, title: str, focal_length_mm: float, closest_focus_m: float) -> Addition:
    lens = Lens(
        name=title,
        focal_length_mm=focal_length_mm,
        widest_f_number=_WIDEST,
        smallest_f_number=_SMALLEST,
        closest_focus_m=closest_focus_m,
    )
    return Addition(key, title, kit.but(lenses=(*kit.lenses, lens)))


def _faster(kit: Kit) -> Addition | None:
    if not kit.camera.modes or max(mode.highest_fps for mode in kit.camera.modes) >= FASTER_FPS:
        return None
    modes = tuple(
        mode.model_copy(
            update={
                "highest_fps": FASTER_FPS,
                "menu_fps": tuple(sorted({*mode.menu_fps, *map(float, FRAME_RATES_FPS)})),
            }
        )
        for mode in kit.camera.modes
    )
    return Addition(
        "faster", f"{FASTER_FPS:g} frames/s", kit.but(camera=kit.camera.model_copy(update={"modes": modes}))
    )


def _pixels(kit: Kit) -> Addition | None:
    if not kit.camera.modes:
        return None
    finest = max(kit.camera.modes, key=lambda mode: mode.recorded_width_px)
    if finest.recorded_width_px * _TWICE > 16_384:
        return None
    better: RecordingMode = finest.model_copy(
        update={
            "recorded_width_px": finest.recorded_width_px * _TWICE,
            "recorded_height_px": finest.recorded_height_px * _TWICE,
        }
    )
    camera = kit.camera.model_copy(update={"modes": (*kit.camera.modes, better)})
    return Addition("pixels", f"A camera of {better.recorded_width_px} pixels across", kit.but(camera=camera))


_MAKERS: tuple[Callable[[Kit], Addition | None], ...] = (_lamp, _longer_lens, _close_lens, _faster, _pixels)


def reach_of(ways: Sequence[Answer]) -> Reach | None:
    """How well a layer can be filmed: the solver's best way.

    Parameters
    ----------
    ways : sequence of Answer
        What the solver found, best first.

    Returns
    -------
    Reach or None
        None where it found none.

    Examples
    --------
    >>> from jungoptic.core.example import DELIVERY, HERO, KIT, MILL, MODEL
    >>> from jungoptic.core.plan import solve
    >>> reach_of(solve(HERO, MILL, MODEL, DELIVERY, KIT, most=1, advises=False)).verdict
    'holds'
    """
    return Reach(ways[0].verdict, ways[0].shows, ways[0].tight) if ways else None


def shot_reach(layers: Sequence[Reach]) -> Reach:
    """How well a shot can be filmed: as well as its worst layer, and what shows in all of them shows.

    Parameters
    ----------
    layers : sequence of Reach
        One for each layer, at least one.

    Returns
    -------
    Reach
        Of the whole.

    Examples
    --------
    >>> shot_reach([Reach("holds", 0, 0), Reach("tight", 0, 2), Reach("shows", 1, 1)])
    Reach(verdict='shows', shows=1, tight=3)
    """
    return Reach(
        min((layer.verdict for layer in layers), key=VERDICTS.index),
        sum(layer.shows for layer in layers),
        sum(layer.tight for layer in layers),
    )
