"""Where the figure stands in the picture of its own camera, as it is planned."""

from __future__ import annotations

from collections.abc import Mapping

import numpy as np

from ..match import Match, Moment, Off, off_view
from ..match.view import placed_m
from ..plan import gate_in_frame
from ..stage.drawings import parts_of
from .against import Box
from .going import Carries, Goes

_MM = 1000.0


def delivered_of(match: Match, width_px: int) -> float:
    """How many delivered px one px of a layer's photographs is.

    Parameters
    ----------
    match : Match
        The layer, measured, with its set-up.
    width_px : int
        Of a photograph that shows the whole gate.

    Returns
    -------
    float
        By the extraction and the resize of the composite.

    References
    ----------
    pinhole

    Examples
    --------
    >>> from jungoptic.core.example import DELIVERY, HERO, MILL
    >>> delivered_of(Match(HERO, MILL, HERO, DELIVERY), 960)
    2.0
    """
    return gate_in_frame(match)[2] / width_px


def px_of_mm(match: Match) -> float:
    """How far a millimetre of the set goes across the delivered frame, at a layer's front edge.

    Parameters
    ----------
    match : Match
        The layer, measured, with its set-up.

    Returns
    -------
    float
        Delivered px.

    References
    ----------
    pinhole

    Examples
    --------
    >>> from jungoptic.core.example import DELIVERY, HERO, MILL, MODEL
    >>> round(px_of_mm(Match(HERO, MILL, MODEL, DELIVERY)), 2)
    2.96
    """
    view = off_view(match, Off())
    # what a view looks at is counted from the layer's front edge
    return view.focal_px * match.layer.scale / _MM / -float(view.eye[2])


def picture_goes(match: Match, moved_mm: Mapping[Carries, float]) -> Goes:
    """Where a camera's own way takes the picture of its set.

    Parameters
    ----------
    match : Match
        The layer, measured, with its set-up.
    moved_mm : mapping of str to float
        How far the camera went each way, mm of the set; what is animated does not count.

    Returns
    -------
    Goes
        At the layer's front edge: nearer things go farther, what lies behind it less far.

    Raises
    ------
    ValueError
        Where the camera would stand in the layer.

    References
    ----------
    pinhole

    Examples
    --------
    >>> from jungoptic.core.example import DELIVERY, HERO, MILL, MODEL
    >>> goes = picture_goes(Match(HERO, MILL, MODEL, DELIVERY), {"camera_right": 2.0, "figure": 9.0})
    >>> round(goes.right_px, 2), goes.down_px, goes.size
    (-5.93, 0.0, 1.0)
    """
    px = px_of_mm(match)
    away_mm = _MM * -float(off_view(match, Off()).eye[2]) / match.layer.scale
    left_mm = away_mm - moved_mm.get("camera_forward", 0.0)
    if left_mm <= 0.0:
        raise ValueError("the camera would stand in what it films")
    size = away_mm / left_mm
    right = -px * moved_mm.get("camera_right", 0.0) * size + 0.0
    down = px * moved_mm.get("camera_up", 0.0) * size
    return Goes(right, down, size)


def planned_figure(match: Match, frame: int, length_frames: int) -> Box:
    """The box around a layer in its own camera's whole picture, at a frame of the shot.

    Parameters
    ----------
    match : Match
        The layer, measured, with its set-up.
    frame : int
        Of the shot, from 1.
    length_frames : int
        Of the shot.

    Returns
    -------
    tuple of (float, float, float, float)
        Left, top, right, bottom, shares of the picture; all of it where the layer is not seen.

    References
    ----------
    pinhole

    Examples
    --------
    >>> from jungoptic.core.example import DELIVERY, HERO, MILL
    >>> [round(side, 2) for side in planned_figure(Match(HERO, MILL, HERO, DELIVERY), 1, 96)]
    [0.46, 0.81, 0.54, 0.85]
    """
    size = gate_in_frame(match)[2:]
    moment = Moment.at(min(max(frame, 1), length_frames) - 1, length_frames, match.delivery.move)
    come = placed_m(match.layer, moment)
    corners = [part.outline + come for part in parts_of(match.layer)]
    seen = [each for each in off_view(match, Off()).project(corners, *size) if len(each)]
    if not seen:
        return 0.0, 0.0, 1.0, 1.0
    points = np.clip(np.concatenate(seen) / size, 0.0, 1.0)
    (left, top), (right, bottom) = points.min(axis=0), points.max(axis=0)
    return float(left), float(top), float(right), float(bottom)
