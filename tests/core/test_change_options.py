"""What a change can be for, and what each purpose starts from: by hand."""

import unittest
from dataclasses import replace
from datetime import date, timedelta

from salttide.core.basics.errors import RuleError
from salttide.core.judgement.cycling import breaking_in
from salttide.core.judgement.scenario import situation_described
from salttide.core.ledger.balance import Present
from salttide.core.ledger.verdict import Movement, Position, Verdict
from salttide.core.planning.change_options import (
    FirstRequest,
    PurposeDefaults,
    aimable,
    check_first_change,
    defaults_of,
    first_request,
    held_words,
    level_to_aim_at,
    missing_for_a_change,
    purposes_of,
)
from salttide.core.planning.change_request import Purpose
from salttide.core.planning.work_order import Water
from salttide.core.science.parameters import Parameter, Span
from salttide.core.system.livestock import Animal
from salttide.core.system.system import SandMethod, Stage, System
from tests.core.cases import BEACON, TODAY, WATER, change, ledger, reading

FISH = Animal(1, "chromis", count=3)
FRIDAY = TODAY + timedelta(days=3)
NITRATE, CALCIUM, ALKALINITY, SALINITY = (
    Parameter.NITRATE, Parameter.CALCIUM, Parameter.ALKALINITY, Parameter.SALINITY,
)  # fmt: skip


def present(**values: float) -> dict[Parameter, Present]:
    known = {**WATER, **{Parameter(name): value for name, value in values.items()}}
    return {p: Present(value, 0.1, reading(p, value), 0) for p, value in known.items()}


def kept(**methods: object) -> System:
    return replace(BEACON, methods=replace(BEACON.methods, **methods))


def start(purpose: Purpose, system: System = BEACON, water: dict[Parameter, Present] | None = None) -> PurposeDefaults:
    return defaults_of(system, present() if water is None else water, purpose, FRIDAY, TODAY)


class Held(unittest.TestCase):
    def test_where_a_level_is_held_instead_of_led_to_its_aim_it_says_so(self) -> None:
        # Beacon's band is 34 to 35.5 ppt, its aim 35; alkalinity out of its band goes to its aim, so nothing is said.
        (words,) = held_words(BEACON, present(salinity=34.6, alkalinity=2.4), {})
        self.assertIn("Salinity is held at 34.6 ppt", words)
        self.assertIn("the aim of 35.0 ppt", words)
        self.assertEqual(held_words(BEACON, present(salinity=35.0, alkalinity=2.4), {}), [])


class Purposes(unittest.TestCase):
    def test_the_near_total_change_is_offered_only_above_one_half(self) -> None:
        for largest, offered in ((0.25, False), (0.5, False), (0.51, True)):
            with self.subTest(largest=largest):
                self.assertEqual(Purpose.NEAR_TOTAL in purposes_of(kept(largest_fraction=largest)), offered)

    def test_the_first_change_is_offered_while_cycling_and_before_anything_is_set_up(self) -> None:
        bare = replace(kept(answers={}), animals=())
        for system, offered in (
            (BEACON, False),
            (replace(BEACON, stage=Stage.BREAKING_IN), True),
            (bare, True),
            (replace(bare, animals=(FISH,)), False),
            (replace(bare, methods=replace(bare.methods, answers={"new_water": "mixed"})), False),
        ):
            with self.subTest(stage=system.stage, animals=len(system.animals), answers=system.methods.answers):
                self.assertEqual(Purpose.FIRST in purposes_of(system), offered)

    def test_only_dissolved_things_that_new_water_can_change_are_aimed_at(self) -> None:
        self.assertEqual(
            set(aimable(present())), {NITRATE, Parameter.PHOSPHATE, CALCIUM, Parameter.MAGNESIUM, ALKALINITY}
        )


