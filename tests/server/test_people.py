"""People: let in, let go, what each may do, several households, passwords, sign-ins, and the very first one."""

from datetime import timedelta

from django.contrib.auth.models import User
from django.test import Client, TestCase
from qsessions.models import Session

from server.base import clock, first
from server.base.tokens import digest_of
from server.household.models import Household, Member
from server.household.services import join
from server.people.models import Invitation, PeopleChange
from tests.server.house import DAY, NOON, household
from tests.server.test_api import ApiTestCase

GOOD, USUAL = "a-good-one-7", "a-long-one"


class PeopleTestCase(ApiTestCase):
    def send(self, method, path, by=None, **body):
        return getattr(by or self.client, method)(f"/api{path}", body, content_type="application/json")

    def link(self, **whom):
        made = self.send("post", "/invitations", **whom)
        self.assertEqual(made.status_code, 201, made.content)
        return made.json()["address"].rsplit("/", 1)[1]

    def accepted(self, secret, by=None, **told):
        told = {"user_name": "bo", "password": GOOD, "person": "Bo", **told}
        return self.send("post", "/invited/accept", by or Client(), secret=secret, **told)

    def let_in(self, role="helper", name="bo"):
        """Somebody new, and their browser."""
        browser = Client()
        answer = self.accepted(self.link(role=role), browser, user_name=name, person=name.title())
        self.assertEqual(answer.status_code, 200, answer.content)
        return browser, Member.objects.of(self.member.household_id).get(user__username=name)


class LettingIn(PeopleTestCase):
    def test_a_link_lets_somebody_in_once_with_the_role_it_was_made_for(self):
        secret = self.link(name="Bo", role="viewer")
        self.assertNotIn(secret, str(list(Invitation.everything.values())))
        seen = self.send("post", "/invited", Client(), secret=secret).json()
        told = {"household": "Testgate 1", "by": "Ash", "name": "Bo", "role": "viewer", "user_name": None}
        self.assertEqual(seen, told)
        entered = self.accepted(secret).json()
        self.assertEqual((entered["member"]["role"], entered["member"]["may_write"]), ("viewer", False))
        self.assert_problem(self.accepted(secret, user_name="cy"), 404, "secret")
        self.assertEqual(PeopleChange.objects.of(self.member.household_id).get().what, "joined")

    def test_one_that_expired_was_taken_back_or_never_was_says_the_same(self):
        old, ended, good = self.link(role="helper"), self.link(role="helper"), self.link(role="helper")
        Invitation.everything.filter(digest=digest_of(old)).update(expires_at=NOON - DAY)
        made = Invitation.everything.get(digest=digest_of(ended))
        self.assertEqual(self.send("delete", f"/invitations/{made.pk}").status_code, 200)
        answers = [self.accepted(secret).json() for secret in (old, ended, "x" * 43, "\u00e9")]
        self.assertEqual(len({str(answer) for answer in answers}), 1)
        self.assert_problem(self.accepted(good, password="short"), 422, "password")
        self.assert_problem(self.accepted(good, user_name="tester"), 409, "user_name")
        self.assertEqual(self.accepted(good).status_code, 200, "what was refused did not use it up")

    def test_who_has_an_account_comes_in_with_it_and_has_two_households(self):
        other = household("Testgate 9", "cy")
        browser = Client()
        wrong = self.accepted(self.link(role="helper"), browser, mine=True, user_name="cy", password="guess")
        self.assert_problem(wrong, 401, "password")
        mine = self.accepted(self.link(role="helper"), browser, mine=True, user_name="cy", password="a-long-one")
        self.assertEqual({one["name"] for one in mine.json()["households"]}, {"Testgate 9", "Testgate 1"})
        self.assertEqual(mine.json()["member"]["household"], "Testgate 1")
        self.assertEqual(len(browser.get("/api/round").json()["machines"]), 1)
        self.send("put", "/session/household", browser, household_id=str(other.household_id))
        self.assertEqual(browser.get("/api/round").json()["machines"], [])
        strange = self.send("put", "/session/household", self.client, household_id=str(other.household_id))
        self.assert_problem(strange, 404, "household_id")

    def test_somebody_known_by_name_only_gets_an_account_and_keeps_the_records(self):
        known = Member.everything.create(
            id=Household.objects.get().pk, household=self.member.household, name="Old Bo", role="helper", joined_at=NOON
        )
        self.accepted(self.link(member_id=str(known.pk)))
        known.refresh_from_db()
        self.assertEqual((known.user.username, known.name), ("bo", "Old Bo"))


