"""Mix through the API: offered, planned while typing, kept, corrected, poured, labelled."""

from __future__ import annotations

from typing import Any

from tests.api.base import BEACON, EELGRASS, SKIFF
from tests.api.test_runbook import RunTest


class MixTest(RunTest):
    def mix_wish(self, **changes: Any) -> dict[str, Any]:
        return {**self.get("/mix")["body"], **changes}

    def portions(self, *parts: tuple[int, float, str]) -> list[dict[str, Any]]:
        return [{"system_id": system, "litres": litres, "salinity": salinity} for system, litres, salinity in parts]

    def make(self, **changes: Any) -> int:
        body = self.mix_wish(portions=self.portions((BEACON, 40.0, "35")), container_l=60.0, **changes)
        return int(self.post("/batches", body)["id"])

    def event(self, batch: int, kind: str, amount: str = "", **more: Any) -> Any:
        return self.post(f"/batches/{batch}/events", {"kind": kind, "amount": amount, **more})

    def measure(self, batch: int, **values: str) -> Any:
        return self.event(batch, "measured", values=values)


class Planning(MixTest):
    def test_what_is_wanted_comes_from_the_plans_and_the_routines(self) -> None:
        offer = self.get("/mix")
        names = [one["name"] for one in offer["wanted"]]
        self.assertIn("Beacon", names)
        self.assertNotIn("Eelgrass", names, "its new water is natural")
        self.assertEqual(offer["missing"], [])
        self.assertTrue(all(one["litres"] > 0 and one["when"] for one in offer["wanted"]))

    def test_the_bill_follows_the_wish(self) -> None:
        answer = self.post(
            "/mix/preview", self.mix_wish(portions=self.portions((BEACON, 40.0, "35")), container_l=60.0)
        )
        figures = {one["key"]: one for one in answer["figures"]}
        # 40 x 37.1 = 1484 g; 40 L weigh 40.934 kg, less 1.484: 39.45 kg of water at 0.99705: 39.6 L.
        self.assertEqual((figures["mass"]["value"]["text"], figures["mass"]["value"]["unit"]), ("1.484", "kg"))
        self.assertEqual(figures["fresh"]["value"]["text"], "39.6")
        self.assertTrue(figures["mass"]["working"])
        self.assertIn("20.0 L stay free", answer["headroom"])
        self.assertEqual(sum(one["chosen"] for one in answer["ranking"]), 1)
        self.assertGreaterEqual(len(answer["ranking"]), 3)

    def test_next_asks_for_the_batch_until_one_is_there_for_the_change(self) -> None:
        task = self.put(start="2026-11-25")

        def asked() -> list[str]:
            items = self.get(f"/systems/{BEACON}/sheet")["next"]
            return [item["title"] for item in items if item["way"] == "mix"]

        self.assertEqual(asked(), ["Mix 40.1 L for Wed 25 Nov"])
        wanted = next(one for one in self.get("/mix")["wanted"] if one["step_id"] == task["step_id"])
        portion = {key: wanted[key] for key in ("system_id", "step_id", "litres", "salinity")}
        made = self.post("/batches", self.mix_wish(portions=[portion], container_l=60.0))
        self.assertEqual(asked(), [])
        self.post(f"/record/{made['command']}/undo", None)
        self.assertEqual(asked(), ["Mix 40.1 L for Wed 25 Nov"])

    def test_one_batch_for_two_systems(self) -> None:
        body = self.mix_wish(portions=self.portions((BEACON, 40.0, "35"), (SKIFF, 14.2, "33.5")), container_l=100.0)
        answer = self.post("/mix/preview", body)
        # Skiff: 14.2 of 71 L, 1.5 ppt apart: 14.2 x 33.5/35 = 13.59 L and 0.61 L of fresh water.
        self.assertEqual([one["name"] for one in answer["portions"]], ["Beacon", "Skiff"])
        self.assertIn("13.6 L of the batch and 0.6 L of fresh water", answer["portions"][1]["words"])

    def test_wrong_input_is_refused_at_its_field(self) -> None:
        good = self.portions((BEACON, 40.0, "35"))
        for field, changes in (
            ("portions", {"portions": []}), ("litres", {"portions": good, "container_l": 30.0}),
            ("container_l", {"portions": good, "container_l": 0}), ("heater_w", {"portions": good, "heater_w": -5}),
            ("mixing_h", {"portions": good, "mixing_h": 0}),
            ("portions.0.litres", {"portions": self.portions((BEACON, 9000.0, "35"))}),
            ("portions.0.salinity", {"portions": self.portions((BEACON, 40.0, "salty"))}),
            ("portions.0.salinity", {"portions": self.portions((BEACON, 40.0, "5"))}),
        ):  # fmt: skip
            with self.subTest(field=field, changes=changes):
                self.refused("/mix/preview", self.mix_wish(**{"container_l": 60.0, **changes}), field)

    def test_what_is_left_of_the_bucket_is_told_and_when_it_is_too_little(self) -> None:
        body = self.mix_wish(portions=self.portions((BEACON, 40.0, "35")), container_l=60.0)
        self.post(f"/salts/{body['salt_id']}/buckets", {"mass_kg": 20})
        self.assertIn("20.0 kg left, enough for", self.post("/mix/preview", body)["stock"])
        self.post(f"/salts/{body['salt_id']}/buckets", {"mass_kg": 1})
        self.assertIn("The bucket is 0.48 kg short", self.post("/mix/preview", body)["stock"])


