"""Placing: work put on days. Situations by hand, each placed by the solver and without it; what always holds; and the
least overtime, by trying everything."""

import unittest
from dataclasses import replace
from datetime import timedelta
from itertools import product

from hypothesis import given, settings
from hypothesis import strategies as st

from salttide.core.basics.errors import InputError
from salttide.core.upkeep.scheduling import bundle_up, place
from salttide.core.upkeep.scheduling_model import Days, Demand
from salttide.core.upkeep.scheduling_phrasing import shorts, why
from salttide.core.upkeep.scheduling_search import search
from salttide.core.upkeep.scheduling_solver import least_peak, solve
from tests.core.cases import TODAY

METHODS = {"solver": solve, "search": search}


def on(offset):
    """A day, counted from today."""
    return TODAY + timedelta(days=offset)


def work(task, due, minutes=10, early=0, late=0, system=1, fixed=None, before=None, **more):
    """Work due so many days from today, with its window; fixed and before as days from today."""
    return Demand(
        (system, task, on(due), more.pop("step", None)), on(due), on(due - early), on(due + late), minutes,
        None if fixed is None else on(fixed), None if before is None else on(before), **more,
    )  # fmt: skip


def days(*minutes, away=(), each=60, count=14):
    """The minutes of the first days, then `each`."""
    return Days(TODAY, [*minutes, *[each] * (count - len(minutes))], frozenset(on(day) for day in away))


def names(ref):
    return ref[1].replace("_", " ")


