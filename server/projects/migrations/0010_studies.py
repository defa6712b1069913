"""Set-outs of studies are runs too."""

from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [('projects', '0009_dossiers')]

    operations = [
        migrations.AlterField(
            model_name='run',
            name='kind',
            field=models.CharField(choices=[('chain', 'Chain'), ('sizing', 'Sizing'), ('look', 'Look'), ('dossier', 'Dossier'), ('study', 'Study')], default='chain', max_length=8),
        ),
    ]
