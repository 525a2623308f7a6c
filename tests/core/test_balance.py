"""The balance of mass: what each entry does to the water, and the water that follows from the entries."""

import unittest
from datetime import timedelta

from hypothesis import given
from hypothesis import strategies as st

from salttide.core.ledger.balance import effect, joined, present, present_water
from salttide.core.ledger.entries import Change, Dose, Evaporation, TopOff, ledger_of
from salttide.core.ledger.transfers import fill_linked
from salttide.core.science.dilution import dilute
from salttide.core.science.parameters import Parameter
from tests.core.cases import NOW, change, dose, ledger, reading

NO3, ALK, SALINITY = Parameter.NITRATE, Parameter.ALKALINITY, Parameter.SALINITY


class MassBalance(unittest.TestCase):
    def test_weekly_10_and_fortnightly_20_percent_are_not_quite_the_same(self):
        # (1 - 0.1)^2 = 0.81 against 1 - 0.2 = 0.80 left.
        self.assertAlmostEqual(dilute(dilute(1.0, 0, 0.1), 0, 0.1), 0.81)
        self.assertAlmostEqual(dilute(1.0, 0, 0.2), 0.80)

    def test_a_change_mixes_by_amounts(self):
        # 100 L at 20 mg/L, 25 L out and in without nitrate: 15. With 30 L in the level falls back by evaporation and
        # the 1500 mg stay: 15 again.
        self.assertAlmostEqual(effect(NO3, change(0, 25, nitrate=0), 100).on(20), 15)
        uneven = Change(NOW, 25, 30, {NO3: 0.0})
        self.assertAlmostEqual(effect(NO3, uneven, 100).on(20), 15)

    def test_a_dose_adds_its_amount(self):
        self.assertAlmostEqual(effect(ALK, dose(0, 30), 100).on(2.5), 2.8)

    def test_new_water_of_unknown_content_leaves_the_level(self):
        self.assertAlmostEqual(effect(Parameter.CALCIUM, change(0, 25, nitrate=0), 100).on(410), 410)

    @given(st.floats(0, 100), st.floats(0, 100), st.floats(0.01, 0.5), st.integers(2, 6))
    def test_splitting_a_change_never_removes_more_than_one_at_once(self, before, excess, fraction, parts):
        incoming, value = before, before + excess
        split = value
        for _ in range(parts):
            split = dilute(split, incoming, fraction / parts)
        self.assertGreaterEqual(split, dilute(value, incoming, fraction) - 1e-9)


class Present(unittest.TestCase):
    def test_the_last_reading_carried_through_what_came_later(self):
        book = ledger(reading(NO3, 20, 2), change(1, 25, 5, nitrate=0), change(3, 50, 1, nitrate=0))
        known = present(book, NO3)
        self.assertAlmostEqual(known.value, 15)
        self.assertFalse(known.measured)

    def test_at_one_moment_the_order_of_entry_counts(self):
        book = ledger(reading(NO3, 20, 0, entry=7), change(0, 25, 3, nitrate=0))
        self.assertAlmostEqual(present(book, NO3).value, 20)
        book = ledger(reading(NO3, 20, 0, entry=3), change(0, 25, 7, nitrate=0))
        self.assertAlmostEqual(present(book, NO3).value, 15)

    def test_never_measured(self):
        self.assertIsNone(present(ledger(), NO3))

    def test_at_a_moment_what_happened_at_it_counts_already(self):
        book = ledger(reading(NO3, 20, 2, entry=1), reading(NO3, 12, 1, entry=2), change(1, 25, 3, nitrate=0))
        for at, value in (
            (NOW - timedelta(days=2), 20),
            (NOW - timedelta(days=1.01), 20),
            (NOW - timedelta(days=1), 9),
        ):
            self.assertAlmostEqual(present(book, NO3, at).value, value)
        self.assertIsNone(present(book, NO3, NOW - timedelta(days=2.01)))


class Joined(unittest.TestCase):
    def test_the_joined_line_goes_through_the_readings_and_steps_at_the_change(self):
        readings = [reading(NO3, 10, 4, entry=1), reading(NO3, 10, 0, entry=3)]
        book = ledger(*readings, change(2, 20, 2, nitrate=0))
        # r from (10 + 2r) x 0.8 + 2r = 10: r = 2/3.6; before the change 11.111, after it 8.889.
        values = [value for _, value in joined(book, NO3, readings)]
        for found, wanted in zip(values, [10, 11.1111, 8.8889, 10], strict=True):
            self.assertAlmostEqual(found, wanted, places=4)


