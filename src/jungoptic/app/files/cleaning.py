"""What nobody refers to any more is cleaned away: rows without a referrer, and bytes without a row."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import timedelta
from typing import Any

from django.core.files.storage import Storage
from django.db import transaction
from django.db.models import Exists, ForeignObjectRel, OuterRef, QuerySet
from django.utils import timezone

from jungoptic.app.files.models import FOLDER, StoredFile

GRACE = timedelta(days=1)  # a file is kept before whatever refers to it is written
_AT_ONCE = 200


@dataclass(frozen=True)
class Cleaned:
    """How many files were cleaned away, and how many left-over contents that no row ever spoke of."""

    files: int
    left_over: int


def unreferred(older_than: timedelta = GRACE) -> QuerySet[StoredFile]:
    """Files that no row of any table points to."""
    found = StoredFile.objects.filter(at__lt=timezone.now() - older_than)
    for relation in StoredFile._meta.get_fields(include_hidden=True):
        if isinstance(relation, ForeignObjectRel):
            found = found.exclude(Exists(_pointing(relation)))
    return found


def _pointing(relation: ForeignObjectRel) -> QuerySet[Any]:
    return relation.related_model._base_manager.filter(**{relation.field.name: OuterRef("pk")})


def clean(older_than: timedelta = GRACE) -> Cleaned:
    """Clean away what is older than ``older_than`` and referred to by nothing."""
    files = 0
    while gone := _clean_some(older_than):
        files += gone
    return Cleaned(files, _clean_left_over(older_than))


def _clean_some(older_than: timedelta) -> int:
    with transaction.atomic():
        # One that is being kept anew at this moment is locked, and stays.
        rows = list(
            StoredFile.objects.select_for_update(skip_locked=True).filter(
                pk__in=unreferred(older_than).values("pk")
            )[:_AT_ONCE]
        )
        alone = set(
            unreferred(older_than).filter(pk__in=[row.pk for row in rows]).values_list("pk", flat=True)
        )
        rows = [row for row in rows if row.pk in alone]
        StoredFile.objects.filter(pk__in=alone).delete()
    for row in rows:
        row.file.storage.delete(row.path)
    return len(rows)


def _clean_left_over(older_than: timedelta) -> int:
    """Bytes whose write was undone after they had reached the storage."""
    storage = StoredFile._meta.get_field("file").storage
    before = timezone.now() - older_than
    count = 0
    for month in _folders(storage):
        names = [f"{FOLDER}/{month}/{name}" for name in storage.listdir(f"{FOLDER}/{month}")[1]]
        for at in range(0, len(names), _AT_ONCE):
            some = names[at : at + _AT_ONCE]
            known = set(StoredFile.objects.filter(file__in=some).values_list("file", flat=True))
            for name in some:
                if name not in known and storage.get_modified_time(name) < before:
                    storage.delete(name)
                    count += 1
    return count


def _folders(storage: Storage) -> list[str]:
    try:
        return list(storage.listdir(FOLDER)[0])
    except FileNotFoundError:
        return []
