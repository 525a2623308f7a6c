"""Programmes: how their phases follow from the record, and what each asks of a system; every number derived by hand."""

import copy
import tomllib
import unittest
from dataclasses import replace
from datetime import date, datetime, time, timedelta
from importlib import resources
from zoneinfo import ZoneInfo

from salttide.core.basics.errors import DataError
from salttide.core.judgement.findings import judge_situation
from salttide.core.judgement.scenario import situation_described
from salttide.core.ledger.entries import Care, Ledger, ledger_of
from salttide.core.programme.course import Coverage, ProgrammeCourse, ProgrammeRecord, Review, Turn, course_of
from salttide.core.programme.file import PhaseKind, against, programmes, read_programme
from salttide.core.programme.proposed import with_programmes
from salttide.core.programme.sheet import effects_of, in_phase, minutes_a_week
from salttide.core.programme.underway import Underway
from salttide.core.programme.wants import ProgrammeFacts, bent, light_wanted, routine_wanted, wants_of
from salttide.core.remedy.case import PROGRAMME, Case, CaseState, CaseTurn, Chosen, TurnKind
from salttide.core.remedy.cause import PLAIN, causes_of
from salttide.core.remedy.remedy import Means, RemedyKind
from salttide.core.science.parameters import Parameter, Span
from salttide.core.system.catalogue import sign
from salttide.core.system.inspection import VisualCheck
from salttide.core.system.light import Light
from salttide.core.system.livestock import Animal
from salttide.core.system.system import Methods, SandMethod
from salttide.core.upkeep.care import CareChoice, going_on, rules_of
from salttide.core.upkeep.due import Rule
from salttide.core.upkeep.rota import WATER_CHANGE, Book, occurrences
from salttide.core.upkeep.task import tasks
from salttide.core.upkeep.workload import Load, savings_of
from tests.core.cases import BEACON, EELGRASS, KITTIWAKE, SKIFF
from tests.core.test_findings import RED, STRANDS, water

ZONE = ZoneInfo("Europe/Berlin")
FIRST = date(2026, 9, 1)
NONE, LITTLE, PATCHES, MUCH = Coverage
FILM, HAIR = programmes()["cyanobacteria"], programmes()["hair_algae"]
STRANDS_SAND = programmes()["dinoflagellates_sand"]
NITRATE, PHOSPHATE = Parameter.NITRATE, Parameter.PHOSPHATE
LAMPS = Light(date(2026, 1, 1), time(11), time(21), 60, "white")


def on(days: int) -> date:
    return FIRST + timedelta(days=days)


def looks(*pairs: tuple[int, Coverage]) -> tuple[Review, ...]:
    return tuple(Review(on(day), how, number) for number, (day, how) in enumerate(pairs, 1))


def course(programme=FILM, *pairs, done=None, turns=(), before=MUCH) -> ProgrammeCourse:
    """Single tasks are done on day 1 unless said otherwise: the fight begins then."""
    once = {ask.task for phase in programme.phases for ask in phase.asks if ask.every_days is None}
    known = {task: [on(1)] for task in once} if done is None else done
    return course_of(programme, ProgrammeRecord(FIRST, before, looks(*pairs), known, turns))


def kinds(found: ProgrammeCourse) -> list[str]:
    return [stage.phase.kind.value for stage in found.stages]


