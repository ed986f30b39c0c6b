"""Recipes and cautions: the house's own, and those in data files that a practitioner put beside them.

Files are read again when one of them changed; what is wrong with one is said and the others are used.
"""

from __future__ import annotations

import logging
from dataclasses import dataclass
from functools import lru_cache
from pathlib import Path

from django.conf import settings

from jungoptic.core import breakdown
from jungoptic.core import cautions as core_cautions
from jungoptic.core.breakdown import Recipe
from jungoptic.core.cautions import CAUTIONS, Caution
from jungoptic.core.data_file import DataFileError

CAUTIONS_FILE = "cautions.toml"
MOST_BYTES = 200_000
_log = logging.getLogger(__name__)


@dataclass(frozen=True, slots=True)
class Book:
    """Recipes and cautions by key, in their order, and what is wrong with files that could not be used."""

    recipes: dict[str, Recipe]
    cautions: dict[str, Caution]
    problems: tuple[str, ...] = ()


def book() -> Book:
    """Every recipe and caution that can be chosen now."""
    return _read(_files(Path(settings.OWN_RECIPES)))


def caution_title(key: str) -> str:
    """A caution as it is called; its key where the file that named it is gone."""
    found = book().cautions.get(key)
    return found.title if found else key


def _files(folder: Path) -> tuple[tuple[Path, int, int], ...]:
    """The data files with the time of their last change and their size; none where there is no folder."""
    if not folder.is_dir():
        return ()
    found = [(path, path.stat()) for path in sorted(folder.glob("*.toml")) if path.is_file()]
    return tuple((path, stat.st_mtime_ns, stat.st_size) for path, stat in found)


@lru_cache(maxsize=2)
def _read(files: tuple[tuple[Path, int, int], ...]) -> Book:
    recipes, cautions, problems = dict(breakdown.RECIPES), dict(CAUTIONS), list[str]()
    # Cautions first: a recipe may name them.
    for path, _, size in sorted(files, key=lambda file: (file[0].name != CAUTIONS_FILE, file[0].name)):
        if size > MOST_BYTES:
            problems.append(
                f"{path.name} has {size / 1000:.0f} kB; a data file may have {MOST_BYTES // 1000}."
            )
            continue
        try:
            text = path.read_text("utf-8")
            if path.name == CAUTIONS_FILE:
                cautions |= core_cautions.read(text, path.name, taken=cautions)
            else:
                recipe = breakdown.read_recipe(text, path.name, taken=recipes, cautions=cautions)
                recipes[recipe.key] = recipe
        except DataFileError as error:
            problems += [problem.message for problem in error.problems]
        except UnicodeDecodeError:
            problems.append(f"{path.name} is not text in UTF-8: save it as that.")
        except OSError as error:
            problems.append(f"{path.name} cannot be read: {error.strerror}.")
    for problem in problems:
        _log.warning("own recipes: %s", problem)
    return Book(recipes, cautions, tuple(problems))
