"""Looks and happenings through the API, and what the judgement makes of them."""

from tests.api.base import BEACON, EELGRASS, SKIFF, SLIPWAY, ApiTest, confirmed, session


class Looks(ApiTest):
    def look(self, *signs: dict, system: int = BEACON, **more: object) -> dict:
        return self.post(f"/systems/{system}/inspection/checks", {"signs": list(signs), **more})

    def test_what_can_be_seen_comes_in_its_order_and_the_last_looks_newest_first(self):
        looking = self.get(f"/systems/{EELGRASS}/inspection")
        groups = list(dict.fromkeys(sign["group"] for sign in looking["signs"]))
        self.assertEqual(groups, [group["key"] for group in looking["groups"]])
        self.assertIn("slimy brown strands with bubbles, patches, on the animals", looking["checks"][0]["words"])
        self.assertEqual(looking["checks"][0]["when"], "Fri 20 Nov")

    def test_a_look_is_kept_told_in_the_record_and_can_be_taken_back(self):
        kept = self.look({"kind": "hair_algae", "amount": "patches", "where": "rock"}, note="behind the weir")
        self.assertEqual(kept["words"], "1 sign saved for Beacon")
        first = self.get(f"/systems/{BEACON}/record")[0]
        self.assertEqual(first["words"], "Visual check")
        self.assertEqual(first["detail"], "green hair algae, patches, on the rock; behind the weir")
        self.post(f"/record/{kept['command']}/undo", {})
        self.assertTrue(self.get(f"/systems/{BEACON}/record")[0]["gone"])
        self.assertNotIn("hair", str(self.get(f"/systems/{BEACON}/inspection")["checks"]))

    def test_nothing_to_note_is_a_look_too(self):
        self.look()
        self.assertEqual(self.get(f"/systems/{BEACON}/inspection")["checks"][0]["words"], ["nothing to note"])

    def test_one_sent_twice_is_kept_once(self):
        body = {"signs": [{"kind": "open"}]}
        for _ in range(2):
            self.post(f"/systems/{BEACON}/inspection/checks", body, key="the-same-key")
        self.assertEqual(self.rows("SELECT count(*) FROM entry WHERE command = 'the-same-key'"), [(1,)])

    def test_what_is_wrong_is_said_at_its_place(self):
        path = f"/systems/{BEACON}/inspection/checks"
        self.assertIn("hair_algae", self.refused(path, {"signs": [{"kind": "hair"}]}, "signs.0")["accepted"])
        how = self.refused(path, {"signs": [{"kind": "open"}, {"kind": "hair_algae"}]}, "signs.1")
        self.assertEqual(how["accepted"], "trace, patches, much")
        self.refused(path, {"signs": [{"kind": "open"}, {"kind": "open"}]}, "signs.1")
        self.refused(path, {"signs": [{"kind": "open"}, {"kind": "gasping"}]}, "signs.1")
        self.refused(path, {"signs": [], "when": "tomorrow"}, "when")
        self.refused(path, {"signs": [], "when": "2025-10-20"}, "when")
        self.assertEqual(self.send("/systems/99/inspection/checks", {"signs": []}).status_code, 404)

    def test_happenings_are_kept_with_the_keepers_words(self):
        self.post(f"/systems/{BEACON}/inspection/events", {"kind": "lamp", "note": "two bars more", "when": "12 Nov"})
        happened = self.get(f"/systems/{BEACON}/inspection")["events"]
        self.assertIn({"when": "Thu 12 Nov", "words": "new lamp, or the light changed (two bars more)"}, happened)
        record = self.get(f"/systems/{BEACON}/record?limit=200")
        self.assertIn(
            ("Happened: new lamp, or the light changed", "two bars more"), [(r["words"], r["detail"]) for r in record]
        )
        path = f"/systems/{BEACON}/inspection/events"
        self.refused(path, {"kind": "lmap"}, "kind")
        self.refused(path, {"kind": "other"}, "note")


class Judged(ApiTest):
    def rules(self, system: int) -> list[str]:
        return [finding["rule"] for finding in self.get(f"/systems/{system}/judgement")["findings"]]

    def test_the_four_systems_tell_their_stories(self):
        beacon = self.get(f"/systems/{BEACON}/judgement")["findings"]
        self.assertEqual(beacon[0]["words"], "Alkalinity is low")
        said = " ".join(finding["words"] for finding in beacon)
        self.assertIn("pH has been lower since the windows were shut (Mon 5 Oct)", said)
        self.assertIn("more is used than is given", beacon[0]["reason"])
        (strands,) = self.get(f"/systems/{EELGRASS}/judgement")["findings"]
        self.assertEqual(strands["rule"], "unsure_growth")
        self.assertIn("no changes or export", strands["advice"])
        self.assertEqual(strands["cautions"][0]["title"], "Unknown brown growth")
        skiff = self.get(f"/systems/{SKIFF}/judgement")["findings"]
        self.assertEqual(
            [finding["rule"] for finding in skiff], ["salinity_first", "red_film", "unrecorded", "instruments_differ"]
        )
        self.assertIn("missed top-offs", skiff[0]["advice"])
        self.assertFalse({"floor", "eaten", "unsure_growth", "ammonia_toxic"} & set(self.rules(SLIPWAY)))

    def test_a_look_changes_what_a_zero_means(self):
        self.post(f"/systems/{BEACON}/bench", confirmed(nitrate="0", phosphate="0.05"))
        self.assertIn("floor", self.rules(BEACON))
        body = {"signs": [{"kind": "hair_algae", "amount": "much", "where": "rock"}]}
        self.post(f"/systems/{BEACON}/inspection/checks", body)
        self.assertIn("eaten", self.rules(BEACON))
        self.assertNotIn("floor", self.rules(BEACON))

    def test_what_waits_says_for_what(self):
        self.post(f"/systems/{SKIFF}/bench", session(calcium="350"))
        judged = self.get(f"/systems/{SKIFF}/judgement")
        waits = {waiting["rule"]: waiting["first"] for waiting in judged["waiting"]}
        self.assertEqual(waits["ion_low"], "Salinity is high: correct it first")

    def test_a_rule_can_be_switched_off_and_on_for_one_system(self):
        path = f"/systems/{SKIFF}/rules/salinity_first"
        rules = self.send(path, {"on": False}, method="PUT").json()
        self.assertEqual([rule["key"] for rule in rules if not rule["on"]], ["salinity_first"])
        self.assertNotIn("salinity_first", self.rules(SKIFF))
        self.assertEqual(self.get(f"/systems/{SKIFF}/judgement")["rules_off"], 1)
        self.assertTrue(all(rule["on"] for rule in self.get(f"/systems/{BEACON}/rules")))
        self.send(path, {"on": True}, method="PUT")
        self.assertIn("salinity_first", self.rules(SKIFF))
        self.assertEqual(self.send(f"/systems/{SKIFF}/rules/nonsense", {"on": True}, method="PUT").status_code, 404)

    def test_harbour_and_next_say_the_first_finding(self):
        harbour = {system["name"]: system for system in self.get("/harbour")["systems"]}
        self.assertEqual(harbour["Skiff"]["standing"], "act today")
        self.assertEqual(
            harbour["Skiff"]["reason"], "Salinity is high: correct it first. 36.1 ppt is 0.6 ppt over its band."
        )
        # What a programme sees to is not said twice: its tasks are what there is to do.
        titles = [one["title"] for one in self.get(f"/systems/{EELGRASS}/sheet")["next"]]
        self.assertIn("Look an hour after lights out", titles)
        self.assertFalse([title for title in titles if title.startswith("Find out what grow")])
