"""Who may do what: each operation of the API stands in one of these lists, and is tried as everybody."""

from django.contrib.auth.models import User

from server.household.models import Member
from tests.server.house import household
from tests.server.operations import OWN_SPENDING, OperationsTestCase, document

ANYONE = {
    "session_get", "session_create", "session_delete", "first_create", "invited_look", "invited_accept",
    "calendar_feed", "health", "ingest",
}  # fmt: skip
"""Needs nobody signed in, or a secret of its own."""
VIEWERS = {
    "household_preview", "kinds_upkeep", "plan_make", "air_set", "worth_repair", "what_if", "tastes_set",
    "season_feed_make", "season_feed_revoke", "session_household", "password_set", "sign_ins_end",
    "sign_ins_end_others", "people_leave", "season_import_preview", "runs_look",
}  # fmt: skip
"""What somebody who only looks may send: it records nothing, or is about their own account."""
OWNERS = {
    "document_look", "document_bring", "devices_connect", "devices_disconnect",
    "household_rename", "people_change", "invitations_create", "invitations_end", "households_create",
}  # fmt: skip
WHOLE = {"copies_list", "copies_make", "copies_look", "copies_file", "copies_restore"}
"""What only whoever looks after the whole installation may, whatever they are in a household."""
HELPERS = {
    "answers_create", "cases_close", "cases_create", "cases_tell", "changes_create", "claims_create",
    "counters_create", "dangers_create", "devices_lines", "devices_weighs", "heard_count",
    "heard_drop", "dry_check_create", "dust_forget", "dust_tell", "entries_undo",
    "extras_create", "household_answer", "items_assign", "items_fit", "items_hang", "items_retire", "items_weigh",
    "kits_create", "loads_create", "looks_create", "machines_create", "machines_feature", "machines_habit",
    "machines_level", "machines_pull", "machines_rename", "machines_replace", "machines_round", "machines_school",
    "machines_status", "mishaps_create", "moves_create", "notes_create", "orders_arrived", "orders_create",
    "parts_back", "parts_create", "parts_figure", "parts_fit", "parts_mark", "parts_place", "parts_remove",
    "parts_rename", "prices_ask", "prices_drop", "prices_take", "readings_create", "reminders_done", "rests_create",
    "runs_bring", "runs_create", "season_habits", "season_import", "season_wish", "services_create",
    "sheets_create", "sheets_drop", "sheets_finish", "sheets_refit", "shelf_propose", "spares_count", "spares_create",
    "spares_drop", "spares_keep", "spares_move", "spares_turn", "waits_create", "wear_measure", "week_create",
    "what_if_adopt", "worth_tell",
}  # fmt: skip
"""What whoever helps may record."""


class WhoMay(OperationsTestCase):
    def everything(self):
        for path, methods in document()["paths"].items():
            for method, operation in methods.items():
                yield method, path, operation["operationId"]

    def least(self, method, name):
        """The least that somebody has to be, as the lists say."""
        lists = {"anyone": ANYONE, "viewer": VIEWERS, "helper": HELPERS, "owner": OWNERS, "whole": WHOLE}
        found = [who for who, names in lists.items() if name in names]
        if method == "get" and not found:
            return "viewer"
        self.assertEqual(len(found), 1, f"{name} stands in no list of this test, or in several: {found}")
        return found[0]

    def tried(self, name, method, path):
        return self.send(method, self.address(path), self.samples_made.get(name, {}) if method != "get" else None)

    def setUp(self):
        super().setUp()
        self.samples_made = self.samples()

    def test_nobody_without_signing_in(self):
        self.client.logout()
        for method, path, name in self.everything():
            if self.least(method, name) != "anyone":
                with self.subTest(name):
                    self.assertEqual(self.tried(name, method, path).status_code, 401)

    def test_a_stranger_sees_nothing_of_this_house(self):
        self.client.force_login(household("Testgate 9", "nosy").user)
        ours = {
            str(self.member.household_id),
            str(self.machine.pk),
            str(self.member.pk),
            self.sheet,
            self.case,
            self.spare,
            self.wet,
        }
        for method, path, name in self.everything():
            if method == "get":
                with self.subTest(name):
                    answer = self.tried(name, method, path)
                    self.assertIn(answer.status_code, (403,) if name in WHOLE else (200, 404, 422))
                    told = answer.content.decode() if not answer.streaming else ""
                    self.assertEqual([one for one in ours if one in told and f"/{one}" not in self.address(path)], [])

    def test_whoever_looks_only_records_nothing(self):
        self.become(Member.Role.VIEWER)
        before = self.rows()
        for method, path, name in self.everything():
            if self.least(method, name) not in ("anyone", "viewer"):
                with self.subTest(name):
                    self.assertEqual(self.tried(name, method, path).status_code, 403)
        self.assertEqual(self.rows(), before)

    def test_whoever_helps_records_but_does_not_say_who_may(self):
        self.become(Member.Role.HELPER)
        for method, path, name in self.everything():
            if name not in OWN_SPENDING or self.least(method, name) in ("owner", "whole"):
                with self.subTest(name), self.undone():
                    refused = self.tried(name, method, path).status_code == 403
                    self.assertEqual(refused, self.least(method, name) in ("owner", "whole"))

    def become(self, role):
        """This member, who does not look after the installation."""
        Member.everything.filter(pk=self.member.pk).update(role=role)
        User.objects.update(is_staff=False)