# What is asked for, the days, and where each piece stands: by task, days from today.
SITUATIONS = {
    "alone, on its due day": ([work("scrape", 3, early=1, late=2)], days(), {"scrape": 3}),
    "late beyond its window, today": ([work("scrape", -5, late=2)], days(), {"scrape": 0}),
    "due yesterday, still in its window, today": ([work("scrape", -1, late=2)], days(), {"scrape": 0}),
    "no time on its day, the day before where that is allowed": (
        [work("scrape", 3, early=1, late=1)], days(60, 60, 60, 0), {"scrape": 2},
    ),
    "no time on its day and none earlier, the day after": (
        [work("scrape", 3, late=1)], days(60, 60, 60, 0), {"scrape": 4},
    ),
    "no time anywhere in its window, on its day all the same": (
        [work("scrape", 3)], days(60, 60, 60, 0), {"scrape": 3},
    ),
    "away on its day, before": ([work("scrape", 3, early=2, late=2)], days(away=[3, 4, 5]), {"scrape": 2}),
    "away all through its window, where it is due": ([work("scrape", 3, early=1)], days(away=[2, 3]), {"scrape": 3}),
    "fixed by the keeper on a day without time": ([work("scrape", 3, fixed=5, early=1)], days(each=0), {"scrape": 5}),
    "two heavy ones on one day, one gives way": (
        [work("pump", 3, 50, early=1, late=1), work("body", 3, 50, early=0)], days(), {"body": 3, "pump": 2},
    ),
    "the lighter of two goes where it costs least": (
        [work("pump", 3, 50), work("cup", 3, 20, early=2, late=2)], days(), {"pump": 3, "cup": 2},
    ),
    "what is joined comes along within its window": (
        [work("change", 4, 50, early=1), work("siphon", 2, early=4, late=4, joins=("change",))], days(),
        {"change": 4, "siphon": 4},
    ),
    "what cannot reach stays by itself": (
        [work("change", 9, 50), work("siphon", 2, early=1, late=4, joins=("change",))], days(), {"siphon": 2},
    ),
    "a fixed one is joined where it stands": (
        [work("change", 4, 50, fixed=5, step=9), work("siphon", 2, early=4, late=4, joins=("change",))], days(),
        {"change": 5, "siphon": 5},
    ),
    "one that follows comes even where it is not due": (
        [work("stir", 1), work("sock", 4, early=1, late=1, joins=("stir",), reach=on(1))], days(), {"sock": 1},
    ),
    "one that follows does not come before it could be needed": (
        [work("stir", 1), work("sock", 6, early=1, late=1, joins=("stir",), reach=on(3))], days(), {"sock": 6},
    ),
    "a chain: blade with the scraping, scraping with the change": (
        [
            work("blade", 9, 2, early=9, joins=("scrape",)), work("scrape", 5, early=2, joins=("change",)),
            work("change", 4, 50),
        ],
        days(), {"change": 4, "scrape": 4, "blade": 4},
    ),
    "of two it joins the nearer": (
        [work("change", 1, 50, system=1), work("siphon", 7, early=6, late=6, joins=("change",)), work("cup", 1)],
        days(), {"siphon": 1},
    ),
    "of another system it never comes along": (
        [work("change", 4, 50, system=2), work("siphon", 2, early=4, late=4, joins=("change",))], days(), {"siphon": 2},
    ),
    "kept apart, the later one goes a day on": (
        [work("lamp", 3, 60, apart=frozenset({"change"})), work("change", 3, 50, late=3)], days(each=200),
        {"lamp": 3, "change": 4},
    ),
    "kept apart and nothing left in the window: late rather than together": (
        [work("lamp", 3, 60, fixed=3, apart=frozenset({"change"})), work("change", 3, 50)], days(each=200),
        {"lamp": 3, "change": 4},
    ),
    "kept apart from what another brings along": (
        [
            work("change", 3, 50), work("siphon", 3, early=1, late=1, joins=("change",)),
            work("canister", 3, 25, early=2, late=2, apart=frozenset({"siphon"})),
        ],
        days(each=200), {"change": 3, "siphon": 3, "canister": 2},
    ),
    "what is kept apart is not joined": (
        [work("change", 3, 50), work("lamp", 3, joins=("change",), late=2, apart=frozenset({"change"}))],
        days(each=200), {"change": 3, "lamp": 4},
    ),
    "the same work of two systems may share a day": (
        [work("lamp", 3, 60, apart=frozenset({"change"})), work("change", 3, 50, system=2)], days(each=200),
        {"lamp": 3, "change": 3},
    ),
    "two the keeper put together stay together": (
        [work("lamp", 3, 60, fixed=3, apart=frozenset({"change"})), work("change", 3, 50, fixed=3)], days(each=200),
        {"lamp": 3, "change": 3},
    ),
    "left where it was, though its due day is free": (
        [work("scrape", 3, early=2, late=2, before=4)], days(), {"scrape": 4},
    ),
    "stood outside its window: placed anew": ([work("scrape", 3, early=1, late=1, before=6)], days(), {"scrape": 3}),
    "stood on a day that has no time any more: placed anew": (
        [work("scrape", 3, early=1, late=1, before=4)], days(60, 60, 60, 60, 0), {"scrape": 3},
    ),
    "what is new makes room beside what stood": (
        [work("pump", 3, 50, early=1, late=1, before=3), work("body", 3, 50, early=1, late=1)], days(),
        {"pump": 3, "body": 2},
    ),
    "joined work follows when what it joins is fixed elsewhere": (
        [
            work("change", 4, 50, fixed=6, before=4),
            work("siphon", 4, early=4, late=4, before=4, joins=("change",)),
        ],
        days(), {"change": 6, "siphon": 6},
    ),
    "overdue and no time today: a day later, not a week": (
        [work("pump", -9, 50, late=2)], days(0, 60, 60), {"pump": 1},
    ),
    "three changes of one weekend share the days that have time": (
        [work("change", day, 50, early=1, late=1, system=number) for number, day in enumerate((3, 4, 4), 1)],
        days(0, 0, 0, 60, 60, 60, 0), {"change": {3, 4, 5}},
    ),
    "overdue and away: it waits until somebody is there": (
        [work("scrape", -2, late=1)], days(away=[0, 1]), {"scrape": 2},
    ),
    "overdue, away, and a danger: it cannot wait, today": (
        [work("scrape", -2, late=1, overdue_cost=3000.0)], days(away=[0, 1]), {"scrape": 0},
    ),
    "fixed on a day away: the keeper knows why": ([work("scrape", 3, fixed=4)], days(away=[4]), {"scrape": 4}),
    "fixed far outside its window": ([work("scrape", 3, early=1, late=1, fixed=9)], days(), {"scrape": 9}),
    "two fixed on one day that is too short for both": (
        [work("pump", 3, 50, fixed=3), work("body", 3, 50, fixed=3)], days(), {"pump": 3, "body": 3},
    ),
    "fixed elsewhere it does not come along": (
        [work("change", 4, 50), work("siphon", 4, early=4, late=4, fixed=7, joins=("change",))], days(),
        {"change": 4, "siphon": 7},
    ),
    "three that must not meet: each takes what the others leave": (
        [
            work("lamp", 3, fixed=3, apart=frozenset({"change", "canister"})),
            work("change", 3, late=1, apart=frozenset({"canister"})), work("canister", 4, late=3),
        ],
        days(each=200), {"lamp": 3, "change": 4, "canister": 5},
    ),
    "a quarter of an hour more than there are": (
        [work("pump", 3, 60, fixed=3), work("cup", 3, 15, early=1)], days(), {"cup": 2},
    ),
    "before an absence it comes along with what is done then": (
        [work("change", 2, 50, fixed=2), work("siphon", 4, early=4, late=4, joins=("change",))],
        days(away=range(3, 8)), {"siphon": 2},
    ),
    "what cannot be early waits for the first day back": (
        [work("scrape", 4, late=6)], days(away=range(3, 7)), {"scrape": 7},
    ),
    "due today, no time left today, and it may wait": ([work("scrape", 0, late=2)], days(0), {"scrape": 1}),
    "due today, no time left, and it may not wait": ([work("scrape", 0)], days(0), {"scrape": 0}),
    "due on the last day that is planned": ([work("lamp", 13, 60, late=5)], days(), {"lamp": 13}),
    "beyond what is planned: left out": ([work("lamp", 40, 60, early=5)], days(), {}),
}  # fmt: skip


