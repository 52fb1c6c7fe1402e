"""Prints where a case of something wrong stands, as JSON: the odds with their reasons, and what to look at next."""

import json
from argparse import ArgumentParser
from collections.abc import Iterable

from django.core.management.base import BaseCommand, CommandError

from care.book import load_book
from care.errors import CareError
from care.faults.answering import answered
from care.faults.background import NOTHING_KNOWN, Background
from care.faults.case import Case, Cured, Noticed, Retested
from care.faults.hands import Hands
from care.faults.inference import Belief
from care.faults.subject import Subject, subject
from care.faults.verdict import assess_belief
from care.kinds import Archetype
from server.faults.schemas import assessment_out
from server.faults.subjects import KnownMachine, known, records_of
from server.household.models import Household
from server.household.services import owner_of
from server.machines.services import core_machines

Known = tuple[KnownMachine, Background]
"""A machine, and what its records say."""


class Command(BaseCommand):
    """`manage.py faults --json (--machine NAME | --kind KEY [--dock KEY]) --symptom KEY... [--say WHAT=HOW]...`."""

    help = (
        "Say what is noticed of a machine and what was answered; print the odds with reasons and what to look at next. "
        "--say takes CHECK=ANSWER (cant_tell is one), cured=FAULT, gone=yes or gone=no, in their order."
    )

    def add_arguments(self, parser: ArgumentParser) -> None:
        """The machine, what is noticed, what was answered; JSON is the one format so far."""
        parser.add_argument("--json", action="store_true", required=True, help="print JSON")
        parser.add_argument("--machine", help="the name of a machine, with its records")
        parser.add_argument("--household", help="the name of its household, if it has a namesake")
        parser.add_argument("--kind", help="or a kind of the care book, with no records")
        parser.add_argument("--dock", help="the kind of its dock")
        parser.add_argument("--symptom", action="append", default=[], help="what is noticed; several times if several")
        parser.add_argument("--say", action="append", default=[], help="an answer, a cure, or whether it is gone")

    def handle(
        self,
        *,
        machine: str | None,
        household: str | None,
        kind: str | None,
        dock: str | None,
        symptom: list[str],
        say: list[str],
        **options: object,
    ) -> None:
        """Print one document. Raises `CommandError` with what is wrong and what would do."""
        if (machine is None) == (kind is None):
            raise CommandError("Say --machine NAME or --kind KEY, one of them.")
        try:
            about, background = _recorded(machine, household, symptom) if machine else _of_kind(kind or "", dock)
            case = _told(Case(about.subject, tuple(Noticed(key) for key in symptom)), say)
            belief = Belief(case, background)
            out = assessment_out(case, belief, assess_belief(belief, about.hands), about.hands)
        except CareError as error:
            raise CommandError(f"{error.detail}. {error.fix}".strip()) from error
        document = {"machine": machine or kind, "can_show": _showable(about.subject), **out.model_dump(mode="json")}
        self.stdout.write(json.dumps(document, indent=2, ensure_ascii=False))


def _showable(of: Subject) -> dict[str, str]:
    return {one.key: one.name for one in of.symptoms}


def _recorded(name: str, household: str | None, symptoms: list[str]) -> Known:
    rows = Household.objects.order_by("name")
    for row in rows.filter(name=household) if household else rows:
        member = owner_of(row)
        for machine in core_machines(member):
            if machine.name == name:
                about = known(member, machine.id)
                return about, records_of(member, about.machines, symptoms)
    raise CommandError(f"There is no machine {name!r}.")


def _of_kind(key: str, dock: str | None) -> Known:
    return KnownMachine(subject(load_book(), _kind(key), _kind(dock) if dock else None), Hands()), NOTHING_KNOWN


def _kind(key: str) -> Archetype:
    have = load_book().archetypes
    if key not in have:
        raise CommandError(f"There is no kind {key!r}. Known: {', '.join(have)}.")
    return have[key]


def _told(case: Case, say: Iterable[str]) -> Case:
    for one in say:
        what, _, how = one.rpartition("=")
        if what == "cured":
            case = case.with_event(Cured(how))
        elif what == "gone":
            if how not in ("yes", "no"):
                raise CommandError(f"gone={how}: say gone=yes or gone=no.")
            case = case.with_event(Retested(how == "yes"))
        elif what:
            case = answered(case, what, how)
        else:
            raise CommandError(f"{one!r}: say CHECK=ANSWER, cured=FAULT, gone=yes or gone=no.")
    return case
