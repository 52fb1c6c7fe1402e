"""The season of a household: proposed, kept, moved around what is asked, and the same for everybody who asks."""

import json
from datetime import date, timedelta
from io import StringIO
from uuid import uuid4

from django.core.management import call_command

from care.due.schedule import weekly
from care.errors import InvalidValue
from care.household import Profile
from care.model import Why
from care.season import ChoreKey, Hands
from care.vocabulary import Action, School, Skill
from server.base import clock
from server.base.problems import Conflict, NotAllowed, NotFound
from server.household.models import Member
from server.household.services import answer_profile, pace_of
from server.logbook.services import undo
from server.season.models import LastPlan
from server.season.planning import season_of
from server.season.records import Habits
from server.season.services import ask, keep_habits
from server.setup.services import add_machine
from server.use.services import rest
from server.work.services import already_done
from tests.server.house import DAY, NOON, HouseTestCase, household
from tests.server.test_api import ApiTestCase

TODAY = NOON.date()
"""A Wednesday."""
THURSDAYS = Habits((Hands("Ash", ("TH", "SU"), 60, Skill.STRIP_DOWN),))


class Planned(HouseTestCase):
    def setUp(self):
        super().setUp()
        for days in range(20):
            self.ran(days_ago=days)

    def visits(self):
        return [visit.day.date for visit in season_of(self.member).season.visits]

    def test_a_household_that_told_nothing_gets_a_proposal_that_is_not_kept(self):
        planned = season_of(self.member)
        self.assertTrue(planned.proposal)
        self.assertEqual({5}, {day.weekday() for day in self.visits()})
        self.assertFalse(LastPlan.objects.of(self.member.household_id).exists())

    def test_visits_fall_on_the_days_that_were_told_but_not_while_nobody_is_at_home(self):
        keep_habits(member=self.member, habits=THURSDAYS)
        first = TODAY + timedelta(days=10)
        rest(member=self.member, machine_id=None, why=Why.AWAY, first=first, last=first + timedelta(days=13))
        self.assertEqual({3, 6}, {day.weekday() for day in self.visits()})
        self.assertFalse([day for day in self.visits() if first <= day <= first + timedelta(days=13)])

    def test_what_the_household_does_not_open_is_handed_over_whoever_has_time(self):
        add_machine(
            member=self.member, machine_id=uuid4(), name="Stairs", archetype="upright-belt",
            schedule=weekly(["MO", "FR"], 20, None),
        )  # fmt: skip
        keep_habits(member=self.member, habits=THURSDAYS)
        self.assertEqual((), season_of(self.member).season.handed_over)
        answer_profile(member=self.member, profile=Profile(skill=Skill.MODULES), school=School.WORKSHOP)
        season = season_of(self.member).season
        self.assertTrue(season.handed_over)
        self.assertEqual({Skill.MODULES}, {job.chore.skill for visit in season.visits for job in visit.jobs})

    def test_the_next_day_and_after_a_run_the_plan_is_still_the_same(self):
        keep_habits(member=self.member, habits=THURSDAYS)
        before = [day for day in self.visits() if day > TODAY + timedelta(days=1)]
        self.ran(days_ago=0)
        self.at(NOON + DAY)
        self.assertEqual(before[:10], [day for day in self.visits() if day > TODAY + timedelta(days=1)][:10])

    def test_a_visit_that_was_moved_stands_where_it_was_put_until_that_is_taken_back_or_done(self):
        keep_habits(member=self.member, habits=THURSDAYS)
        visit = season_of(self.member).season.visits[1]
        keys = {job.chore.key for job in visit.jobs}
        there = visit.day.date + timedelta(days=1)
        wish = ask(member=self.member, what="on", first=there, last=there, chores=keys)
        planned = season_of(self.member)
        moved = next(one for one in planned.season.visits if one.day.date == there)
        self.assertLessEqual(keys, {job.chore.key for job in moved.jobs})
        [key] = [key for key in keys if key.action is not Action.REPLACE][:1]
        self.at(NOON + timedelta(minutes=5))
        already_done(member=self.member, machine_id=self.machine.pk, slot_key=key.slot, action=key.action)
        self.assertNotIn(key, {k for one in season_of(self.member).asked for k in one.chores})
        undo(household_id=self.member.household_id, by_id=None, entry_id=wish.pk)
        self.assertEqual((), season_of(self.member).asked)

    def test_no_visit_that_week_and_not_this_one_then_are_kept_to(self):
        keep_habits(member=self.member, habits=THURSDAYS)
        day = self.visits()[1]
        ask(member=self.member, what="no_visit", first=day, last=day, note="guests")
        self.assertNotIn(day, self.visits())
        visit = season_of(self.member).season.visits[2]
        key = visit.jobs[0].chore.key
        ask(member=self.member, what="leave_out", first=visit.day.date, last=visit.day.date, chores=[key])
        jobs = {j.chore.key for v in season_of(self.member).season.visits if v.day == visit.day for j in v.jobs}
        self.assertNotIn(key, jobs)
        with self.assertRaises(Conflict):
            ask(member=self.member, what="on", first=day, last=day, chores=[key])

    def test_what_nobody_can_ask_is_refused(self):
        keep_habits(member=self.member, habits=THURSDAYS)
        key = season_of(self.member).season.planned[0].key
        bad = [
            {"what": "on", "first": TODAY - DAY, "last": TODAY - DAY, "chores": [key]},
            {"what": "on", "first": TODAY + 400 * DAY, "last": TODAY + 400 * DAY, "chores": [key]},
            {"what": "no_visit", "first": TODAY + DAY, "last": TODAY},
            {"what": "no_visit", "first": TODAY, "last": TODAY, "chores": [key]},
            {"what": "on", "first": TODAY, "last": TODAY},
            {"what": "on", "first": TODAY, "last": TODAY, "chores": [key._replace(slot="nothing")]},
        ]
        for told in bad:
            with self.subTest(told), self.assertRaises(InvalidValue):
                ask(member=self.member, **told)
        with self.assertRaises(NotFound):
            ask(member=self.member, what="on", first=TODAY, last=TODAY, chores=[key._replace(machine_id=uuid4())])
        self.assertEqual((), season_of(self.member).asked)

    def test_what_keeps_somebody_safe_is_not_put_off(self):
        keep_habits(member=self.member, habits=THURSDAYS)
        sensors = ChoreKey(self.machine.pk, "sensors", Action.WIPE)
        chore = next(one for one in season_of(self.member).season.planned if one.key == sensors)
        due = next(n for n in range(180) if chore.first(n) > 1)
        late = TODAY + timedelta(days=due + 2)
        with self.assertRaises(InvalidValue):
            ask(member=self.member, what="on", first=late, last=late, chores=[sensors])
        with self.assertRaises(InvalidValue):
            ask(member=self.member, what="leave_out", first=TODAY, last=late, chores=[sensors])

    def test_a_viewer_looks_only_and_others_see_nothing_of_it(self):
        keep_habits(member=self.member, habits=THURSDAYS)
        viewer = Member(household=self.member.household, name="Vi", role=Member.Role.VIEWER)
        self.assertTrue(season_of(viewer).season.visits)
        with self.assertRaises(NotAllowed):
            keep_habits(member=viewer, habits=THURSDAYS)
        other = household("Elsewhere 2", "other")
        self.assertEqual((), season_of(other).season.visits)

    def test_a_household_without_machines_and_one_of_twelve_have_an_answer(self):
        for n in range(5):
            add_machine(
                member=self.member, machine_id=uuid4(), name=f"M{n}", archetype="upright-belt",
                schedule=weekly(["MO", "FR"], 20, None),
            )  # fmt: skip
        keep_habits(member=self.member, habits=THURSDAYS)
        planned = season_of(self.member)
        self.assertGreater(len(planned.season.visits), 5)
        self.assertLess(planned.season.score.visits, planned.own_dates.visits)
        self.assertLessEqual(planned.season.bound, planned.season.cost)

    def test_the_command_prints_what_the_api_gives(self):
        keep_habits(member=self.member, habits=THURSDAYS)
        text, told = StringIO(), StringIO()
        call_command("plan", stdout=text)
        call_command("plan", "--json", stdout=told)
        [one] = json.loads(told.getvalue())
        self.assertEqual([str(day) for day in self.visits()], [visit["date"] for visit in one["visits"]])
        self.assertIn("Robot: ", text.getvalue())


