import django.db.models.deletion
import django.db.models.manager
from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [
        ('household', '0003_living_house'),
        ('logbook', '0006_shelf'),
        ('shelf', '0003_measured'),
    ]

    operations = [
        migrations.CreateModel(
            name='WorthVersion',
            fields=[
                ('entry', models.OneToOneField(on_delete=django.db.models.deletion.CASCADE, primary_key=True, related_name='+', serialize=False, to='logbook.entry')),
                ('machine_id', models.UUIDField(db_index=True)),
                ('value', models.JSONField()),
                ('guarantee_until', models.DateField(null=True)),
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
