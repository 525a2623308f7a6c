"""The carbonate system and ammonia: published check values, the oracle library, and what physics demands."""

import unittest

import numpy as np
import PyCO2SYS
from hypothesis import given
from hypothesis import strategies as st

from salttide.core.basics.errors import DomainError, InputError, NumberError, ScaleError
from salttide.core.science.ammonia import Danger, ammonia_danger, pk_ammonium, unionised_ammonia_mg_l, unionised_share
from salttide.core.science.carbonate import (
    PhNbs,
    PhTotal,
    aragonite_saturation,
    carbonate_from_dic,
    carbonate_from_pco2,
    carbonate_from_ph_nbs,
    carbonate_from_ph_total,
    carbonate_working,
    pco2_uatm_from_ph_nbs,
    ph_nbs_from_pco2,
    ph_nbs_from_total,
    ph_total_from_nbs,
)
from salttide.core.science.carbonate_constants import BORATE, CALCIUM, constants
from salttide.core.science.ph_effect import largest_dose_by_ph, ph_effect_of_dose
from salttide.core.science.seawater import density_kg_l
from tests.core.tables import TableTest

ORACLE = {"opt_k_carbonic": 10, "opt_total_borate": 1, "opt_k_bisulfate": 1, "opt_k_fluoride": 1, "opt_pH_scale": 4}


def oracle(par2: object, kind: int, alkalinity: object, salinity: object, temperature: object, **more: object) -> dict:
    """The other library's answer: alkalinity in meq/L made µmol/kg; kind 3 is pH (NBS), 4 pCO2."""
    density = np.vectorize(density_kg_l)(salinity, temperature)
    return PyCO2SYS.sys(
        par1=alkalinity / density * 1000, par1_type=1, par2=par2, par2_type=kind,
        salinity=salinity, temperature=temperature, **{**ORACLE, **more},
    )  # fmt: skip


class Constants(TableTest):
    def test_at_35_and_25_as_published(self):
        # Dickson, Sabine & Christian 2007, chapter 5, check values at S = 35, t = 25 °C.
        water = constants(35.0, 25.0)
        for name, found, expected, delta in (
            ("ln K0", np.log(water.k0), -3.5617, 1e-4),
            ("lg K1", np.log10(water.k1), -5.8472, 1e-4),
            ("lg K2", np.log10(water.k2), -8.9660, 1e-4),
            ("ln KB", np.log(water.kb), -19.7964, 1e-4),
            ("ln KW", np.log(water.kw), -30.434, 0.01),
            ("ln KS", np.log(water.ks), -2.2995, 0.003),
            ("lg Ka", np.log10(water.aragonite), -6.1883, 0.002),  # Mucci 1983: 6.48e-7 mol2/kg2
            ("lg Kc", np.log10(water.calcite), -6.3693, 0.002),  # Mucci 1983: 4.27e-7
            ("NBS", water.nbs, 0.137, 0.001),
        ):
            with self.subTest(name=name):
                self.assertAlmostEqual(float(found), expected, delta=delta)

    def test_each_is_the_oracles_own_evaluation_of_the_same_papers(self):
        for salinity, temperature in ((25.0, 18.0), (35.0, 25.0), (38.0, 30.0), (40.0, 32.0)):
            theirs, ours = oracle(8.1, 3, 2.3, salinity, temperature), constants(salinity, temperature)
            seawater_scale = 10 ** (theirs["pH_total"] - theirs["pH_sws"])
            for name, found, expected in (
                ("K0", ours.k0, theirs["k_CO2"]),
                ("fugacity", ours.fugacity, theirs["fugacity_factor"]),
                ("borate", ours.borate, theirs["total_borate"] / 1e6),
                ("sulfate", ours.sulfate, theirs["total_sulfate"] / 1e6),
                ("fluoride", ours.fluoride, theirs["total_fluoride"] / 1e6),
                ("KS", ours.ks, theirs["k_bisulfate"]),
                ("KF", ours.kf, theirs["k_fluoride"]),
                ("aragonite", ours.aragonite, theirs["k_aragonite"]),
                ("calcite", ours.calcite, theirs["k_calcite"]),
                ("NBS", 10.0 ** (-ours.nbs), theirs["fH"] * seawater_scale),
                ("calcium", CALCIUM.value(S=salinity), theirs["total_calcium"] / 1e6),
            ):
                with self.subTest(name=name, salinity=salinity):
                    self.assertAlmostEqual(float(found) / expected, 1, delta=1e-7)

    def test_totals_of_35(self):
        # Uppström 1974: 0.000416 mol/kg of boron; Riley & Tongudai 1967: 0.01028 mol/kg of calcium.
        self.assertAlmostEqual(BORATE.value(S=35.0), 0.000416, delta=1e-6)
        self.assertAlmostEqual(CALCIUM.value(S=35.0), 0.01028, delta=1e-5)

    def test_ammonium(self):
        # 9.246 at 35 and 25 °C on the total scale; the oracle's own evaluation of Clegg & Whitfield elsewhere.
        self.assertAlmostEqual(pk_ammonium(35, 25), 9.246, delta=0.001)
        for salinity, temperature in ((25, 18), (30, 28), (40, 32), (35, 20)):
            with self.subTest(salinity=salinity, temperature=temperature):
                answer = oracle(8.1, 3, 2.3, salinity, temperature, opt_pH_scale=1)
                self.assertAlmostEqual(pk_ammonium(salinity, temperature), -np.log10(answer["k_ammonia"]), delta=1e-7)