class OverHttp(ApiTestCase):
    def test_the_season_is_proposed_kept_and_moved(self):
        proposed = self.client.get("/api/season").json()
        self.assertTrue(proposed["proposal"])
        habits = {**proposed["habits"], "hands": [{**proposed["habits"]["hands"][0], "weekdays": ["TH"]}]}
        self.assertEqual(201, self.post("/season/habits", **habits).status_code)
        kept = self.client.get("/api/season").json()
        self.assertFalse(kept["proposal"])
        self.assertEqual({3}, {date.fromisoformat(one["date"]).weekday() for one in kept["visits"]})
        visit = kept["visits"][1]
        chores = [{key: job[key] for key in ("machine_id", "slot", "action")} for job in visit["jobs"]]
        there = str(date.fromisoformat(visit["date"]) + timedelta(days=1))
        written = self.post("/season/wishes", what="on", first=there, last=there, chores=chores)
        self.assertEqual(201, written.status_code)
        moved = next(one for one in self.client.get("/api/season").json()["visits"] if one["date"] == there)
        self.assertTrue(all(job["pinned"] for job in moved["jobs"] if job["slot"] in {c["slot"] for c in chores}))

    def test_a_bad_day_names_its_field_and_the_fix(self):
        answer = self.post("/season/wishes", what="no_visit", first="2020-01-01", last="2020-01-02")
        self.assertEqual((422, "first"), (answer.status_code, answer.json()["field"]))
        habits = self.client.get("/api/season").json()["habits"]
        answer = self.post("/season/habits", **{**habits, "hands": habits["hands"] * 2})
        self.assertEqual((422, "hands.who"), (answer.status_code, answer.json()["field"]))


