"""Pictures for dossiers."""

import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [
        ('projects', '0012_returned'),
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]

    operations = [
        migrations.CreateModel(
            name='Picture',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('key', models.CharField(max_length=16)),
                ('name', models.CharField(max_length=120)),
                ('kind', models.CharField(max_length=10)),
                ('width', models.PositiveIntegerField()),
                ('height', models.PositiveIntegerField()),
                ('data', models.BinaryField()),
                ('at', models.DateTimeField(auto_now_add=True)),
                ('person', models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='+', to=settings.AUTH_USER_MODEL)),
                ('project', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='pictures', to='projects.project')),
            ],
            options={
                'ordering': ['at', 'pk'],
                'constraints': [models.UniqueConstraint(fields=('project', 'key'), name='one_picture_a_key')],
            },
        ),
    ]
