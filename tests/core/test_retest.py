"""When to test again: the interval by method, shorter when something moves, wider when steady."""

import unittest
from dataclasses import replace
from datetime import date, timedelta

from salttide.core.judgement.findings import judge_situation
from salttide.core.judgement.retest import _by_worth, _worth, retests
from salttide.core.judgement.scenario import situation_described
from salttide.core.judgement.situation import Situation
from salttide.core.science.parameters import Parameter
from tests.core.test_findings import HAIR, WELL, falling, row, water

WITH_TOP_OFF = ("top_off",)


def told(readings, looks=WELL, gear=WITH_TOP_OFF, **more) -> dict[str, tuple[int, str]]:
    """Days and reason by parameter, judged at noon of 24 November."""
    s = situation_described(readings, looks, **more)
    s = Situation(replace(s.system, gear=gear), s.ledger, s.now, s.zone)
    return {test.parameter.value: (test.every_days, test.why) for test in retests(s, judge_situation(s).findings)}


class Intervals(unittest.TestCase):
    def test_one_reason_at_a_time(self):
        fed = {"happenings": [("food", 3)]}
        dosed = {"doses": [(0.5, {"calcium": 10})]}
        steady = row("magnesium", 1310, 1320, 1315, 1318, step=12, last=1)
        for sentence, readings, more, parameter, days, why in (
            ("salinity is topped off by a pump", water(), {}, "salinity", 3, ""),
            ("salinity is topped off by hand", water(), {"gear": ()}, "salinity", 1, "top-off is by hand"),
            ("alkalinity without stony corals", water(), {}, "alkalinity", 7, ""),
            ("alkalinity is dosed", water(), {"gear": ("top_off", "dosing_pump")}, "alkalinity", 3, "it is used up"),
            ("calcium as usual", water(), {}, "calcium", 14, ""),
            ("nitrate as usual", water(), {}, "nitrate", 7, ""),
            ("hair algae is in sight", water(), {"looks": HAIR}, "nitrate", 3, "green hair algae in sight"),
            ("the food is another one", water(), fed, "phosphate", 3, "other food since Sat 21 Nov"),
            ("calcium is out of its band: half of 14", water(calcium=380), {}, "calcium", 7, "out of its band"),
            ("calcium was dosed since", water(), dosed, "calcium", 7, "dosed since"),
            ("the last calcium is in doubt", [*water(2), ("calcium", 340, 1)], {}, "calcium", 1,
             "the last result is in doubt"),
            ("magnesium is steady: one and a half times 14", [*water(magnesium=None), *steady], {},
             "magnesium", 21, "steady"),
            ("potassium came from a laboratory", [*water(), ("potassium", 398, 9)], {}, "potassium", 60,
             "by a laboratory"),
        ):  # fmt: skip
            with self.subTest(sentence):
                self.assertEqual(told(readings, **more)[parameter], (days, why))

    def test_on_its_way_out_it_is_tested_half_way(self):
        # 13 mg/L rising by half a milligram a day leaves 15 in four days.
        readings = [*water(nitrate=None), *falling("nitrate", 6.0, 0.5, 5, 3.5, 0)]
        self.assertEqual(told(readings)["nitrate"], (2, "on its way out of its band"))

    def test_less_often_where_it_is_well_known_and_sooner_where_it_is_not(self):
        dosed = ("top_off", "dosing_pump")
        for sentence, name, rows, gear, days, why in (
            ("nine tests on a line", "nitrate", falling("nitrate", 4.0, 0.1, 9, 5), WITH_TOP_OFF, 11, "well known"),
            ("four tests in six days", "nitrate", row("nitrate", 8, 8, 8, 8, step=2.1, last=0), WITH_TOP_OFF, 4,
             "less well known by then"),
            ("four tests in nine days", "calcium", row("calcium", 420, 422, 419, 421, last=0), WITH_TOP_OFF, 7,
             "less well known by then"),
            ("dosed, and near the edge of 7.5 dKH", "alkalinity", falling("alkalinity", 2.9, -0.01, 6, 3, 0), dosed, 2,
             "may leave its band"),
        ):  # fmt: skip
            with self.subTest(sentence):
                self.assertEqual(told([*water(**{name: None}), *rows], gear=gear)[name], (days, why))

    def test_that_is_when_the_range_is_twice_as_wide_or_reaches_the_edge_of_the_band(self):
        for name, rows in (
            ("nitrate", row("nitrate", 8, 8, 8, 8, step=2.1, last=0)),
            ("alkalinity", falling("alkalinity", 2.9, -0.01, 6, 3, 0)),
        ):
            s, parameter = situation_described([*water(**{name: None}), *rows], WELL), Parameter(name)
            days, why = _worth(s, parameter)
            course, last = s.courses[parameter], s.ledger.last(parameter)
            first, then = course.points[0], course.at(last.at + timedelta(days=days))
            if why == "may leave its band":
                self.assertAlmostEqual(then.low, s.band(parameter).low, places=3)
            else:
                self.assertAlmostEqual((then.high - then.value) / (first.high - first.value), 2.0, places=2)

    def test_a_range_that_never_widens_so_much_is_well_known(self):
        # Eighty tests on one level: their range does not double within two months.
        rows = row("nitrate", *[8.0] * 80, step=0.8, last=0)
        s = situation_described([*water(nitrate=None), *rows], WELL)
        known = {**s.rates, Parameter.NITRATE: replace(s.rates[Parameter.NITRATE], sd=0.0, together=0.0)}
        s.__dict__["rates"] = known
        self.assertEqual(_by_worth(s, Parameter.NITRATE, 7, "")[0], 11)

    def test_nothing_is_told_by_a_rate_that_the_last_test_is_not_part_of(self):
        rows = [*row("nitrate", 8, 8, 8, 8, 8, step=7, last=10)]
        self.assertEqual(told([*water(nitrate=None), *rows])["nitrate"][1], "steady")
        s = situation_described(water(), WELL)
        self.assertIsNone(_worth(s, Parameter.NITRATE))
        self.assertIsNone(_worth(s, Parameter.POTASSIUM))

    def test_what_nobody_measured_is_due_and_the_rest_of_the_laboratory_is_not_asked_for(self):
        s = situation_described([], WELL)
        tests = {test.parameter: test for test in retests(s)}
        self.assertEqual(
            (tests[Parameter.CALCIUM].due, tests[Parameter.CALCIUM].why), (date(2026, 11, 24), "never measured")
        )
        self.assertNotIn(Parameter.POTASSIUM, tests)
        self.assertNotIn(Parameter.AMMONIA, tests)

    def test_breaking_in_has_its_own(self):
        tests = told([("ammonia", 1.0, 1), ("nitrite", 0.5, 1)], stage="breaking_in")
        self.assertEqual(tests["ammonia"], (2, "cycling"))
        self.assertNotIn("calcium", tests)

    def test_due_so_many_days_after_the_last(self):
        s = situation_described(water(5), WELL)
        due = {test.parameter: test.due for test in retests(s)}
        self.assertEqual(due[Parameter.NITRATE], date(2026, 11, 26))  # the 19th and seven days
