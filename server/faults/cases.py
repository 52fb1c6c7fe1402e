"""Cases as they stand: what was told, worked out, and which are open."""

from dataclasses import dataclass
from datetime import date, datetime
from functools import cached_property
from uuid import UUID

from care.book import load_book
from care.faults.case import Case as CoreCase
from care.faults.inference import Belief
from care.faults.likelihood import States
from care.faults.subject import Subject
from care.faults.verdict import Assessment, Stand, assess_belief
from server.bench.sheets import sheet_of_case
from server.drying.rack import OnRack, rack
from server.faults import records
from server.faults.heard import Heard, said_at
from server.faults.models import Case, CaseEvent
from server.faults.subjects import KnownMachine, known
from server.household.models import Member
from server.household.services import today_of


@dataclass
class CaseState:
    """A case and where it stands, worked out when asked; `event_count` counts all its events, steps back among them.

    `rests` tells of the checks whose wait has begun since when, and until when.
    """

    row: Case
    known: KnownMachine
    case: CoreCase
    event_count: int
    rests: dict[str, tuple[datetime, datetime]]

    @cached_property
    def belief(self) -> Belief:
        """The odds it has come to."""
        subject = self.known.subject
        return Belief(self.case, states=states_of(subject), moved=records.thaw(self.row.influences, subject))

    @cached_property
    def now(self) -> Assessment:
        """Where it stands."""
        return assess_belief(self.belief, self.known.hands)


_KEPT: dict[tuple[str, ...], States] = {}


MOST_KEPT = 24


def states_of(subject: Subject) -> States:
    """The hypotheses of a kind of machine, kept: machines alike share them, and their air is solved once."""
    kinds = (load_book().digest, subject.machine.key, subject.dock.key if subject.dock else "")
    signature = (*kinds, *(s.key for s in subject.suspects), *(p.key for p in subject.probes))
    if signature not in _KEPT:
        if len(_KEPT) >= MOST_KEPT:
            _KEPT.pop(next(iter(_KEPT)))
        _KEPT[signature] = States(subject)
    return _KEPT[signature]


def case_state(member: Member, case_id: UUID) -> CaseState:
    """A case and where it stands. Raises `NotFound`."""
    row: Case = Case.objects.one(member.household_id, case_id, "case")
    return state_of_row(member, row, known(member, row.machine_id))


def state_of_row(member: Member, row: Case, about: KnownMachine) -> CaseState:
    """A case with all that was told of it and what it comes to."""
    events = list(CaseEvent.objects.of(member.household_id).filter(case=row).select_related("by").order_by("number"))
    standing = records.standing_events(events)
    case = records.to_case(about.subject, standing)
    rests = {
        e.key: (e.at, records.rests_until(about.subject, e))
        for e in standing
        if e.kind == CaseEvent.Kind.RESTS and e.key in case.resting
    }
    return CaseState(row, about, case, len(events), rests)


@dataclass(frozen=True, slots=True)
class After:
    """What the work on a case waits for: the sheet that is open for it, parts that rest while their place is empty.

    `today` is the household's day, `said` what the machine said of itself at it.
    """

    today: date
    sheet_id: UUID | None
    waits: tuple[OnRack, ...]
    said: tuple[Heard, ...]


def after_of(member: Member, state: CaseState) -> After:
    """What the work on a case waits for; nothing while it is still being looked for."""
    stand = state.now.verdict.stand
    about = {machine.id for machine in state.known.machines}
    wet = rack(member) if stand is Stand.RETEST else []
    return After(
        today_of(member),
        sheet_of_case(member, state.row.pk) if stand is not Stand.ASK else None,
        tuple(on for on in wet if on.machine_id in about and on.slot_empty),
        tuple(said_at(member, state.row.pk)),
    )


def open_cases(member: Member) -> list[CaseState]:
    """The cases that are open, newest first; those of machines that are put away wait until these are back."""
    rows = (
        Case.objects.of(member.household_id)
        .filter(status=Case.Status.OPEN, machine__status="in_use")
        .order_by("-opened_at")
    )
    return [state_of_row(member, row, known(member, row.machine_id)) for row in rows.order_by("-opened_at")]
