"""Every row that can be measured of a file, by its name; what one came to, as JSON."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import asdict
from typing import Any

import cv2

from jungoptic.app.rushes import of_clip, of_picture
from jungoptic.app.rushes.asked import Asked
from jungoptic.app.rushes.of_picture import Came
from jungoptic.core.errors import InputError
from jungoptic.core.measure import Amount
from jungoptic.core.rushes import as_measurement, in_words

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
    seen = as_measurement(result, sized)
    first = seen.amounts[0] if seen.amounts else None
    return {
        "what": what,
        "file": asked.file.name,
        "says": in_words(result, sized),
        **({"value": first.value, "unit": first.unit, "error": first.off} if first else {}),
        "amounts": [_amount(each) for each in seen.amounts],
        "assumptions": [*opened.assumes, *seen.assumes],
        "overlays": [asdict(each) for each in seen.overlays],
        "series": [
            {**asdict(each), "values": [round(v, 6) if math.isfinite(v) else None for v in each.values]}
            for each in seen.series
        ],
    }


def _amount(amount: Amount) -> dict[str, Any]:
    told = asdict(amount)
    told["error"] = told.pop("off")
    return told
