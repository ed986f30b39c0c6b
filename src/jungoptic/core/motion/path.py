"""Where a move has taken a camera at several moments, as arrays: what the comparison projects through."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np
import numpy.typing as npt

Array = npt.NDArray[np.float64]


@dataclass(frozen=True, slots=True)
class Path:
    """A move at several moments, arrays of shape (t,), against where the camera started.

    ``axis`` is where a travelling camera goes (0 right, 1 up, 2 forward; None where it stays), ``radius_m``
    how far before it the point stands that an arc goes round. ``zoom`` is the focal length over that at the
    start, ``turns`` whether it pans, tilts or rolls at all.
    """

    share: Array
    pan_deg: Array
    tilt_deg: Array
    roll_deg: Array
    zoom: Array
    axis: int | None = None
    radius_m: float = 0.0
    turns: bool = False

    @property
    def travels(self) -> bool:
        """Whether the entrance pupil goes anywhere."""
        return self.axis is not None or self.radius_m > 0.0

    def unturned(self) -> Path:
        """The same moments for a camera that neither turns nor zooms.

        Returns
        -------
        Path
            Its travel stays.

        Examples
        --------
        >>> from jungoptic.core.motion import Move
        >>> Move(kind="pan", amount=10).path([0.0, 1.0]).unturned().pan_deg.tolist()
        [0.0, 0.0]
        """
        none = np.zeros_like(self.share)
        return replace(self, pan_deg=none, tilt_deg=none, roll_deg=none, zoom=none + 1.0, turns=False)

    def offset_m(self, travel: float | Array) -> tuple[Array, Array, Array]:
        """How far the entrance pupil has come.

        Parameters
        ----------
        travel : float or ndarray, shape (v, 1)
            Travel of the whole move: metres of a slide, boom or push, degrees of an arc.

        Returns
        -------
        right_m : ndarray, shape (v, t)
            To the right, metres.
        up_m : ndarray, shape (v, t)
            Up, metres.
        forward_m : ndarray, shape (v, t)
            Forward, metres.

        References
        ----------
        rotation

        Examples
        --------
        >>> from jungoptic.core.motion import Move
        >>> arc = Move(kind="arc", amount=90).path([0.0, 1.0], radius_m=4.0)
        >>> [axis.round(3).tolist() for axis in arc.offset_m(90.0)]
        [[0.0, 4.0], [0.0, 0.0], [0.0, 4.0]]
        """
        none = np.zeros_like(self.share)
        if self.radius_m:
            turned = np.radians(travel * self.share)
            return self.radius_m * np.sin(turned), none, self.radius_m * (1.0 - np.cos(turned))
        come = travel * self.share
        right, up, forward = (come if axis == self.axis else none for axis in range(3))
        return right, up, forward
