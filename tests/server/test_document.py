"""A household as one document: out and in again without loss, and what is wrong with a file is told by its line."""

import io
import json
import zipfile
from pathlib import Path
from tempfile import TemporaryDirectory
from unittest.mock import patch
from uuid import UUID, uuid4

from django.contrib.auth.models import User
from django.core.files.uploadedfile import SimpleUploadedFile
from django.core.management import CommandError, call_command
from django.test import TransactionTestCase
from hypothesis import given
from hypothesis import strategies as st
from hypothesis.extra.django import TestCase
from PIL import Image

from care.errors import InvalidValue
from care.vocabulary import Action, Found
from server.base import clock
from server.base.problems import Conflict, NotAllowed
from server.document import bringing_in
from server.document.format import Document
from server.document.parcel import opened
from server.document.tables import BESIDE, all_kinds
from server.document.taking_out import document, packed
from server.due.state import machine_states
from server.household.models import Household, Member
from server.logbook.models import Detail, Entry
from server.logbook.services import undo
from server.machines.models import Note
from server.notes.services import add_note
from server.round.board import round_of
from server.use.services import log_run
from server.work.services import already_done, look
from tests.demo_house import NOW, restore
from tests.effort import examples
from tests.server.house import DAY, NOON, HouseTestCase, household, move_in
from tests.server.test_api import ApiTestCase

FROZEN = Path(__file__).parent / "documents"
"""Documents as earlier versions wrote them: they are read for ever."""


def taken_out(member):
    return b"".join(document(member.household_id, NOON))


def emptied():
    """An installation on which nobody is yet but one account."""
    call_command("flush", interactive=False, verbosity=0)
    return User.objects.create_user("new", password=None)


def parcel_of(data):
    return opened(io.BytesIO(data))


def brought(data, me, user=None):
    user = user or emptied()
    done = bringing_in.bring_in(user=user, parcel=parcel_of(data), name="file", me=me)
    return done, Member.objects.of(done.household_id).select_related("household").get(user=user)


def dates(member):
    """Every task of every machine with its state, date and reasons."""
    return {(state.machine.id, due.slot, due.action): due for state in machine_states(member) for due in state.due}


class TheFormat(HouseTestCase):
    def test_has_every_column_of_every_kind_of_record(self):
        tables = {kind.table for kind in all_kinds().values() if kind.table}
        self.assertEqual({one for one in _leaves(Detail) if one not in tables}, set())
        for kind in all_kinds().values():
            if kind.table:
                columns = {field.attname for field in kind.table._meta.concrete_fields} - {"entry_id", "household_id"}
                self.assertEqual(set(kind.columns.values()) | BESIDE.get(kind.what, set()), columns, kind.what)

    def test_of_every_version_is_read_still(self):
        for file in sorted(FROZEN.glob("v*.json")):
            with self.subTest(file.name):
                told = json.loads(file.read_text())
                done, member = brought(file.read_bytes(), UUID(told["people"][0]["id"]))
                self.assertEqual(done.added["records"], len(told["records"]))
                again = json.loads(b"".join(document(member.household_id, told["made_at"])))
                if told["version"] == again["version"]:
                    self.assertEqual(again, told)


def _leaves(of):
    """Details that are kept in a table of their own."""
    for one in of.__subclasses__():
        if not one._meta.abstract:
            yield one
        yield from _leaves(one)


deeds = st.lists(
    st.one_of(
        st.tuples(st.just("run"), st.integers(0, 25), st.integers(5, 90)),
        st.tuples(st.just("look"), st.integers(0, 25), st.sampled_from(list(Found))),
        st.tuples(st.just("wash"), st.integers(0, 25), st.just(None)),
        st.tuples(st.just("note"), st.just(0), st.text(max_size=20)),
        st.tuples(st.just("undo"), st.integers(0, 3), st.just(None)),
    ),
    max_size=8,
)


