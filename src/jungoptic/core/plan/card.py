"""The set-up card at the camera: every setting in words, with its unit and what can be chosen there."""

from __future__ import annotations

import re
from collections.abc import Iterable
from dataclasses import dataclass

from ..kit.records import Kit
from ..light.gel import GELS
from ..light.placed import PlacedLamp
from ..match.differences import settings_in_words
from ..match.records import SetUp
from ..vocabulary import Quantity
from ..wording import Words, number
from .dials import Dial
from .engraving import Mark


@dataclass(frozen=True, slots=True)
class CardSetting:
    """One line of the card. ``value`` is in the set-up's own unit (focus may be infinite), None for what is
    not set; ``choices`` is empty where any value may be dialled. ``under`` is the line that it is folded
    under, "" where it stands by itself.
    """

    field: str
    label: str
    text: str
    value: float | None
    unit: str
    quantity: Quantity
    choices: tuple[Mark, ...]
    under: str = ""


def _unit(field: str) -> tuple[str, Quantity]:
    """The unit that a number is typed with, and what kind of quantity it is: lengths and light go by the
    reader's own units.
    """
    extra = SetUp.model_fields[field].json_schema_extra
    unit = str(extra.get("unit", "")) if isinstance(extra, dict) else ""
    match unit:
        case "m":
            return "", "length"
        case "lx":
            return "", "light"
        case "f/":  # stands before its number
            return "", "number"
        case _:
            return unit, "number"


_LAMP = re.compile(r"lamps\.(\d{1,18})\.(\w+)")
GEL = "gel_mired"
"""What a gel is called among the settings of a lamp: its shift; 0 = none more than planned."""
_LAMP_MOVED: tuple[tuple[str, str, str, Quantity], ...] = (
    ("colour_k", "colour", "K", "number"),
    ("across_m", "right of the axis", "", "length"),
    ("height_m", "height", "", "length"),
    ("behind_m", "behind the front edge", "", "length"),
)
LAMP_LEVELS = (1.0, 0.9, 0.8, 0.75, 0.7, 0.6, 0.5, 0.4, 0.3, 0.25, 0.2, 0.1, 0.0)


def lamp_field(lamp: int, name: str) -> str:
    """What a lamp's setting is called on the card.

    Parameters
    ----------
    lamp : int
        Which lamp.
    name : str
        Its field.

    Returns
    -------
    str
        Both in one.

    Examples
    --------
    >>> lamp_field(7, "level")
    'lamps.7.level'
    """
    return f"lamps.{lamp}.{name}"


def lamp_of_field(field: str) -> tuple[int, str] | None:
    """The lamp and its field that a setting of the card names.

    Parameters
    ----------
    field : str
        As :func:`lamp_field` makes it.

    Returns
    -------
    tuple of int and str, or None
        None for a setting of the camera.

    Examples
    --------
    >>> lamp_of_field("lamps.7.level"), lamp_of_field("iso")
    ((7, 'level'), None)
    """
    named = _LAMP.fullmatch(field)
    return (int(named[1]), named[2]) if named else None


def card_lamps(lamps: Iterable[tuple[int, PlacedLamp]], words: Words) -> list[CardSetting]:
    """The lamps of the set-up card: how far each is dimmed, and folded under that how else it may burn.

    Its gel, its colour, and where it stands.

    Parameters
    ----------
    lamps : iterable of tuple
        Each with what it is known by.
    words : Words
        The reader's units.

    Returns
    -------
    list of CardSetting
        Six a lamp.

    Examples
    --------
    >>> from jungoptic.core.wording import Words
    >>> spot = PlacedLamp(name="spot", intensity_cd=18000, level=0.5, colour_k=3200)
    >>> [(line.label, line.text) for line in card_lamps([(3, spot)], Words())][:3]
    [('spot, dimmed to', '50 %'), ('spot, gel on it', 'none'), ('spot, colour', '3200 K')]
    """
    lines = []
    for known, lamp in lamps:
        level = lamp_field(known, "level")
        lines += [
            CardSetting(
                level,
                f"{lamp.name}, dimmed to",
                f"{100 * lamp.level:.0f} %",
                lamp.level,
                "",
                "number",
                tuple(Mark(share, f"{100 * share:.0f} %", major=True, can=True) for share in LAMP_LEVELS),
            ),
            CardSetting(
                lamp_field(known, GEL),
                f"{lamp.name}, gel on it",
                "none",
                0.0,
                "",
                "number",
                tuple(Mark(shift, name, major=True, can=True) for name, shift in GELS),
                level,
            ),
        ]
        for name, label, unit, quantity in _LAMP_MOVED:
            value = getattr(lamp, name)
            text = words.length(value) if quantity == "length" else f"{number(value, 4)} {unit}"
            field = lamp_field(known, name)
            lines.append(CardSetting(field, f"{lamp.name}, {label}", text, value, unit, quantity, (), level))
    return lines


def card_settings(setup: SetUp, turned: Iterable[Dial], kit: Kit, words: Words) -> list[CardSetting]:
    """The set-up card: every setting in the order in which a crew sets them.

    Parameters
    ----------
    setup : SetUp
        What is set.
    turned : iterable of Dial
        Its barrels; engraved ones offer what the kit has.
    kit : Kit
        Camera and lenses.
    words : Words
        The reader's units.

    Returns
    -------
    list of CardSetting
        One a line.

    Examples
    --------
    >>> from jungoptic.core.example import HERO, KIT
    >>> [line.text for line in card_settings(HERO, (), KIT, Words())][:3]
    ['35 mm', 'f/8', '12 m']
    """
    by_field = {dial.field: dial for dial in turned}
    lines = []
    for field, label, text in settings_in_words(setup, words, kit):
        dial = by_field.get(field)
        choices = tuple(mark for mark in dial.marks if mark.can) if dial and dial.steps else ()
        if field == "recorded_width_px":
            choices = tuple(
                Mark(mode.recorded_width_px, mode.name, major=True, can=True) for mode in kit.camera.modes
            )
        lines.append(CardSetting(field, label, text, getattr(setup, field), *_unit(field), choices))
    return lines
