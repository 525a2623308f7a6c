"""Batches: salt mass, fresh water, corrections."""

import unittest
from dataclasses import replace
from math import inf

from hypothesis import given
from hypothesis import strategies as st

from salttide.core.basics.errors import DomainError, NumberError, PlanError
from salttide.core.science.mix import (
    SALT_SHARE,
    StrengthBasis,
    correct_batch,
    fresh_water_l,
    mix_batch,
    salinity_of_mix,
    salt_for_fresh_water_g,
    salt_mass_by_rule_g,
    salt_mass_g,
    salt_to_strengthen_g,
    sea_salt_share,
    water_to_weaken_l,
)
from salttide.core.science.parameters import Parameter, Span
from salttide.core.science.salts import (
    batch_doses,
    blend_of_salts,
    blend_share,
    label_range,
    label_span,
    natural_seawater,
    rank_salts,
    strength_from_batches,
)
from salttide.core.science.seawater import absolute_salinity, density_kg_l
from salttide.core.science.units import DKH_PER_MEQ_L
from tests.core.cases import GANNET, KITTIWAKE, PLAINMARK
from tests.core.tables import TableTest

ALKALINITY, CALCIUM, MAGNESIUM = Parameter.ALKALINITY, Parameter.CALCIUM, Parameter.MAGNESIUM
FRESH = StrengthBasis.FRESH_WATER


class SaltMass(unittest.TestCase):
    def test_at_35_ppt_is_the_labels(self):
        # 45 L x 37.1 g/L = 1669.5 g; 20 L x 35.4 g/L = 708 g.
        self.assertAlmostEqual(mix_batch(KITTIWAKE, 45, 35).mass_g, 1669.5, places=3)
        self.assertAlmostEqual(mix_batch(PLAINMARK, 20, 35).mass_g, 708.0, places=3)

    def test_a_label_per_litre_of_fresh_water_is_not_the_same(self):
        # Gannet: 39.2 g into 1 L of fresh water (0.99705 kg at 25 °C) gives 1036.25 g of water of 35 ppt, which is
        # 1036.25 / 1.02334 = 1012.6 mL. So 39.2 / 1.0126 = 38.71 g for each finished litre, and 987.5 mL of water.
        batch = mix_batch(GANNET, 1, 35)
        self.assertAlmostEqual(batch.mass_g, 38.71, delta=0.01)
        self.assertAlmostEqual(batch.fresh_water_l, 0.9875, delta=0.0002)

    def test_dissolved_salt_is_that_of_teos_10(self):
        for salinity in (5, 20, 35, 42):
            self.assertAlmostEqual(SALT_SHARE.value(S=salinity), absolute_salinity(salinity), places=9)

    def test_other_salinities_follow_the_dissolved_salt(self):
        # 36.2 ppt: S_R = 36.2 x 35.16504/35 = 36.3707 g/kg, density 1.02425 kg/L (EOS-80 at 36.2 and 25 °C);
        # yield 0.96995 from 1.02334 x 35.16504 / 37.1. 40 L: 1.02425 x 40 x 36.3707 / 0.96995 = 1536.3 g.
        self.assertAlmostEqual(mix_batch(KITTIWAKE, 40, 36.2).mass_g, 1536.3, delta=0.4)

    @given(st.floats(1, 500), st.floats(20, 41), st.sampled_from([KITTIWAKE, GANNET, PLAINMARK]))
    def test_mass_is_conserved(self, volume, salinity, salt):
        batch = mix_batch(salt, volume, salinity)
        total_kg = batch.fresh_water_l * density_kg_l(0, 25) + batch.mass_g / 1000
        self.assertAlmostEqual(total_kg, volume * density_kg_l(salinity, 25), places=6)
        dissolved_g = batch.mass_g * salt.sea_salt
        self.assertAlmostEqual(dissolved_g / total_kg, absolute_salinity(salinity), places=6)

    def test_what_it_holds_scales_with_salinity_and_keeps_its_range(self):
        # Kittiwake at 35: 2.80 to 3.10 meq/L. At 28 ppt, 28/35 = 0.8 of it.
        holds = mix_batch(KITTIWAKE, 10, 28).holds[Parameter.ALKALINITY]
        self.assertAlmostEqual(holds.low, 2.24)
        self.assertAlmostEqual(holds.high, 2.48)

    def test_impossible_batches_name_their_field(self):
        for volume, salinity, field in ((0, 35, "volume_l"), (40, 350, "salinity"), (40, 0, "salinity")):
            with self.subTest(field=field), self.assertRaises(DomainError) as raised:
                mix_batch(KITTIWAKE, volume, salinity)
            self.assertEqual(raised.exception.field, field)

    def test_the_working_ends_in_the_number_shown(self):
        batch = mix_batch(KITTIWAKE, 45, 35)
        self.assertIn(batch.mass_g, [step.value for step in batch.working])
        self.assertEqual(batch.working[-1].value, batch.fresh_water_l)


