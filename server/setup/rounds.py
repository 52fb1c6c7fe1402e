"""Tasks done in one go: what a machine can be planned for, and the rounds and kits that a household takes up.

A round that was taken up is a figure of one's own for each of its tasks, so that they fall due together.
"""

from collections.abc import Iterator
from dataclasses import dataclass
from uuid import UUID

from django.db import transaction

from care.bench.bundles import Kept, renewal, rhythm
from care.bench.bundles import tasks as bundle_tasks
from care.book import load_book
from care.content import Bundle
from care.errors import require
from care.kinds import Archetype, Kit
from care.overrides import Aspect, key_of, rounds
from care.parts import Slot
from care.plain import plain
from care.rules import OwnFigure
from care.vocabulary import Action, School
from server.base import clock
from server.household.models import Member
from server.household.services import answers_at, journal_by, require_writer
from server.logbook.models import Entry
from server.logbook.services import Journal
from server.machines import records
from server.machines.models import Machine
from server.machines.services import fitted_slots, machine_of
from server.setup.overrides import change_setting, put_setting

Tasks = list[tuple[Slot, Action]]


@dataclass(frozen=True, slots=True)
class OneGo:
    """What is done in one go on a machine and, if it belongs to it, on its dock: by machine, its kind and its tasks.

    `days` is the interval that the household took up, where it did [days]. A kit is renewed, a bundle serviced.
    """

    of: Bundle | Kit
    on: tuple[tuple[Machine, Archetype, Tasks], ...]
    days: float | None = None

    @property
    def kit(self) -> Kit | None:
        """Its parts, where it is renewed."""
        return self.of if isinstance(self.of, Kit) else None

    @property
    def key(self) -> str:
        """Its key among the settings of the machine."""
        return f"kit-{self.of.key}" if self.kit else self.of.key

    @property
    def comes_round(self) -> bool:
        """Whether it has an interval of its own, which may be taken up."""
        return not isinstance(self.of, Bundle) or self.of.is_round

    def kept(self, days: float) -> Iterator[tuple[Machine, Kept]]:
        """Its tasks at an interval [days], each with its machine."""
        why = f"{'Kit' if self.kit else 'Round'}: {self.of.name}"
        for machine, kind, tasks in self.on:
            made = renewal(kind, self.kit.slots, why, days) if self.kit else rhythm(why, tasks, kind, days)
            yield from ((machine, one) for one in made)


def in_one_go(household_id: UUID, machine: Machine) -> list[OneGo]:
    """Everything that can be done in one go on a machine, of the parts that are in."""
    docks = list(Machine.objects.of(household_id).filter(serves=machine, status=Machine.Status.IN_USE))
    kind, school = records.archetype_of(machine), answers_at(household_id, clock.now()).school
    fitted = fitted_slots(household_id, [machine.pk, *(dock.pk for dock in docks)])
    provided = {feature for dock in docks for feature in records.archetype_of(dock).provides}
    taken_up = rounds(machine.own)
    made = []
    for bundle in load_book().bundles:
        on = [_on(bundle, machine, kind, frozenset({*machine.features, *provided}), school, fitted)]
        if bundle.with_dock and on[0][2]:
            on += [
                _on(bundle, dock, records.archetype_of(dock), frozenset(dock.features), school, fitted, anyhow=True)
                for dock in docks
            ]
        if on[0][2]:
            made.append(OneGo(bundle, tuple(on), taken_up.get(bundle.key)))
    kits = [OneGo(kit, ((machine, kind, []),), taken_up.get(f"kit-{kit.key}")) for kit in kind.kits]
    return [*made, *kits]


def _on(
    bundle: Bundle,
    machine: Machine,
    kind: Archetype,
    features: frozenset[str],
    school: School,
    fitted: set[tuple[UUID, str]],
    *,
    anyhow: bool = False,
) -> tuple[Machine, Archetype, Tasks]:
    whose = _of_any(bundle) if anyhow else bundle
    chosen = bundle_tasks(whose, kind, features, school)
    return machine, kind, [(slot, action) for slot, action in chosen if (machine.pk, slot.key) in fitted]


def _of_any(bundle: Bundle) -> Bundle:
    """The bundle for the dock of its robot, however that gets around."""
    return Bundle(bundle.key, bundle.name, tasks=bundle.tasks)


@transaction.atomic
def keep_round(*, member: Member, machine_id: UUID, key: str, days: float | None) -> Entry:
    """The tasks of a round, or the parts of a kit, fall due together every so many days [days]; None: each by itself.

    Figures of one's own that were set for another reason stay. Undone as one. Raises `InvalidValue` for a key that the
    machine has no round or kit of.
    """
    require_writer(member)
    machine = machine_of(member, machine_id)
    offered = {one.key: one for one in in_one_go(member.household_id, machine) if one.comes_round}
    require(key in offered, "key", key, "one of " + (", ".join(offered) or "none for this machine"))
    require(days is None or 1 <= days <= 730, "days", days, "1 to 730 days")
    journal = journal_by(member, machine.pk)
    for at, kept in offered[key].kept(days or 1.0):
        setting = key_of(Aspect.RULE, kept.slot, kept.action)
        known = at.own.get(setting)
        if known is not None and known["why"] != kept.figure.why:
            continue
        if known is not None or days is not None:
            figure = plain(OwnFigure).dump_python(kept.figure, mode="json") if days is not None else None
            put_setting(_same_action(journal, member, at), at, setting, figure)
    return put_setting(_same_action(journal, member, machine), machine, key_of(Aspect.ROUND, key), days)


def _same_action(journal: Journal, member: Member, machine: Machine) -> Journal:
    """The next entries of one action, about a machine."""
    return journal_by(member, machine.pk, action_id=journal.action_id)


@transaction.atomic
def keep_level(*, member: Member, machine_id: UUID, level: str | None) -> Entry:
    """How far this machine is cleaned, always; None: as its tasks fall due. Raises `InvalidValue`."""
    return change_setting(member, machine_id, Aspect.LEVEL, "", None, level)


@transaction.atomic
def keep_habit(*, member: Member, machine_id: UUID, slot: str, action: Action, kept: bool) -> Entry:
    """Something extra is done in each sitting that lays it open, or no longer. Raises `InvalidValue`."""
    return change_setting(member, machine_id, Aspect.HABIT, slot, action, True if kept else None)
