"""What a batch is asked for: the changes it could be for, and its temperature and targets. By hand."""

import unittest
from dataclasses import replace

from salttide.core.basics.errors import DomainError, InputError, SaltTideError
from salttide.core.ledger.balance import Present
from salttide.core.planning.batch_request import (
    BatchRequest,
    PortionRequest,
    batch_targets,
    batch_temperature,
    check_request,
    wanted_by_routine,
    wanted_by_step,
)
from salttide.core.planning.change import plan_change
from salttide.core.planning.change_order import TankWork, work_of_plan
from salttide.core.planning.plumbing import Drain
from salttide.core.planning.work_order import Water
from salttide.core.science.parameters import Parameter, Span
from salttide.core.system.plumbing import Plumbing
from tests.core.cases import BEACON, EELGRASS, SKIFF, TODAY, WATER, dkh, reading, request

S, T, A = Parameter.SALINITY, Parameter.TEMPERATURE, Parameter.ALKALINITY


def known(parameter, value, sd=0.0):
    return {parameter: Present(value, sd, reading(parameter, value), 0)}


def change_order(**changes):
    """The order of a plain change, with other values."""
    plan = plan_change(BEACON, WATER, request(), {}, TODAY)
    (work,) = work_of_plan(BEACON, request(), plan, TankWork(Plumbing(), Drain(), siphon=False), [], {})
    return replace(work.order, **changes)


class Wanted(unittest.TestCase):
    def test_a_routine_change_aims_at_what_is_well_inside_the_band_else_at_its_aim(self):
        band = BEACON.bands[S]
        inside = wanted_by_routine(BEACON, known(S, band.middle + 0.1))
        self.assertAlmostEqual(inside.salinity, band.middle + 0.1)
        # 12 % of Beacon's net volume.
        self.assertAlmostEqual(inside.litres, 0.12 * BEACON.volume_l)
        self.assertTrue(inside.takes_salt)
        self.assertAlmostEqual(wanted_by_routine(BEACON, known(S, band.low - 1)).salinity, 35.0)

    def test_without_a_reading_it_is_the_usual_salinity(self):
        self.assertEqual(wanted_by_routine(SKIFF, {}).salinity, 35.0)

    def test_natural_seawater_needs_no_batch(self):
        self.assertIsNone(wanted_by_routine(EELGRASS, known(S, 34.0)))

    def test_a_planned_change_says_what_it_needs(self):
        job = change_order(water=Water.MIX, litres=40.0, incoming={S: 34.5})
        found = wanted_by_step(BEACON, 7, job)
        self.assertEqual((found.litres, found.salinity, found.takes_salt, found.step_id), (40.0, 34.5, True, 7))
        self.assertFalse(wanted_by_step(BEACON, 7, replace(job, water=Water.NATURAL)).takes_salt)
        for other in (replace(job, water=Water.STORED), replace(job, water=Water.SYSTEM), replace(job, litres=0.0)):
            self.assertIsNone(wanted_by_step(BEACON, 7, other))


class Asked(unittest.TestCase):
    def request(self, litres=40.0, salinity=35.0, **more):
        return BatchRequest(1, 60.0, [PortionRequest(BEACON, litres, salinity, 3)], **more)

    def test_a_portion_is_its_share_of_the_system(self):
        portion = check_request(self.request())[0]
        self.assertAlmostEqual(portion.fraction, 40 / BEACON.volume_l)
        self.assertEqual((portion.name, portion.litres, portion.salinity, portion.step_id), ("Beacon", 40.0, 35.0, 3))

    def test_what_is_accepted_and_what_not(self):
        for good in (
            self.request(litres=0.5), self.request(litres=BEACON.volume_l), self.request(salinity=15.0),
            self.request(salinity=42.0), self.request(heater_w=2000.0), self.request(mixing_h=0.1),
            self.request(mixing_h=48.0),
        ):  # fmt: skip
            self.assertEqual(len(check_request(good)), 1)
        for field, bad in (
            ("portions.0.litres", self.request(litres=0.49)),
            ("portions.0.litres", self.request(litres=BEACON.volume_l + 0.1)),
            ("portions.0.salinity", self.request(salinity=14.9)),
            ("portions.0.salinity", self.request(salinity=42.1)),
            ("heater_w", self.request(heater_w=2001.0)),
            ("heater_w", self.request(heater_w=-1.0)),
            ("mixing_h", self.request(mixing_h=0.09)),
            ("mixing_h", self.request(mixing_h=48.1)),
            ("portions", replace(self.request(), portions=[])),
        ):
            with self.subTest(field=field), self.assertRaises((DomainError, InputError)) as refused:
                check_request(bad)
            error: SaltTideError = refused.exception
            self.assertEqual(error.field, field)


class Values(unittest.TestCase):
    def test_it_is_as_warm_as_its_system_within_the_band(self):
        system = replace(BEACON, bands={T: Span(24.0, 26.0)})
        for water, expected in (({T: 25.5}, 25.5), ({T: 22.0}, 24.0), ({T: 28.0}, 26.0), ({}, 25.0)):
            self.assertEqual(batch_temperature(system, water), expected)
        self.assertEqual(batch_temperature(replace(BEACON, bands={}), {T: 22.0}), 22.0)
        self.assertEqual(batch_temperature(replace(BEACON, bands={}), {}), 25.0)

    def test_the_lowest_target_of_all_systems_counts(self):
        high = replace(BEACON, bands={A: Span(dkh(8), dkh(10))})
        low = replace(SKIFF, bands={A: Span(dkh(7), dkh(9))})
        both = [(high, known(A, dkh(9)), None), (low, known(A, dkh(8.2)), None)]
        self.assertAlmostEqual(batch_targets([A], both)[A], dkh(8.2))
        self.assertAlmostEqual(batch_targets([A], both[::-1])[A], dkh(8.2))

    def test_a_planned_change_says_the_alkalinity_and_only_that(self):
        system = replace(BEACON, bands={A: Span(dkh(8), dkh(10)), Parameter.CALCIUM: Span(400, 440)})
        job = change_order(water=Water.MIX, litres=40.0, incoming={S: 35.0, A: dkh(9.4), Parameter.CALCIUM: 500.0})
        present = {**known(A, dkh(8.5)), **known(Parameter.CALCIUM, 410.0)}
        found = batch_targets([A, Parameter.CALCIUM], [(system, present, job)])
        self.assertAlmostEqual(found[A], dkh(9.4))
        self.assertEqual(found[Parameter.CALCIUM], 410.0)

    def test_what_is_not_known_or_not_asked_for_has_no_target(self):
        self.assertEqual(batch_targets([A], [(BEACON, {}, None)]), {})
        self.assertEqual(batch_targets([], [(BEACON, known(A, 3.0), None)]), {})


if __name__ == "__main__":
    unittest.main()
