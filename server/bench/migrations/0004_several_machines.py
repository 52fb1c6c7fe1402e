from django.db import migrations, models


def several(apps, schema_editor):
    """A sheet of one machine names it in every step."""
    for sheet in apps.get_model('bench', 'Sheet')._base_manager.all():
        sheet.machines.add(sheet.machine_id)
        frozen = sheet.frozen['sheet']
        frozen['made_of'] = {frozen.pop('archetype'): frozen.pop('book_version')}
        for step in frozen['steps']:
            before = step.pop('instead_of', None)
            step['machine_id'] = str(sheet.machine_id)
            step['only_if'] = [before, 'skip'] if before else None
        sheet.save(update_fields=['frozen'])


class Migration(migrations.Migration):

    dependencies = [
        ('bench', '0003_hanging'),
        ('machines', '0004_move_drying'),
    ]

    operations = [
        migrations.AddField(
            model_name='sheet',
            name='machines',
            field=models.ManyToManyField(related_name='sheets', to='machines.machine'),
        ),
        migrations.AlterField(
            model_name='sheet',
            name='machine',
            field=models.ForeignKey(on_delete=models.CASCADE, related_name='+', to='machines.machine'),
        ),
        migrations.RunPython(several, migrations.RunPython.noop),
        migrations.RemoveField(
            model_name='sheet',
            name='machine',
        ),
    ]
