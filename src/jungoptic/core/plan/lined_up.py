"""What a picture that should look like another one tells of the camera: which dials are off, and by how much.

Both pictures show the same things. Where those stand is known from the plan, so that a camera that is turned
is told from one that stands elsewhere, by what is near and what is far.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
import shapely

from ..errors import InputError
from ..match.measure import Match
from ..match.pose import PUPIL, ROLL, TILT, Array
from ..match.standing_off import OFF_DIALS, Off, OffDial, off_view
from ..match.view import START, View, placed_m
from ..measure.registered import FEWEST_POINTS
from ..optics.projection import NEAREST_M, rotation
from ..stage.drawings import parts_of
from ..stage.painted import seen_faces
from ..stage.sheet import sheet_corners_m

_FAR_M = 1e4
_OUTLINE_PX = 4.0
"""What lies so near to an outline is on it."""
_STEP = {"pan": 1e-3, "tilt": 1e-3, "roll": 1e-3, "zoom": 1e-5, "aside": 1e-5, "up": 1e-5, "forward": 1e-5}
_ROUNDS, _SETTLED_PX = 12, 2e-3
_LOOKS_ANEW = (0, 2)
"""Rounds at which it is looked anew how each dial moves the points: that changes little."""
_ENOUGH = 90
"""Points by which it is found out which dials are off; by how much, all tell."""
_TUKEY, _TO_DEVIATION, _LEAST_DEVIATION_PX = 4.685, 1.4826, 0.05
_WORSE, _WORSE_PX, _AS_MANY = 1.15, 0.03, 0.95
"""A dial is left out where the points lie hardly worse without it."""
_MOST_LEFT = 2.5 / 1920.0
"""What may be left of points that are the same, of the frame's width."""
_MOST_ZOOM = 1.0
_SEEN_PX = 0.3
"""Less than what is told of the whole is not told of a dial."""
_TWICE = 2.0
_GREATEST_PCT = 95.0


class NothingSharedError(InputError):
    """Both pictures show too little of the same."""


@dataclass(frozen=True, slots=True)
class DialOff:
    """One dial that is off: by how much, in degrees, metres of the set or (zoom) the logarithm of the focal
    length; two deviations of that; how far it takes points through the delivered frame, px.
    """

    dial: OffDial
    amount: float
    within: float
    px: float


@dataclass(frozen=True, slots=True)
class LinedUp:
    """A live picture against its reference, delivered px: where the middle of the frame has gone (right,
    down), within two deviations; its turn (clockwise) and size, as one sees them there; how far the points
    are off, 95 of 100 of them; of ``followed`` points ``points`` are shared, and are left ``rest_px`` off
    when the dials are put right; the dials, worst first.
    """

    shift_px: tuple[float, float]
    within_px: float
    turn_deg: float
    size_pct: float
    off_px: float
    points: int
    followed: int
    rest_px: float
    dials: tuple[DialOff, ...]


