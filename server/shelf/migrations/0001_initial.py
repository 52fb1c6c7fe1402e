import django.db.models.deletion
import django.db.models.manager
from django.db import migrations, models


class Migration(migrations.Migration):

    initial = True

    dependencies = [
        ('household', '0003_living_house'),
        ('logbook', '0006_shelf'),
    ]

    operations = [
        migrations.CreateModel(
            name='Order',
            fields=[
                ('entry', models.OneToOneField(on_delete=django.db.models.deletion.CASCADE, primary_key=True, related_name='+', serialize=False, to='logbook.entry')),
                ('lines', models.JSONField()),
                ('delivery', models.PositiveIntegerField(default=0)),
                ('expected', models.DateField()),
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
        migrations.CreateModel(
            name='Movement',
            fields=[
                ('entry', models.OneToOneField(on_delete=django.db.models.deletion.CASCADE, primary_key=True, related_name='+', serialize=False, to='logbook.entry')),
                ('spare_id', models.UUIDField(db_index=True)),
                ('count', models.IntegerField()),
                ('why', models.CharField(choices=[('came', 'came with an order'), ('bought', 'bought elsewhere'), ('fitted', 'went into a machine'), ('turn', 'takes turns from now on'), ('counted', 'counted anew'), ('gone', 'lost, given away or thrown away')], max_length=10)),
                ('number', models.CharField(blank=True, max_length=40)),
                ('note', models.CharField(blank=True, max_length=200)),
                ('item_id', models.UUIDField(null=True)),
                ('household', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='+', to='household.household')),
                ('order', models.ForeignKey(null=True, on_delete=django.db.models.deletion.PROTECT, related_name='arrivals', to='shelf.order')),
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
        migrations.CreateModel(
            name='PricesVersion',
            fields=[
                ('entry', models.OneToOneField(on_delete=django.db.models.deletion.CASCADE, primary_key=True, related_name='+', serialize=False, to='logbook.entry')),
                ('supplier', models.CharField(max_length=60)),
                ('value', models.JSONField(null=True)),
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
        migrations.CreateModel(
            name='SpareVersion',
            fields=[
                ('entry', models.OneToOneField(on_delete=django.db.models.deletion.CASCADE, primary_key=True, related_name='+', serialize=False, to='logbook.entry')),
                ('spare_id', models.UUIDField(db_index=True)),
                ('value', models.JSONField(null=True)),
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
