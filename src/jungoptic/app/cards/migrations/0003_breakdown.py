"""Cards know their production and what they are: a card, a page or the book. Those that are there take their shot's."""

import django.db.models.deletion
from django.db import migrations, models


def take_from_shot(apps, schema_editor):
    card = apps.get_model("cards", "Card")
    shot = apps.get_model("shots", "Shot")
    own = shot.objects.filter(pk=models.OuterRef("shot_id")).values("production_id")[:1]
    card.objects.filter(production__isnull=True).update(production_id=models.Subquery(own))


class Migration(migrations.Migration):
    dependencies = [
        ("cards", "0002_initial"),
        ("productions", "0002_breakdown"),
        ("shots", "0002_breakdown"),
    ]

    operations = [
        migrations.AddField(
            "card", "kind", models.CharField(choices=[("card", "Card"), ("page", "Page"), ("book", "Book")], default="card", max_length=4)
        ),
        migrations.AddField(
            "card",
            "production",
            models.ForeignKey(null=True, on_delete=django.db.models.deletion.CASCADE, related_name="cards", to="productions.production"),
        ),
        migrations.RunPython(take_from_shot, migrations.RunPython.noop),
        # Postgres will not alter a table that still has checks of foreign keys waiting.
        migrations.RunSQL("SET CONSTRAINTS ALL IMMEDIATE", migrations.RunSQL.noop),
        migrations.AlterField(
            "card", "production", models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name="cards", to="productions.production")
        ),
        migrations.AlterField(
            "card",
            "shot",
            models.ForeignKey(blank=True, null=True, on_delete=django.db.models.deletion.CASCADE, related_name="cards", to="shots.shot"),
        ),
        migrations.AddConstraint(
            "card",
            models.CheckConstraint(condition=models.Q(("kind", "book"), ("shot__isnull", False), _connector="OR"), name="card_is_of_a_shot"),
        ),
    ]