def in_the_set(match: Match, points: Array) -> Array:
    """Where things stand that the planned camera of a layer sees at places of the delivered frame.

    Parameters
    ----------
    match : Match
        The layer, measured.
    points : ndarray, shape (n, 2)
        From the top left, delivered px.

    Returns
    -------
    ndarray, shape (n, 3)
        Full-size metres, as :class:`~jungoptic.core.match.View` counts them: on the layer, else its sheet or
        its ground, else very far.

    References
    ----------
    pinhole

    Examples
    --------
    >>> from jungoptic.core.example import DELIVERY, HERO, MILL
    >>> match = Match(HERO, MILL.but(scale=1), HERO, DELIVERY)
    >>> (in_the_set(match, np.array([[960.0, 922.39], [960.0, 800.0]])).round(1) + 0.0).tolist()
    [[0.0, 0.0, 0.0], [0.0, 0.5, 0.0]]
    """
    layer, delivery, setup = match.layer, match.delivery, match.setup
    size = np.array([delivery.width_px, delivery.height_px], float)
    view = off_view(match, Off())
    flat = (np.asarray(points, float) - size / 2.0) / view.focal_px
    rays = np.column_stack([flat[:, 0], -flat[:, 1], np.ones(len(flat))]) @ view.turn
    eye = view.eye
    far = np.full(len(rays), _FAR_M)
    down = rays[:, 1] < -1e-9
    if eye[1] > 0.0:
        far[down] = np.minimum(_FAR_M, eye[1] / -rays[down, 1])
    come = placed_m(layer, START)
    sides = [
        (face.points, face.corners[0], face.faces)
        for part in parts_of(layer)
        for face in seen_faces(part, come, view, (float(size[0]), float(size[1])), None)
    ]
    if setup is not None and setup.backing is not None:
        sheet = sheet_corners_m(setup) * layer.scale
        seen = view.project([sheet], *size)[0]
        sides += [(seen, sheet[0], np.array([0.0, 0.0, -1.0]))] if len(seen) >= 3 else []
    for outline, corner, facing in sides:
        covers = shapely.Polygon(outline).buffer(_OUTLINE_PX)
        towards = rays @ facing
        meets = np.abs(towards) > 1e-9
        there = float((corner - eye) @ facing) / np.where(meets, towards, 1.0)
        on = meets & shapely.contains_xy(covers, points[:, 0], points[:, 1])
        nearer = on & (there > 0.0) & (there < far)
        far[nearer] = there[nearer]
    places: Array = eye + rays * far[:, None]
    return places


def _middling(values: Array) -> float:
    """The one in the middle of all: of an even number the greater."""
    half = len(values) // 2
    return float(np.partition(values, half)[half])


@dataclass(frozen=True, slots=True)
class _Fit:
    """Dials that were fitted (k), their covariance (k, k), and what is left of each point (n, 2)."""

    free: tuple[OffDial, ...]
    off: Off
    covariance: Array
    left: Array
    weights: Array

    @property
    def rest_px(self) -> float:
        """What is left, root mean square over what counts."""
        share = self.weights.sum()
        return math.sqrt(float((self.weights * (self.left**2).sum(axis=1)).sum() / max(share, 1e-9)))

    @property
    def typical_px(self) -> float:
        """What is left of a point in the middle of all."""
        return _middling(np.hypot(self.left[:, 0], self.left[:, 1]))

    def hardly_worse_than(self, other: _Fit) -> bool:
        """Whether the points lie as well by these dials, and as many of them."""
        as_near = self.typical_px <= _WORSE * other.typical_px + _WORSE_PX
        return as_near and self.counted >= _AS_MANY * other.counted

    @property
    def counted(self) -> int:
        """How many points are near enough to count."""
        return int((self.weights > 0.1).sum())

    def deviation(self, dial: OffDial) -> float:
        """One deviation of a dial."""
        return math.sqrt(max(float(self.covariance[(self.free.index(dial),) * 2]), 0.0))

    def sureness(self, dial: OffDial) -> float:
        """How many deviations a dial is from standing as planned."""
        return float(abs(getattr(self.off, dial)) / max(self.deviation(dial), 1e-12))


class _Seer:
    """Where things come into the picture of a camera that stands off: :meth:`View.seen` of
    :func:`~jungoptic.core.match.off_view`, for many ways to stand at a time.
    """

    def __init__(self, match: Match) -> None:
        planned: View = off_view(match, Off())
        self._match, self._scale = match, match.layer.scale
        self._eye, self._focal = planned.eye, planned.focal_px
        self._tilt, self._roll = (float(planned.rows[dial, 0]) for dial in (TILT, ROLL))
        self._middle = np.array([match.delivery.width_px, match.delivery.height_px]) / 2.0
        self._turns_about_pupil = not planned.rows[PUPIL].any()

    def __call__(self, off: Off, places: Array) -> Array:
        if not self._turns_about_pupil:
            size = 2.0 * self._middle
            return off_view(self._match, off).seen(places, float(size[0]), float(size[1]))
        turn = rotation(self._tilt + off.tilt, self._roll + off.roll, off.pan)
        eye = self._eye + self._scale * np.array([off.aside, off.up, off.forward])
        right, up, forward = turn @ (places - eye).T
        focal = self._focal * math.exp(min(max(off.zoom, -_MOST_ZOOM), _MOST_ZOOM))
        grow = focal / np.maximum(forward, NEAREST_M)
        seen = np.empty((len(places), 2))
        seen[:, 0] = self._middle[0] + right * grow
        seen[:, 1] = self._middle[1] - up * grow
        return seen

    def slopes(self, off: Off, places: Array, now: Array, free: tuple[OffDial, ...]) -> Array:
        """How far each dial takes the places, which are seen ``now``: px for each unit of it (2 n, dials)."""
        slopes = np.empty((now.size, len(free)))
        for column, dial in enumerate(free):
            slopes[:, column] = (self(_more(off, dial), places) - now).ravel() / _STEP[dial]
        return slopes


