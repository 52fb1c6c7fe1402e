"""Rows and core values: what goes in comes out."""

from datetime import timedelta

from hypothesis import given
from hypothesis import strategies as st
from hypothesis.extra.django import TestCase as HypothesisTestCase

from care.items import Fitting, Item, Move, MoveKind, Override, State
from server.logbook.services import Journal
from server.machines import models, records
from tests.effort import examples
from tests.server.house import NOON, HouseTestCase, move_in

overrides = st.none() | st.builds(Override, by=st.just("Ash"), reason=st.sampled_from(["guests", "ürgent"]))
moments = st.integers(0, 10**6).map(lambda s: NOON + timedelta(seconds=s))


class RoundTrip(HypothesisTestCase):
    def make_house(self):
        """A household for one example."""
        self.house = HouseTestCase()
        move_in(self.house)
        self.house.setUp()
        self.house.doCleanups()
        self.household_id = self.house.member.household_id
        self.row = models.Item.objects.of(self.household_id).filter(home_slot="filter").get()

    @examples(15)
    @given(kind=st.sampled_from(MoveKind), at=moments, floor_h=st.sampled_from([0.0, 24.0]), override=overrides)
    def test_of_a_move(self, kind, at, floor_h, override):
        self.make_house()
        machine = self.house.machine.pk if kind is MoveKind.FIT else None
        move = Move(kind, at, machine, "filter" if machine else None, floor_h, override, "because")
        entry = Journal(self.household_id, by_id=None).write("move", at)
        records.from_move(entry.pk, self.household_id, self.row.pk, move).save(force_insert=True)
        again = models.Move.objects.of(self.household_id).select_related("entry").get(pk=entry.pk)
        self.assertEqual(records.to_move(again), move)

    @examples(15)
    @given(
        state=st.sampled_from(State), at=moments, damp=st.none() | moments, washes=st.integers(0, 40), early=overrides
    )
    def test_of_an_item(self, state, at, damp, washes, early):
        self.make_house()
        fitted = state is State.FITTED
        item = Item(
            self.row.pk,
            self.row.part,
            self.row.name,
            state,
            at,
            self.house.machine.pk if fitted else None,
            "filter" if fitted else None,
            damp,
            damp,
            washes,
            washes + 1,
            early,
        )
        records.put_state(self.row, item)
        self.row.save()
        self.assertEqual(records.to_item(models.Item.objects.of(self.household_id).get(pk=self.row.pk)), item)

    @examples(15)
    @given(start=moments, hours=st.none() | st.integers(0, 99), early=overrides)
    def test_of_a_fitting(self, start, hours, early):
        self.make_house()
        models.Fitting.objects.of(self.household_id).filter(item=self.row).delete()
        end = None if hours is None else start + timedelta(hours=hours)
        fitting = Fitting(self.row.pk, self.house.machine.pk, "filter", start, end, early)
        records.from_fitting(self.household_id, fitting).save()
        self.assertEqual(records.to_fitting(models.Fitting.objects.of(self.household_id).get(item=self.row)), fitting)
