"""What one thing more in the kit would open up: each layer solved with the kit as it is, and with more."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass

from ..kit.lens import Lens
from ..kit.records import Kit, RecordingMode
from ..kit.steps import FRAME_RATES_FPS
from ..match.layer import Layer
from ..match.records import Delivery, SetUp
from ..match.tolerances import Tolerance
from ..vocabulary import School, Verdict
from .scope import Shared
from .solve import solve

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


def best_reach(
    hero: SetUp,
    layer: Layer,
    setup: SetUp,
    delivery: Delivery,
    kit: Kit,
    *,
    locked: Sequence[str] = (),
    school: School = "measured",
    tolerances: Mapping[str, Tolerance] | None = None,
    shared: Sequence[Shared] = (),
) -> Reach | None:
    """How well a layer can be filmed with a kit: the solver's best way.

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
        What there is.
    locked : sequence of str, optional
        Fields that keep their value; see :func:`solve`.
    school : {"measured", "covered"}, default "measured"
        Whether what blur covers counts.
    tolerances : mapping of str to Tolerance, optional
        In place of the items' own, by key.
    shared : sequence of Shared, optional
        Other layers that the same set-up films.

    Returns
    -------
    Reach or None
        None where the locked values exclude all that the kit has.

    References
    ----------
    pinhole, thin_lens, froude

    Examples
    --------
    >>> from jungoptic.core.example import DELIVERY, HERO, KIT, MILL, MODEL
    >>> found = best_reach(HERO, MILL, MODEL, DELIVERY, KIT)
    >>> found.verdict
    'holds'
    """
    ways = solve(
        hero,
        layer,
        setup,
        delivery,
        kit,
        locked=locked,
        school=school,
        tolerances=tolerances,
        most=1,
        shared=shared,
        advises=False,
    )
    return Reach(ways[0].verdict, ways[0].shows, ways[0].tight) if ways else None
