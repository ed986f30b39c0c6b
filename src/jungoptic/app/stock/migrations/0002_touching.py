"""What of this room makes stale whatever was kept of a shot or production."""

from django.db import migrations

from jungoptic.app.base.touching import touches


class Migration(migrations.Migration):
    dependencies = [("stock", "0001_initial")]
    operations = [
        touches("stock_stockitem", "productions_production", "production_id"),
    ]
