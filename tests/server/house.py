"""A household with one robot, made through the services, for tests of the server."""

from datetime import UTC, datetime, time, timedelta
from uuid import uuid4

from django.test import TestCase

from care.due.schedule import weekly
from care.model import Load
from care.vocabulary import Meter, School
from care.washability import Mark
from server.base import clock
from server.due.state import machine_states
from server.household.services import answer, create_household
from server.setup.services import Spare, add_machine
from server.use.services import log_run

NOON = datetime(2026, 3, 4, 12, 0, tzinfo=UTC)
"""A Wednesday."""
DAY = timedelta(days=1)
RESTED = timedelta(hours=28)
"""What a pleated filter rests where nobody told of a drying place."""
WEEKDAYS = ["MO", "TU", "WE", "TH", "FR"]


def hours_of(state):
    """What the clock that counts hours of running has counted [h]."""
    return next(clock.used for clock in state.clocks if clock.meter is Meter.RUN_HOURS)


def household(name="Testgate 1", user_name="tester", time_zone="Europe/Dublin"):
    """An owner of a new household."""
    return create_household(name=name, time_zone=time_zone, user_name=user_name, password="a-long-one", person="Ash")


def move_in(house):
    """Give `house`, a class of tests or one that is made for an example, its household and its robot."""
    house.member = household()
    with clock.at(NOON - 30 * DAY):
        answer(member=house.member, load=Load(), school=School.WORKSHOP)
        house.machine = add_machine(
            member=house.member,
            machine_id=uuid4(),
            name="Robot",
            archetype="robot-two-roller",
            schedule=weekly(WEEKDAYS, 50, time(10, 15)),
            spares=house.spares,
            marked=house.marked,
        )


class HouseTestCase(TestCase):
    """A household with a robot, all parts new thirty days before `NOON`; the clock stands at `NOON`."""

    spares: list[Spare] = []
    marked = {"filter": Mark.YES}

    @classmethod
    def setUpTestData(cls):
        move_in(cls)

    def setUp(self):
        self.at(NOON)

    def at(self, moment):
        """Hold the clock at `moment` from now on."""
        holding = clock.at(moment)
        holding.__enter__()
        self.addCleanup(holding.__exit__, None, None, None)

    def state(self):
        """How the robot stands."""
        [state] = machine_states(self.member, self.machine.pk)
        return state

    def due(self, slot, action):
        """How one rule of the robot stands."""
        return next(d for d in self.state().due if (d.slot, d.action) == (slot, action))

    def ran(self, minutes=50, days_ago=0):
        """The robot ran on a day."""
        day = (NOON - days_ago * DAY).date()
        return log_run(member=self.member, run_id=uuid4(), machine_id=self.machine.pk, minutes=minutes, day=day)

    def item(self, slot):
        """What sits in a slot, or None."""
        state = self.state()
        return state.items.get(state.machine.fitted.get(slot))

    def spare(self, name):
        """A part by its name."""
        return next(item for item in self.state().items.values() if item.name == name)
