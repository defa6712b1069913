"""The office's sections belong to the office; what the list of projects tells of a building."""

from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("projects", "0007_sharing")]

    operations = [
        migrations.RemoveField("officesection", "owner"),
        migrations.AlterField("officesection", "name", models.CharField(max_length=80, unique=True)),
        migrations.AddField("project", "card", models.JSONField(default=dict)),
        migrations.AddField("result", "card", models.JSONField(default=dict)),
    ]
