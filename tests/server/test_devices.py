"""Devices: what they post counts once however often it comes, changes things at once, and nonsense is asked about."""

import json
import random
from dataclasses import replace
from datetime import time, timedelta
from pathlib import Path
from unittest.mock import patch
from uuid import uuid4

from django.conf import settings
from django.core.cache import cache
from django.test import LiveServerTestCase, override_settings

from care.bench.drying import Hanging
from care.due.schedule import weekly
from care.errors import InvalidValue
from care.household import DryingPlace, Profile
from care.items import State
from care.model import Provenance
from care.vocabulary import Action, Meter, School, Silence
from server.base import clock, live
from server.base.problems import Conflict, NotAllowed
from server.devices import held, services
from server.devices.ingest import MOST_LINES, Status, take_in
from server.devices.models import Device, Received
from server.devices.taking import Sure
from server.drying.services import answer_household, hang, job_of, weigh
from server.due.dangers import dangers_of, is_over
from server.faults.cases import open_cases
from server.faults.heard import said_at, unheard
from server.household.models import Member
from server.log import services as log
from server.log.finding import Wanted
from server.logbook.models import Entry
from server.logbook.services import revisions, standing, undo
from server.machines.models import AirReading, Item, Reading, Run, Weight
from server.notes.readings import falls_of
from server.use.services import log_run, set_schedule
from server.use.without import ran_without
from server.work.services import already_done
from tests.server.house import DAY, NOON, WEEKDAYS, HouseTestCase, household
from tests.server.test_api import ApiTestCase


class DevicesTestCase(HouseTestCase):
    def device(self, kind, **of):
        if kind in ("machine", "gauge"):
            of.setdefault("machine_id", self.machine.pk)
        return services.connect(member=self.member, kind=kind, name=kind.title(), **of)[0]

    def say(self, device, **line):
        """Post one line; gives what became of it."""
        line.setdefault("id", str(uuid4()))
        line["at"] = line.get("at", NOON).isoformat()
        return take_in(device, [line])[0]

    def ran_itself(self, device, days_ago=0, minutes=45, **more):
        return self.say(device, kind="run", at=NOON - timedelta(hours=2) - days_ago * DAY, minutes=minutes, **more)

    def runs(self):
        return standing(Run.objects.of(self.member.household_id))


