"""Cases of a household: opened, answered by several people, closed; what they leave in the records."""

import json
from datetime import timedelta
from io import StringIO
from uuid import uuid4

from django.core.management import call_command
from django.core.management.base import CommandError

from care.due.schedule import weekly
from care.errors import InvalidValue
from care.faults.lab import Setting
from care.household import DryingPlace, Profile
from care.units import Quantity
from care.vocabulary import Action, Found, Mishap, School, Silence
from care.washability import Mark
from server.base.problems import Conflict, NotFound
from server.bench import ending, opening
from server.bench import services as bench
from server.bench.opening import Pick
from server.bench.services import Given
from server.drying.rack import rack
from server.drying.services import answer_household, check_dry
from server.due.dangers import dangers_of
from server.faults import cases, services
from server.faults.case_schemas import case_out
from server.faults.lab import lab
from server.faults.models import CaseEvent
from server.faults.schemas import assessment_out
from server.faults.services import NewEvent
from server.faults.subjects import known
from server.logbook.models import Entry
from server.logbook.services import standing, undo
from server.machines.models import CaseRecord, Reading, Service
from server.notes import readings
from server.notes.readings import Figure
from server.setup.services import add_machine
from server.setup.status import set_status
from server.use.services import mishap
from server.work import services as work
from tests.server.house import DAY, NOON, WEEKDAYS, HouseTestCase, household


class CaseTestCase(HouseTestCase):
    def setUp(self):
        super().setUp()
        self.stick = add_machine(
            member=self.member,
            machine_id=uuid4(),
            name="Stick",
            archetype="cordless-two-filter",
            schedule=weekly(WEEKDAYS, 30, None, silence=Silence.RAN),
            marked={"filter": Mark.YES},
        )

    def cylinder(self):
        return add_machine(
            member=self.member, machine_id=uuid4(), name="Cylinder", archetype="canister-bagged", schedule=None
        )

    def open(self, *symptoms, machine=None):
        return services.open_case(
            member=self.member,
            case_id=uuid4(),
            machine_id=(machine or self.stick).pk,
            symptoms=symptoms or ("pulsing",),
        )

    def tell(self, state, kind, key="", says="", **more):
        event = NewEvent(uuid4(), more.pop("after", state.event_count), kind, key, says, **more)
        return services.tell(member=self.member, case_id=state.row.pk, event=event)

    def close(self, state, reason=""):
        return services.close(member=self.member, case_id=state.row.pk, reason=reason)

    def to_the_cure(self):
        state = self.open()
        state = self.tell(state, "answered", "front-off", "good")
        return self.tell(state, "answered", "light:neck", "dark")