class WhoIsHere(PeopleTestCase):
    def test_somebody_leaves_keeps_the_records_and_comes_back_as_who_they_were(self):
        browser, bo = self.let_in()
        self.assertEqual(self.send("delete", f"/people/{bo.pk}").status_code, 204)
        self.assertEqual(browser.get("/api/round").status_code, 401)
        refused = self.send("post", "/session", Client(), user_name="bo", password=GOOD)
        self.assertEqual(refused.json()["code"], "no_household")
        self.accepted(self.link(role="viewer"), mine=True)
        self.assertEqual(
            [(one.pk, one.role) for one in Member.everything.filter(user__username="bo")], [(bo.pk, "viewer")]
        )
        self.assertEqual(self.send("post", "/session", Client(), user_name="bo", password=GOOD).status_code, 200)

    def test_there_is_always_an_owner_who_can_sign_in(self):
        _, bo = self.let_in()
        me = f"/people/{self.member.pk}"
        self.assert_problem(self.send("put", me, name="Ash", role="helper"), 409, "role")
        self.assert_problem(self.send("delete", me), 409, "role")
        self.assertEqual(self.send("put", f"/people/{bo.pk}", name="Bo", role="owner").status_code, 200)
        self.assertEqual(self.send("put", me, name="Ash", role="helper").status_code, 200)

    def test_a_helper_changes_the_own_name_and_nothing_else(self):
        browser, bo = self.let_in()
        self.assertEqual(self.send("put", f"/people/{bo.pk}", browser, name="Boo", role="helper").status_code, 200)
        self.assert_problem(self.send("put", f"/people/{bo.pk}", browser, name="Boo", role="owner"), 403)
        self.assert_problem(self.send("put", f"/people/{self.member.pk}", browser, name="Ass", role="owner"), 403)
        self.assert_problem(self.send("post", "/households", browser, name="Bo's", time_zone="UTC"), 403)
        self.assertEqual(browser.get("/api/people").json()["invitations"], [])

    def test_another_household_is_the_owner_s_own_and_is_looked_at_from_then_on(self):
        made = self.send("post", "/households", name="Hut", time_zone="Europe/Oslo").json()
        self.assertEqual((made["member"]["household"], made["member"]["role"]), ("Hut", "owner"))
        self.assertEqual(self.client.get("/api/round").json()["machines"], [])
        self.send("put", "/household/name", name="Cabin")
        self.assertEqual(self.client.get("/api/session").json()["member"]["household"], "Cabin")