def _fitted(seen: _Seer, places: Array, here: Array, free: tuple[OffDial, ...], first: Off) -> _Fit:
    """Gauss and Newton's way to the dials, each point weighed by how near it comes (Tukey)."""
    values = {dial: getattr(first, dial) for dial in free}
    weights = np.ones(len(places))
    normal = np.eye(len(free))
    left = here - seen(Off(**values), places)
    across = np.zeros((left.size, len(free)))
    for turned in range(_ROUNDS):
        if turned in _LOOKS_ANEW:
            now = seen(Off(**values), places)
            across = seen.slopes(Off(**values), places, now, free)
        weighed = across * np.repeat(weights, 2)[:, None]
        normal = weighed.T @ across
        turn = np.linalg.lstsq(normal, weighed.T @ left.ravel(), rcond=1e-10)[0]
        values = {dial: float(values[dial] + step) for dial, step in zip(free, turn, strict=True)}
        left = here - seen(Off(**values), places)
        far = np.hypot(left[:, 0], left[:, 1])
        spread = max(_TO_DEVIATION * _middling(far), _LEAST_DEVIATION_PX)
        weights = np.clip(1.0 - (far / (_TUKEY * spread)) ** 2, 0.0, None) ** 2
        if np.abs(across @ turn).max() < _SETTLED_PX:
            break
    spare = max(float(weights.sum()) * 2.0 - len(free), 1.0)
    variance = float((np.repeat(weights, 2) * left.ravel() ** 2).sum()) / spare
    covariance: Array = np.asarray(np.linalg.pinv(normal) * variance, np.float64)
    return _Fit(free, Off(**values), covariance, left, weights)