class OutAndIn(TestCase):
    """Whatever was recorded: the same document comes out of an empty installation that it went into."""

    spares, marked = [], HouseTestCase.marked

    def do(self, what, n, value):
        on = {"member": self.member, "machine_id": self.machine.pk}
        day = (NOON - n * DAY).date()
        made = {
            "run": lambda: log_run(**on, run_id=uuid4(), day=day, minutes=value, part_was_out=True),
            "look": lambda: look(**on, slot_key="caster", about=Action.DE_HAIR, found=value, day=day),
            "wash": lambda: already_done(**on, slot_key="filter", action=Action.WASH, day=day),
            "note": lambda: add_note(**on, text=value or "so"),
            "undo": lambda: self.take_back(n),
        }
        try:
            made[what]()
        except (ValueError, Conflict):
            return

    def take_back(self, n):
        last = Entry.objects.of(self.member.household_id).exclude(kind="machine").order_by("-sequence")[n]
        undo(household_id=self.member.household_id, by_id=self.member.pk, entry_id=last.pk)

    @examples(8)
    @given(deeds)
    def test_and_every_date_is_the_same(self, wanted):
        with clock.at(NOON):
            move_in(self)
            for what, n, value in wanted:
                self.do(what, n, value)
            data, before = taken_out(self.member), dates(self.member)
            _, member = brought(data, self.member.pk)
            self.assertEqual(taken_out(member), data)
            self.assertEqual(dates(member), before)


class TheDemo(TransactionTestCase):
    def _fixture_teardown(self):
        """Nothing: each test puts a household of its own in the place of this one."""

    def test_comes_back_whole_with_its_pictures_and_again_without_harm(self):
        with clock.at(NOW):
            member = restore()
            machine = Note.objects.of(member.household_id).first().machine_id
            add_note(member=member, machine_id=machine, text="as it sits", picture=_picture())
            zipped = io.BytesIO()
            packed(member.household_id, zipped)
            data, before = b"".join(document(member.household_id, NOW)), round_of(member)
            member_id, user = member.pk, emptied()
            done = bringing_in.bring_in(user=user, parcel=opened(zipped), name="all.zip", me=member_id)
            member = Member.objects.of(done.household_id).select_related("household").get(pk=member_id)
            self.assertEqual(b"".join(document(member.household_id, NOW)), data)
            self.assertEqual(round_of(member).due, before.due)
            self.assertEqual((done.added["pictures"], done.without_picture), (1, 0))
            again = bringing_in.bring_in(user=user, parcel=opened(zipped), name="all.zip")
            self.assertEqual((sum(again.added.values()), again.new), (0, False))


def _picture():
    out = io.BytesIO()
    Image.new("RGB", (9, 9)).save(out, "JPEG")
    return out.getvalue()


class Merging(HouseTestCase):
    def later(self):
        """The household as it is, and as it is a while later, with an open sitting that went on."""
        early = taken_out(self.member)
        log_run(member=self.member, machine_id=self.machine.pk, run_id=uuid4(), day=NOON.date(), minutes=40)
        already_done(member=self.member, machine_id=self.machine.pk, slot_key="caster", action=Action.DE_HAIR)
        return early, taken_out(self.member), dates(self.member)

    def test_adds_what_is_not_here_behind_what_is(self):
        early, late, wanted = self.later()
        _, member = brought(early, self.member.pk)
        done, member = brought(late, None, member.user)
        known, all_ = (len(json.loads(data)["records"]) for data in (early, late))
        self.assertEqual((done.new, done.added["records"], done.known), (False, all_ - known, known))
        self.assertEqual(dates(member), wanted)
        last = Entry.objects.of(member.household_id).order_by("-sequence")[0]
        self.assertEqual(last.kind, Entry.Kind.IMPORT)

    def test_a_look_keeps_nothing(self):
        _, late, _ = self.later()
        user = emptied()
        done = bringing_in.look(user=user, parcel=parcel_of(late))
        self.assertEqual((done.new, done.added["machines"]), (True, 1))
        self.assertEqual((Household.objects.count(), Entry.everything.count()), (0, 0))

    def test_of_others_is_refused(self):
        data = taken_out(self.member)
        with self.assertRaises(NotAllowed):
            bringing_in.bring_in(user=User.objects.create_user("nosy"), parcel=parcel_of(data), name="")

    def test_a_record_that_says_something_else_is_refused(self):
        _, late, _ = self.later()
        told = json.loads(late)
        run = next(one for one in told["records"] if one["what"] == "run")
        run["run_s"] += 60
        with self.assertRaises(InvalidValue) as refused:
            bringing_in.bring_in(user=self.member.user, parcel=parcel_of(json.dumps(told).encode()), name="")
        self.assertIn("says something else", refused.exception.detail)


