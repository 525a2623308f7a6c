"""Batches: salt mass, fresh water, corrections."""

import unittest

from hypothesis import given
from hypothesis import strategies as st

from salttide.core.errors import DomainError
from salttide.core.mix import SALT_SHARE, mix_batch, product_yield, salt_to_strengthen, water_to_weaken
from salttide.core.parameters import Parameter
from salttide.core.seawater import absolute_salinity, density_kg_l
from tests.core.cases import GANNET, KITTIWAKE, PLAINMARK


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
        for salinity in (1, 20, 35, 42):
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
        dissolved_g = batch.mass_g * product_yield(salt)[-1].value
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
        mass = salt_to_strengthen(KITTIWAKE, 40, 33, 35).value
        self.assertAlmostEqual(mass, 87.86, delta=0.05)

    @given(st.floats(5, 200), st.floats(25, 35), st.floats(0.2, 4))
    def test_strengthening_arrives_at_the_target(self, volume, low, rise):
        mass = salt_to_strengthen(KITTIWAKE, volume, low, low + rise).value
        water_kg = volume * density_kg_l(low, 25)
        salt_g = water_kg * absolute_salinity(low) + mass * product_yield(KITTIWAKE)[-1].value
        self.assertAlmostEqual(salt_g / (water_kg + mass / 1000), absolute_salinity(low + rise), places=6)

    def test_weakening_takes_out_first(self):
        # 45 L from 36 to 35: 45 x 1/36 = 1.25 L out, as much fresh water in: 36 x 43.75/45 = 35.
        self.assertAlmostEqual(water_to_weaken(45, 36, 35).value, 1.25)
