"""What could mean two things is asked back, and what does not belong together is refused, everywhere alike."""

import unittest

from salttide.core.basics.errors import AmbiguousError, DomainError, InputError, PlanError, SaltTideError, UnitError
from salttide.core.jot.answer import JotContext
from salttide.core.jot.reader import JotError
from salttide.core.jot.record import record_line
from salttide.core.jot.sums import answer
from salttide.core.science.air import pco2_uatm_of_air
from salttide.core.science.ammonia import unionised_ammonia_mg_l
from salttide.core.science.conversion import convert
from salttide.core.science.geometry import net_volume_by_salt
from salttide.core.science.instruments import hydrometer_reading
from salttide.core.science.mix import correct_batch, salt_mass_g, salt_to_strengthen_g, water_to_weaken_l
from salttide.core.science.parameters import Parameter
from salttide.core.science.recipe import strength_from_label_g_l
from salttide.core.science.seawater import (
    absolute_salinity,
    conductivity_ms_cm_from_salinity,
    density_kg_l,
    specific_gravity,
)
from salttide.core.science.sizing import size_changes
from salttide.core.science.solutions import check_stock
from salttide.core.science.topoff import (
    alkalinity_after_lime_flood,
    lime_flood,
    salinity_after_evaporation,
    salinity_after_flood,
    salinity_drift_per_day,
)
from salttide.core.science.units import parse_measurement
from tests.core.test_jot_record import CONTEXT

PO4, NO3 = Parameter.PHOSPHATE, Parameter.NITRATE
NOWHERE = JotContext()


class Substances(unittest.TestCase):
    def test_a_unit_keeps_its_substance(self):
        # Atomic weights 14.0067, 15.9994, 1.00794: NH3 is 1.21588 x N, NO2 3.28446 x N, NO3 4.42680 x N.
        for text, expected in (
            ("= 0.25 mg/l n in nh3", 0.25 * 1.21588), ("= 0.25 mg/l n in no2", 0.25 * 3.28446),
            ("= 1 mg/l n in no3", 4.42680), ("= 30 ppb p in po4", 0.030 * 3.06618), ("= 30 ppb po4 in po4", 0.030),
            ("= 1 no3 in no3-n", 1 / 4.42680), ("= 1 nh4 in nh3", 17.0305 / 18.0385),
        ):  # fmt: skip
            with self.subTest(text=text):
                self.assertAlmostEqual(answer(text, NOWHERE).value, expected, delta=2e-4 * expected)

    def test_one_substance_is_not_turned_into_another(self):
        for text in ("= 10 no2 in no3", "= 1 po4 in nh3", "= 5 no3 in po4", "= 10 no3 in nh3-n"):
            with self.subTest(text=text), self.assertRaises(JotError) as raised:
                answer(text, NOWHERE)
            self.assertIn("different things", raised.exception.message)
        with self.assertRaises(UnitError):
            convert(10, "no2", "no3")

    def test_what_does_not_say_its_substance_is_asked_back(self):
        with self.assertRaises(AmbiguousError) as raised:
            convert(0.25, "mg/L N", "mg/L")
        self.assertLessEqual({"nitrate", "nitrite", "ammonia"}, set(raised.exception.readings))
        self.assertAlmostEqual(convert(0.25, "mg/L N", "mg/L", Parameter.AMMONIA), 0.25 * 1.21588, places=5)

    def test_ppb_of_phosphate_is_asked_back_everywhere(self):
        for text in ("= 30 ppb in po4", "= KH2PO4 for +30 ppb in 100 l", "= 30 ppb in mg/l"):
            with self.subTest(text=text), self.assertRaises(JotError) as raised:
                answer(text, NOWHERE)
            self.assertIn("µg/L P or µg/L PO4", raised.exception.message)
        with self.assertRaises(JotError) as raised:
            record_line("po4 30 ppb", CONTEXT)
        self.assertIn("µg/L P or µg/L PO4", raised.exception.message)
        for unit in ("ppb", "µg/L"):
            with self.subTest(unit=unit), self.assertRaises(AmbiguousError):
                parse_measurement(PO4, f"30 {unit}", "mg/L")
        # 30 µg/L of P are 0.030 x 3.06618 mg/L PO4; of PO4 0.030.
        self.assertAlmostEqual(parse_measurement(PO4, "30 ppb P", "mg/L"), 0.0919854, places=6)
        self.assertAlmostEqual(parse_measurement(PO4, "30 ppb PO4", "mg/L"), 0.030)
        # Of an element itself nothing is in doubt.
        self.assertAlmostEqual(parse_measurement(Parameter.IODINE, "60 ppb", "mg/L"), 0.060)


