"""Set-up, shelf, settings and the rota through the API."""

from collections.abc import Iterator
from typing import Any

from tests.api.base import BEACON, EELGRASS, SLIPWAY, ApiTest, session

FOLLOWS = ("id", "volume", "working", "archived", "usual_aims")


def texts(answer: Any) -> Iterator[str]:
    """Every text of an answer."""
    if isinstance(answer, str):
        yield answer
    elif isinstance(answer, dict):
        for key, value in answer.items():
            if key not in ("working", "about", "at", "now"):
                yield from texts(value)
    elif isinstance(answer, list):
        for value in answer:
            yield from texts(value)


def new_system(**changes: Any) -> dict[str, Any]:
    body = {
        "name": "Dinghy", "geometry": {"length_cm": 60, "width_cm": 40, "depth_cm": 35, "displaced_l": 9},
        "sand": "siphoned", "gear": [{"kind": "heater", "cover_cm": 4}, {"kind": "skimmer", "place": "sump"}],
        "bands": {"alkalinity": {"low": 7.5, "high": 9.5}, "salinity": {"low": 34, "high": 35.5},
                  "temperature": {"low": 24.5, "high": 26.5}},
    }  # fmt: skip
    return {**body, **changes}


class AimOfTheKeeper(ApiTest):
    def body(self, **band: Any) -> dict[str, Any]:
        body = self.get(f"/systems/{BEACON}")
        body["bands"]["alkalinity"] = {**body["bands"]["alkalinity"], **band}
        return {key: value for key, value in body.items() if key not in FOLLOWS}

    def change(self, body: dict[str, Any]) -> None:
        self.assertLess(self.send(f"/systems/{BEACON}", body, method="PUT").status_code, 300)

    def test_it_is_kept_with_its_reason_and_every_plan_goes_there(self):
        self.assertEqual(self.get(f"/systems/{BEACON}")["usual_aims"]["alkalinity"], "8.5")
        self.change(self.body(aim=8.0, aim_reason="as the salt mixes"))
        band = self.get(f"/systems/{BEACON}")["bands"]["alkalinity"]
        self.assertEqual((band["aim"], band["aim_reason"]), (8.0, "as the salt mixes"))
        first = self.get(f"/systems/{BEACON}/judgement")["findings"][0]
        self.assertIn("8.0 dKH", first["advice"])
        self.assertEqual(self.get(f"/systems/{BEACON}/change")["request"]["alkalinity"], 8.0)
        aims = self.get(f"/systems/{BEACON}/dosing/correction")["aims"]
        self.assertEqual(next(one["target"] for one in aims if one["parameter"] == "alkalinity"), "8.0")

    def test_outside_its_band_it_is_refused_there(self):
        wrong = self.refused(f"/systems/{BEACON}", self.body(aim=10.2), "bands.alkalinity.aim", method="PUT")
        self.assertIn("7.5 to 9.5 dKH", str(wrong))

    def test_a_band_that_no_longer_holds_it_goes_back_to_the_usual(self):
        self.change(self.body(aim=8.0))
        self.change(self.body(low=8.4, high=9.4, aim=None))
        self.assertEqual(self.get(f"/systems/{BEACON}")["usual_aims"]["alkalinity"], "8.9")


