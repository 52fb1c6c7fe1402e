"""SQLite as it is set up: it keeps references, and people who write at once wait for each other."""

from concurrent.futures import ThreadPoolExecutor
from pathlib import Path
from tempfile import TemporaryDirectory
from uuid import uuid4

from django.db import IntegrityError, connection, transaction
from django.test import SimpleTestCase, TestCase, TransactionTestCase

from care.due.schedule import weekly
from server.config.environment import secret
from server.due.state import machine_states
from server.household.models import Member
from server.logbook.models import Entry
from server.machines.models import Fitting, Run
from server.setup.services import add_machine
from server.use.services import log_run
from tests.server.house import NOON, HouseTestCase, household


class Settings(TestCase):
    def pragma(self, name):
        with connection.cursor() as cursor:
            return cursor.execute(f"PRAGMA {name}").fetchone()[0]

    def test_write_ahead_log_foreign_keys_and_a_patient_lock(self):
        self.assertEqual(self.pragma("journal_mode"), "wal")
        self.assertEqual(self.pragma("foreign_keys"), 1)
        self.assertGreaterEqual(self.pragma("busy_timeout"), 5000)


class Secret(SimpleTestCase):
    def test_programs_that_start_at_once_have_one_key_and_never_half_of_it(self):
        for _ in range(20):
            with TemporaryDirectory() as folder, ThreadPoolExecutor(12) as pool:
                file = Path(folder) / "var" / "secret_key"
                keys = set(pool.map(lambda _, at=file: secret("NO_SUCH_KEY", at), range(12)))
                self.assertEqual({file.read_text()}, keys)
                self.assertGreaterEqual(len(file.read_text()), 50)
                self.assertEqual(0o600, file.stat().st_mode & 0o777)


class AtOnce(TransactionTestCase):
    def test_forty_runs_from_eight_threads_are_all_counted_in_one_order(self):
        member = household()
        machine = add_machine(
            member=member,
            machine_id=uuid4(),
            name="Robot",
            archetype="robot-two-roller",
            schedule=weekly(["MO"], 50, None),
        )

        def five_runs(number):
            try:
                for _ in range(5):
                    log_run(member=member, run_id=uuid4(), machine_id=machine.pk, minutes=1)
            finally:
                connection.close()

        with ThreadPoolExecutor(8) as pool:
            list(pool.map(five_runs, range(8)))
        self.assertEqual(Run.objects.of(member.household_id).count(), 40)
        order = list(Entry.objects.of(member.household_id).order_by("sequence").values_list("sequence", flat=True))
        self.assertEqual(order, list(range(1, len(order) + 1)))
        [state] = machine_states(member)
        self.assertAlmostEqual(sum(run.run_s for run in state.runs), 40 * 60)


class Constraints(HouseTestCase):
    def test_one_part_in_a_slot_even_past_the_services(self):
        row = Fitting.objects.of(self.member.household_id).filter(slot="filter").get()
        other = Fitting.objects.of(self.member.household_id).filter(slot="bin").get()
        with self.assertRaises(IntegrityError), transaction.atomic():
            Fitting.objects.of(self.member.household_id).filter(pk=other.pk).update(slot=row.slot)

    def test_only_a_void_voids(self):
        entry = Entry.objects.of(self.member.household_id).first()
        with self.assertRaises(IntegrityError), transaction.atomic():
            Entry.objects.of(self.member.household_id).filter(pk=entry.pk).update(voids=entry)

    def test_an_account_is_one_person_of_a_household(self):
        told = {"user": self.member.user, "name": "Twin", "role": "owner", "joined_at": NOON}
        with self.assertRaisesRegex(IntegrityError, "user_id"), transaction.atomic():
            Member.everything.create(id=uuid4(), household=self.member.household, **told)
