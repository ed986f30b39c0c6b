"""Many set-ups at once: candidates that differ in some of their settings, measured in one go."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import numpy as np

from ..light import exposure, mains
from .layer import Layer
from .pose import Array, Number
from .records import SetUp

PITCH = {"4:4:4": 1.0, "4:2:2": 2.0, "4:2:0": 2.0}
"""Delivered pixels of luma for each of colour, along the row, by the sampling of the recording."""


class Many(SetUp):
    """A set-up of which some settings are arrays, one value for each of v candidates.

    It stands wherever a set-up is measured, never where one is kept: nothing of it is checked. ``focusing``
    may vary as :data:`~..optics.frame.MOVES`, ``sampling`` as :data:`PITCH`.
    """

    resizes: Any = None
    pitch: Any = None

    @classmethod
    def of(cls, setup: SetUp, resize: Number, **varied: Any) -> Many:
        """Candidates that are ``setup`` but for what varies.

        Parameters
        ----------
        setup : SetUp
            What they have in common.
        resize : float or ndarray, shape (v,)
            Of the layer in the composite.
        **varied : ndarray, shape (v,)
            Values by the set-up's fields.

        Returns
        -------
        Many
            As many as the longest array.

        Examples
        --------
        >>> from jungoptic.core.example import DELIVERY, HERO, MILL, MODEL
        >>> from jungoptic.core.match import Match
        >>> stops = Many.of(MODEL, 1.0, f_number=np.array([8.0, 16.0]))
        >>> Match(HERO, MILL, stops, DELIVERY).amounts["focus_far"].round(1).tolist()
        [4.0, 1.8]
        """
        pitch = varied.pop("pitch", PITCH[setup.sampling])
        values = dict(setup) | varied
        if "gate_width_mm" in varied:
            gate = varied["gate_width_mm"]
            extraction = setup.extraction_width_mm
            values["extraction_width_mm"] = gate if extraction is None else np.minimum(extraction, gate)
        return cls.model_construct(**values, resizes=resize, pitch=pitch)

    @property
    def extracted_mm(self) -> Any:
        """Width of gate that ends in the delivery, mm."""
        return self.gate_width_mm if self.extraction_width_mm is None else self.extraction_width_mm


def resize_of(setup: SetUp, layer: Layer) -> float:
    """What the composite resizes the layer by."""
    return setup.resizes if isinstance(setup, Many) else layer.resize


def pitch_of(setup: SetUp) -> float:
    """Delivered pixels of luma for each of colour, along the row."""
    return setup.pitch if isinstance(setup, Many) else PITCH[setup.sampling]


_FEW = 64  # to find the distinct ones of so few takes longer than to work out all of them


def for_each(work: Callable[..., float], *values: Number) -> Any:
    """What a formula for numbers gives, for each of many where any value is an array."""
    if not any(isinstance(value, np.ndarray) for value in values):
        return work(*values)
    rows: Array = np.stack([np.ravel(value) for value in np.broadcast_arrays(*values)], axis=1)
    if len(rows) <= _FEW:
        return np.array([work(*row) for row in rows.tolist()])
    distinct, which = np.unique(rows, axis=0, return_inverse=True)
    return np.array([work(*row) for row in distinct.tolist()])[np.ravel(which)]


def flicker_stops(setup: SetUp) -> float:
    """What is left of the mains in the picture, between frames or between rows: the worse of both, stops."""

    def left(angle_deg: float, rate_fps: float, readout_ms: float) -> float:
        time_s = exposure.exposure_time_s(angle_deg, rate_fps)
        depth, hz = setup.ripple_depth, setup.mains_hz
        beats = mains.ripple_amplitude(hz, rate_fps, time_s, depth)
        bands = mains.band_amplitude(hz, readout_ms / 1000.0, time_s, depth)
        return mains.ripple_stops(max(beats, bands))

    stops: float = for_each(left, setup.shutter_angle_deg, setup.capture_fps, setup.readout_ms)
    return stops
