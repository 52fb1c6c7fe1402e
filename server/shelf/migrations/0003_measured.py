import django.db.models.deletion
import django.db.models.manager
from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [
        ('household', '0003_living_house'),
        ('logbook', '0006_shelf'),
        ('shelf', '0002_container'),
    ]

    operations = [
        migrations.CreateModel(
            name='Measured',
            fields=[
                ('entry', models.OneToOneField(on_delete=django.db.models.deletion.CASCADE, primary_key=True, related_name='+', serialize=False, to='logbook.entry')),
                ('item_id', models.UUIDField(db_index=True)),
                ('measure', models.CharField(max_length=40)),
                ('value', models.FloatField()),
                ('household', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='+', to='household.household')),
            ],
            options={
                'abstract': False,
                'base_manager_name': 'everything',
                'default_manager_name': 'everything',
            },
            managers=[
                ('everything', django.db.models.manager.Manager()),
            ],
        ),
    ]