class ACase(CaseTestCase):
    def test_from_the_symptom_to_the_record(self):
        state = self.to_the_cure()
        self.assertEqual(state.now.verdict.suspects, ("wad:neck",))
        state = self.tell(state, "cured", "wad:neck")
        state = self.tell(state, "retested", says="gone")
        state = self.close(state)
        self.assertEqual(state.row.status, "closed")
        record = CaseRecord.objects.of(self.member.household_id).get()
        self.assertEqual((record.stand, [c["key"] for c in record.causes]), ("cured", ["wad:neck"]))

    def test_what_is_told_unasked_is_an_answer_and_a_danger_ends_it_and_the_machine(self):
        on = {"member": self.member, "machine_id": self.stick.pk, "symptoms": ["weak"]}
        state = services.open_case(**on, case_id=uuid4(), unasked=["long-tube", "big"])
        self.assertEqual([e.key for e in state.row.events.order_by("number")], ["weak", "front-off", "took-big"])
        self.assertNotIn("front-off", {one.probe.key for one in state.now.next})
        self.close(state, "only a test")
        with self.assertRaises(InvalidValue) as refused:
            services.open_case(**on, case_id=uuid4(), unasked=["flood"])
        self.assertEqual(refused.exception.field, "told")
        ended = services.open_case(**on, case_id=uuid4(), unasked=["embers"])
        self.assertEqual((ended.now.verdict.stand, ended.now.verdict.danger), ("hand_over", "embers"))
        [stands] = dangers_of(self.member.household_id, [self.stick.pk])[self.stick.pk]
        self.assertEqual(stands.danger.key, "embers")

    def test_something_wet_on_record_of_the_last_days_counts_as_told(self):
        mishap(member=self.member, machine_id=self.stick.pk, kind=Mishap.WET)
        state = self.open("weak")
        self.assertIn("took-wet", [event.key for event in state.row.events.all()])
        self.assertFalse([one.probe.key for one in state.now.next if one.probe.check.live])
        self.close(state, "only a test")
        self.at(NOON + 11 * DAY)
        self.assertNotIn("took-wet", [event.key for event in self.open("weak").row.events.all()])

    def test_a_cause_says_why_it_shows_and_why_the_machine_is_not_run_until_then(self):
        state = self.tell(self.open("brush-still"), "answered", "spin:head", "wound")
        [found] = assessment_out(state.case, state.belief, state.now, state.known.hands).about
        self.assertEqual((found.key, found.reasons), ("stalled:head", ["Hair binds it to its housing."]))
        self.assertIn("burns its belt or its motor", found.stop)

    def test_the_cause_counts_the_next_time_until_it_is_undone(self):
        state = self.tell(self.to_the_cure(), "cured", "wad:neck")
        state = self.close(self.tell(state, "retested", says="gone"))
        again = self.open()
        self.assertIn(("wad:neck", "again"), {(one.suspect, one.record) for one in again.belief.influences})
        self.close(again, "only a test")
        other = self.open("smell")
        self.assertIn(("wad:neck", "cases"), {(one.suspect, one.record) for one in other.belief.influences})
        self.close(other, "only a test")
        self.at(NOON + 61 * DAY)
        later = self.open()
        self.assertIn(("wad:neck", "cases"), {(one.suspect, one.record) for one in later.belief.influences})
        self.close(later, "only a test")
        undo(household_id=self.member.household_id, by_id=self.member.pk, entry_id=state.row.record_id)
        self.assertFalse({"cases", "again"} & {one.record for one in self.open().belief.influences})

    def test_what_was_put_right_on_the_spot_is_a_service(self):
        state = self.tell(self.open(), "answered", "level:bin", "past")
        self.assertEqual(state.now.verdict.stand, "retest")
        self.close(self.tell(state, "retested", says="gone"))
        done = Service.objects.of(self.member.household_id).get(machine=self.stick)
        self.assertEqual((done.slot, done.action), ("bin", Action.EMPTY))

    def test_unsettled_it_closes_only_with_a_reason(self):
        state = self.to_the_cure()
        with self.assertRaises(InvalidValue) as told:
            self.close(state)
        self.assertEqual(told.exception.field, "reason")
        self.assertEqual(self.close(state, "visitors came").row.status, "closed")
        self.assertEqual(CaseRecord.objects.of(self.member.household_id).get().stand, "left")

    def test_a_machine_rests_in_its_case_by_the_clock(self):
        state = self.open("cuts-out", machine=self.cylinder())
        state = self.tell(state, "answered", "cord-look:cord", "whole")
        state = self.tell(state, "rests", "rest:motor")
        out = case_out(state, cases.after_of(self.member, state))
        [rest] = out.rests
        self.assertEqual((rest.probe, rest.left_min, out.trail[-1].kind), ("rest:motor", 60, "rests"))
        self.assertNotEqual(out.next[0].key, "rest:motor")
        self.at(NOON + timedelta(minutes=61))
        later = cases.case_state(self.member, state.row.pk)
        self.assertEqual(later.now.next[0].probe.key, "rest:motor")
        self.assertEqual(self.tell(later, "back").rests, {})
        with self.assertRaises(InvalidValue):
            self.tell(later, "rests", "cord-look:cord", after=4)

    def test_before_a_machine_is_given_up_what_costs_nothing_is_named_until_it_was_looked_at(self):
        about = known(self.member, self.stick.pk)
        cheap = [one.key for one in services.cheap_looks(self.member, about)]
        self.assertIn("light:wand", cheap)
        self.assertFalse({"nudge:motor", "front-off", "embers"} & set(cheap), "deep, running or only told")
        self.tell(self.open(), "answered", "light:wand", "clear")
        self.assertEqual(set(cheap) - {p.key for p in services.cheap_looks(self.member, about)}, {"light:wand"})

    def test_one_step_back_takes_the_last_answer_away(self):
        state = self.open()
        before = state.now.odds
        after = self.tell(self.tell(state, "answered", "pitch", "higher"), "back")
        self.assertEqual(after.now.odds, before)
        with self.assertRaises(InvalidValue):
            self.tell(after, "cured", "belt:belt")

    def test_a_dock_is_looked_at_with_its_robot(self):
        dock = add_machine(
            member=self.member,
            machine_id=uuid4(),
            name="Dock",
            archetype="dock-bag",
            serves=self.machine.pk,
            schedule=None,
        )
        state = self.open("not-emptied", machine=dock)
        self.assertEqual(state.row.machine_id, self.machine.pk)
        self.assertIn("dock:duct:duct", dict(state.now.odds))


