"""What the house calls things, for every screen."""

from __future__ import annotations

from dataclasses import asdict
from functools import cache
from typing import Any

from django.http import HttpRequest
from ninja import Router

from jungoptic.app.vocabulary.schemas import VocabularyOut
from jungoptic.core.vocabulary import (
    CHOICES,
    COMBINES,
    KINDS,
    LINES,
    MARKS,
    MEASURED,
    SCHOOLS,
    SHEETS,
    VERDICT_WORDS,
    VERDICTS,
)

router = Router()


@router.get("/vocabulary", response=VocabularyOut)
def vocabulary(request: HttpRequest) -> Any:
    """Kinds of layers with their hatches, ways of combining, lines, verdicts, schools, sheets and units.

    Anybody who is signed in.
    """
    return _all()


@cache
def _all() -> dict[str, Any]:
    return {
        "kinds": [{"key": key, **asdict(words)} for key, words in KINDS.items()],
        "combines": [{"key": key, **asdict(words)} for key, words in COMBINES.items()],
        "choices": [{"key": key, "name": name} for key, name in CHOICES.items()],
        "lines": [{"key": key, **asdict(words)} for key, words in LINES.items()],
        "marks": [{"key": key, **asdict(words)} for key, words in MARKS.items()],
        "verdicts": [{"key": key, **asdict(VERDICT_WORDS[key])} for key in VERDICTS],
        "schools": [{"key": key, "name": words.name} for key, words in SCHOOLS.items()],
        "sheets": [{"key": key, "colour": colour} for key, colour in SHEETS.items()],
        "units": [
            {"quantity": quantity, "units": units, **asdict(getattr(measured, units))}
            for quantity, measured in MEASURED.items()
            for units in ("metric", "imperial")
        ],
    }
