"""The jot line's record: what is understood, what is pointed at, how a word could go on."""

import unittest
from dataclasses import replace
from datetime import UTC, timedelta

from salttide.core.basics.number_text import DecimalSign
from salttide.core.basics.quantities import Habits
from salttide.core.jot.answer import JotContext
from salttide.core.jot.reader import JotError
from salttide.core.jot.record import EXAMPLES, complete, examples_near, record_line, when_words
from salttide.core.jot.recording import RecordContext
from salttide.core.ledger.bench_row import Instrument
from salttide.core.ledger.entries import Care, Change, Dose, Feed, Reading, TopOff
from salttide.core.science.food import Food
from salttide.core.science.parameters import Parameter
from salttide.core.system.inspection import Event
from salttide.core.system.livestock import Animal, StockChange
from salttide.core.system.shelf import Additive
from tests.core.cases import BEACON, KITTIWAKE, NOW, SKIFF, ZONE, dkh, ledger, reading

BEACON_1 = replace(BEACON, id=1, animals=(Animal(1, "goby", count=2),))
SKIFF_3 = replace(SKIFF, id=3, animals=(Animal(2, "clownfish", count=2),))
KIT = Instrument("kit T1", Parameter.ALKALINITY, 0.05)
CONTEXT = RecordContext(
    JotContext(systems=(BEACON_1, SKIFF_3), salts=(KITTIWAKE,), current=BEACON_1),
    NOW, ZONE, {1: ledger(reading(Parameter.ALKALINITY, dkh(7.8), 1, "kit T1"))}, (KIT,),
    (Additive(1, "soda ash", "Na2CO3", bulk_density_g_ml=1.05), Additive(2, "soda stock", "Na2CO3", strength_g_l=100.0),
     Additive(3, "calcium chloride dihydrate", "CaCl2·2H2O", purity=0.98)),
    (Food(1, "frozen mysids", "frozen", 0.12, 0.10, 0.012, 1.2),),
)  # fmt: skip


def read(text, context=CONTEXT):
    return record_line(text, context)


def event(text, context=CONTEXT):
    (item,) = read(text, context).items
    return item.event