class Runs(DevicesTestCase):
    def test_a_measured_run_supersedes_the_assumed_one(self):
        robot, week = self.device("machine"), replace(weekly(WEEKDAYS, 50, time(10, 15)), silence=Silence.RAN)
        with clock.at(NOON - 3 * DAY):
            set_schedule(member=self.member, machine_id=self.machine.pk, schedule=week)
        before = self.state().context.usage.by_day()[NOON.date() - DAY]
        answer = self.ran_itself(robot, days_ago=1, minutes=20)
        self.assertEqual(answer.status, Status.TAKEN)
        day = self.state().context.usage.by_day()[NOON.date() - DAY]
        self.assertAlmostEqual(day.of(Meter.RUN_HOURS), 20 / 60)
        self.assertGreater(before.of(Meter.RUN_HOURS), 0.5)
        run = self.runs().get()
        self.assertEqual((run.provenance, run.entry.source, run.entry.by_id), (Provenance.MEASURED, "device", None))

    def test_it_stands_in_for_one_that_was_tapped_and_one_tapped_after_it_is_asked_about(self):
        self.ran(minutes=50)
        robot = self.device("machine")
        self.ran_itself(robot, minutes=20)
        day = self.state().context.usage.by_day()[NOON.date()]
        self.assertAlmostEqual(day.of(Meter.RUN_HOURS), 20 / 60)
        with self.assertRaisesMessage(Conflict, "told itself of 20 min"):
            self.ran(minutes=50)
        start = NOON - timedelta(hours=5)
        log_run(member=self.member, run_id=uuid4(), machine_id=self.machine.pk, minutes=30, start=start)
        self.assertAlmostEqual(self.state().context.usage.by_day()[NOON.date()].of(Meter.RUN_HOURS), 50 / 60)

    def test_what_it_tells_of_itself_becomes_readings_and_counts_its_emptyings(self):
        robot = self.device("machine")
        self.ran_itself(robot, area_m2=38.5, battery_used_percent=60, emptied=3, ended="battery")
        told = {row.quantity: round(row.value, 1) for row in Reading.objects.of(self.member.household_id)}
        self.assertEqual(told, {"area": 38.5, "charge": 75 * 60})
        self.assertEqual(self.state().context.usage.by_day()[NOON.date()].evacuations, 3)
        kinds = Entry.objects.of(self.member.household_id).filter(source="device").values_list("action_id")
        self.assertEqual(len(set(kinds)), 1)

    def test_a_fall_is_noticed_and_a_service_takes_it_away(self):
        robot = self.device("machine")
        for n in range(12):
            self.ran_itself(robot, days_ago=27 - n, area_m2=40 + n % 3)
        for n in range(7):
            self.ran_itself(robot, days_ago=15 - n, area_m2=31)
        [(machine, quantity, fell)] = falls_of(self.member)
        self.assertEqual((machine.name, quantity, round(fell.share, 2)), ("Robot", "area", 0.24))
        for n in range(7):
            self.ran_itself(robot, days_ago=8 - n, area_m2=41)
        self.assertEqual(falls_of(self.member), [])

    def test_a_run_while_the_filter_is_out_is_told_until_it_is_back(self):
        robot = self.device("machine")
        with clock.at(NOON - timedelta(hours=6)):
            already_done(member=self.member, machine_id=self.machine.pk, slot_key="filter", action=Action.WASH)
        self.assertEqual(ran_without(self.member), [])
        self.ran_itself(robot)
        [one] = ran_without(self.member)
        self.assertEqual((one.machine, one.part, one.times), ("Robot", "Filter", 1))


class OnceEach(DevicesTestCase):
    def lines(self, count):
        at = NOON - timedelta(days=20)
        return [
            {"id": f"r{n}", "kind": "run", "at": (at + timedelta(hours=7 * n)).isoformat(), "minutes": 20 + n % 7}
            for n in range(count)
        ]

    def test_in_any_order_with_repeats_and_losses_all_count_once(self):
        robot, lines = self.device("machine"), self.lines(40)
        expected = sum(20 + n % 7 for n in range(40))
        chance = random.Random(3)
        posts = [chance.sample(lines, 15) for _ in range(6)] + [lines]
        for post in posts:
            take_in(robot, post)
        told = self.runs()
        self.assertEqual((told.count(), sum(run.run_s for run in told) / 60), (40, expected))

    def test_the_same_id_with_other_content_is_refused(self):
        robot, [line] = self.device("machine"), self.lines(1)
        self.assertEqual([a.status for a in take_in(robot, [line, line])], [Status.TAKEN, Status.KNOWN])
        other = take_in(robot, [{**line, "minutes": 99}])[0]
        self.assertEqual((other.status, other.field), (Status.REFUSED, "id"))

    def test_a_bad_line_takes_no_good_one_with_it(self):
        robot, good = self.device("machine"), self.lines(2)
        bad = [
            {**good[0], "id": "a", "minutes": -3},
            {**good[0], "id": "b", "minutes": "45"},
            {**good[0], "id": "c", "at": (NOON + DAY).isoformat()},
            {**good[0], "id": "d", "at": "2026-03-01T10:00:00"},
            {"id": "e", "kind": "weight", "at": NOON.isoformat(), "value": 3, "unit": "g"},
            {"id": "f", "kind": "song", "at": NOON.isoformat()},
            {**good[0], "id": ""},
            {**good[0], "id": "g", "colour": "red"},
            "nonsense",
            None,
        ]
        answers = take_in(robot, [good[0], *bad, good[1]])
        self.assertEqual([one.status for one in answers if one.line in (1, 12)], [Status.TAKEN] * 2)
        refused = answers[1:-1]
        self.assertEqual({one.status for one in refused}, {Status.REFUSED})
        fields = [one.field for one in refused]
        self.assertEqual(fields, ["minutes", "minutes", "at", "at", "kind", "kind", "id", "colour", "", ""])
        self.assertTrue(all(one.problem and one.fix for one in refused))
        self.assertEqual(self.runs().count(), 2)

    def test_ten_minutes_ahead_is_a_clock_and_an_hour_is_not(self):
        robot = self.device("machine")
        soon = self.say(robot, kind="message", at=NOON + timedelta(minutes=9), words="hello")
        later = self.say(robot, kind="message", at=NOON + timedelta(minutes=61), words="hello")
        self.assertEqual((soon.status, later.status), (Status.TAKEN, Status.REFUSED))

    def test_more_than_are_read_at_once_are_to_be_sent_again(self):
        robot = self.device("machine")
        made = [{"id": str(n), "kind": "run", "at": "no time"} for n in range(MOST_LINES + 5)]
        answers = take_in(robot, made)
        self.assertEqual([a.status for a in answers[-5:]], [Status.AGAIN] * 5)
        self.assertEqual({a.status for a in answers[:-5]}, {Status.REFUSED})

    def test_a_fault_of_ours_takes_no_line_with_it(self):
        robot, [line] = self.device("machine"), self.lines(1)
        broken = patch("server.devices.taking.log_run", side_effect=ZeroDivisionError)
        with broken, self.assertLogs("server.devices.ingest", "ERROR"):
            [answer] = take_in(robot, [line])
        self.assertEqual(answer.status, Status.AGAIN)
        self.assertEqual(take_in(robot, [line])[0].status, Status.TAKEN)