class Situations(unittest.TestCase):
    def test_each_by_the_solver_and_without_it(self):
        self.assertGreaterEqual(len(SITUATIONS), 40)
        for title, (demands, span, expected) in SITUATIONS.items():
            for name, method in METHODS.items():
                placing = place(demands, span, method)
                found = {}
                for ref, day in placing.days.items():
                    found.setdefault(ref[1], set()).add((day - TODAY).days)
                with self.subTest(title, by=name):
                    if not expected:
                        self.assertEqual(found, {})
                    for task, day in expected.items():
                        self.assertEqual(found.get(task), day if isinstance(day, set) else {day})

    def test_a_planned_change_that_asks_for_it_is_joined_before_a_nearer_one(self):
        planned = work("change", 6, 50, fixed=6, step=4, calls=frozenset({"siphon"}))
        demands = [work("change", 3, 50), planned, work("siphon", 3, early=4, late=4, joins=("change",))]
        self.assertEqual(place(demands, days()).days[demands[2].ref], on(6))

    def test_the_solver_does_it_and_says_so(self):
        demands = [work("pump", 3, 50, early=1), work("body", 3, 50, early=1)]
        self.assertTrue(place(demands, days()).solved)
        self.assertFalse(place(demands, days(), search).solved)

    def test_anew_what_stood_badly_is_placed_well(self):
        demands = [work("a", 3, 30, early=3, late=3, before=6), work("b", 4, 30, early=3, late=3, before=6)]
        self.assertEqual({on(6)}, {*place(demands, days()).days.values()})
        self.assertEqual(sorted(place(demands, days(), from_scratch=True).days.values()), [on(3), on(4)])

    def test_what_may_stand_on_two_days_leaves_an_overfull_one(self):
        demands = [work("a", 3, 40, early=1, before=3), work("b", 3, 40, before=3)]
        for method in METHODS.values():
            placed = place(demands, days(), method)
            self.assertEqual([placed.days[one.ref] for one in demands], [on(2), on(3)])
            kept = place(demands, days(), method, relieve=False)
            self.assertEqual([kept.days[one.ref] for one in demands], [on(3), on(3)])

    def test_the_same_task_keeps_its_distance(self):
        # Only days 4 to 6 have room. Both fit on day 4 by their windows; two days apart they stand on 4 and 6.
        first, second = work("baste", 2, 20, late=2, gap=2, step=1), work("baste", 4, 20, late=2, gap=2, step=2)
        for name, method in METHODS.items():
            with self.subTest(by=name):
                placing = place([first, second], days(0, 0, 0, 0, 60, 60, 60), method)
                self.assertEqual([placing.days[one.ref] for one in (first, second)], [on(4), on(6)])

    def test_what_joins_other_work_does_not_come_too_soon_after_the_time_before(self):
        # The siphon of day 5 would join the change of day 4, one day after the siphon on day 3 that the keeper chose.
        mine = work("siphon", 3, 10, fixed=3, gap=3, joins=("change",), step=1)
        siphon = work("siphon", 5, 10, early=2, late=2, gap=3, joins=("change",), step=2)
        demands = [work("change", 4, 40), mine, siphon]
        for name, method in METHODS.items():
            with self.subTest(by=name):
                self.assertGreaterEqual(place(demands, days(), method).days[siphon.ref], on(6))

    def test_what_is_too_much_is_spread_over_all_its_days(self):
        # Twenty times 30 minutes within five days of 60 minutes: 600 on 300. Evenly that is 120 a day.
        demands = [work(f"task{number}", 0, 30, late=4, system=number) for number in range(20)]
        for name, method in METHODS.items():
            with self.subTest(by=name):
                minutes = place(demands, days(), method).minutes()
                self.assertEqual(minutes, {on(day): 120.0 for day in range(5)})

    def test_minutes_that_cannot_be_are_refused(self):
        for minutes in ([], [-1.0], [1441.0]):
            with self.subTest(minutes), self.assertRaises(InputError) as raised:
                Days(TODAY, minutes)
            self.assertIn("0 to 1440 min", raised.exception.accepted)