class TheCure(CaseTestCase):
    """What puts it right stands in the records of its part: on the spot, without a sheet, or by one."""

    def to_a_full_filter(self):
        self.at(NOON + 9 * DAY)
        state = self.open("weak")
        for key, says in (("front-off", "poor"), ("began", "slowly"), ("filter-look:filter", "dirt")):
            state = self.tell(state, "answered", key, says)
        self.assertEqual(state.now.verdict.suspects, ("loaded:filter",))
        return state

    def washes(self):
        return standing(Service.objects.of(self.member.household_id).filter(slot="filter", action=Action.WASH))

    def sheet(self, state, *picks):
        tasks = [Pick(self.stick.pk, *one) for one in picks or [("filter", Action.WASH)]]
        sheet = opening.open_sheet(member=self.member, sheet_id=uuid4(), picks=tasks, case_id=state.row.pk)
        self.assertEqual(cases.after_of(self.member, state).sheet_id, sheet.row.pk)
        while (step := sheet.progress.current) is not None:
            says = next(v for v in ("done", "pass", "dry", "due", "screws:1") if v in step.answers)
            sheet = bench.answer(member=self.member, sheet_id=sheet.row.pk, given=Given(uuid4(), step.key, says))
        ending.finish(member=self.member, sheet_id=sheet.row.pk)
        return cases.case_state(self.member, state.row.pk)

    def test_the_end_of_its_sheet_leads_to_the_try_which_waits_for_the_rack(self):
        state = self.sheet(self.to_a_full_filter())
        self.assertEqual(state.now.verdict.stand, "retest")
        self.assertEqual(self.washes().count(), 1)
        (waits,) = cases.after_of(self.member, state).waits
        self.assertEqual(waits.item.name, "Centre filter")
        self.assertGreaterEqual(waits.item.locked_until, NOON + 10 * DAY)

    def test_undone_the_sheet_leaves_the_case_waiting_for_its_cure_unless_it_went_on(self):
        for gone_on in (False, True):
            state = self.sheet(self.to_a_full_filter())
            if gone_on:
                state = self.tell(state, "retested", says="still")
            before = state.now.verdict
            undo(household_id=self.member.household_id, by_id=self.member.pk, entry_id=self.washes().last().entry_id)
            after = cases.case_state(self.member, state.row.pk)
            with self.subTest(gone_on=gone_on):
                self.assertEqual(self.washes().count(), 0)
                self.assertEqual(after.now.verdict.stand, before.stand if gone_on else "cure")
            self.close(after, "enough")

    def test_a_sheet_that_did_something_else_leaves_it_where_it_stood(self):
        state = self.sheet(self.to_a_full_filter(), ("bin", Action.EMPTY))
        self.assertEqual(state.now.verdict.stand, "cure")

    def test_without_a_sheet_it_is_recorded_on_its_day_and_a_step_back_undoes_it(self):
        state = self.tell(self.to_a_full_filter(), "cured", "loaded:filter", day=(NOON + 7 * DAY).date())
        self.assertEqual([row.entry.happened_at.date() for row in self.washes()], [(NOON + 7 * DAY).date()])
        self.assertEqual(cases.after_of(self.member, state).waits, ())
        state = self.tell(state, "back")
        self.assertEqual((state.now.verdict.stand, self.washes().count()), ("cure", 0))
        self.tell(state, "cured", "loaded:filter")
        self.assertEqual(self.washes().count(), 1)

    def test_what_was_recorded_already_is_not_recorded_twice(self):
        state = self.to_a_full_filter()
        work.already_done(member=self.member, machine_id=self.stick.pk, slot_key="filter", action=Action.WASH)
        self.tell(state, "cured", "loaded:filter")
        self.assertEqual(self.washes().count(), 1)

    def test_a_day_to_come_is_refused_and_nothing_is_told(self):
        state = self.to_a_full_filter()
        with self.assertRaises(InvalidValue):
            self.tell(state, "cured", "loaded:filter", day=(NOON + 11 * DAY).date())
        self.assertEqual(cases.case_state(self.member, state.row.pk).event_count, state.event_count)


