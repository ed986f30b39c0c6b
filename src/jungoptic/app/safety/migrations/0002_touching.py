"""What of this room makes stale whatever was kept of a shot or production."""

from django.db import migrations

from jungoptic.app.base.touching import touches


class Migration(migrations.Migration):
    dependencies = [("safety", "0001_initial")]
    operations = [
        touches("safety_signoff", "shots_shot", "shot_id"),
    ]