class Course(unittest.TestCase):
    def test_finding_is_over_once_each_single_task_is_done(self):
        self.assertEqual(kinds(course(FILM, done={"dead_spots": [], "aim_flow": [on(2)]})), ["find"])
        found = course(FILM, done={"dead_spots": [on(4)], "aim_flow": [on(2)]})
        self.assertEqual((kinds(found), found.stage.since, found.stage.why), (["find", "fight"], on(4), Turn.FOUND))

    def test_three_clean_weeks_end_the_fight_and_time_alone_never_does(self):
        dirty = ((8, MUCH), (15, PATCHES), (22, LITTLE))
        self.assertEqual(kinds(course(FILM, *dirty, (29, NONE), (36, NONE)))[-1], "fight")
        clean = course(FILM, *dirty, (29, NONE), (36, NONE), (43, NONE))
        self.assertEqual((clean.stage.phase.kind, clean.stage.since), (PhaseKind.EASE, on(43)))
        self.assertEqual(clean.stage.why, Turn.CLEAN)

    def test_looks_that_are_too_close_together_count_once_the_later_one(self):
        # Days 29, 30 and 31 are one look; with 36 and 43 that makes three, without 43 only two.
        close = ((29, PATCHES), (30, NONE), (31, NONE), (36, NONE))
        self.assertEqual(kinds(course(FILM, *close))[-1], "fight")
        self.assertEqual(kinds(course(FILM, *close, (43, NONE)))[-1], "ease")
        self.assertEqual(kinds(course(FILM, *close[:1], (31, PATCHES), (36, NONE), (43, NONE)))[-1], "fight")

    def test_easing_and_watching_end_with_a_clean_look_after_their_weeks(self):
        clean = ((8, NONE), (15, NONE), (22, NONE))
        # Eased from day 22 for two weeks: a look on day 35 is too early, one on day 36 is not. Then four weeks.
        self.assertEqual(kinds(course(FILM, *clean, (29, NONE), (35, NONE)))[-1], "ease")
        watched = course(FILM, *clean, (29, NONE), (36, NONE))
        self.assertEqual((watched.stage.phase.kind, watched.stage.since), (PhaseKind.WATCH, on(36)))
        self.assertFalse(course(FILM, *clean, (29, NONE), (36, NONE), (63, NONE)).over)
        self.assertTrue(course(FILM, *clean, (29, NONE), (36, NONE), (64, NONE)).over)

    def test_what_comes_back_is_fought_again(self):
        clean = ((8, NONE), (15, NONE), (22, NONE))
        back = course(FILM, *clean, (29, PATCHES))
        self.assertEqual((back.stage.phase.kind, back.stage.why), (PhaseKind.FIGHT, Turn.SETBACK))
        # A trace once is not yet a setback, twice it is.
        self.assertEqual(kinds(course(FILM, *clean, (29, LITTLE)))[-1], "ease")
        self.assertEqual(kinds(course(FILM, *clean, (29, LITTLE), (36, LITTLE)))[-1], "fight")
        # Three clean looks are needed anew.
        self.assertEqual(kinds(course(FILM, *clean, (29, PATCHES), (36, NONE), (43, NONE)))[-1], "fight")

    def test_two_looks_without_change_ask_for_another_idea(self):
        self.assertFalse(course(FILM, (8, MUCH)).stuck)
        self.assertTrue(course(FILM, (8, MUCH), (15, MUCH)).stuck)
        self.assertFalse(course(FILM, (8, MUCH), (15, PATCHES)).stuck)
        self.assertFalse(course(FILM, (8, PATCHES), (15, PATCHES)).stuck)  # much at the start
        self.assertTrue(course(FILM, (8, PATCHES), (15, PATCHES), (22, PATCHES)).stuck)
        chosen = course(FILM, (8, MUCH), (15, MUCH), turns=[(on(16), "light")])
        self.assertEqual((chosen.stage.phase.key, chosen.stuck), ("light", False))
        self.assertTrue(course(FILM, (8, MUCH), (15, MUCH), (22, MUCH), (29, MUCH), turns=[(on(16), "light")]).stuck)

    def test_a_stronger_phase_comes_only_where_it_is_chosen(self):
        for key, programme in programmes().items():
            clean = course(programme, (8, NONE), (15, NONE), (22, NONE), (60, NONE), (100, NONE))
            with self.subTest(key):
                self.assertNotIn("stronger", kinds(clean))
                self.assertTrue(clean.over)

    def test_hours_are_taken_off_by_steps_and_given_back_by_steps(self):
        # From day 16 on half an hour every three days, two hours at most; given back half an hour every four days.
        short = course(FILM, (8, MUCH), (15, MUCH), turns=[(on(16), "light")])
        self.assertEqual([short.cut(on(day)) for day in (16, 18, 19, 22, 25, 60)], [0.5, 0.5, 1.0, 1.5, 2.0, 2.0])
        eased = course(FILM, (8, MUCH), (15, MUCH), (23, NONE), (30, NONE), (37, NONE), turns=[(on(16), "light")])
        self.assertEqual([eased.cut(on(day)) for day in (37, 40, 41, 45, 49, 60)], [1.5, 1.5, 1.0, 0.5, 0.0, 0.0])


