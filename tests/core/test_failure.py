"""The failure board by sums done by hand, its order, what protects and what would help; and the plumbing behind it.

The tank: display 100 x 50 cm, 40 deep: 5 L a cm. Sump 80 x 40 cm, 20 deep, rim at 35: room 3200 x 15 = 48 L. 264 L in
all. It falls 2 cm: 10 L back; outlet 12 cm deep: 60 L down, 12 over. Return chamber 25 x 40 x (20 - 8) = 12 L; rim of
the display 3 cm up: 15 L. Reservoir 20 L at 60 L/h. Evaporation 2.4 L a day.
"""

import unittest
from dataclasses import replace
from datetime import date, datetime
from math import exp, log

from hypothesis import given
from hypothesis import strategies as st

from salttide.core.basics.errors import InputError
from salttide.core.estimate.evaporation import Evaporated, evaporated
from salttide.core.failure.board import WORKED, board, helps, present, safe_reservoir_l, worst_of
from salttide.core.failure.file import failure_kinds, safeguards
from salttide.core.failure.installation import Dosed, Installation
from salttide.core.failure.outcome import Outcome, hours_words
from salttide.core.failure.power_plan import battery_order, power_marks
from salttide.core.failure.usual import Harm, harm_of
from salttide.core.ledger.entries import Care, Ledger, TopOff
from salttide.core.planning.container import Container
from salttide.core.planning.plumbing import as_drilled, check_levels, doubts, runs_back
from salttide.core.planning.topoff import absence, implausible, lids, refills, reservoir_now, salt_lost
from salttide.core.runbook.file import runbook_keys
from salttide.core.science.flooding import concentration_after_flood, spilt_l
from salttide.core.science.heat_balance import holding_w
from salttide.core.science.parameters import Parameter
from salttide.core.system.endurance import heat_balance, held_c
from salttide.core.system.heating import Heating
from salttide.core.system.livestock import Animal
from salttide.core.system.plumbing import Plumbing
from salttide.core.system.shelf import Additive
from salttide.core.system.topoff import CutOff, Senses, TopOffSetup, TopOffStop, check_top_off, independent, shared
from salttide.core.system.volume import Geometry, Sump
from tests.core.cases import BEACON, NOW, ZONE

S, T, A = Parameter.SALINITY, Parameter.TEMPERATURE, Parameter.ALKALINITY
LEVELS = Plumbing(
    fall_cm=2, outlet_cm=12, rim_cm=35, freeboard_cm=3, chamber_cm=25, pump_cm=8, return_l_h=3000, cup_l=1
)
FLOAT, CLOCK = TopOffStop(Senses.FLOAT, CutOff.PUMP), TopOffStop(Senses.CLOCK, CutOff.SECOND_PLUG)
TANK = replace(
    BEACON,
    geometry=Geometry(100, 50, 40, 0.0, sump=Sump(80, 40, 20)),
    plumbing=LEVELS,
    top_off=TopOffSetup(20, 60),
    heating=Heating(heaters_w=(100.0, 100.0), pumps_w=40.0, evaporates_l_day=2.4),
    animals=(Animal(1, "clownfish", count=4, portions=2.0),),
)
WATER = {S: 35.0, T: 25.0, A: 2.8, Parameter.PH: 8.1}
USE = Evaporated(2.4, 2.0, 2.8, 6)


def at(system=TANK, **more):
    return Installation(system, more.pop("water", WATER), more.pop("use", USE), **more)


def told(key, installation=None) -> Outcome:
    found = WORKED[key](installation or at())
    assert isinstance(found, Outcome)
    return found


def size(outcome, key):
    return next(each.value for each in outcome.effects if each.key == key)


