"""What of this room makes stale whatever was kept of a shot or production."""

from django.db import migrations

from jungoptic.app.base.touching import touches


class Migration(migrations.Migration):
    dependencies = [("recipes", "0001_initial")]
    operations = [
        touches("recipes_shotrecipe", "shots_shot", "shot_id"),
        touches("recipes_plannedlayer", "shots_shot", "layer_id", ("shots_layer", "shot_id")),
        touches("recipes_tick", "shots_shot", "layer_id", ("shots_layer", "shot_id")),
    ]
