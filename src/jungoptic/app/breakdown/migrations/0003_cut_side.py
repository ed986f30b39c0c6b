from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [
        ("breakdown", "0002_judged_anew"),
    ]

    operations = [
        migrations.AddField(
            model_name="summary",
            name="cut_side",
            field=models.JSONField(help_text="What the cut compares: core's CutSide.", null=True),
        ),
        # what was worked out before knows nothing of cuts: it is worked out anew when it is asked for
        migrations.RunSQL("DELETE FROM breakdown_summary", migrations.RunSQL.noop),
    ]