class SeveralPeople(CaseTestCase):
    def test_who_comes_second_is_told_and_nothing_is_lost(self):
        state = self.open()
        self.tell(state, "answered", "front-off", "good")
        with self.assertRaises(Conflict):
            self.tell(state, "answered", "pitch", "higher")
        now = cases.case_state(self.member, state.row.pk)
        self.assertEqual([type(e).__name__ for e in now.case.events], ["Noticed", "Answered"])

    def test_sent_twice_it_counts_once(self):
        state = self.open()
        event = NewEvent(uuid4(), state.event_count, "answered", "pitch", "higher")
        for _ in range(2):
            services.tell(member=self.member, case_id=state.row.pk, event=event)
        self.assertEqual(CaseEvent.objects.of(self.member.household_id).count(), 2)

    def test_one_open_case_of_a_machine(self):
        state = self.open()
        with self.assertRaises(Conflict):
            self.open()
        self.close(state, "changed my mind")
        self.open()

    def test_a_case_of_a_machine_that_is_put_away_waits_and_hides_no_other(self):
        self.open()
        other = self.open("skids", machine=self.machine)
        set_status(member=self.member, machine_id=self.stick.pk, status="archived")
        self.assertEqual([state.row.pk for state in cases.open_cases(self.member)], [other.row.pk])

    def test_others_do_not_see_it(self):
        state, other = self.open(), household("Elsewhere 2", "other")
        with self.assertRaises(NotFound):
            cases.case_state(other, state.row.pk)

    def test_closed_it_takes_no_more(self):
        state = self.close(self.open(), "enough")
        with self.assertRaises(Conflict):
            self.tell(state, "answered", "pitch", "higher")


class WhatTheRecordsSay(CaseTestCase):
    def told(self, *symptoms, machine=None):
        return {(m.suspect, m.record): m.bits for m in self.open(*symptoms, machine=machine).belief.influences}

    def test_a_clock_that_has_run_out_speaks_against_its_part(self):
        self.at(NOON + 120 * DAY)
        self.assertGreater(self.told()["loaded:filter", "clock"], 1)

    def test_a_service_of_yesterday_is_suspected(self):
        work.already_done(member=self.member, machine_id=self.stick.pk, slot_key="bin", action=Action.EMPTY)
        told = self.told()
        self.assertGreater(told["bin-loose:bin", "serviced"], 3)
        self.assertLess(told["bin-full:bin", "clock"], 0)

    def test_the_air_it_dried_in_counts(self):
        cellar = Profile(places=(DryingPlace("Cellar", 12, 85),))
        answer_household(member=self.member, profile=cellar, school=School.WORKSHOP)
        work.already_done(member=self.member, machine_id=self.stick.pk, slot_key="filter", action=Action.WASH)
        self.at(NOON + 8 * DAY)
        [wet] = rack(self.member)
        check_dry(member=self.member, item_id=wet.item.id, dry=True)
        work.fit_item(member=self.member, item_id=wet.item.id)
        self.assertGreater(self.told()["damp:filter", "dried_slowly"], 2)

    def test_a_look_counts(self):
        work.look(
            member=self.member, machine_id=self.stick.pk, slot_key="shroud", about=Action.CLEAN, found=Found.OVERDUE
        )
        self.assertGreater(self.told()["caked:shroud", "as_found"], 2)

    def test_what_is_put_right_during_the_case_does_not_move_its_beginning(self):
        state = self.open()
        work.already_done(member=self.member, machine_id=self.stick.pk, slot_key="bin", action=Action.EMPTY)
        self.assertEqual(cases.case_state(self.member, state.row.pk).now.odds, state.now.odds)


