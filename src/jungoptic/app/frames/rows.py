"""Rows of the desk, found for somebody who may see or change them."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from django.http import HttpRequest
from ninja.errors import HttpError

from jungoptic.app.frames.models import Exposure, ExposureSheet, Pose
from jungoptic.app.productions import access
from jungoptic.core.errors import InputError

NOT_HERE = HttpError(404, "There is no such thing here, or it is not yours to see.")


def part_of(request: HttpRequest, kind: Any, pk: int) -> Any:
    """A rig, a piece, a point of a sheet, to be changed. Raises HttpError."""
    row = kind.objects.filter(pk=pk).select_related("sheet__layer__shot__production").first()
    if row is None:
        raise NOT_HERE
    access.of_layer(request, row.sheet.layer_id, access.LOGS)
    return row


def sheet_of(
    request: HttpRequest, sheet_id: int, allowed: frozenset[access.Role] = access.READS
) -> ExposureSheet:
    """An exposure sheet. Raises HttpError."""
    row = ExposureSheet.objects.filter(pk=sheet_id).select_related("layer__shot").first()
    if row is None:
        raise NOT_HERE
    access.of_layer(request, row.layer_id, allowed)
    return row


def line_of(lines: Sequence[Pose], field: str, pose_id: int) -> Pose:
    """A line of a sheet. Raises InputError where it is none of them."""
    pose = next((each for each in lines if each.pk == pose_id), None)
    if pose is None:
        raise InputError.at(field, "This line is not on the sheet any more: read it again.")
    return pose


def pose_of(request: HttpRequest, pose_id: int, allowed: frozenset[access.Role]) -> Pose:
    """A line of a sheet, left out or not. Raises HttpError."""
    row = Pose.objects.filter(pk=pose_id).select_related("sheet__layer").first()
    if row is None:
        raise NOT_HERE
    access.of_layer(request, row.sheet.layer_id, allowed)
    return row


def exposure_of(
    request: HttpRequest, exposure_id: int, allowed: frozenset[access.Role] = access.READS
) -> Exposure:
    """An exposure with its files, taken away or not. Raises HttpError."""
    found = Exposure.objects.select_related("pose__sheet__layer__shot", "file", "proxy", "person")
    row = found.filter(pk=exposure_id).first()
    if row is None:
        raise NOT_HERE
    access.of_layer(request, row.pose.sheet.layer_id, allowed)
    return row
