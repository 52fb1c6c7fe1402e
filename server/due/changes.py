"""Whether something changed at home: asked where looks contradict what was believed, and taken as an answer."""

from uuid import UUID

from django.db import transaction

from care.vocabulary import Action
from server.base.problems import Conflict
from server.due.state import machine_states
from server.household.models import Member
from server.household.services import journal_by, require_writer
from server.logbook.models import Entry
from server.machines.models import HomeChanged
from server.machines.services import machine_of


@transaction.atomic
def home_changed(*, member: Member, machine_id: UUID, slot: str, action: Action, changed: bool) -> Entry:
    """Whether something changed at home, where the last looks contradict what was believed of a task's pace.

    What was seen before them then tells nothing any more. Raises `Conflict` where nothing is asked.
    """
    require_writer(member)
    machine = machine_of(member, machine_id)
    [state] = machine_states(member, machine.pk)
    due = next((one for one in state.due if (one.slot, one.action) == (slot, action)), None)
    since = due.pace.contradicted_since if due else None
    if since is None:
        raise Conflict("action: nothing is asked about this one", field="action", fix="Load the page again.")
    journal = journal_by(member, machine.pk)
    return journal.tell(HomeChanged, machine=machine, slot=slot, action=action, since=since, changed=changed)