class Defaults(unittest.TestCase):
    def test_the_routine_is_the_usual_change_on_its_own_day(self) -> None:
        self.assertEqual(start(Purpose.ROUTINE), PurposeDefaults(Purpose.ROUTINE, 0.12, FRIDAY))

    def test_a_purpose_starts_from_a_quarter_within_the_method_and_no_less_than_usual(self) -> None:
        for usual, largest, fraction in ((0.12, 0.25, 0.25), (0.12, 0.15, 0.15), (0.3, 0.4, 0.3), (0.12, 0.4, 0.25)):
            with self.subTest(usual=usual, largest=largest):
                system = kept(change_fraction=usual, largest_fraction=largest)
                self.assertEqual(start(Purpose.SALINITY, system), PurposeDefaults(Purpose.SALINITY, fraction, TODAY))

    def test_nearly_all_of_it_and_the_first_change_have_sizes_of_their_own(self) -> None:
        self.assertEqual(start(Purpose.NEAR_TOTAL).fraction, 0.9)
        first = start(Purpose.FIRST, water={})
        self.assertEqual((first.fraction, first.parameter, first.target), (0.8, NITRATE, 10.0))

    def test_what_is_brought_down_goes_to_its_aim(self) -> None:
        system = replace(BEACON, bands={**BEACON.bands, NITRATE: Span(2, 18), CALCIUM: Span(400, 450)})
        bring, restore = start(Purpose.BRING, system), start(Purpose.RESTORE, system)
        self.assertEqual((bring.parameter, bring.target, bring.left), (NITRATE, 6.0, None))
        self.assertEqual((restore.parameter, restore.target), (CALCIUM, 425.0))
        without = {p: one for p, one in present().items() if p != NITRATE}
        self.assertEqual(start(Purpose.BRING, system, without).parameter, aimable(without)[0])
        self.assertEqual(start(Purpose.BRING, system, {}).parameter, None)

    def test_a_contamination_is_diluted_to_a_quarter(self) -> None:
        self.assertEqual(start(Purpose.DILUTE).left, 0.25)

    def test_without_a_band_a_level_is_held(self) -> None:
        self.assertEqual(level_to_aim_at(replace(BEACON, bands={}), present(nitrate=17.0), NITRATE), 17.0)


class First(unittest.TestCase):
    def request(self, system: System = BEACON, due: date | None = FRIDAY, *out: Parameter) -> FirstRequest:
        verdicts = tuple(Verdict(p, Position.BELOW, Movement.FIRST, "", ()) for p in out)
        return first_request(system, present(), verdicts, due, TODAY, None)

    def test_nothing_out_of_band_waits_for_its_day(self) -> None:
        found = self.request()
        start = found.defaults.start
        self.assertEqual((found.defaults.purpose, start, found.usual_start), (Purpose.ROUTINE, FRIDAY, FRIDAY))
        self.assertEqual(self.request(due=None).defaults.start, TODAY)

    def test_salinity_or_alkalinity_that_is_out_is_for_today(self) -> None:
        for out, day in ((ALKALINITY, TODAY), (SALINITY, TODAY), (NITRATE, FRIDAY)):
            with self.subTest(out=out):
                self.assertEqual(self.request(BEACON, FRIDAY, out).defaults.start, day)

    def test_natural_seawater_is_asked_for_with_the_salinity_aimed_at(self) -> None:
        sea = kept(answers={**BEACON.methods.answers, "new_water": "natural_filtered"})
        found = self.request(sea)
        self.assertEqual((found.water, found.water_salinity), (Water.NATURAL, found.salinity))
        mixed = self.request(kept(answers={"new_water": "mixed"}))
        self.assertEqual((mixed.water, mixed.water_salinity), (Water.MIX, None))

    def test_sand_is_siphoned_where_the_method_does(self) -> None:
        for sand, siphoned in ((SandMethod.BARE, True), (SandMethod.SIPHONED, True), (SandMethod.STIRRED, False),
                               (SandMethod.DEEP, False)):  # fmt: skip
            with self.subTest(sand=sand):
                self.assertEqual(self.request(kept(sand=sand)).siphon, siphoned)


class Missing(unittest.TestCase):
    def test_what_has_to_be_known_first(self) -> None:
        sea = kept(answers={"new_water": "natural"})
        only = {SALINITY: present()[SALINITY]}
        for system, water, salt, missing in (
            (BEACON, present(), True, []),
            (BEACON, only, True, ["Alkalinity"]),
            (BEACON, {}, False, ["Salinity", "Alkalinity", "a salt on the Shelf"]),
            (sea, present(), False, []),
        ):
            with self.subTest(missing=missing):
                self.assertEqual(missing_for_a_change(system, water, salt), missing)

    def test_the_first_change_waits_for_proof_and_an_empty_tank(self) -> None:
        bare = replace(BEACON, animals=())
        check_first_change(bare, ledger(), None)
        with self.assertRaisesRegex(RuleError, "Animals live in"):
            check_first_change(replace(BEACON, animals=(FISH,)), ledger(), None)
        with self.assertRaisesRegex(RuleError, "had its first change already"):
            check_first_change(bare, ledger(change(3, 20.0)), None)
        cycle = breaking_in(situation_described([("ammonia", 2.0, 1), ("nitrite", 0.0, 1)], stage="breaking_in"))
        with self.assertRaisesRegex(RuleError, "Not yet: ") as caught:
            check_first_change(bare, ledger(), cycle)
        self.assertEqual(caught.exception.field, "purpose")


if __name__ == "__main__":
    unittest.main()