class AsATable(ApiTestCase):
    def test_visits_are_a_line_for_each_chore(self):
        visits = self.client.get("/api/season").json()["visits"]
        lines = self.client.get("/api/visits.csv").content.decode().splitlines()
        self.assertEqual(lines[0], "day,machine,part,task,minutes,days early")
        self.assertEqual(len(lines) - 1, sum(len(visit["jobs"]) for visit in visits))


class RoundFollows(ApiTestCase):
    def test_what_is_small_waits_for_its_visit_and_what_matters_does_not(self):
        for days in range(1, 16):
            self.ran(days_ago=days)
        told = self.client.get("/api/round").json()
        self.assertIsNone(told["ahead"])
        keep_habits(member=self.member, habits=Habits((Hands("Ash", ("SU",), 90, Skill.STRIP_DOWN),)))
        self.assertTrue(self.client.get("/api/round").json()["ahead"]["stale"])
        season = self.client.get("/api/season").json()
        told = self.client.get("/api/round").json()
        ahead = told["ahead"]
        self.assertEqual((False, None), (ahead["stale"], ahead["today_min"]))
        self.assertEqual(season["visits"][0]["date"], ahead["next_on"])
        self.assertAlmostEqual(season["visits"][0]["minutes"], ahead["next_min"], delta=0.1)
        planned = {(job["slot"], job["action"]) for visit in season["visits"] for job in visit["jobs"]}
        waits = {(one["slot"], one["action"]) for one in ahead["later"]}
        for task in told["due"]:
            key = (task["slot"], task["action"])
            self.assertEqual(key in planned and task["small"], key in waits, key)
        self.assertTrue(waits)
        self.assertGreater(ahead["later_min"], 0)


class Pace(ApiTestCase):
    """Who takes half as long again is told so everywhere alike, once a few sittings say so."""

    def sit(self, minutes):
        task = {"machine_id": str(self.machine.pk), "slot": "wheels", "action": "de_hair"}
        sheet = self.post("/sheets", id=str(uuid4()), tasks=[task]).json()
        began = NOON + self.sat * DAY
        self.sat += 1
        for n in range(60):
            if sheet["current"] is None:
                break
            with clock.at(began + timedelta(minutes=minutes * min(n / 12, 0.98))):
                step = next(one for one in sheet["steps"] if one["key"] == sheet["current"])
                value = step["answers"][0] if step["answers"] else "done"
                answers = [{"id": str(uuid4()), "step": sheet["current"], "value": value}]
                sheet = self.post(f"/sheets/{sheet['id']}/answers", answers=answers).json()
        with clock.at(began + timedelta(minutes=minutes)):
            self.assertEqual(200, self.post(f"/sheets/{sheet['id']}/finish", id=str(uuid4())).status_code)

    def test_the_minutes_of_round_plan_and_season_are_the_households(self):
        self.sat = 1
        task = {"machine_id": str(self.machine.pk), "slot": "wheels", "action": "de_hair"}
        book = self.post("/plan", tasks=[task]).json()["minutes"]
        for _ in range(4):
            self.sit(1.6 * book)
        factor, sittings = pace_of(self.member.household_id)
        self.assertEqual(4, sittings)
        self.assertGreater(factor, 1.2)
        self.at(NOON + 9 * DAY)
        self.assertAlmostEqual(factor * book, self.post("/plan", tasks=[task]).json()["minutes"], places=6)
        planned = season_of(self.member)
        chore = next(one for one in planned.season.planned if one.key[1:] == ("sensors", Action.WIPE))
        self.assertAlmostEqual(2 * factor, chore.effort_min)
        round_ = self.client.get("/api/round").json()
        efforts = {(t["slot"], t["action"]): t["effort_min"] for t in [*round_["due"], *round_["coming"]]}
        self.assertAlmostEqual(2 * factor, efforts.get(("sensors", "wipe"), 2 * factor))
        page = self.client.get(f"/api/machines/{self.machine.pk}").json()
        states = [state for part in page["parts"] if part["slot"] == "sensors" for state in part["states"]]
        self.assertAlmostEqual(2 * factor, states[0]["effort_min"])
