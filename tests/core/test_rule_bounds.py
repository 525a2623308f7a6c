"""Where each rule of judgement begins to speak: a situation just at its bound, and one just short of it.

Bands are those of large-polyp systems, as in `test_findings`; what is measured scatters by next to nothing where the
bound itself is meant and not the instrument.
"""

from __future__ import annotations

import unittest
from dataclasses import replace
from datetime import timedelta
from typing import Any

from salttide.core.judgement.findings import RULES
from salttide.core.judgement.retest import retests
from salttide.core.judgement.rules.trends import likely_causes
from salttide.core.judgement.scenario import NOON, situation_described
from salttide.core.science.ammonia import unionised_ammonia_mg_l
from salttide.core.science.carbonate import aragonite_saturation, ph_nbs_from_pco2
from salttide.core.science.parameters import Parameter, Span
from salttide.core.science.salts import natural_seawater
from salttide.core.system.finding import Certainty, Finding
from tests.core.test_findings import falling, water

FINE = 0.001
SLIGHT = 1e-6


def said(rule: str, readings: list[tuple], **told: Any) -> list[Finding]:
    """What one rule finds."""
    return list(RULES[rule](situation_described(readings, **told)))


def exact(parameter: str, *pairs: tuple[float, float], kit: str = "kit") -> list[tuple]:
    """Readings (days ago, value) without scatter to speak of."""
    return [(parameter, value, days, kit, SLIGHT) for days, value in pairs]


class RuleBounds(unittest.TestCase):
    def speaks(self, rule: str, at: list[tuple], short: list[tuple] | None = None, **told: Any) -> None:
        """`at` makes the rule speak, `short` does not; `told` what is known besides, or a pair (at, short) of it."""
        sides = (
            {key: value[side] if isinstance(value, tuple) else value for key, value in told.items()} for side in (0, 1)
        )
        with self.subTest(rule=rule, side="at"):
            self.assertTrue(said(rule, at, **next(sides)))
        with self.subTest(rule=rule, side="short"):
            self.assertEqual(said(rule, at if short is None else short, **next(sides)), [])


class Animals(RuleBounds):
    def test_distress_and_losses_are_fresh_for_three_days(self) -> None:
        self.speaks("animals_suffer", water(), looks=({3: ["gasping"]}, {3.2: ["gasping"]}))
        lost = [("stock_lost", 3)], [("stock_lost", 3.2)]
        self.speaks("losses", water(8), happenings=lost)

    def test_nitrite_is_a_sign_from_half_a_milligram_on(self) -> None:
        self.speaks("nitrite_calm", water(nitrite=0.5), water(nitrite=0.499))

    def test_what_was_not_measured_is_taken_as_usual_and_makes_it_less_sure(self) -> None:
        (found,) = said("ammonia_toxic", [("ammonia", 10.0, 1)])
        usual = float(unionised_ammonia_mg_l(10.0, 8.2, 35.0, 25.0))
        self.assertIn(f"{usual:.3f} mg/L", found.reason)
        self.assertEqual(found.certainty, Certainty.POSSIBLE)
        (found,) = said("ammonia_toxic", water(ammonia=1.0))
        self.assertEqual(found.certainty, Certainty.LIKELY)
        changed = [(0.5, 0.1, {"ammonia": 0.0})]
        (found,) = said("ammonia_toxic", water(ammonia=1.0), changes=changed)
        self.assertEqual(found.certainty, Certainty.POSSIBLE, "measured before a change, and not since")


