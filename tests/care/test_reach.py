"""Nothing in the care book is out of reach: some machine has it, some card names it, some screen asks for it."""

from dataclasses import replace
from itertools import chain, product

from django.test import SimpleTestCase

from care.bench.bundles import tasks
from care.faults.subject import subject
from care.household import SENSITIVE
from care.named import NamedCaution
from care.vocabulary import School
from tests.care.world import BOOK, WASHABLE

ASKED_FOR = {"scale"}
"""Tools that a screen asks for by itself: the rack, to weigh what dries."""


def houses():
    """Each kind of machine with each of its features, marked washable or not, and each robot with each dock."""
    kinds = [*BOOK.archetypes.values(), *WASHABLE.values()]
    docks = [kind for kind in kinds if kind.serves]
    for kind in kinds:
        for has in (frozenset(), *(frozenset({option.key}) for option in kind.options)):
            yield from ((kind, has, dock) for dock in ((None, *docks) if kind.has_dock else (None,)))


class OutOfReach(SimpleTestCase):
    def cards(self):
        slots = list(chain(BOOK.parts.values(), *(kind.slots for kind in WASHABLE.values())))
        return [rule.card for slot in slots for rule in slot.rules]

    def test_every_part_is_in_some_kind_and_drawn_from_the_book(self):
        self.assertEqual(set(BOOK.parts), {s.use for kind in BOOK.archetypes.values() for s in kind.slots if s.use})

    def test_every_caution_tool_and_danger_is_named(self):
        kinds, checks = BOOK.archetypes.values(), BOOK.faults.checks
        openings = [way for kind in kinds for way in kind.openings]
        washing = [slot.washing for slot in BOOK.parts.values()]
        named = (
            {kind.make_safe for kind in kinds}
            | {check.live for check in checks}
            | {NamedCaution.ZONES, *SENSITIVE.values()}
        )
        named |= {key for one in (*self.cards(), *openings, *checks) for key in one.cautions}
        named |= {key for kind in washing for key in kind.dry_cautions}
        self.assertEqual(set(BOOK.cautions) - named, set())
        held = {key for one in (*self.cards(), *openings, *checks) for key in one.tools} | ASKED_FOR
        self.assertEqual(set(BOOK.tools) - held - {key for kind in washing for key in kind.dry_tools}, set())
        told = {key for caution in BOOK.cautions.values() for key in caution.dangers}
        told |= {symptom.danger for symptom in BOOK.faults.symptoms}
        told |= {outcome.danger for check in checks for outcome in check.outcomes}
        told |= {rule.danger for slot in BOOK.parts.values() for rule in slot.rules}
        self.assertEqual(set(BOOK.dangers) - told, set())

    def test_every_fault_check_symptom_and_tick_is_met_at_some_machine(self):
        met = [subject(BOOK, kind, dock, has) for kind, has, dock in houses()]
        book = BOOK.faults
        for what, listed, found in (
            ("symptoms", book.symptoms, {one.key for of in met for one in of.symptoms}),
            ("faults", book.faults, {one.fault.key for of in met for one in of.suspects}),
            ("checks", book.checks, {one.check.key for of in met for one in of.probes}),
            ("ticks", book.ticks, {one.key.partition(":")[0] for of in met for one in of.ticks}),
        ):
            self.assertEqual({one.key for one in listed} - found, set(), what)

    def test_every_round_is_some_machine_s(self):
        for bundle in (replace(one, only=() if one.with_dock else one.only) for one in BOOK.bundles):
            made = [tasks(bundle, kind, has, school) for (kind, has, _), school in product(houses(), School)]
            found = {f"{slot.use}.{action}" for one in made for slot, action in one}
            dry = {f"{slot.use}.{rule.instead_of}" for one in made for slot, _ in one for rule in slot.rules}
            self.assertTrue(found, bundle.key)
            self.assertEqual(set(bundle.tasks) - found - dry, set(), bundle.key)