class Wants(unittest.TestCase):
    def fight(self, programme, system, nutrients=None, **facts):
        found = course(programme)
        return wants_of(found, system, ProgrammeFacts(nutrients=nutrients or {}, **facts), on(2))

    def test_changes_are_so_many_times_the_routine_within_the_methods_largest(self):
        # 12 % every 7 days, half as much again: 18 %.
        asked = routine_wanted(BEACON, HAIR, HAIR.fight, [])
        self.assertAlmostEqual(asked.fraction, 0.18)
        self.assertEqual(asked.every_days, 7)
        # 20 % every 14 days is 10 % a week; a quarter more is 12.5 %.
        self.assertAlmostEqual(routine_wanted(SKIFF, FILM, FILM.fight, []).fraction, 0.125)
        large = replace(BEACON, methods=Methods(SandMethod.BARE, 0.2, 7, largest_fraction=0.25))
        self.assertAlmostEqual(routine_wanted(large, HAIR, HAIR.fight, []).fraction, 0.25)
        # A week's ceiling of 30 % where the method would allow more.
        huge = replace(BEACON, methods=Methods(SandMethod.BARE, 0.25, 7, largest_fraction=0.8))
        self.assertAlmostEqual(routine_wanted(huge, HAIR, HAIR.fight, []).fraction, 0.30)
        # Somebody who changes 40 % a week is not held to less.
        own = replace(BEACON, methods=Methods(SandMethod.BARE, 0.4, 7, largest_fraction=0.8))
        self.assertIsNone(routine_wanted(own, HAIR, HAIR.fight, []))

    def test_at_the_floor_nothing_more_is_taken_out(self):
        export = programmes()["hair_algae_export"]
        rich, poor = {NITRATE: 5.0, PHOSPHATE: 0.05}, {NITRATE: 5.0, PHOSPHATE: 0.02}
        fed = self.fight(export, BEACON, rich)
        bare = self.fight(export, BEACON, poor)
        self.assertIn("macroalgae", [one.ask.task for one in fed.asked])
        self.assertNotIn("macroalgae", [one.ask.task for one in bare.asked])
        self.assertEqual((fed.departs, bare.routine), ((), None))
        self.assertIn("phosphate is at the floor", bare.departs[0])
        self.assertIn("harvest the macroalgae", bare.departs[0])

    def test_strands_hold_changes_and_export_back_and_are_not_stirred(self):
        asked = self.fight(STRANDS_SAND, EELGRASS)
        self.assertTrue(asked.routine.held)
        self.assertTrue({"water_change", "macroalgae_display", "blow_rock"} <= {*asked.holds})
        self.assertNotIn("macroalgae", asked.holds)  # it has no refugium
        tasks_asked = {one.ask.task for one in asked.asked}
        self.assertTrue({"siphon_strands", "review_brown_strands"} <= tasks_asked)
        self.assertTrue(tasks_asked.isdisjoint({"water_change", "media_phosphate", "blow_rock"}))
        for programme in against("dinoflagellates"):
            for phase in programme.phases:
                self.assertTrue(
                    phase.kind not in (PhaseKind.FIND, PhaseKind.FIGHT) or "water_change" in phase.holds, phase.key
                )

    def test_a_dark_tank_is_left_out_where_plants_live(self):
        dark = in_phase(course(STRANDS_SAND, done={}), STRANDS_SAND.phase("dark"))
        lagoon = replace(EELGRASS, animals=(Animal(1, "seagrass shoots", count=60),))
        for system, there in ((lagoon, False), (replace(lagoon, animals=()), True)):
            asked = wants_of(dark, system, ProgrammeFacts(), on(2))
            self.assertEqual("dark_days" in [one.ask.task for one in asked.asked], there)
            self.assertEqual(any("seagrass shoots would not bear it" in one for one in asked.departs), not there)

    def test_the_lamps_come_on_later_and_never_under_what_corals_need(self):
        short = course(FILM, (8, MUCH), (15, MUCH), turns=[(on(16), "light")])
        facts = ProgrammeFacts(LAMPS, LAMPS)
        self.assertEqual(light_wanted(short, facts, on(19)).words, "9.0 h, 12:00 to 21:00, ramp 60 min, white")
        six = ProgrammeFacts(Light(FIRST, time(12), time(18)), Light(FIRST, time(12), time(18)))
        self.assertEqual(light_wanted(short, six, on(40)).hours, 5.0)
        self.assertIsNone(light_wanted(short, ProgrammeFacts(), on(19)))
        asked = wants_of(short, BEACON, facts, on(19))
        self.assertEqual(asked.light.hours, 9.0)
        # Set already: nothing to do until the next step, three days on.
        set_now = ProgrammeFacts(LAMPS, asked.light)
        self.assertIsNone(wants_of(short, BEACON, set_now, on(21)).light)
        self.assertEqual(wants_of(short, BEACON, set_now, on(22)).light.hours, 8.5)

    def test_the_lamps_get_their_hours_back(self):
        eased = course(FILM, (8, MUCH), (15, MUCH), (23, NONE), (30, NONE), (37, NONE), turns=[(on(16), "light")])
        now = Light(on(25), time(13), time(21), 60, "white")
        hours = [wants_of(eased, BEACON, ProgrammeFacts(LAMPS, now), on(day)).light.hours for day in (37, 41, 45, 49)]
        self.assertEqual(hours, [8.5, 9.0, 9.5, 10.0])

    def test_food_names_the_least_of_each_species(self):
        fed = replace(SKIFF, animals=(Animal(1, "clownfish", count=2, portions=2), Animal(2, "anemone")))
        asked = wants_of(course(FILM, done={"dead_spots": []}), fed, ProgrammeFacts(), on(0))
        self.assertEqual(asked.food, ("clownfish: never under 2 portions a day",))

    def test_several_at_once_follow_the_first(self):
        second = ProgrammeFacts(first="the programme against cyanobacteria (red film)")
        asked = wants_of(course(HAIR), BEACON, second, on(2))
        self.assertIsNone(asked.routine)
        self.assertIn("pull_algae", [one.ask.task for one in asked.asked])
        self.assertIn("which was begun first", asked.departs[-1])