class Doubts(RuleBounds):
    def test_the_most_a_system_moves_by_itself_in_a_day(self) -> None:
        # Beside it three joint scatters: 3 · √2 · 0.000001.
        for parameter, start, up, down in (
            ("salinity", 34.0, 0.7, 0.3), ("alkalinity", 3.0, 0.1, 0.7), ("calcium", 420, 5, 25),
            ("magnesium", 1300, 5, 20), ("nitrate", 20, 5, 5), ("phosphate", 0.3, 0.1, 0.1),
        ):  # fmt: skip
            for most in (up, -down):
                with self.subTest(parameter=parameter, most=most):
                    at, short = (exact(parameter, (2, start), (1, start + most * share)) for share in (1.02, 0.98))
                    self.speaks("impossible_jump", at, short)

    def test_three_joint_scatters_are_allowed_besides(self) -> None:
        # 25 + 3 · √2 · 2 = 33.485.
        def fell(by: float) -> list[tuple]:
            return [("calcium", 440, 2, "kit", 2.0), ("calcium", 440 - by, 1, "kit", 2.0)]

        self.speaks("impossible_jump", fell(33.6), fell(33.4))

    def test_a_result_is_doubted_for_a_week(self) -> None:
        jump = [exact("calcium", (days + 1, 440), (days, 380)) for days in (7, 7.2)]
        self.speaks("impossible_jump", *jump)
        near = [[("alkalinity", "7.4 dKH", days)] for days in (7, 7.2)]
        self.speaks("too_near_to_tell", *near)

    def test_an_event_explains_a_jump_where_it_is_often_the_cause(self) -> None:
        jump = exact("nitrate", (2, 20), (1, 5))
        # Media are often the cause with phosphate (3), sometimes with nitrate (2); food often with nitrate (3).
        self.speaks("impossible_jump", jump, happenings=([("media", 1.5)], [("food", 1.5)]))

    def test_for_how_long_two_instruments_are_set_beside_each_other(self) -> None:
        def old(days: float, new: int = 1) -> list[tuple]:
            return exact("salinity", (days, 34.0), kit="H1") + exact(
                "salinity", *[(1 + 2 * i, 34.0) for i in range(new)], kit="R1"
            )

        self.speaks("other_instrument", old(60), old(60.5))
        self.speaks("other_instrument", old(40, 3), old(40, 4))
        self.speaks("other_instrument", old(30, 4), old(30.5, 4))

    def test_what_counts_as_measured_by_both(self) -> None:
        def both(hours: float) -> list[tuple]:
            return exact("salinity", (5, 33.0), kit="H1") + exact("salinity", (5 - hours / 24, 34.0), kit="R1")

        self.speaks("instruments_differ", both(24), both(25))
        self.speaks("other_instrument", both(25), both(24))

        def beside(minutes: float) -> list[tuple]:
            days = (40, 30, 20, 10, 2)
            kit = exact("salinity", *[(day + minutes / 1440, 33.0) for day in days], kit="kit")
            return kit + exact("salinity", *[(day, 34.0) for day in days], kit="probe")

        self.speaks("instruments_differ", beside(89), beside(92))

    def test_two_days_with_both_instruments_are_likelier_than_one(self) -> None:
        def days(*measured: float) -> list[tuple]:
            return exact("salinity", *[(day + 0.01, 33.0) for day in measured], kit="H1") + exact(
                "salinity", *[(day, 34.0) for day in measured], kit="R1"
            )

        for measured, certainty in (((2,), Certainty.POSSIBLE), ((5, 2), Certainty.LIKELY)):
            (found,) = said("instruments_differ", days(*measured))
            self.assertEqual(found.certainty, certainty)


