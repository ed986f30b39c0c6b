"""The board of a shot: kept, given by file name, taken away."""

from __future__ import annotations

import re
from functools import lru_cache

from django.db import transaction

from jungoptic.app.boards.models import Board
from jungoptic.app.boards.reading import Picture, pictures, smaller
from jungoptic.app.people.models import Person
from jungoptic.app.shots.models import Shot, touch
from jungoptic.core.errors import InputError


@lru_cache(maxsize=512)
def smaller_board(board_id: int, width_px: int) -> bytes:
    """A kept board not wider than ``width_px``: a board never changes, and a wall asks for every one."""
    return smaller(bytes(Board.objects.values_list("picture", flat=True).get(pk=board_id)), width_px)


def keep(shot: Shot, person: Person, picture: Picture) -> Board:
    """Make it the shot's board; the one before is kept and not shown."""
    with transaction.atomic():
        Shot.objects.select_for_update().get(pk=shot.pk)
        Board.objects.filter(shot=shot, current=True).update(current=False)
        made = Board.objects.create(
            shot=shot, name=picture.name[:200], picture=picture.jpeg, width_px=picture.width_px, height_px=picture.height_px, person=person
        )
        touch(shot.pk)
    return made


def drop(shot: Shot) -> None:
    """The shot is shown without a board; the picture is kept."""
    Board.objects.filter(shot=shot, current=True).update(current=False)
    touch(shot.pk)


def _flat(text: str) -> str:
    return re.sub(r"[^a-z0-9]", "", text.lower())


def match(production_id: int, files: list[tuple[str, bytes]], person: Person) -> list[tuple[str, str]]:
    """Give pictures to shots: by the shot's code in the file's name, else in order to shots without a board. All or nothing.

    Returns (picture, shot's code) pairs.
    """
    found = [picture for name, data in files for picture in pictures(name, data)]
    shots = list(Shot.in_cut.filter(production=production_id))
    with_board = set(Board.objects.filter(shot__production=production_id, current=True).values_list("shot_id", flat=True))
    by_code = sorted(((_flat(shot.code), shot) for shot in shots), key=lambda one: -len(one[0]))
    given: list[tuple[Picture, Shot]] = []
    left = []
    for picture in found:
        named = next((shot for code, shot in by_code if code and code in _flat(picture.name)), None)
        if named:
            given.append((picture, named))
        else:
            left.append(picture)
    taken = with_board | {shot.pk for _, shot in given}
    free = [shot for shot in shots if shot.pk not in taken]
    if len(left) > len(free):
        raise InputError.at(
            "file", f"{len(left)} pictures name no shot and {len(free)} shots have no board: put the shot's code into the file names."
        )
    given += zip(left, free, strict=False)
    with transaction.atomic():
        for picture, shot in given:
            keep(shot, person, picture)
    return [(picture.name, shot.code) for picture, shot in given]
