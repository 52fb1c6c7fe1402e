"""What was brought in from files."""

from django.db import models

from server.logbook.models import Detail, Entry


class Import(Detail):
    """Something was brought in from a file of that name: so many records."""

    entry_kind = Entry.Kind.IMPORT
    name = models.CharField(max_length=200)
    added = models.PositiveIntegerField()