class Ions(RuleBounds):
    def test_low_by_the_same_share(self) -> None:
        sea = natural_seawater(35.0)

        def shares(calcium: float, magnesium: float) -> list[tuple]:
            return [
                ("salinity", 35.0, 1),
                *exact("calcium", (1, sea[Parameter.CALCIUM] * calcium)),
                *exact("magnesium", (1, sea[Parameter.MAGNESIUM] * magnesium)),
            ]

        self.speaks("low_alike", shares(0.89, 0.929), shares(0.89, 0.932))
        self.speaks("low_alike", shares(0.93, 0.939), shares(0.93, 0.941))

    def test_the_salt_is_short_where_a_change_of_two_months_had_less_than_the_band(self) -> None:
        low = water(calcium=380)
        self.speaks("salt_short", low, changes=([(60, 0.1, {"calcium": 370})], [(60.3, 0.1, {"calcium": 370})]))
        # 411.4 at 36 ppt are 399.97 at 35, and 411.5 are 400.07: the band begins at 400.
        waters = [[(5, 0.1, {"salinity": 36, "calcium": value})] for value in (411.4, 411.5)]
        self.speaks("salt_short", low, changes=tuple(waters))

    def test_calcium_falls_with_alkalinity_from_half_to_one_and_a_half_of_its_share(self) -> None:
        # 20.04 mg with each meq.
        def together(share: float) -> list[tuple]:
            alkalinity = [(*row, SLIGHT) for row in falling("alkalinity", 3.9, -0.08, 8)]
            calcium = [(*row, FINE) for row in falling("calcium", 450, -0.08 * 20.04 * share, 8)]
            return [*alkalinity, *calcium]

        self.speaks("falling_together", together(0.53), together(0.47))
        self.speaks("falling_together", together(1.47), together(1.53))

    def test_a_crust_is_likely_above_ph_8_5(self) -> None:
        both = [*falling("alkalinity", 3.9, -0.08, 8), *falling("calcium", 449, -1.6, 8)]
        for ph, words in ((8.51, "a crust is likely"), (8.5, "growth")):
            (found,) = said("falling_together", [*both, ("ph", ph, 1)])
            self.assertIn(words, found.words)
        (found,) = said("falling_together", [*both, ("ph", 8.6, 1)])
        self.assertIn("pH below 8.4", found.unless)
        (found,) = said("falling_together", both)
        self.assertIn("pH above 8.5", found.unless)

    def test_eight_times_saturated_water_is_close_to_dropping_carbonate(self) -> None:
        def saturated(times: float) -> list[tuple]:
            low, high = 8.0, 9.0
            for _ in range(40):
                ph = (low + high) / 2
                found = float(aragonite_saturation(ph, 4.0, 35.0, 25.0, 450.0))
                low, high = (ph, high) if found < times else (low, ph)
            return [("ph", ph, 1), ("alkalinity", 4.0, 1), ("salinity", 35.0, 1), ("temperature", 25.0, 1),
                    ("calcium", 450.0, 1)]  # fmt: skip

        self.speaks("crusting", saturated(8.01), saturated(7.99))

    def test_a_dose_goes_to_the_middle_of_the_band(self) -> None:
        # 1250 to 1400: 1325, in three days of 41.7 mg/L; x 200 L x 203.30 / 24.305 = 69.7 g.
        (found,) = said("ion_low", water(magnesium=1200.0))
        self.assertIn("Raise it to 1325 mg/L: 69.7 g MgCl2·6H2O a day for 3 days", found.advice)

    def test_calcium_is_missed_beyond_two_deviations_of_its_rate(self) -> None:
        # Calcium that stays, within what its test can tell; alkalinity falls by as much as would show, and by less.
        flat = [("calcium", 420, day, "kit", 8.0) for day in range(50, 0, -7)]
        rate = situation_described(flat).rates[Parameter.CALCIUM]
        assert rate is not None
        for deviations, words in ((2.5, "without its calcium"), (1.5, "seems to hold: growth")):
            per_day = deviations * rate.sd / 20.04
            (found,) = said(
                "alkalinity_alone", [*flat, *exact("alkalinity", *[(d, 3.0 + per_day * d) for d in range(24, 0, -3)])]
            )
            self.assertIn(words, found.words)


class Nutrients(RuleBounds):
    def test_one_is_eaten_or_both_are(self) -> None:
        hair = {1: ["hair_algae patches rock"]}
        for values, words in (
            ({"nitrate": 0.0}, "Nitrate reads zero because growth eats it"),
            ({"nitrate": 0.0, "phosphate": 0.0}, "Nitrate and phosphate read zero because growth eats them"),
        ):
            (found,) = said("eaten", water(**values), looks=hair)
            self.assertEqual(found.words, words)

    def test_up_to_three_changes_are_told_one_by_one(self) -> None:
        # 200 L, a quarter at most. 30 to 22.5, 16.875 and by 11.1 % to 15; from 40 it takes one more.
        for nitrate, words in ((30.0, "change of 50 L then 50 L then 22 L"), (40.0, "change of 4 times up to 50 L")):
            (found,) = said("nutrients_high", water(nitrate=nitrate))
            self.assertIn(words, found.advice)

    def test_strands_among_brown_dust_are_strands(self) -> None:
        seen = {1: ["brown_film patches panels", "brown_strands patches sand"]}
        (found,) = said("unsure_growth", water(), looks=seen)
        self.assertEqual((found.certainty, found.cautions), (Certainty.LIKELY, ("unknown_growth",)))
        self.assertTrue(any(words.startswith("seen Mon 23 Nov: ") for words in found.looked_at))

    def rose(self, first: float, top: float, *others: float) -> list[tuple]:
        return exact("phosphate", (first, 0.02), (top, 0.08), *[(day, 0.05) for day in others], (1, 0.03))

    def test_growth_hides_behind_a_rise_of_two_weeks_and_a_fall_in_four_readings_of_ten_weeks(self) -> None:
        self.speaks("hidden_growth", self.rose(29, 15, 8), self.rose(29, 15.5, 8))
        self.speaks("hidden_growth", self.rose(70, 15, 8), self.rose(70.5, 15, 8))
        self.speaks("hidden_growth", self.rose(29, 15, 8), self.rose(29, 15))

    def came_back(self, *changes: float, gap: float = 5.0) -> tuple[list[tuple], list[tuple]]:
        readings = [pair for day in changes for pair in ((day + gap, 0.05), (day - gap, 0.08))]
        return exact("phosphate", *sorted(readings, reverse=True)), [(day, 0.1, {"phosphate": 0}) for day in changes]

    def test_source_water_by_readings_within_five_days_of_two_changes_in_ten_weeks(self) -> None:
        (at, changes), (short, _) = self.came_back(40, 20), self.came_back(40, 20, gap=5.2)
        self.speaks("source_water", at, short, changes=changes)
        # The reading before the first change is 70 days old, then older.
        (at, changes), (short, others) = self.came_back(65, 20), self.came_back(65.5, 20)
        self.speaks("source_water", at, short, changes=(changes, others))

    def test_what_stands_lower_after_a_change_than_before_has_not_come_back(self) -> None:
        # Half of the water was changed: 0.10 becomes 0.05, and 0.09 is more than that, but less than before.
        changes = [(day, 0.5, {"phosphate": 0}) for day in (40, 20)]
        for after, found in ((0.09, 0), (0.11, 1)):
            readings = [pair for day in (40, 20) for pair in ((day + 2, 0.1), (day - 2, after))]
            self.assertEqual(len(said("source_water", exact("phosphate", *readings), changes=changes)), found)

    def test_no_more_than_three_changes_are_looked_at(self) -> None:
        readings, changes = self.came_back(60, 45, 30, 15)
        (found,) = said("source_water", readings, changes=changes)
        self.assertIn("After 3 of the last 3 changes", found.reason)

    def test_phosphate_comes_down_by_a_third_a_day_at_most(self) -> None:
        (found,) = said("nutrients_high", water(phosphate=0.12))
        self.assertIn("down by at most 0.04", found.advice)

    def test_a_growth_has_lately_been_beaten_for_two_months(self) -> None:
        for day, told in ((60, True), (60.5, False)):
            (found,) = said("floor", water(nitrate=0.5), looks={day: ["hair_algae patches rock"], 1: ["open"]})
            self.assertEqual("that ate it is gone" in found.reason, told, day)