class ByHand(unittest.TestCase):
    def is_told(self, key, installation=None, **sizes):
        outcome = told(key, installation)
        for name, expected in sizes.items():
            with self.subTest(failure=key, size=name):
                self.assertAlmostEqual(size(outcome, name), expected, places=3)
        return outcome

    def test_the_return_stops_and_the_siphon_holds(self):
        self.assertEqual(self.is_told("return_stops", back=10, floor=0).harm, Harm.NONE)
        self.assertEqual(self.is_told("siphon_holds", down=60, floor=12).harm, Harm.SERIOUS)

    def test_the_overflow_is_blocked(self):
        # 12 + 20 - 15 = 17 L over; 3 L of the fresh water still fit: 35 x 264/267 x exp(-17/267).
        # 15 L at 3000 L/h take 0.3 min.
        after = 35 * 264 / 267 * exp(-17 / 267)
        self.is_told("overflow_blocked", floor=17, salinity=after, minutes=0.3)
        by_hand = at(replace(TANK, top_off=TopOffSetup()))
        self.assertEqual(self.is_told("overflow_blocked", by_hand, floor=0).harm, Harm.NONE)
        # Its longest run of five minutes brings 5 L at most: 12 + 5 - 15.
        self.is_told("overflow_blocked", at(replace(TANK, top_off=TopOffSetup(20, 60, limit_min=5))), floor=2)

    def test_the_top_off_sticks(self):
        # 35 x 264/284; 1 ppt is gone after 264/34 L at 60 L/h.
        outcome = self.is_told("top_off_open", salinity=35 * 264 / 284, floor=0)
        self.assertAlmostEqual(outcome.after_h, 264 / 34 / 60)
        # 2.4 L a day: 12 L last 120 h, then 35 x 264/252; the reservoir 200 h before that.
        self.is_told("runs_dry", dry=120, salinity=35 * 264 / 252)
        self.assertAlmostEqual(self.is_told("reservoir_empty", lasts=200).after_h, 320)

    def test_a_pump_that_was_entered_tops_off_whatever_the_gear_says(self):
        bare = replace(TANK, gear=tuple(kind for kind in TANK.gear if kind != "top_off"))
        self.assertIsNotNone(WORKED["top_off_open"](at(bare)))
        self.assertIsNone(WORKED["top_off_open"](at(replace(bare, top_off=TopOffSetup()))))
        # Without a pump of its own nothing follows what the return pump lifts: 12 L of 15.
        self.is_told("overflow_blocked", at(replace(bare, top_off=TopOffSetup(20))), floor=0)

    def test_a_large_reservoir_runs_over(self):
        # 60 L into 48 of room: 35 x 264/312 x exp(-12/312); salt on the floor is what is missing in the tank.
        large = at(replace(TANK, top_off=TopOffSetup(60, 60)))
        outcome = self.is_told("top_off_open", large, floor=12, salinity=35 * 264 / 312 * exp(-12 / 312))
        lost = 35 * 264 - 35 * 264 * exp(-12 / 312)
        self.assertIn(f"{lost:.0f} g of salt", outcome.words)

    def test_a_line_left_open_for_a_night(self):
        # 15 L/h x 8 h.
        outcome = self.is_told("line_open", at(replace(TANK, top_off=TopOffSetup(line_l_h=15))), floor=120 - 48)
        self.assertEqual(outcome.harm, Harm.GRAVE)
        self.assertIsNone(WORKED["line_open"](at()))

    def test_limewater_is_judged_by_alkalinity_and_ph(self):
        outcome = told("top_off_open", at(replace(TANK, top_off=TopOffSetup(20, 60, limewater=True))))
        # Saturated at 25 °C: 40.5 meq/L; (2.8 x 264 + 20 x 40.5) / 284 = 5.45.
        self.assertAlmostEqual(size(outcome, "alkalinity"), 5.45, delta=0.05)
        self.assertGreater(size(outcome, "ph"), 9.0)
        self.assertIn("calcium carbonate falls out", outcome.words)
        little = told("top_off_open", at(replace(TANK, top_off=TopOffSetup(0.5, 60, limewater=True))))
        self.assertNotIn("falls out", little.words)
        self.assertEqual(outcome.harm, Harm.GRAVE)

    def test_the_skimmer_and_what_breaks(self):
        # 3 L/h x 8 h = 24 of the 32 L there are; 20 of them come back fresh; 1 L stays in the cup.
        self.is_told("skimmer_overflows", floor=23, salinity=35 * exp(-20 / 264))
        self.is_told("hose_off", floor=12 + 10 + 20)
        self.is_told("panel_leaks", floor=200 + 12 + 20)

    def test_a_doser_stuck_on(self):
        soda = Container(1, "soda", Additive(1, "soda ash", "Na2CO3", strength_g_l=100.0), 1000.0, 10.0, "P1")
        (outcome,) = WORKED["doser_stuck"](at(dosed=[Dosed(soda, 500.0, 40.0)]))
        # 50 g / 105.988 g/mol x 2 / 264 L = 3.574 meq/L; a day's limit of 1 dKH is 0.35665 meq/L: 49.9 mL.
        self.assertAlmostEqual(size(outcome, "alkalinity"), 2.8 + 3.574, delta=0.003)
        self.assertAlmostEqual(size(outcome, "safe_ml"), 500 * 0.35665 / 3.574, delta=0.1)
        self.assertEqual((outcome.harm, outcome.subject), (Harm.GRAVE, "soda"))

    def test_heat_and_power(self):
        # One of two heaters holds it in the coldest room, or says how far it falls.
        strong = told("heater_off", at(replace(TANK, heating=replace(TANK.heating, heaters_w=(300.0, 300.0)))))
        self.assertEqual(strong.harm, Harm.NONE)
        weak = told("heater_off", at(replace(TANK, heating=replace(TANK.heating, heaters_w=(60.0,)))))
        self.assertGreaterEqual(weak.harm, Harm.NUISANCE)
        hot = told("heater_on", at(replace(TANK, heating=replace(TANK.heating, heaters_w=(500.0,)))))
        self.assertEqual(hot.harm, Harm.GRAVE)
        self.assertEqual(told("power").harm, Harm.GRAVE)
        empty = told("power", at(replace(TANK, animals=())))
        self.assertLessEqual(empty.harm, Harm.NUISANCE)

    def test_what_holds_the_temperature_goes_no_further(self):
        # A large chiller in a heatwave, and a heater too small to warm a cold room's tank: thermostats hold the aim.
        cooled = told("heatwave", at(replace(TANK, heating=replace(TANK.heating, chiller_w=800.0))))
        self.assertEqual(cooled.harm, Harm.NONE)
        self.assertIn("it is held at 25.5 °C", cooled.words)
        small = told(
            "heater_on", at(replace(TANK, heating=replace(TANK.heating, heaters_w=(10.0, 300.0), room_c=18.0)))
        )
        self.assertIn("300 W", small.words)
        weak = told("heater_on", at(replace(TANK, heating=replace(TANK.heating, heaters_w=(10.0,), room_c=18.0))))
        self.assertEqual((weak.harm, "do not warm it past 25.5 °C" in weak.words), (Harm.NONE, True))

    def test_what_is_not_measured_is_asked_for(self):
        bare = at(replace(TANK, plumbing=Plumbing(), heating=Heating(), top_off=TopOffSetup()))
        self.assertEqual(told("return_stops", bare).missing, ("fall_cm", "rim_cm"))
        self.assertEqual(told("overflow_blocked", bare).missing, ("chamber_cm", "pump_cm", "freeboard_cm"))
        self.assertEqual(told("heater_on", bare).missing, ("heaters_w",))
        self.assertEqual(told("top_off_open", bare).missing, ("reservoir_l",))

    def test_no_sump_no_failure_of_one(self):
        cube = at(
            replace(TANK, geometry=Geometry(40, 40, 40, 0.0), gear=("heater", "powerhead"), top_off=TopOffSetup())
        )
        for key in ("return_stops", "overflow_blocked", "hose_off", "top_off_open", "skimmer_overflows"):
            self.assertIsNone(WORKED[key](cube))
        # Salinity is up by 1 ppt once a thirty-sixth of 64 L has gone, at 0.1 L an hour.
        self.assertAlmostEqual(size(told("runs_dry", cube), "dry"), 64 / 36 / 0.1, places=3)


