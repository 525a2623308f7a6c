"""The rota: done with what was found, moved, swapped, skipped; minutes and absences; choices, own tasks, the year."""

from datetime import date, timedelta
from typing import Any

from tests.api.base import BEACON, EELGRASS, SKIFF, ApiTest


class RotaTest(ApiTest):
    def lane(self, system: int = BEACON, days: int = 42) -> list[dict[str, Any]]:
        return next(lane["tasks"] for lane in self.get(f"/rota?days={days}")["lanes"] if lane["system_id"] == system)

    def first(self, task: str, system: int = BEACON) -> dict[str, Any]:
        return next(one for one in self.lane(system) if one["task"] == task)

    def body(self, task: dict[str, Any], **more: Any) -> dict[str, Any]:
        return {"task": task["task"], "due": task["due"], "step_id": task["step_id"], **more}


class Done(RotaTest):
    def test_with_what_was_found_and_how_long_it_took(self):
        cup = self.first("skimmer_cup")
        found = {"cup_level": "70", "cup_colour": "dark and dry"}
        kept = self.post(f"/systems/{BEACON}/care/done", self.body(cup, minutes="8", found=found))
        told = self.get(f"/systems/{BEACON}/care/skimmer_cup")
        self.assertEqual(told["times"][0]["found"], ["Cup filled: 70 %", "In the cup: dark and dry"])
        self.assertEqual(told["times"][0]["minutes"], 8)
        # Usual 5 counts twice, 8 once: 18 / 3 = 6.
        self.assertEqual(told["minutes_words"], "6 min, from 1 time it was timed")
        self.post(f"/record/{kept['command']}/undo", None)
        self.assertEqual(self.first("skimmer_cup"), cup)

    def test_wrong_findings_are_refused_at_their_field_and_nothing_is_recorded(self):
        cup = self.first("skimmer_cup")
        path = f"/systems/{BEACON}/care/done"
        count = len(self.rows("SELECT 1 FROM care"))
        said = self.refused(path, self.body(cup, found={"cup_level": "170"}), "found.cup_level")
        self.assertEqual(said["accepted"], "0 to 100 %")
        self.refused(path, self.body(cup, found={"flow_before": "1000"}), "found.flow_before")
        self.refused(path, self.body(cup, minutes="long"), "minutes")
        self.refused(path, self.body(cup, minutes="700"), "minutes")
        self.assertEqual(len(self.rows("SELECT 1 FROM care")), count)

    def test_the_next_part_comes_in_turn(self):
        first = self.first("siphon")
        self.assertIn("third", first["zone"])
        self.post(f"/systems/{BEACON}/care/done", self.body(first))
        self.assertNotEqual(self.first("siphon")["zone"], first["zone"])

    def test_what_was_fixed_is_used_up_when_it_is_done_and_comes_back_with_it(self):
        task = self.first("livestock_check")
        there = (date.fromisoformat(task["due"]) + timedelta(days=4)).isoformat()
        self.post(f"/systems/{BEACON}/care/move", self.body(task, day=there))
        kept = self.post(f"/systems/{BEACON}/care/done", self.body(task))
        self.assertFalse(self.first("livestock_check")["fixed"])
        self.post(f"/record/{kept['command']}/undo", None)
        self.assertEqual((self.first("livestock_check")["day"], self.first("livestock_check")["fixed"]), (there, True))

    def test_undone_the_whole_rota_stands_as_it_did(self):
        before = self.get("/rota?days=42")["lanes"]
        changed = {"litres": "14"}
        for system, name in ((SKIFF, "water_change"), (BEACON, "filter_sock"), (BEACON, "water_change")):
            task = self.first(name, system)
            with self.subTest(system=system, task=name):
                body = self.body(task, **({"changed": changed} if name == "water_change" else {}))
                kept = self.post(f"/systems/{system}/care/done", body)
                self.get("/rota?days=42")
                self.post(f"/record/{kept['command']}/undo", None)
                self.assertEqual(self.get("/rota?days=42")["lanes"], before)

    def test_undone_later_it_brings_back_its_own_task_and_moves_nothing_else(self):
        task = self.first("water_change", SKIFF)
        kept = self.post(f"/systems/{SKIFF}/care/done", self.body(task, changed={"litres": "14"}))
        cup = self.first("skimmer_cup")
        self.post(f"/systems/{BEACON}/care/done", self.body(cup))
        after = {(one["task"], one["due"]): one["day"] for one in self.lane()}
        self.post(f"/record/{kept['command']}/undo", None)
        self.assertEqual(self.first("water_change", SKIFF)["day"], task["day"])
        self.assertEqual({(one["task"], one["due"]): one["day"] for one in self.lane()}, after)