class PhRules(RuleBounds):
    def test_the_rooms_air_by_two_readings_of_a_fortnight(self) -> None:
        self.speaks("room_air", [*water(14, ph=7.8), ("ph", 7.8, 1)], [*water(14.3, ph=7.8), ("ph", 7.8, 1)])

    def test_the_windows_are_remembered_for_a_quarter_of_a_year(self) -> None:
        for days, told in ((90, True), (90.5, False)):
            (found,) = said("room_air", [*water(2, ph=7.8), ("ph", 7.8, 1)], happenings=[("windows_shut", days)])
            self.assertEqual("The windows have been shut" in found.reason, told)

    def test_the_room_is_the_likely_cause_from_half_again_the_carbon_dioxide_outdoors(self) -> None:
        # About 412 µatm outdoors at 34.8 ppt and 25.4 °C; a keeper who wants pH above 8.3.
        for times, certainty in ((1.45, Certainty.POSSIBLE), (1.55, Certainty.LIKELY)):
            ph = float(ph_nbs_from_pco2(times * 412, 8.4 / 2.80385, 34.8, 25.4))
            s = situation_described([*water(2, ph=ph), ("ph", ph, 1)])
            bands = {**s.system.bands, Parameter.PH: Span(8.3, 8.6)}
            (found,) = RULES["room_air"](replace(s, system=replace(s.system, bands=bands)))
            self.assertEqual(found.certainty, certainty)

    def closed(
        self, fall: float = 0.12, early: tuple[float, ...] = (60, 50, 40), late: tuple[float, ...] = (10, 5, 1),
        alkalinity: float = 3.0,
    ) -> list[tuple]:  # fmt: skip
        then, now = [(day, 8.2) for day in early], [(day, 8.2 - fall) for day in late]
        rest = [("salinity", 35.0, 1), ("temperature", 25.0, 1), ("alkalinity", 3.0, 60), ("alkalinity", alkalinity, 1)]
        return [*exact("ph", *then, *now), *rest]

    def test_ph_has_fallen_by_the_air(self) -> None:
        self.speaks("air_closed", self.closed(0.082), self.closed(0.078))
        self.speaks("air_closed", self.closed(late=(21, 10, 1)), self.closed(late=(21.3, 10, 1)))
        self.speaks("air_closed", self.closed(early=(60, 50, 35.2)), self.closed(early=(60, 50, 34.8)))
        self.speaks("air_closed", self.closed(early=(90, 50, 40)), self.closed(early=(90.3, 50, 40)))
        # By 0.09 the water holds 1.27 times the carbon dioxide at the same alkalinity, 1.16 times at 0.92 of it.
        self.speaks("air_closed", self.closed(0.09), self.closed(0.09, alkalinity=2.76))

    def test_swings(self) -> None:
        def swing(parameter: str, low: float, size: float, days: float = 2.0) -> list[tuple]:
            return exact(parameter, (days, low), (days - 0.5, low + size))

        self.speaks("ph_swings", swing("ph", 7.9, 0.41), swing("ph", 7.9, 0.39))
        self.speaks("temperature_swings", swing("temperature", 25.0, 1.01), swing("temperature", 25.0, 0.99))
        self.speaks("ph_swings", swing("ph", 7.9, 0.5, 7.0), swing("ph", 7.9, 0.5, 7.2))