class InWords(unittest.TestCase):
    def told(self, demands, span, number=0, method=solve):
        placing = place(demands, span, method)
        return why(demands[number].ref, placing, span, names)

    def test_why_it_stands_where_it_stands(self):
        lamp = work("lamp", 3, 60, apart=frozenset({"change"}), fixed=3)
        change = work("change", 4, 50)
        for words, demands, span, number in (
            ("on the day it is due", [work("scrape", 3)], days(), 0),
            ("you put it on this day", [work("scrape", 3, fixed=5)], days(), 0),
            ("planned for this day", [work("change", 3, fixed=3, step=7)], days(), 0),
            ("goes with “change”", [change, work("siphon", 2, early=4, late=4, joins=("change",))], days(), 1),
            ("it was due on Thu 19 Nov", [work("scrape", -5, late=2)], days(), 0),
            ("left where it was", [work("scrape", 3, late=3, before=5)], days(), 0),
            ("you are away on Fri 27 Nov", [work("scrape", 3, early=2)], days(away=[3]), 0),
            ("“lamp”, which must not share its day", [lamp, work("change", 3, 50, late=2)], days(each=200), 1),
            ("Fri 27 Nov has 50 min of work already and you have 60 min",
             [work("pump", 3, 50), work("cup", 3, 20, early=2)], days(), 1),
        ):  # fmt: skip
            with self.subTest(words):
                self.assertIn(words, self.told(demands, span, number))

    def test_what_cannot_be_kept_is_said_with_what_would_help(self):
        lamp = work("lamp", 3, 60, fixed=3, apart=frozenset({"change"}))
        for demands, span, words, helps in (
            ([work("scrape", -5, late=2)], days(), "scrape: 3 days after its latest day, Sat 21 Nov", "skip it"),
            ([work("pump", 3, 90)], days(), "90 min of work, and you have 60 min", "30 min more"),
            ([work("scrape", 3)], days(away=[3]), "you are away, and “scrape” cannot wait", "carer"),
            ([lamp, work("change", 3, 50, fixed=3)], days(each=200), "must not share a day", "move one"),
            ([lamp, work("change", 3, 50)], days(each=200), "change: 1 day after its latest day", "do it today"),
        ):
            found = shorts(place(demands, span), span, names)
            with self.subTest(words):
                self.assertIn(words, " / ".join(each.words for each in found))
                self.assertIn(helps, " / ".join(each.helps for each in found))

    def test_where_all_fits_nothing_is_said(self):
        self.assertEqual(shorts(place([work("scrape", 3)], days()), days(), names), [])


TASKS = ("change", "siphon", "lamp", "cup", "pump")


@st.composite
def weeks(draw):
    """Some work of two systems within ten days, some of it joined, kept apart, fixed, or standing somewhere."""
    demands = []
    for number in range(draw(st.integers(1, 9))):
        task = draw(st.sampled_from(TASKS))
        due = draw(st.integers(-3, 9))
        fixed = draw(st.one_of(st.none(), st.none(), st.none(), st.integers(0, 9)))
        demands.append(
            work(
                task, due, draw(st.integers(1, 60)), draw(st.integers(0, 3)), draw(st.integers(0, 3)),
                draw(st.sampled_from((1, 2))), fixed, draw(st.one_of(st.none(), st.integers(0, 9))), step=number,
                joins=("change",) if task == "siphon" else (),
                apart=frozenset({"change"}) if task == "lamp" else frozenset(),
            )
        )  # fmt: skip
    away = draw(st.sets(st.integers(0, 9), max_size=3))
    return demands, days(*draw(st.lists(st.integers(0, 120), min_size=10, max_size=10)), away=away, count=14)