class Moved(RotaTest):
    def test_little_else_moves(self):
        before = {(one["task"], one["due"]): one["day"] for one in self.lane()}
        change = self.first("water_change")
        there = (date.fromisoformat(change["day"]) + timedelta(days=1)).isoformat()
        self.post(f"/systems/{BEACON}/care/move", self.body(change, day=there))
        after = {(one["task"], one["due"]): one["day"] for one in self.lane()}
        moved = {key for key in before.keys() & after.keys() if before[key] != after[key]}
        # The change, and what is done with it.
        self.assertIn(("water_change", change["due"]), moved)
        joined = {one["task"] for one in self.lane() if one["placed"].startswith("goes with")}
        others = [key for key in moved if key[0] not in joined | {"water_change"}]
        self.assertLessEqual(len(others), 0.05 * len(before))

    def test_two_that_must_not_share_a_day_are_refused(self):
        lamp, change = self.first("steriliser_lamp"), self.first("water_change")
        said = self.refused(f"/systems/{BEACON}/care/move", self.body(lamp, day=change["day"]), "day")
        self.assertIn("the two must not share a day", said["message"])
        self.refused(f"/systems/{BEACON}/care/move", self.body(lamp, day="2026-11-01"), "day")

    def test_two_change_places_also_between_systems(self):
        one, other = self.first("heater_check", SKIFF), self.first("reservoir", EELGRASS)
        self.assertNotEqual(one["day"], other["day"])
        body = {"one": self.body(one), "other": self.body(other), "other_system_id": EELGRASS}
        self.post(f"/systems/{SKIFF}/care/swap", body)
        days = self.first("heater_check", SKIFF)["day"], self.first("reservoir", EELGRASS)["day"]
        self.assertEqual(days, (other["day"], one["day"]))
        self.refused(f"/systems/{SKIFF}/care/swap", {**body, "other": body["one"], "other_system_id": SKIFF}, "other")

    def test_evened_out_anew_says_how_many_moved(self):
        self.assertRegex(self.post("/rota/rebalance", None)["words"], r"workload balanced: \d+ of \d+ tasks moved")


class Time(RotaTest):
    def day(self, offset: int) -> str:
        return (date(2026, 11, 24) + timedelta(days=offset)).isoformat()

    def test_by_weekday_and_on_single_days(self):
        self.assertEqual(self.get("/rota/minutes")["week"][5:], [200, 200])
        self.send("/rota/minutes", {"week": [10, 20, 30, 40, 50, 60, 70]}, method="PUT")
        self.send("/rota/minutes/day", {"day": self.day(2), "minutes": 0}, method="PUT")
        rooms = [one["room"] for one in self.get("/rota")["days"][:7]]
        # Today is a Tuesday.
        self.assertEqual(rooms, [20, 30, 0, 50, 60, 70, 10])
        self.send("/rota/minutes/day", {"day": self.day(2), "minutes": None}, method="PUT")
        self.assertEqual(self.get("/rota")["days"][2]["room"], 40)

    def test_what_cannot_be_is_refused(self):
        self.refused("/rota/minutes", {"week": [10, -1, 0, 0, 0, 0, 0]}, "week.1", method="PUT")
        self.refused("/rota/minutes/day", {"day": self.day(1), "minutes": 2000}, "minutes", method="PUT")
        self.refused("/rota/minutes/day", {"day": self.day(-1), "minutes": 20}, "day", method="PUT")
        self.refused("/rota/away", {"first": self.day(5), "last": self.day(3)}, "last")
        self.refused("/rota/away", {"first": self.day(-9), "last": self.day(-3)}, "last")

    def test_what_can_wait_is_not_done_while_away_and_what_cannot_is_said(self):
        kept = self.post("/rota/away", {"first": self.day(2), "last": self.day(6), "note": "by the sea"})
        rota = self.get("/rota")
        away = [day["day"] for day in rota["days"] if day["away"]]
        self.assertEqual(away, [self.day(offset) for offset in range(2, 7)])
        for lane in rota["lanes"]:
            for task in lane["tasks"]:
                if task["day"] in away:
                    # Only what has no day outside.
                    self.assertTrue(task["earliest"] >= away[0] and task["latest"] <= away[-1], task)
        said = " ".join(short["words"] for short in rota["shorts"])
        self.assertIn("you are away", said)
        self.post(f"/record/{kept['command']}/undo", None)
        self.assertFalse(any(day["away"] for day in self.get("/rota")["days"]))


