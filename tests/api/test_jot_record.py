"""Recording by the jot line through the API: nothing before it is kept, once for a repeated key, undone as a whole."""

from tests.api.base import BEACON, SKIFF, ApiTest


class Record(ApiTest):
    def line(self, text: str, system: int | None = BEACON, **more):
        return {"text": text, "system_id": system, **more}

    def test_reading_a_line_records_nothing(self):
        before = self.rows("SELECT count(*) FROM entry")
        shown = self.api.post("/api/jot/reading", json=self.line("skiff topped off 2 l and temp 25.1")).json()
        self.assertEqual(shown["system"], "Skiff")
        self.assertEqual(shown["items"][0]["words"], "Top-off: 2.00 L of fresh water")
        self.assertEqual(self.rows("SELECT count(*) FROM entry"), before)

    def test_a_line_that_is_wrong_says_where_and_how_it_could_go_on(self):
        shown = self.api.post("/api/jot/reading", json=self.line("dosed 40 ml so")).json()
        self.assertEqual((shown["wrong"]["start"], shown["wrong"]["end"]), (12, 14))
        self.assertIn({"start": 12, "phrase": "soda stock"}, shown["completions"])

    def test_everything_is_kept_under_one_key_and_taken_back_with_it(self):
        text = "topped off 3 l, fed 2 frozen mysids, scraped front, alk 7.4, lost 1 goby"
        kept = self.post("/jot/record", self.line(text), key="jot-once-1")
        self.assertEqual(kept["words"], "Beacon: 5 entries, saved")
        self.post("/jot/record", self.line(text), key="jot-once-1")
        count = self.rows("SELECT count(*) FROM effective WHERE command = 'jot-once-1'")
        self.assertEqual(count, [(5,)])
        log = str(self.get(f"/log?system_id={BEACON}")["rows"][:6])
        for words in ("Top-off", "3.0 L of fresh water", "Fed frozen mysids", "2 portions, 2.4 g", "1 goby"):
            with self.subTest(words=words):
                self.assertIn(words, log)
        goby = next(one for one in self.get(f"/systems/{BEACON}/livestock")["animals"] if one["name"] == "goby")
        self.assertEqual(goby["count"], 1)
        self.post(f"/record/{kept['command']}/undo", None)
        goby = next(one for one in self.get(f"/systems/{BEACON}/livestock")["animals"] if one["name"] == "goby")
        self.assertEqual(goby["count"], 2)
        self.assertEqual(self.rows("SELECT count(*) FROM effective WHERE command = 'jot-once-1'"), [(0,)])

    def test_a_task_with_what_was_found_counts_for_the_rota_on_its_own_day(self):
        self.post("/jot/record", self.line("emptied the cup 3/4 dark yesterday 9pm"))
        (row,) = self.rows("SELECT at, found FROM effective JOIN care ON entry_id = effective.id"
                           " ORDER BY effective.id DESC LIMIT 1")  # fmt: skip
        # Nine in the evening of the 23rd in Copenhagen.
        self.assertEqual(row[0], "2026-11-23T20:00:00Z")
        self.assertEqual(row[1], '{"cup_level":75.0,"cup_colour":"dark and dry"}')
        task = self.get(f"/systems/{BEACON}/care/skimmer_cup")
        self.assertIn("23 Nov", str(task["times"][0]))
        self.assertIn("Cup filled: 75 %", str(task["times"][0]))

    def test_a_note_is_found_in_the_log(self):
        self.post("/jot/record", self.line("note: the goby hides"))
        (row,) = [row for row in self.get("/log")["rows"] if row["detail"] == "the goby hides"]
        self.assertEqual((row["words"], row["system"]), ("Note", "Beacon"))

    def test_a_share_of_the_system_is_a_change_and_its_task(self):
        self.post("/jot/record", self.line("did a 15 % water change"))
        litres = self.rows("SELECT out_l, in_l FROM change ORDER BY entry_id DESC LIMIT 1")[0]
        self.assertAlmostEqual(litres[0], 0.15 * 334, delta=0.05)
        self.assertEqual(litres[0], litres[1])
        self.assertEqual(self.rows("SELECT task FROM care ORDER BY entry_id DESC LIMIT 1"), [("water_change",)])

    def test_a_count_alone_is_kept_and_taken_back(self):
        kept = self.post("/jot/record", self.line("counted 11 cardinalfish"))
        animals = {one["name"]: one["count"] for one in self.get(f"/systems/{BEACON}/livestock")["animals"]}
        self.assertEqual(animals["cardinalfish"], 11)
        self.post(f"/record/{kept['command']}/undo", None)
        animals = {one["name"]: one["count"] for one in self.get(f"/systems/{BEACON}/livestock")["animals"]}
        self.assertEqual(animals["cardinalfish"], 4)

    def test_a_dose_moves_what_is_expected(self):
        # 40 mL of 100 g/L soda ash in 334 L: 75.48 meq/334.05 L = 0.226 meq/L = 0.63 dKH.
        strips = {one["parameter"]: one for one in self.get(f"/systems/{BEACON}/sheet")["strips"]}
        before = strips["alkalinity"]["present"]["value"]
        self.post("/jot/record", self.line("dosed 40 ml soda stock"))
        strips = {one["parameter"]: one for one in self.get(f"/systems/{BEACON}/sheet")["strips"]}
        self.assertAlmostEqual(strips["alkalinity"]["present"]["value"] - before, 0.634, delta=0.002)

    def test_a_task_that_is_done_leaves_the_rota(self):
        due = next(one for one in self.get("/rota")["lanes"][2]["tasks"] if one["task"] == "scrape_front")
        self.post("/jot/record", self.line("scraped front", SKIFF))
        after = next(one for one in self.get("/rota")["lanes"][2]["tasks"] if one["task"] == "scrape_front")
        self.assertGreater(after["due"], due["due"])

    def test_what_is_doubtful_has_to_be_confirmed(self):
        self.refused("/jot/record", self.line("alk 12.9"), "confirmed")
        self.post("/jot/record", self.line("alk 12.9", confirmed=True))

    def test_what_is_not_understood_is_refused_at_its_place(self):
        said = self.refused("/jot/record", self.line("foo 12"), "text")
        self.assertEqual((said["start"], said["end"]), (0, 3))
        self.refused("/jot/record", self.line("alk 7.9", None), "text")
