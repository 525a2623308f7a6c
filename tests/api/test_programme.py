"""Programmes through the API: begun, reviewed, bent into the rota and put back, the same from every door."""

from __future__ import annotations

from datetime import timedelta
from typing import Any

from tests.api.base import BEACON, EELGRASS, NOW, SKIFF, SLIPWAY, ApiTest

FILM, HAIR, SAND = "cyanobacteria", "hair_algae", "dinoflagellates_sand"


class Programmes(ApiTest):
    def sheet(self, system: int = SKIFF, key: str = FILM) -> Any:
        return self.get(f"/systems/{system}/programmes/{key}")

    def tasks(self, system: int, days: int = 14) -> list[Any]:
        lanes = self.get(f"/rota?days={days}")["lanes"]
        return [task for lane in lanes if lane["system_id"] == system for task in lane["tasks"]]

    def first(self, system: int, task: str) -> Any:
        return next(one for one in self.tasks(system) if one["task"] == task)

    def later(self, days: float) -> None:
        self.app.state.clock = type(self.app.state.clock)(NOW + timedelta(days=days))

    def look(self, coverage: str, system: int = SKIFF, key: str = FILM, **more: Any) -> Any:
        return self.post(f"/systems/{system}/programmes/{key}/reviews", {"coverage": coverage, **more})

    def done(self, system: int, one: Any, **more: Any) -> Any:
        body = {name: one[name] for name in ("task", "due", "step_id")}
        return self.post(f"/systems/{system}/care/done", {**body, **more})

    def phase(self, sheet: Any) -> Any:
        return next(one for one in sheet["phases"] if one["now"])


class Begun(Programmes):
    def test_beginning_bends_the_rota_and_undone_it_is_as_it_was(self) -> None:
        before = self.tasks(BEACON)
        offered = self.sheet(BEACON, HAIR)
        self.assertIsNone(offered["case_id"])
        # 12 % of 333.9 L every 7 days, half as much again while it is fought: 18 % are 60.1 L.
        fight = next(one for one in offered["phases"] if one["kind"] == "fight")
        self.assertIn("60.1 L (18 %) every 7 days", fight["changes"])
        begun = self.post(f"/systems/{BEACON}/programmes/{HAIR}", {"coverage": "much"})
        self.assertEqual(self.phase(self.sheet(BEACON, HAIR))["key"], "find")
        asked = {one["task"]: one for one in self.tasks(BEACON)}
        self.assertEqual(asked["test_source"]["why"], "fresh water with phosphate feeds it every day")
        self.assertIn("review_hair_algae", asked)
        answer = self.send(f"/systems/{BEACON}/programmes/{HAIR}", {"coverage": "much"})
        self.assertEqual(answer.status_code, 409)
        self.post(f"/record/{begun['command']}/undo", None)
        self.assertEqual(self.tasks(BEACON), before)

    def test_the_single_tasks_end_the_finding_and_the_change_is_larger_everywhere(self) -> None:
        self.post(f"/systems/{BEACON}/programmes/{HAIR}", {"coverage": "patches"})
        for task in ("test_source", "feed_portions", "rock_check"):
            self.done(BEACON, self.first(BEACON, task))
        sheet = self.sheet(BEACON, HAIR)
        self.assertEqual(self.phase(sheet)["key"], "pull")
        self.assertTrue(all(one["done"] for one in sheet["phases"][0]["tasks"] if one["often"] == "once"))
        # The same size at the rota's change, on the Change page, and in what its page says.
        self.assertEqual(self.get(f"/systems/{BEACON}/changed")["litres"], "60.1")
        asked = self.get(f"/systems/{BEACON}/change")
        self.assertAlmostEqual(asked["request"]["fraction_percent"], 18.0)
        self.assertEqual(self.first(BEACON, "pull_algae")["runbook"], "rock_scrub")

    def test_another_school_takes_the_place_of_the_first(self) -> None:
        self.post(f"/systems/{SKIFF}/programmes/cyanobacteria_bacteria", {"coverage": "patches"})
        lines = self.get(f"/systems/{SKIFF}/programmes")
        self.assertEqual([one["key"] for one in lines if one["live"]], ["cyanobacteria_bacteria"])
        old = next(one for one in self.get(f"/systems/{SKIFF}/cases") if one["programme"] == FILM)
        self.assertTrue(old["words"].startswith("Replaced Tue 24 Nov"))

    def test_nothing_is_fought_while_cycling_and_what_is_unknown_is_refused(self) -> None:
        self.assertEqual(self.send(f"/systems/{SLIPWAY}/programmes/diatoms", {"coverage": "much"}).status_code, 409)
        self.assertEqual(self.send(f"/systems/{SKIFF}/programmes/weeds", {"coverage": "much"}).status_code, 404)
        self.refused(f"/systems/{BEACON}/programmes/{HAIR}", {"coverage": "some"}, "coverage")
        self.assertEqual(
            self.send(f"/systems/{BEACON}/programmes/{HAIR}/reviews", {"coverage": "much"}).status_code, 404
        )


