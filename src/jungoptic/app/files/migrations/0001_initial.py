import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models

import jungoptic.app.files.models


class Migration(migrations.Migration):
    initial = True

    dependencies = [
        ("productions", "0001_initial"),
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]

    operations = [
        migrations.CreateModel(
            name="StoredFile",
            fields=[
                (
                    "id",
                    models.BigAutoField(
                        auto_created=True, primary_key=True, serialize=False, verbose_name="ID"
                    ),
                ),
                ("file", models.FileField(max_length=80, upload_to=jungoptic.app.files.models.path_of)),
                (
                    "name",
                    models.CharField(
                        help_text="What it was called when it came; it says nothing about what is in it.",
                        max_length=200,
                    ),
                ),
                ("kind", models.CharField(help_text="Media type, by content.", max_length=80)),
                ("size_bytes", models.PositiveBigIntegerField()),
                ("sha256", models.CharField(max_length=64)),
                ("at", models.DateTimeField(auto_now_add=True)),
                (
                    "person",
                    models.ForeignKey(
                        null=True,
                        on_delete=django.db.models.deletion.SET_NULL,
                        related_name="+",
                        to=settings.AUTH_USER_MODEL,
                    ),
                ),
                (
                    "production",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.CASCADE,
                        related_name="files",
                        to="productions.production",
                    ),
                ),
            ],
            options={
                "constraints": [
                    models.UniqueConstraint(fields=("production", "sha256"), name="one_file_a_content")
                ]
            },
        ),
    ]