def lined_up(match: Match, places: Array, here: Array, followed: int, *, zooms: bool = False) -> LinedUp:
    """Which dials of a layer's camera are off, from where points of the reference are in the live picture.

    Parameters
    ----------
    match : Match
        The layer, measured: where things stand, and what is planned.
    places : ndarray, shape (n, 3)
        Where points of the reference stand, from :func:`in_the_set`.
    here : ndarray, shape (n, 2)
        Where they are in the live picture, as large as the composite lays it, delivered px.
    followed : int
        How many points of the reference have texture.
    zooms : bool, default False
        Whether the lens is a zoom, so that another size is dialled rather than walked.

    Returns
    -------
    LinedUp
        Pan, tilt, roll and size first; a further dial only where what is near and what is far come apart.

    Raises
    ------
    NothingSharedError
        Where both pictures show too little of the same.

    References
    ----------
    pinhole, rotation, biweight, interaction_matrix

    Examples
    --------
    >>> from jungoptic.core.example import DELIVERY, HERO, MILL
    >>> match = Match(HERO, MILL, HERO, DELIVERY)
    >>> there = np.stack(np.meshgrid(np.arange(200.0, 1800, 160), np.arange(100.0, 1e3, 160)), -1)
    >>> there = there.reshape(-1, 2)
    >>> places = in_the_set(match, there)
    >>> here = off_view(match, Off(pan=0.4)).seen(places, 1920, 1080)
    >>> told = lined_up(match, places, here, len(there))
    >>> [(one.dial, round(one.amount, 3)) for one in told.dials], round(told.shift_px[0], 2)
    ([('pan', 0.4)], -20.02)
    """
    if len(places) < FEWEST_POINTS:
        raise NothingSharedError.at("", _NOTHING.format(points=len(places)))
    seen = _Seer(match)
    always: tuple[OffDial, ...] = ("pan", "tilt", "roll", "zoom" if zooms else "forward")
    some = slice(None, None, max(1, len(places) // _ENOUGH))
    near, gone = places[some], here[some]
    fit, fewest = (_fitted(seen, near, gone, free, Off()) for free in (OFF_DIALS, always))
    if fewest.hardly_worse_than(fit):
        fit = fewest
    while len(fit.free) > len(always):
        spare = min((dial for dial in fit.free if dial not in always), key=fit.sureness)
        kept = tuple(dial for dial in fit.free if dial != spare)
        fewer = _fitted(seen, near, gone, kept, fit.off.without(spare))
        if not fewer.hardly_worse_than(fit):
            break
        fit = fewer
    fit = _fitted(seen, places, here, fit.free, fit.off)
    most_left = _MOST_LEFT * match.delivery.width_px
    if fit.counted < FEWEST_POINTS or not fit.rest_px <= most_left:
        raise NothingSharedError.at("", _NOTHING.format(points=fit.counted))
    return _told(match, seen, places[fit.weights > 0.1], fit, followed)


_NOTHING = (
    "Only {points} points are in both pictures: there is nothing to measure by here. Line it up by eye, by"
    " the lines that are drawn, or hold a picture that shows the same."
)


def _told(match: Match, seen: _Seer, places: Array, fit: _Fit, followed: int) -> LinedUp:
    whole = seen(fit.off, places)
    gone = whole - seen(Off(), places)
    dials = []
    for dial in fit.free:
        takes = whole - seen(fit.off.without(dial), places)
        px = float(np.percentile(np.hypot(takes[:, 0], takes[:, 1]), _GREATEST_PCT))
        if px >= _SEEN_PX and abs(getattr(fit.off, dial)) > _TWICE * fit.deviation(dial):
            dials.append(DialOff(dial, getattr(fit.off, dial), _TWICE * fit.deviation(dial), px))
    middle = _middle(match, places)
    now, was = seen(fit.off, middle), seen(Off(), middle)
    across = seen.slopes(fit.off, middle[:1], now[:1], fit.free)
    spread = across @ fit.covariance @ across.T
    arm, old = now[1] - now[0], was[1] - was[0]
    turn = math.degrees(math.atan2(arm[1], arm[0]) - math.atan2(old[1], old[0]))
    return LinedUp(
        shift_px=(float(now[0, 0] - was[0, 0]), float(now[0, 1] - was[0, 1])),
        within_px=_TWICE * math.sqrt(max(float(np.trace(spread)), 0.0)),
        turn_deg=turn,
        size_pct=100.0 * (float(np.hypot(*arm) / np.hypot(*old)) - 1.0),
        off_px=float(np.percentile(np.hypot(gone[:, 0], gone[:, 1]), _GREATEST_PCT)),
        points=fit.counted,
        followed=followed,
        rest_px=fit.rest_px,
        dials=tuple(sorted(dials, key=lambda each: -each.px)),
    )


def _more(off: Off, dial: OffDial) -> Off:
    values = {name: getattr(off, name) for name in OFF_DIALS}
    return Off(**{**values, dial: values[dial] + _STEP[dial]})


def _middle(match: Match, places: Array) -> Array:
    """What is seen in the middle of the frame, and a little to its right, as far as the points are."""
    view = off_view(match, Off())
    eye = view.eye
    far = float(np.median((places - eye) @ view.turn[2]))
    flat = np.array([(0.0, 0.0, 1.0), (1.0 / view.focal_px, 0.0, 1.0)])
    middle: Array = eye + far * (flat @ view.turn)
    return middle