class Understood(unittest.TestCase):
    def test_more_than_five_hours_of_work_are_asked_about(self):
        for minutes, asked in ((300, False), (301, True)):
            (item,) = read(f"scraped front {minutes} min").items
            self.assertEqual(bool(item.doubts), asked)

    def test_a_reading_by_its_usual_instrument(self):
        found = event("alk 7.9")
        self.assertIsInstance(found, Reading)
        self.assertAlmostEqual(found.value, dkh(7.9))
        self.assertEqual((found.instrument, found.sd, found.at), ("kit T1", 0.05, NOW))

    def test_several_in_one_line_for_another_system(self):
        found = read("skiff sal 34.6 temp 25.3, ph 8.1 and ca 420 mg/l")
        self.assertEqual([system.name for system in found.systems], ["Skiff"])
        self.assertEqual(
            [item.event.parameter.value for item in found.items], ["salinity", "temperature", "ph", "calcium"]
        )

    def test_the_system_may_come_last(self):
        self.assertEqual(read("topped off 2 l in skiff").systems[0].name, "Skiff")

    def test_system_and_time_belong_to_the_part_they_stand_with(self):
        day, hours = timedelta(days=1), timedelta(hours=2)
        for text, told in (
            ("alk 7.9 in beacon alk 8.1 in skiff", [("Beacon", 0 * day), ("Skiff", 0 * day)]),
            ("beacon alk 7.9 sal 34.6 and skiff", None),
            ("skiff alk 7.9 in beacon sal 35", [("Skiff", 0 * day), ("Beacon", 0 * day)]),
            ("sal 34.6 temp 25.3 in skiff ph 8.1 in beacon", [("Skiff", 0 * day)] * 2 + [("Beacon", 0 * day)]),
            ("alk 7.9 yesterday sal 35", [("Beacon", day), ("Beacon", 0 * day)]),
            ("alk 7.9 yesterday sal 35 2 h ago", [("Beacon", day), ("Beacon", hours)]),
            ("yesterday alk 7.9 sal 35", [("Beacon", day)] * 2),
            ("skiff yesterday alk 7.9, sal 35", [("Skiff", day)] * 2),
        ):  # fmt: skip
            with self.subTest(text=text):
                if told is None:
                    with self.assertRaises(JotError):
                        read(text)
                    continue
                self.assertEqual([(part.system.name, NOW - part.at) for part in read(text).parts], told)

    def test_what_could_belong_to_two_parts_is_asked_back(self):
        for text in ("beacon alk 7.9 in skiff", "yesterday alk 7.9 2 h ago", "alk 7.9 skiff sal 35"):
            with self.subTest(text=text), self.assertRaises(JotError):
                read(text)

    def test_nothing_that_is_typed_is_dropped(self):
        self.assertEqual(event("change 45 l note new hose").note, "new hose")
        self.assertEqual(event("dosed 40 ml soda note by hand").note, "by hand")
        self.assertEqual(event("topped off 3 l note bucket").note, "bucket")
        with self.assertRaises(JotError):
            read("change 14 l from skiff with kittiwake")
        with self.assertRaises(JotError):
            read("counted 2 goby note behind the rock")

    def test_amounts_out_of_all_proportion_are_doubted(self):
        for text in ("fed 200 mysids", "topped off 100 l", "added 500 goby", "evaporated 60 l", "harvested 9 kg",
                     "scraped front 400 min"):  # fmt: skip
            with self.subTest(text=text):
                (item,) = read(text).items
                self.assertIn("Is it right?", item.doubts[0])
        for text in ("fed 2 mysids", "topped off 3 l", "added 3 goby", "evaporated 3 l", "harvested 100 g"):
            with self.subTest(text=text):
                self.assertEqual(read(text).items[0].doubts, ())

    def test_a_water_change_is_its_task_too(self):
        (item,) = read("change 45 l").items
        self.assertEqual([(care.task, care.at) for care in item.also], [("water_change", NOW)])
        refilled = event("refilled 20 l")
        self.assertEqual((refilled.out_l, refilled.in_l, refilled.incoming[Parameter.SALINITY]), (0, 20, 35.0))

    def test_water_of_another_system_limewater_evaporation_and_harvest(self):
        change = event("change 14 l from skiff")
        self.assertEqual((change.out_l, change.incoming, change.source), (14, {}, 3))
        # Saturated limewater at 22 degrees: 1.54 g/L Ca(OH)2 of 74.09 g/mol, 2 eq: 41.6 meq/L, half as many mmol of Ca.
        lime = event("topped off 5 l of limewater")
        self.assertAlmostEqual(lime.holds[Parameter.ALKALINITY], 41.6, delta=0.6)
        self.assertAlmostEqual(lime.holds[Parameter.CALCIUM], 41.6 / 2 * 40.078, delta=15)
        self.assertEqual(event("topped off 2 l salt water").holds[Parameter.SALINITY], 35.0)
        self.assertEqual(event("evaporated 3 l").litres, 3)
        # 100 g fresh are 10 g dry, 0.3 g N = 1.328 g NO3.
        self.assertAlmostEqual(event("harvested 100 g macroalgae").bound[Parameter.NITRATE], 1328, delta=1)

    def test_a_dose_by_volume_by_weight_and_by_scoop(self):
        # 40 mL of 100 g/L: 4 g, 4/105.99*2000 = 75.5 meq. A scoop of 10 mL at 1.05 g/mL: 10.5 g.
        for text, grams in (("dosed 40 ml soda", 4.0), ("dosed 4 g soda ash", 4.0), ("dose 10 ml soda ash", 10.5),
                            ("gave 3 g KNO3", 3.0)):  # fmt: skip
            with self.subTest(text=text):
                found = event(text)
                self.assertIsInstance(found, Dose)
                self.assertAlmostEqual(found.mass_g, grams)
        self.assertAlmostEqual(event("dosed 40 ml soda").amounts[Parameter.ALKALINITY], 4 / 105.988 * 2000, places=1)
        # 10 g of 98 % CaCl2·2H2O: 9.8/147.01*40.078 = 2.672 g of calcium.
        calcium = event("dosed 10 g calcium").amounts[Parameter.CALCIUM]
        self.assertAlmostEqual(calcium, 9.8 / 147.01 * 40.078 * 1000, delta=1)

    def test_a_change_with_what_the_usual_salt_brings(self):
        found = event("change 45 l")
        self.assertIsInstance(found, Change)
        # Beacon's salinity band 34-35.5: mixed to 35.0; 2.95 meq/L at 35 ppt is 2.929 there.
        self.assertEqual((found.out_l, found.in_l, found.incoming[Parameter.SALINITY]), (45, 45, 35.0))
        self.assertAlmostEqual(found.incoming[Parameter.ALKALINITY], 2.95 * 35.0 / 35)
        self.assertEqual(event("changed 45 l with kittiwake").incoming, found.incoming)

    def test_a_change_with_water_that_was_mixed_stronger(self):
        for line in ("changed 45 l mixed to 42 ppt", "changed 45 l with kittiwake mixed to 42"):
            found = event(line)
            # 2.95 meq/L at 35 ppt is 3.54 at 42.
            self.assertEqual(found.incoming[Parameter.SALINITY], 42.0)
            self.assertAlmostEqual(found.incoming[Parameter.ALKALINITY], 2.95 * 42 / 35)
        # Without a salt on the Shelf its salinity is all that is known of it.
        bare = replace(CONTEXT, jot=replace(CONTEXT.jot, salts=()))
        (item,) = read("changed 45 l mixed to 42 ppt", bare).items
        self.assertEqual(dict(item.event.incoming), {Parameter.SALINITY: 42.0})
        self.assertIn("with water of 42.0 ppt", item.words)
        with self.assertRaisesRegex(JotError, "not mixed to this"):
            event("changed 45 l mixed to 60 ppt")

    def test_top_off_feed_task_and_happening(self):
        self.assertEqual(event("topped off 3 l"), TopOff(NOW, 3.0))
        fed = event("fed 2 mysids")
        self.assertIsInstance(fed, Feed)
        # 2 portions of 1.2 g, 12 % dry, 10 % N of it: 28.8 mg N, 4.4268 as nitrate.
        self.assertAlmostEqual(fed.brought[Parameter.NITRATE], 28.8 * 4.4268, places=1)
        self.assertEqual(event("scraped front 12 min"), Care(NOW, "scrape_front", 12))
        self.assertEqual(event("scraped the front").minutes, 10)
        self.assertIsInstance(event("windows shut"), Event)

    def test_animals_lost_and_born(self):
        (item,) = read("lost 1 goby").items
        self.assertEqual((item.words, item.turn), ("1 goby lost, 1 now", (1, StockChange.LOST, 1)))
        self.assertEqual(event("added 3 goby").kind.key, "stock_added")

    def test_when_it_was(self):
        for text, back in (("alk 7.9 yesterday", timedelta(days=1)), ("2 h ago alk 7.9", timedelta(hours=2)),
                           ("fed 1 mysids 30 min ago", timedelta(minutes=30))):  # fmt: skip
            with self.subTest(text=text):
                self.assertEqual([part.at for part in read(text).parts], [NOW - back])
        self.assertEqual(when_words(read("alk 7.9 yesterday").parts[0].at, CONTEXT), "Mon 23 Nov 18:40")
        self.assertEqual(when_words(read("alk 7.9").parts[0].at, CONTEXT), "")

    def test_a_note_takes_the_rest(self):
        self.assertEqual(event("alk 7.9 note windows open, and a party").note, "windows open, and a party")

    def test_a_decimal_comma(self):
        jot = replace(CONTEXT.jot, habits=Habits(DecimalSign.COMMA))
        self.assertAlmostEqual(event("alk 7,9", replace(CONTEXT, jot=jot)).value, dkh(7.9))

    def test_a_jump_is_doubted_before_it_is_kept(self):
        (item,) = read("alk 12.9").items
        self.assertIn("repeat the test", item.doubts[0])

    def test_a_slip_of_the_decimal_sign_is_doubted_before_it_is_kept(self):
        # 400 mL of 100 g/L soda ash in 334 L: 755 meq, 2.26 meq/L = 6.3 dKH at once; 40 mL are 0.63 dKH.
        (item,) = read("dosed 400 ml soda").items
        self.assertIn("Alkalinity rises by 6.3 dKH at once, more than the 1.0 dKH of a whole day", item.doubts[0])
        self.assertEqual(read("dosed 40 ml soda").items[0].doubts, ())
        # A quarter of 334 L is 83.5 L.
        self.assertIn("your method's largest change, 83.5 L", read("change 120 l").items[0].doubts[0])
        self.assertEqual(read("change 80 l").items[0].doubts, ())

    def test_a_count_changes_the_number_and_is_no_happening(self):
        (item,) = read("counted 5 goby").items
        self.assertEqual((item.event, item.turn), (None, (1, StockChange.COUNTED, 5)))

    def test_every_example_is_understood(self):
        for text in EXAMPLES:
            with self.subTest(text=text):
                self.assertTrue(read(text).items)


