"""Shots out of text, whatever kind of file it is: a table, a screenplay, an edit list, lines that somebody
typed. No table is asked, so that any process can read it.
"""

from __future__ import annotations

from jungoptic.core.errors import InputError

from .candidates import MOST_CHARACTERS, Read
from .edit_list import read_edl, read_otio
from .screenplay import read_lines, read_screenplay
from .tables import COLUMNS, read_csv

KINDS = ("csv", "fountain", "otio", "edl", "lines")


def kind_of(name: str, text: str) -> str:
    """What a file is, by its name and else by what it contains."""
    ending = name.rsplit(".", 1)[-1].casefold() if "." in name else ""
    by_ending = {
        "csv": "csv",
        "tsv": "csv",
        "otio": "otio",
        "edl": "edl",
        "fountain": "fountain",
        "spmd": "fountain",
    }
    if ending in by_ending:
        return by_ending[ending]
    head = text.lstrip("\ufeff \n\r")
    first = head.split("\n", 1)[0]
    if head.startswith("{"):
        return "otio"
    if first.upper().startswith(("TITLE:", "FCM:")) and any(
        line[:3].isdigit() for line in head.splitlines()[1:12]
    ):
        return "edl"
    cells = {cell.strip().casefold() for separator in ",;\t" for cell in first.split(separator)}
    if cells & {*COLUMNS["code"], *COLUMNS["title"]} and any(separator in first for separator in ",;\t"):
        return "csv"
    screen = any(
        line.strip().upper().startswith(("INT.", "EXT.", "INT ", "EXT ", "INT/", "I/E", "EST."))
        for line in head.splitlines()
    )
    return "fountain" if screen or ending == "txt" else "lines"


def read_any(name: str, text: str, kind: str, delivery_fps: float) -> Read:
    """Read the text as ``kind``, or as what it seems to be."""
    if len(text) > MOST_CHARACTERS:
        raise InputError.at(
            "text",
            f"The file has {len(text) / 1e6:.1f} million characters; {MOST_CHARACTERS / 1e6:.0f} million are"
            " read at once. Split it.",
        )
    if "\x00" in text:
        raise InputError.at("text", "This is not a text file.")
    if kind and kind not in KINDS:
        raise InputError.at("kind", f"Choose one of {', '.join(KINDS)}.")
    kind = kind or kind_of(name, text)
    if kind == "otio":
        return read_otio(text, delivery_fps)
    if kind == "edl":
        return read_edl(text, delivery_fps)
    return {"csv": read_csv, "fountain": read_screenplay, "lines": read_lines}[kind](text)
