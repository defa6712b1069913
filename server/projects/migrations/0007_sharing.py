"""Projects shared with people and with the office; of the sections that people kept, no two bear one name."""

import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models

ROLES = [("editor", "Editor"), ("checker", "Checker"), ("viewer", "Viewer")]


def name_apart(apps, _):
    """Of sections of one name that several people keep, the newest keeps it; the others bear their owner's."""
    seen = set()
    sections = apps.get_model("projects", "OfficeSection").objects
    for section in sections.order_by("-id").select_related("owner"):
        name, number = section.name, 1
        while name in seen:
            number += 1
            name = f"{section.name[:40]} ({section.owner.username[:30]}{'' if number == 2 else f' {number}'})"
        seen.add(name)
        if name != section.name:
            section.name = section.definition["name"] = name
            section.save()


class Migration(migrations.Migration):
    dependencies = [("projects", "0006_standing"), migrations.swappable_dependency(settings.AUTH_USER_MODEL)]

    operations = [
        migrations.AddField(
            "project", "office_role", models.CharField(blank=True, choices=ROLES, default="", max_length=8)
        ),
        migrations.CreateModel(
            "Share",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("role", models.CharField(choices=ROLES, max_length=8)),
                (
                    "person",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.CASCADE, related_name="shares", to=settings.AUTH_USER_MODEL
                    ),
                ),
                (
                    "project",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.CASCADE, related_name="shares", to="projects.project"
                    ),
                ),
            ],
            options={"ordering": ["person__username"]},
        ),
        migrations.AddConstraint(
            "share", models.UniqueConstraint(fields=("project", "person"), name="one_share_a_person")
        ),
        migrations.RemoveConstraint("officesection", "one_office_section_a_name"),
        migrations.RunPython(name_apart, migrations.RunPython.noop),
    ]