class AsPeopleWrite(unittest.TestCase):
    """The same said in several ways is the same record."""

    def test_results(self):
        for text in ("alk 7.9", "alk: 7.9", "alk=7.9", "alk is 7.9", "tested alk 7.9", "I measured alk at 7.9",
                     "Alk 7,9", "alkalinity was 7.9 dkh", "kh 7.9;"):  # fmt: skip
            with self.subTest(text=text):
                self.assertEqual(event(text), event("alk 7.9"))
        # A specific gravity is one whatever the keeper's unit for salinity; 1.0264 at 25/25 are 35.03 ppt.
        self.assertAlmostEqual(event("sg 1.0264").value, 35.03, delta=0.05)

    def test_water_changes(self):
        for text in ("change 40 l", "did a 40 L water change", "40 l change", "water change of 40 l", "wc 40 l",
                     "changed 40 l of water", "I did a water change of 40 L"):  # fmt: skip
            with self.subTest(text=text):
                self.assertEqual(event(text), event("change 40 l"))
        share = event("15 % water change")
        self.assertAlmostEqual(share.out_l, 0.15 * BEACON.volume_l)
        self.assertEqual((share, event("did a 15% change")), (event("change 15 %"), share))

    def test_tasks_and_what_was_found(self):
        self.assertEqual(event("socks"), event("changed the filter socks"))
        self.assertEqual(event("Empty the skimmer cup"), event("emptied skimmer cup"))
        found = event("cup 3/4 dark")
        self.assertEqual((found.task, found.found), ("skimmer_cup", {"cup_level": 75.0, "cup_colour": "dark and dry"}))
        self.assertEqual(event("emptied the cup 60 % tea").found, {"cup_level": 60.0, "cup_colour": "tea-coloured"})
        self.assertEqual(event("skimmer cup full").found, {"cup_level": 100.0})
        self.assertEqual(event("emptied cup 10 min half full").minutes, 10.0)

    def test_doses_top_offs_food_and_animals(self):
        self.assertEqual(event("dosed soda stock 40 ml"), event("dosed 40 ml of soda stock"))
        # The same word is the powder by weight and the solution by volume.
        self.assertEqual(event("dosed soda 3 g"), event("dosed 3 g soda ash"))
        self.assertEqual(event("dosed soda 40 ml"), event("dosed 40 ml soda stock"))
        self.assertEqual(event("added 40 ml soda stock"), event("dosed 40 ml soda stock"))
        lime = event("dosed 2 tsp kalk")
        # Two teaspoons are 9.858 mL of loose powder at 0.55 g/mL.
        self.assertAlmostEqual(lime.mass_g, 2 * 4.92892159375 * 0.55)
        self.assertTrue(read("dosed 2 tsp kalk").items[0].doubts)
        self.assertEqual(event("3 l top off"), event("topped off 3 l of fresh water"))
        self.assertEqual(event("fed"), event("fed 1 frozen mysids"))
        given = replace(CONTEXT, ledgers={1: ledger(Feed(NOW, "frozen mysids", 3.0, 3.6, {}))})
        self.assertEqual(event("fed the fish", given).portions, 3.0)
        self.assertEqual(event("lost the goby"), event("lost 1 goby"))
        self.assertEqual(event("lost one goby"), event("lost 1 goby"))

    def test_below_the_lowest_mark(self):
        kit = Instrument("kit", Parameter.NITRATE, 0.5)
        found = event("no3 <5", replace(CONTEXT, instruments=(kit,)))
        # Anywhere from 0 to 5: the mean and the deviation of a uniform distribution.
        self.assertEqual((found.value, found.raw), (2.5, 5.0))
        self.assertAlmostEqual(found.sd, 5 / 12**0.5)
        self.assertIn("below 5.0 mg/L", found.how)

    def test_a_note_by_itself(self):
        found = event("note: the goby hides")
        self.assertEqual((found.kind.key, found.note), ("note", "the goby hides"))
        self.assertEqual(read("note: the goby hides").items[0].words, "Note: the goby hides")

    def test_when(self):
        # Now is Tue 24 Nov 2026, 18:40 in Copenhagen, an hour ahead of UTC.
        for text, wanted in (
            ("alk 7.9 yesterday 9pm", "2026-11-23 20:00"), ("yesterday 9pm alk 7.9", "2026-11-23 20:00"),
            ("alk 7.9 at 17:00", "2026-11-24 16:00"), ("alk 7.9 at 21:00", "2026-11-23 20:00"),
            ("alk 7.9 sat 21:00", "2026-11-21 20:00"), ("alk 7.9 on saturday at 9:30 pm", "2026-11-21 20:30"),
            ("alk 7.9 on 20 nov", "2026-11-20 17:40"), ("alk 7.9 on Nov 20 at noon", "2026-11-20 11:00"),
            ("alk 7.9 2026-11-20 08:15", "2026-11-20 07:15"), ("alk 7.9 9pm on 20 november 2026", "2026-11-20 20:00"),
            ("alk 7.9 20th nov 12am", "2026-11-19 23:00"), ("alk 7.9 today at 13:00", "2026-11-24 12:00"),
            ("alk 7.9 at 13", "2026-11-24 12:00"), ("alk 7.9 a week ago", "2026-11-17 17:40"),
            ("last night alk 7.9", "2026-11-23 20:00"), ("alk 7.9 this morning", "2026-11-24 07:00"),
            # Summer time: two hours ahead.
            ("alk 7.9 on 10 oct at 21:00", "2026-10-10 19:00"),
        ):  # fmt: skip
            with self.subTest(text=text):
                self.assertEqual(f"{read(text).parts[0].at.astimezone(UTC):%Y-%m-%d %H:%M}", wanted)


