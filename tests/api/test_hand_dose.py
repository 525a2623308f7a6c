"""Daily doses by hand: a tick on each day; what was not recorded was not given; what was missed, within the limit."""

from __future__ import annotations

from datetime import datetime, timedelta
from typing import Any

from salttide.clock import PinnedClock
from tests.api.base import NOW, SKIFF
from tests.api.test_acts import Acts

TODAY, YESTERDAY = "2026-11-24", "2026-11-23"


class HandDoses(Acts):
    """Skiff has no dosing pump: its daily soda is given by hand."""

    def setUp(self) -> None:
        super().setUp()
        soda = next(
            one["id"] for one in self.get(f"/systems/{SKIFF}/dosing")["additives"] if one["name"] == "soda stock"
        )
        self.body_of_routine = {
            "uptake": 1.0, "changes": False, "alkalinity": [{"additive_id": soda, "percent": 100}], "calcium_id": None,
        }  # fmt: skip
        self.post(f"/systems/{SKIFF}/dosing", self.body_of_routine)

    def days(self) -> list[dict[str, Any]]:
        lanes = self.get("/rota?days=14")["lanes"]
        lane = next(lane["tasks"] for lane in lanes if lane["system_id"] == SKIFF)
        return [one for one in lane if one["task"] == "daily_dose"]

    def doses(self) -> list[tuple[Any, ...]]:
        return self.rows(
            "SELECT substr(at, 1, 10), round(mass_g, 3), routine FROM dose JOIN effective ON effective.id = entry_id"
            " WHERE system_id = ? ORDER BY at", SKIFF,
        )  # fmt: skip

    def later(self, days: float) -> None:
        self.app.state.clock = PinnedClock(NOW + timedelta(days=days))

    def volume(self) -> float:
        household = self.app.state.memo.household(NOW)
        return float(household.stored.system(SKIFF).volume_l)

    def grams(self) -> float:
        """1 dKH a day: 10 mg/L of CaO, 56.077 g/mol, is 0.35665 meq/L; 2 meq to a mmol of Na2CO3, 105.988 g/mol."""
        return self.volume() * 2 * 10 / 56.077 / 2 * 0.105988

    def test_it_stands_on_every_day_with_its_amount(self) -> None:
        days = self.days()
        self.assertEqual([one["day"] for one in days], [f"2026-11-{n}" for n in range(24, 31)] + [
            f"2026-12-0{n}" for n in range(1, 8)
        ])  # fmt: skip
        # The stock holds 100 g/L: ten mL to the gram.
        self.assertIn(f"{self.grams() * 10:.1f} mL soda stock", days[0]["name"])

    def test_every_door_gives_the_same_dose(self) -> None:
        today = self.days()[0]
        # Typed as it is shown, it is rounded: the day's dose to the digit is what the other doors record.
        self.same(
            {
                "rota": lambda: self.rota(today, SKIFF),
                "round": lambda: self.round(today, SKIFF),
            }
        )

    def test_quick_entry_is_the_days_dose_and_takes_the_tick_away(self) -> None:
        self.line(f"dosed {self.grams() * 10:.1f} ml soda stock", SKIFF)
        self.assertEqual([one[2] for one in self.doses()], [1])
        self.assertNotIn(TODAY, [one["day"] for one in self.days()])
        # A second one is a dose of its own.
        self.line("dosed 3 ml soda stock", SKIFF)
        self.assertEqual(sorted(one[2] for one in self.doses()), [0, 1])

    def test_two_doses_in_one_line_are_the_days_dose_and_another(self) -> None:
        self.line("dosed 4 ml soda stock and dosed 3 ml soda stock", SKIFF)
        self.assertEqual(sorted(one[1:] for one in self.doses()), [(0.3, 0), (0.4, 1)])

    def test_what_was_not_recorded_was_not_given(self) -> None:
        self.later(3)
        self.assertEqual(self.doses(), [])
        household = self.app.state.memo.household(NOW + timedelta(days=3))
        system = household.stored.system(SKIFF)
        since = datetime.fromisoformat("2026-11-24T00:00:00+00:00")
        self.assertEqual([dose for dose in household.ledger(system).doses if dose.at >= since], [])

    def test_given_in_part_and_skipped(self) -> None:
        today = self.days()[0]
        self.rota(today, SKIFF, given={"soda stock": "5"})
        self.assertEqual(self.doses(), [(TODAY, 0.5, 1)])
        self.later(1)
        tomorrow = self.days()[0]
        self.assertEqual(tomorrow["day"], "2026-11-25")
        self.post(f"/systems/{SKIFF}/care/skip", self.body(tomorrow, reason="alkalinity was high"))
        self.assertEqual(len(self.doses()), 1)
        self.assertEqual(self.days()[0]["day"], "2026-11-26")
        self.refused(f"/systems/{SKIFF}/care/done", self.body(self.days()[0], given={"lime": "5"}), "given.lime")
        self.refused(
            f"/systems/{SKIFF}/care/done", self.body(self.days()[0], given={"soda stock": "2 kg"}), "given.soda stock"
        )

    def test_a_missed_day_is_offered_only_within_the_daily_limit(self) -> None:
        self.later(1)
        # 1 dKH a day, and Skiff's limit is 0.5 dKH: today's alone reaches it.
        self.assertIn("today's alone reaches the daily limit", self.days()[0]["why"])
        # Of 0.3 dKH a day, 0.5 / 0.3 of the dose may be given: 0.5 dKH is half of what 1 dKH takes.
        self.post(f"/systems/{SKIFF}/dosing", {**self.body_of_routine, "uptake": 0.3})
        self.later(2)
        self.assertIn(f"no more than {self.grams() * 5:.2f} mL soda stock today", self.days()[0]["why"])
        self.later(1)
        self.post(f"/systems/{SKIFF}/dosing", {**self.body_of_routine, "uptake": 0.2})
        self.later(2)
        self.assertIn("give both today, which stays within the daily limit", self.days()[0]["why"])
        self.rota(self.days()[0], SKIFF, when="yesterday 20:00")
        self.assertEqual([one[0] for one in self.doses()], ["2026-11-25"])
        self.assertNotIn("yesterday", self.days()[0]["why"])
        self.assertEqual(self.days()[0]["day"], "2026-11-26")

    def test_a_missed_day_is_not_made_up_for_beside_another_dose(self) -> None:
        self.post(f"/systems/{SKIFF}/dosing", {**self.body_of_routine, "uptake": 0.2})
        self.later(1)
        self.assertIn("give both today", self.days()[0]["why"])
        # More than one and a half times the daily dose: a dose of its own.
        self.line(f"dosed {self.grams() * 4:.1f} ml soda stock", SKIFF)
        self.assertIn("leave it: other doses are raising the same", self.days()[0]["why"])

    def test_it_stays_on_its_day(self) -> None:
        today = self.days()[0]
        for door, body in (("move", {"day": "2026-11-26"}), ("split", {"minutes": "1", "day": "2026-11-26"})):
            self.refused(f"/systems/{SKIFF}/care/{door}", self.body(today, **body), "task")

    def test_it_is_in_next_and_in_the_round(self) -> None:
        titles = [item["title"] for item in self.get(f"/systems/{SKIFF}/sheet")["next"]]
        self.assertTrue([one for one in titles if one.startswith("Dose ") and "soda stock" in one], titles)
        lane = next(one for one in self.get("/rota/round")["systems"] if one["system_id"] == SKIFF)
        self.assertIn("daily_dose", [one["task"] for one in lane["tasks"]])

    def test_a_pump_that_is_not_set_up_gives_by_itself(self) -> None:
        self.post(f"/systems/{SKIFF}/dosing", {**self.body_of_routine, "by_hand": False})
        self.assertEqual(self.days(), [])
        self.later(2)
        household = self.app.state.memo.household(NOW + timedelta(days=2))
        given = [dose for dose in household.ledger(household.stored.system(SKIFF)).doses if dose.routine]
        # Of the day it began, and of the two after it.
        self.assertEqual(len(given), 3)

    def test_the_calendar_has_it_on_each_day_with_its_amount(self) -> None:
        self.post("/rota/calendar/link", None)
        address = self.get("/rota/calendar")["address"]
        text = self.api.get(address[address.index("/", len("http://")) :]).text.replace("\r\n ", "")
        self.assertGreaterEqual(text.count("soda stock"), 14)

    def test_a_carer_is_told_to_give_it_and_what_they_gave_is_the_days_dose(self) -> None:
        self.post("/rota/away", {"first": "2026-11-24", "last": "2026-11-30", "note": ""})
        number = self.get("/rota/minutes")["away"][0]["id"]
        sheet = self.get(f"/rota/away/{number}/hand-over")
        work = [one["name"] for each in sheet["sheet"]["systems"] for visit in each["visits"] for one in visit["work"]]
        self.assertTrue([name for name in work if "soda stock" in name], work)

    def test_what_was_given_stands_in_the_log(self) -> None:
        self.rota(self.days()[0], SKIFF)
        first = self.get(f"/systems/{SKIFF}/record?limit=5")[0]
        self.assertEqual(first["words"], "Dose")
        self.assertIn("soda stock", first["detail"])
