"""A line of the wall, made up."""

from __future__ import annotations

from typing import Any

from jungoptic.app.breakdown.schemas import WallLine

_LINE = {
    "id": 1,
    "code": "X1",
    "title": "t",
    "description": "",
    "length_frames": 5,
    "position": 1,
    "place_id": None,
    "place": "",
    "shoot_on": None,
    "hours_spent": 0,
    "recipes": [],
    "board": None,
    "version": 1,
    "revision": 1,
    "layers": 0,
    "filmed": 0,
    "shot_layers": 0,
    "takes": 0,
    "shows": 0,
    "tight": 0,
    "holds": 0,
    "verdict": None,
    "worst": "",
    "hero": "",
    "hours": 0,
    "hours_left": 0,
    "by_craft": {},
    "way": "",
    "storage_gb": 0,
    "hazards": [],
    "open_hazards": [],
    "ready": False,
    "effects": False,
    "pending": True,
}


def wall_line(**said: Any) -> WallLine:
    return WallLine(**(_LINE | said))
