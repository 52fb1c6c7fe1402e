"""The size of a container belongs to its machine: the table moves here from the shelf, with all that was told."""

import django.db.models.deletion
import django.db.models.manager
from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [
        ('household', '0004_sent'),
        ('logbook', '0009_size'),
        ('machines', '0011_home_changed'),
        ('shelf', '0006_typed'),
    ]

    operations = [
        migrations.SeparateDatabaseAndState(state_operations=[
            migrations.CreateModel(
                name='ContainerVersion',
                fields=[
                    ('entry', models.OneToOneField(on_delete=django.db.models.deletion.CASCADE, primary_key=True, related_name='+', serialize=False, to='logbook.entry')),
                    ('machine_id', models.UUIDField(db_index=True)),
                    ('slot', models.CharField(max_length=60)),
                    ('value', models.JSONField(null=True)),
                    ('household', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='+', to='household.household')),
                ],
                options={
                    'abstract': False,
                    'base_manager_name': 'everything',
                    'default_manager_name': 'everything',
                    'db_table': 'shelf_containerversion',
                },
                managers=[
                    ('everything', django.db.models.manager.Manager()),
                ],
            ),
        ]),
        migrations.AlterModelTable(name='containerversion', table=None),
    ]
