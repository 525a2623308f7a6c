"""Containers through the API: set up, read, refilled with the label confirmed, calibrated; stock, media, carbon."""

from __future__ import annotations

import csv
import io
from datetime import timedelta
from typing import Any, ClassVar

from salttide.fishroom.pump import DosingPump
from tests.api.base import BEACON, SKIFF, ApiTest, confirmed

URL = f"/systems/{BEACON}/containers"
SODA, CALCIUM = 1, 2
SODA_ASH, SODA_STOCK, CALCIUM_STOCK = 1, 2, 5


class ContainerTest(ApiTest):
    def one(self, number: int = SODA) -> Any:
        return next(each for each in self.get(URL)["containers"] if each["id"] == number)

    def event(self, number: int, kind: str, **more: Any) -> Any:
        return self.post(f"{URL}/{number}/events", {"kind": kind, **more})


class Containers(ContainerTest):
    def test_the_worn_head_is_named_and_the_sound_one_is_not(self) -> None:
        self.assertIsNone(self.one(SODA)["wrong"])
        wrong = self.one(CALCIUM)["wrong"]
        # The demo's calcium head loses a fifth since the first of November.
        self.assertIn("loses", wrong["title"])
        lost = int(wrong["title"].split("loses ")[1].split(" ")[0])
        self.assertLessEqual(abs(lost - 20), 5)
        self.assertIn("Sun 1 Nov", wrong["reason"])
        self.assertIn("replace it", wrong["steps"][0])
        items = self.get(f"/systems/{BEACON}/sheet")["next"]
        self.assertIn("container", [item["way"] for item in items])

    def test_what_really_came_is_in_the_ledger(self) -> None:
        from salttide.core.science.parameters import Parameter
        from tests.api.base import NOW

        household = self.app.state.memo.household(NOW)
        book = household.history(household.stored.system(BEACON), NOW - timedelta(days=800))
        doses = [dose for dose in book.doses if dose.additive == "calcium stock"]
        # 8.7 mL of 140 g/L a day at first: 1.218 g; a fifth less at the end.
        self.assertAlmostEqual(doses[10].mass_g, 1.218, delta=0.03)
        self.assertAlmostEqual(doses[-1].mass_g, 1.218 * 0.8, delta=0.06)
        self.assertIn(Parameter.CALCIUM, doses[-1].amounts)

    def test_a_setting_below_a_drop_is_refused_and_nothing_stops_a_pump(self) -> None:
        for ml in (0.0001, -1, 1e9):
            with self.subTest(ml=ml):
                said = self.refused(f"{URL}/{SODA}/events", {"kind": "set", "ml": ml}, "ml")
                self.assertEqual(said["accepted"], "0.05 to 1000 mL")
        self.event(SODA, "set", ml=0)
        self.event(SODA, "set", ml=0.05)
        for path in ("/harbour", "/rota?days=14", "/next", "/rota/round", "/mix", f"/systems/{BEACON}/sheet", URL):
            self.get(path)

    def test_a_refill_asks_for_the_label(self) -> None:
        said = self.refused(f"{URL}/{SODA}/events", {"kind": "filled", "ml": 1000}, "label_id")
        self.assertIn("label", said["message"])
        answer = self.send(f"{URL}/{SODA}/events", {"kind": "filled", "ml": 1000, "label_id": CALCIUM_STOCK})
        self.assertEqual(answer.status_code, 409, answer.text)
        self.assertIn("never meet", answer.json()["detail"])
        self.assertEqual(self.one()["history"][0]["words"], "Sun 22 Nov: level 506 mL")
        self.event(SODA, "filled", ml=1000, before_ml=482, label_id=SODA_STOCK)
        self.assertAlmostEqual(self.one()["filled"], 1.0, places=3)

    def test_levels_amounts_and_calibration_by_their_bounds(self) -> None:
        for body, field in (
            ({"kind": "level", "ml": 5000}, "ml"),
            ({"kind": "level", "ml": -1}, "ml"),
            ({"kind": "level", "ml": 900}, "ml"),  # more than there was, and nothing poured in
            ({"kind": "set", "ml": 99999}, "ml"),
            ({"kind": "calibrated", "ml": 25}, "seconds"),
            ({"kind": "calibrated", "ml": 0, "seconds": 60}, "ml"),
            ({"kind": "filled", "ml": 2000, "label_id": SODA_STOCK}, "ml"),
            ({"kind": "filled", "ml": 900, "before_ml": 950, "label_id": SODA_STOCK}, "before_ml"),
        ):
            with self.subTest(body=body):
                self.refused(f"{URL}/{SODA}/events", body, field)

    def test_calibrated_it_counts_as_sound_again_and_can_be_taken_back(self) -> None:
        made = self.event(CALCIUM, "calibrated", ml=20.0, seconds=60)
        self.assertIsNone(self.one(CALCIUM)["wrong"])
        self.assertIn("20.0 mL/min", " ".join(self.one(CALCIUM)["pump_words"]))
        self.post(f"/record/{made['command']}/undo", None)
        self.assertIsNotNone(self.one(CALCIUM)["wrong"])

    def test_set_up_and_refused(self) -> None:
        url = f"/systems/{SKIFF}/containers"
        good = {"name": "soda", "additive_id": SODA_STOCK, "capacity_ml": 500, "filled_ml": 500}
        for changes, field in (
            ({"name": " "}, "name"),
            ({"additive_id": SODA_ASH}, "additive_id"),
            ({"additive_id": 999}, "additive_id"),
            ({"capacity_ml": 10_000_000}, "capacity_ml"),
            ({"capacity_ml": 0}, "capacity_ml"),
            ({"level_sd_ml": 400}, "level_sd_ml"),
            ({"filled_ml": 900}, "filled_ml"),
        ):
            with self.subTest(changes=changes):
                self.refused(url, {**good, **changes}, field)
        self.post(url, good)
        self.assertEqual(self.get(url)["containers"][0]["days"], "nothing is drawn")
        self.assertEqual(self.send(url, good).status_code, 409)

    def test_edited_it_keeps_what_it_holds(self) -> None:
        body = {"name": "soda, left", "additive_id": SODA_STOCK, "capacity_ml": 1500, "pump": "", "step_ml": 0.5}
        answer = self.send(f"{URL}/{SODA}", body, method="PUT")
        self.assertEqual(answer.status_code, 200, answer.text)
        one = self.one()
        self.assertEqual((one["name"], one["capacity"], one["pump"]), ("soda, left", "1.50 L", ""))
        self.refused(f"{URL}/{SODA}", {**body, "additive_id": CALCIUM_STOCK}, "additive_id", method="PUT")
        self.refused(f"{URL}/{SODA}", {**body, "capacity_ml": 1}, "capacity_ml", method="PUT")
        self.assertEqual(self.send(f"{URL}/{SODA}", {**body, "name": "calcium stock"}, method="PUT").status_code, 409)

    def test_one_event_is_taken_back_and_put_back(self) -> None:
        event = self.one(CALCIUM)["history"][0]
        self.post(f"{URL}/{CALCIUM}/events/{event['id']}/undo", None)
        self.assertNotEqual(self.one(CALCIUM)["history"][0]["id"], event["id"])
        self.post(f"{URL}/{CALCIUM}/events/{event['id']}/restore", None)
        self.assertEqual(self.one(CALCIUM)["history"][0]["id"], event["id"])
        self.assertEqual(self.send(f"{URL}/{SODA}/events/{event['id']}/undo", None).status_code, 404)

    def test_what_would_drop_out_together_is_set_half_an_hour_apart(self) -> None:
        body = {"name": "magnesium", "formula": "MgCl2·6H2O", "strength_g_l": 200}
        self.post("/additives", body)
        number = self.get("/shelf")["additives"][-1]["id"]
        self.post(URL, {"name": "magnesium", "additive_id": number, "capacity_ml": 500, "pump": "head 3"})
        self.event(3, "set", ml=4.8)
        apart = " ".join(self.get(URL)["apart"])
        self.assertIn("Soda stock and magnesium must never meet", apart)
        self.assertNotIn("are wanted", apart)

    def test_out_of_use_what_it_gave_stays(self) -> None:
        made = self.post(f"{URL}/{SODA}/archive", None)
        self.assertEqual([each["id"] for each in self.get(URL)["containers"]], [CALCIUM])
        self.post(f"/record/{made['command']}/undo", None)
        self.assertEqual(len(self.get(URL)["containers"]), 2)

    def test_a_refill_stands_on_the_rota_and_is_done_at_its_container(self) -> None:
        self.event(SODA, "set", ml=30)
        tasks = self.get("/rota?days=20")["lanes"][0]["tasks"]
        refill = next(task for task in tasks if task["task"] == "container_refill")
        self.assertEqual(refill["name"], "Refill soda stock")
        self.assertEqual(self.api.get(f"/api/systems/{BEACON}/sheet").status_code, 200)
        self.assertEqual(self.api.get("/api/harbour").status_code, 200)
        body = {key: refill[key] for key in ("task", "due", "step_id")}
        for path, more in (("done", {}), ("move", {"day": "2026-11-30"}), ("skip", {"reason": "later"})):
            self.refused(f"/systems/{BEACON}/care/{path}", {**body, **more}, "task")

    def test_the_schedule_is_read_by_a_pump(self) -> None:
        contents = {"soda stock": 480.0, "calcium stock": 530.0}
        text = self.api.get(f"/api{URL}/schedule.json").text
        pump = DosingPump.from_json(text, contents, 1)
        came = pump.run_day()
        self.assertAlmostEqual(came["soda stock"], 8.8, delta=0.3)
        table = self.api.get(f"/api{URL}/schedule.csv").text
        rows = list(csv.DictReader(io.StringIO(table)))
        self.assertAlmostEqual(sum(float(row["ml"]) for row in rows), 8.8 + 8.7, places=6)
        again = DosingPump.from_csv(table, contents, 1).run_day()
        self.assertAlmostEqual(again["calcium stock"], 8.7, delta=0.3)
        # 1.1 mL at 24.6 mL/min: 2.7 s.
        first = next(row for row in rows if row["container"] == "soda stock")
        self.assertAlmostEqual(float(first["seconds"]), float(first["ml"]) / 24.6 * 60, delta=0.06)