class Reviewed(Programmes):
    def test_a_look_is_one_act_from_the_page_and_from_the_rota(self) -> None:
        def after(act: Any) -> Any:
            with self.subTest():
                done = act()
                sheet = self.sheet()
                left = [one["due"] for one in self.tasks(SKIFF, 28) if one["task"] == "review_red_film"]
                signs = self.get(f"/systems/{SKIFF}/troubles")["answered"]
                self.post(f"/record/{done['command']}/undo", None)
                return [(one["day"], one["coverage"]) for one in sheet["reviews"]], left, signs

        task = self.first(SKIFF, "review_red_film")
        by_page = after(lambda: self.look("a little"))
        by_rota = after(lambda: self.done(SKIFF, task, found={"cover_red_film": "a little"}))
        self.assertEqual(by_page, by_rota)
        self.assertEqual(by_page[0][-1], ("Tue 24 Nov", "a little"))
        self.assertEqual(by_page[1][0], "2026-12-01")

    def test_a_look_without_how_much_says_nothing_and_is_refused(self) -> None:
        task = self.first(SKIFF, "review_red_film")
        body = {name: task[name] for name in ("task", "due", "step_id")}
        said = self.refused(f"/systems/{SKIFF}/care/done", body, "found.cover_red_film")
        self.assertEqual(said["accepted"], "none, a little, patches and much")
        # Skipped is not looked: it needs nothing.
        self.post(f"/systems/{SKIFF}/care/skip", {**body, "reason": "away"})

    def test_three_clean_looks_put_the_routine_back_and_undo_takes_it_forward_again(self) -> None:
        self.assertEqual(self.first(SKIFF, "skimmer_cup")["why"][:41], "every 3 days, because film is being fough")
        commands = []
        for week, coverage in enumerate(("a little", "none", "none", "none")):
            self.later(7 * week)
            commands.append(self.look(coverage)["command"])
        sheet = self.sheet()
        self.assertEqual((self.phase(sheet)["key"], len(sheet["reviews"])), ("ease", 7))
        self.assertEqual([one for one in self.tasks(SKIFF) if one["task"] == "lift_film"], [])
        # The routine change has its own size again: 20 % of 71 L.
        self.assertEqual(self.get(f"/systems/{SKIFF}/changed")["litres"], "14.2")
        self.post(f"/record/{commands[-1]}/undo", None)
        self.assertEqual(self.phase(self.sheet())["key"], "lift")
        self.assertEqual(self.get(f"/systems/{SKIFF}/changed")["litres"], "8.9")

    def test_a_picture_belongs_to_its_look(self) -> None:
        from tests.api.test_picture import picture

        answer = self.api.post(
            f"/api/systems/{SKIFF}/pictures?subject=cyanobacteria (red film), same place", content=picture(),
            headers={"Idempotency-Key": "programme-picture", "Content-Type": "image/png"},
        )  # fmt: skip
        kept = answer.json()["picture"]["id"]
        self.look("a little", picture_id=kept)
        self.assertEqual(self.sheet()["reviews"][-1]["picture"], f"/api/pictures/{kept}/file")
        self.assertEqual(self.sheet()["frame"], f"/api/pictures/{kept}/file")

    def test_a_look_of_another_day_counts_for_that_day(self) -> None:
        self.look("a little", when="yesterday 20:00")
        self.assertEqual(self.sheet()["reviews"][-1]["day"], "Mon 23 Nov")
        self.refused(f"/systems/{SKIFF}/programmes/{FILM}/reviews", {"coverage": "much", "when": "1 Oct"}, "when")
        self.refused(f"/systems/{SKIFF}/programmes/{FILM}/reviews", {"coverage": "much", "when": "tomorrow"}, "when")

    def test_nobody_looked_it_asks_and_goes_on(self) -> None:
        self.later(4)
        said = next(one for one in self.get(f"/systems/{SKIFF}/sheet")["next"] if one["cause"] == FILM)
        self.assertEqual(said["way"], "programme")
        self.assertIn("Nobody has looked at it for 11 days", said["reason"])
        self.later(60)
        self.assertEqual(self.phase(self.sheet())["key"], "lift")


