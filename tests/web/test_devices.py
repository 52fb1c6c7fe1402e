"""Devices on the screen: connected, heard of without a reload, asked about, and a second person's tap seen at once."""

import json
from urllib.request import Request, urlopen

from django.test import override_settings

from care.vocabulary import Action
from server.drying.services import weigh
from server.logbook.models import Entry
from server.machines.models import Item, Run
from server.use.services import log_run
from server.work.services import already_done
from tests.web.browser import NOW, PHONE, BrowserTestCase, expect, timedelta
from uuid import uuid4


class DevicesTestCase(BrowserTestCase):
    opens = None

    def connect(self, kind="A machine that reports by itself", machine="Ground robot", name=""):
        """Connect a device on the screen; gives its token."""
        self.page.goto("/#/household/devices")
        self.page.get_by_role("button", name=kind).click()
        if machine:
            self.page.get_by_role("combobox", name="Machine").select_option(label=machine)
        self.page.get_by_label("What you call it").fill(name)
        self.page.get_by_role("button", name="Make a token").click()
        shown = self.page.get_by_role("region", name="The token")
        token = shown.locator("code").first.inner_text()
        shown.get_by_role("button", name="The device has it").click()
        expect(shown).to_have_count(0)
        return token

    def post(self, token, *lines):
        headers = {"Authorization": f"Bearer {token}", "Content-Type": "application/json"}
        body = [{"id": str(uuid4()), "at": NOW.isoformat(), **line} for line in lines]
        address = f"{self.live_server_url}/api/ingest"
        with urlopen(Request(address, json.dumps(body).encode(), headers), timeout=20) as answer:
            return json.load(answer)

    def ran(self, days_ago=1, minutes=40, **more):
        at = (NOW - timedelta(days=days_ago)).isoformat()
        return {"kind": "run", "at": at, "minutes": minutes, **more}


class Connecting(DevicesTestCase):
    def test_nothing_reports_then_a_token_is_made_shown_once_and_ended(self):
        self.page.goto("/#/household/devices")
        expect(self.page.get_by_text("No device reports yet, and none has to")).to_be_visible()
        token = self.connect(name="Robot below")
        self.page.reload()
        expect(self.page.get_by_role("region", name="The token")).to_have_count(0)
        self.assertEqual(self.post(token, self.ran())["taken"], 1)
        row = self.page.get_by_role("button", name="Robot below")
        row.click()
        self.page.get_by_role("button", name="Disconnect…").click()
        self.page.get_by_role("button", name="Disconnect it").click()
        expect(row).to_have_count(0)
        with self.assertRaisesMessage(Exception, "401"):
            self.post(token, self.ran(days_ago=2))

    def test_a_file_of_lines_says_what_became_of_each(self):
        self.connect(name="Robot below")
        self.page.get_by_role("button", name="Robot below").click()
        lines = [{"id": "1", **self.ran()}, {"id": "2", **self.ran(days_ago=-3)}, {"id": "3", "kind": "run"}]
        text = "\n".join(json.dumps(one) for one in lines).encode()
        chooser = self.page.get_by_label("A file of its lines")
        chooser.set_input_files({"name": "lines.jsonl", "mimeType": "text/plain", "buffer": text})
        expect(self.page.get_by_text("1 line taken, 0 known before, 0 to be asked about, 2 refused")).to_be_visible()
        expect(self.page.get_by_text("Line 2:")).to_contain_text("in the future")
        chooser.set_input_files({"name": "lines.jsonl", "mimeType": "text/plain", "buffer": text})
        expect(self.page.get_by_text("0 lines taken, 1 known before")).to_be_visible()

    def test_whoever_helps_sees_devices_and_connects_none(self):
        self.connect(name="Robot below")
        self.member.role = "helper"
        self.member.save()
        self.page.reload()
        self.page.get_by_role("button", name="Robot below").click()
        expect(self.page.get_by_text("An owner connects devices.")).to_be_visible()
        expect(self.page.get_by_role("button", name="Disconnect…")).to_have_count(0)