class WhatIsWrong(HouseTestCase):
    def told(self):
        log_run(member=self.member, machine_id=self.machine.pk, run_id=uuid4(), day=NOON.date(), minutes=40)
        return json.loads(taken_out(self.member))

    def refused(self, data):
        before = Entry.everything.count()
        with self.assertRaises((InvalidValue, Conflict)) as refused:
            bringing_in.bring_in(user=self.member.user, parcel=parcel_of(data), name="")
        self.assertEqual(Entry.everything.count(), before)
        return refused.exception

    def test_is_told_in_words(self):
        for data, words in (
            (b"\x00\xff", "no JSON"),
            (b"[" * 100_000, "no JSON"),
            (b"[]", "no household of ours"),
            (b'{"format": "yperon-household", "version": 3}', "newer Yperon"),
            (b'{"format": "yperon-household", "version": true}', "of which version"),
            (b"PK\x05\x06" + b"\x00" * 18, "This ZIP is damaged"),
        ):
            with self.subTest(words):
                self.assertIn(words, self.refused(data).detail)

    def test_is_told_by_line_and_field(self):
        data = taken_out(self.member)
        line = next(n for n, text in enumerate(data.split(b"\n"), 1) if b'"what":"week"' in text)
        wrong = data.replace(b'"run_min":50.0', b'"run_min":"soon"')
        [told] = self.refused(wrong).values["lines"]
        self.assertEqual(told["line"], line)
        self.assertIn("run_min", told["problem"])

    def test_that_ids_lead_nowhere_or_are_there_twice_and_values_are_out_of_bounds(self):
        told = self.told()
        run = next(one for one in told["records"] if one["what"] == "run")
        void = {k: run[k] for k in ("action_id", "happened_at", "entered_at")} | {"what": "void", "voids": run["id"]}
        twice = [void | {"id": str(uuid4())} for _ in "ab"]
        week = next(one for one in told["records"] if one["what"] == "week")
        note = {k: week[k] for k in ("id", "action_id", "happened_at", "entered_at", "machine_id")} | {"what": "note"}
        for words, where, value in (
            ("there are no machines", "records", [*told["records"], run | {"machine_id": str(uuid4())}]),
            ("is there twice", "records", [*told["records"], run]),
            ("no kind of machine", "machines", [told["machines"][0] | {"archetype": "broom"}]),
            ("voided already", "records", [*told["records"], *twice]),
            ("Extra inputs", "records", [run | {"surprise": 1}]),
            ("takes no offset", "records", [week | {"starts": "10:00:00Z"}]),
            ("needs a day from", "records", [note | {"remind_on": "9999-12-31"}]),
            ("time zone", "household", told["household"] | {"time_zone": "Middle/Earth"}),
        ):
            with self.subTest(words):
                refused = self.refused(json.dumps(told | {where: value}).encode())
                self.assertIn(words, str(refused.values["lines"]))

    def test_records_with_which_a_machine_cannot_be_worked_out_are_refused_whole(self):
        told = self.told()
        told["household"]["id"] = str(uuid4())
        move = next(one for one in told["records"] if one["what"] == "move" and one["kind"] == "fit")
        move["kind"] = "release"
        self.refused(json.dumps(told).encode())


class AnyValue(TestCase):
    """One value of a document is made something else."""

    spares, marked, kept = [], HouseTestCase.marked, ""

    @examples(40)
    @given(st.data())
    def test_it_is_refused_or_brought_in_whole_and_then_every_machine_can_be_worked_out(self, data):
        with clock.at(NOON):
            if not self.kept:
                move_in(self)
                type(self).kept = taken_out(self.member).decode()
            told = json.loads(self.kept)
            where = data.draw(st.sampled_from(["household", "people", "machines", "parts", "records"]))
            of = told[where] if where == "household" else data.draw(st.sampled_from(told[where]))
            field = data.draw(st.sampled_from(sorted(of)))
            of[field] = data.draw(st.sampled_from([None, -1, 1e300, "", "x", "2031-01-01T00:00:00Z", [], {}, True]))
            user = emptied()
            try:
                bringing_in.bring_in(user=user, parcel=parcel_of(json.dumps(told).encode()), name="")
            except (InvalidValue, Conflict):
                self.assertEqual(Household.objects.count(), 0)
                return
            member = Member.everything.select_related("household").get(user=user)
            self.assertEqual(round_of(member, strict=True).faults, [])


