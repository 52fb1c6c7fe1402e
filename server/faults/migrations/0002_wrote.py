from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [
        ('trace', '0001_initial'),
    ]

    operations = [
        migrations.AddField(
            model_name='caseevent',
            name='wrote',
            field=models.JSONField(default=list),
        ),
    ]