class Corrections(unittest.TestCase):
    def test_the_proportional_rule_falls_short(self):
        # From 33 to 35 in 40 L the rule gives 40 x 37.1 x 2/35 = 84.8 g. The salt's own mass and water want
        # 40 x 1.02183 x 1000 x 2.00943 / (969.95 - 35.165) = 87.86 g: 3.6 % more.
        mass = salt_to_strengthen_g(40, 33, 35, KITTIWAKE.sea_salt)
        self.assertAlmostEqual(mass, 87.86, delta=0.05)

    @given(st.floats(5, 200), st.floats(25, 35), st.floats(0.2, 4))
    def test_strengthening_arrives_at_the_target(self, volume, low, rise):
        mass = salt_to_strengthen_g(volume, low, low + rise, KITTIWAKE.sea_salt)
        water_kg = volume * density_kg_l(low, 25)
        salt_g = water_kg * absolute_salinity(low) + mass * KITTIWAKE.sea_salt
        self.assertAlmostEqual(salt_g / (water_kg + mass / 1000), absolute_salinity(low + rise), places=6)

    def test_weakening_takes_out_first(self):
        # 45 L from 36 to 35: 45 x 1/36 = 1.25 L out, as much fresh water in: 36 x 43.75/45 = 35.
        self.assertAlmostEqual(water_to_weaken_l(45, 36, 35), 1.25)


class PlainNumbers(TableTest):
    def test_masses(self):
        # At 35 ppt the label's own grams; elsewhere rho S_R over that at 35 (EOS-80: 1021.831 at 33, 1023.343 at 35).
        scale = 1021.831 * 33 / (1023.343 * 35)
        self.check([
            (salt_mass_g, (60, 35, 37.1), 2226, 1e-6),
            (salt_mass_g, (60, 33, 37.1), 2226 * scale, 0.1),
            (salt_mass_g, (1, 35, 39.2, FRESH), 38.71, 0.01),  # derived above
            (salt_mass_by_rule_g, (60, 33, 37.1), 2226 * 33 / 35, 1e-9),
            # 1 L of fresh water, 0.99705 kg: m y = (997.05 + m) S_R/1000 with S_R 35.16504
            (salt_for_fresh_water_g, (1, 35, 1.0), 997.048 * 35.16504 / (1000 - 35.16504), 0.01),
            (salt_for_fresh_water_g, (20, 35, 0.93), 20 * 997.048 * 35.16504 / (930 - 35.16504), 0.2),
            (salinity_of_mix, (39.18, 1, 0.93), 35, 0.01),
            (salinity_of_mix, (78.36, 2, 0.93), 35, 0.01),
            (fresh_water_l, (1, 35, 38.71), (1023.343 - 38.71) / 997.048, 2e-4),
            (sea_salt_share, (37.1,), 1.023343 * 35.16504 / 37.1, 1e-5),
            (sea_salt_share, (39.2, FRESH), 35.16504 * (997.048 + 39.2) / (1000 * 39.2), 1e-5),
        ])  # fmt: skip

    def test_corrections_within_the_headroom(self):
        # 45 L at 36 to 35: 45 x 36/35 = 46.286 L. With room: 1.286 L in. In a 46 L container 46 x 35/36 = 44.722 stay.
        roomy, full = correct_batch(45, 60, 36, 35), correct_batch(45, 46, 36, 35)
        self.assertAlmostEqual(roomy.fresh_l, 45 / 35)
        self.assertAlmostEqual(full.take_out_l, 45 - 46 * 35 / 36)
        self.assertAlmostEqual(full.volume_l, 46)
        weak = correct_batch(40, 60, 33, 35, 0.96995)
        self.assertAlmostEqual(weak.salt_g, 87.86, delta=0.05)
        # (40 x 1.021831 + 0.08786)/1.023343 = 40.0267 L
        self.assertAlmostEqual(weak.volume_l, 40.0267, delta=0.002)
        self.assertGreater(correct_batch(40, 40, 33, 35).take_out_l, 0)

    @given(st.floats(10, 100), st.floats(1, 1.5), st.floats(30, 40), st.floats(30, 40))
    def test_a_correction_conserves_salt_and_keeps_to_the_container(self, volume, room, before, after):
        done = correct_batch(volume, volume * room, before, after)
        self.assertLessEqual(done.volume_l, volume * room + 1e-6)
        kept = volume - done.take_out_l
        if after < before:
            self.assertAlmostEqual(kept * before, done.volume_l * after, places=6)
        else:
            salt = kept * density_kg_l(before, 25) * absolute_salinity(before) + done.salt_g
            self.assertAlmostEqual(
                salt, done.volume_l * density_kg_l(after, 25) * absolute_salinity(after), delta=1e-6 * salt + 1e-9
            )

    def test_usual_mistakes_are_refused(self):
        self.refused([
            (salt_mass_g, (60, 1.0264, 37.1), DomainError),  # specific gravity for salinity
            (salt_mass_g, (60, 350, 37.1), DomainError),
            (salt_mass_g, (-60, 35, 37.1), DomainError),
            (salt_mass_g, (60, 35, 0.0371), DomainError),  # kg for g
            (salt_mass_g, ("60", 35, 37.1), NumberError),
            (salt_to_strengthen_g, (40, 35, 33, 0.97), DomainError),
            (water_to_weaken_l, (40, 33, 35), DomainError),
            (correct_batch, (45, 40, 36, 35), DomainError),  # larger than its container
            (salinity_of_mix, (900, 1, 1), DomainError),  # brine
        ])  # fmt: skip