class Household(ApiTest):
    def test_harbour_shows_the_four_with_their_net_volumes(self):
        systems = self.get("/harbour")["systems"]
        self.assertEqual([one["name"] for one in systems], ["Beacon", "Eelgrass", "Skiff", "Slipway"])
        self.assertEqual([one["volume"] for one in systems], ["334 L net", "125 L net", "71 L net", "280 L net"])
        self.assertEqual(systems[3]["standing"], "cycling, wait")

    def test_the_record_covers_fourteen_months_and_tells_the_households_story(self):
        ((first, last),) = self.rows("SELECT min(at), max(at) FROM entry")
        self.assertEqual((first[:7], last[:10]), ("2025-09", "2026-11-24"))
        strips = {one["parameter"]: one for one in self.get("/systems/1/sheet")["strips"]}
        self.assertIn("falls by itself", strips["alkalinity"]["drift"])
        self.assertEqual(strips["alkalinity"]["verdict"]["position"], "below")
        skiff = {one["parameter"]: one for one in self.get("/systems/3/sheet?back=60")["strips"]}
        self.assertGreater(skiff["salinity"]["present"]["value"], 36)
        self.assertEqual(len(skiff["salinity"]["instruments"]), 2)
        eelgrass = {one["parameter"]: one for one in self.get("/systems/2/sheet")["strips"]}
        self.assertEqual(eelgrass["nitrate"]["verdict"]["position"], "below")

    def test_breaking_in_ammonia_has_passed_and_nitrite_stands_high(self):
        values = dict(self.rows(
            "SELECT parameter, max(value) FROM reading JOIN entry ON id = entry_id WHERE system_id = ? GROUP BY 1",
            SLIPWAY))  # fmt: skip
        strips = {one["parameter"]: one for one in self.get(f"/systems/{SLIPWAY}/sheet")["strips"]}
        self.assertLess(strips["ammonia"]["present"]["value"], 0.2 * values["ammonia"])
        self.assertGreater(strips["nitrite"]["present"]["value"], 0.6 * values["nitrite"])


