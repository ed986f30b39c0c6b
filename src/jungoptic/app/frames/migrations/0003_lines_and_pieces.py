import django.db.models.deletion
from django.db import migrations, models
from django.db.models import F

APART = 1 << 16


def apart(apps, _):
    apps.get_model("frames", "Pose").objects.update(rank=(F("rank") + 1) * APART)


def together(apps, _):
    poses = apps.get_model("frames", "Pose").objects
    for sheet in poses.values_list("sheet", flat=True).distinct().order_by("sheet"):
        for place, pk in enumerate(poses.filter(sheet=sheet).order_by("rank").values_list("pk", flat=True)):
            poses.filter(pk=pk).update(rank=place)


class Migration(migrations.Migration):
    dependencies = [
        ("frames", "0002_rigs"),
    ]

    operations = [
        migrations.RemoveConstraint(model_name="pose", name="one_pose_a_place"),
        migrations.RenameField(model_name="pose", old_name="place", new_name="rank"),
        migrations.AlterModelOptions(name="pose", options={"ordering": ["rank"]}),
        migrations.AlterField(model_name="pose", name="rank", field=models.BigIntegerField()),
        migrations.AddField(model_name="pose", name="removed", field=models.BooleanField(default=False)),
        migrations.CreateModel(
            name="Piece",
            fields=[
                (
                    "id",
                    models.BigAutoField(
                        auto_created=True, primary_key=True, serialize=False, verbose_name="ID"
                    ),
                ),
                ("name", models.CharField(max_length=60)),
                ("box", models.JSONField()),
                ("removed", models.BooleanField(default=False)),
                ("version", models.PositiveIntegerField(default=1)),
                (
                    "sheet",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.CASCADE,
                        related_name="pieces",
                        to="frames.exposuresheet",
                    ),
                ),
            ],
            options={"ordering": ["id"]},
        ),
        migrations.RunPython(apart, together),
    ]
