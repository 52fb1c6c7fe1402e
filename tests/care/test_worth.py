"""What a year costs, whether washing pays, whether a repair does: worked by hand."""

from django.test import SimpleTestCase

from care.errors import InvalidValue
from care.shelf.costs import (
    CostBasis,
    Repair,
    RepairOrReplace,
    UsedUp,
    WashOrReplace,
    keep_going,
    repair_or_replace,
    wash_or_replace,
)


class AYear(SimpleTestCase):
    def test_parts_and_minutes_dearest_first_and_what_has_no_price_named(self):
        parts = [UsedUp("Caster", 0.5, None), UsedUp("Brush", 4, 350), UsedUp("Filter", 3, 690)]
        found = keep_going(parts, minutes=600, hour_value=12_00)
        self.assertEqual([part.name for part in found.parts], ["Filter", "Brush", "Caster"])
        self.assertEqual((found.parts_cost, found.cost), (3 * 690 + 4 * 350, 3470 + 12_000))
        self.assertEqual(found.unpriced, ("Caster",))
        self.assertEqual(keep_going(parts, minutes=600, hour_value=0).cost, 3470)
        self.assertEqual(found.share_of_new(CostBasis(price_new=347_00)), 0.1)
        self.assertIsNone(found.share_of_new(CostBasis()))


class Washing(SimpleTestCase):
    def of(self, price, hour_value):
        return wash_or_replace(price, washes=24, renewals=3, wash_min=4, change_min=1, hour_value=hour_value)

    def test_without_a_value_on_minutes_washing_pays(self):
        found = self.of(690, 0)
        self.assertEqual((found.wash_cost, found.replace_cost), (3 * 690, 24 * 690))
        self.assertEqual((found.washing_pays, found.saved, found.wash_minutes), (True, 21, 96))

    def test_a_dear_hour_and_a_cheap_part_turn_it_round(self):
        found = self.of(100, 60_00)
        self.assertEqual((found.wash_cost, found.replace_cost), (300 + 99 * 100, 2400 + 24 * 100))
        self.assertFalse(found.washing_pays)

    def test_close_is_neither(self):
        self.assertIsNone(self.of(345, 60_00).washing_pays)

    def test_close_is_less_than_15_in_100_of_the_dearer_way(self):
        for wash, new, pays in ((85, 100, True), (86, 100, None), (100, 86, None), (100, 85, False), (0, 0, None)):
            with self.subTest(wash, new=new):
                self.assertIs(WashOrReplace(1, 1, wash, new, 1).washing_pays, pays)
                self.assertIs(RepairOrReplace(wash, new, 1, 1).repair, pays)


class Repairing(SimpleTestCase):
    def test_a_battery_in_a_machine_of_four_years(self):
        told = CostBasis(price_new=300_00, life_years=10)
        found = repair_or_replace(Repair(60_00, 10, adds_years=4), told, age_years=4)
        self.assertEqual((found.repair_a_year, found.new_a_year, found.worth_left), (15_00, 30_00, 180_00))
        self.assertTrue(found.repair)

    def test_a_dear_repair_that_gives_one_year(self):
        told = CostBasis(price_new=300_00, life_years=10, hour_value=20_00)
        found = repair_or_replace(Repair(60_00, 60, adds_years=1), told, age_years=9.5)
        self.assertEqual((found.repair_a_year, found.years_left), (80_00, 0.5))
        self.assertFalse(found.repair)

    def test_what_cannot_be_is_refused_by_name(self):
        for make, field in (
            (lambda: repair_or_replace(Repair(1, 1, 1), CostBasis(), age_years=1), "price_new"),
            (lambda: Repair(-1, 1, 1), "cost"),
            (lambda: Repair(1, 1, 0), "adds_years"),
            (lambda: CostBasis(life_years=0), "life_years"),
            (lambda: CostBasis(hour_value=-1), "hour_value"),
        ):
            with self.subTest(field), self.assertRaises(InvalidValue) as told:
                make()
            self.assertEqual(told.exception.field, field)
