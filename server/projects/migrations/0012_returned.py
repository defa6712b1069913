"""Models that came back; what they do is solved by runs."""

import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [
        ('projects', '0011_office_kept'),
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]

    operations = [
        migrations.AlterField(
            model_name='run',
            name='kind',
            field=models.CharField(choices=[('chain', 'Chain'), ('sizing', 'Sizing'), ('look', 'Look'), ('dossier', 'Dossier'), ('study', 'Study'), ('returned', 'Returned')], default='chain', max_length=8),
        ),
        migrations.CreateModel(
            name='Returned',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('name', models.CharField(max_length=120)),
                ('content', models.JSONField()),
                ('refused', models.JSONField(default=list)),
                ('done', models.JSONField(default=list)),
                ('at', models.DateTimeField(auto_now_add=True)),
                ('person', models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='+', to=settings.AUTH_USER_MODEL)),
                ('project', models.OneToOneField(on_delete=django.db.models.deletion.CASCADE, related_name='returned', to='projects.project')),
                ('revision', models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='+', to='projects.revision')),
            ],
        ),
    ]
