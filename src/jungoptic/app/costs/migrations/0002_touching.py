"""What of this room makes stale whatever was kept of a shot or production."""

from django.db import migrations

from jungoptic.app.base.touching import touches


class Migration(migrations.Migration):
    dependencies = [("costs", "0001_initial")]
    operations = [
        touches("costs_costing", "shots_shot", "shot_id"),
        touches("costs_figures", "productions_production", "production_id"),
    ]
