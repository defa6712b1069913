"""Documents that state forces in newton are stated in kilonewton: the unit that the workbench shows and takes."""

from django.db import migrations

from engine.document import Document
from engine.document.units import in_kilonewtons


def convert(apps, _):
    for revision in apps.get_model("projects", "Revision").objects.filter(document__units="N, m"):
        revision.document = in_kilonewtons(Document.model_validate(revision.document)).model_dump(mode="json")
        revision.save(update_fields=["document"])


class Migration(migrations.Migration):
    dependencies = [("projects", "0004_runs")]

    operations = [migrations.RunPython(convert, migrations.RunPython.noop)]