class Shelf(TableTest):
    def test_labels(self):
        self.assertEqual(label_range(9.6, 10.4, 35.0), Span(9.6, 10.4))
        # Stated at 33 ppt: 405 there are 405 x 35/33 at 35.
        self.assertAlmostEqual(label_range(405, 425, 33).low, 405 * 35 / 33)
        self.assertAlmostEqual(label_range(405, 425, 33).high, 425 * 35 / 33)
        self.assertEqual(label_range(360).high, inf)  # "at least"
        self.assertAlmostEqual(label_span(428, 12).low, 416)
        self.refused([(label_range, (425, 405), DomainError), (label_span, (2.95, 0.15, 1.0264), DomainError)])

    def test_a_lower_bound_stays_one_in_the_batch(self):
        batch = mix_batch(replace(PLAINMARK, values={CALCIUM: label_range(360)}), 10, 28)
        self.assertEqual((batch.holds[CALCIUM].low, batch.holds[CALCIUM].high), (288, inf))

    def test_natural_seawater(self):
        # mg per kg times 1.02334 kg/L.
        water = natural_seawater()
        for parameter, expected in (
            (CALCIUM, 421.6),
            (MAGNESIUM, 1314.0),
            (Parameter.POTASSIUM, 408.3),
        ):
            with self.subTest(parameter=parameter.value):
                self.assertAlmostEqual(water[parameter], expected, delta=0.1)
        # Alkalinity is per kg as well: 2.3 x 1.02334 = 2.3537 meq/L, 6.60 dKH.
        self.assertAlmostEqual(water[ALKALINITY], 2.35369, places=4)
        self.assertAlmostEqual(water[ALKALINITY] * DKH_PER_MEQ_L, 6.60, places=2)
        # 2.3 meq/kg x 28/35 x 1.01806 kg/L (TEOS-10, 28 ppt at 25 °C).
        self.assertAlmostEqual(natural_seawater(28)[ALKALINITY], 2.3 * 0.8 * 1.01806, places=4)
        # Of 1 kg, 35 g of salt less what is not listed (bicarbonate, bromide, borate, fluoride: 0.21 g).
        listed = sum(value for parameter, value in water.items() if parameter not in (ALKALINITY, Parameter.SALINITY))
        self.assertAlmostEqual(listed / 1.02334, 34_945, delta=15)
        for parameter, mg_kg in ((Parameter.STRONTIUM, 7.9), (Parameter.SODIUM, 10_780), (Parameter.SULFATE, 2_712)):
            self.assertAlmostEqual(water[parameter] / 1.02334, mg_kg, delta=0.001 * mg_kg)

    def test_blends(self):
        self.check([
            (blend_share, (34, 36, 32), 0.5, 1e-12),
            (blend_share, (2.6, 3.4, 2.4), 0.2, 1e-12),  # 0.2 x 3.4 + 0.8 x 2.4
            (blend_share, (35, 0, 40), 0.125, 1e-12),
        ])  # fmt: skip
        self.refused([(blend_share, (38, 36, 32), PlanError), (blend_share, (35, 35, 35), PlanError)])
        # Ca 428 and 415, Mg 1315 and 1320; a target of both halves: 421.5 and 1317.5.
        shares = blend_of_salts(KITTIWAKE, GANNET, {CALCIUM: 421.5, MAGNESIUM: 1317.5})
        self.assertAlmostEqual(shares[0], 0.5, places=4)
        self.assertEqual(blend_of_salts(PLAINMARK, KITTIWAKE, {CALCIUM: 500})[0], 0)  # never less than nothing
        self.refused([(blend_of_salts, (KITTIWAKE, GANNET, {Parameter.POTASSIUM: 400}), PlanError)])

    def test_ranking_by_what_has_to_be_added(self):
        bands = {ALKALINITY: Span(2.8, 3.2), CALCIUM: Span(400, 450), MAGNESIUM: Span(1270, 1400)}
        ranked = rank_salts([PLAINMARK, GANNET, KITTIWAKE], bands, 35)
        self.assertEqual(
            [item.salt.name for item in ranked], ["Kittiwake Standard", "Plainmark Basic", "Gannet Ground"]
        )
        self.assertEqual(ranked[0].total_g, 0)
        self.assertEqual(ranked[2].above, (ALKALINITY,))  # 10 dKH are 3.57 meq/L
        # Plainmark: alkalinity 6.8 dKH = 2.4252 meq/L, 37.48 meq in 100 L of 84.007 g/eq; Ca 28 mg/L; Mg 80 mg/L.
        self.assertAlmostEqual(ranked[1].additions_g["NaHCO3"], 37.48 * 0.084007, delta=0.01)
        self.assertAlmostEqual(ranked[1].additions_g["CaCl2·2H2O"], 2.8 * 147.0146 / 40.078, delta=0.01)
        self.assertAlmostEqual(ranked[1].additions_g["MgCl2·6H2O"], 8.0 * 203.303 / 24.305, delta=0.02)

    def test_doses_that_make_a_batch_match(self):
        doses = batch_doses(
            {CALCIUM: 372, ALKALINITY: 2.4, MAGNESIUM: 1300}, {CALCIUM: 420, ALKALINITY: 2.9, MAGNESIUM: 1300}, 60
        )
        self.assertEqual(list(doses), ["CaCl2·2H2O", "NaHCO3"])
        self.assertAlmostEqual(doses["CaCl2·2H2O"], 48 * 60 / 40.078 * 147.0146 / 1000, places=3)
        self.assertAlmostEqual(doses["NaHCO3"], 0.5 * 60 * 84.0066 / 1000, places=3)
        self.refused([(batch_doses, ({}, {CALCIUM: 420}, 60), PlanError)])

    def test_what_measured_batches_teach(self):
        # 2226 g in 60 L are 37.1 g/L; measured 34.3 they would make 35 with 37.1 x (rho S)35/(rho S)34.3.
        expected = 37.1 * 1.023343 * 35 / (1.022814 * 34.3)
        learned = strength_from_batches([(2226, 60, 34.3)])
        self.assertAlmostEqual(learned.strength_g_l, expected, delta=0.01)
        self.assertAlmostEqual(learned.sd, expected * 0.3 / 35, delta=0.001)
        self.assertFalse(learned.differs_from(37.3))
        self.assertTrue(learned.differs_from(expected - 2.1 * learned.sd))
        self.assertFalse(learned.differs_from(expected - 1.9 * learned.sd))
        # Two batches of 60 L at 35 ppt with 2160 and 2280 g: 36 and 38 g/L; spread sqrt(2), of the mean 1.
        pair = strength_from_batches([(2160, 60, 35), (2280, 60, 35)])
        self.assertAlmostEqual(pair.strength_g_l, 37)
        self.assertAlmostEqual(pair.sd, 1)
        many = strength_from_batches([(2226, 60, 33.0)] * 9)
        self.assertTrue(many.differs_from(37.1))
        self.assertAlmostEqual(many.sd, many.strength_g_l * 0.3 / 35 / 3)
        self.refused([
            (strength_from_batches, ([],), PlanError),
            (strength_from_batches, ([(2226, 60, 1.026)],), DomainError),
        ])  # fmt: skip
