"""When care is due: by interval, weekday, uses, findings and by what is going on; the rules of a system."""

import unittest
from dataclasses import replace
from datetime import UTC, date, datetime, timedelta

from salttide.core.basics.dates import later, typed_day
from salttide.core.basics.errors import InputError
from salttide.core.ledger.entries import Care
from salttide.core.system.catalogue import cautions, sign
from salttide.core.system.finding import Certainty, Finding
from salttide.core.system.inspection import VisualCheck
from salttide.core.system.observations import found_kinds, found_words, read_found
from salttide.core.system.system import Panel, PanelMaterial, SandMethod
from salttide.core.upkeep.care import (
    Availability,
    CareChoice,
    check_choice_of_care,
    going_on,
    learned_minutes,
    on_their_days,
    rules_of,
)
from salttide.core.upkeep.due import Rule, done_of, first_due
from salttide.core.upkeep.history import history_of
from salttide.core.upkeep.rota import Book, occurrences
from salttide.core.upkeep.task import own_kind, tasks
from tests.core.cases import BEACON, EELGRASS, NOW, SKIFF, SLIPWAY, TODAY, ZONE

FILM = Finding("a red film", "it is seen", "siphon it off", "it goes", (), Certainty.LIKELY, rule="red_film")
AMPLE = Availability(week=(300.0,) * 7)


def ago(days):
    return TODAY - timedelta(days=days)


def done(task, days_ago, found=None, **more):
    at = datetime.combine(ago(days_ago), datetime.min.time(), UTC) + timedelta(hours=17)
    return Care(at, task, 10.0, found=found or {}, **more)


def rule(task, every=None, **more):
    kind = tasks()[task]
    return Rule(kind, every or kind.every_days, kind.minutes, **more)


def due(one, *care, seen=None):
    return first_due(one, done_of(care, UTC), seen or {}, TODAY)


