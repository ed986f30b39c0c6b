"""What of this room makes stale whatever was kept of a shot or production."""

from django.db import migrations

from jungoptic.app.base.touching import counts_itself, touches


class Migration(migrations.Migration):
    dependencies = [("productions", "0001_initial")]
    operations = [
        counts_itself("productions_production"),
        touches("productions_place", "productions_production", "production_id"),
        touches("productions_tolerancechange", "productions_production", "production_id"),
    ]
