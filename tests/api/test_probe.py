"""Probes: sent, rolled up, and read back at the resolution that is asked for."""

from __future__ import annotations

from datetime import UTC, datetime, timedelta
from random import Random
from typing import Any

from salttide.store import probe as probe_store
from tests.api.base import NOW, SKIFF, ApiTest

DAY = 86400


class Probe(ApiTest):
    def write(self, count: int, every_s: int = 300, value: Any = None, instrument: str = "probe P9") -> list[float]:
        """Readings up to now, sent as a controller would."""
        first = NOW - timedelta(seconds=every_s * (count - 1))
        chance = Random(5)
        values = [value(i) if value else round(chance.uniform(7.9, 8.4), 3) for i in range(count)]
        readings = [
            {"at": (first + timedelta(seconds=every_s * i)).isoformat(), "value": each} for i, each in enumerate(values)
        ]
        for start in range(0, count, 5000):
            self.post(
                f"/systems/{SKIFF}/probes",
                {"parameter": "ph", "instrument": instrument, "readings": readings[start : start + 5000]},
            )
        return values

    def read(self, back_s: float, points: int = 100) -> Any:
        start = (NOW - timedelta(seconds=back_s)).isoformat().replace("+", "%2B")
        end = NOW.isoformat().replace("+", "%2B")
        (found,) = self.get(f"/systems/{SKIFF}/probes?start={start}&end={end}&points={points}")
        return found

    def test_two_hours_come_raw_in_the_keepers_wall_clock(self):
        values = self.write(600)
        found = self.read(2 * 3600)
        self.assertEqual(found["span_s"], 0)
        self.assertEqual(found["mean"], values[-25:])
        # 17:40 UTC is 18:40 in the household.
        wall = datetime.fromtimestamp(found["at"][-1] / 1000, UTC)
        self.assertEqual((wall.hour, wall.minute), (18, 40))

    def test_a_week_comes_rolled_up_with_its_extremes(self):
        self.write(2016, value=lambda i: 8.0 + (0.3 if i % 12 == 5 else 0.0))
        found = self.read(7 * DAY, 200)
        self.assertEqual(found["span_s"], 3600)
        # Twelve readings an hour, one of them 8.3: mean 8.025.
        self.assertAlmostEqual(found["mean"][80], 8.025)
        self.assertEqual((found["low"][80], found["high"][80]), (8.0, 8.3))

    def test_every_level_is_the_mean_of_all_its_readings(self):
        self.write(40 * 288)
        connection = self.app.state.database.connection
        (series,) = [one for one in probe_store.probe_series(connection, SKIFF) if one.instrument == "probe P9"]
        whole = connection.execute(
            "SELECT avg(value), min(value), max(value), count(*) FROM probe WHERE series_id = ?", (series.id,)
        ).fetchone()
        for span in probe_store.SPANS:
            with self.subTest(span=span):
                row = connection.execute(
                    "SELECT sum(mean * count) / sum(count), min(low), max(high), sum(count) FROM probe_roll"
                    " WHERE series_id = ? AND span_s = ?", (series.id, span),
                ).fetchone()  # fmt: skip
                self.assertAlmostEqual(row[0], whole[0], places=9)
                self.assertEqual(tuple(row)[1:], tuple(whole)[1:])

    def test_however_long_the_time_the_points_stay_few(self):
        self.write(60 * 288)
        for back in (3600, DAY, 9 * DAY, 60 * DAY, 3000 * DAY):
            with self.subTest(back=back):
                self.assertLessEqual(len(self.read(back, 60)["at"]), 70)

    def test_sent_again_nothing_is_kept_twice_and_late_ones_find_their_hour(self):
        self.write(100)
        self.write(100)
        count = "SELECT count(*) FROM probe JOIN probe_series ON id = series_id WHERE instrument = 'probe P9'"
        self.assertEqual(self.rows(count), [(100,)])
        self.write(13, value=lambda i: 9.0, every_s=290)
        rolled = "SELECT sum(count) FROM probe_roll JOIN probe_series ON id = series_id WHERE instrument = 'probe P9'"
        for span in probe_store.SPANS:
            self.assertEqual(self.rows(f"{rolled} AND span_s = {span}"), self.rows(count))

    def test_what_cannot_be_is_refused_at_its_reading(self):
        body = {"parameter": "ph", "instrument": "P9", "readings": [{"at": NOW.isoformat(), "value": 8.1}]}
        wrong = {**body["readings"][0], "value": 81}
        self.refused(f"/systems/{SKIFF}/probes", {**body, "readings": [body["readings"][0], wrong]}, "readings.1.value")
        late = {"at": (NOW + timedelta(hours=1)).isoformat(), "value": 8.1}
        self.refused(f"/systems/{SKIFF}/probes", {**body, "readings": [late]}, "readings.0.at")
        self.refused(f"/systems/{SKIFF}/probes", {**body, "instrument": "  "}, "instrument")
        self.assertEqual(self.send("/systems/99/probes", body).status_code, 404)
        self.assertEqual(self.rows("SELECT count(*) FROM probe_series WHERE instrument = 'P9'"), [(0,)])
