"""The backing and the lamps in the two drawings: where the sheet is seen, contours of its light, where
shadows fall.
"""

from __future__ import annotations

from dataclasses import dataclass

import cv2
import numpy as np
from shapely import Polygon, get_parts

from ..light import planck_gain
from ..light.placed import Backing
from ..match import lighting
from ..match.backing_shadow import thrown_shadows
from ..match.measure import Match
from ..match.pose import Array
from ..match.reach import behind
from ..match.records import SetUp
from ..match.view import layer_view

Points = list[list[float]]
_COLUMNS, _ROWS, _FINER = 48, 32, 6
_CONTOUR_STOPS = (1 / 3, 2 / 3, 1.0, 2.0)
_LABELS = ("−⅓", "−⅔", "−1", "−2")


@dataclass(frozen=True, slots=True)
class Contour:
    """A line on the sheet along which its light is so many stops under its brightest; delivered px."""

    label: str
    points: Points


@dataclass(frozen=True, slots=True)
class SheetSeen:
    """The sheet through the lens: its edge, contours of its light, what the subject crosses, the subject's
    shadow; delivered px.
    """

    name: str
    colour: str
    edge: Points
    crossed: Points
    contours: tuple[Contour, ...]
    shadows: tuple[Points, ...]


@dataclass(frozen=True, slots=True)
class LampDrawn:
    """A lamp in the set, metres: z from the lens, y from the floor, x to the right; colour as it looks, and
    the light that it throws on the subject.
    """

    name: str
    role: str
    z: float
    y: float
    x: float
    aim_z: float
    aim_y: float
    aim_x: float
    beam_deg: float
    colour: str
    text: str


def light_map(setup: SetUp, backing: Backing, columns: int = _COLUMNS, rows: int = _ROWS) -> Array:
    """Illuminance over the sheet from every lamp, sun and sky, lux, rows from the top."""
    xs = np.linspace(backing.across_m - backing.width_m / 2, backing.across_m + backing.width_m / 2, columns)
    ys = np.linspace(backing.bottom_m + backing.height_m, backing.bottom_m, rows)
    grid = np.array(np.meshgrid(xs, ys)).reshape(2, -1).T
    points = np.column_stack((grid, np.full(len(grid), backing.behind_m)))
    return lighting.on_backing_lx(setup, points).reshape(rows, columns)


def sheet_corners_m(setup: SetUp) -> Array:
    """The corners of a set-up's sheet (4, 3) from its top left clockwise, metres of the set, over the ground
    of what stands before it and behind its front edge.
    """
    backing = setup.backing
    assert backing is not None
    half, low = backing.width_m / 2.0, backing.bottom_m - setup.ground_height_m
    high = low + backing.height_m
    return np.array(
        [
            (backing.across_m + side * half, up, backing.behind_m)
            for side, up in ((-1, high), (1, high), (1, low), (-1, low))
        ]
    )


def _rectangle(left: float, right: float, low: float, high: float) -> Array:
    return np.array([(left, low), (left, high), (right, high), (right, low)])


