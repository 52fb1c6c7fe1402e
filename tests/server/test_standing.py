"""What is stored for Round equals what a full recompute gives, whatever happens."""

from contextlib import suppress
from datetime import timedelta
from unittest import mock
from uuid import uuid4

from hypothesis import given
from hypothesis import strategies as st
from hypothesis.extra.django import TestCase as HypothesisTestCase

from care.errors import CareError
from care.model import Load, Why
from care.vocabulary import Action, Found, LoadKind, School
from server.base import clock
from server.due import on_record
from server.due.state import machine_states
from server.due.stored import board_rows, stand
from server.household.services import answer, more_load
from server.logbook import memo
from server.logbook.models import Entry
from server.logbook.services import undo
from server.machines.models import Standing
from server.round.board import round_of
from server.setup.services import add_machine
from server.use.services import log_run, rest
from server.work.services import already_done, look, renew_kit
from tests.effort import examples
from tests.server.house import DAY, NOON, HouseTestCase, household


class Stored(HouseTestCase):
    def test_is_made_once_and_again_only_for_the_machine_that_was_touched(self):
        other = add_machine(
            member=self.member, machine_id=uuid4(), name="Upright", archetype="upright-belt", schedule=None
        )
        board_rows(self.member)
        before = dict(Standing.objects.of(self.member.household_id).values_list("pk", "revision"))
        self.ran()
        board_rows(self.member)
        after = dict(Standing.objects.of(self.member.household_id).values_list("pk", "revision"))
        self.assertEqual(before[other.pk], after[other.pk])
        self.assertNotEqual(before[self.machine.pk], after[self.machine.pk])
        with self.assertNumQueries(4):
            board_rows(self.member)

    def test_after_a_run_only_the_use_of_its_machine_is_read_again(self):
        with mock.patch.object(memo, "connection", mock.Mock(in_atomic_block=False)):
            for happens, again in ((self.ran, False), (self.looked, True)):
                machine_states(self.member)
                happens()
                with mock.patch.object(on_record, "_loaded", wraps=on_record._loaded) as loaded:
                    machine_states(self.member)
                self.assertEqual(loaded.called, again, happens.__name__)
        memo.forget()

    def looked(self):
        look(member=self.member, machine_id=self.machine.pk, slot_key="wheels", about=Action.WIPE, found=Found.LIGHT)

    def test_a_new_day_makes_it_anew(self):
        today = self.share("contacts")
        self.at(NOON + DAY)
        tomorrow = self.share("contacts")
        self.assertAlmostEqual(tomorrow - today, 1 / 30)

    def share(self, slot):
        """How far a part is, as Round tells it."""
        round_ = round_of(self.member)
        return next(task["share"] for task in [*round_.due, *round_.coming] if task["slot"] == slot)


def _ops():
    slots = st.sampled_from(["filter", "rubber-roller", "caster", "wheels", "contacts"])
    return st.lists(st.tuples(st.integers(0, 7), slots, st.sampled_from(list(Found)), st.integers(1, 90)), max_size=8)


class EqualsAFullRecompute(HypothesisTestCase):
    def setUp(self):
        committed = mock.patch.object(memo, "connection", mock.Mock(in_atomic_block=False))
        committed.start()  # what is worked out is kept in the process as if each write were committed
        self.addCleanup(committed.stop)
        self.addCleanup(memo.forget)

    @examples(15)
    @given(_ops())
    def test_after_anything_that_can_happen(self, ops):
        member = household()
        with clock.at(NOON - 40 * DAY):
            machine = add_machine(
                member=member, machine_id=uuid4(), name="Robot", archetype="robot-two-roller", schedule=None
            )
        for n, (kind, slot, found, minutes) in enumerate(ops):
            with clock.at(NOON - timedelta(days=len(ops) - n)):
                with suppress(CareError):  # refused: nothing is written
                    self.happen(member, machine.pk, kind, slot, found, minutes)
                board_rows(member)
        with clock.at(NOON):
            [kept] = board_rows(member)
            memo.forget()
            [state] = machine_states(member)
            self.assertEqual(kept, stand(state))

    def happen(self, member, machine, kind, slot, found, minutes):
        """One of the things that move dates."""
        today = clock.now().date()
        rule = {"filter": Action.WASH, "wheels": Action.WIPE, "contacts": Action.WIPE}.get(slot, Action.DE_HAIR)
        if kind < 3:
            log_run(member=member, run_id=uuid4(), machine_id=machine, minutes=minutes, day=today - (kind * DAY))
        elif kind == 3:
            already_done(
                member=member, machine_id=machine, slot_key=slot, action=rule, found=found, day=today - 3 * DAY
            )
        elif kind == 4:
            look(member=member, machine_id=machine, slot_key=slot, about=rule, found=found)
        elif kind == 5:
            answer(member=member, load=Load(hair=minutes / 90), school=School.THRIFTY)
            more_load(member=member, kind=LoadKind.DUST, first=today, last=today + DAY, level=1.0)
        elif kind == 6:
            renew_kit(member=member, machine_id=machine, kit="brushes")
            rest(member=member, machine_id=machine, why=Why.PAUSED, first=today, last=None)
        else:
            last = Entry.objects.of(member.household_id).exclude(kind__in=["void", "machine"]).last()
            undo(household_id=member.household_id, by_id=member.pk, entry_id=last.pk)
