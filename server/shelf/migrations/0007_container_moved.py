"""The size of a container stands with its machine now."""

from django.db import migrations


class Migration(migrations.Migration):

    dependencies = [
        ('machines', '0012_container'),
        ('shelf', '0006_typed'),
    ]

    operations = [
        migrations.SeparateDatabaseAndState(state_operations=[migrations.DeleteModel(name='ContainerVersion')]),
    ]
