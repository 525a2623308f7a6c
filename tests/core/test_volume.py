"""Net volume of every shape, by measures and by salt; livestock, light, methods: what is taken and what follows."""

import unittest
from dataclasses import replace
from datetime import date, time, timedelta
from math import pi

from salttide.core.basics.errors import DomainError, InputError
from salttide.core.ledger.balance import present
from salttide.core.ledger.entries import Change, Dose, Ledger
from salttide.core.science.parameters import Parameter, Span
from salttide.core.science.seawater import absolute_salinity, density_kg_l
from salttide.core.system.catalogue import method_questions
from salttide.core.system.light import Light, Par, check_light, check_par, light_turned
from salttide.core.system.livestock import Animal, Demand, StockChange, check_animal, turned
from salttide.core.system.methods import check_answers, new_risks
from salttide.core.system.setup_facts import setup_changes
from salttide.core.system.system import Limits, Placed
from salttide.core.system.volume import Geometry, SaltTest, Shape, Sump, net_volume
from tests.core.cases import BEACON, NOW, SKIFF, dkh, reading


def litres(geometry: Geometry) -> float:
    return net_volume(geometry)[-1].value


class NetVolume(unittest.TestCase):
    def test_every_shape_with_rock_sand_and_sump(self):
        salt_g = (
            density_kg_l(34, 25)
            * 90
            * 1000
            * (absolute_salinity(35) - absolute_salinity(34))
            / (1000 - absolute_salinity(35))
        )
        cases = [
            # Box 100 x 50 x 40 = 200 L; 20 kg of rock at 2 kg/L off, a 5 cm bed of 5000 cm2 with 60 % grains off.
            (Geometry(100, 50, 40, None, rock_kg=20, sand_bed_cm=5), 200 - 10 - 15),
            # Stated displacement wins over what rock and sand would give.
            (Geometry(100, 50, 40, 12, rock_kg=20, sand_bed_cm=5), 188),
            (Geometry(60, 60, 50, shape=Shape.CYLINDER), pi * 30**2 * 50 / 1000),
            (Geometry(60, 60, 50, shape=Shape.QUARTER_ROUND), pi * 60**2 / 4 * 50 / 1000),
            # Six equal triangles of side 30: 6 * sqrt(3)/4 * 900 = 2338.27 cm2, 50 deep.
            (Geometry(30, 30, 50, shape=Shape.HEXAGON), 116.91),
            # Half a circle of radius 50 on a box of 100 x 40: (4000 + 3926.99) * 50 / 1000.
            (Geometry(100, 40, 50, shape=Shape.BOW_FRONT, bow_cm=50), 396.35),
            # A sump of 60 x 40 x 25 = 60 L, and 8 L of refugium beside.
            (Geometry(100, 50, 40, 0, 8, sump=Sump(60, 40, 25)), 268),
            # Measured by salt: the measures do not count.
            (Geometry(100, 50, 40, salt_test=SaltTest(salt_g, 34, 35)), 90),
        ]  # fmt: skip
        for geometry, wanted in cases:
            with self.subTest(geometry=geometry):
                self.assertAlmostEqual(litres(geometry), wanted, places=2)

    def test_a_bed_of_sand_covers_the_floor_of_its_own_shape(self):
        # Circle of 60 cm: 2827.43 cm2; a 10 cm bed, 60 % grains, displaces 16.96 L of 141.37 L.
        self.assertAlmostEqual(litres(Geometry(60, 60, 50, None, shape=Shape.CYLINDER, sand_bed_cm=10)), 124.41, 2)

    def test_the_footprint_falls_with_the_shape(self):
        self.assertAlmostEqual(Geometry(60, 60, 50, shape=Shape.CYLINDER).footprint_cm2, pi * 900)

    def test_the_working_says_what_was_taken_off(self):
        names = [step.name for step in net_volume(Geometry(100, 50, 40, None, rock_kg=20, sand_bed_cm=5))]
        self.assertEqual(names, ["box", "displaced by sand", "displaced by rock", "net volume"])


class EarlierVolumes(unittest.TestCase):
    CHANGED = NOW - timedelta(days=10)

    def ledger(self, *events):
        doses = tuple(event for event in events if isinstance(event, Dose))
        changes = tuple(event for event in events if isinstance(event, Change))
        start = reading(Parameter.ALKALINITY, 3.0, days_ago=30)
        return Ledger(200.0, (start,), changes, doses, earlier=((self.CHANGED, 100.0),))

    def test_a_dose_counts_in_the_volume_of_its_day(self):
        # 20 meq raise 100 L by 0.2 and 200 L by 0.1.
        for days_ago, value in ((20, 3.2), (5, 3.1)):
            with self.subTest(days_ago=days_ago):
                dose = Dose(NOW - timedelta(days=days_ago), "Na2CO3", 1.06, {Parameter.ALKALINITY: 20.0}, id=2)
                self.assertAlmostEqual(present(self.ledger(dose), Parameter.ALKALINITY).value, value)

    def test_a_change_counts_in_the_volume_of_its_day(self):
        # 50 L of 4.0 into 3.0: half of 100 L gives 3.5, a quarter of 200 L gives 3.25.
        for days_ago, value in ((20, 3.5), (5, 3.25)):
            with self.subTest(days_ago=days_ago):
                change = Change(NOW - timedelta(days=days_ago), 50, 50, {Parameter.ALKALINITY: 4.0}, 2)
                self.assertAlmostEqual(present(self.ledger(change), Parameter.ALKALINITY).value, value)