class Board(unittest.TestCase):
    def test_the_worst_and_likeliest_that_nothing_keeps_away_stands_first(self):
        found = board(at())
        weights = [3.0 ** (one.open - 1) * one.kind.likely if one.open else 0.0 for one in found if one.known]
        self.assertEqual(weights, sorted(weights, reverse=True))
        self.assertEqual([one.kind.key for one in worst_of(found)], [one.kind.key for one in found[:3]])
        self.assertGreater(found[0].open, Harm.SERIOUS)

    def test_a_safeguard_takes_its_failure_down_and_is_counted_only_where_it_holds(self):
        guarded = replace(TANK, top_off=TopOffSetup(20, 60, stops=(FLOAT, CLOCK)))
        (line,) = [one for one in board(at(guarded)) if one.kind.key == "top_off_open"]
        self.assertEqual((line.open, [one.key for one in line.stopped]), (Harm.NONE, ["independent_stops"]))
        (line,) = [one for one in board(at()) if one.kind.key == "top_off_open"]
        self.assertEqual(line.open, line.outcome.harm)
        # A siphon break counts once a drill has proven it.
        drilled = replace(TANK, plumbing=replace(LEVELS, break_cm=1.0))
        self.assertNotIn("siphon_break", present(at(drilled)))
        self.assertIn("siphon_break", present(at(drilled, tested={"flood_drill": date(2026, 8, 1)})))

    def test_what_would_help_most_prevents_the_most_harm_for_its_effort(self):
        found = helps(board(at()))
        self.assertEqual([one.worth for one in found], sorted((one.worth for one in found), reverse=True))
        by_key = {one.safeguard.key: one for one in found}
        self.assertIn("The top-off sticks on", by_key["independent_stops"].stops)
        self.assertIn("A return hose comes off", by_key["leak_alarm"].tells)
        alarmed = replace(TANK, gear=(*TANK.gear, "leak_alarm"))
        self.assertNotIn("leak_alarm", {one.safeguard.key for one in helps(board(at(alarmed)))})

    def test_a_reservoir_is_safe_by_salinity_or_by_its_limewater(self):
        # 264 x 1 / 34 = 7.76 L; limewater: one dKH in all, 264 x 0.35665 / (40.5 - 2.8 - 0.36) = 2.5 L.
        self.assertAlmostEqual(safe_reservoir_l(at()), 264 / 34, places=3)
        lime = at(replace(TANK, top_off=TopOffSetup(20, 60, limewater=True)))
        self.assertAlmostEqual(safe_reservoir_l(lime), 2.52, delta=0.05)

    def test_every_failure_can_be_worked_out_rehearsed_and_looked_up(self):
        self.assertEqual({one.works for one in failure_kinds().values()}, {*WORKED})
        for one in failure_kinds().values():
            with self.subTest(one.key):
                self.assertTrue(not one.sheet or one.sheet in runbook_keys())
                self.assertTrue({*one.stops, *one.warns} <= {*safeguards()})

    def test_every_effect_that_was_computed_opens_its_working(self):
        worked = {"floor", "back", "down", "salinity", "settles", "need", "cooling", "air", "cold"}
        computed = [each for one in board(at()) for each in one.outcome.effects if each.key in worked]
        self.assertGreater(len(computed), 12)
        for each in computed:
            with self.subTest(each.key):
                self.assertEqual(each.working[-1].value, each.value)

    def test_words_of_times_and_harm(self):
        self.assertEqual([hours_words(each) for each in (0.001, 1.5, 3.0, 72.0)],
                         ["1 minute", "90 minutes", "3 hours", "3 days"])  # fmt: skip
        self.assertEqual(harm_of("cold_c", 17.0), Harm.GRAVE)