class Readings(CaseTestCase):
    def take(self, quantity, value, unit="", **more):
        return readings.take(member=self.member, machine_id=self.stick.pk, figure=Figure(quantity, value, unit, **more))

    def test_like_with_like_and_whether_the_work_helped(self):
        self.take(Quantity.SUCTION, 10, "kPa", opening="orifice")
        self.at(NOON + DAY / 24)
        work.already_done(member=self.member, machine_id=self.stick.pk, slot_key="shroud", action=Action.CLEAN)
        self.at(NOON + DAY / 12)
        self.take(Quantity.SUCTION, 48, "inH2O", opening="orifice")
        self.take(Quantity.SUCTION, 60, "inH2O", opening="sealed")
        self.take(Quantity.FELT, 4)
        rows = {(row.quantity, row.opening): row for row in readings.rows_of(self.member, self.stick.pk)}
        self.assertEqual(len(rows), 3)
        row = rows[Quantity.SUCTION, "orifice"]
        self.assertEqual(row.unit, "inH2O")
        self.assertAlmostEqual(row.points[0].value, 40.146, places=2)
        (between,) = row.between
        self.assertEqual((between.helped, between.work), (True, (("shroud", "clean"),)))

    def test_what_cannot_be_is_refused_by_name(self):
        for figure, field in (
            (Figure(Quantity.SUCTION, 90, "kPa", "open"), "value"),
            (Figure(Quantity.SUCTION, 9, "psi", "open"), "unit"),
            (Figure(Quantity.SUCTION, 9, "kPa"), "opening"),
            (Figure(Quantity.FELT, 6), "value"),
            (Figure(Quantity.CHARGE, 0, "min"), "value"),
            (Figure(Quantity.AREA, 40, "m2", "sealed"), "opening"),
            (Figure(Quantity.FELT, 3, day=(NOON + 2 * DAY).date()), "day"),
        ):
            with self.subTest(figure), self.assertRaises(InvalidValue) as told:
                readings.take(member=self.member, machine_id=self.stick.pk, figure=figure)
            self.assertEqual(told.exception.field, field)
        self.assertFalse(Reading.objects.of(self.member.household_id).exists())

    def test_a_gauge_answers_beside_the_best_on_record(self):
        state = self.open()
        with self.assertRaises(InvalidValue):
            self.tell(state, "answered", "gauge-sealed", kpa=12.0)
        self.take(Quantity.SUCTION, 20, "kPa", opening="sealed")
        state = self.tell(state, "answered", "gauge-sealed", kpa=12.0)
        self.assertEqual(state.case.events[-1].says, "lower")
        self.assertEqual(Reading.objects.of(self.member.household_id).filter(case_id=state.row.pk).count(), 1)

    def test_readings_and_cases_stand_in_the_machines_history(self):
        self.take(Quantity.CHARGE, 22, "min")
        self.close(self.open(), "left it")
        kinds = {line.kind for line in self.history()}
        self.assertLessEqual({Entry.Kind.READING, Entry.Kind.CASE}, kinds)

    def history(self):
        from server.due.history import history
        from server.due.state import machine_states

        [state] = machine_states(self.member, self.stick.pk)
        return history(self.member, state)


class TheAirLab(CaseTestCase):
    def test_as_set_and_as_it_stands(self):
        clean = lab(self.member, self.stick.pk, Setting({}, {}, {})).seen
        self.assertAlmostEqual(clean.nozzle, 13.73, places=2)
        blocked = lab(self.member, self.stick.pk, Setting({}, {"wand": 0.1}, {})).seen
        self.assertEqual(blocked.heard[0], "pulsing")
        self.at(NOON + 60 * DAY)
        present = lab(self.member, self.stick.pk, None)
        self.assertGreater(present.present["filter"], 0.3)
        self.assertLess(present.seen.nozzle, clean.nozzle)

    def test_what_cannot_be_set_is_refused(self):
        for setting in (Setting({"attic": 1.0}, {}, {}), Setting({}, {"wand": 0.0}, {}), Setting({}, {}, {}, power=3)):
            with self.subTest(setting), self.assertRaises(InvalidValue):
                lab(self.member, self.stick.pk, setting)