class Bent(unittest.TestCase):
    def setUp(self):
        self.rules = rules_of(SKIFF, {})

    def of(self, rules: list[Rule], task: str) -> Rule | None:
        return next((rule for rule in rules if rule.kind.key == task), None)

    def test_tasks_are_done_more_often_added_and_asked_for_once(self):
        self.assertIsNone(self.of(self.rules, "lift_film"))
        begun = wants_of(course(FILM, done={"dead_spots": [], "aim_flow": []}), SKIFF, ProgrammeFacts(), on(0))
        found = bent(self.rules, SKIFF, [begun])
        self.assertEqual(self.of(found, "dead_spots").once, FIRST)
        self.assertEqual(self.of(found, "aim_flow").once, FIRST)
        fight = bent(self.rules, SKIFF, [wants_of(course(FILM), SKIFF, ProgrammeFacts(), on(2))])
        cup, before = self.of(fight, "skimmer_cup"), self.of(self.rules, "skimmer_cup")
        self.assertEqual((before.every_days, cup.every_days, cup.asked), (4, 3, "film is being fought"))
        self.assertEqual(self.of(fight, "lift_film").every_days, 4)
        self.assertIsNone(self.of(fight, "aim_flow"))
        # Whoever empties it every second day already goes on with that.
        often = rules_of(SKIFF, {"skimmer_cup": CareChoice(every_days=2)})
        again = bent(often, SKIFF, [wants_of(course(FILM), SKIFF, ProgrammeFacts(), on(2))])
        self.assertEqual(self.of(again, "skimmer_cup").every_days, 2)

    def test_what_is_held_back_is_not_on_the_rota(self):
        held = bent(
            rules_of(EELGRASS, {}), EELGRASS, [wants_of(course(STRANDS_SAND), EELGRASS, ProgrammeFacts(), on(2))]
        )
        self.assertIsNone(self.of(held, WATER_CHANGE))
        self.assertIsNotNone(self.of(rules_of(EELGRASS, {}), WATER_CHANGE))

    def test_a_single_time_comes_once_and_a_first_time_at_once(self):
        asked = wants_of(course(FILM, done={"dead_spots": [], "aim_flow": []}), SKIFF, ProgrammeFacts(), on(0))
        rules = [rule for rule in bent(self.rules, SKIFF, [asked]) if rule.kind.key in ("aim_flow", "review_red_film")]
        found = occurrences(Book(rules), FIRST, on(40), ZONE)
        self.assertEqual([item.day for item in found if item.task == "aim_flow"], [FIRST])
        # How much there was is said at the start: the first look is a week after, then one a week.
        first = [item.day for item in found if item.task == "review_red_film"]
        self.assertEqual(first, [on(day) for day in (7, 14, 21, 28, 35)])
        self.assertIn("aim before you add", next(item.why for item in found if item.task == "aim_flow"))

    def test_a_single_time_that_was_skipped_is_asked_for_a_week_later(self):
        asked = wants_of(course(FILM, done={"dead_spots": [], "aim_flow": []}), SKIFF, ProgrammeFacts(), on(0))
        rules = [rule for rule in bent(self.rules, SKIFF, [asked]) if rule.kind.key == "aim_flow"]
        skipped = Care(datetime(2026, 9, 3, 18, tzinfo=ZONE), "aim_flow", 0, True, "away")
        found = occurrences(Book(rules, [skipped]), on(2), on(40), ZONE)
        self.assertEqual([item.day for item in found], [on(9)])

    def test_what_a_programme_answers_stirs_nothing_else(self):
        look = VisualCheck(datetime(2026, 9, 1, 12, tzinfo=ZONE), (sign("red_film", "much", "sand"), sign("creep")))
        now = datetime(2026, 9, 2, 12, tzinfo=ZONE)
        self.assertEqual({*going_on([look], [], now, ZONE)}, {"red_film", "creep"})
        self.assertEqual({*going_on([look], [], now, ZONE, {"red_film"})}, {"creep"})

    def test_the_lasting_change_of_an_added_task_is_the_keepers_choice(self):
        self.assertIsNone(self.of(rules_of(BEACON, {}), "pull_algae"))
        self.assertEqual(
            self.of(rules_of(BEACON, {"pull_algae": CareChoice(every_days=14)}), "pull_algae").every_days, 14
        )

    def test_no_time_is_saved_with_what_a_programme_asks_for(self):
        self.assertEqual(savings_of(Load(1, Rule(tasks()["tools"], 7, 5.0, asked="film is being fought"))), [])
        self.assertTrue(savings_of(Load(1, Rule(tasks()["tools"], 7, 5.0))))

    def test_minutes_a_week(self):
        kind = tasks()["lift_film"]
        self.assertEqual(
            minutes_a_week([Rule(kind, 4, 12.0), Rule(kind, 7, 5.0), Rule(kind, 3650, 9.0)]), 12 * 7 / 4 + 5
        )