class WhenItIsDue(unittest.TestCase):
    def days(self, found):
        return (found.day - TODAY).days

    def test_by_the_days_since_it_was_done_or_skipped(self):
        self.assertEqual(self.days(due(rule("scrape_front"), done("scrape_front", 2))), 4)
        skipped = done("scrape_front", 1, skipped=True, reason="no time")
        self.assertEqual(self.days(due(rule("scrape_front"), done("scrape_front", 5), skipped)), 5)

    def test_how_often_in_words(self):
        for every, words in ((1, "every day"), (2, "every 2 days"), (6, "every 6 days")):
            self.assertTrue(due(rule("scrape_front", every), done("scrape_front", 1)).why.startswith(words))

    def test_never_recorded_it_counts_from_the_set_up_and_becomes_late(self):
        self.assertEqual(self.days(due(rule("heater_check"))), 0)
        young = due(rule("heater_check", since=ago(10)))
        self.assertEqual((self.days(young), young.why), (20, "every 30 days, counted from set-up on Sat 14 Nov"))
        old = due(rule("heater_check", since=ago(50)))
        self.assertEqual((self.days(old), old.why), (-20, "every 30 days, not recorded since set-up on Mon 5 Oct"))

    def test_a_part_counts_from_the_day_it_was_put_in(self):
        # Put in four days ago, it is due 26 days from now, whether its task was never done or done long before.
        fresh = rule("heater_check", installed=ago(4))
        for own in ((), (done("heater_check", 90),)):
            found = due(fresh, *own)
            self.assertEqual((self.days(found), found.why), (26, "every 30 days, installed on Fri 20 Nov"))
        # Done since, the task counts.
        self.assertEqual(self.days(due(fresh, done("heater_check", 1))), 29)

    def test_a_blade_put_in_today_has_no_uses(self):
        cleans = [done("scrape_front", days) for days in range(1, 23, 2)]
        self.assertEqual(self.days(due(rule("blade", installed=ago(0)), done("blade", 23), *cleans)), 120)

    def test_a_blade_after_so_many_cleans(self):
        # 12 uses make it due. Eleven in 22 days are one in two days: the twelfth falls two days after the last one.
        cleans = [done("scrape_front", days) for days in range(1, 23, 2)]
        found = due(rule("blade"), done("blade", 23), *cleans)
        self.assertEqual((self.days(found), found.why), (-1 + 2, "after 12 uses, 11 so far"))
        found = due(rule("blade"), done("blade", 25), *cleans, done("scrape_front", 24))
        self.assertEqual(self.days(found), -1)

    def test_a_blade_that_is_hardly_used_by_its_interval(self):
        self.assertEqual(self.days(due(rule("blade"), done("blade", 20), done("scrape_front", 5))), 100)

    def test_the_cup_as_fast_as_it_filled(self):
        # 40 % in 2 days and 60 % in 3 days: 20 % a day, 80 % after 4 days; then 80 in 2 days is 180 in 7: 3.1 days.
        first = [
            done("skimmer_cup", 9),
            done("skimmer_cup", 7, {"cup_level": 40}),
            done("skimmer_cup", 4, {"cup_level": 60}),
        ]
        self.assertEqual(self.days(due(rule("skimmer_cup", 9), *first)), 0)
        found = due(rule("skimmer_cup", 9), *first, done("skimmer_cup", 2, {"cup_level": 80}))
        self.assertEqual((self.days(found), found.why), (1, "it fills to 80 % by then"))

    def test_a_reservoir_by_its_own_litres_and_without_them_by_days(self):
        care = [done("reservoir", 12), done("reservoir", 2, {"litres_added": 30})]
        self.assertEqual(self.days(due(rule("reservoir"), *care)), 5)
        # 30 L in 10 days: 3 L a day. 15 L last five days, 21 L the seven of its interval.
        self.assertEqual(self.days(due(rule("reservoir", limit=15), *care)), 3)

    def test_the_resin_when_the_reading_after_it_says_so(self):
        care = [done("purifier_resin", 50), done("purifier_reading", 8, {"solids_out": 0.4})]
        self.assertEqual(self.days(due(rule("purifier_resin"), *care)), 130)
        found = due(rule("purifier_resin"), *care, done("purifier_reading", 1, {"solids_out": 1.2}))
        self.assertEqual((self.days(found), found.why), (-1, "Dissolved solids after the resin: 1.2 mg/L"))
        fresh = due(rule("purifier_resin"), done("purifier_reading", 1, {"solids_out": 1.2}), done("purifier_resin", 0))
        self.assertEqual(self.days(fresh), 180)

    def test_a_stage_by_the_litres_that_went_through(self):
        # 400 L in 20 days are 20 L a day: 4000 L on day 200, its 180 days come first; 1000 L bring day 80 forward.
        care = [done("purifier_prefilter", 30), done("purifier_reading", 10, {"litres_made": 400})]
        self.assertEqual(self.days(due(rule("purifier_prefilter"), *care)), 150)
        care[1] = done("purifier_reading", 10, {"litres_made": 1000})
        self.assertEqual(self.days(due(rule("purifier_prefilter"), *care)), 50)
        care.append(done("purifier_reading", 3, {"litres_made": 3000}))
        self.assertEqual(self.days(due(rule("purifier_prefilter"), *care)), -3)

    def test_socks_every_three_days_while_a_film_is_fought(self):
        found = due(rule("filter_sock"), done("filter_sock", 1), seen={"red_film": ago(3)})
        self.assertEqual((self.days(found), found.every), (2, 3))
        self.assertIn("every 3 days, because a bloom is being fought", found.why)
        already = due(rule("filter_sock", 3), done("filter_sock", 1), seen={"red_film": ago(3)})
        self.assertNotIn("because", already.why, "as often as the keeper does anyway")
        self.assertEqual(due(rule("filter_sock", 2), done("filter_sock", 1), seen={"red_film": ago(3)}).every, 2)

    def test_unknown_growth_is_not_blown_about(self):
        self.assertEqual(due(rule("blow_rock"), done("blow_rock", 1), seen={"brown_strands": ago(2)}).every, 14)

    def test_creep_that_was_seen_at_once_and_not_again_once_it_is_wiped(self):
        seen = {"creep": ago(1)}
        self.assertEqual(self.days(due(rule("salt_creep"), done("salt_creep", 4), seen=seen)), -1)
        self.assertEqual(self.days(due(rule("salt_creep"), done("salt_creep", 0), seen=seen)), 10)
        self.assertEqual(self.days(due(rule("salt_creep"), seen=seen)), 0)