class Doubts(DevicesTestCase):
    def asked(self):
        return [(one.doubt, len(one.rows)) for one in held.asked(self.member)]

    def test_nonsense_is_held_apart_asked_once_and_dropped(self):
        robot = self.device("machine")
        for n in range(1, 4):
            self.assertEqual(self.ran_itself(robot, days_ago=n, minutes=1400).status, Status.HELD)
        self.assertEqual(self.asked(), [("too_long", 3)])
        self.assertEqual(self.runs().count(), 0)
        held.drop(member=self.member, entry_ids=[row.pk for row in held.asked(self.member)[0].rows])
        self.assertEqual((self.asked(), self.runs().count()), ([], 0))

    def test_two_devices_of_one_machine_count_its_time_once_until_somebody_says(self):
        one, two = self.device("machine"), self.device("machine")
        self.ran_itself(one, minutes=45)
        self.assertEqual(self.ran_itself(two, minutes=50).status, Status.HELD)
        self.assertEqual(self.asked(), [("overlaps", 1)])
        rows = held.asked(self.member)[0].rows
        held.count(member=self.member, entry_ids=[rows[0].pk], sure=Sure())
        self.assertEqual([run.run_s / 60 for run in self.runs()], [50])
        with self.assertRaisesMessage(Exception, "answered this meanwhile"):
            held.drop(member=self.member, entry_ids=[rows[0].pk])

    def test_its_own_count_that_goes_back_and_floor_that_cannot_be(self):
        robot = self.device("machine")
        self.ran_itself(robot, days_ago=3, total_min=500)
        self.assertEqual(self.ran_itself(robot, days_ago=1, total_min=300).status, Status.HELD)
        self.assertEqual(self.ran_itself(robot, days_ago=2, area_m2=4000).status, Status.HELD)
        self.assertEqual(self.ran_itself(robot, days_ago=5, total_min=430).status, Status.TAKEN)
        self.assertEqual(self.asked(), [("counts_back", 1), ("too_fast", 1)])

    def test_a_machine_that_is_lent_asks_in_words(self):
        robot = self.device("machine")
        self.machine.status = "lent"
        self.machine.save()
        answer = self.ran_itself(robot)
        self.assertIn(answer.status, (Status.HELD, Status.REFUSED))
        self.assertNotIn("machine_id:", answer.problem)

    def test_a_counter_far_from_ours_asks_which_counts(self):
        robot = self.device("machine")
        for n in range(10):
            self.ran_itself(robot, days_ago=n + 1)
        answer = self.say(robot, kind="counter", part="rubber-roller", value=90, unit="percent", sense="used")
        self.assertEqual((answer.status, self.asked()), (Status.HELD, [("which_counts", 1)]))
        row = held.asked(self.member)[0].rows[0]
        held.count(member=self.member, entry_ids=[row.pk], sure=Sure(trusted=True))
        self.assertEqual(self.asked(), [])
        self.assertGreater(hours_left_share(self), 0.8)