class Named(Programmes):
    def test_what_it_is_has_to_be_said_and_then_the_floor_is_raised(self) -> None:
        task = self.first(EELGRASS, "microscope")
        self.assertEqual(task["programme"], SAND)
        body = {name: task[name] for name in ("task", "due", "step_id")}
        self.refused(f"/systems/{EELGRASS}/care/done", body, "found.under_microscope")
        asked = {one["task"]: one for one in self.phase(self.sheet(EELGRASS, SAND))["tasks"]}
        self.assertEqual(asked["microscope"]["due"], task["due"])
        self.assertNotIn("floor", {one["rule"] for one in self.get(f"/systems/{EELGRASS}/judgement")["findings"]})
        self.done(EELGRASS, task, found={"under_microscope": "oval cells that swim or spin"})
        night = self.first(EELGRASS, "night_look")
        self.done(EELGRASS, night, found={"at_night": "the same as in the evening"})
        self.assertEqual(self.phase(self.sheet(EELGRASS, SAND))["key"], "raise")
        # The key knows both, and the plan that raises nitrate stands in Next.
        answers = {one["question"]: one["answer"] for one in self.get(f"/systems/{EELGRASS}/troubles")["answered"]}
        self.assertEqual((answers["microscope"], answers["night"]), ("swim", "same"))
        self.assertIn("floor", {one["rule"] for one in self.get(f"/systems/{EELGRASS}/judgement")["findings"]})
        first = self.get(f"/systems/{EELGRASS}/sheet")["next"][0]
        self.assertIn("nitrate", first["title"].lower())


class Held(Programmes):
    def test_strands_hold_the_change_back_everywhere(self) -> None:
        self.assertNotIn("water_change", {one["task"] for one in self.tasks(EELGRASS, 42)})
        request = self.get(f"/systems/{EELGRASS}/change")
        self.assertIn("held back against likely dinoflagellates (brown strands)", " ".join(request["held"]))
        (strands,) = self.get(f"/systems/{EELGRASS}/judgement")["findings"]
        self.assertIn("The programme against likely dinoflagellates (brown strands) sees to it", strands["advice"])
        for kind in ("paused", "ended"):
            done = self.post(f"/systems/{EELGRASS}/cases/{self.sheet(EELGRASS, SAND)['case_id']}/turns", {"kind": kind})
            self.assertIn("water_change", {one["task"] for one in self.tasks(EELGRASS, 42)})
            self.post(f"/record/{done['command']}/undo", None)
            self.assertNotIn("water_change", {one["task"] for one in self.tasks(EELGRASS, 42)})

    def test_a_dark_tank_is_refused_where_seagrass_grows(self) -> None:
        answer = self.send(f"/systems/{EELGRASS}/programmes/{SAND}/phase", {"phase": "dark"})
        self.assertEqual(answer.status_code, 409)
        self.assertIn("seagrass shoots would not bear it", answer.json()["detail"])
        self.assertEqual(self.send(f"/systems/{EELGRASS}/programmes/{SAND}/phase", {"phase": "noon"}).status_code, 404)

    def test_two_programmes_follow_the_first(self) -> None:
        self.post(f"/systems/{SKIFF}/programmes/{HAIR}", {"coverage": "patches"})
        self.post(f"/systems/{SKIFF}/programmes/{HAIR}/phase", {"phase": "pull"})
        self.assertEqual(self.get(f"/systems/{SKIFF}/changed")["litres"], "8.9")
        said = self.phase(self.sheet(SKIFF, HAIR))["departs"]
        self.assertIn("Light and water changes follow the programme against cyanobacteria (red film)", " ".join(said))