class Levels(unittest.TestCase):
    def test_the_drill_counts_before_the_ruler(self):
        # The sump rose 4 cm: 3200 x 4 = 12.8 L; by the display's fall it would be 10.
        done = Care(datetime(2026, 8, 22, 10, tzinfo=ZONE), "flood_drill", 15, found={"sump_rise": 4.0})
        drilled = replace(TANK, plumbing=as_drilled(LEVELS, Ledger(264.0, care=[done])))
        self.assertAlmostEqual(float(runs_back(drilled, drilled.plumbing) or 0), 12.8)
        self.assertEqual(as_drilled(LEVELS, Ledger(264.0)), LEVELS)

    def test_what_does_not_fit_together_is_asked_about(self):
        self.assertIn("at least to the break", doubts(TANK, replace(LEVELS, break_cm=4))[0])
        self.assertIn("Is there a hole", doubts(TANK, LEVELS)[0])
        self.assertIn("does nothing there", " ".join(doubts(TANK, replace(LEVELS, break_cm=13, fall_cm=14))))
        self.assertIn("The sump's is used", doubts(TANK, replace(LEVELS, break_cm=1, rise_cm=6))[-1])
        self.assertEqual(doubts(TANK, replace(LEVELS, break_cm=1.5)), [])

    def test_impossible_levels_are_refused_at_their_field(self):
        wrong = {"rim_cm": 12, "outlet_cm": 45, "chamber_cm": 90, "pump_cm": 25, "freeboard_cm": 60, "return_l_h": 0}
        for field, value in wrong.items():
            with self.subTest(field), self.assertRaises(InputError) as raised:
                check_levels(TANK, replace(LEVELS, **{field: value}))
            self.assertEqual(raised.exception.field, field)


