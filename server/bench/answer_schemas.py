"""What somebody tells at the bench."""

from uuid import UUID

from care.vocabulary import Action
from server.base import bounds
from server.base.schema import Schema
from server.bench.opening import Pick
from server.bench.services import Given
from server.drying.schemas import HangingIn


class PickIn(Schema):
    """A task for a sheet."""

    machine_id: UUID
    slot: bounds.Key
    action: Action

    def pick(self) -> Pick:
        """As the services take it."""
        return Pick(self.machine_id, self.slot, self.action)


class SheetIn(Schema):
    """A sheet to open, for one machine or several; the id is the client's. `case_id`: what it puts right."""

    id: UUID
    tasks: bounds.Many[PickIn]
    case_id: UUID | None = None


class RefitIn(Schema):
    """A refit sitting for a part from the rack."""

    id: UUID
    item_id: UUID


class AnswerIn(Schema):
    """An answer to a step, or `back`; what goes on the rack may say where it hangs.

    `at` is when it was given on a device that could not send it; `late` keeps it as a note on a sheet that went on.
    """

    id: UUID
    step: bounds.Line
    value: bounds.Key
    reason: bounds.Line = ""
    hanging: HangingIn | None = None
    at: bounds.Instant | None = None
    late: bool = False

    def given(self) -> Given:
        """As the services take it."""
        hanging = self.hanging.hanging() if self.hanging else None
        return Given(self.id, self.step, self.value, self.reason, hanging, self.at, self.late)


class StepsAnsweredIn(Schema):
    """Answers in their order, all that a device has to send: they are taken together or not at all."""

    answers: bounds.Few[AnswerIn]


class FinishIn(Schema):
    """The end of a sitting; the id is the client's, so that asking twice ends it once."""

    id: UUID