def hours_left_share(test):
    """How far the rubber roller's life has gone by its counted rule."""
    states = [one for one in test.state().due if one.slot == "rubber-roller" and one.clocks]
    return max(one.share for one in states)


class Messages(DevicesTestCase):
    def test_a_word_opens_a_case_in_its_own_words_and_the_next_one_joins_it(self):
        robot = self.device("machine")
        self.say(robot, kind="message", code="brush-stuck", words="Main brush entangled")
        [case] = open_cases(self.member)
        self.assertEqual(case.case.symptoms, ("msg-brush",))
        self.say(robot, kind="message", code="brush-stuck", words="Main brush entangled again")
        self.say(robot, kind="message", code="wheel-stuck")
        [case] = open_cases(self.member)
        self.assertEqual(case.case.symptoms, ("msg-brush", "msg-wheel"))
        said = [one.words for one in said_at(self.member, case.row.pk)]
        self.assertEqual(said, ["", "Main brush entangled again", "Main brush entangled"])

    def test_plain_words_wait_on_round_and_old_ones_open_nothing(self):
        robot = self.device("machine")
        self.say(robot, kind="message", words="I am under the sofa")
        self.say(robot, kind="message", code="brush-stuck", at=NOON - 3 * DAY)
        self.assertEqual(open_cases(self.member), [])
        self.assertEqual([one.words for one in unheard(self.member, NOON - DAY)], ["I am under the sofa"])

    def test_a_hot_battery_puts_it_out_of_use_at_once(self):
        robot = self.device("machine")
        self.say(robot, kind="message", code="battery-hot")
        found = dangers_of(self.member.household_id, [self.machine.pk])
        self.assertEqual([one.danger.key for one in found[self.machine.pk]], ["pack"])
        refused = self.ran_itself(robot)
        self.assertEqual(refused.status, Status.HELD)

    def test_a_danger_counts_however_late_and_again_but_not_once_it_was_put_right(self):
        robot, on = self.device("machine"), {"member": self.member, "machine_id": self.machine.pk}
        danger = {"kind": "message", "code": "battery-hot"}

        def stands():
            return [one.danger.key for one in dangers_of(self.member.household_id, [self.machine.pk])[self.machine.pk]]

        self.say(robot, at=NOON - 4 * DAY, **danger)
        self.assertEqual(stands(), ["pack"])
        is_over(**on, danger="pack")
        self.say(robot, at=NOON - 3 * DAY, **danger)
        self.assertEqual(stands(), [])
        self.at(NOON + DAY)
        self.say(robot, at=NOON + timedelta(hours=20), **danger)
        is_over(**on, danger="pack")
        self.at(NOON + 2 * DAY)
        self.say(robot, at=NOON + timedelta(hours=40), **danger)
        self.assertEqual(stands(), ["pack"])

    def test_a_message_of_nothing_is_refused(self):
        self.assertEqual(self.say(self.device("machine"), kind="message").field, "words")


