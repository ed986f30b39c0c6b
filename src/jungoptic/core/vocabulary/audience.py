"""What the audience should see, and what a way of making it needs: the two questions of the guide."""

from __future__ import annotations

SEES: dict[str, str] = {
    "place": "a place that is not there, or larger than it is",
    "event": "something breaks, floods, bursts or falls",
    "danger": "somebody in danger",
    "twice": "one person twice, or many from few",
    "gone": "somebody or something vanishes or changes",
    "alive": "a thing that moves by itself",
    "creature": "a creature or a giant",
    "sky": "something in the sky",
    "light": "fire, light or night",
    "time": "time running fast or slow",
    "screen": "a picture on a screen or in a frame",
    "drive": "a journey",
}
NEEDS: dict[str, str] = {
    "model": "a model and somebody who builds it",
    "backing": "a coloured sheet and lamps for it",
    "locked camera": "a camera that stands still",
    "animator": "an animator's days",
    "high frame rate": "a camera that runs faster than delivery",
    "painter": "somebody who paints",
}

IN_SHOT: dict[str, str] = {
    "grown": "grown people",
    "children": "children",
    "animals": "animals",
    "frail": "frail guests",
    "nobody": "nobody",
}