class SetUp(ApiTest):
    def test_a_new_system_from_its_measures(self):
        # 60 x 40 x 35 / 1000 - 9 = 75 L.
        made = self.post("/systems", new_system())
        self.assertEqual(made["volume"]["text"], "75.0")
        self.assertEqual(made["working"][-1]["value"], "75")
        tasks = {task["task"] for task in self.get("/rota")["lanes"][-1]["tasks"]}
        self.assertLessEqual({"water_change", "siphon", "scrape_front", "skimmer_cup"}, tasks)
        self.assertTrue({"stir_sand", "filter_sock", "steriliser_lamp"}.isdisjoint(tasks))
        self.assertEqual(self.get("/harbour")["systems"][-1]["standing"], "test first")
        self.assertEqual(self.get(f"/systems/{made['id']}/change")["missing"], ["Salinity", "Alkalinity"])

    def test_an_edit_keeps_the_record(self):
        stored = self.get(f"/systems/{BEACON}")
        body = {key: value for key, value in stored.items() if key not in FOLLOWS}
        body["geometry"]["sump_l"] = 68
        count = self.rows("SELECT count(*) FROM entry")
        answer = self.send(f"/systems/{BEACON}", body, method="PUT")
        self.assertEqual(answer.json()["volume"]["text"], "344.0")
        self.assertEqual(self.rows("SELECT count(*) FROM entry"), count)

    def test_a_system_without_bands_can_still_be_judged_and_planned(self):
        stored = self.get(f"/systems/{BEACON}")
        body = {key: value for key, value in stored.items() if key not in FOLLOWS}
        self.send(f"/systems/{BEACON}", {**body, "bands": {}}, method="PUT")
        self.assertEqual(self.get("/harbour")["systems"][0]["standing"], "no bands set")
        self.get(f"/systems/{BEACON}/sheet")
        request = self.get(f"/systems/{BEACON}/change")["request"]
        self.assertEqual((request["salinity"], request["alkalinity"]), (None, None))
        plan = self.api.post(f"/api/systems/{BEACON}/change/preview", json=request)
        self.assertEqual(plan.status_code, 200, plan.text)

    def test_a_stored_system_comes_back_as_it_was_sent(self):
        stored = self.get(f"/systems/{EELGRASS}")
        body = {key: value for key, value in stored.items() if key not in FOLLOWS}
        self.assertEqual(self.send(f"/systems/{EELGRASS}", body, method="PUT").json(), stored)

    def test_another_school_changes_the_tasks(self):
        stored = self.get(f"/systems/{BEACON}")
        body = {key: value for key, value in stored.items() if key not in FOLLOWS}
        self.send(f"/systems/{BEACON}", {**body, "sand": "deep"}, method="PUT")
        self.assertNotIn("siphon", {task["task"] for task in self.get("/rota")["lanes"][0]["tasks"]})

    def test_daily_limits_are_in_the_keepers_units(self):
        units = {"salinity": "SG 25/25", "alkalinity": "meq/L", "temperature": "°F"}
        self.send("/keeper", {"zone": "Europe/Copenhagen", "units": units}, method="PUT")
        shown = self.get(f"/systems/{BEACON}")
        # 1 °C is 1.8 °F, 1 dKH 20 / 56.077 = 0.35665 meq/L, 1 ppt about 0.00076 of specific gravity.
        self.assertEqual((shown["limit_temperature"], shown["limit_alkalinity"]), (1.8, 0.3567))
        self.assertAlmostEqual(shown["limit_salinity"], 0.00076, delta=0.00002)
        offered = self.get("/setup")["limits"]
        self.assertAlmostEqual(offered["temperature"], 1.8)
        made = self.post("/systems", new_system(limit_temperature=0.9, bands={}))
        self.assertEqual(made["limit_temperature"], 0.9)
        stored = self.rows("SELECT limit_temperature_c, limit_salinity FROM system WHERE id = ?", made["id"])[0]
        self.assertAlmostEqual(stored[0], 0.5)
        self.assertAlmostEqual(stored[1], 1.0)
        said = self.refused("/systems", new_system(name="Punt", limit_temperature=9, bands={}), "limit_temperature")
        self.assertIn("0.18 to 5.4 °F", said["message"])

    def test_bad_set_ups_are_refused_at_their_field(self):
        size = new_system()["geometry"]
        cases = [
            ({"name": "  "}, "name"),
            ({"geometry": {**size, "length_cm": 0}}, "geometry.length_cm"),
            ({"geometry": {**size, "length_cm": "wide"}}, "geometry.length_cm"),
            ({"geometry": {**size, "displaced_l": 900}}, "geometry.displaced_l"),
            ({"bands": {"salinity": {"low": 34, "high": 350}}}, "bands.salinity.high"),
            ({"bands": {"alkalinity": {"low": 9, "high": 8}}}, "bands.alkalinity.low"),
            ({"change_percent": 40}, "change_fraction"),
            ({"change_every_days": 0}, "change_every_days"),
            ({"limit_alkalinity": 9}, "limit_alkalinity"),
            ({"limit_salinity": 0}, "limit_salinity"),
            ({"bucket_l": 0}, "bucket_l"),
            ({"gear": [{"kind": "anchor"}]}, "gear.0.kind"),
            ({"gear": [{"kind": "heater", "cover_cm": -3}]}, "gear.heater.cover_cm"),
            ({"geometry": {**size, "shape": "bow_front", "bow_cm": 40}}, "geometry.bow_cm"),  # over half of 60 cm
            ({"geometry": {**size, "width_cm": None}}, "geometry.width_cm"),
            ({"geometry": {**size, "sand_bed_cm": 80}}, "geometry.sand_bed_cm"),
            ({"geometry": {**size, "displaced_l": None, "rock_kg": 400}}, "geometry.rock_kg"),  # 200 L in 84 L
            (
                {"geometry": {**size, "sump": {"length_cm": 60, "width_cm": 0, "depth_cm": 20}}},
                "geometry.sump.width_cm",
            ),
            (
                {"geometry": {**size, "salt_test": {"mass_g": 100, "salinity_before": 34, "salinity_after": 34.1}}},
                "geometry.salt_test.salinity_after",
            ),
            ({"methods": {"top_off": "teleport"}}, "methods.top_off"),
            ({"methods": {"moon": "full"}}, "methods.moon"),
            ({"limit_temperature": 9}, "limit_temperature"),
            ({"sand": "lava"}, "sand"),
            ({"started_on": "yesterday"}, "started_on"),
            ({"started_on": "2027-05-05"}, "started_on"),
        ]
        for changes, field in cases:
            with self.subTest(field=field, changes=changes):
                self.refused("/systems", new_system(**changes), field)

    def test_a_field_that_wants_a_number_says_what_is_wrong_with_the_text(self):
        size = new_system()["geometry"]
        for text, said in (("9,500", "can be read two ways"), ("", "enter a number"),
                           ("40 kg", "“kg” is not a unit of length"), (None, "Enter a number")):  # fmt: skip
            with self.subTest(text=text):
                answer = self.refused("/systems", new_system(geometry={**size, "width_cm": text}), "geometry.width_cm")
                self.assertIn(said, answer["message"])

    def test_other_shapes_and_a_volume_measured_by_salt(self):
        # A cylinder of 60 cm, 50 deep: 141.4 L. By salt: 100 g that raise 34 to 35 ppt are 93.9 L
        # (m (1000 - S)/(1000 rho (S2 - S1)), S_R 34.16 and 35.17 g/kg, rho 1.0226: 100 * 964.8 / 1027.4).
        round_tank = {"shape": "cylinder", "length_cm": 60, "depth_cm": 50}
        made = self.post("/systems", new_system(geometry=round_tank))
        self.assertEqual(made["volume"]["text"], "141.4")
        self.assertIsNone(made["geometry"]["width_cm"])
        test = {"mass_g": 100, "salinity_before": 34, "salinity_after": 35}
        answer = self.api.post("/api/systems/volume", json={**round_tank, "salt_test": test}).json()
        self.assertAlmostEqual(answer["volume"]["value"], 93.9, delta=0.1)
        self.assertEqual(answer["working"][-1]["name"], "net volume by salt")

    def test_a_new_volume_leaves_the_past_alone_and_stands_in_the_history(self):
        before = self.get(f"/systems/{BEACON}/sheet")
        stored = self.get(f"/systems/{BEACON}")
        body = {key: value for key, value in stored.items() if key not in FOLLOWS}
        body["geometry"]["sump_l"] = 158
        self.send(f"/systems/{BEACON}", body, method="PUT")
        history = self.get(f"/systems/{BEACON}/setup/history")
        self.assertEqual(history["volumes"], ["334.0 L until 24 Nov 2026", "434.0 L now"])
        self.assertEqual(history["versions"][0]["changes"], ["Net volume: 334.0 L → 434.0 L"])
        # The daily dose is a mass: in more water it raises less from now on; what the past tells stays.
        sheets = before, self.get("/systems/1/sheet")
        rates = [[strip["drift"].split(", dosed")[0] for strip in sheet["strips"]] for sheet in sheets]
        self.assertEqual(*rates)

    def test_a_volume_that_was_measured_wrongly_counts_for_the_past_too(self):
        stored = self.get(f"/systems/{BEACON}")
        body = {key: value for key, value in stored.items() if key not in FOLLOWS}
        body["geometry"]["sump_l"] = 158
        self.send(f"/systems/{BEACON}", {**body, "volume_since": "always"}, method="PUT")
        self.assertEqual(self.get(f"/systems/{BEACON}/setup/history")["volumes"], ["434.0 L now"])

    def test_archived_and_restored(self):
        self.post(f"/systems/{EELGRASS}/archive", None)
        self.assertEqual([one["name"] for one in self.get("/harbour")["systems"]], ["Beacon", "Skiff", "Slipway"])
        self.assertEqual([one["name"] for one in self.get("/harbour")["archived"]], ["Eelgrass"])
        self.assertTrue(self.get(f"/systems/{EELGRASS}")["archived"])
        self.assertEqual({lane["name"] for lane in self.get("/rota")["lanes"]}, {"Beacon", "Skiff", "Slipway"})
        self.assertTrue(self.get(f"/log?system_id={EELGRASS}")["rows"])
        self.post(f"/systems/{EELGRASS}/restore", None)
        self.assertEqual(len(self.get("/harbour")["systems"]), 4)

    def test_the_schools_and_the_shapes_to_choose_from(self):
        offered = self.get("/setup")
        self.assertEqual([one["key"] for one in offered["shapes"]],
                         ["box", "bow_front", "cylinder", "quarter_round", "hexagon", "litres"])  # fmt: skip
        water = next(one for one in offered["methods"] if one["key"] == "water_changes")
        total = next(one for one in water["choices"] if one["key"] == "near_total")
        self.assertEqual(total["sets"]["largest_percent"], 100)
        self.assertIn("no room for error", total["risk"])

    def test_gear_that_the_falling_level_leaves_bare_is_named(self):
        # 12 % of 334.05 L over 6550.87 cm2: 6.1 cm; the powerhead is covered by 9, then by 4 cm.
        body = {key: value for key, value in self.get(f"/systems/{BEACON}").items() if key not in FOLLOWS}
        for cover, bare in ((9, False), (4, True)):
            with self.subTest(cover=cover):
                for one in body["gear"]:
                    if one["kind"] == "powerhead":
                        one["cover_cm"] = cover
                self.send(f"/systems/{BEACON}", body, method="PUT")
                request = self.get(f"/systems/{BEACON}/change")["request"]
                plan = self.api.post(
                    f"/api/systems/{BEACON}/change/preview", json={**request, "fraction_percent": 12}
                ).json()
                why = next(item["why"] for item in plan["off"] if item["kind"] == "powerhead")
                self.assertEqual("out of the water once the level has fallen 4 cm" in why, bare)

    def test_an_empty_name_is_asked_for_in_the_keepers_words(self):
        self.assertEqual(self.refused("/systems", new_system(name=""), "name")["message"], "required")
        said = self.refused("/systems", new_system(name="x" * 41), "name")["message"]
        self.assertEqual(said, "at most 40 characters")

    def test_two_systems_cannot_share_a_name(self):
        self.refused("/systems", new_system(name="beacon"), "name", 409)

    def test_the_volume_preview(self):
        answer = self.api.post("/api/systems/volume", json={"length_cm": 100, "width_cm": 50, "depth_cm": 50})
        self.assertEqual(answer.json()["volume"]["text"], "250.0")
        self.refused("/systems/volume", {"length_cm": 0, "width_cm": 50, "depth_cm": 50}, "length_cm")