class Salinity(RuleBounds):
    def moved(self, last: float, hours: float) -> list[tuple]:
        return exact("salinity", (last + hours / 24, 34.8), (last, 36.2))

    def test_sudden_within_two_days_and_two_days_ago(self) -> None:
        self.speaks("salinity_sudden", self.moved(2, 48), self.moved(2.1, 48))
        self.speaks("salinity_sudden", self.moved(1, 48), self.moved(1, 50))

    def test_a_spill_of_three_days_makes_it_likely(self) -> None:
        for days, certainty in ((2.9, Certainty.LIKELY), (3.1, Certainty.POSSIBLE)):
            (found,) = said("salinity_sudden", self.moved(1, 40), happenings=[("spill", days)])
            self.assertEqual(found.certainty, certainty)


class Trends(RuleBounds):
    def test_a_parameter_leaves_its_band_within_a_fortnight(self) -> None:
        # The band begins at 7.5 dKH, 2.675 meq/L; what falls by 0.03 a day is there 14 days on from 3.095.
        def straight(days_left: float) -> list[tuple]:
            now = 7.5 / 2.80385 + 0.03 * days_left
            return exact("alkalinity", *[(day, now + 0.03 * day) for day in range(24, 0, -3)])

        self.speaks("leaving", straight(13.7), straight(14.3))

    def test_causes_from_three_weeks_before_to_four_days_after(self) -> None:
        for days, counts in ((51, True), (51.1, False), (26, True), (25.9, False)):
            s = situation_described(water(), happenings=[("food", days)])
            causes = likely_causes(s, Parameter.NITRATE, NOON - timedelta(days=30))
            self.assertEqual(bool(causes), counts, days)


class Retests(unittest.TestCase):
    def due(self, parameter: str, readings: list[tuple], **told: Any) -> tuple[int, str]:
        found = {one.parameter.value: one for one in retests(situation_described(readings, **told))}
        return found[parameter].every_days, found[parameter].why

    def test_usual_intervals(self) -> None:
        for parameter, value, days in (
            ("temperature", 25.4, 3), ("salinity", 34.8, 1), ("alkalinity", "8.4 dKH", 7), ("calcium", 420, 14),
            ("magnesium", 1320, 14), ("nitrate", 6, 7), ("phosphate", 0.05, 7), ("ph", 8.2, 7), ("potassium", 399, 60),
        ):  # fmt: skip
            with self.subTest(parameter=parameter):
                self.assertEqual(self.due(parameter, [(parameter, value, 1)])[0], days)

    def test_every_three_days_where_it_is_used_up_or_food_has_changed(self) -> None:
        used = exact("alkalinity", *[(day, 3.05 + 0.01 * day) for day in range(24, 0, -3)])
        self.assertEqual(self.due("alkalinity", used), (3, "it is used up"))
        for days, every in ((14, 3), (14.3, 7)):
            self.assertEqual(self.due("nitrate", [("nitrate", 6, 1)], happenings=[("food", days)])[0], every)

    def test_half_as_often_out_of_the_band_and_half_as_long_again_once_steady(self) -> None:
        self.assertEqual(self.due("calcium", [("calcium", 380, 1)]), (7, "out of its band"))
        four = [("calcium", 420, days) for days in (84, 60, 30, 1)]
        self.assertEqual(self.due("calcium", four), (21, "steady"))
        self.assertEqual(self.due("calcium", [("calcium", 420, 84.5), *four[1:]]), (14, ""))
        self.assertEqual(self.due("calcium", four[1:]), (14, ""))


if __name__ == "__main__":
    unittest.main()