def sheet_seen(match: Match, setup: SetUp) -> SheetSeen | None:
    """The sheet of a set-up through its lens.

    Parameters
    ----------
    match : Match
        The layer before it.
    setup : SetUp
        As it stands, lamps in it.

    Returns
    -------
    SheetSeen or None
        Delivered px; None without one.

    References
    ----------
    pinhole, inverse_square

    Examples
    --------
    >>> from jungoptic.core.example import ACTOR, DELIVERY, HERO, ON_GREEN
    >>> [line.label for line in sheet_seen(Match(HERO, ACTOR, ON_GREEN, DELIVERY), ON_GREEN).contours][:1]
    ['−⅓']
    """
    backing = setup.backing
    if backing is None:
        return None
    layer = match.layer
    view = layer_view(match)

    def seen(flat: Array) -> Points:
        points = np.column_stack(
            (flat[:, 0], flat[:, 1] - setup.ground_height_m, np.full(len(flat), backing.behind_m))
        )
        drawn = view.project([layer.scale * points], match.delivery.width_px, match.delivery.height_px)[0]
        rounded: Points = np.clip(drawn, -1e5, 1e5).round(1).tolist()
        return rounded

    left, top = backing.across_m - backing.width_m / 2, backing.bottom_m + backing.height_m
    contours: list[Contour] = []
    if setup.lamps or lighting.day_over(setup):
        lit = cv2.resize(
            light_map(setup, backing), (_COLUMNS * _FINER, _ROWS * _FINER), interpolation=cv2.INTER_CUBIC
        )
        bright = float(lit.max())
        for stops, label in zip(_CONTOUR_STOPS, _LABELS, strict=True):
            mask = (lit >= bright * 2.0**-stops).astype(np.uint8)
            if bright <= 0 or mask.all():
                continue
            borders, _ = cv2.findContours(
                cv2.copyMakeBorder(mask, 1, 1, 1, 1, cv2.BORDER_CONSTANT),
                cv2.RETR_EXTERNAL,
                cv2.CHAIN_APPROX_NONE,
            )
            for whole in borders:
                line = cv2.approxPolyDP(whole, 1.0, True)
                cells = np.clip(line[:, 0, :].astype(float) - 1, 0, None)
                if len(cells) < 3:
                    continue
                flat = np.column_stack(
                    (
                        left + cells[:, 0] / (_COLUMNS * _FINER - 1) * backing.width_m,
                        top - cells[:, 1] / (_ROWS * _FINER - 1) * backing.height_m,
                    )
                )
                contours.append(Contour(label, seen(flat)))
    shadows = tuple(
        seen(np.array(part.exterior.coords)[:-1])
        for shadow in thrown_shadows(layer, setup, backing)
        for part in get_parts(shadow)
        if isinstance(part, Polygon)
    )
    across = behind(match, setup, backing)
    return SheetSeen(
        backing.name,
        backing.colour,
        seen(_rectangle(left, left + backing.width_m, backing.bottom_m, top)),
        seen(_rectangle(across.left, across.right, across.low, max(across.high, across.low))),
        tuple(contours),
        shadows,
    )


def colour_of_k(kelvin: float) -> str:
    """How a light of that colour temperature looks beside daylight, #rrggbb."""
    rgb = planck_gain(kelvin, 5600.0).tolist()
    most = max(rgb)
    return "#" + "".join(f"{round(255 * (value / most) ** (1 / 2.2)):02x}" for value in rgb)


def lamps_drawn(match: Match, setup: SetUp, say: lighting.SayLight) -> tuple[LampDrawn, ...]:
    """Every lamp of a set-up for the drawings.

    Parameters
    ----------
    match : Match
        The layer that is lit.
    setup : SetUp
        As it stands, with its lamps.
    say : callable
        Puts lux in the reader's words.

    Returns
    -------
    tuple of LampDrawn
        Metres of the set.

    References
    ----------
    inverse_square, meter_dome

    Examples
    --------
    >>> from jungoptic.core.example import ACTOR, DELIVERY, HERO, ON_GREEN
    >>> drawn = lamps_drawn(Match(HERO, ACTOR, ON_GREEN, DELIVERY), ON_GREEN, lambda lux: f"{lux:.0f} lx")
    >>> drawn[-1].text
    '5600 K · 747 lx'
    """
    near_m = setup.distance_m
    point = lighting.subject_point(match.layer, setup)
    return tuple(
        LampDrawn(
            lamp.name,
            lamp.role,
            round(near_m + lamp.behind_m, 4),
            lamp.height_m,
            lamp.across_m,
            round(near_m + lamp.aim_behind_m, 4),
            lamp.aim_height_m,
            lamp.aim_across_m,
            lamp.beam_deg,
            colour_of_k(lamp.colour_k),
            f"{lamp.colour_k:g} K · {say(lighting.metered_lx(lamp, point))}",
        )
        for lamp in setup.lamps
    )


def sheet_in_set(setup: SetUp) -> dict[str, float | str] | None:
    """The sheet of a set-up for the drawings.

    Parameters
    ----------
    setup : SetUp
        As it stands.

    Returns
    -------
    dict or None
        Name, colour, and metres of the set: z from the lens, bottom and top, left and right; None without
        one.

    Examples
    --------
    >>> from jungoptic.core.example import ON_GREEN
    >>> sheet_in_set(ON_GREEN)["z"]
    7.5
    """
    backing = setup.backing
    if backing is None:
        return None
    half = backing.width_m / 2
    return {
        "name": backing.name,
        "colour": backing.colour,
        "z": round(setup.distance_m + backing.behind_m, 4),
        "bottom": backing.bottom_m,
        "top": backing.bottom_m + backing.height_m,
        "left": backing.across_m - half,
        "right": backing.across_m + half,
    }