def case(turns=(), programme=FILM, opened=FIRST) -> Case:
    chosen = Chosen(programme.key, RemedyKind.ACT, "Programme", "", before="much")
    at = datetime.combine(opened, time(12), ZONE)
    return Case(1, 1, PROGRAMME + programme.trouble, None, "p", at, chosen, tuple(turns))


class Standing(unittest.TestCase):
    def how(self, day, *pairs, **more):
        return Underway(case(), course(FILM, *pairs, **more)).standing(on(day), ZONE)

    def test_in_words_and_what_is_to_be_done(self):
        self.assertEqual(
            self.how(9, (8, PATCHES)).words, "Lift it out, week 2. Much at the start, patches now, after 1 look."
        )
        self.assertEqual(self.how(9, (8, PATCHES)).state, CaseState.ON_COURSE)
        stuck = self.how(16, (8, MUCH), (15, MUCH))
        self.assertEqual(stuck.state, CaseState.BEHIND)
        self.assertIn("“live bacteria”", stuck.to_do)
        back = self.how(30, (8, NONE), (15, NONE), (22, NONE), (29, PATCHES))
        self.assertEqual((back.state, back.to_do), (CaseState.CONTRADICTS, ""))
        over = self.how(70, (8, NONE), (15, NONE), (22, NONE), (36, NONE), (64, NONE))
        self.assertEqual(over.state, CaseState.REACHED)
        self.assertTrue(over.to_do.startswith("End the programme"))

    def test_chemicals_come_after_every_stronger_phase(self):
        self.assertEqual(Underway(case(), course(FILM)).left_to_try, ["Live bacteria", "Shorter light"])
        tried = course(FILM, turns=[(on(9), "bacteria"), (on(30), "light")])
        self.assertEqual(Underway(case(), tried).left_to_try, [])

    def test_it_asks_for_a_look_and_goes_on(self):
        self.assertEqual(self.how(17, (8, PATCHES)).to_do, "")
        late = self.how(18, (8, PATCHES))
        self.assertIn("for 10 days", late.to_do)
        self.assertTrue(late.live)

    def test_paused_and_ended_it_asks_for_nothing(self):
        for kind in (TurnKind.PAUSED, TurnKind.ENDED, TurnKind.ABANDONED):
            turned = case([CaseTurn(datetime(2026, 9, 20, tzinfo=ZONE), kind)])
            one = Underway(turned, course(FILM, (8, PATCHES)))
            self.assertEqual(one.wants(SKIFF, on(20)).asked, ())
            self.assertEqual(one.answers, frozenset())