class EveryEntry(unittest.TestCase):
    def test_evaporation_takes_water_and_leaves_salt_until_the_top_off(self):
        # 100 L at 35 ppt, 2 L gone: 3500 / 98 = 35.714; 1 L of fresh water: 3500 / 99 = 35.354; 4 L more fill it up
        # to the mark, the other 3 have replaced what went unnoticed: 35.
        start = reading(SALINITY, 35, 9, entry=1)
        gone = Evaporation(NOW - timedelta(days=3), 2.0, 2)
        one, four = TopOff(NOW - timedelta(days=2), 1.0, 3), TopOff(NOW - timedelta(days=1), 4.0, 4)
        for entries, wanted in (([gone], 3500 / 98), ([gone, one], 3500 / 99), ([gone, one, four], 35.0)):
            book = ledger_of(100, [start, *entries])
            self.assertAlmostEqual(present(book, SALINITY).value, wanted)

    def test_a_change_fills_up_what_had_evaporated(self):
        # 100 L at 35: 5 L gone, 3500/95 = 36.842. 10 out leave 85 x 36.842 = 3131.58, 15 in bring 525: 3656.58.
        start = reading(SALINITY, 35, 9, entry=1)
        gone = Evaporation(NOW - timedelta(days=3), 5.0, 2)
        filled = Change(NOW - timedelta(days=2), 10.0, 15.0, {SALINITY: 35.0}, 3)
        book = ledger_of(100, [start, gone, filled])
        self.assertAlmostEqual(present(book, SALINITY).value, 36.5658, places=4)
        self.assertAlmostEqual(book.volume_at(NOW), 100.0)

    def test_week_after_week_the_level_comes_back(self):
        # 26 weeks of 5 L evaporated, 10 out and 15 in at 30.92 ppt: S -> 85/95 S + 0.15 x 30.92, which settles at
        # 4.638/(1 - 0.894737) = 44.06; after n weeks 44.061 + (35 - 44.061) x 0.894737^n.
        entries = [reading(SALINITY, 35, 200, entry=1)]
        for week in range(26):
            at = NOW - timedelta(days=190 - 7 * week)
            entries += [Evaporation(at, 5.0, 10 + 2 * week), Change(at, 10.0, 15.0, {SALINITY: 30.92}, 11 + 2 * week)]
        book = ledger_of(100, entries)
        self.assertAlmostEqual(book.volume_at(NOW), 100.0)
        self.assertAlmostEqual(present(book, SALINITY).value, 44.061 - 9.061 * (85 / 95) ** 26, places=3)

    def test_what_was_drained_and_not_filled_is_missing_and_dilutes_nothing(self):
        # 13 of 100 L out and none in: the same water, 87 L of it. 13 L at 30 fill it up: 0.87 x 35 + 0.13 x 30 = 34.35.
        start = reading(SALINITY, 35, 9, entry=1)
        drained = Change(NOW - timedelta(days=3), 13.0, 0.0, {SALINITY: 30.0}, 2)
        book = ledger_of(100, [start, drained])
        self.assertAlmostEqual(present(book, SALINITY).value, 35.0)
        self.assertEqual((book.volume_at(NOW), book.missing_at(NOW)), (87.0, 13.0))
        filled = Change(NOW - timedelta(days=2), 0.0, 13.0, {SALINITY: 30.0}, 3)
        book = ledger_of(100, [start, drained, filled])
        self.assertAlmostEqual(present(book, SALINITY).value, 34.35)
        self.assertEqual(book.missing_at(NOW), 0.0)

    def test_limewater_in_the_top_off_brings_what_it_holds(self):
        # 5 L of 40 meq/L into 100 L at the mark: 2.0 meq/L, salinity as it was.
        lime = TopOff(NOW, 5.0, 3, {ALK: 40.0})
        book = ledger_of(100, [reading(ALK, 2.5, 1, entry=1), reading(SALINITY, 35, 1, entry=2), lime])
        self.assertAlmostEqual(present(book, ALK).value, 4.5)
        self.assertAlmostEqual(present(book, SALINITY).value, 35)

    def test_a_fresh_top_off_moves_nothing_and_leaves_a_reading_measured(self):
        book = ledger_of(100, [reading(SALINITY, 35, 1, entry=1), TopOff(NOW, 5.0, 2)])
        self.assertTrue(present(book, SALINITY).measured)

    def test_the_water_at_an_earlier_moment(self):
        book = ledger(reading(NO3, 20, 6), change(4, 25, 2, nitrate=0), reading(NO3, 12, 2, entry=3))
        for days, wanted in ((5, 20), (3, 15), (1, 12)):
            self.assertAlmostEqual(present(book, NO3, NOW - timedelta(days=days)).value, wanted)
        self.assertEqual(present_water(book, NOW - timedelta(days=7)), {})

    def test_a_daily_dose_does_not_move_what_the_last_reading_says(self):
        daily = Dose(NOW, "soda ash", 1.0, {ALK: 30.0}, routine=True, id=2)
        self.assertAlmostEqual(present(ledger_of(100, [reading(ALK, 2.5, 1, entry=1), daily]), ALK).value, 2.5)


