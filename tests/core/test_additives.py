"""Doses by formula."""

import unittest

from hypothesis import assume, given
from hypothesis import strategies as st

from salttide.core.basics.errors import DomainError, InputError
from salttide.core.science.additives import (
    COMPOUNDS,
    AlkalinitySource,
    alkalinity_meq,
    brought_per_mole,
    carbon_per_mole,
    dissolving_water_l,
    dose_mass_g,
    dry_share,
    effects,
    molar_mass_g_mol,
    rise_from_mass,
)
from salttide.core.science.limewater import (
    limewater_day,
    limewater_most_meq_l,
    limewater_solubility_g_l,
    limewater_strength_meq_l,
)
from salttide.core.science.parameters import Parameter
from salttide.core.science.solutions import (
    calcium_per_meq_mg,
    check_stock,
    label_dose_ml,
    largest_strength_g_l,
    magnesium_blend,
    solution_dose_ml,
    solution_rise,
    stock_mass_g,
    sulfate_to_chloride,
    two_part_doses,
    two_part_salinity_drift,
)
from tests.core.cases import dkh
from tests.core.tables import TableTest


class Doses(unittest.TestCase):
    def test_100_litres_up_by_1_dkh(self):
        # 100 L x 0.35665 meq/L = 35.665 meq. Na2CO3 105.988/2 g/eq: 1.89 g. NaHCO3 84.007 g/eq: 3.00 g.
        self.assertAlmostEqual(dose_mass_g("Na2CO3", Parameter.ALKALINITY, dkh(1), 100), 1.89, delta=0.005)
        self.assertAlmostEqual(dose_mass_g("NaHCO3", Parameter.ALKALINITY, dkh(1), 100), 3.00, delta=0.005)

    def test_what_a_mass_brings_is_the_inverse(self):
        for source in AlkalinitySource:
            mass = dose_mass_g(COMPOUNDS[source].formula, Parameter.ALKALINITY, 0.3, 334)
            self.assertAlmostEqual(alkalinity_meq(source, mass), 0.3 * 334, places=6)

    def test_molar_masses(self):
        # Sums of standard atomic weights (IUPAC 2021): Na 22.990, C 12.011, O 15.999, H 1.008.
        self.assertAlmostEqual(molar_mass_g_mol("Na2CO3"), 2 * 22.990 + 12.011 + 3 * 15.999, delta=0.01)
        self.assertAlmostEqual(molar_mass_g_mol("NaHCO3"), 22.990 + 1.008 + 12.011 + 3 * 15.999, delta=0.01)

    def test_water_to_dissolve_it_is_twice_what_solubility_asks(self):
        # Na2CO3 210 g/L at 20 °C: 21 g need 0.1 L at least, 0.2 L easily.
        self.assertAlmostEqual(dissolving_water_l(AlkalinitySource.SODA_ASH, 21.0), 0.2)

    def test_refuses_nonsense(self):
        for rise, volume in ((-1, 100), (0.3, 0), (50, 100)):
            with self.subTest(rise=rise, volume=volume), self.assertRaises(DomainError):
                dose_mass_g("Na2CO3", Parameter.ALKALINITY, rise, volume)


M = {"Na": 22.98977, "C": 12.0107, "O": 15.9994, "H": 1.00794, "Ca": 40.078, "Cl": 35.453, "Mg": 24.305, "K": 39.0983,
     "N": 14.0067, "P": 30.97376, "S": 32.065, "Sr": 87.62}  # fmt: skip
"""Standard atomic weights (IUPAC)."""
WATER = 2 * M["H"] + M["O"]
NO3, PO4, SO4 = M["N"] + 3 * M["O"], M["P"] + 4 * M["O"], M["S"] + 4 * M["O"]
ALKALINITY, CALCIUM, MAGNESIUM = Parameter.ALKALINITY, Parameter.CALCIUM, Parameter.MAGNESIUM


