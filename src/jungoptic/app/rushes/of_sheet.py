"""What a telephone's photograph of a lit sheet tells, by the set-up that it is of.

It knows nothing of Django.
"""

from __future__ import annotations

import math
from pathlib import Path
from typing import Any

from jungoptic.app.rushes.asked import WIDEST_PX, Asked, Opened
from jungoptic.app.rushes.rows import told_of
from jungoptic.core.errors import InputError
from jungoptic.core.match import Layer, SetUp
from jungoptic.core.measure import Curve
from jungoptic.core.rushes import SheetPhotographed, Sized, ball_photographed, key_says, sheet_photographed

_NO_BALL = "The ball that is marked cannot be read: {why}. Mark its rim closely."


def sheet_read(what: dict[str, Any]) -> dict[str, Any]:
    """What a photograph tells: ``told`` as a row of it is kept, with corners, lamps, key and ball.

    Raises InputError.
    """
    opened = Opened.of(Asked(Path(what["path"]), curve=Curve("srgb")))
    setup, layer = SetUp.model_validate(what["setup"]), Layer.model_validate(what["layer"])
    signal = opened.signal(opened.look(), WIDEST_PX)
    light = opened.curve.light(signal)
    opened.assumes = ["Kept by the sRGB curve."]
    try:
        seen = sheet_photographed(setup, light, signal, what.get("corners") or None, what.get("crossed"))
    except ValueError as error:
        text = str(error)
        raise InputError.at("file", f"{text[:1].upper()}{text[1:]}.") from error
    sized = opened.sized(WIDEST_PX)
    told = told_of("sheet", seen, sized, opened)
    told |= {"corners": seen.corners, "lamps": _lamps(seen), "keys": _keys(seen), "ball": None}
    if places := what.get("ball"):
        (x, y), (rim_x, rim_y) = ((each[0] * sized.width, each[1] * sized.height) for each in places)
        circle = (x - 0.5, y - 0.5, math.hypot(rim_x - x, rim_y - y))
        try:
            told["ball"] = told_of("ball", ball_photographed(setup, layer, light, circle), sized, opened)
        except ValueError as error:
            raise InputError.at("ball", _NO_BALL.format(why=error)) from error
    return {"told": told}


def _keys(seen: SheetPhotographed) -> str:
    """What the key comes to, in a sentence; "" where nobody stands before the sheet."""
    return key_says(seen.key, Sized(*seen.size), edge=False) if seen.key else ""


def _lamps(seen: SheetPhotographed) -> list[dict[str, Any]]:
    """Every lamp with what it gives against the kit, and how it is to be turned; none where they do not tell
    the picture.
    """
    if seen.lamps is None or not seen.lamps.tells:
        return []
    turns = {turn.name: turn.text for turn in seen.lamps.turns}
    return [
        {"name": lamp.name, "text": lamp.text, "differs": lamp.differs, "to_do": turns.get(lamp.name, "")}
        for lamp in seen.lamps.lamps
    ]