class GoingOn(unittest.TestCase):
    def test_what_the_last_look_saw_and_the_judgement_found(self):
        old = VisualCheck(NOW - timedelta(days=9), (sign("creep"),))
        look = VisualCheck(NOW - timedelta(days=3), (sign("dead_spot", "trace", "sand"),))
        found = going_on([old, look], [FILM], NOW, ZONE)
        self.assertEqual(found, {"dead_spot": ago(3), "red_film": ago(6)})

    def test_a_sign_stays_until_somebody_looks_again(self):
        for days, seen in ((0, True), (14, True), (40, True), (-1, False)):
            look = VisualCheck(NOW - timedelta(days=days), (sign("creep"),))
            self.assertEqual("creep" in going_on([look], [], NOW, ZONE), seen, days)
        seen, again = VisualCheck(NOW - timedelta(days=40), (sign("creep"),)), VisualCheck(NOW - timedelta(days=1), ())
        self.assertEqual(going_on([seen, again], [], NOW, ZONE), {})


class Series(unittest.TestCase):
    def found(self, one, *care, moves=None, until=21):
        book = Book([one], sorted(care, key=lambda entry: entry.at), moves or {})
        return occurrences(book, TODAY, TODAY + timedelta(days=until), ZONE)

    def offsets(self, found):
        return [(item.day - TODAY).days for item in found]

    def test_only_on_certain_weekdays(self):
        # Tue 24 Nov is today. Every 7 days on Saturdays, last on Sat 21: 28 Nov, 5 and 12 Dec.
        found = self.found(rule("tools", weekdays=(5,)), done("tools", 3))
        self.assertEqual(self.offsets(found), [4, 11, 18])
        self.assertTrue(all(item.earliest == item.latest == item.due for item in found))

    def test_twice_a_week(self):
        # Stirred every 4 days on Tuesdays and Fridays, last on Fri 20 Nov: today, Fri 27, Tue 1 Dec, Fri 4 Dec …
        found = self.found(rule("stir_sand", weekdays=(1, 4)), done("stir_sand", 4), until=10)
        self.assertEqual(self.offsets(found), [0, 3, 7, 10])

    def test_zones_in_turn_from_the_last_one(self):
        parts = ("left third", "middle third", "right third")
        care = [done("siphon", 9, zone="left third"), done("siphon", 2, zone="middle third")]
        found = self.found(rule("siphon", zones=parts), *care)
        self.assertEqual([item.zone for item in found], ["right third", "left third", "middle third"])
        self.assertEqual(found[0].title, "Siphon the sand, right third")

    def test_what_the_keeper_fixed_stays_though_the_due_day_shifts(self):
        moves = {("tools", TODAY + timedelta(days=5)): TODAY + timedelta(days=8)}
        found = self.found(rule("tools"), done("tools", 2), moves=moves)
        self.assertEqual((self.offsets(found)[0], found[0].pinned), (8, True))
        # Done a day earlier than it was: due in four days now, and still on the day that was chosen.
        self.assertEqual(self.offsets(self.found(rule("tools"), done("tools", 3), moves=moves))[0], 8)
        # A choice for one that is long past means nothing any more.
        old = {("tools", ago(9)): ago(7)}
        self.assertEqual(self.offsets(self.found(rule("tools"), done("tools", 0), moves=old))[:2], [7, 14])

    def test_late_only_beyond_its_window(self):
        # Scraping: every 6 days, 2 days later are fine. Last 8 days ago it was due 2 days ago; 9 days ago, 3.
        self.assertEqual(self.found(rule("scrape_front"), done("scrape_front", 8))[0].late_days, 0)
        self.assertEqual(self.found(rule("scrape_front"), done("scrape_front", 9))[0].late_days, 3)

    def test_never_recorded_leaves_time_to_spread_the_work(self):
        first, second = self.found(rule("night_count"), until=100)
        self.assertEqual((first.latest - TODAY).days, 30 + 45)
        self.assertEqual((second.latest - second.due).days, 30)

    def test_placed_days_hold_and_a_shifted_one_stays_near(self):
        found = self.found(rule("tools"), done("tools", 2))
        where = {("tools", TODAY + timedelta(days=5)): TODAY + timedelta(days=3)}
        placed = on_their_days(1, found, replace(AMPLE, placed=where), TODAY)
        self.assertEqual(self.offsets(placed)[0], 3)
        shifted = self.found(rule("tools"), done("tools", 3))
        self.assertEqual(self.offsets(on_their_days(1, shifted, replace(AMPLE, placed=where), TODAY))[0], 3)