class Stops(unittest.TestCase):
    def test_independence_is_counted_and_a_valve_never_alone(self):
        valve = TopOffStop(Senses.OPTICAL, CutOff.ELECTRIC_VALVE)
        for stops, count in (
            ((), 0), ((FLOAT,), 1), ((FLOAT, TopOffStop(Senses.OPTICAL, CutOff.PUMP)), 1), ((FLOAT, CLOCK), 2),
            ((valve,), 0), ((valve, FLOAT), 2),
        ):  # fmt: skip
            with self.subTest(stops=stops):
                self.assertEqual(independent(stops), count)
        self.assertEqual(shared([FLOAT, TopOffStop(Senses.FLOAT, CutOff.LEAK_VALVE)]), ["float switch"])

    def test_impossible_top_offs_are_refused_at_their_field(self):
        wrong = {
            "reservoir_l": TopOffSetup(3000),
            "refill_l": TopOffSetup(10, refill_l=12),
            "stops": TopOffSetup(stops=(FLOAT, FLOAT)),
        }
        for field, setup in wrong.items():
            with self.subTest(field), self.assertRaises(InputError) as raised:
                check_top_off(setup)
            self.assertEqual(raised.exception.field, field)


class TopOffs(unittest.TestCase):
    def care(self, *fillings):
        return [Care(NOW.replace(day=day), "reservoir", 6, found={"litres_added": took}) for day, took in fillings]

    def test_the_reservoirs_fillings_tell_what_evaporates(self):
        # 5, 10, 15 and 20 litres after 2, 4, 6 and 8 days: 2.5 L a day, without scatter.
        fillings = self.care((1, 9), (3, 5), (7, 10), (13, 15), (21, 20))
        found = evaporated(Ledger(264.0, care=fillings), NOW)
        self.assertAlmostEqual(found.per_day_l, 2.5)
        self.assertEqual((found.count, round(found.high_l - found.low_l, 6)), (4, 0.0))
        self.assertEqual(evaporated(Ledger(264.0, care=fillings[:3]), NOW).count, 0)

    def test_what_is_left_in_the_reservoir(self):
        (filled,) = self.care((20, 18))
        days = (NOW - filled.at).total_seconds() / 86_400
        now = reservoir_now(TANK, Ledger(264.0, care=[filled]), USE, NOW, ZONE)
        assert now is not None
        self.assertAlmostEqual(now.left_l, 20 - 2.4 * days)
        self.assertAlmostEqual(now.left_days, (20 - 2.4 * days) / 2.4)
        self.assertIsNone(reservoir_now(replace(TANK, top_off=TopOffSetup()), Ledger(264.0), USE, NOW, ZONE))

    def test_held_all_day_against_a_low_point(self):
        # Chamber 25 x 40 cm, half a centimetre: 0.5 L; 7 x 2.4 / 0.5 = 33.6 runs. 6 L at a time: 2.8, and 35 x 264/258.
        held, low = refills(replace(TANK, top_off=TopOffSetup(20, 60, refill_l=6)), USE, 35.0)
        assert low is not None
        self.assertAlmostEqual(float(held.runs_week), 33.6)
        self.assertAlmostEqual(float(low.runs_week), 2.8)
        self.assertAlmostEqual(float(low.swing), 35 * 264 / 258)
        self.assertIsNone(refills(TANK, USE, 35.0)[1])

    def test_an_absence_by_the_spread_of_what_evaporates(self):
        # 80 % between 2.0 and 2.8: a deviation of 0.4 / 1.2816 = 0.3121. 8 days: 8 x (2.4 + 1.6449 x 0.3121) = 23.31 L.
        away = absence(TANK, USE, 8)
        self.assertAlmostEqual(float(away.needed_l), 23.31, delta=0.01)
        # 20 L bear 2.5 L a day: 0.1 / 0.3121 = 0.3204 deviations: 62.6 % by the normal table.
        self.assertAlmostEqual(away.chance, 0.626, delta=0.001)
        self.assertIsNone(absence(replace(TANK, top_off=TopOffSetup()), USE, 8).chance)
        with self.assertRaises(InputError):
            absence(TANK, USE, 0)

    def test_a_lid_takes_evaporation_and_its_heat(self):
        closed = next(one for one in lids(TANK, USE) if one.lid.value == "closed")
        self.assertAlmostEqual(closed.per_day_l, 0.6)  # a quarter
        self.assertAlmostEqual(closed.spared_w, 1.8 * 28.2407, places=2)

    def test_a_refill_entered_as_a_top_off_is_doubted(self):
        ledger = Ledger(264.0, top_offs=[TopOff(NOW.replace(day=20), 2.5), TopOff(NOW.replace(day=21), 20.0)])
        (doubt,) = implausible(ledger, USE, NOW)
        self.assertEqual((doubt.litres, doubt.expected_l), (20.0, 2.8))
        self.assertEqual(implausible(Ledger(264.0, top_offs=ledger.top_offs[:1]), USE, NOW), [])
        self.assertIsNone(salt_lost(TANK, None, USE))