class Drying(DevicesTestCase):
    def setUp(self):
        super().setUp()
        places = (DryingPlace("Cellar", 12, 85), DryingPlace("Loft", 22, 45))
        answer_household(member=self.member, profile=Profile(places=places), school=School.WORKSHOP)
        already_done(member=self.member, machine_id=self.machine.pk, slot_key="filter", action=Action.WASH)
        self.wet = Item.objects.of(self.member.household_id).get(home_slot="filter")
        hang(member=self.member, item_id=self.wet.pk, hanging=Hanging("Cellar"))

    def ready(self):
        self.wet.refresh_from_db()
        return self.wet.damp_until

    def test_the_air_moves_the_drying_of_its_place_from_its_hour_on(self):
        sensor, before = self.device("climate", place="cellar"), self.ready()
        self.at(NOON + timedelta(hours=5))
        dry = {"kind": "air", "temp": 15, "humidity_percent": 65}
        self.say(sensor, at=NOON + timedelta(hours=4), **dry)
        after = self.ready()
        self.assertLess(after, before)
        self.say(sensor, at=NOON + timedelta(hours=1), **dry)
        self.assertLess(self.ready(), after)
        self.assertEqual(self.say(sensor, at=NOON + timedelta(hours=4, minutes=9), **dry).status, Status.KNOWN)
        self.assertEqual(AirReading.objects.of(self.member.household_id).count(), 2)

    def test_in_whatever_order_the_air_comes_the_part_is_ready_at_the_same_time(self):
        lines = [
            {"id": str(n), "kind": "air", "at": (NOON + timedelta(hours=3 * n + 1)).isoformat(),
             "temp": 14 + 2 * n, "humidity_percent": 80 - 8 * n}
            for n in range(5)
        ]  # fmt: skip
        self.at(NOON + timedelta(hours=20))
        sensor = self.device("climate", place="Cellar")
        take_in(sensor, lines)
        in_order = job_of(self.wet).estimate.ready_at
        for row in Entry.objects.of(self.member.household_id).filter(kind="air"):
            undo(household_id=self.member.household_id, by_id=None, entry_id=row.pk)
        again = self.device("climate", place="Cellar")
        shuffled = random.Random(1).sample(lines, len(lines))
        take_in(again, shuffled)
        self.assertEqual(job_of(self.wet).estimate.ready_at, in_order)

    def test_air_of_no_home_is_asked_about_and_cannot_count(self):
        sensor = self.device("climate", place="Cellar")
        self.say(sensor, kind="air", temp=80, humidity_percent=40)
        [one] = held.asked(self.member)
        with self.assertRaises(InvalidValue):
            held.count(member=self.member, entry_ids=[one.last.pk], sure=Sure())
        self.assertEqual(len(held.asked(self.member)), 1)
        self.assertEqual(self.say(sensor, kind="air", temp=60, unit="degF", humidity_percent=40).status, Status.TAKEN)

    def test_what_is_held_apart_of_a_place_makes_no_board_anew(self):
        sensor = self.device("climate", place="Cellar")
        about = (self.member.household_id, self.machine.pk)
        before = [revisions(self.member.household_id).get(one) for one in about]
        self.assertEqual(self.say(sensor, kind="air", temp=80, humidity_percent=40).status, Status.HELD)
        held.drop(member=self.member, entry_ids=[held.asked(self.member)[0].last.pk])
        self.assertEqual([revisions(self.member.household_id).get(one) for one in about], before)

    def test_the_scale_weighs_what_can_weigh_that_and_frees_it(self):
        weigh(member=self.member, item_id=self.wet.pk, value=42, dry=True)
        scale = self.device("scale")
        for hours, grams in ((1, 90), (20, 55), (30, 42.4), (33, 42.1)):
            self.at(NOON + timedelta(hours=hours))
            self.assertEqual(self.say(scale, kind="weight", value=grams, unit="g", at=clock.now()).status, "taken")
        self.assertEqual(job_of(self.wet).estimate.basis, "settled")
        self.assertLessEqual(self.ready(), clock.now())
        self.assertEqual(self.say(scale, kind="weight", value=20, unit="g", at=clock.now()).status, Status.HELD)

    def test_the_log_tells_of_sensors_only_where_it_is_asked_for_more(self):
        sensor = self.device("climate", place="Cellar")
        self.say(sensor, kind="air", temp=15, humidity_percent=60)
        everything, drying = (log.page(self.member, Wanted(group=group)).lines for group in ("", "drying"))
        self.assertFalse([line for line in everything if "15.0" in line.words])
        self.assertEqual(drying[0].words, "Cellar: 15.0 °C, 60 %")

    def test_who_says_which_part_it_is_makes_no_new_dry_weight(self):
        weigh(member=self.member, item_id=self.wet.pk, value=42, dry=True)
        scale = self.device("scale")
        self.say(scale, kind="weight", value=20, unit="g")
        [one] = held.asked(self.member)
        self.assertEqual(one.doubt, "which_part")
        with self.assertRaisesMessage(InvalidValue, "below its dry weight"):
            held.count(member=self.member, entry_ids=[one.last.pk], sure=Sure(item_id=self.wet.pk))
        self.assertEqual(job_of(self.wet).dry_g, 42)

    def test_which_part_is_asked_where_it_could_be_two_and_a_tap_settles_it(self):
        already_done(member=self.member, machine_id=self.machine.pk, slot_key="rubber-roller", action=Action.WASH)
        roller = Item.objects.of(self.member.household_id).get(home_slot="rubber-roller")
        self.assertIn(roller.state, (State.WASHED, State.DRYING))
        scale = self.device("scale")
        self.assertEqual(self.say(scale, kind="weight", value=80, unit="g").status, Status.HELD)
        [one] = held.asked(self.member)
        held.count(member=self.member, entry_ids=[one.last.pk], sure=Sure(item_id=roller.pk))
        self.assertEqual(Weight.objects.of(self.member.household_id).get().item_id, roller.pk)
        services.weighs(member=self.member, device_id=scale.pk, item_id=self.wet.pk)
        self.say(Device.everything.get(pk=scale.pk), kind="weight", value=70, unit="g", at=NOON)
        self.assertEqual(Weight.objects.of(self.member.household_id).filter(item=self.wet).count(), 1)