class Livestock(unittest.TestCase):
    PIPEFISH = Animal(1, "pipefish", Demand.DEMANDING, 6, {Parameter.TEMPERATURE: Span(22, 25.5)},
                      {Parameter.SALINITY: 0.4, Parameter.ALKALINITY: dkh(0.9)}, 2)  # fmt: skip

    def test_the_slowest_animal_sets_the_limit_and_is_named(self):
        system = replace(SKIFF, own_limits=Limits(alkalinity_meq_l=dkh(0.5)), animals=(self.PIPEFISH,))
        self.assertEqual((system.limits.salinity, system.slowest(Parameter.SALINITY)), (0.4, "pipefish"))
        # The system's own 0.5 dKH is tighter than the animal's 0.9.
        self.assertAlmostEqual(system.limits.alkalinity_meq_l, dkh(0.5))
        self.assertEqual(system.slowest(Parameter.ALKALINITY), "")

    def test_an_animal_that_is_gone_asks_for_nothing(self):
        system = replace(SKIFF, animals=(replace(self.PIPEFISH, count=0),))
        self.assertEqual(system.limits.salinity, SKIFF.own_limits.salinity)

    def test_numbers(self):
        for turn, number, after in (
            (StockChange.ADDED, 2, 8), (StockChange.BORN, 30, 36), (StockChange.LOST, 6, 0), (StockChange.GIVEN, 1, 5),
            (StockChange.COUNTED, 4, 4), (StockChange.COUNTED, 0, 0),
        ):  # fmt: skip
            with self.subTest(turn=turn):
                self.assertEqual(turned(6, turn, number), after)
        for turn, number in ((StockChange.LOST, 7), (StockChange.ADDED, 0), (StockChange.COUNTED, -1)):
            with self.subTest(turn=turn), self.assertRaises(DomainError) as raised:
                turned(6, turn, number)
            self.assertEqual(raised.exception.field, "number")

    def test_impossible_animals_are_refused_at_their_field(self):
        cases = [
            ({"name": " "}, "name"), ({"count": -1}, "count"), ({"portions": 99}, "portions"),
            ({"tolerances": {Parameter.TEMPERATURE: Span(26, 24)}}, "tolerances.temperature.low"),
            ({"tolerances": {Parameter.TEMPERATURE: Span(20, 400)}}, "tolerances.temperature.high"),
            ({"tolerances": {Parameter.SILICATE: Span(0, 1)}}, "tolerances"),
            ({"limits": {Parameter.SALINITY: 9.0}}, "limits.salinity"),
            ({"limits": {Parameter.CALCIUM: 9.0}}, "limits"),
        ]  # fmt: skip
        for changes, field in cases:
            with self.subTest(field=field), self.assertRaises(InputError) as raised:
                check_animal(replace(self.PIPEFISH, **changes))
            self.assertEqual(raised.exception.field, field)


class Lights(unittest.TestCase):
    DAY = date(2026, 11, 1)

    def test_hours_run_over_midnight(self):
        for on, off, hours in ((time(12), time(22), 10), (time(16), time(2, 30), 10.5)):
            with self.subTest(on=on):
                self.assertEqual(Light(self.DAY, on, off).hours, hours)

    def test_refused(self):
        for wrong, field in ((Light(self.DAY, time(9), time(9)), "off"),
                             (Light(self.DAY, time(9), time(10), 40), "ramp_minutes")):  # fmt: skip
            with self.subTest(field=field), self.assertRaises(InputError) as raised:
                check_light(wrong)
            self.assertEqual(raised.exception.field, field)
        for wrong, field in ((Par(self.DAY, " ", 100), "point"), (Par(self.DAY, "rock", 9000), "umol")):
            with self.subTest(field=field), self.assertRaises(InputError) as raised:
                check_par(wrong)
            self.assertEqual(raised.exception.field, field)

    def test_a_turn_says_both_settings(self):
        before, after = Light(self.DAY, time(12), time(22)), Light(self.DAY, time(12), time(20), 30, "more blue")
        words = "10.0 h before, now 8.0 h, 12:00 to 20:00, ramp 30 min, more blue"
        self.assertEqual(light_turned(before, after), words)


class Methods(unittest.TestCase):
    def test_every_question_of_the_product_has_its_schools_with_an_honest_line(self):
        questions = method_questions()
        self.assertEqual(len(questions), 10)  # sand and panels stand in the set-up itself
        for question in questions.values():
            self.assertGreaterEqual(len(question.choices), 2)
            for choice in question.choices.values():
                with self.subTest(question.key, choice=choice.key):
                    self.assertRegex(choice.line, r"^[A-Z].{20,130}\.$")

    def test_unknown_answers_are_refused(self):
        for answers in ({"top_off": "magic"}, {"moon": "full"}):
            with self.subTest(answers=answers), self.assertRaises(InputError) as raised:
                check_answers(method_questions(), answers)
            self.assertEqual(raised.exception.field, f"methods.{next(iter(answers))}")

    def test_a_risk_is_said_once(self):
        questions, risky = method_questions(), {"top_off": "plumbed", "new_water": "dry_salt"}
        self.assertEqual([choice.key for choice in new_risks(questions, {}, risky)], ["plumbed"])
        self.assertEqual(new_risks(questions, risky, risky), ())


class SetupHistory(unittest.TestCase):
    def test_an_edit_says_what_it_changed_and_nothing_else(self):
        sump = replace(BEACON.geometry, sump_l=68)
        after = replace(BEACON, geometry=sump, placed={"heater": Placed()}, own_limits=Limits(salinity=0.5))
        self.assertEqual(
            setup_changes(BEACON, after, {}),
            ["Net volume: 334.0 L → 344.0 L", "Salinity, most in a day: 1.0 ppt → 0.5 ppt"],
        )
        self.assertEqual(setup_changes(BEACON, BEACON, {}), [])
