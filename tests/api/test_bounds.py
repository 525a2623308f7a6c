"""At the bounds of what the API takes and shows: just inside, and just outside."""

from __future__ import annotations

import asyncio
import unittest
from datetime import date, timedelta
from typing import Any

from salttide.answers import Answers
from salttide.api.sheet import _range
from salttide.clock import PinnedClock
from salttide.core.science.parameters import FACTS, Parameter
from tests.api.base import BEACON, NOW, SKIFF, ApiTest
from tests.api.test_dosing import URL
from tests.api.test_mix import MixTest
from tests.api.test_system import FOLLOWS

TODAY = date(2026, 11, 24)
HEADERS = [(b"content-type", b"application/json"), (b"content-length", b"2")]


class Remembered(unittest.TestCase):
    def test_two_hundred_answers_are_remembered(self) -> None:
        asked: list[bytes] = []

        async def app(scope: Any, receive: Any, send: Any) -> None:
            asked.append(scope["query_string"])
            await send({"type": "http.response.start", "status": 200, "headers": HEADERS})
            await send({"type": "http.response.body", "body": b"{}"})

        async def ask(answers: Answers, number: int) -> None:
            async def send(message: Any) -> None:
                pass

            scope = {"type": "http", "method": "GET", "path": "/api/x", "query_string": b"%d" % number, "headers": []}
            await answers(scope, None, send)  # type: ignore[arg-type]

        async def work() -> None:
            answers = Answers(app, lambda: 1)
            for number in (*range(201), 199, 200):
                await ask(answers, number)

        asyncio.run(work())
        self.assertEqual(asked, [b"%d" % number for number in (*range(201), 200)])


class Scale(unittest.TestCase):
    def test_a_strip_has_a_little_air_around_what_it_shows(self) -> None:
        # An eighth or so of what it spans; of one value a twentieth of it, and never below nothing.
        for values, low, high in (([10.0, 20.0], 8.8, 21.2), ([5.0], 4.75, 5.25), ([0.0, 0.0], 0.0, 0.05)):
            found = _range(Parameter.CALCIUM, values)
            self.assertAlmostEqual(found[0], low)
            self.assertAlmostEqual(found[1], high)


class Typed(ApiTest):
    def test_an_absence_of_a_year(self) -> None:
        for days, good in ((365, True), (366, False)):
            body = {"first": TODAY.isoformat(), "last": (TODAY + timedelta(days=days)).isoformat()}
            if good:
                self.post("/rota/away", body)
            else:
                self.refused("/rota/away", body, "last")

    def test_an_instrument_scatters_by_no_more_than_half_of_what_is_likely(self) -> None:
        widest = FACTS[Parameter.CALCIUM].likely.width / 2
        body = {"name": "kit C9", "parameter": "calcium", "scatter": widest * 1.01}
        self.refused("/instruments", body, "scatter")
        self.post("/instruments", {**body, "scatter": widest})
        self.refused("/instruments", {**body, "name": "kit C8", "scatter": widest / 1010}, "scatter")
        self.post("/instruments", {**body, "name": "kit C7", "scatter": widest / 1000})
        self.refused("/instruments", {**body, "name": "kit C6", "scatter": 8, "per_count": widest * 1.01}, "per_count")

    def test_a_probe_is_kept_by_seconds_since_1970(self) -> None:
        # 20 781 days lie between 1 January 1970 and 24 November 2026: 56 years of 365, 14 leap days, 327 days.
        reading = {"at": "2026-11-24T12:00:00+00:00", "value": 8.1}
        self.post(f"/systems/{SKIFF}/probes", {"parameter": "ph", "instrument": "probe P9", "readings": [reading]})
        (row,) = self.rows(
            "SELECT max(at) FROM probe JOIN probe_series s ON s.id = series_id WHERE instrument = 'probe P9'"
        )
        self.assertEqual(row[0], (20_781 * 24 + 12) * 3600)
        early = {**reading, "at": "1999-12-31T23:59:59+00:00"}
        body = {"parameter": "ph", "instrument": "probe P9", "readings": [early]}
        self.assertEqual(self.send(f"/systems/{SKIFF}/probes", body).status_code, 422)
        self.post(f"/systems/{SKIFF}/probes", {**body, "readings": [{**reading, "at": "2000-01-01T00:00:00+00:00"}]})


