from django.db import migrations, models


def forget(apps, schema_editor):
    """Rows of before know of no renewals; they are made anew when they are asked for."""
    apps.get_model("machines", "Standing")._base_manager.all().delete()


class Migration(migrations.Migration):

    dependencies = [
        ('machines', '0006_readings_and_cases'),
    ]

    operations = [
        migrations.AddField(
            model_name='standing',
            name='renewals',
            field=models.JSONField(default=list),
        ),
        migrations.RunPython(forget, migrations.RunPython.noop),
    ]
