"""Geometry and bench: what is typed, and what follows."""

import unittest

from salttide.core.basics.errors import DomainError, InputError
from salttide.core.estimate.forecast import foreseen
from salttide.core.ledger.bench import Row, accept, examine, usual_instruments
from salttide.core.ledger.bench_row import Instrument
from salttide.core.science.parameters import Parameter
from salttide.core.science.units import DKH_PER_MEQ_L
from salttide.core.system.catalogue import presets
from salttide.core.system.system import Methods, check_methods
from salttide.core.system.volume import Geometry, net_volume
from tests.core.cases import BEACON, EELGRASS, NOW, SKIFF, SLIPWAY, ZONE, dkh, ledger, reading


class NetVolume(unittest.TestCase):
    def test_the_household(self):
        # Inside volume less displaced plus sump, written out in scenario order: 334, 125, 71, 280 L.
        for system, litres in ((BEACON, 334.047), (EELGRASS, 125.462), (SKIFF, 71.226), (SLIPWAY, 279.876)):
            with self.subTest(system=system.name):
                self.assertAlmostEqual(system.volume_l, litres, places=2)

    def test_impossible_measures_name_their_field(self):
        cases = [(Geometry(0, 50, 40), "length_cm"), (Geometry(100, 50, -1), "depth_cm"),
                 (Geometry(100, 50, 40, 500), "displaced_l"), (Geometry(100, 50, 40, 0, -5), "sump_l")]  # fmt: skip
        for geometry, field in cases:
            with self.subTest(field=field), self.assertRaises(DomainError) as raised:
                net_volume(geometry)
            self.assertEqual(raised.exception.field, field)

    def test_routine_cannot_exceed_the_largest(self):
        with self.assertRaises(DomainError) as raised:
            check_methods(Methods(BEACON.methods.sand, 0.3, 7, 0.25))
        self.assertEqual(raised.exception.field, "change_fraction")


class Presets(unittest.TestCase):
    def test_alkalinity_is_read_in_dkh(self):
        band = presets()["large_polyp"].bands[Parameter.ALKALINITY]
        self.assertAlmostEqual(band.low * DKH_PER_MEQ_L, 7.5)
        self.assertEqual(len(presets()), 6)


class Session(unittest.TestCase):
    KIT = Instrument("kit", Parameter.ALKALINITY, 0.05)

    def look(self, *rows, book=None):
        return examine(rows, BEACON, book or ledger(), [self.KIT], foreseen, NOW, {}, ZONE)

    def test_any_subset_and_each_row_by_itself(self):
        rows = self.look(
            Row(Parameter.ALKALINITY, "7.2", "dKH", "kit"), Row(Parameter.CALCIUM, ""), Row(Parameter.PH, "abc")
        )
        self.assertAlmostEqual(rows[0].reading.value, dkh(7.2))
        self.assertEqual(rows[0].reading.sd, 0.05)
        self.assertIsNone(rows[1].reading)
        self.assertEqual(rows[2].error.field, "ph")

    def test_an_empty_form_is_refused(self):
        with self.assertRaises(InputError) as raised:
            accept(self.look(Row(Parameter.CALCIUM, " ")))
        self.assertEqual(raised.exception.accepted, "at least one result")

    def test_one_wrong_row_keeps_nothing(self):
        with self.assertRaises(InputError):
            accept(self.look(Row(Parameter.ALKALINITY, "7.2", "dKH"), Row(Parameter.SALINITY, "350", "ppt")))

    def test_a_doubtful_value_is_kept_only_when_confirmed(self):
        doubtful = Row(Parameter.ALKALINITY, "20", "dKH", "kit")
        with self.assertRaises(InputError) as raised:
            accept(self.look(doubtful))
        self.assertEqual(raised.exception.field, "alkalinity")
        sure = Row(Parameter.ALKALINITY, "20", "dKH", "kit", confirmed=True)
        self.assertAlmostEqual(accept(self.look(sure))[0].value, dkh(20))

    def test_a_gravity_typed_as_ppt_is_noticed(self):
        (row,) = self.look(Row(Parameter.SALINITY, "1.025", "ppt"))
        self.assertIn("looks like a specific gravity", row.error.message)

    def test_an_instrument_that_does_not_measure_it(self):
        (row,) = self.look(Row(Parameter.CALCIUM, "420", "mg/L", "kit"))
        self.assertIn("does not measure calcium", row.error.message)

    def test_the_instrument_used_last_is_offered(self):
        other = Instrument("another", Parameter.ALKALINITY, 0.1)
        book = ledger(reading(Parameter.ALKALINITY, 2.9, instrument="kit"))
        usual = usual_instruments(book, [other, self.KIT], [Parameter.ALKALINITY, Parameter.PH])
        self.assertEqual(usual, {Parameter.ALKALINITY: "kit", Parameter.PH: ""})
