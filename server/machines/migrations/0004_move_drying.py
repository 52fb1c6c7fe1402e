from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [
        ('machines', '0003_drying'),
    ]

    operations = [
        migrations.AddField(
            model_name='move',
            name='drying',
            field=models.CharField(blank=True, default='', max_length=40),
        ),
    ]
