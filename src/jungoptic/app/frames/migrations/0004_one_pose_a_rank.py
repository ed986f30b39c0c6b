import django.db.models.constraints
from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [
        ("frames", "0003_lines_and_pieces"),
    ]

    operations = [
        migrations.AddConstraint(
            model_name="pose",
            constraint=models.UniqueConstraint(
                deferrable=django.db.models.constraints.Deferrable["DEFERRED"],
                fields=("sheet", "rank"),
                name="one_pose_a_rank",
            ),
        ),
    ]
