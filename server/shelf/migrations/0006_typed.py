"""What was typed is kept beside the figure; so far it was the figure itself."""

from typing import Any

from django.db import migrations, models


def as_measured(apps: Any, schema_editor: Any) -> None:
    """What was measured so far was typed in the scale of its measure, which stands for an empty unit."""
    apps.get_model("shelf", "Measured")._base_manager.update(typed=models.F("value"))


class Migration(migrations.Migration):
    """Two fields of `Measured`."""

    dependencies = [("shelf", "0005_closed")]

    operations = [
        migrations.AddField("measured", "typed", models.FloatField(default=0.0), preserve_default=False),
        migrations.AddField("measured", "unit", models.CharField(default="", max_length=10), preserve_default=False),
        migrations.RunPython(as_measured, migrations.RunPython.noop),
    ]
