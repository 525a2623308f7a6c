"""Volumes of shapes, displacement, net volume by salt; and the sums at the tank."""

from math import pi, sqrt

from hypothesis import given
from hypothesis import strategies as st

from salttide.core.basics.errors import DomainError, NumberError
from salttide.core.science.draining import (
    bucket_count,
    drain_back_l,
    drain_minutes,
    exposed_gear,
    fill_minutes,
    hose_flow_l_min,
    level_drop_cm,
    siphon_tube_cm,
    sump_holds,
    sump_room_l,
    zone_volumes_l,
)
from salttide.core.science.geometry import (
    bow_front_volume_l,
    box_volume_l,
    cylinder_volume_l,
    hexagon_volume_l,
    net_volume_by_salt,
    net_volume_l,
    quarter_round_volume_l,
    rock_displacement_l,
    sand_displacement_l,
)
from salttide.core.science.seawater import absolute_salinity, density_kg_l
from tests.core.tables import TableTest

sides = st.floats(10, 300)


class Volumes(TableTest):
    def test_shapes(self):
        self.check([
            (box_volume_l, (100, 50, 40), 200, 1e-9),
            (box_volume_l, (117.6, 57.6, 44), 298.04544, 1e-6),  # Beacon: 298.05 - 22 + 58 = 334.05
            (cylinder_volume_l, (60, 50), pi * 30**2 * 50 / 1000, 1e-9),
            (quarter_round_volume_l, (60, 50), pi * 60**2 / 4 * 50 / 1000, 1e-9),
            (hexagon_volume_l, (30, 50), 1.5 * sqrt(3) * 900 * 50 / 1000, 1e-9),
            # A bow of half the length is a half circle: box 100 x 40 and pi 50^2 / 2, 50 deep.
            (bow_front_volume_l, (100, 40, 50, 50), (4000 + pi * 1250) * 50 / 1000, 1e-6),
            # Chord 96, height 14: R = (48^2 + 14^2)/28 = 89.2857; angle 2 asin(48/R) = 1.135177;
            # segment R^2/2 (1.135177 - sin 1.135177 = 0.228477...) = 910.7 cm2; with 96 x 40, 45 deep: 213.8 L.
            (bow_front_volume_l, (96, 40, 14, 45), 213.8, 0.1),
            (sand_displacement_l, (88.4 * 43.4, 12), 88.4 * 43.4 * 12 * 0.6 / 1000, 1e-9),
            (rock_displacement_l, (30,), 15, 1e-12),
            (rock_displacement_l, (30, 2.5), 12, 1e-12),
            (net_volume_l, (298.04544, 22, 58), 334.04544, 1e-9),
        ])  # fmt: skip

    def test_a_flat_bow_is_nearly_two_thirds_of_its_rectangle(self):
        # The segment of a small height b over a chord c is 2/3 b c (parabola).
        flat = bow_front_volume_l(100, 40, 1, 50) - box_volume_l(100, 40, 50)
        self.assertAlmostEqual(flat, 2 / 3 * 100 * 1 * 50 / 1000, delta=0.01)

    def test_by_a_measured_salt_addition(self):
        # 334 L at 34 ppt: salt that makes 35 is rho V 1000 (S35 - S34)/(1000 - S35), in S_R.
        low, high = absolute_salinity(34), absolute_salinity(35)
        mass = density_kg_l(34, 25) * 334 * 1000 * (high - low) / (1000 - high)
        self.check([
            (net_volume_by_salt, (mass, 34, 35), 334, 1e-6),
            (net_volume_by_salt, (mass / 0.97, 34, 35, 0.97), 334, 0.5),  # a product with 3 % water brings some along
        ])  # fmt: skip

    def test_usual_mistakes_are_refused(self):
        self.refused([
            (box_volume_l, (0, 50, 40), DomainError),
            (box_volume_l, (100, -50, 40), DomainError),
            (box_volume_l, (100, 50, 4000), DomainError),  # millimetres
            (box_volume_l, ("100", 50, 40), NumberError),
            (bow_front_volume_l, (100, 40, 60, 50), DomainError),  # bulges further than a half circle
            (sand_displacement_l, (88 * 43, 12, 40), DomainError),  # percent
            (net_volume_l, (100, 150, 50), DomainError),  # rock as large as the tank
            (net_volume_by_salt, (100, 35, 35.1), DomainError),  # below what can be read
            (net_volume_by_salt, (100, 35, 34), DomainError),
            (rock_displacement_l, (30, 0), DomainError),
        ])  # fmt: skip

    @given(sides, sides, sides, st.floats(0.02, 0.5))
    def test_a_bow_adds_more_the_further_it_goes(self, length, width, depth, share):
        flat, bow = box_volume_l(length, width, depth), bow_front_volume_l(length, width, length * share, depth)
        self.assertGreater(bow, flat)
        self.assertLessEqual(bow - flat, pi * length**2 / 8 * depth / 1000 + 1e-6)

    @given(sides, sides)
    def test_four_quarters_are_a_cylinder(self, radius, depth):
        self.assertAlmostEqual(
            4 * quarter_round_volume_l(radius, depth), cylinder_volume_l(2 * radius, depth), places=6
        )