class Kept(RotaTest):
    def test_a_choice_is_kept_and_as_usual_is_forgotten(self):
        path = f"/systems/{BEACON}/care/salt_creep"
        usual = self.get(path)["choice"]
        self.send(path, {**usual, "every_days": 21, "weekdays": [5]}, method="PUT")
        told = self.get(path)
        self.assertEqual(told["every_words"], "every 21 days on Sat")
        self.assertEqual(date.fromisoformat(self.first("salt_creep")["day"]).weekday(), 5)
        self.send(path, usual, method="PUT")
        self.assertEqual(self.rows(f"SELECT count(*) FROM care_choice WHERE system_id = {BEACON}"), [(0,)])
        self.refused(path, {**usual, "every_days": 0}, "every_days", method="PUT")

    def test_off_the_rota_and_back(self):
        path = f"/systems/{BEACON}/care/tools"
        usual = self.get(path)["choice"]
        self.send(path, {**usual, "off": True}, method="PUT")
        self.assertNotIn("tools", {one["task"] for one in self.lane()})
        rows = {row["task"]: row["on"] for row in self.get(f"/systems/{BEACON}/care")["rows"]}
        self.assertEqual((rows["tools"], rows["siphon"]), (False, True))
        self.send(path, usual, method="PUT")
        self.assertIn("tools", {one["task"] for one in self.lane()})

    def test_a_task_of_ones_own_comes_round_and_goes(self):
        path = f"/systems/{SKIFF}/care"
        own = {"name": "Polish the lid", "every_days": 5, "minutes": 4, "note": "with a soft cloth", "phase": "scrape"}
        self.post(path, own)
        self.refused(path, own, "name")
        self.refused(path, {**own, "name": "x"}, "name")
        task = next(one for one in self.lane(SKIFF) if one["name"] == "Polish the lid")
        self.assertEqual(task["about"], "with a soft cloth")
        self.post(f"/systems/{SKIFF}/care/done", self.body(task))
        self.assertEqual(len(self.get(f"{path}/{task['task']}")["times"]), 1)
        self.send(f"{path}/{task['task']}", None, method="DELETE")
        self.assertNotIn("Polish the lid", {one["name"] for one in self.lane(SKIFF)})
        self.post(f"{path}/{task['task']}/restore", None)
        self.assertIn("Polish the lid", {one["name"] for one in self.lane(SKIFF)})
        self.refused(f"{path}/tools", None, "task", method="DELETE")

    def test_the_year_holds_what_is_rare_done_and_expected(self):
        year = self.get("/rota/year")
        rows = {(row["system"], row["task"]): row for row in year["rows"]}
        lamp = rows["Beacon", "steriliser_lamp"]
        # Last on 9 December 2025, every 365 days and up to 30 days earlier or later.
        day = date.fromisoformat(lamp["marks"][0]["day"])
        self.assertTrue(date(2026, 11, 9) <= day <= date(2027, 1, 8))
        self.assertNotIn(("Beacon", "siphon"), rows)
        self.assertTrue(any(mark["done"] for mark in rows["Beacon", "powerheads"]["marks"]))

    def test_a_history_tells_what_flow_was_lost(self):
        told = self.get(f"/systems/{BEACON}/care/powerheads")
        self.assertRegex(told["trend"], r"It had lost \d+ % of its best flow")
        self.assertTrue(any("Acids" in caution for caution in told["cautions"]))


