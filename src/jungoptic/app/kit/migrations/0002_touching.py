"""What of this room makes stale whatever was kept of a shot or production."""

from django.db import migrations

from jungoptic.app.base.touching import touches


class Migration(migrations.Migration):
    dependencies = [("kit", "0001_initial")]
    operations = [
        touches("kit_camera", "productions_production", "production_id"),
        touches("kit_lens", "productions_production", "production_id"),
        touches("kit_lamp", "productions_production", "production_id"),
        touches("kit_support", "productions_production", "production_id"),
        touches("kit_recordingmode", "productions_production", "camera_id", ("kit_camera", "production_id")),
    ]
