from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [
        ('bench', '0005_late_and_ended'),
    ]

    operations = [
        migrations.AddField(
            model_name='sheet',
            name='case_id',
            field=models.UUIDField(db_index=True, null=True),
        ),
    ]
