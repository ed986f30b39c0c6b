"""A paper is a job that makes a file. What was printed before can be printed again."""

from django.db import migrations


class Migration(migrations.Migration):
    dependencies = [("papers", "0001_initial"), ("jobs", "0001_initial")]
    operations = [migrations.DeleteModel("Card")]
