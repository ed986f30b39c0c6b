"""The board of a shot: kept, given by file name, taken away; the picture of a layer."""

from __future__ import annotations

import re
from collections.abc import Sequence

from django.core.cache import cache

from jungoptic.app.base.desk import PICTURES
from jungoptic.app.base.edits import Edit, Writing, takes_back
from jungoptic.app.base.models import Change
from jungoptic.app.base.turns import Asker
from jungoptic.app.boards.models import Board
from jungoptic.app.boards.reading import Picture, smaller
from jungoptic.app.files import keeping as files
from jungoptic.app.shots.edit import EditSet, change_shot
from jungoptic.app.shots.models import Layer, LayerPicture, Shot
from jungoptic.core.errors import InputError

BOARD = "board"
JPEG = frozenset({"image/jpeg"})
OF_A_LAYER = JPEG | {"image/png"}


def smaller_board(asker: Asker, board_id: int, width_px: int) -> bytes:
    """A kept board not wider than ``width_px``: a board never changes, and a wall asks for every one."""
    key = f"board-{board_id}-{width_px}"
    made: bytes | None = cache.get(key)
    if made is None:
        data = Board.objects.select_related("file").get(pk=board_id).file.read()
        made = PICTURES.run(asker, smaller, data, width_px)
        cache.set(key, made, timeout=None)
    return made


def keep(write: Writing, shot: Shot, picture: Picture) -> Board:
    """Make it the shot's board; the one before is kept and not shown."""
    file = files.keep(write.production_id, picture.name, picture.data, JPEG, person_id=write.person.pk)
    made = Board.objects.create(
        shot=shot,
        name=picture.name[:200],
        file=file,
        width_px=picture.width_px,
        height_px=picture.height_px,
        current=False,
        person_id=write.person.pk,
    )
    show(write, shot, made.pk)
    return made


def show(write: Writing, shot: Shot, board_id: int | None) -> None:
    """Show this board of the shot, or none; the others are kept."""
    before = Board.objects.filter(shot=shot, current=True).values_list("pk", flat=True).first()
    Board.objects.filter(shot=shot, current=True).update(current=False)
    if board_id is not None:
        Board.objects.filter(shot=shot, pk=board_id).update(current=True)
    write.note(BOARD, shot.pk, shot.code, "board", before, board_id)


@takes_back(BOARD)
def _back(write: Writing, changes: Sequence[Change]) -> None:
    for change in changes:
        show(write, Shot.objects.get(pk=change.row_id), change.before)


def give(
    write: Writing, layer: Layer, picture: Picture, *, shown: bool = False, view_deg: float | None = None
) -> LayerPicture:
    """Make it the picture of a layer, with its size; what was drawn on another one is not on it. ``shown``:
    the layer is seen as it from now on, as wide as it is for its height; ``view_deg``: it is known across.
    """
    made = LayerPicture.objects.create(
        layer=layer,
        name=picture.name[:200],
        file=files.keep(
            write.production_id, picture.name, picture.data, OF_A_LAYER, person_id=write.person.pk
        ),
        width_px=picture.came_px[0],
        height_px=picture.came_px[1],
        person_id=write.person.pk,
    )
    changes = {
        "picture_id": made.pk,
        "picture_width_px": made.width_px,
        "picture_height_px": made.height_px,
        "marks": [],
        "cut_outline": [],
    }
    if view_deg is not None or shown:  # another camera may have taken this one
        changes["taken_view_deg"] = view_deg and round(view_deg, 3)
    if shown:
        transparent = made.file.kind == "image/png"
        changes |= {"shown_as": "picture", "cut_by": "alpha" if transparent else "nothing"}
        if not layer.fills_frame:
            changes["width_m"] = round(layer.height_m * made.width_px / made.height_px, 4)
    change_shot(write, EditSet(layers={layer.pk: Edit(layer.version, changes)}))
    return made


def _flat(text: str) -> str:
    return re.sub(r"[^a-z0-9]", "", text.lower())


def match(write: Writing, found: list[Picture]) -> list[tuple[str, str]]:
    """Give pictures to shots: by the shot's code in the file's name, else in order to shots without a board.
    All or nothing.

    Returns (picture, shot's code) pairs.
    """
    shots = list(Shot.in_cut.filter(production=write.production_id))
    with_board = set(
        Board.objects.filter(shot__production=write.production_id, current=True).values_list(
            "shot_id", flat=True
        )
    )
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
        unnamed = f"{len(left)} pictures name" if len(left) > 1 else "One picture names"
        without = "one shot has" if len(free) == 1 else f"{len(free)} shots have"
        raise InputError.at(
            "file", f"{unnamed} no shot and {without} no board: put the shot's code into the file names."
        )
    given += zip(left, free, strict=False)
    for picture, shot in given:
        keep(write, shot, picture)
    return [(picture.name, shot.code) for picture, shot in given]
