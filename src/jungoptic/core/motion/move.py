"""A shot's camera move, eased: how far it has come at a frame, and how fast it is at its fastest."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Annotated, Literal

import numpy as np
from pydantic import Field, model_validator

from .. import quantities as q
from ..errors import refuse
from .path import Array, Path

MoveKind = Literal["none", "pan", "tilt", "roll", "slide", "boom", "push", "arc", "zoom"]
_UNITS: dict[str, str] = {
    "pan": "°",
    "tilt": "°",
    "roll": "°",
    "slide": "m",
    "boom": "m",
    "push": "m",
    "arc": "°",
    "zoom": "%",
}
_AXES = {"slide": 0, "boom": 1, "push": 2}

NOTHING = 1e-9  # a move smaller than this is none


class Move(q.Record):
    """One move of the hero's camera, full size.

    Pan, slide and arc to the right, tilt and boom up, a roll that leans to the right, push in and zoom in are
    positive. An arc goes round the point ``round_m`` before the lens and keeps it in the middle.
    """

    kind: Annotated[MoveKind, Field(title="Camera move")] = "none"
    amount: Annotated[
        float,
        q.quantity(
            "How far",
            "",
            "Degrees of a pan, tilt, roll or arc, full-size metres of a slide, boom or push, % of focal"
            " length of a zoom.",
            ge=-1000,
            le=1000,
        ),
    ] = 0.0
    start_frame: Annotated[int, q.quantity("Starts at frame", "", ge=0, le=1_000_000)] = 0
    end_frame: Annotated[int, q.quantity("Ends at frame", "", ge=1, le=1_000_000)] = 24
    ease_in_frames: Annotated[int, q.quantity("Eases in over", "frames", ge=0, le=1_000_000)] = 0
    ease_out_frames: Annotated[int, q.quantity("Eases out over", "frames", ge=0, le=1_000_000)] = 0
    shake_px: Annotated[
        float, q.quantity("Hand-held by", "px", "How far it strays to each side.", ge=0, le=1000)
    ] = 0.0
    shake_hz: Annotated[float, q.quantity("Strays so often", "Hz", ge=0, le=20)] = 2.0
    round_m: Annotated[
        float | None,
        q.quantity("Round a point at", "m", "Of an arc; empty = what the hero films.", gt=0, le=1e6),
    ] = None

    @model_validator(mode="after")
    def _fits(self) -> Move:
        if self.end_frame <= self.start_frame:
            raise refuse(
                "end_frame",
                f"The move must end after frame {self.start_frame}, where it starts; {self.end_frame} was"
                " given.",
            )
        if self.ease_in_frames + self.ease_out_frames > self.end_frame - self.start_frame:
            raise refuse(
                "ease_out_frames",
                f"Both eases together must fit in the {self.end_frame - self.start_frame} frames of the"
                " move.",
            )
        return self

    @model_validator(mode="after")
    def _leaves_a_picture(self) -> Move:
        if self.kind == "zoom" and self.amount <= -99.0:
            raise refuse("amount", f"A zoom out must stay above −99 %; {self.amount:g} % was given.")
        return self

    @property
    def unit(self) -> str:
        """Unit of its amount: "°", "m", "%", or "" without a move."""
        return _UNITS.get(self.kind, "")

    @property
    def shows_depth(self) -> bool:
        """Whether near and far slide against each other in it: such a move must be made, at 1:s; a turn or a
        zoom can be laid on afterwards.
        """
        return not self.still and self.kind in ("slide", "boom", "push", "arc")

    @property
    def still(self) -> bool:
        """Whether the camera stands."""
        return self.kind == "none" or abs(self.amount) < NOTHING

    @property
    def _cruise(self) -> float:
        """Frames that the move would take at its full speed: the eases go at half of it on average."""
        return (self.end_frame - self.start_frame) - (self.ease_in_frames + self.ease_out_frames) / 2.0

    @property
    def fastest_per_frame(self) -> float:
        """Largest amount that is covered between two delivered frames, in the move's unit (always
        positive).
        """
        return 0.0 if self.still else abs(self.amount) / self._cruise

    def share_at(self, frame: float) -> float:
        """Share of the move that is done at a frame: speed rises and falls in a straight line.

        Parameters
        ----------
        frame : float
            Frame of the shot, from 0; between frames too.

        Returns
        -------
        float
            0 before the move, 1 after it.

        References
        ----------
        eased

        Examples
        --------
        >>> Move(kind="pan", amount=10, end_frame=48).share_at(24)
        0.5
        """
        t = min(max(frame, self.start_frame), self.end_frame) - self.start_frame
        long, ease_in, ease_out = self.end_frame - self.start_frame, self.ease_in_frames, self.ease_out_frames
        if t < ease_in:
            done = t * t / (2.0 * ease_in)
        elif t <= long - ease_out:
            done = t - ease_in / 2.0
        else:
            left = long - t
            done = self._cruise - left * left / (2.0 * ease_out) if ease_out else self._cruise
        return done / self._cruise

    def done_at(self, frame: float) -> float:
        """Amount that is done at a frame.

        Parameters
        ----------
        frame : float
            Frame of the shot, from 0; between frames too.

        Returns
        -------
        float
            In the move's own unit.

        References
        ----------
        eased

        Examples
        --------
        >>> Move(kind="pan", amount=10, end_frame=48).done_at(12)
        2.5
        """
        return 0.0 if self.still else self.amount * self.share_at(frame)

    def path(self, shares: Sequence[float] | Array, radius_m: float = 0.0) -> Path:
        """What the move has done to the hero's camera at several moments.

        Parameters
        ----------
        shares : sequence of float or ndarray, shape (t,)
            Shares of the move that are done, 0 to 1.
        radius_m : float, default 0
            How far before the lens the point stands that an arc goes round, where the move itself does not
            say.

        Returns
        -------
        Path
            Arrays, shape (t,).

        References
        ----------
        rotation

        Examples
        --------
        >>> Move(kind="zoom", amount=50).path([0.0, 1.0]).zoom.tolist()
        [1.0, 1.5]
        """
        share = np.asarray(shares, dtype=np.float64)
        done, none = (0.0 if self.still else self.amount) * share, np.zeros_like(share)
        return Path(
            share,
            done if self.kind == "pan" else -done if self.kind == "arc" else none,
            done if self.kind == "tilt" else none,
            done if self.kind == "roll" else none,
            1.0 + (done / 100.0 if self.kind == "zoom" else none),
            _AXES.get(self.kind),
            (self.round_m or radius_m) if self.kind == "arc" else 0.0,
            not self.still and self.kind in ("pan", "tilt", "roll", "arc"),
        )
