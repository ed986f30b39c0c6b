"""Every row that can be measured of a file, by its name; what one came to, as JSON."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import asdict
from typing import Any

import cv2
import numpy as np
import numpy.typing as npt

from jungoptic.app.rushes import of_clip, of_picture
from jungoptic.app.rushes.asked import Asked, Opened
from jungoptic.app.rushes.of_picture import Came
from jungoptic.core.errors import InputError
from jungoptic.core.measure import Amount
from jungoptic.core.rushes import Sized, as_measurement, in_words

MOST_VALUES = 4000

ROWS: dict[str, Callable[[Asked], Came]] = {
    "evenness": of_picture.evenness,
    "key": of_picture.key,
    "still": of_picture.still,
    "change": of_picture.change,
    "flicker": of_clip.flicker,
    "grain": of_clip.grain,
    "edge": of_picture.edge,
    "movement": of_clip.movement,
    "seam": of_clip.seam,
    "patch": of_clip.patch,
    "matte-hours": of_clip.matte_hours,
    "ball": of_picture.ball,
    "grey": of_picture.grey,
    "photograph": of_picture.photograph,
    "clip": of_clip.clip,
    "black": of_clip.black,
    "light": of_clip.light,
    "wobble": of_clip.wobble,
}

OF_PICTURES = {name for name, row in ROWS.items() if row.__module__ == of_picture.__name__}
TITLES = {
    "evenness": "How even the backing is",
    "key": "Whether it keys",
    "still": "Whether the camera stood still",
    "change": "What changed",
    "flicker": "Flicker",
    "grain": "Grain",
    "edge": "Sharpness of an edge",
    "movement": "Movement",
    "seam": "The best split line",
    "patch": "The frame that covers best",
    "matte-hours": "Hours by hand",
    "ball": "Where the light comes from",
    "grey": "Exposure and white",
    "photograph": "Lens, height and tilt",
    "clip": "All frames",
    "black": "An element on black",
    "light": "Light over the frames",
    "wobble": "Wobble",
}
BY_ITSELF = ("still", "change")
"""Rows that are measured of an action and its clean plate without anybody asking."""
OF_LEVELS = {"grain"}
"""Rows whose series do not go over the frames."""
AGAINST = {
    "change": "Choose what it is held against: its clean plate, or another take.",
    "seam": "Choose the other half.",
    "matte-hours": "Choose the clean plate.",
}
"""Rows that need a second recording, and what is said where there is none."""
MARKED_BY = {"edge": ("edge",), "grain": ("grain",), "grey": ("card",), "ball": ("mirror", "ball")}
"""Rows of which each of two recordings is looked at where its own set-up has it marked, by kind of mark."""
MARKS = {
    "backing": (2, 2),
    "still": (2, 2),
    "edge": (2, 2),
    "grain": (2, 2),
    "light": (2, 2),
    "point": (2, 2),
    "patch": (2, 2),
    "line": (2, 40),
    "zone": (3, 40),
    "mirror": (2, 2),
    "ball": (2, 2),
    "card": (2, 2),
    "chart": (4, 4),
}
"""What is marked for a set-up, with how many places: two opposite corners of a region, a circle's middle and
a place on its rim, the corners of a chart.
"""


def measure(what: str, asked: Asked) -> dict[str, Any]:
    """What a file comes to: value, unit and error of the amount that judges, every amount, a sentence, what
    was assumed, what is drawn over it, what goes over its frames.

    Raises InputError.
    """
    row = ROWS.get(what)
    if row is None:
        raise InputError.at("what", f"“{what}” is not measured: choose one of {', '.join(ROWS)}.")
    try:
        result, sized, opened = row(asked)
    except InputError:
        raise
    except (ValueError, cv2.error) as error:
        text = (
            str(error) if isinstance(error, ValueError) else "its pictures cannot be held against each other"
        )
        raise InputError.at("file", text[:1].upper() + text[1:] + ".") from error
    return {**told_of(what, result, sized, opened), "file": asked.file.name}


def told_of(what: str, result: Any, sized: Sized, opened: Opened) -> dict[str, Any]:
    """What a row came to, as it is told and kept."""
    seen = as_measurement(result, sized)
    first = seen.amounts[0] if seen.amounts else None
    before: list[float | None] = [] if what in OF_LEVELS else [None] * opened.begins
    return {
        "what": what,
        "says": in_words(result, sized),
        **({"value": first.value, "unit": first.unit, "error": first.off} if first else {}),
        "amounts": [_amount(each) for each in seen.amounts],
        "assumptions": [*opened.assumes, *seen.assumes],
        "overlays": [asdict(each) for each in seen.overlays],
        "field": [[round(v, 4) if math.isfinite(v) else None for v in row] for row in seen.field],
        "series": [
            {
                **asdict(each),
                "values": before + [round(v, 6) if math.isfinite(v) else None for v in each.values],
            }
            for each in seen.series
        ],
    }


def thinned(told: dict[str, Any]) -> dict[str, Any]:
    """With no more than some thousand values a series: of so many frames that follow each other the one that
    is farthest from their middle stands for all of them, ``every`` says how many.
    """
    for series in told["series"]:
        values = [math.nan if value is None else value for value in series["values"]]
        series["every"] = every = -(-len(values) // MOST_VALUES)
        if every > 1:
            runs = [np.array(values[begin : begin + every]) for begin in range(0, len(values), every)]
            series["values"] = [_farthest(run) for run in runs]
    return told


def _farthest(run: npt.NDArray[np.float64]) -> float | None:
    known = run[np.isfinite(run)]
    return float(known[np.abs(known - np.median(known)).argmax()]) if known.size == run.size else None


def _amount(amount: Amount) -> dict[str, Any]:
    told = asdict(amount)
    told["error"] = told.pop("off")
    return told