class Rules(unittest.TestCase):
    def kept(self, system, choices=None, **more):
        return {one.kind.key: one for one in rules_of(system, choices or {}, **more)}

    def test_by_sand_gear_panels_material_and_stage(self):
        beacon, eelgrass, skiff, slipway = (self.kept(each) for each in (BEACON, EELGRASS, SKIFF, SLIPWAY))
        self.assertLessEqual({"siphon", "filter_sock", "steriliser_lamp", "macroalgae", "blade"}, beacon.keys())
        self.assertTrue({"stir_sand", "canister", "scrape_back"}.isdisjoint(beacon))
        # Acrylic meets no blade; a deep bed is neither siphoned nor stirred.
        self.assertTrue({"blade", "siphon", "stir_sand", "skimmer_cup"}.isdisjoint(eelgrass))
        self.assertIn("scrape_back", eelgrass)
        self.assertEqual(skiff["siphon"].zones, ())
        self.assertEqual(len(beacon["siphon"].zones), 3)
        self.assertTrue({"water_change", "siphon", "livestock_check"}.isdisjoint(slipway))

    def test_the_stirring_school_stirs_twice_a_week_and_socks_come_after(self):
        stirred = replace(BEACON, methods=replace(BEACON.methods, sand=SandMethod.STIRRED))
        rules = self.kept(stirred)
        self.assertEqual(rules["stir_sand"].every_days, 4)
        self.assertIn("stir_sand", rules["filter_sock"].kind.follows)
        found = occurrences(
            Book(list(rules.values()), [done("stir_sand", 3), done("filter_sock", 1)]),
            TODAY,
            TODAY + timedelta(days=5),
            ZONE,
        )
        placed = [(item.task, item.day) for item in on_their_days(1, found, AMPLE, TODAY)]
        first = min(day for task, day in placed if task == "stir_sand")
        self.assertEqual(min(day for task, day in placed if task == "filter_sock"), first)

    def test_a_thin_bed_is_done_whole(self):
        thin = replace(BEACON, geometry=replace(BEACON.geometry, sand_bed_cm=1.5))
        self.assertEqual(self.kept(thin)["siphon"].zones, ())

    def test_the_back_is_scraped_where_it_is_kept_clean(self):
        self.assertIn("scrape_back", self.kept(replace(BEACON, clean_panels=(Panel.FRONT, Panel.BACK))))

    def test_what_is_once_for_the_household_is_in_one_system(self):
        self.assertIn("reagents", self.kept(BEACON))
        self.assertNotIn("reagents", self.kept(SKIFF, home=False))

    def test_the_siphon_and_the_change_follow_the_method(self):
        rules = self.kept(SKIFF)
        self.assertEqual((rules["water_change"].every_days, rules["siphon"].every_days), (14, 14))

    def test_as_the_keeper_chose(self):
        choices = {
            "tools": CareChoice(off=True),
            "salt_creep": CareChoice(every_days=20, minutes=9, weekdays=(5,)),
            "siphon": CareChoice(zones=("front", "back")),
            "reservoir": CareChoice(limit=40),
        }
        rules = self.kept(BEACON, choices, own=[own_kind(1, "Polish the lid", 14, 5)])
        self.assertNotIn("tools", rules)
        creep = rules["salt_creep"]
        self.assertEqual((creep.every_days, creep.minutes, creep.weekdays), (20, 9, (5,)))
        self.assertEqual((rules["siphon"].zones, rules["reservoir"].limit), (("front", "back"), 40))
        self.assertEqual(rules["own_1"].every_days, 14)

    def test_what_cannot_be_chosen_is_refused_at_its_field(self):
        for field, wrong in (
            ("every_days", {"every_days": 0}), ("minutes", {"minutes": 601}), ("weekdays", {"weekdays": (7,)}),
            ("zones", {"zones": ("",)}), ("limit", {"limit": 0}),
        ):  # fmt: skip
            with self.subTest(field), self.assertRaises(InputError) as raised:
                check_choice_of_care(CareChoice(**wrong))
            self.assertEqual(raised.exception.field, field)
        for field, wrong in (("name", ("x", 14, 5)), ("every_days", ("Lid", 731, 5)), ("minutes", ("Lid", 14, 0))):
            with self.subTest(field), self.assertRaises(InputError) as raised:
                own_kind(1, *wrong)
            self.assertEqual(raised.exception.field, field)

    def test_minutes_are_learned_from_what_was_timed(self):
        # Usual 12 counts twice: (24 + 18 + 21) / 4 = 15.75. What was not timed teaches nothing.
        timed = [replace(done("siphon", days), minutes=took, timed=True) for days, took in ((9, 18), (2, 21))]
        self.assertEqual(learned_minutes(12, [*timed, done("siphon", 1)]), 15.75)
        self.assertEqual(learned_minutes(12, [replace(done("siphon", 1), skipped=True, timed=True)]), 12)


