"""Colours of the sheets that things are filmed before."""

from __future__ import annotations

from typing import Literal

KeyColour = Literal["green", "blue", "black", "white"]
SHEETS: dict[str, str] = {
    "green": "#1f9d3a",
    "blue": "#2450b8",
    "black": "#101010",
    "white": "#e8e8e8",
}