class OverHttp(ApiTestCase):
    def upload(self, path, data, name="house.json"):
        return self.client.post(f"/api{path}", {"file": SimpleUploadedFile(name, data)})

    def fetched(self, path):
        answer = self.client.get(f"/api{path}")
        self.assertEqual(answer.status_code, 200)
        return b"".join(answer.streaming_content) if answer.streaming else answer.content

    def test_out_looked_at_and_in(self):
        data = self.fetched("/document.json")
        Document.model_validate_json(data)
        with zipfile.ZipFile(io.BytesIO(self.fetched("/document.zip"))) as packed_:
            self.assertEqual(packed_.namelist(), ["household.json"])
        seen = self.upload("/document/look", data).json()
        self.assertEqual((seen["new"], seen["added"]["records"]), (False, 0))
        self.assertEqual(self.upload("/document", data).status_code, 200)
        self.assert_problem(self.upload("/document", b"{}"), 422, "file")

    def test_a_helper_takes_out_and_does_not_bring_in(self):
        data = self.fetched("/document.json")
        Member.everything.filter(pk=self.member.pk).update(role="helper")
        self.fetched("/document.json")
        self.assert_problem(self.upload("/document", data), 403)

    def test_runs_come_in_from_a_table_once_and_as_one_action(self):
        table = (
            "machine;day;minutes;started\nRobot;2026-03-01;42,5;\nrobot;02.03.2026;30;09:15\nRobot;2026-03-01;42,5;\n"
        )
        for data in (table.encode(), table.encode("utf-8-sig"), table.encode("utf-16")):
            seen = self.upload("/runs/look", data, "runs.csv").json()
            self.assertEqual((seen["added"], seen["known"]), ({"Robot": 3}, 0))
        done = self.upload("/runs", table.encode(), "runs.csv").json()
        again = self.upload("/runs", table.encode(), "runs.csv").json()
        self.assertEqual((done["added"], again["known"], again["entry_id"]), ({"Robot": 3}, 3, None))
        back = self.upload("/runs", self.fetched("/runs.csv"), "runs.csv").json()
        self.assertEqual((back["added"], back["known"]), ({}, 3))
        self.assertEqual(self.post(f"/entries/{done['entry_id']}/undo").status_code, 200)
        self.assertEqual(self.fetched("/runs.csv").count(b"\n"), 1)

    def test_a_table_with_bad_lines_tells_all_of_them_and_brings_none(self):
        table = "machine,day,minutes\nRobot,2026-03-01,40\nBroom,2026-03-01,40\nRobot,soon,40\nRobot,2026-03-01,9999\n"
        problem = self.assert_problem(self.upload("/runs", table.encode(), "runs.csv"), 422, "file")
        self.assertEqual([one["line"] for one in problem["lines"]], [3, 4, 5])
        self.assertEqual(self.fetched("/runs.csv").count(b"\n"), 1)
        self.assert_problem(self.upload("/runs", b"day\n2026-03-01\n", "runs.csv"), 422, "columns")

    def test_readings_are_a_table_with_units(self):
        self.post(f"/machines/{self.machine.pk}/readings", quantity="suction", value=18, unit="kPa", opening="open")
        self.assertIn(b"kPa,18000.0,open", self.fetched("/readings.csv"))


class ByCommand(HouseTestCase):
    def test_a_household_moves_to_an_empty_installation(self):
        with TemporaryDirectory() as folder:
            file = Path(folder) / "house.zip"
            call_command("export_household", file, stdout=io.StringIO())
            wanted = dates(self.member)
            call_command("flush", interactive=False, verbosity=0)
            out = io.StringIO()
            with patch("server.document.management.commands.import_household.getpass", return_value="a-good-one-7"):
                call_command("import_household", file, "--user-name", "ash", "--me", "Ash", stdout=out)
                self.assertIn("Nothing was kept", out.getvalue())
                call_command("import_household", file, "--user-name", "ash", "--me", "Ash", "--yes", stdout=out)
        member = Member.everything.select_related("household").get(user__username="ash")
        self.assertEqual((member.name, member.role, dates(member) == wanted), ("Ash", "owner", True))

    def test_which_household_is_asked_where_there_are_several(self):
        household("Testgate 9", "other")
        with self.assertRaisesRegex(CommandError, "Testgate 1, Testgate 9"):
            call_command("export_household", "house.json")

    def test_runs_and_what_is_wrong(self):
        with TemporaryDirectory() as folder:
            file = Path(folder) / "runs.csv"
            file.write_text("machine,day,minutes\nRobot,2026-03-01,40\n")
            out = io.StringIO()
            call_command("import_runs", file, "--yes", stdout=out)
            self.assertIn("Robot: 1 runs", out.getvalue())
            file.write_text("machine,day,minutes\nBroom,2026-03-01,40\n")
            with self.assertRaises(CommandError) as refused:
                call_command("import_runs", file, stdout=out)
            self.assertIn("line 2", str(refused.exception))
