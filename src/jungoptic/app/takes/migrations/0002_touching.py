"""What of this room makes stale whatever was kept of a shot or production."""

from django.db import migrations

from jungoptic.app.base.touching import touches


class Migration(migrations.Migration):
    dependencies = [("takes", "0001_initial")]
    operations = [
        touches("takes_take", "shots_shot", "layer_id", ("shots_layer", "shot_id")),
    ]