class Kinds(unittest.TestCase):
    def test_every_kind_has_a_caution_that_fits_what_it_does(self):
        for kind in tasks().values():
            with self.subTest(kind.key):
                self.assertTrue(kind.cautions)
                self.assertLessEqual({*kind.cautions}, cautions().keys())
                needs = {
                    "descaler": {"acid"}, "blade": {"blades"}, "new_blade": {"blades"}, "lamp": {"uv"},
                    "baster": {"palytoxin", "stings"}, "siphon_tube": {"siphon"}, "scissors": {"release"},
                }  # fmt: skip
                for item in kind.kit_for(PanelMaterial.GLASS):
                    if item in needs:
                        self.assertFalse(needs[item].isdisjoint(kind.cautions), item)
                if {"heater", "powerhead", "return_pump"} & {*kind.off}:
                    self.assertFalse({"electricity", "strip_electric"}.isdisjoint(kind.cautions))

    def test_intervals_and_windows_make_sense_and_reasons_are_sentences(self):
        for kind in tasks().values():
            with self.subTest(kind.key):
                self.assertLess(kind.early_days, kind.every_days)
                self.assertGreater(kind.minutes, 0)
                self.assertTrue(kind.why.endswith("."))
                self.assertNotIn(kind.key, kind.joins + kind.never_with)

    def test_what_is_never_together_is_not_joined(self):
        for kind in tasks().values():
            with self.subTest(kind.key):
                self.assertTrue(set(kind.joins).isdisjoint(kind.never_with))

    def test_all_tasks_of_the_craft_are_there(self):
        self.assertGreaterEqual(len(tasks()), 45)
        known = " ".join(kind.name.lower() for kind in tasks().values())
        for word in (
            "scrape the front", "back and ends", "weirs", "salt creep", "siphon", "stir", "baste the rock", "detritus",
            "dead spots", "skimmer cup", "neck", "skimmer body", "socks", "roll", "canister", "hang-on", "carbon",
            "phosphate", "powerheads", "return pump", "lamp", "heater", "chiller", "fan", "denitrator",
            "calcium reactor", "ph probe", "conductivity", "container", "dosing pump", "tubing", "reservoir", "float",
            "safeguards", "alarm", "sediment", "membrane", "resin", "macroalgae", "reagents", "count the animals",
            "at night", "laboratory", "tools", "blade", "water change",
        ):  # fmt: skip
            with self.subTest(word):
                self.assertIn(word, known)


