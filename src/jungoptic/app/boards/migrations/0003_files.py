"""The pictures go from the table into the storage."""

import hashlib

import django.db.models.deletion
from django.core.files.base import ContentFile
from django.db import migrations, models


def move(apps, editor):
    boards, files = apps.get_model("boards", "Board"), apps.get_model("files", "StoredFile")
    for board in boards.objects.filter(file=None).select_related("shot").iterator(chunk_size=20):
        picture = bytes(board.picture)
        same = {"production_id": board.shot.production_id, "sha256": hashlib.sha256(picture).hexdigest()}
        stored = files.objects.filter(**same).first()
        if stored is None:
            stored = files(
                **same, name=board.name, kind="image/jpeg", size_bytes=len(picture), person_id=board.person_id
            )
            stored.file.save(board.name, ContentFile(picture))
        boards.objects.filter(pk=board.pk).update(file_id=stored.pk)


class Migration(migrations.Migration):
    dependencies = [("boards", "0002_touching"), ("files", "0001_initial")]
    operations = [
        migrations.AddField(
            "board",
            "file",
            models.ForeignKey(
                null=True,
                on_delete=django.db.models.deletion.PROTECT,
                related_name="+",
                to="files.storedfile",
            ),
        ),
        migrations.RunPython(move, migrations.RunPython.noop),
        # What the rows still have to check is checked before the table is changed again.
        migrations.RunSQL("SET CONSTRAINTS ALL IMMEDIATE", migrations.RunSQL.noop),
        migrations.AlterField(
            "board",
            "file",
            models.ForeignKey(
                on_delete=django.db.models.deletion.PROTECT, related_name="+", to="files.storedfile"
            ),
        ),
        migrations.RemoveField("board", "picture"),
    ]
