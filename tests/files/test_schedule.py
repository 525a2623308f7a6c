"""The pumps' schedule as an open file: every dose, by time, with the seconds that a calibrated pump runs."""

import csv
import io
import json
import unittest

from salttide.core.estimate.dose_times import Slot
from salttide.files.schedule import COLUMNS, FORMAT, VERSION, PumpSchedule, clock, schedule_csv, schedule_json

SODA = PumpSchedule("soda stock", "D1, head 1", "soda ash (Na2CO3)", 24.0, (Slot(60, 2.0), Slot(1320, 1.5)))
CALCIUM = PumpSchedule("calcium, “140”", "D1, head 2", "calcium chloride", None, (Slot(90, 2.4),))


class Schedule(unittest.TestCase):
    def test_json_names_what_it_is_and_holds_every_dose(self):
        found = json.loads(schedule_json("Beacon", "Europe/Copenhagen", [SODA, CALCIUM]))
        self.assertEqual((found["format"], found["version"]), (FORMAT, VERSION))
        self.assertEqual((found["system"], found["time_zone"]), ("Beacon", "Europe/Copenhagen"))
        first, second = found["pumps"]
        # 2.0 mL at 24 mL/min: 5 s; 1.5 mL: 3.75 s, shown to a tenth.
        self.assertEqual(
            first["doses"],
            [{"time": "01:00", "ml": 2.0, "seconds": 5.0}, {"time": "22:00", "ml": 1.5, "seconds": 3.8}],
        )
        self.assertIsNone(second["flow_ml_min"])
        self.assertIsNone(second["doses"][0]["seconds"])

    def test_csv_stands_in_the_order_of_the_day_and_survives_odd_names(self):
        rows = list(csv.DictReader(io.StringIO(schedule_csv([SODA, CALCIUM]))))
        self.assertEqual(tuple(rows[0]), COLUMNS)
        self.assertEqual([row["time"] for row in rows], ["01:00", "01:30", "22:00"])
        self.assertEqual(rows[1]["container"], "calcium, “140”")
        self.assertEqual([row["seconds"] for row in rows], ["5", "", "3.8"])

    def test_nothing_set_is_an_empty_schedule(self):
        self.assertEqual(json.loads(schedule_json("Skiff", "UTC", []))["pumps"], [])
        self.assertEqual(len(schedule_csv([]).splitlines()), 1)

    def test_times_of_day(self):
        self.assertEqual(
            [clock(minute) for minute in (0, 5, 60, 719, 1439)], ["00:00", "00:05", "01:00", "11:59", "23:59"]
        )