class Settings(ApiTest):
    def test_what_raises_alkalinity_is_the_keepers_own_everywhere(self):
        self.send("/keeper", {"zone": "Europe/Copenhagen", "units": {}, "additive": "baking_soda"}, method="PUT")
        self.assertEqual(self.get("/keeper")["additive"], "baking_soda")
        self.assertIn("bicarbonate stock a day", self.get(f"/systems/{BEACON}/judgement")["findings"][0]["advice"])
        self.assertEqual(self.get(f"/systems/{BEACON}/change")["request"]["source"], "baking_soda")

    def test_numbers_dates_and_times_are_written_the_keepers_way_everywhere(self):
        body = {"zone": "Europe/Copenhagen", "units": {}, "decimal_sign": ",", "days": "iso", "clock": "12"}
        answer = self.send("/keeper", body, method="PUT").json()
        self.assertEqual((answer["days"], answer["clock"]), ("iso", "12"))
        # Every text of every page; formulas and names of files keep their points.
        for path in ("/harbour", "/systems/1/sheet", "/systems/1/judgement", "/systems/1/bench", "/rota", "/log",
                     "/instruments", "/systems/2/livestock", "/systems/4/cycling"):  # fmt: skip
            with self.subTest(path=path):
                for text in texts(self.get(path)):
                    self.assertNotRegex(text, r"(?<![\d.:T-])\d+\.\d+(?![\d.])", path)
        self.assertIn("2026-11-24", self.get("/systems/1/bench")["rows"][0]["last"]["day"])
        self.assertRegex(self.get("/log")["rows"][0]["time"], r"^\d{1,2}:\d\d [ap]m$")
        self.refused("/keeper", {**body, "days": "stardate"}, "days", method="PUT")

    def test_units_and_zone(self):
        self.send("/keeper", {"zone": "Europe/Copenhagen", "units": {"salinity": "SG 25/25"}}, method="PUT")
        rows = {row["parameter"]: row for row in self.get(f"/systems/{BEACON}/bench")["rows"]}
        self.assertEqual(rows["salinity"]["unit"], "SG 25/25")
        self.assertTrue(rows["salinity"]["last"]["value"]["text"].startswith("1.02"))
        self.refused("/keeper", {"zone": "Mars/Base", "units": {}}, "zone", method="PUT")
        self.refused("/keeper", {"zone": "UTC", "units": {"calcium": "dKH"}}, "units.calcium", method="PUT")


