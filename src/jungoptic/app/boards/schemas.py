"""Boards over the wire."""

from __future__ import annotations

from pydantic import BaseModel as Schema


class BoardOut(Schema):
    id: int
    name: str
    width_px: int
    height_px: int
