"""Visits in calendars: read back by two parsers, the same entry when a visit moves, nothing without the address."""

from datetime import date, datetime, time, timedelta
from zoneinfo import ZoneInfo

import vobject
from icalendar import Calendar

from care.season import Hands
from care.vocabulary import Skill
from server.household.models import Member
from server.season.feeds import Shown, make_feed
from server.season.ical import calendar_of
from server.season.models import Feed
from server.season.planning import season_of
from server.season.records import Habits
from server.season.services import ask, keep_habits
from tests.server.house import NOON, household
from tests.server.test_api import ApiTestCase

HABITS = Habits((Hands("Ash", ("TH", "SU"), 60, Skill.STRIP_DOWN),), at=time(18, 30))
TIMED, ALL_DAY = Shown(all_day=False, alarm_min=60), Shown(all_day=True, alarm_min=0)


class InCalendars(ApiTestCase):
    def setUp(self):
        super().setUp()
        for days in range(1, 12):
            self.ran(days_ago=days)
        keep_habits(member=self.member, habits=HABITS)

    def events(self, shown=TIMED):
        read = Calendar.from_ical(calendar_of(self.member, shown, "http://home.test"))
        return {str(event["uid"]): event for event in read.walk("VEVENT")}

    def test_a_calendar_has_every_visit_at_its_local_time_across_daylight_saving(self):
        visits = season_of(self.member).season.visits
        events = sorted(self.events().values(), key=lambda event: event["dtstart"].dt)
        self.assertEqual([visit.day.date for visit in visits], [event["dtstart"].dt.date() for event in events])
        dublin = ZoneInfo("Europe/Dublin")
        offsets = set()
        for event in events:
            start = event["dtstart"].dt.astimezone(dublin)
            self.assertEqual(datetime.combine(start.date(), time(18, 30), tzinfo=dublin), start)
            offsets.add(start.utcoffset())
            self.assertGreater(event["dtend"].dt, start)
            self.assertEqual("Robot", str(event["summary"]).rsplit(": ", 1)[1])
            self.assertIn("http://home.test/#/season", str(event["description"]))
        self.assertEqual({timedelta(0), timedelta(hours=1)}, offsets)

    def test_a_foreign_parser_reads_the_same(self):
        text = calendar_of(self.member, TIMED, "http://home.test").decode()
        read = vobject.readOne(text)
        ours = self.events()
        self.assertEqual(set(ours), {event.uid.value for event in read.vevent_list})
        for event in read.vevent_list:
            self.assertEqual(ours[event.uid.value]["dtstart"].dt, event.dtstart.value)
            self.assertEqual(timedelta(hours=-1), event.valarm.trigger.value)
        self.assertTrue(all(len(line.encode()) <= 75 for line in text.split("\r\n")))

    def test_all_day_is_a_day_and_not_a_time(self):
        for event in self.events(ALL_DAY).values():
            self.assertIs(type(event["dtstart"].dt), date)
            self.assertEqual(timedelta(days=1), event["dtend"].dt - event["dtstart"].dt)
            [alarm] = event.walk("VALARM")
            self.assertEqual(timedelta(hours=9), alarm["trigger"].dt)

    def test_a_visit_that_moves_is_the_same_entry_and_one_that_is_skipped_is_cancelled(self):
        before = self.events()
        visit = season_of(self.member).season.visits[1]
        [uid] = [uid for uid, event in before.items() if event["dtstart"].dt.date() == visit.day.date]
        there = visit.day.date + timedelta(days=1)
        ask(member=self.member, what="on", first=there, last=there, chores=[job.chore.key for job in visit.jobs])
        after = self.events()
        self.assertEqual(there, after[uid]["dtstart"].dt.date())
        self.assertGreater(after[uid]["sequence"], before[uid]["sequence"])
        last = season_of(self.member).season.visits[-1].day.date
        [gone] = [key for key, event in after.items() if event["dtstart"].dt.date() == last]
        ask(member=self.member, what="no_visit", first=last - timedelta(days=30), last=last)
        told = self.events()[gone]
        self.assertTrue(told["status"] == "CANCELLED" or told["dtstart"].dt.date() != last)
        self.assertGreater(told["sequence"], after[gone]["sequence"])

    def test_nothing_changes_for_a_calendar_while_nothing_does(self):
        before = calendar_of(self.member, TIMED, "http://home.test")
        self.at(NOON + timedelta(minutes=7))
        self.assertEqual(before, calendar_of(self.member, TIMED, "http://home.test"))

    def test_an_address_works_for_who_knows_it_until_it_is_made_anew_or_revoked(self):
        made = self.post("/season/feed", all_day=False, alarm_min=30).json()
        path = made["address"].split("testserver", 1)[1]
        self.client.logout()
        answer = self.client.get(path)
        self.assertEqual((200, "text/calendar; charset=utf-8"), (answer.status_code, answer["Content-Type"]))
        self.assertIn("no-store", answer["Cache-Control"])
        self.assertTrue(Calendar.from_ical(answer.content).walk("VEVENT"))
        self.client.force_login(self.member.user)
        self.assertIsNotNone(self.client.get("/api/season/feed").json()["used_at"])
        anew = self.post("/season/feed", all_day=True).json()["address"].split("testserver", 1)[1]
        self.assertEqual((404, 200), (self.client.get(path).status_code, self.client.get(anew).status_code))
        self.client.delete("/api/season/feed", headers={"X-CSRFToken": "x"})
        self.assertEqual(404, self.client.get(anew).status_code)
        for secret in ("x", "é" * 20, "a" * 300, "%00", "..%2f"):
            self.assertEqual(404, self.client.get(f"/api/calendar/{secret}.ics").status_code, secret)

    def test_the_secret_is_kept_nowhere_and_shows_one_household_only(self):
        secret = make_feed(member=self.member, shown=TIMED)
        row = Feed.objects.of(self.member.household_id).get()
        self.assertNotIn(secret, [str(value) for value in row.__dict__.values()])
        other = household("Elsewhere 3", "third")
        theirs = make_feed(member=other, shown=TIMED)
        self.client.logout()
        self.assertNotIn("Robot", self.client.get(f"/api/calendar/{theirs}.ics").content.decode())

    def test_a_viewer_has_an_address_too_and_a_bad_alarm_is_refused(self):
        Member.objects.of(self.member.household_id).update(role=Member.Role.VIEWER)
        self.assertEqual(201, self.post("/season/feed", all_day=False).status_code)
        self.assertEqual(422, self.post("/season/feed", all_day=False, alarm_min=-1).status_code)
        answer = self.client.get("/api/season.ics?all_day=true")
        self.assertIn("attachment", answer["Content-Disposition"])

    def test_names_with_signs_that_mean_something_in_calendars_come_back_whole(self):
        self.machine.name = 'Tub; "old", \\ new\nline'
        self.machine.save()
        event = next(iter(self.events().values()))
        self.assertIn('Tub; "old", \\ new', str(event["summary"]))