class Said(ApiTest):
    def test_an_event_that_explains_nothing_by_itself_needs_a_word(self) -> None:
        path = f"/systems/{BEACON}/inspection/events"
        self.refused(path, {"kind": "other", "note": " "}, "note")
        self.post(path, {"kind": "other", "note": "the cat fell in"})
        self.post(path, {"kind": "windows_shut", "note": ""})

    def test_a_change_needs_a_salt_unless_its_water_is_there(self) -> None:
        path, request = f"/systems/{BEACON}/change/preview", self.get(f"/systems/{BEACON}/change")["request"]
        self.refused(path, {**request, "salt_id": None}, "salt_id")
        sea = {"salt_id": None, "water": "natural", "water_salinity": "34.5", "water_alkalinity": "6.7"}
        plan = self.post(path, {**request, **sea, "salinity": None, "alkalinity": None})
        self.assertEqual(len(plan["steps"]), 1)


class Offered(ApiTest):
    def test_solutions_stand_before_powders(self) -> None:
        shelf = {one["id"]: one for one in self.get("/shelf")["additives"]}
        for aim in self.get(f"{URL}/correction")["aims"]:
            kinds = [shelf[number]["strength_g_l"] is None for number in aim["additive_ids"]]
            self.assertEqual(kinds, sorted(kinds), aim["parameter"])

    def test_a_sump_without_room_is_warned_of_by_either_way_down(self) -> None:
        body = {key: value for key, value in self.get(f"/systems/{BEACON}").items() if key not in FOLLOWS}
        body["geometry"] |= {"sump_l": 0, "sump": {"length_cm": 60, "width_cm": 40, "depth_cm": 25}}
        self.assertEqual(self.send(f"/systems/{BEACON}", body, method="PUT").status_code, 200)
        service = {**self.get(f"/systems/{BEACON}/change")["service"], "fall_cm": None, "outlet_cm": None}
        # Half a centimetre of 60 x 40 cm is 1.2 L of room; 20 cm of the display are more than 100 L.
        rim = 25.5
        request = self.get(f"/systems/{BEACON}/change")["request"]
        for measured, warned in (({"outlet_cm": 20}, True), ({"fall_cm": 20}, True), ({}, False)):
            self.send(f"/systems/{BEACON}/service", {**service, "rim_cm": rim, **measured}, method="PUT")
            plan = self.post(f"/systems/{BEACON}/change/preview", request)
            self.assertEqual("sump_room" in [one["key"] for one in plan["cautions"]], warned, measured)


class OfABatch(MixTest):
    def test_what_is_known_as_a_lower_bound_alone_is_to_be_measured(self) -> None:
        printed = {"calcium": "at least 360", "magnesium": "1300"}
        salt = {"name": "Plain Salt", "strength_g_l": 37, "basis": "finished_water", "printed": printed}
        made = self.post("/salts", salt)["id"]
        body = self.mix_wish(portions=self.portions((BEACON, 40.0, "35")), container_l=60.0, salt_id=made, match=[])
        rows = {one["name"]: one["planned"] for one in self.post("/mix/preview", body)["rows"]}
        self.assertEqual((rows["Calcium"], rows["Magnesium"]), ("measure it", "1300"))

    def test_its_work_is_of_no_system(self) -> None:
        batch = self.make()
        run = self.post("/runs", {"batch_id": batch})
        shown = self.get(f"/runs/{run['id']}")
        self.assertEqual((shown["system_id"], shown["batch_id"]), (None, batch))

    def test_a_measure_is_met_once_every_question_on_it_is(self) -> None:
        run = self.start()
        self.say(run, "set_out", "done")
        self.say(run, "look", "done")
        mixed = 0
        for text in ("34.6", "35.6", "36.1", "37", "38", "39"):
            self.say(run, "batch", "measured", "salinity", text)
            for one in self.open(run, "batch")["gate"]:
                met = [part["met"] for part in one["parts"]]
                self.assertEqual(one["met"], all(met), (text, one["name"]))
                mixed += any(met) and not all(met)
        self.assertGreater(mixed, 0)

    def test_doses_of_one_day_of_a_plan_are_given_on_one_day(self) -> None:
        aims = {one["parameter"]: one for one in self.get(f"{URL}/correction")["aims"]}
        body = {
            "aims": [
                {"parameter": name, "target": target, "additive_id": aims[name]["additive_ids"][0]}
                for name, target in (("alkalinity", "8.5"), ("calcium", "440"))
            ],
            "hours": 12,
        }
        self.post(f"{URL}/correction", body)
        self.app.state.clock = PinnedClock(NOW + timedelta(days=1))
        today = (TODAY + timedelta(days=1)).isoformat()
        tasks = [t for t in self.get("/rota")["lanes"][0]["tasks"] if t["task"] == "dose" and t["day"] == today]
        self.assertEqual(len(tasks), 2)
        for task in tasks:
            self.post(f"/systems/{BEACON}/care/done", {key: task[key] for key in ("task", "due", "step_id")})
