"""Tasks that wait, tasks that somebody took on, mishaps; notes and photos."""

from datetime import timedelta
from io import BytesIO
from uuid import uuid4

from django.contrib.auth import get_user_model
from PIL import Image

from care.errors import InvalidValue
from care.vocabulary import Action, Mishap
from server.base import clock
from server.base.problems import Conflict, NotFound
from server.due.duties import put_off, take_on
from server.household.models import Member
from server.logbook.services import undo
from server.notes.services import LONG_SIDE_PX, add_note, clean_picture, notes, picture_of, reminded
from server.round.board import round_of
from server.use.services import mishap
from server.work.services import already_done
from tests.server.house import DAY, NOON, HouseTestCase, household


class DutyTestCase(HouseTestCase):
    task = {"slot": "sensors", "action": Action.WIPE}
    """Due after thirty days, and what the robot needs not to fall down stairs; the contacts may wait."""

    def setUp(self):
        super().setUp()
        self.on = {"member": self.member, "machine_id": self.machine.pk}

    def due(self, member=None):
        return {(task["slot"], task["action"]): task for task in round_of(member or self.member).due}


class Waiting(DutyTestCase):
    contacts = {"slot": "contacts", "action": Action.WIPE}

    def test_until_its_day_with_its_reason_in_sight(self):
        self.assertIn(("contacts", "wipe"), self.due())
        until = NOON.date() + timedelta(days=7)
        put_off(**self.on, **self.contacts, until=until, reason="at the sea")
        self.assertNotIn(("contacts", "wipe"), self.due())
        [waits] = round_of(self.member).put_off
        self.assertEqual((waits["put_off"]["reason"], waits["put_off"]["by"]), ("at the sea", "Ash"))
        with clock.at(NOON + 7 * DAY):
            self.assertIn(("contacts", "wipe"), self.due())

    def test_or_until_it_is_done_or_taken_back(self):
        entry = put_off(**self.on, **self.contacts, until=NOON.date() + timedelta(days=7), reason="later")
        undo(household_id=self.member.household_id, by_id=self.member.pk, entry_id=entry.pk)
        self.assertIn(("contacts", "wipe"), self.due())

    def test_not_for_what_keeps_people_safe(self):
        with self.assertRaises(InvalidValue) as refused:
            put_off(**self.on, **self.task, until=NOON.date() + timedelta(days=7), reason="later")
        self.assertEqual(refused.exception.field, "action")


class TakenOn(DutyTestCase):
    def setUp(self):
        super().setUp()
        user = get_user_model().objects.create_user(username="rowan", password="a-long-one")
        self.other = Member.everything.create(
            id=uuid4(),
            household=self.member.household,
            user=user,
            name="Rowan",
            role=Member.Role.HELPER,
            joined_at=clock.now(),
        )

    def taken(self):
        return self.due()[("sensors", "wipe")]["taken"]

    def test_by_one_person_is_told_to_all_and_refused_to_others(self):
        take_on(**self.on, **self.task)
        self.assertEqual(self.taken()["by"], "Ash")
        with self.assertRaises(Conflict) as refused:
            take_on(member=self.other, machine_id=self.machine.pk, **self.task)
        self.assertIn("Ash has this one", str(refused.exception))

    def test_lapses_after_a_week_and_ends_with_the_work(self):
        take_on(**self.on, **self.task)
        with clock.at(NOON + 7 * DAY):
            self.assertIsNone(self.taken())
            take_on(member=self.other, machine_id=self.machine.pk, **self.task)
        already_done(**self.on, slot_key="sensors", action=Action.WIPE)
        self.assertNotIn(("sensors", "wipe"), self.due())


class Mishaps(DutyTestCase):
    def test_bring_forward_what_they_harm_and_undo_takes_it_back(self):
        already_done(**self.on, slot_key="wheels", action=Action.WIPE, day=NOON.date() - timedelta(days=2))
        self.assertNotIn(("wheels", "wipe"), self.due())
        entry = mishap(**self.on, kind=Mishap.STICKY)
        self.assertIn(("wheels", "wipe"), self.due())
        undo(household_id=self.member.household_id, by_id=self.member.pk, entry_id=entry.pk)
        self.assertNotIn(("wheels", "wipe"), self.due())

    def test_of_a_day_to_come_are_refused(self):
        with self.assertRaises(InvalidValue) as refused:
            mishap(**self.on, kind=Mishap.WET, day=NOON.date() + timedelta(days=1))
        self.assertEqual(refused.exception.field, "day")