class Gauge(DevicesTestCase):
    def test_a_reading_stands_in_the_records_at_its_own_time(self):
        gauge = self.device("gauge")
        self.say(gauge, kind="suction", value=12.5, unit="kPa", opening="open", at=NOON - DAY)
        row = Reading.objects.of(self.member.household_id).get()
        self.assertEqual((row.value, row.entry.happened_at), (12_500, NOON - DAY))


class Tokens(ApiTestCase):
    def setUp(self):
        super().setUp()
        cache.clear()

    def token(self, kind="machine", **of):
        of.setdefault("machine_id", str(self.machine.pk))
        answer = self.post("/devices", kind=kind, name="Robot", **of)
        self.assertEqual(answer.status_code, 201, answer.content)
        return answer.json()

    def ingest(self, token, body, **more):
        body = body if isinstance(body, (str, bytes)) else json.dumps(body)
        self.client.logout()
        return self.client.post(
            "/api/ingest", body, content_type="application/json", headers={"Authorization": f"Bearer {token}"}, **more
        )

    line = {"id": "1", "kind": "run", "at": (NOON - timedelta(hours=2)).isoformat(), "minutes": 40}

    def test_a_token_posts_is_shown_once_and_kept_as_a_digest(self):
        made = self.token()
        listed = self.client.get("/api/devices").content.decode()
        self.assertNotIn(made["token"], listed)
        self.assertFalse(Device.everything.filter(digest=made["token"]).exists())
        answer = self.ingest(made["token"], [self.line])
        self.assertEqual((answer.status_code, answer.json()["taken"]), (200, 1))
        self.client.force_login(self.member.user)
        [device] = self.client.get("/api/devices").json()["devices"]
        self.assertIsNotNone(device["seen_at"])

    def test_lines_come_as_a_list_as_lines_or_in_an_object(self):
        token = self.token()["token"]
        other = {**self.line, "id": "2", "at": (NOON - DAY).isoformat()}
        text = json.dumps(self.line) + "\n" + json.dumps(other) + "\n"
        self.assertEqual(self.ingest(token, text).json()["taken"], 2)
        self.assertEqual(self.ingest(token, {"lines": [self.line, other]}).json()["known"], 2)
        self.assertEqual(self.ingest(token, "[{").json()["refused"], 1)
        self.assertEqual(self.ingest(token, b"\xff\xfe").status_code, 422)

    def test_no_token_a_foreign_one_and_one_that_was_ended_are_refused(self):
        made = self.token()
        for token in ("", "x", made["token"] + "x", "ü"):
            self.assertEqual(self.ingest(token, [self.line]).status_code, 401)
        self.client.force_login(self.member.user)
        self.client.delete(f"/api/devices/{made['device']['id']}")
        answer = self.ingest(made["token"], [self.line])
        self.assertEqual((answer.status_code, answer.json()["code"]), (401, "bad_token"))
        self.assertEqual(Received.everything.count(), 0)

    def test_a_token_reads_nothing_and_reaches_no_other_household(self):
        token = self.token()["token"]
        self.client.logout()
        for page in ("/api/round", "/api/devices", "/api/document.json"):
            answer = self.client.get(page, headers={"Authorization": f"Bearer {token}"})
            self.assertEqual(answer.status_code, 401)
        other = household("Testgate 9", "nosy")
        with self.assertRaisesMessage(Exception, "none with this id"):
            services.connect(member=other, kind="machine", name="Theirs", machine_id=self.machine.pk)

    def test_the_same_line_of_another_device_is_a_line_of_its_own(self):
        first, second = self.token()["token"], self.token()["token"]
        self.ingest(first, [self.line])
        self.assertEqual(self.ingest(second, [self.line]).json()["held"], 1)

    def test_too_many_posts_in_a_minute_wait(self):
        token = self.token()["token"]
        codes = [self.ingest(token, "[]").status_code for _ in range(241)]
        self.assertEqual((set(codes[:240]), codes[240]), ({200}, 429))

    def test_too_large_a_post_is_refused_whole(self):
        token = self.token()["token"]
        self.assertEqual(self.ingest(token, "[" + " " * 30_000_000 + "]").status_code, 413)

    def test_only_owners_connect(self):
        member = Member.everything.get(pk=self.member.pk)
        member.role = Member.Role.HELPER
        with self.assertRaises(NotAllowed):
            services.connect(member=member, kind="scale", name="Scale")
        with self.assertRaises(InvalidValue):
            services.connect(member=self.member, kind="climate", name="Air", place="Nowhere")