class Gravities(unittest.TestCase):
    def test_a_specific_gravity_given_as_ppt_is_asked_back(self):
        for act in (
            lambda: density_kg_l(1.025, 25), lambda: absolute_salinity(1.025), lambda: specific_gravity(1.025),
            lambda: conductivity_ms_cm_from_salinity(1.025), lambda: salt_to_strengthen_g(40, 1.025, 35, 1.0),
            lambda: water_to_weaken_l(40, 35, 1.025), lambda: correct_batch(40, 60, 1.025, 35),
            lambda: net_volume_by_salt(100, 1.025, 35), lambda: salinity_after_evaporation(1.025, 100, 2),
            lambda: salinity_drift_per_day(1.025, 100, 2), lambda: salinity_after_flood(1.025, 100, 2),
            lambda: unionised_ammonia_mg_l(1.0, 8.2, 1.025, 25), lambda: pco2_uatm_of_air(425, 1.025),
            lambda: hydrometer_reading(1.025, 20), lambda: parse_measurement(Parameter.SALINITY, "1.025", "ppt"),
        ):  # fmt: skip
            with self.assertRaises(AmbiguousError) as raised:
                act()
            self.assertIn("specific gravity", raised.exception.message)
        with self.assertRaises(InputError):
            salt_mass_g(60, 1.0264, 37.1)

    def test_a_gravity_by_any_reference_in_water_of_another_temperature(self):
        # A 60/60 °F glass in 35 ppt at 25.556 °C (78 °F): 1023.177/999.016 (TEOS-10) shows 1.02418.
        found = answer("= 1.02418 sg 60/60F at 78 F in ppt", NOWHERE)
        self.assertAlmostEqual(found.value, 35.0, delta=0.1)
        self.assertAlmostEqual(answer("= 1.026 60/60f at 15.5556 C in ppt", NOWHERE).value, 33.8, delta=0.2)


class Nonsense(unittest.TestCase):
    def test_freezing_is_nought(self):
        self.assertEqual(answer("= 32 F in C", NOWHERE).value, 0.0)
        self.assertAlmostEqual(convert(-40, "F", "C"), -40.0, places=12)

    def test_what_does_not_mix_like_a_salt_is_not_diluted(self):
        with self.assertRaises(JotError) as raised:
            answer("= change to bring ph from 7.8 to 8.2 with 8.3", NOWHERE)
        self.assertIn("does not mix like a salt", raised.exception.message)
        for parameter, before, target in (
            (Parameter.PH, 7.8, 8.2),
            (Parameter.ORP, 250, 350),
            (Parameter.TEMPERATURE, 24, 25),
        ):
            with self.subTest(parameter=parameter), self.assertRaises(InputError):
                size_changes(parameter, {parameter: before}, target, {parameter: target + 0.1}, 100.0)
        self.assertNotIsInstance(size_changes(NO3, {NO3: 20.0}, 10.0, {}, 100.0), PlanError)

    def test_a_label_that_would_not_dissolve_is_refused(self):
        # 1 mL raises 100 L by 0.4 meq/L: 40 meq in a mL, 2.12 kg of soda ash in a litre.
        with self.assertRaises(DomainError) as raised:
            strength_from_label_g_l("Na2CO3", Parameter.ALKALINITY, 1.0, 100.0, 0.4)
        self.assertEqual(raised.exception.high, 210)
        with self.assertRaises(DomainError):
            strength_from_label_g_l("NaBr", Parameter.SODIUM, 0.001, 1e6, 42.0)

    def test_liquids_of_potassium_and_of_calcium_are_taken(self):
        for formula in ("K2CO3", "KHCO3", "CaCl2·6H2O"):
            with self.subTest(formula=formula):
                self.assertEqual(check_stock(formula, 200.0), 200.0)
        with self.assertRaises(SaltTideError) as raised:
            check_stock("KHCO3", 900.0)
        self.assertNotIn("nan", raised.exception.message)

    def test_a_flood_of_limewater_counts_its_temperature(self):
        # At 15 °C 1.64 g/L dissolve, at 25 °C 1.50: the colder flood brings more. 2 equivalents of 74.093 g/mol.
        for celsius, dissolved in ((15.0, 1.64), (25.0, 1.50)):
            brought = dissolved / 74.093 * 2000
            expected = (2.8 * 334 + 10 * brought) / 344
            with self.subTest(celsius=celsius):
                self.assertAlmostEqual(
                    lime_flood(2.8, 334.0, 10.0, temperature_c=celsius).alkalinity_meq_l, expected, places=3
                )
                self.assertAlmostEqual(alkalinity_after_lime_flood(2.8, 334.0, 10.0, celsius), expected, places=3)

    def test_ammonia_in_fresh_water_is_told(self):
        # pK at 25 °C in pure water 9.2446; pH 8.2 NBS less what the scales differ by (about 0.13): f = 1/(1 + 10^1.18).
        found = unionised_ammonia_mg_l(1.0, 8.2, 0.0, 25.0)
        self.assertAlmostEqual(found, 1 / (1 + 10 ** (9.2446 - 8.07)), delta=0.006)