class AtTheTank(TableTest):
    BEACON = 117.6 * 57.6

    def test_by_hand(self):
        self.check([
            (level_drop_cm, (40, self.BEACON), 40000 / 6773.76, 1e-9),
            (level_drop_cm, (0, self.BEACON), 0, 0),
            (bucket_count, (40, 15), 3, 0),
            (bucket_count, (45, 15), 3, 0),
            (bucket_count, (45.1, 15), 4, 0),
            (drain_back_l, (self.BEACON, 1.5), 10.16064, 1e-9),
            (sump_room_l, (4000, 40, 25), 60, 1e-9),
            (fill_minutes, (40, 600), 4, 1e-12),
            (siphon_tube_cm, (44,), 44, 0),
            (siphon_tube_cm, (20,), 30, 0),
            (siphon_tube_cm, (90,), 60, 0),
        ])  # fmt: skip
        self.assertEqual(zone_volumes_l(40, [2, 1, 1]), (20, 10, 10))
        self.assertTrue(sump_holds(10.2, 60))
        self.assertFalse(sump_holds(60.1, 60))

    def test_a_wide_short_hose_runs_as_torricelli_with_its_ends_and_wall(self):
        # 50 mm, 0.1 m, head 50 cm: wall loss f L/D with f 0.316/Re^0.25, Re 1.03e5: 0.0176 x 2 = 0.035.
        # v = sqrt(2 x 9.80665 x 0.5 / 1.535) = 2.527 m/s; area 19.635 cm2: 297.8 L/min.
        self.assertAlmostEqual(hose_flow_l_min(50, 50, 0.1), 297.8, delta=1.5)

    def test_a_hose_of_everyday_size(self):
        # 16 mm, 3 m, head 80 cm: f = 0.0249 at Re 26 800; losses 1.5 + 4.67; v = sqrt(15.69/6.17) = 1.595: 19.2 L/min.
        self.assertAlmostEqual(hose_flow_l_min(16, 80, 3), 19.2, delta=0.2)

    def test_a_thin_hose_runs_slowly_and_smoothly(self):
        # Laminar, 4 mm, 5 m, head 10 cm: g h = 0.75 v^2 + 32 nu L/D^2 v, that is 0.980665 = 0.75 v^2 + 9.5 v:
        # v = 0.10240 m/s through 12.566 mm2: 0.0772 L/min.
        self.assertAlmostEqual(hose_flow_l_min(4, 10, 5), 0.0772, delta=0.0002)

    def test_draining_takes_longer_as_the_head_falls(self):
        first = 40 / hose_flow_l_min(16, 80, 3)
        last = 40 / hose_flow_l_min(16, 80 - 40000 / self.BEACON, 3)
        minutes = drain_minutes(40, 16, 80, 3, self.BEACON)
        self.assertTrue(first < minutes < last)
        # 50 mm of 0.1 m, with losses k = 1.54 at any head: t = 2 A (sqrt h0 - sqrt h1)/(a sqrt(2 g / k)).
        a, area = pi * 0.05**2 / 4, self.BEACON / 1e4
        exact = 2 * area * (sqrt(0.5) - sqrt(0.5 - 0.04 / area)) / (a * sqrt(2 * 9.80665 / 1.54)) / 60
        self.assertAlmostEqual(drain_minutes(40, 50, 50, 0.1, self.BEACON), exact, delta=0.02 * exact)

    def test_it_says_how_much_runs_out_before_the_outlet_falls_dry(self):
        with self.assertRaises(DomainError) as raised:
            drain_minutes(200, 16, 10, 3, self.BEACON)
        self.assertGreater(drain_minutes(8.9, 16, 10, 3, 1000), 0)
        self.assertEqual(raised.exception.high, 61.0)  # 9 cm of 6773.76 cm2, 1 cm is left over the outlet

    def test_what_the_falling_level_uncovers_soonest_first(self):
        depths = {"probe": 5.0, "heater": 4.0, "powerhead": 12.0}
        bare = exposed_gear(depths, 40, self.BEACON)  # falls 5.9 cm
        self.assertEqual([item.name for item in bare], ["heater", "probe"])
        self.assertAlmostEqual(bare[0].after_l, 4 * self.BEACON / 1000)
        self.assertEqual(exposed_gear(depths, 0, self.BEACON), ())

    def test_usual_mistakes_are_refused(self):
        self.refused([
            (level_drop_cm, (40, 0), DomainError),
            (bucket_count, (40, 0), DomainError),
            (zone_volumes_l, (40, [0, 0]), DomainError),
            (zone_volumes_l, (40, [1, -1]), DomainError),
            (sump_room_l, (4000, 40, 45), DomainError),
            (hose_flow_l_min, (0, 80, 3), DomainError),
            (drain_minutes, (200, 16, 10, 3, self.BEACON), DomainError),  # deeper than the outlet
            (drain_minutes, (9.1, 16, 10, 3, 1000), DomainError),  # 9.1 cm of 10 leave less than one
            (fill_minutes, (40, 0), DomainError),
            (siphon_tube_cm, (0.44,), DomainError),  # metres
        ])  # fmt: skip

    @given(st.floats(6, 50), st.floats(10, 200), st.floats(0.5, 20))
    def test_wider_higher_and_shorter_runs_faster(self, bore, head, length):
        flow = hose_flow_l_min(bore, head, length)
        self.assertGreater(hose_flow_l_min(bore * 1.1, head, length), flow)
        self.assertGreater(hose_flow_l_min(bore, head * 1.2, length), flow)
        self.assertLess(hose_flow_l_min(bore, head, length * 1.2), flow)