class Always(unittest.TestCase):
    @settings(max_examples=150, deadline=None)
    @given(weeks(), st.sampled_from(sorted(METHODS)))
    def test_windows_fixed_days_and_what_is_kept_apart(self, week, method):
        demands, span = week
        placing = place(demands, span, METHODS[method])
        said = {ref for each in shorts(placing, span, names) for ref in each.refs}
        for demand in demands:
            day = placing.days[demand.ref]
            self.assertGreaterEqual(day, span.first)
            if demand.fixed is not None:
                self.assertEqual(day, demand.fixed)
            elif demand.joins == ():
                self.assertGreaterEqual(day, min(demand.earliest, day))
                self.assertTrue(day <= demand.latest or demand.ref in said, (demand, day))
            else:
                self.assertLessEqual(max(demand.earliest, span.first), day)
        for one, other in product(demands, demands):
            apart = one.system == other.system and other.task in one.apart and one.ref != other.ref
            if apart and placing.days[one.ref] == placing.days[other.ref]:
                # Only the keeper's own two days may bring together what is kept apart.
                self.assertTrue(self.bound(one, placing) and self.bound(other, placing))

    def bound(self, demand, placing):
        return any(each.fixed for each in placing.bundles[demand.ref].work)

    @settings(max_examples=60, deadline=None)
    @given(weeks())
    def test_placed_again_everything_stays(self, week):
        demands, span = week
        first = place(demands, span, from_scratch=True)
        stood = [replace(each, before=None if each.fixed else first.days[each.ref]) for each in demands]
        over = {day for day, minutes in first.minutes().items() if span.has(day) and minutes > span.room(day)}
        again = place(stood, span)
        for each in stood:
            if first.days[each.ref] not in over:
                self.assertEqual(again.days[each.ref], first.days[each.ref])

    @settings(max_examples=60, deadline=None)
    @given(
        st.lists(st.tuples(st.integers(1, 3), st.integers(5, 60), st.integers(0, 2)), min_size=1, max_size=5),
        st.lists(st.integers(0, 90), min_size=6, max_size=6),
    )
    def test_the_least_overtime_by_trying_everything(self, wanted, minutes):
        demands = [
            work(f"task{number}", due, length, min(due, reach), reach, system=number)
            for number, (due, length, reach) in enumerate(wanted)
        ]
        span = Days(TODAY, [float(each) for each in minutes])
        reaches = [range(max(0, (d.earliest - TODAY).days), (d.latest - TODAY).days + 1) for d in demands]

        some = [room for room in minutes if room]
        usual = sum(some) / len(some) if some else 1.0

        def price(over):
            """60 for a minute up to a quarter of a usual day over, 120 up to a whole one, 240 beyond."""
            return 60 * over + 60 * max(0.0, over - 0.25 * usual) + 120 * max(0.0, over - usual)

        def overtime(where):
            load = [0.0] * 6
            for demand, day in zip(demands, where, strict=True):
                load[day] += demand.minutes
            return sum(price(max(0.0, each - room)) for each, room in zip(load, minutes, strict=True))

        least = min(overtime(where) for where in product(*reaches))
        placing = place(demands, span, from_scratch=True)
        self.assertTrue(placing.solved)
        found = overtime([(placing.days[d.ref] - TODAY).days for d in demands])
        # Less than a minute of it may be given for a day nearer to the due day, or for less on the fullest day.
        self.assertLess(found, least + 60)

    def test_the_fullest_day_is_near_what_no_placing_can_beat(self):
        # 12 systems, each with 40 minutes once in a window of a week, on 7 equal days: 480 / 7 = 68.6 is the bound of
        # the relaxation, and whole pieces of 40 make two a day at best: 80.
        demands = [work("change", 3, 40, early=3, late=3, system=number) for number in range(12)]
        span = days(each=200, count=7)
        self.assertAlmostEqual(least_peak(bundle_up(demands, span), span), 480 / 7, places=3)
        self.assertEqual(max(place(demands, span).minutes().values()), 80)