class Life(MixTest):
    def test_a_batch_lives_from_planned_to_used_up(self) -> None:
        batch = self.make()
        self.assertEqual(self.get(f"/batches/{batch}")["phase"], "planned")
        self.event(batch, "salted", "1484")
        self.event(batch, "resting")
        self.measure(batch, salinity="35.1", temperature="25.2", alkalinity="8.2")
        now = self.get(f"/batches/{batch}")
        rows = {row["parameter"]: row for row in now["rows"]}
        self.assertEqual((rows["salinity"]["now"], rows["salinity"]["measured"]), ("35.1", True))
        self.assertEqual(now["correction"], [])
        self.event(batch, "matched")
        self.event(batch, "used", "30", system_id=BEACON)
        self.assertEqual(self.get(f"/batches/{batch}")["phase"], "left over")
        self.event(batch, "used", "10", system_id=SKIFF)
        self.assertEqual(self.get(f"/batches/{batch}")["phase"], "used up")
        self.assertNotIn(batch, [one["id"] for one in self.get("/mix")["batches"]])

    def test_a_strong_batch_is_corrected_and_the_correction_recorded(self) -> None:
        batch = self.make()
        self.event(batch, "salted", "1484")
        self.measure(batch, salinity="36.4")
        now = self.get(f"/batches/{batch}")
        # 40 L x 36.4/35 = 41.6: 1.6 L of fresh water, there is room.
        self.assertIn("add 1.6 L of fresh water", now["correction"])
        self.post(f"/batches/{batch}/correct", None)
        rows = {row["parameter"]: row for row in self.get(f"/batches/{batch}")["rows"]}
        self.assertEqual((rows["salinity"]["now"], rows["salinity"]["measured"]), ("35.0", False))
        self.refused(f"/batches/{batch}/correct", None, "kind")

    def test_it_teaches_the_bucket_its_strength(self) -> None:
        batch = self.make()
        salt = self.rows("SELECT salt_id FROM batch WHERE id = ?", batch)[0][0]
        self.post(f"/salts/{salt}/buckets", {"mass_kg": 20})
        self.event(batch, "salted", "1484")
        self.measure(batch, salinity="34.0", alkalinity="8.0")
        # 37.1 x 35/34 by the dissolved salt: about 38.2 g/L.
        self.assertIn("came out at 38.2", self.get(f"/batches/{batch}")["strength"])
        self.event(batch, "matched")
        self.assertEqual(self.rows("SELECT mass_g, volume_l, salinity FROM measured_batch ORDER BY id DESC LIMIT 1"),
                         [(1484.0, 40.0, 34.0)])  # fmt: skip

    def test_every_event_can_be_taken_back_and_so_can_the_batch(self) -> None:
        batch = self.make()
        self.event(batch, "salted", "1484")
        thrown = self.event(batch, "thrown", "40")
        self.assertEqual(self.get(f"/batches/{batch}")["phase"], "thrown away")
        self.post(f"/record/{thrown['command']}/undo", None)
        self.assertEqual(self.get(f"/batches/{batch}")["phase"], "mixing")
        made = self.post("/batches", self.mix_wish(portions=self.portions((BEACON, 40.0, "35")), container_l=60.0))
        self.post(f"/record/{made['command']}/undo", None)
        self.assertEqual(self.api.get(f"/api/batches/{made['id']}").status_code, 404)

    def test_what_cannot_happen_is_refused_at_its_field(self) -> None:
        batch = self.make()
        path = f"/batches/{batch}/events"
        self.refused(path, {"kind": "used", "amount": "5", "system_id": BEACON}, "kind")
        self.event(batch, "salted", "1484")
        self.refused(path, {"kind": "used", "amount": "5"}, "system_id")
        self.refused(path, {"kind": "used", "amount": "500", "system_id": BEACON}, "amount")
        self.refused(path, {"kind": "fresh", "amount": "some"}, "amount")
        self.refused(path, {"kind": "measured", "values": {"salinity": "350"}}, "values.salinity")
        self.refused(path, {"kind": "measured", "values": {"salinity": " "}}, "values")
        self.refused(path, {"kind": "dosed", "amount": "1", "item": "NaOH"}, "item")

    def test_the_label_says_what_was_measured_and_until_when(self) -> None:
        batch = self.make()
        self.assertIn("Not measured yet", self.get(f"/batches/{batch}")["label_note"])
        self.event(batch, "salted", "1484")
        self.measure(batch, salinity="35.0", alkalinity="8.3")
        label = {line["name"]: line["value"] for line in self.get(f"/batches/{batch}")["label"]}
        self.assertEqual((label["Salt"], label["Alkalinity"]), ("Kittiwake Standard", "8.3 dKH"))
        # 8.3 dKH keeps 14 days: from 24 Nov to 8 Dec.
        self.assertEqual((label["Mixed"], label["Measure again from"]), ("24 Nov 2026", "8 Dec 2026"))


