"""Columns by name: what they are called when they are spoken of, and the unit that the end of the name
gives.
"""

from __future__ import annotations

# Longest first: ``speed_m_s`` is no number of seconds. Lengths and light are said in the reader's units, ids
# by what they name.
UNITS = {
    "_frames": " frames",
    "_stops": " stops",
    "_m_s": " m/s",
    "_deg": "°",
    "_fps": " frames/s",
    "_pct": " %",
    "_mm": " mm",
    "_m2": " m²",
    "_px": " px",
    "_hz": " Hz",
    "_lx": "",
    "_id": "",
    "_k": " K",
    "_m": "",
    "_h": " h",
    "_s": " s",
}
_SAID = {
    "f_number": "stop",
    "iso": "ISO",
    "shoot_on": "next day",
    "recurring": "what recurs",
    "state": "printing",
    "length_frames": "length",
}


def ending(column: str) -> str:
    """The end of the name that gives its unit; "" where there is none."""
    return next((end for end in UNITS if column.endswith(end)), "")


def in_words(column: str) -> str:
    """A column as it is said: ``key_azimuth_deg`` → key azimuth."""
    return _SAID.get(column) or column.removesuffix(ending(column)).replace("_", " ")