def photo(size=(2400, 1200), kind="JPEG", **more):
    """A picture whose left half is red, as a camera writes it."""
    image = Image.new("RGB", size, "white")
    image.paste((200, 20, 20), (0, 0, size[0] // 2, size[1]))
    out = BytesIO()
    image.save(out, kind, **more)
    return out.getvalue()


class Reminders(DutyTestCase):
    def test_stand_on_round_from_their_day_on_until_they_are_done(self):
        today = NOON.date()
        later = add_note(**self.on, text="Are the mops dry?", remind_on=today + timedelta(days=1))
        add_note(**self.on, text="The spot by the door, by hand", remind_on=today)
        add_note(**self.on, text="Only a note")
        self.assertEqual([one.text for one in round_of(self.member).reminders], ["The spot by the door, by hand"])
        with clock.at(NOON + DAY):
            listed = round_of(self.member).reminders
            self.assertEqual([one.on for one in listed], [today, today + timedelta(days=1)])
            undo(household_id=self.member.household_id, by_id=self.member.pk, entry_id=later.pk)
            self.assertEqual([one.on for one in round_of(self.member).reminders], [today])
        done = reminded(member=self.member, entry_id=round_of(self.member).reminders[0].entry_id)
        self.assertEqual(round_of(self.member).reminders, [])
        self.assertEqual(notes(self.member, self.machine.pk)[0].text, "Done: The spot by the door, by hand")
        undo(household_id=self.member.household_id, by_id=self.member.pk, entry_id=done.pk)
        [back] = round_of(self.member).reminders
        other = household("Other 2", "other")
        self.assertEqual(round_of(other).reminders, [], "nobody else's")
        with self.assertRaises(NotFound):
            reminded(member=other, entry_id=back.entry_id)
        reminded(member=self.member, entry_id=back.entry_id)
        with self.assertRaises(NotFound):
            reminded(member=self.member, entry_id=back.entry_id)
        with self.assertRaises(InvalidValue):
            add_note(**self.on, text=" ", remind_on=today)


class Notes(DutyTestCase):
    def test_of_a_picture_are_small_upright_and_without_metadata(self):
        exif = Image.Exif()
        exif[0x0112] = 6  # the camera lay on its side
        exif[0x010F] = "a maker of cameras"
        exif.get_ifd(0x8825)[2] = (53.0, 20.0, 0.0)  # where it was taken
        clean = clean_picture(photo(exif=exif))
        self.assertEqual((clean.width, clean.height), (LONG_SIDE_PX // 2, LONG_SIDE_PX))
        with Image.open(BytesIO(clean.data)) as kept:
            self.assertEqual((kept.format, dict(kept.getexif())), ("JPEG", {}))
            self.assertEqual(kept.info.get("exif"), None)
            red, green, _ = kept.getpixel((400, 100))
        self.assertTrue(red > 150 > green, "red was left and is up now")

    def test_that_are_no_picture_or_too_large_are_refused_and_nothing_is_kept(self):
        for bad in (b"not a picture", photo()[:500], b"x" * 25_000_001):
            with self.subTest(len(bad)), self.assertRaises(InvalidValue) as refused:
                add_note(**self.on, slot="filter", picture=bad)
            self.assertEqual(refused.exception.field, "picture")
        with self.assertRaises(InvalidValue) as refused:
            add_note(**self.on, text="  ")
        self.assertEqual(refused.exception.field, "text")
        self.assertEqual(notes(self.member, self.machine.pk), [])

    def test_stand_with_their_part_until_removed_and_only_at_home(self):
        entry = add_note(**self.on, slot="filter", text="tab to the left", picture=photo((300, 200), "PNG"))
        [line] = notes(self.member, self.machine.pk)
        self.assertEqual((line.slot, line.text, line.width, line.by), ("filter", "tab to the left", 300, "Ash"))
        self.assertTrue(picture_of(self.member, entry.pk).startswith(b"\xff\xd8"))
        with self.assertRaises(NotFound):
            picture_of(household("Testgate 2", "other"), entry.pk)
        undo(household_id=self.member.household_id, by_id=self.member.pk, entry_id=entry.pk)
        self.assertEqual(notes(self.member, self.machine.pk), [])
        with self.assertRaises(NotFound):
            picture_of(self.member, entry.pk)
