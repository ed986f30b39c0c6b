"""The recipes of common practice, one data file each, and the habits that hold in all of them.

A practitioner's own recipe is a file of the same form, read with :func:`read_recipe`.
"""

from __future__ import annotations

from collections.abc import Iterable
from importlib.resources import files
from typing import Annotated

from pydantic import Field

from ... import data_file
from ...cautions import CAUTIONS
from ...errors import FieldProblem
from ...quantities import Record
from ..recipe import Recipe, Words

__all__ = ["HABITS", "RECIPES", "read_recipe"]


def read_recipe(
    text: str, file: str, taken: Iterable[str] = (), cautions: Iterable[str] = CAUTIONS
) -> Recipe:
    """A recipe from the text of its data file.

    Parameters
    ----------
    text : str
        TOML; the fields are those of :class:`~jungoptic.core.breakdown.recipe.Recipe`.
    file : str
        The file's name, for what is said of it.
    taken : iterable of str
        Keys of the recipes that there are: a key can be used once.
    cautions : iterable of str
        Keys of the cautions that a recipe may name.

    Returns
    -------
    Recipe
        Checked, its plates laid out once with the answers that it starts from.

    Raises
    ------
    DataFileError
        Every field at fault, with file, line and field.

    Examples
    --------
    >>> from jungoptic.core.data_file import DataFileError
    >>> try:
    ...     read_recipe('key = "sand storm"', "sand.toml")
    ... except DataFileError as error:
    ...     print(error.problems[0].message.partition(": ")[2])
    Key must be up to 24 small letters, digits and _, a letter first; 'sand storm' was given.
    """
    recipe = data_file.record(Recipe, data_file.tables(text, file), text, file)
    problems = []
    if recipe.key in set(taken):
        problems.append(FieldProblem("key", f"There is a recipe called “{recipe.key}” already."))
    known = list(cautions)
    problems += [
        FieldProblem(
            f"cautions.{index}", f"There is no caution called “{key}”; there are {', '.join(known)}."
        )
        for index, key in enumerate(recipe.cautions)
        if key not in known
    ]
    if problems:
        raise data_file.placed(problems, text, file)
    return recipe


class _Habits(Record):
    habits: Annotated[tuple[Words, ...], Field(min_length=1)]


def _shipped() -> dict[str, Recipe]:
    recipes: dict[str, Recipe] = {}
    for file in sorted(files(__package__).iterdir(), key=lambda file: file.name):
        if file.name.endswith(".toml") and file.name != "habits.toml":
            recipe = read_recipe(file.read_text("utf-8"), file.name, taken=recipes)
            recipes[recipe.key] = recipe
    return recipes


def _habits() -> tuple[str, ...]:
    text = files(__package__).joinpath("habits.toml").read_text("utf-8")
    return data_file.record(_Habits, data_file.tables(text, "habits.toml"), text, "habits.toml").habits


RECIPES = _shipped()
HABITS = _habits()