AXES = [25, 29, 33, 35, 40.0], [18, 22, 25, 28, 32.0], [1, 2, 3, 4.5, 6.0], [150, 400, 900, 4000.0]
GRID = [axis.ravel() for axis in np.meshgrid(*AXES)]


class Oracle(unittest.TestCase):
    """Within 0.003 pH and 0.5 % over the whole range: salinity 25-40, 18-32 °C, 1-6 meq/L, 150-4000 µatm."""

    def test_ph_and_saturation_from_pco2(self):
        salinity, temperature, alkalinity, pco2 = GRID
        theirs = oracle(pco2, 4, alkalinity, salinity, temperature)
        ours = carbonate_from_pco2(pco2, alkalinity, salinity, temperature)
        np.testing.assert_allclose(ours.ph_nbs, theirs["pH_nbs"], atol=0.003)
        np.testing.assert_allclose(ours.ph_total, theirs["pH_total"], atol=0.003)
        np.testing.assert_allclose(ours.aragonite_saturation, theirs["saturation_aragonite"], rtol=0.005)
        np.testing.assert_allclose(ours.calcite_saturation, theirs["saturation_calcite"], rtol=0.005)

    def test_pco2_from_a_meters_ph(self):
        salinity, temperature, alkalinity, pco2 = GRID
        ph = np.round(carbonate_from_pco2(pco2, alkalinity, salinity, temperature).ph_nbs, 2)
        theirs = oracle(ph, 3, alkalinity, salinity, temperature)
        ours = carbonate_from_ph_nbs(ph, alkalinity, salinity, temperature)
        np.testing.assert_allclose(ours.pco2_uatm, theirs["pCO2"], rtol=0.005)
        density = np.vectorize(density_kg_l)(salinity, temperature)
        np.testing.assert_allclose(ours.dic_mmol_l, theirs["dic"] * density / 1000, rtol=0.005)

    def test_far_closer_than_is_asked(self):
        # The same constants solved twice: what is left is the last digits of double precision.
        salinity, temperature, alkalinity, pco2 = GRID
        theirs = oracle(pco2, 4, alkalinity, salinity, temperature)
        ours = carbonate_from_pco2(pco2, alkalinity, salinity, temperature)
        np.testing.assert_allclose(ours.ph_nbs, theirs["pH_nbs"], atol=1e-8)
        again = carbonate_from_ph_nbs(ours.ph_nbs, alkalinity, salinity, temperature)
        np.testing.assert_allclose(again.pco2_uatm, pco2, rtol=1e-7)
        by_ph = oracle(ours.ph_nbs, 3, alkalinity, salinity, temperature)
        np.testing.assert_allclose(again.aragonite_saturation, by_ph["saturation_aragonite"], rtol=1e-7)

    def test_each_form_of_carbon(self):
        salinity, temperature, alkalinity, pco2 = GRID
        theirs = oracle(pco2, 4, alkalinity, salinity, temperature)
        ours = carbonate_from_pco2(pco2, alkalinity, salinity, temperature)
        litre = np.vectorize(density_kg_l)(salinity, temperature) / 1000  # µmol/kg to mmol/L
        np.testing.assert_allclose(ours.bicarbonate_mmol_l, theirs["HCO3"] * litre, rtol=1e-6)
        np.testing.assert_allclose(ours.carbonate_mmol_l, theirs["CO3"] * litre, rtol=1e-6)
        np.testing.assert_allclose(ours.carbon_dioxide_mmol_l, theirs["CO2"] * litre, rtol=1e-6)

    def test_one_number_as_one_of_many(self):
        one = carbonate_from_pco2(900.0, 3.0, 33.0, 28.0)
        pairs = ([150.0, 900.0], [1.0, 3.0], [25.0, 33.0], [18.0, 28.0])
        many = carbonate_from_pco2(*[np.array(pair) for pair in pairs])
        self.assertAlmostEqual(one.ph_nbs, many.ph_nbs[1], places=9)

    def test_own_calcium_counts(self):
        theirs = oracle(8.2, 3, 2.5, 35.0, 25.0, total_calcium=450 / 40.078 / density_kg_l(35, 25) * 1000)
        self.assertAlmostEqual(
            aragonite_saturation(8.2, 2.5, 35.0, 25.0, 450.0), theirs["saturation_aragonite"], delta=0.01
        )


