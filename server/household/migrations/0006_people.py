"""Members may do what their role says, may have left, and one account may have several households."""

from django.conf import settings
from django.db import migrations, models


def keepers_are_owners(apps, schema_editor):
    """What was called a keeper is called an owner; everybody joined when their household was made."""
    member = apps.get_model("household", "Member")
    member.everything.filter(role="keeper").update(role="owner")
    for row in member.everything.select_related("household"):
        row.joined_at = row.household.created_at
        row.save(update_fields=["joined_at"])


class Migration(migrations.Migration):

    dependencies = [
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
        ("household", "0005_pace"),
    ]

    operations = [
        migrations.AlterField(
            model_name="member",
            name="role",
            field=models.CharField(
                choices=[
                    ("owner", "does everything, and says who may do what"),
                    ("helper", "logs and does tasks"),
                    ("viewer", "looks only"),
                ],
                max_length=10,
            ),
        ),
        migrations.AlterField(
            model_name="member",
            name="user",
            field=models.ForeignKey(
                null=True,
                on_delete=models.SET_NULL,
                related_name="memberships",
                to=settings.AUTH_USER_MODEL,
            ),
        ),
        migrations.AddField(model_name="member", name="joined_at", field=models.DateTimeField(null=True)),
        migrations.AddField(model_name="member", name="left_at", field=models.DateTimeField(null=True)),
        migrations.RunPython(keepers_are_owners, migrations.RunPython.noop),
        migrations.AlterField(model_name="member", name="joined_at", field=models.DateTimeField()),
        migrations.AddConstraint(
            model_name="member",
            constraint=models.UniqueConstraint(
                condition=models.Q(("user__isnull", False)), fields=("household", "user"), name="once_in_a_household"
            ),
        ),
    ]