class ByFormula(TableTest):
    def test_masses_for_a_rise_in_100_litres(self):
        soda, bicarbonate = 2 * M["Na"] + M["C"] + 3 * M["O"], M["Na"] + M["H"] + M["C"] + 3 * M["O"]
        lime = M["Ca"] + 2 * (M["O"] + M["H"])
        dihydrate = M["Ca"] + 2 * M["Cl"] + 2 * WATER
        hexahydrate, heptahydrate = M["Mg"] + 2 * M["Cl"] + 6 * WATER, M["Mg"] + SO4 + 7 * WATER
        self.check([
            # amount wanted (mmol or meq in 100 L) times grams per mmol or meq
            (dose_mass_g, ("Na2CO3", ALKALINITY, 0.5, 100), 50 * soda / 2 / 1000, 1e-3),
            (dose_mass_g, ("NaHCO3", ALKALINITY, 0.5, 100), 50 * bicarbonate / 1000, 1e-3),
            (dose_mass_g, ("Ca(OH)2", ALKALINITY, 0.5, 100), 50 * lime / 2 / 1000, 1e-3),
            (dose_mass_g, ("NaOH", ALKALINITY, 0.5, 100), 50 * (M["Na"] + M["O"] + M["H"]) / 1000, 1e-3),
            (dose_mass_g, ("CaCl2·2H2O", CALCIUM, 10, 100), 1 / M["Ca"] * dihydrate, 1e-3),  # 3.67 g
            (dose_mass_g, ("CaCl2", CALCIUM, 10, 100), 1 / M["Ca"] * (M["Ca"] + 2 * M["Cl"]), 1e-3),
            (dose_mass_g, ("Ca(OH)2", CALCIUM, 10, 100), 1 / M["Ca"] * lime, 1e-3),
            (dose_mass_g, ("MgCl2.6H2O", MAGNESIUM, 10, 100), 1 / M["Mg"] * hexahydrate, 2e-3),  # 8.36 g
            (dose_mass_g, ("MgSO4*7H2O", MAGNESIUM, 10, 100), 1 / M["Mg"] * heptahydrate, 2e-3),
            (dose_mass_g, ("KCl", Parameter.POTASSIUM, 10, 100), 1 / M["K"] * (M["K"] + M["Cl"]), 1e-3),
            (dose_mass_g, ("SrCl2·6H2O", Parameter.STRONTIUM, 1, 100),
             0.1 / M["Sr"] * (M["Sr"] + 2 * M["Cl"] + 6 * WATER), 1e-3),
            (dose_mass_g, ("KNO3", Parameter.NITRATE, 1, 100), 0.1 / NO3 * (M["K"] + NO3), 1e-4),  # 0.163 g
            (dose_mass_g, ("NaNO3", Parameter.NITRATE, 1, 100), 0.1 / NO3 * (M["Na"] + NO3), 1e-4),
            (dose_mass_g, ("KH2PO4", Parameter.PHOSPHATE, 0.05, 100), 5e-3 / PO4 * (M["K"] + 2 * M["H"] + PO4), 1e-6),
            (dose_mass_g, ("Na3PO4·12H2O", Parameter.PHOSPHATE, 0.05, 100),
             5e-3 / PO4 * (3 * M["Na"] + PO4 + 12 * WATER), 1e-5),
            (dose_mass_g, ("Na2CO3", ALKALINITY, 0.5, 100, 0.98), 50 * soda / 2 / 1000 / 0.98, 1e-3),  # 98 % pure
        ])  # fmt: skip

    def test_alkalinity_follows_from_the_charge_of_the_conservative_ions(self):
        # Equivalents per mole, from the definition of alkalinity (proton deficit against H2CO3, H2PO4-, NH4+, B(OH)3).
        for formula, equivalents in (
            ("Na2CO3", 2), ("NaHCO3", 1), ("Ca(OH)2", 2), ("NaOH", 1), ("CaCO3", 2), ("Na3PO4·12H2O", 2),
            ("Na2HPO4", 1), ("KH2PO4", 0), ("KNO3", 0), ("CaCl2·2H2O", 0), ("MgSO4·7H2O", 0), ("NH4Cl", 0),
            ("HCl", -1),
            ("Na2B4O7·10H2O", 2), ("Ca(CH3COO)2", 2), ("Na2SiO3", 2), ("NaNO2", 0),
            ("LiCl", 0), ("NaBr", 0), ("NaF", 0), ("KI", 0),
        ):  # fmt: skip
            with self.subTest(formula=formula):
                self.assertEqual(brought_per_mole(formula).get(ALKALINITY, 0), equivalents)

    def test_effects_on_everything(self):
        # 1.63 g KNO3 in 1000 L: 0.163 mg/L x 39.0983/101.1029 of potassium; salt 1.63 mg/L over 1.0233 kg/L.
        found = effects("KNO3", 1.63, 1000)
        self.assertAlmostEqual(found[Parameter.POTASSIUM], 1.63 * M["K"] / (M["K"] + NO3), places=4)
        self.assertAlmostEqual(found[Parameter.NITRATE], 1.63 * NO3 / (M["K"] + NO3), places=4)
        self.assertAlmostEqual(found[Parameter.SALINITY], 0.00163 / 1.0233 * 35 / 35.16504, places=6)
        # 147 g of the dihydrate hold 110.98 g without their water.
        chloride = effects("CaCl2·2H2O", 147.0, 100)
        self.assertAlmostEqual(chloride[Parameter.CHLORIDE], 147000 / 147.0146 * 2 * M["Cl"] / 100, delta=0.05)
        self.assertAlmostEqual(
            chloride[Parameter.SALINITY], 1.1098 / 1.0233 * 35 / 35.16504, delta=0.001
        )  # 110.98 g dry
        self.assertEqual(list(effects("NaHCO3", 1, 1)), [Parameter.SALINITY, ALKALINITY, Parameter.SODIUM])

    def test_the_inverse(self):
        for compound in COMPOUNDS.values():
            for parameter, brought in brought_per_mole(compound.formula).items():
                if brought > 0:
                    with self.subTest(formula=compound.formula, parameter=parameter.value):
                        mass = dose_mass_g(compound.formula, parameter, 0.5, 334, 0.95)
                        self.assertAlmostEqual(rise_from_mass(compound.formula, parameter, mass, 334, 0.95), 0.5)

    def test_water_of_crystals_and_carbon(self):
        self.check([
            (dry_share, ("MgSO4·7H2O",), 1 - 7 * WATER / (M["Mg"] + SO4 + 7 * WATER), 1e-4),
            (dry_share, ("KCl",), 1, 0),
            (carbon_per_mole, ("Na2CO3",), 1, 0),
            (carbon_per_mole, ("Ca(OH)2",), 0, 0),
            (carbon_per_mole, ("Ca(CH3COO)2",), 0, 0),
        ])  # fmt: skip

    def test_usual_mistakes_are_refused(self):
        self.refused([
            (dose_mass_g, ("Na2CO3", ALKALINITY, 0.5, 100, 98), DomainError),  # percent for a fraction
            (dose_mass_g, ("Na2CO3", ALKALINITY, -0.5, 100), DomainError),
            (dose_mass_g, ("Na2CO3", ALKALINITY, 0.5, 0), DomainError),
            (dose_mass_g, ("Na2CO3", ALKALINITY, 50, 100), DomainError),  # mg/L CaCO3 for meq/L
            (dose_mass_g, ("Na2CO3", CALCIUM, 10, 100), InputError),
            (dose_mass_g, ("HCl", ALKALINITY, 0.5, 100), InputError),
            (dose_mass_g, ("soda", ALKALINITY, 0.5, 100), InputError),
            (dose_mass_g, ("", ALKALINITY, 0.5, 100), InputError),
            (brought_per_mole, ("FeCl3",), InputError),
            (brought_per_mole, ("NH4NO3",), InputError),  # whose nitrogen is two things
            (brought_per_mole, ("C6H12O6",), InputError),
            (brought_per_mole, ("Xx2",), InputError),
        ])  # fmt: skip