class Linked(unittest.TestCase):
    def test_water_of_another_system_is_what_it_held_at_that_moment(self):
        # Beacon stands at 20, and at 15 after its own change; a quarter of Skiff is filled with it then: 4 to 6.75.
        beacon = ledger(reading(NO3, 20, 6, entry=1), change(4, 25, 2, nitrate=0), reading(NO3, 9, 1, entry=9))
        filled = Change(NOW - timedelta(days=2), 25, 25, {}, 8, source=1)
        skiff = ledger_of(100, [reading(NO3, 4, 3, entry=7), filled])
        found = fill_linked({1: beacon, 2: skiff})
        self.assertAlmostEqual(present(found[2], NO3).value, 0.75 * 4 + 0.25 * 15)
        self.assertIs(found[1], beacon)

    def test_a_chain_is_followed_in_order_of_time(self):
        # 1 fills 2 by half (0 and 10: 5), then 2 fills 3 by half (0 and 5: 2.5).
        first = ledger(reading(NO3, 10, 9, entry=1))
        second = ledger_of(100, [reading(NO3, 0, 9, entry=2), Change(NOW - timedelta(days=5), 50, 50, {}, 4, source=1)])
        third = ledger_of(100, [reading(NO3, 0, 9, entry=3), Change(NOW - timedelta(days=4), 50, 50, {}, 5, source=2)])
        self.assertAlmostEqual(present(fill_linked({3: third, 2: second, 1: first})[3], NO3).value, 2.5)

    def test_the_water_of_a_system_that_is_not_known_leaves_things_as_they_were(self):
        lone = ledger_of(100, [reading(NO3, 4, 3, entry=1), Change(NOW, 25, 25, {}, 2, source=7)])
        self.assertAlmostEqual(present(fill_linked({2: lone})[2], NO3).value, 4)


litres = st.floats(0.1, 30)
moments = st.floats(0.01, 60)
entries = st.one_of(
    st.tuples(st.just("dose"), moments, st.floats(0, 500)),
    # Twelve of them never take out what is in 200 L.
    st.tuples(st.just("change"), moments, st.floats(0.1, 12), litres, st.floats(0, 50)),
    st.tuples(st.just("evaporation"), moments, st.floats(0.1, 4)),
    st.tuples(st.just("top_off"), moments, litres, st.floats(0, 40)),
)


def built(rows):
    """The entries of made-up rows, numbered."""
    found = []
    for number, (kind, days, *rest) in enumerate(rows, 10):
        at = NOW - timedelta(days=days)
        if kind == "dose":
            found.append(Dose(at, "x", 1.0, {ALK: rest[0]}, id=number))
        elif kind == "change":
            found.append(Change(at, rest[0], rest[1], {ALK: rest[2]}, number))
        elif kind == "evaporation":
            found.append(Evaporation(at, rest[0], number))
        else:
            found.append(TopOff(at, rest[0], number, {ALK: rest[1]}))
    return found


class Mass(unittest.TestCase):
    @given(st.lists(entries, max_size=12), st.floats(0, 8))
    def test_what_is_there_is_what_was_there_and_what_came_less_what_went(self, rows, start):
        events = built(rows)
        book = ledger_of(200, [reading(ALK, start, 61, entry=1), *events])
        # Counted in amounts, in order of time: a change takes out its share of the amount.
        amount, level = start * 200.0, 200.0
        for event in sorted(events, key=lambda e: (e.at, e.id)):
            if isinstance(event, Dose):
                amount += event.amounts[ALK]
            elif isinstance(event, Change):
                amount += event.in_l * event.incoming[ALK] - event.out_l * amount / level
                level = min(200.0, level - event.out_l + event.in_l)
            elif isinstance(event, Evaporation):
                level -= event.litres
            else:
                amount += event.litres * event.holds[ALK]
                level = min(200.0, level + event.litres)
        self.assertAlmostEqual(book.volume_at(NOW + timedelta(days=1)), level, places=6)
        self.assertAlmostEqual(present(book, ALK).value * level, amount, delta=1e-6 * max(1.0, amount))

    @given(st.lists(entries, max_size=12), st.randoms(use_true_random=False))
    def test_the_state_does_not_depend_on_the_order_of_loading(self, rows, chance):
        events = [reading(ALK, 2.5, 61, entry=1), *built(rows)]
        mixed = list(events)
        chance.shuffle(mixed)
        self.assertEqual(present(ledger_of(200, events), ALK), present(ledger_of(200, mixed), ALK))

    @given(st.lists(st.tuples(st.floats(1, 50), st.floats(0.1, 40), st.booleans()), max_size=8))
    def test_water_that_goes_from_one_system_to_another_takes_its_mass_along(self, moves):
        # Two systems of 100 L at 10 and 0; each move swaps equal volumes, so that the sum stays at 1000 mg.
        books = {1: [reading(NO3, 10, 60, entry=1)], 2: [reading(NO3, 0, 60, entry=2)]}
        days = sorted({day for day, _, _ in moves}, reverse=True)
        for number, (day, (_, swapped, _)) in enumerate(zip(days, moves, strict=False)):
            at = NOW - timedelta(days=day)
            books[1].append(Change(at, swapped, swapped, {}, 10 + 2 * number, source=2))
            books[2].append(Change(at, swapped, swapped, {}, 10 + 2 * number + 1, source=1))
        found = fill_linked({key: ledger_of(100, entries) for key, entries in books.items()})
        self.assertAlmostEqual(sum(present(book, NO3).value * 100 for book in found.values()), 1000, places=6)