class Asked(DevicesTestCase):
    def test_nonsense_is_asked_about_on_round_and_answered_once(self):
        token = self.connect()
        self.post(token, *(self.ran(days_ago=n, minutes=1400) for n in (2, 3, 4)))
        self.page.goto("/#/")
        self.page.get_by_role("link", name="Ground robot: did it really run so long?").click()
        one = self.page.get_by_role("region", name="Ground robot: Did it really run so long?")
        expect(one).to_contain_text("It says that it ran 23 h 20 min")
        expect(one).to_contain_text("3 times")
        self.assert_accessible(self.page, "devices")
        one.get_by_role("button", name="Drop it").click()
        expect(one).to_have_count(0)
        self.page.get_by_role("button", name="Undo").click()
        expect(one).to_have_count(1)
        one.get_by_role("button", name="It did: count it").click()
        expect(one).to_have_count(0)
        self.assertEqual(Run.objects.of(self.member.household_id).filter(run_s=1400 * 60).count(), 3)

    def test_a_message_leads_to_a_case_in_the_machines_own_words(self):
        token = self.connect()
        self.post(token, {"kind": "message", "code": "brush-stuck", "words": "Main brush does not turn"})
        self.page.goto("/#/")
        self.page.get_by_role("link", name="Ground robot, it says: clean the main brush").click()
        expect(self.page.get_by_text("“Main brush does not turn”")).to_be_visible()
        expect(self.page.get_by_text("What may be the cause")).to_be_visible()

    def test_a_scale_is_told_which_part_lies_on_it(self):
        token = self.connect("A kitchen scale", machine=None)
        wet = Item.objects.of(self.member.household_id).get(state="drying", home_machine__name="Attic robot")
        weigh(member=self.member, item_id=wet.pk, value=30, dry=True)
        self.page.goto("/#/rack")
        self.page.get_by_role("button", name="Weigh it").first.click()
        self.page.get_by_role("button", name="It lies on Kitchen scale now").click()
        expect(self.page.get_by_text("It lies on Kitchen scale, which reports by itself.")).to_be_visible()
        self.assertEqual(self.post(token, {"kind": "weight", "value": 44, "unit": "g"})["taken"], 1)


@override_settings(LIVE=True)
class Live(DevicesTestCase):
    opens = "/"

    def robot_row(self):
        return self.page.locator(".machine", has=self.page.get_by_role("link", name="Ground robot", exact=True))

    def test_what_is_recorded_elsewhere_is_seen_without_a_reload(self):
        elsewhere = {"member": self.member, "machine_id": self.machine_id("Ground robot")}
        expect(self.robot_row()).not_to_contain_text("77 min today")
        with self.page.expect_response("**/api/round"):
            log_run(**elsewhere, run_id=uuid4(), minutes=77, start=NOW - timedelta(hours=2))
        expect(self.robot_row()).to_contain_text("77 min today")

    def test_a_robot_that_runs_without_its_filter_is_told_at_once_above_all(self):
        token = self.connect()
        self.page.goto("/#/")
        on = {"member": self.member, "machine_id": self.machine_id("Ground robot")}
        with override_settings(FIXED_NOW=NOW - timedelta(hours=5)):
            already_done(**on, slot_key="filter", action=Action.WASH)
        expect(self.robot_row()).to_contain_text("out of use")
        at = (NOW - timedelta(hours=2)).isoformat()
        self.post(token, {"kind": "run", "at": at, "minutes": 40})
        told = self.page.get_by_role("region", name="Ground robot: stop it")
        expect(told).to_contain_text("ran once while its filter is out by the records")
        expect(told).to_contain_text("Look at what lies behind")
        self.assert_accessible(self.page, "stop it")

    def test_a_phone_in_a_pocket_compares_when_it_is_looked_at_again(self):
        page = self.open_page(PHONE)
        page.route("**/api/live", lambda route: route.fulfill(status=204))  # put away before it heard anything
        self.sign_in(page)
        hidden = "Object.defineProperty(document, 'hidden', {value: %s, configurable: true});"
        tell = "document.dispatchEvent(new Event('visibilitychange'))"
        page.evaluate(hidden % "true" + tell)
        page.unroute("**/api/live")
        on = {"member": self.member, "machine_id": self.machine_id("Ground robot")}
        log_run(**on, run_id=uuid4(), minutes=66, start=NOW - timedelta(hours=2))
        with page.expect_response("**/api/round"):
            page.evaluate(hidden % "false" + tell)
        last = Entry.objects.of(self.member.household_id).order_by("sequence").last()
        self.assertEqual(last.kind, "run")