class AtTheTank(MixTest):
    def test_the_runbook_writes_the_life_of_the_batch(self) -> None:
        batch = self.make()
        run = self.post("/runs", {"batch_id": batch})["id"]
        self.assertEqual(self.get("/mix")["batches"][0]["run_id"], run)
        self.say(run, "container", "done")
        self.say(run, "water", "litres", text="39.6")
        self.say(run, "water", "done")
        self.say(run, "circulate", "done")
        self.say(run, "salt", "timer")
        self.say(run, "salt", "done")
        self.assertEqual(self.get(f"/batches/{batch}")["phase"], "mixing")
        self.say(run, "rest", "timer")
        self.wait(120)
        self.say(run, "rest", "done")
        self.say(run, "measure", "measured", "salinity", "36.4")
        refused = self.send(f"/runs/{run}/answers", {"step": "measure", "kind": "done"})
        self.assertEqual(refused.status_code, 409)
        self.assertIn("add 1.6 L of fresh water, then measure again", refused.json()["missing"])
        self.say(run, "measure", "measured", "salinity", "35.1")
        self.say(run, "measure", "measured", "temperature", self.get(f"/batches/{batch}")["rows"][1]["planned"])
        for step in [one["id"] for one in self.get(f"/runs/{run}")["open"]]:
            self.say(run, step, "override", text="for the test") if step == "measure" else None
            self.say(run, step, "done")
        while not (now := self.get(f"/runs/{run}"))["ended"]:
            step = now["open"][0]
            for item in step["items"]:
                self.say(run, step["id"], "tick", item["key"])
            if step["kind"] == "measure":
                self.say(run, step["id"], "measured", "alkalinity", "8.4")
            if step["timer"]:
                self.say(run, step["id"], "timer")
                self.wait(step["timer"]["minutes"])
            self.say(run, step["id"], "done")
        kinds = [row[0] for row in self.rows("SELECT kind FROM batch_event WHERE batch_id = ? ORDER BY id", batch)]
        self.assertEqual(kinds[:3], ["salted", "resting", "measured"])
        self.assertEqual(kinds[-1], "matched")
        self.assertEqual(self.get(f"/batches/{batch}")["phase"], "matched")
        # What has its salt in is not mixed a second time.
        again = self.send("/runs", {"batch_id": batch})
        self.assertEqual(again.status_code, 422)
        self.assertIn("is matched: it cannot be mixed again", again.text)

    def test_a_batch_that_is_taken_back_does_not_hold_up_the_work(self) -> None:
        body = self.mix_wish(portions=self.portions((BEACON, 40.0, "35")), container_l=60.0)
        made = self.post("/batches", body)
        run = self.post("/runs", {"batch_id": made["id"]})["id"]
        self.say(run, "container", "done")
        self.post(f"/record/{made['command']}/undo", None)
        self.say(run, "water", "litres", text="39.6")
        ended = self.post(f"/runs/{run}/abandon", {"reason": "the batch was undone"})
        self.assertTrue(ended["ended"])
        self.assertEqual(ended["name"], "Mix a batch")

    def test_eelgrass_is_offered_no_dry_salt(self) -> None:
        self.assertNotIn(EELGRASS, [one["system_id"] for one in self.get("/mix")["wanted"] if one["takes_salt"]])
