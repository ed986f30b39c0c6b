"""The steps in which a layer is filmed: what is called out, for how long, while the camera rolls or not."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from ..match.stack import Stack
from ..vocabulary import ACTED

CLEAN_PLATE_S = 30.0
"""Long enough to take any frame of it, and an average. Source: protocol_times."""
_SLATE_S, _REFERENCE_S, _POSE_S, _SETTLE_S, _TAIL_S = 3.0, 4.0, 2.0, 5.0, 3.0
_THROWS, _THROW_S = 3, 6.0
_FLASHES, _FLASH_S = 3, 3.0
_USUAL_FRAMES = 120
_LONGEST_S = 3600.0
_SHOWN = {
    "ball": "The ball, where the subject stands",
    "chart": "The chart, square to the lens",
    "tape": "The tape, along the ground",
}
_PASS = frozenset({"shadow_pass", "reflection_pass", "focus_pass"})
_NOT_ROLLED = frozenset({"frame_by_frame"})


@dataclass(frozen=True, slots=True)
class ProtocolStep:
    """``says`` is called out, ``seconds`` long; 0 waits for a touch. The camera is ``rolling`` meanwhile, or
    not.
    """

    key: str
    says: str
    seconds: float
    rolling: bool


def protocol(stack: Stack, position: int) -> list[ProtocolStep]:
    """The steps of a take, in the order in which one person can do them alone.

    References come first, in the light of the take; a clean plate is rolled before anybody moves the camera;
    poses are held at both ends, so that a cut or a blend has room.

    Parameters
    ----------
    stack : Stack
        The whole shot.
    position : int
        Of the layer in it.

    Returns
    -------
    list of ProtocolStep
        Empty for what is not filmed in one go: pictures, frame by frame.

    References
    ----------
    protocol_times, references_film, lock_off

    Examples
    --------
    >>> from jungoptic.core.example import STACK
    >>> [step.says for step in protocol(STACK, 1)][:2]
    ['Roll the camera', 'Slate']
    """
    member = stack.members[position]
    if member.setup is None or member.layer.kind in _NOT_ROLLED:
        return []
    return list(_steps(stack, position))


def _steps(stack: Stack, position: int) -> Iterator[ProtocolStep]:
    member = stack.members[position]
    layer, setup = member.layer, member.setup
    assert setup is not None
    needs_plate = stack.needs_clean_plate(member) and layer.kind != "clean_plate"
    if needs_plate or layer.kind in {"split", "clean_plate"} | _PASS:
        yield _step("lock", "From here on nobody touches camera, focus, stop or white balance")
    yield _step("roll", "Roll the camera")
    yield _step("slate", "Slate", _SLATE_S)
    for reference in setup.references:
        yield _step(reference, _SHOWN[reference], _REFERENCE_S)
    frames = stack.delivery.length_frames or _USUAL_FRAMES
    length_s = min(_LONGEST_S, frames / setup.capture_fps)
    if layer.kind == "clean_plate":
        yield _step("plate", "Clean plate: everybody out of the frame", CLEAN_PLATE_S)
    elif layer.kind == "light_pass":
        yield _step("dark", "Dark, all other light out", _TAIL_S)
        for number in range(1, _FLASHES + 1):
            yield _step(f"flash{number}", f"Flash now, {number} of {_FLASHES}", _FLASH_S)
    elif layer.kind == "black_element":
        yield _step("settle", "Empty black, nobody moves", _SETTLE_S)
        for number in range(1, _THROWS + 1):
            yield _step(f"throw{number}", f"Throw now, {number} of {_THROWS}", max(length_s, _THROW_S))
    else:
        if needs_plate:
            yield _step("plate", "Clean plate: everybody out of the frame", CLEAN_PLATE_S)
        if layer.kind in ACTED:
            yield _step("places", "Places")
            yield _step("pose", "Hold the pose", _POSE_S)
            yield _step("action", "Action", length_s)
            yield _step("pose_after", "Hold the pose", _POSE_S)
        else:
            yield _step("settle", "Nobody walks, everything settles", _SETTLE_S)
            yield _step("action", "Go", length_s)
            yield _step("tail", "Keep rolling", _TAIL_S)
    yield _step("cut", "Cut")
    if not setup.references and layer.kind in ACTED | {"model", "rig"}:
        yield _step(
            "ask_references", "No ball or chart was planned: film one now, before the light is struck"
        )


def _step(key: str, says: str, seconds: float = 0.0) -> ProtocolStep:
    rolls = key not in {"lock", "roll", "ask_references"}
    return ProtocolStep(key, says, round(seconds, 2), rolls)