class TaskList(Programmes):
    def rows(self, system: int) -> dict[str, Any]:
        return {row["task"]: row for row in self.get(f"/systems/{system}/care")["rows"]}

    def test_the_list_of_tasks_says_what_is_bent_and_held_for_now(self) -> None:
        skiff, eelgrass = self.rows(SKIFF), self.rows(EELGRASS)
        self.assertEqual(
            skiff["lift_film"]["every_words"], "every 4 days for now, because red film is being lifted out"
        )
        self.assertTrue(eelgrass["water_change"]["on"])
        self.assertTrue(eelgrass["water_change"]["every_words"].startswith("held back for now: a change or an export"))
        self.assertTrue(eelgrass["microscope"]["every_words"].startswith("once: what helps"))
        # What no programme asks for is no task of a system.
        self.assertNotIn("pull_algae", {**skiff, **eelgrass})
        self.assertNotIn("microscope", skiff)


class Lamps(Programmes):
    def hours(self) -> str:
        return self.get(f"/systems/{SKIFF}/light")["words"].partition(",")[0]

    def test_a_step_of_light_is_the_lamps_setting_and_is_given_back(self) -> None:
        self.assertEqual(self.hours(), "9.5 h")
        self.post(f"/systems/{SKIFF}/programmes/{FILM}/phase", {"phase": "light"})
        step = self.first(SKIFF, "light_hours")
        self.assertEqual(step["why"], "12:30 to 21:30, 9.0 h: less light feeds it less")
        done = self.done(SKIFF, step)
        self.assertEqual(self.hours(), "9.0 h")
        self.assertNotIn("light_hours", {one["task"] for one in self.tasks(SKIFF)})
        self.post(f"/record/{done['command']}/undo", None)
        self.assertEqual(self.hours(), "9.5 h")
        self.done(SKIFF, self.first(SKIFF, "light_hours"))
        # Three days on the next half hour is due; when it is clean, it comes back.
        self.later(3)
        self.done(SKIFF, self.first(SKIFF, "light_hours"))
        self.assertEqual(self.hours(), "8.5 h")
        for week in (1, 2, 3):
            self.later(7 * week)
            self.look("none")
        back = self.first(SKIFF, "light_hours")
        self.assertIn("the routine is put back", back["why"])
        self.later(45)
        self.done(SKIFF, self.first(SKIFF, "light_hours"))
        self.assertEqual(self.hours(), "9.5 h")


class Ended(Programmes):
    def test_ended_early_it_says_that_the_lamps_are_still_short(self) -> None:
        number = self.sheet()["case_id"]
        self.post(f"/systems/{SKIFF}/programmes/{FILM}/phase", {"phase": "light"})
        self.done(SKIFF, self.first(SKIFF, "light_hours"))
        said = self.post(f"/systems/{SKIFF}/cases/{number}/turns", {"kind": "ended"})["words"]
        self.assertTrue(said.endswith("The lamps burn 9.0 h a day, 9.5 h before it: set them back under Set-up"), said)

    def test_what_stays_is_the_keepers_own_choice(self) -> None:
        sheet = self.sheet()
        self.assertFalse(sheet["lasting_kept"])
        body = {"off": False, "every_days": sheet["lasting_days"], "weekdays": []}
        answer = self.send(f"/systems/{SKIFF}/care/{sheet['lasting']['task']}", body, method="PUT")
        self.assertEqual(answer.status_code, 200, answer.text)
        self.assertTrue(self.sheet()["lasting_kept"])

    def test_ended_the_rota_forgets_it_and_the_review_remembers(self) -> None:
        self.post(f"/systems/{SKIFF}/cases/{self.sheet()['case_id']}/turns", {"kind": "abandoned", "because": "sold"})
        self.assertNotIn("lift_film", {one["task"] for one in self.tasks(SKIFF)})
        (found,) = [one for one in self.get("/cases") if one["name"] == "Cyanobacteria (red film)"]
        self.assertEqual(found["words"], "1 plan: 1 given up")
        self.assertIn("Much at the start, patches now, after 3 looks", found["plans"][0]["words"])
