"""In which order plates are filmed, why then, and what is ticked off, by their kind, where no recipe says it.
Kind: common practice.
"""

from __future__ import annotations

_LOCKED = ("everything locked: tripod, focus, exposure, white balance, ISO, light",)
CHECKS: dict[str, tuple[str, ...]] = {
    "clean_plate": ("same set-up, at once", "20 to 30 s, nobody in it"),
    "live": ("height, tilt and light written down",),
    "model": ("ball, chart and tape in its light", "camera height by the scale"),
    "frame_by_frame": ("ball and chart in its light", "stand clear the same way each frame"),
    "rig": (*_LOCKED, "rig on the side away from the lens"),
    "split": (*_LOCKED, "stays on its side of the line"),
    "live_element": ("movement inside the even part of the sheet", "contact shadow kept"),
    "shadow_pass": ("same frame, dark",),
    "light_pass": ("same set-up, only the lamp that the thing throws",),
    "reflection_pass": ("same set-up",),
}
UNSAID = 2**62  # after all that a recipe speaks of
# In which order kinds are filmed where no recipe says it: what cannot be relit first, what follows from it
# later, pictures last.
_KINDS = (
    "live",
    "split",
    "rig",
    "clean_plate",
    "live_element",
    "shadow_pass",
    "light_pass",
    "reflection_pass",
    "focus_pass",
    "model",
    "frame_by_frame",
)
FILMED_FIRST = {kind: place for place, kind in enumerate(_KINDS)}
WHY = {
    "live": "It cannot be lit or moved: everything else follows it.",
    "split": "In one locked-off frame, one half after the other.",
    "rig": "While everything stands.",
    "clean_plate": "In the set-up that it cleans, at once.",
    "live_element": "To the light of the plate.",
    "shadow_pass": "In the set-up of what throws it.",
    "light_pass": "In the set-up of what it lights, everything else dark.",
    "reflection_pass": "In the set-up of what it lies on.",
    "focus_pass": "In the same set-up, before anything is moved.",
    "model": "Height, lens and light follow from what was really shot.",
    "frame_by_frame": "To the plate's light, with its timing beside it.",
}
WHY_PICTURE = "A picture: chosen or made when the plates are there."