class Reasons(RotaTest):
    def test_every_task_says_why_it_is_due_and_why_it_stands_there(self):
        for lane in self.get("/rota?days=28")["lanes"]:
            for task in lane["tasks"]:
                with self.subTest(system=lane["name"], task=task["task"]):
                    self.assertTrue(task["why"])
                    self.assertTrue(task["placed"] or task["task"] == "container_refill")

    def test_asked_twice_it_is_the_same_rota(self):
        self.assertEqual(self.get("/rota?days=42"), self.get("/rota?days=42"))

    def test_what_is_going_on_makes_it_more_often(self):
        self.assertEqual(self.first("filter_sock")["why"].split(",")[0], "every 4 days")
        self.post(
            f"/systems/{BEACON}/inspection/checks",
            {"signs": [{"kind": "red_film", "amount": "patches", "where": "sand"}]},
        )
        self.assertIn("every 3 days, because a bloom is being fought", self.first("filter_sock")["why"])
        self.assertIn("a red film is being fought", self.first("skimmer_cup")["why"])


class InTwoParts(RotaTest):
    """The powerheads, stripped in two evenings."""

    def split(self, minutes="15", day="2026-12-08"):
        task = self.first("powerheads")
        return task, self.post(f"/systems/{BEACON}/care/split", self.body(task, minutes=minutes, day=day))

    def parts(self):
        return [(one["piece"], one["day"]) for one in self.lane() if one["task"] == "powerheads"]

    def test_each_part_is_done_by_itself_and_only_the_rest_counts(self):
        whole, kept = self.split()
        self.assertIn("15 min", kept["words"])
        first, rest = [one for one in self.lane() if one["task"] == "powerheads"]
        self.assertEqual((first["name"], rest["name"]),
                         ("Strip the powerheads, first part", "Strip the powerheads, the rest"))  # fmt: skip
        self.assertEqual(first["minutes"] + rest["minutes"], whole["minutes"])
        done = self.post(f"/systems/{BEACON}/care/done", self.body(first))
        self.assertEqual(self.parts(), [("the rest", "2026-12-08")])
        self.assertIn("Strip the powerheads, in part", self.api.get(f"/api/systems/{BEACON}/record").text)
        self.post(f"/record/{done['command']}/undo", None)
        self.assertEqual(len(self.parts()), 2)
        self.post(f"/systems/{BEACON}/care/done", self.body(first))
        last = self.post(f"/systems/{BEACON}/care/done", self.body(rest))
        self.assertEqual(self.parts(), [])
        self.post(f"/record/{last['command']}/undo", None)
        self.assertEqual(self.parts(), [("the rest", "2026-12-08")])

    def test_the_rest_moves_and_both_come_together_again(self):
        whole, _ = self.split()
        rest = next(one for one in self.lane() if one["piece"] == "the rest")
        self.post(f"/systems/{BEACON}/care/move", self.body(rest, day="2026-12-09"))
        self.assertIn(("the rest", "2026-12-09"), self.parts())
        rest = next(one for one in self.lane() if one["piece"] == "the rest")
        self.post(f"/systems/{BEACON}/care/move", self.body(rest, day=None))
        self.assertEqual([piece for piece, _ in self.parts()], [""])
        self.assertEqual(self.first("powerheads")["minutes"], whole["minutes"])

    def test_what_cannot_be_is_refused_at_its_field(self):
        task = self.first("powerheads")
        path = f"/systems/{BEACON}/care/split"
        for minutes in ("0", str(task["minutes"]), "half"):
            self.refused(path, self.body(task, minutes=minutes, day="2026-12-05"), "minutes")
        said = self.refused(path, self.body(task, minutes="10", day=task["day"]), "day")
        self.assertIn("a day after", said["accepted"])
        # The rest never comes before its first part.
        self.refused(path, self.body(task, minutes="10", day="2026-12-05"), "day")
        self.refused(path, self.body(task, minutes="10", day="2026-11-01"), "day")
        self.split()
        first = next(one for one in self.lane() if one["piece"] == "first part")
        self.refused(path, self.body(first, minutes="5", day="2026-12-09"), "task")

    def test_a_part_says_nothing_of_the_minutes_of_the_whole(self):
        self.split()
        before = self.get(f"/systems/{BEACON}/care/powerheads")["minutes_words"]
        first = next(one for one in self.lane() if one["piece"] == "first part")
        self.post(f"/systems/{BEACON}/care/done", self.body(first, minutes="3"))
        rest = next(one for one in self.lane() if one["piece"] == "the rest")
        self.post(f"/systems/{BEACON}/care/done", self.body(rest, minutes="3"))
        self.assertEqual(self.get(f"/systems/{BEACON}/care/powerheads")["minutes_words"], before)