@override_settings(LIVE=True)
class News(ApiTestCase):
    def test_a_screen_is_told_of_the_last_record_and_a_place_is_given_back(self):
        with patch("server.base.live.LASTS_S", 0.0):
            for _ in range(live.STREAMS + 3):
                answer = self.client.get("/api/live")
                told = b"".join(answer.streaming_content).decode()
        last = Entry.objects.of(self.member.household_id).order_by("sequence").last()
        self.assertIn(f"event: changed\ndata: {last.sequence}\n", told)
        self.assertEqual(answer.headers["Content-Type"], "text/event-stream")

    def test_one_screen_too_many_looks_now_and_then(self):
        taken = [live.places.acquire(blocking=False) for _ in range(live.STREAMS)]
        try:
            self.assertEqual(self.client.get("/api/live").status_code, 503)
        finally:
            for _ in taken:
                live.places.release()


class TheClientOfTheDocs(LiveServerTestCase):
    def test_the_twenty_lines_post_and_forget_what_is_confirmed(self):
        page = (Path(settings.BASE_DIR) / "docs/devices.md").read_text()
        client = page.split("```python\n")[1].split("```")[0]
        device, token = services.connect(member=household(), kind="scale", name="Scale")
        client = client.replace("http://127.0.0.1:8000", self.live_server_url).replace("the token", token)
        told = {}
        exec(client, told)  # noqa: S102 - what is tried is what stands there
        told["say"]("weight", value=80, unit="g")
        told["say"]("weight", value="heavy", unit="g")
        told["post"]()
        self.assertEqual(told["waiting"], {})
        self.assertEqual(device.lines.count(), 1)
