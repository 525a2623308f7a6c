"""The sheet through the API: strips, lanes and Next on one time axis."""

from __future__ import annotations

from datetime import datetime, timedelta
from typing import Any

from tests.api.base import BEACON, EELGRASS, NOW, SKIFF, SLIPWAY, ApiTest, session


class Sheet(ApiTest):
    def sheet(self, system: int = BEACON, **span: int) -> Any:
        query = "&".join(f"{name}={days}" for name, days in span.items())
        return self.get(f"/systems/{system}/sheet?{query}")

    def one_strip(self, parameter: str, system: int = BEACON, **span: int) -> Any:
        return next(one for one in self.sheet(system, **span)["strips"] if one["parameter"] == parameter)

    def test_times_carry_the_keepers_offset(self):
        sheet = self.sheet()
        self.assertEqual(sheet["now"], "2026-11-24T18:40:00+01:00")
        summer = self.one_strip("salinity", back=180)["marks"][0]["at"]
        self.assertTrue(summer.endswith("+02:00"), summer)

    def test_everything_shown_lies_on_the_strips_own_scale(self):
        for system in (BEACON, EELGRASS, SKIFF, SLIPWAY):
            for strip in self.sheet(system)["strips"]:
                with self.subTest(system=system, strip=strip["name"]):
                    values = [mark["value"] for mark in strip["marks"]]
                    values += [point["value"] for point in strip["expected"]]
                    values += [edge["value"] for edge in (strip["band"] or {}).values()]
                    self.assertGreaterEqual(min(values or [strip["low"]]), strip["low"] - 1e-9)
                    self.assertLessEqual(max(values or [strip["high"]]), strip["high"] + 1e-9)

    def test_the_line_goes_through_the_readings_of_the_instrument_in_use(self):
        strip = self.one_strip("alkalinity")
        corners = {(corner["at"], round(corner["value"], 6)) for corner in strip["line"]}
        for mark in strip["marks"]:
            self.assertIn((mark["at"], round(mark["value"], 6)), corners)

    def test_expected_values_start_at_the_last_reading_and_their_interval_widens(self):
        strip = self.one_strip("alkalinity")
        self.assertEqual(strip["expected"][0]["at"], strip["marks"][-1]["at"])
        # Until the next change, whose water is known and narrows it again.
        widths = [point["high"] - point["low"] for point in strip["expected"][:4]]
        self.assertEqual(widths, sorted(widths))
        self.assertGreater(widths[3], widths[0])

    def test_temperature_and_ph_are_shown_but_not_foretold(self):
        for parameter in ("temperature", "ph"):
            self.assertEqual(self.one_strip(parameter)["expected"], [])

    def test_a_value_inside_that_drifts_out_says_when(self):
        strip = self.one_strip("alkalinity", SLIPWAY, ahead=60)
        self.assertRegex(strip["crossing"]["words"], r"^leaves its band on \w{3} \d+ \w{3}$")
        self.assertRegex(strip["crossing"]["between"], r"^as early as \w{3} \d+ \w{3}, (as late as|or not at all)")
        at = datetime.fromisoformat(strip["crossing"]["at"])
        self.assertTrue(strip["expected"][0]["at"] < strip["crossing"]["at"])
        self.assertLess(at, datetime.fromisoformat(self.sheet(ahead=60)["end"]))
        self.assertAlmostEqual(strip["crossing"]["value"], strip["band"]["low"]["value"])

    def test_sparse_at_first_what_matters_and_what_is_out(self):
        first = [strip["parameter"] for strip in self.sheet(EELGRASS)["strips"] if strip["shown_first"]]
        self.assertEqual(first, ["salinity", "alkalinity", "nitrate"])

    def test_lanes_hold_what_was_done_and_what_is_due(self):
        lanes = {lane["task"]: lane for lane in self.sheet()["lanes"]}
        self.assertEqual(set(lanes), {"water_change", "sand", "panels", "skimmer", "gear", "rest", "look", "feed"})
        now = self.sheet()["now"]
        for lane in lanes.values():
            for mark in lane["marks"]:
                with self.subTest(lane=lane["task"], at=mark["at"]):
                    self.assertEqual(mark["state"] == "done", mark["at"] < now)

    def test_a_wider_window_holds_the_narrow_one(self):
        narrow, wide = self.one_strip("alkalinity", back=21), self.one_strip("alkalinity", back=430)
        self.assertEqual(wide["marks"][-len(narrow["marks"]) :], narrow["marks"])
        self.assertGreater(len(wide["marks"]), 100)
        self.assertEqual(wide["drift"], narrow["drift"])

    def test_windows_out_of_range_are_refused(self):
        for query in ("back=0", "back=9000", "ahead=1000", "back=soon"):
            with self.subTest(query=query):
                self.assertEqual(self.api.get(f"/api/systems/{BEACON}/sheet?{query}").status_code, 422)

    def test_next_for_a_system_breaking_in_asks_for_tests_only_when_due(self):
        self.assertEqual(self.sheet(SLIPWAY)["next"], [])
        self.app.state.clock._at += timedelta(days=5)
        titles = [item["title"] for item in self.sheet(SLIPWAY)["next"]]
        self.assertTrue(any(title.startswith("Test ") and "nitrite" in title for title in titles), titles)

    def test_a_new_reading_moves_every_place_at_once(self):
        self.post(f"/systems/{SKIFF}/bench", session(salinity="34.6"))
        self.assertEqual(self.one_strip("salinity", SKIFF)["present"]["text"], "34.6")
        glance = next(one for one in self.get("/harbour")["systems"] if one["id"] == SKIFF)
        self.assertNotEqual(glance["standing"], "act today")
        self.assertEqual(self.get(f"/systems/{SKIFF}/bench")["rows"][1]["last"]["value"]["text"], "34.6")
        self.assertEqual(self.get(f"/systems/{SKIFF}/change")["request"]["salinity"], 34.6)