class Rota(ApiTest):
    def first(self, task: str) -> dict[str, Any]:
        return next(one for one in self.get("/rota")["lanes"][0]["tasks"] if one["task"] == task)

    def body(self, task: dict[str, Any], **more: Any) -> dict[str, Any]:
        return {"task": task["task"], "due": task["due"], "step_id": None, **more}

    def test_done_counts_from_today_and_can_be_taken_back(self):
        task = self.first("skimmer_cup")
        kept = self.post(f"/systems/{BEACON}/care/done", self.body(task))
        self.assertEqual(self.first("skimmer_cup")["due"], "2026-11-28")
        self.post(f"/record/{kept['command']}/undo", None)
        self.assertEqual(self.first("skimmer_cup"), task)

    def test_skipped_and_moved(self):
        task = self.first("scrape_front")
        self.post(f"/systems/{BEACON}/care/move", self.body(task, day="2026-12-03"))
        self.assertEqual(self.first("scrape_front")["day"], "2026-12-03")
        self.assertTrue(self.first("scrape_front")["fixed"])
        self.post(f"/systems/{BEACON}/care/move", self.body(task, day=None))
        self.assertEqual(self.first("scrape_front"), task)
        self.post(f"/systems/{BEACON}/care/skip", self.body(task, reason="away"))
        self.assertEqual(self.first("scrape_front")["due"], "2026-11-30")

    def test_what_is_gone_from_the_rota_says_so(self):
        self.refused(f"/systems/{BEACON}/care/done", {"task": "skimmer_cup", "due": "2020-01-01"}, "task", 404)


class EmptyHouse(ApiTest):
    empty = True

    def test_from_nothing_to_a_plan(self):
        self.assertEqual(self.get("/harbour")["systems"], [])
        self.assertEqual(self.get("/rota")["lanes"], [])
        made = self.post("/systems", new_system())
        self.post(f"/systems/{made['id']}/bench", session(salinity="33.9", alkalinity="7.0", temperature="25"))
        self.assertEqual(self.get(f"/systems/{made['id']}/change")["missing"], ["a salt on the Shelf"])
        self.refused("/salts", {"name": "Own", "strength_g_l": 371, "basis": "finished_water"}, "strength_g_l")
        salt = {
            "name": "Own",
            "strength_g_l": 37,
            "basis": "finished_water",
            "printed": {"alkalinity": "8.0–8.4 dKH"},
        }
        self.post("/salts", salt)
        self.refused("/salts", salt, "name")
        request = self.get(f"/systems/{made['id']}/change")["request"]
        plan = self.api.post(f"/api/systems/{made['id']}/change/preview", json=request).json()
        self.assertTrue(plan["steps"][0]["figures"])
