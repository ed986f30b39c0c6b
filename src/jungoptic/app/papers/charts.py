"""What is printed to measure with: at its true size, with lines to check that by."""

from __future__ import annotations

import base64
from collections.abc import Callable

import cv2
import numpy as np
import numpy.typing as npt
from django.template.loader import render_to_string

from jungoptic.app.papers.pdf import fonts
from jungoptic.core.calibration import FAR_MARK, NEAR_MARK, Board, mark_picture
from jungoptic.core.errors import InputError

NEAR_MM, FAR_MM, DISC_MM = 60, 180, 180
RULER_MM = 100
_SQUARE_PX, _MARK_PX = 60, 480


def chart_html(name: str) -> str:
    """A chart as it is printed, A4. Raises InputError where there is none of that name."""
    if name not in _CHARTS:
        raise InputError.at("name", f"There is no such chart: {', '.join(_CHARTS)}.")
    return render_to_string("chart.html", {**_CHARTS[name](), "ruler": RULER_MM, "fonts": fonts()})


def _png(picture: npt.NDArray[np.uint8]) -> str:
    made, data = cv2.imencode(".png", picture)
    assert made
    return "data:image/png;base64," + base64.b64encode(data.tobytes()).decode()


def _board() -> dict[str, object]:
    board = Board()
    sheet = {
        "picture": _png(board.picture(_SQUARE_PX)),
        "width": round(board.columns * board.square_mm),
        "height": round(board.rows * board.square_mm),
        "says": "Glue it to something stiff and flat.",
    }
    return {"title": "Board for a lens", "wide": True, "sheets": [sheet]}


def _marks() -> dict[str, object]:
    return {
        "title": "Marks for the entrance pupil",
        "wide": False,
        "sheets": [
            {"picture": _png(mark_picture(number, _MARK_PX)), "width": side, "height": side, "says": says}
            for number, side, says in (
                (NEAR_MARK, NEAR_MM, "Near mark: stand it near the lens. Leave its white border on."),
                (FAR_MARK, FAR_MM, "Far mark: stand it far from the lens. Leave its white border on."),
            )
        ],
    }


def _disc() -> dict[str, object]:
    sheet = {"disc": DISC_MM, "width": DISC_MM, "height": DISC_MM, "says": "Cut it out along its edge."}
    return {"title": "Disc for the shutter", "wide": False, "sheets": [sheet]}


_CHARTS: dict[str, Callable[[], dict[str, object]]] = {"board": _board, "marks": _marks, "disc": _disc}