@given(st.floats(5, 40), st.floats(20, 1000), st.floats(0, 200), st.floats(0, 200), st.floats(0, 100))
def test_two_floods_are_one(before, volume, first, second, room):
    """A flood in two parts leaves what it leaves in one."""
    once = concentration_after_flood(before, 0.0, volume, first + second, room)
    half = concentration_after_flood(before, 0.0, volume, first, room)
    held = min(first, room)
    twice = concentration_after_flood(half, 0.0, volume + held, second, room - held)
    assert abs(once - twice) < 1e-6 * before + 1e-9
    assert abs(spilt_l(first + second, room) - spilt_l(first, room) - spilt_l(second, room - held)) < 1e-9


class Properties(unittest.TestCase):
    def test_two_floods_are_one(self):
        test_two_floods_are_one()
        self.assertAlmostEqual(log(float(concentration_after_flood(35, 0, 100, 100, 0)) / 35), -1.0)


class WithoutPower(unittest.TestCase):
    """Hour by hour, and what a battery runs. Battery: 100 Wh, of which 85 count, for a pump of 5 W: 17 h."""

    BATTERY = replace(TANK, heating=replace(TANK.heating, battery_wh=100.0, battery_w=5.0))

    def test_it_goes_in_the_order_of_time_and_colder_comes_later(self):
        marks = power_marks(at())
        hours = [one.after_h for one in marks]
        self.assertEqual(hours, sorted(hours))
        self.assertEqual((marks[0].after_h, marks[0].when), (0.0, "at once"))
        cold = [one.what for one in marks if "cold room" in one.what]
        self.assertEqual(cold[:2], ["24.0 °C in a cold room", "22.0 °C in a cold room"])
        # The board's line says the same hours.
        by_what = {one.what: one.after_h for one in marks}
        power = told("power")
        self.assertAlmostEqual(by_what["22.0 °C in a cold room"], size(power, "cold"))
        self.assertAlmostEqual(by_what["Oxygen is low in still water"], size(power, "air"))

    def test_a_battery_that_moves_the_surface_holds_the_air_and_ends(self):
        marks = {one.what: one.after_h for one in power_marks(at(self.BATTERY))}
        self.assertAlmostEqual(marks["The battery is empty"], 17.0)
        self.assertNotIn("Oxygen is low in still water", marks)

    def test_without_animals_nothing_is_said_of_breath(self):
        marks = power_marks(at(replace(TANK, animals=())))
        self.assertFalse([one for one in marks if "Oxygen" in one.what])

    def test_a_closed_filter_is_rinsed_first(self):
        marks = power_marks(at(replace(TANK, gear=(*TANK.gear, "canister"))))
        self.assertEqual([one.after_h for one in marks if "closed filter" in one.what], [2.0])

    def test_a_battery_runs_air_then_pumps_then_heat(self):
        # 5 W, then all 40 W of pumps; for a night of 12 h: 12 x 5 / 0.85 = 70.6 Wh, 12 x 40 / 0.85 = 564.7 Wh.
        loads = battery_order(at(self.BATTERY))
        self.assertEqual([one.key for one in loads], ["air", "pumps", "heat"])
        self.assertEqual([round(float(one.size), 1) for one in loads[:2]], [70.6, 564.7])
        self.assertEqual([round(float(one.lasts), 3) for one in loads[:2]], [17.0, 2.125])
        # Heat on top: what holds 25 °C in the coldest room, less what the pumps give.
        need = holding_w(heat_balance(self.BATTERY), held_c(self.BATTERY), self.BATTERY.heating.cold_c, 40.0)
        self.assertAlmostEqual(loads[2].power_w, 40 + float(need))
        self.assertIsNone(battery_order(at())[0].lasts)


if __name__ == "__main__":
    unittest.main()
