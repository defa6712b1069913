"""Results in pieces, kinds of runs, the installed build, projects that wait to be removed. Stored results are a cache: they go."""

import django.db.models.deletion
import django.utils.timezone
from django.db import migrations, models


def forget(apps, _):
    apps.get_model("projects", "Result").objects.all().delete()
    apps.get_model("projects", "Run").objects.all().delete()


class Migration(migrations.Migration):
    dependencies = [("projects", "0005_kilonewtons")]

    operations = [
        migrations.RunPython(forget, migrations.RunPython.noop),
        migrations.AddField("project", "deleted", models.DateTimeField(null=True)),
        migrations.AlterField("revision", "document", models.JSONField(null=True)),
        migrations.AddField(
            "revision",
            "checkpoint",
            models.ForeignKey(
                null=True, on_delete=django.db.models.deletion.PROTECT, related_name="+", to="projects.revision"
            ),
        ),
        migrations.AddField("revision", "patch", models.JSONField(null=True)),
        migrations.RemoveField("result", "numbers"),
        migrations.AddField("result", "complete", models.BooleanField(default=False)),
        migrations.AddField("result", "refused", models.CharField(default="", max_length=300)),
        migrations.AlterField("result", "size", models.PositiveBigIntegerField()),
        migrations.CreateModel(
            name="ResultPart",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("number", models.PositiveIntegerField()),
                ("data", models.BinaryField()),
                (
                    "result",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.CASCADE, related_name="parts", to="projects.result"
                    ),
                ),
            ],
            options={
                "ordering": ["number"],
                "constraints": [models.UniqueConstraint(fields=("result", "number"), name="one_part_a_number")],
            },
        ),
        migrations.AddField(
            "run",
            "kind",
            models.CharField(choices=[("chain", "Chain"), ("sizing", "Sizing"), ("look", "Look")], default="chain", max_length=8),
        ),
        migrations.AddField("run", "build", models.CharField(default="", max_length=64)),
        migrations.AddField("run", "answer", models.JSONField(default=dict)),
        migrations.CreateModel(
            name="Installed",
            fields=[
                ("id", models.PositiveSmallIntegerField(default=1, primary_key=True, serialize=False)),
                ("build", models.CharField(max_length=64)),
                ("since", models.DateTimeField(default=django.utils.timezone.now)),
            ],
        ),
        # they are compressed already, which PostgreSQL would try once more
        migrations.RunSQL(
            "ALTER TABLE projects_resultpart ALTER COLUMN data SET STORAGE EXTERNAL;"
            "ALTER TABLE projects_result ALTER COLUMN screen SET STORAGE EXTERNAL;"
            "ALTER TABLE projects_run ALTER COLUMN loaded SET STORAGE EXTERNAL;",
            migrations.RunSQL.noop,
        ),
    ]
