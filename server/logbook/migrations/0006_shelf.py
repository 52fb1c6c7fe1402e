from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [
        ('logbook', '0005_readings_and_cases'),
    ]

    operations = [
        migrations.AlterField(
            model_name='entry',
            name='kind',
            field=models.CharField(choices=[('machine', 'machine set up'), ('household', 'household settings'), ('schedule', 'usual week'), ('run', 'run'), ('move', 'part moved'), ('service', 'service'), ('inspection', 'inspection'), ('counter', "machine's own counter"), ('rest', 'did not run'), ('load', 'more load than usual'), ('own', 'changed on a machine'), ('status', 'put away or back'), ('unknown', 'not known since when'), ('mishap', 'ran over or took in'), ('wait', 'task put off'), ('claim', 'task taken on'), ('note', 'note or photo'), ('hung', 'hung up to dry'), ('weight', 'weighed'), ('check', 'checked for damp'), ('reading', 'suction taken'), ('case', 'search for a fault'), ('spare', 'kind of spare part'), ('prices', 'price list'), ('stock', 'in or out of the shelf'), ('order', 'ordered'), ('void', 'correction')], max_length=20),
        ),
    ]