class Solutions(TableTest):
    def test_millilitres(self):
        self.check([
            # 50 meq in 100 L: 2.64971 g Na2CO3; 100 g/L: 26.497 mL
            (solution_dose_ml, ("Na2CO3", ALKALINITY, 0.5, 100, 100), 26.497, 0.005),
            (solution_rise, ("Na2CO3", ALKALINITY, 26.497, 100, 100), 0.5, 1e-4),
            (label_dose_ml, (0.5, 334, 1, 100, 0.1), 16.7, 1e-9),  # 0.5/0.1 x 334/100 mL
            (label_dose_ml, (20, 71, 10, 50, 5), 20 / 5 * 71 / 50 * 10, 1e-9),
            (stock_mass_g, ("NaHCO3", 80, 2), 160, 1e-9),
            (largest_strength_g_l, ("CaCl2.2H2O",), 800, 0),
            (calcium_per_meq_mg, (), 20.04, 0.001),  # CaCO3: 40.078 / 2
        ])  # fmt: skip

    def test_what_two_part_dosing_leaves(self):
        # NaHCO3 and CaCl2 become CaCO3 and, per meq, one mmol Na (22.98977) and Cl (35.453): 58.443 mg.
        year = 0.35665 * 365 * 58.443 / 1000 / 1.0233 * 35 / 35.16504
        self.check([(two_part_salinity_drift, (0.35665, 365), year, 0.002), (two_part_salinity_drift, (0, 365), 0, 0)])
        pair = two_part_doses(0.2, 100, 80, 70)
        self.assertAlmostEqual(pair.alkalinity_ml, 20 * 84.0066 / 80, delta=0.01)  # 20 meq of NaHCO3
        self.assertAlmostEqual(pair.calcium_ml, 10 * 147.0146 / 70, delta=0.01)  # 10 mmol of CaCl2·2H2O

    def test_magnesium_salts_keep_the_seas_sulfate_to_chloride(self):
        blend = magnesium_blend(50, 334)
        self.assertAlmostEqual(sulfate_to_chloride(blend.chloride_g, blend.sulfate_g), 2.712 / 19.35, places=4)
        magnesium = sum(
            rise_from_mass(formula, MAGNESIUM, mass, 334)
            for formula, mass in (("MgCl2·6H2O", blend.chloride_g), ("MgSO4·7H2O", blend.sulfate_g))
        )
        self.assertAlmostEqual(magnesium, 50)
        # Moles: Cl 0.545793, SO4 0.028231 per kg; sulfate's share of Mg 2/(0.545793/0.028231 + 2) = 0.09376.
        sulfate_mol = 50 * 334 / 1000 / M["Mg"] * 0.09376
        self.assertAlmostEqual(blend.sulfate_g, sulfate_mol * (M["Mg"] + SO4 + 7 * WATER), delta=0.02)

    def test_solubilities_stay_just_below_the_saturated_solution(self):
        # Percent by mass of the salt without water at 20 °C, and density of that solution in kg/L (CRC Handbook).
        for formula, percent, density in (
            ("Na2CO3", 17.7, 1.19), ("NaHCO3", 8.76, 1.063), ("NaOH", 52.2, 1.525), ("CaCl2", 42.7, 1.43),
            ("CaCl2·2H2O", 42.7, 1.43), ("MgCl2·6H2O", 35.3, 1.331), ("MgSO4·7H2O", 25.2, 1.29), ("KCl", 25.5, 1.174),
            ("SrCl2·6H2O", 34.6, 1.39), ("NaNO3", 46.7, 1.38), ("KNO3", 24.0, 1.16), ("KH2PO4", 18.4, 1.14),
            ("Na2HPO4", 7.15, 1.07), ("Na3PO4·12H2O", 10.8, 1.11), ("KI", 59.0, 1.71), ("NaCl", 26.4, 1.198),
        ):  # fmt: skip
            with self.subTest(formula=formula):
                saturated = percent * 10 * density / dry_share(formula)
                ratio = largest_strength_g_l(formula) / saturated
                self.assertTrue(0.973 < ratio <= 1.001, ratio)
        self.assertEqual(largest_strength_g_l("Ca(OH)2"), 1.57)

    def test_beyond_what_dissolves_is_refused_with_the_most_that_does(self):
        with self.assertRaises(DomainError) as raised:
            check_stock("NaHCO3", 150)
        self.assertEqual(raised.exception.high, 93)
        self.refused([
            (check_stock, ("Na2CO3", 300), DomainError),
            (check_stock, ("NaBr", 1200), DomainError),
            (largest_strength_g_l, ("NaBr",), InputError),
            (solution_dose_ml, ("NaHCO3", ALKALINITY, 0.5, 100, 150), DomainError),
            (label_dose_ml, (0.5, 334, 1, 100, 0), DomainError),
            (two_part_doses, (8.0, 100, 80, 70), DomainError),  # dKH for meq/L
        ])  # fmt: skip

    def test_limewater(self):
        # 1.57 g/L at 20 °C, 1.50 at 25; 74.0927 g/mol, two equivalents.
        self.check([
            (limewater_solubility_g_l, (20,), 1.57, 1e-9),
            (limewater_solubility_g_l, (25,), 1.50, 1e-9),
            (limewater_strength_meq_l, (25,), 1.50 / 74.0927 * 2000, 0.01),
            (limewater_strength_meq_l, (20,), 1.57 / 74.0927 * 2000, 0.01),
            (limewater_most_meq_l, (3, 334), 3 * 40.49 / 334, 1e-3),
        ])  # fmt: skip
        covered = limewater_day(0.2, 3, 334)
        self.assertAlmostEqual(covered.mass_g, 0.2 * 334 * 74.0927 / 2000, places=3)
        self.assertAlmostEqual(covered.calcium_mg_l, 0.2 * 20.039, places=3)
        bounded = limewater_day(0.6, 3, 334)
        self.assertAlmostEqual(bounded.mass_g, 3 * 1.50, places=6)  # more than dissolves in 3 L adds nothing
        self.assertAlmostEqual(bounded.left_meq_l, 0.6 - 3 * 40.49 / 334, delta=1e-3)
        self.refused([
            (limewater_solubility_g_l, (77,), DomainError),
            (limewater_day, (0.2, -3, 334), DomainError),
        ])  # fmt: skip

    @given(st.sampled_from(sorted(COMPOUNDS)), st.floats(0.01, 0.8), st.floats(10, 2000), st.floats(0.5, 1))
    def test_dose_and_rise_are_inverse_and_half_the_strength_takes_twice_the_volume(self, key, share, volume, purity):
        compound = COMPOUNDS[key]
        parameter = next(p for p, brought in brought_per_mole(compound.formula).items() if brought > 0)
        strength = compound.solubility_g_l * share
        dose = solution_dose_ml(compound.formula, parameter, 0.4, volume, strength, purity)
        assume(dose <= 1e6)
        self.assertAlmostEqual(solution_rise(compound.formula, parameter, dose, volume, strength, purity), 0.4)
        weaker = solution_dose_ml(compound.formula, parameter, 0.4, volume, strength / 2, purity)
        self.assertAlmostEqual(weaker / dose, 2)
