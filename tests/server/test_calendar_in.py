"""Holidays and schedules from calendar files: read, shown, taken as one; what is broken or asks too much is refused."""

from datetime import UTC, date, datetime, time, timedelta
from itertools import islice
from time import monotonic
from zoneinfo import ZoneInfo

from django.test import SimpleTestCase
from hypothesis import given
from hypothesis import strategies as st
from icalendar import Calendar, Event

from care.errors import InvalidValue
from care.model import Rest as CoreRest
from server.household.services import zone_of
from server.logbook.models import Entry
from server.season.ics_in import LARGEST, read
from server.season.planning import season_of
from server.use.services import away_days
from tests.effort import examples
from tests.server.house import NOON
from tests.server.test_api import ApiTestCase

TODAY = NOON.date()


def calendar(*events):
    """A calendar file of events: (summary, start, end, rule)."""
    made = Calendar()
    made.add("prodid", "-//test//")
    made.add("version", "2.0")
    for n, (summary, start, end, rule) in enumerate(events):
        event = Event()
        event.add("uid", f"e{n}")
        event.add("summary", summary)
        event.add("dtstart", start)
        event.add("dtend", end)
        if rule:
            event.add("rrule", rule)
        made.add_component(event)
    return made.to_ical()


LAKE = ("At the lake", date(2026, 4, 1), date(2026, 4, 11), None)
ROBOT = (
    "Robot runs",
    datetime(2026, 1, 5, 9, 30, tzinfo=UTC),
    datetime(2026, 1, 5, 10, 10, tzinfo=UTC),
    {"freq": "weekly", "byday": ["MO", "TH"]},
)


class FromAFile(ApiTestCase):
    def read(self, data):
        return read(data, TODAY, zone_of(self.member))

    def preview(self, data):
        return self.client.post("/api/season/import/preview", data, content_type="text/calendar")

    def test_holidays_are_days_and_a_schedule_is_a_week(self):
        lake, robot = sorted(self.read(calendar(ROBOT, LAKE)).times, key=lambda one: one.summary)
        self.assertEqual(((date(2026, 4, 1), date(2026, 4, 10)),), lake.days)
        self.assertTrue(lake.all_day)
        self.assertEqual((("MO", "TH"), time(9, 30), 40.0), (robot.weekdays, robot.starts, robot.minutes))

    def test_what_is_shown_is_taken_in_one_and_undone_in_one(self):
        shown = self.preview(calendar(ROBOT, LAKE)).json()
        before = Entry.objects.of(self.member.household_id).count()
        lake = next(one for one in shown["times"] if one["all_day"])
        robot = next(one for one in shown["times"] if not one["all_day"])
        [span] = lake["days"]
        week = {
            "machine_id": str(self.machine.pk),
            "days": robot["weekdays"],
            "minutes": robot["minutes"],
            "starts": robot["starts"],
        }
        answer = self.post("/season/import", away=[span], week=week)
        self.assertEqual(201, answer.status_code, answer.content[:300])
        self.assertEqual(before + 2, Entry.objects.of(self.member.household_id).count())
        [rest] = away_days(self.member)
        self.assertIsInstance(rest, CoreRest)
        self.assertEqual((date(2026, 4, 1), date(2026, 4, 10)), (rest.first, rest.last))
        self.assertIn("BYDAY=MO,TH", self.state().schedule.rule)
        self.assertFalse([v for v in season_of(self.member).season.visits if rest.holds(v.day.date)])
        self.post(f"/entries/{answer.json()['entry_id']}/undo")
        self.assertEqual([], away_days(self.member))
        self.assertNotIn("BYDAY=MO,TH", self.state().schedule.rule)

    def test_of_what_is_taken_all_or_nothing_is_recorded(self):
        before = Entry.objects.of(self.member.household_id).count()
        answer = self.post(
            "/season/import",
            away=[{"first": "2026-04-01", "last": "2026-04-10"}],
            no_visit=[{"first": "2020-01-01", "last": "2020-01-02"}],
        )
        self.assertEqual(422, answer.status_code)
        self.assertEqual(422, self.post("/season/import").status_code)
        self.assertEqual(before, Entry.objects.of(self.member.household_id).count())

    def test_what_is_no_calendar_or_too_large_is_refused_in_words(self):
        good = calendar(LAKE)
        for data in (b"", b"hello", b"\xff\xfe\x00", good[:-30].replace(b"BEGIN:VCALENDAR", b""), b"x" * (LARGEST + 1)):
            with self.subTest(data[:20]):
                self.assert_problem(self.preview(data), 422, "file")
        many = calendar(*([LAKE] * 501))
        self.assert_problem(self.preview(many), 422, "file")

    def test_repeating_that_never_ends_takes_no_time(self):
        bombs = [
            {"freq": "secondly"},
            {"freq": "minutely", "interval": 1},
            {"freq": "daily", "bymonth": 2, "bymonthday": 30},
            {"freq": "yearly", "byyearday": 400},
            {"freq": "yearly", "bymonth": 2, "bymonthday": 30},
            {"freq": "monthly", "byday": "6MO"},
        ]
        begun = monotonic()
        for rule in bombs:
            found = self.read(
                calendar(
                    ("bomb", datetime(2026, 1, 1, 9, 0, tzinfo=UTC), datetime(2026, 1, 1, 10, 0, tzinfo=UTC), rule)
                )
            )
            self.assertEqual(((), 1), (found.times, found.left_out))
        old = ("old", date(2000, 1, 1), date(2000, 1, 2), {"freq": "daily"})
        with self.assertRaises(InvalidValue):
            self.read(calendar(*[old] * 400))
        self.assertLess(monotonic() - begun, 60)

    def test_an_hour_in_another_zone_is_told_in_ours(self):
        text = calendar(LAKE).decode().replace(
            "END:VCALENDAR",
            "BEGIN:VEVENT\r\nUID:z\r\nSUMMARY:zoned\r\nDTSTART;TZID=America/New_York:20260601T060000\r\n"
            "DTEND;TZID=America/New_York:20260601T070000\r\nEND:VEVENT\r\nEND:VCALENDAR",
        )  # fmt: skip
        zoned = next(one for one in self.read(text.encode()).times if one.summary == "zoned")
        self.assertEqual(time(11), zoned.starts)
        self.assertEqual(timedelta(0), zoned.days[0][1] - zoned.days[0][0])


class BrokenFiles(SimpleTestCase):
    @given(st.binary(max_size=400), st.integers(0, 400))
    @examples(60)
    def test_no_broken_file_does_anything_but_be_refused(self, junk, at):
        good = calendar(LAKE, ROBOT)
        for data in (junk, good[:at] + junk + good[at:]):
            try:
                found = read(data, TODAY, ZoneInfo("Europe/Dublin"))
            except InvalidValue as error:
                self.assertEqual("file", error.field)
            else:
                self.assertTrue(all(first <= last for one in islice(found.times, 9) for first, last in one.days))
