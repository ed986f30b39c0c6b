"""A production's file over the wire."""

from __future__ import annotations

from jungoptic.app.base.schemas import Written


class CameInOut(Written):
    """``left_out``: what this server knows nothing of, and did not bring in."""

    title: str
    shots: int
    takes: int
    pictures: int
    people: int
    left_out: list[str]