class OneCause(unittest.TestCase):
    def causes(self, looks, underway=()):
        s = situation_described(water(), looks)
        return s, with_programmes(causes_of(judge_situation(s), s, Means()), s, underway)

    def test_film_that_was_seen_proposes_its_programmes(self):
        _, found = self.causes(RED)
        (film,) = [one for one in found if one.finding.rule == "red_film"]
        self.assertEqual(
            [one.key for one in film.remedies][:2], ["programme-cyanobacteria", "programme-cyanobacteria_bacteria"]
        )
        self.assertIn("Start the programme against cyanobacteria (red film)", film.finding.advice)

    def test_strands_are_never_offered_a_programme_against_algae(self):
        _, found = self.causes(STRANDS)
        keys = [one.key for cause in found for one in cause.remedies if one.key.startswith("programme-")]
        self.assertTrue(keys)
        self.assertTrue(all("dinoflagellates" in key for key in keys), keys)

    def test_under_way_the_finding_says_nothing_else(self):
        _, found = self.causes(RED, [Underway(case(), course(FILM))])
        (film,) = [one for one in found if one.finding.rule == "red_film"]
        self.assertEqual([one.key for one in film.remedies], [PLAIN])
        self.assertIn("The programme against cyanobacteria (red film) sees to it: lift it out.", film.finding.advice)

    def test_the_floor_is_raised_once_it_is_known_what_grows(self):
        """Brown strands at the floor: nothing is dosed before somebody knows what they are, then slowly upwards."""
        s = situation_described(water(nitrate=0.5), STRANDS)
        self.assertNotIn("floor", [one.rule for one in judge_situation(s).findings])
        named = replace(s, named=frozenset({"brown_strands"}))
        (found,) = [one for one in judge_situation(named).findings if one.rule == "floor"]
        self.assertIn("slimy brown strands with bubbles have the water to themselves there", found.reason)
        finding, fighting = course(STRANDS_SAND, done={"microscope": []}), course(STRANDS_SAND)
        for one, known in ((finding, False), (fighting, True)):
            self.assertEqual(Underway(case(programme=STRANDS_SAND), one).named, known)

    def test_held_changes_are_not_proposed_for_nutrients(self):
        s = situation_described(water(nitrate=40.0, phosphate=0.3), {1: ["open"]})
        means = Means(salt=KITTIWAKE)
        held = replace(
            s, system=replace(s.system, for_now=routine_wanted(s.system, STRANDS_SAND, STRANDS_SAND.fight, []))
        )

        def changes(one):
            found = causes_of(judge_situation(one), one, means)
            ways = [way for cause in found if cause.finding.rule == "nutrients_high" for way in cause.remedies]
            return [way for way in ways if way.kind == RemedyKind.CHANGE]

        self.assertTrue(changes(s))
        for way in changes(held):
            self.assertEqual((way.fits, way.work), (False, ()))
            self.assertIn("held back against likely dinoflagellates (brown strands)", way.why)