class Found(unittest.TestCase):
    def test_read_as_typed_and_refused_with_what_would_be_accepted(self):
        self.assertEqual(read_found("flow_before", "1850 L/h"), 1850)
        self.assertEqual(read_found("cup_colour", "dark and dry"), "dark and dry")
        self.assertEqual(read_found("worn", " impeller chipped "), "impeller chipped")
        for words in ("x", "x" * 300):
            self.assertEqual(read_found("worn", words), words)
        for key, text, accepted in (
            ("cup_level", "120", "0 to 100 %"), ("cup_level", "full", "0 to 100 %"),
            ("cup_colour", "pink", "tea-coloured"),
            ("deviation", "11", "-10.0 to 10.0 °C"), ("worn", "", "300 characters"),
            ("worn", "x" * 301, "300 characters"),
        ):  # fmt: skip
            with self.subTest(key=key, text=text), self.assertRaises(InputError) as raised:
                read_found(key, text)
            self.assertEqual(raised.exception.field, f"found.{key}")
            self.assertIn(accepted, raised.exception.accepted.replace("−", "-"))

    def test_every_kind_is_told_in_words(self):
        for key, kind in found_kinds().items():
            value = kind.choices[0] if kind.choices else (1.0 if kind.input_type == "number" else "left")
            with self.subTest(key):
                self.assertTrue(found_words({key: value})[0].startswith(kind.name))


class History(unittest.TestCase):
    def test_how_regularly_and_what_flow_was_lost(self):
        # 90 and 100 days between: 95 as a rule. 4100 of 5900 L/h is a loss of 30.5 %.
        care = [
            done("powerheads", 190, {"flow_before": 5200, "flow_after": 5900}),
            done("powerheads", 100, {"flow_before": 5100, "flow_after": 5850}),
            done("powerheads", 0, {"flow_before": 4100, "flow_after": 5800}, timed=True),
        ]
        told = history_of(tasks()["powerheads"], care, ZONE)
        self.assertEqual((told.timed, told.gaps), (1, "done 3 times, 95 days between as a rule"))
        self.assertIn("lost 31 % of its best flow", told.trend)
        self.assertIn("(4100 of 5900 L/h): strip it more often", told.trend)

    def test_the_last_number_beside_those_before(self):
        care = [done("probe_ph", days, {"slope": slope}) for days, slope in ((90, 98.0), (60, 97.0), (30, 91.5))]
        self.assertEqual(
            history_of(tasks()["probe_ph"], care, ZONE).trend, "Slope: 91.5 % at last, 97.5 % as a rule before."
        )

    def test_nothing_recorded_and_long_gaps(self):
        self.assertEqual(history_of(tasks()["tools"], [], ZONE).gaps, "not recorded yet")
        care = [done("tools", days) for days in (60, 53, 46, 10, 3)]
        care.insert(3, done("tools", 20, skipped=True, reason="away"))
        self.assertEqual(
            history_of(tasks()["tools"], care, ZONE).gaps,
            "done 5 times, 7 days between as a rule, 36 at most; skipped 1 time",
        )


class Days(unittest.TestCase):
    def test_days_that_are_computed_end_a_century_away(self):
        day, century = date(2026, 11, 24), timedelta(days=36_525)
        for days in (float("inf"), float("nan"), 1e300, 36_525, 400_000):
            with self.subTest(days=days):
                self.assertEqual(later(day, days), day + century)
        self.assertEqual(later(day, -1e300), day - century)
        self.assertEqual(later(day, 2.9), date(2026, 11, 26))
        # There is nothing after the last day of the calendar.
        self.assertEqual(later(date(9999, 12, 1), 1000), date(9999, 12, 1))

    def test_a_day_that_is_typed_lies_where_days_can_be_kept(self):
        self.assertEqual(typed_day("2026-11-24", "since"), date(2026, 11, 24))
        for text in ("0001-01-01", "9999-12-31", "2026-02-30", "24.11.2026", ""):
            with self.subTest(text=text), self.assertRaises(InputError) as refused:
                typed_day(text, "since")
            self.assertEqual(refused.exception.field, "since")
        with self.assertRaises(InputError) as refused:
            typed_day("2026-11-25", "since", last=date(2026, 11, 24))
        self.assertEqual(refused.exception.accepted, "1970-01-01 to 2026-11-24")