class Record(ApiTest):
    def test_newest_first_in_words(self):
        self.post(f"/systems/{BEACON}/bench", session(alkalinity="8.1"))
        rows = self.get(f"/systems/{BEACON}/record?limit=30")
        self.assertEqual(rows[0]["words"], "Alkalinity 8.1 dKH")
        self.assertEqual((rows[0]["day"], rows[0]["time"]), ("Tue 24 Nov", "18:40"))
        kinds = {row["kind"] for row in rows}
        self.assertLessEqual({"reading", "care", "change"}, kinds)

    def test_its_length_is_bounded(self):
        self.assertEqual(len(self.get(f"/systems/{BEACON}/record?limit=7")), 7)
        self.assertEqual(self.api.get(f"/api/systems/{BEACON}/record?limit=100000").status_code, 422)


class Crowds(ApiTest):
    def test_very_many_readings_of_one_instrument_are_drawn_as_a_probes(self):
        from salttide.core.ledger.entries import Reading
        from salttide.core.science.parameters import Parameter
        from salttide.store import ledger as ledger_store

        rows = [
            Reading(NOW - timedelta(minutes=30 * i), Parameter.ORP, 300.0 + (i % 7), 5.0, "ORP probe")
            for i in range(900)
        ]
        with self.app.state.database.write() as connection:
            ledger_store.record(connection, SKIFF, rows, "test-crowd-00001", NOW)
        strips = self.get(f"/systems/{SKIFF}/sheet?back=21")["strips"]
        strip = next(one for one in strips if one["parameter"] == "orp")
        self.assertEqual((strip["marks"], strip["instruments"], strip["line"]), ([], [], []))
        (crowd,) = strip["crowds"]
        self.assertLessEqual(len(crowd["at"]), 362)
        self.assertEqual((min(crowd["low"]), max(crowd["high"])), (300.0, 306.0))
