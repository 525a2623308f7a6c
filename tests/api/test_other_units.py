"""The whole way in other units: Fahrenheit, specific gravity and meq/L, from the bench to the gate and the ledger."""

from __future__ import annotations

from typing import Any

from tests.api.base import BEACON, ApiTest, session

OTHER = {"temperature": "°F", "salinity": "SG 25/25", "alkalinity": "meq/L"}


class OtherUnits(ApiTest):
    def setUp(self) -> None:
        super().setUp()
        answer = self.send("/keeper", {"zone": "America/New_York", "units": OTHER}, method="PUT")
        self.assertEqual(answer.status_code, 200, answer.text)

    def bench(self, **values: str) -> Any:
        rows = [{"parameter": name, "text": text, "unit": OTHER.get(name, "")} for name, text in values.items()]
        return self.post(f"/systems/{BEACON}/bench", {"rows": rows})

    def preview(self, **changes: Any) -> Any:
        request = {**self.get(f"/systems/{BEACON}/change")["request"], **changes}
        answer = self.api.post(f"/api/systems/{BEACON}/change/preview", json=request)
        self.assertEqual(answer.status_code, 200, answer.text)
        return answer.json()

    def test_a_session_is_read_judged_and_shown_in_them(self):
        # 77.5 °F is 25.28 °C; SG 1.0264 at 25/25 is 35.04 ppt; 2.5 meq/L is 7.0 dKH.
        self.bench(temperature="77.5", salinity="1.0264", alkalinity="2.5")
        glance = next(one for one in self.get("/harbour")["systems"] if one["id"] == BEACON)
        shown = {one["parameter"]: f"{one['text']} {one['unit']}" for one in glance["parameters"]}
        self.assertEqual(shown["temperature"], "77.5 °F")
        self.assertEqual(shown["salinity"], "1.0264 SG 25/25 °C")
        self.assertEqual(shown["alkalinity"], "2.50 meq/L")
        self.assertIn("Alkalinity is low. 2.50 meq/L is 0.17 meq/L under the band.", glance["reason"])

    def test_the_same_plan_as_in_the_metric_units_of_the_field(self):
        # Well inside its band, so that it is held: near the edge a twelfth of a rounded step makes the batch.
        self.bench(salinity="1.0262")
        here = {figure["key"]: figure["value"] for figure in self.preview()["steps"][0]["figures"]}
        metric = {"temperature": "°C", "salinity": "ppt", "alkalinity": "dKH"}
        self.send("/keeper", {"zone": "Europe/Copenhagen", "units": metric}, method="PUT")
        there = {figure["key"]: figure["value"] for figure in self.preview()["steps"][0]["figures"]}
        self.assertEqual(set(here), set(there))
        # Targets are rounded to what each unit resolves: the masses agree within that.
        self.assertAlmostEqual(here["mass"]["value"], there["mass"]["value"], delta=0.003)
        self.assertAlmostEqual(here["system_dose"]["value"], there["system_dose"]["value"], delta=0.15)
        self.assertAlmostEqual((here["least_temperature"]["value"] - 32) / 1.8, there["least_temperature"]["value"])

    def test_targets_out_of_physics_are_refused_in_the_keepers_unit(self):
        request = self.get(f"/systems/{BEACON}/change")["request"]
        for field, value, accepted in (("salinity", 35, "SG 25/25 °C"), ("alkalinity", 50, "0 to 10 meq/L")):
            answer = self.api.post(f"/api/systems/{BEACON}/change/preview", json={**request, field: value})
            with self.subTest(field=field):
                problem = answer.json()["fields"][0]
                self.assertEqual(problem["field"], field)
                self.assertIn(accepted, problem["accepted"])

    def test_the_gate_reads_them_and_corrects_in_them(self):
        request = self.get(f"/systems/{BEACON}/change")["request"]
        self.post(f"/systems/{BEACON}/change/plans", {**request, "replace": True})
        step = next(task["step_id"] for task in self.get("/rota")["lanes"][0]["tasks"] if task["step_id"])
        run = self.post("/runs", {"step_id": step})["id"]
        for each in ("set_out", "look"):
            self.post(f"/runs/{run}/answers", {"step": each, "kind": "done"})
        body = {"step": "batch", "kind": "measured"}
        self.post(f"/runs/{run}/answers", {**body, "item": "salinity", "text": "1.0272"})
        now = self.post(f"/runs/{run}/answers", {**body, "item": "temperature", "text": "68"})
        lines = {line["parameter"]: line for line in now["open"][0]["gate"]}
        self.assertTrue(lines["salinity"]["met"], lines)
        # Least 22.4 °C is 72.3 °F: 4.3 °F to go from 68.
        self.assertEqual(lines["temperature"]["correction"], "heat on: 4.3 °F to go")

    def test_a_day_begins_where_the_keeper_lives(self):
        self.assertEqual(self.get("/harbour")["now"], "2026-11-24T12:40:00-05:00")
        self.post(f"/systems/{BEACON}/bench", session(ph="8.1"))
        self.assertEqual(self.get(f"/systems/{BEACON}/record")[0]["time"], "12:40")

    def test_dosing_in_them(self):
        url = f"/systems/{BEACON}/dosing"
        offer = self.get(url)
        self.assertEqual(offer["unit"], "meq/L")
        # The hidden truth is 0.19 dKH a day, 0.0678 meq/L: within five per cent.
        self.assertAlmostEqual(float(offer["uptake"][0]["amount"]), 0.0678, delta=0.0034)
        # 0.2 meq/L in 334.05 L without changes: 66.81 meq, 3.541 g of soda ash, 35.4 mL of 100 g/L.
        plan = self.post(f"{url}/preview", {**offer["body"], "uptake": 0.2, "changes": False})
        self.assertIn("35.4 mL soda stock", plan["summary"])
        self.assertEqual(plan["columns"][0], "Alkalinity, meq/L")
        aims = self.get(f"{url}/correction")["aims"]
        self.assertEqual(aims[0]["unit"], "meq/L")
        body = {"aims": [{"parameter": "alkalinity", "target": "3.0", "additive_id": 2}], "hours": 12}
        self.assertIn("3.00 meq/L", self.post(f"{url}/correction/preview", body)["summary"])

    def test_dosing_with_a_decimal_comma_and_a_clock_of_twelve_hours(self):
        units = {**OTHER, "alkalinity": "dKH"}
        settings = {"zone": "Europe/Copenhagen", "units": units, "decimal_sign": ",", "clock": "12"}
        self.assertEqual(self.send("/keeper", settings, method="PUT").status_code, 200)
        url = f"/systems/{BEACON}/dosing"
        self.assertIn(",", self.get(url)["uptake"][0]["amount"])
        body = {"aims": [{"parameter": "alkalinity", "target": "8,5", "additive_id": 2}], "hours": 12}
        plan = self.post(f"{url}/correction/preview", body)
        self.assertEqual(plan["days"][0]["portions"][0]["time"], "9:00 am")
        self.assertIn("8,5 dKH", plan["days"][-1]["expected"][0])
        answer = self.post(f"{url}/day/preview", self.get(f"{url}/day")["body"])
        self.assertTrue(all("am" in dose["time"] or "pm" in dose["time"] for dose in answer["doses"]))