class OverHttp(CaseTestCase):
    def setUp(self):
        super().setUp()
        self.client.force_login(self.member.user)

    def post(self, path, body):
        return self.client.post(path, json.dumps(body), "application/json")

    def test_a_case_walked_by_its_own_next_checks(self):
        start = self.client.get(f"/api/machines/{self.stick.pk}/trace").json()
        self.assertIn("It pulses", {one["name"] for one in start["symptoms"]})
        case_id = str(uuid4())
        made = self.post("/api/cases", {"id": case_id, "machine_id": str(self.stick.pk), "symptoms": ["pulsing"]})
        self.assertEqual(made.status_code, 201)
        case = made.json()
        for _ in range(2):
            first = case["next"][0]
            says = first["answers"][0]["key"]
            body = {"id": str(uuid4()), "after": case["told"], "kind": "answered", "key": first["key"], "says": says}
            case = self.post(f"/api/cases/{case_id}/events", body).json()
        self.assertEqual(len(case["trail"]), 3)
        self.assertAlmostEqual(sum(s["p"] for s in case["suspects"]), 1, delta=0.15)
        self.assertEqual(self.client.get(f"/api/machines/{self.stick.pk}/trace").json()["open"], case_id)
        self.assertEqual([one["id"] for one in self.client.get("/api/cases").json()], [case_id])

    def test_refusals_name_the_field_and_the_way_out(self):
        bad = self.post("/api/cases", {"id": str(uuid4()), "machine_id": str(self.stick.pk), "symptoms": ["corners"]})
        self.assertEqual((bad.status_code, bad.json()["field"]), (422, "symptom"))
        body = {"quantity": "suction", "value": 900, "unit": "kPa", "opening": "open"}
        bad = self.post(f"/api/machines/{self.stick.pk}/readings", body)
        self.assertEqual((bad.status_code, bad.json()["field"]), (422, "value"))
        air = self.post(f"/api/machines/{self.stick.pk}/air", {"fills": {"filter": 1.0}}).json()
        self.assertLess(air["pull"], 0.8)


class TheCommand(CaseTestCase):
    def run_it(self, *args):
        out = StringIO()
        call_command("faults", "--json", *args, stdout=out)
        return json.loads(out.getvalue())

    def test_a_machine_with_its_records(self):
        work.already_done(member=self.member, machine_id=self.stick.pk, slot_key="bin", action=Action.EMPTY)
        told = self.run_it("--machine", "Stick", "--symptom", "pulsing", "--say", "front-off=good")
        self.assertEqual(told["stand"], "ask")
        self.assertTrue(told["influences"])
        self.assertEqual(told["trail"][-1]["key"], "front-off")

    def test_a_kind_with_its_dock(self):
        told = self.run_it("--kind", "robot-mop", "--dock", "dock-wash", "--symptom", "wet-smell")
        self.assertTrue(next(one["cautions"][0]["gate"] for one in told["next"] if one["cautions"]))

    def test_what_is_wrong_is_said_with_what_would_do(self):
        for args, says in (
            (("--machine", "Nobody", "--symptom", "weak"), "no machine"),
            (("--kind", "upright-belt", "--symptom", "nonsense"), "symptom"),
            (("--kind", "upright-belt", "--symptom", "weak", "--say", "slide"), "CHECK=ANSWER"),
            (("--kind", "upright-belt", "--symptom", "weak", "--say", "slide=perhaps"), "answer"),
            (("--symptom", "weak"), "--machine NAME or --kind KEY"),
        ):
            with self.subTest(args), self.assertRaises(CommandError) as told:
                self.run_it(*args)
            self.assertIn(says, str(told.exception))