class PointedAt(unittest.TestCase):
    def test_what_is_not_understood_with_its_place(self):
        cases = [
            ("foo 3", "foo", "a result such as alk 7.9"),
            ("beacon", "", "Expected next: a result such as alk 7.9"),
            ("alk", "", "a number of alkalinity"),
            ("alk 79", "79", "0 to 28 dKH"),
            ("dosed 4 g magic", "magic", "an additive from the Shelf"),
            ("dosed 40 soda", "soda", "L, mL"),
            ("change 400 l", "400", "holds 334.0 L"),
            ("topped off 300 l", "300", "not a top-off"),
            ("lost 3 goby", "3", "1 to 2"),
            ("skiff lost 1 goby", "goby", "no goby lives in Skiff"),
            ("alk 7.9 300 days ago", "300 days ago", "60 days"),
            ("alk 7.9 nonsense", "nonsense", "can't read"),
            ("dosed 0 ml soda", "0", "above 0"),
            ("change 0 l", "0", "above 0"),
            ("fed 0 mysids", "0", "above 0"),
            ("lost 1.5 goby", "1.5", "counted whole"),
            ("change 40 l with sand", "sand", "a salt on the Shelf"),
            ("water change", "", "such as 40 l or 15 %"),
            ("change 120 %", "120", "up to 100 %"),
            ("fed 2 nonsense", "nonsense", "a food on the Shelf"),
            ("alk 7.9 on 25 nov", "on 25 nov", "still to come"),
            ("alk 7.9 on 31 june", "31 june", "no day 31"),
            ("alk 7.9 at 9", "at 9", "9am or 9pm"),
            ("alk 7.9 at 25:00", "at 25:00", "not a time of day"),
            ("alk 7.9 2026-02-30", "2026-02-30", "not a date"),
            ("emptied cup 140 %", "140", "0 to 100 %"),
            ("ph <5", "5", "cannot be judged"),
            ("lost 1 clownfish", "clownfish", "one does in Skiff"),
            ("dosed soda stock 3 g", "soda stock", "is a solution"),
            ("dosed 2 tsp calcium", "2", "weigh calcium chloride dihydrate"),
        ]
        for text, word, said in cases:
            with self.subTest(text=text), self.assertRaises(JotError) as raised:
                read(text)
            error = raised.exception
            self.assertEqual(text[error.start : error.end], word)
            self.assertIn(said, error.message + error.accepted)

    def test_lines_that_are_like_it_are_offered(self):
        self.assertEqual(len(examples_near("chnge 40 l", CONTEXT)), 3)
        self.assertIn("dosed 40 ml soda stock", examples_near("dosed magic", CONTEXT))
        self.assertIn("change 45 l", examples_near("change whatever", CONTEXT))
        self.assertEqual(examples_near("1.026 in ppt", CONTEXT)[0], "= 1.026 in ppt")

    def test_without_a_system_it_asks_for_which(self):
        with self.assertRaises(JotError) as raised:
            read("alk 7.9", replace(CONTEXT, jot=replace(CONTEXT.jot, current=None)))
        self.assertIn("Beacon or Skiff", raised.exception.accepted)