class Numbers(unittest.TestCase):
    def test_four_weeks_of_changes_by_mass_balance(self):
        # Nothing is known of any rate: only changes move the water. 4 changes of 18 % against 4 of 12 %, of 10 mg/L.
        system = replace(BEACON, bands={**BEACON.bands, NITRATE: Span(2, 15)})
        s = situation_described([("nitrate", 10.0, 0)])
        s = replace(s, system=system, ledger=replace(s.ledger, volume_l=system.volume_l))
        (found,) = effects_of(s, KITTIWAKE, routine_wanted(system, HAIR, HAIR.fight, []))
        self.assertAlmostEqual(found.now, 10.0)
        self.assertAlmostEqual(found.usual, 10 * 0.88**4, places=6)
        self.assertAlmostEqual(found.after, 10 * 0.82**4, places=6)


class Sightings(unittest.TestCase):
    def test_a_review_says_what_there_is_of_one_growth_since_the_last_check(self):
        at = datetime(2026, 9, 1, 12, tzinfo=ZONE)
        look = VisualCheck(at, (sign("red_film", "much", "sand"), sign("creep")))

        def seen(how: str, days: int = 7) -> list[str]:
            care = Care(at + timedelta(days=days), "review_red_film", 5, found={"cover_red_film": how})
            return [one.words for one in ledger_of(100.0, [look, care]).sightings[-1].signs]

        self.assertEqual(seen("none"), ["salt creep"])
        self.assertEqual(seen("a little")[-1], sign("red_film", "trace", "sand").words)
        self.assertEqual(seen("none", -1), [one.words for one in look.signs])  # the check came later
        self.assertEqual(Ledger(100.0, looks=(look,)).sightings, (look,))


class Files(unittest.TestCase):
    def table(self):
        text = (resources.files("salttide.core") / "data" / "programmes" / "cyanobacteria.toml").read_text("utf-8")
        return tomllib.loads(text)

    def refused(self, **changed):
        table = copy.deepcopy(self.table())
        for path, value in changed.items():
            *way, last = path.split("__")
            place = table
            for key in way:
                place = place[int(key)] if key.isdigit() else place[key]
            place[last] = value
        with self.assertRaises(DataError) as raised:
            read_programme("spoilt", table)
        self.assertIn("programmes/spoilt", str(raised.exception))
        return str(raised.exception)

    def test_what_is_wrong_is_refused_with_the_file(self):
        self.assertIn("a task “lift_up”", self.refused(phase__1__asks__0__task="lift_up"))
        self.assertIn("a task “lift_up”", self.refused(lasting__task="lift_up"))
        self.assertIn("a trouble “red”", self.refused(trouble="red"))
        self.assertIn("a sign “red”", self.refused(sign="red"))
        self.assertIn("a rule “red”", self.refused(rules=["red"]))
        self.assertIn("a caution “red”", self.refused(phase__1__caution="red"))
        self.assertIn("does not record", self.refused(review="review_hair_algae"))
        self.assertIn("so many weeks", self.refused(phase__4__weeks=0))
        self.assertIn("say why", self.refused(phase__1__holds=["water_change"]))
        self.assertIn("phases find, then", self.refused(phase__0__kind="fight", phase__1__kind="find"))
        self.refused(phase__1__kind="battle")
        self.refused(phase__1__wrong="word")

    def test_what_has_to_say_something_is_no_work_for_a_carer(self):
        """A carer ticks a list: a tick says nothing of how much there is."""
        for kind in tasks().values():
            with self.subTest(kind.key):
                self.assertFalse(kind.needs and kind.carer)
                self.assertLessEqual({*kind.needs}, {*kind.records})

    def test_every_programme_reads_as_a_keeper_would_say_it(self):
        self.assertGreaterEqual(len(programmes()), 12)
        for key, one in programmes().items():
            with self.subTest(key):
                self.assertTrue(one.about.endswith(".") and one.after.endswith("."))
                self.assertGreaterEqual(one.clean, 3)
                for phase in one.phases:
                    self.assertTrue(phase.words.endswith("."))
                    for ask in phase.asks:
                        self.assertRegex(ask.why, r"^[a-z].*[^.]$")
                # Chemicals are no task of any phase: they are said once, last, with what they do.
                self.assertNotIn("product", " ".join(phase.words.lower() for phase in one.phases))


if __name__ == "__main__":
    unittest.main()
