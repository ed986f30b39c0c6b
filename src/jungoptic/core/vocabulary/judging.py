"""Verdicts and schools: what is said of an amount against its tolerance, and by whose habit."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

Verdict = Literal["holds", "tight", "shows"]
School = Literal["measured", "covered"]
VERDICTS: tuple[Verdict, ...] = ("shows", "tight", "holds")  # worst first


@dataclass(frozen=True, slots=True)
class VerdictWords:
    """A verdict as it is said: of one thing, as a title, of several, of footage that may serve again."""

    single: str
    title: str
    several: str
    serves: str


VERDICT_WORDS: dict[str, VerdictWords] = {
    "shows": VerdictWords("shows", "Shows", "show", "will show"),
    "tight": VerdictWords("tight", "Tight", "tight", "may fit"),
    "holds": VerdictWords("holds", "Holds", "hold", "fits"),
}


@dataclass(frozen=True, slots=True)
class SchoolWords:
    """A school of judging: its name and what it holds."""

    name: str
    says: str


SCHOOLS: dict[str, SchoolWords] = {
    "measured": SchoolWords("Measured", "what is measured is what counts"),
    "covered": SchoolWords("Covered", "what blur covers is not seen"),
}
