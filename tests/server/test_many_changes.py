"""Whatever is changed on a machine in whatever order, taking it all back leaves the machine as the book has it."""

from uuid import uuid4

from hypothesis import given
from hypothesis import strategies as st
from hypothesis.extra.django import TestCase

from care.due.schedule import weekly
from care.overrides import PlacedAt
from care.vocabulary import Action, Meter, School
from server.base import clock
from server.base.problems import Conflict
from server.due.state import machine_states
from server.due.stored import board_rows
from server.logbook.services import undo
from server.machines import records
from server.machines.models import Item, Machine
from server.round.board import round_of
from server.setup import overrides, parts, status
from server.setup.services import New, set_up
from tests.effort import examples
from tests.server.house import NOON, household

SLOTS = ["filter", "caster", "side-brush", "wheels"]
changes = st.one_of(
    st.tuples(st.just("name"), st.sampled_from(SLOTS), st.sampled_from(["Blue", "Green", "Old one"])),
    st.tuples(st.just("place"), st.sampled_from(SLOTS), st.sampled_from(["bay", "bin", "outlet"])),
    st.tuples(st.just("school"), st.sampled_from(["", *SLOTS]), st.sampled_from([*School, None])),
    st.tuples(st.just("figure"), st.sampled_from(["caster", "side-brush"]), st.integers(2, 40)),
    st.tuples(st.just("gone"), st.sampled_from(["wheels", "caster"]), st.just(None)),
    st.tuples(st.just("added"), st.just(""), st.sampled_from(["foam-pad", "bin-seal"])),
    st.tuples(st.just("machine"), st.just(""), st.sampled_from(["Attic", "Cellar"])),
    st.tuples(st.just("status"), st.just(""), st.sampled_from(["archived", "lent"])),
)


class AnyChanges(TestCase):
    def setUp(self):
        self.member = household()
        holding = clock.at(NOON)
        holding.__enter__()
        self.addCleanup(holding.__exit__, None, None, None)
        week = weekly(["MO", "TH"], 50, None)
        new = New(uuid4(), "Robot", "robot-two-roller", week)
        [self.machine] = set_up(member=self.member, machines=[new])
        self.on = {"member": self.member, "machine_id": self.machine.pk}

    def change(self, what, slot, value):
        """One change; None where it does not apply as things stand."""
        made = {
            "name": lambda: overrides.rename_part(**self.on, slot=slot, name=value),
            "place": lambda: overrides.place_part(**self.on, slot=slot, place=PlacedAt(value)),
            "school": lambda: overrides.choose_school(**self.on, slot=slot, school=value),
            "figure": lambda: overrides.own_figure(
                **self.on, slot=slot, action=Action.DE_HAIR, meter=Meter.DAYS, figure=value, why="so"
            ),
            "gone": lambda: parts.remove_part(**self.on, slot=slot),
            "added": lambda: parts.add_part(**self.on, name=f"{value} {uuid4().hex[:4]}", station="bin", use=value),
            "machine": lambda: overrides.rename_machine(**self.on, name=value),
            "status": lambda: status.set_status(**self.on, status=value),
        }
        try:
            return made[what]()
        except (ValueError, Conflict):
            return None

    def row(self):
        return Machine.objects.of(self.member.household_id).get(pk=self.machine.pk)

    def states(self):
        [state] = machine_states(self.member, self.machine.pk)
        return state.due

    def take_back(self, entry):
        undo(household_id=self.member.household_id, by_id=self.member.pk, entry_id=entry.pk)

    @examples(15)
    @given(st.lists(changes, min_size=1, max_size=6))
    def test_are_all_taken_back_and_the_board_stays_true_meanwhile(self, wanted):
        before, name = self.states(), self.row().name
        done = []
        for change in wanted:
            entry = self.change(*change)
            done += [entry] if entry else []
            round_of(self.member)
            kept = [(one.strip, one.tasks) for one in board_rows(self.member)]
            self.forget_what_is_stored()
            self.assertEqual(kept, [(one.strip, one.tasks) for one in board_rows(self.member)], change)
        for entry in reversed(done):
            self.take_back(entry)
        row = self.row()
        self.assertEqual((row.own, row.name, row.status), ({}, name, "in_use"))
        self.assertEqual(self.states(), before)
        fitted = Item.objects.of(self.member.household_id).filter(state="fitted").count()
        self.assertEqual(fitted, len(records.archetype_of(row).parts(frozenset())))

    def forget_what_is_stored(self):
        """Drop what Round keeps, so that it is computed anew."""
        from server.machines.models import Standing

        Standing.objects.of(self.member.household_id).delete()
