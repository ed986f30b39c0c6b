"""What the wall keeps of each shot is worked out anew: hours and cautions follow from more than before."""

from django.db import migrations


def forget(apps, schema_editor):
    apps.get_model("breakdown", "Summary").objects.all().delete()


class Migration(migrations.Migration):
    dependencies = [
        ("breakdown", "0001_initial"),
        ("shots", "0005_who_is_in_it"),
    ]

    operations = [migrations.RunPython(forget, migrations.RunPython.noop)]
