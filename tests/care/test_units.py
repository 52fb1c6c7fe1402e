"""What can be measured: told in any of its units, kept in one, shown in any again."""

from django.test import SimpleTestCase
from hypothesis import given
from hypothesis import strategies as st

from care.errors import InvalidValue
from care.units import COUNTERS, FLOOR, LENGTH, READINGS, SCALES, VOLUME, WEIGHT
from tests.effort import examples

ALL = [*READINGS.values(), *SCALES.values(), *COUNTERS.values(), LENGTH, WEIGHT, VOLUME, FLOOR]


class EveryQuantity(SimpleTestCase):
    @examples(60)
    @given(st.sampled_from(ALL), st.data(), st.floats(0.01, 0.99))
    def test_is_the_same_told_and_shown_in_any_unit(self, one, data, share):
        unit = data.draw(st.sampled_from(one.units))
        most = min(one.most, 1e6)
        kept = one.least + (most - one.least) * share
        kept = float(round(kept)) if one.whole else kept
        self.assertAlmostEqual(
            one.accepted(one.in_unit(kept, unit), unit) / max(kept, 1e-9), 1.0 if kept else 0.0, places=6
        )

    def test_beyond_its_limits_or_in_another_unit_is_refused_with_them(self):
        for one in ALL:
            for unit in one.units:
                with self.subTest(one.kept, unit=unit):
                    for beyond in (one.least - 1, *([one.most * 1.01 + 1] if one.most < 1e9 else [])):
                        with self.assertRaises(InvalidValue) as refused:
                            one.accepted(one.in_unit(beyond, unit), unit)
                        self.assertEqual(refused.exception.field, one.called)
                        self.assertIn(one.limits(unit), refused.exception.detail)
            with self.assertRaises(InvalidValue) as refused:
                one.accepted(one.most, "furlong")
            self.assertEqual(refused.exception.field, "unit")
