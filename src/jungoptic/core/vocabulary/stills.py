"""What a photograph of the set is kept for, so that the next take begins as the last one ended."""

from __future__ import annotations

from typing import Literal

StillOf = Literal["set", "level", "pose", "moved", "frame", "sheet"]

STILLS: dict[StillOf, str] = {
    "set": "the set as it stands",
    "level": "last liquid level",
    "pose": "last pose",
    "moved": "what was moved",
    "frame": "through the taking camera",
    "sheet": "the lit sheet",
}


def usual_still(kind: str) -> StillOf:
    """What a photograph of a kind of layer is for, as a rule.

    Parameters
    ----------
    kind : str
        Of the layer: a key of :data:`KINDS`.

    Returns
    -------
    str
        A key of :data:`STILLS`.

    Examples
    --------
    >>> usual_still("frame_by_frame"), usual_still("model")
    ('pose', 'set')
    """
    return "pose" if kind == "frame_by_frame" else "set"