class Stock(ApiTest):
    body: ClassVar[dict[str, Any]] = {"formula": "Na2CO3", "strength_g_l": 100.0, "volume_l": 2.0}

    def test_a_recipe_with_its_label(self) -> None:
        found = self.post("/stock/preview", {**self.body, "purity_percent": 98.0})
        self.assertEqual(found["mass"], "204.1 g")  # 200 g over 0.98
        self.assertIn("139 g/L", found["matched"])
        label = {line["name"]: line["value"] for line in found["label"]}
        self.assertEqual(label["Made"], "24 Nov 2026")
        self.assertIn("Na2CO3", label["Holds"])
        self.assertEqual([one["key"] for one in found["cautions"]], ["caustic"])

    def test_refusals(self) -> None:
        for changes, field, words in (
            ({"strength_g_l": 0.0}, "strength_g_l", "210"),
            ({"strength_g_l": 400.0}, "strength_g_l", "210"),
            ({"formula": "Qq9"}, "formula", "not a chemical formula"),
            ({"formula": "FeCl3"}, "formula", "Fe"),
            ({"volume_l": 900.0}, "volume_l", "60"),
            ({"purity_percent": 0.0}, "purity_percent", "1 to 100"),
        ):
            with self.subTest(changes=changes):
                self.assertIn(words, self.refused("/stock/preview", {**self.body, **changes}, field)["message"])


class Ramp(ApiTest):
    url = f"/systems/{BEACON}/ramp"

    def test_media_begins_with_a_quarter_when_phosphate_is_high(self) -> None:
        bench = f"/systems/{BEACON}/bench"
        for value in ("0.30", "0.30"):
            self.post(bench, confirmed(phosphate=value))
        row = self.post(f"{self.url}/preview", {"kind": "media", "full_g": 200.0})
        self.assertEqual(row["next"], "50 g")
        made = self.post(self.url, {"kind": "media", "full_g": 200.0})
        self.assertIn("in use: 50 g", self.get(self.url)["rows"][0]["amount_now"])
        self.post(f"/record/{made['command']}/undo", None)
        self.assertEqual(self.get(self.url)["rows"][0]["amount_now"], "none in use")

    def test_carbon_is_gated(self) -> None:
        media, row = self.get(self.url)["rows"]
        self.assertEqual((media["name"], row["name"]), ("Phosphate media", "Carbon dosing"))
        self.assertIn("choose carbon dosing", row["missing"][0])
        answer = self.send(self.url, {"kind": "carbon"})
        self.assertEqual(answer.status_code, 409, answer.text)
        self.refused(f"{self.url}/preview", {"kind": "media", "full_g": -5.0}, "full_g")