class Behaviour(TableTest):
    @given(st.floats(0.5, 6), st.floats(25, 40), st.floats(18, 32), st.floats(150, 4000))
    def test_there_and_back_by_every_way(self, alkalinity, salinity, temperature, pco2):
        water = carbonate_from_pco2(pco2, alkalinity, salinity, temperature)
        again = carbonate_from_ph_nbs(water.ph_nbs, alkalinity, salinity, temperature)
        self.assertAlmostEqual(again.pco2_uatm, pco2, delta=1e-5 * pco2)
        total = carbonate_from_ph_total(water.ph_total, alkalinity, salinity, temperature)
        self.assertAlmostEqual(total.ph_nbs, water.ph_nbs, places=9)
        by_carbon = carbonate_from_dic(water.dic_mmol_l, alkalinity, salinity, temperature)
        self.assertAlmostEqual(by_carbon.ph_nbs, water.ph_nbs, places=6)

    @given(st.floats(1, 5), st.floats(200, 3000))
    def test_more_carbon_dioxide_lowers_ph_and_more_alkalinity_raises_it(self, alkalinity, pco2):
        ph = ph_nbs_from_pco2(pco2, alkalinity, 35.0, 25.0)
        self.assertLess(ph_nbs_from_pco2(pco2 * 1.1, alkalinity, 35.0, 25.0), ph)
        self.assertGreater(ph_nbs_from_pco2(pco2, alkalinity * 1.1, 35.0, 25.0), ph)

    def test_the_freshwater_rule_is_wrong_by_more_than_a_factor_of_two(self):
        # CO2 (mg/L) = 3 KH 10^(7 - pH): 7 dKH and pH 8.0 give 2.1 mg/L. CO2 of seawater: K0 pCO2 44 g/mol.
        water = carbonate_from_ph_nbs(8.0, 7 / 2.80385, 35.0, 25.0)
        self.assertGreater(3 * 7 * 10 ** (7 - 8.0), 2 * water.carbon_dioxide_mmol_l * 44.01)

    def test_the_wrong_scale_shifts_pco2_by_a_third(self):
        right = carbonate_from_ph_nbs(8.1, 2.5, 35.0, 25.0).pco2_uatm
        wrong = carbonate_from_ph_total(8.1, 2.5, 35.0, 25.0).pco2_uatm
        self.assertAlmostEqual(wrong / right, 10**-0.137, delta=0.05)

    def test_one_scale_cannot_be_passed_for_the_other(self):
        nbs, total = PhNbs(8.2), PhTotal(8.06)
        self.refused([
            (carbonate_from_ph_nbs, (total, 2.5, 35.0, 25.0), ScaleError),
            (carbonate_from_ph_total, (nbs, 2.5, 35.0, 25.0), ScaleError),
            (ph_total_from_nbs, (total, 35.0, 25.0), ScaleError),
            (ph_nbs_from_total, (nbs, 35.0, 25.0), ScaleError),
            (unionised_share, (total, 35.0, 25.0), ScaleError),
            (ph_effect_of_dose, ("Na2CO3", 0.3, total, 2.5), ScaleError),
        ])  # fmt: skip
        self.assertIsInstance(ph_total_from_nbs(nbs, 35.0, 25.0), PhTotal)
        self.assertIsInstance(carbonate_from_pco2(400.0, 2.5, 35.0, 25.0).ph_nbs, PhNbs)
        self.assertAlmostEqual(ph_nbs_from_total(ph_total_from_nbs(8.2, 34.0, 26.0), 34.0, 26.0), 8.2)

    def test_usual_mistakes_are_refused(self):
        self.refused([
            (carbonate_from_ph_nbs, (8.2, 8.0, 35.0, 25.0), DomainError),  # dKH for meq/L
            (carbonate_from_ph_nbs, (8.2, 2.5, 1.025, 25.0), DomainError),  # specific gravity for salinity
            (carbonate_from_ph_nbs, (8.2, 2.5, 35.0, 78.0), DomainError),  # °F for °C
            (carbonate_from_ph_nbs, (82.0, 2.5, 35.0, 25.0), DomainError),
            (carbonate_from_pco2, (0.0004, 2.5, 35.0, 25.0), DomainError),  # atm for µatm
            (carbonate_from_ph_nbs, (9.9, 0.3, 35.0, 25.0), DomainError),  # more hydroxide than alkalinity
            (carbonate_from_pco2, ("400", 2.5, 35.0, 25.0), NumberError),
            (unionised_ammonia_mg_l, (-1, 8.2, 35.0, 25.0), DomainError),
            (unionised_ammonia_mg_l, (1.0, 8.2, 35.0, 78.0), DomainError),
        ])  # fmt: skip

    def test_the_working_ends_in_the_answer_and_each_line_can_be_done_again(self):
        water = carbonate_from_ph_nbs(8.2, 2.5, 35.0, 25.0)
        steps = {step.symbol: step for step in carbonate_working(water)}
        self.assertAlmostEqual(steps["pCO2"].value, water.pco2_uatm, places=6)
        self.assertAlmostEqual(steps["Ω"].value, water.aragonite_saturation, places=9)
        self.assertEqual(pco2_uatm_from_ph_nbs(8.2, 2.5, 35.0, 25.0), steps["pCO2"].value)
        self.assertIn("Lueker", steps["pK1"].source)


