"""Dossiers, issues that the database refuses to alter, questions and ticks."""

import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models

FREEZE = """
CREATE FUNCTION projects_issue_stands() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN RAISE EXCEPTION 'an issue is never altered'; END $$;
CREATE TRIGGER projects_issue_stands BEFORE UPDATE ON projects_issue
FOR EACH ROW EXECUTE FUNCTION projects_issue_stands();
"""
THAW = "DROP TRIGGER projects_issue_stands ON projects_issue; DROP FUNCTION projects_issue_stands();"


class Migration(migrations.Migration):

    dependencies = [
        ('projects', '0008_office_and_cards'),
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]

    operations = [
        migrations.AlterField(
            model_name='run',
            name='kind',
            field=models.CharField(choices=[('chain', 'Chain'), ('sizing', 'Sizing'), ('look', 'Look'), ('dossier', 'Dossier')], default='chain', max_length=8),
        ),
        migrations.CreateModel(
            name='DossierFile',
            fields=[
                ('key', models.CharField(max_length=64, primary_key=True, serialize=False)),
                ('pdf', models.BinaryField()),
                ('sheets', models.BinaryField()),
                ('drawings', models.BinaryField()),
                ('sections', models.JSONField()),
                ('pages', models.PositiveIntegerField()),
                ('made', models.DateTimeField(auto_now_add=True)),
                ('project', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='dossiers', to='projects.project')),
                ('revision', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='+', to='projects.revision')),
            ],
            options={
                'ordering': ['-made'],
            },
        ),
        migrations.CreateModel(
            name='Issue',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('number', models.PositiveIntegerField()),
                ('purpose', models.CharField(choices=[('preliminary', 'Preliminary'), ('tender', 'Tender'), ('approval', 'Approval'), ('construction', 'Construction')], max_length=12)),
                ('author', models.CharField(max_length=150)),
                ('document', models.JSONField()),
                ('pdf', models.BinaryField()),
                ('sheets', models.BinaryField()),
                ('drawings', models.BinaryField()),
                ('sections', models.JSONField()),
                ('pages', models.PositiveIntegerField()),
                ('created', models.DateTimeField(auto_now_add=True)),
                ('project', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='issues', to='projects.project')),
                ('revision', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='+', to='projects.revision')),
            ],
            options={
                'ordering': ['-number'],
                'constraints': [models.UniqueConstraint(fields=('project', 'number'), name='one_issue_a_number')],
            },
        ),
        migrations.CreateModel(
            name='Question',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('number', models.PositiveIntegerField()),
                ('anchor', models.CharField(max_length=200)),
                ('title', models.CharField(max_length=200)),
                ('revision', models.PositiveIntegerField()),
                ('text', models.CharField(max_length=2000)),
                ('created', models.DateTimeField(auto_now_add=True)),
                ('state', models.CharField(choices=[('open', 'Open'), ('answered', 'Answered'), ('closed', 'Closed')], default='open', max_length=8)),
                ('answer', models.CharField(blank=True, default='', max_length=2000)),
                ('answered', models.DateTimeField(null=True)),
                ('answered_by', models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='+', to=settings.AUTH_USER_MODEL)),
                ('author', models.ForeignKey(null=True, on_delete=django.db.models.deletion.SET_NULL, related_name='+', to=settings.AUTH_USER_MODEL)),
                ('project', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='questions', to='projects.project')),
            ],
            options={
                'ordering': ['-number'],
                'constraints': [models.UniqueConstraint(fields=('project', 'number'), name='one_question_a_number')],
            },
        ),
        migrations.CreateModel(
            name='Tick',
            fields=[
                ('id', models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name='ID')),
                ('anchor', models.CharField(max_length=200)),
                ('digest', models.CharField(max_length=16)),
                ('created', models.DateTimeField(auto_now_add=True)),
                ('person', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='+', to=settings.AUTH_USER_MODEL)),
                ('project', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='ticks', to='projects.project')),
            ],
            options={
                'ordering': ['anchor'],
                'constraints': [models.UniqueConstraint(fields=('project', 'anchor', 'person'), name='one_tick_a_section')],
            },
        ),
        migrations.RunSQL(FREEZE, THAW),
    ]