class Passwords(PeopleTestCase):
    def signed_in(self, name="tester", password=USUAL, agent=""):
        browser = Client(headers={"user-agent": agent})
        self.assertEqual(self.send("post", "/session", browser, user_name=name, password=password).status_code, 200)
        return browser

    def test_a_new_one_signs_out_every_other_browser(self):
        here, there = self.signed_in(), self.signed_in()
        self.assert_problem(self.send("post", "/password", here, old="guess", new=GOOD), 422, "old")
        self.assert_problem(self.send("post", "/password", here, old="a-long-one", new="short"), 422, "password")
        self.assertEqual(self.send("post", "/password", here, old="a-long-one", new=GOOD).status_code, 204)
        self.assertEqual([one.get("/api/round").status_code for one in (here, there)], [200, 401])

    def test_browsers_are_listed_in_words_and_ended(self):
        firefox = "Mozilla/5.0 (X11; Linux x86_64; rv:143.0) Gecko/20100101 Firefox/143.0"
        here, there = self.signed_in(agent=firefox), self.signed_in(agent="")
        listed = here.get("/api/sign-ins").json()
        self.assertEqual([one["device"] for one in listed if one["here"]], ["Firefox on Linux"])
        keys = [row.session_key for row in Session.objects.all()]
        self.assertFalse([key for key in keys if key in str(listed)], "no cookie is told")
        other = next(one["id"] for one in listed if one["device"] == "another program")
        self.assertEqual(self.send("delete", f"/sign-ins/{other}", here).status_code, 200)
        self.assertEqual(there.get("/api/round").status_code, 401)
        self.assert_problem(self.send("delete", f"/sign-ins/{other}", here), 404)
        again = self.signed_in()
        self.assertEqual(len(self.send("delete", "/sign-ins", here).json()), 1)
        self.assertEqual((here.get("/api/round").status_code, again.get("/api/round").status_code), (200, 401))

    def test_an_owner_s_link_sets_a_new_one_and_ends_the_sign_ins(self):
        browser, bo = self.let_in()
        secret = self.link(member_id=str(bo.pk))
        self.assertEqual(self.send("post", "/invited", Client(), secret=secret).json()["user_name"], "bo")
        later = self.link(member_id=str(bo.pk))
        self.assert_problem(self.accepted(secret, password="another-one-8"), 404)
        self.assertEqual(self.accepted(later, password="another-one-8").status_code, 200)
        self.assertEqual(browser.get("/api/round").status_code, 401)
        self.signed_in("bo", "another-one-8")
        with clock.at(NOON + timedelta(days=2)):
            self.assert_problem(self.accepted(later), 404)

    def test_a_link_ends_when_its_maker_is_no_owner_or_its_person_left_or_reaches_further(self):
        _, bo = self.let_in()
        secret = self.link(member_id=str(bo.pk))
        Member.everything.filter(pk=self.member.pk).update(role="helper")
        self.assert_problem(self.accepted(secret), 404, "secret")
        Member.everything.filter(pk=self.member.pk).update(role="owner")
        other = household("Testgate 9", "cy")
        there = join(other.household, bo.user, "Bo", "helper")
        self.assert_problem(self.accepted(secret), 403, "member_id")
        there.delete()
        self.send("delete", f"/people/{bo.pk}")
        self.assert_problem(self.accepted(secret), 404, "secret")

    def test_nobody_opens_an_account_that_reaches_further_than_their_own(self):
        other = household("Testgate 9", "cy")
        browser = Client()
        self.accepted(self.link(role="owner"), browser, mine=True, user_name="cy", password="a-long-one")
        cy = Member.objects.of(self.member.household_id).get(user=other.user)
        self.assert_problem(self.send("post", "/invitations", member_id=str(cy.pk)), 403, "member_id")
        self.assertTrue(User.objects.get(username="tester").is_staff)
        me = self.send("post", "/invitations", browser, member_id=str(self.member.pk))
        self.assert_problem(me, 403, "member_id")


class TheFirst(TestCase):
    def first(self, address="127.0.0.1", headers=None, **more):
        body = {"name": "Home", "time_zone": "Europe/Oslo", "user_name": "ash", "password": GOOD, **more}
        browser = Client(REMOTE_ADDR=address, headers=headers or {})
        return browser, browser.post("/api/first", body, content_type="application/json")

    def needed(self, address, **headers):
        return Client(REMOTE_ADDR=address, headers=headers).get("/api/session").json()["first"]

    def test_is_made_on_this_computer_or_with_the_code_and_only_once(self):
        self.assertEqual(self.needed("127.0.0.1"), {"code_needed": False})
        self.assertEqual(self.needed("192.0.2.7"), {"code_needed": True})
        self.assertEqual(self.needed("127.0.0.1", x_forwarded_for="192.0.2.7"), {"code_needed": True})
        for told in ("", "aaaa-bbbb-cccc"):
            _, refused = self.first("192.0.2.7", code=told)
            self.assertEqual((refused.status_code, refused.json()["field"]), (403, "code"))
        browser, made = self.first("192.0.2.7", code=first.code().upper())
        self.assertEqual(made.json()["member"]["role"], "owner")
        self.assertTrue(made.json()["member"]["looks_after_all"])
        self.assertEqual(browser.get("/api/round").status_code, 200)
        self.assertIsNone(self.needed("127.0.0.1"))
        self.assertEqual(self.first(user_name="bo")[1].status_code, 409)
        self.assertEqual(Household.objects.count(), 1)

    def test_says_what_is_wrong_and_makes_nothing_then(self):
        for field, value in {"password": "short", "time_zone": "../etc/passwd", "name": " ", "user_name": " "}.items():
            with self.subTest(field):
                refused = self.first(**{field: value})[1]
                self.assertEqual((refused.status_code, refused.json()["field"]), (422, field))
        self.assertFalse(User.objects.exists())
