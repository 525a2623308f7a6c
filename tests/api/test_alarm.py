"""Alarms through the API: limits, what a controller sends, who looked, who is told, and what follows elsewhere."""

from __future__ import annotations

from datetime import timedelta
from random import Random
from typing import Any

from tests.api.base import BEACON, NOW, SKIFF, ApiTest, session

KIT = {"name": "Kit", "turn": 1, "webhook": "http://127.0.0.1:9/x", "email": "", "quiet_from": None, "quiet_to": None}


def hot(value: float, at: str = "2026-11-24T17:30:00Z", sensor: str = "T1") -> dict[str, Any]:
    return {"sensor": sensor, "signal": "temperature", "value": value, "at": at}


class Alarms(ApiTest):
    def setUp(self) -> None:
        super().setUp()
        # Nothing is watched, and nobody told.
        with self.app.state.database.write() as connection:
            connection.execute("DELETE FROM alarm_limit")
            connection.execute("DELETE FROM alarm_setup")
            connection.execute("DELETE FROM alarm_sensor")

    def limits(self, *signals: str, **changed: Any) -> list[dict[str, Any]]:
        """The limits as suggested, changed in the first of them."""
        found = {one["signal"]: one["limit"] for one in self.get(f"/systems/{BEACON}/alarms")["signals"]}
        wanted = [found[signal] for signal in signals]
        return [{**wanted[0], **changed}, *wanted[1:]]

    def watch(self, *signals: str, **changed: Any) -> None:
        body = {"limits": self.limits(*signals, **changed), "url": ""}
        answer = self.send(f"/systems/{BEACON}/alarms", body, method="PUT")
        self.assertEqual(answer.status_code, 200, answer.text)

    def tell(self, *contacts: dict[str, Any], **changed: Any) -> None:
        body = {**self.get("/alarms")["setup"], "contacts": list(contacts), **changed}
        answer = self.send("/alarms/setup", body, method="PUT")
        self.assertEqual(answer.status_code, 200, answer.text)

    def push(self, readings: list[Any], contacts: list[Any] | None = None) -> Any:
        if not hasattr(self, "address"):
            self.post(f"/systems/{BEACON}/alarms/address", {})
            self.address = "/api/" + self.get(f"/systems/{BEACON}/alarms")["push"].split("/api/")[1]
        answer = self.api.post(self.address, json={"readings": readings, "contacts": contacts or []})
        self.assertEqual(answer.status_code, 200, answer.text)
        return answer.json()

    def open(self) -> list[str]:
        return [one["title"] for one in self.get("/alarms/open")["alarms"]]

    def test_beyond_its_limit_long_enough_is_an_alarm_everywhere(self) -> None:
        self.watch("temperature", high=27.5, hold_min=10)
        said = self.push([hot(27.9, "2026-11-24T17:20:00Z"), hot(28.1, "2026-11-24T17:25:00Z")])
        self.assertEqual(said, {"kept": 2, "refused": []})
        self.assertEqual(self.open(), [])
        self.push([hot(28.3)])
        self.assertEqual(self.open(), ["Too hot: 28.3 °C"])
        beacon = self.get("/harbour")["systems"][0]
        self.assertEqual((beacon["standing"], beacon["next_title"]), ("act today", "Alarm: Too hot: 28.3 °C"))
        first = self.get(f"/systems/{BEACON}/sheet")["next"][0]
        self.assertEqual((first["way"], first["urgent"]), ("alarm", True))
        self.push([hot(25.2, "2026-11-24T17:35:00Z")])
        self.assertEqual(self.open(), [])
        past = self.get("/alarms")["past"][0]
        self.assertIn("until 18:35", past["words"])
        self.assertNotEqual(self.get("/harbour")["systems"][0]["next_title"], "Alarm: Too hot: 28.3 °C")

    def test_what_a_controller_sends_stands_on_the_sheet_and_is_kept_once(self) -> None:
        rows = [hot(25 + minute / 100, f"2026-11-24T17:{minute:02}:00Z") for minute in range(40)]
        self.assertEqual(self.push(rows)["kept"], 40)
        self.assertEqual(self.push(rows)["kept"], 0)
        stretch = self.get(f"/systems/{BEACON}/probes?start=2026-11-24T16:00:00Z&end=2026-11-24T17:40:00Z&points=400")
        mine = next(one for one in stretch if one["instrument"] == "T1")
        # One in five minutes is kept: of 0 to 39 those of 0, 5, … 35.
        self.assertEqual([round(value, 2) for value in mine["mean"]], [25 + 0.05 * i for i in range(8)])

    def test_probes_sent_the_other_way_are_watched_too(self) -> None:
        self.watch("temperature", high=27.5, hold_min=0)
        body = {"parameter": "temperature", "instrument": "T9", "readings": [{"at": NOW.isoformat(), "value": 29.0}]}
        self.post(f"/systems/{BEACON}/probes", body)
        self.assertEqual(self.open(), ["Too hot: 29.0 °C"])
        old = [{"at": "2026-11-20T10:00:00Z", "value": 31.0}]
        self.post(f"/systems/{BEACON}/probes", {**body, "instrument": "T8", "readings": old})
        self.assertEqual(len(self.open()), 1)

    def test_a_leak_counts_at_once_and_protects_on_the_board_once_somebody_is_told(self) -> None:
        def kept_away() -> set[str]:
            failures = self.get(f"/systems/{BEACON}/failures")["failures"]
            return {name for one in failures for name in one["warned"]}

        self.watch("leak", "temperature")
        self.push([hot(25.0)], [{"sensor": "floor", "signal": "leak", "on": False}])
        self.assertFalse(kept_away() & {"a leak alarm", "a temperature alarm"})
        self.tell(KIT)
        self.assertLess({"a leak alarm", "a temperature alarm"}, kept_away() | {""})
        self.push([], [{"sensor": "floor", "signal": "leak", "on": True, "at": "2026-11-24T17:41:00Z"}])
        self.assertEqual(self.open(), ["Water on the floor"])
        alarm = self.get("/alarms")["alarms"][0]
        self.assertEqual(alarm["sheet"], "leak")
        shown = self.get(f"/systems/{BEACON}/emergencies")
        self.assertEqual([one["key"] for one in shown if one["seen"]][:1], ["leak"])
        self.assertEqual([one["words"] for one in alarm["messages"]], ["on its way"])

    def test_who_looked_is_written_down_and_can_be_taken_back(self) -> None:
        self.watch("leak")
        self.push([], [{"sensor": "floor", "signal": "leak", "on": True}])
        alarm = self.get("/alarms/open")["alarms"][0]
        self.post(f"/alarms/{alarm['id']}/seen", {"by": "Kit"})
        self.assertEqual(self.get("/alarms/open")["alarms"][0]["seen"], "Seen by Kit at 18:40 on Tue 24 Nov.")
        self.post(f"/alarms/{alarm['id']}/seen", {"by": ""})
        self.assertEqual(self.get("/alarms/open")["alarms"][0]["seen"], "")
        self.assertEqual(self.send("/alarms/999/seen", {"by": "Kit"}).status_code, 404)

    def test_another_limit_begins_anew(self) -> None:
        self.watch("temperature", high=27.5, hold_min=0)
        self.push([hot(28.0)])
        self.watch("temperature", high=28.5, hold_min=0)
        self.assertEqual(self.open(), [])
        self.assertIn("limit was changed", self.get("/alarms")["past"][0]["over"])
        self.push([hot(28.4, "2026-11-24T17:32:00Z")])
        self.assertEqual(self.open(), [])
        self.push([hot(28.6, "2026-11-24T17:33:00Z")])
        self.assertEqual(self.open(), ["Too hot: 28.6 °C"])

    def test_a_sensor_can_be_removed_with_its_alarms(self) -> None:
        self.watch("temperature", hold_min=0)
        self.push([hot(35.0)])
        self.post(f"/systems/{BEACON}/alarms/forget", {"signal": "temperature", "sensor": "T1"})
        self.assertEqual(self.open(), [])
        shown = self.get(f"/systems/{BEACON}/alarms")["signals"][0]
        self.assertEqual([one["sensor"] for one in shown["sensors"]], [])

    def test_limits_are_in_the_keepers_units_there_and_back(self) -> None:
        self.watch("temperature", "alkalinity")
        before = self.limits("temperature", "alkalinity")
        units = {"temperature": "°F", "alkalinity": "ppm"}
        answer = self.api.put("/api/keeper", json={"zone": "Europe/Copenhagen", "units": units})
        self.assertEqual(answer.status_code, 200, answer.text)
        after = self.limits("temperature", "alkalinity")
        self.assertAlmostEqual(after[0]["high"], before[0]["high"] * 1.8 + 32, places=1)
        self.assertAlmostEqual(after[0]["back"], before[0]["back"] * 1.8, places=3)
        self.watch("temperature", "alkalinity")
        self.assertEqual(self.limits("temperature", "alkalinity"), after)

    def test_what_cannot_work_is_refused_at_its_field_and_nothing_is_stored(self) -> None:
        def refused(limit: dict[str, Any], field: str, url: str = "") -> None:
            body = {"limits": [*self.limits("leak"), limit], "url": url}
            self.refused(f"/systems/{BEACON}/alarms", body, field, method="PUT")

        good = self.limits("temperature")[0]
        refused({**good, "low": 28, "high": 27}, "limits.1.low")
        refused({**good, "high": 80}, "limits.1.high")
        refused({**good, "back": 9}, "limits.1.back")
        refused({**good, "signal": "noise"}, "limits.1.signal")
        refused(good, "url", url="gopher://somewhere")
        self.assertFalse([one for one in self.get(f"/systems/{BEACON}/alarms")["signals"] if one["on"]])
        setup = self.get("/alarms")["setup"]
        for contact, field in (
            ({**KIT, "webhook": "x"}, "contacts.0.webhook"),
            ({**KIT, "name": ""}, "contacts.0.name"),
        ):
            self.refused("/alarms/setup", {**setup, "contacts": [contact]}, field, method="PUT")

    def test_an_address_that_is_not_in_use_takes_nothing(self) -> None:
        self.push([hot(25.0)])
        old = self.address
        self.post(f"/systems/{BEACON}/alarms/address", {})
        self.assertEqual(self.api.post(old, json={"readings": [hot(26.0)]}).status_code, 404)
        self.assertEqual(self.api.post("/api/push/none", json={}).status_code, 404)

    def test_a_test_says_what_arrived_and_what_did_not(self) -> None:
        self.tell(KIT)
        found = self.post("/alarms/test", {"contact": "Kit"})
        self.assertEqual([one["arrived"] for one in found], [False])
        self.assertIn("not delivered", found[0]["words"])
        self.assertEqual(self.send("/alarms/test", {"contact": "Nobody"}).status_code, 404)

    def test_the_page_says_what_it_cannot_guard(self) -> None:
        found = self.get("/alarms")
        self.assertEqual(len(found["cannot"]), 5)
        self.assertIn("Nobody away from this screen", found["warnings"][0])
        self.assertFalse(found["watched"])
        self.watch("leak")
        self.assertTrue(self.get("/alarms")["watched"])

    def test_a_test_by_hand_is_watched_like_a_probe_and_follows_its_correction(self) -> None:
        from salttide.household.alarm import look

        self.watch("alkalinity", low=7.0)
        self.post(f"/systems/{BEACON}/bench", session(alkalinity="6.6"))

        def looked() -> list[str]:
            with self.app.state.database.write() as connection:
                look(self.app.state.memo.anew(NOW), connection)
            return self.open()

        self.assertEqual(looked(), ["Alkalinity low: 6.6 dKH"])
        # Its finding says what to do: Next does not say it twice.
        titles = [one["title"] for one in self.get(f"/systems/{BEACON}/sheet")["next"]]
        self.assertFalse([title for title in titles if title.startswith("Alarm")])
        command = self.rows("SELECT command FROM entry ORDER BY id DESC LIMIT 1")[0][0]
        self.post(f"/record/{command}/undo", {})
        self.assertEqual(looked(), [])
        self.assertIn("corrected", self.get("/alarms")["past"][0]["over"])

    def test_however_it_is_sent_the_same_alarms_come_of_it(self) -> None:
        """One by one, in bundles, twice, or late and out of order within a bundle: the same record."""
        self.watch("temperature", "leak", high=27.5, hold_min=6)
        chance = Random(11)
        start = NOW - timedelta(hours=5)
        said = []
        level = 26.5
        for minute in range(0, 290, 6):
            level = min(29.5, max(25.0, level + chance.uniform(-0.8, 0.8)))
            at = (start + timedelta(minutes=minute)).isoformat()
            said.append(("readings", {**hot(round(level, 2), at)}))
            if chance.random() < 0.2:
                on = chance.random() < 0.5
                said.append(("contacts", {"sensor": "floor", "signal": "leak", "on": on, "at": at}))

        def record(bundles: list[list[Any]], sensor: str) -> list[Any]:
            for bundle in bundles:
                rows = [(kind, {**row, "sensor": sensor}) for kind, row in bundle]
                self.push(*([row for kind, row in rows if kind == wanted] for wanted in ("readings", "contacts")))
            columns = "signal, kind, began_at, side, value, worst, over_at, ended"
            return self.rows(f"SELECT {columns} FROM alarm WHERE sensor = ? ORDER BY began_at, signal", sensor)

        whole = record([said], "A")
        self.assertGreater(len(whole), 3)
        self.assertEqual(record([[one] for one in said], "B"), whole)
        bundles, rest = [], said
        while rest:
            count = chance.randint(1, 12)
            bundle, rest = rest[:count], rest[count:]
            bundles += [chance.sample(bundle, len(bundle)), bundle]
        self.assertEqual(record(bundles, "C"), whole)

    def test_systems_do_not_mix(self) -> None:
        self.watch("temperature", hold_min=0)
        self.post(f"/systems/{SKIFF}/alarms/address", {})
        address = "/api/" + self.get(f"/systems/{SKIFF}/alarms")["push"].split("/api/")[1]
        self.api.post(address, json={"readings": [hot(35.0)]})
        self.assertEqual(self.open(), [])
