"""What came between two tests and is not in the record: when it is asked about, and what an answer leaves."""

import unittest
from dataclasses import replace
from datetime import timedelta

from salttide.core.basics.errors import InputError
from salttide.core.estimate.rate import rate_of
from salttide.core.estimate.unexplained import Answer, answered, dose_of, question
from salttide.core.ledger.balance import Effect, effect, present
from salttide.core.ledger.entries import Dose, Unexplained
from salttide.core.science.parameters import Parameter
from salttide.core.system.shelf import Additive
from tests.core.cases import NOW, change, dose, ledger, reading

ALK, CALCIUM = Parameter.ALKALINITY, Parameter.CALCIUM
A_DAY, JUMP = -0.02, 0.4
"""What the system uses (meq/L a day), and what came after the seventh test that nobody wrote down: eight scatters."""
LAST_BEFORE, FIRST_AFTER = 20, 16
SODA, STOCK = Additive(1, "soda ash", "Na2CO3"), Additive(2, "soda stock", "Na2CO3", strength_g_l=53.0)


def series(until: int = 0):
    """A test every four days, on the line itself."""
    return [
        reading(ALK, 3.2 + A_DAY * (44 - ago) + (JUMP if ago <= FIRST_AFTER else 0.0), ago, entry=100 - ago)
        for ago in range(44, until - 1, -4)
    ]


def asked_of(*entries, now=NOW, until=0):
    return question(ledger(*series(until), *entries, volume_l=200.0), ALK, now)


class Asked(unittest.TestCase):
    def test_a_jump_that_stayed_is_asked_about_with_its_size(self):
        asked = asked_of()
        self.assertEqual((asked.since.at, asked.until.at), tuple(NOW - timedelta(days=d) for d in (20, 16)))
        self.assertAlmostEqual(asked.size, JUMP, delta=0.05)
        self.assertGreater(asked.share, 0.9)
        self.assertEqual(asked.at, NOW - timedelta(days=18))

    def test_what_the_record_explains_is_not(self):
        self.assertIsNone(asked_of(dose(18, JUMP * 200)))
        # 40 of 200 L with water of 2.8 + 0.4 · 5 raise 2.72 by 0.4 and a little more.
        self.assertIsNone(asked_of(change(18, 40, alkalinity=2.72 + JUMP * 5)))

    def test_nor_before_a_later_test_confirms_it(self):
        self.assertIsNone(asked_of(until=FIRST_AFTER, now=NOW - timedelta(days=FIRST_AFTER)))

    def test_nor_what_is_long_ago(self):
        last_day = NOW - timedelta(days=FIRST_AFTER) + timedelta(days=42)
        self.assertIsNotNone(asked_of(now=last_day))
        self.assertIsNone(asked_of(now=last_day + timedelta(minutes=1)))

    def test_nor_where_nothing_is_known(self):
        self.assertIsNone(question(ledger(), ALK, NOW))

    def test_one_wrong_result_is_an_outlier_and_no_question(self):
        line = [reading(ALK, 3.2 + A_DAY * (44 - ago), ago, entry=100 - ago) for ago in range(44, -1, -4)]
        line[6] = replace(line[6], value=line[6].value + JUMP)
        found = rate_of(ledger(*line), ALK, NOW)
        self.assertIsNone(question(ledger(*line), ALK, NOW))
        self.assertGreater(found.account.outliers[6], 0.8)
        self.assertLess(max(found.account.outliers[:6]), 0.1)


class Answered(unittest.TestCase):
    def setUp(self):
        self.asked = asked_of()
        rate = rate_of(ledger(*series(), volume_l=200.0), ALK, NOW)
        self.width = rate.high - rate.low

    def test_what_happened_counts_in_the_balance(self):
        said = answered(self.asked, Answer.UNKNOWN, 200.0)
        self.assertAlmostEqual(said[0].amount, self.asked.size * 200)
        self.assertEqual(effect(ALK, said[0], 200.0), Effect(1.0, said[0].amount / 200))
        self.assertEqual(effect(CALCIUM, said[0], 200.0), Effect(1.0, 0.0))
        book = ledger(*series(), *said, volume_l=200.0)
        found = rate_of(book, ALK, NOW)
        self.assertAlmostEqual(found.per_day, A_DAY, delta=0.002)
        self.assertLess(found.high - found.low, self.width)
        # Between the two tests the water carries it: 3.2 - 0.02 · 24 at the seventh test, and what came.
        mid = present(book, ALK, self.asked.at + timedelta(hours=1))
        self.assertAlmostEqual(mid.value, 3.2 - 0.48 + self.asked.size)

    def test_it_is_never_asked_twice(self):
        for answer in (Answer.UNKNOWN, Answer.NOTHING):
            with self.subTest(answer):
                self.assertIsNone(asked_of(*answered(self.asked, answer, 200.0)))
        given = Dose(self.asked.at, "soda ash", 1.0, {ALK: self.asked.size * 200})
        self.assertIsNone(asked_of(*answered(self.asked, Answer.DOSE, 200.0, given)))

    def test_nothing_is_not_counted_as_a_movement(self):
        (said,) = answered(self.asked, Answer.NOTHING, 200.0)
        book = ledger(*series(), said, volume_l=200.0)
        self.assertEqual(book.events(ALK), [])
        self.assertEqual(ledger(said, replace(said, amount=3.0)).events(CALCIUM), [])
        self.assertEqual(effect(ALK, said, 200.0), Effect(1.0, 0.0))

    def test_an_answer_for_another_time_or_parameter_leaves_the_question(self):
        (said,) = answered(self.asked, Answer.NOTHING, 200.0)
        earlier = replace(said, since=NOW - timedelta(days=28), until=NOW - timedelta(days=LAST_BEFORE + 4))
        for other in (earlier, replace(said, parameter=CALCIUM)):
            self.assertIsNotNone(asked_of(other))

    def test_a_dose_has_to_be_named(self):
        with self.assertRaises(ValueError):
            answered(self.asked, Answer.DOSE, 200.0)
        with self.assertRaises(InputError):
            answered(self.asked, "perhaps", 200.0)

    def test_which_dose_it_may_have_been(self):
        # Soda ash: 52.994 g/eq, so 0.4 meq/L in 200 L are 80 meq and 4.24 g.
        asked = replace(self.asked, size=0.4)
        found = dose_of(asked, [SODA], 200.0)
        self.assertEqual((found.additive, round(found.mass_g, 2), found.ml), (SODA, 4.24, None))
        # Of a solution of 53 g/L that is 80.0 mL.
        found = dose_of(asked, [SODA, STOCK], 200.0)
        self.assertEqual((found.additive, round(found.ml, 1)), (STOCK, 80.0))
        self.assertIsNone(dose_of(replace(asked, size=-0.4), [SODA], 200.0))
        self.assertIsNone(dose_of(asked, [Additive(3, "calcium", "CaCl2")], 200.0))


class Kept(unittest.TestCase):
    def test_it_is_one_of_the_lists_and_moves(self):
        said = Unexplained(NOW, ALK, NOW - timedelta(days=1), NOW, 3.0)
        book = ledger(said)
        self.assertEqual(book.moving, [said])
        self.assertEqual(book.since(NOW + timedelta(seconds=1)).unexplained, ())
        self.assertEqual(book.since(NOW).unexplained, (said,))
