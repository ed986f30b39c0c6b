"""What of this room makes stale whatever was kept of a shot or production."""

from django.db import migrations

from jungoptic.app.base.touching import counts_itself, touches


class Migration(migrations.Migration):
    dependencies = [("shots", "0001_initial")]
    operations = [
        counts_itself("shots_shot"),
        touches("shots_layer", "shots_shot", "shot_id"),
        touches("shots_setup", "shots_shot", "shot_id"),
        touches("shots_line", "shots_shot", "shot_id"),
        touches("shots_part", "shots_shot", "layer_id", ("shots_layer", "shot_id")),
        touches("shots_acceptance", "shots_shot", "layer_id", ("shots_layer", "shot_id")),
        touches("shots_placedlamp", "shots_shot", "set_up_id", ("shots_setup", "shot_id")),
        touches("shots_placedbacking", "shots_shot", "set_up_id", ("shots_setup", "shot_id")),
    ]
