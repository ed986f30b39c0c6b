"""Sets in plan: made, saved whole, taken out, brought back."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any

from jungoptic.app.base.edits import Writing, as_before, takes_back
from jungoptic.app.base.models import Change
from jungoptic.app.base.removing import set_removed
from jungoptic.app.builds.models import Build, BuildPiece, BuildView
from jungoptic.app.productions.models import Place
from jungoptic.app.shots.models import Shot
from jungoptic.core.errors import FieldProblem, InputError
from jungoptic.core.plan import Piece, Sheet, Stand

BUILD = "set"
MOST_PIECES = 80
MOST_VIEWS = 60
MOST_NAME = 80
BUILD_FIELDS = ("name", "scale", "spare_pct", "width_mm", "height_mm", "kerf_mm", "price", "place_id")
VIEW_FIELDS = ("shot_id", *Stand.model_fields)


def new(write: Writing, name: str) -> Build:
    name = name.strip()
    if not 1 <= len(name) <= MOST_NAME:
        raise InputError.at("name", f"A set needs a name of up to {MOST_NAME} characters.")
    if Build.objects.filter(production=write.production_id, name=name, removed=False).exists():
        raise InputError.at("name", f"There is a set called “{name}” already.")
    build = Build.objects.create(production_id=write.production_id, name=name)
    write.made(BUILD, build)
    return build


def _checked(pieces: Sequence[Mapping[str, Any]]) -> list[Piece]:
    problems: list[FieldProblem] = []
    found = []
    for at, values in enumerate(pieces):
        try:
            found.append(Piece.read(values))
        except InputError as error:
            problems += [
                FieldProblem(f"pieces.{at}.{one.field}", f"Piece {at + 1}: {one.message}")
                for one in error.problems
            ]
    names = [piece.name for piece in found]
    problems += [
        FieldProblem(f"pieces.{at}.name", f"Two pieces are called “{name}”.")
        for at, name in enumerate(names)
        if name in names[:at]
    ]
    if len(pieces) > MOST_PIECES:
        problems.append(
            FieldProblem("pieces", f"A set may have {MOST_PIECES} pieces; {len(pieces)} were given.")
        )
    if problems:
        raise InputError(*problems)
    return found


def save(
    write: Writing,
    build_id: int,
    version: int,
    fields: Mapping[str, Any],
    pieces: Sequence[Mapping[str, Any]] | None,
    views: Sequence[Mapping[str, Any]] | None,
) -> None:
    """Save a set with its pieces and views, or nothing.

    Raises InputError at each field, ConflictError over what was not seen.
    """
    build = Build.objects.get(pk=build_id)
    write.refuse_unseen(BUILD, build, version)
    problems = _field_problems(build, fields)
    if problems:
        raise InputError(*problems)
    Sheet.read(
        {
            **build.sheet().model_dump(),
            **{name: value for name, value in fields.items() if name in Sheet.model_fields},
        }
    )
    if pieces is not None:
        _save_pieces(write, build, _checked(pieces))
    if views is not None:
        _save_views(write, build, views)
    write.save(BUILD, build, fields)


def _save_pieces(write: Writing, build: Build, pieces: list[Piece]) -> None:
    before = [one.record().model_dump() for one in build.pieces.all()]
    build.pieces.all().delete()
    BuildPiece.objects.bulk_create(BuildPiece(build=build, **piece.model_dump()) for piece in pieces)
    write.note(BUILD, build.pk, build.name, "pieces", before, [piece.model_dump() for piece in pieces])


def _field_problems(build: Build, fields: Mapping[str, Any]) -> list[FieldProblem]:
    problems = [
        FieldProblem(name, f"A set has no field called “{name}”.")
        for name in fields
        if name not in BUILD_FIELDS
    ]
    for name, least, most in (("scale", 0.01, 1000), ("spare_pct", 0, 200)):
        value = fields.get(name, least)
        if isinstance(value, bool) or not isinstance(value, int | float) or not least <= value <= most:
            problems.append(
                FieldProblem(
                    name, f"It must be a number between {least:g} and {most:g}; {value!r} was given."
                )
            )
    others = Build.objects.filter(production=build.production_id, removed=False).exclude(pk=build.pk)
    if "name" in fields:
        name = fields["name"]
        if not isinstance(name, str) or not 1 <= len(name.strip()) <= MOST_NAME:
            problems.append(FieldProblem("name", f"A set needs a name of up to {MOST_NAME} characters."))
        elif others.filter(name=name).exists():
            problems.append(FieldProblem("name", f"There is a set called “{name}” already."))
    place = fields.get("place_id", build.place_id)
    standing = Place.objects.filter(production=build.production_id, removed=False)
    # A place that was removed while the set stood in it is no fault of what is changed now.
    if place not in (None, build.place_id) and not (
        isinstance(place, int) and standing.filter(pk=place).exists()
    ):
        problems.append(FieldProblem("place_id", "The production has no such place."))
    return problems


def _save_views(write: Writing, build: Build, views: Sequence[Mapping[str, Any]]) -> None:
    own = set(Shot.in_cut.filter(production=build.production_id).values_list("pk", flat=True))
    problems: list[FieldProblem] = []
    for at, one in enumerate(views):
        if one.get("shot_id") not in own:
            problems.append(FieldProblem(f"views.{at}.shot_id", "Choose a shot of this production."))
        try:
            Stand.read({name: value for name, value in one.items() if name != "shot_id"})
        except InputError as error:
            problems += [FieldProblem(f"views.{at}.{bad.field}", bad.message) for bad in error.problems]
    if len(views) > MOST_VIEWS:
        problems.append(FieldProblem("views", f"A set may have {MOST_VIEWS} views; {len(views)} were given."))
    if problems:
        raise InputError(*problems)
    standing = build.views.filter(shot__removed=False)
    before = [{name: getattr(row, name) for name in VIEW_FIELDS} for row in standing]
    standing.delete()
    BuildView.objects.bulk_create(BuildView(build=build, **one) for one in views)
    write.note(BUILD, build.pk, build.name, "views", before, [dict(one) for one in views])


def remove_build(write: Writing, build_id: int, version: int, removed: bool) -> Build:
    """Take a set in plan out, or bring it back with its pieces and cameras."""
    return set_removed(write, Build, BUILD, build_id, version, removed)


@takes_back(BUILD)
def _back(write: Writing, changes: Sequence[Change]) -> None:
    """Sets as they were, with pieces and cameras; cameras of shots that left the cut meanwhile stay out."""
    fields = as_before(changes)
    for build in Build.objects.filter(pk__in=list(fields)):
        values = fields[build.pk]
        if "removed" in values:
            remove_build(write, build.pk, build.version, values.pop("removed"))
            build.refresh_from_db()
        if not values:
            continue
        pieces, views = values.pop("pieces", None), values.pop("views", None)
        if views is not None:
            in_cut = set(Shot.in_cut.filter(production=build.production_id).values_list("pk", flat=True))
            views = [one for one in views if one["shot_id"] in in_cut]
        save(write, build.pk, build.version, values, pieces, views)