class Ammonia(TableTest):
    def test_share_follows_from_pk(self):
        # 1/(1 + 10^(9.246 - (8.2 - 0.137))) at 35 and 25 °C; at the meter's 8.2 unconverted it would be a third more.
        share = 1 / (1 + 10 ** (9.246 - 8.063))
        self.check([
            (unionised_share, (8.2, 35, 25), share, 3e-4),
            (unionised_ammonia_mg_l, (1.0, 8.2, 35, 25), share, 3e-4),
            (unionised_ammonia_mg_l, (0.5, 7.8, 35, 25), 0.5 / (1 + 10 ** (9.246 - 7.663)), 2e-4),
            (unionised_ammonia_mg_l, (0.0, 8.2, 35, 25), 0, 0),
        ])  # fmt: skip

    @given(st.floats(7, 8.8), st.floats(20, 40), st.floats(18, 32))
    def test_rises_with_ph_and_with_temperature(self, ph, salinity, temperature):
        share = unionised_share(ph, salinity, temperature)
        self.assertGreater(unionised_share(ph + 0.1, salinity, temperature), share)
        self.assertGreater(unionised_share(ph, salinity, temperature + 1), share)

    def test_danger(self):
        for level, danger in ((0.019, "none"), (0.02, "caution"), (0.05, "act"), (0.099, "act"), (0.1, "emergency")):
            with self.subTest(level=level):
                self.assertEqual(ammonia_danger(level), Danger(danger))