class GoingOn(unittest.TestCase):
    def test_the_last_word_is_completed_where_it_stands(self):
        cases = [("be", (0, "beacon")), ("dosed 40 ml so", (12, "soda stock")), ("scr", (0, "scraped front")),
                 ("skiff al", (6, "alkalinity")), ("fed 2 fro", (6, "frozen mysids")),
                 ("dosed 3 g calcium chl", (10, "calcium chloride dihydrate"))]  # fmt: skip
        for text, wanted in cases:
            with self.subTest(text=text):
                self.assertIn(wanted, complete(text, CONTEXT))

    def test_what_is_typed_furthest_comes_first(self):
        # "st" could also begin strontium, after a dose of "soda".
        self.assertEqual(complete("dosed 40 ml soda st", CONTEXT)[0], (12, "soda stock"))

    def test_after_a_complete_line_nothing_is_offered(self):
        for text in ("alk 7.9", "alk 7.9 ", "change 40 l", "scraped front ", "dosed 40 ml soda stock"):
            with self.subTest(text=text):
                self.assertEqual(complete(text, CONTEXT), [])

    def test_after_a_blank_what_could_come_next(self):
        self.assertIn("soda stock", [phrase for _, phrase in complete("dosed 40 ml ", CONTEXT)])
        self.assertEqual(complete("", CONTEXT), [])