class PhOfADose(TableTest):
    def test_against_the_oracle(self):
        # Carbon per equivalent: soda ash half a mole, baking soda one, lime none; with the alkalinity into the oracle.
        density = density_kg_l(35, 25)
        before = oracle(8.1, 3, 2.5, 35.0, 25.0)
        for formula, carbon in (("Na2CO3", 0.5), ("NaHCO3", 1.0), ("NaOH", 0.0), ("Ca(OH)2", 0.0)):
            with self.subTest(formula=formula):
                theirs = PyCO2SYS.sys(
                    par1=2800 / density, par1_type=1, par2=before["dic"] + 300 * carbon / density, par2_type=2,
                    salinity=35, temperature=25, **ORACLE,
                )  # fmt: skip
                self.assertAlmostEqual(ph_effect_of_dose(formula, 0.3, 8.1, 2.5).at_once, theirs["pH_nbs"], delta=0.003)

    def test_settled_with_the_room(self):
        effect = ph_effect_of_dose("Na2CO3", 0.3, 8.1, 2.5, room_pco2_uatm=800.0)
        theirs = oracle(800.0, 4, 2.8, 35.0, 25.0)
        self.assertAlmostEqual(effect.settled, theirs["pH_nbs"], delta=0.003)
        unchanged = ph_effect_of_dose("NaOH", 0.3, 8.1, 2.5)
        self.assertAlmostEqual(unchanged.settled, ph_effect_of_dose("NaHCO3", 0.3, 8.1, 2.5).settled, places=9)

    @given(st.floats(7.7, 8.4), st.floats(1.8, 4), st.floats(0.05, 0.8))
    def test_carbonate_and_hydroxide_raise_it_and_bicarbonate_lowers_it_slightly(self, ph, alkalinity, rise):
        def jump(formula: str) -> float:
            return ph_effect_of_dose(formula, rise, ph, alkalinity).jump

        self.assertGreater(jump("NaOH"), jump("Na2CO3"))
        self.assertGreater(jump("Na2CO3"), 0)
        self.assertLess(abs(jump("NaHCO3")), jump("Na2CO3"))

    def test_the_largest_dose_keeps_its_limit(self):
        for formula in ("Na2CO3", "NaOH", "NaHCO3"):
            rise = largest_dose_by_ph(formula, 8.1, 2.5)
            with self.subTest(formula=formula):
                self.assertLessEqual(abs(ph_effect_of_dose(formula, rise, 8.1, 2.5).jump), 0.15)
                if rise < 3:
                    self.assertGreater(abs(ph_effect_of_dose(formula, rise + 1e-3, 8.1, 2.5).jump), 0.15)

    def test_where_the_water_could_not_hold_more_it_stops_there(self):
        self.assertAlmostEqual(largest_dose_by_ph("NaHCO3", 8.1, 5.5), 1.0)  # 6.5 meq/L in all

    def test_what_brings_no_alkalinity_is_refused(self):
        self.refused([
            (ph_effect_of_dose, ("KNO3", 0.3, 8.1, 2.5), InputError),
            (ph_effect_of_dose, ("Na2CO3", 5, 8.1, 2.5), DomainError),
        ])  # fmt: skip
